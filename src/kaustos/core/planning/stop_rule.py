"""Stop or go on once something was seen: what is at stake against what the log says of such marks."""

import attrs
from scipy.special import betaincinv

from kaustos.core.planning.draws import SHARES
from kaustos.core.records import Estimate

DANGER = frozenset(("smell", "heater_fault", "machine_softened"))  # after these nothing is tried
AT_ONCE = DANGER | {"glass_broke"}  # what ends a run, whatever it costs


@attrs.frozen(kw_only=True)
class Marked:
    """Runs of the log in which the same was seen."""

    good: int  # that ended good or usable
    bad: int  # that were run on, and failed
    stopped: int = 0  # early: nobody knows how they would have ended


@attrs.frozen(kw_only=True)
class StopAdvice:
    """What speaks for stopping and for going on; advice, never an order."""

    says: str  # stop, go on, open
    chance: Estimate  # that it ends good all the same [%]
    left: float  # that going on costs yet [money]
    again: float  # that a run anew costs [money]


def stop_advice(what: str, marked: Marked, left: float, again: float) -> StopAdvice:
    """Whether to stop.

    Parameters
    ----------
    what : str
        One of SEEN [-]
    marked : Marked
        Runs of the log in which the same was seen [-]
    left : float
        Hours and filament that going on takes yet [money]
    again : float
        What printing it anew costs, from the beginning [money]

    Returns
    -------
    StopAdvice
        stop, go on, or open where the log cannot tell [money, %]

    Notes
    -----
    Going on costs what is left, and the whole anew where it fails: it pays where ``left < chance * again``. The chance
    has the interval of Jeffreys; where its ends say two things the log cannot tell. Runs that were stopped are left
    out: they say nothing of how they would have ended. Smoke, a heater that fails and what softens in the machine are
    no matter of money.

    References
    ----------
    Jeffreys interval of a share

    Examples
    --------
    >>> stop_advice("corner_lift", Marked(good=1, bad=29), 30.0, 40.0).says
    'stop'
    """
    tried = marked.good + marked.bad
    low, value, high = (
        float(betaincinv(marked.good + 0.5, marked.bad + 0.5, share)) for share in SHARES
    )  # fmt: skip
    chance = Estimate(
        100.0 * value, 100.0 * low, 100.0 * high, "%", f"{marked.good} of {tried} held on", "own log, Jeffreys"
    )  # fmt: skip
    if what in AT_ONCE or left > high * again:
        says = "stop"
    elif left < low * again:
        says = "go on"
    else:
        says = "open"
    return StopAdvice(says=says, chance=chance, left=left, again=again)
