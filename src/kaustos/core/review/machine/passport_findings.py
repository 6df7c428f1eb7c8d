"""What stands against the machine as it is: true heat, sensors, heaters, parts near heat, stale calibrations, place."""

import math
from collections.abc import Iterator

from kaustos.core.estimates import MACHINE
from kaustos.core.physics.near import beside, melt_power
from kaustos.core.planning.configuration import offset_of
from kaustos.core.planning.draws import drawn, estimate
from kaustos.core.planning.nozzle_life import colder_k
from kaustos.core.planning.reach import is_chamber_heated
from kaustos.core.planning.sensors import truly_c
from kaustos.core.planning.warmth import chamber_of, expected_air
from kaustos.core.records import CALIBRATIONS, ZONES, Estimate, Machine, NearPart, Recipe
from kaustos.core.records.machine import NEAR, SENSORS, SITES
from kaustos.core.review.contract import Advice, Context, Finding, Remedy
from kaustos.core.review.machine.finder import finder
from kaustos.core.review.machine.passport_codes import PASSPORT_CODES
from kaustos.core.review.machine.remedies import set_to
from kaustos.core.review.zones import SETTINGS, Zone

_found = finder(PASSPORT_CODES)
SOURCE = "practice, estimate"
PEAK = MACHINE["peak_flow"].value
AGED_H, NEAR_K = MACHINE["aged"].value, MACHINE["near_limit"].value
Values = dict[str, float | str | None]


def passport_findings(recipe: Recipe, context: Context, zones: tuple[Zone, ...]) -> Iterator[Finding]:
    """What stands against the machine, as far as it is recorded."""
    machine = context.machine
    if machine is None:
        return
    for zone in zones:
        yield from _wrong_table(recipe, context, machine, zone)
        yield from _reads_off(recipe, context, machine, zone)
    yield from _heaters(recipe, context, machine, zones)
    yield from _near(recipe, context, machine)
    yield from _stale(recipe, context, machine)
    yield from _feed(recipe, context, machine)
    yield from _fumes(recipe, context, machine)
    yield from _aged(recipe, context, machine)


def _wrong_table(recipe: Recipe, context: Context, machine: Machine, zone: Zone) -> Iterator[Finding]:
    sensor = getattr(machine, zone.name).sensor
    if sensor.kind is None or sensor.table is None or sensor.kind == sensor.table or sensor.fitted is False:
        return
    hottest = max((setpoint for _, _, setpoint in zone.settings()), default=None)
    true = truly_c(sensor.kind, sensor.table, hottest) if hottest is not None else None
    said = "what is shown says nothing of the true heat"
    if true is not None and hottest is not None:
        said = f"at {hottest:g} °C shown it would truly be about {true:.0f} °C"
    ask = Advice(
        "Do not heat it until sensor and table agree",
        "Compare the reading at room temperature with a second sensor, and have the table set by whoever answers for "
        "the firmware. Work on wiring is for a qualified person.",
    )
    values: Values = {
        "zone": zone.name, "kind": SENSORS[sensor.kind].lower(), "table": SENSORS[sensor.table].lower(), "said": said,
    }  # fmt: skip
    field = f"machine.{zone.name}.sensor.table"
    yield _found(recipe, context, f"machine.{zone.name}.wrong_table", field, (ask,), values)


def _reads_off(recipe: Recipe, context: Context, machine: Machine, zone: Zone) -> Iterator[Finding]:
    calibration = offset_of(context.calibrations, zone.name)
    low, high = zone.low, zone.high
    if calibration is None or not calibration.is_valid or low is None or high is None:
        return
    off = calibration.values["offset_k"]
    for field, title, setpoint in zone.settings():
        true = setpoint + off
        below = true < low.value <= setpoint
        above = true > high.value >= setpoint
        if not (below or above):
            continue
        target = float(math.ceil(low.value - off) if below else math.floor(high.value - off))
        reach = zone.reach.max_c
        can = reach is None or target <= reach
        more = Advice(
            "Translate the setting", "Set what shows the wanted heat on this machine, not what another shows."
        )
        values: Values = {
            "setting": title, "setpoint": setpoint, "off": abs(off), "way": "more" if off < 0.0 else "less",
            "true": true, "side": "below" if below else "above", "zone": zone.name, "low": low.value,
            "high": high.value, "date": calibration.done_utc[:10],
        }  # fmt: skip
        remedies: tuple[Remedy, ...] = (set_to(zone, field, title, target), more) if can else (more,)
        yield _found(recipe, context, f"machine.{zone.name}.reads_off", field, remedies, values)


