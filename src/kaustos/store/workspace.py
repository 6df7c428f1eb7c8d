"""Reads and writes a workspace file; each use case is one transaction."""

import hashlib
import json
import sqlite3
from collections.abc import Iterable
from pathlib import Path
from typing import Any

import attrs
from sqlalchemy import delete, insert, select, update
from sqlalchemy.dialects.sqlite import insert as upsert
from sqlalchemy.exc import DatabaseError, OperationalError

from kaustos.store.engine import copy_database, open_engine
from kaustos.store.errors import StoreError
from kaustos.store.lock import WriterLock
from kaustos.store.tables import attachments, documents, history, revisions, statuses


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
    """An open workspace file: one writer, or a reader."""

    def __init__(self, file: Path, *, write: bool) -> None:
        self.file, self.write = file, write
        self._lock = WriterLock(file) if write else None
        try:
            self._engine = open_engine(file, write=write)
        except BaseException:
            if self._lock:
                self._lock.release()
            raise

    def close(self) -> None:
        """Fold the log in and let others write."""
        if self.write:
            with self._engine.connect() as connection:
                connection.rollback()
                connection.connection.cursor().execute("PRAGMA wal_checkpoint(TRUNCATE)")
        self._engine.dispose()
        if self._lock:
            self._lock.release()
            self._lock = None

    # ---- documents

    def documents(self, kind: str) -> dict[str, dict[str, Any]]:
        """All documents of a kind, by id."""
        with self._engine.connect() as connection:
            rows = connection.execute(select(documents.c.id, documents.c.document).where(documents.c.kind == kind))
            return {row.id: json.loads(row.document) for row in rows}

    def put_documents(
        self, found: Iterable[tuple[str, str, dict[str, Any] | None]], now: str, edits: Iterable[dict[str, str]] = ()
    ) -> None:
        """Write documents (kind, id, document; None takes one away) and the edits that led to them, all or none."""
        every = list(found)
        rows = [
            {"kind": kind, "id": key, "document": _text(document), "changed_utc": now}
            for kind, key, document in every
            if document is not None
        ]
        entries = list(edits)
        with _Transaction(self) as connection:
            if rows:
                statement = upsert(documents)
                changed = {name: statement.excluded[name] for name in ("document", "changed_utc")}
                connection.execute(statement.on_conflict_do_update(index_elements=["kind", "id"], set_=changed), rows)
            for kind, key, document in every:
                if document is None:
                    connection.execute(delete(documents).where(documents.c.kind == kind, documents.c.id == key))
            if entries:
                connection.execute(insert(history), entries)

    # ---- revisions

    def add_revision(self, revision: Revision) -> None:
        """Save one revision."""
        with _Transaction(self) as connection:
            connection.execute(insert(revisions), [attrs.asdict(revision)])
            connection.execute(insert(statuses), [_status_row(revision)])

    def set_status(self, card: str, number: int, entry: StatusEntry) -> None:
        """Give a revision another status, with who, when and why."""
        row = attrs.asdict(entry) | {"card": card, "number": number}
        with _Transaction(self) as connection:
            which = (revisions.c.card == card, revisions.c.number == number)
            connection.execute(update(revisions).where(*which).values(status=entry.status))
            connection.execute(insert(statuses), [row])

    def statuses(self, card: str) -> tuple[StatusEntry, ...]:
        """All changes of status of a recipe's revisions, the newest first."""
        names = [field.name for field in attrs.fields(StatusEntry)]
        query = select(*(statuses.c[name] for name in names)).where(statuses.c.card == card)
        with self._engine.connect() as connection:
            rows = connection.execute(query.order_by(statuses.c.id.desc()))
            return tuple(StatusEntry(**row._mapping) for row in rows)

    def revisions(self, card: str) -> tuple[Revision, ...]:
        """All revisions of a recipe, newest first."""
        names = [field.name for field in attrs.fields(Revision)]
        columns = [revisions.c[name] for name in names]
        query = select(*columns).where(revisions.c.card == card).order_by(revisions.c.number.desc())
        with self._engine.connect() as connection:
            return tuple(Revision(**row._mapping) for row in connection.execute(query))

    # ---- attachments

    def attach(self, name: str, content: bytes, now: str) -> str:
        """Keep a file; its fingerprint is its name here."""
        key = hashlib.sha256(content).hexdigest()
        row = {"sha256": key, "name": name, "content": content, "added_utc": now}
        with _Transaction(self) as connection:
            statement = upsert(attachments).on_conflict_do_nothing(index_elements=["sha256"])
            connection.execute(statement, [row])
        return key

    def attachment(self, key: str) -> bytes | None:
        """The content of a kept file, None where it is not there."""
        query = select(attachments.c.content).where(attachments.c.sha256 == key)
        with self._engine.connect() as connection:
            return connection.execute(query).scalar()

    # ---- copies and watching

    def copy_to(self, target: Path) -> None:
        """Write a copy of the whole workspace."""
        if target.exists() and target.samefile(self.file):
            raise StoreError(str(target), "is the open workspace itself; choose another name")
        try:
            copy_database(self._engine, target)
        except (sqlite3.Error, DatabaseError) as error:
            raise StoreError(str(target), f"the copy could not be written: {error}") from error

    def version(self) -> int:
        """A number that changes when another process has written to the file."""
        with self._engine.connect() as connection:
            return int(connection.exec_driver_sql("PRAGMA data_version").scalar() or 0)

    def history(self, limit: int = 200) -> tuple[HistoryEntry, ...]:
        """The latest edits, newest first."""
        query = select(history.c.at_utc, history.c.who, history.c.title).order_by(history.c.id.desc()).limit(limit)
        with self._engine.connect() as connection:
            return tuple(HistoryEntry(**row._mapping) for row in connection.execute(query))


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
        self._begun = self._store._engine.begin()
        try:
            return self._begun.__enter__()
        except DatabaseError as error:
            raise self._fault(error) from error

    def __exit__(self, kind: Any, error: Any, trace: Any) -> None:
        try:
            self._begun.__exit__(kind, error, trace)
        except DatabaseError as fault:
            raise self._fault(fault) from fault
        if isinstance(error, DatabaseError):
            raise self._fault(error) from error

    def _fault(self, error: DatabaseError) -> StoreError:
        what = "the disk is full" if "full" in str(error.orig) else str(error.orig)
        kind = "could not be written" if isinstance(error, OperationalError) else "refused what was written"
        return StoreError(str(self._store.file), f"{kind}: {what}. What was saved before is untouched.")


def _text(document: dict[str, Any]) -> str:
    return json.dumps(document, ensure_ascii=False, allow_nan=False)
