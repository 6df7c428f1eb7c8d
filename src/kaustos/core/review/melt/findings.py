"""What can be found against melt, beads and layers."""

from collections.abc import Callable, Iterator

import numpy as np

from kaustos.core.estimates import MELT
from kaustos.core.planning.bead import layer_plan, wall_plan
from kaustos.core.planning.draws import ends, middle
from kaustos.core.planning.reach import reach_through
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Advice, Context, Finding, Remedy, Set
from kaustos.core.review.making import make_finding
from kaustos.core.review.melt.case import MeltCase, melt_case, value_of
from kaustos.core.review.melt.change import change_over_of
from kaustos.core.review.melt.codes import BY_CODE
from kaustos.core.review.melt.ladders import ladder_here
from kaustos.core.review.melt.remedies import KEEPS, height_of, hotter, slower, width_of
from kaustos.core.review.zones import window_of

WIDEST, MOST, LEAST = (MELT[key].value for key in ("widest", "layer_most", "layer_least"))
ODD = (MELT["odd_low"].value, MELT["odd_high"].value)
OFF = MELT["multiplier_off"].value
SURE, DOUBT = MELT["flow_sure"].value, MELT["flow_doubt"].value
Values = dict[str, float | str | None]


def findings_of(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """Everything that can be found."""
    case = melt_case(recipe, context)
    return tuple(found for look in _LOOKS for found in look(case, recipe, context))


def _found(
    recipe: Recipe,
    context: Context,
    code: str,
    field: str,
    values: Values,
    *remedies: Remedy | None,
    severity: str = "",
) -> Finding:
    known = tuple(each for each in remedies if each is not None)
    return make_finding(BY_CODE[code], recipe, context, field, known, values, severity=severity)


def _bead(case: MeltCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    width, height = recipe.melt.width_mm, recipe.melt.height_mm
    nozzle = context.nozzle
    bore = nozzle.bore_mm if nozzle is not None else None
    if width is not None and width < case.height_mm:
        values: Values = {"width": width, "height": case.height_mm}
        wider = width_of(max(2.0 * case.height_mm, bore or 0.0))
        yield _found(recipe, context, "melt.bead.thinner_than_high", "melt.width_mm", values, wider)
    if bore and width is not None:
        values = {"width": width, "bore": bore, "times": width / bore}
        usual = width_of(max(MELT["fine_school"].value * bore, 1.25 * case.height_mm))
        if width > WIDEST * bore:
            yield _found(
                recipe, context, "melt.bead.wide", "melt.width_mm", {**values, "gap": width / bore - WIDEST}, usual
            )
        elif width < 0.98 * bore:
            yield _found(
                recipe, context, "melt.bead.narrow", "melt.width_mm", {**values, "gap": 1.0 - width / bore}, usual
            )
    if bore and height is not None:
        values = {"height": height, "bore": bore, "times": height / bore}
        lower = height_of(0.6 * bore)
        if height > MOST * bore:
            severity = "stop" if height > bore else "watch"
            yield _found(
                recipe,
                context,
                "melt.layer.over_bore",
                "melt.height_mm",
                {**values, "gap": height / bore - MOST},
                lower,
                severity=severity,
            )
        elif height < LEAST * bore:
            yield _found(
                recipe,
                context,
                "melt.layer.drags",
                "melt.height_mm",
                {**values, "gap": LEAST - height / bore},
                height_of(0.3 * bore),
            )


def _layers(case: MeltCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    high, layer, shape = recipe.brief.size_z_mm, recipe.melt.height_mm, case.shape
    high = shape.size_z_mm if shape is not None else high
    first = recipe.first_layer.height_mm
    if not high or not layer or first is None or high < first + layer:
        return
    plan = layer_plan(high, first, layer)
    share = abs(plan.error_mm) / layer
    if share > MELT["layers_off"].value and abs(plan.error_mm) > 0.02:
        values: Values = {
            "high": high,
            "layers": float(plan.layers),
            "height": layer,
            "error": plan.error_mm,
            "gap": abs(plan.error_mm),
        }
        yield _found(recipe, context, "melt.layer.remainder", "melt.height_mm", values, height_of(plan.height_mm))


def _wall(case: MeltCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    part, width = context.part, recipe.melt.width_mm
    wall = part.shape.thinnest_mm if part is not None and part.shape is not None else None
    if wall is None or width is None or part is None or width < case.height_mm:
        return
    plan = wall_plan(wall, width, case.height_mm)
    values: Values = {"part": part.name, "wall": wall, "width": width}
    finer = width_of(wall) if wall >= max(0.98 * case.bore_mm, case.height_mm) else None
    thicker = Advice("Thicken it, or take a finer nozzle", "Go through the risky layers before it is printed.")
    if plan.beads == 0:
        yield _found(recipe, context, "melt.wall.vanishes", "melt.width_mm", values, finer, thicker)
        return
    off = plan.residual_mm
    if plan.beads <= 6 and abs(off) > MELT["wall_off"].value * width:
        fits = 0.98 * case.bore_mm <= plan.width_mm <= WIDEST * case.bore_mm and plan.width_mm >= case.height_mm
        what = "left open in the middle" if off > 0.0 else "pressed in too much"
        values |= {"beads": float(plan.beads), "open": abs(off), "what": what, "gap": abs(off)}
        yield _found(
            recipe,
            context,
            "melt.wall.residual",
            "melt.width_mm",
            values,
            width_of(plan.width_mm) if fits else None,
            thicker,
        )


def most_nozzle(recipe: Recipe, context: Context) -> float | None:
    """Hottest nozzle that window, reach and decomposition allow [°C]."""
    _, high = window_of(context.polymer, "nozzle")
    ends = context.polymer.value("decomposition_c") if context.polymer is not None else None
    machine = context.machine
    reach = reach_through(machine, "nozzle", context.rules, context.nozzle).low_c if machine is not None else None
    known = [
        each for each in (high.value if high else None, ends.low - 1.0 if ends else None, reach) if each is not None
    ]
    return None if high is None else float(int(min(known)))


def _flow(case: MeltCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    melting, hard, flow = case.melting, case.hard_mm3_s, case.flow_mm3_s
    if melting is None or hard is None or flow is None or recipe.melt.speed_mm_s is None or case.nozzle_c is None:
        return
    least, likely, most = (each for each in ends(hard))
    soft, exit_c = middle(melting.soft), middle(melting.exit_c)
    values: Values = {
        "flow": flow,
        "hard": likely,
        "least": least,
        "most": most,
        "soft": soft,
        "exit": exit_c,
        "nozzle": case.nozzle_c,
        "gap": flow / max(likely, 1e-6),
    }
    if flow > KEEPS * likely or float((hard < flow).mean()) > DOUBT:
        is_core = melting.core_first > 0.5 and case.flow_test is None
        limit = "its core stays too cold to pass" if is_core else "the drive slips"
        if value_of(case.flow_test, "flow_mm3_s") is not None:
            limit = "as it was tested"
        if flow < likely:
            limit = "it may not be enough"
        wider = Advice(
            "A longer melt zone, or a larger bore with fewer beads", "Heat flow grows with length, not bore."
        )
        yield _found(
            recipe,
            context,
            "melt.flow.beyond",
            "melt.speed_mm_s",
            values | {"limit": limit},
            slower(case, min(0.95 * KEEPS * likely, float(np.quantile(hard, 0.9 * DOUBT)))),
            hotter(case, recipe, context, most_nozzle(recipe, context)),
            wider,
            severity="stop" if float((hard < flow).mean()) > SURE else "watch",
        )
    elif flow > 1.3 * soft:
        yield _found(
            recipe, context, "melt.flow.core_cold", "melt.speed_mm_s", values | {"gap": flow / soft}, slower(case, soft)
        )


def _odd_test(case: MeltCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    tested, at_c, most = value_of(case.odd_test, "flow_mm3_s"), value_of(case.odd_test, "at_c"), case.odd_most
    if tested is None or most is None:
        return
    values: Values = {
        "tested": tested, "at": at_c, "bore": case.bore_mm, "most": most, "gap": tested / max(most, 1e-6),
    }  # fmt: skip
    again = Advice(
        "Test it again, or mend the figure", "What counts is melt that was weighed, not the speed that was set."
    )
    yield _found(recipe, context, "melt.flow.odd", "melt.speed_mm_s", values, again)


def _speed(case: MeltCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    most = context.polymer.value("speed_most_mm_s") if context.polymer is not None else None
    speed = recipe.melt.speed_mm_s
    if most is not None and speed is not None and speed > most.value:
        values: Values = {"speed": speed, "most": most.value, "gap": speed - most.value}
        slow = Set("Lay it at {slower:speed}", {"melt.speed_mm_s": most.value}, {"slower": most.value})
        yield _found(recipe, context, "melt.speed.above_polymer", "melt.speed_mm_s", values, slow)


def _residence(case: MeltCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    stable = context.polymer.value("stable_min") if context.polymer is not None else None
    if stable is None:
        return
    flowing = 0.0 if case.melting is None else middle(case.melting.residence_s) / 60.0
    stands = flowing + (recipe.melt.pause_min or 0.0)
    if stands > stable.low:
        values: Values = {"minutes": stands, "stable": stable.value, "gap": stands}
        shorter = Set(
            "Pauses of at most {most:minutes}",
            {"melt.pause_min": float(int(0.9 * stable.low))},
            {"most": float(int(0.9 * stable.low))},
        )
        purge = Advice(
            "Cool down in pauses, and purge before going on",
            "Below its transition it keeps; then purge a few melt zones.",
        )
        field = "melt.pause_min" if recipe.melt.pause_min else "melt.speed_mm_s"
        yield _found(
            recipe,
            context,
            "melt.residence.ages",
            field,
            values,
            shorter if recipe.melt.pause_min else None,
            purge,
            severity="stop" if stands > stable.value else "watch",
        )


def _change(case: MeltCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    plan = change_over_of(recipe, context)
    if plan is None:
        return
    values: Values = {"old": plan.old, "low": plan.low_c, "high": plan.high_c, "purge": plan.purge_g}
    if plan.is_possible:
        steps = Advice("Change over in this order", "; ".join(plan.order) + ".")
        yield _found(recipe, context, "melt.change.due", "context.machine", values, steps)
        return
    names = " or ".join(plan.between)
    lead = Advice(f"Lead over with {names}" if names else "Change the hot end", plan.order[0] + ".")
    yield _found(recipe, context, "melt.change.no_window", "context.machine", values, lead)


def _multiplier(case: MeltCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    now, right = recipe.melt.multiplier, value_of(case.multiplier, "multiplier")
    if now is not None and right is not None and abs(now / right - 1.0) > OFF:
        what = "gaps stay open between beads" if now < right else "more is laid than has room"
        values: Values = {"set": now, "right": right, "what": what, "gap": abs(now / right - 1.0)}
        take = Set("Multiplier {right:multiplier}", {"melt.multiplier": right}, {"right": right})
        yield _found(recipe, context, "melt.multiplier.off", "melt.multiplier", values, take)
    if now is not None and not ODD[0] <= now <= ODD[1] and right is None:
        strand = case.hot_end.strand_mm / now**0.5
        values = {"set": now, "low": ODD[0], "high": ODD[1], "strand": strand, "gap": abs(now - 1.0)}
        one = Set("Multiplier {one:multiplier}", {"melt.multiplier": 1.0}, {"one": 1.0})
        measure = Advice("Measure walls, and rule out the causes", "The page Multiplier of this bench lists them.")
        yield _found(recipe, context, "melt.multiplier.odd", "melt.multiplier", values, one, measure)


def _ladder(case: MeltCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    now = recipe.melt.nozzle_c
    found = ladder_here(case, context)
    if now is None or found is None or found.stale_because or found.low_c <= now <= found.high_c:
        return
    best, low, high = found.best_c, found.low_c, found.high_c
    most = most_nozzle(recipe, context)
    target = float(round(best if most is None else min(best, most)))
    values: Values = {
        "setpoint": now,
        "best": best,
        "low": low,
        "high": high,
        "gap": abs(now - best),
        "where": found.where,
    }
    take = Set("Nozzle at {target:temperature}", {"melt.nozzle_c": target}, {"target": target})
    other = Advice("Print it on a machine that reaches it, or climb a ladder here", "This hot end ends below that.")
    nearer = abs(target - best) < abs(now - best)
    yield _found(recipe, context, "melt.ladder.away", "melt.nozzle_c", values, *((take,) if nearer else (other,)))


Look = Callable[[MeltCase, Recipe, Context], Iterator[Finding]]
_LOOKS: tuple[Look, ...] = (
    _bead,
    _layers,
    _wall,
    _flow,
    _odd_test,
    _speed,
    _residence,
    _change,
    _multiplier,
    _ladder,
)
