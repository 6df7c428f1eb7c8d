"""Records as the workspace file holds them: read one by one, so that what cannot be read closes nothing else.

The log grows without end and the first picture needs none of it: it is read when it is wanted.
"""

import itertools
import json
import logging
import math
import time
from collections.abc import Callable, ItemsView, Iterable, Iterator, Mapping, ValuesView
from types import MappingProxyType
from typing import Any

import attrs

from kaustos.app.records import Records
from kaustos.core.errors import KaustosError
from kaustos.core.records import BY_ONE, KINDS, Kind, RecipeCard, Rules
from kaustos.formats.recipe_file import RecipeDocument, recipe_document, recipe_from
from kaustos.formats.records import from_document, to_document
from kaustos.store import Store, Stored, sorted_out

Row = tuple[str, str, dict[str, Any] | None]  # kind, id, document; None takes it away


@attrs.frozen
class Unread:
    """A stored record that cannot be read: it stays in the file as it is, and can be written out."""

    kind: str
    key: str
    text: str
    fault: str


class Reading:
    """Records of one kind as they are read, and those that cannot be."""

    def __init__(self, kind: Kind) -> None:
        self._kind = kind
        self.found: dict[str, Any] = {}
        self.unread: list[Unread] = []

    def take(self, rows: Iterable[Stored]) -> None:
        """Read rows of the file."""
        documents, no_json = sorted_out(rows)
        self.unread += [Unread(*each) for each in no_json]
        self.take_documents(documents.get(self._kind.one, {}))

    def take_documents(self, documents: Mapping[str, dict[str, Any]]) -> None:
        """Read documents by their ids."""
        for key, document in documents.items():
            try:
                self.found[key] = _record(self._kind, key, document)
            except KaustosError as fault:
                self.unread.append(_unread(self._kind.one, key, document, str(fault)))
            except Exception as fault:
                logging.getLogger("kaustos").exception("%s %s cannot be read", self._kind.one, key)
                self.unread.append(_unread(self._kind.one, key, document, f"{type(fault).__name__}: {fault}"))


class Late(Mapping[str, Any]):
    """Records of one kind that are read when they are first asked for, or a slice at a time before that.

    What the first picture needs is read at once and handed over as ``first``.
    """

    SLICE_S, ROWS = 0.012, 40

    def __init__(
        self, kind: Kind, rows: Callable[[], Iterable[Stored]], first: Mapping[str, Any] = MappingProxyType({})
    ) -> None:
        self._rows_of, self._first = rows, first
        self._rows: Iterator[Stored] | None = None
        self._reading = Reading(kind)
        self.is_read = False

    @property
    def unread(self) -> tuple[Unread, ...]:
        """Those that cannot be read, as far as they have been tried."""
        return tuple(self._reading.unread)

    @property
    def at_hand(self) -> Mapping[str, Any]:
        """Those that are read already."""
        return {**self._first, **self._reading.found}

    def read_some(self) -> bool:
        """Read for a slice of time; whether all is read."""
        until = time.perf_counter() + self.SLICE_S
        while not self.is_read and time.perf_counter() < until:
            self._read_rows(self.ROWS)
        return self.is_read

    def _read_rows(self, count: int | None) -> None:
        if self._rows is None:
            self._rows = iter(self._rows_of())
        rows = list(itertools.islice(self._rows, count))
        self._reading.take(rows)
        self._reading.found.update((key, each) for key, each in self._first.items() if key in self._reading.found)
        self.is_read = len(rows) < (count or math.inf)
        if self.is_read:
            self._rows, self._rows_of = None, tuple  # the texts are not kept beside what they say

    def _all(self) -> dict[str, Any]:
        if not self.is_read:
            self._read_rows(None)
        return self._reading.found

    def __getitem__(self, key: str) -> Any:
        return self._first[key] if key in self._first else self._all()[key]

    def values(self) -> ValuesView[Any]:
        """The records."""
        return self._all().values()

    def items(self) -> ItemsView[str, Any]:
        """The records with their ids."""
        return self._all().items()

    def get(self, key: str, default: Any = None) -> Any:
        """The record of an id, the default where there is none."""
        if key in self._first:
            return self._first[key]
        return self._all().get(key, default) if key else default  # nothing is chosen under no id

    def __contains__(self, key: object) -> bool:
        return key in self._first or key in self._all()

    def __iter__(self) -> Iterator[str]:
        return iter(self._all())

    def __len__(self) -> int:
        return len(self._all())

    def __reversed__(self) -> Iterator[str]:
        return reversed(self._all())


LATE = ("runs", "cards", "lots")  # kinds of which the first picture needs one record or none


