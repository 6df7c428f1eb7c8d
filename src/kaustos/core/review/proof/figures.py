"""The figures of operation 120, and what its tile says."""

import attrs

from kaustos.core.planning.specimens import Group, rate_of
from kaustos.core.records import GROUPS, Estimate, Recipe
from kaustos.core.records.run import SHAPES
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure, Saying
from kaustos.core.review.proof.case import ProofCase, proof_case
from kaustos.core.review.proof.findings import life_h

NOT_MEASURED = "not measured"


def figures_of(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """Everything that can be asked where it comes from."""
    case = proof_case(recipe, context)
    return (
        Figure("proof.runs.rate", "Share of good runs", _rate(case)),
        Figure("proof.runs.shapes", "Shapes of good runs", _shapes(case)),
        Figure("proof.ladder.next", "Next test", _next(case)),
        *(Figure(f"proof.strength.{key}", f"Strength {GROUPS[key].lower()}", _strength(case, key))
          for key in ("across", "along", "moulded", "aged")),
        Figure("proof.ratio.along", "Across to along", _ratio(case, "ratio")),
        Figure("proof.ratio.moulded", "Across to moulded", _ratio(case, "of_moulded")),
        Figure("proof.ratio.aged", "Left after ageing", _ratio(case, "retained")),
        *(Figure(f"proof.scale.{axis}", f"Came out, {axis}", _scale(case, axis)) for axis in ("x", "y", "z")),
        *(Figure(f"proof.print_at.{axis}", f"Print at, {axis}", _print_at(case, axis)) for axis in ("x", "y", "z")),
        Figure("proof.size.hole", "Holes, measured less drawn", _hole(case)),
        Figure("proof.warp.lift", "Worst corner", _lift(case)),
        Figure("proof.tone.modulus", "Stiffness of the last coupon", _stiffness(case)),
        Figure("proof.service.life", "Longest life of a part in service", _life(context)),
    )  # fmt: skip


def _rate(case: ProofCase) -> Estimate | str | Absent:
    past = case.past
    if past is None:
        return UNKNOWN
    if not past.ended:
        return "wet runs only" if past.wet else "no run yet"
    rate = rate_of(past.good, past.ended)
    return Estimate(100.0 * rate.value, 100.0 * rate.low, 100.0 * rate.high, "%", rate.method, rate.source)


def _shapes(case: ProofCase) -> str | Absent:
    if case.past is None:
        return UNKNOWN
    return ", ".join(SHAPES[each].lower() for each in case.past.shapes) or "none"


def _next(case: ProofCase) -> str:
    rung = case.next
    if rung is None:
        return "all climbed"
    stake = "" if rung.grams is None or rung.hours is None else f", {rung.grams:.0f} g and {rung.hours:g} h"
    return f"{rung.title}{stake}"


def _strength(case: ProofCase, key: str) -> Estimate | str:
    group: Group | None = case.strengths.groups.get(key) if case.strengths is not None else None
    if group is None:
        return NOT_MEASURED
    low, high = (group.mean, group.mean) if group.low is None or group.high is None else (group.low, group.high)
    words = "one specimen, no interval" if group.count == 1 else f"mean of {group.count}, Student"
    return Estimate(group.mean, max(low, 0.0), high, "MPa", words, _state(case))


def _state(case: ProofCase) -> str:
    """The state of what was pulled belongs to every figure."""
    proof = case.pulls
    if proof is None:
        return "own specimens"
    states = [str(each).replace("_", " ") for each in (proof.history, proof.moisture) if each]
    return f"own specimens, {', '.join(states) or 'state not recorded'}"


def _ratio(case: ProofCase, name: str) -> Estimate | str:
    found: Estimate | None = getattr(case.strengths, name) if case.strengths is not None else None
    if found is None:
        return NOT_MEASURED
    return Estimate(100.0 * found.value, 100.0 * found.low, 100.0 * found.high, "%", found.method, found.source)


def _scale(case: ProofCase, axis: str) -> Estimate | str:
    line = case.sized.lines.get(axis) if case.sized is not None else None
    return line.scale if line is not None else NOT_MEASURED


def _print_at(case: ProofCase, axis: str) -> Estimate | str:
    """Scale of the drawing at which it comes out as drawn, the oven counted where coupons tell what that does."""
    line = case.sized.lines.get(axis) if case.sized is not None else None
    if line is None:
        return NOT_MEASURED
    found, grown = line.scale, case.grows_pct.get(axis)
    method = "as drawn over as measured" + ("" if grown is None else f", {grown:+.2f} % in the oven")
    return Estimate(1.0 / found.value, 1.0 / found.high, 1.0 / found.low, "1", method, found.source)


def _stiffness(case: ProofCase) -> Estimate | str:
    if not case.tones:
        return NOT_MEASURED
    last = case.tones[-1]
    return attrs.evolve(last, value=round(last.value), low=round(last.low), high=round(last.high))


def _hole(case: ProofCase) -> Estimate | str:
    hole = case.sized.hole_mm if case.sized is not None else None
    return hole if hole is not None else NOT_MEASURED


def _lift(case: ProofCase) -> Estimate | str:
    lift = case.sized.lift_mm if case.sized is not None else None
    return NOT_MEASURED if lift is None else Estimate(lift, lift, lift, "mm", "on a flat, cold", "own readings")


def _life(context: Context) -> Estimate | str:
    lives = [life for each in context.services if (life := life_h(each)) is not None]
    if not lives:
        return "none has ended"
    life = max(lives)
    return Estimate(life, life, life, "h", f"{len(lives)} parts taken out", "own service log")


def tile_of(recipe: Recipe, context: Context) -> tuple[Saying, ...]:
    """Good runs of those that ended."""
    past = proof_case(recipe, context).past
    if past is None:
        return ()
    if not past.ended:
        return (Saying("wet runs only" if past.wet else "no run yet"), Saying("wet only" if past.wet else "no run"))
    now = past.as_it_stands
    if now < past.good:
        return (Saying(f"{now} good as it is, {past.good} before"), Saying(f"{now} as it is"))
    return (Saying(f"{past.good} of {past.ended} good"),)
