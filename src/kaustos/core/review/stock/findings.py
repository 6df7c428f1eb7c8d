"""What can be found against a spool and its drying."""

import math
from datetime import UTC, datetime

from kaustos.core.estimates import DRYING
from kaustos.core.physics.moisture import diffusivity
from kaustos.core.planning.drying import DEEPEST, REFERENCE_C
from kaustos.core.planning.history import place_now, was_somewhere
from kaustos.core.planning.horizon import HORIZON_H
from kaustos.core.planning.scenarios import LIKELY
from kaustos.core.planning.strand import strand_that_tells, verdict_of
from kaustos.core.records import FLANGES, STRAND_SIGNS, Lot, Recipe
from kaustos.core.review.contract import Advice, Choose, Context, Finding, Remedy, Set
from kaustos.core.review.stock.conditions import absorbs, is_dried, is_water_known, severity_of_wet, spool_finding
from kaustos.core.review.stock.lot import lot_in_use
from kaustos.core.review.stock.lot_findings import lot_findings
from kaustos.core.review.stock.plan import Plan, dried_in, dries_the_wettest, left_to_dry_h, there_in_h
from kaustos.core.review.stock.remedies import cooler, gently, harms_from_h, hottest, own_drying, spool_limit, window
from kaustos.core.review.stock.storage_findings import storage_findings

FAR_ABOVE = DRYING["floor_far_above"].value  # times the limit


def findings_of(recipe: Recipe, context: Context, plan: Plan | None) -> tuple[Finding, ...]:
    found = (
        _above_window(recipe, context, plan),
        _beyond_reach(recipe, context, plan),
        _below_window(recipe, context, plan),
        _spool_softens(recipe, context, plan),
        _too_long(recipe, context),
        _late(recipe, context, plan),
        _full(recipe, context),
        *(_moisture_findings(recipe, context, plan) if plan else ()),
        *lot_findings(recipe, context),
    )
    return tuple(finding for finding in found if finding)


# ---- moisture


def _moisture_findings(recipe: Recipe, context: Context, plan: Plan) -> tuple[Finding | None, ...]:
    return (
        _unknown(recipe, context, plan),
        _floor(recipe, context, plan),
        _strand(recipe, context, plan),
        _wet(recipe, context, plan),
        *storage_findings(recipe, context, plan),
    )


