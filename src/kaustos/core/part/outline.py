"""The outline of a footprint: points along it, how much stands round each, walls and lengths inward."""

import attrs
import numpy as np
import shapely
from numpy.typing import NDArray

Array = NDArray[np.float64]
SAMPLES = 240  # points along an outline, corners beside them
AT_ONCE = 1_000_000  # pairs of points and edges that are looked at together
SHARP_TURN = np.radians(12.0)  # of an outline that makes a corner a point of its own


@attrs.frozen(kw_only=True, eq=False)
class Outline:
    """Points along the rings of a footprint, with what is inward of each."""

    points: Array  # n x 2 [mm]
    inward: Array  # n x 2, of length 1
    is_corner: NDArray[np.bool_]


def rings_of(footprint: shapely.Geometry) -> list[Array]:
    """The rings of a footprint, those outside turning left, holes turning right, not closed.

    Parameters
    ----------
    footprint : shapely geometry
        Polygons [mm]

    Returns
    -------
    list of ndarray
        Corners of each ring, n x 2 [mm]

    Examples
    --------
    >>> len(rings_of(shapely.box(0, 0, 1, 1))[0])
    4
    """
    found = []
    for each in shapely.get_parts(shapely.orient_polygons(footprint, exterior_cw=False)):
        for ring in (each.exterior, *each.interiors):
            found.append(shapely.get_coordinates(ring)[:-1])
    return found


def edges_of(footprint: shapely.Geometry) -> tuple[Array, Array]:
    """Starts and ends of the edges of a footprint, the inside on the left.

    Parameters
    ----------
    footprint : shapely geometry
        Polygons [mm]

    Returns
    -------
    tuple of ndarray
        Each k x 2 [mm]

    Examples
    --------
    >>> len(edges_of(shapely.box(0, 0, 1, 1))[0])
    4
    """
    rings = rings_of(footprint)
    if not rings:
        return np.empty((0, 2)), np.empty((0, 2))
    return np.concatenate(rings), np.concatenate([np.roll(each, -1, axis=0) for each in rings])


def outline_of(footprint: shapely.Geometry, samples: int = SAMPLES) -> Outline:
    """Points evenly along all rings of a footprint, and its corners.

    Parameters
    ----------
    footprint : shapely geometry
        Polygons [mm]
    samples : int
        Points for the whole length [-]

    Returns
    -------
    Outline
        Points with their inward directions [mm]

    Examples
    --------
    >>> int(outline_of(shapely.box(0, 0, 1, 1)).is_corner.sum())
    4
    """
    rings = rings_of(footprint)
    whole = sum(float(np.hypot(*(np.roll(each, -1, axis=0) - each).T).sum()) for each in rings)
    points, inward, corner = [], [], []
    for ring in rings:
        edge = np.roll(ring, -1, axis=0) - ring
        length = np.hypot(*edge.T)
        normal = np.stack((-edge[:, 1], edge[:, 0]), axis=1) / length[:, None]
        before = np.roll(normal, 1, axis=0)
        turn = np.arctan2(before[:, 0] * normal[:, 1] - before[:, 1] * normal[:, 0], (before * normal).sum(axis=1))
        sharp = np.abs(turn) > SHARP_TURN
        between = before + normal
        between /= np.maximum(np.hypot(*between.T), 1e-12)[:, None]
        points.append(ring[sharp])
        inward.append(between[sharp])
        corner.append(np.ones(int(sharp.sum()), bool))
        count = max(round(samples * float(length.sum()) / whole), 8)
        at = (np.arange(count) + 0.5) / count * length.sum()
        ends = np.cumsum(length)
        place = np.minimum(np.searchsorted(ends, at), len(ring) - 1)
        share = (at - (ends[place] - length[place])) / length[place]
        points.append(ring[place] + share[:, None] * edge[place])
        inward.append(normal[place])
        corner.append(np.zeros(count, bool))
    if not points:
        return Outline(points=np.empty((0, 2)), inward=np.empty((0, 2)), is_corner=np.empty(0, bool))
    return Outline(points=np.concatenate(points), inward=np.concatenate(inward), is_corner=np.concatenate(corner))


