"""Where drying can hurt."""

from kaustos.core.estimates import MACHINE
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Caution, Context

HOT_C = MACHINE["hot_spool"].value


def cautions_of(recipe: Recipe, context: Context) -> tuple[Caution, ...]:
    if recipe.stock.dryer_c is None:
        return ()
    found = [
        Caution(
            "stock.no_food_oven",
            "Never dry in an oven that is used for food, and never leave a makeshift dryer unattended: it needs a "
            "cut-off of its own. The maker's data sheet decides on heat and hours.",
        )
    ]
    if recipe.stock.dryer_c >= HOT_C:
        found.append(
            Caution("stock.hot_spool", "Hot spools and dryers burn skin; let vapours out, do not breathe them.")
        )
    if context.lot and context.lot.flange in ("card", "polystyrene", "styrenic"):
        found.append(Caution("stock.soft_spool", "Spools of card and styrenics bend and fuse in heat: look early."))
    return tuple(found)
