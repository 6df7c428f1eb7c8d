"""Water in filament: how fast it moves, how much air leaves in it, how far a winding slows it."""

import numpy as np

from kaustos.core.physics.humidity import GAS_CONSTANT, ZERO_K, Array, Values, saturation_pressure, vapour_density

VAPOUR_IN_AIR_25C = 2.6e-5  # [m²/s]
GAPS = 0.2  # share of gaps in a winding, 0.1 to 0.3
TORTUOSITY = 1.7
DEEPEST = 2.0 / 3.0  # Biot number of the deepest turn over that of the mean turn


def diffusivity(reference: Values, reference_c: float, energy: Values, temperature_c: Values) -> Values:
    """Diffusivity of water in a polymer at a temperature.

    Parameters
    ----------
    reference : float or ndarray
        Diffusivity at the reference temperature [m^2/s]
    reference_c : float
        Reference temperature [°C]
    energy : float or ndarray
        Activation energy of diffusion [J/mol]
    temperature_c : float or ndarray
        Temperature [°C]

    Returns
    -------
    float or ndarray
        Diffusivity [m^2/s]

    Notes
    -----
    Arrhenius; a glass transition or much water in between moves it by more than that.

    References
    ----------
    Crank, The Mathematics of Diffusion

    Examples
    --------
    >>> round(float(diffusivity(1.0, 110.0, 45e3, 80.0)), 3)
    0.301
    """
    kelvin, base = np.asarray(temperature_c, dtype=float) + ZERO_K, reference_c + ZERO_K
    found = np.asarray(reference) * np.exp(-np.asarray(energy) / GAS_CONSTANT * (1.0 / kelvin - 1.0 / base))
    return float(found) if np.ndim(found) == 0 else found


def equilibrium_moisture(at_half: Values, saturated: Values, humidity: Values) -> Values:
    """Water that a polymer holds in air of a humidity.

    Parameters
    ----------
    at_half : float or ndarray
        Moisture in equilibrium with air at half saturation [%]
    saturated : float or ndarray
        Moisture at saturation [%]
    humidity : float or ndarray
        Relative humidity, 0 to 1 [-]

    Returns
    -------
    float or ndarray
        Moisture per dry polymer [%]

    Notes
    -----
    A power of humidity through both known points; taken as the same at all temperatures, which flatters no dryer much.

    Examples
    --------
    >>> float(equilibrium_moisture(2.5, 10.0, 0.5)), float(equilibrium_moisture(2.5, 10.0, 1.0))
    (2.5, 10.0)
    """
    power = np.log2(np.asarray(saturated) / np.asarray(at_half))
    found = np.asarray(saturated) * np.asarray(humidity, dtype=float) ** power
    return float(found) if np.ndim(found) == 0 else found


def partition(at_half: Values, density: Values, temperature_c: Values) -> Values:
    """Water in a volume of polymer over water in the same volume of air in equilibrium with it.

    Parameters
    ----------
    at_half : float or ndarray
        Moisture in equilibrium with air at half saturation [%]
    density : float or ndarray
        Density of the polymer [kg/m^3]
    temperature_c : float or ndarray
        Temperature [°C]

    Returns
    -------
    float or ndarray
        Partition [-]

    Notes
    -----
    The secant of the sorption curve from dry to half saturation.
    """
    air = vapour_density(0.5 * np.asarray(saturation_pressure(temperature_c)), temperature_c)
    found = np.asarray(density) * np.asarray(at_half) / 100.0 / air
    return float(found) if np.ndim(found) == 0 else found


def spool_biot(radius: float, depth: float, partition_: Values, diffusivity_: Values, temperature_c: Values) -> Values:
    """Biot number by which a winding slows the mean turn: vapour must leave through its gaps.

    Parameters
    ----------
    radius : float
        Radius of the strand [m]
    depth : float
        Depth from the open face of the winding to its deepest turn [m]
    partition_ : float or ndarray
        Water in polymer over water in air, by volume [-]
    diffusivity_ : float or ndarray
        Diffusivity of water in the polymer [m^2/s]
    temperature_c : float or ndarray
        Temperature [°C]

    Returns
    -------
    float or ndarray
        Biot number of the mean turn [-]

    Notes
    -----
    Vapour diffusing through gaps out of an evenly giving winding: its excess at a depth z is as L z - z²/2, on average
    L²/3 and at the deepest turn L²/2, so the deepest turn has two thirds of this Biot number and the outermost, in
    moving air, an infinite one. Gaps 0.2 (0.1 to 0.3) and tortuosity 1.7 are estimates.

    References
    ----------
    Crank, The Mathematics of Diffusion; vapour in air as the power 1.8 of temperature
    """
    kelvin = np.asarray(temperature_c, dtype=float) + ZERO_K
    vapour = VAPOUR_IN_AIR_25C * (kelvin / 298.15) ** 1.8
    resistance = 2.0 * TORTUOSITY * (1.0 - GAPS) * depth**2 * np.asarray(diffusivity_) * np.asarray(partition_)
    found = 3.0 * vapour * GAPS * radius**2 / resistance
    return float(found) if np.ndim(found) == 0 else found


def turns(biot: Values) -> Array:
    """Biot numbers of the outermost, the mean and the deepest turn of a winding, along a last axis.

    Parameters
    ----------
    biot : float or ndarray
        Biot number of the mean turn [-]

    Returns
    -------
    ndarray
        Infinity, the Biot number, and two thirds of it [-]
    """
    mean = np.asarray(biot, dtype=float)
    return np.stack((np.full(mean.shape, np.inf), mean, DEEPEST * mean), axis=-1)
