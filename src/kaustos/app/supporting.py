"""What the bench of supports shows and keeps: the ways to hold a part, coupons of overhangs and of gaps."""

import re

from kaustos.app.machines import keep_calibration
from kaustos.app.measuring import lot_and_machine
from kaustos.app.wording import Wording, hours_words
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.planning.gap_series import UNDERSIDES, GapFit, GapStep, best_gap, values_of
from kaustos.core.planning.support import skin_layers
from kaustos.core.records import DECISIONS, Decision, Place
from kaustos.core.records.part import LEAST_LEAN_DEG
from kaustos.core.review import Context
from kaustos.core.review.heat import Pause
from kaustos.core.review.supports import GapSaid, PlacePicture, SupportPicture, Way, steps_after, support_case

WAY_HEADINGS = ("Way", "Work", "Machine", "Low by", "Lost", "Each", "")
CONVENTIONS = {"upright": "from upright", "level": "from level"}


def ways_of(context: Context, workspace: Workspace) -> tuple[Way, ...]:
    """The ways to hold the open recipe's part, the cheapest that is to be had first."""
    return support_case(workspace.draft.records.card.recipe, context).ways


def way_rows(ways: tuple[Way, ...], wording: Wording) -> list[tuple[str, ...]]:
    """What a table shows of each way."""
    return [
        (
            each.title,
            wording.value(round(each.cost.attended_min), "minutes"),
            hours_words(each.cost.machine_h),
            wording.value(round(each.cost.low_mm, 2), "length"),
            f"{100.0 * each.cost.risk:.0f} %",
            wording.value(each.each, "money"),
            "; ".join(each.against or (*(f"first {one}" for one in each.first), *(("scars",) * each.is_scarred))),
        )
        for each in ways
    ]


PAUSE_HEADINGS = ("After layer", "Height", "After the first move", "Rests", "Weld over it", "Else", "At most")


def pause_rows(record: SupportPicture | None, wording: Wording) -> list[tuple[str, ...]]:
    """Pauses for a coat by hand: which layer, when, the weld over what cooled, how long at most."""
    if record is None:
        return []
    return [
        (
            str(each.layer),
            wording.value(round(each.at_mm, 2), "length"),
            f"{hours_words(each.after.low)} to {hours_words(each.after.high)}",
            wording.value(record.rest_min, "minutes"),
            "" if each.keeps is None else wording.value(round(100.0 * each.keeps), "share"),
            "" if each.usual is None else wording.value(round(100.0 * each.usual), "share"),
            _at_most(each, wording),
        )
        for each in record.pauses
    ]


def _at_most(pause: Pause, wording: Wording) -> str:
    if pause.usual is None:
        return "not known"
    return "none" if pause.limit_min is None else wording.value(pause.limit_min, "minutes")


AFTER_HEADINGS = ("Step", "Work", "Waits", "With")


def after_rows(context: Context, workspace: Workspace) -> list[tuple[str, ...]]:
    """What the part still needs because of what held it, in the order in which it is done."""
    wording = workspace.draft.wording
    return [
        (
            each.what,
            "" if each.minutes is None else wording.value(round(each.minutes.value), "minutes"),
            "" if each.waits is None else f"{hours_words(each.waits.low)} to {hours_words(each.waits.high)}",
            each.tools,
        )
        for each in steps_after(workspace.draft.records.card.recipe, context)
    ]


PLACE_HEADINGS = ("", "Place", "Leans", "Faces", "Up", "Reached", "Decided", "Why")


def place_rows(record: SupportPicture | None, wording: Wording) -> list[tuple[str, ...]]:
    """What a table shows of each place that grows over air."""
    return [
        (
            str(each.number),
            each.words,
            wording.value(round(each.place.steepest_deg), "angle"),
            wording.value(each.place.area_mm2 / 100.0, "area"),
            wording.value(round(each.place.low_mm, 1), "length"),
            {"reached": "by tools", "unreached": "by a bath", "closed": "by nothing"}[each.reach],
            DECISIONS.get(each.decision.what or "", "") if each.decision is not None else "",
            each.decision.why if each.decision is not None else "",
        )
        for each in (record.places if record is not None else ())
    ]


