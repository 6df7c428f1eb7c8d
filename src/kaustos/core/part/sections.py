"""Sections of a mesh at heights, all in one pass: their segments, area and perimeter, and the area they fill."""

from collections.abc import Sequence

import numpy as np
import shapely
from numpy.typing import NDArray

from kaustos.core.part.mesh import Mesh

Array = NDArray[np.float64]
Ints = NDArray[np.int64]
SECTIONS_COVERED, RAGGED_MM = 13, 0.05
AT_ONCE = 2_000_000  # pairs of points and segments that are looked at together


def cut(mesh: Mesh, heights: Array) -> tuple[Ints, Array, Array]:
    """Segments in which faces cross heights.

    Parameters
    ----------
    mesh : Mesh
        The part [mm]
    heights : ndarray
        Rising [mm]

    Returns
    -------
    tuple of ndarray
        For each segment: number of its height, start and end, k x 2, the part on its left [-, mm, mm]

    Notes
    -----
    A face that lies in a height is not cut; corners at a height belong to what is above them, so that every section is
    closed where the mesh is.

    Examples
    --------
    >>> from kaustos.core.part.mesh import Mesh
    >>> corners = np.array([[0.0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1]])
    >>> tetra = Mesh(vertices=corners, faces=np.array([[0, 2, 1], [0, 1, 3], [0, 3, 2], [1, 2, 3]]))
    >>> len(cut(tetra, np.array([0.5]))[0])
    3
    """
    z = mesh.vertices[:, 2][mesh.faces]
    first = np.searchsorted(heights, z.min(axis=1), side="right")
    count = np.searchsorted(heights, z.max(axis=1), side="right") - first
    crossed = np.flatnonzero(count)
    first, count = first[crossed], count[crossed]
    order = np.argsort(z[crossed], axis=1, kind="stable")
    ordered = np.take_along_axis(mesh.faces[crossed], order, axis=1)
    face = np.repeat(np.arange(len(crossed)), count)
    which = np.arange(len(face)) - np.repeat(np.cumsum(count) - count, count) + first[face]
    if not len(face):
        return which, np.empty((0, 2)), np.empty((0, 2))
    at = heights[which]
    low, middle, high = (ordered[face, place] for place in range(3))
    is_low = at < mesh.vertices[middle, 2]
    long_side = _crossing(mesh.vertices, low, high, at)
    short_side = _crossing(mesh.vertices, np.where(is_low, low, middle), np.where(is_low, middle, high), at)
    normal = mesh.normals[crossed][face]
    along = (short_side - long_side) * np.stack((-normal[:, 1], normal[:, 0]), axis=1)
    turn = along.sum(axis=1) < 0.0
    start = np.where(turn[:, None], short_side, long_side)
    end = np.where(turn[:, None], long_side, short_side)
    return which, start, end


def _crossing(vertices: Array, low: Ints, high: Ints, at: Array) -> Array:
    """Where edges cross heights: the same for both faces that share an edge."""
    swap = (vertices[low, 2] == vertices[high, 2]) & (low > high)
    low, high = np.where(swap, high, low), np.where(swap, low, high)
    rise = vertices[high, 2] - vertices[low, 2]
    share = (at - vertices[low, 2]) / np.where(rise == 0.0, 1.0, rise)
    return np.asarray(vertices[low, :2] + share[:, None] * (vertices[high, :2] - vertices[low, :2]))


def along_height(segments: tuple[Ints, Array, Array], count: int) -> tuple[Array, Array]:
    """Area and perimeter of the sections of a mesh.

    Parameters
    ----------
    segments : tuple of ndarray
        In which its faces cross heights, as ``cut`` gives them [-, mm, mm]
    count : int
        How many heights there are [-]

    Returns
    -------
    tuple of ndarray
        Area and perimeter at each height [mm^2, mm]

    Notes
    -----
    Summed over segments, so that holes count off by themselves; bodies that overlap count twice.

    Examples
    --------
    >>> corners = np.array([[0.0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1]])
    >>> tetra = Mesh(vertices=corners, faces=np.array([[0, 2, 1], [0, 1, 3], [0, 3, 2], [1, 2, 3]]))
    >>> round(float(along_height(cut(tetra, np.array([0.5])), 1)[0][0]), 6)
    0.125
    """
    which, start, end = segments
    middle = start.mean(axis=0) if len(start) else np.zeros(2)
    a, b = start - middle, end - middle
    twice = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]
    area = 0.5 * np.bincount(which, twice, count)
    around = np.bincount(which, np.hypot(*(b - a).T), count)
    return np.asarray(area), np.asarray(around)


