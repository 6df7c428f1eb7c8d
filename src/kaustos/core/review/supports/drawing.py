"""The picture of operation 80: the part from below, what of it wants help, what reaches it, and the lean it bears."""

import attrs
import numpy as np

from kaustos.core.estimates import SUPPORT
from kaustos.core.planning.bath import contents_of, course_of, hours_in, newest_in, slow_in
from kaustos.core.planning.configuration import calibrations_of, measured_of
from kaustos.core.planning.gap_series import GapStep, steps_in
from kaustos.core.planning.support import SORTS, Need, decision_on, reach_of
from kaustos.core.records import Decision, Estimate, Overhang, Recipe
from kaustos.core.records.part import Ring
from kaustos.core.review.contract import Context
from kaustos.core.review.heat.pauses import Pause, pause_plan
from kaustos.core.review.melt.case import same_stuff
from kaustos.core.review.supports.case import SupportCase, course_in, rest_min, support_case, usual_gap


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
class GapSaid:
    """What somebody says of the gap."""

    layers: float
    low: float
    high: float
    source: str
    is_own: bool = False  # by the series of this machine and lot


@attrs.frozen(kw_only=True)
class BathPicture:
    """How the wash of this plate would go on, or the one that lies in the bath goes on."""

    of: str  # whose it is
    at_h: tuple[float, ...]
    left: tuple[tuple[float, ...], ...]  # share that is still on: least, likely, most [1]
    hours: Estimate | None
    looks: tuple[tuple[float, str], ...]  # of that wash [h, what was seen]
    fill: tuple[float, float, float]  # dissolved, this plate's, what the bath takes [g]


@attrs.frozen(kw_only=True)
class SupportPicture:
    """The part from below, how much of it leans by how much; gaps as they were tried, the bath over time, pauses."""

    size: tuple[float, float, float] = (0.0, 0.0, 0.0)
    footprint: tuple[tuple[Ring, ...], ...] = ()
    places: tuple[PlacePicture, ...] = ()  # by number, which stays whatever is decided
    lean: tuple[tuple[float, float], ...] = ()  # area beyond each angle [deg, cm²]
    limit: tuple[float, float, float]
    set_deg: float | None = None
    is_looked_at: bool = False
    gaps: tuple[GapSaid, ...] = ()
    series: tuple[GapStep, ...] = ()
    gap_layers: float | None = None  # as set
    bath: BathPicture | None = None
    pauses: tuple[Pause, ...] = ()  # for a coat by hand
    rest_min: float = 0.0

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.is_looked_at and not self.series and self.bath is None

    @property
    def empty_views(self) -> tuple[str, ...]:
        """The views that have nothing to show."""
        has = {"Part": self.is_looked_at, "Gap": bool(self.series), "Bath": self.bath is not None}
        return tuple(view for view, shown in has.items() if not shown)


def picture(recipe: Recipe, context: Context) -> SupportPicture:
    """The part of this recipe from below."""
    case = support_case(recipe, context)
    part, limit = context.part, case.borne.limit
    band = (limit.low, limit.value, limit.high)
    if part is None or part.shape is None or part.shape.overhangs is None or case.needs is None:
        return SupportPicture(
            limit=band,
            gaps=_gaps(case, context),
            series=_series(case),
            gap_layers=_layers(recipe),
            bath=_bath(case, recipe),
        )
    shape, every = part.shape, part.shape.overhangs
    wanted = {_where(need.place): need for need in case.needs}
    coat = next((each for each in case.ways if each.key == "coat"), None)
    rest = rest_min(recipe)
    places = tuple(
        _place(number, place, wanted.get(_where(place)), decision_on(place, part.decided), case)
        for number, place in enumerate(every, 1)
    )
    angles = [float(each) for each in range(30, 91, 2)]
    return SupportPicture(
        size=(shape.size_x_mm, shape.size_y_mm, shape.size_z_mm), footprint=shape.footprint, places=places,
        lean=tuple((each, sum(place.beyond(each).area_mm2 for place in every) / 100.0) for each in angles), limit=band,
        set_deg=recipe.supports.from_deg if case.is_held else None, is_looked_at=True, gaps=_gaps(case, context),
        series=_series(case), gap_layers=_layers(recipe), bath=_bath(case, recipe),
        pauses=pause_plan(recipe, context, coat.cost.pauses, rest, limits=True) if coat is not None else (),
        rest_min=rest,
    )  # fmt: skip