def true_heat(context: Context, zone: str, setpoint_c: float | None) -> Estimate | None:
    """What a setpoint comes to in truth by the calibration of its zone, wider where that is stale; None without one."""
    calibration = offset_of(context.calibrations, zone)
    if calibration is None or setpoint_c is None:
        return None
    half = calibration.values.get("spread_k", MACHINE["offset_spread"].value)
    half += 0.0 if calibration.is_valid else MACHINE["offset_stale"].value
    true = setpoint_c + calibration.values["offset_k"]
    stale = "" if calibration.is_valid else f", stale: {calibration.stale_because}"
    source = f"calibration of {calibration.done_utc[:10]} with {calibration.sensor or 'a second sensor'}{stale}"
    return Estimate(true, true - half, true + half, "°C", "setpoint and what this machine shows too much", source)


def heat_needed(recipe: Recipe, context: Context) -> Estimate | None:
    """What the heater of the nozzle has to give at the peak flow of the run [W]; None where that is not known."""
    polymer, setpoint = context.polymer, recipe.melt.nozzle_c
    if polymer is None or setpoint is None:
        return None
    over_k = max(setpoint - context.rules.room_c, 0.0)
    lost = (MACHINE["hotend_loss"].value * over_k + MACHINE["hotend_loss_more"].value * over_k**2) * drawn(
        "hot end", MACHINE["hotend_spread"].band
    )
    flow, density = _peak_flow(recipe, context), polymer.value("density_g_cm3")
    if flow is None or density is None:
        return estimate(lost, "W", "losses of the hot end alone: flow not known", SOURCE)
    heat = drawn("heat of melt", MACHINE["melt_heat"].band) * over_k * 1e3
    if not polymer.is_glassy:
        heat = heat + drawn("heat of crystals", MACHINE["crystal_heat"].band) * 1e3
    melt = melt_power(flow * drawn("peak", (0.7, 1.0, 1.5)), density.value * 1e3, heat)
    method = f"losses and melt at {PEAK:g} times the mean flow of the run"
    return estimate(lost + melt, "W", method, SOURCE)


def _peak_flow(recipe: Recipe, context: Context) -> float | None:
    """Peak flow of the run by its mass and hours [m³/s]."""
    mass, hours = recipe.brief.mass_g, recipe.brief.print_h
    density = context.polymer.value("density_g_cm3") if context.polymer else None
    if not mass or not hours or density is None:
        return None
    return PEAK * mass / density.value * 1e-6 / (hours * 3600.0)


def plate_loss(recipe: Recipe, context: Context) -> Estimate | None:
    """What the plate loses into the air at its setpoint [W]; None where its size or setpoint is not known."""
    machine, setpoint = context.machine, recipe.plate.bed_c
    if machine is None or setpoint is None or machine.travel_x_mm is None or machine.travel_y_mm is None:
        return None
    area = machine.travel_x_mm * machine.travel_y_mm * 1e-6
    over_k = max(setpoint - air_c(recipe, context), 0.0)
    return estimate(area * over_k * drawn("plate loss", MACHINE["plate_loss"].band), "W", "area × rise × loss", SOURCE)


