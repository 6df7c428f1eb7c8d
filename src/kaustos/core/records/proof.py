"""Evidence: what was measured, pulled, tapped, broken or looked over; and parts in service."""

from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.fields import choice, extra, flag, moment, number, text, value_at
from kaustos.core.records.photo import Photo
from kaustos.core.records.recipe import HISTORIES, MOISTURES, Recipe

PROOFS = {
    "size": "Sizes",
    "pull": "Pulled specimens",
    "tone": "Tapped bar",
    "hand": "Broken or struck by hand",
    "look": "Looked over",
    "dead_end": "Dead end",
    "lucky": "Works, cause unknown",
}
GROUPS = {
    "along": "Along the layers",
    "across": "Across the layers",
    "moulded": "Moulded reference",
    "aged": "Aged, across the layers",
}
MEASURED = {
    "length": "Length",
    "hole": "Hole",
    "wall": "Wall",
    "diameter": "Diameter",
    "radius": "Radius",
    "lift": "Lift of a corner",
    "gap": "Gap to its mate",
}
AXES = {"x": "x", "y": "y", "z": "z"}
BREAKS = {"between": "Between layers", "through": "Through the layers", "mixed": "Both"}
DIRECTIONS = {"flat": "Wide face", "edge": "Narrow face"}
HANDS = {"break": "Broken by hand", "hammer": "Hammer", "wedge": "Wedge between layers", "squeeze": "Squeezed tube"}
VERDICTS = {"pass": "Passes", "as_is": "Used as it is", "scrap": "Scrapped"}
SERVICE_ENDS = {
    "sound": "Taken out, sound",
    "broke": "Broke",
    "brittle": "Turned brittle",
    "worn": "Worn",
    "deformed": "Crept or warped",
    "attacked": "Attacked",
}


@attrs.frozen(kw_only=True)
class ProofRow:
    """One reading, specimen, bar or criterion."""

    name: str = text("Name")
    group: str | None = choice(GROUPS, "Direction")
    what: str | None = choice(MEASURED, "Measured")
    axis: str | None = choice(AXES, "Axis")
    nominal_mm: float | None = number("length", "As drawn", typed=(0.0, 1e4))
    found_mm: float | None = number("length", "Measured", typed=(0.0, 1e4))
    tolerance_mm: float | None = number("length", "Within", typed=(0.0, 100.0))
    angle_deg: float | None = number("angle", "At the angle")
    height_mm: float | None = number("length", "At the height", typed=(0.0, 1e4))
    length_mm: float | None = number("length", "Length", typed=(0.0, 1e4))
    width_mm: float | None = number("length", "Width", typed=(0.0, 1e3))
    thick_mm: float | None = number("length", "Thickness", typed=(0.0, 1e3))
    mass_g: float | None = number("mass", "Mass")
    force_n: float | None = number("force", "Most force")
    strength_mpa: float | None = number("stress", "Strength")
    modulus_mpa: float | None = number("stress", "Modulus")
    break_pct: float | None = number("share", "Strain at break")
    strain_pct: tuple[float, ...] = ()
    stress_mpa: tuple[float, ...] = ()  # as many
    hz: float | None = number("ratio", "Tone, in hertz")
    decay_s: float | None = number("seconds", "Rings for")
    direction: str | None = choice(DIRECTIONS, "Tapped")
    hand: str | None = choice(HANDS, "Done by hand")
    blows: float | None = number("ratio", "Blows")
    mode: str | None = choice(BREAKS, "Broke")
    grade: float | None = number("ratio", "Graded", "0 useless to 4 as it should be", typed=(0.0, 4.0))
    expected: bool | None = flag("As expected")
    note: str = text("Note")
    extra: dict[str, Any] = extra()

    def __attrs_post_init__(self) -> None:
        if len(self.strain_pct) != len(self.stress_mpa):
            raise FieldError("strain_pct", "strains and stresses must be as many")


@attrs.frozen(kw_only=True)
class Proof:
    """One piece of evidence for a recipe, with the state of what was tested."""

    id: str
    sort: str | None = choice(PROOFS, "Evidence")
    card: str = ""
    run: str | None = None
    machine: str | None = None
    lot: str | None = None
    polymer: str | None = None
    at_utc: str = moment("When")
    by: str = text("By")
    history: str | None = choice(HISTORIES, "Heat history")
    moisture: str | None = choice(MOISTURES, "Moisture", "State of what was tested: it belongs to every figure")
    nozzle_c: float | None = number("temperature", "Nozzle then")
    chamber_c: float | None = number("temperature", "Chamber then")
    layer_s: float | None = number("seconds", "Layer time then")
    plate_c: float | None = number("temperature", "Plate then")
    fan_pct: float | None = number("share", "Fan then")
    width_mm: float | None = number("length", "Bead then", typed=(0.05, 40.0))
    height_mm: float | None = number("length", "Layer then", typed=(0.01, 20.0))
    speed_mm_s: float | None = number("speed", "Speed then", typed=(0.5, 1000.0))
    aged_h: float | None = number("duration", "Aged for")
    aged_c: float | None = number("temperature", "Aged at")
    rows: tuple[ProofRow, ...] = ()
    verdict: str | None = choice(VERDICTS, "Verdict")
    verdict_by: str = text("Verdict by")
    verdict_why: str = text("Verdict, because")
    note: str = text("Note")
    photos: tuple[Photo, ...] = ()
    retired: bool = False
    extra: dict[str, Any] = extra()


SETTINGS = {  # of a proof, from which fields of its recipe
    "nozzle_c": "melt.nozzle_c", "chamber_c": "heat.chamber_c", "layer_s": "heat.least_layer_s",
    "plate_c": "plate.bed_c", "fan_pct": "heat.fan_pct", "width_mm": "melt.width_mm", "height_mm": "melt.height_mm",
    "speed_mm_s": "melt.speed_mm_s",
}  # fmt: skip


def settings_then(recipe: Recipe) -> dict[str, Any]:
    """What a proof keeps of the settings under which its specimens were made, in the units of their fields."""
    return {name: value_at(recipe, path) for name, path in SETTINGS.items()}


@attrs.frozen(kw_only=True)
class ServicePart:
    """One part that serves, or served: where, since when, how it ended."""

    id: str
    name: str = text("Part")
    card: str = ""
    run: str | None = None
    polymer: str | None = None
    place: str = text("Serves in")
    in_utc: str = moment("Put in")
    out_utc: str = moment("Taken out")
    ended: str | None = choice(SERVICE_ENDS, "Ended")
    note: str = text("Note")
    retired: bool = False
    extra: dict[str, Any] = extra()
