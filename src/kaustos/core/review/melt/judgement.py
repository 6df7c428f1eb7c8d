"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Caution, Context, Heavy, OperationReview
from kaustos.core.review.making import conclude
from kaustos.core.review.melt.codes import BY_CODE
from kaustos.core.review.melt.figures import figures_of, tile_of
from kaustos.core.review.melt.findings import findings_of
from kaustos.core.review.melt.questions import questions_of

NUMBER = 60
HEAVY: tuple[Heavy, ...] = ()
PURGE = Caution(
    "melt.purge",
    "Purged melt burns and sticks: gloves, eye protection, extraction. A plugged hot end builds pressure: never "
    "look into a nozzle, never burn a plug out above its decomposition.",
)


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge melt, beads and layers: whether it flows, fits and keeps."""
    return conclude(
        NUMBER,
        "melt.flow.asked",
        figures_of(recipe, context),
        findings_of(recipe, context),
        (PURGE,),
        questions_of(recipe, context),
        BY_CODE,
        tile=tile_of(recipe, context),
    )
