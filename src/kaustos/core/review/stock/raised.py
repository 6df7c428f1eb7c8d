"""What every finding of the operation is made with."""

from collections.abc import Mapping

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Finding, Remedy
from kaustos.core.review.money import at_stake, run_cost
from kaustos.core.review.stock.codes import BY_CODE


def raised(
    recipe: Recipe, context: Context, code: str, field: str, remedies: tuple[Remedy, ...],
    values: Mapping[str, float | str], severity: str = "",
) -> Finding:  # fmt: skip
    """A finding of a code with what it costs, the polymer named."""
    severity = severity or BY_CODE[code].severity
    cost = at_stake(run_cost(recipe, context), severity, context.rules.wage_per_h)
    every = {"polymer": context.polymer.name if context.polymer else "", **values}
    return Finding(code, severity, every, field, cost, remedies)


def is_dried(recipe: Recipe) -> bool:
    """Whether drying is planned."""
    return recipe.stock.dryer_c is not None and bool(recipe.stock.dryer_h)


def absorbs(context: Context) -> bool:
    """Whether the polymer takes up water."""
    return context.polymer is not None and context.polymer.absorbs
