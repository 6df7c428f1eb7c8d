"""How a field is read from typed text, shown in its box and said in a sentence: one table, the first kind that fits.

Impossible values are refused with a FieldError; unwise ones enter and are judged.
"""

import functools
from collections.abc import Callable, Mapping
from typing import Any, Protocol

import attrs

from kaustos.app.humid import read_dew_point, read_humidity
from kaustos.app.records import Records
from kaustos.core.errors import FieldError
from kaustos.core.records import (
    POLYMER_VALUES,
    Datum,
    Place,
    check_datum,
    check_sorption,
    declared,
    with_own_values,
    within,
)
from kaustos.core.records.fields import ends_of
from kaustos.core.records.quantities import BY_UNIT, QUANTITIES, check_text, check_typed

NONE_FITTED = "none"
NOT_RECORDED = "not recorded"
_OWN = ("lot.lot_values.", "lot.grade_values.")
Changes = Mapping[Place, object]


class Words(Protocol):
    """What is needed of the wording."""

    def number(self, value: float, quantity: str) -> str: ...
    def value(self, value: float, quantity: str) -> str: ...
    def plain(self, value: float, unit: str = "") -> str: ...
    def field(self, path: str) -> str: ...
    def read(self, text: str, quantity: str) -> float: ...


@attrs.frozen
class FieldKind:
    """One kind of field."""

    fits: Callable[[str], bool]
    shown: Callable[[Records, Words, Place], str]  # what stands in its box
    read: Callable[[Records, Words, Place, str], Changes]  # what a typed text sets
    said: Callable[[Words, str, Any], str]  # its value inside a sentence; never asked for what is not recorded


@functools.cache
def kind_of(path: str) -> FieldKind:
    """The kind of the field that a path names."""
    return next(kind for kind in FIELD_KINDS if kind.fits(path))


@functools.cache
def quantity_of(path: str) -> str | None:
    """The quantity of a number field by its path."""
    found = declared(path)
    if found is not None:
        quantity = found.metadata.get("quantity")
        return str(quantity) if quantity else None
    key = path.split(".")[-1]
    return POLYMER_VALUES[key].quantity if key in POLYMER_VALUES else None


@functools.cache
def choices_of(path: str) -> Mapping[str, str]:
    """The words that a field takes, none where it takes any."""
    found = declared(path)
    return dict(found.metadata.get("choices", {})) if found else {}


_UNITS = {"mm": "mm", "mm2": "mm²", "mm3": "mm³", "c": "°C", "k": "K", "s": "s", "h": "h", "g": "g", "pct": "%"}


def _unit_in(path: str) -> str:
    """The unit that the name of a number says, which was measured or read and is typed nowhere; nothing for a count."""
    name = next((each for each in reversed(path.split(".")) if not each.isdigit()), "")
    if name.endswith("_mm_s"):
        return "mm/s"
    return _UNITS.get(name.rpartition("_")[2], "") if "_" in name else ""


def _value_said(wording: Words, path: str, value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, (int, float)):
        quantity = quantity_of(path)
        return (
            wording.plain(float(value), _unit_in(path)) if quantity is None else wording.value(float(value), quantity)
        )
    return choices_of(path).get(str(value), str(value))


# ---- the limit of a machine part: a temperature, or none for a part that is not there


def _is_limit(path: str) -> bool:
    return path.startswith("machine.") and path.endswith(".max_c")


def fitted(place: Place) -> Place:
    """The place that says whether the part of a limit is fitted."""
    return attrs.evolve(place, field=place.field.removesuffix("max_c") + "fitted")


def _limit_shown(records: Records, wording: Words, place: Place) -> str:
    value = records.at(place)
    if value is None:
        return NONE_FITTED if records.at(fitted(place)) is False else ""
    return wording.number(float(str(value)), "temperature")


def _limit_read(records: Records, wording: Words, place: Place, text: str) -> Changes:
    part = fitted(place)
    if text.strip().lower() == NONE_FITTED:
        return {part: False, place: None}
    value = wording.read(text, "temperature") if text.strip() else None
    passive = place.path == "machine.chamber.heater.max_c" and records.at(part) is False
    return {place: value, part: False if passive else None if value is None else True}


# ---- an own value of a lot, or of a grade and so of every lot of it: 141, or 141 ± 2


def _own_shown(records: Records, wording: Words, place: Place) -> str:
    found = records.at(place)
    return own_words(found, wording) if isinstance(found, Datum) else ""


def own_words(datum: Datum, wording: Words) -> str:
    """An own value as it stands in its field."""
    quantity = BY_UNIT[datum.unit]
    text = wording.number(datum.value, quantity)
    if datum.high > datum.value:
        text += f" ± {wording.number(datum.high - datum.value, _width_of(quantity))}"
    return text


def _width_of(quantity: str) -> str:
    return "temperature_difference" if quantity == "temperature" else quantity


