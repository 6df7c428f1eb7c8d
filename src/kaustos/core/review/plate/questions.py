"""What the bond to the plate is asked for, and the worst grade that each answer could bring."""

from collections.abc import Iterator

from kaustos.core.records import Recipe
from kaustos.core.review.contract import GRADES, Context
from kaustos.core.review.making import Question
from kaustos.core.review.plate.case import shape_in
from kaustos.core.review.zones import surface_of

EXPECTED, KEPT = GRADES[1], GRADES[-1]
VALUES = (
    "expansion_glassy_um_mk",
    "expansion_rubbery_um_mk",
    "strength_mpa",
    "fracture_kj_m2",
    "conductivity_w_mk",
    "heat_capacity_kj_kgk",
)


def questions_of(recipe: Recipe, context: Context) -> tuple[Question, ...]:
    """Everything that the bond asks."""
    return tuple(_questions(recipe, context))


def _questions(recipe: Recipe, context: Context) -> Iterator[Question]:
    item, polymer, plate = context.plate, context.polymer, recipe.plate
    yield Question("plate", item is not None, EXPECTED)
    yield Question("plate.anchor", plate.anchor is not None, KEPT, False)
    if plate.anchor in ("brim", "ears", "raft"):
        yield Question("plate.brim_mm", plate.brim_mm is not None, KEPT, False)
    if plate.anchor == "raft":
        yield Question("plate.raft_mm", plate.raft_mm is not None, KEPT, False)
    for name in ("copies", "clips", "release"):
        yield Question(f"plate.{name}", getattr(plate, name) is not None, KEPT, False)
    if (plate.copies or 1.0) > 1.0:
        yield Question("plate.apart_mm", plate.apart_mm is not None, KEPT, False)
    yield Question("melt.infill_pct", recipe.melt.infill_pct is not None, EXPECTED)
    yield Question("part", shape_in(recipe, context)[0] is not None, EXPECTED, False)
    if item is not None:
        yield Question("plate.surface", surface_of(context) is not None, EXPECTED)
        for name in ("cleaned", "size_x_mm", "size_y_mm", "held", "prints", "test_only", "price"):
            yield Question(f"plate.{name}", getattr(item, name) is not None, KEPT, False)
        surface = surface_of(context)
        if surface is not None and surface.is_flexible:
            yield Question("plate.thick_mm", item.thick_mm is not None, KEPT, False)
    if context.agent is not None:
        for name in ("agent", "mixed_utc", "left_ml", "state"):
            yield Question(f"agent.{name}", bool(getattr(context.agent, name)), KEPT, False)
        yield Question("plate.coats", plate.coats is not None, KEPT, False)
    if polymer is not None:
        for key in (*VALUES, *(("crystal_shrinkage_pct",) if polymer.structure == "semi_crystalline" else ())):
            yield Question(f"polymer.{key}", polymer.value(key) is not None, KEPT, False)
        yield Question("polymer.modulus", polymer.modulus is not None, KEPT, False)
