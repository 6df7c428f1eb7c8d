"""What the bench of proof keeps: sizes, specimens, tones, verdicts, dead ends, parts in service."""

import re
from pathlib import Path
from typing import Any

import attrs
import numpy as np

from kaustos.app.logs import moment_of
from kaustos.app.machines import keep_calibration
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.estimates import PROOF, WELD
from kaustos.core.planning.evidence import sized_by
from kaustos.core.planning.sizes import round_by_diameters, round_of
from kaustos.core.planning.specimen_plan import BAR, layer_time
from kaustos.core.planning.specimens import Curve, pulled
from kaustos.core.planning.tone import Bar, stiffness_of, tone_of
from kaustos.core.records import (
    GROUPS,
    HANDS,
    MEASURED,
    PROOFS,
    SERVICE_ENDS,
    VERDICTS,
    Place,
    Proof,
    ProofRow,
    ServicePart,
)
from kaustos.core.records.proof import settings_then
from kaustos.core.review import Context
from kaustos.core.review.melt.case import melt_case
from kaustos.core.review.proof import proof_case
from kaustos.core.review.proof.findings import life_h
from kaustos.formats.curve_file import CurveFile, read_curve
from kaustos.formats.recording import read_recording

MOST_POINTS = 160


# ---- what is kept


def _fresh(workspace: Workspace, sort: str) -> Proof:
    """A proof of the open recipe as it stands: machine, lot, state, heat."""
    records = workspace.draft.records
    if records.current is None:
        raise KaustosError("Open the recipe that this is evidence for.")
    card = records.card
    recipe, chosen = card.recipe, card.chosen
    return Proof(
        id=records.free_id("proofs", f"{sort} {len(records.tables['proofs']) + 1}"), sort=sort, card=records.current,
        machine=chosen.get("machine"), lot=chosen.get("lot"), polymer=recipe.polymer,
        at_utc=moment_of(workspace, None), by=workspace.settings.who, history=recipe.brief.history,
        moisture=recipe.brief.moisture, **settings_then(recipe),
    )  # fmt: skip


def _newest(workspace: Workspace, sort: str) -> Proof | None:
    """The newest proof of a sort of the open recipe on which nobody has given a verdict yet."""
    records = workspace.draft.records
    mine = [each for each in records.tables["proofs"].values()
            if each.card == records.current and each.sort == sort and not each.retired]  # fmt: skip
    last: Proof | None = max(mine, key=lambda each: each.at_utc, default=None)
    return None if last is None or last.verdict is not None else last


def proof_asked(workspace: Workspace, sort: str) -> Proof:
    """What rows are added to: the newest proof of a sort of the open recipe, else a new one under its settings of now.

    Asked for when a reading begins, for by its end another recipe may be open.
    """
    return _newest(workspace, sort) or _fresh(workspace, sort)


def _add(
    workspace: Workspace, sort: str, rows: tuple[ProofRow, ...], title: str, of: Proof | None = None, **changes: Any
) -> Proof:
    """Rows more of a proof, of the newest of its sort or a new one where none is named; one edit."""
    asked = of or proof_asked(workspace, sort)
    proof: Proof = workspace.draft.records.tables["proofs"].get(asked.id, asked)  # as it stands by now
    after = attrs.evolve(proof, rows=(*proof.rows, *rows), **changes)
    workspace.draft.set({Place("proofs", proof.id): after}, title=title, card=proof.card)
    return after


def add_size(workspace: Workspace, what: str | None, axis: str | None, words: str, wording: Wording) -> str:
    """A reading: drawn, found, within; such as 62 61.84 0.2; a lift is one number."""
    if what is None:
        raise KaustosError("Say what was measured: length, hole, wall, diameter, radius, lift, gap.")
    name, text = _named(words)
    numbers = [wording.read(each, "length") for each in text.split()]
    if what == "lift":
        if len(numbers) != 1:
            raise KaustosError("A lift is one number: how far the worst corner stands up, such as 0.4.")
        row = ProofRow(name=name, what=what, found_mm=numbers[0])
    else:
        if not 2 <= len(numbers) <= 3:
            raise KaustosError("Type it as drawn, as found, and within what it may be off: 62 61.84 0.2")
        within = numbers[2] if len(numbers) == 3 else None
        row = ProofRow(name=name, what=what, axis=axis, nominal_mm=numbers[0], found_mm=numbers[1], tolerance_mm=within)
    _add(workspace, "size", (row,), f"{MEASURED[what]} measured")
    return f"{MEASURED[what]} is noted."


