"""What can be found against a lot: its polymer, how much of it is left, where it is, what is known of it."""

from kaustos.core.planning.ledger import MARGIN
from kaustos.core.records import INGREDIENTS, Recipe
from kaustos.core.review.contract import Advice, Context, Finding, Set
from kaustos.core.review.stock.lot import free_g, lot_in_use
from kaustos.core.review.stock.raised import raised
from kaustos.core.review.stock.remedies import other_lots


def lot_findings(recipe: Recipe, context: Context) -> tuple[Finding | None, ...]:
    """The wrong one, too little of it, or one that is not known well enough."""
    return (
        _other_polymer(recipe, context),
        _mass_short(recipe, context),
        _low(recipe, context),
        _elsewhere(recipe, context),
        _unqualified(recipe, context),
        _undisclosed(recipe, context),
    )


def _other_polymer(recipe: Recipe, context: Context) -> Finding | None:
    lot = context.lot
    if lot is None or recipe.polymer is None or context.polymer is None or lot.polymer == recipe.polymer:
        return None
    other = context.shop.polymers.get(lot.polymer or "")
    remedies = other_lots(recipe, context, lambda lot: not lot.retired)
    check = Advice("Read the label", "Take the spool off and compare its label with the lot before anything is heated.")
    values = {"lot": lot.name, "other": other.name if other else "of an unknown polymer"}
    return raised(recipe, context, "stock.lot.other_polymer", "context.lot", (*remedies, check), values)


def _mass_short(recipe: Recipe, context: Context) -> Finding | None:
    lot, mass = lot_in_use(recipe, context), recipe.brief.mass_g
    left = free_g(lot, context)
    if lot is None or mass is None or left is None or left >= mass * (1.0 + MARGIN):
        return None
    needed = mass * (1.0 + MARGIN)
    mine = lot.id
    others = other_lots(recipe, context, lambda each: each.id != mine and (free_g(each, context) or 0.0) >= needed)
    join = Advice("Have a second spool ready", "Same grade, colour and dryness; note the height at which it changes.")
    values = {"left": left, "needed": needed, "margin": 100.0 * MARGIN, "done": 100.0 * left / needed}
    return raised(recipe, context, "stock.mass.short", "context.lot", (*others, join), values)


def _low(recipe: Recipe, context: Context) -> Finding | None:
    lot = lot_in_use(recipe, context)
    left = free_g(lot, context)
    if lot is None or left is None or lot.reorder_g is None or left >= lot.reorder_g:
        return None
    order = Advice("Order the next spool", f"{lot.grade or lot.name}, {lot.colour or 'colour not recorded'}.")
    values = {"left": left, "reorder": lot.reorder_g, "lead": lot.lead_h or 0.0}
    return raised(recipe, context, "stock.lot.low", "context.lot", (order,), values)


def _elsewhere(recipe: Recipe, context: Context) -> Finding | None:
    lot, machine = lot_in_use(recipe, context), context.machine
    if lot is None or machine is None or lot.loaded_on in (None, machine.id):
        return None
    other = next((each.name for each in context.shop.machines if each.id == lot.loaded_on), str(lot.loaded_on))
    moved = Set("Say that it is loaded on {machine:text}", {"lot.loaded_on": machine.id}, {"machine": machine.name})
    values = {"lot": lot.name, "other": other, "machine": machine.name}
    return raised(recipe, context, "stock.lot.elsewhere", "context.lot", (moved,), values)


def _undisclosed(recipe: Recipe, context: Context) -> Finding | None:
    lot = lot_in_use(recipe, context)
    if lot is None or lot.ingredients in (None, "declared") or (lot.grade, lot.colour) in context.shop.qualified:
        return None
    trial = Advice("Print a corner test first", "A good trial run from this lot qualifies its grade and colour.")
    text = (
        "Fillers and their share, pigments, flame retardants, and what it gives off when hot: keep the answer with the "
        "lot. Until then take it for abrasive, and let its fumes out."
    )
    ask = Advice("Ask the maker", text)
    values = {"lot": lot.name, "answer": INGREDIENTS[lot.ingredients].lower()}
    return raised(recipe, context, "stock.lot.undisclosed", "lot.ingredients", (ask, trial), values)


def _unqualified(recipe: Recipe, context: Context) -> Finding | None:
    lot = lot_in_use(recipe, context)
    if lot is None or not lot.grade or not lot.colour:
        return None
    colours = {colour for grade, colour in context.shop.qualified if grade == lot.grade}
    if not colours or lot.colour in colours:
        return None
    trial = Advice("Print a corner test first", "A good trial run from this lot qualifies its colour.")
    grade = lot.grade
    others = other_lots(recipe, context, lambda each: each.grade == grade and each.colour in colours)
    return raised(recipe, context, "stock.lot.unqualified", "context.lot", (trial, *others), {"colour": lot.colour})
