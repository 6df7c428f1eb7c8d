"""Which lot a recipe is judged with."""

from kaustos.core.records import Lot, Recipe
from kaustos.core.review.contract import Context


def lot_in_use(recipe: Recipe, context: Context) -> Lot | None:
    """The lot, where it is of the recipe's polymer."""
    return context.lot if context.lot and context.lot.polymer == recipe.polymer else None
