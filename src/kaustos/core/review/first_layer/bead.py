"""The first bead as it comes out, and how far gap, nozzle and plate stand off the middle of the book."""

import attrs

from kaustos.core.estimates import BOND
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.plate.case import Case, case_of

ROUND, FLAT, PLOUGHS = (BOND[f"bead_{key}"].value for key in ("round", "flat", "ploughs"))
NOZZLE_K, PLATE_K = BOND["nozzle_off"].value, BOND["plate_off"].value


@attrs.frozen
class Off:
    """One of the three that is off, and which way: 1 towards harm, -1 towards letting go."""

    name: str
    way: int


def offs_of(case: Case) -> tuple[Off, ...]:
    """Which of gap, nozzle and plate are off the middle of the book."""
    making, middle = case.making, case.middle
    found = []
    if making is None or middle is None:
        return ()
    if making.aspect is not None and not ROUND <= making.aspect <= FLAT:
        found.append(Off("gap", 1 if making.aspect > FLAT else -1))
    for name, value, usual, by in (
        ("nozzle", making.melt_c, middle[0], NOZZLE_K),
        ("plate", making.first_plate_c, middle[1], PLATE_K),
    ):
        if abs(value - usual) > by:
            found.append(Off(name, 1 if value > usual else -1))
    return tuple(found)


def first_minutes(recipe: Recipe, context: Context) -> float | None:
    """How long the first layer takes, anchors with it [min]."""
    first, standing = recipe.first_layer, case_of(recipe, context).standing
    if standing is None or not first.speed_mm_s or not first.width_mm:
        return None
    area = float(standing.anchored.area) * (recipe.plate.copies or 1.0)
    return area / (first.width_mm * first.speed_mm_s * 60.0)
