"""Moisture of a spool over its history and its plan: where it was, how it dries, how it drinks while it prints.

Three scenarios stand side by side: the best, the likely and the worst of what is not known (diffusivity, uptake, the
state in which the spool came). Three turns too: outermost, mean and deepest. Arrays hold scenarios x turns.
"""

import functools
from datetime import datetime

import attrs
import numpy as np

from kaustos.core.physics.cylinder import Profile, moved, uniform
from kaustos.core.physics.humidity import Array, relative_humidity, vapour_pressure
from kaustos.core.physics.moisture import diffusivity, equilibrium_moisture, partition, spool_biot, turns
from kaustos.core.records import Dryer, Lot, Polymer, Rules, Stay

REFERENCE_C = 80.0
BEST, LIKELY, WORST = 0, 1, 2
OUTERMOST, MEAN, DEEPEST = 0, 1, 2
DEPTH_MM = 45.0  # estimate: winding of a one-kilogram spool, taken where it is not recorded
BOX_HUMIDITY = (0.10, 0.20, 0.40)  # estimate: a dry box whose humidity is not recorded
CAME_WITH = (0.10, 0.40, 0.65)  # estimate: humidity that an unlogged spool is in balance with; a sealed pack is unknown
FEEDER_C = 60.0  # estimate: air of a heated dryer that feeds a printer
LOWEST_BIOT, ATMOSPHERE_MBAR = 1e-6, 1013.25
LONGEST_H = 240.0
_TIMES_H = np.concatenate(([0.0], np.geomspace(0.05, LONGEST_H, 31)))


@attrs.frozen
class Water:
    """How a polymer takes and gives water, each as best, likely and worst."""

    diffusivity: tuple[float, float, float]  # at 80 °C [m²/s]
    energy: float  # [J/mol]
    half: tuple[float, float, float]  # [%]
    saturated: tuple[float, float, float]  # [%]
    density: float  # [kg/m³]


@attrs.frozen
class Winding:
    """Strand and winding."""

    radius: float  # [m]
    depth: float  # [m]


@attrs.frozen
class Air:
    """What surrounds a spool; humidity as best, likely and worst."""

    temperature_c: float
    humidity: tuple[float, float, float]
    thinner: float = 1.0  # how much faster vapour moves than at atmospheric pressure


def water_of(polymer: Polymer | None) -> Water | None:
    """What the polymer's values say of water, None where one is not known."""
    keys = ("diffusivity_80c_um2_s", "diffusion_energy_kj_mol", "moisture_50_pct", "moisture_saturated_pct",
            "density_g_cm3")  # fmt: skip
    data = [polymer.value(key) for key in keys] if polymer else [None]
    if any(datum is None for datum in data):
        return None
    d, e, half, full, rho = (datum for datum in data if datum is not None)
    return Water(
        (d.high * 1e-12, d.value * 1e-12, d.low * 1e-12), e.value * 1e3,
        (half.low, half.value, half.high), (full.low, full.value, full.high), rho.value * 1e3,
    )  # fmt: skip


def winding_of(lot: Lot | None) -> Winding:
    """Strand and winding of a lot, an estimate where they are not recorded."""
    if lot is None:
        return Winding(1.75e-3 / 2.0, DEPTH_MM / 1e3)
    return Winding(lot.radius_m, (lot.depth_mm if lot.depth_mm is not None else DEPTH_MM) / 1e3)


def room_air(rules: Rules) -> Air:
    """The air of the shop."""
    humidity = float(relative_humidity(vapour_pressure(rules.dew_point_c), rules.room_c))
    return Air(rules.room_c, (humidity, humidity, humidity))


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
    reached = setpoint_c if dryer is None or dryer.max_c is None else min(setpoint_c, dryer.max_c)
    vapour, thinner = float(vapour_pressure(rules.dew_point_c)), 1.0
    if dryer is not None and dryer.air == "dry":
        vapour = float(vapour_pressure(-30.0 if dryer.dew_point_c is None else dryer.dew_point_c))
    if dryer is not None and dryer.air == "vacuum":
        thinner = ATMOSPHERE_MBAR / (50.0 if dryer.pressure_mbar is None else max(dryer.pressure_mbar, 1.0))
        vapour /= thinner
    humidity = float(relative_humidity(vapour, reached))
    return Air(reached, (humidity, humidity, humidity), thinner)


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
        return Air(rules.room_c, _known(box_humidity_pct, BOX_HUMIDITY))
    return room_air(rules) if place == "open" else dryer_air(None, FEEDER_C, rules)


