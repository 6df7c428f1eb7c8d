"""A plate as probed: the plane through it, what is left of it, turns of its screws."""

import attrs
import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


@attrs.frozen(eq=False)
class Plane:
    """Heights as a plane and what is left over."""

    height: float  # at the middle of the points [m]
    slope_x: float  # [m/m]
    slope_y: float  # [m/m]
    middle: tuple[float, float]  # [m]
    residual: Array  # of each point [m]

    def at(self, x: ArrayLike, y: ArrayLike) -> Array:
        """Height of the plane at a place [m]."""
        off_x, off_y = np.asarray(x, float) - self.middle[0], np.asarray(y, float) - self.middle[1]
        return np.asarray(self.height + self.slope_x * off_x + self.slope_y * off_y)


def plane_through(x: ArrayLike, y: ArrayLike, z: ArrayLike) -> Plane:
    """The plane of least squares through probed points.

    Parameters
    ----------
    x : ndarray
        Places along the plate [m]
    y : ndarray
        Places across it, not all in one line with those [m]
    z : ndarray
        Heights [m]

    Returns
    -------
    Plane
        With what each point stands above it [m]

    Examples
    --------
    >>> found = plane_through([0.0, 1.0, 0.0, 1.0], [0.0, 0.0, 1.0, 1.0], [0.0, 1.0, 2.0, 3.0])
    >>> round(found.slope_x, 9), round(found.slope_y, 9), round(float(abs(found.residual).max()), 9)
    (1.0, 2.0, 0.0)
    """
    xs, ys, zs = (np.asarray(each, float) for each in (x, y, z))
    middle = float(xs.mean()), float(ys.mean())
    design = np.column_stack((np.ones_like(xs), xs - middle[0], ys - middle[1]))
    (height, slope_x, slope_y), *_ = np.linalg.lstsq(design, zs, rcond=None)
    residual = zs - design @ np.array([height, slope_x, slope_y])
    return Plane(float(height), float(slope_x), float(slope_y), middle, residual)
