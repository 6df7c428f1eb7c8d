"""How a winding that comes into other air takes its temperature: at its face, on average, in its middle."""

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


def plane_wall(fourier: Array | float, biot: float) -> Array:
    """Share of a temperature step that is still missing in a plane wall.

    Parameters
    ----------
    fourier : float or ndarray
        Time as diffusivity times time over half thickness squared [-]
    biot : float
        Heat transfer times half thickness over conductivity [-]

    Returns
    -------
    ndarray
        Share missing, 1 to 0, along a last axis at the face, on average, and in the middle [-]

    References
    ----------
    Carslaw and Jaeger, Conduction of Heat in Solids: slab with a film

    Examples
    --------
    >>> [round(float(each), 4) for each in plane_wall(1.0, 1.0)]
    [0.3482, 0.4704, 0.5339]
    """
    z = _roots(biot)
    weight = 4.0 * np.sin(z) / (2.0 * z + np.sin(2.0 * z))
    decay = weight * np.exp(-(z**2) * np.asarray(fourier, dtype=float)[..., None])
    return np.asarray(decay @ np.stack((np.cos(z), np.sin(z) / z, np.ones_like(z)), axis=-1))


def bar(seconds: Array | float, depth: float, width: float, heat_capacity: float) -> Array:
    """Share of a temperature step still missing in the turns of a winding, each on average over the width.

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
    ndarray
        Share missing, 1 to 0, along a last axis in the outermost turn, on average, and in the deepest [-]

    Notes
    -----
    A long rectangular bar, the product of two plane walls: across the width with both faces open, and across twice the
    depth because the core lets no heat through. Conductivity of the winding 0.10 W/m/K, transfer 11 W/m²K: estimates.

    References
    ----------
    Carslaw and Jaeger, Conduction of Heat in Solids: product solutions
    """
    inward, across = _walls(np.asarray(seconds, dtype=float), depth, width, heat_capacity)
    return np.asarray(inward * across[..., 1:2])


def _walls(seconds: Array, depth: float, width: float, heat_capacity: float) -> tuple[Array, Array]:
    """The two plane walls of the bar: from face to core, and from flange to flange."""
    alpha = CONDUCTIVITY / heat_capacity
    inward, across = (
        plane_wall(alpha * seconds / half**2, SURFACE * half / CONDUCTIVITY) for half in (depth, width / 2.0)
    )
    return inward, across


@functools.lru_cache(maxsize=256)
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
    inward, across = _walls(times, depth, width, heat_capacity)
    left = inward[:, -1] * across[:, -1]
    return float(np.exp(np.interp(-np.log(missing), -np.log(np.maximum(left, 1e-300)), np.log(times))))