def local_support(points: Array, radius: Array, footprint: shapely.Geometry) -> Array:
    """Share of a disc round each point that a footprint covers.

    Parameters
    ----------
    points : ndarray
        n x 2 [mm]
    radius : ndarray
        Of each disc [mm]
    footprint : shapely geometry
        What is held, anchors with it [mm]

    Returns
    -------
    ndarray
        0 to 1 [1]

    Notes
    -----
    Exact for polygons: sectors of the disc and triangles, summed edge by edge.

    Examples
    --------
    >>> round(float(local_support(np.zeros((1, 2)), np.ones(1), shapely.box(0, 0, 9, 9))[0]), 9)
    0.25
    """
    start, end = edges_of(footprint)
    found = np.zeros(len(points))
    if not len(start):
        return found
    step = max(AT_ONCE // len(start), 1)
    for first in range(0, len(points), step):
        at = slice(first, first + step)
        x, y = points[at, 0, None], points[at, 1, None]
        found[at] = _covered(start[:, 0] - x, start[:, 1] - y, end[:, 0] - x, end[:, 1] - y, radius[at, None])
    return np.asarray(found / (np.pi * radius**2))


def _covered(ax: Array, ay: Array, bx: Array, by: Array, radius: Array) -> Array:
    """Area of a disc round nothing that polygons cover, from the ends a and b of their edges, point by point."""
    dx, dy = bx - ax, by - ay
    square = np.maximum(dx * dx + dy * dy, 1e-300)
    half = ax * dx + ay * dy
    root = half * half - square * (ax * ax + ay * ay - radius**2)
    width = np.sqrt(np.maximum(root, 0.0))
    enters, leaves = (np.clip((-half + side * width) / square, 0.0, 1.0) for side in (-1.0, 1.0))
    px, py, qx, qy = ax + enters * dx, ay + enters * dy, ax + leaves * dx, ay + leaves * dy
    outside = radius**2 * (_angle(ax, ay, px, py) + _angle(qx, qy, bx, by))
    return np.asarray(0.5 * (outside + px * qy - py * qx).sum(axis=-1))


def _cross(a: Array, b: Array) -> Array:
    return np.asarray(a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0])


def _angle(ax: Array, ay: Array, bx: Array, by: Array) -> Array:
    """Turn from one point to another, seen from nothing; none where they are one."""
    return np.asarray(np.arctan2(ax * by - ay * bx, ax * bx + ay * by))


def inward_length(outline: Outline, footprint: shapely.Geometry) -> Array:
    """How far the piece of a footprint that a point belongs to reaches inward of it.

    Parameters
    ----------
    outline : Outline
        Points with their inward directions [mm]
    footprint : shapely geometry
        Polygons [mm]

    Returns
    -------
    ndarray
        For each point [mm]

    Examples
    --------
    >>> square = shapely.box(0, 0, 4, 4)
    >>> sides = outline_of(square)
    >>> round(float(inward_length(sides, square)[~sides.is_corner].max()), 6)
    4.0
    """
    found = np.zeros(len(outline.points))
    pieces = shapely.get_parts(footprint)
    owner = np.argmin(shapely.distance(shapely.points(outline.points)[:, None], pieces[None]), axis=1)
    for place, piece in enumerate(pieces):
        mine = owner == place
        corners = shapely.get_coordinates(shapely.convex_hull(piece))
        reach = outline.inward[mine] @ corners.T - (outline.inward[mine] * outline.points[mine]).sum(axis=1)[:, None]
        found[mine] = reach.max(axis=1, initial=0.0)
    return found


def walls_at(outline: Outline, footprint: shapely.Geometry, outwards: bool = False) -> Array:
    """Width of the wall, or of the gap, that stands square to the outline at each point.

    Parameters
    ----------
    outline : Outline
        Points with their inward directions [mm]
    footprint : shapely geometry
        Polygons [mm]
    outwards : bool
        Gaps outside instead of walls inside [-]

    Returns
    -------
    ndarray
        Width; without end where nothing stands across, or it stands askew [mm]

    Examples
    --------
    >>> strip = shapely.box(0, 0, 40, 3)
    >>> round(float(walls_at(outline_of(strip), strip).min()), 6)
    3.0
    """
    start, end = edges_of(footprint)
    along = end - start
    normal = np.stack((-along[:, 1], along[:, 0]), axis=1) / np.maximum(np.hypot(*along.T), 1e-12)[:, None]
    ray = -outline.inward if outwards else outline.inward
    found = np.full(len(ray), np.inf)
    step = max(AT_ONCE // max(len(start), 1), 1)
    for first in range(0, len(ray), step):
        at = slice(first, first + step)
        way, to = ray[at, None], start[None] - outline.points[at, None]
        across = _cross(way, along[None])
        sound = np.abs(across) > 1e-12
        across = np.where(sound, across, 1.0)
        distance = _cross(to, along[None]) / across
        share = _cross(to, way) / across
        faces = (way * normal[None]).sum(axis=-1) * (1.0 if outwards else -1.0) > 0.7
        hit = sound & (distance > 1e-6) & (share >= 0.0) & (share <= 1.0) & faces
        found[at] = np.where(hit, distance, np.inf).min(axis=1, initial=np.inf)
    return found
