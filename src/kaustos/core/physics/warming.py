"""How long a cold winding takes to warm through: a clock apart from that of drying."""

import functools

import numpy as np

from kaustos.core.estimates import DRYING
from kaustos.core.physics.humidity import Array

TERMS = 100
CONDUCTIVITY = DRYING["winding_conductivity"].value  # [W/m/K]
SURFACE = DRYING["surface_transfer"].value  # [W/m²/K]


@functools.lru_cache(maxsize=256)
def _roots(biot: float) -> Array:
    """Roots z of z tan z = Bi, by bisection in each half period."""
    low = np.arange(TERMS) * np.pi
    high = low + np.pi / 2
    for _ in range(60):
        middle = 0.5 * (low + high)
        above = middle * np.tan(middle) > biot
        low, high = np.where(above, low, middle), np.where(above, middle, high)
    return np.asarray(0.5 * (low + high))


def plane_wall_centre(fourier: Array | float, biot: float) -> Array | float:
    """Share of a temperature step that is still missing in the middle of a plane wall.

    Parameters
    ----------
    fourier : float or ndarray
        Time as diffusivity times time over half thickness squared [-]
    biot : float
        Heat transfer times half thickness over conductivity [-]

    Returns
    -------
    float or ndarray
        Share missing, 1 to 0 [-]

    References
    ----------
    Carslaw and Jaeger, Conduction of Heat in Solids: slab with a film

    Examples
    --------
    >>> round(float(plane_wall_centre(1.0, 1.0)), 4)
    0.5339
    """
    z = _roots(biot)
    weight = 4.0 * np.sin(z) / (2.0 * z + np.sin(2.0 * z))
    fo = np.asarray(fourier, dtype=float)
    found = np.sum(weight * np.exp(-(z**2) * fo[..., None]), axis=-1)
    return float(found) if np.ndim(fourier) == 0 else found


def bar_centre(seconds: Array | float, depth: float, width: float, heat_capacity: float) -> Array | float:
    """Share of a temperature step still missing in the middle of a winding.

    Parameters
    ----------
    seconds : float or ndarray
        Time since the step [s]
    depth : float
        Depth of the winding from its face to its core [m]
    width : float
        Width of the winding between the flanges [m]
    heat_capacity : float
        Heat capacity of the winding [J/m^3/K]

    Returns
    -------
    float or ndarray
        Share missing, 1 to 0 [-]

    Notes
    -----
    A long rectangular bar, the product of two plane walls: across the width with both faces open, and across twice the
    depth because the core lets no heat through. Conductivity of the winding 0.10 W/m/K, transfer 11 W/m²/K: estimates.

    References
    ----------
    Carslaw and Jaeger, Conduction of Heat in Solids: product solutions
    """
    t = np.asarray(seconds, dtype=float)
    alpha = CONDUCTIVITY / heat_capacity
    found = np.ones_like(t)
    for half in (depth, width / 2.0):
        found = found * plane_wall_centre(alpha * t / half**2, SURFACE * half / CONDUCTIVITY)
    return float(found) if np.ndim(seconds) == 0 else np.asarray(found)


def warm_through_seconds(depth: float, width: float, heat_capacity: float, missing: float = 0.05) -> float:
    """Time until all but a share of a temperature step has reached the middle of a winding.

    Parameters
    ----------
    depth : float
        Depth of the winding from its face to its core [m]
    width : float
        Width of the winding between the flanges [m]
    heat_capacity : float
        Heat capacity of the winding [J/m^3/K]
    missing : float
        Share of the step that may be missing [-]

    Returns
    -------
    float
        Time [s]
    """
    times = np.geomspace(10.0, 4e5, 400)
    left = np.asarray(bar_centre(times, depth, width, heat_capacity))
    return float(np.exp(np.interp(-np.log(missing), -np.log(np.maximum(left, 1e-300)), np.log(times))))
