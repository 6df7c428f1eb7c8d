"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Caution, Context, Heavy, OperationReview
from kaustos.core.review.making import conclude
from kaustos.core.review.plate.cooling import cooling_case
from kaustos.core.review.release.codes import BY_CODE
from kaustos.core.review.release.figures import figures_of, tile_of
from kaustos.core.review.release.findings import findings_of
from kaustos.core.review.release.questions import questions_of

NUMBER = 100
HEAVY: tuple[Heavy, ...] = ()
HOT = Caution("release.hot", "Taken off hot: tools laid out before the door opens, heat-proof gloves.")
WARM = Caution("release.warm", "It lets go while it still burns skin: heat-proof gloves.")


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge how the part comes off: heat, door, people."""
    case = cooling_case(recipe, context)
    cautions = [HOT] if case.way == "hot" else [WARM] if case.burns and case.way is not None else []
    return conclude(
        NUMBER, "release.time.open", figures_of(recipe, context), findings_of(recipe, context), tuple(cautions),
        questions_of(recipe, context), BY_CODE, tile=tile_of(recipe, context),
    )  # fmt: skip
