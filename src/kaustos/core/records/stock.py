"""What is on the shelf: a lot on its spool with where it has been and what it weighed, and the dryers."""

from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.memo import by_identity
from kaustos.core.records.fields import choice, extra, flag, moment, number, text
from kaustos.core.records.own_polymer import FILLER_TITLES, with_filler
from kaustos.core.records.photo import Photo
from kaustos.core.records.polymer import Datum, Polymer
from kaustos.core.records.quantities import AIR_C

FLANGES = {
    "card": "Card",
    "polystyrene": "Polystyrene",
    "styrenic": "ABS or the like",
    "polycarbonate": "Polycarbonate",
    "metal": "Metal or wire",
}
FEEDS = {"open": "Open air", "dry_box": "Dry box", "heated": "Heated dryer"}
WAITS = {"sealed": "Sealed bag", **FEEDS}
STAYS = {"sealed": "Sealed pack", "open": "Open air", "dry_box": "Dry box", "dryer": "Dryer"}
INGREDIENTS = {
    "declared": "All declared",
    "asked": "No answer yet",
    "secret": "Kept secret",
}
STRAND_SIGNS = {
    "bubbles": "Bubbles or pops",
    "vapour": "Vapour",
    "drool": "Drools by itself",
    "dull": "Dull or rough wall",
    "thin": "Thin or uneven",
    "colour": "Off colour",
}
AIRS = {"room": "Room air", "dry": "Dried air", "vacuum": "Vacuum"}
DIAMETERS = {"1.75": "1.75 mm", "2.85": "2.85 mm"}
COMMON_DIAMETER = "1.75"  # taken where none is recorded


@attrs.frozen(kw_only=True)
class Stay:
    """Where a spool was from a moment on, until the next stay begins."""

    place: str = attrs.field()
    from_utc: str = moment("From")
    dryer: str | None = None  # id: in which of the shop's
    temperature_c: float | None = number("temperature", "Temperature there", typed=AIR_C)
    humidity_pct: float | None = number("share", "Relative humidity there")
    extra: dict[str, Any] = extra()

    @place.validator
    def _check(self, _: object, value: str) -> None:
        if value not in STAYS:
            raise FieldError("place", f"{value!r} is none of {', '.join(STAYS)}")


@attrs.frozen(kw_only=True)
class Weighing:
    """One reading of the whole spool on a scale."""

    at_utc: str = moment("When")
    gross_g: float | None = number("mass", "Gross")
    scale_g: float | None = number("mass", "Repeatability of the scale")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class Reserve:
    """Filament put aside for other ends than a run: an agent to be mixed, test bars, a colleague."""

    grams: float | None = number("mass", "Put aside")
    purpose: str = text("For")
    at_utc: str = moment("When")
    extra: dict[str, Any] = extra()


@attrs.frozen(kw_only=True)
class StrandCheck:
    """A strand purged into the open air and looked at: the signs of water that it showed."""

    at_utc: str = moment("When")
    signs: tuple[str, ...] = attrs.field(default=())
    photo: Photo | None = None
    extra: dict[str, Any] = extra()

    @signs.validator
    def _check(self, _: object, value: tuple[str, ...]) -> None:
        for each in value:
            if each not in STRAND_SIGNS:
                raise FieldError("signs", f"{each!r} is none of {', '.join(STRAND_SIGNS)}")


