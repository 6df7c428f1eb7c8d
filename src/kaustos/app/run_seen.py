"""What is seen in a run and after it: marks with their hour and height, stand-stills, a break by hand."""

from datetime import timedelta

from kaustos.app.runs import card_as_run, number_of
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.planning.run_clock import printing_h
from kaustos.core.records import SEEN, Observation, Place, Proof, ProofRow, Run, RunRest
from kaustos.core.records.proof import settings_then

IN_RUN = {  # what is seen while it prints, in the few words of a key
    "corner_lift": "Corner lifts", "came_off": "Came off", "strings": "Strings", "starved": "Starved",
    "layers_split": "Split layers", "shape_lost": "Too soft", "bubbles": "Hissing", "smell": "Smoke, smell",
    "heater_fault": "Heater fault",
}  # fmt: skip
AFTER_RUN = {  # what shows once it is printed
    "warped": "Warped", "layers_split": "Split layers", "weak_layers": "Breaks easily", "foot_sagged": "Foot sagged",
    "shape_lost": "Shape lost", "strings": "Strings", "charred": "Charred", "surface_torn": "Plate torn",
    "starved": "Rough walls",
}  # fmt: skip
BROKE = {"held": ("Held", 4.0), "effort": ("With effort", 2.0), "easily": ("Broke easily", 0.0)}  # effort of 4


def mark(workspace: Workspace, run: str, what: str, lift_mm: float | None = None, note: str = "") -> Observation:
    """Something was seen just now: the clock says the hour, and the run along its height says where."""
    record = workspace.draft.records.runs[run]
    hours = None if record.ended_utc else printing_h(record, workspace.clock())  # what shows later has no hour of it
    at_h = None if hours is None else round(hours, 3)
    seen = Observation(
        what=what, where="corner" if what == "corner_lift" else None, at_h=at_h,
        at_mm=None if at_h is None else height_at(workspace, record, at_h), lift_mm=lift_mm, note=note,
    )  # fmt: skip
    title = f"Run {number_of(run)}: {SEEN[what].lower()}"
    workspace.draft.set({Place("runs", run, "observations"): (*record.observations, seen)}, title=title)
    return seen


def rest(workspace: Workspace, run: str, minutes: float, *, is_held: bool) -> str:
    """It stood still for so many minutes: what speaks for going on is said, and kept with the run."""
    from kaustos.app.cursor import resume_words

    record = workspace.draft.records.runs[run]
    said = resume_words(workspace, record, minutes, is_held=is_held)
    hours = printing_h(record, workspace.clock() - timedelta(minutes=minutes))
    kept = RunRest(
        at_utc=stamp(workspace.clock()), minutes=minutes, is_held=is_held, says=said.partition(". ")[0],
        by=workspace.settings.who,
        at_mm=None if hours is None else height_at(workspace, record, hours),
    )  # fmt: skip
    title = f"Run {number_of(run)}: stood still for {minutes:g} min"
    workspace.draft.set({Place("runs", run, "rests"): (*record.rests, kept)}, title=title)
    return said


def rest_words(run: Run, workspace: Workspace) -> list[str]:
    """Each time that a run stood still, in words."""
    found = []
    for each in run.rests:
        at = "" if each.at_mm is None else f" at {workspace.draft.wording.value(each.at_mm, 'length')}"
        plate = "plate kept hot" if each.is_held else "plate went cold"
        found.append(f"Stood still {each.minutes:g} min{at}, {plate} ({each.by or 'nobody named'}): {each.says}")
    return found


def hand_test(workspace: Workspace, run: str, how: str) -> str:
    """A piece of the part was broken by hand: evidence of its recipe; one that broke easily is seen in the run, too."""
    record = workspace.draft.records.runs[run]
    words, effort = BROKE[how]
    card = card_as_run(workspace, record)
    recipe = card.recipe if card is not None else None
    proof = Proof(
        id=workspace.draft.records.free_id("proofs", f"hand {run}"), sort="hand", card=record.card, run=run,
        machine=record.machine, lot=record.lot, polymer=record.polymer, at_utc=stamp(workspace.clock()),
        by=workspace.settings.who, history="as_printed", rows=(ProofRow(hand="break", group="across", blows=effort),),
        **(settings_then(recipe) if recipe else {}),
    )  # fmt: skip
    values: dict[Place, object] = {Place("proofs", proof.id): proof}
    if how == "easily" and "weak_layers" not in record.seen:
        seen = Observation(what="weak_layers", note="by hand")
        values[Place("runs", run, "observations")] = (*record.observations, seen)
    workspace.draft.set(values, title=f"Run {number_of(run)}: by hand, {words.lower()}")
    return f"{words}: kept as evidence of the recipe. Comparative only: nobody controls the force."


def height_at(workspace: Workspace, run: Run, hours: float) -> float | None:
    """Height of a run after some hours; None where its recipe says nothing of it, or it has ended."""
    from kaustos.app.cursor import along_run

    along = along_run(workspace, run)
    return None if along is None or hours > along.hours else round(along.at_hour(hours).at_mm, 1)
