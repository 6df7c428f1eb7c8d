"""The figures of operation 60, and what its tile says."""

import numpy as np

from kaustos.core.estimates import MELT
from kaustos.core.planning.bead import layer_plan, pitch_of, wall_plan
from kaustos.core.planning.draws import estimate, middle
from kaustos.core.planning.melting import METHOD, SOURCE, feed_speed
from kaustos.core.records import Estimate, Recipe
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure, Saying
from kaustos.core.review.melt.case import MeltCase, melt_case, value_of
from kaustos.core.review.melt.change import before_of, change_over_of
from kaustos.core.review.melt.ladders import ladder_here

BEADS = "bead with round sides"


def figures_of(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """Everything that can be asked where it comes from."""
    case = melt_case(recipe, context)
    return (*_flow(case, recipe), *_beads(case, recipe, context), *_measured(case, recipe, context))


def _exact(value: float | None, unit: str, method: str, source: str = "as it is set") -> Estimate | Absent:
    return UNKNOWN if value is None else Estimate(value, value, value, unit, method, source)


def _is_set(case: MeltCase, recipe: Recipe) -> bool:
    """Whether the flow is that of the recipe, not a usual one."""
    melt = recipe.melt
    return None not in (melt.width_mm, melt.height_mm, melt.speed_mm_s) and case.flow_mm3_s is not None


def _flow(case: MeltCase, recipe: Recipe) -> tuple[Figure, ...]:
    melting, is_set = case.melting, _is_set(case, recipe)
    hard: Estimate | Absent = UNKNOWN
    top: Estimate | Absent = UNKNOWN
    reserve: Estimate | Absent = UNKNOWN
    if case.hard_mm3_s is not None and case.bead_mm2:
        own = value_of(case.flow_test, "flow_mm3_s") is not None
        how, source = ("flow test, moved to this heat by the model", "own flow test") if own else (METHOD, SOURCE)
        hard = estimate(case.hard_mm3_s, "mm³/s", how, source)
        top = estimate(case.hard_mm3_s / case.bead_mm2, "mm/s", "hard limit over section of a bead", source)
        if is_set and case.flow_mm3_s:
            left = 100.0 * (1.0 - case.flow_mm3_s / np.maximum(case.hard_mm3_s, 1e-3))
            reserve = estimate(left, "%", "1 less flow over hard limit", source)
    speed = feed_speed(case.flow_mm3_s, case.hot_end.strand_mm) if is_set and case.flow_mm3_s else None
    known = melting if is_set else None
    return (
        Figure(
            "melt.flow.asked",
            "Flow asked",
            _exact(case.flow_mm3_s if is_set else None, "mm³/s", f"{BEADS} × speed × multiplier"),
        ),
        Figure("melt.flow.hard", "Flow this head gives", hard),
        Figure(
            "melt.flow.soft",
            "Flow up to which the weld does not pay",
            melting.band("soft", "mm³/s") if melting is not None else UNKNOWN,
        ),
        Figure("melt.flow.reserve", "Reserve to what the head gives", reserve),
        Figure("melt.flow.top_speed", "Speed at which it gives out", top),
        Figure("melt.exit.heat", "Melt leaves at", known.band("exit_c", "°C") if known is not None else UNKNOWN),
        Figure("melt.feed.speed", "Filament is fed at", _exact(speed, "mm/s", "flow over section of the strand")),
        Figure("melt.feed.force", "Force that it takes", known.band("force", "N") if known is not None else UNKNOWN),
        Figure(
            "melt.feed.push",
            "Force that the drive gives",
            melting.band("push", "N") if melting is not None else UNKNOWN,
        ),
        Figure(
            "melt.residence.time",
            "Melt stands in the hot end",
            known.band("residence_s", "s") if known is not None else UNKNOWN,
        ),
    )


def _beads(case: MeltCase, recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    width, height, first = recipe.melt.width_mm, recipe.melt.height_mm, recipe.first_layer.height_mm
    known = width is not None and height is not None and width >= height
    part = context.part
    wall = part.shape.thinnest_mm if part is not None and part.shape is not None else None
    plan = wall_plan(wall, width, height) if wall is not None and known and width and height else None
    high = case.shape.size_z_mm if case.shape is not None else recipe.brief.size_z_mm
    layers = layer_plan(high, first, height) if high and first is not None and height else None
    return (
        Figure("melt.bead.section", "Section of a bead", _exact(case.bead_mm2 if known else None, "mm²", BEADS)),
        Figure(
            "melt.bead.pitch",
            "Beads lie apart by",
            _exact(
                pitch_of(width, height) if known and width and height else None,
                "mm",
                "width less what round sides overlap",
            ),
        ),
        Figure(
            "melt.bead.bonded",
            "Share of a section that bonds",
            _exact(
                100.0 * case.bonded if known and case.bonded is not None else None,
                "%",
                "neck over width, less gaps",
                "practice, estimate",
            ),
        ),
        Figure(
            "melt.wall.beads",
            "Beads in the thinnest wall",
            _exact(float(plan.beads) if plan else None, "1", "wall in whole beads", "wall measured on its file"),
        ),
        Figure(
            "melt.wall.fills",
            "Bead that fills it",
            _exact(plan.width_mm if plan and plan.beads else None, "mm", "wall over whole beads"),
        ),
        Figure(
            "melt.layer.count",
            "Layers",
            _exact(float(layers.layers) if layers else None, "1", "height less first layer, over layer"),
        ),
        Figure(
            "melt.layer.error",
            "Part comes out higher by",
            _exact(layers.error_mm if layers else None, "mm", "whole layers less height"),
        ),
    )


def _measured(case: MeltCase, recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    found = case.multiplier
    multiplier: Estimate | Absent = UNKNOWN
    if found is not None and "multiplier" in found.values:
        value, half = found.values["multiplier"], found.values.get("half", 0.0)
        how = "walls measured on this machine" if found.is_valid else f"stale: {found.stale_because}"
        multiplier = Estimate(value, value - half, value + half, "×", how, "own walls")
    best: Estimate | Absent = UNKNOWN
    ladder = ladder_here(case, context)
    if ladder is not None:
        how = f"ladder of {ladder.where.rstrip(',')}" if not ladder.stale_because else f"stale: {ladder.stale_because}"
        best = Estimate(ladder.best_c, ladder.low_c, ladder.high_c, "°C", how, "own ladder")
    plan = change_over_of(recipe, context)
    before = before_of(context)
    name = context.shop.polymers[before].name if before is not None and before in context.shop.polymers else None
    return (
        Figure("melt.multiplier.measured", "Multiplier measured with this lot", multiplier),
        Figure("melt.ladder.best", "Best nozzle by its ladder", best),
        Figure("melt.change.before", "In this hot end before", name if name is not None else UNKNOWN),
        Figure(
            "melt.change.purge",
            "Purge when it changes over",
            _exact(plan.purge_g if plan else None, "g", "melt zones of new filament", f"{MELT['purge_zones'].source}"),
        ),
    )


def tile_of(recipe: Recipe, context: Context) -> tuple[Saying, ...]:
    """The flow, and how much of what the head gives it takes."""
    case = melt_case(recipe, context)
    if not _is_set(case, recipe) or case.flow_mm3_s is None:
        return ()
    values: dict[str, float | str] = {"flow": case.flow_mm3_s}
    if case.hard_mm3_s is not None:
        of = 100.0 * case.flow_mm3_s / max(middle(case.hard_mm3_s), 1e-6)
        values["of"] = float(round(of))
        if of < 1000.0:
            return (
                Saying("{flow:flow}, {of:share}", values),
                Saying("{flow:flow}", values),
                Saying("{of:share}", values),
            )
    return (Saying("{flow:flow}", values),)
