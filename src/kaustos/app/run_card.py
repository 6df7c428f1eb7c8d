"""The run card: one step at a time, from the list before the start to the part in the hand; ticked, waived, timed."""

from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import Any

import attrs

from kaustos.app.left_out import prevents
from kaustos.app.run_seen import IN_RUN
from kaustos.app.runs import card_as_run, end_run, ended_now, number_of
from kaustos.app.wording import hours_words
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.planning.run_clock import begun_at, waited_h
from kaustos.core.records import OFF, PHASES, Damage, Observation, Place, Run, RunStep
from kaustos.core.review import CODES
from kaustos.core.review.run.preflight import preflight

REASONS = ("Not needed", "No time", "Not at hand", "As a test", "Done otherwise")
SHOWS_AS = {"let_go": "let_go", "stuck": "stuck", "torn": "surface_torn", "broke": "glass_broke"}
HARMS = {"torn": "torn", "broke": "crack"}  # damage of the plate
TAKEN_BACK: Mapping[str, Mapping[str, object]] = {  # what goes with a step that is open again
    "look": {"looked_utc": "", "looked_by": ""},
    "end": {"ended_utc": ""},
    "free": {"off": None, "off_c": None},
    "close": {"outcome": None},
}


# ---- where a run stands


@attrs.frozen(kw_only=True)
class Standing:
    """The step that is next in a run, and its clock."""

    run: Run
    place: int  # of the step, from 0
    step: RunStep
    due: datetime | None  # when it is due; None where no clock runs for it

    def left_s(self, now: datetime) -> float | None:
        """Seconds until it is due; below nothing after that."""
        return None if self.due is None else (self.due - now).total_seconds()


def standing_of(run: Run, place: int | None = None) -> Standing | None:
    """The first step that is not over, or the one at a place; None where there is none."""
    if place is None:
        place = next((at for at, each in enumerate(run.steps) if not each.is_over), None)
    if place is None or not run.steps:
        return None
    step = run.steps[place]
    return Standing(run=run, place=place, step=step, due=_due(run, place))


def run_at_hand(workspace: Workspace, chosen: str | None) -> str:
    """The run whose card is wanted: the chosen one, else the newest that has steps to do."""
    runs = workspace.draft.records.runs
    if chosen is not None and chosen in runs and runs[chosen].steps:
        return chosen
    open_ones = (key for key, each in reversed(tuple(runs.items())) if not each.is_ended and not each.retired)
    found = next((key for key in open_ones if standing_of(runs[key]) is not None), None)
    if found is None:
        raise KaustosError("No run has a card with steps to do: Ctrl+G starts one.")
    return found


def _due(run: Run, place: int) -> datetime | None:
    step = run.steps[place]
    if step.wait_min is not None:
        before = run.steps[place - 1].done_utc if place else run.started_utc
        return datetime.fromisoformat(before) + timedelta(minutes=step.wait_min) if before else None
    begun = begun_at(run)
    if step.at_h is None or begun is None:
        return None
    return begun + timedelta(hours=step.at_h + waited_h(run, begun, step.at_h))


def clock_words(standing: Standing, now: datetime) -> str:
    """What the clock says of a step, short enough for large type; empty where none runs."""
    left = standing.left_s(now)
    if left is None:
        wait, at = standing.step.wait_min, standing.step.at_h
        if wait is not None:
            return f"{hours_words(wait / 60.0)} after the step before"
        return "" if at is None else f"{hours_words(at)} after the first move"
    words = hours_words(abs(left) / 3600.0)
    clock = (standing.due or now).astimezone().strftime("%H:%M")
    return f"in {words}, at {clock}" if left > 0.0 else f"now; due since {words}" if left < -60.0 else "now"


# ---- what becomes of a step


