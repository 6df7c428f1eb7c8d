"""The picture of the spool: moisture over time through its history, now, dryer, waiting and print."""

import attrs
import numpy as np

from kaustos.core.physics.humidity import Array
from kaustos.core.planning.air import Air, air_of_stay
from kaustos.core.planning.drying import DEEPEST, MEAN, State, course, winding_of
from kaustos.core.planning.history import after_stay, begins_as, spans, state_at_first
from kaustos.core.planning.scenarios import LIKELY, sampled
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.stock.lot import lot_in_use
from kaustos.core.review.stock.plan import Plan, dried_in, left_to_dry_h, plan_of
from kaustos.core.review.stock.remedies import hottest, hours_in, longest_h

PAST_H = 14 * 24.0  # how much of the history is drawn
POINTS = 25


@attrs.frozen(eq=False)
class Phase:
    """One span of time in one place: hours from now, and over them the likely moisture and the band of all turns."""

    place: str  # sealed, open, dry_box, dryer, wait, print
    hours: Array
    mean: Array  # of the mean turn [%]
    deepest: Array  # [%]
    low: Array  # what no turn is drier than for sure [%]
    high: Array  # what no turn is wetter than for sure [%]


@attrs.frozen
class DryerOption:
    """What one dryer of the shop does for this spool, as hot as polymer, spool body and dryer stand."""

    dryer: str  # id
    name: str
    celsius: float
    likely_h: float  # deepest turn; infinity for longer than is looked
    worst_h: float  # the same, 97.5 %
    floor: float  # [%]
    never: bool  # its floor is likely above the limit
    never_surely: bool  # or may be
    take_h: float | None  # what to set: surely dry, or as long as hot air does no harm; None where that is not likely


@attrs.frozen(eq=False)
class StockPicture:
    """Moisture over time with limit and floor [h, %], and what each dryer of the shop would take."""

    phases: tuple[Phase, ...]
    limit: float | None
    floor: float | None
    options: tuple[DryerOption, ...] = ()

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.phases or self.limit is None


def picture(recipe: Recipe, context: Context) -> StockPicture:
    """Past as it is known, dryer and waiting as they are planned, print from its feed."""
    plan = plan_of(recipe, context)
    if plan is None:
        return StockPicture((), None, None)
    phases = [*_past(recipe, context, plan)]
    at = 0.0
    drying = left_to_dry_h(recipe, context)
    if plan.air is not None and drying:
        phases.append(_phase("dryer", plan.now, plan, plan.air, at, drying))
        at += drying
    if recipe.stock.wait_h:
        phases.append(_waiting(plan, at, recipe.stock.wait_h))
        at += recipe.stock.wait_h
    if plan.feed is not None and recipe.brief.print_h:
        phases.append(_phase("print", plan.start, plan, plan.feed, at, recipe.brief.print_h))
    floor = None if plan.floor is None else float(plan.floor[LIKELY])
    return StockPicture(tuple(phases), plan.limit, floor, options_of(recipe, context, plan))


def options_of(recipe: Recipe, context: Context, plan: Plan) -> tuple[DryerOption, ...]:
    """What each dryer of the shop does for the spool, the quickest first."""
    found = []
    for dryer in context.shop.dryers:
        celsius = hottest(recipe, context, dryer)
        if celsius is not None:
            dried, times = dried_in(plan.spool, dryer, celsius), hours_in(recipe, context, plan, dryer)
            longest = longest_h(context, celsius, dryer)
            hours = times[1] if times else longest if dried.likely_h <= longest else None
            found.append(
                DryerOption(dryer.id, dryer.name, celsius, dried.likely_h, dried.surely_h, dried.floor, dried.never,
                            dried.never_surely, hours)
            )  # fmt: skip
    return tuple(sorted(found, key=lambda each: (each.worst_h, each.likely_h)))


def _phase(place: str, state: State, plan: Plan, air: Air, begins: float, hours: float) -> Phase:
    times = hours * np.linspace(0.0, 1.0, POINTS) ** 2  # dense where things change fast
    return _banded(place, begins + times, course(state, plan.water, plan.winding, air, times))


def _banded(place: str, hours: Array, moisture: Array) -> Phase:
    likely, low, high = sampled(moisture)
    return Phase(place, hours, likely[MEAN], likely[DEEPEST], low.min(axis=0), high.max(axis=0))


def _waiting(plan: Plan, begins: float, hours: float) -> Phase:
    """In an air, or shut away where it keeps what it holds."""
    if plan.waits is not None:
        return _phase("wait", plan.dried, plan, plan.waits, begins, hours)
    return _shut_away("wait", plan.dried, begins, hours)


def _shut_away(place: str, state: State, begins: float, hours: float) -> Phase:
    return _banded(place, np.array([begins, begins + hours]), state.means[..., None] * np.ones(2))


def _past(recipe: Recipe, context: Context, plan: Plan) -> list[Phase]:
    lot, rules = lot_in_use(recipe, context), context.rules
    begun, known = begins_as(lot, plan.water, rules, context.now, plan.limit)
    stays = spans(known, context.now)
    state, winding = state_at_first(plan.water, rules.room_c, begun), winding_of(lot)
    begins = -sum(hours for _, hours in stays)
    found = []
    for stay, hours in stays:
        if stay.place == "sealed":
            found.append(_shut_away("sealed", state, begins, hours))
        else:
            air = air_of_stay(stay, rules.room_c, rules.dew_point_c)
            found.append(_phase(stay.place, state, plan, air, begins, hours))
        state = after_stay(state, stay, hours, plan.water, winding, rules.room_c, rules.dew_point_c)
        begins += hours
    return [phase for phase in found if phase.hours[-1] > -PAST_H]
