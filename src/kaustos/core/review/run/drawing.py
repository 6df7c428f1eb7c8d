"""The picture of operation 90: the day as one band, and the file along the height."""

from datetime import datetime

import attrs
import numpy as np

from kaustos.core.planning.run_day import WEEK_MIN
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.run.case import RunCase, run_case


@attrs.frozen(kw_only=True)
class Stretch:
    """Something that lasts, in hours from the proposed first move."""

    row: str  # spool, machine, people
    name: str
    from_h: float
    to_h: float
    is_outside: bool = False  # whether nobody is there for it


@attrs.frozen(kw_only=True)
class RunPicture:
    """The day by the proposed start, and what the file says along the height."""

    start: str = ""  # weekday and hour of the first move
    now_h: float | None = None  # from the first move
    stretches: tuple[Stretch, ...] = ()
    staffed: tuple[tuple[float, float], ...] = ()  # from, to [h]
    heights_mm: tuple[float, ...] = ()
    seconds: tuple[float, ...] = ()  # of a layer
    flows_mm3_s: tuple[float, ...] = ()
    pauses_mm: tuple[float, ...] = ()

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.stretches and not self.heights_mm

    @property
    def empty_views(self) -> tuple[str, ...]:
        """The views that have nothing to show."""
        return tuple(view for view, has in (("Day", self.stretches), ("File", self.heights_mm)) if not has)


def picture(recipe: Recipe, context: Context) -> RunPicture:
    """The day and the file of this recipe."""
    case = run_case(recipe, context)
    job, start = case.job, case.proposed
    return RunPicture(
        start="" if start is None else start.at.strftime("%a %H:%M"),
        now_h=None if start is None or case.now is None else (case.now - start.at).total_seconds() / 3600.0,
        stretches=tuple(_stretches(case)), staffed=_staffed(case),
        heights_mm=job.heights_mm if job is not None else (), seconds=job.seconds if job is not None else (),
        flows_mm3_s=tuple(each * case.strand_mm2 for each in job.feeds_mm_s) if job is not None else (),
        pauses_mm=tuple(each.at_mm for each in job.pauses) if job is not None else (),
    )  # fmt: skip


def _stretches(case: RunCase) -> list[Stretch]:
    if case.hours is None or case.proposed is None:
        return []
    print_h, cool_h, outside = case.hours.value, case.cool_min / 60.0, set(case.proposed.outside)
    load = next(each for each in case.hands if each.at_min < 0.0)
    hot = (case.heat_min + case.soak_min) / 60.0
    found = [
        Stretch(row="machine", name="heat up, soak" if case.soak_min else "heat up", from_h=-hot, to_h=0.0),
        Stretch(row="machine", name="print", from_h=0.0, to_h=print_h),
        Stretch(row="machine", name="cool", from_h=print_h, to_h=print_h + cool_h),
    ]
    if case.dry_h > 0.0:
        begin = load.at_min / 60.0
        put_in = begin - case.dry_h if case.into_dryer is None else _after(case, case.into_dryer)
        found.append(Stretch(row="spool", name="dry", from_h=put_in, to_h=begin))
    for each in case.hands:
        begin = _after(case, case.when(each) or case.proposed.at)
        found.append(
            Stretch(row="people", name=each.name, from_h=begin, to_h=begin + (each.minutes + each.beside_min) / 60.0,
                    is_outside=each.name in outside)
        )  # fmt: skip
    return found


def _after(case: RunCase, at: datetime) -> float:
    """Hours after the first move."""
    assert case.proposed is not None
    return (at - case.proposed.at).total_seconds() / 3600.0


def _staffed(case: RunCase) -> tuple[tuple[float, float], ...]:
    """Hours with somebody there, near the run, from the first move."""
    stretches = _stretches(case)
    if case.proposed is None or not stretches:
        return ()
    first = int(min(each.from_h for each in stretches) * 60.0) - 60
    last = int(max(each.to_h for each in stretches) * 60.0) + 60
    start = case.proposed.at
    minute = start.weekday() * 1_440 + start.hour * 60 + start.minute
    there = case.staffed.minutes()[np.arange(minute + first, minute + last) % WEEK_MIN]
    edges = np.flatnonzero(np.diff(np.concatenate(([False], there, [False])).astype(np.int8)))
    return tuple(
        ((first + int(begin)) / 60.0, (first + int(end)) / 60.0)
        for begin, end in zip(edges[::2], edges[1::2], strict=True)
    )
