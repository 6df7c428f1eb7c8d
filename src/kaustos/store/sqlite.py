"""The one way into a workspace file, and all that is SQLite's own: opening, pragmas, copies, watching, folding in.

The database toolkit takes the connection that is made here; what is read before the first picture goes without it.
"""

import json
import os
import sqlite3
from pathlib import Path
from typing import Any
from urllib.parse import quote

from kaustos.store.errors import DamagedWorkspace, NewerWorkspace, NotAWorkspace, StoreError

APPLICATION_ID = 0x4B415553  # "KAUS", stands in the header of every workspace file
HEAD = "0002"
VERSIONS = ("0001", "0002")
_WRITER = ("journal_mode = WAL", "synchronous = FULL", "busy_timeout = 5000")


def connect(file: Path, *, write: bool) -> sqlite3.Connection:
    """A connection to a workspace file, made anew where it is missing and ``write`` is on.

    The name is quoted whole, so that no sign in it leads to another file. BEGIN is ours to send.
    """
    if not write and not file.exists():
        raise NotAWorkspace(str(file), "there is no such file")
    if file.is_dir():
        raise NotAWorkspace(str(file), "is a folder, not a workspace file")
    uri = f"file:{quote(os.fsencode(file.absolute()))}?mode={'rwc' if write else 'ro'}"
    try:
        connection = sqlite3.connect(uri, uri=True, timeout=5.0, isolation_level=None, check_same_thread=False)
    except sqlite3.Error as error:
        raise DamagedWorkspace(str(file), f"cannot be opened ({error})") from error
    try:
        _prepare(connection, file, write=write)
    except sqlite3.DatabaseError as error:
        connection.close()
        raise _fault(file, error) from error
    except StoreError:
        connection.close()
        raise
    return connection


def _prepare(connection: sqlite3.Connection, file: Path, *, write: bool) -> None:
    connection.execute("PRAGMA foreign_keys = ON")
    if not is_empty(connection) and _pragma(connection, "application_id") != APPLICATION_ID:
        raise NotAWorkspace(str(file), "is a database, but not a Kaustos workspace")
    version = layout(connection)
    if version is not None and version not in VERSIONS:
        raise NewerWorkspace(str(file), f"was written by a newer version of Kaustos (layout {version})")
    if not write and version != HEAD:
        raise DamagedWorkspace(str(file), "has an older layout; open it once for writing to bring it up to date")
    for pragma in _WRITER if write else ():
        connection.execute(f"PRAGMA {pragma}")


def _fault(file: Path, error: sqlite3.DatabaseError) -> NotAWorkspace | DamagedWorkspace:
    if "not a database" in str(error):
        return NotAWorkspace(str(file), "is not a Kaustos workspace")
    return DamagedWorkspace(str(file), f"cannot be read ({error}); it was left as it is")


def _pragma(connection: sqlite3.Connection, name: str) -> Any:
    return connection.execute(f"PRAGMA {name}").fetchone()[0]


def is_empty(connection: sqlite3.Connection) -> bool:
    """Whether nothing was ever written to the file."""
    return bool(connection.execute("SELECT count(*) FROM sqlite_master").fetchone()[0] == 0)


def layout(connection: sqlite3.Connection) -> str | None:
    """The layout that a workspace file has, None for an empty one."""
    if is_empty(connection):
        return None
    found = connection.execute("SELECT version_num FROM alembic_version").fetchone()
    return None if found is None else str(found[0])


Faulty = tuple[str, str, str, str]  # kind, id, text, what is wrong with it


def every_document(connection: sqlite3.Connection) -> tuple[dict[str, dict[str, dict[str, Any]]], list[Faulty]]:
    """All documents by kind and id, and texts that are none; without the toolkit, the first picture waits for them."""
    found: dict[str, dict[str, dict[str, Any]]] = {}
    faulty: list[Faulty] = []
    for kind, key, text in connection.execute("SELECT kind, id, document FROM documents ORDER BY kind, id"):
        try:
            document = json.loads(text)
        except (ValueError, TypeError) as error:
            faulty.append((str(kind), str(key), str(text), f"is no JSON: {error}"))
            continue
        if isinstance(document, dict):
            found.setdefault(kind, {})[key] = document
        else:
            faulty.append((str(kind), str(key), str(text), "is no object"))
    return found, faulty


def data_version(connection: sqlite3.Connection) -> int:
    """A number that changes when another process has written to the file."""
    return int(_pragma(connection, "data_version"))


def fold_in(connection: sqlite3.Connection) -> None:
    """Bring everything from the log beside the file into it."""
    connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")


def copy_database(connection: sqlite3.Connection, target: Path) -> None:
    """Copy the whole database by SQLite's backup call; the copy takes its name only when it is whole."""
    scratch = target.with_name(target.name + ".new")
    scratch.unlink(missing_ok=True)
    copy = sqlite3.connect(scratch)
    try:
        connection.backup(copy)
        copy.execute("PRAGMA journal_mode = DELETE")
    finally:
        copy.close()
    os.replace(scratch, target)


def backup_of(file: Path, version: str) -> Path:
    """Where the state before a migration is kept."""
    return file.with_name(f"{file.name}.before-layout-{version}")
