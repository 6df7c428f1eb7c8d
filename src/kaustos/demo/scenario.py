"""Builds the workspace of a firm that does not exist: Hollin Fell Instruments."""

from datetime import UTC, datetime, timedelta
from pathlib import Path

import attrs

from kaustos.app.giving import give_status
from kaustos.app.records import Records
from kaustos.app.runs import end_run, start_run
from kaustos.app.settings import Settings
from kaustos.app.workspace import Workspace, fill, stamp
from kaustos.core.records import RecipeCard, Rules
from kaustos.demo.baths import baths_at
from kaustos.demo.bonding import PLATES, agents_at, files, parts
from kaustos.demo.jobs import jobs
from kaustos.demo.machines import calibrations_at, machines_at
from kaustos.demo.nozzles import nozzles_at
from kaustos.demo.ovens import OVENS, loads_at
from kaustos.demo.past import STEPS, Step
from kaustos.demo.proofs import proofs_at, services_at
from kaustos.demo.recipes import CARDS, FIRST
from kaustos.demo.stock import DRYERS, lots_at
from kaustos.demo.upgrades import UPGRADES


def records_at(now: datetime) -> Records:
    """The firm's records as they stood before its past is told, lots dated before a moment."""
    return Records.of(
        cards={key: _wanted(key, card, now) for key, card in CARDS.items()},
        machines=machines_at(now),
        calibrations=calibrations_at(now),
        lots=lots_at(now),
        dryers={dryer.id: dryer for dryer in DRYERS},
        nozzles=nozzles_at(now),
        plates={plate.id: plate for plate in PLATES},
        agents=agents_at(now),
        baths=baths_at(now),
        ovens=OVENS,
        proofs=proofs_at(now),
        services=services_at(now),
        loads=loads_at(now),
        parts=parts(),
        jobs=jobs()[0],
        upgrades=UPGRADES,
        rules=Rules(),
        current=FIRST,
    )


WANTED = {"winch_bracket": 23.5, "probe_head_shell": 26.0}  # hours from now at which a dry spool is wanted


def _wanted(key: str, card: RecipeCard, now: datetime) -> RecipeCard:
    if key not in WANTED:
        return card
    at = stamp(now + timedelta(hours=WANTED[key]))
    return attrs.evolve(card, recipe=attrs.evolve(card.recipe, stock=attrs.evolve(card.recipe.stock, wanted_utc=at)))


RECORDS = records_at(datetime(2026, 3, 2, 8, tzinfo=UTC))


def build(file: Path, now: datetime) -> None:
    """Make the demo workspace in a new file, its revisions and runs dated before ``now``."""
    fill(file, records_at(now), lambda: now)
    moment = [now]
    workspace = Workspace(file, Settings(), lambda: moment[0].astimezone(UTC))
    try:
        for name, content in (*files().values(), *jobs()[1].values()):
            workspace.keep(name, content)
        for step in STEPS:
            _tell(workspace, step, now, moment)
        workspace.draft.open_card(FIRST)
    finally:
        workspace.close()


def _tell(workspace: Workspace, step: Step, now: datetime, moment: list[datetime]) -> None:
    moment[0] = now - timedelta(days=step.days_ago)
    workspace.use_settings(Settings(who=step.who))
    workspace.draft.open_card(step.card)
    if step.changes:
        workspace.draft.set(step.changes, title=step.why)
    if workspace.differs_from_last_revision():
        workspace.save_revision(step.why)
    if step.run is not None:
        run = start_run(workspace, who=step.who, why="first tries, told afterwards", took_place=True)
        workspace.autosave()
        moment[0] += timedelta(hours=workspace.draft.records.card.recipe.brief.print_h or 4.0)
        end_run(workspace, run.id, step.run)
    workspace.autosave()
    if step.status:
        give_status(workspace, workspace.revisions()[0].number, step.status, step.status_why)
