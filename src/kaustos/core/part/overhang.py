"""Where a part grows over air: what is steep, what spans, what begins in the air, and who reaches what holds it."""

import math

import attrs
import numpy as np
import shapely
from numpy.typing import NDArray

from kaustos.core.part.grid import LONGEST, Grid, grid_of, landing, open_to_outside, reached
from kaustos.core.part.mesh import Array, Ints, Mesh
from kaustos.core.progress import UNWATCHED, Progress
from kaustos.core.records.part import LEAST_LEAN_DEG, Overhang, Steep

FLAT_DEG = 89.0  # from which a face is a ceiling
LEVEL = 1e-6  # share of the height within which corners are level
ON_PLATE_MM = 0.05  # over the plate, below which a face lies on it
MOST_STEPS = 48  # angles that are kept of one place
MOST_SAMPLES = 400  # points that are looked at on a face
MOST_PLACES = 60  # overhangs that are kept, the largest first
MERGED_MM2 = 0.5  # below which an overhang counts as the grain of the mesh
SPAN_POINTS = 24  # along the longer side of a ceiling


def overhangs_of(mesh: Mesh, tool_mm: float, progress: Progress = UNWATCHED) -> tuple[tuple[Overhang, ...], float]:
    """Every place of a part that may want help, those that begin in the air first, then the largest.

    Parameters
    ----------
    mesh : Mesh
        Mended, its lowest point at height 0 [mm]
    tool_mm : float
        Width of the tool that takes supports out [mm]
    progress : Progress
        Who watches [-]

    Returns
    -------
    tuple of Overhang and float
        Places, and the side of the cells on which reach and what lies below were looked at [mm]

    Notes
    -----
    Angles are from upright: 0 for a wall, 90 for a ceiling. A place is a patch of faces beyond 20 degrees that hang
    together. Areas are those of the faces; the column below a face is a prism down to the plate, or to what is full
    below it on the grid.

    Examples
    --------
    >>> corners = np.array([[0.0, 0, 9], [-9, -9, 0], [9, -9, 0], [9, 9, 0], [-9, 9, 0]])
    >>> pyramid = np.array([[0, 1, 2], [0, 2, 3], [0, 3, 4], [0, 4, 1], [1, 3, 2], [1, 4, 3]])
    >>> overhangs_of(Mesh(vertices=corners, faces=pyramid), 3.0)[0]
    ()
    """
    angle = lean_of(mesh)
    on_plate = mesh.vertices[:, 2][mesh.faces].max(axis=1) <= ON_PLATE_MM
    steep = np.flatnonzero((angle > LEAST_LEAN_DEG + 1e-9) & ~on_plate)
    corners, begins = _starts(mesh)
    if not len(steep) and not corners:
        return (), float(mesh.size.max()) / LONGEST
    grid, pairs = grid_of(mesh), pairs_of(mesh.faces)
    patch, count = patches_of(len(mesh.faces), pairs, steep)
    progress.check()
    is_begun = np.zeros(count + 1, bool)
    is_begun[patch[begins]] = True
    is_begun[count] = False
    progress.check()
    below = _below(mesh, grid, steep)
    progress.check()
    look = _Look(grid, reached(grid, tool_mm, progress), open_to_outside(grid), tool_mm)
    areas = np.bincount(patch[steep], weights=0.5 * np.linalg.norm(mesh.normals[steep], axis=1), minlength=count)
    large = [each for each in np.argsort(-areas, kind="stable") if areas[each] >= MERGED_MM2 or is_begun[each]]
    found = []
    for number in sorted(large, key=lambda each: not is_begun[each])[:MOST_PLACES]:
        progress.check()
        mine = np.flatnonzero(patch[steep] == number)
        found.append(_place(mesh, steep[mine], angle, pairs, below.of(mine), look, begins=bool(is_begun[number])))
    steep_corners = np.zeros(len(mesh.vertices), bool)
    steep_corners[mesh.faces[steep]] = True
    tips = [_tip(mesh, each, look) for each in corners if not steep_corners[each].any()]
    kept = [*tips, *found][:MOST_PLACES]
    return tuple(kept), grid.cell_mm


