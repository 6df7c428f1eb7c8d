"""The quantities a field can hold: its shop unit, what is physically possible and how exactly it is shown.

Impossible values (not finite, below absolute zero, a negative mass) never enter a record; unwise
ones do, and are judged by the review.
"""

import math
import re

import attrs

from kaustos.core.errors import FieldError

LONGEST_TEXT = 200


@attrs.frozen
class Unit:
    """A unit that may be typed: its spellings, in lower case with deg for a ring, and the way to the shop unit."""

    spellings: tuple[str, ...]
    factor: float = 1.0
    offset: float = 0.0

    def to_shop(self, value: float) -> float:
        """The value [this unit] in the shop unit; what the conversion adds behind ten digits is noise."""
        if (self.factor, self.offset) == (1.0, 0.0):
            return value
        return float(f"{value * self.factor + self.offset:.10g}")

    def from_shop(self, value: float) -> float:
        """A value [shop unit] in this one."""
        return (value - self.offset) / self.factor


@attrs.frozen
class Quantity:
    """What a number in a field means: its shop unit, what is possible, how exactly it is shown, how it is typed."""

    name: str
    unit: str
    low: float
    high: float
    decimals: int
    example: str
    units: tuple[Unit, ...]  # the shop unit first

    @property
    def can_be(self) -> tuple[float, float]:
        """The ends of what can be in a shop, where a record may hold more [shop unit]."""
        return _CAN_BE.get(self.name, (self.low, self.high))

    def spelled(self, word: str) -> Unit | None:
        """The unit that a word means; None where it means none of this quantity."""
        return next((each for each in self.units if word in each.spellings), None)


def _unit(spellings: str, factor: float = 1.0, offset: float = 0.0) -> Unit:
    return Unit(tuple(spellings.split("|")), factor, offset)


_COINS = "€|$|£|eur|usd|gbp"


def _money(per: str = "") -> Unit:
    each = "|".join(f"{coin}/{per}" for coin in _COINS.split("|"))
    return _unit(f"{each}|/{per}|{_COINS}" if per else _COINS)


