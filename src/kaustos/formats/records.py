"""Records to plain documents and back; all faults of a document are reported at once, with their fields.

Done by hand on the records' own declarations: a converter that writes code for each class costs a
twelfth of the time to the first window.
"""

import functools
import types
import typing
from collections.abc import Mapping
from typing import Any, TypeVar

import attrs

from kaustos.core.errors import FaultList, FieldError
from kaustos.formats.json_text import not_keepable

Record = TypeVar("Record")


class _Unusable(Exception):
    """A value whose faults have been noted."""


def from_document(record: type[Record], document: Any, path: str) -> Record:
    """The record that a plain document describes; ``path`` stands in front of the field in a fault."""
    faults: list[str] = []
    try:
        found: Record = _record(record, document, path, faults)
    except _Unusable:
        raise FaultList("Not usable", tuple(faults)) from None
    return found


def to_document(record: Any) -> dict[str, Any]:
    """The record as plain values: null for what is not recorded, unknown fields written back."""
    document = {name: _plain(getattr(record, name)) for name in _written(record.__class__)}
    return document | getattr(record, "extra", {})


def unknown_fields(record: Any, path: str) -> list[str]:
    """Where a record holds what this version does not know; faults in files that are written by hand for it."""
    found = [f"{path}: has no field {name!r:.60}" for name in getattr(record, "extra", {})]
    for field in attrs.fields(type(record)):
        value = getattr(record, field.name)
        if attrs.has(type(value)):
            found += unknown_fields(value, f"{path}.{field.name}")
    return found


@functools.cache
def _written(record: Any) -> tuple[str, ...]:
    """The names of the fields that are written, of a kind of record."""
    return tuple(field.name for field in attrs.fields(record) if field.name != "extra")


def _plain(value: Any) -> Any:
    if value is None or isinstance(value, str | float | bool):  # nearly all of them
        return value
    if isinstance(value, tuple):
        return [_plain(each) for each in value]
    if isinstance(value, dict):
        return {key: _plain(each) for key, each in value.items()}
    return to_document(value) if attrs.has(type(value)) else value


def _record(record: type[Any], document: Any, path: str, faults: list[str]) -> Any:
    if not isinstance(document, dict):
        _fault(path, f"must be an object, got {_kind(document)}", faults)
    before = len(faults)
    fields = attrs.fields_dict(record)
    unknown = {key: value for key, value in document.items() if key not in fields or key == "extra"}
    faults += not_keepable(unknown, path)
    values: dict[str, Any] = {"extra": unknown} if unknown and "extra" in fields else {}
    if unknown and "extra" not in fields:
        faults.append(f"{path}: has no field {', '.join(map(repr, unknown))}")
    for name, field in fields.items():
        if name != "extra" and name in document:
            try:
                values[name] = _value(field.type, document[name], f"{path}.{name}", faults)
            except _Unusable:
                continue
        elif name != "extra" and field.default is attrs.NOTHING:
            faults.append(f"{path}.{name}: is missing")
    if len(faults) > before:
        raise _Unusable
    try:
        return record(**values)
    except FieldError as error:
        faults.append(f"{path}.{error}")
        raise _Unusable from error


def _value(kind: Any, value: Any, path: str, faults: list[str]) -> Any:
    kind, optional = _unwrapped(kind)
    if value is None and optional:
        return None
    origin = typing.get_origin(kind)
    if origin is tuple:
        return _items(typing.get_args(kind)[0], value, path, faults)
    if origin is Mapping:
        return _table(typing.get_args(kind)[1], value, path, faults)
    if attrs.has(kind):
        return _record(kind, value, path, faults)
    words, accepted = _PLAIN[kind]
    if type(value) not in accepted:
        _fault(path, f"must be {words}, got {_kind(value)}", faults)
    try:
        return float(value) if kind is float else value
    except OverflowError:
        _fault(path, "must be a finite number", faults)


_PLAIN: dict[Any, tuple[str, tuple[type, ...]]] = {
    float: ("a number", (int, float)),
    str: ("text", (str,)),
    bool: ("true or false", (bool,)),
}


@functools.cache
def _unwrapped(kind: Any) -> tuple[Any, bool]:
    """The kind without "or None", and whether None is allowed."""
    if isinstance(kind, types.UnionType):
        inner = [each for each in kind.__args__ if each is not type(None)]
        return inner[0], len(inner) < len(kind.__args__)
    return kind, False


def _items(kind: Any, value: Any, path: str, faults: list[str]) -> tuple[Any, ...]:
    if not isinstance(value, list):
        _fault(path, f"must be a list, got {_kind(value)}", faults)
    return tuple(_each(kind, each, f"{path}[{place}]", faults) for place, each in enumerate(value))


def _table(kind: Any, value: Any, path: str, faults: list[str]) -> dict[str, Any]:
    if not isinstance(value, dict):
        _fault(path, f"must be an object, got {_kind(value)}", faults)
    recorded = {key: each for key, each in value.items() if each is not None}
    return {key: _each(kind, each, f"{path}.{key}", faults) for key, each in recorded.items()}


def _each(kind: Any, value: Any, path: str, faults: list[str]) -> Any:
    try:
        return _value(kind, value, path, faults)
    except _Unusable:
        return None


def _fault(path: str, problem: str, faults: list[str]) -> typing.NoReturn:
    faults.append(f"{path}: {problem}")
    raise _Unusable


def _kind(value: Any) -> str:
    names = {dict: "an object", list: "a list", str: "text", bool: "true or false", int: "a number", float: "a number"}
    return "null" if value is None else names.get(type(value), type(value).__name__)
