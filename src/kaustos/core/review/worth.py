"""What is worth finding out before a run: each cheap measurement held against the loss that its answer could avert."""

import math
from collections.abc import Iterator, Mapping

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.belief.worth import Worth, worth_of
from kaustos.core.estimates import DRYING
from kaustos.core.estimates import WORTH as EFFORT
from kaustos.core.planning.draws import Array, drawn
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Heavy, Reads
from kaustos.core.review.experience import Tally
from kaustos.core.review.filed import as_filed
from kaustos.core.review.grading import WANTED
from kaustos.core.review.heat.case import heat_case
from kaustos.core.review.heat.findings import least_share
from kaustos.core.review.money import at_stake, machine_rate, run_cost
from kaustos.core.review.plate.case import case_of
from kaustos.core.review.registry import BY_KEY
from kaustos.core.review.stock.conditions import is_water_known
from kaustos.core.review.stock.plan import plan_of
from kaustos.core.review.tempering import STOPS, after_runs, own_runs

RUNS = EFFORT["runs"].value  # that a recipe is likely run with what was found out
ALSO = ("shop.paces", "shop.record", "past")  # hours of a file, and what own runs showed
JUDGED = ("brief", "stock", "plate", "heat")  # whose predictions could be measured


@attrs.frozen(kw_only=True)
class Measurement:
    """Something that could be found out first, what it takes and what it is worth."""

    key: str
    title: str
    quantity: str  # of the answer, as values are shown: share, moisture, bond_energy, temperature
    work_h: float
    machine_h: float
    cost: float  # work, machine and filament [money]
    worth: Worth

    @property
    def net(self) -> float:
        """What it saves over the runs that are usual of a recipe, beyond what it costs [money]."""
        return RUNS * self.worth.value - self.cost

    @property
    def pays_after(self) -> int:
        """Runs after which it has saved what it costs [-]."""
        return math.ceil(self.cost / self.worth.value)


def worth_knowing(recipe: Recipe, context: Context) -> tuple[Measurement, ...]:
    """What is worth finding out before the next run, the most saved first.

    Parameters
    ----------
    recipe : Recipe
        With mass and hours of the run [g, h]
    context : Context
        Machine, polymer and what was measured [-]

    Returns
    -------
    tuple of Measurement
        Only what saves more over a recipe's runs than it costs [money]; nothing where the cost of the run is not known

    Notes
    -----
    Each is held against its own way of losing the run; runs of the recipe as it stands that were good although it was
    foretold say how often what is foretold comes true. Not to run is best where a stop stops, over half of the chance
    of losing the run. What a safety part may do to people is weighed against no money, so its weld is no matter of
    this list.
    """
    filed = as_filed(recipe, context)
    stake = at_stake(run_cost(filed, context), context.rules.wage_per_h)
    if stake is None:
        return ()
    record = context.shop.record(recipe.polymer or "")
    found = [_held(each, stake.value, record, context) for each in _candidates(filed, context)]
    return tuple(sorted((each for each in found if each.net > 0.0), key=lambda each: -each.net))


@attrs.frozen(kw_only=True, eq=False)
class _Candidate:
    key: str
    code: str  # of the finding that says of the same
    title: str
    quantity: str
    draws: Array  # of what is measured [its unit]
    is_lost: NDArray[np.bool_]  # whether the run is, draw by draw
    error: float  # logarithm of a factor


def _comes_true(candidate: _Candidate, record: Mapping[str, Tally], context: Context) -> float:
    """How often a run is lost where it is foretold [1], as the recipe's own runs have it; never oftener than that."""
    own = own_runs(record.get(candidate.code), context.past.as_it_stands if context.past is not None else 0)
    drawn_chance = float(candidate.is_lost.mean())
    if own is None or not own.of or not drawn_chance > 0.0:
        return 1.0
    return min(after_runs(drawn_chance, own)[1] / drawn_chance, 1.0)


