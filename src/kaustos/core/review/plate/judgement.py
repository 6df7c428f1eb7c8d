"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Heavy, OperationReview
from kaustos.core.review.making import conclude, offered
from kaustos.core.review.plate.cautions import cautions_of
from kaustos.core.review.plate.codes import BY_CODE
from kaustos.core.review.plate.figures import figures_of, tile_of
from kaustos.core.review.plate.findings import findings_of
from kaustos.core.review.plate.offers import TRIED, tried
from kaustos.core.review.plate.questions import questions_of

NUMBER = 40
LEVERS = "plate.levers"  # among the heavy results: every lever with what it does
HEAVY = (Heavy(key=LEVERS, compute=tried),)


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the bond: load against grip, damage and weld; limits, film, agent, room."""
    found = findings_of(recipe, context)
    levers = context.results.get(LEVERS)
    waiting = frozenset(each.code for each in found if each.code in TRIED)
    return conclude(
        NUMBER,
        "plate.bond.lifts",
        figures_of(recipe, context),
        offered(found, levers.offers if levers is not None else None, waiting),
        cautions_of(recipe, context),
        questions_of(recipe, context),
        BY_CODE,
        tile=tile_of(recipe, context),
    )
