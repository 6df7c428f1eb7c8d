"""How hot a thing gets beside hot metal, and what a heater has to give; what a wrong table makes of a sensor."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

KELVIN = 273.15


def beside(
    air_c: ArrayLike, hot_c: ArrayLike, clearance: ArrayLike, share: ArrayLike, reach: ArrayLike
) -> NDArray[np.float64]:
    """Temperature of a thin part beside hot metal.

    Parameters
    ----------
    air_c : float or ndarray
        Air round it [°C]
    hot_c : float or ndarray
        The metal [°C]
    clearance : float or ndarray
        Between both, where they are closest [m]
    share : float or ndarray
        Of the way from air to metal that a part comes to which all but touches it [1]
    reach : float or ndarray
        Over which distance that falls to a third [m]

    Returns
    -------
    ndarray
        Temperature of the part [°C]

    Notes
    -----
    Radiation and rising air together as one falling exponential; a fan that blows on the part is left out.

    Examples
    --------
    >>> round(float(beside(40.0, 285.0, 5e-3, 0.35, 12e-3)), 1)
    96.5
    """
    air = np.asarray(air_c, float)
    fall = np.exp(-np.asarray(clearance, float) / np.asarray(reach, float))
    return np.asarray(air + (np.asarray(hot_c, float) - air) * np.asarray(share, float) * fall)


def melt_power(flow: ArrayLike, density: ArrayLike, heat: ArrayLike) -> NDArray[np.float64]:
    """Heat that a melt takes up on its way through a hot end.

    Parameters
    ----------
    flow : float or ndarray
        Volume of melt [m^3/s]
    density : float or ndarray
        Of the polymer [kg/m^3]
    heat : float or ndarray
        From room to melt, with its crystals [J/kg]

    Returns
    -------
    ndarray
        Power [W]

    Examples
    --------
    >>> round(float(melt_power(15e-9, 1240.0, 375e3)), 2)
    6.97
    """
    return np.asarray(np.asarray(flow, float) * np.asarray(density, float) * np.asarray(heat, float))


def platinum_ohm(at_c: ArrayLike, zero_ohm: float) -> NDArray[np.float64]:
    """Resistance of a platinum sensor above the freezing point.

    Parameters
    ----------
    at_c : float or ndarray
        Temperature, not below 0 [°C]
    zero_ohm : float
        Resistance at 0 °C [ohm]

    Returns
    -------
    ndarray
        Resistance [ohm]

    References
    ----------
    IEC 60751, the Callendar-Van Dusen polynomial.

    Examples
    --------
    >>> round(float(platinum_ohm(100.0, 100.0)), 2)
    138.51
    """
    t = np.asarray(at_c, float)
    return np.asarray(zero_ohm * (1.0 + 3.9083e-3 * t - 5.775e-7 * t**2))


def thermistor_ohm(at_c: ArrayLike, room_ohm: float, beta: float) -> NDArray[np.float64]:
    """Resistance of a thermistor by its B value.

    Parameters
    ----------
    at_c : float or ndarray
        Temperature [°C]
    room_ohm : float
        Resistance at 25 °C [ohm]
    beta : float
        B value [K]

    Returns
    -------
    ndarray
        Resistance [ohm]

    Notes
    -----
    One B value over the whole span is a few kelvins off at its ends.

    Examples
    --------
    >>> round(float(thermistor_ohm(25.0, 100e3, 3950.0)))
    100000
    """
    return np.asarray(room_ohm * np.exp(beta * (1.0 / (np.asarray(at_c, float) + KELVIN) - 1.0 / (25.0 + KELVIN))))
