"""What operation 60 asks, and the worst grade that each answer could bring."""

from collections.abc import Iterator

from kaustos.core.records import Recipe
from kaustos.core.review.contract import GRADES, Context
from kaustos.core.review.making import Question

NO_GO, DECORATIVE, BEST = GRADES[0], GRADES[1], GRADES[-1]
REQUIRED = {"width_mm": NO_GO, "height_mm": NO_GO, "speed_mm_s": NO_GO}  # without them nothing is released
VALUES = ("viscosity_pa_s", "fusion_kj_kg", "stable_min", "speed_most_mm_s")


def questions_of(recipe: Recipe, context: Context) -> Iterator[Question]:
    """Everything that melt, beads and layers ask."""
    melt = recipe.melt
    for name, worst in REQUIRED.items():
        yield Question(f"melt.{name}", getattr(melt, name) is not None, worst)
    yield Question("melt.multiplier", melt.multiplier is not None, NO_GO)
    yield Question("melt.walls", melt.walls is not None, DECORATIVE)
    yield Question("melt.pause_min", melt.pause_min is not None, BEST, False)
    machine, polymer = context.machine, context.polymer
    if machine is not None:
        for name in ("melt_zone_mm", "push_n"):
            yield Question(f"machine.{name}", getattr(machine, name) is not None, BEST, False)
    if polymer is not None:
        for key in VALUES:
            if key != "fusion_kj_kg" or polymer.structure != "amorphous":
                yield Question(f"polymer.{key}", polymer.value(key) is not None, BEST, False)
