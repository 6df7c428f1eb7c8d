"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Finding, Heavy, OperationReview
from kaustos.core.review.machine.cautions import cautions_of
from kaustos.core.review.machine.codes import BY_CODE
from kaustos.core.review.machine.figures import figures_of, headline_of, tile_of
from kaustos.core.review.machine.findings import findings_of, joined
from kaustos.core.review.machine.fit import fit_findings
from kaustos.core.review.machine.level_findings import level_findings, panel_findings
from kaustos.core.review.machine.nozzle_findings import nozzle_findings
from kaustos.core.review.machine.passport_findings import passport_findings
from kaustos.core.review.machine.questions import questions_of
from kaustos.core.review.machine.remedies import merged, other_machines, upgrade_offers
from kaustos.core.review.machine.warmth_findings import warmth_findings, warmth_of
from kaustos.core.review.making import conclude, offered
from kaustos.core.review.zones import Zone, zones_of

NUMBER = 30
OFFERS = "machine.offers"  # among the heavy results: what the shop's other machines would cure


def _everything(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    zones = zones_of(recipe, context)
    return _beside(findings_of(zones), zones, recipe, context)


def _beside(
    each_alone: tuple[Finding, ...], zones: tuple[Zone, ...], recipe: Recipe, context: Context
) -> tuple[Finding, ...]:
    warmth = warmth_findings(recipe, context, zones, warmth_of(recipe, context))
    machine = (*passport_findings(recipe, context, zones), *warmth)
    return (*joined((*each_alone, *machine)), *fit_findings(recipe, context), *nozzle_findings(recipe, context),
            *level_findings(recipe, context))  # fmt: skip


HEAVY = (
    Heavy(
        key=OFFERS,
        compute=lambda recipe, context: merged(
            other_machines(recipe, context, _everything), upgrade_offers(recipe, context, _everything)
        ),
    ),
)


def _has_more(context: Context) -> bool:
    """Whether the shop has anything to offer: another machine, or changes to this one."""
    return len(context.shop.machines) > 1 or bool(context.shop.upgrades)


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the machine: window, reach and setpoint of every zone."""
    zones = zones_of(recipe, context)
    each_alone = findings_of(zones)
    found = (*_beside(each_alone, zones, recipe, context), *panel_findings(recipe, context, _everything))
    stops = frozenset(each.code for each in found if each.severity == "stop" and _has_more(context))
    headline = headline_of(zones, found)
    return conclude(
        NUMBER, headline, figures_of(recipe, context, zones),
        offered(found, context.results.get(OFFERS), stops), cautions_of(recipe, context),
        questions_of(recipe, context), BY_CODE, tile=tile_of(zones, headline),
    )  # fmt: skip
