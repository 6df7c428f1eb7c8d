"""SIGKILLs while a workspace is written, taken into, copied and restored: what was acknowledged is there, and whole.

One save is one state: two documents, the history and, of a revision, its status tell the same number. Counted as lost
or damaged, of which none is allowed. The same look is then given to three writers that are broken on purpose (saves
without a transaction, history in one of its own, every second save not written): each must be seen.
"""

import contextlib
import multiprocessing
import os
import signal
import sqlite3
import tempfile
import time
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from unittest import mock

KILLS, MIGRATIONS = 180, 20
OTHERS = 20  # kills of each of import, copy and restore
BROKEN = 25  # kills, within which each broken writer must be seen
OLD = Path(__file__).parents[1] / "tests" / "store" / "old" / "layout-0001.kaustos"
NOW = datetime(2026, 3, 2, 8, tzinfo=UTC)
CARD, LOT = "winch_bracket", "lot_c042"
_CONTEXT = multiprocessing.get_context("forkserver")  # which loads the program once, not for each writer
_CONTEXT.set_forkserver_preload(["kaustos.app.workspace", "kaustos.app.intake", "kaustos.app.restore", "kaustos.store"])


# ---- writers, in processes of their own


def _write(file, saving, saved, autosaved, fault):
    """Edit and save for ever; counts stand in shared memory, written before and after each save."""
    from kaustos.app.workspace import Workspace
    from kaustos.core.records import Place

    with _broken(fault):
        workspace = Workspace(Path(file))
        number = saved.value if saved.value > autosaved.value else autosaved.value
        while True:
            number += 1
            values = {
                Place("cards", CARD, "recipe.brief.print_h"): float(number),
                Place("lots", LOT, "tare_g"): float(number),
            }
            workspace.draft.set(values, title=f"number {number}")
            saving.value = 2 if number % 3 else 1
            if number % 3:
                workspace.autosave()
            else:
                workspace.save_revision(f"number {number}")
                saved.value = number
            saving.value = 0
            autosaved.value = number


@contextlib.contextmanager
def _broken(fault):
    """Break the store on purpose."""
    from kaustos.store import Store

    real = Store.put_documents

    def in_pieces(store, found, now, edits=()):
        for each in found:
            real(store, [each], now)
        real(store, [], now, edits)

    def history_later(store, found, now, edits=()):
        real(store, found, now)
        real(store, [], now, edits)

    count = [0]

    def every_second(store, found, now, edits=()):
        count[0] += 1
        if count[0] % 2:
            real(store, found, now, edits)

    broken = {"pieces": in_pieces, "history": history_later, "second": every_second}.get(fault)
    with mock.patch.object(Store, "put_documents", broken) if broken else contextlib.nullcontext():
        yield


def _migrate(file, begun):
    from kaustos.store import Store

    def slow(*_):
        begun.set()
        time.sleep(60)

    with mock.patch("alembic.op.create_index", slow):
        Store(Path(file), write=True)


def _take_in(file, tables, begun):
    from kaustos.app.intake import take_all
    from kaustos.app.workspace import Workspace

    workspace = Workspace(Path(file))
    begun.set()
    take_all(workspace, [Path(each) for each in tables])
    workspace.autosave()


def _copy(file, target, begun):
    from kaustos.app.workspace import Workspace

    workspace = Workspace(Path(file))
    begun.set()
    while True:
        workspace.save_copy(Path(target))


def _restore(file, backup, begun):
    from kaustos.app.restore import restore

    begun.set()
    restore(Path(file), Path(backup), NOW)


# ---- looks


