"""What became of parts on a plate moves what is believed of its grip: inequalities, weighed on a grid."""

from collections.abc import Sequence

import attrs
import numpy as np
from numpy.typing import NDArray
from scipy.special import log_ndtr

from kaustos.core.estimates import BOND

Array = NDArray[np.float64]
POINTS = 1601  # of the grid
WIDE = 8.0  # spreads of the belief on either side that the grid covers
SCATTER = BOND["scatter"].value


@attrs.frozen(kw_only=True)
class Seen:
    """One outcome: the grip was above, or below, what stood against it."""

    over: float  # logarithm of the grip that was expected over what stood against it [1]
    above: bool  # whether the grip was the greater
    scatter: float = SCATTER


@attrs.frozen(kw_only=True, eq=False)
class Belief:
    """What is believed of the factor between grip and book, as a logarithm, on a grid."""

    grid: Array
    weights: Array  # sum to 1

    @property
    def mean(self) -> float:
        """Its mean [1]."""
        return float((self.grid * self.weights).sum())

    @property
    def variance(self) -> float:
        """Its variance [1]."""
        return float(((self.grid - self.mean) ** 2 * self.weights).sum())

    def at(self, shares: Array) -> Array:
        """The factor's logarithm below which shares of the belief lie [1]."""
        below = np.cumsum(self.weights)
        below = (below - 0.5 * self.weights) / below[-1]
        return np.asarray(np.interp(shares, below, self.grid))


def belief(below: float, above: float, seen: Sequence[Seen]) -> Belief:
    """The belief after some outcomes.

    Parameters
    ----------
    below : float
        Spread of the first belief under its middle, as a logarithm [1]
    above : float
        The same over its middle [1]
    seen : sequence of Seen
        Outcomes, in any order [1]

    Returns
    -------
    Belief
        On a grid [1]

    Notes
    -----
    Bayes: each outcome has the chance Phi((k + over)/s) that the grip was the greater.

    Examples
    --------
    >>> held = [Seen(over=0.0, above=True)]
    >>> belief(0.5, 0.5, held).mean > 0.0
    True
    """
    grid = np.linspace(-WIDE * below, WIDE * above, POINTS)
    spread = np.where(grid < 0.0, below, above)
    log_weights = -0.5 * (grid / spread) ** 2
    for each in seen:
        at = (grid + each.over) / each.scatter
        log_weights += log_ndtr(at if each.above else -at)
    weights = np.exp(log_weights - log_weights.max())
    return Belief(grid=grid, weights=weights / weights.sum())
