"""What changed between two revisions of a recipe, field by field."""

import functools
import json
from collections import OrderedDict
from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.app.wording import Wording
from kaustos.core.records import CHOSEN, RecipeCard
from kaustos.core.records.machine import MACHINE_LOGS
from kaustos.formats.recipe_file import RecipeDocument, recipe_from
from kaustos.formats.records import to_document

LOGGED = (  # what a shop logs of a spool while it is used: no change of a recipe, and no cause of its own
    "stays", "weighings", "reserves", "strands", "photos", "loaded_on", "fitted_on", "fed", "inspections",
    "ordered_g", "ordered_utc", "desiccant_utc",
    "received_utc", "opened_utc", "reorder_g", "lead_h", "retired",
)  # fmt: skip
STATES = ("prints", "film_prints", "coating", "step", "step_utc", "left_ml", "retired")  # of plate and agent, as used


@attrs.frozen
class Difference:
    """One field that differs, in words."""

    field: str
    before: str
    after: str


def differences(before: Mapping[str, Any], after: Mapping[str, Any], wording: Wording) -> tuple[Difference, ...]:
    """The fields that differ between two recipe documents, in the order of the later one."""
    old, new = dict(leaves(before)), dict(leaves(after))
    paths = [*new, *(path for path in old if path not in new)]
    return tuple(
        Difference(
            wording.field(path), wording.field_value(path, old.get(path)), wording.field_value(path, new.get(path))
        )
        for path in paths
        if old.get(path) != new.get(path)
    )


@functools.lru_cache(maxsize=4096)
def card_of(document: str) -> RecipeCard:
    """A kept revision as a card: its settings, and ids of what was chosen, which the shop may have changed since."""
    found = recipe_from(plain_of(document), "a kept revision")
    return RecipeCard(recipe=found.recipe, chosen=asked_for(found.chosen))


def plain_of(document: str) -> dict[str, Any]:
    """The plain document of a kept revision; nothing in it where it is damaged, so that all else goes on."""
    try:
        found = json.loads(document)
    except ValueError:
        return {"recipe": {}}
    parts = (found.get("recipe"), found.get("context", {})) if isinstance(found, dict) else (None,)
    return found if all(isinstance(each, dict) for each in parts) else {"recipe": {}}


def is_damaged(document: str) -> bool:
    """Whether a kept revision cannot be read any more."""
    return not plain_of(document).get("recipe")


def asked_for(chosen: Mapping[str, Any]) -> dict[str, str]:
    """Ids of what a document chooses; a nozzle that was just the one that is fitted was not asked for."""
    found = {kind: each if isinstance(each, str) else each.id for kind, each in chosen.items()}
    fitted = getattr(chosen.get("nozzle"), "fitted_on", None)
    if fitted is not None and fitted == found.get("machine"):
        del found["nozzle"]
    return found


def leaves(document: Mapping[str, Any]) -> list[tuple[str, Any]]:
    """Fields of a recipe document by path, the context's records under their own names, what is logged left out."""
    context = document.get("context", {})
    parts = {kind.one: context.get(kind.one) for kind in CHOSEN}
    return [
        *_part("", document.get("recipe", {})),
        *(leaf for name, record in parts.items() for leaf in _part(name, record)),
        *_part("rules", context.get("rules") or {}),
    ]


def leaves_of(document: RecipeDocument) -> dict[str, Any]:
    """The same of a document that is open: what did not change since the last time is not taken apart again."""
    found = dict(_known_part("", document.recipe))
    for kind in CHOSEN:
        found.update(_known_part(kind.one, document.chosen.get(kind.one)))
    found.update(_known_part("rules", document.rules))
    return found


_KEPT = 32
_parts: OrderedDict[tuple[str, int], tuple[Any, list[tuple[str, Any]]]] = OrderedDict()  # by name and identity


def _known_part(name: str, record: Any) -> list[tuple[str, Any]]:
    key = (name, id(record))
    if key not in _parts or _parts[key][0] is not record:
        plain = to_document(record) if attrs.has(type(record)) else record
        _parts[key] = (record, _part(name, {} if name == "rules" and plain is None else plain))
        while len(_parts) > _KEPT:
            _parts.popitem(last=False)
    _parts.move_to_end(key)
    return _parts[key][1]


def _part(name: str, record: Any) -> list[tuple[str, Any]]:
    """The leaves of the recipe, of what is chosen for it or of the rules."""
    if not isinstance(record, Mapping):
        return [(f"context.{name}", record)]
    found: list[tuple[str, Any]] = []
    left_out = _LEFT_OUT.get(name, ())
    kept = {key: value for key, value in record.items() if key not in left_out}
    _walk(f"{name}." if name else "", kept, found)
    return found


_LEFT_OUT = {
    "lot": LOGGED,
    "nozzle": LOGGED,
    "machine": MACHINE_LOGS,
    "plate": STATES,
    "agent": STATES,
    "bath": ("washes", "taken_g", "retired"),
}


def _walk(prefix: str, document: Mapping[str, Any], found: list[tuple[str, Any]]) -> None:
    for key, value in document.items():
        if isinstance(value, Mapping) and not {"value", "unit"} <= value.keys():
            _walk(f"{prefix}{key}.", value, found)
        elif isinstance(value, Mapping):
            found.append((f"{prefix}{key}", f"{value['value']:g} {value['unit']} ({value['source']})"))
        else:
            found.append((f"{prefix}{key}", json.dumps(value) if isinstance(value, list) else value))
