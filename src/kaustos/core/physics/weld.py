"""What heat makes of the face between two layers: chains that heal it, crystals that close it."""

import math

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]
SHIFT = (17.44, 51.6)  # constants of Williams, Landel and Ferry for most glasses [1, K]
RELAXES_AT_GLASS = 1e9  # time in which a chain of a bulk polymer leaves its place at the glass transition [s]


def relaxation_time(celsius: ArrayLike, glass_c: ArrayLike, at_glass: ArrayLike = RELAXES_AT_GLASS) -> Array:
    """Time in which a chain leaves its place.

    Parameters
    ----------
    celsius : float or ndarray
        Of the melt [°C]
    glass_c : float or ndarray
        Glass transition [°C]
    at_glass : float or ndarray
        That time at the glass transition [s]

    Returns
    -------
    ndarray
        Infinite at and below the glass transition [s]

    Notes
    -----
    Reptation, shifted after Williams, Landel and Ferry (Wool, Polymer Interfaces). That time is uncertain by ten
    either way.

    Examples
    --------
    >>> float(relaxation_time(120.0, 120.0)), round(float(relaxation_time(171.6, 120.0)))
    (inf, 2)
    """
    above = np.asarray(celsius, float) - np.asarray(glass_c, float)
    c1, c2 = SHIFT
    hot = np.maximum(above, 0.0)
    shifted = np.asarray(at_glass, float) * np.exp(-math.log(10.0) * c1 * hot / (c2 + hot))
    return np.asarray(np.where(above > 0.0, shifted, np.inf))


def healing(celsius: ArrayLike, glass_c: ArrayLike, seconds: ArrayLike) -> Array:
    """Share of full strength to which two faces of one glassy polymer heal at one temperature.

    Parameters
    ----------
    celsius : float or ndarray
        Of the face, held [°C]
    glass_c : float or ndarray
        Glass transition [°C]
    seconds : float or ndarray
        For how long [s]

    Returns
    -------
    ndarray
        0 below the glass transition, at most 1 [1]

    Notes
    -----
    The fourth root of time over the time in which chains leave their place (Wool, Polymer Interfaces).

    Examples
    --------
    >>> float(healing(100.0, 120.0, 3600.0))
    0.0
    """
    over = np.asarray(seconds, float) / relaxation_time(celsius, glass_c)
    return np.asarray(np.minimum(over**0.25, 1.0))


def healed(lasts: Array, celsius: Array, glass_c: ArrayLike) -> Array:
    """How far a face heals along a history of temperature, chains at the glass transition taking 1 s.

    Parameters
    ----------
    lasts : ndarray
        How long each temperature stands for [s]
    celsius : ndarray
        Of the face; time is its last axis [°C]
    glass_c : float or ndarray
        Glass transition [°C]

    Returns
    -------
    ndarray
        To be divided by the fourth root of that time at the glass transition, and cut at 1 [s^0.25]

    Notes
    -----
    Yang and Pitchumani (2002), Healing of thermoplastic polymers at an interface under nonisothermal conditions,
    Macromolecules: the fourth root of the integral of time over relaxation time. Since the relaxation time at the
    glass transition stands before the integral, one history serves every draw of it.

    Examples
    --------
    >>> found = healed(np.full(5, 0.2), np.full(5, 170.0), 120.0) / 1e9**0.25
    >>> bool(abs(found - healing(170.0, 120.0, 1.0)) < 1e-9)
    True
    """
    return np.asarray((_relaxes(np.asarray(celsius, float) - np.asarray(glass_c, float)) @ lasts) ** 0.25)


def _relaxes(above: Array) -> Array:
    """Inverse of the relaxation time, 1 s at the glass transition, in the place of what it is asked for [1/s]."""
    c1, c2 = SHIFT
    cold = above <= 0.0
    np.maximum(above, 0.0, out=above)
    above /= above + c2
    above *= math.log(10.0) * c1
    np.exp(above, out=above)
    above[cold] = 0.0
    return above


def weld_index(short_k: ArrayLike, half_k: ArrayLike = 55.0, width_k: float = 12.0) -> Array:
    """How well two layers of a crystallising polymer close, as an index.

    Parameters
    ----------
    short_k : float or ndarray
        Melting point less temperature of contact [K]
    half_k : float or ndarray
        Shortfall that leaves half [K]
    width_k : float
        Over which it falls by e [K]

    Returns
    -------
    ndarray
        Between 0 and 1 [1]

    Notes
    -----
    No prediction: contact hot enough that the skin of the lower layer melts again closes, a cold skin does not. Both
    constants are estimates until a shop's own ratios across to along replace them.

    Examples
    --------
    >>> float(weld_index(55.0)), round(float(weld_index(150.0)), 3)
    (0.5, 0.0)
    """
    with np.errstate(over="ignore"):
        return np.asarray(1.0 / (1.0 + np.exp((np.asarray(short_k, float) - half_k) / width_k)))


def crystal_rate(celsius: ArrayLike, fastest_c: ArrayLike, half_time: ArrayLike, width_k: ArrayLike) -> Array:
    """Rate of crystallisation, a bell over temperature.

    Parameters
    ----------
    celsius : float or ndarray
        Of the polymer [°C]
    fastest_c : float or ndarray
        Where it is fastest [°C]
    half_time : float or ndarray
        In which half of it has crystallised there, held, with an exponent of 2 [s]
    width_k : float or ndarray
        Over which the rate stays above half [K]

    Returns
    -------
    ndarray
        Rate of Nakamura's integral [1/s]

    Notes
    -----
    Ziabicki's bell (Fundamentals of Fibre Formation).

    Examples
    --------
    >>> round(float(crystal_rate(200.0, 200.0, 10.0, 50.0) * 10.0) ** 2, 4) == round(math.log(2.0), 4)
    True
    """
    off = (np.asarray(celsius, float) - np.asarray(fastest_c, float)) / np.asarray(width_k, float)
    return np.asarray(math.sqrt(math.log(2.0)) / np.asarray(half_time, float) * np.exp(-4.0 * math.log(2.0) * off**2))


def crystallised(times: Array, rates: Array, exponent: float = 2.0) -> Array:
    """Relative crystallinity along a history of rates.

    Parameters
    ----------
    times : ndarray
        Moments, from the first of which it counts [s]
    rates : ndarray
        At each of them; time is its last axis [1/s]
    exponent : float
        Of Avrami [1]

    Returns
    -------
    ndarray
        At each moment, 0 to 1 [1]

    Notes
    -----
    Nakamura, Katayama and Amano (1973), Some aspects of nonisothermal crystallization of polymers, Journal of Applied
    Polymer Science. At a rate that does not change it is Avrami's law.

    Examples
    --------
    >>> t = np.linspace(0.0, 10.0, 11)
    >>> round(float(crystallised(t, np.full(11, math.log(2.0) ** 0.5 / 10.0))[-1]), 6)
    0.5
    """
    steps = 0.5 * (rates[..., 1:] + rates[..., :-1]) * np.diff(times)
    gone = np.concatenate([np.zeros((*rates.shape[:-1], 1)), np.cumsum(steps, axis=-1)], axis=-1)
    return np.asarray(1.0 - np.exp(-(gone**exponent)))
