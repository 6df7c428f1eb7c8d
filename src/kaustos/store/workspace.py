"""Reads and writes a workspace file; each use case is one transaction of portable queries.

The documents, which the first picture waits for, are read without the database toolkit; it is imported on first use.
"""

import contextlib
import functools
import hashlib
import json
import os
import sqlite3
import sys
from collections.abc import Iterable, Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

import attrs

from kaustos import disk
from kaustos.store import copies, sqlite
from kaustos.store.copies import newest_words
from kaustos.store.errors import DamagedWorkspace, Displaced, NotAWorkspace, NotWritable, StoreError
from kaustos.store.lock import WriterLock
from kaustos.store.reader import Scratch, readable_copy

if TYPE_CHECKING:
    from sqlalchemy import Engine


@attrs.frozen(kw_only=True)
class Revision:
    """One saved state of a recipe; it never changes."""

    card: str
    number: int
    status: str
    who: str
    why: str
    saved_utc: str
    polymer: str | None
    machine: str | None
    grade: str
    document: str


@attrs.frozen(kw_only=True)
class HistoryEntry:
    """One edit as it was made."""

    at_utc: str
    who: str
    title: str


@attrs.frozen(kw_only=True)
class StatusEntry:
    """One change of a revision's status."""

    number: int
    status: str
    who: str
    why: str
    at_utc: str


