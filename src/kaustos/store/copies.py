"""Copies, backups and what is moved aside: whole, checked and synced before they take their name.

What stands under the name already keeps nothing that could be taken for a part of the new file: its log is folded in
first; where it cannot be opened, file, log and index are renamed aside together. Nothing is deleted but old backups,
and what a process that was killed left half written.
"""

import contextlib
import os
import re
import secrets
import sqlite3
import time
from datetime import UTC, datetime
from pathlib import Path

import attrs

from kaustos.core.errors import KaustosError
from kaustos.disk import name_of, put_in_place, sync_file, sync_folder
from kaustos.store import sqlite
from kaustos.store.errors import SourceLost, StoreError
from kaustos.store.lock import WriterLock
from kaustos.store.reader import readable_copy

_LEFT = re.compile(r"\.kaustos-[0-9a-f]{16}\.new(-journal)?")
LEFT_AFTER_S = 3600.0
KEPT = 7  # backups of each kind
KINDS = {
    "backup": "daily",
    "before-layout": "before it was brought to a newer layout",
    "before-restore": "before a copy was restored",
    "aside": "moved aside",
}
_PRUNED = ("backup", "before-layout", "before-restore")


@attrs.frozen
class Backup:
    """An earlier state of a workspace beside it."""

    file: Path
    kind: str  # a key of KINDS
    at: datetime
    size: int  # bytes

    @property
    def why(self) -> str:
        """When such a state is kept."""
        return KINDS[self.kind]


def clear_left(folder: Path) -> None:
    """Take away what processes that were killed left half written: aside, of our name, untouched for an hour."""
    for each in folder.glob(".kaustos-*.new*"):
        with contextlib.suppress(OSError):  # it is gone by now, or not ours
            if _LEFT.fullmatch(each.name) and time.time() - each.lstat().st_mtime > LEFT_AFTER_S:
                each.unlink()


def copy_under(connection: sqlite3.Connection, target: Path, lock: WriterLock | None = None) -> None:
    """Copy the whole database to a name, whose lock is held, or taken for as long as it lasts."""
    if lock is None:
        with WriterLock(target):
            _copy(connection, target)
    else:
        _copy(connection, target)


def _copy(connection: sqlite3.Connection, target: Path) -> None:
    scratch = target.with_name(f".kaustos-{secrets.token_hex(8)}.new")
    try:
        _write(connection, scratch, target)
        sync_file(scratch)
        _clear(target)
        put_in_place(scratch, target)
    finally:
        for left in (scratch, scratch.with_name(scratch.name + "-journal")):
            left.unlink(missing_ok=True)


def _write(connection: sqlite3.Connection, scratch: Path, target: Path) -> None:
    """Write the copy aside and check it; a source that cannot be read is told apart from a disk that takes nothing."""
    try:
        with contextlib.closing(sqlite3.connect(scratch)) as copy:
            connection.backup(copy)
            if sqlite.layout(copy) not in sqlite.LAYOUTS:
                raise SourceLost(str(target), "what is open can no longer be read from its file")
            copy.execute("PRAGMA journal_mode = DELETE")
            sqlite.check_whole(copy, target)
    except sqlite3.Error as error:
        try:
            for name in sqlite.LAYOUTS[sqlite.HEAD]:
                connection.execute(f"SELECT count(*) FROM {name}").fetchone()
        except sqlite3.Error as fault:
            raise SourceLost(str(target), f"what is open can no longer be read from its file ({fault})") from error
        raise StoreError(str(target), f"the copy could not be written: {error}") from error


def _clear(target: Path) -> None:
    """See that no log of what stands under a name is left beside what will stand there."""
    if not any(os.path.lexists(each) for each in (sqlite.log_of(target), sqlite.index_of(target))):
        return
    try:
        tried, scratch = readable_copy(target)  # trying it in its place would write to a file that may be damaged
        tried.close()
        scratch.cleanup()
        with contextlib.closing(sqlite.connect(target, write=True)) as connection:
            sqlite.fold_in(connection)
    except (KaustosError, sqlite3.Error):
        move_aside(target)
        return
    if any(os.path.lexists(each) for each in (sqlite.log_of(target), sqlite.index_of(target))):
        move_aside(target)  # somebody else has it open: its log would be taken for the new file's


def move_aside(file: Path) -> Path:
    """Rename a file with its log and index together; where it is now."""
    kept = free_name(file, "aside")
    for each, to in ((file, kept), (sqlite.log_of(file), sqlite.log_of(kept)),
                     (sqlite.index_of(file), sqlite.index_of(kept))):  # fmt: skip
        if os.path.lexists(each):
            os.rename(each, to)
    sync_folder(file.parent)
    return kept


def free_name(file: Path, word: str) -> Path:
    """A name beside a workspace that nothing has yet."""
    return _free(file.with_name(f"{file.name}.{word}"))


def _free(file: Path) -> Path:
    found, count = file, 2
    while any(os.path.lexists(each) for each in (found, sqlite.log_of(found), sqlite.index_of(found))):
        found, count = file.with_name(f"{file.name}-{count}"), count + 1
    return found


# ---- backups


def before_layout(file: Path, version: str) -> Path:
    """Where the state before a migration is kept."""
    return file.with_name(f"{file.name}.before-layout-{version}")


def before_restore(file: Path, now: datetime) -> Path:
    """Where the state before a restore is kept."""
    return _free(file.with_name(f"{file.name}.before-restore-{now:%Y%m%d-%H%M%S}"))


def of_day(file: Path, now: datetime) -> Path:
    """Where the state of a day is kept, by the local date."""
    return file.with_name(f"{file.name}.backup-{now.astimezone():%Y-%m-%d}")


def back_up(file: Path, now: datetime) -> Path | None:
    """Keep the state of a day of use, once a day, and no more than so many; None where it is kept already."""
    target = of_day(file, now)
    if os.path.lexists(target):
        return None
    connection = sqlite.connect(file, write=False)
    try:
        copy_under(connection, target)
    finally:
        connection.close()
    prune(file)
    return target


def backups_of(file: Path) -> tuple[Backup, ...]:
    """Earlier states beside a workspace, the newest first."""
    found = []
    try:
        beside = list(os.scandir(file.parent))
    except OSError:
        return ()
    for each in beside:
        kind = next((kind for kind in KINDS if each.name.startswith(f"{file.name}.{kind}")), None)
        if kind is None or each.name.endswith(("-wal", "-shm", ".lock")) or not each.is_file(follow_symlinks=False):
            continue
        state = each.stat(follow_symlinks=False)
        at = datetime.fromtimestamp(state.st_mtime, UTC)
        found.append(Backup(file.with_name(each.name), kind, at, state.st_size))
    return tuple(sorted(found, key=lambda each: (each.at, each.file.name), reverse=True))


def prune(file: Path) -> None:
    """Let go of the oldest backups of each kind beyond those that are kept."""
    every = backups_of(file)
    for kind in _PRUNED:
        for old in [each for each in every if each.kind == kind][KEPT:]:
            old.file.unlink(missing_ok=True)


def newest_words(file: Path) -> str:
    """A sentence that names the newest backup of a workspace; empty where there is none."""
    found = next((each for each in backups_of(file) if each.kind != "aside"), None)
    if found is None:
        return ""
    return f" Its newest backup is {name_of(found.file)} ({found.at.astimezone():%Y-%m-%d %H:%M})."
