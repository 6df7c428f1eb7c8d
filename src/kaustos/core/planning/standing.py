"""How a part stands: its footprint with anchors, sharpness along its outline, room on the plate, what anchors cost."""

import math

import attrs
import numpy as np
import shapely
import shapely.affinity
from numpy.typing import NDArray

from kaustos.core.estimates import BOND
from kaustos.core.memo import by_identity
from kaustos.core.part.outline import inward_length, local_support, outline_of, walls_at
from kaustos.core.physics.warp import strip_support
from kaustos.core.records import Shape

Array = NDArray[np.float64]
SHARP = 0.8  # support over that of a straight edge below which a point counts as a corner
SKIRT_AWAY_MM, SKIRT_LOOPS = 5.0, 2.0
BEST = {kind: BOND[f"best.{kind}"].value for kind in ("brim", "ears", "raft")}


@attrs.frozen(kw_only=True)
class Anchor:
    """What stands round or under a part."""

    kind: str = "none"
    width_mm: float = 0.0
    raft_mm: float = 0.0


@attrs.frozen(kw_only=True, eq=False)
class Standing:
    """The outline of one copy on the plate, point by point."""

    points: Array  # n x 2 [mm]
    inward: Array
    lengths: Array  # inward, of the part's own contact [m]
    reach: Array  # to the farthest point of its outline [m]
    sharpness: Array  # support of a straight edge over that of the point [1]
    bare: Array  # the same without the anchor [1]
    radius: Array  # of the discs [m]
    footprint: shapely.Geometry
    anchored: shapely.Geometry
    height: float  # with the raft [m]
    width: float  # mean, across the part [m]
    contact_mm2: float
    solid: float  # share of what its outline spans [1]
    anchor: Anchor


def box_shape(x_mm: float, y_mm: float, z_mm: float, filled: float = 1.0) -> Shape:
    """A box in the place of a part of which no file is kept; hollow, where its mass says so.

    Parameters
    ----------
    x_mm : float
        Length [mm]
    y_mm : float
        Width [mm]
    z_mm : float
        Height [mm]
    filled : float
        Share of it that is wall [1]

    Returns
    -------
    Shape
        Of even walls all round [mm]

    Examples
    --------
    >>> round(box_shape(10.0, 10.0, 5.0, 0.36).thinnest_mm, 6)
    1.0
    """
    area = x_mm * y_mm
    half = (x_mm + y_mm) / 4.0
    wall = half - math.sqrt(max(half**2 - min(filled, 1.0) * area / 4.0, 0.0))
    outer = ((0.0, 0.0), (x_mm, 0.0), (x_mm, y_mm), (0.0, y_mm))
    inner = ((wall, wall), (wall, y_mm - wall), (x_mm - wall, y_mm - wall), (x_mm - wall, wall))
    is_hollow = filled < 0.999 and 2.0 * wall < min(x_mm, y_mm) * 0.999
    solid = 4.0 * wall * (2.0 * half - wall) if is_hollow else area
    around = 2.0 * (x_mm + y_mm) + (2.0 * (x_mm + y_mm) - 8.0 * wall if is_hollow else 0.0)
    return Shape(
        size_x_mm=x_mm,
        size_y_mm=y_mm,
        size_z_mm=z_mm,
        volume_mm3=solid * z_mm,
        surface_mm2=2.0 * solid + around * z_mm,
        contact_mm2=solid,
        shadow_mm2=solid,
        footprint=((outer, inner),) if is_hollow else ((outer,),),
        heights_mm=(0.0, z_mm),
        areas_mm2=(solid, solid),
        perimeters_mm=(around, around),
        thinnest_mm=wall if is_hollow else min(x_mm, y_mm),
        thinnest_at_mm=0.0,
    )


@by_identity(64)
def footprint_of(shape: Shape) -> shapely.Geometry:
    """The footprint of a part as polygons.

    Parameters
    ----------
    shape : Shape
        With its rings [mm]

    Returns
    -------
    shapely geometry
        Polygons [mm]
    """
    return shapely.union_all([shapely.Polygon(rings[0], rings[1:]) for rings in shape.footprint])


def disc_radius(height: Array | float, length: Array | float) -> Array:
    """Radius of the disc in which support is counted.

    Parameters
    ----------
    height : float or ndarray
        Of the part [m]
    length : float or ndarray
        Inward [m]

    Returns
    -------
    ndarray
        Half of the smaller of height and 0.42 lengths, 1 to 5 mm [m]

    Examples
    --------
    >>> float(disc_radius(0.1, 0.1))
    0.005
    """
    return np.asarray(np.clip(0.5 * np.minimum(height, 0.42 * np.asarray(length)), 1e-3, 5e-3))


