"""The quantities a field can hold: its shop unit, what is physically possible and how exactly it is shown.

Impossible values (not finite, below absolute zero, a negative mass) never enter a record; unwise
ones do, and are judged by the review.
"""

import math

import attrs

from kaustos.core.errors import FieldError

LONGEST_TEXT = 200


@attrs.frozen
class Quantity:
    """What a number in a field means: its shop unit, what is possible, how many decimals are worth showing."""

    name: str
    unit: str
    low: float = 0.0
    high: float = 1e9
    decimals: int = 1


QUANTITIES = {
    quantity.name: quantity
    for quantity in (
        Quantity("temperature", "°C", -273.15, 5000.0),
        Quantity("temperature_difference", "K", -5000.0, 5000.0),
        Quantity("length", "mm", 0.0, 1e6),
        Quantity("mass", "g", 0.0, 1e7),
        Quantity("duration", "h", 0.0, 1e5, 2),
        Quantity("density", "g/cm³", 0.0, 30.0, 2),
        Quantity("share", "%", 0.0, 100.0),
        Quantity("moisture", "% water", 0.0, 100.0, 3),
        Quantity("diffusivity", "µm²/s", 0.0, 1e6, 3),
        Quantity("molar_energy", "kJ/mol", 0.0, 1e4),
        Quantity("ratio", "1", 0.0, 1e6),
        Quantity("price_volume", "money/l", 0.0, 1e7, 0),
        Quantity("flow", "mm³/s", 0.0, 1e6),
        Quantity("stress", "MPa", 0.0, 1e5, 2),
        Quantity("pressure", "mbar", 0.0, 1e5),
        Quantity("power", "W", 0.0, 1e6),
        Quantity("energy", "kWh", 0.0, 1e6),
        Quantity("money", "money", 0.0, 1e9, 0),
        Quantity("money_rate", "money/h", 0.0, 1e6, 2),
        Quantity("energy_price", "money/kWh", 0.0, 1e4, 3),
        Quantity("price", "money/kg", 0.0, 1e6, 2),
    )
}
BY_UNIT = {each.unit: each.name for each in QUANTITIES.values()} | {"date": "date"}  # quantity by its shop unit


def check_number(field: str, value: float, quantity: str) -> float:
    """The value itself where it is possible for the quantity; otherwise a FieldError naming the field."""
    kind = QUANTITIES[quantity]
    if not math.isfinite(value):
        raise FieldError(field, "must be a finite number")
    if not value >= kind.low:
        reason = "below absolute zero" if quantity == "temperature" else f"must be at least {kind.low:g}"
        raise FieldError(field, f"{value:g} {kind.unit} is not possible: {reason}")
    if not value <= kind.high:
        raise FieldError(field, f"{value:g} {kind.unit} is not possible: more than {kind.high:g} {kind.unit}")
    return value


def check_text(field: str, text: str) -> str:
    """The text itself where it is short enough for a name and can be kept in a file."""
    if any("\ud800" <= sign <= "\udfff" for sign in text):
        raise FieldError(field, "holds half a sign, which cannot be kept")
    if len(text) > LONGEST_TEXT:
        raise FieldError(field, f"{len(text):,} characters; at most {LONGEST_TEXT} are taken")
    return text