def _state(file) -> tuple[str, float, float, str, set[str], int]:
    """What a file tells: integrity, both documents, newest history, whys of revisions, statuses without a revision."""
    from kaustos.app.workspace import Workspace

    with contextlib.closing(sqlite3.connect(file)) as connection:
        whole = str(connection.execute("PRAGMA integrity_check").fetchone()[0])
        lone = connection.execute(
            "SELECT count(*) FROM revisions r WHERE NOT EXISTS "
            "(SELECT 1 FROM statuses s WHERE s.card = r.card AND s.number = r.number)"
        ).fetchone()[0]
    workspace = Workspace(file, write=False)
    try:
        records = workspace.draft.records
        hours, tare = records.cards[CARD].recipe.brief.print_h or 0.0, records.lots[LOT].tare_g or 0.0
        newest = next(iter(workspace.history()), ("", "", ""))[2]
        return whole, hours, tare, newest, {each.why for each in workspace.revisions_of(records.current or "")}, lone
    finally:
        workspace.close()


def _tells_one_state(file, saved, autosaved) -> bool:
    whole, hours, tare, newest, whys, lone = _state(file)
    is_kept = hours >= autosaved and (saved == 0 or f"number {saved}" in whys)
    is_one = not autosaved or (hours == tare and newest == f"number {hours:.0f}")
    return whole == "ok" and is_kept and is_one and not lone


def _killed(target: Callable, arguments: tuple, wait: Callable[[], bool], after: float) -> None:
    """Run a process, wait, let it go on a little, and kill it."""
    process = _CONTEXT.Process(target=target, args=arguments)
    process.start()
    until = time.monotonic() + 60
    while not (is_there := wait()) and process.is_alive() and time.monotonic() < until:
        pass
    if not is_there:
        raise RuntimeError("the process that was to be killed never came to its work")
    time.sleep(after)
    with contextlib.suppress(ProcessLookupError):
        os.kill(process.pid, signal.SIGKILL)
    process.join()


def _demo(folder: Path) -> Path:
    from kaustos.demo import build

    file = folder / "demo.kaustos"
    build(file, NOW)
    return file


def _kills_of_a_writer(kills: int, fault: str = "") -> int:
    """How many of the kills left something lost, halved or damaged."""
    bad = 0
    with tempfile.TemporaryDirectory() as scratch:
        file = _demo(Path(scratch))
        saving, saved, autosaved = (_CONTEXT.Value("q", 0, lock=False) for _ in range(3))
        for kill in range(kills):
            begun = autosaved.value
            saving.value = 0
            wanted = (1, 1, 2, 2, 0)[kill % 5]  # in the middle of a revision, of an autosave, or at any moment

            def is_time(begun=begun, wanted=wanted, kill=kill) -> bool:
                return autosaved.value >= begun + 2 + kill % 4 and (not wanted or saving.value == wanted)

            _killed(_write, (str(file), saving, saved, autosaved, fault), is_time, (kill % 7) * 0.0006)
            bad += not _tells_one_state(file, saved.value, autosaved.value)
            if fault and bad:
                break
    return bad


def lost_or_damaged() -> float:
    """How many of the kills lost an acknowledged save or left a file that is not whole."""
    bad = _kills_of_a_writer(KILLS)
    with tempfile.TemporaryDirectory() as scratch:
        for kill in range(MIGRATIONS):
            bad += not _migration_survives(Path(scratch) / f"old-{kill}.kaustos", kill)
    return float(bad)


def _migration_survives(file, kill) -> bool:
    from kaustos.store import Store

    file.write_bytes(OLD.read_bytes())
    begun = _CONTEXT.Event()
    _killed(_migrate, (str(file), begun), begun.is_set, kill * 0.001)
    with contextlib.closing(sqlite3.connect(file)) as connection:
        if connection.execute("PRAGMA integrity_check").fetchone() != ("ok",):
            return False
    store = Store(file, write=True)
    try:
        return len(store.revisions("probe_head_shell")) == 3
    finally:
        store.close()


def halves() -> float:
    """Kills of import, copy and restore that left a part of what was to be done, or nothing that opens."""
    bad = 0
    with tempfile.TemporaryDirectory() as scratch:
        folder = Path(scratch)
        file = _demo(folder)
        whole = file.read_bytes()
        tables = _tables(file, folder)
        backup = folder / "backup.kaustos"
        _marked(file, whole, backup, 777.0)
        for kill in range(OTHERS):
            after = 0.3 * (kill / OTHERS) ** 1.5
            bad += not _import_is_whole(file, whole, tables, after)
            bad += not _copy_is_whole(file, whole, backup, folder / "copy.kaustos", after)
            bad += not _restore_is_whole(file, whole, backup, after)
    return float(bad)


