"""Filament through a hot end: how hot it comes out, how much passes, what pushes it."""

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

from kaustos.core.physics.cylinder import share_lost

Array = NDArray[np.float64]
FIRST_ROOT = 5.783186  # square of the first zero of J0
CORE = 1.601974  # weight of the first term on the axis


def melt_exit(nozzle_c: ArrayLike, feed_c: ArrayLike, flow: ArrayLike, spread: ArrayLike, zone: ArrayLike) -> Array:
    """Mean temperature of a melt as it leaves the hot end.

    Parameters
    ----------
    nozzle_c : float or ndarray
        Wall of the hot end, true temperature [°C]
    feed_c : float or ndarray
        Filament as it comes in [°C]
    flow : float or ndarray
        Volume of melt [m^3/s]
    spread : float or ndarray
        Thermal diffusivity, melting counted as heat capacity [m^2/s]
    zone : float or ndarray
        Length in which it is heated [m]

    Returns
    -------
    ndarray
        Melt [°C]

    Notes
    -----
    A rod that moves through a hot tube and is heated by conduction alone, no heat along it; slip and shear are left
    out. No diameter stands in it: a thicker filament moves slower by its section.

    References
    ----------
    Carslaw and Jaeger, Conduction of Heat in Solids: cylinder with its surface held

    Examples
    --------
    >>> round(float(melt_exit(240.0, 25.0, 8e-9, 1.1e-7, 0.012)), 1)
    232.6
    """
    fourier = np.asarray(spread, float) * np.asarray(zone, float) * math.pi / np.asarray(flow, float)
    nozzle, feed = np.asarray(nozzle_c, float), np.asarray(feed_c, float)
    gained = np.asarray(share_lost(np.atleast_1d(fourier))).reshape(fourier.shape)
    return np.asarray(feed + (nozzle - feed) * gained)


def flow_for_core(short: ArrayLike, spread: ArrayLike, zone: ArrayLike) -> Array:
    """Flow at which the core of the melt leaves with a share of its heat still missing.

    Parameters
    ----------
    short : float or ndarray
        Missing share, below 1 [1]
    spread : float or ndarray
        Thermal diffusivity, melting counted as heat capacity [m^2/s]
    zone : float or ndarray
        Length in which it is heated [m]

    Returns
    -------
    ndarray
        Volume of melt [m^3/s]

    Notes
    -----
    The first term of the series on the axis of the rod; good while the share is below a half, low by 15 % at 0.9.

    Examples
    --------
    >>> round(float(flow_for_core(0.05, 1.1e-7, 0.012)) * 1e9, 1)
    6.9
    """
    heated = FIRST_ROOT * math.pi * np.asarray(spread, float) * np.asarray(zone, float)
    return np.asarray(heated / np.log(CORE / np.asarray(short, float)))


def shear_rate(flow: ArrayLike, bore: ArrayLike) -> Array:
    """Rate of shear at the wall of a round channel, as for a Newtonian melt.

    Parameters
    ----------
    flow : float or ndarray
        Volume of melt [m^3/s]
    bore : float or ndarray
        Diameter [m]

    Returns
    -------
    ndarray
        Rate [1/s]

    Examples
    --------
    >>> round(float(shear_rate(10e-9, 0.4e-3)))
    1592
    """
    return np.asarray(32.0 * np.asarray(flow, float) / (math.pi * np.asarray(bore, float) ** 3))


def nozzle_pressure(
    flow: ArrayLike,
    bore: ArrayLike,
    land: ArrayLike,
    viscosity: ArrayLike,
    thinning: float,
    cone_deg: float = 60.0,
    entry: float = 1.75e-3,
) -> Array:
    """Pressure that pushes a melt through cone and land of a nozzle.

    Parameters
    ----------
    flow : float or ndarray
        Volume of melt [m^3/s]
    bore : float or ndarray
        Diameter of the land [m]
    land : float or ndarray
        Its length [m]
    viscosity : float or ndarray
        At a shear rate of 1000/s and at the temperature of the melt [Pa s]
    thinning : float
        Exponent of the power law [1]
    cone_deg : float
        Whole angle of the cone before the land [°]
    entry : float
        Diameter at which the cone begins [m]

    Returns
    -------
    ndarray
        Pressure [Pa]

    Notes
    -----
    A power-law melt in a tube (Rabinowitsch) and in a narrow cone as a row of tubes; elastic losses at the entry are
    left out, which is why a calibration factor of practice stands before it where it is used.

    Examples
    --------
    >>> round(float(nozzle_pressure(10e-9, 0.4e-3, 0.6e-3, 150.0, 0.4)) / 1e6, 2)
    1.72
    """
    flow, bore = np.asarray(flow, float), np.asarray(bore, float)
    consistency = np.asarray(viscosity, float) * 1000.0 ** (1.0 - thinning)
    wall = (3.0 * thinning + 1.0) / (4.0 * thinning)
    stress = consistency * (wall * shear_rate(flow, bore)) ** thinning
    tube = 4.0 * stress * np.asarray(land, float) / bore
    slope = math.tan(math.radians(cone_deg) / 2.0)
    cone = 2.0 * stress / (3.0 * thinning * slope) * (1.0 - (bore / entry) ** (3.0 * thinning))
    return np.asarray(tube + cone)


def thinner_when_hotter(celsius: ArrayLike, at_c: float, glass_c: float | None, energy: float = 60e3) -> Array:
    """Viscosity of a melt over that at another temperature.

    Parameters
    ----------
    celsius : float or ndarray
        Of the melt [°C]
    at_c : float
        At which the viscosity is known [°C]
    glass_c : float or None
        Glass transition of a glassy polymer; None for one that melts [°C]
    energy : float
        Activation energy of flow of one that melts [J/mol]

    Returns
    -------
    ndarray
        Ratio, 1 at the known temperature [1]

    Notes
    -----
    Williams, Landel and Ferry within 100 K of the glass transition carried on to the melt; Arrhenius where there are
    crystals. Melts thin by shear too, which halves what a kelvin does: the ratio is taken at constant shear stress.

    Examples
    --------
    >>> float(thinner_when_hotter(240.0, 240.0, 78.0))
    1.0
    """
    t = np.asarray(celsius, float)
    if glass_c is not None:
        above, known = np.maximum(t - glass_c, 10.0), max(at_c - glass_c, 10.0)
        return np.asarray(10.0 ** (-17.44 * above / (51.6 + above) + 17.44 * known / (51.6 + known)))
    return np.asarray(np.exp(energy / 8.314462618 * (1.0 / (t + 273.15) - 1.0 / (at_c + 273.15))))
