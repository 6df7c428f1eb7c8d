"""What two level weighings in a dryer prove: that a spool has come to the floor of that air."""

import itertools
import math
from datetime import datetime

import attrs
import numpy as np

from kaustos.core.estimates import DRYING
from kaustos.core.fitting import least_loss_g
from kaustos.core.physics.cylinder import uniform
from kaustos.core.planning.air import Air, air_of_stay
from kaustos.core.planning.drying import MEAN, Water, Winding, floor_of, hours_until, passed, resting, winding_of
from kaustos.core.planning.horizon import HORIZON_H
from kaustos.core.planning.scenarios import LIKELY
from kaustos.core.records import Lot, Rules, Stay, Weighing

_TIMES_H = np.concatenate(([0.0], np.geomspace(0.05, HORIZON_H, 36)))


@attrs.frozen
class Level:
    """Two weighings of a drying spool that do not differ: when, in which air, and whether the scale proves it dry."""

    at: datetime
    air: Air
    floor_pct: float  # what it is dry to, likely [%]
    proves: bool
    least_g: float  # what the scale tells
    would_lose_g: float  # what a spool at twice the limit would have lost between the two


def drying_weighings(lot: Lot) -> tuple[Stay | None, tuple[Weighing, ...]]:
    """The last stay in a dryer with its weighings: those made in it, and the one before it as its base.

    Parameters
    ----------
    lot : Lot
        Stays and weighings [g]

    Returns
    -------
    tuple
        The stay, None where the lot was in no dryer, and weighings in their order [g]
    """
    stays = sorted(
        (each for each in lot.stays if each.from_utc), key=lambda each: datetime.fromisoformat(each.from_utc)
    )
    at = max((place for place, stay in enumerate(stays) if stay.place == "dryer"), default=None)
    if at is None:
        return None, ()
    begins, ends = _begins(stays[at]), _begins(stays[at + 1]) if at + 1 < len(stays) else None
    weighed = sorted((each for each in lot.weighings if each.gross_g is not None and each.at_utc),
                     key=_moment)  # fmt: skip
    inside, before = [], []
    for each in weighed:
        when = _moment(each)
        if when < begins:
            before.append(each)
        elif ends is None or when <= ends:
            inside.append(each)
    hours = (begins - _moment(before[-1])).total_seconds() / 3600.0 if before else math.inf
    return stays[at], (*(before[-1:] if hours <= BASE_H else ()), *inside)


BASE_H = DRYING["base_weighing"].value


def time_constant_h(water: Water, winding: Winding, air: Air, room_c: float) -> float:
    """The hours in which a humid spool likely loses all but 1/e of what it can lose in an air.

    Parameters
    ----------
    water : Water
        The polymer [m^2/s, J/mol, %]
    winding : Winding
        Strand and winding [m]
    air : Air
        The dryer [°C, -]
    room_c : float
        The spool as it comes [°C]

    Returns
    -------
    float
        Time, warming included; infinity for longer than is looked [h]
    """
    wet = resting(uniform(np.repeat(np.array(water.half)[:, None], 3, axis=1)), room_c)
    moisture, _ = passed(wet, water, winding, air, _TIMES_H)
    course, floor = moisture[LIKELY, MEAN], float(floor_of(water, air)[LIKELY])
    if course[0] <= floor:
        return math.inf
    return float(hours_until(course, _TIMES_H, floor + (course[0] - floor) / math.e))


def level_of(lot: Lot | None, water: Water, rules: Rules, limit_pct: float, now: datetime | None) -> Level | None:
    """The newest level pair of weighings after at least one time constant in a dryer.

    Parameters
    ----------
    lot : Lot or None
        Stays, weighings, empty spool [g]
    water : Water
        The polymer [m^2/s, J/mol, %]
    rules : Rules
        Room and scale [°C, g]
    limit_pct : float
        Moisture that still prints well [%]
    now : datetime or None
        The present moment [-]

    Returns
    -------
    Level or None
        None where no pair is level [-]

    Notes
    -----
    A pair proves a spool dry where one that held twice the limit would have lost more between the two than the scale
    needs to tell.
    """
    if lot is None:
        return None
    stay, weighings = drying_weighings(lot)
    inside = [
        each for each in weighings if stay and each.at_utc and _moment(each) >= datetime.fromisoformat(stay.from_utc)
    ]
    if stay is None or len(inside) < 2:
        return None
    air = air_of_stay(stay, rules.room_c, rules.dew_point_c)
    tau, begun = time_constant_h(water, winding_of(lot), air, rules.room_c), _begins(stay)
    floor = float(floor_of(water, air)[LIKELY])
    for one, other in reversed(tuple(itertools.pairwise(inside))):
        found = _pair(lot, one, other, air, tau, begun, rules, limit_pct, floor)
        if found is not None and (now is None or found.at <= now):
            return found
    return None


def _pair(
    lot: Lot, one: Weighing, other: Weighing, air: Air, tau_h: float, begun: datetime, rules: Rules, limit_pct: float,
    floor_pct: float,
) -> Level | None:  # fmt: skip
    scale = max(each.scale_g or rules.scale_g for each in (one, other))
    least, before, after = least_loss_g(scale), float(one.gross_g or 0.0), float(other.gross_g or 0.0)
    since = (_moment(other) - begun).total_seconds() / 3600.0
    if abs(before - after) > least or since < tau_h or lot.tare_g is None:
        return None
    gap = (_moment(other) - _moment(one)).total_seconds() / 3600.0
    would = max(after - lot.tare_g, 0.0) * limit_pct / 100.0 * -math.expm1(-gap / tau_h)
    return Level(_moment(other), air, floor_pct, would >= least, least, would)


def _begins(stay: Stay) -> datetime:
    return datetime.fromisoformat(stay.from_utc)


def _moment(weighing: Weighing) -> datetime:
    return datetime.fromisoformat(weighing.at_utc)
