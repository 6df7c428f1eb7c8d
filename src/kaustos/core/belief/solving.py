"""The belief after all that was seen: hierarchical normal errors, bounded influence, the same in any order.

Each member of a level has an effect of its own, normal about nothing; what was foretold errs by the sum of the effects
of its members. The most likely effects are found by Newton's method, for the function is convex; the belief of one
sum follows on a grid, the rest taken out at each of its points (nested Laplace).
"""

import math
from collections.abc import Mapping, Sequence

import attrs
import numpy as np
from numpy.typing import NDArray
from scipy.special import expit, ndtr, ndtri

from kaustos.core.belief.observation import Seen
from kaustos.core.belief.prediction import Prediction
from kaustos.core.memo import by_identity

Array = NDArray[np.float64]
BOUND = 2.0  # residuals in standard deviations from which the pull of a value stops growing
TO_LOGISTIC = math.sqrt(3.0) / math.pi  # scale of a logistic that has a standard deviation of one
POINTS = 25  # at which the rest is taken out
FINE = 241  # between which the logarithm of the belief is smooth
WIDE = 6.0  # standard deviations on either side that the grid covers
MOST_EFFECTS = 60  # above, the grid is not worth its time: normal
STEPS = 60
NEAR = 1e-4  # standard deviations of an effect that a point of the grid may be off
DONE = 1e-10
_HALVINGS = 0.5 ** np.arange(12)


@attrs.frozen(kw_only=True, eq=False)
class Belief:
    """What is believed of the error of a prediction: a logarithm of a factor, or a difference [scale]."""

    mean: float
    spread: float  # one standard deviation
    before: float  # the same before anything was seen
    count: int  # observations behind it
    grid: Array | None = None  # None where it is normal
    below: Array | None = None  # share of the belief below each point of the grid

    def at(self, shares: Array) -> Array:
        """The error below which shares of the belief lie [scale]."""
        if self.grid is None or self.below is None:
            return np.asarray(self.mean + self.spread * ndtri(shares))
        return np.asarray(np.interp(shares, self.below, self.grid))

    def draws(self, normals: Array) -> Array:
        """Draws in the order of normal ones, so that a worse input never gives a better band [scale]."""
        if self.grid is None:
            return np.asarray(self.mean + self.spread * normals)
        return self.at(ndtr(normals))

    def band(self) -> tuple[float, float, float]:
        """Least, likely, most: 95 of 100 lie between [scale]."""
        low, value, high = self.at(np.array([0.025, 0.5, 0.975]))
        return float(low), float(value), float(high)

    def above(self, limit: float) -> float:
        """Chance that the error is greater than a limit [1]."""
        if self.grid is None or self.below is None:
            return float(ndtr((self.mean - limit) / self.spread))
        return float(1.0 - np.interp(limit, self.grid, self.below))


def believe(
    prediction: Prediction, seen: Sequence[Seen], at: Mapping[str, str], spread: float | None = None
) -> Belief:  # fmt: skip
    """The belief of one place after all that was seen.

    Parameters
    ----------
    prediction : Prediction
        Levels, spreads and scatter [scale]
    seen : sequence of Seen
        Everything that was observed of it anywhere, in any order [scale]
    at : mapping of str to str
        Member by level of what is foretold; a level left out is not known [-]
    spread : float or None
        Of the error before anything was seen, where the model tells its own; else that of the prediction [scale]

    Returns
    -------
    Belief
        Of the error of the prediction there [scale]

    Notes
    -----
    A value pulls as its residual up to two standard deviations and no more beyond (pseudo-Huber), an inequality as a
    logistic of its standard deviation: both are log-concave, so there is one answer. What was seen long ago, or on
    another configuration, counts with a wider error.

    References
    ----------
    Rue, Martino and Chopin, Approximate Bayesian inference for latent Gaussian models by using integrated nested
    Laplace approximations (the idea); Charbonnier and others for the pseudo-Huber loss
    """
    words = "\n".join(f"{level}\t{member}" for level, member in sorted(at.items()))
    return _believed(prediction, tuple(seen), words, spread or prediction.spread)  # a tuple that is kept is found again