def air_c(recipe: Recipe, context: Context) -> float:
    """The air in the machine while it prints: as set, as the plate alone was seen to warm it, else the room [°C]."""
    machine, room = context.machine, context.rules.room_c
    if machine is None:
        return room
    heater = machine.chamber.heater
    warm = recipe.heat.chamber_c if is_chamber_heated(machine) else heater.max_c
    if warm is None and recipe.plate.bed_c is not None:
        chamber = chamber_of(machine, None)
        warm = expected_air(chamber, recipe.plate.bed_c, room).value if chamber is not None else None
    return max(room, warm if warm is not None else room)


def _heaters(recipe: Recipe, context: Context, machine: Machine, zones: tuple[Zone, ...]) -> Iterator[Finding]:
    uprate = Advice(
        "Slow down, or have the heater uprated",
        "Heaters, their supply and their wiring are work for the maker or a licensed trade.",
    )
    for name, needed in (("nozzle", heat_needed(recipe, context)), ("plate", plate_loss(recipe, context))):
        power = getattr(machine, name).heater.power_w
        if needed is None or power is None or power >= needed.high:
            continue
        severity = "stop" if power < needed.value else "watch"
        field, title, _ = SETTINGS[name][0]
        setpoint = recipe.melt.nozzle_c if name == "nozzle" else recipe.plate.bed_c
        values: Values = {
            "setting": title, "setpoint": setpoint, "needed": needed.value, "least": needed.low, "most": needed.high,
            "power": power,
        }  # fmt: skip
        yield _found(recipe, context, f"machine.{name}.heater_weak", field, (uprate,), values, severity)


def local_heat(recipe: Recipe, context: Context, part: NearPart) -> Estimate | None:
    """How hot a part near heat gets in this run; None where its place or the heat is not known."""
    nozzle, plate = recipe.melt.nozzle_c, recipe.plate.bed_c
    air = air_c(recipe, context)
    if part.place == "chamber":
        return Estimate(air, air - 5.0, air + 5.0, "°C", "air in the chamber", SOURCE)
    hot = nozzle if part.place == "nozzle" else plate
    if hot is None or part.place is None:
        return None
    clearance = (part.clearance_mm if part.clearance_mm is not None else 0.0) / 1e3
    share, reach = (MACHINE[f"{what}.{part.place}"].band for what in ("near_share", "near_reach"))
    local = beside(air, max(hot, air), clearance, drawn("near", share), drawn("near reach", reach) / 1e3)
    return estimate(local, "°C", "air, and a share of the heat that falls with the distance", SOURCE)


def _near(recipe: Recipe, context: Context, machine: Machine) -> Iterator[Finding]:
    found = []
    for part in machine.near:
        local = local_heat(recipe, context, part)
        if local is None or part.softens_c is None or local.high < part.softens_c:
            continue
        found.append((part.softens_c - local.value, part, local))
    if not found:
        return
    margin, part, local = min(found, key=lambda each: each[0])
    severity = "stop" if margin <= 0.0 else "watch"
    others = [each.name for _, each, _ in found if each is not part]
    look = Advice(
        "Make it of a polymer that stands it, move it, or shield it",
        "Look at it after each hot run until then" + (f"; the same holds for {', '.join(others)}." if others else "."),
    )
    values: Values = {
        "part": part.name or "A part", "softens": part.softens_c, "where": _where(part), "local": local.value,
        "least": local.low, "most": local.high,
    }  # fmt: skip
    yield _found(recipe, context, "machine.near.softens", "machine.near", (look,), values, severity)


def _where(part: NearPart) -> str:
    words = NEAR[part.place or "nozzle"].lower()
    return words if part.clearance_mm is None else f"{part.clearance_mm:g} mm off, {words}"


def _stale(recipe: Recipe, context: Context, machine: Machine) -> Iterator[Finding]:
    stale = [each for each in context.calibrations if not each.is_valid]
    if not stale:
        return
    kinds = "; ".join(_lower(CALIBRATIONS[each.kind or ""]) for each in stale)
    changes = ", ".join(dict.fromkeys(each.stale_because for each in stale))
    again = Advice(
        "Measure again: " + kinds, "Log each anew in the room of machines; until then treat it as not known."
    )
    yield _found(recipe, context, "machine.calibration.stale", "machine.changes", (again,),
                 {"kinds": kinds, "change": changes})  # fmt: skip


