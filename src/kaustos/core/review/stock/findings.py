"""What can be found against a spool and its drying."""

import math

from kaustos.core.physics.moisture import diffusivity
from kaustos.core.planning.drying import REFERENCE_C
from kaustos.core.records import FLANGE_LIMIT_C, FLANGES, Recipe
from kaustos.core.review.contract import Advice, Choose, Context, Finding, Remedy, Set
from kaustos.core.review.stock.codes import MASS_MARGIN
from kaustos.core.review.stock.keeping import keeping_findings
from kaustos.core.review.stock.lot import lot_in_use
from kaustos.core.review.stock.plan import Plan, band, worst_turn
from kaustos.core.review.stock.raised import absorbs, is_dried, raised
from kaustos.core.review.stock.remedies import (
    cooler,
    drying_remedies,
    hottest,
    other_dryers,
    other_lots,
    rewound,
    spool_limit,
    window,
)

HYDROLYSED = 3.0  # estimate: times over the limit from which a melt that hydrolyses is lost


def findings_of(recipe: Recipe, context: Context, plan: Plan | None) -> tuple[Finding, ...]:
    found = (
        _other_polymer(recipe, context),
        _above_window(recipe, context, plan),
        _beyond_reach(recipe, context, plan),
        _below_window(recipe, context, plan),
        _spool_softens(recipe, context, plan),
        _too_long(recipe, context),
        *(_moisture_findings(recipe, context, plan) if plan else ()),
        _mass_short(recipe, context),
        _low(recipe, context),
        _elsewhere(recipe, context),
        _unqualified(recipe, context),
    )
    return tuple(finding for finding in found if finding)


# ---- moisture


def _moisture_findings(recipe: Recipe, context: Context, plan: Plan) -> tuple[Finding | None, ...]:
    return (
        _unknown(recipe, context, plan),
        _floor(recipe, context, plan),
        _wet(recipe, context, plan),
        *keeping_findings(recipe, context, plan),
    )