class Store:
    """An open workspace file: one writer, or a reader.

    A reader that cannot read where the file stands (a log that needs a folder that may be written, an older layout)
    reads a copy of it, as it does where ``in_place`` is off. ``lock`` hands over a lock that the caller holds.
    """

    def __init__(self, file: Path, *, write: bool, lock: WriterLock | None = None, in_place: bool = True) -> None:
        self.file, self.write, self._in_place = file, write, in_place
        self._is_closed = False
        self._scratch: Scratch | None = None
        self._lock = WriterLock(file) if write and lock is None else None
        try:
            with _offering_backup(file):
                self._connection = self._connected()
            try:
                if write:
                    copies.clear_left(file.parent)
                    self._bring_up()
                self._remember_place()
            except BaseException:
                self._connection.close()
                raise
        except BaseException:
            self._let_go()
            raise

    def _bring_up(self) -> None:
        """Bring the file to the present layout; what it was before is kept beside it."""
        version = sqlite.layout(self._connection)
        if version == sqlite.HEAD:
            return
        from kaustos.store.engine import migrate

        if version is not None:
            copies.copy_under(self._connection, copies.before_layout(self.file, version))
        migrate(self._connection, self.file)

    def _connected(self) -> sqlite3.Connection:
        if self.write:
            return sqlite.connect(self.file, write=True)
        if self._in_place:
            try:
                connection = sqlite.connect(self.file, write=False)
                if sqlite.layout(connection) == sqlite.HEAD:
                    return connection
                connection.close()
            except NotWritable:
                pass  # a log beside it asks for a folder that may be written
        connection, self._scratch = readable_copy(self.file)
        return connection

    @property
    def is_copy(self) -> bool:
        """Whether a copy is read, since the file cannot be read in its place."""
        return self._scratch is not None

    def _let_go(self) -> None:
        if self._scratch:
            self._scratch.cleanup()
        if self._lock:
            self._lock.release()
            self._lock = None

    def _remember_place(self) -> None:
        """What the name leads to, and which state of it, as far as we wrote it ourselves."""
        self._place = _place_of(self.file)
        self._known_version = sqlite.data_version(self._connection)

    def _check_place(self) -> None:
        """Refuse to write where the name leads elsewhere, or somebody else has written."""
        place = _place_of(self.file)
        if place is None:
            raise Displaced(
                str(self.file), "was deleted or moved while it was open; nothing was written. " + _ANEW + "."
            )
        if place != self._place:
            raise Displaced(
                str(self.file),
                "was replaced by another file while it was open; nothing was written. " + _ANEW + _BESIDE,
            )
        if self._lock and not self._lock.is_held():
            self._lock_again()
        if sqlite.data_version(self._connection) != self._known_version:
            raise Displaced(
                str(self.file),
                "was written by another program while it was open; nothing was written. " + _ANEW + _BESIDE,
            )

    @property
    def is_displaced(self) -> bool:
        """Whether the name leads elsewhere by now, or somebody else has written."""
        try:
            self._check_place()
        except Displaced:
            return True
        except StoreError:
            return False
        return False

    def _lock_again(self) -> None:
        """Take the right to write again after the lock file was deleted; where another has taken it, that is told."""
        again = WriterLock(self.file)
        if self._lock:
            self._lock.release()
        self._lock = again

    def write_anew(self) -> Path | None:
        """Put what is open under its name again; where what stood there is now, None for nothing."""
        if not self.write:
            raise StoreError(str(self.file), "is open for reading only; nothing was written")
        if self._lock and not self._lock.is_held():
            self._lock_again()
        place, kept = _place_of(self.file), None
        scratch = copies.free_name(self.file, "anew")
        copies.copy_under(self._connection, scratch)
        if place is not None:
            kept = copies.move_aside(self.file)
        self._connection.close()
        disk.put_in_place(scratch, self.file)
        self._connection = sqlite.connect(self.file, write=True)
        self.__dict__.pop("_engine", None)
        self._remember_place()
        return kept

    @functools.cached_property
    def _engine(self) -> "Engine":
        from kaustos.store.engine import engine_on

        return engine_on(self._connection, write=self.write)

    def close(self) -> None:
        """Fold the log in and let others write; once is enough."""
        if self._is_closed:
            return
        self._is_closed = True
        if self.write:
            # a log that cannot be folded in now (a full disk) stays beside the file, whole; the next writer does it
            with contextlib.suppress(sqlite3.OperationalError):
                sqlite.fold_in(self._connection)
        self._connection.close()
        self._let_go()

    @contextlib.contextmanager
    def _reading(self) -> Iterator[Any]:
        """A reading connection of the toolkit; a fault of the file becomes one sentence that names it."""
        from sqlalchemy.exc import DBAPIError

        try:
            with self._engine.connect() as connection, sqlite.bounded(self._connection, self.file):
                yield connection
        except DBAPIError as error:
            words = f"cannot be read ({error.orig}); it was left as it is"
            raise DamagedWorkspace(str(self.file), words + newest_words(self.file)) from error

    # ---- documents

    def documents(self) -> sqlite.Documents:
        """All documents, by kind and id, those that are none left out."""
        return sqlite.sorted_out(self.stored())[0]

    def stored(self, *, of: str = "", but: str = "") -> list[sqlite.Stored]:
        """Documents of one kind, or of all but one, as they stand in the file."""
        with _offering_backup(self.file):
            return sqlite.stored_documents(self._connection, self.file, of=of, but=but)

    def put_documents(
        self, found: Iterable[tuple[str, str, dict[str, Any] | None]], now: str, edits: Iterable[dict[str, str]] = ()
    ) -> None:
        """Write documents (kind, id, document; None takes one away) and the edits that led to them, all or none."""
        from sqlalchemy import and_, bindparam, delete, insert

        from kaustos.store.tables import documents, history

        every, entries = list(found), list(edits)
        rows = [
            {"kind": kind, "id": key, "document": _text(document), "changed_utc": now}
            for kind, key, document in every
            if document is not None
        ]
        with _Transaction(self) as connection:
            if every:
                which = and_(documents.c.kind == bindparam("of_kind"), documents.c.id == bindparam("of_id"))
                places = [{"of_kind": kind, "of_id": key} for kind, key, _ in every]
                connection.execute(delete(documents).where(which), places)
            if rows:
                connection.execute(insert(documents), rows)
            if entries:
                connection.execute(insert(history), entries)

    # ---- revisions

    def add_revision(self, revision: Revision) -> None:
        """Save one revision."""
        self.add_revisions((revision,))

    def add_revisions(self, found: Iterable[Revision]) -> None:
        """Save revisions, all or none."""
        from sqlalchemy import insert

        from kaustos.store.tables import revisions, statuses

        rows = list(found)
        with _Transaction(self) as connection:
            connection.execute(insert(revisions), [attrs.asdict(each) for each in rows])
            connection.execute(insert(statuses), [_status_row(each) for each in rows])

    def set_status(self, card: str, number: int, entry: StatusEntry) -> None:
        """Give a revision another status, with who, when and why."""
        from sqlalchemy import insert, update

        from kaustos.store.tables import revisions, statuses

        row = attrs.asdict(entry) | {"card": card, "number": number}
        with _Transaction(self) as connection:
            which = (revisions.c.card == card, revisions.c.number == number)
            connection.execute(update(revisions).where(*which).values(status=entry.status))
            connection.execute(insert(statuses), [row])

    def statuses(self, card: str) -> tuple[StatusEntry, ...]:
        """All changes of status of a recipe's revisions, the newest first."""
        from sqlalchemy import select

        from kaustos.store.tables import statuses

        names = [field.name for field in attrs.fields(StatusEntry)]
        query = select(*(statuses.c[name] for name in names)).where(statuses.c.card == card)
        with self._reading() as connection:
            rows = connection.execute(query.order_by(statuses.c.id.desc()))
            return tuple(StatusEntry(**row._mapping) for row in rows)

    def revisions(self, card: str) -> tuple[Revision, ...]:
        """All revisions of a recipe, newest first."""
        from sqlalchemy import select

        from kaustos.store.tables import revisions

        names = [field.name for field in attrs.fields(Revision)]
        columns = [revisions.c[name] for name in names]
        query = select(*columns).where(revisions.c.card == card).order_by(revisions.c.number.desc())
        with self._reading() as connection:
            return tuple(Revision(**row._mapping) for row in connection.execute(query))

    def released(self) -> dict[str, str]:
        """The document of the newest released revision of every recipe that has one, by recipe."""
        from sqlalchemy import select

        from kaustos.store.tables import revisions

        query = select(revisions.c.card, revisions.c.document).where(revisions.c.status == "released")
        with self._reading() as connection:
            return {row.card: row.document for row in connection.execute(query.order_by(revisions.c.number))}

    def kept_revisions(self) -> frozenset[tuple[str, float]]:
        """Recipe and number of every revision."""
        from sqlalchemy import select

        from kaustos.store.tables import revisions

        with self._reading() as connection:
            rows = connection.execute(select(revisions.c.card, revisions.c.number))
            return frozenset((card, float(number)) for card, number in rows)

    # ---- attachments

    def attach(self, name: str, content: bytes, now: str) -> str:
        """Keep a file; its fingerprint is its name here."""
        from sqlalchemy import insert, select

        from kaustos.store.tables import attachments

        key = hashlib.sha256(content).hexdigest()
        row = {"sha256": key, "name": name, "content": content, "added_utc": now}
        with _Transaction(self) as connection:
            if connection.execute(select(attachments.c.sha256).where(attachments.c.sha256 == key)).first() is None:
                connection.execute(insert(attachments), [row])
        return key

    def attachment(self, key: str) -> bytes | None:
        """The content of a kept file, None where it is not there."""
        from sqlalchemy import select

        from kaustos.store.tables import attachments

        query = select(attachments.c.content).where(attachments.c.sha256 == key)
        with self._reading() as connection:
            found: bytes | None = connection.execute(query).scalar()
        return found

    # ---- copies and watching

    def copy_to(self, target: Path, lock: WriterLock | None = None) -> None:
        """Write a copy of the whole workspace."""
        if target.exists() and self.file.exists() and target.samefile(self.file) and lock is None:
            raise StoreError(str(target), "is the open workspace itself; choose another name")
        copies.copy_under(self._connection, target, lock)

    def version(self) -> int:
        """A number that changes when another process has written to the file."""
        return sqlite.data_version(self._connection)

    def history(self, limit: int = 200) -> tuple[HistoryEntry, ...]:
        """The latest edits, newest first."""
        from sqlalchemy import select

        from kaustos.store.tables import history

        query = select(history.c.at_utc, history.c.who, history.c.title).order_by(history.c.id.desc()).limit(limit)
        with self._reading() as connection:
            return tuple(HistoryEntry(**row._mapping) for row in connection.execute(query))


