"""The one way into a workspace file, and all that is SQLite's own: opening, checks, pragmas, watching, folding in.

The database toolkit takes the connection that is made here; what is read before the first picture goes without it.
A file may come from anybody: what is read of it is bounded, and its schema runs nothing.
"""

import glob
import json
import os
import sqlite3
import stat
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from urllib.parse import quote

from kaustos.store.errors import DamagedWorkspace, NewerWorkspace, NotAWorkspace, NotWritable, StoreError

APPLICATION_ID = 0x4B415553  # "KAUS", stands in the header of every workspace file
HEAD = "0002"
_FIRST = {
    "alembic_version": "version_num",
    "documents": "kind id document changed_utc",
    "revisions": "id card number status who why saved_utc polymer machine grade document",
    "history": "id at_utc who title changes revision",
}
_SECOND = _FIRST | {
    "attachments": "sha256 name content added_utc",
    "statuses": "id card number status who why at_utc",
}
LAYOUTS = {"0001": _FIRST, "0002": _SECOND}  # the tables of each with their columns
_INDEXES = {"history_by_time", "statuses_by_revision"}
_WRITER = ("journal_mode = WAL", "synchronous = FULL", "busy_timeout = 5000")
_CHECKS = ("trusted_schema = OFF", "cell_size_check = ON", "foreign_keys = ON")

LONGEST = 64_000_000  # bytes of one cell; photos and part files hold 25,000,000, documents less
_LIMITS = {
    sqlite3.SQLITE_LIMIT_LENGTH: LONGEST + 1_000_000,
    sqlite3.SQLITE_LIMIT_SQL_LENGTH: 200_000,
    sqlite3.SQLITE_LIMIT_EXPR_DEPTH: 100,
    sqlite3.SQLITE_LIMIT_COMPOUND_SELECT: 20,
    sqlite3.SQLITE_LIMIT_ATTACHED: 0,
    sqlite3.SQLITE_LIMIT_TRIGGER_DEPTH: 1,
}
_STEPS_AT_ONCE = 100_000
_LEAST_STEPS, _STEPS_PER_BYTE = 20_000_000, 10  # reading takes about 10 steps a row, and a row takes 10 bytes and more


def connect(file: Path, *, write: bool) -> sqlite3.Connection:
    """A checked connection to a workspace file, made anew where it is missing and ``write`` is on.

    The name is quoted whole, so that no sign in it leads to another file. BEGIN is ours to send.
    """
    _check_place(file, write=write)
    uri = f"file:{quote(os.fsencode(file.absolute()))}?mode={'rwc' if write else 'ro'}"
    try:
        connection = sqlite3.connect(uri, uri=True, timeout=5.0, isolation_level=None, check_same_thread=False)
    except sqlite3.Error as error:
        raise _fault(file, error) from error
    try:
        with told(file), bounded(connection, file):
            _prepare(connection, file, write=write)
    except BaseException:
        connection.close()
        raise
    return connection


def _check_place(file: Path, *, write: bool) -> None:
    try:
        found = os.stat(file)
    except FileNotFoundError:
        if not write:
            raise NotAWorkspace(str(file), "there is no such file") from None
        return
    except (OSError, ValueError) as error:
        raise NotAWorkspace(str(file), f"cannot be opened ({error})") from error
    if not stat.S_ISREG(found.st_mode):
        raise NotAWorkspace(str(file), "is a folder, pipe or device, not a workspace file")
    if not found.st_size and not list(file.parent.glob(f"{glob.escape(file.name)}-wal")):
        raise NotAWorkspace(str(file), "is empty; delete it to begin a workspace there, or bring back a copy")
    if write and not os.access(file, os.W_OK, effective_ids=True):
        raise NotWritable(str(file), "could not be written: the file may only be read")


def _prepare(connection: sqlite3.Connection, file: Path, *, write: bool) -> None:
    for limit, most in _LIMITS.items():
        connection.setlimit(limit, most)
    connection.text_factory = _text_of
    for pragma in _CHECKS:
        connection.execute(f"PRAGMA {pragma}")
    if not is_empty(connection):
        _check_schema(connection, file)
    elif not write:
        raise NotAWorkspace(str(file), "is empty")
    elif _pragma(connection, "page_count") > 1 or _pragma(connection, "application_id"):
        raise DamagedWorkspace(str(file), "holds something, but none of its tables; it was left as it is")
    for pragma in _WRITER if write else ():
        connection.execute(f"PRAGMA {pragma}")


def _check_schema(connection: sqlite3.Connection, file: Path) -> None:
    """Layout first: newer and older files are not damaged. Then only the tables of its layout, nothing that runs."""
    if _pragma(connection, "application_id") != APPLICATION_ID:
        raise NotAWorkspace(str(file), "is a database, but not a Kaustos workspace")
    version = layout(connection)
    tables = LAYOUTS.get(version or "")
    if tables is None:
        raise NewerWorkspace(str(file), f"was written by a newer version of Kaustos (layout {version!s:.20})")
    found = connection.execute("SELECT type, name, sql FROM sqlite_master").fetchall()
    odd = [f"{kind} {name}" for kind, name, sql in found if not _is_ours(kind, name, sql, tables)]
    missing = tables.keys() - {name for kind, name, _ in found if kind == "table"}
    if odd or missing:
        what = f"holds {odd[0]!s:.60}, which is none of ours" if odd else f"lacks the table {min(missing)}"
        raise DamagedWorkspace(str(file), f"{what}; it was left as it is")
    for name, columns in tables.items():
        rows = connection.execute(f"PRAGMA table_xinfo({name})").fetchall()
        if [row[1] for row in rows] != columns.split() or any(row[6] for row in rows):
            raise DamagedWorkspace(str(file), f"its table {name} has other columns than ours; it was left as it is")