def filled(start: Array, end: Array) -> shapely.Geometry:
    """The area round which directed segments run at least once.

    Parameters
    ----------
    start : ndarray
        k x 2 [mm]
    end : ndarray
        k x 2, the area on the left [mm]

    Returns
    -------
    shapely geometry
        Polygons with their holes [mm]

    Notes
    -----
    Segments that do not close leave no area.

    Examples
    --------
    >>> square = np.array([[0.0, 0], [1, 0], [1, 1], [0, 1]])
    >>> filled(square, np.roll(square, -1, axis=0)).area
    1.0
    """
    keep = (start != end).any(axis=1)
    start, end = start[keep], end[keep]
    if not len(start):
        return shapely.Polygon()
    lines = shapely.linestrings(np.stack((start, end), axis=1))
    faces = shapely.get_parts(shapely.polygonize([shapely.node(shapely.multilinestrings(lines))]))
    if not len(faces):
        return shapely.Polygon()
    inside = shapely.get_coordinates(shapely.point_on_surface(faces))
    return shapely.union_all(faces[windings(inside, start, end) != 0])


def windings(points: Array, start: Array, end: Array) -> Ints:
    """How often directed segments run round points.

    Parameters
    ----------
    points : ndarray
        n x 2 [mm]
    start : ndarray
        k x 2 [mm]
    end : ndarray
        k x 2 [mm]

    Returns
    -------
    ndarray
        Turns to the left less turns to the right [-]

    Examples
    --------
    >>> square = np.array([[0.0, 0], [1, 0], [1, 1], [0, 1]])
    >>> windings(np.array([[0.5, 0.5], [2.0, 0.5]]), square, np.roll(square, -1, axis=0)).tolist()
    [1, 0]
    """
    found = np.zeros(len(points), np.int64)
    step = max(AT_ONCE // max(len(start), 1), 1)
    for first in range(0, len(points), step):
        x, y = (points[first : first + step, place][:, None] for place in (0, 1))
        up, down = (start[:, 1] <= y) & (end[:, 1] > y), (start[:, 1] > y) & (end[:, 1] <= y)
        side = (end[:, 0] - start[:, 0]) * (y - start[:, 1]) - (x - start[:, 0]) * (end[:, 1] - start[:, 1])
        found[first : first + step] = (up & (side > 0)).sum(axis=1) - (down & (side < 0)).sum(axis=1)
    return found


def shadow(mesh: Mesh, segments: tuple[Ints, Array, Array], most_edges: int = 1500) -> shapely.Geometry:
    """What a part covers, seen from above.

    Parameters
    ----------
    mesh : Mesh
        The part [mm]
    segments : tuple of ndarray
        In which its faces cross heights, as ``cut`` gives them [-, mm, mm]
    most_edges : int
        Beyond which its silhouette is too ragged to be followed [-]

    Returns
    -------
    shapely geometry
        Polygons [mm]

    Notes
    -----
    The edge of the faces that look up runs round everything that they cover. Where it is too ragged, what the sections
    cover together stands for it: not more than the shadow, and hardly less.

    Examples
    --------
    >>> corners = np.array([[0.0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1]])
    >>> tetra = Mesh(vertices=corners, faces=np.array([[0, 2, 1], [0, 1, 3], [0, 3, 2], [1, 2, 3]]))
    >>> shadow(tetra, cut(tetra, np.array([0.5]))).area
    0.5
    """
    normals = mesh.normals
    up = mesh.faces[normals[:, 2] > 1e-6 * np.linalg.norm(normals, axis=1)]
    start, end = up.ravel(), np.roll(up, -1, axis=1).ravel()
    total = len(mesh.vertices)
    key, back = start * total + end, np.sort(end * total + start)
    alone = back[np.minimum(np.searchsorted(back, key), len(back) - 1)] != key if len(back) else np.zeros(0, bool)
    if 0 < alone.sum() <= most_edges:
        return filled(mesh.vertices[start[alone], :2], mesh.vertices[end[alone], :2])
    which, start_at, end_at = segments
    places = np.unique(which)
    chosen = (
        places[np.unique(np.linspace(0, len(places) - 1, SECTIONS_COVERED).round().astype(int))] if len(places) else []
    )
    found = [shapely.simplify(filled(start_at[which == each], end_at[which == each]), RAGGED_MM) for each in chosen]
    return shapely.union_all([shapely.make_valid(each) for each in found])


def polygons_of(geometry: shapely.Geometry) -> Sequence[shapely.Polygon]:
    """The polygons of a geometry.

    Parameters
    ----------
    geometry : shapely geometry
        Of areas [mm]

    Returns
    -------
    sequence of shapely polygon
        The largest first [mm]
    """
    parts = [each for each in shapely.get_parts(geometry) if each.geom_type == "Polygon" and each.area > 1e-9]
    return sorted(parts, key=lambda each: -each.area)
