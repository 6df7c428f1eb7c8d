"""What earlier runs left open: told with the run, closed by name with what shows it."""

import re

from kaustos.app.readings import zone_of
from kaustos.app.runs import number_of
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.estimates import RUN
from kaustos.core.planning.matters import KINDS, Kind
from kaustos.core.records import Place, Run, Settled

_READING = {
    "temperature": re.compile(r"-?\d+(?:[.,]\d+)?\s*°?\s*[CF]\b"),
    "minutes": re.compile(r"\d+(?:[.,]\d+)?\s*(?:h|min)\b"),
}


def left_open(run: Run) -> dict[str, Kind]:
    """What of a run nobody has closed yet; while it goes on its dangers alone."""
    open_ones = run.happened - {each.what for each in run.settled}
    return {what: kind for what, kind in KINDS.items() if what in open_ones and (run.is_ended or kind.is_danger)}


def settle(workspace: Workspace, run: str, what: str, proof: str) -> str:
    """Close what a run left open, with what was found; in words."""
    record, who = workspace.draft.records.runs[run], workspace.settings.who.strip()
    kind = left_open(record).get(what)
    if kind is None:
        raise KaustosError(f"Run {number_of(run)} leaves nothing of the kind open.")
    if not proof.strip():
        raise KaustosError(f"Say {kind.proof}.")
    if kind.reads:
        _check_reading(record, kind, proof, workspace.draft.wording)
    if not who:
        raise KaustosError("Nobody is named who closes it: enter your name in Settings.")
    entry = Settled(what=what, at_utc=stamp(workspace.clock()), by=who, proof=proof.strip())
    title = f"Run {number_of(run)}: {kind.words}, closed"
    workspace.draft.set({Place("runs", run, "settled"): (*record.settled, entry)}, title=title)
    return f"{kind.words[:1].upper()}{kind.words[1:]}: closed by {who}."


def _check_reading(run: Run, kind: Kind, proof: str, wording: Wording) -> None:
    """Refuse a proof without its reading, and one whose reading shows that it is as it was."""
    found = _READING[kind.reads].search(proof)
    if found is None:
        raise KaustosError(f"Say {kind.proof}, with its unit.")
    shown = wording.read(found[0], kind.reads)
    if kind.reads == "temperature":
        zone = _zone_that_fell_short(run, proof.replace(found[0], " "))  # the C of a unit is no chamber
        wanted = run.hot.get(zone)
        if wanted is not None and shown < wanted - RUN["short_k"].value:
            reached, asked = wording.value(shown, kind.reads), wording.value(wanted, kind.reads)
            raise KaustosError(f"Its {zone} reaches {reached} where the run wanted {asked}: that stays open.")


def _zone_that_fell_short(run: Run, words: str) -> str:
    """The zone that words speak of, or the only one that fell short; another than that closes nothing."""
    short = {each.zone for each in run.sensors if each.zone is not None and {"short", "never"} & {*each.says}}
    zone = zone_of(words) or (next(iter(short)) if len(short) == 1 else None)
    if zone is None or (short and zone not in short):
        raise KaustosError(f"Say which zone the reading is of: {', '.join(sorted(short or run.hot))}.")
    return zone


def matter_words(run: Run) -> list[str]:
    """What a run left open, and what was said of what is closed."""
    still = [f"Left open: {kind.words}. It is closed with {kind.proof}." for kind in left_open(run).values()]
    return still + [f"Closed: {KINDS[each.what].words} ({each.by}): {each.proof}" for each in run.settled
                    if each.what in KINDS]  # fmt: skip
