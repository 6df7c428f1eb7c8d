"""Moisture of a spool in some air: how it dries there, how it drinks, how long either takes.

Three scenarios stand side by side: the best, the likely and the worst of what is not known (diffusivity, uptake, the
state in which the spool came). Three turns too: outermost, mean and deepest. Arrays hold scenarios x turns.
"""

import attrs
import numpy as np

from kaustos.core.estimates import SPOOL
from kaustos.core.physics.cylinder import Profile, moved
from kaustos.core.physics.humidity import Array, relative_humidity, vapour_pressure
from kaustos.core.physics.moisture import diffusivity, equilibrium_moisture, partition, spool_biot, turns
from kaustos.core.planning.air import Air
from kaustos.core.planning.horizon import HORIZON_H
from kaustos.core.records import Lot, Polymer, Rules

REFERENCE_C = 80.0
BEST, LIKELY, WORST = 0, 1, 2
OUTERMOST, MEAN, DEEPEST = 0, 1, 2
DEPTH_MM = SPOOL["winding_depth"].value
LOWEST_BIOT = 1e-6
_TIMES_H = np.concatenate(([0.0], np.geomspace(0.05, HORIZON_H, 31)))


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
