"""What can be found against a lot: its polymer, how much of it is left, where it is, what is known of it."""

from datetime import datetime, timedelta

from kaustos.core.estimates import MACHINE, NOZZLES
from kaustos.core.planning.ledger import MARGIN
from kaustos.core.planning.loading import loading
from kaustos.core.planning.nozzle_life import is_hard
from kaustos.core.planning.supply import Supply, order_changes
from kaustos.core.records import FILLER_WEARS, FILLERS, INGREDIENTS, Lot, Recipe
from kaustos.core.review.contract import Advice, Choose, Context, Finding, Remedy, Set
from kaustos.core.review.stock.conditions import spool_finding
from kaustos.core.review.stock.lot import free_g, lot_in_use, most_g, supply, wanted_g


def lot_findings(recipe: Recipe, context: Context) -> tuple[Finding | None, ...]:
    """The wrong one, too little of it, or one that is not known well enough."""
    return (
        _other_polymer(recipe, context),
        _mass_short(recipe, context),
        _low(recipe, context),
        _planned(recipe, context),
        _elsewhere(recipe, context),
        _unqualified(recipe, context),
        _dates(recipe, context),
        _undisclosed(recipe, context),
        _wears(recipe, context),
        _recycled(recipe, context),
    )


def _dates(recipe: Recipe, context: Context) -> Finding | None:
    """Moments of a spool's life in an order in which they cannot have been, or still to come."""
    lot = context.lot
    if lot is None:
        return None
    moments = {
        "received": lot.received_utc, "opened": lot.opened_utc,
        "first stay outside its seal": min((each.from_utc for each in lot.stays if each.place != "sealed"), default=""),
        "last weighed": max((each.at_utc for each in lot.weighings), default=""),
        "desiccant put in": lot.desiccant_utc,
    }  # fmt: skip
    known = {name: datetime.fromisoformat(at) for name, at in moments.items() if at}
    wrong = [
        f"{later} {known[later]:%Y-%m-%d}, before it was {first} {known[first]:%Y-%m-%d}"
        for first, later in (("received", "opened"), ("opened", "first stay outside its seal"))
        if first in known and later in known and known[later] < known[first]
    ]
    now = context.now
    wrong += [f"{name} {at:%Y-%m-%d}, which is still to come" for name, at in known.items()
              if now is not None and at > now + timedelta(minutes=1)]  # fmt: skip
    if not wrong:
        return None
    again = Advice("Say which date is right", "Stock, that lot: its stays and dates stand on the page Water.",
                   field="lot.stays")  # fmt: skip
    values: dict[str, float | str] = {"lot": lot.name, "what": "; ".join(wrong)}
    return spool_finding(recipe, context, "stock.lot.dates", "lot.stays", (again,), values)


def _other_polymer(recipe: Recipe, context: Context) -> Finding | None:
    lot = context.lot
    if lot is None or recipe.polymer is None or context.polymer is None or lot.polymer == recipe.polymer:
        return None
    other = context.shop.polymers.get(lot.polymer or "")
    check = Advice("Read the label", "Take the spool off and compare its label with the lot before anything is heated.")
    values = {"lot": lot.name, "other": other.name if other else "of an unknown polymer"}
    return spool_finding(recipe, context, "stock.lot.other_polymer", "context.lot", (check,), values)


def _mass_short(recipe: Recipe, context: Context) -> Finding | None:
    lot, mass = lot_in_use(recipe, context), recipe.brief.mass_g
    left = most_g(lot, context)
    if lot is None or mass is None or left is None or left >= mass * (1.0 + MARGIN):
        return None
    needed = mass * (1.0 + MARGIN)
    join = Advice("Have a second spool ready", "Same grade, colour and dryness; note the height at which it changes.")
    at_most = "" if free_g(lot, context) is not None else "Less than "  # whatever its body weighs
    values: dict[str, float | str] = {
        "left": left, "needed": needed, "margin": 100.0 * MARGIN, "done": 100.0 * left / needed, "at_most": at_most,
    }  # fmt: skip
    return spool_finding(recipe, context, "stock.mass.short", "context.lot", (join,), values)


def _low(recipe: Recipe, context: Context) -> Finding | None:
    lot = lot_in_use(recipe, context)
    if lot is None or free_g(lot, context) is None:
        return None
    found = supply(lot, recipe, context)
    if found.free_g + found.coming_g >= found.reorder_g:
        return None
    values: dict[str, float | str] = {"left": found.free_g, "reorder": found.reorder_g, "lead": found.lead_words}
    return spool_finding(recipe, context, "stock.lot.low", "context.lot", _order(lot, found, context), values)


