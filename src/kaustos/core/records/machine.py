"""A machine as it stands: what limits each of its heated zones."""

from typing import Any

import attrs

from kaustos.core.records.enclosure import Enclosure, Layer
from kaustos.core.records.fields import choice, extra, flag, number, text
from kaustos.core.records.machine_logs import GapOffset, HeatStep, PartChange, ProbeGrid
from kaustos.core.records.stock import DIAMETERS
from kaustos.core.records.upgrade import WorkOrder

SENSORS = {
    "ntc": "Thermistor",
    "ntc_glass": "Thermistor, glass bead",
    "ntc_high": "Thermistor, hot",
    "pt100": "Platinum, 100 Ω",
    "pt1000": "Platinum, 1000 Ω",
    "type_k": "Thermocouple, K",
}
NEAR = {"nozzle": "Beside the nozzle", "plate": "Over or beside the plate", "chamber": "In the chamber"}
SITES = {"workshop": "Workshop", "office": "Office", "living": "Living room or bedroom"}
EXTRACTIONS = {
    "outdoors": "Led outdoors",
    "filter": "Carbon and particle filter",
    "carbon": "Carbon filter only",
    "none": "None",
}
BASES = {"proven": "Proven here", "rated": "Rated", "claimed": "Claimed"}


@attrs.frozen(kw_only=True)
class Part:
    """One component that limits a zone; what is not recorded is None."""

    fitted: bool | None = flag("Fitted", "No means that the machine has no such part")
    max_c: float | None = number("temperature", "Limit", "Hottest setpoint this part allows")
    basis: str | None = choice(BASES, "Known from", "Proven by own measurement, rated by its maker, or claimed")
    name: str = text("Make or note")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class PassivePart(Part):
    """A component that gives way when it is too hot, where others merely hold the zone back."""

    price: float | None = number("money", "Price of the part", "What replacing it costs")


@attrs.frozen(kw_only=True)
class HeaterPart(Part):
    """A heater: what its nameplate says, what is claimed of it, what it draws."""

    rated_c: float | None = number("temperature", "Nameplate", "What its maker rates it for")
    claimed_c: float | None = number("temperature", "Claimed", "What is said of it, by a seller or by hearsay")
    power_w: float | None = number("power", "Power", "Of the heater alone, by its nameplate")
    volts: float | None = number("voltage", "Voltage", "Of the heater; mains devices are work for a licensed trade")


@attrs.frozen(kw_only=True)
class SensorPart(Part):
    """A sensor: what it is, and what the firmware takes it for."""

    kind: str | None = choice(SENSORS, "Sensor", "What it is: kind and resistance")
    table: str | None = choice(SENSORS, "Read as", "The table that turns its resistance into a temperature")


def _part() -> Any:
    return attrs.field(factory=Part)


def _heater() -> Any:
    return attrs.field(factory=HeaterPart)


def _sensor() -> Any:
    return attrs.field(factory=SensorPart)


def _passive() -> Any:
    return attrs.field(factory=PassivePart)


@attrs.frozen(kw_only=True)
class NozzleZone:
    """Hot end."""

    heater: HeaterPart = _heater()
    sensor: SensorPart = _sensor()
    firmware: Part = _part()
    liner: PassivePart = _passive()
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class PlateZone:
    """Heated plate with what holds the sheet on it."""

    heater: HeaterPart = _heater()
    sensor: SensorPart = _sensor()
    firmware: Part = _part()
    magnet: PassivePart = _passive()
    backing: PassivePart = _passive()
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class ChamberZone:
    """Air round the part; without a heater the plate warms it."""

    heater: HeaterPart = _heater()
    sensor: SensorPart = _sensor()
    firmware: Part = _part()
    plastics: PassivePart = _passive()
    electronics: PassivePart = _passive()
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class NearPart:
    """A plastic part close to heat: a duct, a mount, a clip, a belt."""

    name: str = text("Part")
    place: str | None = choice(NEAR, "Where")
    softens_c: float | None = number("temperature", "Softens at", "Glass transition or deflection of its polymer")
    clearance_mm: float | None = number("length", "Clearance", "To the hot metal, where it is closest")
    printed: bool | None = flag("Printed here", "Goes on the list of parts to print again")
    incident: str = text("Incident", "What has happened to it already")
    extra: dict[str, Any] = extra()