def _smooth(fine: Array, steps: Array, density: Array) -> Array:
    """The logarithm of a belief between points at even steps: a cubic through the four nearest."""
    width = float(steps[1] - steps[0])
    at = (fine - steps[0]) / width
    left = np.clip(np.floor(at).astype(np.int64), 1, steps.size - 3)
    x = at - left
    a, b, c, d = (density[left + each] for each in (-1, 0, 1, 2))
    return np.asarray(
        b + x * (c - a) / 2.0 + x**2 * (a - 2.5 * b + 2.0 * c - 0.5 * d) + x**3 * (1.5 * (b - c) + 0.5 * (d - a))
    )


def _order(each: Seen) -> tuple[object, ...]:
    return (each.at, each.over, each.error, each.side, each.years, each.changed, each.source)


@by_identity(256)
def _believed(prediction: Prediction, seen: tuple[Seen, ...], words: str, spread: float) -> Belief:
    problem = _problem(prediction, seen, spread)
    at = [(level, member) for level, _, member in (each.partition("\t") for each in words.splitlines())]
    named = {level: member for level, member in at if (level, member) in problem.names}
    target = problem.target(named)
    found = problem.likely
    if not named:
        return Belief(mean=0.0, spread=spread, before=spread, count=len(seen))
    hessian = problem.bends(found[None])[0]
    reach = np.linalg.solve(hessian, target)
    mean, variance = float(target @ found), float(target @ reach)
    unnamed = sum(share for name, share in problem.shares.items() if name not in named) * spread**2
    if found.size > MOST_EFFECTS:
        return Belief(mean=mean, spread=math.sqrt(variance + unnamed), before=spread, count=len(seen))
    steps = np.linspace(-WIDE, WIDE, POINTS)
    starts = found + np.outer(steps * math.sqrt(variance), reach / variance)
    fine = np.linspace(-WIDE, WIDE, FINE)
    density = _smooth(fine, steps, problem.profile(starts, target))
    grid = mean + fine * math.sqrt(variance)
    weights = np.exp(density - density.max())
    weights /= weights.sum()
    middle = float(grid @ weights)
    own = float((grid - middle) ** 2 @ weights)
    below = np.cumsum(weights) - 0.5 * weights
    whole = math.sqrt(own + unnamed)
    wider = whole / math.sqrt(own)  # what a level that is not named adds, kept in the shape of the rest
    return Belief(
        mean=middle, spread=whole, before=spread, count=len(seen), grid=middle + (grid - middle) * wider, below=below
    )


