"""What is not known of a spool's water, and bands sampled from it; worst ends are never stacked.

Every answer is computed as it is likely, and with each of the things that are not known at either end of its own 95 %
range while all others are likely. A few hundred draws of all of them together, each moving the answer by as much as it
does alone, give the band.
"""

import functools

import numpy as np

from kaustos.core.physics.humidity import Array

UNSURE = ("diffusivity", "energy", "uptake", "gaps", "tortuosity", "dryer", "start", "air")
LIKELY, COUNT = 0, 1 + 2 * len(UNSURE)
Values = tuple[float, ...]  # one for each scenario
DRAWS, SEED, TWO_SIDED = 256, 20, 1.96


def everywhere(value: float) -> Values:
    """A value that is known [its unit]: the same in every scenario."""
    return (value,) * COUNT


def unsure(what: str, likely: float, low: float, high: float) -> Values:
    """A value that is not known for sure.

    Parameters
    ----------
    what : str
        One of UNSURE [-]
    likely : float
        The value [its unit]
    low : float
        Lower end of its 95 % range [its unit]
    high : float
        Upper end of its 95 % range [its unit]

    Returns
    -------
    tuple of float
        The value in each scenario [its unit]
    """
    place = 1 + 2 * UNSURE.index(what)
    return tuple(low if at == place else high if at == place + 1 else likely for at in range(COUNT))


@functools.cache
def _draws() -> Array:
    """Standard normal draws of everything that is not known, well spread: each tenth of each holds a tenth of them."""
    from scipy.special import ndtri

    rng = np.random.default_rng(SEED)
    ranks = np.stack([rng.permutation(DRAWS) for _ in UNSURE], axis=1)
    return np.asarray(ndtri((ranks + rng.random(ranks.shape)) / DRAWS))


def sampled(values: Array) -> Array:
    """Likely value and the ends of its 95 % band.

    Parameters
    ----------
    values : ndarray
        The answer in each scenario, 0 or more; more axes for more answers [any]

    Returns
    -------
    ndarray
        Likely, 2.5 % and 97.5 %, along a first axis [any]

    Notes
    -----
    Effects multiply, and go straight between and beyond the ends of a range. An answer that is likely nothing has the
    largest of its scenarios as its upper end.
    """
    likely = np.asarray(values[LIKELY], dtype=float)
    ratios = np.asarray(values[1:], dtype=float) / np.where(likely > 0.0, likely, 1.0)
    z = _draws() / TWO_SIDED
    factors = np.ones((DRAWS, *likely.shape))
    for place in range(len(UNSURE)):
        low, high = ratios[2 * place] - 1.0, ratios[2 * place + 1] - 1.0
        if np.any(low) or np.any(high):
            each = z[:, place].reshape(-1, *(1,) * likely.ndim)
            factors *= 1.0 + np.where(each < 0.0, -each * low, each * high)
    factors = np.sort(np.maximum(factors, 0.0), axis=0)
    low, high = factors[round(0.025 * DRAWS)], factors[round(0.975 * DRAWS) - 1]
    found = np.stack((likely, likely * np.minimum(low, 1.0), likely * np.maximum(high, 1.0)))
    return np.where(likely > 0.0, found, np.stack((likely, likely, np.max(values, axis=0))))