def _held(candidate: _Candidate, stake: float, record: Mapping[str, Tally], context: Context) -> Measurement:
    loss = stake * _comes_true(candidate, record, context) * candidate.is_lost.astype(np.float64)
    rate = machine_rate(context)
    price = context.polymer.value("price_per_kg") if context.polymer is not None else None
    work, machine = EFFORT[f"{candidate.key}.work"].value, EFFORT[f"{candidate.key}.machine"].value
    grams = EFFORT[f"{candidate.key}.grams"].value if f"{candidate.key}.grams" in EFFORT else 0.0
    filament = 0.0 if price is None else 1e-3 * grams * price.value
    return Measurement(
        key=candidate.key, title=candidate.title, quantity=candidate.quantity, work_h=work, machine_h=machine,
        cost=work * context.rules.wage_per_h + machine * rate + filament,
        worth=worth_of(candidate.draws, loss, STOPS * stake, candidate.error),
    )  # fmt: skip


def _candidates(recipe: Recipe, context: Context) -> Iterator[_Candidate]:
    yield from _of_weld(recipe, context)
    yield from _of_water(recipe, context)
    yield from _of_bond(recipe, context)


def _of_weld(recipe: Recipe, context: Context) -> Iterator[_Candidate]:
    """Neither of a safety part nor of one whose strength nobody needs."""
    case, purpose = heat_case(recipe, context), recipe.brief.purpose
    if case.share is None or case.ratio is not None or purpose == "safety" or WANTED.get(purpose or "") == "decorative":
        return
    is_weak = case.share < least_share(recipe, context)
    title = "Pull or break five specimens across their layers"
    yield _Candidate(
        key="specimens", code="heat.weld.weak",
        title=title, quantity="share", draws=100.0 * case.share, is_lost=is_weak,
        error=EFFORT["specimens.error"].value,
    )  # fmt: skip
    air = np.maximum(case.air_c, 1.0)
    yield _Candidate(
        key="probe", code="heat.weld.weak",
        title="Measure the air beside the part", quantity="temperature", draws=air, is_lost=is_weak,
        error=EFFORT["probe.error"].value / float(np.median(air)),
    )  # fmt: skip


def _of_water(recipe: Recipe, context: Context) -> Iterator[_Candidate]:
    plan, polymer = plan_of(recipe, context), context.polymer
    if plan is None or polymer is None or not polymer.hydrolyses or not is_water_known(recipe, context):
        return
    likely, worst = max(plan.dried.wettest, 1e-6), max(plan.dried.worst, 1e-6)
    water = drawn("water", (likely**2 / max(worst, likely), likely, max(worst, likely)))
    lost = plan.limit * drawn("lost at", DRYING["lost_at"].band)
    yield _Candidate(
        key="strand", code="stock.moisture.wet",
        title="Lay a strand in free air and look at it", quantity="moisture", draws=water,
        is_lost=water > lost, error=EFFORT["strand.error"].value,
    )  # fmt: skip


def _of_bond(recipe: Recipe, context: Context) -> Iterator[_Candidate]:
    bond = case_of(recipe, context).bond
    if bond is None:
        return
    yield _Candidate(
        key="coupon", code="plate.corner.lifts",
        title="Print a coupon on the plate and pull it off with a scale", quantity="bond_energy",
        draws=bond.grip, is_lost=bond.lift_mm > bond.limit_mm, error=EFFORT["coupon.error"].value,
    )  # fmt: skip


def _reads() -> Reads:
    """All that the operations read whose predictions it holds."""
    each = [BY_KEY[key].reads for key in JUDGED]
    return Reads(
        recipe=tuple(sorted({name for reads in each for name in reads.recipe})),
        context=tuple(sorted({*ALSO, *(path for reads in each for path in reads.context)})),
    )


WORTH_KNOWING = Heavy(key="worth.knowing", compute=worth_knowing, reads=_reads())