def _named(words: str) -> tuple[str, str]:
    """A name before a colon, and the rest."""
    head, colon, rest = words.partition(":")
    return (head.strip()[:60], rest) if colon else ("", words)


def roundness_words(what: str | None, text: str, wording: Wording) -> str:
    """What radii or diameters at angles say: an angle and a reading, a height behind them where there are several."""
    if what not in ("radius", "diameter"):
        raise KaustosError("Readings at angles are radii or diameters: choose which.")
    is_across = what == "diameter"
    pairs = [each.split() for each in text.split(";") if each.strip()]
    if any(len(each) not in (2, 3) for each in pairs):
        raise KaustosError("Type an angle and a reading for each, such as 0 10.02; 24 10.05; a height behind them.")
    try:
        angles = [float(each[0].rstrip("°").replace(",", ".")) for each in pairs]
    except ValueError as error:
        raise KaustosError(f"{error}: an angle in degrees stands first.") from error
    values = [wording.read(each[1], "length") for each in pairs]
    if is_across:
        found = round_by_diameters(angles, values)
        return (f"Out of round by {found.value:.3f} mm as far as diameters show it. Three or five lobes change no "
                "diameter: measure radii from an axis.")  # fmt: skip
    heights = [wording.read(each[2], "length") if len(each) == 3 else 0.0 for each in pairs]
    told = round_of(angles, heights, values)
    words = (f"Radius {told.radius.value:.3f} mm ({told.radius.low:.3f} to {told.radius.high:.3f}); {told.lobes} lobes "
             f"of {told.lobe_mm.value:.3f} mm ({told.lobe_mm.low:.3f} to {told.lobe_mm.high:.3f})")  # fmt: skip
    if told.taper_mm is None:
        return f"{words}."
    taper = told.taper_mm
    return f"{words}; taper {taper.value:+.3f} mm ({taper.low:+.3f} to {taper.high:+.3f})."


def give_verdict(workspace: Workspace, sort: str, verdict: str | None, who: str, why: str) -> str:
    """Passes, used as it is, scrapped: the latter two by name and reason."""
    proof = _newest(workspace, sort)
    if proof is None:
        raise KaustosError("There is nothing open to give a verdict on: measure first.")
    if verdict is None:
        raise KaustosError("Say which: passes, used as it is, scrapped.")
    if verdict != "pass" and not (who.strip() and why.strip()):
        raise KaustosError("Used as it is, or scrapped: by whom, and why? Silent acceptance becomes the rule.")
    if verdict == "pass" and sort == "size" and (what := _sized_out(proof)):
        raise KaustosError(f"{what} is out of tolerance: use it as it is, by name and reason, or scrap it.")
    after = attrs.evolve(proof, verdict=verdict, verdict_by=who.strip() or workspace.settings.who,
                         verdict_why=why.strip())  # fmt: skip
    workspace.draft.set({Place("proofs", proof.id): after}, title=f"{PROOFS[sort]}: {VERDICTS[verdict].lower()}")
    return f"{PROOFS[sort]}: {VERDICTS[verdict].lower()}."


def _sized_out(proof: Proof) -> str:
    out = sized_by(proof).out
    return out[0][0].name or MEASURED.get(str(out[0][0].what), "A size") if out else ""


# ---- specimens


@attrs.frozen(eq=False)
class ReadCurves:
    """Curves that are to be read: a request of a job."""

    files: tuple[Path, ...]

    def __call__(self, progress: Any = None) -> tuple[CurveFile, ...]:
        """Read them, one after another."""
        return tuple(read_curve(file) for file in self.files)