def _unknown(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    if is_water_known(recipe, context):
        return None
    _, low, high = plan.now.band
    remedies = own_drying(recipe, context, plan)
    return spool_finding(
        recipe, context, "stock.moisture.unknown", "stock.dryer_h", remedies, {"low": low, "high": high}
    )


def _strand(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    strand = strand_that_tells(lot_in_use(recipe, context), context.polymer)
    if strand is None or (is_dried(recipe) and (_is_said_wet(plan) or dries_the_wettest(recipe, context, plan))):
        return None
    verdict = verdict_of(strand.signs)
    if verdict == "dry":
        return None
    signs = ", ".join(STRAND_SIGNS[each].lower() for each in strand.signs)
    values: dict[str, float | str] = {
        "at": datetime.fromisoformat(strand.at_utc).timestamp(),
        "signs": signs,
        "verdict": verdict,
        "planned": "the drying planned is too short for a wet spool" if is_dried(recipe) else "no drying is planned",
    }
    remedies = own_drying(recipe, context, plan)
    severity = "stop" if verdict == "wet" else "watch"
    return spool_finding(recipe, context, "stock.strand.signs", "stock.dryer_h", remedies, values, severity)


def _is_said_wet(plan: Plan) -> bool:
    """Whether the water itself is found too high, so that the strand adds nothing."""
    return plan.dried.wettest > plan.limit


def _floor(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    if plan.floor is None or not absorbs(context) or float(plan.floor[LIKELY]) <= plan.limit:
        return None
    remedies = own_drying(recipe, context, plan)
    floor = float(plan.floor[LIKELY])
    severity = "stop" if floor > FAR_ABOVE * plan.limit else "watch"
    values = {"floor": floor, "limit": plan.limit}
    return spool_finding(recipe, context, "stock.dryer.floor", "stock.dryer_c", remedies, values, severity)


def _wet(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    """Wet as it likely is, or likely dry and not surely."""
    likely, worst = plan.dried.wettest, plan.dried.worst
    known = is_dried(recipe) or was_somewhere(lot_in_use(recipe, context))
    if worst <= plan.limit or not known or not absorbs(context):
        return None
    when = "When drying ends" if is_dried(recipe) else "As it is now"
    values: dict[str, float | str] = {"when": when, "moisture": likely, "worst": worst, "limit": plan.limit}
    remedies = own_drying(recipe, context, plan)
    if likely <= plan.limit:
        return spool_finding(recipe, context, "stock.moisture.unsure", "stock.dryer_h", remedies, values)
    severity = severity_of_wet(context, likely, plan.limit)
    return spool_finding(recipe, context, "stock.moisture.wet", "stock.dryer_h", remedies, values, severity)


# ---- the dryer


def _beyond_reach(recipe: Recipe, context: Context, plan: Plan | None) -> Finding | None:
    setpoint, dryer = recipe.stock.dryer_c, context.dryer
    if setpoint is None or dryer is None or dryer.max_c is None or setpoint <= dryer.max_c:
        return None
    target = hottest(recipe, context, dryer)
    remedies: tuple[Remedy, ...] = () if target is None else (cooler(recipe, context, plan, target),)
    hotter = tuple(
        Choose("Dry in {dryer:text}", "dryer", each.id, {"dryer": each.name})
        for each in context.shop.dryers
        if each.id != dryer.id and each.max_c is not None and each.max_c >= setpoint
    )
    values: dict[str, float | str] = {"setpoint": setpoint, "dryer": dryer.name, "reach": dryer.max_c}
    return spool_finding(recipe, context, "stock.dryer.beyond_reach", "stock.dryer_c", (*remedies, *hotter), values)


def _below_window(recipe: Recipe, context: Context, plan: Plan | None) -> Finding | None:
    low, high = window(context)
    if plan is None or plan.air is None or low is None or high is None or plan.air.temperature_c >= low.value:
        return None
    if not absorbs(context):
        return None
    actual = plan.air.temperature_c
    values: dict[str, float | str] = {
        "actual": actual, "low": low.value, "high": high.value,
        "factor": _slower(plan, context, low.value),
    }  # fmt: skip
    best = hottest(recipe, context, context.dryer)
    remedies: tuple[Remedy, ...] = ()
    if best is not None and best >= low.value:
        remedies = (Set("Set the dryer to {target:temperature}", {"stock.dryer_c": best}, {"target": best}),)
    harms = harms_from_h(context, actual, context.dryer)
    may = harms is None or (recipe.stock.dryer_h or 0.0) < harms
    longer = Advice("Dry longer, and weigh", "Weigh before and after: what still loses mass is not dry.")
    keep = _flatter() if _never_in_time(plan) else longer if may else gently()
    return spool_finding(recipe, context, "stock.dryer.below_window", "stock.dryer_c", (*remedies, keep), values)


def _never_in_time(plan: Plan) -> bool:
    """Whether no drying of some days gets to the innermost turn, so that longer is no answer."""
    return plan.needed is not None and plan.needed.likely_h(DEEPEST) >= HORIZON_H


def _flatter() -> Advice:
    return Advice(
        "Hotter, drier air, or wind it flatter",
        "At this heat and in this air the innermost turns never get dry enough, or not for days: longer changes "
        "nothing. A hotter dryer, drier air, or fewer layers on a wide body do.",
    )


def _slower(plan: Plan, context: Context, low_c: float) -> float:
    """How many times as long drying takes as at the lower end of the window, winding and air included."""
    assert plan.air is not None and plan.needed is not None, "asked only where drying is planned"
    slow, fast = plan.needed.likely_h(DEEPEST), dried_in(plan.spool, context.dryer, low_c).likely_h
    if fast > 0.0 and slow < math.inf:
        return slow / fast
    cold, warm = (diffusivity(1.0, REFERENCE_C, plan.water.energy[LIKELY], each)
                  for each in (plan.air.temperature_c, low_c))  # fmt: skip
    return float(warm) / float(cold)


def _above_window(recipe: Recipe, context: Context, plan: Plan | None) -> Finding | None:
    _, high = window(context)
    setpoint = recipe.stock.dryer_c
    if high is None or setpoint is None or setpoint <= high.value:
        return None
    target = min(high.value, hottest(recipe, context, context.dryer) or high.value)
    remedy = cooler(recipe, context, plan, target)
    values = {"setpoint": setpoint, "high": high.value}
    return spool_finding(recipe, context, "stock.dryer.above_window", "stock.dryer_c", (remedy,), values)


def _spool_softens(recipe: Recipe, context: Context, plan: Plan | None) -> Finding | None:
    lot, setpoint = lot_in_use(recipe, context), recipe.stock.dryer_c
    safe = spool_limit(recipe, context)
    if lot is None or setpoint is None or safe is None or setpoint <= safe:
        return None
    likely = context.supplies.bodies[str(lot.flange)].stands.value
    remedies = (cooler(recipe, context, plan, safe),)
    values: dict[str, float | str] = {
        "setpoint": setpoint, "flange": FLANGES[str(lot.flange)], "limit": safe,
    }  # fmt: skip
    severity = "stop" if setpoint > likely else "watch"
    return spool_finding(recipe, context, "stock.spool.softens", "stock.dryer_c", remedies, values, severity)


def _too_long(recipe: Recipe, context: Context) -> Finding | None:
    hours, setpoint = recipe.stock.dryer_h, recipe.stock.dryer_c
    if hours is None or setpoint is None:
        return None
    dryer = context.dryer
    reached = setpoint if dryer is None or dryer.max_c is None else min(setpoint, dryer.max_c)
    most = harms_from_h(context, reached, dryer)
    if most is None or hours <= most:
        return None
    shorter = float(math.floor(most)) if most >= 1.0 else most
    remedy = Set("Dry for {hours:duration} at most", {"stock.dryer_h": shorter}, {"hours": shorter})
    values = {"hours": hours, "most": most}
    return spool_finding(recipe, context, "stock.drying.too_long", "stock.dryer_h", (remedy, gently()), values)


def _late(recipe: Recipe, context: Context, plan: Plan | None) -> Finding | None:
    """Whether drying and waiting, begun now, end after the spool is wanted."""
    stock, left, now = recipe.stock, there_in_h(recipe, context, plan), context.now
    if not stock.wanted_utc or left is None or now is None:
        return None
    wanted, ready = datetime.fromisoformat(stock.wanted_utc).timestamp(), now.timestamp() + 3600.0 * left
    if ready <= wanted:
        return None
    later = Set("Want it when it is ready", {"stock.wanted_utc": _minute_after(ready)})
    values = {"wanted": wanted, "ready": ready}
    return spool_finding(recipe, context, "stock.drying.late", "stock.wanted_utc", (later,), values)


def _minute_after(seconds: float) -> str:
    """The next whole minute [s since 1970-01-01 UTC] as it is stored."""
    return datetime.fromtimestamp(60.0 * math.ceil(seconds / 60.0), UTC).strftime("%Y-%m-%dT%H:%M:%S.%fZ")


def _full(recipe: Recipe, context: Context) -> Finding | None:
    """Whether the planned dryer has a place left for this spool."""
    dryer, mine = context.dryer, lot_in_use(recipe, context)
    if dryer is None or dryer.places is None or not is_dried(recipe) or not left_to_dry_h(recipe, context):
        return None
    others = [each for each in context.shop.lots if mine is None or each.id != mine.id]
    there = [each.name for each in others if is_in_dryer(each, dryer.id, context)]
    here = mine is not None and is_in_dryer(mine, dryer.id, context)
    if here or len(there) < dryer.places:
        return None
    wait = Advice(
        "Wait for a place, or plan it for the night", "The room of stock says what is in the dryer, and since when."
    )
    values: dict[str, float | str] = {"dryer": dryer.name, "places": dryer.places, "others": ", ".join(there)}
    return spool_finding(recipe, context, "stock.dryer.full", "context.dryer", (wait,), values)


def is_in_dryer(lot: Lot, dryer: str, context: Context) -> bool:
    """Whether a lot is logged in one of the shop's dryers now."""
    if all(stay.dryer != dryer for stay in lot.stays):
        return False
    stay = place_now(lot, context.now)
    return stay is not None and stay.place == "dryer" and stay.dryer == dryer
