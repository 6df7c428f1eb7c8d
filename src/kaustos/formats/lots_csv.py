"""Lots as CSV: one line for each spool, its stays and weighings in a cell each; faults name line and column."""

from collections.abc import Iterable, Mapping
from typing import Any
from urllib.parse import unquote

import attrs

from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.progress import UNWATCHED, Progress, watched
from kaustos.core.records import (
    POLYMER_VALUES,
    Datum,
    Lot,
    Reserve,
    Stay,
    StrandCheck,
    Weighing,
    check_datum,
    log_faults,
    outside_faults,
)
from kaustos.core.records.quantities import QUANTITIES, Unit
from kaustos.formats.csv_tables import LIST_SEPARATOR, Table, cell, number, written

PARTS = "@"
NEEDED = ("id", "name", "grade", "polymer")
_VALUES = ("grade_values", "lot_values")
_LEFT_OUT = ("photos", "extra")
_LISTS = {  # column: the parts of its entries
    "stays": "place@from@°C@%@dryer",
    "weighings": "when@gross g@scale g",
    "reserves": "g@when@for",
    "strands": "when@signs",
    "grade_values": "value@is@least@most@known from@source@doubt",
    "lot_values": "value@is@least@most@known from@source@doubt",
}


def lot_fields() -> tuple[str, ...]:
    """Every plain field of a lot, in the order of the columns."""
    return tuple(each.name for each in attrs.fields(Lot) if each.name not in (*_LEFT_OUT, *_LISTS))


def write_lots(lots: Iterable[Lot]) -> str:
    """Lots as CSV; photos stay behind."""
    names = lot_fields()
    lines = [[*map(_heading, names), *(f"{name} [{parts}]" for name, parts in _LISTS.items())]]
    for lot in lots:
        stays = [(each.place, each.from_utc, each.temperature_c, each.humidity_pct, each.dryer) for each in lot.stays]
        weighings = [(each.at_utc, each.gross_g, each.scale_g) for each in lot.weighings]
        reserves = [(each.grams, each.at_utc, _kept_apart(each.purpose)) for each in lot.reserves]
        strands = [(each.at_utc, "+".join(each.signs)) for each in lot.strands]
        values = [_value_parts(getattr(lot, name)) for name in _VALUES]
        lists: list[Iterable[tuple[object, ...]]] = [stays, weighings, reserves, strands, *values]
        lines.append([*(cell(getattr(lot, name)) for name in names), *map(_joined, lists)])
    return written(lines)


def _heading(name: str) -> str:
    quantity = attrs.fields_dict(Lot)[name].metadata.get("quantity")
    return f"{name} [{QUANTITIES[quantity].unit}]" if quantity else name


def _joined(entries: Iterable[tuple[object, ...]]) -> str:
    return LIST_SEPARATOR.join(PARTS.join(cell(part) for part in entry) for entry in entries)


def _value_parts(values: Mapping[str, Datum]) -> list[tuple[object, ...]]:
    return [
        (key, each.value, each.low, each.high, each.kind, _kept_apart(each.source), _kept_apart(each.doubt))
        for key, each in values.items()
    ]


def _kept_apart(words: str) -> str:
    """Words in which no separator of a list stands."""
    for mark in ("%", LIST_SEPARATOR, PARTS):
        words = words.replace(mark, f"%{ord(mark):02X}")
    return words


def read_lots(table: Table, progress: Progress = UNWATCHED) -> tuple[tuple[int, Lot], ...]:
    """Lots of a table that has their columns, each with its line; all faults at once."""
    faults: list[str] = []
    found: list[tuple[int, Lot]] = []
    units = table.shop_units({field.name: str(field.metadata.get("quantity", "")) for field in attrs.fields(Lot)})
    for line, cells in watched(table.lines, progress):
        values: dict[str, Any] = {}
        for name in (each for each in (*lot_fields(), *_LISTS) if each in cells):
            try:
                values[name] = _parsed(name, cells[name].strip(), table, units.get(name))
                Lot(**({"id": "x"} | {name: values[name]}))
            except (KaustosError, ValueError) as error:
                faults.append(f"line {line}, column {name}: {error}")
        if not faults:
            found.append((line, _whole(Lot(**values), line, faults)))
    if faults:
        raise FaultList(table.name, tuple(faults))
    return tuple(found)


