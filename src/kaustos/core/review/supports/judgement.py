"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Heavy, OperationReview
from kaustos.core.review.making import conclude
from kaustos.core.review.supports.cautions import cautions_of
from kaustos.core.review.supports.codes import BY_CODE
from kaustos.core.review.supports.figures import figures_of, tile_of
from kaustos.core.review.supports.findings import findings_of
from kaustos.core.review.supports.questions import questions_of

NUMBER = 80
HEAVY: tuple[Heavy, ...] = ()


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge what grows over air: need, way, gap, pair, bath, scars."""
    return conclude(
        NUMBER,
        "supports.place.count",
        figures_of(recipe, context),
        findings_of(recipe, context),
        cautions_of(recipe, context),
        questions_of(recipe, context),
        BY_CODE,
        tile=tile_of(recipe, context),
    )
