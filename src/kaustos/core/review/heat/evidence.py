"""What specimens say of the weld, beside what was foretold for the heat, air and layer time that they were made at."""

import math
from collections.abc import Callable
from datetime import datetime

import attrs
import numpy as np

from kaustos.core.belief import Belief, Seen, believe, seen_factor
from kaustos.core.belief.predictions import WELD as PREDICTION
from kaustos.core.estimates import BELIEF, WELD
from kaustos.core.memo import by_identity
from kaustos.core.planning.draws import Array, ends, middle
from kaustos.core.planning.evidence import strengths_of
from kaustos.core.planning.specimen_plan import BAR
from kaustos.core.records import Proof, Recipe
from kaustos.core.records.calibration import voids
from kaustos.core.records.recipe import Brief, FirstLayer, Heat, Melt, Plate
from kaustos.core.review.contract import Context

DAYS_A_YEAR = 365.25
UNDATED = BELIEF["undated"].value
BY_HAND = {"between": "below", "through": "above"}
Told = Callable[[Proof], float | None]  # share foretold for what a proof was made at [1]


@attrs.frozen(kw_only=True, eq=False)
class Evidence:
    """What was seen of a weld, and the belief that comes of it."""

    belief: Belief
    specimens: int
    found: float | None  # share that specimens of this recipe show, the middle of all [1]
    told: tuple[float, float, float]  # the model alone: least, likely, most [1]


def evidence_of(context: Context, share: Array, told: Told) -> Evidence | None:
    """What proofs of the weld leave of the belief in it; None where none tells of it.

    The share, draw by draw, is that of the model alone [1].
    """
    seen, ratios, specimens = [], [], 0
    for proof in context.proofs:
        if proof.sort not in ("pull", "hand") or _is_other(proof, context):
            continue
        foretold = told(proof)
        if foretold is None or not foretold > 0.0:
            continue
        if proof.sort == "hand":
            seen += _by_hand(proof, foretold, context)
            continue
        ratio = strengths_of(proof).weld
        if ratio is None or not ratio.value > 0.0:
            continue
        half = math.log(ratio.high / ratio.value) if ratio.high > ratio.value else WELD["few_specimens"].value
        seen.append(_seen(proof, ratio.value, foretold, half / 1.96, "value", context))
        ratios.append(ratio.value)
        specimens += sum(row.group == "across" for row in proof.rows)
    if not seen:
        return None
    least, likely, most = ends(share)
    spread = max(math.log(most / max(least, 1e-4)) / (2.0 * 1.96), 0.05)
    belief = believe(PREDICTION, seen, _here(context), spread)
    found = sorted(ratios)[len(ratios) // 2] if ratios else None
    return Evidence(belief=belief, specimens=specimens, found=found, told=(least, likely, most))


def _is_other(proof: Proof, context: Context) -> bool:
    """Whether it tells nothing of the weld as printed.

    Annealed, aged or wet when it was tested, of another polymer, or made at a heat that nobody wrote down.
    """
    polymer = context.polymer.id if context.polymer is not None else ""
    is_treated = proof.history == "annealed" or bool(proof.aged_h) or proof.moisture == "conditioned"
    is_unknown = proof.nozzle_c is None
    return proof.retired or is_treated or is_unknown or (proof.polymer or polymer) != polymer


def made_like(proof: Proof, recipe: Recipe, context: Context) -> tuple[Recipe, Context]:
    """What specimens were printed with: nothing of it is taken from the recipe of now, lest its faults be theirs.

    What a proof does not say is taken as usual. Pulled specimens stand side by side as bars; a piece that was broken
    by hand is one of the part.
    """
    plate_c = recipe.plate.bed_c if proof.plate_c is None else proof.plate_c
    like = _recipe_like(proof, recipe.polymer, recipe.brief, recipe.first_layer, plate_c)
    return like, (_of_part if proof.sort == "hand" else _of_bars)(context)


@by_identity(32)
def _recipe_like(
    proof: Proof, polymer: str | None, brief: Brief, first_layer: FirstLayer, plate_c: float | None
) -> Recipe:  # fmt: skip
    is_bar = proof.sort == "pull"
    across = [row for row in proof.rows if row.group == "across"]
    wide, thick = (max((getattr(row, name) or usual for row in across), default=usual)
                   for name, usual in (("width_mm", BAR[1]), ("thick_mm", BAR[2])))  # fmt: skip
    return Recipe(
        polymer=polymer, first_layer=first_layer,
        brief=Brief(size_x_mm=wide, size_y_mm=thick, size_z_mm=BAR[0]) if is_bar else brief,
        melt=Melt(nozzle_c=proof.nozzle_c, width_mm=proof.width_mm, height_mm=proof.height_mm,
                  speed_mm_s=proof.speed_mm_s, infill_pct=100.0 if is_bar else None),
        heat=Heat(chamber_c=proof.chamber_c, fan_pct=proof.fan_pct, least_layer_s=proof.layer_s),
        plate=Plate(bed_c=plate_c, copies=float(max(len(across), 1)) if is_bar else None),
    )  # fmt: skip


@by_identity(16)
def _of_part(context: Context) -> Context:
    return attrs.evolve(context, proofs=(), job=None)


@by_identity(16)
def _of_bars(context: Context) -> Context:
    return attrs.evolve(_of_part(context), part=None)


def _by_hand(proof: Proof, foretold: float, context: Context) -> list[Seen]:
    """Layers that parted were weaker than what parts like that bear, and the other way round."""
    limit = WELD["hand_breaks"].value
    error = math.log(WELD["hand_breaks"].high / WELD["hand_breaks"].value) / 1.96
    modes = [row.mode for row in proof.rows if row.hand == "break" and row.mode in BY_HAND]
    return [_seen(proof, limit, foretold, error, BY_HAND[str(mode)], context) for mode in modes]


def _seen(proof: Proof, found: float, foretold: float, error: float, side: str, context: Context) -> Seen:
    at = {"shop": "here", "machine": proof.machine, "polymer": proof.polymer, "lot": proof.lot}
    years = 0.0 if proof.at_utc else UNDATED
    if proof.at_utc and context.now is not None:
        years = max((context.now - datetime.fromisoformat(proof.at_utc)).days, 0) / DAYS_A_YEAR
    known = {level: str(member) for level, member in at.items() if member}
    changed = _is_changed(proof, context)
    return seen_factor(
        found, foretold, known, error=max(error, 0.01), side=side, years=years, changed=changed, source=proof.id
    )


def _is_changed(proof: Proof, context: Context) -> bool:
    """Whether a part of its machine that decides about welds was changed since; on an unknown day before any."""
    machines = (context.machine, *context.shop.machines)
    made_on = next((each for each in machines if each is not None and each.id == proof.machine), None)
    if made_on is None:
        return False
    return any(each.at_utc > proof.at_utc and voids(each.part, "across") for each in made_on.changes)


def _here(context: Context) -> dict[str, str]:
    found = {"shop": "here"}
    if context.machine is not None:
        found["machine"] = context.machine.id
    if context.polymer is not None:
        found["polymer"] = context.polymer.id
    return found if context.lot is None else {**found, "lot": context.lot.id}


def moved(share: Array, evidence: Evidence, order: Array) -> Array:
    """The share as the belief has it, drawn in the order of normal draws [1]."""
    return np.asarray(np.clip(middle(share) * np.exp(evidence.belief.draws(order)), 0.0, 1.0))
