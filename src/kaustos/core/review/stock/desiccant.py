"""Desiccant in a dry box: how much for a month, how long the shop's lasts, on which day it is changed."""

from datetime import datetime

import attrs

from kaustos.core.estimates import SPOOL
from kaustos.core.physics.humidity import vapour_density, vapour_pressure
from kaustos.core.records import Datum, Recipe, Rules
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Estimate
from kaustos.core.review.stock.lot import lot_in_use
from kaustos.core.review.stock.plan import Plan

BOX_LITRES, BOX_EXCHANGES_DAY = SPOOL["box_volume"].value, SPOOL["box_exchanges"].band
USUAL = "silica_gel"


@attrs.frozen
class BoxNeeds:
    """What a dry box asks for."""

    month: Estimate | Absent = UNKNOWN  # [g]
    lasts: Estimate | Absent = UNKNOWN  # [h]
    due: Estimate | Absent = UNKNOWN  # [date]


def box_needs(recipe: Recipe, context: Context, plan: Plan | None) -> BoxNeeds:
    """Desiccant for the lot in use, the water that it brings along counted."""
    lot = lot_in_use(recipe, context)
    if plan is None or lot is None or lot.weighed_g is None:
        return BoxNeeds()
    rules, takes = context.rules, context.supplies.desiccants[USUAL].takes
    spool_g = max(0.0, plan.dried.band[0] - plan.limit) / 100.0 * lot.weighed_g
    lasts = desiccant_lasts(rules, takes, spool_g)
    return BoxNeeds(desiccant_month(rules, takes, spool_g), lasts, desiccant_due(lot.desiccant_utc, lasts, context.now))


def box_leaks_g_day(rules: Rules) -> tuple[float, float, float]:
    """Water that leaks into a dry box in a day: least, likely, most [g]."""
    grams_per_litre = float(vapour_density(vapour_pressure(rules.dew_point_c), rules.room_c))
    low, likely, most = (each * BOX_LITRES * grams_per_litre for each in BOX_EXCHANGES_DAY)
    return low, likely, most


def desiccant_month(rules: Rules, takes: Datum, spool_g: float) -> Estimate:
    """Desiccant that takes up what leaks into a dry box in a month, and what a wet spool in it gives off.

    Parameters
    ----------
    rules : Rules
        Room temperature and dew point [°C]
    takes : Datum
        Water that the desiccant takes up, share of its dry mass [%]
    spool_g : float
        Water over the printing limit that the spool brings along [g]

    Returns
    -------
    Estimate
        Mass of desiccant [g]

    Notes
    -----
    A box of 15 litres whose air is exchanged once a day (0.3 to 3): estimates. Opening the box comes on top.
    """
    share = takes.value / 100.0
    low, value, high = ((30.0 * leak + spool_g) / share for leak in box_leaks_g_day(rules))
    method = f"(leak of a 15 litre box in 30 days + water of the spool) / {takes.value:g} % uptake"
    return Estimate(value, low, high, "g", method, "estimate")


def desiccant_lasts(rules: Rules, takes: Datum, spool_g: float) -> Estimate:
    """How long the shop's desiccant keeps a dry box dry before it is changed.

    Parameters
    ----------
    rules : Rules
        Room temperature and dew point [°C], desiccant in a box [g]
    takes : Datum
        Water that the desiccant takes up, share of its dry mass [%]
    spool_g : float
        Water over the printing limit that the spool brings along [g]

    Returns
    -------
    Estimate
        Time until it has taken up all it can, 0 where the spool alone fills it [h]

    Notes
    -----
    The same box and uptake as in ``desiccant_month``; whichever humidity indicator is in the box has the last word.
    """
    grams = max(takes.value / 100.0 * rules.desiccant_g - spool_g, 0.0)
    high, value, low = (24.0 * grams / leak for leak in box_leaks_g_day(rules))
    method = f"({takes.value:g} % of the desiccant - water of the spool) / leak of a 15 litre box"
    return Estimate(value, low, high, "h", method, "estimate")


def desiccant_due(put_in_utc: str, lasts: Estimate, now: datetime | None) -> Estimate | Absent:
    """The day on which the desiccant of a dry box is likely full.

    Parameters
    ----------
    put_in_utc : str
        When it was put in, as ISO 8601; empty for now [-]
    lasts : Estimate
        How long it keeps the box dry [h]
    now : datetime or None
        The present moment [-]

    Returns
    -------
    Estimate or Absent
        Seconds since 1970-01-01 UTC, likely, soonest and latest [date]
    """
    begun = datetime.fromisoformat(put_in_utc) if put_in_utc else now
    if begun is None:
        return UNKNOWN
    value, low, high = (begun.timestamp() + 3600.0 * each for each in (lasts.value, lasts.low, lasts.high))
    method = f"{'day it was put in' if put_in_utc else 'put in now'} + {lasts.method}"
    return Estimate(value, low, high, "date", method, "lot record; estimate" if put_in_utc else "estimate")
