"""A thin sheet under a part that shrinks: how far both bow together, and what of it a magnet holds down."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


def bowed(
    heights: Array, shrinks: Array, modulus: ArrayLike, sheet: ArrayLike, stiff: ArrayLike
) -> tuple[Array, Array]:
    """Curvature and bending stiffness of a part and the sheet that it is bonded to, both free.

    Parameters
    ----------
    heights : ndarray
        Rising from the sheet to the top of the part [m]
    shrinks : ndarray
        By how much each height has shrunk, draw by draw [1]
    modulus : float or ndarray
        Of the part, draw by draw [Pa]
    sheet : float or ndarray
        Thickness of the sheet [m]
    stiff : float or ndarray
        Modulus of the sheet [Pa]

    Returns
    -------
    tuple of ndarray
        Curvature, upward at the ends where the part has shrunk; stiffness for each width [1/m, N m]

    Notes
    -----
    A plane section through both, without force or moment from outside (Timoshenko, Analysis of bi-metal thermostats,
    1925, where the strain is even).

    Examples
    --------
    >>> curve, _ = bowed(np.linspace(0.0, 1e-3, 101), np.full((1, 101), 1e-3), 2e9, 1e-3, 2e9)
    >>> round(float(curve[0]), 6)  # two equal strips: 3/2 of the strain over the height of both
    0.75
    """
    sheet, stiff, modulus = (np.asarray(each, float) for each in (sheet, stiff, modulus))
    high = heights[-1] - heights[0]
    force = modulus * np.trapezoid(shrinks, heights, axis=-1)
    moment = modulus * np.trapezoid(shrinks * heights, heights, axis=-1)
    stretch = modulus * high + stiff * sheet
    first = modulus * high**2 / 2.0 - stiff * sheet**2 / 2.0
    second = modulus * high**3 / 3.0 + stiff * sheet**3 / 3.0
    whole = stretch * second - first**2
    return np.asarray((stretch * moment - first * force) / whole), np.asarray(whole / stretch)


def rises(curvature: Array, stiffness: Array, half: ArrayLike, holds: ArrayLike) -> Array:
    """How far the ends of a bowed strip rise over what it is held down on.

    Parameters
    ----------
    curvature : ndarray
        When it is free; nothing rises where it bows the other way [1/m]
    stiffness : ndarray
        In bending, for each width [N m]
    half : float or ndarray
        From its middle to its end [m]
    holds : float or ndarray
        Pressure that holds it down; nothing for a sheet that lies loose between clips [Pa]

    Returns
    -------
    ndarray
        Over the middle [m]

    Notes
    -----
    It lifts from its ends inward as far as its own moment is more than that of the pressure, at most to its middle:
    an elastic strip of constant curvature under an even pressure on what is free.

    Examples
    --------
    >>> round(float(rises(np.array([0.8]), np.array([100.0]), 0.05, 0.0)[0]), 9)  # free: an arc
    0.001
    """
    up = np.maximum(np.asarray(curvature, float), 0.0)
    holds = np.asarray(holds, float)
    lets_go = np.sqrt(2.0 * stiffness * up / np.maximum(holds, 1e-9))
    free = np.minimum(lets_go, np.asarray(half, float))
    return np.asarray(up * free**2 / 2.0 - holds * free**4 / (8.0 * stiffness))
