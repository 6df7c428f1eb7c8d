"""The picture of operation 60: beads in the wall to scale, and the flow against what the head gives."""

import attrs
import numpy as np

from kaustos.core.planning.bead import pitch_of, wall_plan
from kaustos.core.planning.draws import ends, middle
from kaustos.core.records import Recipe
from kaustos.core.records.fields import with_value
from kaustos.core.review.contract import Context
from kaustos.core.review.melt.case import MeltCase, melt_case
from kaustos.core.review.zones import window_of

STEPS = 25


@attrs.frozen
class FlowLimit:
    """What a head gives at one heat of the nozzle [°C, mm³/s]."""

    nozzle_c: float
    soft: float
    hard: float
    least: float
    most: float


@attrs.frozen
class MeltPicture:
    """Beads across a wall, and limits of flow over the heat of the nozzle."""

    width_mm: float | None
    height_mm: float | None
    bore_mm: float
    pitch_mm: float | None
    beads: int
    wall_mm: float | None
    open_mm: float | None
    limits: tuple[FlowLimit, ...]  # over the heat of the nozzle
    window_c: tuple[float, float] | None
    decomposes_c: float | None
    point: tuple[float, float] | None  # nozzle and flow of the recipe [°C, mm³/s]

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return self.width_mm is None and not self.limits


def picture(recipe: Recipe, context: Context) -> MeltPicture:
    """Beads and limits of this recipe."""
    case = melt_case(recipe, context)
    width, height = recipe.melt.width_mm, recipe.melt.height_mm
    known = width is not None and height is not None and width >= height
    part = context.part
    wall = part.shape.thinnest_mm if part is not None and part.shape is not None else None
    plan = wall_plan(wall, width, height) if wall is not None and known and width and height else None
    nozzle = recipe.melt.nozzle_c
    low, high = window_of(context.polymer, "nozzle")
    ends = context.polymer.value("decomposition_c") if context.polymer is not None else None
    return MeltPicture(
        width if known else None,
        height if known else None,
        case.bore_mm,
        pitch_of(width, height) if known and width and height else None,
        plan.beads if plan else 3,
        wall,
        plan.residual_mm if plan and plan.beads else None,
        _limits(case, recipe, context),
        (low.value, high.value) if low is not None and high is not None else None,
        ends.value if ends else None,
        (nozzle, case.flow_mm3_s) if nozzle is not None and case.flow_mm3_s else None,
    )


def _limits(case: MeltCase, recipe: Recipe, context: Context) -> tuple[FlowLimit, ...]:
    """Limits of flow over the heat of the nozzle, from well below the window to above it."""
    low, high = window_of(context.polymer, "nozzle")
    if low is None or high is None or case.polymer is None:
        return ()
    rows = []
    for nozzle in np.linspace(low.value - 25.0, high.value + 25.0, STEPS):
        there = melt_case(with_value(recipe, "melt.nozzle_c", float(nozzle)), context)
        if there.melting is None or there.hard_mm3_s is None:
            return ()
        least, likely, most = (each for each in ends(there.hard_mm3_s))
        rows.append(FlowLimit(float(nozzle), middle(there.melting.soft), likely, least, most))
    return tuple(rows)
