"""Declares fields of records: what they hold, how they are called, which words they take.

Reading, editing, units, labels and the completeness count all derive from these declarations.
"""

from collections.abc import Mapping
from datetime import datetime
from typing import Any, get_args, get_origin

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.records.quantities import QUANTITIES, check_number, check_text


def number(
    quantity: str, title: str, help_line: str = "", short: str = "", typed: tuple[float, float] | None = None
) -> Any:  # fmt: skip
    """A number of a quantity, None where it is not recorded; what is typed may be held closer than what is stored.

    ``typed`` holds the ends of what can be in a shop [shop unit], where they lie closer than those of its quantity.
    """

    def check(_: object, attribute: "attrs.Attribute[Any]", value: float | None) -> None:
        if value is not None:
            check_number(attribute.name, value, quantity)

    meta = {"quantity": quantity, "title": title, "help": help_line, "short": short, "typed": typed}
    return attrs.field(default=None, validator=check, metadata=meta)


def ends_of(field: "attrs.Attribute[Any]") -> tuple[float, float]:
    """The ends of what a number can be in a shop [shop unit]."""
    typed: tuple[float, float] | None = field.metadata.get("typed")
    return typed or QUANTITIES[field.metadata["quantity"]].can_be


EARLIEST, LATEST = 1970, 2200  # years between which every moment of a shop lies


def is_within_time(moment: str) -> bool:
    """Whether a moment lies in the time of a shop."""
    return moment[:4].isdigit() and EARLIEST <= int(moment[:4]) < LATEST


def choice(choices: dict[str, str], title: str, help_line: str = "") -> Any:
    """One word out of a few, None where it is not recorded."""

    def check(_: object, attribute: "attrs.Attribute[Any]", value: str | None) -> None:
        if value is not None and value not in choices:
            raise FieldError(attribute.name, f"{value!r} is none of {', '.join(choices)}")

    meta = {"choices": choices, "title": title, "help": help_line}
    return attrs.field(default=None, validator=check, metadata=meta)


def flag(title: str, help_line: str = "", short: str = "") -> Any:
    """Yes or no, None where it is not recorded."""
    return attrs.field(default=None, metadata={"flag": True, "title": title, "help": help_line, "short": short})


def text(title: str, help_line: str = "") -> Any:
    """Free text that is shown and searched, never judged."""

    def check(_: object, attribute: "attrs.Attribute[Any]", value: str) -> None:
        check_text(attribute.name, value)

    return attrs.field(default="", validator=check, metadata={"text": True, "title": title, "help": help_line})


def moment(title: str, help_line: str = "") -> Any:
    """A moment as ISO 8601 with its offset from UTC, empty where it is not recorded."""

    def check(_: object, attribute: "attrs.Attribute[Any]", value: str) -> None:
        try:
            zone = not value or datetime.fromisoformat(value).tzinfo
        except ValueError as error:
            raise FieldError(attribute.name, f"{value!r:.60} is no moment; write 2026-03-01T08:00:00Z") from error
        if not zone:
            raise FieldError(attribute.name, f"{value!r:.60} does not say its time zone; write 2026-03-01T08:00:00Z")

    meta = {"text": True, "moment": True, "title": title, "help": help_line}
    return attrs.field(default="", validator=check, metadata=meta)


def extra() -> Any:
    """Fields of a newer version, kept as they came and written back."""
    return attrs.field(factory=dict, metadata={"extra": True}, hash=False)


def declaration(record: type, path: str) -> "attrs.Attribute[Any] | None":
    """The declaration of the field at a dotted path below a record class, None where there is none.

    A number in the path stands for one record of several: anneal.steps.0.hold_h.
    """
    names = path.split(".")
    while len(names) > 1:
        found = attrs.fields_dict(record).get(names.pop(0))
        inside = found.type if found is not None else None
        if names[0].isdigit() and len(names) > 1:
            inside = element_of(inside)
            names.pop(0)
        if not isinstance(inside, type) or not attrs.has(inside):
            return None
        record = inside
    return attrs.fields_dict(record).get(names[0])


def element_of(kind: Any) -> Any:
    """The record class of which a field holds several, None for any other field."""
    inside = get_args(kind)
    return inside[0] if get_origin(kind) is tuple and inside and attrs.has(inside[0]) else None


def value_at(record: Any, path: str) -> Any:
    """The value at a dotted path below a record; None for a key that a mapping does not hold, or one too many."""
    for name in path.split("."):
        if isinstance(record, tuple):
            if int(name) >= len(record):
                return None
            record = record[int(name)]
        else:
            record = record.get(name) if isinstance(record, Mapping) else getattr(record, name)
    return record


def with_value(record: Any, path: str, value: Any) -> Any:
    """The record with another value at a dotted path; the original stays as it is.

    None at a key of a mapping takes the key away. One record more than there are is made where one is named; one at the
    end in which nothing stands any more is gone.
    """
    name, _, rest = path.partition(".")
    if isinstance(record, Mapping):
        others = {key: each for key, each in record.items() if key != name}
        return others if value is None else others | {name: value}
    inside = element_of(attrs.fields_dict(type(record))[name].type) if rest else None
    if inside is not None:
        return attrs.evolve(record, **{name: _with_element(getattr(record, name), inside, rest, value)})
    return attrs.evolve(record, **{name: with_value(getattr(record, name), rest, value) if rest else value})


def _with_element(several: tuple[Any, ...], inside: type, path: str, value: Any) -> tuple[Any, ...]:
    number, _, rest = path.partition(".")
    place = int(number)
    if place > len(several):
        raise FieldError(path, f"there are {len(several)}; {place + 1} cannot be the next")
    found = [*several, inside()] if place == len(several) else list(several)
    found[place] = with_value(found[place], rest, value)
    while found and found[-1] == inside():
        del found[-1]
    return tuple(found)
