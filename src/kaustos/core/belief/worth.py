"""What a measurement is worth before it is made: how often its answer would turn what is best, and what that saves."""

import attrs
import numpy as np

from kaustos.core.planning.draws import Array

ANSWERS = 81  # that a measurement could give, spread evenly over the logarithm
REACH = 3.0  # errors beyond the least and the largest draw that are looked at


@attrs.frozen(kw_only=True)
class Worth:
    """What finding a quantity out is worth once, against deciding without it."""

    value: float  # what it saves on average [money]
    turns: float  # chance that its answer turns what is best now [1]
    runs_now: bool  # whether running as it stands is best without it
    at: float | None  # answer at which what is best turns [unit of the quantity]


def worth_of(quantity: Array, loss: Array, heed: float, error: float) -> Worth:
    """What measuring a quantity is worth, where it decides between running as it stands and not.

    Parameters
    ----------
    quantity : ndarray
        Draws of what is measured, above nothing [any unit]
    loss : ndarray
        What running costs in each draw [money]
    heed : float
        What it costs not to run as it stands [money]
    error : float
        Standard error of the measurement, as the logarithm of a factor [1]

    Returns
    -------
    Worth
        Never below nothing, never more than knowing for sure would save [money]

    Notes
    -----
    Preposterior analysis: for each answer that could come the draws are weighed by how well they agree with it, and
    what is best then is chosen; the answers count as often as the draws give them. Other ways of going wrong are left
    out: each measurement is held against its own.

    References
    ----------
    Raiffa and Schlaifer, Applied Statistical Decision Theory: expected value of sample information

    Examples
    --------
    >>> sure = worth_of(np.array([1.0, 2.0]), np.array([100.0, 0.0]), 20.0, 0.01)
    >>> round(sure.value, 3), sure.runs_now, round(sure.turns, 3)
    (10.0, False, 0.5)
    """
    logs = np.log(np.maximum(quantity, 1e-12))
    answers = np.linspace(logs.min() - REACH * error, logs.max() + REACH * error, ANSWERS)
    wide = max(error, 0.5 * float(answers[1] - answers[0]))  # no finer than the answers that are looked at
    agrees = np.exp(-0.5 * ((answers[:, None] - logs) / wide) ** 2)
    agrees /= agrees.sum(axis=0)  # each draw gives one answer
    often = agrees.mean(axis=1)
    then = agrees @ loss / np.maximum(agrees.sum(axis=1), 1e-300)
    without = float(loss.mean())
    runs_now = without <= heed
    turned = (then <= heed) != runs_now
    value = min(without, heed) - float(often @ np.minimum(then, heed))
    return Worth(
        value=max(value, 0.0), turns=float(often @ turned), runs_now=runs_now, at=_turning(answers, then - heed, often)
    )


def _turning(answers: Array, over: Array, often: Array) -> float | None:
    """The likeliest answer at which what is best turns; None where none does."""
    turns = np.flatnonzero((over[:-1] > 0.0) != (over[1:] > 0.0))
    if not turns.size:
        return None
    place = int(turns[np.argmax(often[turns] + often[turns + 1])])
    share = over[place] / (over[place] - over[place + 1])
    return float(np.exp(answers[place] + share * (answers[place + 1] - answers[place])))
