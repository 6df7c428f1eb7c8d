"""Records to plain documents and back; all faults of a document are reported at once, with their fields."""

from collections.abc import Callable, Iterator
from typing import Any, TypeVar

import attrs
import cattrs
from cattrs.errors import ClassValidationError, IterableValidationError
from cattrs.gen import make_dict_structure_fn

from kaustos.core.errors import FaultList, FieldError

Record = TypeVar("Record")


def from_document(record: type[Record], document: Any, path: str) -> Record:
    """The record that a plain document describes; ``path`` stands in front of the field in a fault."""
    if not isinstance(document, dict):
        raise FaultList("Not usable", (f"{path}: must be an object, got {_kind(document)}",))
    try:
        return _converter.structure(document, record)
    except (ClassValidationError, FieldError) as error:
        raise FaultList("Not usable", tuple(dict.fromkeys(_faults(error, path)))) from error


def to_document(record: Any) -> dict[str, Any]:
    """The record as plain values: null for what is not recorded, unknown fields written back."""
    document: dict[str, Any] = {}
    for field in attrs.fields(type(record)):
        if field.name != "extra":
            document[field.name] = _plain(getattr(record, field.name))
    return document | getattr(record, "extra", {})


def _plain(value: Any) -> Any:
    if attrs.has(type(value)):
        return to_document(value)
    if isinstance(value, tuple):
        return [_plain(each) for each in value]
    if isinstance(value, dict):
        return {key: _plain(each) for key, each in value.items()}
    return value


def _faults(error: BaseException, path: str) -> Iterator[str]:
    if isinstance(error, ClassValidationError):
        noted, bare = error.group_exceptions()
        for each, note in noted:
            yield from _faults(each, f"{path}.{note.name}")
        for inner in bare:
            yield from _faults(inner, path)
    elif isinstance(error, IterableValidationError):
        items, bare = error.group_exceptions()
        for each, place in items:
            yield from _faults(each, f"{path}[{place.index}]")
        for inner in bare:
            yield from _faults(inner, path)
    elif isinstance(error, FieldError):
        yield f"{path}.{error.field}: {error.problem}" if error.field else f"{path}: {error.problem}"
    elif isinstance(error, KeyError):
        yield f"{path}: is missing"
    else:
        yield f"{path}: {error}"


def _kind(value: Any) -> str:
    names = {dict: "an object", list: "a list", str: "text", bool: "true or false", int: "a number", float: "a number"}
    return "null" if value is None else names.get(type(value), type(value).__name__)


def _exactly(wanted: str, *types: type[Any]) -> Callable[[Any, Any], Any]:
    def structure(value: Any, _: Any) -> Any:
        if not isinstance(value, types) or (isinstance(value, bool) and bool not in types):
            raise FieldError("", f"must be {wanted}, got {_kind(value)}")
        return float(value) if wanted == "a number" else value

    return structure


def _with_extra(record: type[Any], converter: cattrs.Converter) -> Callable[[Any, Any], Any]:
    """Structures a section and keeps the fields it does not know."""
    structure: Callable[[Any, Any], Any] = make_dict_structure_fn(record, converter, _cattrs_detailed_validation=True)
    names = {field.name for field in attrs.fields(record)} - {"extra"}
    keeps = any(field.name == "extra" for field in attrs.fields(record))

    def read(value: Any, kind: Any) -> Any:
        if not isinstance(value, dict):
            raise FieldError("", f"must be an object, got {_kind(value)}")
        known = {key: each for key, each in value.items() if key in names}
        unknown = {key: each for key, each in value.items() if key not in names}
        if unknown and not keeps:
            raise FieldError("", f"has no field {', '.join(map(repr, unknown))}")
        return structure(known | {"extra": unknown} if keeps else known, kind)

    return read


def _make_converter() -> cattrs.Converter:
    converter = cattrs.Converter(detailed_validation=True)
    converter.register_structure_hook(float, _exactly("a number", int, float))
    converter.register_structure_hook(str, _exactly("text", str))
    converter.register_structure_hook(bool, _exactly("true or false", bool))
    converter.register_structure_hook_factory(attrs.has, lambda record: _with_extra(record, converter))
    return converter


_converter = _make_converter()