_ANEW = "Write the workspace anew puts what is open under its name again"
_BESIDE = " and keeps beside it what stands there."


@contextlib.contextmanager
def _offering_backup(file: Path) -> Iterator[None]:
    """Where a file cannot be read, say which backup of it is the newest."""
    try:
        yield
    except (DamagedWorkspace, NotAWorkspace) as fault:
        raise type(fault)(fault.file, fault.problem + newest_words(file)) from fault


def _place_of(file: Path) -> tuple[int, int] | None:
    """Which file a name leads to, None where it leads nowhere."""
    try:
        found = os.stat(file)
    except OSError:
        return None
    return found.st_dev, found.st_ino


def _status_row(revision: Revision) -> dict[str, Any]:
    return {
        "card": revision.card, "number": revision.number, "status": revision.status, "who": revision.who,
        "why": revision.why, "at_utc": revision.saved_utc,
    }  # fmt: skip


class _Transaction:
    """One writing transaction; a fault of the file becomes a message that names it."""

    def __init__(self, store: Store) -> None:
        self._store = store

    def __enter__(self) -> Any:
        if not self._store.write:
            raise StoreError(str(self._store.file), "is open for reading only; nothing was written")
        from sqlalchemy.exc import DBAPIError

        self._begun = self._store._engine.begin()
        try:
            found = self._begun.__enter__()
        except DBAPIError as error:
            raise self._fault(error) from error
        try:
            self._store._check_place()
        except BaseException:
            self._begun.__exit__(*sys.exc_info())
            raise
        return found

    def __exit__(self, kind: Any, error: Any, trace: Any) -> None:
        from sqlalchemy.exc import DBAPIError

        try:
            self._begun.__exit__(kind, error, trace)
        except DBAPIError as fault:
            raise self._fault(fault) from fault
        if isinstance(error, DBAPIError):
            raise self._fault(error) from error

    def _fault(self, error: Any) -> StoreError:
        what = "the disk is full" if "full" in str(error.orig) else str(error.orig)
        kind = (
            "could not be written" if isinstance(error.orig, sqlite3.OperationalError) else "refused what was written"
        )
        return StoreError(str(self._store.file), f"{kind}: {what}. What was saved before is untouched.")


def _text(document: dict[str, Any]) -> str:
    return json.dumps(document, ensure_ascii=False, allow_nan=False)
