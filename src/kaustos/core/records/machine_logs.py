"""What is logged of a machine: parts that were changed, heat that was proven step by step."""

from typing import Any

import attrs

from kaustos.core.records.fields import choice, extra, moment, number, text

ZONE_TITLES = {"nozzle": "Nozzle", "plate": "Plate", "chamber": "Chamber"}
CHANGED = {
    "head": "Whole hot end",
    "nozzle": "Nozzle",
    "nozzle_heater": "Heater of the nozzle",
    "nozzle_sensor": "Sensor of the nozzle",
    "drive": "Filament drive or its tube",
    "probe": "Height probe",
    "plate_stack": "Plate, sheet or what holds it",
    "plate_heater": "Heater of the plate",
    "plate_sensor": "Sensor of the plate",
    "chamber_heater": "Heater or fan of the chamber",
    "chamber_sensor": "Sensor of the chamber",
    "enclosure": "Walls, doors or insulation",
    "fan": "Part cooling fan or its duct",
    "firmware": "Firmware or its settings",
    "frame": "Axes, screws, or the place it stands",
}
SEEN_HOT = {
    "nothing": "Nothing",
    "smell": "Smell of something new",
    "smoke": "Smoke",
    "softened": "A part softened or moved",
    "short": "Did not get there",
    "unsteady": "Did not hold steady",
}
VERDICTS = {"go": "Go", "stop": "Stop"}


@attrs.frozen(kw_only=True)
class PartChange:
    """One part that was changed: the machine is another configuration from then on."""

    part: str | None = choice(CHANGED, "Changed")
    was: str = text("Came out")
    now: str = text("Went in")
    why: str = text("Why")
    by: str = text("By")
    at_utc: str = moment("When")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class HeatStep:
    """One step of staged commissioning: set, held, read with a second sensor, looked at, go or stop."""

    zone: str | None = choice(ZONE_TITLES, "Zone")
    setpoint_c: float | None = number("temperature", "Set to")
    reached_c: float | None = number("temperature", "Reached", "By the reference sensor, where there is one")
    minutes: float | None = number("minutes", "Minutes to get there")
    sensor: str = text("Read with", "Which sensor the temperature was read with")
    seen: str | None = choice(SEEN_HOT, "Seen")
    verdict: str | None = choice(VERDICTS, "Verdict")
    by: str = text("By")
    at_utc: str = moment("When")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class ProbePoint:
    """One point of the plate."""

    x_mm: float | None = number("height", "Along")
    y_mm: float | None = number("height", "Across")
    z_mm: float | None = number("height", "Height")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class ProbeGrid:
    """A plate that was probed, at a heat."""

    points: tuple[ProbePoint, ...] = ()
    plate_c: float | None = number("temperature", "Plate at", "Of the plate while it was probed")
    soaked_min: float | None = number("minutes", "Soaked for")
    by: str = text("By")
    at_utc: str = moment("When")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class GapOffset:
    """The distance between probe and nozzle as the machine had it, kept outside of the machine."""

    offset_mm: float | None = number("height", "Offset")
    by: str = text("By")
    at_utc: str = moment("When")
    extra: dict[str, Any] = extra()
