"""The figures of operation 110, and what its tile says."""

from kaustos.core.planning.annealing import METHOD, SOURCE
from kaustos.core.planning.draws import estimate
from kaustos.core.planning.growth import AXES, print_at
from kaustos.core.records import Estimate, Recipe
from kaustos.core.review.anneal.after import work_list
from kaustos.core.review.anneal.case import AnnealCase, anneal_case
from kaustos.core.review.anneal.water import hours_to_water
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure, Saying

NONE = "not asked for"


def figures_of(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """Everything that can be asked where it comes from."""
    case = anneal_case(recipe, context)
    work = [each.minutes for each in work_list(recipe, context) if each.minutes is not None]
    return (
        Figure("anneal.hold.window", "Hold between", _window(case)),
        Figure("anneal.hold.shown", "Oven shows at the hold", _shown(case)),
        Figure("anneal.hold.crystals", "Crystals in the core at the end", _crystals(case)),
        Figure("anneal.hold.stress", "Stress left in the core", _stress(case)),
        Figure("anneal.ramp.limit", "Ramp that its section bears", _limit(case)),
        Figure("anneal.lag.air", "Face behind the air", _lag(case, "air")),
        Figure("anneal.lag.pack", "Sand or jig", _lag(case, "pack")),
        Figure("anneal.lag.core", "Core behind its skin", _lag(case, "core")),
        Figure("anneal.time.wait", "Waits for the core at the last hold", _wait(case)),
        Figure("anneal.time.whole", "Programme, cold to out", _whole(case)),
        *(Figure(f"anneal.growth.{axis}", f"Grows {words}", _growth(case, axis)) for axis, words in AXES.items()),
        *(Figure(f"anneal.scale.{axis}", f"Print at, {words}", _print_at(case, axis)) for axis, words in AXES.items()),
        Figure("anneal.water.back", "Half its water is back after", _water(case, context)),
        Figure("anneal.work.minutes", "Work by hand afterwards", _sum(work)),
    )  # fmt: skip


def _window(case: AnnealCase) -> str | Absent:
    if case.window is None:
        return UNKNOWN
    return f"{case.window.low:.0f} and {case.window.high:.0f} °C, by {case.window.by}"


def _shown(case: AnnealCase) -> Estimate | str | Absent:
    hold, place = case.hottest_c, case.place
    if hold is None:
        return NONE if not case.is_wanted else UNKNOWN
    if place is None or place.offset_k is None:
        return UNKNOWN
    half = place.even_k / 2.0
    shown = hold - place.offset_k
    return Estimate(shown, shown - half, shown + half, "°C", "hold less offset", "passport of the oven")


def _crystals(case: AnnealCase) -> Estimate | str | Absent:
    if not case.is_wanted:
        return NONE
    if case.found is None:
        return UNKNOWN
    found = case.found.crystals_at_end
    if found is None:
        return "a glass: none" if case.polymer is not None and case.polymer.structure == "amorphous" else UNKNOWN
    return _percent(found)


def _stress(case: AnnealCase) -> Estimate | str | Absent:
    if not case.is_wanted:
        return NONE
    return UNKNOWN if case.found is None else _percent(case.found.stress_at_end)


def _percent(share: Estimate) -> Estimate:
    return Estimate(
        100.0 * share.value, 100.0 * share.low, 100.0 * share.high, "%", share.method, share.source
    )  # fmt: skip


def _limit(case: AnnealCase) -> Estimate | str | Absent:
    if not case.is_wanted:
        return NONE
    if case.limit is None:
        return UNKNOWN
    ramp = case.limit.ramp_k_h
    return Estimate(ramp, 0.6 * ramp, 2.0 * ramp, "K/h", case.limit.by, "limits are estimates")


def _lag(case: AnnealCase, which: str) -> Estimate | str | Absent:
    if not case.is_wanted:
        return NONE
    if case.found is None:
        return UNKNOWN
    lag = getattr(case.found.lags, which)
    if which == "pack" and not lag.any():
        return "lies free"
    return estimate(lag, "K", "steepest ramp, once it runs steadily", SOURCE)


def _wait(case: AnnealCase) -> Estimate | str | Absent:
    if not case.is_wanted:
        return NONE
    if case.found is None:
        return UNKNOWN
    wait = case.found.waits_h[-1]
    return Estimate(wait, 0.6 * wait, 1.7 * wait, "h", "core within 3 K of the hold", SOURCE)


def _whole(case: AnnealCase) -> Estimate | str | Absent:
    if not case.is_wanted:
        return NONE
    if case.found is None:
        return UNKNOWN
    hours, doubt = case.found.hours, 0.6 * sum(case.found.waits_h)
    return Estimate(hours, hours - 0.4 * doubt, hours + doubt, "h", METHOD, SOURCE)


def _growth(case: AnnealCase, axis: str) -> Estimate | str | Absent:
    return NONE if not case.is_wanted else case.growth.get(axis, UNKNOWN)


def _print_at(case: AnnealCase, axis: str) -> Estimate | str | Absent:
    if not case.is_wanted:
        return NONE
    return print_at(case.growth[axis]) if axis in case.growth else UNKNOWN


def _water(case: AnnealCase, context: Context) -> Estimate | str | Absent:
    if case.polymer is None or case.wall is None or case.wall.by == "size":
        return UNKNOWN
    return hours_to_water(case.polymer, case.wall, context) or "takes hardly any"


def _sum(work: list[Estimate]) -> Estimate | str:
    if not work:
        return "none"
    value = sum(each.value for each in work)
    off = sum(max(each.high - each.value, each.value - each.low) ** 2 for each in work) ** 0.5
    return Estimate(value, max(value - off, 0.0), value + off, "min", "steps, independent", "practice, estimate")


def tile_of(recipe: Recipe, context: Context) -> tuple[Saying, ...]:
    """Hold and hours."""
    case = anneal_case(recipe, context)
    if not case.is_wanted:
        return (Saying("as printed"),)
    hold = case.hottest_c
    if hold is None:
        return ()
    if case.found is None:
        return (Saying("{hold:temperature}", {"hold": hold}),)
    values = {"hold": hold, "hours": case.found.hours}
    return (Saying("{hours:duration} {hold:temperature}", values), Saying("{hold:temperature}", values))
