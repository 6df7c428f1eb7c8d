"""What the readings of a run say: did each zone get there and stay, does a sensor drift or stand still?"""

from itertools import pairwise
from typing import Any

import attrs
import numpy as np

from kaustos.core.estimates import RUN
from kaustos.core.planning.draws import Array
from kaustos.core.planning.rank_trends import median_slope

DRIFT_POINTS = 240  # to which a long log is thinned for its slope


@attrs.frozen(kw_only=True, eq=False)
class Course:
    """What one sensor showed over a run."""

    seconds: Array
    shown_c: Array  # NaN where it showed nothing
    wanted_c: Array | None  # as long; None where nobody says what was wanted
    duty_pct: Array | None = None  # of its heater, as long


@attrs.frozen(kw_only=True)
class Told:
    """What it says."""

    reached_min: float | None  # until it was there first; None where it never was, or nobody knows what was wanted
    is_never: bool  # whether a setpoint stood long and was not reached
    short_k: float  # most that it fell below its setpoint once it was there
    short_min: float  # how long it was so
    drift_k_h: float | None  # of what it shows over what is wanted, at rest; None where that is not told
    stuck_min: float  # longest time in which it showed one and the same
    full_min: float  # how long its heater ran at its limit, once it was there
    gaps: int
    gap_min: float  # the longest

    @property
    def says(self) -> tuple[str, ...]:
        """What is wrong with it: never, short, full, drift, stuck, gaps."""
        found = {
            "never": self.is_never, "short": self.short_min > 0.0, "full": self.full_min > 0.0,
            "drift": self.drift_k_h is not None,
            "stuck": self.stuck_min > 0.0, "gaps": self.gaps > 0,
        }  # fmt: skip
        return tuple(key for key, stands in found.items() if stands)


def told_by(course: Course) -> Told:
    """Judge what one sensor showed.

    Parameters
    ----------
    course : Course
        Seconds, what it showed, what was wanted [s, deg C]

    Returns
    -------
    Told
        Minutes, kelvin and gaps [min, K]

    Notes
    -----
    A setpoint that is changed is reached anew. Times between two readings count for the first of them, no more than a
    gap counts.
    """
    is_there = ~np.isnan(course.shown_c)
    seconds, shown = course.seconds[is_there], course.shown_c[is_there]
    if seconds.size < 2:
        whole = float(np.ptp(course.seconds)) / 60.0 if course.seconds.size else 0.0
        return Told(reached_min=None, is_never=False, short_k=0.0, short_min=0.0, drift_k_h=None, stuck_min=0.0,
                    full_min=0.0, gaps=1, gap_min=whole)  # fmt: skip
    steps = np.diff(seconds)
    edges = np.array([seconds[0] - course.seconds[0], course.seconds[-1] - seconds[-1]])  # silent at first, or at last
    longest = max(RUN["gap_s"].value, 4.0 * float(np.median(steps)))
    waits = np.concatenate((steps, edges))
    wide = waits > longest
    wanted = None if course.wanted_c is None else course.wanted_c[is_there]
    reached, never, short_k, short_s, drift = None, False, 0.0, 0.0, None
    for begin, end in _stretches(wanted):
        piece = slice(begin, end)
        found = _stretch(seconds[piece], shown[piece], wanted[piece], longest)  # type: ignore[index]
        reached = found[0] if reached is None else reached
        never, short_k, short_s = never or found[1], max(short_k, found[2]), short_s + found[3]
        drift = found[4] if drift is None else drift
    if wanted is None:
        drift = _drift(seconds, shown)
    return Told(
        reached_min=None if reached is None else (reached - float(course.seconds[0])) / 60.0,
        is_never=never, short_k=short_k, short_min=short_s / 60.0, drift_k_h=drift, stuck_min=_stuck(seconds, shown),
        full_min=_full(course, is_there, reached, longest),
        gaps=int(np.count_nonzero(wide)), gap_min=float(waits[wide].max()) / 60.0 if wide.any() else 0.0,
    )  # fmt: skip