def _unknown(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    lot = lot_in_use(recipe, context)
    logged = lot is not None and any(stay.place != "sealed" for stay in lot.stays)
    if is_dried(recipe) or logged or not absorbs(context):
        return None
    _, low, high = band(plan.now.mean())
    remedies = drying_remedies(recipe, context, plan)
    return raised(recipe, context, "stock.moisture.unknown", "stock.dryer_h", remedies, {"low": low, "high": high})


def _floor(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    if plan.floor is None or not absorbs(context) or float(plan.floor[1]) <= plan.limit:
        return None
    remedies = drying_remedies(recipe, context, plan)
    values = {"floor": float(plan.floor[1]), "limit": plan.limit}
    return raised(recipe, context, "stock.dryer.floor", "stock.dryer_c", remedies, values)


def _wet(recipe: Recipe, context: Context, plan: Plan) -> Finding | None:
    means = plan.dried.mean()
    likely, _, _ = band(means)
    worst = worst_turn(means)
    lot = lot_in_use(recipe, context)
    known = is_dried(recipe) or (lot is not None and bool(lot.stays))
    if worst <= plan.limit or not known or not absorbs(context):
        return None
    lost = context.polymer is not None and context.polymer.hydrolyses and likely > HYDROLYSED * plan.limit
    remedies = drying_remedies(recipe, context, plan)
    when = "When drying ends" if is_dried(recipe) else "As it is now"
    values: dict[str, float | str] = {"when": when, "moisture": likely, "worst": worst, "limit": plan.limit}
    severity = "stop" if lost else "watch"
    return raised(recipe, context, "stock.moisture.wet", "stock.dryer_h", remedies, values, severity)


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
    return raised(recipe, context, "stock.dryer.beyond_reach", "stock.dryer_c", (*remedies, *hotter), values)


def _below_window(recipe: Recipe, context: Context, plan: Plan | None) -> Finding | None:
    low, high = window(context)
    if plan is None or plan.air is None or low is None or high is None or plan.air.temperature_c >= low.value:
        return None
    if not absorbs(context):
        return None
    actual, water = plan.air.temperature_c, plan.water
    slow, fast = (diffusivity(1.0, REFERENCE_C, water.energy, each) for each in (actual, low.value))
    values: dict[str, float | str] = {
        "actual": actual, "low": low.value, "high": high.value, "factor": float(fast) / float(slow),
    }  # fmt: skip
    best = hottest(recipe, context, context.dryer)
    remedies: tuple[Remedy, ...] = ()
    if best is not None and best >= low.value:
        remedies = (Set("Set the dryer to {target:temperature}", {"stock.dryer_c": best}, {"target": best}),)
    remedies += tuple(
        each for each in other_dryers(recipe, context, plan) if float(each.changes["stock.dryer_c"]) >= low.value
    )
    keep = Advice("Dry longer, and weigh", "Weigh before and after: what still loses mass is not dry.")
    return raised(recipe, context, "stock.dryer.below_window", "stock.dryer_c", (*remedies, keep), values)


def _above_window(recipe: Recipe, context: Context, plan: Plan | None) -> Finding | None:
    _, high = window(context)
    setpoint = recipe.stock.dryer_c
    if high is None or setpoint is None or setpoint <= high.value:
        return None
    target = min(high.value, hottest(recipe, context, context.dryer) or high.value)
    remedy = cooler(recipe, context, plan, target)
    values = {"setpoint": setpoint, "high": high.value}
    return raised(recipe, context, "stock.dryer.above_window", "stock.dryer_c", (remedy,), values)


def _spool_softens(recipe: Recipe, context: Context, plan: Plan | None) -> Finding | None:
    lot, setpoint = lot_in_use(recipe, context), recipe.stock.dryer_c
    safe = spool_limit(lot)
    if lot is None or setpoint is None or safe is None or setpoint <= safe:
        return None
    likely = FLANGE_LIMIT_C[str(lot.flange)][1]
    rewind = Advice("Wind it onto a spool that stands the heat", "Metal or wire bodies stand it; weigh them too.")
    remedies = (cooler(recipe, context, plan, safe), *(rewound(recipe, context, plan) or (rewind,)))
    values: dict[str, float | str] = {
        "setpoint": setpoint, "flange": FLANGES[str(lot.flange)].lower(), "limit": safe,
    }  # fmt: skip
    severity = "stop" if setpoint > likely else "watch"
    return raised(recipe, context, "stock.spool.softens", "stock.dryer_c", remedies, values, severity)


def _too_long(recipe: Recipe, context: Context) -> Finding | None:
    most = context.polymer.value("drying_most_h") if context.polymer else None
    hours = recipe.stock.dryer_h
    if most is None or hours is None or recipe.stock.dryer_c is None or hours <= most.value:
        return None
    shorter = float(math.floor(most.value))
    remedy = Set("Dry for {hours:duration} at most", {"stock.dryer_h": shorter}, {"hours": shorter})
    values = {"hours": hours, "most": most.value}
    return raised(recipe, context, "stock.drying.too_long", "stock.dryer_h", (remedy,), values)


# ---- the lot


def _other_polymer(recipe: Recipe, context: Context) -> Finding | None:
    lot = context.lot
    if lot is None or recipe.polymer is None or context.polymer is None or lot.polymer == recipe.polymer:
        return None
    other = context.shop.polymers.get(lot.polymer or "")
    remedies = other_lots(recipe, context, lambda lot: not lot.retired)
    check = Advice("Read the label", "Take the spool off and compare its label with the lot before anything is heated.")
    values = {"lot": lot.name, "other": other.name if other else "of an unknown polymer"}
    return raised(recipe, context, "stock.lot.other_polymer", "context.lot", (*remedies, check), values)


def _mass_short(recipe: Recipe, context: Context) -> Finding | None:
    lot, mass = lot_in_use(recipe, context), recipe.brief.mass_g
    left = lot.left_g if lot else None
    if lot is None or mass is None or left is None or left >= mass * (1.0 + MASS_MARGIN):
        return None
    needed = mass * (1.0 + MASS_MARGIN)
    mine = lot.id
    others = other_lots(recipe, context, lambda each: each.id != mine and (each.left_g or 0.0) >= needed)
    join = Advice("Have a second spool ready", "Same grade, colour and dryness; note the height at which it changes.")
    values = {"left": left, "needed": needed, "margin": 100.0 * MASS_MARGIN, "done": 100.0 * left / needed}
    return raised(recipe, context, "stock.mass.short", "context.lot", (*others, join), values)


def _low(recipe: Recipe, context: Context) -> Finding | None:
    lot = lot_in_use(recipe, context)
    left = lot.left_g if lot else None
    if lot is None or left is None or lot.reorder_g is None or left >= lot.reorder_g:
        return None
    order = Advice("Order the next spool", f"{lot.grade or lot.name}, {lot.colour or 'colour not recorded'}.")
    values = {"left": left, "reorder": lot.reorder_g, "lead": lot.lead_h or 0.0}
    return raised(recipe, context, "stock.lot.low", "context.lot", (order,), values)


def _elsewhere(recipe: Recipe, context: Context) -> Finding | None:
    lot, machine = lot_in_use(recipe, context), context.machine
    if lot is None or machine is None or lot.loaded_on in (None, machine.id):
        return None
    other = next((each.name for each in context.shop.machines if each.id == lot.loaded_on), str(lot.loaded_on))
    moved = Set("Say that it is loaded on {machine:text}", {"lot.loaded_on": machine.id}, {"machine": machine.name})
    values = {"lot": lot.name, "other": other, "machine": machine.name}
    return raised(recipe, context, "stock.lot.elsewhere", "context.lot", (moved,), values)


def _unqualified(recipe: Recipe, context: Context) -> Finding | None:
    lot = lot_in_use(recipe, context)
    if lot is None or not lot.grade or not lot.colour:
        return None
    colours = {colour for grade, colour in context.shop.qualified if grade == lot.grade}
    if not colours or lot.colour in colours:
        return None
    trial = Advice("Print a corner test first", "A good trial run from this lot qualifies its colour.")
    grade = lot.grade
    others = other_lots(recipe, context, lambda each: each.grade == grade and each.colour in colours)
    return raised(recipe, context, "stock.lot.unqualified", "context.lot", (trial, *others), {"colour": lot.colour})
