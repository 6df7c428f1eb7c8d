"""The picture of operation 80: the part from below, what of it wants help, what reaches it, and the lean it bears."""

import attrs

from kaustos.core.planning.support import SORTS
from kaustos.core.records import Recipe
from kaustos.core.records.part import Ring
from kaustos.core.review.contract import Context
from kaustos.core.review.supports.case import closed, support_case, unreached


@attrs.frozen
class PlacePicture:
    """One place that wants help."""

    number: int
    outline: Ring
    x_mm: float
    y_mm: float
    low_mm: float
    words: str
    standing: str  # stop, watch, clear
    reach: str  # reached, unreached, closed


@attrs.frozen
class SupportPicture:
    """The part from below, and how much of it leans by how much."""

    size: tuple[float, float, float]
    footprint: tuple[tuple[Ring, ...], ...]
    places: tuple[PlacePicture, ...]
    lean: tuple[tuple[float, float], ...]  # area beyond each angle [deg, cm²]
    limit: tuple[float, float, float]
    set_deg: float | None
    is_looked_at: bool

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.is_looked_at


def picture(recipe: Recipe, context: Context) -> SupportPicture:
    """The part of this recipe from below."""
    case = support_case(recipe, context)
    shape = context.part.shape if context.part is not None else None
    limit = case.borne.limit
    band = (limit.low, limit.value, limit.high)
    if shape is None or shape.overhangs is None or case.needs is None:
        return SupportPicture((0.0, 0.0, 0.0), (), (), (), band, None, is_looked_at=False)
    shut, away = closed(case.needs), unreached(case.needs)
    places = []
    for number, need in enumerate(case.needs, 1):
        reach = "closed" if need in shut else "unreached" if need in away else "reached"
        held = case.is_held and not (reach == "closed" or (reach == "unreached" and case.way != "soluble"))
        standing = "clear" if held else "stop" if need.is_certain or case.is_held else "watch"
        places.append(
            PlacePicture(
                number, need.place.outline, need.place.x_mm, need.place.y_mm, need.place.low_mm, SORTS[need.sort],
                standing, reach,
            )
        )  # fmt: skip
    angles = [float(each) for each in range(30, 91, 2)]
    lean = tuple((each, sum(place.beyond(each).area_mm2 for place in shape.overhangs) / 100.0) for each in angles)
    return SupportPicture(
        (shape.size_x_mm, shape.size_y_mm, shape.size_z_mm), shape.footprint, tuple(places), lean, band,
        recipe.supports.from_deg if case.is_held else None, is_looked_at=True,
    )  # fmt: skip