def _is_ours(kind: str, name: str, sql: str | None, tables: dict[str, str]) -> bool:
    if str(name).startswith("sqlite_"):
        return kind in ("table", "index") and "VIRTUAL" not in str(sql).upper()
    if kind == "table":
        return name in tables and str(sql).lstrip().upper().startswith("CREATE TABLE")
    return kind == "index" and name in _INDEXES


def _text_of(raw: bytes) -> str:
    """Text as it is stored; bytes that are none are spelled out, so that one bad cell closes nothing."""
    return raw.decode("utf-8", "backslashreplace")


@contextmanager
def told(file: Path) -> Iterator[None]:
    """Faults of SQLite while reading, as one sentence that names the file."""
    try:
        yield
    except (sqlite3.Error, UnicodeDecodeError) as error:  # its own words may repeat bytes of the file that are no text
        raise _fault(file, error) from error


@contextmanager
def bounded(connection: sqlite3.Connection, file: Path) -> Iterator[None]:
    """Hold what is read of a file within what a file of its size can take: pages that lead in circles end."""
    left = (_LEAST_STEPS + _STEPS_PER_BYTE * size_of(file)) // _STEPS_AT_ONCE
    is_over = False

    def step() -> bool:
        nonlocal left, is_over
        left -= 1
        is_over, was_over = left < 0, is_over
        return is_over and not was_over  # once: what rolls back after it must not be stopped too

    connection.set_progress_handler(step, _STEPS_AT_ONCE)
    try:
        yield
    finally:
        connection.set_progress_handler(None, 0)


def size_of(file: Path) -> int:
    """Bytes of a workspace with its log; 0 where it is not there."""
    return sum(each.stat().st_size for each in (file, log_of(file)) if each.exists())


def log_of(file: Path) -> Path:
    """The log beside a workspace: what was written and is not folded in yet."""
    return file.with_name(file.name + "-wal")


def index_of(file: Path) -> Path:
    """The index of the log."""
    return file.with_name(file.name + "-shm")


def _fault(file: Path, error: Exception) -> StoreError:
    words = " ".join(str(error).split()) if isinstance(error, sqlite3.Error) else "its schema is no text"
    if "not a database" in words:
        return NotAWorkspace(str(file), "is not a Kaustos workspace")
    if "unable to open" in words or "readonly" in words:
        return NotWritable(str(file), f"could not be opened: {words}")
    return DamagedWorkspace(str(file), f"cannot be read ({words}); it was left as it is")


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
Documents = dict[str, dict[str, dict[str, Any]]]  # by kind and id


Stored = tuple[Any, Any, Any]  # kind, id and text as they stand in the file


def stored_documents(connection: sqlite3.Connection, file: Path, *, of: str = "", but: str = "") -> list[Stored]:
    """The documents of one kind, or of all but one, as they stand; without the toolkit, the first picture waits."""
    found: list[Stored] = []
    left = 2 * size_of(file) + 1_000_000  # signs: more than the file holds stand there only where pages are shared
    query = "SELECT kind, id, document FROM documents WHERE kind = ? OR (? = '' AND kind <> ?) ORDER BY kind, id"
    with told(file), bounded(connection, file):
        for row in connection.execute(query, (of, of, but)):
            left -= len(row[2]) if isinstance(row[2], str | bytes) else 0
            if left < 0:
                raise DamagedWorkspace(str(file), "its records lead in circles; it was left as it is")
            found.append(row)
    return found


def sorted_out(rows: Iterable[Stored]) -> tuple[Documents, list[Faulty]]:
    """Documents by kind and id, and texts that are none."""
    found: Documents = {}
    faulty: list[Faulty] = []
    for kind, key, text in rows:
        fault, document = _document(kind, key, text)
        if fault:
            faulty.append((str(kind), str(key), text if isinstance(text, str) else repr(text), fault))
        else:
            found.setdefault(kind, {})[key] = document
    return found, faulty


def _document(kind: Any, key: Any, text: Any) -> tuple[str, dict[str, Any]]:
    """What is wrong with a row, empty for nothing, and its document."""
    if not (isinstance(kind, str) and isinstance(key, str) and isinstance(text, str)):
        return "is no text under an id", {}
    try:
        document = json.loads(text)
    except (ValueError, RecursionError) as error:
        return f"is no JSON: {error}", {}
    return ("", document) if isinstance(document, dict) else ("is no object", {})


def data_version(connection: sqlite3.Connection) -> int:
    """A number that changes when another process has written to the file."""
    return int(_pragma(connection, "data_version"))


def fold_in(connection: sqlite3.Connection) -> None:
    """Bring everything from the log beside the file into it."""
    connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")


def check_whole(connection: sqlite3.Connection, file: Path) -> None:
    """Refuse a file whose pages do not fit together."""
    with told(file):
        found = str(_pragma(connection, "quick_check(1)"))
    if found != "ok":
        raise DamagedWorkspace(str(file), f"is damaged ({found.splitlines()[-1]:.80})")