def _tables(file: Path, folder: Path) -> list[str]:
    import attrs

    from kaustos.app.workspace import reading
    from kaustos.formats.csv_tables import write_runs

    with reading(file) as opened:
        first = next(iter(opened.draft.records.runs.values()))
        opened.export_recipe(folder / "more.json")
    made = (attrs.evolve(first, id=f"m-{n}", observations=()) for n in range(2_000))
    (folder / "runs.csv").write_text(write_runs(made), encoding="utf-8")
    return [str(folder / "runs.csv"), str(folder / "more.json")]


def _marked(file: Path, whole: bytes, target: Path, hours: float) -> None:
    """A copy of the demo with a number in it by which it is known."""
    from kaustos.app.workspace import Workspace
    from kaustos.core.records import Place

    workspace = Workspace(file)
    workspace.draft.set({Place("cards", CARD, "recipe.brief.print_h"): hours})
    workspace.autosave()
    workspace.save_copy(target)
    workspace.close()
    file.write_bytes(whole)


def _fresh(file: Path, whole: bytes) -> None:
    for each in file.parent.glob(f"{file.name}*"):
        each.unlink()
    file.write_bytes(whole)


def _counted(file: Path) -> tuple[str, int, int, float]:
    from kaustos.app.workspace import read_records

    with contextlib.closing(sqlite3.connect(file)) as connection:
        whole = str(connection.execute("PRAGMA integrity_check").fetchone()[0])
    records = read_records(file)
    return whole, len(records.cards), len(records.runs), records.cards[CARD].recipe.brief.print_h or 0.0


def _import_is_whole(file: Path, whole: bytes, tables: list[str], after: float) -> bool:
    _fresh(file, whole)
    _, cards, runs, _ = _counted(file)
    begun = _CONTEXT.Event()
    _killed(_take_in, (str(file), tables, begun), begun.is_set, 3.0 * after)
    integrity, cards_now, runs_now, _ = _counted(file)
    return integrity == "ok" and (cards_now - cards, runs_now - runs) in ((0, 0), (1, 2_000))


def _copy_is_whole(file: Path, whole: bytes, backup: Path, target: Path, after: float) -> bool:
    _fresh(file, whole)
    _fresh(target, backup.read_bytes())
    _, cards, runs, hours = _counted(file)
    begun = _CONTEXT.Event()
    _killed(_copy, (str(file), str(target), begun), begun.is_set, after)
    return _counted(target) in (("ok", cards, runs, hours), ("ok", cards, runs, 777.0))


def _restore_is_whole(file: Path, whole: bytes, backup: Path, after: float) -> bool:
    from kaustos.store import backups_of

    _fresh(file, whole)
    _, cards, runs, hours = _counted(file)
    begun = _CONTEXT.Event()
    _killed(_restore, (str(file), str(backup), begun), begun.is_set, after)
    now = _counted(file)
    kept = [each for each in backups_of(file) if each.kind == "before-restore" and _counted(each.file)[3] == hours]
    return now == ("ok", cards, runs, hours) or (now == ("ok", cards, runs, 777.0) and bool(kept))


def unseen() -> float:
    """Writers broken on purpose that these looks do not see."""
    return float(sum(not _kills_of_a_writer(BROKEN, fault) for fault in ("pieces", "history", "second")))


COMPARISONS = (
    ("acknowledged saves lost or halved in 200 kills", 0.0, "lost or damaged", lost_or_damaged),
    ("kills of import, copy and restore that left a half", 0.0, f"of {3 * OTHERS}", halves),
    ("writers broken on purpose that were not seen", 0.0, "of 3", unseen),
)