def add_curves(
    workspace: Workspace, curves: tuple[CurveFile, ...], group: str | None, sizes: str, wording: Wording, of: Proof
) -> str:  # fmt: skip
    """Specimens of one direction: width, thickness, the length that travel belongs to, mm that machine and grips give
    for a kilonewton; of the recipe that they were read for."""
    if group is None:
        raise KaustosError("Say in which direction they were pulled.")
    numbers = [wording.read(each, "length") for each in sizes.split()]
    if not 2 <= len(numbers) <= 4:
        raise KaustosError("Type width and thickness as measured, then the length the travel belongs to, then how far "
                           "machine and grips give for 1 kN, where that was measured: 10.2 4.1 50 0.6")  # fmt: skip
    rows, words = [], []
    for curve in curves:
        row, told = _specimen(curve, group, numbers)
        rows.append(row)
        words.append(told)
    _add(workspace, "pull", tuple(rows), f"{len(rows)} specimens {GROUPS[group].lower()}", of)
    return " ".join(words)


def _specimen(file: CurveFile, group: str, sizes: list[float]) -> tuple[ProofRow, str]:
    section = sizes[0] * sizes[1]
    force = file.newtons(section)
    found = pulled(
        Curve(force_n=force, travel_mm=file.travel_mm, strain=file.strain, width_mm=sizes[0], thick_mm=sizes[1],
              gauge_mm=sizes[2] if len(sizes) > 2 else None,
              compliance_mm_n=sizes[3] / 1e3 if len(sizes) > 3 else None)
    )  # fmt: skip
    strain = file.strain
    if strain is None and file.travel_mm is not None and len(sizes) > 2:
        given = force * sizes[3] / 1e3 if len(sizes) > 3 else 0.0
        strain = (file.travel_mm - given) / sizes[2]
    pick = np.unique(np.linspace(0, force.size - 1, min(force.size, MOST_POINTS)).astype(int))
    shown = () if strain is None else tuple(np.round(100.0 * strain[pick], 4).tolist())
    name = file.name.rpartition(".")[0] or file.name
    row = ProofRow(
        name=name[:60], group=group, width_mm=sizes[0], thick_mm=sizes[1], force_n=float(force.max()),
        strength_mpa=round(found.strength_mpa, 3), modulus_mpa=_rounded(found.modulus_mpa, 1),
        break_pct=_rounded(None if found.break_pct is None else min(max(found.break_pct, 0.0), 100.0), 3),
        strain_pct=shown, stress_mpa=() if strain is None else tuple(np.round(force[pick] / section, 3).tolist()),
        note="; ".join(found.says),
    )  # fmt: skip
    modulus = f", {found.modulus_mpa:.0f} MPa stiff" if found.modulus_mpa is not None else ""
    says = f" ({'; '.join(found.says)})" if found.says else ""
    return row, f"{name}: {found.strength_mpa:.1f} MPa{modulus}{says}."


def _rounded(value: float | None, digits: int) -> float | None:
    return None if value is None else round(value, digits)


def add_strengths(workspace: Workspace, group: str | None, text: str, wording: Wording) -> str:
    """Strengths typed in a row, on the true section."""
    if group is None:
        raise KaustosError("Say in which direction they were pulled.")
    values = [wording.read(each, "stress") for each in re.split(r"[;\s]+", text.strip()) if each]
    if not values:
        raise KaustosError("Type their strengths in a row, such as 18.2 17.5 19.1; force over the measured section.")
    rows = tuple(ProofRow(group=group, strength_mpa=each) for each in values)
    _add(workspace, "pull", rows, f"{len(rows)} specimens {GROUPS[group].lower()}")
    return f"{len(rows)} specimens {GROUPS[group].lower()} are noted."


