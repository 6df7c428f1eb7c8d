"""Reads a workspace where it cannot be opened in its place: its folder may not be written, or its layout is older."""

import os
import shutil
import sqlite3
import tempfile
from pathlib import Path

from kaustos.disk import name_of
from kaustos.store import sqlite
from kaustos.store.errors import StoreError

_TRIES = 5
PREFIX = "kaustos-reading-"


Scratch = tempfile.TemporaryDirectory[str]


def readable_copy(file: Path) -> tuple[sqlite3.Connection, Scratch]:
    """A connection to a copy of a workspace with its log, brought to the present layout, and the folder it is in."""
    _clear_left()
    folder = tempfile.TemporaryDirectory(prefix=f"{PREFIX}{os.getpid()}-")
    try:
        copy = Path(folder.name) / "copy.kaustos"
        _copy_quietly(file, copy)
        connection = sqlite.connect(copy, write=True)
        try:
            from kaustos.store.engine import migrate

            if sqlite.layout(connection) != sqlite.HEAD:
                migrate(connection, copy)
            connection.execute("PRAGMA query_only = ON")
        except BaseException:
            connection.close()
            raise
    except StoreError as fault:
        folder.cleanup()
        raise type(fault)(str(file), fault.problem) from fault
    except BaseException:
        folder.cleanup()
        raise
    return connection, folder


def _clear_left() -> None:
    """Take away copies whose process is gone."""
    for each in Path(tempfile.gettempdir()).glob(f"{PREFIX}*-*"):
        pid = each.name.removeprefix(PREFIX).partition("-")[0]
        if pid.isdecimal() and each.stat().st_uid == os.getuid() and not Path(f"/proc/{pid}").exists():
            shutil.rmtree(each, ignore_errors=True)


def _copy_quietly(file: Path, copy: Path) -> None:
    """Copy a file with its log at a moment when nobody writes to either."""
    for _ in range(_TRIES):
        before = _state(file)
        try:
            shutil.copyfile(file, copy)
            if sqlite.log_of(file).exists():
                shutil.copyfile(sqlite.log_of(file), sqlite.log_of(copy))
            else:
                sqlite.log_of(copy).unlink(missing_ok=True)
        except OSError as error:
            raise StoreError(str(file), f"cannot be read: {error.strerror}") from error
        if _state(file) == before:
            return
    raise StoreError(str(file), f"is being written all the time; open {name_of(file)} where its folder can be written")


def _state(file: Path) -> tuple[tuple[int, int, int] | None, ...]:
    found: list[tuple[int, int, int] | None] = []
    for each in (file, sqlite.log_of(file)):
        try:
            state = each.stat()
            found.append((state.st_ino, state.st_size, state.st_mtime_ns))
        except OSError:
            found.append(None)
    return tuple(found)
