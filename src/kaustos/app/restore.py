"""Puts the state of a backup in the place of a workspace; the state before is kept beside it."""

from datetime import datetime
from pathlib import Path

from kaustos.app.stored import read_whole, unread_words
from kaustos.core.errors import KaustosError
from kaustos.disk import name_of
from kaustos.store import DamagedWorkspace, NotAWorkspace, Store, WriterLock, before_restore, move_aside, prune


def restore(file: Path, backup: Path, now: datetime) -> str:
    """Bring a closed workspace to the state of a backup; what was done, in words.

    The backup is read as records before anything is touched. The lock is held from the first step to the last. A
    workspace that cannot be read any more is moved aside with its log, never deleted.
    """
    if backup.exists() and file.exists() and backup.samefile(file):
        raise KaustosError(f"{name_of(backup)} is the workspace itself; choose a copy of it.")
    source = Store(backup, write=False, in_place=False)
    try:
        records, unread = read_whole(source)
        count = sum(len(table) for table in records.tables.values())
        if not count and not unread and not records.foreign:
            raise KaustosError(f"{name_of(backup)} holds no records; nothing was restored.")
        with WriterLock(file) as lock:
            kept = _kept(file, lock, now)
            source.copy_to(file, lock)
            prune(file)
    finally:
        source.close()
    before = f"The state before is in {name_of(kept)}." if kept else "There was no state before."
    return " ".join(filter(None, (f"Restored from {name_of(backup)}: {count} records. {before}", unread_words(unread))))


def _kept(file: Path, lock: WriterLock, now: datetime) -> Path | None:
    """Where the state before is kept; None where there was none."""
    if not file.exists():
        return None
    kept = before_restore(file, now)
    try:
        present = Store(file, write=True, lock=lock)
    except (DamagedWorkspace, NotAWorkspace):
        return move_aside(file)
    try:
        present.copy_to(kept)
    except (DamagedWorkspace, NotAWorkspace):
        present.close()
        return move_aside(file)
    finally:
        present.close()
    return kept
