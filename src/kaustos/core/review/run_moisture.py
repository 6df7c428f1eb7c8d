"""Whether a run begins from dry filament: kept with the run, so that water is not taken for wrong heat later."""

from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context, Estimate, Review


def filament_of(recipe: Recipe, context: Context, found: Review) -> str | None:
    """The state of the filament that a run of a recipe begins with and ends with, the worse of the two.

    Parameters
    ----------
    recipe : Recipe
        With its drying, waiting and hours of print [-]
    context : Context
        With the polymer as the lot is known [-]
    found : Review
        The judgement of both, its figures of moisture [% water]

    Returns
    -------
    str or None
        dry, doubtful, wet or unknown; None where nothing is known of the polymer's water [-]

    Notes
    -----
    Wet is what likely holds more than the printing limit; doubtful may, as things are at their worst.
    """
    if context.polymer is None:
        return None
    if not context.polymer.absorbs:
        return "dry"
    severities = {finding.code: finding.severity for finding in found.findings()}
    if "stock.moisture.unknown" in severities:
        return "unknown"
    if severities.get("stock.strand.signs") == "stop":
        return "wet"
    figures = {figure.key: figure.value for operation in found.operations for figure in operation.figures}
    known = [figures.get(f"stock.moisture.{at}") for at in ("start", "end")]
    estimates = [each for each in known if isinstance(each, Estimate)]
    limit = context.polymer.value("moisture_limit_pct")
    if not estimates or limit is None:
        return None
    if max(each.value for each in estimates) > limit.value:
        return "wet"
    return "doubtful" if max(each.high for each in estimates) > limit.value else "dry"
