"""Records to plain documents and back; all faults of a document are reported at once, with their fields.

Done by hand on the records' own declarations: a converter that writes code for each class costs a
twelfth of the time to the first window.
"""

import functools
import math
import types
import typing
from collections.abc import Callable, Mapping
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


Reader = Callable[[Any, str, list[str]], Any]


@attrs.frozen
class _Field:
    """How one field of a record is read, worked out once."""

    name: str
    plain: type | None  # float, str or bool, which are nearly all
    optional: bool
    needed: bool
    reader: Reader


def _record(record: Any, document: Any, path: str, faults: list[str]) -> Any:
    if not isinstance(document, dict):
        _fault(path, f"must be an object, got {_kind(document)}", faults)
    before, values = len(faults), dict[str, Any]()
    names, fields, keeps = _fields(record)
    if not document.keys() <= names:
        unknown = {key: value for key, value in document.items() if key not in names}
        faults += not_keepable(unknown, path)
        if keeps:
            values["extra"] = unknown
        else:
            faults.append(f"{path}: has no field {', '.join(map(repr, unknown))}")
    for field in fields:
        name = field.name
        if name not in document:
            if field.needed:
                faults.append(f"{path}.{name}: is missing")
            continue
        value = document[name]
        is_plain = type(value) is field.plain and not (isinstance(value, float) and not math.isfinite(value))
        if is_plain or (value is None and field.optional):
            values[name] = value
            continue
        try:
            values[name] = field.reader(value, f"{path}.{name}", faults)
        except _Unusable:
            continue
    if len(faults) > before:
        raise _Unusable
    try:
        return record(**values)
    except FieldError as error:
        faults.append(f"{path}.{error}")
        raise _Unusable from error


@functools.cache
def _fields(record: Any) -> tuple[frozenset[str], tuple[_Field, ...], bool]:
    """The fields of a kind of record, their names, and whether it keeps what it does not know."""
    found = []
    for field in attrs.fields(record):
        if field.name != "extra":
            kind, optional = _unwrapped(field.type)
            plain = kind if kind in _PLAIN else None
            found.append(_Field(field.name, plain, optional, field.default is attrs.NOTHING, _reader(kind, optional)))
    keeps = any(field.name == "extra" for field in attrs.fields(record))
    return frozenset(each.name for each in found), tuple(found), keeps


def _reader(kind: Any, optional: bool) -> Reader:
    """What reads a value of a kind."""
    origin = typing.get_origin(kind)
    if origin is tuple:
        kinds = typing.get_args(kind)
        count = None if kinds[-1] is Ellipsis else len(kinds)
        read: Reader = functools.partial(_items, _reader(*_unwrapped(kinds[0])), count)
    elif origin is Mapping:
        read = functools.partial(_table, _reader(*_unwrapped(typing.get_args(kind)[1])))
    elif attrs.has(kind):
        read = functools.partial(_record, kind)
    else:
        read = functools.partial(_plain_value, kind)
    return (lambda value, path, faults: None if value is None else read(value, path, faults)) if optional else read


def _plain_value(kind: Any, value: Any, path: str, faults: list[str]) -> Any:
    words, accepted = _PLAIN[kind]
    if type(value) not in accepted:
        _fault(path, f"must be {words}, got {_kind(value)}", faults)
    if kind is not float:
        return value
    try:
        number = float(value)
    except OverflowError:
        number = math.inf
    if not math.isfinite(number):  # wherever it stands, in a list or a table too: it could not be written back
        _fault(path, "must be a finite number", faults)
    return number


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


def _items(read: Reader, count: int | None, value: Any, path: str, faults: list[str]) -> tuple[Any, ...]:
    if not isinstance(value, list):
        _fault(path, f"must be a list, got {_kind(value)}", faults)
    if count is not None and len(value) != count:
        _fault(path, f"must be a list of {count}, got {len(value)}", faults)
    return tuple(_each(read, each, f"{path}[{place}]", faults) for place, each in enumerate(value))


def _table(read: Reader, value: Any, path: str, faults: list[str]) -> dict[str, Any]:
    if not isinstance(value, dict):
        _fault(path, f"must be an object, got {_kind(value)}", faults)
    return {key: _each(read, each, f"{path}.{key}", faults) for key, each in value.items() if each is not None}


def _each(read: Reader, value: Any, path: str, faults: list[str]) -> Any:
    try:
        return read(value, path, faults)
    except _Unusable:
        return None


def _fault(path: str, problem: str, faults: list[str]) -> typing.NoReturn:
    faults.append(f"{path}: {problem}")
    raise _Unusable


def _kind(value: Any) -> str:
    names = {dict: "an object", list: "a list", str: "text", bool: "true or false", int: "a number", float: "a number"}
    return "null" if value is None else names.get(type(value), type(value).__name__)
