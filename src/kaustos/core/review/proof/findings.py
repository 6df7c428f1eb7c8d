"""What can be found against the evidence of a recipe."""

from collections.abc import Iterator
from datetime import datetime

from kaustos.core.estimates import PROOF
from kaustos.core.planning.evidence import is_near
from kaustos.core.planning.sizes import warp_pct
from kaustos.core.planning.specimens import lower_bound
from kaustos.core.records import GROUPS, MEASURED, SERVICE_ENDS, Recipe, ServicePart
from kaustos.core.records.calibration import change_words, voids
from kaustos.core.records.recipe import PURPOSES
from kaustos.core.records.run import SHAPES
from kaustos.core.review.contract import Context, Finding, Remedy
from kaustos.core.review.making import make_finding
from kaustos.core.review.proof import remedies as cures
from kaustos.core.review.proof.case import ProofCase, proof_case
from kaustos.core.review.proof.codes import BY_CODE

Values = dict[str, float | str | None]
MATTERS = ("across", "multiplier", "plate_offset", "chamber_offset")  # calibrations that a proof stands on
SAME_MM = 0.03  # by which a hole error may differ from the one that is used


def findings_of(recipe: Recipe, context: Context) -> tuple[Finding, ...]:
    """Everything that can be found."""
    case = proof_case(recipe, context)
    found: list[Finding] = []
    for look in (_runs, _across, _sizes, _warp, _lot, _machine, _nozzle, _ladder, _dead_ends, _coupons, _service):
        found += look(case, recipe, context)
    return tuple(found)


def _found(recipe: Recipe, context: Context, code: str, field: str, values: Values, *remedies: Remedy) -> Finding:
    return make_finding(BY_CODE[f"proof.{code}"], recipe, context, field, remedies, {"gap": 1.0} | values)


