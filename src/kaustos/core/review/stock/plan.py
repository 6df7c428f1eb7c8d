"""What becomes of a spool from now through dryer and print: computed once, read by findings, figures and picture."""

import functools
from datetime import datetime

import attrs
import numpy as np

from kaustos.core.physics.cylinder import Profile
from kaustos.core.physics.humidity import Array
from kaustos.core.planning.drying import (
    BEST,
    LIKELY,
    MEAN,
    WORST,
    Air,
    Water,
    Winding,
    dryer_air,
    entered,
    feed_air,
    floor_of,
    moisture_now,
    until_dry,
    until_wet,
    water_of,
    winding_of,
)
from kaustos.core.records import Dryer, Lot, Recipe, Rules
from kaustos.core.review.contract import Context
from kaustos.core.review.stock.lot import lot_in_use


@attrs.frozen
class Spool:
    """A lot at a moment, as far as water is concerned."""

    lot: Lot | None
    water: Water
    limit: float
    rules: Rules
    now: datetime | None


@attrs.frozen(eq=False)
class Plan:
    """A spool's moisture now, after drying, and at the end of the print, with what each answer rests on."""

    spool: Spool
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
    stock, lot = recipe.stock, lot_in_use(recipe, context)
    slim = attrs.evolve(lot, grade_values={}, lot_values={}, weighings=(), extra={}) if lot else None
    spool = Spool(slim, water, limit.value, context.rules, context.now)
    return _plan(spool, context.dryer, stock.dryer_c, stock.dryer_h, recipe.brief.print_h)


@functools.lru_cache(maxsize=16)
def _plan(
    spool: Spool, dryer: Dryer | None, dryer_c: float | None, dryer_h: float | None, print_h: float | None
) -> Plan:  # fmt: skip
    winding, before = winding_of(spool.lot), spool_now(spool)
    air = floor = needed = None
    start = before
    if dryer_c is not None:
        air = dryer_air(dryer, dryer_c, spool.rules)
        there, rate = entered(before, spool.water, winding, air)
        floor, needed = floor_of(spool.water, air), until_dry(there, rate, spool.limit)
        start = before if dryer_h is None else there.after(rate * (dryer_h * 3600.0))
    feed, lasts, end = feed_air(spool.lot, spool.rules), None, None
    if feed is not None:
        there, rate = entered(start, spool.water, winding, feed)
        lasts = until_wet(there, rate, spool.limit)
        end = None if print_h is None else there.after(rate * (print_h * 3600.0))
    return Plan(spool, spool.water, winding, spool.limit, before, air, floor, needed, start, feed, lasts, end)


def spool_now(spool: Spool) -> Profile:
    """How wet a spool is now."""
    return moisture_now(spool.lot, spool.water, spool.rules, spool.now)


@attrs.frozen
class Dried:
    """What one dryer does for a spool at one temperature: likely and sure hours, infinity for never, and its floor."""

    likely_h: float
    surely_h: float
    floor: float


@functools.lru_cache(maxsize=256)
def dried_in(spool: Spool, dryer: Dryer | None, celsius: float) -> Dried:
    """How long a dryer takes until a spool is at the printing limit."""
    air = dryer_air(dryer, celsius, spool.rules)
    hours = until_dry(*entered(spool_now(spool), spool.water, winding_of(spool.lot), air), spool.limit)
    return Dried(float(hours[LIKELY, MEAN]), float(hours.max()), float(floor_of(spool.water, air)[LIKELY]))


def band(means: Array) -> tuple[float, float, float]:
    """Likely mean turn with the least and most that turns and scenarios leave open."""
    return float(means[LIKELY, MEAN]), float(means[BEST].min()), float(means[WORST].max())


def worst_turn(means: Array) -> float:
    """The wettest turn in the worst scenario."""
    return float(np.max(means[WORST]))