@attrs.frozen(kw_only=True)
class Lot:
    """A lot on its spool, with the shop's own values for the grade and for the lot itself."""

    id: str
    name: str = text("Lot")
    grade: str = text("Grade")
    polymer: str | None = None
    colour: str = text("Colour")
    grade_values: Mapping[str, Datum] = attrs.field(factory=dict, hash=False)
    lot_values: Mapping[str, Datum] = attrs.field(factory=dict, hash=False)
    ingredients: str | None = choice(INGREDIENTS, "Ingredients", "Fillers, pigments and additives, as the maker says")
    filler: str | None = choice(FILLER_TITLES, "Filler", "Fibre, wood, metal, glow: wears the nozzle")
    recycled: bool | None = flag("Recycled", "Feedstock that was printed or moulded before")
    received_utc: str = moment("Received")
    opened_utc: str = moment("Opened")
    diameter: str | None = choice(DIAMETERS, "Strand", "Diameter of the filament")
    net_g: float | None = number("mass", "Filament when full", "As sold, without the spool")
    tare_g: float | None = number("mass", "Empty spool", "Weighed, or from a spool of the same kind")
    depth_mm: float | None = number("length", "Depth of winding", "From the outermost turn to the core")
    width_mm: float | None = number("length", "Width of winding", "Between the flanges")
    flange: str | None = choice(FLANGES, "Spool body", "Its softening caps the dryer")
    feed: str | None = choice(FEEDS, "Fed from", "Where the spool hangs while it is printed")
    box_humidity_pct: float | None = number("share", "Dry box humidity")
    desiccant_utc: str = moment("Desiccant put in", "When its dry box last got fresh desiccant")
    loaded_on: str | None = None  # machine
    reorder_g: float | None = number("mass", "Order again below")
    lead_h: float | None = number("duration", "Lead time", "From order to shelf, such as 14 d")
    ordered_g: float | None = number("mass", "Ordered", "More of this grade and colour that is on its way")
    ordered_utc: str = moment("Ordered on")
    stays: tuple[Stay, ...] = ()
    weighings: tuple[Weighing, ...] = ()
    reserves: tuple[Reserve, ...] = ()
    strands: tuple[StrandCheck, ...] = ()
    photos: tuple[Photo, ...] = ()  # of its label
    retired: bool = False
    extra: dict[str, Any] = extra()

    @property
    def radius_m(self) -> float:
        """Radius of the strand; that of the common diameter where it is not recorded [m]."""
        return float(self.diameter or COMMON_DIAMETER) / 2000.0

    @property
    def gross_g(self) -> float | None:
        """Spool and filament at the last weighing, None where it was never weighed [g]."""
        return next((each.gross_g for each in reversed(self.weighings) if each.gross_g is not None), None)

    @property
    def weighed_g(self) -> float | None:
        """Filament at the last weighing, the empty spool taken off, or a sealed pack's all; None where not known."""
        gross = self.gross_g
        if gross is None and all(stay.place == "sealed" for stay in self.stays):
            return self.net_g  # as sold
        return None if gross is None or self.tare_g is None else gross - self.tare_g


@attrs.frozen(kw_only=True)
class Dryer:
    """A dryer of the shop: how hot it gets, and what air it dries with."""

    id: str
    name: str = text("Dryer")
    max_c: float | None = number("temperature", "Hottest", "Measured with a second sensor where it can be", typed=AIR_C)
    air: str | None = choice(AIRS, "Air", "Room air, air dried to a dew point, or vacuum")
    dew_point_c: float | None = number(
        "temperature", "Dew point of its air", "Of dried air; minus 30 °C is usual", typed=AIR_C
    )
    pressure_mbar: float | None = number("pressure", "Pressure", "Of a vacuum dryer")
    places: float | None = number("ratio", "Spools at once", "How many it holds; they share it")
    retired: bool = False
    extra: dict[str, Any] = extra()


def with_own_values(polymer: Polymer, lot: Lot | None) -> Polymer:
    """The polymer as this lot is known: the lot's values over the grade's over the library's.

    Parameters
    ----------
    polymer : Polymer
        Typical values of the generic polymer [units of the data]
    lot : Lot or None
        Own values of the lot and of its grade [units of the data]

    Returns
    -------
    Polymer
        The polymer with every own value in the place of the typical one [units of the data]
    """
    return polymer if lot is None else _with(polymer, lot.filler, lot.grade_values, lot.lot_values)


@by_identity(256)
def _with(polymer: Polymer, filler: str | None, of_grade: Mapping[str, Datum], of_lot: Mapping[str, Datum]) -> Polymer:
    """One and the same polymer for the same values: a lot that is weighed has the polymer that it had."""
    filled = with_filler(polymer, filler)
    return attrs.evolve(filled, values={**filled.values, **of_grade, **of_lot}) if of_grade or of_lot else filled
