"""A nozzle as an item: what it is made of, what was fed through it, what was found when it was looked at."""

from typing import Any

import attrs

from kaustos.core.estimates import NOZZLES, Assumed
from kaustos.core.estimates.assumed import Band
from kaustos.core.records.fields import choice, extra, moment, number, text
from kaustos.core.records.own_polymer import FILLER_TITLES
from kaustos.core.records.photo import Photo
from kaustos.core.records.polymer import Datum

MATERIALS = {
    "brass": "Brass",
    "plated_copper": "Plated copper alloy",
    "stainless": "Stainless steel",
    "hardened": "Hardened tool steel",
    "coated": "Brass, hard coated",
    "carbide": "Tungsten carbide",
    "jewel": "Jewel tip",
    "silicon_carbide": "Silicon carbide",
    "diamond": "Diamond tip",
    "titanium": "Titanium",
}
ORIGINS = {"original": "Of the machine's maker", "compatible": "Compatible part"}
EDGES = {"sharp": "Sharp", "rounded": "Rounded", "chamfered": "Chamfered", "burred": "Burred"}
FINISHES_INSIDE = {"smooth": "Smooth", "grooved": "Grooved by the drill", "rough": "Rough"}
FOUND_BY = {
    "gauge": "Pin gauge",
    "imprint": "Imprint of a cold pull",
    "microscope": "Under a microscope",
    "length": "Length over a caliper",
    "first_layer": "Thickness of the first layer",
}
STATES = {
    "sound": "Sound",
    "stained": "Stained, not worn",
    "rounded": "Edge rounded",
    "shortened": "Tip shortened",
    "enlarged": "Bore enlarged",
    "damaged": "Damaged",
}


@attrs.frozen
class Fed:
    """Filament that went through a nozzle: when, how much [g], and how it wears, times an unfilled polymer."""

    at_utc: str
    grams: float
    wears: Band


def band_of(found: Datum | Assumed | None) -> Band:
    """How filament wears, times an unfilled polymer; a wide band where that is not known.

    Parameters
    ----------
    found : Datum, Assumed or None
        Of a polymer, or of a filler [1]

    Returns
    -------
    tuple of float
        Least, likely, most [1]
    """
    if found is None:
        return NOZZLES["unknown_filler"].band
    return found.low, found.value, found.high


@attrs.frozen(kw_only=True)
class Feeding:
    """Filament that went through it and stands in no run: before the log began, or on a machine elsewhere."""

    grams: float | None = number("mass", "Fed")
    filler: str | None = choice(FILLER_TITLES, "Filler")
    at_utc: str = moment("When")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Inspection:
    """One look at a nozzle: bore, how much shorter its tip is than new, what it looked like."""

    at_utc: str = moment("When")
    bore_mm: float | None = number("length", "Bore found", typed=(0.05, 10.0))
    lost_mm: float | None = number("length", "Tip shorter by", typed=(0.0, 10.0))
    found_by: str | None = choice(FOUND_BY, "Found by")
    state: str | None = choice(STATES, "Looks")
    photo: Photo | None = None
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Nozzle:
    """One nozzle by its serial number."""

    id: str
    name: str = text("Nozzle")
    serial: str = text("Serial number")
    material: str | None = choice(MATERIALS, "Made of", "Its hardness decides how fast it wears")
    bore_mm: float | None = number("length", "Bore when new", "As marked, or as measured when it came in",
                                   typed=(0.05, 10.0))  # fmt: skip
    land_mm: float | None = number("length", "Land", "Straight length behind the outlet; the bore keeps while it lasts",
                                   typed=(0.0, 20.0))  # fmt: skip
    cone_deg: float | None = number("angle", "Cone", "Whole angle of the cone behind the land", typed=(10.0, 170.0))
    max_c: float | None = number("temperature", "Stands", "Its maker's limit; else that of its kind")
    origin: str | None = choice(ORIGINS, "Origin")
    edge: str | None = choice(EDGES, "Outlet edge", "As it came in; a chamfered or burred one strings from new")
    finish: str | None = choice(FINISHES_INSIDE, "Inside", "As it came in")
    price: float | None = number("money", "Price")
    fitted_on: str | None = None  # machine
    received_utc: str = moment("Received")
    fed: tuple[Feeding, ...] = ()
    inspections: tuple[Inspection, ...] = ()
    photos: tuple[Photo, ...] = ()
    retired: bool = False
    extra: dict[str, Any] = extra()

    @property
    def stands_c(self) -> float | None:
        """What it stands: its own limit, else that of its material, None where neither is known [°C]."""
        if self.max_c is not None:
            return self.max_c
        return NOZZLES[f"stands.{self.material}"].value if self.material else None
