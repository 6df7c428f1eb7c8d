"""What the first layer is asked for, and the worst grade that each answer could bring."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import GRADES, Context
from kaustos.core.review.making import Question

FIELDS = ("gap_mm", "height_mm", "width_mm", "speed_mm_s", "slow_layers")


def questions_of(recipe: Recipe, context: Context) -> tuple[Question, ...]:
    """Everything that the first layer asks."""
    first = recipe.first_layer
    return (
        *(Question(f"first_layer.{name}", getattr(first, name) is not None, GRADES[-1], False) for name in FIELDS),
        Question("first_layer.look_by", bool(first.look_by.strip()), GRADES[-1], False),
    )
