"""What can be found against welds and heat."""

import math
from collections.abc import Callable, Iterator

from kaustos.core.estimates import WELD
from kaustos.core.planning import waits_for_proof
from kaustos.core.planning.draws import Array, ends, middle
from kaustos.core.planning.support import bears
from kaustos.core.records import Recipe
from kaustos.core.records.fields import with_value
from kaustos.core.review.comes_of import is_cause
from kaustos.core.review.contract import GRADES, Advice, Cap, Context, Finding, Remedy, Set
from kaustos.core.review.grading import WANTED
from kaustos.core.review.heat.case import HeatCase, heat_case, warmer_by
from kaustos.core.review.heat.codes import BY_CODE
from kaustos.core.review.heat.layers import softness_of
from kaustos.core.review.heat.pauses import pause_plan
from kaustos.core.review.heat.remedies import more_layer_time
from kaustos.core.review.machine.warmth_findings import warmth_of
from kaustos.core.review.making import make_finding
from kaustos.core.review.supports.case import rest_min, support_case
from kaustos.core.review.supports.remedies import other_ways
from kaustos.core.review.zones import cold_air_code, window_of

HOT_K = WELD["hot_enough"].value
Values = dict[str, float | str | None]


def findings_of(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """Everything that can be found."""
    case = heat_case(recipe, context)
    return tuple(found for look in _LOOKS for found in look(case, recipe, context))


def grade_by(share: float, context: Context) -> str:
    """The best grade that a share of the strength across layers leaves [1]."""
    rules = context.rules
    if 100.0 * share >= rules.functional_pct:
        return "functional"
    return "reduced" if 100.0 * share >= rules.reduced_pct else "decorative"


def weld_caps(recipe: Recipe, context: Context) -> tuple[Cap, ...]:
    """What the weld leaves of the grade."""
    case = heat_case(recipe, context)
    far = (Cap(cold_air_code(context), "decorative"),) if is_far_below(case, context) else ()
    share = case.likely
    if share is None or grade_by(share, context) == "functional":
        return far
    return (Cap("heat.weld.weak", grade_by(share, context)), *far)


def is_far_below(case: HeatCase, context: Context) -> bool:
    """Whether the air is so far below the window of a polymer with a high glass transition that nothing else helps."""
    matter, (low, _) = case.matter, window_of(context.polymer, "chamber", context)
    if matter is None or not matter.is_glassy or matter.glass_c is None or low is None or case.ratio is not None:
        return False
    is_high = matter.glass_c > WELD["high_glass"].value
    return is_high and low.value - case.air_likely_c >= WELD["far_below"].value


def _found(
    recipe: Recipe,
    context: Context,
    code: str,
    field: str,
    values: Values,
    *remedies: Remedy | None,
    severity: str = "",
    chance: float | None = None,
    due_to: str = "",
) -> Finding:
    known = tuple(each for each in remedies if each is not None)
    return make_finding(
        BY_CODE[code], recipe, context, field, known, values, severity=severity, chance=chance, due_to=due_to
    )


def _weld(case: HeatCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    share, rules = case.share, context.rules
    if share is None:
        return
    low, likely, high = (100.0 * each for each in ends(share))
    values: Values = {
        "share": float(round(likely)),
        "low": float(round(low)),
        "high": float(round(high)),
        "wanted": rules.functional_pct,
        "takes": case.section.period_s if case.section is not None else 0.0,
        "gap": rules.functional_pct - likely,
        "usual": f" Taken as usual, for not recorded: {', '.join(case.melt.assumed)}." if case.melt.assumed else "",
    }
    severity = _severity(case, recipe, context)
    if severity:
        least = least_share(recipe, context)
        chance = float((share < least).mean())
        cause = _cause_of(case, context, share, least, severity)
        yield _found(
            recipe, context, "heat.weld.weak", "melt.nozzle_c", values, severity=severity, chance=chance, due_to=cause
        )
    elif low < rules.reduced_pct:
        chance = float((100.0 * share < rules.reduced_pct).mean())
        more = values | {"gap": rules.reduced_pct - low}
        yield _found(recipe, context, "heat.weld.doubtful", "melt.nozzle_c", more, chance=chance)


def least_share(recipe: Recipe, context: Context) -> float:
    """Under which share of the bulk a weld loses the run: that of the grade that is wanted, of reduced at least [1]."""
    rules = context.rules
    return 0.01 * (rules.functional_pct if _wanted(recipe) == "functional" else rules.reduced_pct)


def _wanted(recipe: Recipe) -> str:
    """The grade that the purpose wants."""
    return WANTED[recipe.brief.purpose] if recipe.brief.purpose else "functional"


def _severity(case: HeatCase, recipe: Recipe, context: Context) -> str:
    """Stop where the weld leaves less than is wanted, watch where less than the best; empty for a good one."""
    if case.share is None:
        return ""
    _, likely, high = ends(case.share)
    if grade_by(likely, context) == "functional":
        return ""
    at_best = grade_by(high if case.melt.assumed else likely, context)  # no stop on a usual value
    return "stop" if GRADES.index(at_best) < GRADES.index(_wanted(recipe)) else "watch"


def _cause_of(case: HeatCase, context: Context, share: Array, least: float, severity: str) -> str:
    """The code of what alone makes a weld likely too weak: water, else, for a stop, air below its window."""
    now = float((share < least).mean())
    if middle(case.water) < 1.0 and is_cause(now, float((share / case.water < least).mean())):
        return "stock.moisture.wet"
    warmer = warmer_by(case, context) if severity == "stop" else None
    if warmer is not None and is_cause(now, float((share * warmer < least).mean())):
        return cold_air_code(context)
    return ""


def _pauses(case: HeatCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """The weld over a layer that cooled while a coat was put on, where it is clearly less than elsewhere."""
    if recipe.supports.way != "coat":
        return
    supports, rest, rules = support_case(recipe, context), rest_min(recipe), context.rules
    coat = supports.chosen
    plan = pause_plan(recipe, context, coat.cost.pauses, rest) if coat is not None else ()
    known = [(each.keeps, each.usual, each) for each in plan if each.keeps is not None and each.usual is not None]
    if not known:
        return
    keeps, usual, worst = min(known, key=lambda each: each[0])
    grade = grade_by(keeps, context)
    if grade == "functional" or grade == grade_by(usual, context):
        return
    wanted = _wanted(recipe)
    values: Values = {
        "rest": rest, "at": worst.at_mm, "keeps": float(round(100.0 * keeps)), "usual": float(round(100.0 * usual)),
        "wanted": rules.functional_pct, "gap": rules.functional_pct - 100.0 * keeps,
    }  # fmt: skip
    severity = "stop" if GRADES.index(grade) < GRADES.index(wanted) else "watch"
    warm = Advice(
        "Coat it quicker, or warmer", "Part and air stay warm behind a closed door; a stroke each, brush ready."
    )
    remedies = (*other_ways(supports), warm)
    yield _found(recipe, context, "heat.pause.cold", "supports.way", values, *remedies, severity=severity)


def _unproven(case: HeatCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    if not case.is_index or case.weld is None:
        return
    values: Values = {"index": float(round(100.0 * middle(case.weld.index)))}
    pull = Advice(
        "Break or pull specimens across and along",
        "Made like the part; log the ratio on this bench, and the grade follows it.",
    )
    yield _found(recipe, context, "heat.weld.unproven", "melt.nozzle_c", values, pull)


def _too_hot(case: HeatCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    soft = softness_of(case)
    if soft is None or soft.over_k <= 0.0:
        return
    values: Values = {
        "takes": soft.takes_s,
        "end": soft.end_c,
        "sets": soft.sets_c,
        "gap": soft.over_k,
    }
    severity = "stop" if soft.over_k > HOT_K else "watch"
    yield _found(
        recipe,
        context,
        "heat.layer.too_hot",
        "heat.least_layer_s",
        values,
        *more_layer_time(case, soft.needed_s, context),
        severity=severity,
    )


def _fan(case: HeatCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    fan, polymer = recipe.heat.fan_pct, context.polymer
    if fan is None or polymer is None:
        return
    low, high = polymer.value("fan_low"), polymer.value("fan_high")
    proven = context.past.as_it_stands if context.past is not None else 0
    if high is not None and fan > high.value:
        price = fan_price(case, recipe, context)
        values: Values = {
            "fan": fan,
            "most": high.value,
            "price": float(round(100.0 * (price or 0.0), 1)),
            "gap": fan - high.value,
        }
        less = Set("Fan at {fan:share}", {"heat.fan_pct": high.value}, {"fan": high.value})
        yield _found(recipe, context, "heat.fan.too_much", "heat.fan_pct", values, less)
    elif low is not None and fan < low.value and not (fan == 0.0 and waits_for_proof(context.rules, proven)):
        values = {
            "fan": fan,
            "least": low.value,
            "less": bears(fan).limit.value,
            "gap": low.value - fan,
        }
        more = Set("Fan at {fan:share}", {"heat.fan_pct": low.value}, {"fan": low.value})
        yield _found(recipe, context, "heat.fan.too_little", "heat.fan_pct", values, more)


def fan_price(case: HeatCase, recipe: Recipe, context: Context) -> float | None:
    """Strength across layers that the fan costs [1]."""
    if case.likely is None or not recipe.heat.fan_pct:
        return 0.0 if case.likely is not None else None
    still = heat_case(with_value(recipe, "heat.fan_pct", 0.0), context).likely
    return None if still is None else max(still - case.likely, 0.0)


def soak_needed_min(recipe: Recipe, context: Context) -> float | None:
    """How long the walls of the chamber take to follow the air [min]."""
    times = warmth_of(recipe, context).times
    if times is None or not math.isfinite(times.soaked.value) or times.soaked.value > MOST_SOAK_H:
        return None
    return 60.0 * times.soaked.value


MOST_SOAK_H = 48.0


def _soak(case: HeatCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    soak, needed, machine = recipe.heat.soak_min, soak_needed_min(recipe, context), context.machine
    low = context.polymer.value("chamber_low_c") if context.polymer is not None else None
    if soak is None or needed is None or machine is None or low is None or low.value <= context.rules.room_c + 10.0:
        return
    if soak < 0.8 * needed:
        values: Values = {"soak": soak, "needed": needed, "machine": machine.name, "gap": needed - soak}
        whole = float(math.ceil(needed / 5.0) * 5.0)
        wait = Set("Soak {whole:minutes}", {"heat.soak_min": whole}, {"whole": whole})
        yield _found(recipe, context, "heat.soak.short", "heat.soak_min", values, wait)


Look = Callable[[HeatCase, Recipe, Context], Iterator[Finding]]
_LOOKS: tuple[Look, ...] = (_weld, _pauses, _unproven, _too_hot, _fan, _soak)
