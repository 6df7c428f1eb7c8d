"""Moisture of a lot after everything that is logged of it, as a band for what is not."""

import functools
from datetime import datetime

import numpy as np

from kaustos.core.estimates import DRYING
from kaustos.core.physics.cylinder import Profile, uniform
from kaustos.core.physics.moisture import equilibrium_moisture
from kaustos.core.planning.air import air_of_stay
from kaustos.core.planning.drying import Water, Winding, kept, winding_of
from kaustos.core.records import Lot, Rules, Stay

CAME_WITH = DRYING["came_with"].band


def came_with(water: Water) -> Profile:
    """A spool of which nothing is logged: in balance with air that may have been dry or wet."""
    level = equilibrium_moisture(np.array(water.half), np.array(water.saturated), np.array(CAME_WITH))
    return uniform(np.broadcast_to(np.asarray(level)[:, None], (3, 3)))


def moisture_now(lot: Lot | None, water: Water, rules: Rules, now: datetime | None) -> Profile:
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

    Returns
    -------
    Profile
        Moisture of scenarios x turns [%]

    Notes
    -----
    A sealed pack keeps what it came with, which is not known. A stay without a beginning is left out.
    """
    stays = lot.stays if lot else ()
    return _after_stays(stays, water, winding_of(lot), rules.room_c, rules.dew_point_c, now)


@functools.lru_cache(maxsize=64)
def _after_stays(
    stays: tuple[Stay, ...], water: Water, winding: Winding, room_c: float, dew_c: float, now: datetime | None
) -> Profile:  # fmt: skip
    profile = came_with(water)
    for stay, hours in spans(stays, now):
        if stay.place != "sealed" and hours > 0:
            profile = kept(profile, water, winding, air_of_stay(stay, room_c, dew_c), hours)
    return profile


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
