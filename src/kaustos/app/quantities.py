"""Reads what a person types into a field: one number, or a duration in parts, with or without a unit.

A bare number takes the field's own unit. Anything left over, a second number, a unit of another
dimension or a number that is not finite is refused. Spellings are ours, because a units library alone reads "302 F"
as farad and "0,8 mm" as zero; conversions are a factor and an offset each, and tests hold them to such a library.
"""

import re

from kaustos.core.errors import KaustosError
from kaustos.core.records.quantities import check_number

_TEMPERATURE = {"c": "degC", "degc": "degC", "celsius": "degC", "f": "degF", "degf": "degF", "fahrenheit": "degF",
                "k": "kelvin", "kelvin": "kelvin"}  # fmt: skip
_DIFFERENCE = {"k": "kelvin", "kelvin": "kelvin", "c": "delta_degC", "degc": "delta_degC", "f": "delta_degF",
               "degf": "delta_degF"}  # fmt: skip
_LENGTH = {"mm": "mm", "cm": "cm", "m": "m", "um": "um", "µm": "um", "in": "inch", "inch": "inch", '"': "inch",
           "''": "inch", "thou": "thou", "mil": "thou", "ft": "foot", "'": "foot"}  # fmt: skip
_MASS = {"g": "g", "kg": "kg", "mg": "mg", "oz": "oz", "lb": "lb", "lbs": "lb", "gram": "g", "grams": "g"}
_DURATION = {"h": "hour", "hr": "hour", "hrs": "hour", "hour": "hour", "hours": "hour", "min": "minute",
             "mins": "minute", "minute": "minute", "minutes": "minute", "m": "minute", "s": "second", "sec": "second",
             "d": "day", "day": "day", "days": "day"}  # fmt: skip
_FLOW = {"mm³/s": "mm**3/s", "mm3/s": "mm**3/s", "mm^3/s": "mm**3/s", "cm³/min": "cm**3/min", "cm3/min": "cm**3/min",
         "ml/min": "cm**3/min"}  # fmt: skip
_STRESS = {"mpa": "MPa", "kpa": "kPa", "pa": "Pa", "gpa": "GPa", "psi": "psi", "ksi": "ksi", "bar": "bar",
           "n/mm²": "MPa", "n/mm2": "MPa", "n/mm^2": "MPa"}  # fmt: skip
_POWER = {"w": "W", "kw": "kW"}
_ENERGY = {"kwh": "kW*hour", "wh": "W*hour", "j": "J", "kj": "kJ", "mj": "MJ"}
_MONEY = dict.fromkeys(("€", "$", "£", "eur", "usd", "gbp"), "")
SPELLINGS: dict[str, dict[str, str]] = {  # quantity: spelling in lower case -> unit, "" for the field's own
    "temperature": _TEMPERATURE,
    "temperature_difference": _DIFFERENCE,
    "length": _LENGTH,
    "mass": _MASS,
    "duration": _DURATION,
    "flow": _FLOW,
    "stress": _STRESS,
    "pressure": {"mbar": "mbar", "hpa": "hPa", "pa": "Pa", "kpa": "kPa", "bar": "bar", "torr": "torr", "mmhg": "mmHg"},
    "power": _POWER,
    "energy": _ENERGY,
    "density": {"g/cm³": "", "g/cm3": "", "g/cm^3": "", "kg/l": "", "kg/m³": "kg/m**3", "kg/m3": "kg/m**3"},
    "share": {"%": "", "per cent": ""},
    "moisture": {"%": "", "% water": "", "ppm": "ppm"},
    "diffusivity": {"µm²/s": "", "um2/s": "", "m²/s": "m**2/s", "m2/s": "m**2/s"},
    "molar_energy": {"kj/mol": ""},
    "ratio": {"x": "", "times": ""},
    "energy_price": {f"{each}/kwh": "" for each in _MONEY} | {"/kwh": ""} | _MONEY,
    "price_volume": {f"{each}/l": "" for each in _MONEY},
    "money": _MONEY,
    "money_rate": {f"{each}/h": "" for each in _MONEY} | {"/h": ""} | _MONEY,
    "price": {f"{each}/kg": "" for each in _MONEY} | {"/kg": ""} | _MONEY,
}
_FACTORS: dict[str, dict[str, tuple[float, float]]] = {  # quantity: unit -> value x factor + offset, in the shop unit
    "temperature": {"degF": (5.0 / 9.0, -160.0 / 9.0), "kelvin": (1.0, -273.15)},
    "temperature_difference": {"delta_degC": (1.0, 0.0), "delta_degF": (5.0 / 9.0, 0.0)},
    "length": {"cm": (10.0, 0.0), "m": (1e3, 0.0), "um": (1e-3, 0.0), "inch": (25.4, 0.0), "thou": (0.0254, 0.0),
               "foot": (304.8, 0.0)},
    "mass": {"kg": (1e3, 0.0), "mg": (1e-3, 0.0), "oz": (28.349523125, 0.0), "lb": (453.59237, 0.0)},
    "duration": {"minute": (1.0 / 60.0, 0.0), "second": (1.0 / 3600.0, 0.0), "day": (24.0, 0.0)},
    "flow": {"cm**3/min": (1e3 / 60.0, 0.0)},
    "stress": {"kPa": (1e-3, 0.0), "Pa": (1e-6, 0.0), "GPa": (1e3, 0.0), "psi": (6.894757293168361e-3, 0.0),
               "ksi": (6.894757293168361, 0.0), "bar": (0.1, 0.0)},
    "pressure": {"hPa": (1.0, 0.0), "Pa": (0.01, 0.0), "kPa": (10.0, 0.0), "bar": (1e3, 0.0),
                 "torr": (1013.25 / 760.0, 0.0), "mmHg": (1.33322387415, 0.0)},
    "power": {"kW": (1e3, 0.0)},
    "energy": {"W*hour": (1e-3, 0.0), "J": (1.0 / 3.6e6, 0.0), "kJ": (1.0 / 3600.0, 0.0), "MJ": (1.0 / 3.6, 0.0)},
    "density": {"kg/m**3": (1e-3, 0.0)},
    "moisture": {"ppm": (1e-4, 0.0)},
    "diffusivity": {"m**2/s": (1e12, 0.0)},
}  # fmt: skip
_NUMBER = r"[+-]?(?:[0-9]+(?:[.,][0-9]+)?|[.,][0-9]+)(?:[eE][+-]?[0-9]+)?"
_ONE = rf"({_NUMBER})\s*(.*)"
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


