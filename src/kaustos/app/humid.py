"""Relative humidity or dew point, whichever the shop's instrument shows: either is read where the other is kept."""

from kaustos.app.quantities import NotAQuantity, read
from kaustos.core.errors import KaustosError
from kaustos.core.records.quantities import AIR_C, check_typed


def read_humidity(text: str, air_c: float) -> float:
    """Relative humidity [%] from a percentage, or from a dew point in air of a temperature [°C]."""
    try:
        return read(text, "share")
    except NotAQuantity as fault:
        dew_c = _dew_point(text, fault)
    if dew_c > air_c:
        raise KaustosError(f"A dew point of {dew_c:g} °C cannot lie above the air's {air_c:g} °C.")
    from kaustos.core.physics.humidity import relative_humidity, vapour_pressure  # brings numpy along

    return float(f"{100.0 * float(relative_humidity(vapour_pressure(dew_c), air_c)):.3g}")


def read_dew_point(text: str, air_c: float) -> float:
    """Dew point [°C] from a temperature, or from the relative humidity of air of a temperature [°C]."""
    if "%" not in text:
        return read(text, "temperature")
    share = read(text, "share")
    if not share > 0.0:
        raise KaustosError("Air of 0 % has no dew point; type one, such as -40 °C.")
    from kaustos.core.physics.humidity import dew_point  # brings numpy along

    return round(float(dew_point(share / 100.0, air_c)), 1)


def _dew_point(text: str, fault: NotAQuantity) -> float:
    plain = text.lower().replace("dew point", "").replace("dew", "").replace("dp", "")
    try:
        return check_typed("dew point", read(plain, "temperature"), AIR_C, "°C")
    except NotAQuantity:
        raise fault from None
