"""The next trial: where own results and what they leave open promise most, never outside limits."""

import itertools
import math
from collections.abc import Sequence

import attrs
import numpy as np

from kaustos.core.errors import KaustosError
from kaustos.core.planning.draws import Array

MOST_FACTORS = 2  # more than two at once, and nobody knows what did it
LEVELS = 41  # of a factor that are looked at
SCALES = (0.12, 0.2, 0.35, 0.6, 1.0, 1.8)  # over which results hang together, of a factor's range
NOISES = (0.03, 0.1, 0.3, 0.7)  # of the spread of the results that is chance


@attrs.frozen(kw_only=True)
class Factor:
    """One setting that is tried, and between what it may lie."""

    field: str
    low: float
    high: float
    step: float  # that the machine or a person can set

    def __attrs_post_init__(self) -> None:
        if not self.low < self.high or not self.step > 0.0:
            raise KaustosError(f"{self.field}: its lowest level must lie below its highest, its step above nothing.")


@attrs.frozen(kw_only=True)
class Result:
    """What one trial gave: more is better."""

    at: tuple[float, ...]
    value: float


@attrs.frozen(kw_only=True)
class Proposal:
    """The next trial, and why it is that one."""

    at: tuple[float, ...]
    expected: float
    low: float  # 95 % of what is expected there
    high: float
    gain: float  # expected over the best so far
    best: float | None  # so far
    reason: str  # middle, ends, unknown, promising or done


REASONS = {
    "middle": "nothing was tried yet: the middle of its range",
    "ends": "only one level was tried: an end tells which way it goes",
    "unknown": "little is known there, and it may be better than all so far",
    "promising": "what is near it did well, and it is likely to do better",
    "done": "hardly anything is to be gained: repeat the best instead",
}
DONE = 0.02  # of the spread of the results, below which a gain is none


def propose(factors: Sequence[Factor], results: Sequence[Result]) -> Proposal:
    """Propose the next trial.

    Parameters
    ----------
    factors : sequence of Factor
        One or two, each with its limits [its unit]
    results : sequence of Result
        Own trials within or outside the limits [any unit]

    Returns
    -------
    Proposal
        Levels within the limits, what is expected there, and a key of ``REASONS`` [units of the factors]

    Notes
    -----
    A Gaussian process with a kernel of Matern, 5/2, its scales and noise by the likelihood of the results; the level of
    greatest expected improvement over the best mean so far (Jones, Schonlau and Welch, Efficient global optimization).
    """
    if not 1 <= len(factors) <= MOST_FACTORS:
        raise KaustosError("One factor is varied at a time, two at most: else nobody knows what did it.")
    known = [each for each in results if math.isfinite(each.value) and len(each.at) == len(factors)]
    grid = _levels(factors)
    if not known:
        place = int(np.argmin(np.sum((grid - 0.5) ** 2, axis=1)))
        return _proposal(factors, grid[place], 0.0, math.inf, 0.0, None, "middle")
    tried = np.array([[_unit(value, factor) for value, factor in zip(each.at, factors, strict=True)]
                      for each in known])  # fmt: skip
    values = np.array([each.value for each in known])
    if len(np.unique(np.round(tried, 6), axis=0)) == 1:
        place = int(np.argmax(np.sum((grid - tried[0]) ** 2, axis=1)))
        return _proposal(factors, grid[place], float(values.mean()), math.inf, 0.0, float(values.max()), "ends")
    mean, spread = float(values.mean()), float(values.std()) or 1.0
    fit = _fitted(tried, (values - mean) / spread)
    middle, off = fit.at(grid)
    best = float(fit.at(tried)[0].max())
    gain = _improvement(middle, off, best)
    place = int(np.argmax(gain))
    reason = "done" if gain[place] < DONE else "promising" if middle[place] > best else "unknown"
    return _proposal(
        factors, grid[place], mean + spread * float(middle[place]), spread * float(off[place]),
        spread * float(gain[place]), mean + spread * best, reason,
    )  # fmt: skip


def _unit(value: float, factor: Factor) -> float:
    return (value - factor.low) / (factor.high - factor.low)


def _levels(factors: Sequence[Factor]) -> Array:
    """Every level that can be set, as shares of the ranges."""
    axes = []
    for factor in factors:
        count = min(int((factor.high - factor.low) / factor.step + 1e-9) + 1, 10_000)
        levels = factor.low + factor.step * np.unique(np.linspace(0, count - 1, min(count, LEVELS)).round())
        axes.append([_unit(float(each), factor) for each in levels])
    return np.array(list(itertools.product(*axes)))


def _proposal(
    factors: Sequence[Factor], at: Array, expected: float, off: float, gain: float, best: float | None, reason: str
) -> Proposal:  # fmt: skip
    levels = tuple(
        round(factor.low + float(share) * (factor.high - factor.low), 9)
        for share, factor in zip(at, factors, strict=True)
    )
    wide = 1.96 * off
    return Proposal(at=levels, expected=expected, low=expected - wide, high=expected + wide, gain=gain, best=best,
                    reason=reason)  # fmt: skip


@attrs.frozen(eq=False)
class _Fit:
    tried: Array
    weights: Array  # of the results
    lower: Array  # of the covariance
    scale: float
    strength: float

    def at(self, places: Array) -> tuple[Array, Array]:
        """Mean and standard deviation at places."""
        across = self.strength * _matern(places, self.tried, self.scale)
        middle = across @ self.weights
        solved = np.linalg.solve(self.lower, across.T)
        left = np.maximum(self.strength - np.sum(solved**2, axis=0), 1e-12)
        return np.asarray(middle, np.float64), np.asarray(np.sqrt(left), np.float64)


def _matern(one: Array, other: Array, scale: float) -> Array:
    apart = np.sqrt(5.0) * np.sqrt(np.sum((one[:, None, :] - other[None, :, :]) ** 2, axis=2)) / scale
    return np.asarray((1.0 + apart + apart**2 / 3.0) * np.exp(-apart), np.float64)


def _fitted(tried: Array, values: Array) -> _Fit:
    """The process that makes the results likeliest; a mild liking for smooth ones where few were tried."""
    best: tuple[float, _Fit] | None = None
    for scale, noise in itertools.product(SCALES, NOISES):
        shape = _matern(tried, tried, scale) + (noise**2 + 1e-9) * np.eye(len(values))
        lower = np.linalg.cholesky(shape)
        half = np.linalg.solve(lower, values)
        strength = max((float(half @ half) + 2.0) / (len(values) + 2.0), 1e-6)
        likely = -0.5 * len(values) * math.log(strength) - float(np.sum(np.log(np.diag(lower))))
        likely -= 0.5 * float(half @ half) / strength + 0.5 * math.log(scale / 0.5) ** 2
        if best is None or likely > best[0]:
            weights = np.linalg.solve(lower.T, half) / strength
            best = (likely, _Fit(tried, np.asarray(weights), np.sqrt(strength) * lower, scale, strength))
    assert best is not None
    return best[1]


def _improvement(middle: Array, off: Array, best: float) -> Array:
    from scipy.special import ndtr

    over = (middle - best) / off
    bell = np.exp(-0.5 * over**2) / math.sqrt(2.0 * math.pi)
    return np.asarray((middle - best) * ndtr(over) + off * bell, np.float64)
