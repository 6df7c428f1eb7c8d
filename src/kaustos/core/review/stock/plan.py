"""What becomes of a spool from now through dryer, waiting and print: computed once, read by all that judges it."""

import functools
import math
from datetime import datetime

import attrs
import numpy as np

from kaustos.core.physics.cylinder import uniform
from kaustos.core.physics.humidity import Array
from kaustos.core.planning.air import Air, dryer_air, feed_air, hanging_air
from kaustos.core.planning.drying import (
    DEEPEST,
    Passing,
    State,
    Water,
    Winding,
    floor_of,
    hung,
    resting,
    shut_away,
    water_of,
    winding_of,
)
from kaustos.core.planning.history import drying_for_h, moisture_now
from kaustos.core.planning.scenarios import sampled
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


@attrs.frozen
class Steps:
    """What is planned for a spool: dryer, waiting, print."""

    dryer_c: float | None
    dryer_h: float | None
    wait_h: float | None
    wait_in: str | None
    print_h: float | None


@attrs.frozen(eq=False)
class Plan:
    """A spool's moisture now, after drying, after waiting, at the end of the print, and what each answer rests on."""

    spool: Spool
    water: Water
    winding: Winding
    limit: float
    now: State
    air: Air | None  # in the dryer; None where no drying is planned
    floor: Array | None
    needed: Passing | None  # when it is dry
    dried: State  # when drying ends
    waits: Air | None  # where it waits; None for a sealed bag and where it is not known
    waits_for: Passing | None  # how long it may wait there
    start: State  # when printing starts
    feed: Air | None
    lasts: Passing | None  # how long it may hang in its feed
    end: State | None  # when printing ends

    @property
    def waits_too_long(self) -> bool:
        """Whether it is dry enough for certain when drying ends, and no longer when printing starts."""
        return self.dried.worst <= self.limit < self.start.worst


def plan_of(recipe: Recipe, context: Context) -> Plan | None:
    """The plan of a recipe's lot, None where the polymer's values of water are not known."""
    water = water_of(context.polymer)
    limit = context.polymer.value("moisture_limit_pct") if context.polymer else None
    if water is None or limit is None:
        return None
    stock, lot = recipe.stock, lot_in_use(recipe, context)
    slim = attrs.evolve(lot, grade_values={}, lot_values={}, extra={}) if lot else None
    spool = Spool(slim, water, limit.value, context.rules, context.now)
    waits_in = stock.wait_in or (lot.feed if lot else None)
    steps = Steps(stock.dryer_c, left_to_dry_h(recipe, context), stock.wait_h, waits_in, recipe.brief.print_h)
    return _plan(spool, context.dryer, steps)


def left_to_dry_h(recipe: Recipe, context: Context) -> float | None:
    """What of the planned drying is still to come: a spool that is in a dryer since this morning has had its part."""
    planned = recipe.stock.dryer_h
    return None if planned is None else max(0.0, planned - drying_for_h(lot_in_use(recipe, context), context.now))


def ready_in_h(recipe: Recipe, context: Context, plan: Plan | None) -> float | None:
    """Hours until the spool is dry if it goes in now: those still planned, or those it takes where they are more.

    Nothing where it is dry for certain, whatever is planned.
    """
    left = left_to_dry_h(recipe, context)
    if left is not None and plan is not None and plan.now.worst <= plan.limit:
        return 0.0
    takes = plan.needed.likely_h(DEEPEST) if plan and plan.needed and left else 0.0
    return left if left is None or not math.isfinite(takes) else max(left, takes)


def there_in_h(recipe: Recipe, context: Context, plan: Plan | None) -> float | None:
    """Hours until the spool, dried and having waited as planned, is at the machine if it goes in now."""
    ready = ready_in_h(recipe, context, plan)
    return None if ready is None else ready + (recipe.stock.wait_h or 0.0)


@functools.lru_cache(maxsize=16)
def _plan(spool: Spool, dryer: Dryer | None, steps: Steps) -> Plan:
    winding, before = winding_of(spool.lot), spool_now(spool)
    air = floor = needed = None
    dried = before
    if steps.dryer_c is not None:
        air = dryer_air(dryer, steps.dryer_c, spool.rules)
        floor = floor_of(spool.water, air)
        needed, dried = hung(before, spool.water, winding, air, spool.limit, steps.dryer_h)
    waits, feed = _waiting_air(spool, steps), feed_air(spool.lot, spool.rules)
    waits_for, waited = _hung(spool, dried, waits, steps.wait_h) if steps.wait_h or waits != feed else (None, None)
    if waits is None and steps.wait_h:
        waited = shut_away(dried, winding, spool.rules.room_c, steps.wait_h)
    start = waited or dried
    lasts, end = _hung(spool, start, feed, steps.print_h)
    if not steps.wait_h and waits == feed:
        waits_for = lasts  # it would wait where it hangs while it prints
    return Plan(spool, spool.water, winding, spool.limit, before, air, floor, needed, dried, waits, waits_for,
                start, feed, lasts, end)  # fmt: skip


def _hung(spool: Spool, state: State, air: Air | None, hours: float | None) -> tuple[Passing | None, State | None]:
    """How long it may hang in an air, and how it is after some hours there."""
    if air is None:
        return None, None
    wet, after = hung(state, spool.water, winding_of(spool.lot), air, spool.limit, hours)
    return wet, after if hours else None


def _waiting_air(spool: Spool, steps: Steps) -> Air | None:
    if steps.wait_in in (None, "sealed"):
        return None
    return hanging_air(str(steps.wait_in), spool.lot.box_humidity_pct if spool.lot else None, spool.rules)


def spool_now(spool: Spool) -> State:
    """How wet a spool is now."""
    return moisture_now(spool.lot, spool.water, spool.rules, spool.now, spool.limit)


@attrs.frozen
class Dried:
    """What one dryer does for a spool at one temperature: likely and sure hours, infinity for never, and its floor."""

    likely_h: float
    surely_h: float
    floor: float
    never: bool  # the floor is above the limit: likely
    never_surely: bool  # or may be


@functools.lru_cache(maxsize=256)
def dried_in(spool: Spool, dryer: Dryer | None, celsius: float) -> Dried:
    """How long a dryer takes until a spool is at the printing limit."""
    air = dryer_air(dryer, celsius, spool.rules)
    passing, _ = hung(spool_now(spool), spool.water, winding_of(spool.lot), air, spool.limit)
    likely, _, surely = passing.hours(DEEPEST)
    floor, _, highest = map(float, sampled(floor_of(spool.water, air)))
    return Dried(likely, surely, floor, floor > spool.limit, highest > spool.limit)


def dries_the_wettest(recipe: Recipe, context: Context, plan: Plan) -> bool:
    """Whether the drying planned likely dries a spool that is in balance with humid air, whatever its log says."""
    hours = left_to_dry_h(recipe, context)
    if plan.air is None or not hours:
        return False
    wet = resting(uniform(np.repeat(np.array(plan.water.half)[:, None], 3, axis=1)), context.rules.room_c)
    passing, _ = hung(wet, plan.water, plan.winding, plan.air, plan.limit)
    return passing.likely_h(DEEPEST) <= hours
