"""The removal card: method, heat, minutes, tool, gloves, who; by plate, polymer and size."""

from kaustos.app.wording import Wording, hours_words
from kaustos.app.workspace import Workspace
from kaustos.core.planning.cooling import Cooling
from kaustos.core.records.recipe import RELEASES
from kaustos.core.review import Context
from kaustos.core.review.filed import as_filed
from kaustos.core.review.plate.cooling import CoolingCase, cooling_case
from kaustos.core.review.run import run_case

CARD_HEADINGS = ("Taking it off", "")
HEAVY_G = 1_500.0  # from which two people lift


def card_rows(context: Context, workspace: Workspace) -> list[tuple[str, ...]]:
    """Line by line what whoever takes it off has to know."""
    recipe, wording = workspace.draft.records.card.recipe, workspace.draft.wording
    case, run = cooling_case(recipe, context), run_case(recipe, context)
    rows: list[tuple[str, ...]] = [
        ("Method", RELEASES.get(case.way or "", "not recorded: operation 40 says what suits the pair")),
        ("Plate at", "as printed, at once" if case.way == "hot" else f"{wording.value(case.release_c, 'temperature')} "
         "or below, by the probe; without one count the minutes"),
        ("Door", _door(case, wording)),
        ("Minutes", _minutes(case)),
        ("Tool", _tool(case)),
        ("Hands", _hands(case, as_filed(recipe, context).brief.mass_g)),
    ]  # fmt: skip
    if run.end is not None and case.way != "hot":
        rows.append(("By the clock", f"{run.end.strftime('%a %H:%M')} by the start that is proposed"))
    rows.append(("Welded on?", "Stop prying. That zone is dead: log the damage with the plate, order a spare."))
    rows.append(("Look twice", "Hot in the machine, and cold on the bench: flat, underside, corners."))
    return rows


def _door(case: CoolingCase, wording: Wording) -> str:
    if not case.has_door:
        return "none"
    if case.cracks:
        return f"shut until the plate is there: cold air cracks it at {wording.value(case.air_c, 'temperature')}"
    return "open once the heaters are off"


def _minutes(case: CoolingCase) -> str:
    if case.way == "hot":
        return "within ten of the last layer"
    best = case.best
    return "not known: set the plate" if best is None else until_words(best)


def until_words(course: Cooling) -> str:
    """How long it is waited for, with its band."""
    if course.until is None:
        return "not until the door is open"
    low, value, high = (hours_words(each / 60.0) for each in (course.until.low, course.until.value, course.until.high))
    return f"{value} ({low} to {high})"


def _tool(case: CoolingCase) -> str:
    if case.is_flexible:
        return "none: bend the sheet, a side at a time, away from you"
    if case.is_brittle:
        return "none: it lets go by itself; no blade, no knocking, no cold water"
    return "a thin blade, burrs filed, flat on the plate, away from the hand"


def _hands(case: CoolingCase, mass_g: float | None) -> str:
    words = "heat-proof gloves, goggles" if case.burns else "goggles, gloves: edges cut"
    return words + ("; two people lift it" if mass_g is not None and mass_g > HEAVY_G else "")
