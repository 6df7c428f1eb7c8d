"""One cursor through a run: a height or an hour leads to layer, layer time, weld, pause and spool; resume or scrap."""

from datetime import datetime, timedelta

import numpy as np

from kaustos.app.causes import context_of_run, cost_of_run
from kaustos.app.runs import card_as_run
from kaustos.app.wording import hours_words
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.planning.run_clock import printing_h
from kaustos.core.records import Estimate, Observation, Run
from kaustos.core.review.run.along import Along, Resumed, Spot, along_of, resumed

RESUMES = {
    "resume": "Go on",
    "looks": "Go on only for looks",
    "scrap": "Scrap it and begin anew",
    "unknown": "Cannot tell: nothing says how its layers weld",
}


def along_run(workspace: Workspace, run: Run) -> Along | None:
    """A run along its height, as it was run; its hours as they were planned. None where neither part nor file says."""
    card = card_as_run(workspace, run)
    return None if card is None else along_of(card.recipe, context_of_run(workspace, run, card))


def spot_of(along: Along, seen: Observation) -> Spot | None:
    """Where in a run something was seen: by its height, else by its hour."""
    if seen.at_mm is not None:
        return along.at_height(seen.at_mm)
    return None if seen.at_h is None else along.at_hour(seen.at_h)


def read_then(run: Run, at_h: float) -> list[tuple[str, float]]:
    """What each sensor showed some hours after the first move, as far as its readings say when they were taken."""
    found = []
    for each in run.sensors:
        if each.from_utc and run.started_utc and each.hours:
            late_h = datetime.fromisoformat(run.started_utc) - datetime.fromisoformat(each.from_utc)
            hour = at_h + late_h.total_seconds() / 3600.0
            if each.hours[0] <= hour <= each.hours[-1]:
                found.append((each.name, float(np.interp(hour, each.hours, each.shown_c))))
    return found


def spot_words(workspace: Workspace, spot: Spot, run: Run, seen: Observation | None = None) -> str:
    """What belongs to a place in a run, in a line; what was said with the observation is left out."""
    wording = workspace.draft.wording
    words = [f"layer {spot.layer}"]
    if seen is None or seen.at_mm is None:
        words[0] += f" at {wording.value(spot.at_mm, 'length')}"
    if seen is None or seen.at_h is None:
        words.append(f"{hours_words(spot.at_h)} in")
    words.append(f"layer time {wording.value(spot.layer_s, 'seconds')}")
    if spot.keeps is not None:
        words.append(f"weld there keeps {spot.keeps:.0%}")
    if spot.grams is not None:
        words.append(f"{wording.value(spot.grams, 'mass')} fed")
    if spot.paused_mm is not None:
        words.append(f"right above the pause at {wording.value(spot.paused_mm, 'length')}")
    words += [f"{name} {wording.value(shown, 'temperature')}" for name, shown in read_then(run, spot.at_h)]
    return ", ".join(words)


def resume_words(workspace: Workspace, run: Run, rest_min: float, *, is_held: bool) -> str:
    """A run stands still since some minutes: go on or begin anew, with what each costs; advice, and nothing is kept."""
    along, card = along_run(workspace, run), card_as_run(workspace, run)
    if along is None or card is None:
        raise KaustosError("Neither a job file nor a part is known of this run: nothing says where it stands.")
    if not run.started_utc or run.is_ended:
        raise KaustosError("This run has not begun, or has its verdict.")
    printed = printing_h(run, workspace.clock() - timedelta(minutes=rest_min))
    if printed is None or not 0.0 <= (stood := printed) < along.hours:
        raise KaustosError("By the clock it stood before its first move or after its last: check the minutes.")
    context = context_of_run(workspace, run, card)
    least = (context.rules.functional_pct / 100.0, context.rules.reduced_pct / 100.0)
    spot = along.at_hour(stood)
    found = resumed(along, spot.at_mm, rest_min, least, is_held=is_held)
    cost = cost_of_run(workspace, run)
    return " ".join(filter(None, (_verdict(workspace, spot, found, is_held), _cost(workspace, cost, found), _FIRST)))


_FIRST = "Before it goes on: purge what sat in the hot nozzle, look whether the part sits; a new spool is dry, too."


def _verdict(workspace: Workspace, spot: Spot, found: Resumed, is_held: bool) -> str:
    at = workspace.draft.wording.value(spot.at_mm, "length")
    if not is_held:
        return f"{RESUMES['scrap']}: its plate was not kept hot, so the part has let go or moved by {at}."
    if found.keeps is None:
        return f"{RESUMES['unknown']}. It stood at {at}."
    usual = f", without a rest {found.usual:.0%}" if found.usual is not None else ""
    return f"{RESUMES[found.says]}: at {at} the next layer would keep {found.keeps:.0%} of the strength{usual}."


def _cost(workspace: Workspace, cost: Estimate | None, found: Resumed) -> str:
    if cost is None:
        return ""
    wording = workspace.draft.wording
    left, whole = wording.value(cost.value * found.left, "money"), wording.value(cost.value, "money")
    return f"Going on takes {left}, anew {whole}."
