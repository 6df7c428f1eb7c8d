"""Takes recipe files into a workspace; what comes along is added, never merged into what is there."""

from collections.abc import Mapping
from pathlib import Path
from typing import TypeVar

import attrs

from kaustos.app.records import RecipeCard, Records
from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.records import Dryer, Lot, Machine
from kaustos.formats.recipe_file import RecipeDocument, read_recipe
from kaustos.library import load

Kept = TypeVar("Kept", Machine, Lot, Dryer)


def read_file(file: Path) -> RecipeDocument:
    """The recipe document of a file, to be judged or taken in."""
    try:
        text = file.read_text(encoding="utf-8")
    except UnicodeDecodeError as error:
        raise KaustosError(f"{file.name}: is not UTF-8 text (byte {error.start})") from error
    except OSError as error:
        raise KaustosError(f"{file.name}: cannot be read: {error.strerror}") from error
    return read_recipe(text, file.name)


def with_document(records: Records, document: RecipeDocument, name: str) -> Records:
    """The records with one more card, opened; the document's machine and lot are added beside those there."""
    if document.newer:
        raise KaustosError(f"{name} was written by a newer version of Kaustos; it can be reviewed, not edited.")
    if document.rules is not None and document.rules != records.rules:
        raise FaultList(name, ("context.rules: differ from this workspace's rules; take them over there first",))
    polymer = document.recipe.polymer
    if polymer is not None and polymer not in load().polymers:
        raise FaultList(name, (f"recipe.polymer: no polymer {polymer!r:.60} in the library",))
    machines, machine = _taken_in(
        document.machine,
        records,
        "machines",
        load().machines,
        FaultList(name, (_unknown("machine", document.machine),)),
    )
    lots, lot = _taken_in(document.lot, records, "lots", {}, FaultList(name, (_unknown("lot", document.lot),)))
    dryers, dryer = _taken_in(
        document.dryer, records, "dryers", {}, FaultList(name, (_unknown("dryer", document.dryer),))
    )
    card = records.free_id("cards", document.recipe.name)
    cards = {**records.cards, card: RecipeCard(recipe=document.recipe, machine=machine, lot=lot, dryer=dryer)}
    return attrs.evolve(records, cards=cards, machines=machines, lots=lots, dryers=dryers, current=card)


def _unknown(kind: str, record: object) -> str:
    return f"context.{kind}: nothing is known under {record!r:.60}"


def _taken_in(
    record: Kept | str | None, records: Records, kind: str, shipped: Mapping[str, Kept], fault: FaultList
) -> tuple[Mapping[str, Kept], str | None]:
    """The table with the record in it, and its id there."""
    mine: Mapping[str, Kept] = getattr(records, kind)
    if record is None:
        return mine, None
    if isinstance(record, str):
        if record in mine:
            return mine, record
        if record not in shipped:
            raise fault
        return {**mine, record: shipped[record]}, record
    key = record.id if mine.get(record.id, record) == record else records.free_id(kind, record.id)
    return {**mine, key: attrs.evolve(record, id=key)}, key
