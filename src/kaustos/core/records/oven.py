"""An oven of the shop, and every load that went through it: programme, what was measured, what became of the parts."""

from typing import Any

import attrs

from kaustos.core.records.fields import choice, extra, flag, moment, number, text
from kaustos.core.records.photo import Photo
from kaustos.core.records.quantities import AIR_C
from kaustos.core.records.recipe import PACKINGS, AnnealStep
from kaustos.core.records.run import RunSensor

LOAD_ENDS = {
    "good": "As it should be",
    "warped": "Warped or sagged",
    "cracked": "Cracked or split",
    "blistered": "Blistered or foamed",
    "browned": "Browned",
    "stopped": "Taken out early",
}


@attrs.frozen(kw_only=True)
class Oven:
    """One oven: how hot it gets, how true its display is, how evenly it heats, what goes in."""

    id: str
    name: str = text("Oven")
    max_c: float | None = number("temperature", "Hottest", "Measured with a second sensor where it can be", typed=AIR_C)
    offset_k: float | None = number("temperature_difference", "True less shown", "By a second sensor at a hold")
    even_k: float | None = number("temperature_difference", "Middle to corners", "Largest difference at a hold")
    fan: bool | None = flag("Fan", "Whether a fan moves its air")
    rise_k_h: float | None = number("ramp", "Rises by", "Of its air, empty, at full power", typed=(0.5, 3000.0))
    size_x_mm: float | None = number("length", "Inside, width", typed=(1.0, 1e4))
    size_y_mm: float | None = number("length", "Inside, depth", typed=(1.0, 1e4))
    size_z_mm: float | None = number("length", "Inside, height", typed=(1.0, 1e4))
    place: str = text("Controller at", "Host, port and registers of what it shows and is set to")
    retired: bool = False
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Growth:
    """One coupon or part as it went in and as it came out, cold."""

    name: str = text("What was measured")
    x_mm: float | None = number("length", "Along the beads, before", typed=(0.01, 1e4))
    y_mm: float | None = number("length", "Across the beads, before", typed=(0.01, 1e4))
    z_mm: float | None = number("length", "Across the layers, before", typed=(0.01, 1e4))
    after_x_mm: float | None = number("length", "Along the beads, after", typed=(0.01, 1e4))
    after_y_mm: float | None = number("length", "Across the beads, after", typed=(0.01, 1e4))
    after_z_mm: float | None = number("length", "Across the layers, after", typed=(0.01, 1e4))
    mass_g: float | None = number("mass", "Mass before")
    water_g: float | None = number("mass", "Mass in water, before", "Hung in water, no bubbles on it")
    after_g: float | None = number("mass", "Mass after")
    after_water_g: float | None = number("mass", "Mass in water, after")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class OvenLoad:
    """One load of an oven."""

    id: str
    oven: str | None = None
    card: str = ""  # recipe whose parts lay in it
    runs: tuple[str, ...] = ()  # that printed them
    polymer: str | None = None
    started_utc: str = moment("Began")
    ended_utc: str = moment("Ended")
    steps: tuple[AnnealStep, ...] = ()  # as it was to run
    cool_k_h: float | None = number("ramp", "Cools by", typed=(0.5, 3000.0))
    out_c: float | None = number("temperature", "Taken out at", typed=(0.0, 300.0))
    packed: str | None = choice(PACKINGS, "Lay")
    pack_mm: float | None = number("length", "Round it", typed=(0.0, 300.0))
    wall_mm: float | None = number("length", "Thickest section", typed=(0.1, 500.0))
    sensors: tuple[RunSensor, ...] = ()  # what they showed, the oven's own among them
    witness: str = text("Witness", "Sensor inside a dummy of the thickest section")
    grown: tuple[Growth, ...] = ()
    outcome: str | None = choice(LOAD_ENDS, "Came out", "What became of the parts; empty while it runs")
    by: str = text("By")
    note: str = text("Note")
    photos: tuple[Photo, ...] = ()
    readings: str = ""  # file of them that is kept
    retired: bool = False
    extra: dict[str, Any] = extra()
