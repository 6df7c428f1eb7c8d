"""How long moves take: trapezoids of speed, one look-ahead over all of them, corners at the speed they allow."""

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.estimates import RUN
from kaustos.core.estimates.assumed import Band
from kaustos.core.records import Machine

Array = NDArray[np.float64]


@attrs.frozen(kw_only=True)
class Planned:
    """What a machine is taken to do: for what a file does not say."""

    accel_mm_s2: Band = RUN["accel"].band  # least, likely, most
    corner_mm_s: Band = RUN["corner"].band
    speed_mm_s: float = RUN["unsaid_speed"].value  # where no speed was commanded yet


def planned_of(machine: Machine | None) -> Planned:
    """What a machine is taken to do: by its passport, else as is usual, with a band.

    Parameters
    ----------
    machine : Machine or None
        With its acceleration and its corner speed [mm/s^2, mm/s]

    Returns
    -------
    Planned
        For planning a file [mm/s^2, mm/s]
    """
    if machine is None:
        return Planned()
    return Planned(accel_mm_s2=_near(machine.accel_mm_s2, "accel"), corner_mm_s=_near(machine.corner_mm_s, "corner"))


def _near(told: float | None, usual: str) -> Band:
    if not told:
        return RUN[usual].band
    low, value, high = RUN["near_told"].band
    return low * told, value * told, high * told


@attrs.frozen(kw_only=True, eq=False)
class Moves:
    """Moves one after the other; a machine that stands between two of them has no corner there."""

    length_mm: Array
    speed_mm_s: Array  # commanded
    accel_mm_s2: Array
    turns: Array  # between the direction before each move and its own: length of the difference of unit vectors
    stands: NDArray[np.bool_]  # whether it stands still before the move


def settled(moves: Moves, corner_mm_s: float, first: float) -> tuple[int, Array]:
    """How many of some moves no later move can change, and the speeds squared at all corners, one more than moves.

    Parameters
    ----------
    moves : Moves
        In their order; more are to come [mm, mm/s, mm/s^2]
    corner_mm_s : float
        Change of speed that is taken at once [mm/s]
    first : float
        Speed squared with which the first one is begun [mm^2/s^2]

    Returns
    -------
    tuple of int and ndarray
        Moves, and speeds squared, as if it came to rest after the last [-, mm^2/s^2]

    Notes
    -----
    Speed squared at each corner is the least of what the corner allows and what can be braked from before the end, or
    reached since the beginning: with ``C`` the running sum of ``2 a d`` the least of ``J + C`` over what comes, less
    ``C``, and the same from the other side. Braked to rest at the end or not braked at all: where both say the same,
    whatever comes is no matter.
    """
    gain = 2.0 * moves.accel_mm_s2 * moves.length_mm
    rest = corner_squares(moves, corner_mm_s)
    rest[0] = first
    free = rest.copy()
    free[-1] = moves.speed_mm_s[-1] ** 2
    _brake(rest, gain)
    _brake(free, gain)
    same = np.flatnonzero(free - rest <= 1e-9 * np.maximum(free, 1.0))
    _reach(rest, gain)
    return (int(same[-1]) if same.size else 0), rest


def turns_of(begins: Array, ends: Array) -> Array:
    """How much each move turns away from the one before.

    Parameters
    ----------
    begins : ndarray
        Unit vectors at the beginning of every move, in x, y, z and, for moves of filament alone, that [4 x n]
    ends : ndarray
        The same at their ends [4 x n]

    Returns
    -------
    ndarray
        Length of the difference, nothing before the first [1]
    """
    return np.concatenate(([0.0], np.sqrt(((begins[:, 1:] - ends[:, :-1]) ** 2).sum(axis=0))))


def times_at(moves: Moves, squared: Array, count: int) -> Array:
    """Times of the first of some moves by the speeds squared at their corners.

    Parameters
    ----------
    moves : Moves
        In their order [mm, mm/s, mm/s^2]
    squared : ndarray
        At every corner [mm^2/s^2]
    count : int
        How many of them [-]

    Returns
    -------
    ndarray
        Seconds [s]

    Notes
    -----
    Each move accelerates, keeps its speed, and brakes.

    Examples
    --------
    >>> move = Moves(length_mm=np.array([100.0]), speed_mm_s=np.array([50.0]), accel_mm_s2=np.array([500.0]),
    ...              turns=np.array([0.0]), stands=np.array([True]))
    >>> float(times_at(move, settled(move, 8.0, 0.0)[1], 1)[0])
    2.1
    """
    return _times(
        Moves(
            length_mm=moves.length_mm[:count], speed_mm_s=moves.speed_mm_s[:count],
            accel_mm_s2=moves.accel_mm_s2[:count], turns=moves.turns[:count], stands=moves.stands[:count],
        ),
        squared[: count + 1],
    )  # fmt: skip


def _times(moves: Moves, squared: Array) -> Array:
    length, speed, accel = moves.length_mm, moves.speed_mm_s, moves.accel_mm_s2
    gain, first, last = 2.0 * accel * length, squared[:-1], squared[1:]
    top = np.minimum(speed**2, 0.5 * (gain + first + last))
    top = np.maximum(top, np.maximum(first, last))
    peak, begin, end = np.sqrt(top), np.sqrt(first), np.sqrt(last)
    steady = np.maximum(length - (2.0 * top - first - last) / (2.0 * accel), 0.0)
    cruise = np.divide(steady, peak, out=np.zeros_like(peak), where=peak > 0.0)
    return np.asarray((2.0 * peak - begin - end) / accel + cruise)


def corner_squares(moves: Moves, corner_mm_s: float) -> Array:
    """Speed squared that the corner before each move allows, and the rest behind the last.

    Parameters
    ----------
    moves : Moves
        In their order [mm/s]
    corner_mm_s : float
        Change of speed that is taken at once [mm/s]

    Returns
    -------
    ndarray
        One more than there are moves [mm^2/s^2]
    """
    speed = moves.speed_mm_s
    found = np.zeros(speed.size + 1)
    if speed.size > 1:
        both = np.minimum(speed[1:], speed[:-1])
        allowed = np.minimum(both, corner_mm_s / np.maximum(moves.turns[1:], 1e-12))
        found[1:-1] = np.where(moves.stands[1:], 0.0, allowed**2)
    return found


BLOCK = 4_096


def _brake(squared: Array, gain: Array) -> None:
    """Hold speeds to what can be braked before the end, in place; in blocks, so that sums stay exact."""
    count = gain.size
    for low in range((count - 1) // BLOCK * BLOCK, -1, -BLOCK):
        high = min(low + BLOCK, count)
        total = np.concatenate(([0.0], np.cumsum(gain[low:high])))
        part = squared[low : high + 1] + total
        squared[low : high + 1] = np.maximum(np.minimum.accumulate(part[::-1])[::-1] - total, 0.0)


def _reach(squared: Array, gain: Array) -> None:
    """Hold speeds to what can be reached since the beginning, in place."""
    count = gain.size
    for low in range(0, count, BLOCK):
        high = min(low + BLOCK, count)
        total = np.concatenate(([0.0], np.cumsum(gain[low:high])))
        part = squared[low : high + 1] - total
        squared[low : high + 1] = np.maximum(np.minimum.accumulate(part) + total, 0.0)