def read(text: str, quantity: str) -> float:
    """The value that a text gives in the quantity's shop unit."""
    plain = _plain(text)
    if not plain:
        raise NotAQuantity(text, "is empty")
    if quantity == "duration":
        value = _duration(plain, text)
    else:
        number, spelling = _split(plain, text, quantity)
        value = to_shop(number, _unit(spelling, text, quantity), quantity)
    return check_number("value", value, quantity)


def to_shop(value: float, unit: str, quantity: str) -> float:
    """The value in the shop unit; an empty unit is the shop unit already."""
    if unit not in _FACTORS.get(quantity, {}):
        return value
    factor, offset = _FACTORS[quantity][unit]
    return float(f"{value * factor + offset:.10g}")  # what the conversion adds behind ten digits is noise


def from_shop(value: float, unit: str, quantity: str) -> float:
    """The value in another unit of the quantity."""
    factor, offset = _FACTORS[quantity][unit]
    return (value - offset) / factor


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
        if int(bottom) == 0:
            raise NotAQuantity(text, "divides by zero")
        number = int(whole or 0) + int(top) / int(bottom)
        return (-number if sign == "-" else number), unit or ""
    match = re.fullmatch(_ONE, plain)
    if not match:
        raise NotAQuantity(text, f"is not a {quantity.replace('_', ' ')}")
    return _number(match[1]), match[2]


def _number(spelling: str) -> float:
    return float(spelling.replace(",", "."))


def _unit(spelling: str, text: str, quantity: str) -> str:
    word = spelling.strip().lower().replace("°", "deg").replace("deg ", "deg").replace(" /", "/").replace("/ ", "/")
    if word == "":
        return ""
    if word in SPELLINGS[quantity]:
        return SPELLINGS[quantity][word]
    if re.search(r"\d", word.replace("mm3", "").replace("cm3", "").replace("^3", "").replace("mm2", "")):
        raise NotAQuantity(text, "holds more than one number")
    other = next((name for name, words in SPELLINGS.items() if word in words), None)
    what = quantity.replace("_", " ")
    if other:
        raise NotAQuantity(text, f"is a {other.replace('_', ' ')}; this field holds a {what}")
    raise NotAQuantity(text, f"has a unit that a {what} does not have")


def _duration(plain: str, text: str) -> float:
    clock = re.fullmatch(_CLOCK, plain)
    if clock:
        return int(clock[1]) + int(clock[2]) / 60.0 + int(clock[3] or 0) / 3600.0
    rest, hours, last = plain.lower(), 0.0, ""
    while rest:
        piece = re.match(_PIECE, rest)
        if not piece or not piece[0].strip():
            raise NotAQuantity(text, "is not a duration; write 2 h 30, 2:30 or 150 min")
        hours += to_shop(_number(piece[1]), _piece_unit(piece[2], last, text), "duration")
        last, rest = piece[2] or "end", rest[piece.end() :].strip()
    return hours


_SHRINKING = ("day", "hour", "minute", "second")


def _piece_unit(spelling: str, before: str, text: str) -> str:
    """The unit of one piece of a duration: each piece is of a smaller unit than the one before."""
    if before == "end":
        raise NotAQuantity(text, "holds more than one number")
    previous = _DURATION.get(before, "")
    if not spelling:
        if not previous:
            return "hour"
        place = _SHRINKING.index(previous)
        if place in (0, 3):
            raise NotAQuantity(text, "leaves open what its last number counts")
        return _SHRINKING[place + 1]
    unit = _DURATION.get(spelling)
    if unit is None:
        raise NotAQuantity(text, "has a unit that a duration does not have")
    if previous and _SHRINKING.index(unit) <= _SHRINKING.index(previous):
        raise NotAQuantity(text, "must go from larger to smaller units")
    return unit
