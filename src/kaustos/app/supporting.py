"""What the bench of supports shows and keeps: the ways to hold a part, coupons of overhangs and of gaps."""

from kaustos.app.machines import keep_calibration
from kaustos.app.measuring import lot_and_machine
from kaustos.app.wording import Wording, hours_words
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.planning.support import whole_layers
from kaustos.core.records import DECISIONS, Decision, Place
from kaustos.core.records.part import LEAST_LEAN_DEG
from kaustos.core.review import Context
from kaustos.core.review.heat import pause_plan
from kaustos.core.review.supports import PlacePicture, SupportPicture, Way, support_case
from kaustos.core.review.supports.case import rest_min

WAY_HEADINGS = ("Way", "Work", "Machine", "Filament", "Lost", "Costs", "")
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
            wording.value(round(each.cost.grams, 1), "mass"),
            f"{100.0 * each.cost.risk:.0f} %",
            wording.value(each.cost.money, "money"),
            "; ".join(each.against or tuple(f"first {one}" for one in each.first)),
        )
        for each in ways
    ]


PAUSE_HEADINGS = ("After layer", "Height", "After the first move", "Rests", "Weld over it", "Else")


def pause_rows(context: Context, workspace: Workspace) -> list[tuple[str, ...]]:
    """Pauses for a coat by hand: which layer, when after the first move, and the weld over what cooled."""
    recipe, wording = workspace.draft.records.card.recipe, workspace.draft.wording
    coat = next((each for each in support_case(recipe, context).ways if each.key == "coat"), None)
    if coat is None:
        return []
    minutes = rest_min(recipe)
    return [
        (
            str(each.layer),
            wording.value(round(each.at_mm, 2), "length"),
            f"{hours_words(each.after.low)} to {hours_words(each.after.high)}",
            wording.value(minutes, "minutes"),
            "" if each.keeps is None else wording.value(round(100.0 * each.keeps), "share"),
            "" if each.usual is None else wording.value(round(100.0 * each.usual), "share"),
        )
        for each in pause_plan(recipe, context, coat.cost.pauses, minutes)
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
        made = Decision(x_mm=middle.x_mm, y_mm=middle.y_mm, low_mm=middle.low_mm, what=what, why=why.strip())
        kept.append(made)
    workspace.draft.set({Place("parts", part.id, "decided"): tuple(kept)})
    said = DECISIONS[what].lower() if what else "let the limit decide"
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


def keep_gap(workspace: Workspace, context: Context, gap: str, minutes: str) -> str:
    """Keep the gap of a series that came off best, in whole layers, with the minutes that it took."""
    machine, lot = lot_and_machine(context)
    recipe, wording = workspace.draft.records.card.recipe, workspace.draft.wording
    if recipe.melt.height_mm is None:
        raise KaustosError("Set the layer first: a gap is laid in whole layers.")
    layers, laid = whole_layers(wording.read(gap, "length"), recipe.melt.height_mm)
    if layers < 1:
        raise KaustosError(f"{gap}: that is no layer of {wording.value(recipe.melt.height_mm, 'length')}.")
    values = {"layers": float(layers), "gap_mm": laid}
    if minutes.strip():
        values["minutes"] = wording.read(minutes, "minutes")
    keep_calibration(workspace, machine, "support_gap", values, "series of gaps", "", lot=lot)
    return f"A gap of {layers} layers is kept for this machine and lot."