def tick(workspace: Workspace, run: str, key: str, note: str = "") -> None:
    """A step is done: by whom and when; the first move sets the clock, a look at layer one is kept as such."""
    record = workspace.draft.records.runs[run]
    place, now = _place(record, key), workspace.clock()
    _refuse_tick(workspace, record, record.steps[place])
    standing = standing_of(record, place)
    left = standing.left_s(now) if standing is not None else None
    early = f"{hours_words(left / 3600.0)} before its time" if left is not None and left > 60.0 else ""
    done = {"done_utc": stamp(now), "by": workspace.settings.who, "note": "; ".join(filter(None, (early, note)))}
    more: dict[str, object] = {}
    if key == "start":
        more["started_utc"] = stamp(now)
        look = next((each.at_h for each in record.steps if each.key == "look"), None)
        more["look_due_utc"] = "" if look is None else stamp(now + timedelta(hours=look))
    elif key == "look":
        more |= {"looked_utc": stamp(now), "looked_by": workspace.settings.who}
    elif key == "end" and not record.ended_utc:
        more["ended_utc"] = ended_now(workspace, record)
    _change(workspace, record, place, done, more, "done")


def _refuse_tick(workspace: Workspace, run: Run, step: RunStep) -> None:
    """Raise where a line of the list is called done by nobody, or one of safety while the review still finds it."""
    if not step.is_unmet:
        return
    if not workspace.settings.who.strip():
        raise KaustosError(f"{step.title}: nobody is named who has seen to it; enter your name in Settings.")
    if step.key == "check.matters" and (still := _still_open(workspace, run)):
        raise KaustosError(f"{step.title}: {still} Runs, Left open: close it with what was found.")
    if step.is_safety and (words := still_stands(workspace, run, step.key)):
        raise KaustosError(f"{step.title}: it still stands. {words} Correct the record once it is cured.")


def _still_open(workspace: Workspace, run: Run) -> str:
    """What earlier runs left open on the machine and the plate of a run, in words; empty where nothing is."""
    from kaustos.app.causes import context_of_run

    card = card_as_run(workspace, run)
    matters = context_of_run(workspace, run, card).matters if card is not None else ()
    return " ".join(f"Run {number_of(each.run)}: {each.kind.words}." for each in matters)


def still_stands(workspace: Workspace, run: Run, key: str) -> str:
    """What the review of now says against a line of the list, with the run as it was run; empty where nothing."""
    from kaustos.app.causes import context_of_run

    card = card_as_run(workspace, run)
    if card is None:
        return "Its revision is gone: nothing says that it is cured."
    context = context_of_run(workspace, run, card)
    review = workspace.judge.at_hand(card.recipe, context).review
    checks = {f"check.{each.key}": each for each in preflight(review, card.recipe, context)}
    stops = [each for each in checks[key].findings if CODES[each.code].is_safety and each.severity == "stop"]
    return " ".join(workspace.draft.wording.text(each) for each in stops)


def waive(workspace: Workspace, run: str, key: str, who: str, why: str) -> None:
    """A step is gone without, by name and reason.

    Never one of safety, nor one that a run of its like failed without.
    """
    refuse_waiver(workspace, run, key, who)
    record = workspace.draft.records.runs[run]
    if not why.strip():
        raise KaustosError("Say why it is gone without.")
    done = {"done_utc": stamp(workspace.clock()), "by": who.strip(), "waived": why.strip()}
    _change(workspace, record, _place(record, key), done, {}, "gone without")


def refuse_waiver(workspace: Workspace, run: str, key: str, who: str) -> None:
    """Raise where a step cannot be gone without by this person."""
    record = workspace.draft.records.runs[run]
    step = record.steps[_place(record, key)]
    if step.is_safety:
        raise KaustosError(f"{step.title}: people or machine would come to harm. Cure it; nobody signs for it.")
    if key in ("start", "close"):
        raise KaustosError(f"{step.title}: a run without it is none.")
    if not who.strip():
        raise KaustosError(f"{step.title}: nobody is named who goes without it; enter your name in Settings.")
    if failed := failed_without(workspace, record, key):
        raise KaustosError(f"{step.title}: run {', '.join(map(number_of, failed))} failed without it. Do it.")


def failed_without(workspace: Workspace, run: Run, key: str) -> tuple[str, ...]:
    """Runs of the same polymer that failed after this step had been gone without, by what it would have prevented."""
    wanted = prevents(key)
    return tuple(
        each.id
        for each in workspace.draft.records.runs.values()
        if each.outcome == "failed" and each.polymer == run.polymer and not each.retired and each.id != run.id
        and any(step.key == key and step.waived for step in each.steps)
        and (not wanted or not each.seen or each.seen & wanted)
    )  # fmt: skip


