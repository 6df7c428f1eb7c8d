"""Trends by order alone: whether a series rises, and how steeply, without a law of what scatters it."""

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import ArrayLike, NDArray


def rank_trend(series: Sequence[float]) -> tuple[float, float]:
    """Whether a series rises or falls from one to the next.

    Parameters
    ----------
    series : sequence of float
        Values in their order, at least two of them different [any]

    Returns
    -------
    tuple of float
        Pairs that rise less pairs that fall [-], and the chance of as many where there is no trend, two-sided [1]

    Notes
    -----
    The score is taken as normal, its variance counts ties of values.

    References
    ----------
    M. G. Kendall, Rank Correlation Methods

    Examples
    --------
    >>> score, chance = rank_trend([0, 0, 1, 1, 2, 3])
    >>> score, round(chance, 3)
    (13.0, 0.011)
    """
    values = np.asarray(series, float)
    first, second = np.triu_indices(values.size, 1)
    score = float(np.sign(values[second] - values[first]).sum())
    _, tied = np.unique(values, return_counts=True)
    return score, math.erfc(abs(score) / math.sqrt(2.0 * _variance(values.size, tied)))


def median_slope(at: ArrayLike, value: ArrayLike, confidence: float) -> tuple[float, float, float]:
    """Slope of a line through scattered points, that a few wild ones do not turn.

    Parameters
    ----------
    at : ndarray
        Places, rising [any]
    value : ndarray
        Values there [any]
    confidence : float
        Of the interval, between 0 and 1 [1]

    Returns
    -------
    tuple of float
        Median of the slopes of all pairs, and the ends of its interval [value/at]

    References
    ----------
    P. K. Sen, Estimates of the regression coefficient based on Kendall's tau

    Examples
    --------
    >>> median_slope([0, 1, 2, 3, 4, 5], [0, 1, 2, 90, 4, 5], 0.9)[0]
    1.0
    """
    from scipy.special import ndtri

    x, y = np.asarray(at, float), np.asarray(value, float)
    first, second = np.triu_indices(x.size, 1)
    slopes = np.sort((y[second] - y[first]) / (x[second] - x[first]))
    _, tied = np.unique(y, return_counts=True)
    reach = float(ndtri(0.5 + confidence / 2.0)) * math.sqrt(_variance(x.size, tied))
    low = max(round((slopes.size - reach) / 2.0) - 1, 0)
    high = min(round((slopes.size + reach) / 2.0), slopes.size - 1)
    return float(np.median(slopes)), float(slopes[low]), float(slopes[high])


def _variance(count: int, tied: NDArray[np.int64]) -> float:
    """Of the score of a series without trend."""
    return float(count * (count - 1) * (2 * count + 5) - np.sum(tied * (tied - 1) * (2 * tied + 5))) / 18.0
