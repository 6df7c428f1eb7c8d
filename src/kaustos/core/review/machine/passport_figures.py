"""Figures of the machine as it stands: true heat, heat its heaters give, the least margin near heat, what is proven."""

from kaustos.core.planning.configuration import proven_of
from kaustos.core.planning.flatness import flatness_of, jump_of
from kaustos.core.records import ZONES, Estimate, Recipe
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure
from kaustos.core.review.machine.passport_findings import (
    AGED_H,
    SOURCE,
    heat_needed,
    hours_near,
    local_heat,
    plate_loss,
    true_heat,
)
from kaustos.core.review.machine.warmth_findings import warmth_of
from kaustos.core.review.zones import hottest_of


def passport_figures(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """What the passport says of this run."""
    hottest = hottest_of(recipe)
    return (
        *(
            Figure(f"machine.{zone}.true", f"{zone.capitalize()}: true heat at its setpoint",
                   true_heat(context, zone, hottest.get(zone)) or UNKNOWN)
            for zone in ZONES
        ),
        *(
            Figure(f"machine.{zone}.proven", f"{zone.capitalize()}: proven step by step", _proven(context, zone))
            for zone in ZONES
        ),
        *(
            Figure(f"machine.{zone}.{key}", f"{zone.capitalize()}: {title}", make(context, zone))
            for zone in ZONES
            for key, title, make in (
                ("current", "current of its heater", _current), ("claim", "claimed over its nameplate", _claim),
            )
        ),
        Figure("machine.nozzle.heat", "Nozzle: heat it takes at peak flow", heat_needed(recipe, context) or UNKNOWN),
        Figure("machine.plate.heat", "Plate: heat it loses", plate_loss(recipe, context) or UNKNOWN),
        *_warmth(recipe, context),
        *_level(context),
        Figure("machine.near.margin", "Parts near heat: least margin to softening", _margin(recipe, context)),
        Figure("machine.nozzle.liner_hours", "Liner: hours near its limit", _hours(context, "nozzle", "liner")),
        Figure("machine.plate.magnet_hours", "Magnet: hours near its limit", _hours(context, "plate", "magnet")),
        Figure("machine.calibration.valid", "Calibrations that stand", _valid(context)),
    )  # fmt: skip


def _proven(context: Context, zone: str) -> Estimate | Absent:
    found = proven_of(context.machine, zone) if context.machine else None
    if found is None:
        return UNKNOWN
    minutes = "" if found.minutes is None else f" in {found.minutes:g} min"
    source = f"step of {found.at_utc[:10]}{minutes}, read with {found.sensor or 'a sensor that is not recorded'}"
    return Estimate(found.max_c, found.max_c, found.max_c, "°C", "hottest step that was held and looked at", source)


def _current(context: Context, zone: str) -> Estimate | Absent:
    heater = getattr(context.machine, zone).heater if context.machine else None
    if heater is None or not heater.power_w or not heater.volts or heater.fitted is False:
        return UNKNOWN
    amps, method = heater.power_w / heater.volts, "power over voltage; supply, contacts and wire have to carry it"
    return Estimate(amps, 0.9 * amps, 1.1 * amps, "A", method, "nameplate in the machine record, ±10 %, estimate")


def _claim(context: Context, zone: str) -> Estimate | Absent:
    heater = getattr(context.machine, zone).heater if context.machine else None
    if heater is None or heater.rated_c is None or heater.claimed_c is None:
        return UNKNOWN
    over, method = heater.claimed_c - heater.rated_c, "claim less nameplate; neither is a measurement"
    return Estimate(over, over, over, "K", method, "machine record")


def _margin(recipe: Recipe, context: Context) -> Estimate | Absent:
    parts = context.machine.near if context.machine else ()
    found = []
    for part in parts:
        local = local_heat(recipe, context, part)
        if local is not None and part.softens_c is not None:
            margin = part.softens_c - local.value
            found.append((margin, part.softens_c - local.high, part.softens_c - local.low, part.name))
    if not found:
        return UNKNOWN
    value, low, high, name = min(found)
    return Estimate(value, low, high, "K", f"softening less local heat, worst for {name.lower()}", SOURCE)


def _hours(context: Context, zone: str, part: str) -> Estimate | Absent:
    found = hours_near(context, zone, part)
    if found is None:
        return UNKNOWN
    method = f"hours of runs near {found[1]:g} °C since it was changed; a look is due at {AGED_H:g} h"
    return Estimate(found[0], found[0], found[0], "h", method, "log of runs")


def _valid(context: Context) -> str | Absent:
    if context.machine is None or not context.calibrations:
        return UNKNOWN
    stand = sum(each.is_valid for each in context.calibrations)
    return f"{stand} of {len(context.calibrations)}"


def _warmth(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """What chamber and plate come to by their models."""
    found = warmth_of(recipe, context)
    times, top = found.times, found.top
    return (
        Figure("machine.chamber.expected", "Chamber: air by the plate alone", found.air or UNKNOWN),
        Figure("machine.chamber.power", "Chamber: heat wanted at its setpoint", found.power or UNKNOWN),
        Figure("machine.chamber.warm", "Chamber: air is there after", times.air if times else UNKNOWN),
        Figure("machine.chamber.soaked", "Chamber: walls are soaked after", times.soaked if times else UNKNOWN),
        Figure("machine.plate.surface", "Plate: top of what lies on it", top.surface if top else UNKNOWN),
        Figure("machine.plate.drop", "Plate: top below the sensor by", top.drop if top else UNKNOWN),
        Figure("machine.plate.settles", "Plate: top has settled after", top.settles if top else UNKNOWN),
    )


def _level(context: Context) -> tuple[Figure, ...]:
    """What the newest grid tells of the plate, and how far the kept offset has moved."""
    machine = context.machine
    flat = flatness_of(machine) if machine else None
    moved = jump_of(machine.offsets) if machine else None
    source = f"probed {flat.grid.at_utc[:10]}" if flat else ""
    tilt = sag = jump = None
    if flat is not None:
        tilt = _micro(flat.tilt_mm, "plane of least squares", source)
        sag = _micro(flat.sag_mm, "highest less lowest residual", source)
    if moved is not None:
        jump = _micro(abs(moved[0] - moved[1]), "newest offset against the median before", "offsets that are kept")
    return (
        Figure("machine.plate.tilt", "Plate: tilt over what was probed", tilt or UNKNOWN),
        Figure("machine.plate.sag", "Plate: out of flat besides its tilt", sag or UNKNOWN),
        Figure("machine.gap.jump", "Offset of the probe: moved by", jump or UNKNOWN),
    )


def _micro(length_mm: float, method: str, source: str) -> Estimate:
    """A measured length as it is shown."""
    return Estimate(1e3 * length_mm, 1e3 * length_mm, 1e3 * length_mm, "µm", method, source)
