"""Bands are sampled: draws that belong to a name, always the same, so that a worse input never gives a better band."""

import functools
import math

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtri

from kaustos.core.estimates.assumed import Band
from kaustos.core.records import Estimate

Array = NDArray[np.float64]
DRAWS = 1024
_QUANTILES = ndtri((np.arange(DRAWS) + 0.5) / DRAWS)  # spread evenly, so that few draws do
SHARES = (0.025, 0.5, 0.975)


@functools.lru_cache(256)
def normal(name: str) -> Array:
    """Normal draws that belong to a name.

    Parameters
    ----------
    name : str
        What is drawn [-]

    Returns
    -------
    ndarray
        ``DRAWS`` numbers, the same at every call [1]
    """
    seed = sum((place + 1) * ord(sign) for place, sign in enumerate(name))
    found = np.random.default_rng(seed).permutation(_QUANTILES)
    found.setflags(write=False)
    return found


def spread(draws: Array, band: Band) -> Array:
    """Draws of a positive number of which least, likely and most are known, on a scale of ratios.

    Parameters
    ----------
    draws : ndarray
        Normal draws [1]
    band : tuple of float
        Least, likely, most, all above nothing [any unit]

    Returns
    -------
    ndarray
        Draws of the number, 95 % of them within the band [the same unit]
    """
    low, value, high = band
    below, above = math.log(value / low) / 1.96, math.log(high / value) / 1.96
    return np.asarray(value * np.exp(np.where(draws < 0.0, below, above) * draws))


@functools.lru_cache(512)
def drawn(name: str, band: Band) -> Array:
    """Draws of a number by its name and band.

    Parameters
    ----------
    name : str
        What is drawn [-]
    band : tuple of float
        Least, likely, most, all above nothing [any unit]

    Returns
    -------
    ndarray
        Draws [the same unit]
    """
    return spread(normal(name), band)


def middle(draws: Array) -> float:
    """The median of draws.

    Parameters
    ----------
    draws : ndarray
        Of one number [unit]

    Returns
    -------
    float
        The draw in the middle [unit]
    """
    half = draws.size // 2
    return float(np.partition(draws, half)[half])


def ends(draws: Array) -> tuple[float, float, float]:
    """Least, likely and most of draws, 95 % of them between.

    Parameters
    ----------
    draws : ndarray
        Of one number [unit]

    Returns
    -------
    tuple of float
        Quantiles at 2.5, 50 and 97.5 % [unit]
    """
    low, value, high = (float(each) for each in ends_along(draws))
    return low, value, high


def ends_along(draws: Array) -> tuple[Array, Array, Array]:
    """Least, likely and most of draws of many numbers, 95 % of them between.

    Parameters
    ----------
    draws : ndarray
        Draws along the first axis [unit]

    Returns
    -------
    tuple of ndarray
        Quantiles at 2.5, 50 and 97.5 % [unit]
    """
    ordered = np.sort(draws, axis=0)
    low, value, high = (ordered[int(each * (len(ordered) - 1) + 0.5)] for each in SHARES)
    return low, value, high


def estimate(draws: Array, unit: str, method: str, source: str, weights: Array | None = None) -> Estimate:
    """The middle of draws with the band that holds 95 % of them.

    Parameters
    ----------
    draws : ndarray
        Of one number [unit]
    unit : str
        Of the number [-]
    method : str
        How it is known [-]
    source : str
        From where [-]
    weights : ndarray or None
        How much each draw counts; alike where there are none [1]

    Returns
    -------
    Estimate
        Median and the quantiles at 2.5 and 97.5 % [unit]
    """
    if weights is None:
        low, value, high = ends(draws)
        return Estimate(value, low, high, unit, method, source)
    order = np.argsort(draws)
    share = np.cumsum(weights[order])
    low, value, high = (
        float(draws[order][min(int(np.searchsorted(share, each * share[-1])), draws.size - 1)]) for each in SHARES
    )
    return Estimate(value, low, high, unit, method, source)
