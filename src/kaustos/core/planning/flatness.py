"""What a probed plate tells: its tilt, its sag, turns of the screws; and whether a kept offset has jumped."""

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.estimates import CHAMBERS
from kaustos.core.memo import by_identity
from kaustos.core.physics.level import Plane, plane_through
from kaustos.core.records import GapOffset, Machine, ProbeGrid

Array = NDArray[np.float64]
SAG_MM, TILT_MM = CHAMBERS["sag"].value, CHAMBERS["tilt"].value
JUMP_MM, COLD_K = CHAMBERS["jump"].value, CHAMBERS["cold_probe"].value
LEAST = 4


@attrs.frozen(eq=False)
class Flatness:
    """A probed plate: points and what is left of the plane [mm], turns of each corner's screw."""

    x_mm: Array
    y_mm: Array
    residual_mm: Array
    tilt_mm: float  # over the diagonal of what was probed
    sag_mm: float  # between the highest and the lowest residual
    turns: tuple[tuple[str, float], ...]  # corner, turns up
    grid: ProbeGrid


@by_identity(128)
def flatness_of(machine: Machine) -> Flatness | None:
    """What the newest grid of a machine tells.

    Parameters
    ----------
    machine : Machine
        With its grids and the pitch of its screws [mm]

    Returns
    -------
    Flatness or None
        None where no grid of four points or more, not all in one line, is kept [mm]

    Notes
    -----
    The plane is what screws take away; what is left is sag, for shim, mesh or another plate.
    """
    grid = next((each for each in reversed(machine.grids) if _table(each) is not None), None)
    table = _table(grid) if grid is not None else None
    if grid is None or table is None:
        return None
    x, y, z = table
    plane = plane_through(x / 1e3, y / 1e3, z / 1e3)
    corners = [(float(a), float(b)) for a in (x.min(), x.max()) for b in (y.min(), y.max())]
    heights = [float(plane.at(a / 1e3, b / 1e3)) * 1e3 for a, b in corners]
    residual = plane.residual * 1e3
    return Flatness(x, y, residual, max(heights) - min(heights), float(np.ptp(residual)),
                    _turns(plane, corners, machine.screw_pitch_mm), grid)  # fmt: skip


def _table(grid: ProbeGrid) -> tuple[Array, Array, Array] | None:
    points = [(each.x_mm, each.y_mm, each.z_mm) for each in grid.points]
    known = np.array([each for each in points if None not in each], float)
    if known.shape[0] < LEAST or np.linalg.matrix_rank(known[:, :2] - known[:, :2].mean(axis=0)) < 2:
        return None
    return known[:, 0], known[:, 1], known[:, 2]


_CORNERS = ("front left", "back left", "front right", "back right")


def _turns(plane: Plane, corners: list[tuple[float, float]], pitch: float | None) -> tuple[tuple[str, float], ...]:
    """Turns that bring each corner to the middle height."""
    if not pitch:
        return ()
    return tuple(
        (name, (plane.height - float(plane.at(x / 1e3, y / 1e3))) * 1e3 / pitch)
        for name, (x, y) in zip(_CORNERS, corners, strict=True)
    )


def jump_of(offsets: tuple[GapOffset, ...]) -> tuple[float, float] | None:
    """The newest kept offset against those before it.

    Parameters
    ----------
    offsets : tuple of GapOffset
        In the order of their moments [mm]

    Returns
    -------
    tuple of float or None
        The newest, and the median of those before; None where there are fewer than two [mm]
    """
    known = [each.offset_mm for each in offsets if each.offset_mm is not None]
    if len(known) < 2:
        return None
    return known[-1], float(np.median(known[:-1]))
