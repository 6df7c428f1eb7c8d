"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Caution, Context, Heavy, OperationReview
from kaustos.core.review.making import conclude
from kaustos.core.review.run.case import run_case
from kaustos.core.review.run.codes import BY_CODE
from kaustos.core.review.run.figures import figures_of, tile_of
from kaustos.core.review.run.findings import findings_of
from kaustos.core.review.run.questions import questions_of

NUMBER = 90
HEAVY: tuple[Heavy, ...] = ()
ALONE = Caution(
    "run.alone",
    "It runs while nobody is there: smoke alarm, a cut-off that works, nothing that burns, somebody on call.",
)


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the run: file and recipe in step, hours, and who is there."""
    return conclude(
        NUMBER, "run.time.hours", figures_of(recipe, context), findings_of(recipe, context),
        (ALONE,) if run_case(recipe, context).is_alone else (),
        questions_of(recipe, context), BY_CODE, tile=tile_of(recipe, context),
    )  # fmt: skip