@by_identity(64)
def standing_of(shape: Shape, anchor: Anchor, beside: tuple[tuple[float, float], ...] = ()) -> Standing:
    """The outline of a part with an anchor: how sharp it is, point by point.

    Parameters
    ----------
    shape : Shape
        Of the part [mm]
    anchor : Anchor
        Kind and sizes [mm]
    beside : tuple of tuple of float
        How far off copies stand whose anchors may touch this one's [mm]

    Returns
    -------
    Standing
        Lengths inward and sharpness along the outline [m, 1]

    Notes
    -----
    The part's own lengths decide the load, anchors are not counted in them; discs and reference are those of the bare
    part. Under a raft the whole outline is held.
    """
    footprint = footprint_of(shape)
    outline = outline_of(footprint)
    lengths = inward_length(outline, footprint) / 1e3
    height = shape.size_z_mm / 1e3
    radius = disc_radius(height, lengths)
    walls = walls_at(outline, footprint) / 1e3
    walls = np.where(np.isfinite(walls), walls, radius)
    reference = np.array([float(strip_support(wall, float(r))) for wall, r in zip(walls, radius, strict=True)])
    plain = reference / np.maximum(local_support(outline.points, radius * 1e3, footprint), 1e-3)
    bare = np.where(outline.is_corner, plain, np.maximum(plain, 1.0))
    anchored = anchored_of(shape, anchor, outline.points[bare > 1.0 / SHARP])
    whole = shapely.union_all([anchored, *(shapely.affinity.translate(anchored, *each) for each in beside)])
    support = np.maximum(local_support(outline.points, radius * 1e3, whole), 1e-3)
    sharp = np.minimum(reference / support, bare)
    if anchor.kind in BEST and anchor.width_mm > 0.0:  # thin as it is, it does not carry as a part of full height
        sharp = np.maximum(sharp, np.minimum(plain, BEST[anchor.kind]))
    return Standing(
        points=outline.points,
        inward=outline.inward,
        lengths=lengths,
        reach=_reach(outline.points) / 1e3,
        sharpness=sharp,
        bare=bare,
        radius=radius,
        footprint=footprint,
        anchored=anchored,
        height=height + (anchor.raft_mm / 1e3 if anchor.kind == "raft" else 0.0),
        width=shape.contact_mm2 / 1e3 / max(float(lengths.max()) * 1e3, 1e-6),
        contact_mm2=shape.contact_mm2,
        solid=float(footprint.area / max(shapely.convex_hull(footprint).area, 1e-9)),
        anchor=anchor,
    )


def _reach(points: Array) -> Array:
    """How far the farthest point of an outline lies from each of its points [mm]."""
    away = points[:, None, :] - points[None, :, :]
    return np.asarray(np.sqrt((away**2).sum(axis=2).max(axis=1)))


def anchored_of(shape: Shape, anchor: Anchor, corners: Array) -> shapely.Geometry:
    """What lies on the plate with an anchor: brim outside only, ears at corners, a raft under everything.

    Parameters
    ----------
    shape : Shape
        Of the part [mm]
    anchor : Anchor
        Kind and sizes [mm]
    corners : ndarray
        Where ears go, n x 2 [mm]

    Returns
    -------
    shapely geometry
        Polygons [mm]
    """
    footprint = footprint_of(shape)
    if anchor.width_mm <= 0.0 or anchor.kind in ("none", "skirt"):
        return footprint
    if anchor.kind == "ears":
        if not len(corners):
            return footprint
        return shapely.union_all([footprint, *shapely.buffer(shapely.points(corners), anchor.width_mm)])
    whole = shapely.union_all([shapely.Polygon(each.exterior) for each in shapely.get_parts(footprint)])
    grown = shapely.buffer(whole, anchor.width_mm)
    if anchor.kind == "raft":
        return grown
    holes = shapely.difference(whole, footprint)
    return shapely.difference(grown, holes)


@attrs.frozen(kw_only=True)
class AnchorCost:
    """What an anchor takes."""

    grams: float
    minutes: float
    extra_mm2: float  # of the plate


def anchor_cost(
    shape: Shape, anchor: Anchor, density_g_cm3: float, layer_mm: float, speed_mm_s: float, bead_mm: float
) -> AnchorCost:
    """Filament, time and room that an anchor takes.

    Parameters
    ----------
    shape : Shape
        Of the part [mm]
    anchor : Anchor
        Kind and sizes [mm]
    density_g_cm3 : float
        Of the polymer [g/cm^3]
    layer_mm : float
        Height of the first layer [mm]
    speed_mm_s : float
        Of the first layer [mm/s]
    bead_mm : float
        Width of a bead [mm]

    Returns
    -------
    AnchorCost
        Grams, minutes, plate [g, min, mm^2]

    Notes
    -----
    A raft is filled to eight tenths; a skirt runs round twice.

    Examples
    --------
    >>> square = box_shape(120.0, 50.0, 10.0)
    >>> round(anchor_cost(square, Anchor(kind="brim", width_mm=6.0), 1.25, 0.25, 10.0, 0.5).grams, 2)
    0.67
    """
    footprint = footprint_of(shape)
    standing = standing_of(shape, anchor)
    own = float(footprint.area)
    extra, height = float(standing.anchored.area) - own, layer_mm
    if anchor.kind == "skirt":
        hull = shapely.convex_hull(footprint).buffer(SKIRT_AWAY_MM)
        extra = SKIRT_LOOPS * bead_mm * float(hull.length)
    if anchor.kind == "raft":
        extra, height = 0.8 * (own + extra), anchor.raft_mm
    volume = extra * height
    minutes = volume / max(bead_mm * layer_mm * speed_mm_s, 1e-9) / 60.0
    return AnchorCost(
        grams=volume / 1e3 * density_g_cm3,
        minutes=minutes,
        extra_mm2=extra if anchor.kind != "raft" else (float(standing.anchored.area) - own),
    )