def decide(workspace: Workspace, context: Context, place: PlacePicture, what: str, why: str) -> str:
    """Keep with the part what is decided on a place, and drop decisions on places that are gone; one edit."""
    part = context.part
    if part is None or part.shape is None:
        raise KaustosError("Give the part its file first: places are measured on it.")
    if what and what != "hold" and not why.strip():
        raise KaustosError("Say why: whoever prints it next reads it.")
    every = part.shape.overhangs or ()
    kept = [each for each in part.decided if not each.is_on(place.place) and any(each.is_on(one) for one in every)]
    if what:
        middle = place.place
        layer = workspace.draft.records.card.recipe.melt.height_mm
        if what == "skin" and layer is None:
            raise KaustosError("Set the layer first: a skin is whole layers thick.")
        made = Decision(
            x_mm=middle.x_mm, y_mm=middle.y_mm, low_mm=middle.low_mm, what=what, why=why.strip(),
            layer_mm=layer if what == "skin" else None,
        )  # fmt: skip
        kept.append(made)
    workspace.draft.set({Place("parts", part.id, "decided"): tuple(kept)})
    said = DECISIONS[what].lower() if what else "let the limit decide"
    if what == "skin" and layer is not None:
        count = skin_layers(layer)
        said += f"; draw it {count} layer{'s' if count > 1 else ''} thick ({count * layer:.2f} mm) across the hole"
    return f"Place {place.number} of {part.name}: {said}."


def keep_overhang(workspace: Workspace, context: Context, angle: str, convention: str) -> str:
    """Keep the steepest lean that came out without a flaw, with machine, lot and the fan that is set."""
    machine, lot = lot_and_machine(context)
    recipe, wording = workspace.draft.records.card.recipe, workspace.draft.wording
    if recipe.heat.fan_pct is None:
        raise KaustosError("Set the fan first: a limit is true of one fan.")
    read = wording.read(angle, "angle")
    limit = read if convention == "upright" else 90.0 - read
    if not LEAST_LEAN_DEG <= limit <= 90.0:
        raise KaustosError(
            f"{angle}: a lean of {limit:.0f}° from upright is none; {LEAST_LEAN_DEG:.0f}° to 90° are. What flaws less "
            "wants another cure: drier filament, more fan, less heat."
        )
    values = {"limit_deg": round(limit, 1), "fan_pct": recipe.heat.fan_pct}
    if recipe.melt.nozzle_c is not None:
        values["nozzle_c"] = recipe.melt.nozzle_c
    keep_calibration(workspace, machine, "overhang", values, "coupon", "", lot=lot)
    return f"{limit:.0f}° from upright at a fan of {recipe.heat.fan_pct:.0f} % is kept for this machine and lot."


def work_out_gaps(text: str) -> GapFit:
    """What a series of gaps says: layers, minutes to take it off, underside; steps apart by semicolons."""
    steps = []
    for number, entry in enumerate((each.strip() for each in re.split(r"[;\n]", text) if each.strip()), 1):
        parts = entry.replace(",", ".").split()
        under = parts[-1].lower() if parts else ""
        if under not in UNDERSIDES or not parts[0].isdigit() or len(parts) not in (2, 3):
            raise KaustosError(f"Step {number}, {entry!r}: layers, minutes and {', '.join(UNDERSIDES)} are wanted.")
        minutes = None
        if len(parts) == 3:
            try:
                minutes = float(parts[1])
            except ValueError as error:
                raise KaustosError(f"Step {number}: {parts[1]!r} is no number of minutes.") from error
            if not 0.0 <= minutes <= 600.0:
                raise KaustosError(f"Step {number}: {minutes:g} minutes; 0 to 600 are taken.")
        steps.append(GapStep(layers=int(parts[0]), minutes=minutes, under=under))
    if not steps:
        raise KaustosError("Type each step, such as 1 fused; 2 0.5 marked; 3 0.3 clean.")
    return best_gap(steps)


def gap_words(fit: GapFit, said: tuple[GapSaid, ...]) -> str:
    """What a series says, what to print next, and who says otherwise."""
    best = "None came off well." if fit.best is None else f"Best: {fit.best.layers} layers, {fit.best.under}"
    if fit.best is not None:
        best += f", off in {fit.best.minutes:g} min." if fit.best.minutes is not None else "."
    if fit.next_layers is not None:
        best += f" Print {fit.next_layers} next: an end of a series is not known to be the best."
    others = [each for each in said if fit.best is not None and not each.is_own and each.layers != fit.best.layers]
    if others:
        best += " Elsewhere: " + ", ".join(f"{each.layers:g} by {each.source}" for each in others) + "."
    return best


def keep_gaps(workspace: Workspace, context: Context, fit: GapFit) -> str:
    """Keep a series of gaps with machine and lot."""
    machine, lot = lot_and_machine(context)
    layer = workspace.draft.records.card.recipe.melt.height_mm
    if layer is None:
        raise KaustosError("Set the layer first: a gap is laid in whole layers.")
    if fit.best is None:
        raise KaustosError("None of them came off well: there is no gap to keep.")
    if fit.best.layers < 1:
        raise KaustosError("No gap at all holds for a second polymer alone; its own polymer wants a layer or more.")
    keep_calibration(workspace, machine, "support_gap", values_of(fit, layer), "series of gaps", "", lot=lot)
    return f"A gap of {fit.best.layers} layers is kept for this machine and lot."