def free(workspace: Workspace, run: str, off: str, plate_c: float | None = None) -> None:
    """The part is off: how, and how warm the plate was; what came to harm stands with the plate, too. One edit."""
    record = workspace.draft.records.runs[run]
    more: dict[str, object] = {"off": off, "off_c": plate_c}
    if (what := SHOWS_AS.get(off)) and what not in record.seen:
        more["observations"] = (*record.observations, Observation(what=what))
    values = {Place("runs", run, field): value for field, value in more.items()}
    plate = workspace.draft.records.tables["plates"].get(record.plate or "")
    if plate is not None and (kind := HARMS.get(off)):
        polymer = workspace.draft.records.polymers.get(record.polymer or "")
        entry = Damage(kind=kind, at_utc=stamp(workspace.clock()), by=polymer.name if polymer else "")
        values[Place("plates", plate.id, "damages")] = (*plate.damages, entry)
    if off != "stuck":  # that one is still to come off, and how it did in the end is told then
        done = {"done_utc": stamp(workspace.clock()), "by": workspace.settings.who}
        values[Place("runs", run, "steps")] = _with_step(record, _place(record, "free"), done)
    workspace.draft.set(values, title=f"Run {number_of(run)}: off the plate, {OFF[off].lower()}")


def welded_words(workspace: Workspace, run: str) -> str:
    """What to do with a part that does not come off: nothing by force; the zone, the spare, what it costs."""
    record = workspace.draft.records.runs[run]
    plates = workspace.draft.records.tables["plates"]
    plate = plates.get(record.plate or "")
    words = ["Stop prying. Let it cool right through, twice; then bench 40 says what frees this pair."]
    if plate is not None:
        words.append(f"The place under it is dead: log it with {plate.name}, and print beside it.")
        spares = [each.name for key, each in plates.items()
                  if key != plate.id and each.surface == plate.surface and not each.retired]  # fmt: skip
        price = "" if plate.price is None else f", {workspace.draft.wording.value(plate.price, 'money')}"
        words.append(f"Spare: {', '.join(spares)}." if spares else f"There is no spare of its kind: order one{price}.")
    return " ".join(words)


def after_words(workspace: Workspace, run: str) -> str:
    """What an ended run points to: where to look, and the one trial that comes next; empty where nothing went wrong."""
    from kaustos.app.causes import after_run

    found = after_run(workspace, workspace.draft.records.runs[run])
    return "" if found is None else f"{found.rows[0][0]}. Next: {found.trial}"


def take_back(workspace: Workspace, run: str) -> None:
    """The last step that is over is open again."""
    record = workspace.draft.records.runs[run]
    over = [at for at, each in enumerate(record.steps) if each.is_over]
    if not over:
        raise KaustosError("No step is done yet.")
    step = record.steps[over[-1]]
    more = dict(TAKEN_BACK.get(step.key, {}))
    plate = workspace.draft.records.tables["plates"].get(record.plate or "")
    if step.key == "free" and (what := SHOWS_AS.get(record.off or "")):
        kept = list(record.observations)
        if Observation(what=what) in kept:
            kept.remove(Observation(what=what))
        more["observations"] = tuple(kept)
    harmed = step.key == "free" and plate is not None and plate.damages and plate.damages[-1].at_utc == step.done_utc
    beside = {Place("plates", plate.id, "damages"): plate.damages[:-1]} if harmed and plate is not None else {}
    again = {"done_utc": "", "by": "", "waived": "", "passed": False}
    _change(workspace, record, over[-1], again, more, "open again", beside)


def end_early(workspace: Workspace, run: str) -> None:
    """It ends here: steps that were still to come until its end are over, and say so; cooling and freeing stay."""
    record = workspace.draft.records.runs[run]
    last = next((at for at, each in enumerate(record.steps) if each.key == "end"), None)
    if last is None or record.steps[last].is_over:
        raise KaustosError(f"Run {number_of(run)} has ended.")
    now = ended_now(workspace, record)
    done: dict[str, Any] = {"done_utc": now, "by": workspace.settings.who, "passed": True}
    steps = tuple(
        attrs.evolve(each, **done) if at <= last and not each.is_over else each for at, each in enumerate(record.steps)
    )
    values: dict[Place, object] = {Place("runs", run, "steps"): steps, Place("runs", run, "ended_utc"): now}
    workspace.draft.set(values, title=f"Run {number_of(run)} ends here")


