"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Caution, Context, Heavy, OperationReview
from kaustos.core.review.making import conclude
from kaustos.core.review.melt.change import change_over_of
from kaustos.core.review.melt.codes import BY_CODE
from kaustos.core.review.melt.figures import figures_of, tile_of
from kaustos.core.review.melt.findings import findings_of
from kaustos.core.review.melt.questions import questions_of

NUMBER = 60
HEAVY: tuple[Heavy, ...] = ()
PURGE = Caution(
    "melt.purge",
    "Melt that stood, and what is purged, spits, burns and sticks: gloves, eye protection, extraction; a plugged hot "
    "end builds pressure, never look into a nozzle.",
)


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge melt, beads and layers: whether it flows, fits and keeps."""
    return conclude(
        NUMBER,
        "melt.flow.asked",
        figures_of(recipe, context),
        findings_of(recipe, context),
        (PURGE,) if recipe.melt.pause_min or change_over_of(recipe, context) is not None else (),
        questions_of(recipe, context),
        BY_CODE,
        tile=tile_of(recipe, context),
    )
