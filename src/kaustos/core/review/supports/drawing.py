"""The picture of operation 80: the part from below, what of it wants help, what reaches it, and the lean it bears."""

import attrs

from kaustos.core.planning.support import SORTS, Need, decision_on, reach_of
from kaustos.core.records import Decision, Overhang, Recipe
from kaustos.core.records.part import Ring
from kaustos.core.review.contract import Context
from kaustos.core.review.supports.case import SupportCase, support_case


@attrs.frozen(kw_only=True)
class PlacePicture:
    """One place that grows over air."""

    number: int
    place: Overhang
    words: str
    standing: str  # stop, watch, clear; open where it wants nothing or is to get none
    reach: str  # reached, unreached, closed
    decision: Decision | None

    @property
    def outline(self) -> Ring:
        """Seen from below [mm]."""
        return self.place.outline


@attrs.frozen(kw_only=True)
class SupportPicture:
    """The part from below, and how much of it leans by how much."""

    size: tuple[float, float, float] = (0.0, 0.0, 0.0)
    footprint: tuple[tuple[Ring, ...], ...] = ()
    places: tuple[PlacePicture, ...] = ()  # by number, which stays whatever is decided
    lean: tuple[tuple[float, float], ...] = ()  # area beyond each angle [deg, cm²]
    limit: tuple[float, float, float]
    set_deg: float | None = None
    is_looked_at: bool = False

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.is_looked_at


def picture(recipe: Recipe, context: Context) -> SupportPicture:
    """The part of this recipe from below."""
    case = support_case(recipe, context)
    part, limit = context.part, case.borne.limit
    band = (limit.low, limit.value, limit.high)
    if part is None or part.shape is None or part.shape.overhangs is None or case.needs is None:
        return SupportPicture(limit=band)
    shape, every = part.shape, part.shape.overhangs
    wanted = {id(need.place): need for need in case.needs}
    places = tuple(
        _place(number, place, wanted.get(id(place)), decision_on(place, part.decided), case)
        for number, place in enumerate(every, 1)
    )
    angles = [float(each) for each in range(30, 91, 2)]
    return SupportPicture(
        size=(shape.size_x_mm, shape.size_y_mm, shape.size_z_mm), footprint=shape.footprint, places=places,
        lean=tuple((each, sum(place.beyond(each).area_mm2 for place in every) / 100.0) for each in angles), limit=band,
        set_deg=recipe.supports.from_deg if case.is_held else None, is_looked_at=True,
    )  # fmt: skip


def _place(
    number: int, place: Overhang, need: Need | None, decision: Decision | None, case: SupportCase
) -> PlacePicture:
    if need is None:
        is_left = any(each.place is place for each, _ in case.left)
        words = "left free" if is_left else "drawn support" if decision is not None else "bears itself"
        standing = "stop" if is_left else "open"
        return PlacePicture(
            number=number, place=place, words=words, standing=standing, reach="reached", decision=decision
        )  # fmt: skip
    reach = reach_of(need)
    held = case.is_held and not (reach == "closed" or (reach == "unreached" and case.way != "soluble"))
    standing = "clear" if held else "stop" if need.is_certain or case.is_held else "watch"
    return PlacePicture(
        number=number, place=place, words=SORTS[need.sort], standing=standing, reach=reach, decision=decision
    )  # fmt: skip
