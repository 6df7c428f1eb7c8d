"""The figures of the spool and its drying, each with its band, method and source."""

from datetime import datetime

from kaustos.core.estimates import DRYING
from kaustos.core.physics.warming import warm_through_seconds
from kaustos.core.planning.drying import DEEPEST, HEAT_CAPACITY, MEAN, OUTERMOST, Passing, State, winding_of
from kaustos.core.planning.horizon import HORIZON_H
from kaustos.core.planning.ledger import MARGIN, RUN_SPREAD, runs_that_fit
from kaustos.core.planning.scenarios import LIKELY, sampled
from kaustos.core.records import Recipe
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Estimate, Figure, Saying
from kaustos.core.review.stock.desiccant import box_needs
from kaustos.core.review.stock.lot import ledger, lot_in_use
from kaustos.core.review.stock.plan import Plan, dried_in, left_to_dry_h, ready_in_h, there_in_h

MODEL = "diffusion in a cylinder through the gaps of the winding, as warm as each turn is; band of 200 draws"
REACHED_K = (DRYING["dryer_below"].value, DRYING["dryer_above"].value)
WARM_BAND = (DRYING["warming_spread"].low, DRYING["warming_spread"].high)
_NOT_LOGGED = "history of the lot; what is not logged as a band"


TITLES = {
    "stock.drying.time": "Drying time to the printing limit",
    "stock.drying.left": "Still to dry",
    "stock.drying.label": "As its label dries it",
    "stock.drying.ready": "Dry, put in now, in",
    "stock.drying.start": "Put it in by",
    "stock.dryer.set": "Heat in the dryer",
    "stock.drying.warm": "Warm through after",
    "stock.moisture.now": "Moisture now",
    "stock.moisture.start": "Moisture when printing starts",
    "stock.moisture.end": "Moisture when printing ends",
    "stock.drying.floor": "Floor of drying in this air",
    "stock.waiting.lasts": "May wait for its print for",
    "stock.exposure.lasts": "May hang in its feed for",
    "stock.desiccant.month": "Desiccant for a month in a dry box",
    "stock.desiccant.lasts": "Desiccant of a dry box lasts",
    "stock.desiccant.due": "Change the desiccant on",
    "stock.mass.left": "Filament left",
    "stock.mass.runs": "Runs that the rest is enough for",
    "stock.moisture.signs": "A wet melt shows",
}


def figures_of(recipe: Recipe, context: Context, plan: Plan | None) -> tuple[Figure, ...]:
    """Every figure of the operation."""
    values = _values(recipe, context, plan)
    return tuple(Figure(key, title, values[key]) for key, title in TITLES.items())


def tile_of(plan: Plan | None, *, is_known: bool = True) -> tuple[Saying, ...]:
    """How long the spool dries, and at what heat; where nobody knows how wet it is, that no drying is not said."""
    if plan is None or plan.needed is None or plan.air is None:
        return ()
    hours = plan.needed.likely_h(DEEPEST)
    if hours >= HORIZON_H:
        never = plan.floor is not None and float(plan.floor[LIKELY]) > plan.limit
        return (
            (Saying("never dry here"), Saying("never")) if never else (Saying("longer than 10 d"), Saying("over 10 d"))
        )
    if not round(60.0 * hours):
        if not is_known:
            return (Saying("nobody knows how wet"), Saying("wet or dry?"))
        long, short = (
            ("dry now, wet when printed", "wet by then") if plan.waits_too_long else ("dry enough now", "dry now")
        )
        return (Saying(long), Saying(short))
    values = {"hours": hours, "whole": max(1.0, float(round(hours))), "celsius": float(round(plan.air.temperature_c))}
    whole = "{whole:duration}" if hours >= 0.5 else "{hours:duration}"
    texts = (
        "{hours:duration} at {celsius:temperature}",
        f"{whole} · {{celsius:temperature}}",
        "{hours:duration}",
        whole,
    )
    return tuple(Saying(text, values) for text in texts)


