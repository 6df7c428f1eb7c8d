"""What becomes of a spool from now through dryer and print: computed once, read by findings, figures and picture."""

import functools
from datetime import datetime

import attrs
import numpy as np

from kaustos.core.physics.cylinder import Profile
from kaustos.core.physics.humidity import Array
from kaustos.core.planning.drying import (
    BEST,
    DEEPEST,
    LIKELY,
    MEAN,
    WORST,
    Air,
    Water,
    Winding,
    dryer_air,
    drying_hours,
    feed_air,
    floor_of,
    kept,
    moisture_now,
    open_hours,
    water_of,
    winding_of,
)
from kaustos.core.records import Dryer, Lot, Recipe, Rules
from kaustos.core.review.contract import Context


@attrs.frozen(eq=False)
class Plan:
    """A spool's moisture now, after drying, and at the end of the print, with what each answer rests on."""

    water: Water
    winding: Winding
    limit: float
    now: Profile
    air: Air | None  # in the dryer; None where no drying is planned
    floor: Array | None
    needed_h: Array | None  # scenarios x turns
    start: Profile  # when printing starts
    feed: Air | None
    lasts_h: Array | None  # how long it may hang in its feed, scenarios x turns
    end: Profile | None  # when printing ends


def plan_of(recipe: Recipe, context: Context) -> Plan | None:
    """The plan of a recipe's lot, None where the polymer's values of water are not known."""
    water = water_of(context.polymer)
    limit = context.polymer.value("moisture_limit_pct") if context.polymer else None
    if water is None or limit is None:
        return None
    stock, brief = recipe.stock, recipe.brief
    lot = lot_in_use(recipe, context)
    slim = attrs.evolve(lot, grade_values={}, lot_values={}, weighings=(), extra={}) if lot else None
    return _plan(
        slim, water, limit.value, context.dryer, stock.dryer_c, stock.dryer_h, brief.print_h, context.rules, context.now
    )


def lot_in_use(recipe: Recipe, context: Context) -> Lot | None:
    """The lot, where it is of the recipe's polymer."""
    return context.lot if context.lot and context.lot.polymer == recipe.polymer else None


@functools.lru_cache(maxsize=16)
def _plan(
    lot: Lot | None, water: Water, limit: float, dryer: Dryer | None, dryer_c: float | None, dryer_h: float | None,
    print_h: float | None, rules: Rules, now: datetime | None,
) -> Plan:  # fmt: skip
    winding = winding_of(lot)
    before = moisture_now(lot, water, rules, now)
    air = None if dryer_c is None else dryer_air(dryer, dryer_c, rules)
    start = before if air is None or dryer_h is None else kept(before, water, winding, air, dryer_h)
    feed = feed_air(lot, rules)
    lasts = None if feed is None else open_hours(start, water, winding, feed, limit)
    end = None if feed is None or print_h is None else kept(start, water, winding, feed, print_h)
    return Plan(
        water, winding, limit, before, air, None if air is None else floor_of(water, air),
        None if air is None else drying_hours(before, water, winding, air, limit), start, feed, lasts, end,
    )  # fmt: skip


def band(means: Array) -> tuple[float, float, float]:
    """Likely mean turn with the least and most that turns and scenarios leave open."""
    return float(means[LIKELY, MEAN]), float(means[BEST].min()), float(means[WORST].max())


def worst_turn(means: Array) -> float:
    """The wettest turn in the worst scenario."""
    return float(np.max(means[WORST]))


def likely_deepest(values: Array) -> float:
    """The deepest turn in the likely scenario."""
    return float(values[LIKELY, DEEPEST])
