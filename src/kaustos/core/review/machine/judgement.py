"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Finding, Heavy, OperationReview
from kaustos.core.review.machine.cautions import cautions_of
from kaustos.core.review.machine.codes import BY_CODE
from kaustos.core.review.machine.figures import figures_of, headline_of, tile_of
from kaustos.core.review.machine.findings import findings_of, joined, shortfall_caps
from kaustos.core.review.machine.fit import fit_findings
from kaustos.core.review.machine.questions import questions_of
from kaustos.core.review.machine.remedies import other_machines
from kaustos.core.review.machine.zones import zones_of
from kaustos.core.review.making import conclude, offered

NUMBER = 30
OFFERS = "machine.offers"  # among the heavy results: what the shop's other machines would cure


def _everything(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    return (*joined(findings_of(zones_of(recipe, context))), *fit_findings(recipe, context))


HEAVY = (
    Heavy(
        key=OFFERS,
        compute=lambda recipe, context: other_machines(recipe, context, _everything),
    ),
)


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the machine: window, reach and setpoint of every zone."""
    zones = zones_of(recipe, context)
    each_alone = findings_of(zones)
    found = (*joined(each_alone), *fit_findings(recipe, context))
    stops = frozenset(each.code for each in found if each.severity == "stop" and len(context.shop.machines) > 1)
    headline = headline_of(zones, found)
    return conclude(
        NUMBER, headline, figures_of(recipe, context, zones),
        offered(found, context.results.get(OFFERS), stops), cautions_of(recipe, context),
        questions_of(recipe, context), BY_CODE, shortfall_caps(each_alone, context.rules.reduced_within_k),
        tile_of(zones, headline),
    )  # fmt: skip
