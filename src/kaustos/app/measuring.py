"""Measured and kept with a machine and a lot: multiplier, ladders of heat and flow, strength across layers."""

import re
from collections.abc import Collection

import attrs

from kaustos.app.machines import keep_calibration
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.fitting.ladder import LadderFit, flow_ladder, heat_ladder
from kaustos.core.planning.multiplier import CAUSES, MultiplierFit, multiplier_of
from kaustos.core.review import Context
from kaustos.core.review.melt import melt_case

GOOD = {"good", "ok", "yes", "whole", "g", "y"}
BAD = {"bad", "no", "starved", "skips", "slips", "b", "n"}
LADDERS = {"heat": "Heat of the nozzle", "flow": "Flow"}
_PAIR = re.compile(r"^(?P<step>\S.*?)\s*[:=\s]\s*(?P<result>\S+)$")


def readings_of(text: str, wording: Wording) -> list[float]:
    """Lengths out of one line, apart by blanks or semicolons [mm]."""
    parts = [part for part in re.split(r"[;\s]+", text.strip()) if part and part not in ("mm", "in")]
    found = []
    for number, part in enumerate(parts, 1):
        try:
            found.append(wording.read(part, "length"))
        except KaustosError as error:
            raise KaustosError(f"Reading {number}: {error}") from error
    return found


def work_out_multiplier(walls: str, beads: str, context: Context, workspace: Workspace) -> MultiplierFit:
    """The multiplier that measured walls ask for, printed as the open recipe is set."""
    recipe = workspace.draft.records.card.recipe
    case = melt_case(recipe, context)
    if recipe.melt.width_mm is None or recipe.melt.height_mm is None:
        raise KaustosError("Set bead and layer above: they are what the walls are compared with.")
    if not beads.strip().isdigit() or not int(beads) > 0:
        raise KaustosError(f"{beads or 'Nothing'!s}: say of how many beads the wall is, such as 2.")
    return multiplier_of(
        readings_of(walls, workspace.draft.wording),
        int(beads),
        recipe.melt.width_mm,
        recipe.melt.height_mm,
        recipe.melt.multiplier if recipe.melt.multiplier is not None else 1.0,
        case.hot_end.strand_mm,
    )


def multiplier_words(fit: MultiplierFit, wording: Wording) -> str:
    """What the readings say, in a sentence or two."""
    words = (
        f"Multiplier {fit.multiplier:.3f} ± {fit.half:.3f}. Walls came out at {wording.value(fit.mean_mm, 'length')} "
        f"instead of {wording.value(fit.expected_mm, 'length')}, a reading scatters by {fit.spread_pct:.1f} %."
    )
    if fit.is_odd:
        words += (
            f" Odd: {fit.why}. A strand of {wording.value(fit.strand_mm, 'length')} would explain it. Rule out every "
            "cause, or waive it by name."
        )
    return words


def keep_multiplier(
    workspace: Workspace, context: Context, fit: MultiplierFit, ruled_out: Collection[str], waived_by: str
) -> str:
    """Keep a multiplier with machine and lot; an odd one only once each cause is ruled out, or waived by name."""
    machine, lot = lot_and_machine(context)
    left = [cause for cause in CAUSES if cause not in ruled_out]
    if fit.is_odd and left and not waived_by.strip():
        raise KaustosError(
            f"Odd, and {len(left)} causes are left, first: {left[0]}. Rule them out, or say who waives them."
        )
    note = ""
    if fit.is_odd:
        note = f"Odd: {fit.why}. Ruled out: {len(CAUSES) - len(left)} of {len(CAUSES)}."
        note += f" Waived by {waived_by.strip()}." if left else ""
    values = {"multiplier": round(fit.multiplier, 4), "half": round(fit.half, 4)}
    keep_calibration(workspace, machine, "multiplier", values, "caliper", note, lot=lot, by=waived_by.strip())
    return f"Multiplier {fit.multiplier:.3f} is kept for this machine and lot; recipes are judged by it."


def lot_and_machine(context: Context) -> tuple[str, str]:
    """Where what is measured belongs: machine and lot, by id."""
    if context.machine is None:
        raise KaustosError("Choose the machine first: what is measured belongs to it.")
    if context.lot is None:
        raise KaustosError("Choose the lot first: what is measured is true of that spool alone.")
    return context.machine.id, context.lot.id


@attrs.frozen
class Ladder:
    """A ladder as it was typed and what it says."""

    kind: str
    fit: LadderFit


def work_out_ladder(kind: str, text: str, wording: Wording) -> Ladder:
    """What a ladder says: steps with a score, or with good and bad, apart by commas or semicolons."""
    entries = [each.strip() for each in re.split(r"[;\n]|,(?=\s)", text) if each.strip()]
    if not entries:
        raise KaustosError("Type each step with its result, such as 240 2; 250 3.5; 260 4; 270 3.")
    steps, results = [], []
    for number, entry in enumerate(entries, 1):
        found = _PAIR.match(entry)
        if found is None:
            raise KaustosError(f"Step {number}, {entry!r}: a step and its result are wanted, such as 250 3.")
        steps.append(_read(wording, found["step"], "temperature" if kind == "heat" else "flow", number))
        results.append(_result(kind, found["result"].lower(), number))
    fit = heat_ladder(steps, results) if kind == "heat" else flow_ladder(steps, [each > 0.5 for each in results])
    return Ladder(kind, fit)


