"""Water in air: saturation, dew point, relative humidity."""

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
Values = float | Array

ZERO_K = 273.15
GAS_CONSTANT = 8.31446261815324  # [J/mol/K]
WATER_KG_MOL = 0.01801528
_CRITICAL_K, _CRITICAL_PA = 647.096, 22.064e6
_COEFFICIENTS = (-7.85951783, 1.84408259, -11.7866497, 22.6807411, -15.9618719, 1.80122502)
_EXPONENTS = (1.0, 1.5, 3.0, 3.5, 4.0, 7.5)


def saturation_pressure(temperature_c: Values) -> Values:
    """Pressure of water vapour in equilibrium with liquid water.

    Parameters
    ----------
    temperature_c : float or ndarray
        Temperature, 0 to 370 [°C]

    Returns
    -------
    float or ndarray
        Saturation pressure [Pa]

    Notes
    -----
    Valid from the triple point to the critical point; used down to 0 °C.

    References
    ----------
    Wagner and Pruss, saturation properties of ordinary water substance (revised for the temperature scale of 1990)

    Examples
    --------
    >>> round(float(saturation_pressure(100.0)))
    101418
    """
    kelvin = np.asarray(temperature_c, dtype=float) + ZERO_K
    rest = 1.0 - kelvin / _CRITICAL_K
    total = sum(a * rest**n for a, n in zip(_COEFFICIENTS, _EXPONENTS, strict=True))
    found = _CRITICAL_PA * np.exp(_CRITICAL_K / kelvin * total)
    return float(found) if np.ndim(temperature_c) == 0 else found


def vapour_pressure(dew_point_c: Values) -> Values:
    """Pressure of the water vapour in air of a dew point.

    Parameters
    ----------
    dew_point_c : float or ndarray
        Dew point, -45 to 60 [°C]

    Returns
    -------
    float or ndarray
        Vapour pressure [Pa]

    References
    ----------
    Magnus form with the constants of Sonntag (1990), over water

    Examples
    --------
    >>> round(float(vapour_pressure(0.0)), 1)
    611.2
    """
    dew = np.asarray(dew_point_c, dtype=float)
    found = 611.2 * np.exp(17.62 * dew / (243.12 + dew))
    return float(found) if np.ndim(dew_point_c) == 0 else found


def relative_humidity(vapour_pa: Values, temperature_c: Values) -> Values:
    """Share of saturation of air that holds water vapour of a pressure.

    Parameters
    ----------
    vapour_pa : float or ndarray
        Pressure of the vapour [Pa]
    temperature_c : float or ndarray
        Temperature of the air [°C]

    Returns
    -------
    float or ndarray
        Relative humidity, at most 1 [-]
    """
    found = np.minimum(np.asarray(vapour_pa) / saturation_pressure(temperature_c), 1.0)
    return float(found) if np.ndim(found) == 0 else found


def dew_point(humidity: Values, temperature_c: Values) -> Values:
    """Temperature down to which air is cooled before its water falls out.

    Parameters
    ----------
    humidity : float or ndarray
        Relative humidity, more than 0 [-]
    temperature_c : float or ndarray
        Temperature of the air [°C]

    Returns
    -------
    float or ndarray
        Dew point, over water [°C]

    References
    ----------
    Magnus form with the constants of Sonntag (1990), over water, solved for temperature

    Examples
    --------
    >>> round(float(dew_point(0.5, 20.0)), 1)
    9.3
    """
    rise = np.log(np.asarray(humidity) * saturation_pressure(temperature_c) / 611.2)
    found = 243.12 * rise / (17.62 - rise)
    return float(found) if np.ndim(found) == 0 else found


def vapour_density(vapour_pa: Values, temperature_c: Values) -> Values:
    """Mass of water in a volume of air.

    Parameters
    ----------
    vapour_pa : float or ndarray
        Pressure of the vapour [Pa]
    temperature_c : float or ndarray
        Temperature of the air [°C]

    Returns
    -------
    float or ndarray
        Water in the air, as an ideal gas [kg/m^3]

    Examples
    --------
    >>> round(float(vapour_density(2339.3, 20.0)), 4)
    0.0173
    """
    kelvin = np.asarray(temperature_c, dtype=float) + ZERO_K
    found = np.asarray(vapour_pa) * WATER_KG_MOL / (GAS_CONSTANT * kelvin)
    return float(found) if np.ndim(found) == 0 else found
