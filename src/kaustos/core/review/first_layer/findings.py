"""What can be found against the first layer."""

from collections.abc import Callable, Iterator

from kaustos.core.estimates import BOND
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Advice, Context, Finding, Remedy, Set
from kaustos.core.review.first_layer.bead import FLAT, PLOUGHS, ROUND, first_minutes, offs_of
from kaustos.core.review.first_layer.codes import BY_CODE
from kaustos.core.review.first_layer.remedies import back_to_middle, if_it_holds
from kaustos.core.review.making import make_finding
from kaustos.core.review.plate.case import Case, case_of
from kaustos.core.review.plate.findings import WATCH

FAST = BOND["first_fast"].value
WIDEST, USUAL = BOND["bead_widest"].value, BOND["bead_usual"].value  # bores


def findings_of(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """Everything that can be found."""
    case = case_of(recipe, context)
    return tuple(found for look in _LOOKS for found in look(case, recipe, context))


def _conditions(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    offs, making, middle = offs_of(case), case.making, case.middle
    for way, side in ((1, "harm"), (-1, "letting go")):
        mine = [each.name for each in offs if each.way == way]
        if len(mine) < 2 or making is None or middle is None:
            continue
        bond = case.bond
        risk = None if bond is None else bond.harms if way > 0 else bond.lifts
        severity = "watch" if risk is not None and risk < WATCH else "stop"
        values: dict[str, float | str | None] = {
            "which": " and ".join(mine).capitalize(),
            "side": side,
            "nozzle": making.melt_c,
            "plate": making.first_plate_c,
            "aspect": making.aspect if making.aspect is not None else 2.0,
        }
        remedy = back_to_middle(mine, recipe, context, middle, making.melt_c, making.first_plate_c)
        yield make_finding(
            BY_CODE["first_layer.conditions.two_off"],
            recipe,
            context,
            "first_layer.gap_mm",
            remedy,
            values,
            severity=severity,
        )


def _gap(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    first = recipe.first_layer
    if first.width_mm and first.height_mm and first.width_mm < first.height_mm:
        values: dict[str, float | str | None] = {"width": first.width_mm, "height": first.height_mm}
        wider = if_it_holds(
            Set("Twice as wide as high", {"first_layer.width_mm": round(2.0 * first.height_mm, 3)}), recipe, context
        )
        yield _found(recipe, context, "first_layer.bead.thinner_than_high", "first_layer.width_mm", (wider,), values)
        return
    aspect = case.making.aspect if case.making is not None else None
    if aspect is None or first.height_mm is None or first.width_mm is None:
        return
    values = {"aspect": aspect, "gap_mm": first.gap_mm or first.height_mm}
    code = "ploughs" if aspect > PLOUGHS else "close" if aspect > FLAT else "wide" if aspect < ROUND else ""
    if code:
        changes: dict[str, float | str | None] = {"first_layer.gap_mm": first.height_mm}
        if not ROUND <= first.width_mm / first.height_mm <= FLAT:
            changes["first_layer.width_mm"] = round(2.0 * first.height_mm, 3)
        level = if_it_holds(Set("Gap as high as the layer", changes), recipe, context)
        step = Advice("Move it by 0.02 to 0.05 mm at a time", "And note it on the machine's page of the plate.")
        yield _found(recipe, context, f"first_layer.gap.{code}", "first_layer.gap_mm", (level, step), values)


def _bead(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    width, nozzle = recipe.first_layer.width_mm, context.nozzle
    if width is None or nozzle is None or not nozzle.bore_mm:
        return
    bore = nozzle.bore_mm
    values: dict[str, float | str | None] = {
        "width": width,
        "bore": bore,
        "times": width / bore,
        "nozzle_name": nozzle.name,
    }
    usual = Set(
        "Width of {wide:length}", {"first_layer.width_mm": round(USUAL * bore, 3)}, {"wide": round(USUAL * bore, 3)}
    )
    height = recipe.first_layer.height_mm
    sound = height is None or USUAL * bore >= ROUND * height
    remedies: tuple[Remedy, ...] = (
        (if_it_holds(usual, recipe, context),)
        if sound
        else (Advice("Lay a lower first layer", "Then the bead may be narrower."),)
    )
    if width > WIDEST * bore:
        yield _found(recipe, context, "first_layer.bead.wide", "first_layer.width_mm", remedies, values)
    elif width < bore:
        yield _found(recipe, context, "first_layer.bead.narrow", "first_layer.width_mm", remedies, values)


def _speed(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    speed = recipe.first_layer.speed_mm_s
    if speed is None or speed <= FAST:
        return
    minutes, slower = first_minutes(recipe, context), BOND["first_slow"].value
    costs = 0.0 if minutes is None else minutes * (speed / slower - 1.0)
    values: dict[str, float | str | None] = {"speed": speed, "usual": FAST, "minutes": costs}
    slow = Set("Lay it at {slower:speed}", {"first_layer.speed_mm_s": slower}, {"slower": slower})
    yield _found(recipe, context, "first_layer.speed.fast", "first_layer.speed_mm_s", (slow,), values)


def _look(case: Case, recipe: Recipe, context: Context) -> Iterator[Finding]:
    minutes = first_minutes(recipe, context)
    if minutes is None or recipe.first_layer.look_by.strip():
        return
    words = "At the machine: even beads, no gaps, corners down. Then go on, or stop for grams."
    name = Advice("Name who looks", words, field="first_layer.look_by")
    yield _found(recipe, context, "first_layer.look.nobody", "first_layer.look_by", (name,), {"minutes": minutes})


def _found(
    recipe: Recipe,
    context: Context,
    code: str,
    field: str,
    remedies: tuple[Remedy, ...],
    values: dict[str, float | str | None],
) -> Finding:
    return make_finding(BY_CODE[code], recipe, context, field, remedies, values)


Look = Callable[[Case, Recipe, Context], Iterator[Finding]]
_LOOKS: tuple[Look, ...] = (_conditions, _gap, _bead, _speed, _look)
