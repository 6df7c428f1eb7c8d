"""What can be in a shop: values beyond it are refused where they are typed or come in, and kept where they are stored.

A stored value that cannot be is judged as one that is not recorded, and is found; it never stops a judgement.
"""

from collections.abc import Iterator
from typing import Any, get_args

import attrs

from kaustos.core.memo import by_identity
from kaustos.core.records.fields import EARLIEST, LATEST, ends_of, is_within_time
from kaustos.core.records.quantities import QUANTITIES


@attrs.frozen
class Outside:
    """A value that cannot be, with the ends of what can."""

    path: str
    value: float | str
    low: float | str
    high: float | str
    unit: str  # of the shop; "" for a moment
    usual: float | str | None  # what stands in its place where it is judged


@attrs.frozen
class _Look:
    """One field that is looked at: a number, a moment, a record or records inside."""

    name: str
    kind: str
    low: float = 0.0
    high: float = 0.0
    unit: str = ""
    usual: float | None = None  # a threshold of the shop has one, all else is not recorded


def outside_of(record: Any) -> tuple[Outside, ...]:
    """Every value of a record that cannot be in a shop.

    Parameters
    ----------
    record : attrs class or None
        A recipe, lot, dryer, machine, run or a section of one [shop units]

    Returns
    -------
    tuple of Outside
        Path inside the record, value and the ends of what can be [shop units]
    """
    return _answer(record)[0]


def within(record: Any) -> Any:
    """The record with every value that cannot be taken as not recorded; the record itself where there is none.

    Parameters
    ----------
    record : attrs class or None
        As it is stored [shop units]

    Returns
    -------
    attrs class or None
        As it is judged [shop units]
    """
    return _answer(record)[1]


def log_faults(record: Any) -> tuple[str, ...]:
    """What is wrong with the times of a log: every entry has its moment, and what ends has begun.

    Parameters
    ----------
    record : attrs class
        A lot or a run [-]

    Returns
    -------
    tuple of str
        Sentences with the path of the entry [-]
    """
    faults = []
    for name in ("stays", "weighings", "strands"):
        for place, entry in enumerate(getattr(record, name, ())):
            moment = next(each.name for each in attrs.fields(type(entry)) if each.metadata.get("moment"))
            if not getattr(entry, moment):
                faults.append(f"{name}[{place}].{moment}: is missing; an entry of a log needs its moment")
    started, ended = getattr(record, "started_utc", None), getattr(record, "ended_utc", None)
    if started == "":
        faults.append("started_utc: is missing; a run needs the moment at which it began")
    if started and ended and _instant(ended) < _instant(started):
        faults.append("ended_utc: lies before started_utc")
    return tuple(faults)


def outside_faults(record: Any, path: str = "") -> tuple[str, ...]:
    """What a record from elsewhere holds that cannot be, in sentences.

    Parameters
    ----------
    record : attrs class
        As it was read [shop units]
    path : str
        Where it stands in its file [-]

    Returns
    -------
    tuple of str
        Each with the path of the value and the ends of what can be [-]
    """
    return tuple(
        f"{path}{each.path}: {each.value:g} {each.unit} is not possible: {each.low:g} to {each.high:g} {each.unit}"
        if isinstance(each.value, float | int)
        else f"{path}{each.path}: {each.value!r:.60} is not possible: from {each.low} up to {each.high}"
        for each in outside_of(record)
    )


def _instant(moment: str) -> Any:
    from datetime import datetime

    return datetime.fromisoformat(moment)


@by_identity(512)
def _answer(record: Any) -> tuple[tuple[Outside, ...], Any]:
    """What is outside, and the record without it."""
    found = tuple(_found(record, "")) if record is not None else ()
    return found, _without(record) if found else record


def _found(record: Any, path: str) -> Iterator[Outside]:
    for look in _looks(type(record)):
        value = getattr(record, look.name)
        if look.kind == "number":
            if value is not None and not look.low <= value <= look.high:
                yield Outside(path + look.name, value, look.low, look.high, look.unit, look.usual)
        elif look.kind == "moment":
            if value and not is_within_time(value):
                yield Outside(path + look.name, value, str(EARLIEST), str(LATEST), "", "")
        elif look.kind == "record":
            if value is not None:
                yield from _found(value, f"{path}{look.name}.")
        else:
            for place, each in enumerate(value):
                yield from _found(each, f"{path}{look.name}[{place}].")


def _without(record: Any) -> Any:
    changes: dict[str, Any] = {}
    for look in _looks(type(record)):
        value = getattr(record, look.name)
        if look.kind == "records":
            changes[look.name] = tuple(_without(each) for each in value if not _is_without_moment(each))
        elif look.kind == "record":
            changes[look.name] = value if value is None else _without(value)
        elif look.kind == "moment":
            changes[look.name] = value if not value or is_within_time(value) else ""
        elif value is not None and not look.low <= value <= look.high:
            changes[look.name] = look.usual
    return attrs.evolve(record, **changes)


def _is_without_moment(entry: Any) -> bool:
    """Whether an entry of a log has no moment that can be, and so no place in it."""
    return any(not each.unit for each in _found(entry, ""))


_LOOKS: dict[type, tuple[_Look, ...]] = {}


def _looks(record: type) -> tuple[_Look, ...]:
    """What is looked at in records of a class, worked out once."""
    if record not in _LOOKS:
        _LOOKS[record] = tuple(_looked_at(record))
    return _LOOKS[record]


def _looked_at(record: Any) -> Iterator[_Look]:
    for field in attrs.fields(record):
        quantity, inner = field.metadata.get("quantity"), field.type
        if quantity:
            low, high = ends_of(field)
            usual = field.default if isinstance(field.default, float) else None
            yield _Look(field.name, "number", low, high, QUANTITIES[quantity].unit, usual)
        elif field.metadata.get("moment"):
            yield _Look(field.name, "moment")
        elif isinstance(inner, type) and attrs.has(inner):
            yield _Look(field.name, "record")
        elif getattr(inner, "__origin__", None) is tuple and attrs.has(get_args(inner)[0]):
            yield _Look(field.name, "records")
