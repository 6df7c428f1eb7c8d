"""Which lot a recipe is judged with."""

from kaustos.core.records import Lot, Recipe
from kaustos.core.review.contract import Context


def lot_in_use(recipe: Recipe, context: Context) -> Lot | None:
    """The lot, where it is of the recipe's polymer."""
    return context.lot if context.lot and context.lot.polymer == recipe.polymer else None


def in_dry_box(recipe: Recipe, lot: Lot | None) -> bool:
    """Whether a lot waits or is fed in a dry box."""
    return lot is not None and "dry_box" in (lot.feed, recipe.stock.wait_in)
