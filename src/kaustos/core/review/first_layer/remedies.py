"""What helps against a finding of the first layer: what is off put back to the middle of the book."""

from kaustos.core.planning.reach import reach_through
from kaustos.core.records import Recipe
from kaustos.core.records.fields import with_value
from kaustos.core.review.contract import Advice, Context, Remedy, Set
from kaustos.core.review.first_layer.bead import FLAT, ROUND, offs_of
from kaustos.core.review.plate.case import case_of
from kaustos.core.review.plate.findings import severity_of


def back_to_middle(
    names: list[str], recipe: Recipe, context: Context, middle: tuple[float, float], melt_c: float, plate_c: float
) -> tuple[Remedy, ...]:
    """All that is off put back to the middle of the book, as far as the machine reaches [°C]."""
    changes: dict[str, float | str | None] = {}
    first = recipe.first_layer
    if "gap" in names:
        if first.height_mm is None or first.width_mm is None:
            return (Advice("Bring gap and width into band", "Twice as wide as high is the middle."),)
        changes["first_layer.gap_mm"] = first.height_mm
        if not ROUND <= first.width_mm / first.height_mm <= FLAT:
            changes["first_layer.width_mm"] = round(2.0 * first.height_mm, 3)
    for name, field, at, usual in (
        ("nozzle", "first_layer.nozzle_c", melt_c, middle[0]),
        ("plate", "first_layer.bed_c", plate_c, middle[1]),
    ):
        if name in names:
            shown = first.nozzle_c if name == "nozzle" else first.bed_c
            running = recipe.melt.nozzle_c if name == "nozzle" else recipe.plate.bed_c
            display = shown if shown is not None else running
            if display is None:
                continue
            target = float(round(display + usual - at))
            reach = (
                reach_through(context.machine, name, context.rules, context.nozzle).max_c if context.machine else None
            )
            changes[field] = target if reach is None else min(target, float(int(reach)))
    remedy = Set("Put {what:text} back to the middle of the book", changes, {"what": " and ".join(names)})
    still = [each.way for each in offs_of(case_of(_carried_out(remedy, recipe), context))]
    if max(still.count(1), still.count(-1)) > 1:
        return (Advice("This machine does not reach the middle of the book", "Operation 30 says what would."),)
    return (if_it_holds(remedy, recipe, context),)


def if_it_holds(remedy: Set, recipe: Recipe, context: Context) -> Remedy:
    """A change of the first layer, unless the bond would stop for it: then what stands in its way."""
    if _stops(_carried_out(remedy, recipe), context) <= _stops(recipe, context):
        return remedy
    other = "As usual for the bead, the pair itself would give way or weld: a film between, or another plate, first."
    return Advice("Cure the bond first, operation 40", other)


def _carried_out(remedy: Set, recipe: Recipe) -> Recipe:
    for path, value in remedy.changes.items():
        recipe = with_value(recipe, path, value)
    return recipe


def _stops(recipe: Recipe, context: Context) -> set[str]:
    """What the bond would stop for."""
    bond = case_of(recipe, context).bond
    chances = {} if bond is None else {"lifts": bond.lifts, "harms": bond.harms}
    return {key for key, chance in chances.items() if severity_of(chance) == "stop"}
