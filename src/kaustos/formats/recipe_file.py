"""The recipe document: one recipe and the records it is judged with, whole or by id."""

import base64
import binascii
import hashlib
from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.records import (
    CHOSEN,
    POLYMER_VALUES,
    Dryer,
    Lot,
    Machine,
    OwnPolymer,
    Recipe,
    Rules,
    check_datum,
    check_sorption,
    log_faults,
    outside_faults,
)
from kaustos.formats.json_text import not_keepable, read_json, write_json
from kaustos.formats.records import from_document, to_document

FORMAT = "kaustos-recipe"
VERSION = 1
UPGRADES: dict[int, Any] = {}  # from a version to a function that makes the next version's document of it


@attrs.frozen(kw_only=True)
class RecipeDocument:
    """A recipe with the machine and lot it is judged with: whole records, ids, or nothing."""

    recipe: Recipe
    chosen: Mapping[str, Any] = attrs.field(factory=dict)  # by kind: a whole record or an id
    rules: Rules | None = None
    own_polymer: OwnPolymer | None = None  # the recipe's polymer, where it is the shop's own
    extra_context: dict[str, Any] = attrs.field(factory=dict)
    beside: dict[str, Any] = attrs.field(factory=dict)  # what a newer version keeps beside recipe and context
    photos: Mapping[str, bytes] = attrs.field(factory=dict)  # content by fingerprint
    newer: bool = False  # written by a newer version: read as far as known, never written over

    @property
    def machine(self) -> Machine | str | None:
        """The machine, whole or by id."""
        return self.chosen.get("machine")

    @property
    def lot(self) -> Lot | str | None:
        """The lot, whole or by id."""
        return self.chosen.get("lot")

    @property
    def dryer(self) -> Dryer | str | None:
        """The dryer, whole or by id."""
        return self.chosen.get("dryer")


def read_recipe(text: str, name: str) -> RecipeDocument:
    """The document that a text holds; faults name line or field."""
    found = recipe_from(read_json(text, name), name)
    records = [("recipe", found.recipe), ("context.rules", found.rules)]
    records += [(f"context.{one}", each) for one, each in found.chosen.items() if not isinstance(each, str)]
    faults = [fault for path, each in records for fault in outside_faults(each, f"{path}.")]
    faults += [f"context.lot.{fault}" for fault in log_faults(found.lot)] if isinstance(found.lot, Lot) else []
    if faults:
        raise FaultList(name, tuple(faults))
    return found


def recipe_from(document: dict[str, Any], name: str) -> RecipeDocument:
    """The recipe document that a plain document describes."""
    newer, document = _at_present_version(document, name)
    context = document.get("context") or {}
    if not isinstance(context, dict):
        raise FaultList(name, ("context: must be an object",))
    faults: list[str] = []
    recipe = _part(Recipe, document.get("recipe"), "recipe", faults)
    chosen = {
        kind.one: _reference(kind.record, context[kind.one], f"context.{kind.one}", faults)
        for kind in CHOSEN
        if context.get(kind.one) is not None
    }
    lot = chosen.get("lot")
    if isinstance(lot, Lot):
        faults += own_value_faults(lot, "context.lot")
    rules = _part(Rules, context["rules"], "context.rules", faults) if context.get("rules") else None
    own = (
        _part(OwnPolymer, context["own_polymer"], "context.own_polymer", faults) if context.get("own_polymer") else None
    )
    known = {*(kind.one for kind in CHOSEN), "rules", "own_polymer"}
    rest = {key: value for key, value in context.items() if key not in known and (key, value) != ("plate", None)}
    named = ("format", "version", "recipe", "context", "photos")
    beside = {key: value for key, value in document.items() if key not in named}
    photos = _photos(document.get("photos") or {}, faults)
    faults += not_keepable(rest, "context")
    for key, value in beside.items():
        faults += not_keepable(value, key)
    if faults or recipe is None:
        raise FaultList(name, tuple(faults))
    return RecipeDocument(
        recipe=recipe, chosen=chosen, rules=rules, own_polymer=own, extra_context=rest, beside=beside, photos=photos,
        newer=newer,
    )  # fmt: skip


def recipe_document(document: RecipeDocument) -> dict[str, Any]:
    """The plain document of a recipe and its context."""
    context: dict[str, Any] = {kind.one: _referred(document.chosen.get(kind.one)) for kind in CHOSEN}
    context.setdefault("plate", None)  # named by the format from its first day
    if document.rules is not None:
        context["rules"] = to_document(document.rules)
    if document.own_polymer is not None:
        context["own_polymer"] = to_document(document.own_polymer)
    return {
        "format": FORMAT,
        "version": VERSION,
        "recipe": to_document(document.recipe),
        "context": context | document.extra_context,
        **({"photos": _coded(document.photos)} if document.photos else {}),
        **document.beside,
    }


def _coded(photos: Mapping[str, bytes]) -> dict[str, str]:
    return {key: base64.b64encode(content).decode("ascii") for key, content in photos.items()}


def _photos(found: Any, faults: list[str]) -> dict[str, bytes]:
    """Photos by their fingerprints, each of which is that of its content."""
    if not isinstance(found, dict):
        faults.append("photos: must be an object of fingerprints")
        return {}
    photos: dict[str, bytes] = {}
    for key, text in found.items():
        try:
            content = base64.b64decode(text, validate=True) if isinstance(text, str) else None
        except (binascii.Error, ValueError):
            content = None
        if content is None or hashlib.sha256(content).hexdigest() != key:
            faults.append(f"photos.{key[:16]}: is not the content of this fingerprint in base64")
        else:
            photos[key] = content
    return photos


def write_recipe(document: RecipeDocument) -> str:
    """The document as JSON text."""
    return write_json(recipe_document(document))


def own_value_faults(lot: Lot, path: str) -> list[str]:
    """What is wrong with a lot's own values."""
    faults = []
    for field in ("grade_values", "lot_values"):
        for key, datum in getattr(lot, field).items():
            place = f"{path}.{field}.{key}"
            if key not in POLYMER_VALUES:
                faults.append(f"{place}: no such polymer value")
                continue
            try:
                check_datum(key, datum)
            except KaustosError as error:
                faults.append(f"{place}: {error}")
    try:
        check_sorption({**lot.grade_values, **lot.lot_values})
    except KaustosError as error:
        faults.append(f"{path}: {error}")
    return faults


def _at_present_version(document: dict[str, Any], name: str) -> tuple[bool, dict[str, Any]]:
    if document.get("format") != FORMAT:
        raise FaultList(name, (f'format: must be "{FORMAT}", got {document.get("format")!r:.80}',))
    version = document.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise FaultList(name, (f"version: must be a whole number from 1 on, got {version!r:.80}",))
    for step in range(version, VERSION):
        document = UPGRADES[step](document)
    return version > VERSION, document


def _part(record: type[Any], document: Any, path: str, faults: list[str]) -> Any:
    try:
        return from_document(record, document, path)
    except FaultList as error:
        faults += error.faults
        return None


def _reference(record: type[Any], document: Any, path: str, faults: list[str]) -> Any:
    if document is None or isinstance(document, str):
        return document
    return _part(record, document, path, faults)


def _referred(record: Any) -> Any:
    return record if record is None or isinstance(record, str) else to_document(record)
