"""What a run is asked for."""

from collections.abc import Iterator

from kaustos.core.records import Recipe
from kaustos.core.review.contract import GRADES, Context
from kaustos.core.review.making import Question

KEPT = GRADES[-1]


def questions_of(recipe: Recipe, context: Context) -> tuple[Question, ...]:
    """The file, how the machine moves, and what cuts it off."""
    return tuple(_questions(context))


def _questions(context: Context) -> Iterator[Question]:
    yield Question("context.job", context.job is not None, KEPT, False)
    if context.machine is not None:
        yield Question("machine.timer_h", context.machine.timer_h is not None, KEPT, False)
    if context.machine is not None and context.job is not None:
        for name in ("accel_mm_s2", "corner_mm_s"):
            yield Question(f"machine.{name}", getattr(context.machine, name) is not None, KEPT, False)