def _lower(words: str) -> str:
    return words[:1].lower() + words[1:]


def _feed(recipe: Recipe, context: Context, machine: Machine) -> Iterator[Finding]:
    polymer = context.polymer
    if polymer is None or polymer.character != "rubbery":
        return
    long = machine.tube_mm is not None and machine.tube_mm > MACHINE["soft_tube"].value
    words = [f"has {machine.tube_mm:g} mm of tube between drive and hot end"] if long else []
    words += ["has a drive that is not geared"] if machine.geared is False else []
    if not words:
        return
    slow = Advice("Feed it slowly, with little retraction", "Or take a machine with its drive on the head.")
    yield _found(recipe, context, "machine.feed.slips", "machine.tube_mm", (slow,), {"feed": " and ".join(words)})


def _fumes(recipe: Recipe, context: Context, machine: Machine) -> Iterator[Finding]:
    polymer = context.polymer
    weak = {"none": "without extraction", "carbon": "with a carbon filter that lets fine particles through"}
    if polymer is None or machine.site not in ("office", "living") or machine.extraction not in weak:
        return
    out = Advice(
        "Lead its air outdoors, or run it where nobody stays",
        "Local rules and the maker's data sheet decide; a carbon filter wears out by hours and takes no particles.",
    )
    values: Values = {
        "site": f"the {SITES[machine.site].lower()}", "extraction": weak[machine.extraction],
        "gives": polymer.emissions,
    }  # fmt: skip
    yield _found(recipe, context, "machine.site.fumes", "machine.extraction", (out,), values)


def hours_near(context: Context, zone: str, part: str) -> tuple[float, float] | None:
    """Hours of the log near the limit of a part since it was last changed, and that limit [h, °C]."""
    machine = context.machine
    if machine is None:
        return None
    fitted = getattr(getattr(machine, zone), part)
    limit = fitted.max_c
    if fitted.fitted is not True:
        return None
    if part == "liner":
        limit = min(limit if limit is not None else math.inf, context.rules.liner_stop_c)
    if limit is None:
        return None
    since = max((each.at_utc for each in machine.changes if each.part in _CHANGED_WITH[part]), default="")
    hot = context.shop.hot.get(machine.id, ())
    return sum(each.hours for each in hot if each.at_utc > since and each.heat(zone) >= limit - NEAR_K), limit


_CHANGED_WITH = {"liner": ("head",), "magnet": ("plate_stack",)}


def _aged(recipe: Recipe, context: Context, machine: Machine) -> Iterator[Finding]:
    for zone, part, title in (("nozzle", "liner", "fluoropolymer liner"), ("plate", "magnet", "magnet")):
        found = hours_near(context, zone, part)
        if found is None or found[0] < AGED_H:
            continue
        look = Advice("Look at it, replace it where it has changed, and log the change", "The hours count anew then.")
        values: Values = {"hours": found[0], "near": NEAR_K, "part": title, "limit": found[1]}
        yield _found(recipe, context, f"machine.{zone}.{part}_aged", f"machine.{zone}.{part}.max_c", (look,), values)


def is_calibrated(context: Context, kind: str) -> bool:
    """Whether a calibration of a kind stands."""
    return any(each.kind == kind and each.is_valid for each in context.calibrations)


def more_k(context: Context) -> dict[str, float]:
    """By zone, how much more than the wanted heat has to be set here, by what was calibrated and what is fitted [K]."""
    found = {}
    for zone in ZONES:
        calibration = offset_of(context.calibrations, zone)
        off = calibration.values["offset_k"] if calibration is not None and calibration.is_valid else 0.0
        nozzle = context.nozzle if zone == "nozzle" else None
        colder = colder_k(nozzle.material).value if nozzle and nozzle.material else 0.0
        found[zone] = max(colder, 0.0) - off
    return found
