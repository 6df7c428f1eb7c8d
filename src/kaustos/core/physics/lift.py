"""How far a part lifts once its edge has let go: the length that is freed, and the curl of the layers that shrank."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


def freed_length(release: ArrayLike, sharp: ArrayLike, grip: ArrayLike, height: float, half: float) -> Array:
    """How far inward an edge lets go.

    Parameters
    ----------
    release : float or ndarray
        Energy that a straight edge sets free [J/m^2]
    sharp : float or ndarray
        Load of the point where it begins, over that of a straight edge [1]
    grip : float or ndarray
        Of the plate [J/m^2]
    height : float
        Of the part [m]
    half : float
        From the edge to the middle of its foot [m]

    Returns
    -------
    ndarray
        Length; nothing where it holds, to the middle where a straight edge does not hold either [m]

    Notes
    -----
    Inward of a corner the load falls to that of a straight edge over about one height: release times
    (1 + (sharp - 1) exp(-a/height)), an interpolation of ours.

    Examples
    --------
    >>> freed_length([50.0, 80.0, 120.0], 1.5, 100.0, 0.01, 0.05).round(4).tolist()
    [0.0, 0.0069, 0.05]
    """
    release, sharp, grip = (np.asarray(each, float) for each in (release, sharp, grip))
    more, lacks = (sharp - 1.0) * release, grip - release
    with np.errstate(divide="ignore", invalid="ignore"):
        inward = height * np.log(np.maximum(more, 1e-30) / np.maximum(lacks, 1e-30))
    freed = np.where(lacks <= 0.0, half, np.clip(inward, 0.0, half))
    return np.asarray(np.where(release * sharp > grip, freed, 0.0))


def curl(heights: Array, strain: Array, start: NDArray[np.int64], later: ArrayLike) -> Array:
    """Curvature of the layers of a part that is free at its end.

    Parameters
    ----------
    heights : ndarray
        Rising from nothing to the top of the part, evenly [m]
    strain : ndarray
        By which each height has shrunk, draw by draw [1]
    start : ndarray
        Number of the height at which the edge let go, draw by draw [-]
    later : float or ndarray
        How much of the shrinkage of later layers still bends what lies below [1]

    Returns
    -------
    ndarray
        Curvature, upward where upper layers have shrunk more [1/m]

    Notes
    -----
    Plane section of what stood when it let go: 12/h^3 times the moment of the strain about its middle. Each later layer
    bends what is below it by 6 strain/h^2 times its height. Even strain does not bend; layers on a stiff foot do.

    Examples
    --------
    >>> z = np.linspace(0.0, 0.01, 101)
    >>> rising = np.array([2e-3 * z / 0.01])
    >>> round(float(curl(z, rising, np.array([100]), 0.3)[0]), 3)
    0.2
    """
    step = heights[1] - heights[0]
    draws = np.arange(len(strain))
    weights = np.full(heights.size, step)
    weights[0] = step / 2.0
    sums = np.cumsum(strain * weights, axis=1) - strain * step / 2.0  # integral from the foot
    moments = np.cumsum(strain * heights * weights, axis=1) - strain * heights * step / 2.0
    at = np.maximum(start, 1)
    high = heights[at]
    section = 12.0 / high**3 * (moments[draws, at] - high / 2.0 * sums[draws, at])
    bends = np.zeros_like(strain)
    bends[:, 1:] = 6.0 * strain[:, 1:] / heights[1:] ** 2 * step
    above = np.cumsum(bends, axis=1)
    return np.asarray(np.maximum(section + np.asarray(later) * (above[:, -1] - above[draws, at]), 0.0))
