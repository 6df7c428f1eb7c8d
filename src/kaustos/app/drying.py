"""What each dryer of the shop would do for a lot, asked from the lot: no recipe is needed."""

from kaustos.app.clock import ready_words
from kaustos.app.judge import context_of
from kaustos.app.wording import drying_words
from kaustos.app.workspace import Workspace
from kaustos.core.records import Lot, Recipe
from kaustos.core.review.stock import is_in_dryer, options_of, plan_of


def drying_ways(workspace: Workspace, lot: Lot) -> str:
    """Every dryer with its heat, hours and when the spool would be ready; which one is full."""
    records, wording, now = workspace.draft.records, workspace.draft.wording, workspace.clock()
    recipe = Recipe(polymer=lot.polymer)
    context = context_of(recipe, {"lot": lot}, records.rules, workspace.shop(), now)
    plan = plan_of(recipe, context)
    if plan is None or context.polymer is None or not context.polymer.absorbs:
        return ""
    if plan.now.worst <= plan.limit and plan.spool.lot is not None:
        return "Dry for certain as it is."
    words = []
    for option in options_of(recipe, context, plan):
        dryer = records.dryers[option.dryer]
        others = [each for each in context.shop.lots if each.id != lot.id and is_in_dryer(each, dryer.id, context)]
        full = ", full" if dryer.places is not None and len(others) >= dryer.places else ""
        hours = drying_words(option.worst_h, never=option.never_surely)
        ready = ready_words(option.worst_h, now, never=option.never_surely)
        at = wording.value(option.celsius, "temperature")
        words.append(f"{option.name} {hours} at {at}" + (f" ({ready})" if option.worst_h < 1000.0 else "") + full)
    return f"To dry it surely: {'; '.join(words)}." if words else "No dryer is recorded."
