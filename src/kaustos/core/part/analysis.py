"""Everything that is measured on a mesh, in one pass over its heights."""

import numpy as np
import shapely

from kaustos.core.estimates import SUPPORT
from kaustos.core.part.mesh import Array, Ints, Mesh
from kaustos.core.part.outline import Outline, outline_of, walls_at
from kaustos.core.part.overhang import overhangs_of
from kaustos.core.part.sections import along_height, cut, filled, polygons_of, shadow
from kaustos.core.part.sides import sides_of
from kaustos.core.progress import UNWATCHED, Progress
from kaustos.core.records.part import Ring, Shape

Segments = tuple[Ints, Array, Array]
FOOT_MM = 0.1  # above the lowest point, where the footprint is taken: the middle of a usual first layer
HEIGHTS = 64  # sections over the height
WALL_SECTIONS = 7  # of which walls are measured
SMOOTH_MM = 0.01  # by which an outline may be straightened
EVEN = 1e-4  # share of a step by which heights lie off even ones: corners of parts lie on even heights


def shape_of(mesh: Mesh, progress: Progress = UNWATCHED) -> Shape:
    """What there is to know of a part as it stands.

    Parameters
    ----------
    mesh : Mesh
        Mended, the face that lies down below [mm]
    progress : Progress
        Who watches [-]

    Returns
    -------
    Shape
        Sizes, footprint, profile along the height, thinnest wall, least gap at the plate [mm, mm^2, mm^3]

    Notes
    -----
    The footprint is the section a tenth of a millimetre above the lowest point. Walls are measured square to the
    outlines of a few sections: one that stands askew everywhere is not found.

    Examples
    --------
    >>> corners = np.array([[x, y, z] for x in (0.0, 10.0) for y in (0.0, 20.0) for z in (0.0, 5.0)])
    >>> faces = np.array([[0, 1, 3], [0, 3, 2], [4, 6, 7], [4, 7, 5], [0, 4, 5], [0, 5, 1], [2, 3, 7], [2, 7, 6],
    ...                   [0, 2, 6], [0, 6, 4], [1, 5, 7], [1, 7, 3]])
    >>> shape_of(Mesh(vertices=corners, faces=faces)).thinnest_mm
    10.0
    """
    low, size = mesh.vertices.min(axis=0), mesh.size
    mesh = Mesh(vertices=mesh.vertices - low, faces=mesh.faces)
    height = float(size[2])
    foot = min(FOOT_MM, 0.25 * height)
    step = height / HEIGHTS
    heights = np.concatenate(([foot], (np.arange(HEIGHTS) + 0.5 + EVEN) * step))
    heights = np.unique(heights)
    segments = cut(mesh, heights)
    areas, perimeters = along_height(segments, len(heights))
    progress.check()
    progress.report(1, 4)
    footprint = _section(segments, 0)
    if footprint.area <= 0.0:  # an open mesh, or one that stands on a point: what there is at the first height that has
        footprint = shapely.box(*(size[:2] / 2 - 0.05), *(size[:2] / 2 + 0.05))
    contact = float(footprint.area)
    footprint = shapely.simplify(shapely.normalize(footprint), SMOOTH_MM)
    progress.check()
    progress.report(2, 4)
    covered = float(shadow(mesh, segments).area)
    progress.check()
    progress.report(3, 4)
    thinnest, thinnest_at = _thinnest(segments, heights, areas, progress)
    overhangs, cell = overhangs_of(mesh, SUPPORT["tool"].value, progress)
    progress.report(4, 4)
    return Shape(
        size_x_mm=float(size[0]),
        size_y_mm=float(size[1]),
        size_z_mm=height,
        volume_mm3=mesh.volume,
        surface_mm2=mesh.area,
        contact_mm2=contact,
        shadow_mm2=max(covered, float(areas.max()), contact),
        footprint=tuple(_rings(each) for each in polygons_of(footprint)),
        heights_mm=_kept(heights),
        areas_mm2=_kept(areas),
        perimeters_mm=_kept(perimeters),
        thinnest_mm=thinnest,
        thinnest_at_mm=thinnest_at,
        gap_mm=_gap(footprint),
        overhangs=overhangs,
        cell_mm=cell,
        sides=sides_of(mesh),
    )


def _kept(values: Array) -> tuple[float, ...]:
    return tuple(float(f"{each:.10g}") for each in values)


def _rings(polygon: shapely.Polygon) -> tuple[Ring, ...]:
    polygon = shapely.orient_polygons(polygon, exterior_cw=False)
    rings = (polygon.exterior, *polygon.interiors)
    return tuple(tuple((float(x), float(y)) for x, y in shapely.get_coordinates(each)[:-1]) for each in rings)


def _section(segments: Segments, place: int) -> shapely.Geometry:
    """What the section at one height fills."""
    which, start, end = segments
    mine = which == place
    return filled(start[mine], end[mine])


def _thinnest(
    segments: Segments, heights: Array, areas: Array, progress: Progress
) -> tuple[float | None, float | None]:
    """The thinnest wall over a few sections, and the height of it."""
    solid = np.flatnonzero(areas > 1e-6)
    if not len(solid):
        return None, None
    found: list[tuple[float, float]] = []
    for place in np.unique(solid[np.linspace(0, len(solid) - 1, WALL_SECTIONS).round().astype(int)]):
        progress.check()
        section = shapely.simplify(shapely.normalize(_section(segments, int(place))), SMOOTH_MM)
        if section.is_empty:
            continue
        outline = outline_of(section)
        sides = Outline(
            points=outline.points[~outline.is_corner],
            inward=outline.inward[~outline.is_corner],
            is_corner=outline.is_corner[~outline.is_corner],
        )
        walls = walls_at(sides, section)
        if np.isfinite(walls).any():
            found.append((float(walls.min()), float(heights[place])))
    if not found:
        return None, None
    least, at = min(found)
    return float(f"{least:.10g}"), float(f"{at:.10g}")


def _gap(footprint: shapely.Geometry) -> float | None:
    """The least distance between bodies that stand apart on the plate, None for one body."""
    pieces = polygons_of(footprint)
    if len(pieces) < 2:
        return None
    tree = shapely.STRtree(pieces)
    _, distance = tree.query_nearest(pieces, exclusive=True, return_distance=True)
    return float(distance.min())
