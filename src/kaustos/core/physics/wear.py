"""Wear of a nozzle: the tip loses length by the mass fed; when the land is gone, the bore opens along its cone."""

import numpy as np
from numpy.typing import ArrayLike, NDArray


def tip_loss(mass: ArrayLike, rate: ArrayLike) -> NDArray[np.float64]:
    """Length that a tip has lost.

    Parameters
    ----------
    mass : float or ndarray
        What was fed, as a mass of unfilled polymer that wears as much [kg]
    rate : float or ndarray
        Loss for each mass of unfilled polymer [m/kg]

    Returns
    -------
    ndarray
        How much shorter the nozzle is than new [m]

    Notes
    -----
    In proportion to the abrasive mass: that the load on the tip, the speed and the temperature do not matter is an
    assumption.

    Examples
    --------
    >>> float(tip_loss(2.0, 1e-5))
    2e-05
    """
    return np.asarray(np.asarray(mass, float) * np.asarray(rate, float))


def worn_bore(bore: ArrayLike, land: ArrayLike, half_angle: ArrayLike, loss: ArrayLike) -> NDArray[np.float64]:
    """Bore of a nozzle whose tip has lost a length.

    Parameters
    ----------
    bore : float or ndarray
        When new [m]
    land : float or ndarray
        Straight length behind the outlet [m]
    half_angle : float or ndarray
        Half the angle of the cone behind the land [rad]
    loss : float or ndarray
        Length that the tip has lost [m]

    Returns
    -------
    ndarray
        Bore at the outlet [m]

    Notes
    -----
    The face wears flat; rounding of the edge is left out.

    Examples
    --------
    >>> round(float(worn_bore(0.4e-3, 0.6e-3, np.pi / 6, 0.9e-3)) * 1e3, 2)
    0.75
    """
    over = np.maximum(0.0, np.asarray(loss, float) - np.asarray(land, float))
    return np.asarray(np.asarray(bore, float) + 2.0 * np.tan(half_angle) * over)


def loss_at_bore(bore: ArrayLike, land: ArrayLike, half_angle: ArrayLike, wide: ArrayLike) -> NDArray[np.float64]:
    """Length that a tip has lost when its bore has come to a width.

    Parameters
    ----------
    bore : float or ndarray
        When new [m]
    land : float or ndarray
        Straight length behind the outlet [m]
    half_angle : float or ndarray
        Half the angle of the cone behind the land [rad]
    wide : float or ndarray
        Bore that it comes to, not below that when new [m]

    Returns
    -------
    ndarray
        Length lost [m]

    Notes
    -----
    The inverse of ``worn_bore``; at the width when new it is the whole land.

    Examples
    --------
    >>> round(float(loss_at_bore(0.4e-3, 0.6e-3, np.pi / 6, 0.75e-3)) * 1e3, 2)
    0.9
    """
    opened = np.maximum(0.0, np.asarray(wide, float) - np.asarray(bore, float))
    return np.asarray(np.asarray(land, float) + opened / (2.0 * np.tan(half_angle)))


def tip_drop(power: ArrayLike, path: ArrayLike, section: ArrayLike, conductivity: ArrayLike) -> NDArray[np.float64]:
    """How much colder the end of a nozzle is than the heated block.

    Parameters
    ----------
    power : float or ndarray
        Heat that flows down the nozzle into melt and air [W]
    path : float or ndarray
        How far it flows [m]
    section : float or ndarray
        Through which section [m^2]
    conductivity : float or ndarray
        Of the nozzle's material [W/m/K]

    Returns
    -------
    ndarray
        Temperature difference [K]

    Notes
    -----
    Steady conduction along a bar; the thread's contact is left out.

    Examples
    --------
    >>> round(float(tip_drop(5.0, 3e-3, 35e-6, 25.0)), 1)
    17.1
    """
    return np.asarray(np.asarray(power, float) * np.asarray(path, float) / (np.asarray(section, float) * conductivity))
