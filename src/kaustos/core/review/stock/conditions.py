"""What every finding of the spool asks first, and is made with."""

from collections.abc import Mapping

from kaustos.core.estimates import DRYING
from kaustos.core.planning.history import was_somewhere
from kaustos.core.planning.strand import is_clean, strand_that_tells
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Finding, Remedy
from kaustos.core.review.making import make_finding
from kaustos.core.review.stock.codes import BY_CODE
from kaustos.core.review.stock.lot import lot_in_use

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


def is_water_known(recipe: Recipe, context: Context) -> bool:
    """Whether anybody can know how wet the spool is: it is dried, logged, showed a clean strand or takes up none."""
    lot = lot_in_use(recipe, context)
    tested = is_clean(strand_that_tells(lot, context.polymer), context.now)
    return is_dried(recipe) or was_somewhere(lot) or tested or not absorbs(context)


def absorbs(context: Context) -> bool:
    """Whether the polymer takes up water."""
    return context.polymer is not None and context.polymer.absorbs


def severity_of_wet(context: Context, likely_pct: float, limit_pct: float) -> str:
    """Stop where the water that is likely there takes a polymer that hydrolyses apart, else watch."""
    hydrolyses = context.polymer is not None and context.polymer.hydrolyses
    return "stop" if hydrolyses and likely_pct > HYDROLYSED * limit_pct else "watch"
