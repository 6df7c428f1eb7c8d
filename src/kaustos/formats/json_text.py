"""Strict JSON text: faults name line and column, numbers are finite, no key stands twice."""

import json
import math
from typing import Any

from kaustos.core.errors import KaustosError

LARGEST_TEXT = 32_000_000


class BadJson(KaustosError):
    """A text that is not the JSON that is asked for."""

    def __init__(self, name: str, problem: str) -> None:
        super().__init__(name, problem)
        self.name, self.problem = name, problem

    def __str__(self) -> str:
        return f"{self.name}: {self.problem}"


def read_json(text: str, name: str) -> dict[str, Any]:
    """The object that a JSON text holds; ``name`` stands in front of a fault."""
    if len(text) > LARGEST_TEXT:
        raise BadJson(name, f"{len(text):,} characters are more than a document can hold ({LARGEST_TEXT:,})")
    try:
        found = json.loads(text, object_pairs_hook=_once)
        _no_half_signs(found)
    except json.JSONDecodeError as error:
        raise BadJson(name, f"line {error.lineno}, column {error.colno}: {error.msg}") from error
    except RecursionError as error:
        raise BadJson(name, "is nested too deeply") from error
    except ValueError as error:
        raise BadJson(name, str(error)) from error
    if not isinstance(found, dict):
        raise BadJson(name, "must be a JSON object, starting with {")
    return found


def not_keepable(value: Any, path: str) -> list[str]:
    """What of a document's unknown part could not be written back, with its place."""
    if isinstance(value, dict):
        return [fault for key, each in value.items() for fault in not_keepable(each, f"{path}.{key}")]
    if isinstance(value, list):
        return [fault for place, each in enumerate(value) for fault in not_keepable(each, f"{path}[{place}]")]
    finite = not isinstance(value, float) or math.isfinite(value)
    return [] if finite else [f"{path}: must be a finite number"]


def _no_half_signs(found: Any) -> None:
    """Halves of signs (lone surrogates) can be written in JSON but not kept in any file."""
    try:
        json.dumps(found, ensure_ascii=False).encode("utf-8")
    except UnicodeEncodeError as error:
        raise ValueError(f"holds half a sign ({error.object[error.start]!a}), which cannot be kept") from error


def write_json(document: dict[str, Any]) -> str:
    """The document as text; refuses NaN and infinity."""
    return json.dumps(document, ensure_ascii=False, indent=1, allow_nan=False) + "\n"


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, value in pairs:
        if key in found:
            raise ValueError(f"key {key[:60]!r} stands twice in one object")
        found[key] = value
    return found
