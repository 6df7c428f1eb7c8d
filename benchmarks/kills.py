"""200 SIGKILLs while a workspace is written: every acknowledged save must be there, and the file whole.

Half of the kills fall into a save that is under way, some into an autosave, some into a migration.
Counted as lost saves and damaged files, of which none is allowed.
"""

import contextlib
import multiprocessing
import os
import signal
import sqlite3
import tempfile
import time
from datetime import UTC, datetime
from pathlib import Path
from unittest import mock

KILLS = 200
MIGRATIONS = 20
OLD = Path(__file__).parents[1] / "tests" / "store" / "old" / "layout-0001.kaustos"


def _write(file, saving, saved, autosaved, every_save):
    """Edit and save for ever; counts stand in shared memory, written before and after each save."""
    from kaustos.app.workspace import Workspace

    workspace = Workspace(Path(file))
    number = saved.value
    while True:
        number += 1
        workspace.draft.set({"brief.print_h": float(number)})
        if number % every_save:
            saving.value = 2
            workspace.autosave()
            saving.value = 0
            autosaved.value = number
        else:
            saving.value = 1
            workspace.save_revision(f"number {number}")
            saving.value = 0
            autosaved.value = number
            saved.value = number


def _migrate(file, begun):
    from kaustos.store import Store

    def slow(*_):
        begun.set()
        time.sleep(60)

    with mock.patch("alembic.op.create_index", slow):
        Store(Path(file), write=True)


def lost_or_damaged() -> float:
    """How many of the kills lost an acknowledged save or left a file that is not whole."""
    context = multiprocessing.get_context("spawn")
    bad = 0
    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / "demo.kaustos"
        from kaustos.demo import build

        build(file, datetime(2026, 3, 2, 8, tzinfo=UTC))
        shared = [context.Value("q", 0, lock=False) for _ in range(3)]
        for kill in range(KILLS - MIGRATIONS):
            bad += not _survives(context, file, shared, kill)
        for kill in range(MIGRATIONS):
            bad += not _migration_survives(context, Path(scratch) / f"old-{kill}.kaustos", kill)
    return float(bad)


def _survives(context, file, shared, kill) -> bool:
    saving, saved, autosaved = shared
    begun = autosaved.value
    saving.value = 0
    writer = context.Process(target=_write, args=(str(file), *shared, 3))
    writer.start()
    until = time.monotonic() + 60
    while autosaved.value < begun + 2 + kill % 4 and time.monotonic() < until:
        time.sleep(0.0005)
    wanted = (1, 1, 2, 0)[kill % 4]  # twice in four a save, once an autosave, once any moment
    while wanted and saving.value != wanted and time.monotonic() < until:
        pass
    time.sleep((kill % 7) * 0.0004)
    os.kill(writer.pid, signal.SIGKILL)
    writer.join()
    return _is_whole(file, saved.value, autosaved.value)


def _is_whole(file, saved, autosaved) -> bool:
    from kaustos.app.workspace import Workspace

    with contextlib.closing(sqlite3.connect(file)) as connection:
        if connection.execute("PRAGMA integrity_check").fetchone() != ("ok",):
            return False
    workspace = Workspace(file)
    try:
        kept = workspace.draft.records.card.recipe.brief.print_h or 0.0
        whys = {each.why for each in workspace.revisions()}
        return kept >= autosaved and (saved == 0 or f"number {saved}" in whys)
    finally:
        workspace.close()


def _migration_survives(context, file, kill) -> bool:
    from kaustos.store import Store

    file.write_bytes(OLD.read_bytes())
    begun = context.Event()
    process = context.Process(target=_migrate, args=(str(file), begun))
    process.start()
    begun.wait(60)
    time.sleep(kill * 0.001)
    os.kill(process.pid, signal.SIGKILL)
    process.join()
    with contextlib.closing(sqlite3.connect(file)) as connection:
        if connection.execute("PRAGMA integrity_check").fetchone() != ("ok",):
            return False
    store = Store(file, write=True)
    try:
        return len(store.revisions("probe_head_shell")) == 3
    finally:
        store.close()


COMPARISONS = (("acknowledged saves lost in 200 kills", 0.0, "lost or damaged", lost_or_damaged),)
