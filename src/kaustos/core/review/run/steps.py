"""The steps of one run from the empty machine to the part in the hand, in their order, with clock and height."""

from collections.abc import Collection, Iterator, Sequence

import attrs
import numpy as np

from kaustos.core.estimates import RUN
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.first_layer.bead import first_minutes
from kaustos.core.review.plate.case import agent_kind
from kaustos.core.review.plate.cooling import CoolingCase, cooling_case
from kaustos.core.review.run.along import Along, along_of
from kaustos.core.review.run.case import RunCase, run_case
from kaustos.core.review.run.preflight import Check

NEARLY = 0.97  # of the hours, from which the end is looked at anyway


@attrs.frozen(kw_only=True)
class Step:
    """One step, without words."""

    key: str  # check.<line>, or what is done
    phase: str  # one of PHASES
    at_h: float | None = None  # after the first move
    at_mm: float | None = None
    wait_min: float | None = None  # from the end of the step before it
    check: Check | None = None  # the line that does not stand
    is_safety: bool = False


def steps_of(
    recipe: Recipe, context: Context, checks: Sequence[Check], safety: Collection[str]
) -> tuple[Step, ...]:  # fmt: skip
    """Every step of a run.

    Parameters
    ----------
    recipe : Recipe
        What is printed, and how [-]
    context : Context
        Machine, plate, agent, lot, file [-]
    checks : sequence of Check
        The list before the start; lines that do not stand are steps [-]
    safety : collection of str
        Codes of findings whose stop nobody signs for [-]

    Returns
    -------
    tuple of Step
        Before, during and after the print; those during it by the hour [h, min, mm]
    """
    case = run_case(recipe, context)
    before = _before(context, case, checks, safety)
    during = sorted(_during(recipe, context, case), key=lambda each: each.at_h or 0.0)
    return (*before, *during, *_after(cooling_case(recipe, context), case))


def _before(
    context: Context, case: RunCase, checks: Sequence[Check], safety: Collection[str]
) -> Iterator[Step]:  # fmt: skip
    for check in checks:
        if check.state != "met":
            stops = {each.code for each in check.findings if each.severity == "stop"}
            harms = not stops.isdisjoint(safety)
            yield Step(key=f"check.{check.key}", phase="before", check=check, is_safety=harms)
    if case.dry_h > 0.0:
        yield Step(key="dry", phase="before")
        yield Step(key="dried", phase="before", wait_min=60.0 * case.dry_h)
    if agent_kind(context) is not None:
        yield Step(key="coat", phase="before")
    yield Step(key="load", phase="before")
    yield Step(key="heat", phase="before")
    yield Step(key="hot", phase="before", wait_min=case.heat_min + case.soak_min)
    yield Step(key="start", phase="before")


def _during(recipe: Recipe, context: Context, case: RunCase) -> Iterator[Step]:
    if case.hours is None:
        yield Step(key="look", phase="during")
        return
    whole, first = case.hours.value, first_minutes(recipe, context)
    look = min((first if first is not None else RUN["look_min"].value) / 60.0, whole)
    yield Step(key="look", phase="during", at_h=look)
    corners = look + RUN["corners_min"].value / 60.0
    if corners < whole:
        yield Step(key="corners", phase="during", at_h=corners)
    rests = [each for each in case.hands if each.name in ("coat", "it waits") and each.at_min > 0.0]
    for number, each in enumerate(rests, start=1):
        key = "coat_pause" if each.name == "coat" else "pause"
        yield Step(key=f"{key}.{number}", phase="during", at_h=each.at_min / 60.0)
    along = along_of(recipe, context)
    if along is not None:
        yield from _heights(along, corners)


def _heights(along: Along, after_h: float) -> Iterator[Step]:
    """Heights at which something is likeliest to be seen: the narrowest top, and the weakest weld."""
    usual = float(np.median(along.seconds))
    thin = int(np.argmin(along.seconds))
    found = []
    if along.seconds[thin] < RUN["thin"].value * usual:
        found.append(("narrow", float(along.tops_mm[thin])))
    if along.heat.at_mm is not None:
        found.append(("weak", along.heat.at_mm))
    for key, height in found:
        spot = along.at_height(height)
        if after_h < spot.at_h < NEARLY * along.hours:
            yield Step(key=key, phase="during", at_h=spot.at_h, at_mm=height)


def _after(cooling: CoolingCase, case: RunCase) -> Iterator[Step]:
    yield Step(key="end", phase="after", at_h=None if case.hours is None else case.hours.value)
    if cooling.way != "hot":
        waits = cooling.best is not None and cooling.best.until is not None
        yield Step(key="cool", phase="after", wait_min=case.cool_min if waits else None)
    yield Step(key="free", phase="after")
    yield Step(key="look_cold", phase="after")
    yield Step(key="clean", phase="after")
    yield Step(key="close", phase="after")
