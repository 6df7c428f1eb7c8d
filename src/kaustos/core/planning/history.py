"""Moisture of a lot after everything that is logged of it, as a band for what is not."""

import functools
from datetime import datetime

import attrs
import numpy as np

from kaustos.core.estimates import DRYING
from kaustos.core.physics.cylinder import uniform
from kaustos.core.physics.moisture import equilibrium_moisture
from kaustos.core.planning.air import Air, air_of_stay
from kaustos.core.planning.drying import State, Water, Winding, floor_of, kept, resting, shut_away, winding_of
from kaustos.core.planning.level import level_of
from kaustos.core.planning.scenarios import COUNT, unsure
from kaustos.core.records import Lot, Rules, Stay

CAME_WITH = DRYING["came_with"]


def came_with(water: Water, room_c: float) -> State:
    """A spool of which nothing is logged [%], at the room's temperature [°C]: in balance with air dry or humid."""
    low, likely, high = CAME_WITH.band
    humidity = np.array(unsure("start", likely, low, high))
    level = np.asarray(equilibrium_moisture(np.array(water.half), np.array(water.saturated), humidity))
    return resting(uniform(np.broadcast_to(level[:, None], (COUNT, 3))), room_c)


def moisture_now(
    lot: Lot | None, water: Water, rules: Rules, now: datetime | None, limit_pct: float | None = None
) -> State:
    """Moisture of a lot after its whole history of places, temperatures and humidities.

    Parameters
    ----------
    lot : Lot or None
        Its stays, each with a beginning [°C, %]
    water : Water
        The polymer [m^2/s, J/mol, %]
    rules : Rules
        Room temperature and dew point, for stays that do not say [°C]
    now : datetime or None
        Until when; without it the history ends with its last stay [-]
    limit_pct : float or None
        Moisture that still prints well, by which level weighings are judged; None leaves them out [%]

    Returns
    -------
    State
        Moisture of scenarios x turns [%], and how warm the turns are [°C]

    Notes
    -----
    A sealed pack keeps what it came with, which is not known. A stay without a beginning is left out. Weighings that
    were level in a dryer put the spool at the floor of its air, if the scale could tell.
    """
    begun, stays = begins_as(lot, water, rules, now, limit_pct)
    return _after_stays(stays, water, winding_of(lot), rules.room_c, rules.dew_point_c, now, begun)


def begins_as(
    lot: Lot | None, water: Water, rules: Rules, now: datetime | None, limit_pct: float | None
) -> tuple[Air | None, tuple[Stay, ...]]:
    """Where a lot's known history begins: the dryer's air to whose floor it is known to have come, None for as it came,
    and the stays from then on.

    Parameters
    ----------
    lot : Lot or None
        Stays and weighings [g]
    water : Water
        The polymer [m^2/s, J/mol, %]
    rules : Rules
        Room and scale [°C, g]
    now : datetime or None
        The present moment [-]
    limit_pct : float or None
        Moisture that still prints well; None leaves weighings out [%]

    Returns
    -------
    tuple
        Air [°C] and stays [-]
    """
    stays = lot.stays if lot else ()
    level = None if limit_pct is None or lot is None else level_of(lot, water, rules, limit_pct, now)
    return (level.air, since(stays, level.at)) if level and level.proves else (None, stays)


def state_at_first(water: Water, room_c: float, begun: Air | None) -> State:
    """A spool where its known history begins [%], in a room of a temperature [°C]."""
    if begun is None:
        return came_with(water, room_c)
    return resting(uniform(np.repeat(floor_of(water, begun)[:, None], 3, axis=1)), begun.temperature_c)


@functools.lru_cache(maxsize=64)
def _after_stays(
    stays: tuple[Stay, ...], water: Water, winding: Winding, room_c: float, dew_c: float, now: datetime | None,
    begun: Air | None,
) -> State:  # fmt: skip
    state = state_at_first(water, room_c, begun)
    for stay, hours in spans(stays, now):
        state = after_stay(state, stay, hours, water, winding, room_c, dew_c)
    return state


def after_stay(
    state: State, stay: Stay, hours: float, water: Water, winding: Winding, room_c: float, dew_c: float
) -> State:
    """The spool after one stay of so many hours [h], in a room of a temperature and dew point [°C]."""
    if stay.place == "sealed":
        return shut_away(state, winding, room_c if stay.temperature_c is None else stay.temperature_c, hours)
    return kept(state, water, winding, air_of_stay(stay, room_c, dew_c), hours)


def place_now(lot: Lot | None, now: datetime | None) -> Stay | None:
    """Where a lot is at a moment, None where that is not logged."""
    return _there(lot.stays if lot else (), now)


def _there(stays: tuple[Stay, ...], now: datetime | None) -> Stay | None:
    dated = [(datetime.fromisoformat(each.from_utc), each) for each in stays if each.from_utc]
    begun = [each for each in dated if now is None or each[0] <= now]
    return max(begun, key=lambda pair: pair[0])[1] if begun else None


def drying_for_h(lot: Lot | None, now: datetime | None) -> float:
    """For how long a lot has been in the dryer that it is in, 0 where it is in none [h]."""
    stay = place_now(lot, now)
    if stay is None or now is None or stay.place != "dryer":
        return 0.0
    return (now - datetime.fromisoformat(stay.from_utc)).total_seconds() / 3600.0


def was_somewhere(lot: Lot | None) -> bool:
    """Whether it is logged that a lot was out of its pack: before that its water is not known."""
    return lot is not None and any(stay.place != "sealed" for stay in lot.stays)


def since(stays: tuple[Stay, ...], at: datetime) -> tuple[Stay, ...]:
    """The stays from a moment on, the one of that moment begun then."""
    there = _there(stays, at)
    later = tuple(each for each in stays if each.from_utc and datetime.fromisoformat(each.from_utc) > at)
    return later if there is None else (attrs.evolve(there, from_utc=at.isoformat()), *later)


def spans(stays: tuple[Stay, ...], now: datetime | None) -> tuple[tuple[Stay, float], ...]:
    """Stays with their hours [h], in the order of their beginnings; one that begins later than now is left out."""
    dated = sorted(((datetime.fromisoformat(each.from_utc), each) for each in stays if each.from_utc),
                   key=lambda pair: pair[0])  # fmt: skip
    ends = [begun for begun, _ in dated[1:]] + ([now] if now else [])
    found = []
    for (begun, stay), end in zip(dated, ends, strict=False):
        until = min(end, now) if now else end
        found.append((stay, (until - begun).total_seconds() / 3600.0))
    return tuple((stay, hours) for stay, hours in found if hours > 0)
