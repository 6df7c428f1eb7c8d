"""Whether the chamber gets warm, for what power and how soon; whether the top of the plate is what the sensor shows."""

import math
from collections.abc import Iterator

import attrs

from kaustos.core.estimates import CHAMBERS
from kaustos.core.planning.configuration import offset_of
from kaustos.core.planning.reach import is_chamber_heated, reach_of
from kaustos.core.planning.warmth import (
    Times,
    Top,
    chamber_of,
    expected_air,
    power_wanted,
    top_of,
    warm_times,
)
from kaustos.core.records import Calibration, Estimate, Machine, Recipe
from kaustos.core.review.contract import Advice, Context, Finding, Remedy
from kaustos.core.review.machine.finder import finder
from kaustos.core.review.machine.remedies import set_to, severity_of_gap
from kaustos.core.review.machine.warmth_codes import WARMTH_CODES
from kaustos.core.review.zones import CHAMBER, Zone, window_of

_found = finder(WARMTH_CODES)
SHOWS_K = CHAMBERS["surface_shows"].value
Values = dict[str, float | str | None]


@attrs.frozen
class Warmth:
    """What the models say of one run, as far as they can."""

    air: Estimate | None  # that the plate alone makes
    power: Estimate | None  # wanted at the setpoint
    times: Times | None
    top: Top | None


def fitted(context: Context, kind: str) -> Calibration | None:
    """The calibration of a kind, None where it was never done."""
    return next((each for each in context.calibrations if each.kind == kind), None)


def warmth_of(recipe: Recipe, context: Context) -> Warmth:
    """What the models say of the machine under this recipe."""
    machine, room = context.machine, context.rules.room_c
    if machine is None:
        return Warmth(None, None, None, None)
    plate = _plate_c(recipe, context, machine)
    chamber = chamber_of(machine, fitted(context, "chamber_fit"))
    heated, wanted = is_chamber_heated(machine), recipe.heat.chamber_c
    air = expected_air(chamber, plate, room) if chamber is not None and plate is not None else None
    power = times = None
    if chamber is not None and heated and wanted is not None and wanted > room:
        power = power_wanted(chamber, wanted, plate if plate is not None else room, room)
        watts = machine.chamber.heater.power_w
        if watts is not None:
            times = warm_times(chamber, wanted, watts, plate if plate is not None else room, room)
    elif chamber is not None and not heated and air is not None and plate is not None:
        times = warm_times(chamber, None, 0.0, plate, room)
    return Warmth(air, power, times, _top(recipe, context, machine, air))


def _plate_c(recipe: Recipe, context: Context, machine: Machine) -> float | None:
    """The plate as it can be: no hotter than the machine reaches, nor than the polymer stands [°C]."""
    _, high = window_of(context.polymer, "plate")
    reach = reach_of(machine, "plate", context.rules).max_c
    if recipe.plate.bed_c is None:
        return None
    return min([recipe.plate.bed_c, *(each for each in (high.value if high else None, reach) if each is not None)])


def _top(recipe: Recipe, context: Context, machine: Machine, air: Estimate | None) -> Top | None:
    plate, room = recipe.plate.bed_c, context.rules.room_c
    if plate is None:
        return None
    offset = offset_of(context.calibrations, "plate")
    true = plate + (offset.values["offset_k"] if offset is not None and offset.is_valid else 0.0)
    over = recipe.heat.chamber_c if is_chamber_heated(machine) else (air.value if air else None)
    return top_of(machine.stack, true, max(room, over if over is not None else room), fitted(context, "plate_drop"))


def warmth_findings(recipe: Recipe, context: Context, zones: tuple[Zone, ...], warmth: Warmth) -> Iterator[Finding]:
    """What stands against the warm space and the top of the plate."""
    machine = context.machine
    if machine is None:
        return
    for zone in zones:
        if zone.name == "chamber":
            yield from _power(recipe, context, machine, warmth)
            yield from _expected(recipe, context, machine, zone, warmth)
            yield from _measured(recipe, context, machine)
        if zone.name == "plate":
            yield from _surface(recipe, context, zone, warmth)
    plate = recipe.plate.bed_c
    if machine.enclosure.kind == "cover" or machine.enclosure.wall == "card":
        away = Advice(
            "Take it off, or build a box that does not burn", "Until then: a smoke alarm, and never unattended."
        )
        if plate is not None:
            yield _found(recipe, context, "machine.chamber.cover", "machine.enclosure.kind", (away,), {"plate": plate})


