"""The figures of operation 100, and what its tile says."""

import attrs

from kaustos.core.planning.cooling import Cooling
from kaustos.core.records import Estimate, Recipe
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure, Saying
from kaustos.core.review.plate.cooling import CoolingCase, cooling_case


def figures_of(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """Everything that can be asked where it comes from."""
    case = cooling_case(recipe, context)
    release: Estimate | str = "at once, hot"
    if case.way != "hot":
        release = case.release
    return (
        Figure("release.time.open", "Door open, comes off after", _until(case, case.opened, "")),
        Figure("release.time.shut", "Door shut, comes off after", _until(case, case.shut, "no door")),
        Figure("release.heat.at", "Plate for that", release if case.way is not None else UNKNOWN),
        Figure("release.heat.ramp", "Door open, cools in a minute by", _ramp(case)),
        Figure("release.hold.kwh", "An hour on heat takes", UNKNOWN if case.kwh_per_h is None else case.kwh_per_h),
    )


def _until(case: CoolingCase, course: Cooling | None, without: str) -> Estimate | str | Absent:
    if case.plate_c is None or case.way is None:
        return UNKNOWN
    if case.way == "hot":
        return "not waited for"
    if course is None:
        return without or UNKNOWN
    if course.until is None:
        return "not until the door is open"
    return attrs.evolve(course.until, low=min(course.until.low, course.until.value))


def _ramp(case: CoolingCase) -> Estimate | Absent:
    if case.opened is None:
        return UNKNOWN
    ramp = case.opened.steepest_k_min
    return Estimate(ramp, 0.7 * ramp, 1.4 * ramp, "K", "plate in the air of the room", "estimate")


def tile_of(recipe: Recipe, context: Context) -> tuple[Saying, ...]:
    """When it may come off."""
    case = cooling_case(recipe, context)
    if case.way == "hot":
        return (Saying("off hot"),)
    best = case.best
    if best is None or case.way is None:
        return ()
    if best.until is None:
        return (Saying("door first"),)
    return (Saying("{hours:duration}", {"hours": best.until.value / 60.0}),)