def _where(place: Overhang) -> tuple[float, float, float]:
    return place.x_mm, place.y_mm, place.low_mm


def _layers(recipe: Recipe) -> float | None:
    gap, layer = recipe.supports.gap_mm, recipe.melt.height_mm
    return None if gap is None or layer is None else gap / layer


def _series(case: SupportCase) -> tuple[GapStep, ...]:
    return steps_in(case.series.values) if case.series is not None and case.series.is_valid else ()


def _gaps(case: SupportCase, context: Context) -> tuple[GapSaid, ...]:
    """What the series of this machine says, those of other machines with the same stuff, and practice."""
    found = []
    own = case.series.values.get("layers") if case.series is not None and case.series.is_valid else None
    if own is not None:
        found.append(GapSaid(layers=own, low=own, high=own, source="series here", is_own=True))
    lots = same_stuff(context).split()
    for machine in context.shop.machines:
        known = measured_of(calibrations_of(machine, context.shop.calibrations), "support_gap", lots)
        if known is None or not known.is_valid or (context.machine is not None and machine.id == context.machine.id):
            continue
        if (layers := known.values.get("layers")) is not None:
            found.append(GapSaid(layers=layers, low=layers, high=layers, source=f"series on {machine.name}"))
    usual = SUPPORT["gap_welds" if usual_gap(None, case.polymer) != SUPPORT["gap_layers"].value else "gap_layers"]
    return (*found, GapSaid(layers=usual.value, low=usual.low, high=usual.high, source="practice"))


def _bath(case: SupportCase, recipe: Recipe) -> BathPicture | None:
    """This plate's wash; where nobody knows what is on it, the newest that lies in the bath."""
    course, material, bath = course_in(case, recipe), case.material, case.bath
    before, last = (contents_of(bath).grams, newest_in(bath)) if bath is not None else (0.0, None)
    volume = bath.volume_ml if bath is not None else recipe.supports.bath_ml
    of = "these parts"
    if course is None and bath is not None and last is not None and material is not None and last.supports_g:
        before, of = before - last.supports_g, last.part
        course = course_of(last.supports_g, material, volume or 0.0, before, bath.warm_c, slow_in(bath, material))
    if course is None or material is None or material.grams_per_l is None:
        return None
    looks = tuple((hours_in(last, each.at_utc), each.seen or "") for each in last.looks) if last is not None else ()
    shown = 1.4 * (course.hours.high if course.hours is not None else SUPPORT["bath_given_up"].value / 2.0)
    at = np.linspace(0.0, max(shown, 1.0, *(hours for hours, _ in looks)), 48)
    takes = material.grams_per_l.value * (volume or 0.0) / 1e3
    return BathPicture(
        of=of, at_h=tuple(at.tolist()), left=tuple(tuple(each.tolist()) for each in course.left_at(at)),
        hours=course.hours, looks=looks if of != "these parts" else (), fill=(before, course.supports_g, takes),
    )  # fmt: skip


_DECIDED = {"drawn": "drawn support", "skin": "skin, drilled open"}


def _place(
    number: int, place: Overhang, need: Need | None, decision: Decision | None, case: SupportCase
) -> PlacePicture:
    if need is None:
        is_left = any(each.place is place for each, _ in case.left)
        words = (
            "left free"
            if is_left
            else _DECIDED.get(decision.what or "", "bears itself")
            if decision
            else "bears itself"
        )
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