def _values(recipe: Recipe, context: Context, plan: Plan | None) -> dict[str, Estimate | str | Absent]:
    source = context.polymer.name if context.polymer else ""
    left = _left(recipe, context)
    desiccant = box_needs(recipe, context, plan)
    return {
        "stock.drying.time": _drying_time(plan, source),
        "stock.drying.left": _left_to_dry(recipe, context),
        "stock.drying.label": _by_label(context, plan),
        "stock.drying.ready": _ready_in(recipe, context, plan),
        "stock.drying.start": _start_by(recipe, context, plan),
        "stock.dryer.set": _reached(plan),
        "stock.drying.warm": _warm(recipe, context),
        "stock.moisture.now": _moisture(plan.now if plan else None, _NOT_LOGGED, source),
        "stock.moisture.start": _moisture(plan.start if plan else None, MODEL, source),
        "stock.moisture.end": _moisture(plan.end if plan else None, MODEL, source),
        "stock.drying.floor": _floor(plan, source),
        "stock.waiting.lasts": _waits(plan, source),
        "stock.exposure.lasts": _lasts(plan, source),
        "stock.desiccant.month": desiccant.month,
        "stock.desiccant.lasts": desiccant.lasts,
        "stock.desiccant.due": desiccant.due,
        "stock.mass.left": left,
        "stock.mass.runs": _runs(recipe, left),
        "stock.moisture.signs": _signs(context),
    }


def _runs(recipe: Recipe, left: Estimate | Absent) -> Estimate | Absent:
    if not isinstance(left, Estimate) or not recipe.brief.mass_g:
        return UNKNOWN
    value, low, high = (runs_that_fit(each, recipe.brief.mass_g) for each in (left.value, left.low, left.high))
    method = f"filament left / mass of the run with a margin of {100.0 * MARGIN:g} %"
    return Estimate(value, low, high, "1", method, "lot record and brief")


def _signs(context: Context) -> str | Absent:
    if context.polymer is None:
        return UNKNOWN
    return context.polymer.wet_signs or "nothing, until layers part: weigh it"


def _left(recipe: Recipe, context: Context) -> Estimate | Absent:
    lot = lot_in_use(recipe, context)
    known = ledger(lot, context)
    if lot is None or known is None:
        return UNKNOWN
    scale = next((each.scale_g for each in reversed(lot.weighings) if each.scale_g), context.rules.scale_g)
    spread = 2.0 * scale + RUN_SPREAD * known.taken_g
    method = "last weighing − empty spool"
    method += f" − {known.taken_g:g} g taken by runs since" if known.taken_g else ""
    method += f" − {known.put_aside_g:g} g put aside" if known.put_aside_g else ""
    left = known.free_g
    return Estimate(left, max(0.0, left - spread), left + spread, "g", method, "lot record and runs")


def _by_label(context: Context, plan: Plan | None) -> str | Absent:
    """Hours of the label, and what they leave to do at the heat that it names."""
    polymer = context.polymer
    least, most = (polymer.value(f"label_dries_{end}_h") if polymer else None for end in ("low", "high"))
    least, most = least or most, most or least
    if least is None or most is None or polymer is None:
        return UNKNOWN
    hours = f"{least.value:g} h" if least.value == most.value else f"{least.value:g} to {most.value:g} h"
    heat = polymer.value("dryer_high_c")
    if plan is None or heat is None:
        return hours
    needed = dried_in(plan.spool, context.dryer, heat.value)
    says = next((words for most_h, words in (
        (needed.surely_h, "surely dry by the model"), (needed.likely_h, "likely dry by the model")
    ) if most_h <= most.value), None)  # fmt: skip
    if says is None:
        says = (
            "never dry in this air by the model"
            if needed.likely_h >= HORIZON_H
            else (f"wet by the model until {needed.likely_h:.1f} h")
        )
    return f"{hours} at {heat.value:g} °C: {says}"


