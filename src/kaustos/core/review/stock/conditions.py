"""What every finding of the spool asks first, and is made with."""

from collections.abc import Mapping

from kaustos.core.estimates import DRYING
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Finding, Remedy
from kaustos.core.review.making import make_finding
from kaustos.core.review.stock.codes import BY_CODE

HYDROLYSED = DRYING["lost_at"].value  # of the printing limit


def spool_finding(
    recipe: Recipe, context: Context, code: str, field: str, remedies: tuple[Remedy, ...],
    values: Mapping[str, float | str], severity: str = "",
) -> Finding:  # fmt: skip
    """A finding of one of the operation's codes."""
    return make_finding(BY_CODE[code], recipe, context, field, remedies, values, severity=severity)


def is_dried(recipe: Recipe) -> bool:
    """Whether drying is planned."""
    return recipe.stock.dryer_c is not None and bool(recipe.stock.dryer_h)


def absorbs(context: Context) -> bool:
    """Whether the polymer takes up water."""
    return context.polymer is not None and context.polymer.absorbs


def severity_of_wet(context: Context, likely_pct: float, limit_pct: float) -> str:
    """Stop where the water that is likely there takes a polymer that hydrolyses apart, else watch."""
    hydrolyses = context.polymer is not None and context.polymer.hydrolyses
    return "stop" if hydrolyses and likely_pct > HYDROLYSED * limit_pct else "watch"
