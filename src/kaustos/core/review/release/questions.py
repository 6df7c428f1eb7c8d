"""What taking a part off is asked for."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import GRADES, Context
from kaustos.core.review.making import Question


def questions_of(recipe: Recipe, context: Context) -> tuple[Question, ...]:
    """The way it is taken off."""
    return (Question("plate.release", recipe.plate.release is not None, GRADES[-1], False),)
