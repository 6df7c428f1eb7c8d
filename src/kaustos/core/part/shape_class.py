"""Which kind of shape a part is: what is proven on one kind is not proven on another."""

from kaustos.core.estimates import PARTS
from kaustos.core.records import Shape


def shape_class(shape: Shape) -> str:
    """The class of a part by what was measured on its file.

    Parameters
    ----------
    shape : Shape
        Size, volume, surface and foot [mm, mm^2, mm^3]

    Returns
    -------
    str
        Key of SHAPES [-]

    Notes
    -----
    Small before ring, ring before tall or flat, thin before solid: the first that fits. The limits are estimates; one
    file always has the same class.
    """
    x, y, z = shape.size_x_mm, shape.size_y_mm, shape.size_z_mm
    if max(x, y, z) <= PARTS["detail_mm"].value:
        return "detail"
    if any(_open(rings) >= PARTS["ring_open"].value for rings in shape.footprint):
        return "ring"
    if z >= PARTS["tall"].value * (x * y) ** 0.5:
        return "tall"
    if z <= PARTS["flat"].value * max(x, y):
        return "flat"
    return "shell" if 2.0 * shape.volume_mm3 / shape.surface_mm2 <= PARTS["shell_mm"].value else "block"


def _open(rings: tuple[tuple[tuple[float, float], ...], ...]) -> float:
    """Share of what a foot encloses that its holes leave open [1]."""
    outer, *holes = (_area(ring) for ring in rings)
    return sum(holes) / outer if outer > 0.0 else 0.0


def _area(ring: tuple[tuple[float, float], ...]) -> float:
    pairs = zip(ring, (*ring[1:], ring[0]), strict=True)
    return abs(sum(x * v - u * y for (x, y), (u, v) in pairs)) / 2.0