def _power(recipe: Recipe, context: Context, machine: Machine, warmth: Warmth) -> Iterator[Finding]:
    watts, needed, wanted = machine.chamber.heater.power_w, warmth.power, recipe.heat.chamber_c
    if watts is None or needed is None or wanted is None or watts >= needed.high:
        return
    more = Advice(
        "Insulate it, close its gaps, or have a stronger heater fitted",
        "A chamber heater needs its own thermal cut-off and a fuse; supply and mains are for a licensed trade.",
    )
    values: Values = {
        "setting": "Chamber", "setpoint": wanted, "needed": needed.value, "least": needed.low, "most": needed.high,
        "power": watts,
    }  # fmt: skip
    severity = "stop" if watts < needed.value else "watch"
    yield _found(recipe, context, "machine.chamber.heater_weak", CHAMBER, (more,), values, severity)


def _expected(recipe: Recipe, context: Context, machine: Machine, zone: Zone, warmth: Warmth) -> Iterator[Finding]:
    if is_chamber_heated(machine) or machine.chamber.heater.max_c is not None or not zone.low or not warmth.air:
        return  # heated, or it was measured what the plate alone makes
    gap = zone.low.value - warmth.air.value
    severity = severity_of_gap(zone, gap)
    if not severity:
        return
    close = Advice(
        "Close it, insulate it, warm it up first, and measure what it comes to",
        "Record what a thermometer beside the part shows as the limit of the absent chamber heater: that counts from "
        "then on.",
    )
    values: Values = {
        "plate": recipe.plate.bed_c, "air": warmth.air.value, "least": warmth.air.low, "most": warmth.air.high,
        "low": zone.low.value, "gap": gap,
    }  # fmt: skip
    yield _found(recipe, context, "machine.chamber.expected_short", CHAMBER, (close,), values, severity)


def _measured(recipe: Recipe, context: Context, machine: Machine) -> Iterator[Finding]:
    wanted = recipe.heat.chamber_c
    if wanted is None or not is_chamber_heated(machine) or offset_of(context.calibrations, "chamber") is not None:
        return
    if wanted <= context.rules.room_c + SHOWS_K:
        return
    compare = Advice(
        "Compare display and air beside the part",
        "Log both under Changes in the room of machines; any thermocouple will do.",
    )
    values: Values = {"setting": "Chamber", "setpoint": wanted}
    yield _found(recipe, context, "machine.chamber.never_measured", CHAMBER, (compare,), values)


def _surface(recipe: Recipe, context: Context, zone: Zone, warmth: Warmth) -> Iterator[Finding]:
    top, setpoint = warmth.top, recipe.plate.bed_c
    if top is None or setpoint is None or zone.low is None or setpoint < zone.low.value:
        return
    short = zone.low.value - top.surface.value
    if short < SHOWS_K:
        return
    target = float(math.ceil(setpoint + short))
    high, reach = zone.high.value if zone.high else target, zone.reach.max_c
    can = target <= high and (reach is None or target <= reach)
    thinner = Advice(
        "Measure the top, or take away what lies on the plate", "A thermocouple under a strip of tape tells."
    )
    remedies: tuple[Remedy, ...] = (set_to(zone, "plate.bed_c", "Plate", target), thinner) if can else (thinner,)
    values: Values = {
        "setting": "Plate", "setpoint": setpoint, "top": top.surface.value, "least": top.surface.low,
        "most": top.surface.high, "low": zone.low.value,
    }  # fmt: skip
    yield _found(recipe, context, "machine.plate.surface_below", "plate.bed_c", remedies, values)
