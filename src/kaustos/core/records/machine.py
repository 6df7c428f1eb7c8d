"""A machine as it stands: what limits each of its heated zones."""

from typing import Any

import attrs

from kaustos.core.records.fields import choice, extra, flag, number, text
from kaustos.core.records.stock import DIAMETERS

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


def _part() -> Any:
    return attrs.field(factory=Part)


def _passive() -> Any:
    return attrs.field(factory=PassivePart)


@attrs.frozen(kw_only=True)
class NozzleZone:
    """Hot end."""

    heater: Part = _part()
    sensor: Part = _part()
    firmware: Part = _part()
    liner: PassivePart = _passive()
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class PlateZone:
    """Heated plate with what holds the sheet on it."""

    heater: Part = _part()
    sensor: Part = _part()
    firmware: Part = _part()
    magnet: PassivePart = _passive()
    backing: PassivePart = _passive()
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class ChamberZone:
    """Air round the part; without a heater the plate warms it."""

    heater: Part = _part()
    sensor: Part = _part()
    firmware: Part = _part()
    plastics: PassivePart = _passive()
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
    feeds: str | None = choice(DIAMETERS, "Feeds a strand of", "Diameter that drive and hot end are made for")
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
}