def _runs(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Good runs and their shapes against the rules for a release."""
    past, rules = case.past, context.rules
    if past is None or not case.is_strict or not past.ended:
        return
    same, shapes_of = (past.good, past.shapes) if past.same is None else (past.same, past.same_shapes)
    if same < rules.release_runs:
        values: Values = {
            "good": float(past.good), "ended": float(past.ended), "same": float(same), "wanted": rules.release_runs,
            "purpose": f"a {PURPOSES[str(recipe.brief.purpose)].lower()}",
            "least": 100.0 * lower_bound(past.good, past.ended), "gap": rules.release_runs - same,
        }  # fmt: skip
        yield _found(recipe, context, "runs.few", "brief.purpose", values, cures.REPEATED)
    elif len(shapes_of) < rules.release_shapes:
        shapes = ", ".join(SHAPES[each].lower() for each in shapes_of) or "of a shape nobody noted"
        values = {"shapes": shapes, "wanted": rules.release_shapes}
        yield _found(recipe, context, "runs.one_shape", "brief.purpose", values, cures.ANOTHER)


def _across(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Specimens: missing, too few, or measured and not used."""
    kept = next((each for each in context.calibrations if each.kind == "across" and each.is_valid), None)
    strengths, pulls = case.strengths, case.pulls
    if strengths is None or pulls is None:
        if case.is_strict and recipe.brief.load_across and kept is None and case.past is not None and case.past.ended:
            yield _found(recipe, context, "across.unmeasured", "brief.load_across", {}, cures.PULLED)
        return
    for key in strengths.few:
        values: Values = {"count": float(strengths.groups[key].count), "group": GROUPS[key].lower(),
                          "wanted": PROOF["specimens"].value}  # fmt: skip
        yield _found(recipe, context, "across.few", "brief.load_across", values, cures.PULLED)
    ratio = strengths.ratio
    if ratio is not None and not strengths.few and (kept is None or kept.done_utc < pulls.at_utc):
        said: Values = {"ratio": 100.0 * ratio.value}
        yield _found(recipe, context, "across.unkept", "brief.load_across", said, cures.KEPT)


def _signed(off_mm: float) -> str:
    return f"{abs(off_mm):.2f} mm {'larger' if off_mm > 0.0 else 'smaller'}"


def _sizes(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Readings out of tolerance that nobody has accepted, and holes whose error is known and not used."""
    sized, proof = case.sized, case.sizes
    if sized is None or proof is None:
        return
    settled = proof.verdict is not None and (proof.verdict != "as_is" or bool(proof.verdict_by and proof.verdict_why))
    if sized.out and not settled:
        row, off = max(sized.out, key=lambda each: abs(each[1]))
        within = row.tolerance_mm if row.tolerance_mm is not None else PROOF["loose"].value
        values: Values = {"what": row.name or MEASURED.get(str(row.what), "A size"), "nominal": row.nominal_mm,
                          "off": _signed(off), "within": within, "gap": abs(off) - within,
                          "then": " as the oven will leave it" if case.grows_pct else ""}  # fmt: skip
        yield _found(recipe, context, "size.out", "context.part", values, cures.ACCEPTED)
    hole, part = sized.hole_mm, context.part
    if hole is not None and part is not None:
        error = round(-hole.value, 2)  # what is added to a hole as drawn
        known = part.hole_error_mm
        if error > SAME_MM and (known is None or abs(known - error) > max(SAME_MM, hole.high - hole.value)):
            values = {"off": _signed(hole.value), "wide": round(hole.high - hole.value, 2), "known": known or 0.0}
            yield _found(recipe, context, "size.holes", "part.hole_error_mm", values, cures.holes_by(error))


def _warp(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Lift of the worst corner against what its face may be off."""
    sized, part = case.sized, context.part
    if sized is None or sized.lift_mm is None or part is None or part.flat_mm is None:
        return
    if sized.lift_mm > part.flat_mm:
        shape = part.shape
        share = warp_pct(sized.lift_mm, shape.size_x_mm, shape.size_y_mm) if shape is not None else 0.0
        values: Values = {"lift": sized.lift_mm, "share": share, "flat": part.flat_mm,
                          "gap": sized.lift_mm - part.flat_mm}  # fmt: skip
        yield _found(recipe, context, "warp.out", "part.flat_mm", values, cures.FLATTER)


def _lot(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """A lot that nothing tells of."""
    if case.is_new_lot and context.lot is not None:
        values: Values = {"lot": context.lot.name, "minutes": PROOF["coupon_min"].value}
        yield _found(recipe, context, "lot.new", "context.lot", values, cures.COUPON)


def _machine(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """A part of the machine that a proof stands on, changed since."""
    machine, past = context.machine, case.past
    if machine is None or past is None or not past.last_good_utc:
        return
    later = [each for each in machine.changes if each.at_utc > past.last_good_utc
             and any(voids(each.part, kind) for kind in MATTERS)]  # fmt: skip
    if later:
        last = max(later, key=lambda each: each.at_utc)
        words = change_words(last.part)
        values: Values = {"part": words[:1].upper() + words[1:], "machine": machine.name, "date": last.at_utc[:10]}
        yield _found(recipe, context, "machine.changed", "context.machine", values, cures.CHANGED)


def _nozzle(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """No verdict without looking: a nozzle that an abrasive polymer ran through."""
    polymer, nozzle, newest = context.polymer, context.nozzle, case.newest
    wear = polymer.value("abrasion") if polymer is not None else None
    if nozzle is None or newest is None or wear is None or wear.value < PROOF["abrades"].value:
        return
    if not any(each.at_utc >= newest.at_utc for each in nozzle.inspections):
        yield _found(recipe, context, "look.nozzle", "context.nozzle", {"date": newest.at_utc[:10]}, cures.LOOKED)


def _ladder(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """A cheaper test before a part that costs several times as much."""
    rung, brief = case.next, recipe.brief
    if rung is None or rung.key == "part" or case.past is None or brief.print_h is None or brief.mass_g is None:
        return
    if case.past.as_it_stands or brief.print_h < PROOF["worth"].value * (rung.hours or 0.0):
        return
    values: Values = {"next": rung.said, "grams": rung.grams, "hours": rung.hours, "part_g": brief.mass_g,
                      "part_h": brief.print_h}  # fmt: skip
    yield _found(recipe, context, "ladder.skips", "brief.purpose", values, cures.first_test(rung.said))


def _dead_ends(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """What somebody has tried near here, and it did not work."""
    nozzle, chamber = recipe.melt.nozzle_c, recipe.heat.chamber_c
    near = [each for each in context.proofs if each.sort == "dead_end" and is_near(each, nozzle, chamber)]
    if near:
        first = near[0]
        values: Values = {"note": first.note or "no note", "nozzle": first.nozzle_c if first.nozzle_c is not None
                          else nozzle, "chamber": first.chamber_c if first.chamber_c is not None
                          else chamber if chamber is not None else context.rules.room_c}  # fmt: skip
        yield _found(recipe, context, "dead_end.near", "melt.nozzle_c", values, cures.AWAY)


def _coupons(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """A coupon that rings otherwise than those before it."""
    if case.drift is not None:
        words = f"{100.0 * abs(case.drift):.0f} % {'stiffer' if case.drift > 0.0 else 'softer'}"
        yield _found(recipe, context, "coupon.drifted", "context.lot", {"change": words}, cures.DRIFTED)


def _service(case: ProofCase, recipe: Recipe, context: Context) -> Iterator[Finding]:
    """Parts of this polymer that ended before the hours that are wanted."""
    wanted = recipe.brief.service_h
    ended = [(life, each) for each in context.services if each.ended not in (None, "sound")
             and (life := life_h(each)) is not None]  # fmt: skip
    if wanted is None or not ended:
        return
    life, worst = min(ended, key=lambda each: each[0])
    if life < wanted:
        months = life / 730.0
        values: Values = {"part": worst.name or "A part", "ended": SERVICE_ENDS[str(worst.ended)].lower(),
                          "life": f"{months:.0f} months" if months >= 2.0 else f"{life / 24.0:.0f} days",
                          "place": worst.place or "a place nobody noted", "wanted": wanted}  # fmt: skip
        yield _found(recipe, context, "service.short", "brief.service_h", values, cures.SERVED)


def life_h(part: ServicePart) -> float | None:
    """Hours that a part served [h]; None while it does, or where a date is missing."""
    if not part.in_utc or not part.out_utc:
        return None
    return (datetime.fromisoformat(part.out_utc) - datetime.fromisoformat(part.in_utc)).total_seconds() / 3600.0
