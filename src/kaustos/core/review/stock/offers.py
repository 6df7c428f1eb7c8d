"""What else the shop has for a finding, tried away from the drag: other dryers, another spool body, other lots."""

from collections.abc import Callable, Mapping

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Advice, Choose, Context, Finding, Remedy
from kaustos.core.review.making import Offers
from kaustos.core.review.stock.findings import findings_of, is_in_dryer
from kaustos.core.review.stock.lot import free_g, lot_in_use, supply
from kaustos.core.review.stock.lot_findings import qualified_colours
from kaustos.core.review.stock.plan import Plan, plan_of
from kaustos.core.review.stock.remedies import drying_elsewhere, other_dryers, other_lots, rewound, window

Offer = Callable[[Recipe, Context, Plan | None, Finding], tuple[Remedy, ...]]


def offers_of(recipe: Recipe, context: Context) -> Offers:
    """By finding, what else the shop has for it."""
    plan = plan_of(recipe, context)
    findings = findings_of(recipe, context, plan)
    return {
        (finding.code, finding.field): OFFERED[finding.code](recipe, context, plan, finding)
        for finding in findings
        if finding.code in OFFERED
    }


def _drying(recipe: Recipe, context: Context, plan: Plan | None, finding: Finding) -> tuple[Remedy, ...]:
    return drying_elsewhere(recipe, context, plan) if plan else ()


def _hotter(recipe: Recipe, context: Context, plan: Plan | None, finding: Finding) -> tuple[Choose, ...]:
    low, _ = window(context)
    found = other_dryers(recipe, context, plan) if plan else ()
    return tuple(each for each in found if low is not None and float(each.values["celsius"]) >= low.value)


def _other_body(recipe: Recipe, context: Context, plan: Plan | None, finding: Finding) -> tuple[Remedy, ...]:
    rewind = Advice("Wind it onto a spool that stands the heat", "Metal or wire bodies stand it; weigh them too.")
    return rewound(recipe, context, plan) or (rewind,)


def _right_lot(recipe: Recipe, context: Context, plan: Plan | None, finding: Finding) -> tuple[Choose, ...]:
    return other_lots(recipe, context, lambda each: not each.retired)


def _fuller_lot(recipe: Recipe, context: Context, plan: Plan | None, finding: Finding) -> tuple[Choose, ...]:
    needed = float(finding.values["needed"])
    return other_lots(recipe, context, lambda each: (free_g(each, context) or 0.0) >= needed)


def _enough_of_it(recipe: Recipe, context: Context, plan: Plan | None, finding: Finding) -> tuple[Choose, ...]:
    return other_lots(recipe, context, lambda each: not supply(each, recipe, context).short_g)


def _qualified(recipe: Recipe, context: Context, plan: Plan | None, finding: Finding) -> tuple[Choose, ...]:
    lot = lot_in_use(recipe, context)
    if lot is None:
        return ()
    grade, colours = lot.grade, qualified_colours(lot, context)
    return other_lots(recipe, context, lambda each: each.grade == grade and each.colour in colours)


def _in_time(recipe: Recipe, context: Context, plan: Plan | None, finding: Finding) -> tuple[Choose, ...]:
    """The other dryers that make the wanted time."""
    now, wanted = context.now, float(finding.values["wanted"]) - 3600.0 * (recipe.stock.wait_h or 0.0)
    found = other_dryers(recipe, context, plan) if plan else ()
    return tuple(each for each in found if now and now.timestamp() + 3600.0 * float(each.values["hours"]) <= wanted)


def _free(recipe: Recipe, context: Context, plan: Plan | None, finding: Finding) -> tuple[Choose, ...]:
    """The other dryers that have a place."""
    found = other_dryers(recipe, context, plan) if plan else ()
    return tuple(each for each in found if _has_place(each.id, context))


def _has_place(dryer: str, context: Context) -> bool:
    places = next((each.places for each in context.shop.dryers if each.id == dryer), None)
    return places is None or sum(is_in_dryer(each, dryer, context) for each in context.shop.lots) < places


OFFERED: Mapping[str, Offer] = {
    "stock.moisture.unknown": _drying,
    "stock.moisture.wet": _drying,
    "stock.moisture.unsure": _drying,
    "stock.strand.signs": _drying,
    "stock.dryer.floor": _drying,
    "stock.desiccant.alone": _drying,
    "stock.drying.late": _in_time,
    "stock.dryer.full": _free,
    "stock.dryer.below_window": _hotter,
    "stock.spool.softens": _other_body,
    "stock.lot.other_polymer": _right_lot,
    "stock.mass.short": _fuller_lot,
    "stock.lot.planned": _enough_of_it,
    "stock.lot.unqualified": _qualified,
}
