"""After a run: what it is booked with, the causes of what was seen, and the one trial that comes next."""

from collections.abc import Mapping

import attrs

from kaustos.app.judge import context_of_card
from kaustos.app.left_out import left_out
from kaustos.app.runs import RUN_SETTINGS, card_as_run, number_of
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.planning.booking import HEAT_UP_H, PURGE_G, booking_of
from kaustos.core.planning.stop_rule import DANGER
from kaustos.core.records import Estimate, Recipe, RecipeCard, Run
from kaustos.core.records.fields import value_at, with_value
from kaustos.core.review import CODES, Context
from kaustos.core.review.causes import Shown, Suspect, Trial, next_trial, suspects_of
from kaustos.core.review.money import run_cost

HEADINGS = ("Cause", "Suspicion", "What is left")
LOOK_FIRST = (
    "Nothing is tried next: switch off, air the room, and let a qualified person look at the machine before it heats."
)


@attrs.frozen
class AfterRun:
    """What a run that went wrong asks for next, in words; the change of the trial where it is a setting."""

    rows: tuple[tuple[str, str, str], ...]
    trial: str
    expected: str
    changes: Mapping[str, float]


def after_run(workspace: Workspace, run: Run) -> AfterRun | None:
    """Causes and the next trial; None where nothing was seen that went wrong, or the revision is gone."""
    card = card_as_run(workspace, run)
    if card is None or not run.observations:
        return None
    context = context_of_run(workspace, run, card)
    suspects = suspects_of(run, card.recipe, context, _others(workspace, run))
    if not suspects:
        return None
    trial = next_trial(run, card.recipe, suspects)
    rows = tuple((_title(each), _share(each), _left(workspace, each, context)) for each in suspects)
    words, expected = _trial_words(workspace, run, trial, card.recipe, context)
    without = left_out(run)
    if without and not run.seen & DANGER:
        done = " and ".join(f"{each.title[:1].lower()}{each.title[1:]}" for each in without[:2])
        return AfterRun(
            rows, f"Do what was left out: {done}; nothing else.", f"If it is the same, next is: {words}", {}
        )
    return AfterRun(rows, words, expected, trial.changes)


def take_trial(workspace: Workspace, run: Run, trial: AfterRun) -> None:
    """Open the recipe of a run with the settings as they were run, and the one change of the trial: one edit."""
    if not trial.changes:
        raise KaustosError("This trial changes no setting: print the same again once it is done.")
    card = card_as_run(workspace, run)
    if card is None or run.card not in workspace.draft.records.cards:
        raise KaustosError("The recipe of this run is not in the workspace any more.")
    workspace.draft.open_card(run.card)
    as_it_was = {path: value_at(card.recipe, path) for path in RUN_SETTINGS}
    workspace.draft.set({**as_it_was, **trial.changes}, title=f"Trial after run {number_of(run.id)}: {trial.trial}")


def booking_words(workspace: Workspace, run: Run) -> str:
    """What a run is booked with, what the rest of it would have cost, and what it cost in all; empty for nothing."""
    found, wording = booking_of(run), workspace.draft.wording
    cost, spent = cost_of_run(workspace, run), _spent(workspace, run)
    words = []
    if found.share < 1.0:
        parts = [wording.value(found.mass_g, "mass")] if found.mass_g is not None else []
        parts += [wording.value(found.hours, "duration")] if found.hours is not None else []
        booked = (
            f"Booked: {' and '.join(parts)}, {found.share:.0%} of the run with {wording.value(PURGE_G, 'mass')} purged "
            f"and {wording.value(HEAT_UP_H, 'duration')} to heat up"
        )
        if cost is not None and spent is not None:
            left = max(cost.value - spent, 0.0)
            booked += f"; the rest would have cost {wording.value(left, 'money')}"
        words.append(booked + ".")
        if not run.course:
            words.append("How filament spreads over the time only a job file tells.")
    lost = lost_with(workspace, run)
    if lost:
        named = wording.value(lost, "money")
        words.append(
            f"Lost beside it: {named}" + (f", {wording.value(spent + lost, 'money')} in all." if spent else ".")
        )
    return " ".join(words)


def lost_with(workspace: Workspace, run: Run) -> float:
    """What a run cost beyond itself, as it was typed: hours of machine and people, and money [money]."""
    records = workspace.draft.records
    machine = records.machines.get(run.machine or "")
    rate = records.rules.machine_per_h if machine is None or machine.rate_per_h is None else machine.rate_per_h
    return (run.hours_lost or 0.0) * (rate + records.rules.wage_per_h) + (run.money_lost or 0.0)


