"""The air round a spool: in the room, a dryer, a dry box, a feeder; humidity as a band where it is not known."""

import attrs
import numpy as np

from kaustos.core.estimates import DRYING
from kaustos.core.physics.humidity import relative_humidity, vapour_pressure
from kaustos.core.planning.scenarios import Values, everywhere, unsure
from kaustos.core.records import Dryer, Lot, Rules, Stay
from kaustos.core.records.quantities import AIR_C

BOX_HUMIDITY = DRYING["box_humidity"]
BELOW_K, ABOVE_K = DRYING["dryer_below"].value, DRYING["dryer_above"].value
FEEDER_C = DRYING["feeder_heat"].value
ATMOSPHERE_MBAR = 1013.25


def _within(celsius: float) -> float:
    """A temperature that came from a file, as far as air and water vapour are known [°C]."""
    return min(max(celsius, AIR_C[0]), AIR_C[1])


@attrs.frozen
class Air:
    """What surrounds a spool."""

    temperature_c: float = attrs.field(converter=_within)
    humidity: Values  # in each scenario, 0 to 1
    thinner: float = 1.0  # how much faster vapour moves than at atmospheric pressure
    off_k: Values = everywhere(0.0)  # how far its temperature is off in each scenario


def room_air(rules: Rules) -> Air:
    """The air of the shop."""
    humidity = float(relative_humidity(vapour_pressure(_within(rules.dew_point_c)), _within(rules.room_c)))
    return Air(rules.room_c, everywhere(humidity))


def dryer_air(dryer: Dryer | None, setpoint_c: float, rules: Rules) -> Air:
    """The air in a dryer: as hot as it gets, as wet as the room's air unless it is dried or thinned.

    Parameters
    ----------
    dryer : Dryer or None
        What it reaches and what air it takes; None is taken as room air [°C]
    setpoint_c : float
        What is set [°C]
    rules : Rules
        Dew point of the room [°C]

    Returns
    -------
    Air
        Temperature and humidity [°C, -]
    """
    reached = _within(setpoint_c if dryer is None or dryer.max_c is None else min(setpoint_c, dryer.max_c))
    vapour, thinner = float(vapour_pressure(_within(rules.dew_point_c))), 1.0
    if dryer is not None and dryer.air == "dry":
        vapour = float(vapour_pressure(-30.0 if dryer.dew_point_c is None else _within(dryer.dew_point_c)))
    if dryer is not None and dryer.air == "vacuum":
        thinner = ATMOSPHERE_MBAR / (50.0 if dryer.pressure_mbar is None else max(dryer.pressure_mbar, 1.0))
        vapour /= thinner
    off_k = unsure("dryer", 0.0, -BELOW_K, ABOVE_K)
    humidity = np.asarray(relative_humidity(vapour, reached + np.array(off_k)))
    return Air(reached, tuple(humidity.tolist()), thinner, off_k)


def feed_air(lot: Lot | None, rules: Rules) -> Air | None:
    """The air a spool hangs in while it is printed, None where that is not recorded."""
    return None if lot is None or lot.feed is None else hanging_air(lot.feed, lot.box_humidity_pct, rules)


def hanging_air(place: str, box_humidity_pct: float | None, rules: Rules) -> Air:
    """The air in the open, in a dry box or in a heated dryer in which a spool hangs.

    Parameters
    ----------
    place : str
        One of FEEDS [-]
    box_humidity_pct : float or None
        Relative humidity in the dry box, None for a band [%]
    rules : Rules
        Room temperature and dew point [°C]

    Returns
    -------
    Air
        Temperature and humidity [°C, -]

    Notes
    -----
    A heated dryer that feeds a printer is taken to hold 60 °C, estimate: none of the common ones does less.
    """
    if place == "dry_box":
        return Air(rules.room_c, _in_box(box_humidity_pct))
    return room_air(rules) if place == "open" else dryer_air(None, FEEDER_C, rules)


def air_of_stay(stay: Stay, room_c: float, dew_c: float) -> Air:
    """What surrounded a spool in a stay; what is not said is the room's, or a band for a dry box."""
    temperature = _within(room_c if stay.temperature_c is None else stay.temperature_c)
    if stay.place == "dry_box" or stay.humidity_pct is not None:
        return Air(temperature, _in_box(stay.humidity_pct))
    return Air(temperature, everywhere(float(relative_humidity(vapour_pressure(_within(dew_c)), temperature))))


def _in_box(percent: float | None) -> Values:
    """Humidity that was read, else what a dry box may have."""
    if percent is not None:
        return everywhere(percent / 100.0)
    low, likely, high = BOX_HUMIDITY.band
    return unsure("air", likely, low, high)
