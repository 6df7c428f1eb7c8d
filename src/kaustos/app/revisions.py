"""What changed between two revisions of a recipe, field by field."""

import json
from collections.abc import Mapping
from typing import Any

import attrs

from kaustos.app.wording import Wording
from kaustos.core.records import CHOSEN

LOGGED = (  # what a shop logs of a spool while it is used: no change of a recipe, and no cause of its own
    "stays", "weighings", "reserves", "strands", "photos", "loaded_on", "ordered_g", "ordered_utc", "desiccant_utc",
    "received_utc", "opened_utc", "reorder_g", "lead_h", "retired",
)  # fmt: skip


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


def leaves(document: Mapping[str, Any]) -> list[tuple[str, Any]]:
    """Fields of a recipe document by path, the context's records under their own names, what is logged left out."""
    found: list[tuple[str, Any]] = []
    _walk("", document.get("recipe", {}), found)
    context = document.get("context", {})
    for name in (kind.one for kind in CHOSEN):
        record = context.get(name)
        if isinstance(record, Mapping):
            kept = {key: value for key, value in record.items() if name != "lot" or key not in LOGGED}
            _walk(f"{name}.", kept, found)
        else:
            found.append((f"context.{name}", record))
    _walk("rules.", context.get("rules") or {}, found)
    return found


def _walk(prefix: str, document: Mapping[str, Any], found: list[tuple[str, Any]]) -> None:
    for key, value in document.items():
        if isinstance(value, Mapping) and not {"value", "unit"} <= value.keys():
            _walk(f"{prefix}{key}.", value, found)
        elif isinstance(value, Mapping):
            found.append((f"{prefix}{key}", f"{value['value']:g} {value['unit']} ({value['source']})"))
        else:
            found.append((f"{prefix}{key}", json.dumps(value) if isinstance(value, list) else value))