def _spent(workspace: Workspace, run: Run) -> float | None:
    """Filament and machine hours that a run is booked with [money]."""
    found = booking_of(run)
    hours = None if found.hours is None else found.hours - HEAT_UP_H
    cost = cost_of_run(workspace, attrs.evolve(run, planned_h=hours, mass_g=found.mass_g))
    return None if cost is None else cost.value


def cost_of_run(workspace: Workspace, run: Run) -> Estimate | None:
    """What the whole of a run costs, with hours and filament as they were planned when it began [money]."""
    card = card_as_run(workspace, run)
    if card is None:
        return None
    recipe = with_value(with_value(card.recipe, "brief.print_h", run.planned_h), "brief.mass_g", run.mass_g)
    return run_cost(recipe, context_of_run(workspace, run, card))


def context_of_run(workspace: Workspace, run: Run, card: RecipeCard) -> Context:
    """What the run's recipe is judged with on the shop's records of now."""
    records, shop = workspace.draft.records, workspace.shop()
    return context_of_card(records, run.card, workspace.clock(), shop, workspace.indexes, card)


def _others(workspace: Workspace, run: Run) -> list[Shown]:
    """Other ended runs of the recipe on the same machine, as they were run."""
    found = []
    for each in workspace.indexes.runs_of(workspace.draft.records.runs, run.card):
        if each.id != run.id and each.is_ended and not each.retired and each.machine == run.machine:
            card = card_as_run(workspace, each)
            if card is not None:
                found.append(Shown(card.recipe, each.outcome == "good"))
    return found


def _title(suspect: Suspect) -> str:
    words = suspect.cause.title[:1].upper() + suspect.cause.title[1:]
    said = ["foretold"] if suspect.foretold else []
    return f"{words} ({', '.join([*said, f'look at {suspect.cause.operation}'])})"


def _share(suspect: Suspect) -> str:
    return f"{suspect.share:.0%}"


def _left(workspace: Workspace, suspect: Suspect, context: Context) -> str:
    cause, left = suspect.cause, suspect.left_k
    if not cause.zone:
        return cause.short[:1].upper() + cause.short[1:]
    if left is None:
        return "Not known: polymer, machine or setpoint is not recorded"
    if left <= 0.0:
        on = context.machine.name if context.machine else "this machine"
        return f"Nothing: no lever left on {on}" if cause.hotter else "Nothing: it is at the low end of its window"
    way = "up" if cause.hotter else "down"
    return f"{workspace.draft.wording.value(left, 'temperature_difference')} {way}"


def _trial_words(
    workspace: Workspace, run: Run, trial: Trial, recipe: Recipe, context: Context
) -> tuple[str, str]:  # fmt: skip
    if run.seen & DANGER:
        return LOOK_FIRST, ""
    if trial.suspect is None:
        return "No lever is left on this machine with this polymer: another machine or polymer is the next step.", ""
    cause = trial.suspect.cause
    none = f"No lever is left against {_listed(trial.exhausted)}. " if trial.exhausted else ""
    then = f" If it is the same, next is {trial.then.cause.title}." if trial.then else ""
    if not trial.changes:
        return cause.check, f"{none}If it is gone, it was {cause.title}.{then}"
    wording = workspace.draft.wording
    moves = (
        f"{wording.field(path)} {wording.number(value_at(recipe, path), 'temperature')} → "
        f"{wording.value(to_c, 'temperature')}"
        for path, to_c in trial.changes.items()
    )
    words = f"{' and '.join(moves)}, nothing else"
    still_k = trial.suspect.outside_k - (trial.suspect.left_k or 0.0)
    still = ""
    if still_k > 0.0 and context.machine:
        below = wording.value(still_k, "temperature_difference")
        still = f" It stays {below} outside its window: {context.machine.name} gets no further."
    judged = _judged(workspace, trial, recipe, context)
    return words, f"{none}If it is better, it was {cause.title}.{then}{still}{judged}"


def _listed(suspects: tuple[Suspect, ...]) -> str:
    return " and ".join(each.cause.title for each in suspects)


def _judged(workspace: Workspace, trial: Trial, recipe: Recipe, context: Context) -> str:
    """What the review of the machine says of the trial beforehand."""
    changed = recipe
    for path, to_c in trial.changes.items():
        changed = with_value(changed, path, to_c)
    before, after = (
        {each.code for each in workspace.judge.one("machine", one, context).findings} for one in (recipe, changed)
    )
    gone, come = ([CODES[code].title for code in CODES if code in codes] for codes in (before - after, after - before))
    words = f" It takes away: {'; '.join(gone)}." if gone else ""
    return words + (f" It brings: {'; '.join(come)}." if come else "")
