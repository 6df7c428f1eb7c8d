"""While a run goes on in which something was seen: what speaks for stopping it, and for letting it run."""

from kaustos.app.causes import cost_of_run
from kaustos.app.workspace import Workspace
from kaustos.core.estimates import RUN
from kaustos.core.planning.run_clock import printing_h
from kaustos.core.planning.stop_rule import AT_ONCE, Marked, StopAdvice, stop_advice
from kaustos.core.records import SEEN, Run

SAYS = {"stop": "Stop it", "open": "The log cannot tell: look closer", "go on": "Let it run, and look again"}


def stop_words(workspace: Workspace, run: Run) -> str:
    """What speaks for stopping a run in which something was seen; advice, and empty where nothing was, or it ended."""
    if run.is_ended or not run.observations or not run.started_utc:
        return ""
    if danger := [title for each, title in SEEN.items() if each in run.seen & AT_ONCE]:
        return f"{', '.join(danger)}: stop it, heat off, room aired; nothing that is printed is worth more."
    lifts = [each.lift_mm for each in run.observations if each.what == "corner_lift" and each.lift_mm is not None]
    if lifts and max(lifts) > RUN["lift_hits"].value:
        low, likely, high = RUN["lift_hits"].band
        lifted, hits = (workspace.draft.wording.value(each, "length") for each in (max(lifts), likely))
        band = f"{hits} ({low:g} to {high:g} mm)"
        return f"Stop it: a corner has lifted by {lifted}. From about {band} the nozzle hits it."
    whole = cost_of_run(workspace, run)
    if not run.planned_h or whole is None:
        return "What going on costs is not known without hours, mass and price: look closer, and judge by the mark."
    gone = printing_h(run, workspace.clock()) or 0.0
    left = max(1.0 - gone / run.planned_h, 0.0) * whole.value
    advised = [(each, marked_like(workspace, run, each)) for each in SEEN if each in run.seen]
    what, marked, advice = min(
        ((what, marked, stop_advice(what, marked, left, whole.value)) for what, marked in advised), key=_worst
    )  # fmt: skip
    wording = workspace.draft.wording
    held = f"{marked.good} of {marked.good + marked.bad} such runs held on"
    held += f" ({advice.chance.low:.0f} to {advice.chance.high:.0f} %)"
    held += f", {marked.stopped} were stopped" if marked.stopped else ""
    money = f"going on takes {wording.value(left, 'money')}, printing anew {wording.value(whole.value, 'money')}"
    mark = f"{SEEN[what].lower()}: " if len(advised) > 1 else ""
    return f"{SAYS[advice.says]}: {mark}{held}; {money}."


def _worst(found: tuple[str, Marked, StopAdvice]) -> tuple[int, float]:
    """What speaks most for stopping stands first."""
    return list(SAYS).index(found[2].says), found[2].chance.value


def marked_like(workspace: Workspace, run: Run, what: str) -> Marked:
    """How runs ended in which the same was seen: of the same polymer where there are enough, else all."""
    ended = [each for each in workspace.draft.records.runs.values() if each.is_ended and what in each.seen]
    kin = [each for each in ended if each.polymer == run.polymer]
    mine = kin if len(kin) >= RUN["kin"].value else ended
    return Marked(
        good=sum(each.outcome in ("good", "usable") for each in mine),
        bad=sum(each.outcome == "failed" for each in mine),
        stopped=sum(each.outcome == "stopped" for each in mine),
    )  # fmt: skip
