"""What is not known of a spool's water, and bands sampled from it; worst ends are never stacked.

Every answer is computed as it is likely, and with each of the things that are not known at either end of its own 95 %
range while all others are likely. A few hundred draws of all of them together, each moving the answer by as much as it
does alone, give the band.
"""

import functools

import numpy as np

from kaustos.core.physics.humidity import Array

UNSURE = ("diffusivity", "energy", "uptake", "gaps", "dryer", "start", "air")
LIKELY, COUNT = 0, 1 + 2 * len(UNSURE)
Values = tuple[float, ...]  # one for each scenario
DRAWS, SEED, TWO_SIDED = 200, 20, 1.96
LOW, HIGH = round(0.025 * DRAWS), round(0.975 * DRAWS) - 1  # places of the ends among the draws in order
LEAST = 1e-3  # of what is likely: no effect is taken as larger than that


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
    """How far each draw goes to the lower and to the upper end of everything that is not known, well spread."""
    from scipy.special import ndtri

    rng = np.random.default_rng(SEED)
    ranks = np.stack([rng.permutation(DRAWS) for _ in UNSURE], axis=1)
    z = ndtri((ranks + rng.random(ranks.shape)) / DRAWS) / TWO_SIDED
    return np.stack((np.maximum(-z, 0.0), np.maximum(z, 0.0)), axis=-1).reshape(DRAWS, -1)


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
    Effects multiply, each as a power of how far its cause goes. An answer that is likely nothing has the largest of its
    scenarios as its upper end.
    """
    every = np.asarray(values, dtype=float)
    likely = every[LIKELY]
    ratios = np.maximum(every[1:], LEAST * likely) / np.where(likely > 0.0, likely, 1.0)
    effects = np.log(np.where(likely > 0.0, ratios, 1.0)).reshape(COUNT - 1, -1)
    found = np.partition(_draws() @ effects, (LOW, HIGH), axis=0)
    low, high = (np.exp(found[place]).reshape(likely.shape) for place in (LOW, HIGH))
    band = np.stack((likely, likely * np.minimum(low, 1.0), likely * np.maximum(high, 1.0)))
    return np.where(likely > 0.0, band, np.stack((likely, likely, every.max(axis=0))))
