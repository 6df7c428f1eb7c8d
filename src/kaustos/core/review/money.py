"""What a run costs, so that every finding can say what ignoring it costs."""

import math
from collections.abc import Iterable

import attrs

from kaustos.core.estimates import PURPOSE
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Code, Context, Estimate, Finding

COMES_TRUE = {word: (each.low, each.value, each.high) for word, each in PURPOSE.group("comes_true").items()}
WHY = {"prior": "estimate", "draws": "share of the draws", "record": "own runs", "sure": "sure"}
Band = tuple[float, float, float]


def run_cost(recipe: Recipe, context: Context) -> Estimate | None:
    """Filament and machine hours of one run [money].

    Parameters
    ----------
    recipe : Recipe
        Mass and hours of the run stand in its brief [g, h]
    context : Context
        Price of the polymer and of a machine hour [money/kg, money/h]

    Returns
    -------
    Estimate or None
        Cost of the run with the range of the price [money]; None where mass, hours, price or machine is not recorded

    Notes
    -----
    A machine without a rate of its own costs the shop's machine hour. Labour, wear of plate and nozzle are left out
    until their operations record them.
    """
    brief, machine, polymer = recipe.brief, context.machine, context.polymer
    price = polymer.value("price_per_kg") if polymer else None
    rate = machine_rate(context)
    whose = "machine hour" if machine and machine.rate_per_h is not None else "the shop's machine hour"
    if machine is None or brief.mass_g is None or brief.print_h is None or price is None:
        return None
    hours, kilograms = brief.print_h * rate, brief.mass_g / 1000.0
    value, low, high = (hours + kilograms * each for each in (price.value, price.low, price.high))
    return Estimate(value, low, high, "money", f"mass × price + hours × {whose}", price.source)


def machine_rate(context: Context) -> float:
    """What an hour of the machine costs, else of any of the shop [money/h]."""
    rate = context.machine.rate_per_h if context.machine is not None else None
    return context.rules.machine_per_h if rate is None else rate


CLEARING_H = PURPOSE["clearing"].value


def at_stake(run: Estimate | None, wage_per_h: float, spare_part: float | None = None) -> Estimate | None:
    """What is lost where a finding comes true: the run, the work of clearing it, the machine part that it ruins.

    Parameters
    ----------
    run : Estimate or None
        Cost of the run [money]
    wage_per_h : float
        An hour of work [money/h]
    spare_part : float or None
        Price of the part that gives way [money]

    Returns
    -------
    Estimate or None
        Money [money]; None where the cost of the run is unknown
    """
    if run is None:
        return None
    more = (spare_part or 0.0) + CLEARING_H * wage_per_h
    method = f"cost of the run, {CLEARING_H:g} h of work" + (" and the part that gives way" if spare_part else "")
    return attrs.evolve(run, value=run.value + more, low=run.low + more, high=run.high + more, method=method)


def comes_true(code: Code, severity: str) -> Band:
    """The chance that what a finding says comes true in the next run, before anything was drawn or counted.

    Parameters
    ----------
    code : Code
        What leaves no grade at all cannot work; what no run shows seldom costs one [-]
    severity : str
        stop or watch [-]

    Returns
    -------
    tuple of float
        Least, likely, most [1]
    """
    cap = code.cap_of(severity)
    if severity == "stop":
        return COMES_TRUE["no_go" if cap == "no_go" else "stop"]
    return COMES_TRUE["capped" if cap else "silent" if code.silent or code.is_absence else "watch"]


def lost_together(findings: Iterable[Finding]) -> float | None:
    """What ignoring several findings costs a run on average.

    Parameters
    ----------
    findings : iterable of Finding
        Each with its chance and its stake [1, money]

    Returns
    -------
    float or None
        Money [money]; None where no stake is known

    Notes
    -----
    A run is lost once, whatever else goes wrong with it: the largest stake, times the chance that any comes true, as if
    none hung on another. What is sure is paid besides; what comes of another finding is lost with that.
    """
    known = [each for each in findings if each.stake is not None and each.cost is not None and not each.due_to]
    sure = [each.cost.value for each in known if each.cost is not None and each.basis == "sure"]
    risks = [(each.chance, each.stake.value) for each in known if each.stake is not None and each.basis != "sure"]
    if not known:
        return None
    spared = math.prod(1.0 - chance for chance, _ in risks)
    return sum(sure) + (1.0 - spared) * max((stake for _, stake in risks), default=0.0)


def expected_loss(stake: Estimate | None, chance: Band, why: str) -> Estimate | None:
    """What ignoring a finding costs a run on average.

    Parameters
    ----------
    stake : Estimate or None
        What is lost where it comes true [money]
    chance : tuple of float
        Least, likely, most that it does [1]
    why : str
        Where the chance is from [-]

    Returns
    -------
    Estimate or None
        Chance times stake [money]; None where the stake is unknown

    Examples
    --------
    >>> run = Estimate(100.0, 80.0, 150.0, "money", "", "")
    >>> expected_loss(run, (0.1, 0.2, 0.4), "estimate").value
    20.0
    """
    if stake is None:
        return None
    low, value, high = chance
    return attrs.evolve(
        stake, value=stake.value * value, low=stake.low * low, high=stake.high * high,
        method=f"chance of {value:.2g} ({why}) × ({stake.method})",
    )  # fmt: skip
