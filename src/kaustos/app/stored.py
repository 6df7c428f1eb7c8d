"""Records as the workspace file holds them: read one by one, so that what cannot be read closes nothing else."""

import json
import logging
from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.app.records import Records
from kaustos.core.errors import KaustosError
from kaustos.core.records import BY_ONE, KINDS, Kind, RecipeCard, Rules
from kaustos.formats.recipe_file import RecipeDocument, recipe_document, recipe_from
from kaustos.formats.records import from_document, to_document
from kaustos.store import Store

Row = tuple[str, str, dict[str, Any] | None]  # kind, id, document; None takes it away


@attrs.frozen
class Unread:
    """A stored record that cannot be read: it stays in the file as it is, and can be written out."""

    kind: str
    key: str
    text: str
    fault: str


def read_store(store: Store) -> tuple[Records, tuple[Unread, ...]]:
    """All records that can be read, and those that cannot."""
    documents, no_json = store.documents_and_faults()
    unread = [Unread(kind, key, text, fault) for kind, key, text, fault in no_json]
    shop = documents.pop("shop", {}).get("shop", {})
    tables: dict[str, dict[str, Any]] = {}
    for kind in KINDS:
        table = tables[kind.many] = {}
        for key, document in documents.pop(kind.one, {}).items():
            try:
                table[key] = _record(kind, key, document)
            except KaustosError as fault:
                unread.append(_unread(kind.one, key, document, str(fault)))
            except Exception as fault:
                logging.getLogger("kaustos").exception("%s %s cannot be read", kind.one, key)
                unread.append(_unread(kind.one, key, document, f"{type(fault).__name__}: {fault}"))
    try:
        rules = from_document(Rules, shop.get("rules", {}), "rules")
    except KaustosError as fault:
        rules = Rules()
        unread.append(_unread("shop", "shop", shop, str(fault)))
    current = shop.get("current")
    if current not in tables["cards"]:
        current = next(iter(tables["cards"]), None)
    return Records(tables=tables, rules=rules, current=current, foreign=documents), tuple(unread)


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
