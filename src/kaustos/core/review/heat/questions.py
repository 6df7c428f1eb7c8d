"""What operation 70 asks, and the worst grade that each answer could bring."""

from collections.abc import Iterator

from kaustos.core.records import Recipe
from kaustos.core.review.contract import GRADES, Context
from kaustos.core.review.making import Question

DECORATIVE, BEST = GRADES[1], GRADES[-1]
VALUES = ("crystal_fastest_c", "crystal_half_s")


def questions_of(recipe: Recipe, context: Context) -> Iterator[Question]:
    """Everything that welds and heat ask."""
    heat, polymer = recipe.heat, context.polymer
    yield Question("heat.fan_pct", heat.fan_pct is not None, DECORATIVE)
    yield Question("heat.least_layer_s", heat.least_layer_s is not None, BEST, False)
    yield Question("heat.soak_min", heat.soak_min is not None, BEST, False)
    if polymer is not None:
        for key in ("fan_low", "fan_high"):
            yield Question(f"polymer.{key}", polymer.value(key) is not None, BEST, False)
    if polymer is not None and not polymer.is_glassy:
        for key in VALUES:
            yield Question(f"polymer.{key}", polymer.value(key) is not None, BEST, False)