def add_note(workspace: Workspace, run: str, key: str, words: str) -> None:
    """A note with a step."""
    record = workspace.draft.records.runs[run]
    place = _place(record, key)
    kept = "; ".join(filter(None, (record.steps[place].note, words.strip())))
    _change(workspace, record, place, {"note": kept}, {}, "noted")


def close(workspace: Workspace, run: str, outcome: str) -> None:
    """The verdict, as one edit: steps that nobody ticked stay as they are, and are told of."""
    record = workspace.draft.records.runs[run]
    changes: dict[str, object] = {"outcome": outcome}
    place = next((at for at, each in enumerate(record.steps) if each.key == "close"), None)
    if place is not None:
        done = {"done_utc": stamp(workspace.clock()), "by": workspace.settings.who}
        changes["steps"] = _with_step(record, place, done)
    end_run(workspace, run, changes)


def card_lines(run: Run) -> list[tuple[str, str, str, str]]:
    """Every step for a page or a terminal: step, when, what, what became of it."""
    found = []
    for each in run.steps:
        when = "" if each.at_h is None else f"after {hours_words(each.at_h)}"
        when = when if each.wait_min is None else f"wait {hours_words(each.wait_min / 60.0)}"
        off = OFF[run.off].lower() if each.key == "free" and run.off else ""
        found.append((each.title, when, each.says, "; ".join(filter(None, (_became(each), off, each.note)))))
    return found


def _became(step: RunStep) -> str:
    """What became of a step, in words; empty while it is open."""
    if step.waived:
        return f"without it, {step.by}: {step.waived}"
    if step.passed:
        return "passed over"
    return f"done, {step.by}" if step.is_over else ""


def card_content(workspace: Workspace, run: Run) -> dict[str, object]:
    """What the printed card of a run says."""
    records, lines = workspace.draft.records, card_lines(run)
    card, machine = records.cards.get(run.card), records.machines.get(run.machine or "")
    names = [each.name for each in (machine, records.lots.get(run.lot or "")) if each is not None]
    return {
        "title": f"Run {number_of(run.id)}: {card.recipe.name if card else run.card}",
        "under": ", ".join(
            filter(None, (f"revision {run.revision:g}", _conceded(workspace, run), *names, run.despite))
        ),
        "phases": [
            (words, [line for each, line in zip(run.steps, lines, strict=True) if each.phase == phase])
            for phase, words in PHASES.items()
        ],
        "seen": list(IN_RUN.values()),
        "cautions": list(dict.fromkeys(each.caution for each in run.steps if each.caution)),
    }


def _conceded(workspace: Workspace, run: Run) -> str:
    """By what right the revision of a run is released, where that is a concession."""
    from kaustos.app.giving import concession_of

    return concession_of(workspace, int(run.revision), run.card)


def _place(run: Run, key: str) -> int:
    found = next((at for at, each in enumerate(run.steps) if each.key == key and not each.is_over), None)
    if found is None:
        found = next((at for at, each in enumerate(run.steps) if each.key == key), None)
    if found is None:
        raise KaustosError(f"Run {number_of(run.id)} has no step {key!r:.40}.")
    return found


def _with_step(run: Run, place: int, step: Mapping[str, Any]) -> tuple[RunStep, ...]:
    """The steps of a run with another state of one."""
    return (*run.steps[:place], attrs.evolve(run.steps[place], **step), *run.steps[place + 1 :])


def _change(
    workspace: Workspace, run: Run, place: int, step: Mapping[str, Any], more: Mapping[str, object], what: str,
    beside: Mapping[Place, object] | None = None,
) -> None:  # fmt: skip
    values: dict[Place, object] = {Place("runs", run.id, "steps"): _with_step(run, place, step)}
    values |= {Place("runs", run.id, field): value for field, value in more.items()} | dict(beside or {})
    title = f"Run {number_of(run.id)}: {run.steps[place].title[:1].lower()}{run.steps[place].title[1:]}, {what}"
    workspace.draft.set(values, title=title)