def _hours(value: float) -> float:
    return min(value, HORIZON_H)


def _drying_time(plan: Plan | None, source: str) -> Estimate | Absent:
    if plan is None or plan.needed is None:
        return UNKNOWN
    return _time_band(plan.needed, DEEPEST, f"{MODEL}; deepest turn; {HORIZON_H:g} h stands for more", source)


def _left_to_dry(recipe: Recipe, context: Context) -> Estimate | Absent:
    left = left_to_dry_h(recipe, context)
    if left is None:
        return UNKNOWN
    return Estimate(
        left, left, left, "h", "hours planned - hours that it is in a dryer already", "recipe and lot record"
    )


def _ready_in(recipe: Recipe, context: Context, plan: Plan | None) -> Estimate | Absent:
    hours = ready_in_h(recipe, context, plan)
    if hours is None:
        return UNKNOWN
    most = max(hours, _hours(plan.needed.hours(DEEPEST)[2])) if plan and plan.needed and hours else hours
    return Estimate(hours, hours, most, "h", "hours planned, or those it takes if more", MODEL)


def _start_by(recipe: Recipe, context: Context, plan: Plan | None) -> Estimate | Absent:
    left = there_in_h(recipe, context, plan)
    if left is None or not recipe.stock.wanted_utc:
        return UNKNOWN
    at = datetime.fromisoformat(recipe.stock.wanted_utc).timestamp() - 3600.0 * left
    return Estimate(
        at, at, at, "moment", "when it is wanted − waiting − hours planned, or those it takes if more", MODEL
    )


def _reached(plan: Plan | None) -> Estimate | Absent:
    if plan is None or plan.air is None:
        return UNKNOWN
    at = plan.air.temperature_c
    return Estimate(
        at,
        at - REACHED_K[0],
        at + REACHED_K[1],
        "°C",
        "setpoint, as far as the dryer reaches",
        "recipe and dryer record; band estimate",
    )


def _time_band(passing: Passing, turn: int, method: str, source: str) -> Estimate:
    likely, low, high = map(_hours, passing.hours(turn))
    return Estimate(likely, min(low, likely), max(high, likely), "h", method, f"{source}: values of water")


def _warm(recipe: Recipe, context: Context) -> Estimate:
    winding = winding_of(lot_in_use(recipe, context))
    hours = warm_through_seconds(winding.depth, winding.width, HEAT_CAPACITY) / 3600.0
    method = "rectangular bar, 95 % of the step at the middle; the drying time has it in it"
    return Estimate(
        hours, WARM_BAND[0] * hours, WARM_BAND[1] * hours, "h", method, "conductivity of a winding, estimate"
    )


def _moisture(state: State | None, method: str, source: str) -> Estimate | Absent:
    if state is None:
        return UNKNOWN
    value, low, high = state.band
    return Estimate(value, low, high, "% water", method, f"{source}: values of water")


def _floor(plan: Plan | None, source: str) -> Estimate | Absent:
    if plan is None or plan.floor is None:
        return UNKNOWN
    likely, low, high = map(float, sampled(plan.floor))
    method = "sorption of the polymer at the humidity of the dryer's air"
    return Estimate(likely, low, high, "% water", method, f"{source}: values of water; Wagner and Pruss")


def _lasts(plan: Plan | None, source: str) -> Estimate | Absent:
    if plan is None or plan.lasts is None:
        return UNKNOWN
    return _time_band(plan.lasts, MEAN, f"{MODEL}; until the mean turn is over the limit", source)


def _waits(plan: Plan | None, source: str) -> Estimate | Absent:
    if plan is None or plan.waits_for is None:
        return UNKNOWN
    return _time_band(plan.waits_for, OUTERMOST, f"{MODEL}; until the outermost turn is over the limit", source)