def floor_of(water: Water, air: Air) -> Array:
    """Moisture that drying in an air ends at: no time gets below it.

    Parameters
    ----------
    water : Water
        Sorption of the polymer [%]
    air : Air
        Temperature and humidity of the dryer [°C, -]

    Returns
    -------
    ndarray
        Best, likely and worst floor [%]
    """
    return np.asarray(equilibrium_moisture(np.array(water.half), np.array(water.saturated), np.array(air.humidity)))


def entered(profile: Profile, water: Water, winding: Winding, air: Air) -> tuple[Profile, Array]:
    """The spool at the moment it comes into an air, and the Fourier number of a second there.

    Parameters
    ----------
    profile : Profile
        Moisture of scenarios x turns at the change [%]
    water : Water
        The polymer [m^2/s, J/mol, %]
    winding : Winding
        Strand and winding [m]
    air : Air
        The new surroundings [°C, -]

    Returns
    -------
    tuple of Profile and ndarray
        The same moisture in new terms [%], and diffusivity over radius squared [1/s]
    """
    d = np.asarray(diffusivity(np.array(water.diffusivity), REFERENCE_C, water.energy, air.temperature_c))
    share = partition(np.array(water.half), water.density, air.temperature_c)
    biot = np.asarray(spool_biot(winding.radius, winding.depth, share, d, air.temperature_c)) * air.thinner
    films = turns(np.maximum(biot, LOWEST_BIOT))
    rate = np.broadcast_to((d / winding.radius**2)[:, None], films.shape)
    return moved(profile, films, floor_of(water, air)[:, None]), rate


def kept(profile: Profile, water: Water, winding: Winding, air: Air, hours: float) -> Profile:
    """The spool after some hours in an air.

    Parameters
    ----------
    profile : Profile
        Moisture of scenarios x turns before [%]
    water : Water
        The polymer [m^2/s, J/mol, %]
    winding : Winding
        Strand and winding [m]
    air : Air
        The surroundings [°C, -]
    hours : float
        How long [h]

    Returns
    -------
    Profile
        Moisture of scenarios x turns after [%]
    """
    there, rate = entered(profile, water, winding, air)
    return there.after(rate * (hours * 3600.0))


def course(profile: Profile, water: Water, winding: Winding, air: Air, hours: Array) -> Array:
    """Mean moisture over time in one air.

    Parameters
    ----------
    profile : Profile
        Moisture of scenarios x turns before [%]
    water : Water
        The polymer [m^2/s, J/mol, %]
    winding : Winding
        Strand and winding [m]
    air : Air
        The surroundings [°C, -]
    hours : ndarray
        Times since the change [h]

    Returns
    -------
    ndarray
        Moisture of scenarios x turns x times [%]
    """
    there, rate = entered(profile, water, winding, air)
    return there.mean(rate[..., None] * np.asarray(hours) * 3600.0)


def hours_until(moisture: Array, hours: Array, limit: float) -> Array:
    """First time at which a falling or rising course passes a limit.

    Parameters
    ----------
    moisture : ndarray
        Courses along a last axis [%]
    hours : ndarray
        Times of the last axis [h]
    limit : float
        The limit [%]

    Returns
    -------
    ndarray
        Hours until it is passed; 0 where it is on the far side from the start, infinity where it is never [h]
    """
    over = moisture - limit
    side = np.sign(over[..., :1])
    crossed = (np.sign(over) != side) | (over == 0.0)
    first = np.argmax(crossed, axis=-1)
    ever = crossed.any(axis=-1)
    before = np.maximum(first - 1, 0)
    a = np.take_along_axis(over, before[..., None], axis=-1)[..., 0]
    b = np.take_along_axis(over, first[..., None], axis=-1)[..., 0]
    share = np.where(a == b, 0.0, a / np.where(a == b, 1.0, a - b))
    found = hours[before] + share * (hours[first] - hours[before])
    return np.where(ever, found, np.inf)


