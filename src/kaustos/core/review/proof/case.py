"""Everything that the release of a recipe rests on."""

import attrs

from kaustos.core.errors import KaustosError
from kaustos.core.memo import by_identity
from kaustos.core.planning.evidence import (
    Rung,
    Sized,
    Strengths,
    drift_of,
    ladder_of,
    next_rung,
    sized_by,
    strengths_of,
)
from kaustos.core.planning.growth import AXES, grown_pct, growth_of
from kaustos.core.planning.tone import Bar, stiffness_of
from kaustos.core.records import Estimate, Proof, ProofRow, Recipe
from kaustos.core.records.recipe import STRICT
from kaustos.core.review.contract import Context, Past


@attrs.frozen(kw_only=True, eq=False)
class ProofCase:
    """One recipe and its evidence."""

    past: Past | None
    is_strict: bool
    sizes: Proof | None  # the newest of each sort
    sized: Sized | None  # as the oven will leave it, where coupons tell what that does
    grows_pct: dict[str, float]  # by axis, of what is still to be annealed
    pulls: Proof | None
    strengths: Strengths | None
    tones: tuple[Estimate, ...]  # stiffness of coupons, the oldest first [MPa]
    drift: float | None
    ladder: tuple[Rung, ...]
    next: Rung | None
    is_new_lot: bool  # whether neither a good run nor a coupon tells of the lot
    newest: Proof | None  # of all that say something of this recipe


@by_identity(64)
def proof_case(recipe: Recipe, context: Context) -> ProofCase:
    """The case of a recipe; remembered as long as nothing that it rests on is another."""
    mine = [each for each in context.proofs if each.sort not in ("dead_end", "lucky")]
    sizes, pulls = (next((each for each in mine if each.sort == sort), None) for sort in ("size", "pull"))
    bars = [each for each in mine if each.sort == "tone"]
    tones = tuple(found for each in reversed(bars) for row in each.rows if (found := modulus_of(row)) is not None)
    past, new = context.past, _is_new_lot(context, bars)
    brief, grows = recipe.brief, _still_grows(recipe, context, sizes)
    has_part = past is not None and past.as_it_stands > 0
    ladder = ladder_of(
        past.climbed if past is not None else (), has_part, brief.mass_g, brief.print_h,
        dropped=1 if new else 0,
    )  # fmt: skip
    return ProofCase(
        past=past, is_strict=brief.purpose in STRICT, sizes=sizes,
        sized=sized_by(sizes, grows) if sizes is not None else None, grows_pct=grows, pulls=pulls,
        strengths=strengths_of(pulls) if pulls is not None else None, tones=tones, drift=drift_of(tones),
        ladder=ladder, next=next_rung(ladder), is_new_lot=new, newest=mine[0] if mine else None,
    )  # fmt: skip


def _still_grows(recipe: Recipe, context: Context, sizes: Proof | None) -> dict[str, float]:
    """What the oven still does to a part that was measured before it [%]: by the shop's own coupons alone."""
    if sizes is None or sizes.history == "annealed" or not recipe.anneal.steps or context.polymer is None:
        return {}
    grown = [each for load in context.loads if load.polymer in (None, context.polymer.id) for each in load.grown]
    measured = [axis for axis in AXES if any(grown_pct(each, axis) is not None for each in grown)]
    found = {axis: growth_of(context.loads, context.polymer, axis) for axis in measured}
    return {axis: each.value for axis, each in found.items() if each is not None}


def modulus_of(row: ProofRow) -> Estimate | None:
    """Stiffness of a tapped bar [MPa]; None where a size is missing, or it cannot be told."""
    if None in (row.length_mm, row.width_mm, row.thick_mm, row.mass_g, row.hz):
        return None
    bar = Bar(length_mm=row.length_mm or 0.0, width_mm=row.width_mm or 0.0, thick_mm=row.thick_mm or 0.0,
              mass_g=row.mass_g or 0.0, direction=row.direction or "flat")  # fmt: skip
    try:
        return stiffness_of(bar, row.hz or 0.0, 0.003 * (row.hz or 0.0))
    except KaustosError:
        return None  # too short, or without a size: said where it is typed


def _is_new_lot(context: Context, bars: list[Proof]) -> bool:
    lot, past = context.lot, context.past
    if lot is None or past is None or not past.good:
        return False
    return lot.id not in past.lots and not any(each.lot == lot.id and each.verdict == "pass" for each in bars)
