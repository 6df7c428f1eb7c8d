"""When to start, so that what needs hands falls into hours in which somebody is there."""

import functools
from collections.abc import Sequence
from datetime import datetime, timedelta

import attrs
import numpy as np

DAY_MIN, WEEK_MIN = 1_440, 10_080
STEP_MIN = 5
HORIZON_MIN = WEEK_MIN


@attrs.frozen(kw_only=True)
class Staffed:
    """Hours in which somebody is there, by the clock on the wall; the week begins on Monday."""

    from_h: float
    to_h: float  # below the first: a shift over midnight
    days: float = 5.0

    def minutes(self) -> "np.ndarray[tuple[int], np.dtype[np.bool_]]":
        """Every minute of a week, whether somebody is there [-]."""
        minute = np.arange(WEEK_MIN)
        day, of_day = minute // DAY_MIN, minute % DAY_MIN
        first, last = round(self.from_h * 60.0), round(self.to_h * 60.0)
        if first <= last:
            return (day < self.days) & (of_day >= first) & (of_day < last)
        late, early = of_day >= first, of_day < last
        return ((day < self.days) & late) | (((day - 1) % 7 < self.days) & early)

    def last_before(self, at: datetime, after: datetime) -> datetime | None:
        """The last minute before a moment, and not before another, at which somebody is there; None where nobody is."""
        there, minute = self.minutes(), _minute(at)
        span = int((at - after).total_seconds() // 60)
        back = next((each for each in range(1, span + 1) if there[(minute - each) % WEEK_MIN]), None)
        return None if back is None else at - timedelta(minutes=back)

    def next_min(self, at: datetime) -> float | None:
        """Minutes until somebody is there; 0 where somebody is, None where nobody ever is [min]."""
        there, minute = self.minutes(), _minute(at) % WEEK_MIN
        found = np.flatnonzero(np.roll(there, -minute))
        return float(found[0]) if found.size else None


@attrs.frozen(kw_only=True)
class Hand:
    """Something that wants hands."""

    name: str
    at_min: float  # after the first move; below nothing before it
    minutes: float
    beside_min: float = 0.0  # for which somebody stays beside it after that
    can_wait: bool = False  # until somebody is there again

    @property
    def there_min(self) -> float:
        """For how long somebody is wanted there; not at all where it can wait [min]."""
        return 0.0 if self.can_wait else self.minutes + self.beside_min


@attrs.frozen(kw_only=True)
class Start:
    """A start, and what of it falls into hours in which nobody is there."""

    at: datetime
    outside: tuple[str, ...]  # names of what does
    outside_min: float


def best_start(ready: datetime, hands: Sequence[Hand], staffed: Staffed) -> Start:
    """The earliest start of the next week with the least work in hours in which nobody is there.

    Parameters
    ----------
    ready : datetime
        Before which nothing begins, with the clock on the wall [-]
    hands : sequence of Hand
        What wants hands, before and after the first move [min]
    staffed : Staffed
        Hours in which somebody is there [h]

    Returns
    -------
    Start
        First move on a mark of five minutes, and what falls outside all the same [min]

    Notes
    -----
    All starts of a week are tried. Clocks that are put forward or back meanwhile are not minded.
    """
    before = max([0.0, *(-each.at_min for each in hands)])
    first = -(-_minute(ready + timedelta(minutes=before)) // STEP_MIN) * STEP_MIN
    starts = np.arange(first, first + HORIZON_MIN, STEP_MIN)
    away = _absent(staffed)
    lost = sum((_away(away, starts, each) for each in hands), np.zeros(starts.size))
    best = int(np.argmin(lost))
    at = ready + timedelta(minutes=float(starts[best] - _minute(ready)))
    return judged_start(at.replace(second=0, microsecond=0), hands, staffed)


def judged_start(at: datetime, hands: Sequence[Hand], staffed: Staffed) -> Start:
    """What of a given start falls into hours in which nobody is there.

    Parameters
    ----------
    at : datetime
        First move, with the clock on the wall [-]
    hands : sequence of Hand
        What wants hands [min]
    staffed : Staffed
        Hours in which somebody is there [h]

    Returns
    -------
    Start
        With what falls outside [min]
    """
    away = _absent(staffed)
    minute = np.array([_minute(at)])
    lost = [(each.name, float(_away(away, minute, each)[0])) for each in hands]
    return Start(
        at=at, outside=tuple(name for name, minutes in lost if minutes > 0.0),
        outside_min=sum(minutes for _, minutes in lost),
    )  # fmt: skip


@functools.lru_cache(maxsize=64)
def _absent(staffed: Staffed) -> "np.ndarray[tuple[int], np.dtype[np.int64]]":
    """Minutes of a week until each of its minutes in which nobody is there."""
    return np.concatenate(([0], np.cumsum(~staffed.minutes())))


def _minute(at: datetime) -> int:
    """Minute of the week."""
    return at.weekday() * DAY_MIN + at.hour * 60 + at.minute + (1 if at.second or at.microsecond else 0)


def _away(away: "np.ndarray[tuple[int], np.dtype[np.int64]]", starts: "np.ndarray[tuple[int], np.dtype[np.int64]]",
          hand: Hand) -> "np.ndarray[tuple[int], np.dtype[np.float64]]":  # fmt: skip
    """Minutes of some work in which nobody is there, for every start."""
    begin = np.asarray(starts + round(hand.at_min))
    if hand.can_wait:
        return np.zeros(begin.shape)
    end = begin + max(round(hand.there_min), 1)
    weeks_b, weeks_e = np.floor_divide(begin, WEEK_MIN), np.floor_divide(end, WEEK_MIN)
    total = away[-1]
    found = (weeks_e * total + away[end - weeks_e * WEEK_MIN]) - (weeks_b * total + away[begin - weeks_b * WEEK_MIN])
    return np.asarray(found, dtype=np.float64)
