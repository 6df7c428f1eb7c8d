"""The thickest section of a part, as all operations see it: what is measured on its file is never taken for thinner."""

import attrs

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context

ROD = 0.6  # of the area of its own circle that a section fills, from which it is taken as a rod


@attrs.frozen(kw_only=True)
class Wall:
    """The thickest section, and from where it is known [mm]."""

    mm: float
    by: str  # typed, file or size
    is_rod: bool = False


def wall_of(recipe: Recipe, context: Context) -> Wall | None:
    """The thickest section: as typed or the largest that the file may hide, whichever is thicker; else by the sizes."""
    typed = recipe.anneal.wall_mm
    shape, brief = (context.part.shape if context.part is not None else None), recipe.brief
    if shape is not None and shape.perimeters_mm:
        sides = (shape.size_x_mm, shape.size_y_mm, shape.size_z_mm)
        thick = max((4.0 * area / around for area, around in zip(shape.areas_mm2, shape.perimeters_mm, strict=True)
                     if around > 0.0), default=0.0)  # fmt: skip
        if thick > 0.0 and (typed is None or min(thick, *sides) > typed):
            return Wall(mm=min(thick, *sides), by="file", is_rod=min(sides[:2]) <= thick / ROD)
    if typed is not None:
        return Wall(mm=typed, by="typed")
    sizes = [each for each in (brief.size_x_mm, brief.size_y_mm, brief.size_z_mm) if each]
    return Wall(mm=min(sizes), by="size") if len(sizes) == 3 else None
