"""The figures of operation 90, and what its tile says."""

from kaustos.core.records import Estimate, Recipe
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure, Saying
from kaustos.core.review.run.case import RunCase, run_case

SOURCE = "the job file"


def figures_of(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """Everything that can be asked where it comes from."""
    case = run_case(recipe, context)
    job, hours = case.job, case.hours
    flow = None if job is None or case.fed_mm3 is None or not job.hours else case.fed_mm3 / job.hours / 3600.0
    fastest = None if job is None or job.fastest_mm_s is None else job.fastest_mm_s * case.strand_mm2
    layers = None if job is None else sum(job.layers)
    return (
        Figure("run.time.hours", "Print takes", UNKNOWN if hours is None else hours),
        Figure("run.job.grams", "Filament of the file", _exact(case.grams, "g", "length fed, section, density")),
        Figure("run.job.layers", "Layers", _exact(layers, "1", "heights at which filament is laid")),
        Figure("run.job.flow", "Mean flow", _exact(flow, "mm³/s", "filament over hours")),
        Figure("run.job.fastest", "Highest flow", _exact(fastest, "mm³/s", "words of its moves")),
        Figure("run.day.start", "Start proposed", _when(case)),
        Figure("run.day.end", "Part can come off", _end(case)),
        Figure("run.day.hands", "Work on the run", _exact(_hands_min(case), "min", "sum of the tasks")),
        Figure("run.day.outside", "Of it with nobody there", _outside(case)),
    )


def _exact(value: float | None, unit: str, method: str) -> Estimate | Absent:
    return UNKNOWN if value is None else Estimate(value, value, value, unit, method, SOURCE)


def _when(case: RunCase) -> str | Absent:
    return UNKNOWN if case.proposed is None else case.proposed.at.strftime("%a %H:%M")


def _end(case: RunCase) -> str | Absent:
    return UNKNOWN if case.end is None else case.end.strftime("%a %H:%M")


def _hands_min(case: RunCase) -> float | None:
    return sum(each.minutes for each in case.hands) if case.hands else None


def _outside(case: RunCase) -> Estimate | Absent:
    if case.proposed is None:
        return UNKNOWN
    lost = case.proposed.outside_min
    return Estimate(lost, lost, lost, "min", "all starts of a week tried", "hours of the shop")


def tile_of(recipe: Recipe, context: Context) -> tuple[Saying, ...]:
    """How long it runs."""
    hours = run_case(recipe, context).hours
    return () if hours is None else (Saying("{hours:duration}", {"hours": hours.value}),)