def _stretches(wanted: Array | None) -> list[tuple[int, int]]:
    """Pieces with one setpoint that heats."""
    if wanted is None:
        return []
    ends = np.flatnonzero(np.abs(np.diff(wanted)) > 0.5) + 1
    pieces = zip([0, *ends.tolist()], [*ends.tolist(), wanted.size], strict=True)
    return [(begin, end) for begin, end in pieces if end - begin > 1 and wanted[begin] > RUN["heated_c"].value]


def _stretch(
    seconds: Array, shown: Array, wanted: Array, longest: float
) -> tuple[float | None, bool, float, float, float | None]:  # fmt: skip
    """Of one setpoint: when it was there, whether never, most short and how long, drift."""
    under = wanted - shown
    there = np.flatnonzero(under <= RUN["there_k"].value)
    if not there.size:
        return None, float(seconds[-1] - seconds[0]) > 60.0 * RUN["never_min"].value, 0.0, 0.0, None
    first = int(there[0])
    lasts = np.minimum(np.append(np.diff(seconds), 0.0), longest)[first:]
    low = under[first:] > RUN["short_k"].value
    short_s = _runs_of(low, lasts, 60.0 * RUN["short_min"].value)
    short_k = float(under[first:][low].max()) if short_s > 0.0 else 0.0
    return float(seconds[first]), False, short_k, short_s, _drift(seconds[first:], -under[first:])


def _runs_of(low: "np.ndarray[Any, np.dtype[np.bool_]]", lasts: Array, least_s: float) -> float:
    """Seconds in which something stood, in pieces that are no shorter than the least."""
    whole = piece = 0.0
    for stands, last in zip(low.tolist(), lasts.tolist(), strict=True):
        if stands:
            piece += last
        else:
            whole, piece = whole + (piece if piece >= least_s else 0.0), 0.0
    return whole + (piece if piece >= least_s else 0.0)


def _full(
    course: Course, is_there: "np.ndarray[Any, np.dtype[np.bool_]]", reached: float | None, longest: float
) -> float:  # fmt: skip
    """Minutes at the limit of its heater once it was there: nothing is left to regulate with."""
    if course.duty_pct is None or reached is None:
        return 0.0
    seconds, duty = course.seconds[is_there], np.nan_to_num(course.duty_pct[is_there])
    lasts = np.minimum(np.append(np.diff(seconds), 0.0), longest)
    full = (duty >= RUN["full_pct"].value) & (seconds >= reached)
    return _runs_of(full, lasts, 60.0 * RUN["full_min"].value) / 60.0


def _drift(seconds: Array, shown: Array) -> float | None:
    """Slope at rest [K/h], by the median of slopes; None where it is short, or chance."""
    settled = seconds >= seconds[0] + 60.0 * RUN["settle_min"].value
    at, value = seconds[settled] / 3600.0, shown[settled]
    if at.size < 10 or at[-1] - at[0] < RUN["drift_h"].value:
        return None
    pick = np.unique(np.linspace(0, at.size - 1, min(at.size, DRIFT_POINTS)).astype(int))
    slope, low, high = median_slope(at[pick], value[pick], 0.99)
    is_told = low * high > 0.0 and abs(slope) * (at[-1] - at[0]) > RUN["drift_k"].value
    return slope if is_told else None


def _stuck(seconds: Array, shown: Array) -> float:
    """Longest time in which a sensor showed one value [min]: one that shows fine steps elsewhere, or never another.

    Nothing where that was short.
    """
    whole = float(seconds[-1] - seconds[0]) / 60.0
    if np.ptp(shown) == 0.0:
        return whole if whole >= RUN["stuck_min"].value else 0.0
    steps = np.abs(np.diff(np.unique(shown)))
    fine = steps.size >= 5 and float(np.median(steps)) < RUN["stuck_step"].value
    if not fine:
        return 0.0
    ends = np.flatnonzero(np.diff(shown) != 0.0)
    edges = np.concatenate(([0], ends + 1, [shown.size]))
    spans = [float(seconds[end - 1] - seconds[begin]) for begin, end in pairwise(edges.tolist())]
    longest = max(spans) / 60.0
    return longest if longest >= RUN["stuck_min"].value else 0.0
