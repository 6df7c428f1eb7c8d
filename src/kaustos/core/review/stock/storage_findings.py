"""What can be found against keeping a spool dry: waiting, dry box, desiccant, feed."""

import math
from datetime import datetime
from typing import Any

import attrs

from kaustos.core.planning.air import air_of_stay
from kaustos.core.planning.drying import MEAN, TURNS, hung
from kaustos.core.planning.history import place_now
from kaustos.core.planning.horizon import HORIZON_H
from kaustos.core.records import FEEDS, WAITS, Recipe
from kaustos.core.review.contract import Advice, Context, Estimate, Finding, Remedy, Set
from kaustos.core.review.stock.conditions import absorbs, is_dried, severity_of_wet, spool_finding
from kaustos.core.review.stock.desiccant import box_needs
from kaustos.core.review.stock.lot import in_dry_box, lot_in_use
from kaustos.core.review.stock.plan import Plan, plan_of
from kaustos.core.review.stock.remedies import own_drying


def storage_findings(recipe: Recipe, context: Context, plan: Plan) -> tuple[Finding | None, ...]:
    """From dryer to the last move."""
    return (
        _desiccant_alone(recipe, context, plan),
        _desiccant_spent(recipe, context, plan),
        _waiting(recipe, context, plan),
        _rewets(recipe, context, plan),
    )


def _desiccant_alone(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    lot = lot_in_use(recipe, context)
    if lot is None or is_dried(recipe) or not absorbs(context) or plan.now.worst <= plan.limit:
        return None
    stay = place_now(lot, context.now)
    if stay is not None and stay.place == "dry_box":
        air = air_of_stay(stay, context.rules.room_c, context.rules.dew_point_c)
    elif lot.feed == "dry_box" and plan.feed is not None:
        air = plan.feed
    else:
        return None
    passing = hung(plan.now, plan.water, plan.winding, air, plan.limit)[0]
    time, more = max(passing.likely_h(turn) for turn in TURNS), " or more"
    if not time > 0.0:  # likely dry as it hangs: only what it may hold at worst must still go
        time, more = max(passing.hours(turn)[2] for turn in TURNS), ", if it is as wet as it may be"
    remedies = own_drying(recipe, context, plan)
    values: dict[str, float | str] = {"time": min(time, HORIZON_H), "more": more}
    return spool_finding(recipe, context, "stock.desiccant.alone", "stock.dryer_h", remedies, values)


def _desiccant_spent(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    lot, now = lot_in_use(recipe, context), context.now
    if lot is None or now is None or not lot.desiccant_utc or not in_dry_box(recipe, lot) or not absorbs(context):
        return None
    due = box_needs(recipe, context, plan).due
    if not isinstance(due, Estimate) or now.timestamp() <= due.value:
        return None
    put_in, mass = datetime.fromisoformat(lot.desiccant_utc).timestamp(), context.rules.desiccant_g
    changed = Set("Put in {mass:mass} of dry desiccant, and say so", {"lot.desiccant_utc": now.isoformat()},
                  {"mass": mass})  # fmt: skip
    values = {"put_in": put_in, "due": due.value, "mass": mass}
    return spool_finding(recipe, context, "stock.desiccant.spent", "lot.desiccant_utc", (changed,), values)


def _waiting(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    hours, place = recipe.stock.wait_h, _waits_in(recipe, context)
    if not hours or place is None or plan.waits_for is None or not plan.waits_too_long or not absorbs(context):
        return None
    surely = min(*(plan.waits_for.hours(turn)[1] for turn in TURNS), HORIZON_H)  # the model looks no further
    remedies: list[Remedy] = [
        Set("Let it wait in a {place:text}", {"stock.wait_in": each}, {"place": WAITS[each].lower()})
        for each in ("dry_box", "heated", "sealed")
        if each != place and _helps(recipe, context, {"wait_in": each})
    ]
    shorter = math.floor(surely * 4.0) / 4.0
    if shorter > 0.0 and _helps(recipe, context, {"wait_h": shorter}):
        title = "Print within {hours:duration} of the dryer"
        remedies.append(Set(title, {"stock.wait_h": shorter}, {"hours": shorter}))
    text = "Time the drying so that it ends when the machine is hot: the bench says by when it starts."
    remedies.append(Advice("Leave it in the dryer until then", text))
    values: dict[str, float | str] = {
        "hours": hours, "place": WAITS[place].lower(), "open": surely, "worst": plan.start.worst,
        "limit": plan.limit,
    }  # fmt: skip
    severity = severity_of_wet(context, plan.start.band[0], plan.limit)
    return spool_finding(recipe, context, "stock.waiting.rewets", "stock.wait_in", tuple(remedies), values, severity)


def _waits_in(recipe: Recipe, context: Context) -> str | None:
    lot = lot_in_use(recipe, context)
    return recipe.stock.wait_in or (lot.feed if lot else None)


def _helps(recipe: Recipe, context: Context, changes: dict[str, Any]) -> bool:
    plan = plan_of(attrs.evolve(recipe, stock=attrs.evolve(recipe.stock, **changes)), context)
    return plan is not None and not plan.waits_too_long


def _rewets(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    lot, hours = lot_in_use(recipe, context), recipe.brief.print_h
    if plan.lasts is None or plan.end is None or hours is None or lot is None or not absorbs(context):
        return None
    if plan.start.band[0] > plan.limit or plan.end.band[0] <= plan.limit:
        return None
    values: dict[str, float | str] = {
        "feed": FEEDS[str(lot.feed)].lower(), "open": min(plan.lasts.likely_h(MEAN), HORIZON_H), "hours": hours,
    }  # fmt: skip
    remedies = tuple(
        Set("Feed it from a {feed:text}", {"lot.feed": feed}, {"feed": FEEDS[feed].lower()})
        for feed in ("dry_box", "heated")
        if feed != lot.feed and _keeps(recipe, context, feed)
    )
    keep = Advice("Keep it dry while it prints", "Print from a closed dry box or a heated dryer, by a short tube.")
    return spool_finding(recipe, context, "stock.exposure.rewets", "lot.feed", (*remedies, keep), values)


def _keeps(recipe: Recipe, context: Context, feed: str) -> bool:
    """Whether the spool stays dry to the end of the print where it hangs in another feed."""
    lot = attrs.evolve(context.lot, feed=feed) if context.lot else None
    plan = plan_of(recipe, attrs.evolve(context, lot=lot))
    return plan is not None and plan.end is not None and plan.end.band[0] <= plan.limit
