"""Wide beads and beads as the bore, side by side: what each does to weld, wall, flow and detail."""

import attrs

from kaustos.core.estimates import MELT
from kaustos.core.planning.bead import wall_plan
from kaustos.core.planning.draws import middle
from kaustos.core.records import Recipe
from kaustos.core.records.fields import with_value
from kaustos.core.review.contract import Context, Set
from kaustos.core.review.heat.case import heat_case
from kaustos.core.review.melt.case import melt_case


@attrs.frozen(kw_only=True)
class School:
    """One way to lay beads, tried."""

    name: str
    width_mm: float
    beads: int | None  # in the thinnest wall; None where no wall is known
    open_mm: float | None  # left open in it
    flow_mm3_s: float | None
    over_hard: float | None  # flow over what the head gives
    share: float | None  # across layers, at the same speed
    share_at_flow: float | None  # the same at the flow of now: slower where the bead is wider
    detail_mm: float  # finest outline that comes out
    remedy: Set


def schools_of(recipe: Recipe, context: Context) -> tuple[School, ...]:
    """Both schools, and the recipe as it is."""
    case = melt_case(recipe, context)
    wide, fine = (round(MELT[f"{key}_school"].value * case.bore_mm, 2) for key in ("wide", "fine"))
    named = (("As set", case.width_mm), ("As the bore", fine), ("Wide", wide))
    return tuple(_tried(name, width, recipe, context) for name, width in named)


def _tried(name: str, width: float, recipe: Recipe, context: Context) -> School:
    there = with_value(recipe, "melt.width_mm", width)
    case = melt_case(there, context)
    now = melt_case(recipe, context)
    share = heat_case(there, context).likely
    at_flow = share
    if case.bead_mm2 is not None and now.flow_mm3_s:
        speed = now.flow_mm3_s / case.bead_mm2
        at_flow = heat_case(with_value(there, "melt.speed_mm_s", round(speed, 2)), context).likely
    part = context.part
    wall = part.shape.thinnest_mm if part is not None and part.shape is not None else None
    plan = wall_plan(wall, width, case.height_mm) if wall is not None and width >= case.height_mm else None
    hard = None if case.hard_mm3_s is None else middle(case.hard_mm3_s)
    return School(
        name=name,
        width_mm=width,
        beads=plan.beads if plan else None,
        open_mm=plan.residual_mm if plan else None,
        flow_mm3_s=case.flow_mm3_s,
        over_hard=case.flow_mm3_s / hard if hard and case.flow_mm3_s else None,
        share=share,
        share_at_flow=at_flow,
        detail_mm=width,
        remedy=Set("Beads of {wide:length}", {"melt.width_mm": width}, {"wide": width}),
    )