def lean_of(mesh: Mesh) -> Array:
    """How far each face leans over, from upright.

    Parameters
    ----------
    mesh : Mesh
        The part [mm]

    Returns
    -------
    ndarray
        0 for a wall, 90 for a ceiling, below nothing where it looks up [deg]
    """
    normals = mesh.normals
    length = np.linalg.norm(normals, axis=1)
    return np.degrees(np.arcsin(np.clip(-normals[:, 2] / np.where(length > 0.0, length, 1.0), -1.0, 1.0)))


def hanging_area(mesh: Mesh, down: Array, limit_deg: float) -> float:
    """What of a part leans over by more than a limit when it stands another way, quick enough to try every side.

    Parameters
    ----------
    mesh : Mesh
        The part [mm]
    down : ndarray
        Which way is down, a unit vector [-]
    limit_deg : float
        From upright [deg]

    Returns
    -------
    float
        Area of faces beyond it, those on the plate apart [mm^2]

    Examples
    --------
    >>> corners = np.array([[0.0, 0, 9], [-9, -9, 0], [9, -9, 0], [9, 9, 0], [-9, 9, 0]])
    >>> faces = np.array([[0, 1, 2], [0, 2, 3], [0, 3, 4], [0, 4, 1], [1, 3, 2], [1, 4, 3]])
    >>> round(hanging_area(Mesh(vertices=corners, faces=faces), np.array([0.0, 0.0, 1.0]), 40.0))
    458
    """
    area = 0.5 * np.linalg.norm(mesh.normals, axis=1)
    along = mesh.vertices @ down
    lean = mesh.normals @ down / np.maximum(2.0 * area, 1e-300)
    on_plate = along[mesh.faces].min(axis=1) >= along.max() - ON_PLATE_MM
    return float(area[(lean > math.sin(math.radians(limit_deg)) + 1e-9) & ~on_plate].sum())


def pairs_of(faces: Ints) -> Ints:
    """Pairs of faces that share an edge.

    Parameters
    ----------
    faces : ndarray
        Numbers of corners, m x 3 [-]

    Returns
    -------
    ndarray
        Numbers of faces, k x 2 [-]
    """
    start, end = faces.ravel(), np.roll(faces, -1, axis=1).ravel()
    key = np.minimum(start, end) * (int(faces.max()) + 1) + np.maximum(start, end)
    order = np.argsort(key, kind="stable")
    same = np.flatnonzero(key[order][1:] == key[order][:-1])
    face = np.repeat(np.arange(len(faces)), 3)[order]
    return np.stack((face[same], face[same + 1]), axis=1)


def patches_of(total: int, pairs: Ints, steep: Ints) -> tuple[Ints, int]:
    """Which steep faces hang together.

    Parameters
    ----------
    total : int
        Faces in all [-]
    pairs : ndarray
        That share an edge, k x 2 [-]
    steep : ndarray
        Numbers of the steep ones [-]

    Returns
    -------
    tuple of ndarray and int
        Number of the patch of each face, past all others for the rest; how many there are [-]
    """
    from scipy.sparse import coo_matrix
    from scipy.sparse.csgraph import connected_components

    is_steep = np.zeros(total, bool)
    is_steep[steep] = True
    kept = pairs[is_steep[pairs].all(axis=1)]
    graph = coo_matrix((np.ones(len(kept), bool), (kept[:, 0], kept[:, 1])), shape=(total, total))
    _, names = connected_components(graph, directed=False)
    used, renamed = np.unique(names[steep], return_inverse=True)
    patch = np.full(total, len(used), np.int64)
    patch[steep] = renamed
    return patch, len(used)