def read_store(store: Store) -> tuple[Records, tuple[Unread, ...]]:
    """All records that can be read, and those that cannot; what the first picture does not need is read later."""
    rows: dict[str, list[Stored]] = {"card": [], "lot": [], "": []}
    for row in store.stored(but="run"):
        rows[row[0] if row[0] in rows else ""].append(row)
    documents, no_json = sorted_out(rows[""])
    unread = [Unread(*each) for each in no_json]
    shop = documents.pop("shop", {}).get("shop", {})
    tables: dict[str, Mapping[str, Any]] = {}
    for kind in KINDS:
        if kind.many not in LATE:
            reading = Reading(kind)
            reading.take_documents(documents.pop(kind.one, {}))
            tables[kind.many], unread = reading.found, [*unread, *reading.unread]
    card = _one_of("card", rows["card"], shop.get("current"))
    lot = _one_of("lot", rows["lot"], next((each.lot for each in card.values()), None))
    tables["cards"] = Late(BY_ONE["card"], lambda: rows["card"], card)
    tables["lots"] = Late(BY_ONE["lot"], lambda: rows["lot"], lot)
    tables["runs"] = Late(BY_ONE["run"], lambda: store.stored(of="run"))
    try:
        rules = from_document(Rules, shop.get("rules", {}), "rules")
    except KaustosError as fault:
        rules = Rules()
        unread.append(_unread("shop", "shop", shop, str(fault)))
    current = shop.get("current")
    if current not in tables["cards"]:
        current = next(iter(tables["cards"]), None)
    return Records(tables=tables, rules=rules, current=current, foreign=documents), tuple(unread)


def _one_of(kind: str, rows: Iterable[Stored], key: object) -> dict[str, Any]:
    """The record of an id alone; none where there is none, or it cannot be read."""
    reading = Reading(BY_ONE[kind])
    reading.take(row for row in rows if row[1] == key)
    return reading.found


def read_whole(store: Store) -> tuple[Records, tuple[Unread, ...]]:
    """The same with nothing left to be read later: for a store that is closed at once."""
    records, unread = read_store(store)
    late = [table for name in LATE if isinstance(table := records.tables[name], Late)]
    for table in late:
        len(table)
    return records, (*unread, *(each for table in late for each in table.unread))


def _unread(kind: str, key: str, document: Any, fault: str) -> Unread:
    return Unread(kind, key, json.dumps(document, ensure_ascii=False, indent=1), fault)


def unread_words(unread: tuple[Unread, ...]) -> str:
    """Which records could not be read, and what becomes of them; empty where all were."""
    if not unread:
        return ""
    first = unread[0]
    more = f", and {len(unread) - 1} more" if len(unread) > 1 else ""
    return (
        f"The {first.kind} “{first.key}” cannot be read ({first.fault}){more}. It is left in the file as it is, "
        "the rest is open; Write tables puts its text beside the tables."
    )


def _record(kind: Kind, key: str, document: dict[str, Any]) -> Any:
    """A record as it is stored; a recipe is stored as its document, with ids of what is chosen for it."""
    if kind.record is not RecipeCard:
        return from_document(kind.record, document, f"{kind.one} {key}")
    found = recipe_from(document, f"recipe {key}")
    chosen = {one: each if isinstance(each, str) else each.id for one, each in found.chosen.items()}
    extra = {name: each for name, each in found.extra_context.items() if name != "retired"}
    retired = bool(found.extra_context.get("retired"))
    return RecipeCard(recipe=found.recipe, chosen=chosen, retired=retired, extra=extra, beside=found.beside)


def changed(before: Records, after: Records) -> list[Row]:
    """Documents that differ, as kind, id and document; None for a record that is no longer there."""
    rows: list[Row] = []
    for kind in KINDS:
        old, new = before.tables[kind.many], after.tables[kind.many]
        if old is not new:
            rows += [(kind.one, key, document_of(each)) for key, each in new.items() if old.get(key) is not each]
            rows += [(kind.one, key, None) for key in old if key not in new]
    for word, table in after.foreign.items():
        if before.foreign.get(word) is not table:
            rows += [(word, key, dict(each)) for key, each in table.items()]
    if (before.rules, before.current) != (after.rules, after.current):
        rows.append(("shop", "shop", {"rules": to_document(after.rules), "current": after.current}))
    return rows


def document_of(record: Any) -> dict[str, Any]:
    """A record as it is stored."""
    if not isinstance(record, RecipeCard):
        return to_document(record)
    extra = {**record.extra, **({"retired": True} if record.retired else {})}
    return recipe_document(
        RecipeDocument(recipe=record.recipe, chosen=record.chosen, extra_context=extra, beside=record.beside)
    )


def not_readable(row: Row, unread: tuple[Unread, ...]) -> str:
    """Why a row must not be written: it would not come back as it is, or stand over one that cannot be read."""
    kind, key, document = row
    if document is None or kind not in BY_ONE:
        return ""
    if any((each.kind, each.key) == (kind, key) for each in unread):
        return f"the {kind} “{key}” would be written over one that cannot be read; give it another id"
    try:
        text = json.dumps(document, ensure_ascii=False, allow_nan=False)
        text.encode()
        back = document_of(_record(BY_ONE[kind], key, json.loads(text)))
    except (KaustosError, ValueError, TypeError, RecursionError) as fault:
        return f"the {kind} “{key}” cannot be written: {fault}"
    return "" if back == json.loads(text) else f"the {kind} “{key}” would not come back as it is"


def without(records: Records, saved: Records, rows: list[Row]) -> Records:
    """The records as they are in the file after all but some rows were written."""
    tables: dict[str, Mapping[str, Any]] = {}
    for kind, key, _ in rows:
        many = BY_ONE[kind].many
        table = dict(tables.get(many, records.tables[many]))
        table.pop(key, None)
        if key in saved.tables[many]:
            table[key] = saved.tables[many][key]
        tables[many] = table
    return records.with_tables(**tables)
