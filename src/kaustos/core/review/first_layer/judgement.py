"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Caution, Context, Heavy, OperationReview
from kaustos.core.review.first_layer.codes import BY_CODE
from kaustos.core.review.first_layer.figures import figures_of, tile_of
from kaustos.core.review.first_layer.findings import findings_of
from kaustos.core.review.first_layer.questions import questions_of
from kaustos.core.review.making import conclude

NUMBER = 50
HEAVY: tuple[Heavy, ...] = ()
WIPE = Caution(
    "first_layer.wipe",
    "Wipe the hot tip with a tool, never a finger; a metal brush may short the wires of heater and sensor.",
)


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the first layer: gap, heat and speed together, and who looks at it."""
    return conclude(
        NUMBER,
        "first_layer.look.due",
        figures_of(recipe, context),
        findings_of(recipe, context),
        (WIPE,),
        questions_of(recipe, context),
        BY_CODE,
        tile=tile_of(recipe, context),
    )