# fmt: off
QUANTITIES = {
    quantity.name: quantity
    for quantity in (
        Quantity("temperature", "°C", -273.15, 5000.0, 1, "245 °C", (
            _unit("c|degc|celsius"), _unit("f|degf|fahrenheit", 5.0 / 9.0, -160.0 / 9.0),
            _unit("k|kelvin", 1.0, -273.15))),
        Quantity("temperature_difference", "K", -5000.0, 5000.0, 1, "20 K", (
            _unit("k|kelvin|c|degc"), _unit("f|degf", 5.0 / 9.0))),
        Quantity("height", "mm", -1e4, 1e4, 3, "0.12 mm", (
            _unit("mm"), _unit("um|µm", 1e-3), _unit("in|inch", 25.4), _unit("thou|mil", 0.0254))),
        Quantity("length", "mm", 0.0, 1e6, 3, "0.8 mm", (
            _unit("mm"), _unit("cm", 10.0), _unit("m", 1e3), _unit("um|µm", 1e-3), _unit("in|inch|\"|''", 25.4),
            _unit("thou|mil", 0.0254), _unit("ft|'", 304.8))),
        Quantity("mass", "g", 0.0, 1e7, 1, "210 g", (
            _unit("g|gram|grams"), _unit("kg", 1e3), _unit("mg", 1e-3), _unit("oz", 28.349523125),
            _unit("lb|lbs", 453.59237))),
        Quantity("mass_kg", "kg", 0.0, 1e4, 1, "12 kg", (_unit("kg"), _unit("g", 1e-3), _unit("lb|lbs", 0.45359237))),
        Quantity("ramp", "K/h", 0.0, 1e5, 0, "60 K/h or 1 K/min", (
            _unit("k/h|°c/h|c/h"), _unit("k/min|°c/min|c/min", 60.0), _unit("f/h|°f/h", 5.0 / 9.0))),
        Quantity("duration", "h", 0.0, 1e5, 2, "2 h 30, 2:30 or 150 min", (
            _unit("h|hr|hrs|hour|hours"), _unit("d|day|days", 24.0),
            _unit("min|mins|minute|minutes|m", 1.0 / 60.0), _unit("s|sec|second", 1.0 / 3600.0))),
        Quantity("minutes", "min", 0.0, 1e6, 1, "25 min", (
            _unit("min|mins|minute|minutes|m"), _unit("h|hr|hour|hours", 60.0), _unit("s|sec", 1.0 / 60.0))),
        Quantity("seconds", "s", 0.0, 1e9, 1, "20 s", (_unit("s|sec|second|seconds"), _unit("min|mins|minutes", 60.0))),
        Quantity("viscosity", "Pa·s", 0.0, 1e9, 0, "200 Pa·s", (_unit("pa·s|pas|pa*s"),)),
        Quantity("heat_of_fusion", "kJ/kg", 0.0, 1e4, 0, "40 kJ/kg", (_unit("kj/kg|j/g"),)),
        Quantity("force", "N", 0.0, 1e6, 0, "40 N", (
            _unit("n|newton"), _unit("kgf", 9.80665), _unit("lbf", 4.4482216152605))),
        Quantity("section", "mm²", 0.0, 1e9, 3, "0.19 mm²", (_unit("mm²|mm2"), _unit("cm²|cm2", 100.0))),
        Quantity("film", "W/m²/K", 0.0, 1e6, 1, "12 W/m²/K", (_unit("w/m²/k|w/m2/k"),)),
        Quantity("current", "A", 0.0, 1e5, 1, "2.5 A", (_unit("a|amp|amps"), _unit("ma", 1e-3))),
        Quantity("voltage", "V", 0.0, 1e5, 0, "24 V", (_unit("v|volt|volts"),)),
        Quantity("density", "g/cm³", 0.0, 30.0, 2, "1.27 g/cm³", (
            _unit("g/cm³|g/cm3|g/cm^3|kg/l"), _unit("kg/m³|kg/m3", 1e-3))),
        Quantity("share", "%", 0.0, 100.0, 1, "40 %", (_unit("%|per cent"),)),
        Quantity("moisture", "% water", 0.0, 100.0, 3, "0.02 %", (_unit("%|% water"), _unit("ppm", 1e-4))),
        Quantity("diffusivity", "µm²/s", 0.0, 1e6, 3, "1.5 µm²/s", (
            _unit("µm²/s|um2/s"), _unit("m²/s|m2/s", 1e12))),
        Quantity("molar_energy", "kJ/mol", 0.0, 1e4, 1, "55 kJ/mol", (_unit("kj/mol"),)),
        Quantity("angle", "°", 0.0, 360.0, 1, "60°", (_unit("°|deg|degrees"),)),
        Quantity("fine_length", "µm", 0.0, 1e7, 0, "120 µm", (
            _unit("µm|um"), _unit("mm", 1e3), _unit("thou|mil", 25.4), _unit("in|inch", 25400.0))),
        Quantity("ratio", "1", 0.0, 1e6, 1, "1.5", (_unit("x|times"),)),
        Quantity("multiplier", "×", 0.0, 100.0, 3, "0.95", (_unit("×|x|times"), _unit("%|per cent", 0.01))),
        Quantity("price_volume", "money/l", 0.0, 1e7, 0, "90 €/l", (_money("l"),)),
        Quantity("flow", "mm³/s", 0.0, 1e6, 1, "9.5 mm³/s", (
            _unit("mm³/s|mm3/s|mm^3/s"), _unit("cm³/min|cm3/min|ml/min", 1e3 / 60.0))),
        Quantity("stress", "MPa", 0.0, 1e5, 2, "1.8 MPa", (
            _unit("mpa|n/mm²|n/mm2|n/mm^2"), _unit("kpa", 1e-3), _unit("pa", 1e-6), _unit("gpa", 1e3),
            _unit("psi", 6.894757293168361e-3), _unit("ksi", 6.894757293168361), _unit("bar", 0.1))),
        Quantity("pressure", "mbar", 0.0, 1e5, 1, "50 mbar", (
            _unit("mbar|hpa"), _unit("pa", 0.01), _unit("kpa", 10.0), _unit("bar", 1e3),
            _unit("torr", 1013.25 / 760.0), _unit("mmhg", 1.33322387415))),
        Quantity("power", "W", 0.0, 1e6, 1, "900 W", (_unit("w"), _unit("kw", 1e3))),
        Quantity("energy", "kWh", 0.0, 1e6, 1, "3.5 kWh", (
            _unit("kwh"), _unit("wh", 1e-3), _unit("j", 1.0 / 3.6e6), _unit("kj", 1.0 / 3600.0),
            _unit("mj", 1.0 / 3.6))),
        Quantity("money", "money", 0.0, 1e9, 0, "80 €", (_money(),)),
        Quantity("money_rate", "money/h", 0.0, 1e6, 2, "4 €/h", (_money("h"),)),
        Quantity("expansion", "µm/m/K", 0.0, 1e4, 0, "60 µm/m/K", (
            _unit("µm/m/k|um/m/k|1e-6/k|ppm/k"),)),
        Quantity("bond_energy", "J/m²", 0.0, 1e6, 0, "300 J/m²", (_unit("j/m²|j/m2"), _unit("kj/m²|kj/m2", 1e3))),
        Quantity("fracture", "kJ/m²", 0.0, 1e4, 1, "4 kJ/m²", (_unit("kj/m²|kj/m2"), _unit("j/m²|j/m2", 1e-3))),
        Quantity("conductivity", "W/m/K", 0.0, 1e4, 2, "0.2 W/m/K", (_unit("w/m/k|w/mk"),)),
        Quantity("heat_capacity", "kJ/kg/K", 0.0, 100.0, 2, "1.4 kJ/kg/K", (
            _unit("kj/kg/k|j/g/k"), _unit("j/kg/k", 1e-3))),
        Quantity("area", "cm²", 0.0, 1e8, 1, "150 cm²", (_unit("cm²|cm2"), _unit("mm²|mm2", 0.01))),
        Quantity("volume", "ml", 0.0, 1e7, 1, "250 ml", (
            _unit("ml|cm³|cm3"), _unit("l", 1e3), _unit("floz", 29.5735295625))),
        Quantity("speed", "mm/s", 0.0, 1e5, 0, "25 mm/s", (
            _unit("mm/s"), _unit("mm/min", 1.0 / 60.0), _unit("in/s", 25.4))),
        Quantity("acceleration", "mm/s²", 0.0, 1e6, 0, "1500 mm/s²", (
            _unit("mm/s²|mm/s2"), _unit("m/s²|m/s2", 1e3))),
        Quantity("energy_price", "money/kWh", 0.0, 1e4, 3, "0.31 €/kWh", (_money("kwh"),)),
        Quantity("price", "money/kg", 0.0, 1e6, 2, "45 €/kg", (_money("kg"),)),
    )
}
# fmt: on
_CAN_BE = {  # settings, limits and sizes of a shop; materials have ends of their own
    "temperature": (-100.0, 1000.0),
    "temperature_difference": (-1000.0, 1000.0),
    "length": (0.0, 1e5),
    "stress": (0.0, 1e4),
    "power": (0.0, 1e5),
    "pressure": (0.0, 2e3),
}  # fmt: skip
BY_UNIT = {each.unit: each.name for each in QUANTITIES.values()} | {"date": "date", "moment": "moment"}  # by shop unit