PANEL_PATHS = {
    "first_layer.bed_c": "Plate, first layer",
    "plate.bed_c": "Plate",
    "first_layer.nozzle_c": "Nozzle, first layer",
    "melt.nozzle_c": "Nozzle",
    "heat.chamber_c": "Chamber",
}


@attrs.frozen(kw_only=True)
class PanelField:
    """One setting that a machine's own panel holds: its range and its step."""

    path: str | None = choice(PANEL_PATHS, "Setting")
    label: str = text("Called there")
    low: float | None = number("temperature", "From")
    high: float | None = number("temperature", "To")
    step: float | None = number("temperature_difference", "Step", typed=(0.01, 100.0))
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Machine:
    """One machine configuration."""

    id: str
    name: str = text("Machine")
    nozzle: NozzleZone = attrs.field(factory=NozzleZone)
    plate: PlateZone = attrs.field(factory=PlateZone)
    chamber: ChamberZone = attrs.field(factory=ChamberZone)
    power_w: float | None = number("power", "Mean power", "Electrical power while printing, all heaters")
    retired: bool = False
    travel_x_mm: float | None = number("length", "Travel, length", "What a part may be long, holders taken off")
    travel_y_mm: float | None = number("length", "Travel, width")
    travel_z_mm: float | None = number("length", "Travel, height", "Above the plate as it is fitted")
    accel_mm_s2: float | None = number(
        "acceleration",
        "Acceleration",
        "Of walls and infill, where a job file does not set it",
        typed=(1.0, 1e5),
    )
    corner_mm_s: float | None = number(
        "speed", "Taken at once", "Change of speed at a corner that it takes at once", typed=(0.1, 100.0)
    )
    timer_h: float | None = number(
        "duration", "Cut-off timer", "Hours after which it is switched off, as it is armed; 0 for none"
    )
    feeds: str | None = choice(DIAMETERS, "Feeds a strand of", "Diameter that drive and hot end are made for")
    geared: bool | None = flag("Geared drive")
    two_feeds: bool | None = flag("Feeds a second polymer", short="Second polymer")
    tube_mm: float | None = number(
        "length", "Tube to the hot end", "Between drive and hot end; 0 for a drive on the head"
    )
    melt_zone_mm: float | None = number(
        "length", "Melt zone", "Heated length from heat break to nozzle tip", typed=(2.0, 500.0)
    )
    push_n: float | None = number(
        "force", "Drive pushes", "Until it slips or grinds, as it was measured", typed=(1.0, 5e3)
    )
    enclosure: Enclosure = attrs.field(factory=Enclosure)
    stack: tuple[Layer, ...] = ()
    site: str | None = choice(SITES, "Stands in", "People in the room breathe what it gives off")
    extraction: str | None = choice(EXTRACTIONS, "Extraction")
    break_kind: str = text("Heat break", "What parts the hot from the cold side, and how that is cooled")
    probe: str = text("Height probe", "Kind and polarity")
    panel: str = text("Panel", "How it is operated")
    noise: str = text("Noise", "What people say of it")
    near: tuple[NearPart, ...] = ()
    changes: tuple[PartChange, ...] = ()
    heat_steps: tuple[HeatStep, ...] = ()
    orders: tuple[WorkOrder, ...] = ()
    grids: tuple[ProbeGrid, ...] = ()
    offsets: tuple[GapOffset, ...] = ()
    screw_pitch_mm: float | None = number("length", "Pitch of its screws", "Under the plate; 0.5 mm for M3")
    panel_fields: tuple[PanelField, ...] = ()
    panel_letters: float | None = number("ratio", "Letters in a name", "How many its panel takes")
    rate_per_h: float | None = number("money_rate", "Machine hour", "Cost of an hour on this machine, energy included")
    extra: dict[str, Any] = extra()


ZONES = ("nozzle", "plate", "chamber")
PART_TITLES = {
    "heater": "heater",
    "sensor": "sensor",
    "firmware": "firmware limit",
    "liner": "fluoropolymer liner",
    "magnet": "magnet",
    "backing": "adhesive backing",
    "plastics": "plastic machine parts",
    "tip": "nozzle tip",
    "electronics": "electronics in the chamber",
}
MACHINE_LOGS = (
    "changes",
    "heat_steps",
    "orders",
    "grids",
    "offsets",
)  # what is logged of it is no change of its configuration
