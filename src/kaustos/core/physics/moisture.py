"""Water in filament: how fast it moves, how much air leaves in it, how far a winding slows it."""

import numpy as np

from kaustos.core.estimates import DRYING
from kaustos.core.physics.humidity import GAS_CONSTANT, ZERO_K, Array, Values, saturation_pressure, vapour_density

VAPOUR_IN_AIR_25C = 2.6e-5  # [m²/s]
GAPS, TORTUOSITY = DRYING["winding_gaps"].value, DRYING["winding_tortuosity"].value
LEFT = 0.05  # share of its water at which a turn takes as long as the winding does


def _lag(amplitude: float) -> float:
    """Square of the depth by which vapour of a turn lags: the slowest mode of a winding, matched where LEFT is left."""
    return float(4.0 / np.pi**2 * np.log(amplitude / LEFT) / np.log(1.0 / LEFT))


MEAN_LAG, DEEPEST_LAG = _lag(8.0 / np.pi**2), _lag(4.0 / np.pi)


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
        Relative humidity, 0 to 1; more is taken as saturation [-]

    Returns
    -------
    float or ndarray
        Moisture per dry polymer [%]

    Notes
    -----
    Straight from dry to half saturation, as most polymers take water at first; above it a power of humidity to the
    value at saturation. Taken as the same at all temperatures, which flatters no dryer much.

    Examples
    --------
    >>> [float(equilibrium_moisture(2.5, 10.0, humidity)) for humidity in (0.05, 0.5, 1.0)]
    [0.25, 2.5, 10.0]
    """
    half, full = np.asarray(at_half, dtype=float), np.asarray(saturated, dtype=float)
    h = np.minimum(np.asarray(humidity, dtype=float), 1.0)
    found = np.where(h <= 0.5, 2.0 * h * half, full * np.maximum(h, 0.5) ** np.log2(full / half))
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


def film_factor(gaps: float, tortuosity: float) -> float:
    """How freely vapour leaves through the gaps of a winding.

    Parameters
    ----------
    gaps : float
        Share of gaps in the winding [-]
    tortuosity : float
        Length of the way through them over the straight one [-]

    Returns
    -------
    float
        Gaps over what is not gaps and the way [-]
    """
    return gaps / (tortuosity * (1.0 - gaps))


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
    Vapour diffusing through the gaps out of a winding that is closed at its core: its slowest mode dies with (pi/2)² of
    the depth, 8/pi² of it on average and 4/pi at the core. Each turn has the film by which it comes to the last
    twentieth of its water when that mode does; the outermost, in moving air, an infinite one.

    References
    ----------
    Crank, The Mathematics of Diffusion; vapour in air as the power 1.8 of temperature
    """
    kelvin = np.asarray(temperature_c, dtype=float) + ZERO_K
    vapour = VAPOUR_IN_AIR_25C * (kelvin / 298.15) ** 1.8
    resistance = 2.0 * depth**2 * np.asarray(diffusivity_) * np.asarray(partition_)
    found = vapour * film_factor(GAPS, TORTUOSITY) * radius**2 / (MEAN_LAG * resistance)
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
        Infinity, the Biot number, and what the deepest turn has of it [-]
    """
    mean = np.asarray(biot, dtype=float)
    return np.stack((np.full(mean.shape, np.inf), mean, MEAN_LAG / DEEPEST_LAG * mean), axis=-1)