def _whole(lot: Lot, line: int, faults: list[str]) -> Lot:
    """The lot, where its values go together."""
    if not lot.id or not lot.name or not lot.grade:
        faults.append(f"line {line}: a lot needs id, name and grade")
    faults += [f"line {line}, column {fault}" for fault in (*outside_faults(lot), *log_faults(lot))]
    light = [each.gross_g for each in lot.weighings if each.gross_g is not None and each.gross_g < (lot.tare_g or 0.0)]
    faults += [f"line {line}, column weighings: {each:g} g is less than the empty spool" for each in light]
    logs = {"stays": [each.from_utc for each in lot.stays], "weighings": [each.at_utc for each in lot.weighings],
            "strands": [each.at_utc for each in lot.strands]}  # fmt: skip
    for name, times in logs.items():
        if times != sorted(times):
            faults.append(f"line {line}, column {name}: a clock does not run backwards")
    return lot


def _parsed(name: str, text: str, table: Table, unit: Unit | None) -> object:
    if name == "stays":
        return tuple(_stay(entry) for entry in _entries(text, 5, 4))
    if name == "weighings":
        return tuple(_weighing(entry) for entry in _entries(text, 3))
    if name == "reserves":
        return tuple(Reserve(grams=number(g), at_utc=at, purpose=unquote(words)) for g, at, words in _entries(text, 3))
    if name == "strands":
        return tuple(StrandCheck(at_utc=at, signs=tuple(signs.split("+") if signs else ()))
                     for at, signs in _entries(text, 2))  # fmt: skip
    if name in _VALUES:
        return dict(_own_value(parts) for parts in _entries(text, 7))
    field = attrs.fields_dict(Lot)[name]
    if name == "retired" or field.metadata.get("flag"):
        if text not in ("yes", "no", ""):
            raise KaustosError(f"must be yes, no or empty, got {text!r:.40}")
        return text == "yes" if text or name == "retired" else None
    if "quantity" in field.metadata:
        return table.number(text, unit)
    return text if field.metadata.get("text") or name == "id" else text or None


def _entries(text: str, parts: int, least: int = 0) -> list[list[str]]:
    """The entries of a list in their parts; the last ones may be left out down to the least."""
    entries = [entry.strip().split(PARTS) for entry in text.split(LIST_SEPARATOR) if entry.strip()]
    for entry in entries:
        if not (least or parts) <= len(entry) <= parts:
            raise KaustosError(f"{PARTS.join(entry)!r:.60} has {len(entry)} parts, {least or parts} are needed")
    return entries


def _own_value(parts: list[str]) -> tuple[str, Datum]:
    """A value of the polymer as lot or grade is known, in the shop unit of that value."""
    key, value, low, high, kind, source, doubt = parts
    if key not in POLYMER_VALUES:
        raise KaustosError(f"{key!r:.60} is no value of a polymer")
    numbers = [number(each) for each in (value, low, high)]
    if None in numbers:
        raise KaustosError(f"{key}: a number is missing")
    middle, least, most = (each for each in numbers if each is not None)
    unit = POLYMER_VALUES[key].unit
    datum = Datum(
        value=middle, low=least, high=most, unit=unit, kind=kind, source=unquote(source), doubt=unquote(doubt)
    )
    return key, check_datum(key, datum)


def _stay(parts: list[str]) -> Stay:
    dryer = parts[4] if len(parts) > 4 else ""
    return Stay(place=parts[0], from_utc=parts[1], temperature_c=number(parts[2]), humidity_pct=number(parts[3]),
                dryer=dryer or None)  # fmt: skip


def _weighing(parts: list[str]) -> Weighing:
    return Weighing(at_utc=parts[0], gross_g=number(parts[1]), scale_g=number(parts[2]))
