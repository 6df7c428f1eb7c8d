"""What helps against a finding of melt, beads and layers: a speed, a width, a height that fits."""

import bisect
import math

from kaustos.core.estimates import MELT
from kaustos.core.planning.draws import middle
from kaustos.core.records import Recipe
from kaustos.core.records.fields import with_value
from kaustos.core.review.contract import Context, Set
from kaustos.core.review.melt.case import MeltCase, melt_case

KEEPS = 1.0 - MELT["reserve"].value / 100.0
STEP_K, MOST_STEPS = 5.0, 8  # in which a hotter nozzle is looked for


def slower(case: MeltCase, flow_mm3_s: float) -> Set | None:
    """A speed that keeps a flow; None where even a crawl would not."""
    if case.bead_mm2 is None or case.flow_mm3_s is None or case.flow_mm3_s <= 0.0:
        return None
    speed = math.floor(case.speed_mm_s * flow_mm3_s / case.flow_mm3_s)
    if speed < 1.0:
        return None
    return Set("Lay it at {slower:speed}", {"melt.speed_mm_s": float(speed)}, {"slower": float(speed)})


def hotter(case: MeltCase, recipe: Recipe, context: Context, most_c: float | None) -> Set | None:
    """A nozzle, in steps of 5 K and inside window and reach, at which the head gives the flow."""
    nozzle = recipe.melt.nozzle_c
    steps = 0 if nozzle is None or most_c is None else min(int((most_c - nozzle) // STEP_K), MOST_STEPS)
    if nozzle is None or steps < 1:
        return None

    def gives(step: int) -> bool:
        there = melt_case(with_value(recipe, "melt.nozzle_c", nozzle + STEP_K * step), context)
        hard = there.hard_mm3_s
        return bool(there.flow_mm3_s) and hard is not None and (there.flow_mm3_s or 0.0) <= KEEPS * middle(hard)

    if not gives(steps):
        return None
    target = nozzle + STEP_K * (1 + bisect.bisect_left(range(1, steps), True, key=gives))  # a hotter head melts more
    return Set("Nozzle at {target:temperature}", {"melt.nozzle_c": target}, {"target": target})


def width_of(width_mm: float) -> Set:
    """Another width of beads."""
    wide = round(width_mm, 3)
    return Set("Beads of {wide:length}", {"melt.width_mm": wide}, {"wide": wide})


def height_of(height_mm: float) -> Set:
    """Another height of layers."""
    high = round(height_mm, 4)
    return Set("Layers of {high:length}", {"melt.height_mm": high}, {"high": high})
