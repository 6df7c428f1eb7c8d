"""Which lot a recipe is judged with."""

from kaustos.core.planning.ledger import Ledger, ledger_of
from kaustos.core.planning.supply import Supply, grams_wanted, supply_of
from kaustos.core.records import Lot, Recipe
from kaustos.core.review.contract import Context


def lot_in_use(recipe: Recipe, context: Context) -> Lot | None:
    """The lot, where it is of the recipe's polymer."""
    return context.lot if context.lot and context.lot.polymer == recipe.polymer else None


def in_dry_box(recipe: Recipe, lot: Lot | None) -> bool:
    """Whether a lot waits or is fed in a dry box."""
    return lot is not None and "dry_box" in (lot.feed, recipe.stock.wait_in)


def ledger(lot: Lot | None, context: Context) -> Ledger | None:
    """What of a lot is left, taken and put aside."""
    return ledger_of(lot, context.shop.taken_g.get(lot.id, 0.0)) if lot else None


def free_g(lot: Lot | None, context: Context) -> float | None:
    """What a run may take of a lot, None where that is not known [g]."""
    known = ledger(lot, context)
    return known.free_g if known else None


def most_g(lot: Lot | None, context: Context) -> float | None:
    """What a run may take of a lot at most [g]: with an unknown body no more than the whole spool weighed last."""
    free = free_g(lot, context)
    if free is not None or lot is None:
        return free
    weighed = [each for each in lot.weighings if each.gross_g is not None]
    return max(weighed, key=lambda each: each.at_utc).gross_g if weighed else None


def wanted_g(recipe: Recipe, context: Context) -> float:
    """What the runs of this recipe that are still to come take [g]."""
    return grams_wanted(recipe.brief.runs, context.runs_done, recipe.brief.mass_g)


def supply(lot: Lot, recipe: Recipe, context: Context) -> Supply:
    """What there is of a lot's grade and colour, were this recipe printed from that lot."""
    wanted = {**context.wanted_g, lot.id: context.wanted_g.get(lot.id, 0.0) + wanted_g(recipe, context)}
    return supply_of(lot, context.shop.every_lot, context.shop.taken_g, wanted)
