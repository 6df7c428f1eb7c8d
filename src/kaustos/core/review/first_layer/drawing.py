"""The picture of operation 50: the first bead in section, to scale, between nozzle and plate."""

import attrs

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.first_layer.bead import FLAT, NOZZLE_K, PLATE_K, PLOUGHS, ROUND, offs_of
from kaustos.core.review.plate.case import case_of, first_width_of


@attrs.frozen
class Gauge:
    """One of the three conditions: where it stands between too little and too much."""

    name: str
    value: float | None
    low: float
    high: float
    unit: str  # quantity


@attrs.frozen
class BeadPicture:
    """Sizes of the bead, and the three conditions."""

    gap_mm: float | None
    width_mm: float | None
    sliced_mm: tuple[float, float] | None
    bore_mm: float | None
    aspect: float | None
    gauges: tuple[Gauge, ...]
    off: int

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return self.width_mm is None and not self.gauges


def picture(recipe: Recipe, context: Context) -> BeadPicture:
    """The first bead of this recipe."""
    case, first = case_of(recipe, context), recipe.first_layer
    width = first_width_of(recipe)
    sliced = (first.width_mm, first.height_mm) if first.width_mm and first.height_mm else None
    gauges = []
    if case.making is not None and case.middle is not None:
        nozzle, plate = case.middle
        gauges = [
            Gauge("Gap: width over height", case.making.aspect, ROUND, FLAT, "ratio"),
            Gauge("Nozzle", case.making.melt_c, nozzle - NOZZLE_K, nozzle + NOZZLE_K, "temperature"),
            Gauge("Plate", case.making.first_plate_c, plate - PLATE_K, plate + PLATE_K, "temperature"),
        ]
    aspect = case.making.aspect if case.making is not None else None
    ways = [each.way for each in offs_of(case)]
    return BeadPicture(
        first.gap_mm or first.height_mm if width is not None else None,
        width,
        sliced,
        context.nozzle.bore_mm if context.nozzle else None,
        None if aspect is None else min(aspect, 2.0 * PLOUGHS),
        tuple(gauges),
        max(ways.count(1), ways.count(-1)),
    )