def keep_measured_ratio(workspace: Workspace, context: Context) -> str:
    """The ratio of the newest specimens as a calibration: the weld is graded by it from then on.

    For a filled polymer the reference is its moulded matrix where one was pulled: fibres along the beads make the
    figure along them no measure of a weld. It is true of the machine and the lot that the specimens came from, whatever
    is chosen by now, and of layers that are laid as quickly as theirs.
    """
    recipe = workspace.draft.records.card.recipe
    case = proof_case(recipe, context)
    if case.strengths is None or case.pulls is None:
        raise KaustosError("No specimen was pulled yet.")
    if case.strengths.few:
        words = ", ".join(GROUPS[each].lower() for each in case.strengths.few)
        raise KaustosError(f"Too few specimens {words}: three at least are judged.")
    ratio, of = case.strengths.weld, "along" if case.strengths.of_moulded is None else "moulded"
    if ratio is None:
        raise KaustosError("Pull specimens across and along, or a moulded reference.")
    machine, lot = case.pulls.machine, case.pulls.lot
    if machine is None or lot is None or machine not in workspace.draft.records.machines:
        raise KaustosError("Machine and lot of these specimens were not chosen when they were pulled: pull them again.")
    melt = melt_case(recipe, context)
    sections = [(row.width_mm or BAR[1]) * (row.thick_mm or BAR[2]) for row in case.pulls.rows if row.group == "across"]
    took = layer_time(sections, melt.width_mm, melt.speed_mm_s, case.pulls.layer_s or 0.0)
    values = {"ratio": round(ratio.value, 4), "ratio_half": round((ratio.high - ratio.low) / 2.0, 4),
              "layer_s": round(took, 1)}  # fmt: skip
    for key in ("nozzle_c", "chamber_c"):
        held = getattr(case.pulls, key)
        if held is not None:
            values[key] = held
    keep_calibration(workspace, machine, "across", values, "specimens", f"{ratio.method}, to {of}", lot=lot)
    return (f"Across to {of} {ratio.value:.2f} ({ratio.low:.2f} to {ratio.high:.2f}) is kept; the weld is graded by it "
            f"where it is as hot and a layer takes up to {WELD['ratio_slower'].value * took:.0f} s.")  # fmt: skip


# ---- by hand, and looked over


def add_hand(
    workspace: Workspace, hand: str | None, group: str | None, mode: str | None, text: str, wording: Wording
) -> str:  # fmt: skip
    """A piece broken, struck or squeezed by hand: blows or effort; force, length, wall and radius of a tube."""
    if hand is None or group is None:
        raise KaustosError("Say what was done, and in which direction.")
    parts = text.split()
    if hand == "squeeze":
        if len(parts) != 4:
            raise KaustosError("A squeezed tube wants force, length, wall and mean radius: 20 30 1.2 15")
        force = wording.read(parts[0], "force")
        length, wall, radius = (wording.read(each, "length") for each in parts[1:])
        row = ProofRow(hand=hand, group=group, force_n=force, length_mm=length, thick_mm=wall, width_mm=radius)
    else:
        if len(parts) > 1:
            raise KaustosError("One number: blows, or effort from 0 to 4; nothing where nobody counted.")
        row = ProofRow(hand=hand, group=group, mode=mode, blows=wording.read(parts[0], "ratio") if parts else None)
    proof = _add(workspace, "hand", (row,), f"{HANDS[hand]}, {GROUPS[group].lower()}")
    count = sum(each.hand == hand and each.group == group for each in proof.rows)
    more = "" if count >= PROOF["blows"].value else f"; {PROOF['blows'].value - count:.0f} more to say anything"
    return f"{HANDS[hand]}, {GROUPS[group].lower()}: {count}{more}. Comparative only: nobody controls the force."


def add_look(workspace: Workspace, words: str, grade: str, expected: bool | None) -> str:
    """A criterion, and how it came out from 0 useless to 4 as it should be."""
    if not words.strip():
        raise KaustosError("Name what was looked at: surface, strings, seam, underside.")
    if grade.strip() not in ("0", "1", "2", "3", "4"):
        raise KaustosError("Grade it from 0, useless, to 4, as it should be.")
    row = ProofRow(name=words.strip()[:60], grade=float(grade), expected=expected)
    _add(workspace, "look", (row,), f"{row.name}: {grade.strip()} of 4")
    return f"{row.name}: {grade.strip()} of 4. A photo with a scale beside it says more: keep it with its run."


