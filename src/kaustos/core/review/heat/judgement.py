"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Heavy, OperationReview
from kaustos.core.review.heat.codes import BY_CODE
from kaustos.core.review.heat.figures import figures_of, tile_of
from kaustos.core.review.heat.findings import findings_of, weld_caps
from kaustos.core.review.heat.levers import TRIED, tried
from kaustos.core.review.heat.questions import questions_of
from kaustos.core.review.making import conclude, offered

NUMBER = 70
LEVERS = "heat.levers"  # among the heavy results: every lever with what it does
HEAVY = (Heavy(key=LEVERS, compute=tried),)


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge heat and welds: whether layers become one piece, and keep their shape."""
    found = findings_of(recipe, context)
    levers = context.results.get(LEVERS)
    waiting = frozenset(each.code for each in found if each.code in TRIED)
    return conclude(
        NUMBER,
        "heat.weld.share",
        figures_of(recipe, context),
        offered(found, levers.offers if levers is not None else None, waiting),
        (),
        questions_of(recipe, context),
        BY_CODE,
        weld_caps(recipe, context),
        tile_of(recipe, context),
    )