def _starts(mesh: Mesh) -> tuple[list[Ints], Ints]:
    """Where material begins in the air: corners that no neighbour lies below, and the faces that meet there."""
    from scipy.sparse import coo_matrix
    from scipy.sparse.csgraph import connected_components

    vertices, faces = mesh.vertices, mesh.faces
    level = LEVEL * max(float(vertices[:, 2].max()), 1.0)
    start, end = faces.ravel(), np.roll(faces, -1, axis=1).ravel()
    rise = vertices[end, 2] - vertices[start, 2]
    flat = np.abs(rise) <= level
    total = len(vertices)
    graph = coo_matrix((np.ones(int(flat.sum()), bool), (start[flat], end[flat])), shape=(total, total))
    count, name = connected_components(graph, directed=False)
    is_lowest = np.ones(count, bool)
    is_lowest[name[start[rise < -level]]] = False
    is_lowest[name[end[rise > level]]] = False
    height = np.full(count, np.inf)
    np.minimum.at(height, name[faces], vertices[faces, 2])
    looks = np.bincount(name[faces].ravel(), weights=np.repeat(mesh.normals[:, 2], 3), minlength=count)
    begins = is_lowest & np.isfinite(height) & (height > ON_PLATE_MM) & (looks < 0.0)
    order = np.argsort(name, kind="stable")
    edges = np.searchsorted(name[order], [np.flatnonzero(begins), np.flatnonzero(begins) + 1])
    groups = [order[low:high] for low, high in edges.T]
    return groups, np.flatnonzero(begins[name[faces]].any(axis=1))


@attrs.frozen(eq=False)
class _Below:
    """What lies below steep faces: points on them with their face, what of each lies over the part, columns."""

    points: Array
    face: Ints  # place of the face among the steep ones
    flat: Array  # area seen from below [mm^2]
    onto: Array  # that lands on the part [mm^2]
    column: Array  # [mm^3]

    def of(self, mine: Ints) -> "_Below":
        """The same of some of them."""
        number = np.full(len(self.flat), -1, np.int64)
        number[mine] = np.arange(len(mine))
        kept = number[self.face] >= 0
        return _Below(self.points[kept], number[self.face[kept]], self.flat[mine], self.onto[mine], self.column[mine])


def _below(mesh: Mesh, grid: Grid, steep: Ints) -> _Below:
    """Columns under steep faces: prisms to the plate, or to what is full below on the grid."""
    flat = 0.5 * -mesh.normals[steep, 2]
    count = np.clip(np.ceil(flat / (2.0 * grid.cell_mm) ** 2), 1, MOST_SAMPLES).astype(np.int64)
    face = np.repeat(np.arange(len(steep)), count)
    number = np.arange(len(face)) - np.repeat(np.cumsum(count) - count, count) + 0.5
    root, v = np.sqrt(number / count[face])[:, None], np.mod(number * GOLDEN, 1.0)[:, None]
    a, b, c = (mesh.vertices[mesh.faces[steep[face], corner]] for corner in range(3))
    points = (1.0 - root) * a + root * (1.0 - v) * b + root * v * c
    height, row, column = grid.place(points)
    under = np.maximum(height - 2, 0)
    weight = np.where(grid.full[under, row, column], EDGE, 1.0)  # beside a wall, where the cell is the wall's
    top = landing(grid)[under, row, column]
    lands = np.where(top > 0, top * grid.cell_mm + grid.corner[2], 0.0)
    total = np.bincount(face, weights=weight, minlength=len(steep))
    onto = np.bincount(face, weights=weight * (top > 0), minlength=len(steep)) / total
    onto = np.where(onto < 1e-3, 0.0, onto)
    sampled = np.bincount(face, weights=weight * (points[:, 2] - lands), minlength=len(steep)) / total
    middle = mesh.vertices[mesh.faces[steep], 2].mean(axis=1)
    high = np.where(onto > 0.0, sampled, middle)  # exact where all of a face stands over the plate
    return _Below(points, face, flat, flat * onto, flat * np.maximum(high, 0.0))