def _planned(recipe: Recipe, context: Context) -> Finding | None:
    """Whether the runs that are wanted of this recipe can all be printed, other recipes served as well."""
    lot, mine = lot_in_use(recipe, context), wanted_g(recipe, context)
    if lot is None or not mine or free_g(lot, context) is None:
        return None
    found = supply(lot, recipe, context)
    if not found.short_g:
        return None
    values: dict[str, float | str] = {
        "wanted": found.wanted_g, "left": found.free_g, "coming": found.coming_g, "lead": found.lead_words,
    }  # fmt: skip
    return spool_finding(recipe, context, "stock.lot.planned", "brief.runs", _order(lot, found, context), values)


def _order(lot: Lot, found: Supply, context: Context) -> tuple[Remedy, ...]:
    """More of the same: what to order, and the note that it is ordered."""
    grams = found.order_g
    what = f"{lot.grade or lot.name}, {lot.colour or 'colour not recorded'}"
    advice = Advice("Order {grams:mass}", f"{what}: {found.spools} × {found.spool_g:g} g.", {"grams": grams})
    if context.now is None:
        return (advice,)
    changes = order_changes(found, lot.id, grams, context.now.isoformat())
    return (advice, Set("Say that {grams:mass} are ordered", changes, {"grams": grams}))


def _elsewhere(recipe: Recipe, context: Context) -> Finding | None:
    lot, machine = lot_in_use(recipe, context), context.machine
    if lot is None or machine is None or lot.loaded_on in (None, machine.id):
        return None
    other = next((each.name for each in context.shop.machines if each.id == lot.loaded_on), str(lot.loaded_on))
    changes = loading(context.shop.lots, lot.id, machine.id)
    moved = Set("Say that it is loaded on {machine:text}", changes, {"machine": machine.name})
    values = {"lot": lot.name, "other": other, "machine": machine.name}
    return spool_finding(recipe, context, "stock.lot.elsewhere", "context.lot", (moved,), values)


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
    return spool_finding(recipe, context, "stock.lot.undisclosed", "lot.ingredients", (ask, trial), values)


def qualified_colours(lot: Lot, context: Context) -> frozenset[str]:
    """Colours of a lot's grade that have passed a trial here."""
    return frozenset(colour for grade, colour in context.shop.qualified if grade == lot.grade)


def _unqualified(recipe: Recipe, context: Context) -> Finding | None:
    lot = lot_in_use(recipe, context)
    if lot is None or not lot.grade or not lot.colour:
        return None
    colours = qualified_colours(lot, context)
    if not colours or lot.colour in colours:
        return None
    trial = Advice("Print a corner test first", "A good trial run from this lot qualifies its colour.")
    return spool_finding(recipe, context, "stock.lot.unqualified", "context.lot", (trial,), {"colour": lot.colour})


def _wears(recipe: Recipe, context: Context) -> Finding | None:
    """A filler of the lot that the polymer alone would not carry."""
    lot = lot_in_use(recipe, context)
    if is_hard(context.nozzle):
        return None  # the machine says how long it lasts
    if lot is None or context.polymer is None or FILLER_WEARS[lot.filler or "none"].value < WEARS:
        return None
    generic = context.shop.polymers.get(lot.polymer or "")
    plain, wear = generic.value("abrasion") if generic else None, context.polymer.value("abrasion")
    if wear is None or (plain is not None and wear.value <= WEARS * plain.value):
        return None
    factor = wear.value / (plain.value if plain else 1.0)
    text = "Hardened steel or harder, orifice 0.4 mm or wider, better 0.6; look at the bore after each spool."
    hard = Advice("Print it through a hardened nozzle", text)
    filler = FILLERS[lot.filler or "none"].title.lower()
    values: dict[str, float | str] = {"lot": lot.name, "filler": filler, "factor": factor}
    return spool_finding(recipe, context, "stock.lot.wears", "lot.filler", (*_hard_ones(context), hard), values)


def _hard_ones(context: Context) -> tuple[Choose, ...]:
    """Hard nozzles of the shop that are wide enough for a fibre."""
    found = (each for each in context.shop.nozzles if is_hard(each) and (each.bore_mm or 0.0) >= WIDE_MM)
    return tuple(
        Choose("Take the nozzle {nozzle:text}", "nozzle", each.id, {"nozzle": each.name})
        for each in sorted(found, key=lambda each: (each.bore_mm or 0.0, each.id))
    )[:MOST_NOZZLES]


def _recycled(recipe: Recipe, context: Context) -> Finding | None:
    lot = lot_in_use(recipe, context)
    if lot is None or not lot.recycled or (lot.grade, lot.colour) in context.shop.qualified:
        return None
    trial = Advice(
        "Print a corner test and bars first", "A good trial run from this lot qualifies its grade and colour."
    )
    return spool_finding(recipe, context, "stock.lot.recycled", "lot.recycled", (trial,), {"lot": lot.name})


WEARS = MACHINE["wears_much"].value
WIDE_MM, MOST_NOZZLES = NOZZLES["bore_good.carbon"].value, 2
