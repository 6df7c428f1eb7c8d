"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Caution, Context, Heavy, OperationReview
from kaustos.core.review.making import conclude
from kaustos.core.review.proof.case import proof_case
from kaustos.core.review.proof.codes import BY_CODE
from kaustos.core.review.proof.figures import figures_of, tile_of
from kaustos.core.review.proof.findings import findings_of
from kaustos.core.review.proof.questions import questions_of

NUMBER = 120
HEAVY: tuple[Heavy, ...] = ()
SHARDS = Caution("proof.shards", "What is pulled or struck throws shards: clamp, goggles, gloves.")


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge on what evidence the recipe stands."""
    case = proof_case(recipe, context)
    cautions = (SHARDS,) if case.pulls is not None else ()
    return conclude(
        NUMBER, "proof.runs.rate", figures_of(recipe, context), findings_of(recipe, context), cautions,
        questions_of(recipe, context), BY_CODE, tile=tile_of(recipe, context),
    )  # fmt: skip
