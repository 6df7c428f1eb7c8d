"""Ladders of heat and of flow: the best step by a smooth curve, how sure that is, and what to try next."""

from collections.abc import Sequence

import attrs
import numpy as np

from kaustos.core.errors import KaustosError
from kaustos.core.estimates import MELT

LEAST_STEPS = 3


class LadderFault(KaustosError):
    """Steps from which nothing can be said."""


@attrs.frozen(kw_only=True)
class LadderFit:
    """What a ladder says."""

    best: float
    low: float
    high: float
    curve: tuple[float, float, float] | None  # a + b x + c x², x in steps from the middle; None where none fits
    is_end: bool  # whether the best lies at an end of the ladder
    next_step: float | None  # None where nothing finer is needed


def heat_ladder(steps: Sequence[float], scores: Sequence[float]) -> LadderFit:
    """The best temperature of a ladder by a parabola through all steps.

    Parameters
    ----------
    steps : sequence of float
        Temperatures [°C]
    scores : sequence of float
        Judged or measured, more is better [any]

    Returns
    -------
    LadderFit
        Best step with the band that holds 95 % of what the scatter about the curve allows [°C]

    Notes
    -----
    Least squares; the band of the vertex by propagation of the residual scatter, never less than a quarter of a step.
    Where the curve is not concave the best lies at the end that scores more, and the next step goes beyond it.

    Examples
    --------
    >>> fit = heat_ladder([240.0, 250.0, 260.0, 270.0, 280.0], [1.0, 2.5, 3.0, 2.5, 1.0])
    >>> round(fit.best), fit.is_end
    (260, False)
    """
    x, y = _checked(steps, scores)
    middle, step = float(x.mean()), float(np.median(np.diff(np.unique(x))))
    u = (x - middle) / step
    design = np.stack([np.ones_like(u), u, u**2], axis=1)
    found, *_ = np.linalg.lstsq(design, y, rcond=None)
    a, b, c = (float(each) for each in found)
    freedom = max(len(x) - 3, 1)
    scatter = max(float(((y - design @ found) ** 2).sum()) / freedom, (0.15 * float(np.ptp(y))) ** 2 / 4.0)
    cover = np.linalg.pinv(design.T @ design) * scatter
    if c < 0.0 and u.min() <= -b / (2.0 * c) <= u.max():
        vertex = -b / (2.0 * c)
        slope = np.array([0.0, -1.0 / (2.0 * c), b / (2.0 * c * c)])
        half = max(1.96 * float(np.sqrt(slope @ cover @ slope)), 0.25)
        low, high = max(vertex - half, float(u.min())), min(vertex + half, float(u.max()))
        wanted = None if half < MELT["ladder_sure"].value else _between(x, middle + step * vertex)
        return LadderFit(best=middle + step * vertex, low=middle + step * low, high=middle + step * high,
                         curve=(a, b, c), is_end=False, next_step=wanted)  # fmt: skip
    values = design @ found
    best = float(x[int(np.argmax(values))])
    beyond = best + step if best >= float(x.max()) else best - step
    return LadderFit(best=best, low=min(best, beyond), high=max(best, beyond), curve=(a, b, c), is_end=True,
                     next_step=beyond)  # fmt: skip


def _between(x: np.ndarray, at: float) -> float:
    """Half way between the two steps that stand round a place."""
    below, above = x[x <= at].max(), x[x > at].min(initial=np.inf)
    return float(below if not np.isfinite(above) else 0.5 * (below + above))


def flow_ladder(steps: Sequence[float], is_good: Sequence[bool]) -> LadderFit:
    """The largest flow that a head gives, from steps that were good or starved.

    Parameters
    ----------
    steps : sequence of float
        Flows [mm³/s]
    is_good : sequence of bool
        Whether the drive kept up and the wall was whole [-]

    Returns
    -------
    LadderFit
        Between the last good step and the first bad one [mm³/s]

    Notes
    -----
    Steps that contradict each other widen the band to all that lie between.

    Examples
    --------
    >>> fit = flow_ladder([6.0, 8.0, 10.0, 12.0], [True, True, False, False])
    >>> fit.best, fit.low, fit.high
    (9.0, 8.0, 10.0)
    """
    x, good = _checked(steps, [float(each) for each in is_good])
    if not (good > 0.5).any():
        raise LadderFault("No step was good: begin slower or hotter.")
    last = float(x[good > 0.5].max())
    step = float(np.median(np.diff(np.unique(x))))
    if (good > 0.5).all():
        return LadderFit(best=last, low=last, high=last + step, curve=None, is_end=True, next_step=last + step)
    first = float(x[good < 0.5].min())
    low, high = min(first, last), max(first, last)
    wide = high - low
    finer = 0.5 * (low + high) if wide > 0.15 * high else None
    return LadderFit(best=0.5 * (low + high), low=low, high=high, curve=None, is_end=False, next_step=finer)


def _checked(steps: Sequence[float], scores: Sequence[float]) -> tuple[np.ndarray, np.ndarray]:
    x, y = np.asarray(steps, float), np.asarray(scores, float)
    if x.size != y.size:
        raise LadderFault(f"{x.size} steps and {y.size} results: give one for each.")
    if np.unique(x).size < LEAST_STEPS:
        raise LadderFault(f"A ladder takes at least {LEAST_STEPS} different steps; {np.unique(x).size} are there.")
    if not (np.isfinite(x).all() and np.isfinite(y).all()):
        raise LadderFault("Every step and every result must be a number.")
    if not (x > 0.0).all():
        raise LadderFault("Every step must be above nothing.")
    order = np.argsort(x)
    return x[order], y[order]
