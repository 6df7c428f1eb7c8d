"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.brief.codes import BY_CODE
from kaustos.core.review.brief.figures import figures_of, tile_of
from kaustos.core.review.brief.findings import findings_of, not_planned
from kaustos.core.review.brief.questions import questions_of
from kaustos.core.review.brief.ranking import rank
from kaustos.core.review.brief.state import as_it_will_be
from kaustos.core.review.contract import Context, Heavy, OperationReview, Reads
from kaustos.core.review.making import conclude

NUMBER = 10
RANKING = "brief.ranking"  # among the heavy results: the candidates for this brief
HEAVY = (
    Heavy(
        key=RANKING,
        reads=Reads(recipe=("brief",), context=("shop.polymers", "shop.machines", "shop.dryers", "rules")),
        compute=lambda recipe, context: rank(
            recipe.brief, context.shop.polymers.values(), context.shop.machines, context.rules, context.shop.dryers
        ),
    ),
)


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the brief: margin in service, weather, chemicals, load, look, price, what the purpose asks."""
    ranking = context.results.get(RANKING)
    seen = as_it_will_be(recipe, context.polymer)
    found = (*findings_of(seen, context, ranking), *not_planned(recipe, context))
    return conclude(
        NUMBER, "brief.service.margin", figures_of(seen, context, ranking), found,
        (), questions_of(seen, context), BY_CODE, tile=tile_of(seen, context),
    )  # fmt: skip
