"""What a run costs, so that every finding can say what ignoring it costs."""

import attrs

from kaustos.core.estimates import PURPOSE
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Estimate

WASTED_SHARE = {severity: (each.value, each.low, each.high) for severity, each in PURPOSE.group("wasted").items()}


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
    rate = machine.rate_per_h if machine else None
    whose = "machine hour" if rate is not None else "the shop's machine hour"
    rate = context.rules.machine_per_h if rate is None else rate
    if machine is None or brief.mass_g is None or brief.print_h is None or price is None:
        return None
    hours, kilograms = brief.print_h * rate, brief.mass_g / 1000.0
    value, low, high = (hours + kilograms * each for each in (price.value, price.low, price.high))
    return Estimate(value, low, high, "money", f"mass × price + hours × {whose}", price.source)


CLEARING_H = PURPOSE["clearing"].value


def at_stake(
    run: Estimate | None, severity: str, wage_per_h: float, spare_part: float | None = None
) -> Estimate | None:
    """The share of a run that ignoring a finding wastes, the work of clearing it, and the machine part that it ruins.

    Parameters
    ----------
    run : Estimate or None
        Cost of the run [money]
    severity : str
        stop or watch [-]
    wage_per_h : float
        An hour of work [money/h]
    spare_part : float or None
        Price of the part that gives way [money]

    Returns
    -------
    Estimate or None
        Money lost on average [money]; None where the cost of the run is unknown
    """
    if run is None:
        return None
    share, low, high = WASTED_SHARE[severity]
    extra, work = spare_part or 0.0, CLEARING_H * wage_per_h
    return attrs.evolve(
        run,
        value=(run.value + work) * share + extra,
        low=(run.low + work) * low + extra,
        high=(run.high + work) * high + extra,
        method=f"cost of the run and {CLEARING_H:g} h of work × {share:g} ({low:g} to {high:g}, estimate)",
    )
