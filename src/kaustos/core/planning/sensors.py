"""What a sensor shows when the firmware takes it for another one."""

from collections.abc import Callable

import numpy as np

from kaustos.core.physics.near import platinum_ohm, thermistor_ohm

_OHM: dict[str, Callable[[float], float]] = {  # resistance by temperature [°C]
    "ntc": lambda c: float(thermistor_ohm(c, 100e3, 3950.0)),
    "ntc_glass": lambda c: float(thermistor_ohm(c, 100e3, 4267.0)),
    "ntc_high": lambda c: float(thermistor_ohm(c, 500e3, 4700.0)),
    "pt100": lambda c: float(platinum_ohm(c, 100.0)),
    "pt1000": lambda c: float(platinum_ohm(c, 1000.0)),
}
_COLDEST_C, _HOTTEST_C = 0.0, 900.0


def ohm_at(kind: str, at_c: float) -> float | None:
    """Resistance that a sensor has at a temperature.

    Parameters
    ----------
    kind : str
        One of ``SENSORS`` [-]
    at_c : float
        Temperature [°C]

    Returns
    -------
    float or None
        Resistance [ohm]; None for a thermocouple

    Examples
    --------
    >>> round(ohm_at("pt1000", 400.0))
    2471
    """
    return _OHM[kind](at_c) if kind in _OHM else None


def truly_c(kind: str, table: str, shown_c: float) -> float | None:
    """The heat that there is when the firmware shows another, because it takes the sensor for another kind.

    Parameters
    ----------
    kind : str
        What the sensor is, one of ``SENSORS`` [-]
    table : str
        What the firmware takes it for [-]
    shown_c : float
        What is shown [°C]

    Returns
    -------
    float or None
        True temperature [°C]; None where the two cannot be confused over the whole span, or for a thermocouple

    Notes
    -----
    Both resistances are by nominal curves; leads and tolerance are left out.

    Examples
    --------
    >>> round(truly_c("ntc", "ntc", 250.0))
    250
    """
    if kind not in _OHM or table not in _OHM:
        return None
    wanted = _OHM[table](shown_c)
    span = np.linspace(_COLDEST_C, _HOTTEST_C, 1801)
    ohms = np.array([_OHM[kind](float(each)) for each in span])
    if not ohms.min() <= wanted <= ohms.max():
        return None
    rising = ohms[-1] > ohms[0]
    return float(np.interp(wanted, ohms if rising else ohms[::-1], span if rising else span[::-1]))
