"""Takes recipe files into a workspace; what comes along is added, never merged into what is there."""

from collections.abc import Mapping
from pathlib import Path
from typing import Any

import attrs

from kaustos.app.records import Records
from kaustos.app.revisions import asked_for
from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.records import CHOSEN, Kind, Photo, RecipeCard, check_id
from kaustos.disk import name_of, read_text
from kaustos.formats.recipe_file import RecipeDocument, read_recipe
from kaustos.library import load


def read_file(file: Path) -> RecipeDocument:
    """The recipe document of a file, to be judged or taken in."""
    return read_recipe(read_text(file), name_of(file))


def photos_along(document: RecipeDocument) -> tuple[Photo, ...]:
    """Photos that the records of a document name, each once."""
    whole = [each for each in document.chosen.values() if not isinstance(each, str)]
    return tuple({each.sha256: each for record in whole for each in getattr(record, "photos", ())}.values())


def with_document(records: Records, document: RecipeDocument, name: str) -> Records:
    """The records with one more card, opened; the document's machine and lot are added beside those there."""
    if document.newer:
        raise KaustosError(f"{name} was written by a newer version of Kaustos; it can be reviewed, not edited.")
    if document.rules is not None and document.rules != records.rules:
        raise FaultList(name, ("context.rules: differ from this workspace's rules; take them over there first",))
    polymer, own = document.recipe.polymer, document.own_polymer
    tables: dict[str, Mapping[str, Any]] = {}
    if own is not None:
        check_id(f"{name}: context.own_polymer.id", own.id)
        if records.own_polymers.get(own.id, own) != own:
            raise FaultList(name, (f"context.own_polymer: this workspace has another polymer {own.id!r:.60}",))
        tables["own_polymers"] = {**records.own_polymers, own.id: own}
    if polymer is not None and polymer not in records.polymers and (own is None or own.id != polymer):
        raise FaultList(name, (f"recipe.polymer: no polymer {polymer!r:.60} in the library",))
    chosen: dict[str, str] = {}
    for kind in CHOSEN:
        record = document.chosen.get(kind.one)
        if record is not None:
            tables[kind.many], chosen[kind.one] = _taken_in(kind, record, records, name)
    card = records.free_id("cards", document.recipe.name)
    cards = {
        **records.cards,
        card: RecipeCard(
            recipe=document.recipe,
            chosen=_asked(document, chosen),
            extra=dict(document.extra_context),
            beside=document.beside,
        ),
    }
    return attrs.evolve(records.with_tables(cards=cards, **tables), current=card)


def _taken_in(kind: Kind, record: Any, records: Records, name: str) -> tuple[Mapping[str, Any], str]:
    """The table with the record in it, and its id there."""
    mine = records.tables[kind.many]
    shipped: Mapping[str, Any] = load().machines if kind.one == "machine" else {}
    if isinstance(record, str):
        if record in mine:
            return mine, record
        if record not in shipped:
            raise FaultList(name, (f"context.{kind.one}: nothing is known under {record!r:.60}",))
        return {**mine, record: shipped[record]}, record
    check_id(f"{name}: context.{kind.one}.id", record.id)
    key = record.id if mine.get(record.id, record) == record else records.free_id(kind.many, record.id)
    return {**mine, key: attrs.evolve(record, id=key)}, key


def _asked(document: RecipeDocument, chosen: dict[str, str]) -> dict[str, str]:
    """What a document chooses, by the ids that its records have here."""
    asked = asked_for(document.chosen)
    return {kind: key for kind, key in chosen.items() if kind in asked}
