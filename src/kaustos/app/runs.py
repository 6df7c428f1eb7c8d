"""Runs: started from a revision, judged against it, compared with one another."""

import functools
import hashlib
import json
import re
from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import Any

import attrs

from kaustos.app.maturity import with_settings
from kaustos.app.revisions import card_of, leaves, plain_of
from kaustos.app.stops import signed, stops_of
from kaustos.app.wording import when_words
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.planning.booking import CUT_SHORT
from kaustos.core.planning.loading import loading
from kaustos.core.planning.pace import ticked_h
from kaustos.core.planning.run_clock import printing_h
from kaustos.core.planning.run_course import course_of, hour_at
from kaustos.core.records import SEEN, Machine, Nozzle, Observation, Place, PrintedPart, Recipe, RecipeCard, Run
from kaustos.core.records.fields import value_at, with_value
from kaustos.core.records.machine import MACHINE_LOGS
from kaustos.core.review import Context
from kaustos.core.review.experience import Maturity, Tally, tallies
from kaustos.core.review.run_moisture import filament_of
from kaustos.core.review.zones import hottest_of
from kaustos.formats.records import to_document
from kaustos.store import Revision

RUN_SETTINGS = ("first_layer.nozzle_c", "melt.nozzle_c", "first_layer.bed_c", "plate.bed_c", "heat.chamber_c")


def _due(begun: datetime, minutes: float | None) -> str:
    return "" if minutes is None else stamp(begun + timedelta(minutes=minutes))


def hold_words(run: Run, now: datetime) -> str:
    """When layer one is to be looked at, or who found it good; empty where neither is known."""
    if run.looked_utc:
        return f"Layer one found good {when_words(run.looked_utc)}" + (
            f" by {run.looked_by}." if run.looked_by else "."
        )
    if not run.look_due_utc or run.is_ended:
        return ""
    left = (datetime.fromisoformat(run.look_due_utc) - now).total_seconds() / 60.0
    when = f"in {max(round(left), 1)} min" if left > 0.0 else "now"
    return f"Layer one is laid {when_words(run.look_due_utc)}: look {when}, then go on or stop."


def unmet_words(run: Run) -> str:
    """What was gone without, by whom and why, and what did not stand and was not seen to; empty for nothing.

    These are the first suspects where the run fails.
    """
    from kaustos.core.review.run.preflight import LINES

    done = {each.key.removeprefix("check.") for each in run.steps if each.is_unmet and each.is_over and not each.passed}
    titles = [line.title.lower() for line in LINES if line.key in run.unmet and line.key not in done]
    waived = [f"{each.title.lower()} ({each.by}: {each.waived})" for each in run.steps if each.waived]
    words = [f"Gone without: {', '.join(waived)}."] if waived else []
    words += [f"Begun without: {', '.join(titles)}."] if titles else []
    return " ".join(words)


def accept_first_layer(workspace: Workspace, run: str) -> None:
    """Layer one was looked at and found good: who and when."""
    values = {"looked_utc": stamp(workspace.clock()), "looked_by": workspace.settings.who}
    title = f"Run {number_of(run)}: layer one found good"
    workspace.draft.set({Place("runs", run, field): value for field, value in values.items()}, title=title)


def start_run(
    workspace: Workspace, kind: str = "trial", *, who: str = "", why: str = "", took_place: bool = False
) -> Run:  # fmt: skip
    """Begin a run of the open recipe: its state is kept as a revision first where it is not yet.

    Where a stop stands it is signed for by name and reason; above a safety stop only a run that took place is recorded.
    """
    if workspace.draft.records.current is None:
        raise KaustosError("There is no recipe to run yet.")
    context, found = workspace.judged_now()
    if took_place and stops_of(found):
        if not (who.strip() and why.strip()):
            raise KaustosError("A run that took place despite a stop is recorded with who ran it, and why.")
        despite = f"{who.strip()}: {why.strip()}"
    else:
        despite = signed("Starting a run", found, workspace.draft.wording, who, why)
    if workspace.differs_from_last_revision():
        workspace.save_revision("as it was run")
    records = workspace.draft.records
    card, newest = records.card, workspace.revisions()[0]
    machine = records.machines.get(card.machine or "")
    from kaustos.app.run_steps import run_steps
    from kaustos.app.running import checks_of
    from kaustos.core.review.first_layer import first_minutes
    from kaustos.core.review.plate import agent_kind, expected_bond
    from kaustos.core.review.run import run_case

    number = 1 + max((_counted(key) for key in records.runs), default=0)
    case, brief = run_case(card.recipe, context), card.recipe.brief
    checks = checks_of(found, card.recipe, context)
    run = Run(
        id=f"run_{number:04d}",
        card=records.current or "",
        revision=float(newest.number),
        machine=card.machine,
        configuration=configuration_of(machine, context.nozzle) if machine else "",
        lot=card.lot,
        nozzle=context.nozzle.id if context.nozzle else None,
        plate=context.plate.id if context.plate else None,
        agent=agent_kind(context),
        bond=expected_bond(card.recipe, context),
        polymer=card.recipe.polymer,
        kind=kind,
        mass_g=brief.mass_g if case.grams is None else round(case.grams, 1),
        planned_h=brief.print_h if case.hours is None else round(case.hours.value, 3),
        course=course_of(case.job) if case.job is not None else (),
        told_h=case.job.hours if case.job is not None else None,
        hot=hottest_of(card.recipe),
        started_utc=stamp(workspace.clock()),
        look_due_utc=_due(workspace.clock(), first_minutes(card.recipe, context)),
        filament=filament_of(card.recipe, context, found),
        despite=despite,
        part=context.part.name if context.part is not None else card.recipe.part,
        shape=_shape_of(context.part),
        job=card.chosen.get("job"),
        unmet=tuple(each.key for each in checks if each.state != "met"),
        steps=run_steps(workspace, context, checks),
        foretold=tuple(dict.fromkeys(finding.code for finding in found.findings())),
    )
    changes: dict[Any, object] = {Place("runs", run.id): run} | _used(card.recipe, context, run)
    if run.machine and run.lot and run.lot in records.lots:
        changes |= loading(records.lots.values(), run.lot, run.machine)
    workspace.draft.set(changes, title=f"Run {number} started")
    return run