def _own_read(records: Records, wording: Words, place: Place, text: str) -> Changes:
    datum = _own_value(records, wording, place, text) if text.strip() else None
    whole_grade = place.field.startswith("grade_values.")
    lots = records.lots_of_grade(place.key) if whole_grade else [place.key]
    return {attrs.evolve(place, key=lot): datum for lot in lots}


def own_datum(wording: Words, key: str, text: str, source: str) -> Datum:
    """A value of a polymer as it is typed: 141, or 141 ± 2."""
    kind = POLYMER_VALUES[key]
    middle, _, spread = text.replace("+/-", "±").replace("+-", "±").partition("±")
    if not middle.strip():
        raise FieldError(kind.title, "the value itself is missing; write it in front of ±, such as 141 ± 2")
    value = wording.read(middle, kind.quantity)
    width = wording.read(spread, _width_of(kind.quantity)) if spread.strip() else 0.0
    low, high = value - width, value + width
    return check_datum(key, Datum(value=value, low=low, high=high, unit=kind.unit, kind="own", source=source))


def _own_value(records: Records, wording: Words, place: Place, text: str) -> Datum:
    scope, key = place.field.split(".")
    lot = records.lots[place.key]
    whose = f"lot {lot.name}" if scope == "lot_values" else f"grade {lot.grade}"
    found = own_datum(wording, key, text, f"own value for {whose}")
    generic = records.polymers.get(lot.polymer or "")
    check_sorption({**(with_own_values(generic, lot).values if generic else {}), key: found})
    return found


def _own_said(wording: Words, path: str, value: Any) -> str:
    return own_words(value, wording) if isinstance(value, Datum) else _value_said(wording, path, value)


# ---- humidity and dew point, either of which is read for the other

HUMIDITY, DEW_POINT = "lot.box_humidity_pct", ("rules.dew_point_c", "dryer.dew_point_c")


def _humidity_read(records: Records, wording: Words, place: Place, text: str) -> Changes:
    return {place: read_humidity(text, within(records.rules).room_c) if text.strip() else None}


def _dew_point_read(records: Records, wording: Words, place: Place, text: str) -> Changes:
    if "%" not in text:
        return _number_read(records, wording, place, text)
    return {place: read_dew_point(text, within(records.rules).room_c)}


# ---- a number, a word out of a few, yes or no, a text


def _number_shown(records: Records, wording: Words, place: Place) -> str:
    value, quantity = records.at(place), quantity_of(place.path)
    return "" if value is None else wording.number(float(str(value)), str(quantity))


def _number_read(records: Records, wording: Words, place: Place, text: str) -> Changes:
    required = place.path.startswith("rules.")
    if not text.strip() and not required:
        return {place: None}
    quantity, found = str(quantity_of(place.path)), declared(place.path)
    value = wording.read(text, quantity)
    if found is not None and "quantity" in found.metadata:
        check_typed(wording.field(place.path), value, ends_of(found), QUANTITIES[quantity].unit)
    return {place: value}


def _plain_shown(records: Records, wording: Words, place: Place) -> str:
    value = records.at(place)
    if isinstance(value, bool):
        return "yes" if value else "no"
    return "" if value is None else str(value)


def _choice_read(records: Records, wording: Words, place: Place, text: str) -> Changes:
    plain, words = text.strip(), choices_of(place.path)
    if plain and plain not in words:
        raise FieldError(wording.field(place.path), f"{plain!r:.40} is none of {', '.join(words)}")
    return {place: plain or None}


def _is_flag(path: str) -> bool:
    found = declared(path)
    return found is not None and (bool(found.metadata.get("flag")) or found.type is bool)


_FLAGS: Mapping[str, bool | None] = {"": None, "yes": True, "no": False}


def _flag_read(records: Records, wording: Words, place: Place, text: str) -> Changes:
    if text.strip() not in _FLAGS:
        raise FieldError(wording.field(place.path), f"{text.strip()!r:.40} is none of yes, no")
    value, found = _FLAGS[text.strip()], declared(place.path)
    return {place: bool(value) if found is not None and found.type is bool else value}


def _text_read(records: Records, wording: Words, place: Place, text: str) -> Changes:
    return {place: check_text(wording.field(place.path), text.strip())}


FIELD_KINDS = (
    FieldKind(_is_limit, _limit_shown, _limit_read, _value_said),
    FieldKind(lambda path: path.startswith(_OWN), _own_shown, _own_read, _own_said),
    FieldKind(lambda path: path == HUMIDITY, _number_shown, _humidity_read, _value_said),
    FieldKind(lambda path: path in DEW_POINT, _number_shown, _dew_point_read, _value_said),
    FieldKind(lambda path: quantity_of(path) is not None, _number_shown, _number_read, _value_said),
    FieldKind(lambda path: bool(choices_of(path)), _plain_shown, _choice_read, _value_said),
    FieldKind(_is_flag, _plain_shown, _flag_read, _value_said),
    FieldKind(lambda path: True, _plain_shown, _text_read, _value_said),
)