@attrs.frozen(kw_only=True, eq=False)
class Layout:
    """Copies on a plate: where each stands, and what is in the way."""

    places: tuple[tuple[float, float], ...]  # lower left corner of each copy's anchor [mm]
    wanted: int
    dead: tuple[tuple[float, float, float, float], ...]  # strips and zones that are barred: x, y, width, height [mm]
    size: tuple[float, float]

    @property
    def fits(self) -> bool:
        """Whether all copies found a place."""
        return len(self.places) >= self.wanted


def layout_of(
    shape: Shape,
    anchor: Anchor,
    copies: int,
    apart_mm: float,
    plate: tuple[float, float],
    dead: tuple[tuple[float, ...], ...],
) -> Layout:
    """Places for copies in rows, clear of each other and of what is barred.

    Parameters
    ----------
    shape : Shape
        Of the part [mm]
    anchor : Anchor
        Kind and sizes [mm]
    copies : int
        That are wanted [-]
    apart_mm : float
        Between anchors [mm]
    plate : tuple of float
        Length and width [mm]
    dead : tuple of tuple of float
        What is barred: x, y, width, height [mm]

    Returns
    -------
    Layout
        Places from the front left, as many as there is room for [mm]
    """
    left, low, right, high = standing_of(shape, anchor).anchored.bounds
    wide, deep = right - left, high - low
    places: list[tuple[float, float]] = []
    y = 0.0
    while y + deep <= plate[1] + 1e-9 and len(places) < copies:
        x = 0.0
        while x + wide <= plate[0] + 1e-9 and len(places) < copies:
            hit = next(
                (d for d in dead if x < d[0] + d[2] and d[0] < x + wide and y < d[1] + d[3] and d[1] < y + deep), None
            )
            if hit is None:
                places.append((x, y))
                x += wide + apart_mm
            else:
                x = max(hit[0] + hit[2], x + 0.5)
        y += (deep + apart_mm) if places and places[-1][1] == y else 2.0
    found = _centred(places, wide, deep, plate, dead) if len(places) >= copies else tuple(places)
    barred = tuple((d[0], d[1], d[2], d[3]) for d in dead)
    return Layout(places=found, wanted=copies, dead=barred, size=plate)


def _centred(
    places: list[tuple[float, float]],
    wide: float,
    deep: float,
    plate: tuple[float, float],
    dead: tuple[tuple[float, ...], ...],
) -> tuple[tuple[float, float], ...]:
    """The places moved together to the middle of the plate, where nothing barred lies there."""
    right, high = max(x for x, _ in places) + wide, max(y for _, y in places) + deep
    dx, dy = (plate[0] - right) / 2.0, (plate[1] - high) / 2.0
    moved = tuple((x + dx, y + dy) for x, y in places)
    clear = all(
        not (x < d[0] + d[2] and d[0] < x + wide and y < d[1] + d[3] and d[1] < y + deep)
        for x, y in moved
        for d in dead
    )
    return moved if clear else tuple(places)


def clip_strips(
    count: int, plate: tuple[float, float], strip_mm: float
) -> tuple[tuple[float, float, float, float], ...]:
    """What clips take of a plate, spread round its edge.

    Parameters
    ----------
    count : int
        Clips [-]
    plate : tuple of float
        Length and width [mm]
    strip_mm : float
        That a clip takes from the edge [mm]

    Returns
    -------
    tuple of tuple of float
        Squares: x, y, width, height [mm]

    Examples
    --------
    >>> len(clip_strips(4, (200.0, 200.0), 12.0))
    4
    """
    wide, deep = plate
    length = 2.0 * strip_mm
    found = []
    for number in range(count):
        side, place = number % 4, (number // 4 + 1) / (count // 4 + (1 if number % 4 < count % 4 else 0) + 1)
        if side < 2:
            found.append((place * wide - length / 2, 0.0 if side == 0 else deep - strip_mm, length, strip_mm))
        else:
            found.append((0.0 if side == 2 else wide - strip_mm, place * deep - length / 2, strip_mm, length))
    return tuple(found)