def _read(wording: Wording, text: str, quantity: str, number: int) -> float:
    try:
        return wording.read(text, quantity)
    except KaustosError as error:
        raise KaustosError(f"Step {number}: {error}") from error


def _result(kind: str, word: str, number: int) -> float:
    if kind == "flow" and word in GOOD | BAD:
        return 1.0 if word in GOOD else 0.0
    try:
        return float(word.replace(",", "."))
    except ValueError as error:
        wanted = "good or bad" if kind == "flow" else "a number, more for better"
        raise KaustosError(f"Step {number}: {word!r} is no result; give {wanted}.") from error


def ladder_words(ladder: Ladder, wording: Wording) -> str:
    """What a ladder says, and what to try next."""
    fit, quantity = ladder.fit, "temperature" if ladder.kind == "heat" else "flow"
    best, low, high = (wording.value(round(each, 1), quantity) for each in (fit.best, fit.low, fit.high))
    words = (
        f"Best at {best} ({low} to {high})." if ladder.kind == "heat" else f"The head gives {best} ({low} to {high})."
    )
    if fit.is_end:
        words += " That is an end of the ladder."
    if fit.next_step is None:
        return words + " No finer step is needed."
    return f"{words} Next: {wording.value(round(fit.next_step, 1), quantity)}, inside window and reach."


def keep_ladder(workspace: Workspace, context: Context, ladder: Ladder) -> str:
    """Keep what a ladder said with machine and lot."""
    machine, lot = lot_and_machine(context)
    fit = ladder.fit
    if ladder.kind == "heat":
        values = {"best_c": fit.best, "low_c": fit.low, "high_c": fit.high}
        keep_calibration(workspace, machine, "ladder", _rounded(values), "by eye and hand", "", lot=lot)
        return f"Best nozzle {workspace.draft.wording.value(fit.best, 'temperature')} is kept for this machine and lot."
    at_c = melt_case(workspace.draft.records.card.recipe, context).nozzle_c
    if at_c is None:
        raise KaustosError("Set the nozzle first: a limit of flow is true of one heat.")
    values = {"flow_mm3_s": fit.best, "low_mm3_s": fit.low, "high_mm3_s": fit.high, "at_c": at_c}
    keep_calibration(workspace, machine, "flow", _rounded(values), "flow ladder", "", lot=lot)
    return (
        f"A flow of {workspace.draft.wording.value(fit.best, 'flow')} is kept for this machine and lot, at this heat."
    )


def _rounded(values: dict[str, float]) -> dict[str, float]:
    return {key: round(value, 2) for key, value in values.items()}


def keep_ratio(workspace: Workspace, context: Context, across: str, along: str) -> str:
    """Keep strength across over along the layers, from specimens broken on this machine; both in a row of readings."""
    machine, lot = lot_and_machine(context)
    groups = [_stresses(text, name, workspace.draft.wording) for text, name in ((across, "across"), (along, "along"))]
    means = [sum(each) / len(each) for each in groups]
    ratio = means[0] / means[1]
    spread = sum(_spread(each) ** 2 for each in groups) ** 0.5
    recipe = workspace.draft.records.card.recipe
    values = {"ratio": ratio, "ratio_half": 2.0 * max(spread, 0.05) * ratio}
    for key, value in (("nozzle_c", recipe.melt.nozzle_c), ("chamber_c", recipe.heat.chamber_c)):
        if value is not None:
            values[key] = value
    keep_calibration(
        workspace,
        machine,
        "across",
        {key: round(each, 4) for key, each in values.items()},
        "specimens",
        f"{len(groups[0])} across, {len(groups[1])} along",
        lot=lot,
    )
    return f"Across to along {ratio:.2f} is kept; the grade rests on it as long as the recipe is as hot."


def _stresses(text: str, name: str, wording: Wording) -> list[float]:
    parts = [part for part in re.split(r"[;\s]+", text.strip()) if part]
    if len(parts) < 3:
        raise KaustosError(f"At least three specimens {name} are wanted; {len(parts)} are there.")
    found = []
    for number, part in enumerate(parts, 1):
        try:
            value = wording.read(part, "stress")
        except KaustosError as error:
            raise KaustosError(f"Specimen {number} {name}: {error}") from error
        if not value > 0.0:
            raise KaustosError(f"Specimen {number} {name}: a strength is above nothing.")
        found.append(value)
    return found


def _spread(values: list[float]) -> float:
    """Scatter of the mean of a group, relative."""
    mean = sum(values) / len(values)
    variance = sum((each - mean) ** 2 for each in values) / (len(values) - 1)
    return float((variance / len(values)) ** 0.5 / mean)