def _used(recipe: Recipe, context: Context, run: Run) -> dict[Any, object]:
    """A run counts as a print of its plate and of the film that lies on it, and empties a bottle by what it wants."""
    from kaustos.core.review.plate import agent_dose

    item = context.plate
    if item is None or run.plate is None:
        return {}
    found: dict[Any, object] = {}
    if item.prints is not None:
        found[Place("plates", item.id, "prints")] = item.prints + 1.0
    if item.film and context.agent is None and item.film_prints is not None:
        found[Place("plates", item.id, "film_prints")] = item.film_prints + 1.0
    bottle, dose = context.agent, agent_dose(recipe, context)
    if bottle is not None and bottle.left_ml is not None and dose is not None:
        found[Place("agents", bottle.id, "left_ml")] = round(max(bottle.left_ml - dose, 0.0), 2)
    return found


def _shape_of(part: PrintedPart | None) -> str | None:
    """The shape class of a part's file; None where none was measured, and somebody says it."""
    from kaustos.core.part.shape_class import shape_class

    return shape_class(part.shape) if part is not None and part.shape is not None else None


def change_of_spool(workspace: Workspace) -> str:
    """What has to be changed on the machine before the open recipe is run, by the records; empty for nothing."""
    records = workspace.draft.records
    if records.current is None:
        return ""
    card = records.card
    lot, machine = records.lots.get(card.lot or ""), records.machines.get(card.machine or "")
    if lot is None or machine is None or lot.loaded_on == machine.id:
        return ""
    off = [each.name for each in records.lots.values() if each.loaded_on == machine.id]
    came = f"; {', '.join(off)} came off" if off else ""
    return f"{machine.name} has {lot.name} loaded from now on{came}. Read the label before you heat anything."


def open_beside(workspace: Workspace, but: str = "") -> str:
    """Runs that are still open on the machine, plate, nozzle or spool of the open recipe, in words; empty for none."""
    records = workspace.draft.records
    if records.current is None:
        return ""
    chosen = {kind: each.id for kind, each in records.chosen(records.card).items()}
    words = []
    for run in records.runs.values():
        shared = [kind for kind in ("machine", "plate", "nozzle", "lot")
                  if getattr(run, kind) is not None and getattr(run, kind) == chosen.get(kind)]  # fmt: skip
        if shared and not run.is_ended and not run.retired and run.id != but:
            names = [records.tables[f"{kind}s"][chosen[kind]].name for kind in shared]
            words.append(f"Run {number_of(run.id)} is still open on {', '.join(names)}")
    return f"{'; '.join(words)}: end it first, or log what became of it." if words else ""


def ended_now(workspace: Workspace, run: Run) -> str:
    """The moment of now as the end of a run; a clock that stands before its beginning is asked about, not kept."""
    now = workspace.clock()
    if run.started_utc and now < datetime.fromisoformat(run.started_utc):
        began, stands = when_words(run.started_utc), when_words(stamp(now))
        raise KaustosError(f"Run {number_of(run.id)} began {began}, and the clock of this computer stands at {stands}: "
                           "set the clock right first, or correct when the run began.")  # fmt: skip
    return stamp(now)