GOLDEN = 0.618033988749895  # spreads points evenly
EDGE = 1e-6  # weight of points that cannot be told from a wall beside them


@attrs.frozen(eq=False)
class _Look:
    """How far tools and baths come."""

    grid: Grid
    reach: Array
    wet: NDArray[np.bool_]
    tool_mm: float

    def shares(self, points: Array) -> tuple[float, float]:
        """Shares of points that a straight tool comes up to, and that a bath comes to."""
        at = self.grid.place(points - np.array([0.0, 0.0, self.grid.cell_mm]))
        apart = ~self.grid.full[at]
        if apart.any():  # what lies in a wall's cell is not looked at
            at = tuple(each[apart] for each in at)
        near = self.reach[at] <= 0.5 * self.tool_mm + 2.0 * self.grid.cell_mm
        return float(near.mean()), float(self.wet[at].mean())


def _place(
    mesh: Mesh, faces: Ints, angle: Array, pairs: Ints, below: _Below, look: _Look, *, begins: bool
) -> Overhang:  # fmt: skip
    """One patch of steep faces."""
    area = 0.5 * np.linalg.norm(mesh.normals[faces], axis=1)
    rounded = np.round(angle[faces], 1)
    if len(np.unique(rounded)) > MOST_STEPS:
        rounded = np.clip(np.round(angle[faces]), LEAST_LEAN_DEG, 90.0)
    values, which = np.unique(rounded, return_inverse=True)
    sums = [np.bincount(which, weights=each) for each in (area, below.flat, below.column, below.onto)]
    steps = tuple(
        Steep(
            angle_deg=float(value), area_mm2=float(mine), flat_mm2=float(flat), column_mm3=float(column),
            onto_mm2=float(onto),
        )
        for value, mine, flat, column, onto in zip(values, *sums, strict=True)
    )  # fmt: skip
    span, out = _spans(mesh, faces[angle[faces] >= FLAT_DEG], pairs)
    far, open_ = look.shares(below.points[:: max(len(below.points) // MOST_SAMPLES, 1)])
    corners = mesh.vertices[mesh.faces[faces]]
    weight = np.maximum(below.flat, 1e-12)
    x, y = ((corners[:, :, axis].mean(axis=1) * weight).sum() / weight.sum() for axis in (0, 1))
    if len(faces) <= MOST_JOINED:
        seen = shapely.simplify(_seen(corners), SIMPLER * float(mesh.size[:2].max()))
    else:
        seen = shapely.concave_hull(shapely.multipoints(below.points[:, :2]), ratio=0.1)
    return Overhang(
        x_mm=float(x), y_mm=float(y), low_mm=float(corners[:, :, 2].min()), high_mm=float(corners[:, :, 2].max()),
        begins=begins, steps=steps, span_mm=span, out_mm=out, reached=far, open=open_, outline=_ring(seen),
    )  # fmt: skip


MOST_JOINED, SIMPLER = 3_000, 0.01  # faces whose outline is followed, share of the part by which it is simplified


def _tip(mesh: Mesh, corners: Ints, look: _Look) -> Overhang:
    """A place where material begins in the air without any steep face: a tip."""
    points = mesh.vertices[corners]
    x, y, z = (float(each) for each in points.mean(axis=0))
    far, open_ = look.shares(points)
    return Overhang(x_mm=x, y_mm=y, low_mm=z, high_mm=z, begins=True, reached=far, open=open_)


def _seen(corners: Array) -> shapely.Geometry:
    """What triangles cover, seen from below."""
    rings = np.concatenate((corners[:, :, :2], corners[:, :1, :2]), axis=1)
    return shapely.union_all(shapely.make_valid(shapely.polygons(rings)))


def _ring(geometry: shapely.Geometry) -> tuple[tuple[float, float], ...]:
    """The outer ring of the largest piece."""
    parts = [each for each in shapely.get_parts(geometry) if each.geom_type == "Polygon"]
    if not parts:
        return ()
    largest = max(parts, key=lambda each: each.area)
    return tuple((round(float(x), 3), round(float(y), 3)) for x, y in shapely.get_coordinates(largest.exterior)[:-1])


def _spans(mesh: Mesh, faces: Ints, pairs: Ints) -> tuple[float, float]:
    """The widest bridge between two holds, and how far a ceiling reaches out from one alone [mm]."""
    span = out = 0.0
    if not len(faces):
        return span, out
    heights = np.round(mesh.vertices[mesh.faces[faces], 2].mean(axis=1), 4)
    for height in np.unique(heights):
        level = faces[heights == height]
        corners = mesh.vertices[mesh.faces[level]]
        held = _held_edges(mesh, level, pairs)
        for region in shapely.get_parts(_seen(corners)):
            if region.geom_type != "Polygon":
                continue
            mine, reach = _span(region, held)
            span, out = max(span, mine), max(out, reach)
    return span, out


def _held_edges(mesh: Mesh, level: Ints, pairs: Ints) -> shapely.Geometry:
    """Edges of a ceiling from which a face goes down: what holds it."""
    inside = np.zeros(len(mesh.faces), bool)
    inside[level] = True
    crossing = pairs[inside[pairs].sum(axis=1) == 1]
    mine = np.where(inside[crossing[:, 0]], crossing[:, 0], crossing[:, 1])
    other = np.where(inside[crossing[:, 0]], crossing[:, 1], crossing[:, 0])
    lower = mesh.vertices[mesh.faces[other], 2].min(axis=1) < mesh.vertices[mesh.faces[mine], 2].min(axis=1) - 1e-6
    one, two = mesh.faces[mine[lower]], mesh.faces[other[lower]]
    shared = (one[:, :, None] == two[:, None, :]).any(axis=2)
    whole = shared.sum(axis=1) == 2
    edges = one[whole][shared[whole]].reshape(-1, 2)
    return shapely.multilinestrings(shapely.linestrings(mesh.vertices[edges, :2]))


def _span(region: shapely.Polygon, held: shapely.Geometry) -> tuple[float, float]:
    """The bridge and the reach of one ceiling: from its point that is farthest from what holds it."""
    near = shapely.intersection(held, shapely.buffer(region, 1e-4))
    points = _spread(region)
    if near.is_empty:
        return 0.0, float(shapely.minimum_bounding_radius(region)) * 2.0
    distance = shapely.distance(shapely.points(points), near)
    span = out = 0.0
    longest = 2.0 * float(np.hypot(*np.ptp(shapely.get_coordinates(region), axis=0)))
    for place in np.argsort(-distance)[:SPAN_POINTS]:
        far = float(distance[place])
        if far < 1e-6:
            break
        point = points[place]
        hold = shapely.get_coordinates(shapely.shortest_line(near, shapely.Point(point)))[0]
        ray = (point - hold) / far
        line = shapely.LineString([point, point + ray * longest])
        leaves = shapely.intersection(line, region.boundary)
        there = shapely.get_coordinates(leaves)
        beyond = float(np.hypot(*(there - point).T).min()) if len(there) else 0.0
        end = point + ray * beyond
        if shapely.distance(shapely.Point(end), near) <= 1e-4 + 1e-6 * longest:
            span = max(span, far + beyond)
        else:
            out = max(out, far + beyond)
    return span, out


def _spread(region: shapely.Polygon) -> Array:
    """Points over a ceiling: a lattice and its corners."""
    low_x, low_y, high_x, high_y = region.bounds
    step = max(high_x - low_x, high_y - low_y) / SPAN_POINTS
    x, y = np.meshgrid(np.arange(low_x + step / 2, high_x, step), np.arange(low_y + step / 2, high_y, step))
    lattice = np.stack((x.ravel(), y.ravel()), axis=1)
    inside = lattice[shapely.contains_xy(region, lattice[:, 0], lattice[:, 1])]
    return np.concatenate((inside, shapely.get_coordinates(region)))
