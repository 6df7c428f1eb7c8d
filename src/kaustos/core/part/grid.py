"""A part as a grid of cells: what is full, what a straight tool reaches, what nothing reaches."""

import itertools

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.part.mesh import Array, Mesh
from kaustos.core.part.sections import cut
from kaustos.core.progress import UNWATCHED, Progress

Cells = NDArray[np.bool_]
LONGEST = 112  # cells along the longest side
AROUND = 2  # empty cells round the part
DIRECTIONS = tuple(each for each in itertools.product((-1, 0, 1), repeat=3) if each != (0, 0, 0))


@attrs.frozen(kw_only=True, eq=False)
class Grid:
    """Cells by height, depth and width; the first cell's corner lies at ``corner``."""

    full: Cells
    corner: Array  # [mm], x y z
    cell_mm: float

    def place(self, points: Array) -> tuple[NDArray[np.int64], ...]:
        """Cells of points [mm], kept inside the grid, as height, depth, width."""
        at = np.floor((points - self.corner) / self.cell_mm).astype(np.int64)
        return tuple(np.clip(at[:, axis], 0, self.full.shape[2 - axis] - 1) for axis in (2, 1, 0))


def grid_of(mesh: Mesh, longest: int = LONGEST) -> Grid:
    """The cells that a part fills.

    Parameters
    ----------
    mesh : Mesh
        Its lowest point at height 0 [mm]
    longest : int
        Cells along its longest side [-]

    Returns
    -------
    Grid
        Full where the middle of a cell lies inside [mm]

    Notes
    -----
    Sections at the middle of each row of cells; along each line of a section turns of the outline are summed.

    Examples
    --------
    >>> corners = np.array([[x, y, z] for x in (0.0, 4.0) for y in (0.0, 4.0) for z in (0.0, 4.0)])
    >>> faces = np.array([[0, 1, 3], [0, 3, 2], [4, 6, 7], [4, 7, 5], [0, 4, 5], [0, 5, 1], [2, 3, 7], [2, 7, 6],
    ...                   [0, 2, 6], [0, 6, 4], [1, 5, 7], [1, 7, 3]])
    >>> int(grid_of(Mesh(vertices=corners, faces=faces), 8).full.sum())
    512
    """
    low, size = mesh.vertices.min(axis=0), mesh.size
    cell = float(size.max()) / longest
    counts = np.ceil(size / cell - 1e-9).astype(int)
    width, depth, height = (int(each) + 2 * AROUND for each in counts)
    corner = low - AROUND * cell
    turns = np.zeros((height, depth, width + 1), np.int32)
    heights = corner[2] + (np.arange(height) + 0.5) * cell
    which, start, end = cut(mesh, heights)
    rows = corner[1] + (np.arange(depth) + 0.5) * cell
    bottom, top = np.minimum(start[:, 1], end[:, 1]), np.maximum(start[:, 1], end[:, 1])
    first = np.searchsorted(rows, bottom, side="left")
    count = np.searchsorted(rows, top, side="left") - first
    segment = np.repeat(np.arange(len(count)), count)
    row = np.arange(len(segment)) - np.repeat(np.cumsum(count) - count, count) + first[segment]
    run = end[segment, 1] - start[segment, 1]
    along = (rows[row] - start[segment, 1]) / run
    x = start[segment, 0] + along * (end[segment, 0] - start[segment, 0])
    column = np.clip(np.ceil((x - corner[0]) / cell - 0.5), 0, width).astype(np.int64)
    np.add.at(turns, (which[segment], row, column), np.where(run > 0.0, -1, 1))
    full = np.cumsum(turns, axis=2)[:, :, :width] != 0
    return Grid(full=full, corner=corner, cell_mm=cell)


def seen_from_outside(free: Cells, progress: Progress = UNWATCHED) -> Cells:
    """Which free cells see the outside along one of 26 straight lines through free cells.

    Parameters
    ----------
    free : ndarray
        By height, depth, width; everything beyond the grid is free [-]
    progress : Progress
        Who watches [-]

    Returns
    -------
    ndarray
        The same shape [-]

    Examples
    --------
    >>> cup = np.ones((4, 3, 3), bool)
    >>> cup[:, 1, 1] = False
    >>> free = ~cup
    >>> free[0, 1, 1] = False
    >>> seen_from_outside(free)[1, 1, 1]
    np.True_
    """
    found = np.zeros_like(free)
    for direction in DIRECTIONS:
        progress.check()
        found |= _along(free, direction)
    return found


def _along(free: Cells, direction: tuple[int, ...]) -> Cells:
    """Which free cells see the outside one way: slice by slice along an axis that the line advances on."""
    axis = next(axis for axis, step in enumerate(direction) if step)
    turned, ways = (
        np.moveaxis(free, axis, 0),
        [direction[axis], *(direction[other] for other in range(3) if other != axis)],
    )
    forward = turned[::-1] if ways[0] > 0 else turned
    seen = np.ones_like(forward)
    seen[0] = forward[0]
    for place in range(1, len(forward)):
        seen[place] = forward[place] & _moved(seen[place - 1], -ways[1], -ways[2])
    seen = seen[::-1] if ways[0] > 0 else seen
    return np.asarray(np.moveaxis(seen, 0, axis))


def _moved(slice_: Cells, down: int, right: int) -> Cells:
    """A slice moved by a cell; what comes in from outside is free."""
    out = np.ones_like(slice_)
    rows, columns = slice_.shape
    out[max(down, 0) : rows + min(down, 0), max(right, 0) : columns + min(right, 0)] = slice_[
        max(-down, 0) : rows + min(-down, 0), max(-right, 0) : columns + min(-right, 0)
    ]
    return out


def reached(grid: Grid, tool_mm: float, progress: Progress = UNWATCHED) -> Array:
    """How far each cell is from the nearest place that a straight tool of some width can take.

    Parameters
    ----------
    grid : Grid
        The part [mm]
    tool_mm : float
        Width of the tool [mm]
    progress : Progress
        Who watches [-]

    Returns
    -------
    ndarray
        By height, depth, width [mm]

    Notes
    -----
    Lines run through the middles of cells in 26 directions; a place is free for the tool where nothing full lies within
    half its width. What is askew to all of them is not found: a resolution, not a proof.
    """
    from scipy.ndimage import distance_transform_edt

    free = distance_transform_edt(~grid.full) * grid.cell_mm > 0.5 * tool_mm
    seen = seen_from_outside(free, progress)
    if not seen.any():
        return np.full(grid.full.shape, np.inf)
    return np.asarray(distance_transform_edt(~seen) * grid.cell_mm)


def open_to_outside(grid: Grid) -> Cells:
    """Which empty cells a liquid from outside comes into.

    Parameters
    ----------
    grid : Grid
        The part [mm]

    Returns
    -------
    ndarray
        By height, depth, width [-]
    """
    from scipy.ndimage import label

    names, _ = label(~grid.full)
    return np.asarray(names == names[0, 0, 0])


def landing(grid: Grid) -> Array:
    """Height of the top of what is full at or below each cell, over the foot of the grid; nothing where all is empty.

    Parameters
    ----------
    grid : Grid
        The part [mm]

    Returns
    -------
    ndarray
        By height, depth, width [cells]
    """
    heights = np.arange(1, grid.full.shape[0] + 1)[:, None, None]
    return np.asarray(np.maximum.accumulate(np.where(grid.full, heights, 0), axis=0))
