"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Heavy, OperationReview
from kaustos.core.review.making import conclude, offered
from kaustos.core.review.stock.cautions import cautions_of
from kaustos.core.review.stock.codes import BY_CODE
from kaustos.core.review.stock.conditions import is_water_known
from kaustos.core.review.stock.figures import figures_of, tile_of
from kaustos.core.review.stock.findings import findings_of
from kaustos.core.review.stock.offers import OFFERED, offers_of
from kaustos.core.review.stock.plan import plan_of
from kaustos.core.review.stock.questions import questions_of

NUMBER = 20
OFFERS = "stock.offers"  # among the heavy results: what the shop's other dryers, bodies and lots would do
HEAVY = (Heavy(key=OFFERS, compute=offers_of),)


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the spool: how wet it is when printing starts and ends, what the dryer can do, whether it is enough."""
    plan = plan_of(recipe, context)
    found = offered(findings_of(recipe, context, plan), context.results.get(OFFERS), frozenset(OFFERED))
    return conclude(
        NUMBER, "stock.drying.time", figures_of(recipe, context, plan), found, cautions_of(recipe, context),
        questions_of(recipe, context), BY_CODE, tile=tile_of(plan, is_known=is_water_known(recipe, context)),
    )  # fmt: skip