def end_run(workspace: Workspace, run: str, changes: Mapping[str, object]) -> None:
    """Give a run its verdict, with everything else that was said along with it, as one edit."""
    values = {Place("runs", run, field): value for field, value in changes.items()}
    present = workspace.draft.records.runs[run]
    if changes.get("outcome") and not present.ended_utc:
        values[Place("runs", run, "ended_utc")] = ended_now(workspace, present)
    if changes.get("outcome") and present.steps and not any(each.is_over for each in present.steps):
        values[Place("runs", run, "steps")] = ()  # nobody used its card; what was not met stands in the run itself
    if changes.get("outcome") and present.ran_h is None and "ran_h" not in changes:
        values[Place("runs", run, "ran_h")] = _ran_h(present, changes, workspace.clock())
    workspace.draft.set(values, title=f"Run {number_of(run)} logged")


def _ran_h(run: Run, changes: Mapping[str, Any], now: datetime) -> float | None:
    """How long a run printed [h]: to its end by its card; one that ended early until then, or until the last was seen.

    None where it ran its time, or nobody can tell.
    """
    if changes["outcome"] not in CUT_SHORT:
        return ticked_h(attrs.evolve(run, steps=changes.get("steps", run.steps)))
    printed = printing_h(run, datetime.fromisoformat(run.ended_utc) if run.ended_utc else now)
    if changes["outcome"] == "stopped" and not run.ended_utc:  # it was stopped at the latest when that was seen
        seen = [_hour_of(run, each) for each in changes.get("observations", run.observations)]
        printed = max((each for each in seen if each is not None), default=printed)
    return printed if printed is not None and run.planned_h is not None and 0.0 <= printed < run.planned_h else None


def _hour_of(run: Run, seen: Observation) -> float | None:
    if seen.at_h is None and seen.at_mm is not None:
        return hour_at(run, seen.at_mm)
    return seen.at_h


@functools.lru_cache(maxsize=65_536)
def _counted(run: str) -> int:
    """The number that an id of ours ends in; 0 for ids that came from elsewhere, which may be anything."""
    ours = re.fullmatch(r"run_([0-9]{1,15})", run)
    return int(ours[1]) if ours else 0


def sorted_as(run: str) -> float:
    """Where a run stands among others when they are sorted by number: those from elsewhere come first."""
    return float(_counted(run))


def number_of(run: str) -> str:
    """The number of a run by its id."""
    return run.rpartition("_")[2].lstrip("0") or run


def configuration_of(machine: Machine, nozzle: Nozzle | None = None) -> str:
    """A fingerprint of a machine as it stands: another part, limit or nozzle gives another one."""
    document = {
        key: value for key, value in to_document(machine).items() if key not in ("name", "retired", *MACHINE_LOGS)
    }
    if nozzle is not None:
        document["nozzle_fitted"] = {key: getattr(nozzle, key) for key in ("id", "material", "bore_mm")}
    return hashlib.sha256(json.dumps(document, sort_keys=True).encode()).hexdigest()[:8]


def as_run(workspace: Workspace, run: Run) -> dict[str, Any] | None:
    """The document of a run: its revision under the settings it was run with; None where the revision is gone."""
    revision = workspace.revision(run.card, run.revision)
    if revision is None:
        return None
    return with_settings(plain_of(revision.document), run.settings)


def card_as_run(workspace: Workspace, run: Run) -> RecipeCard | None:
    """The recipe of a run as it was run, with ids of what was chosen; None where the revision is gone."""
    revision = workspace.revision(run.card, run.revision)
    if revision is None:
        return None
    card = card_of(revision.document)
    recipe = card.recipe
    for path, value in run.settings.items():
        recipe = with_value(recipe, path, value)
    return attrs.evolve(card, recipe=recipe)


def revision_maturity(workspace: Workspace, revision: Revision) -> Maturity:
    """How far the runs of its recipe prove one revision."""
    return workspace.maturity_under(revision.card, lambda: dict(leaves(plain_of(revision.document))))


def experience(workspace: Workspace, polymer: str) -> dict[str, Tally]:
    """How often each finding was right, over all runs of a polymer."""
    return tallies(run for run in workspace.draft.records.runs.values() if run.polymer == polymer)


def maturity_words(found: Maturity) -> str:
    """What stands behind the word: counts, what they prove, and what was left out for its water."""
    share = f"; better than {found.at_least:.0%} with 95 % confidence" if found.good else ""
    words = f"{found.good} of {found.ended} runs with these settings on this machine were good{share}"
    words += f"\n{found.not_surely_dry} of them from filament that was not surely dry" if found.not_surely_dry else ""
    return words + (f"\n{found.wet} more from wet filament, left out" if found.wet else "")


def seen_words(run: Run) -> str:
    """What was seen, in words."""
    return ", ".join(SEEN[each] for each in dict.fromkeys(each.what for each in run.observations))


def deviations(workspace: Workspace, run: Run) -> dict[str, float]:
    """Settings of the run's revision, for those who say what was run differently."""
    card = card_as_run(workspace, attrs.evolve(run, settings={}))
    if card is None:
        return {}
    recipe = card.recipe
    return {path: value for path in RUN_SETTINGS if isinstance(value := value_at(recipe, path), float)}
