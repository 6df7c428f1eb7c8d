"""Reads what a person types into a field: one number, or a duration in parts, with or without a unit.

A bare number takes the field's own unit. Anything left over, a second number, a unit of another
dimension or a number that is not finite is refused. Spellings are ours and stand in the row of their quantity, because
a units library alone reads "302 F" as farad and "0,8 mm" as zero; tests hold the conversions to such a library.
"""

import re

from kaustos.core.errors import KaustosError
from kaustos.core.records.quantities import QUANTITIES, Unit, check_number, either_way

_NUMBER = r"[+-]?(?:[0-9]+(?:[.,][0-9]+)?|[.,][0-9]+)(?:[eE][+-]?[0-9]+)?"
_ONE = rf"({_NUMBER})\s*(.*)"
MOST_DIGITS = 18  # of a part of a fraction
_FRACTION = r"([+-]?)(?:([0-9]+)\s+)?([0-9]+)\s*/\s*([0-9]+)\s*([^\d\s].*)?"
_CLOCK = r"([0-9]+):([0-5][0-9])(?::([0-5][0-9]))?"
_PIECE = rf"\s*({_NUMBER})\s*([a-zµ]*)"


class NotAQuantity(KaustosError):
    """Typed text that is no value of the field's quantity."""

    def __init__(self, text: str, problem: str) -> None:
        super().__init__(text, problem)
        self.text, self.problem = text, problem

    def __str__(self) -> str:
        shown = self.text if len(self.text) <= 40 else self.text[:40] + "…"
        return f"“{shown}” {self.problem}"


def read(text: str, quantity: str, decimal: str = "point") -> float:
    """The value that a text gives in the quantity's shop unit; what may be one or a thousand is asked for."""
    plain = _plain(text)
    if not plain:
        raise NotAQuantity(text, "is empty")
    either = None if decimal == "comma" else next(filter(None, map(either_way, re.findall(r"[\d.,]+", plain))), None)
    if either:
        raise NotAQuantity(text, f"may be {either[0]} or {either[1]}; write it so")
    try:
        if quantity == "duration":
            value = _duration(plain, text)
        else:
            number, spelling = _split(plain, text, quantity)
            value = _unit(spelling, text, quantity).to_shop(number)
    except OverflowError as error:
        raise NotAQuantity(text, "is more than a number can hold") from error
    return check_number("value", value, quantity)


def _plain(text: str) -> str:
    for odd in ("\u00a0", "\u2009", "\u202f"):
        text = text.replace(odd, " ")
    return text.replace("\u2212", "-").replace("\u03bc", "µ").replace("º", "°").strip()


def _split(plain: str, text: str, quantity: str) -> tuple[float, str]:
    if quantity.startswith(("money", "price", "energy_price")):
        plain = re.sub(r"^([€$£])\s*(.+)$", r"\2 \1", plain)
        plain = re.sub(r"^(\S+?)\s*(/kg|/h|/kwh|/l)\s+([€$£])$", r"\1 \3\2", plain)
    fraction = re.fullmatch(_FRACTION, plain) if quantity in ("length", "mass") else None
    if fraction:
        sign, whole, top, bottom, unit = fraction.groups()
        if max(len(each or "") for each in (whole, top, bottom)) > MOST_DIGITS:
            raise NotAQuantity(text, "has too many digits")
        if int(bottom) == 0:
            raise NotAQuantity(text, "divides by zero")
        number = int(whole or 0) + int(top) / int(bottom)
        return (-number if sign == "-" else number), unit or ""
    match = re.fullmatch(_ONE, plain)
    if not match:
        raise NotAQuantity(text, f"is not a {_words(quantity)}; write such as {QUANTITIES[quantity].example}")
    return _number(match[1]), match[2]


def _number(spelling: str) -> float:
    return float(spelling.replace(",", "."))


def _words(quantity: str) -> str:
    return quantity.replace("_", " ")


def _unit(spelling: str, text: str, quantity: str) -> Unit:
    word = spelling.strip().lower().replace("°", "deg").replace("deg ", "deg").replace(" /", "/").replace("/ ", "/")
    units = QUANTITIES[quantity].units
    found = QUANTITIES[quantity].spelled(word) if word else units[0]
    if found is not None:
        return found
    if re.search(r"\d", word.replace("mm3", "").replace("cm3", "").replace("^3", "").replace("mm2", "")):
        raise NotAQuantity(text, "holds more than one number")
    other = next((name for name, each in QUANTITIES.items() if each.spelled(word)), None)
    if other:
        raise NotAQuantity(text, f"is a {_words(other)}; this field holds a {_words(quantity)}")
    raise NotAQuantity(
        text, f"has a unit that a {_words(quantity)} does not have; write such as {QUANTITIES[quantity].example}"
    )


def _duration(plain: str, text: str) -> float:
    clock = re.fullmatch(_CLOCK, plain)
    if clock:
        return int(clock[1]) + int(clock[2]) / 60.0 + int(clock[3] or 0) / 3600.0
    rest, hours, before, is_open = plain.lower(), 0.0, None, True
    while rest:
        piece = re.match(_PIECE, rest)
        if not piece or not piece[0].strip():
            raise NotAQuantity(text, f"is not a duration; write {QUANTITIES['duration'].example}")
        if not is_open:
            raise NotAQuantity(text, "holds more than one number")
        before = _piece_unit(piece[2], before, text)
        hours += before.to_shop(_number(piece[1]))
        rest, is_open = rest[piece.end() :].strip(), bool(piece[2])
    return hours


_NEXT = {"h": "min", "min": "s"}  # what a bare number counts behind such a unit


def _piece_unit(spelling: str, before: Unit | None, text: str) -> Unit:
    """The unit of one piece of a duration: each piece is of a smaller unit than the one before."""
    duration = QUANTITIES["duration"]
    if not spelling:
        if before is None:
            return duration.units[0]
        follows = _NEXT.get(before.spellings[0])
        found = duration.spelled(follows) if follows else None
        if found is None:
            raise NotAQuantity(text, "leaves open what its last number counts")
        return found
    found = duration.spelled(spelling)
    if found is None:
        raise NotAQuantity(text, "has a unit that a duration does not have")
    if before is not None and found.factor >= before.factor:
        raise NotAQuantity(text, "must go from larger to smaller units")
    return found
