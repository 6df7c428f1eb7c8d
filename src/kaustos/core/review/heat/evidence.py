"""What specimens say of the weld, beside what was foretold for the heat, air and layer time that they were made at."""

import math
from collections.abc import Callable
from datetime import datetime

import attrs
import numpy as np

from kaustos.core.belief import Belief, Seen, believe
from kaustos.core.belief.predictions import WELD as PREDICTION
from kaustos.core.estimates import WELD
from kaustos.core.planning.draws import Array, ends, middle
from kaustos.core.planning.evidence import strengths_of
from kaustos.core.records import Proof
from kaustos.core.review.contract import Context

DAYS_A_YEAR = 365.25
WITHOUT_INTERVAL = 0.25  # error of a ratio of too few specimens for one, as a logarithm
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
        ratio = strengths_of(proof).ratio
        if ratio is None or not ratio.value > 0.0:
            continue
        half = math.log(ratio.high / ratio.value) if ratio.high > ratio.value else 1.96 * WITHOUT_INTERVAL
        seen.append(_seen(proof, math.log(ratio.value / foretold), half / 1.96, "value", context))
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
    """Whether it tells nothing of the weld as printed: annealed, aged or wet when it was tested, or another polymer."""
    polymer = context.polymer.id if context.polymer is not None else ""
    is_treated = proof.history == "annealed" or bool(proof.aged_h) or proof.moisture == "conditioned"
    return proof.retired or is_treated or (proof.polymer or polymer) != polymer


def _by_hand(proof: Proof, foretold: float, context: Context) -> list[Seen]:
    """Layers that parted were weaker than what parts like that bear, and the other way round."""
    limit = math.log(WELD["hand_breaks"].value / foretold)
    error = math.log(WELD["hand_breaks"].high / WELD["hand_breaks"].value) / 1.96
    modes = [row.mode for row in proof.rows if row.hand == "break" and row.mode in BY_HAND]
    return [_seen(proof, limit, error, BY_HAND[str(mode)], context) for mode in modes]


def _seen(proof: Proof, over: float, error: float, side: str, context: Context) -> Seen:
    at = {"shop": "here", "machine": proof.machine, "polymer": proof.polymer, "lot": proof.lot}
    years = 0.0
    if proof.at_utc and context.now is not None:
        years = max((context.now - datetime.fromisoformat(proof.at_utc)).days, 0) / DAYS_A_YEAR
    known = tuple(sorted((level, str(member)) for level, member in at.items() if member))
    return Seen(at=known, over=over, error=max(error, 0.01), side=side, years=years, source=proof.id)


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