@attrs.frozen(kw_only=True, eq=False)
class _Problem:
    """Effects of all members that were seen, and what was seen of their sums."""

    names: tuple[tuple[str, str], ...]
    shares: dict[str, float]
    prior: Array  # precision of each effect
    rows: Array  # places x effects, 0 or 1
    place: NDArray[np.int64]  # of each observation, rising
    first: NDArray[np.int64]  # observation of each place
    over: Array
    noise: Array  # one standard deviation
    sides: Array  # 0 a value, 1 above, -1 below
    likely: Array

    def target(self, at: Mapping[str, str]) -> Array:
        """Which effects make up the error of one place."""
        return np.array([float(at.get(level) == member) for level, member in self.names])

    def residuals(self, effects: Array) -> Array:
        """How far what was seen lies from what effects say, for rows of effects [standard deviations]."""
        return np.asarray(((effects @ self.rows.T)[..., self.place] - self.over) / self.noise)

    def cost(self, effects: Array) -> Array:
        """What is to be least, for rows of effects [1]."""
        z = self.residuals(effects)
        value = BOUND**2 * (np.sqrt(1.0 + (z / BOUND) ** 2) - 1.0)
        side = np.logaddexp(0.0, -self.sides * z / TO_LOGISTIC)
        prior: Array = 0.5 * (effects**2 @ self.prior)
        return np.asarray(prior + np.where(self.sides == 0.0, value, side).sum(axis=-1))

    def slopes(self, effects: Array) -> Array:
        """Its gradient, for rows of effects."""
        z = self.residuals(effects)
        value = z / np.sqrt(1.0 + (z / BOUND) ** 2)
        side = -self.sides / TO_LOGISTIC * expit(-self.sides * z / TO_LOGISTIC)
        pull = np.where(self.sides == 0.0, value, side) / self.noise
        return np.asarray(effects * self.prior + np.add.reduceat(pull, self.first, axis=-1) @ self.rows)

    def bends(self, effects: Array) -> Array:
        """Its second derivatives, for rows of effects."""
        z = self.residuals(effects)
        value = (1.0 + (z / BOUND) ** 2) ** -1.5
        likely = expit(z / TO_LOGISTIC)
        side = likely * (1.0 - likely) / TO_LOGISTIC**2
        weight = np.add.reduceat(np.where(self.sides == 0.0, value, side) / self.noise**2, self.first, axis=-1)
        curved = (self.rows.T[None] * weight[:, None, :]) @ self.rows
        return np.asarray(curved + np.diag(self.prior))

    def profile(self, starts: Array, target: Array) -> Array:
        """Logarithm of the belief of a sum at each start, the other effects taken out [1]."""
        effects, size = starts.copy(), starts.shape[1]
        system = np.zeros((len(starts), size + 1, size + 1))
        system[:, size, :size] = system[:, :size, size] = target
        for _ in range(STEPS):
            system[:, :size, :size] = self.bends(effects)
            right = np.concatenate((-self.slopes(effects), np.zeros((len(starts), 1))), axis=1)
            step = np.linalg.solve(system, right[..., None])[:, :size, 0]
            tried = effects + step
            worse = self.cost(tried) > self.cost(effects)
            effects = np.where(worse[:, None], effects + 0.25 * step, tried)
            if float((np.abs(step) * np.sqrt(self.prior)).max()) < NEAR:
                break
        bends = self.bends(effects)
        along = np.einsum("i,nij,j->n", target, np.linalg.inv(bends), target)
        return np.asarray(-self.cost(effects) - 0.5 * (np.linalg.slogdet(bends)[1] + np.log(along)))


@by_identity(64)
def _problem(prediction: Prediction, unsorted: tuple[Seen, ...], spread: float) -> _Problem:
    """The effects that were seen, and the most likely values of them."""
    seen = sorted(unsorted, key=_order)
    shares = prediction.shares()
    at = [{level: member for level, member in each.at if level in shares} for each in seen]
    names = tuple(sorted({pair for each in at for pair in each.items()}))
    place = {pair: number for number, pair in enumerate(names)}
    first = [number for number, each in enumerate(seen) if number == 0 or each.at != seen[number - 1].at]
    rows = np.zeros((len(first), len(names)))
    for number, begins in enumerate(first):
        rows[number, [place[pair] for pair in at[begins].items()]] = 1.0
    unnamed = np.array([sum(share for level, share in shares.items() if level not in each) for each in at])
    own = np.array([each.error**2 + prediction.scatter**2 for each in seen])
    age = np.array([prediction.drift**2 * each.years + prediction.changed**2 * each.changed for each in seen])
    noise = np.sqrt(own + age + unnamed * spread**2)
    problem = _Problem(
        names=names,
        shares=shares,
        prior=np.array([1.0 / (max(shares[level], 1e-9) * spread**2) for level, _ in names]),
        rows=rows,
        place=np.repeat(np.arange(len(first)), np.diff([*first, len(seen)])),
        first=np.array(first, dtype=np.int64),
        over=np.array([each.over for each in seen]),
        noise=np.maximum(noise, 1e-6 * spread),
        sides=np.array([{"value": 0.0, "above": 1.0, "below": -1.0}[each.side] for each in seen]),
        likely=np.zeros(len(names)),
    )
    return attrs.evolve(problem, likely=_likely(problem)) if seen else problem


def _likely(problem: _Problem) -> Array:
    """The most likely effects: Newton's method with steps that are halved where they overshoot."""
    effects = np.zeros((1, problem.prior.size))
    for _ in range(STEPS):
        step = np.linalg.solve(problem.bends(effects)[0], -problem.slopes(effects)[0])
        tried = effects + _HALVINGS[:, None] * step
        effects = tried[[int(np.argmin(problem.cost(tried)))]]
        if float(np.abs(step).max()) < DONE:
            break
    return np.asarray(effects[0])
