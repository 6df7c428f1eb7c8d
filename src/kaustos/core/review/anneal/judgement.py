"""Puts the operation's review together."""

from kaustos.core.records import Recipe
from kaustos.core.review.anneal.after import work_list
from kaustos.core.review.anneal.case import anneal_case
from kaustos.core.review.anneal.codes import BY_CODE
from kaustos.core.review.anneal.figures import figures_of, tile_of
from kaustos.core.review.anneal.findings import findings_of
from kaustos.core.review.anneal.questions import questions_of
from kaustos.core.review.contract import Caution, Context, Heavy, OperationReview
from kaustos.core.review.making import conclude

NUMBER = 110
HEAVY: tuple[Heavy, ...] = ()
OVEN = Caution("anneal.oven", "An oven for parts never takes food again; fumes drawn off, a cut-out of its own.")
SAND = Caution("anneal.sand", "Hot sand looks cold for hours: heat-proof gloves, nothing damp.")
DUST = Caution("anneal.dust", "Sanding and machining: wet, mask, goggles, gloves; vacuum, never sweep.")
GLUE = Caution("anneal.glue", "Glue bonds skin, its vapour stings: fresh air, gloves of its data sheet.")
PAINT = Caution("anneal.paint", "Paint: air drawn off, solvent mask, no flame and no hot oven near.")


def review(recipe: Recipe, context: Context) -> OperationReview:
    """Judge the anneal and what is done by hand behind it."""
    case, keys = anneal_case(recipe, context), {each.key for each in work_list(recipe, context)}
    cautions = [OVEN] if case.is_wanted and recipe.anneal.where != "machine" else []
    cautions += [SAND] if case.is_wanted and recipe.anneal.packed == "sand" else []
    cautions += [DUST] if keys & {"sand", "machine"} else []
    cautions += [GLUE] if "glue" in keys else []
    cautions += [PAINT] if "paint" in keys else []
    return conclude(
        NUMBER, "anneal.hold.window", figures_of(recipe, context), findings_of(recipe, context), tuple(cautions),
        questions_of(recipe, context), BY_CODE, tile=tile_of(recipe, context),
    )  # fmt: skip
