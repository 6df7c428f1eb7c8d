"""What was in the hot end before, and how this polymer follows it."""

from kaustos.core.estimates import MELT
from kaustos.core.planning.change_over import ChangeOver, change_over
from kaustos.core.planning.reach import reach_through
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.melt.case import hot_end_of


def before_of(context: Context) -> str | None:
    """The polymer of the last run on this machine, by id."""
    machine = context.machine
    if machine is None:
        return None
    there = [each for each in context.shop.last_runs if each.machine == machine.id]
    return max(there, key=lambda each: each.started_utc).polymer if there else None


def change_over_of(recipe: Recipe, context: Context, before: str | None = None) -> ChangeOver | None:
    """How the recipe's polymer follows the one before; None where it is the same, or nothing is known of either."""
    before = before or before_of(context)
    new = context.polymer
    if before is None or new is None or before == new.id or before not in context.shop.polymers:
        return None
    hot_end = hot_end_of(context)
    reach = reach_through(context.machine, "nozzle", context.rules, context.nozzle).max_c if context.machine else None
    others = context.shop.polymers.values()
    zone = hot_end.zone_mm or MELT["zone"].value
    return change_over(context.shop.polymers[before], new, others, zone, hot_end.strand_mm, reach)