# ---- tones


def add_tone(
    workspace: Workspace, file: Path | None, hz_text: str, bar_text: str, direction: str | None, wording: Wording
) -> str:  # fmt: skip
    """A tapped bar: a recording or a tone in hertz; length, width, thickness, mass."""
    parts = bar_text.split()
    if len(parts) != 4:
        raise KaustosError("Type the bar's length, width, thickness and mass: 100 15.02 4.03 7.51")
    length, width, thick = (wording.read(each, "length") for each in parts[:3])
    mass = wording.read(parts[3], "mass")
    decay, words = None, ""
    if file is not None:
        recording = read_recording(file)
        tone = tone_of(recording.samples, recording.rate_hz)
        hz, decay = tone.hz, tone.decay_s
        words = " The recording is cut: tap more softly." if tone.clipped else ""
    else:
        try:
            hz = float(hz_text.strip().lower().removesuffix("hz").strip().replace(",", "."))
        except ValueError as error:
            raise KaustosError("Open a recording, or type the tone in hertz, such as 1180.") from error
    found = stiffness_of(Bar(length_mm=length, width_mm=width, thick_mm=thick, mass_g=mass,
                             direction=direction or "flat"), hz, 0.003 * hz)  # fmt: skip
    row = ProofRow(
        name="bar", length_mm=length, width_mm=width, thick_mm=thick, mass_g=mass, hz=round(hz, 2),
        decay_s=_rounded(decay, 4), direction=direction or "flat", modulus_mpa=round(found.value, 1),
    )  # fmt: skip
    fresh = _fresh(workspace, "tone")
    workspace.draft.set({Place("proofs", fresh.id): attrs.evolve(fresh, rows=(row,))}, title=f"Bar tapped: {hz:.0f} Hz")
    rings = f", rings for {1e3 * decay:.0f} ms" if decay is not None else ""
    return (f"{hz:.1f} Hz{rings}: {found.value:.0f} MPa ({found.low:.0f} to {found.high:.0f}), as thick as it is "
            f"measured.{words}")  # fmt: skip


# ---- dead ends and parts in service


def note_find(workspace: Workspace, sort: str, note: str) -> str:
    """A dead end, or what works and nobody knows why, with the settings as they stand."""
    if not note.strip():
        raise KaustosError("Say what was tried and what came of it.")
    fresh = _fresh(workspace, sort)
    workspace.draft.set({Place("proofs", fresh.id): attrs.evolve(fresh, note=note.strip()[:200])}, title=PROOFS[sort])
    return f"{PROOFS[sort]}: kept with nozzle and chamber as they stand."


def put_in_service(workspace: Workspace, name: str, place: str) -> str:
    """A part of the open recipe begins to serve."""
    records = workspace.draft.records
    if not name.strip() or not place.strip():
        raise KaustosError("Name the part, and where it serves.")
    key = records.free_id("services", name)
    made = ServicePart(id=key, name=name.strip(), card=records.current or "", polymer=records.card.recipe.polymer,
                       place=place.strip(), in_utc=moment_of(workspace, None))  # fmt: skip
    workspace.draft.set({Place("services", key): made}, title=f"{made.name} serves")
    return f"{made.name} serves from now on."


def take_out(workspace: Workspace, name: str, ended: str | None) -> str:
    """A part ends its service."""
    records = workspace.draft.records
    mine = [each for each in records.tables["services"].values() if each.name == name.strip() and not each.out_utc]
    if not mine:
        raise KaustosError(f"No part {name!r:.40} serves; the log below names them.")
    if ended is None:
        raise KaustosError("Say how it ended.")
    part = attrs.evolve(mine[0], out_utc=moment_of(workspace, None), ended=ended)
    workspace.draft.set({Place("services", part.id): part}, title=f"{part.name}: {SERVICE_ENDS[ended].lower()}")
    life = life_h(part) or 0.0
    return f"{part.name}: {SERVICE_ENDS[ended].lower()} after {life / 730.0:.1f} months."
