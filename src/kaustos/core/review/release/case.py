"""Everything that taking a part off rests on: how it cools, and who is there when it has to come off hot."""

from datetime import timedelta

import attrs

from kaustos.core.estimates import RUN
from kaustos.core.memo import by_identity
from kaustos.core.planning.run_day import Hand, Start, judged_start
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.plate.cooling import CoolingCase, cooling_case
from kaustos.core.review.run.case import run_case


@attrs.frozen(kw_only=True, eq=False)
class ReleaseCase:
    """One recipe at the end of its print."""

    cooling: CoolingCase
    end_off: Start | None  # the hands that a part taken off hot wants, by the start that is proposed
    hold_h: float | None  # from its end until somebody is there; None where nobody ever is, or no end is known
    timer_h: float | None  # that the cut-off of the machine leaves after its end


@by_identity(64)
def release_case(recipe: Recipe, context: Context) -> ReleaseCase:
    """The case of a recipe; remembered as long as nothing that it rests on is another."""
    off, run = _hot_off(recipe, context), run_case(recipe, context)
    wait = None if off is None else run.staffed.next_min(off.at)
    timer = context.machine.timer_h if context.machine is not None else None
    left = None
    if timer and run.hours is not None:
        left = max(timer - (run.heat_min + run.soak_min) / 60.0 - run.hours.value, 0.0)
    return ReleaseCase(
        cooling=cooling_case(recipe, context), end_off=off, hold_h=None if wait is None else wait / 60.0, timer_h=left
    )


def _hot_off(recipe: Recipe, context: Context) -> Start | None:
    """Whether somebody is there when a part has to come off hot, by the start that operation 90 proposes."""
    run = run_case(recipe, context)
    if recipe.plate.release != "hot" or run.proposed is None or run.hours is None:
        return None
    end = run.proposed.at + timedelta(hours=run.hours.value)
    return judged_start(end, (Hand(name="take it off hot", at_min=0.0, minutes=RUN["hot_min"].value),), run.staffed)
