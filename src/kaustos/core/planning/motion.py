"""How long moves take: trapezoids of speed, one look-ahead over all of them, corners at the speed they allow."""

import attrs
import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


@attrs.frozen(kw_only=True, eq=False)
class Moves:
    """Moves one after the other; a machine that stands between two of them has no corner there."""

    length_mm: Array
    speed_mm_s: Array  # commanded
    accel_mm_s2: Array
    begins: Array  # unit vectors in x, y, z and, for moves of filament alone, that [4 x n]
    ends: Array
    stands: NDArray[np.bool_]  # whether it stands still before the move


def move_times(moves: Moves, corner_mm_s: float) -> Array:
    """Time of every move.

    Parameters
    ----------
    moves : Moves
        In their order, the machine at rest before the first and after the last [mm, mm/s, mm/s^2]
    corner_mm_s : float
        Change of speed, as a vector, that the machine takes at once between two moves [mm/s]

    Returns
    -------
    ndarray
        Seconds, one for each move [s]

    Notes
    -----
    Speed squared at each corner is the least of what the corner allows and what can be braked from before the end, or
    reached since the beginning: with ``C`` the running sum of ``2 a d`` the least of ``J + C`` over what comes, less
    ``C``, and the same from the other side. Each move then accelerates, keeps its speed, and brakes.

    Examples
    --------
    >>> one = np.array([[1.0], [0.0], [0.0], [0.0]])
    >>> move = Moves(length_mm=np.array([100.0]), speed_mm_s=np.array([50.0]), accel_mm_s2=np.array([500.0]),
    ...              begins=one, ends=one, stands=np.array([True]))
    >>> float(move_times(move, 8.0)[0])
    2.1
    """
    length, speed, accel = moves.length_mm, moves.speed_mm_s, moves.accel_mm_s2
    if not length.size:
        return np.zeros(0)
    squared = corner_squares(moves, corner_mm_s)
    gain = 2.0 * accel * length
    _spread(squared, gain)
    first, last = squared[:-1], squared[1:]
    top = np.minimum(speed**2, 0.5 * (gain + first + last))
    top = np.maximum(top, np.maximum(first, last))
    peak, begin, end = np.sqrt(top), np.sqrt(first), np.sqrt(last)
    steady = np.maximum(length - (2.0 * top - first - last) / (2.0 * accel), 0.0)
    cruise = np.divide(steady, peak, out=np.zeros_like(peak), where=peak > 0.0)
    return (2.0 * peak - begin - end) / accel + cruise


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
        turn = np.sqrt(((moves.begins[:, 1:] - moves.ends[:, :-1]) ** 2).sum(axis=0))
        both = np.minimum(speed[1:], speed[:-1])
        allowed = np.minimum(both, corner_mm_s / np.maximum(turn, 1e-12))
        found[1:-1] = np.where(moves.stands[1:], 0.0, allowed**2)
    return found


BLOCK = 4_096


def _spread(squared: Array, gain: Array) -> None:
    """Hold speeds to what can be reached and braked, in place; in blocks, so that sums stay exact."""
    count = gain.size
    for low in range((count - 1) // BLOCK * BLOCK, -1, -BLOCK):
        high = min(low + BLOCK, count)
        total = np.concatenate(([0.0], np.cumsum(gain[low:high])))
        part = squared[low : high + 1] + total
        squared[low : high + 1] = np.minimum.accumulate(part[::-1])[::-1] - total
    for low in range(0, count, BLOCK):
        high = min(low + BLOCK, count)
        total = np.concatenate(([0.0], np.cumsum(gain[low:high])))
        part = squared[low : high + 1] - total
        squared[low : high + 1] = np.minimum.accumulate(part) + total
    np.maximum(squared, 0.0, out=squared)
