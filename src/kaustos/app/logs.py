"""Entries of the logs of records: added in the order of their moments, taken out again; one edit each."""

from datetime import datetime
from typing import Any

from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.records import Place


def add_entry(workspace: Workspace, log: Place, entry: Any, title: str) -> None:
    """Put an entry into a log where its moment belongs; one that lies ahead is refused."""
    if entry.at_utc > stamp(workspace.clock()):
        raise KaustosError("That moment lies ahead; log it when it is done.")
    workspace.draft.set({log: _in_order((*_entries(workspace, log), entry))}, title=title)


def drop_entry(workspace: Workspace, log: Place, place: int, title: str) -> None:
    """Take an entry out of a log: it never was, or was misread."""
    kept = tuple(each for at, each in enumerate(_entries(workspace, log)) if at != place)
    workspace.draft.set({log: kept}, title=title)


def moment_of(workspace: Workspace, typed: datetime | None) -> str:
    """The moment that is logged: the one that is typed, else now."""
    return stamp(typed or workspace.clock())


def _entries(workspace: Workspace, log: Place) -> tuple[Any, ...]:
    found = workspace.draft.value(log)
    assert isinstance(found, tuple), "a log is a list of entries"
    return found


def _in_order(entries: tuple[Any, ...]) -> tuple[Any, ...]:
    return tuple(sorted(entries, key=lambda each: str(each.at_utc)))