def until_dry(there: Profile, rate: Array, limit: float) -> Array:
    """How long drying takes until each scenario and turn is at the limit.

    Parameters
    ----------
    there : Profile
        Moisture of scenarios x turns, as ``entered`` gives it for the dryer's air [%]
    rate : ndarray
        Fourier number in a second, from ``entered`` [1/s]
    limit : float
        Moisture that still prints well [%]

    Returns
    -------
    ndarray
        Hours, 0 where it is dry enough, infinity where that air never dries it so far or not within ten days [h]
    """
    moisture = there.mean(rate[..., None] * (_TIMES_H * 3600.0))
    return np.where(moisture[..., 0] <= limit, 0.0, hours_until(moisture, _TIMES_H, limit))


def until_wet(there: Profile, rate: Array, limit: float) -> Array:
    """How long a dried spool may hang in an air before each scenario and turn is over the limit.

    Parameters
    ----------
    there : Profile
        Moisture of scenarios x turns, as ``entered`` gives it for the air it hangs in [%]
    rate : ndarray
        Fourier number in a second, from ``entered`` [1/s]
    limit : float
        Moisture that still prints well [%]

    Returns
    -------
    ndarray
        Hours, 0 where it is over the limit already, infinity where that air never wets it so far [h]
    """
    moisture = there.mean(rate[..., None] * (_TIMES_H * 3600.0))
    return np.where(moisture[..., 0] > limit, 0.0, hours_until(moisture, _TIMES_H, limit))


def after_drying(
    profile: Profile, water: Water, winding: Winding, temperatures_c: Array, hours: float, rules: Rules
) -> Array:
    """Moisture that each of many dryer temperatures leaves, all at once.

    Parameters
    ----------
    profile : Profile
        Moisture of scenarios x turns before [%]
    water : Water
        The polymer [m^2/s, J/mol, %]
    winding : Winding
        Strand and winding [m]
    temperatures_c : ndarray
        Temperatures of a dryer that takes the room's air [°C]
    hours : float
        How long [h]
    rules : Rules
        Dew point of the room [°C]

    Returns
    -------
    ndarray
        Likely moisture of the mean turn at each temperature [%]
    """
    at = np.asarray(temperatures_c, dtype=float)
    d = np.asarray(diffusivity(water.diffusivity[LIKELY], REFERENCE_C, water.energy, at))
    share = partition(water.half[LIKELY], water.density, at)
    film = np.maximum(np.asarray(spool_biot(winding.radius, winding.depth, share, d, at)), LOWEST_BIOT)
    humidity = relative_humidity(vapour_pressure(rules.dew_point_c), at)
    floor = np.asarray(equilibrium_moisture(water.half[LIKELY], water.saturated[LIKELY], humidity))
    there = moved(profile.strand(LIKELY, MEAN), film, floor)
    return there.mean_each(d / winding.radius**2 * hours * 3600.0)


# ---- a lot's history


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
    """Stays with their hours, in the order of their beginnings; one that begins later than now is left out."""
    dated = sorted(((datetime.fromisoformat(each.from_utc), each) for each in stays if each.from_utc),
                   key=lambda pair: pair[0])  # fmt: skip
    ends = [begun for begun, _ in dated[1:]] + ([now] if now else [])
    found = []
    for (begun, stay), end in zip(dated, ends, strict=False):
        until = min(end, now) if now else end
        found.append((stay, (until - begun).total_seconds() / 3600.0))
    return tuple((stay, hours) for stay, hours in found if hours > 0)


def air_of_stay(stay: Stay, room_c: float, dew_c: float) -> Air:
    """What surrounded a spool in a stay; what is not said is the room's, or a band for a dry box."""
    temperature = room_c if stay.temperature_c is None else stay.temperature_c
    if stay.place == "dry_box":
        return Air(temperature, _known(stay.humidity_pct, BOX_HUMIDITY))
    if stay.humidity_pct is not None:
        return Air(temperature, _known(stay.humidity_pct, BOX_HUMIDITY))
    humidity = float(relative_humidity(vapour_pressure(dew_c), temperature))
    return Air(temperature, (humidity, humidity, humidity))


def _known(percent: float | None, otherwise: tuple[float, float, float]) -> tuple[float, float, float]:
    return otherwise if percent is None else (percent / 100.0, percent / 100.0, percent / 100.0)