def check_number(field: str, value: float, quantity: str) -> float:
    """The value itself [shop unit] where it is possible for the quantity; otherwise a FieldError naming the field."""
    kind = QUANTITIES[quantity]
    if not math.isfinite(value):
        raise FieldError(field, "must be a finite number")
    if not value >= kind.low:
        reason = "below absolute zero" if quantity == "temperature" else f"must be at least {kind.low:g}"
        raise FieldError(field, f"{value:g} {kind.unit} is not possible: {reason}")
    if not value <= kind.high:
        raise FieldError(field, f"{value:g} {kind.unit} is not possible: more than {kind.high:g} {kind.unit}")
    return value


AIR_C = (-90.0, 350.0)  # air of rooms and dryers; water has no vapour pressure of its own above 374 °C


def check_typed(field: str, value: float, ends: tuple[float, float], unit: str) -> float:
    """The value itself [shop unit] where it lies between the ends of what may be typed; otherwise a FieldError."""
    low, high = ends
    if not low <= value <= high:
        raise FieldError(field, f"{value:g} {unit} is not possible here: {low:g} to {high:g} {unit}")
    return value


def check_text(field: str, text: str) -> str:
    """The text itself where it is short enough for a name and can be kept in a file."""
    if not text.isascii() and any("\ud800" <= sign <= "\udfff" for sign in text):
        raise FieldError(field, "holds half a sign, which cannot be kept")
    if len(text) > LONGEST_TEXT:
        raise FieldError(field, f"{len(text):,} characters; at most {LONGEST_TEXT} are taken")
    return text


_EITHER = re.compile(r"[1-9]\d{0,2},\d{3}")  # a leading 0 or other than three places leave no doubt


def either_way(number: str) -> tuple[str, str] | None:
    """The two numbers that digits with a comma may be, thousands or a decimal point; None where they are one.

    Parameters
    ----------
    number : str
        Digits as they are written, without a sign [-]

    Returns
    -------
    tuple of str or None
        Without the comma, and with a point in its place [-]

    Examples
    --------
    >>> either_way("1,250"), either_way("0,250")
    (('1250', '1.250'), None)
    """
    return (number.replace(",", ""), number.replace(",", ".")) if _EITHER.fullmatch(number) else None
