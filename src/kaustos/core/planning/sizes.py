"""What a caliper says of a part: scale along each axis, hole error, taper, roundness, warp."""

import math
from collections.abc import Sequence

import attrs
import numpy as np

from kaustos.core.errors import KaustosError
from kaustos.core.planning.draws import Array
from kaustos.core.records import Estimate

METHOD, SOURCE = "least squares", "own measurements"
LEAST_GAUGE_MM = 0.01


@attrs.frozen(kw_only=True)
class Line:
    """Measured over nominal lengths of one kind along one axis."""

    scale: Estimate  # measured over nominal [1]
    offset: Estimate | None  # that does not grow with the length [mm]; None where all have one length
    count: int


def line_of(nominal: Sequence[float], found: Sequence[float], gauge_mm: float = LEAST_GAUGE_MM) -> Line:
    """Scale and offset of lengths along one axis.

    Parameters
    ----------
    nominal : sequence of float
        As drawn [mm]
    found : sequence of float
        As measured [mm]
    gauge_mm : float
        Repeatability of the gauge, the least that readings scatter [mm]

    Returns
    -------
    Line
        Scale and offset with their 95 % bands [1, mm]

    Notes
    -----
    Several lengths tell scale and offset apart; several of one length only the scale. The scatter is that of the
    readings, joined with that of the gauge as if four more had told it.
    """
    drawn, read = np.asarray(nominal, float), np.asarray(found, float)
    if drawn.size != read.size or not drawn.size:
        raise KaustosError("As many measured as nominal lengths are wanted.")
    if not (np.all(drawn > 0.0) and np.all(read > 0.0)):
        raise KaustosError("Lengths must be above nothing.")
    from scipy.special import stdtrit

    many = drawn.max() > 1.2 * drawn.min() and drawn.size > 2
    rows = np.stack([drawn, np.ones(drawn.size)], axis=1) if many else drawn[:, None]
    answer, *_ = np.linalg.lstsq(rows, read, rcond=None)
    left = read - rows @ answer
    free = drawn.size - rows.shape[1] + 4
    square = (float(left @ left) + 4.0 * gauge_mm**2) / free
    spread = np.sqrt(np.diag(np.linalg.inv(rows.T @ rows)) * square)
    wide = float(stdtrit(free, 0.975)) * spread
    scale, count = float(answer[0]), f"{drawn.size} lengths"
    offset = None
    if many:
        offset = Estimate(float(answer[1]), float(answer[1] - wide[1]), float(answer[1] + wide[1]), "mm", count, SOURCE)
    return Line(scale=Estimate(scale, scale - float(wide[0]), scale + float(wide[0]), "×", count, SOURCE),
                offset=offset, count=int(drawn.size))  # fmt: skip


@attrs.frozen(kw_only=True, eq=False)
class Round:
    """What radii at angles and heights say of a round part."""

    radius: Estimate  # mean, at the middle height [mm]
    taper_mm: Estimate | None  # of the diameter over the height; None where one height was measured
    lobes: int  # of the strongest form, 2 to 5
    lobe_mm: Estimate  # its amplitude
    roundness_mm: float  # largest less least radius of what the fit shows
    seen: str  # how it was measured


def round_of(
    angles_deg: Sequence[float], heights_mm: Sequence[float], radii_mm: Sequence[float],
    gauge_mm: float = LEAST_GAUGE_MM,
) -> Round:  # fmt: skip
    """Size, taper and lobes of a round part from radii.

    Parameters
    ----------
    angles_deg : sequence of float
        Round it, from a mark [deg]
    heights_mm : sequence of float
        Of each reading [mm]
    radii_mm : sequence of float
        From an axis, such as of a turntable [mm]
    gauge_mm : float
        Repeatability of the gauge [mm]

    Returns
    -------
    Round
        Radius, taper, strongest of 2 to 5 lobes, each with its 95 % band [mm]

    Notes
    -----
    Least squares of a constant, a slope, the eccentricity of the set-up, and one form after another of 2 to 5 lobes;
    the one that leaves least is the strongest. At least nine readings round it.
    """
    angle, height, radius = (np.asarray(each, float) for each in (angles_deg, heights_mm, radii_mm))
    if not angle.size == height.size == radius.size:
        raise KaustosError("Angles, heights and radii must be as many.")
    if angle.size < 9 or np.unique(np.round(angle % 360.0, 3)).size < 9:
        raise KaustosError("At least nine angles round it are wanted: five lobes are told by nine readings.")
    if not np.all(radius > 0.0):
        raise KaustosError("Radii must be above nothing.")
    turn, level = np.radians(angle), height - height.mean()
    tapers = float(np.ptp(height)) > 0.0
    base = [np.ones_like(turn), np.cos(turn), np.sin(turn), *([level] if tapers else [])]
    tried = {lobes: _solved([*base, np.cos(lobes * turn), np.sin(lobes * turn)], radius, gauge_mm)
             for lobes in (2, 3, 4, 5)}  # fmt: skip
    lobes = min(tried, key=lambda each: tried[each][1])
    answer, _, spread, factor = tried[lobes]
    amplitude = math.hypot(answer[-2], answer[-1])
    wide = factor * float(np.mean(spread[-2:]))
    mean = float(answer[0])
    taper = None
    if tapers:
        slope, off = 2.0 * float(answer[3]) * float(np.ptp(height)), 2.0 * factor * float(spread[3])
        off *= float(np.ptp(height))
        taper = Estimate(slope, slope - off, slope + off, "mm", METHOD, SOURCE)
    return Round(
        radius=Estimate(mean, mean - factor * float(spread[0]), mean + factor * float(spread[0]), "mm", METHOD, SOURCE),
        taper_mm=taper, lobes=lobes,
        lobe_mm=Estimate(amplitude, max(amplitude - wide, 0.0), amplitude + wide, "mm", METHOD, SOURCE),
        roundness_mm=2.0 * amplitude, seen="radii",
    )  # fmt: skip


def _solved(columns: list[Array], radius: Array, gauge_mm: float) -> tuple[Array, float, Array, float]:
    """Answer, what is left, spread of each number, and Student's factor."""
    from scipy.special import stdtrit

    rows = np.stack(columns, axis=1)
    answer, *_ = np.linalg.lstsq(rows, radius, rcond=None)
    left = radius - rows @ answer
    free = max(radius.size - rows.shape[1], 1)
    square = max(float(left @ left) / free, (0.2 * gauge_mm) ** 2)
    spread = np.sqrt(np.diag(np.linalg.pinv(rows.T @ rows)) * square)
    return np.asarray(answer, np.float64), float(left @ left), np.asarray(spread), float(stdtrit(free, 0.975))


def round_by_diameters(angles_deg: Sequence[float], diameters_mm: Sequence[float]) -> Estimate:
    """Largest less least diameter, half of it: what a caliper sees of roundness.

    Parameters
    ----------
    angles_deg : sequence of float
        Of each reading [deg]
    diameters_mm : sequence of float
        Across it [mm]

    Returns
    -------
    Estimate
        Roundness as far as even lobes make it; its high end is open: odd ones do not change a diameter [mm]

    Examples
    --------
    >>> round_by_diameters((0.0, 60.0, 120.0), (20.0, 20.1, 20.0)).value
    0.05
    """
    if len(angles_deg) != len(diameters_mm) or len(diameters_mm) < 3:
        raise KaustosError("At least three diameters at angles of their own are wanted.")
    found = round((max(diameters_mm) - min(diameters_mm)) / 2.0, 9)
    return Estimate(found, found, max(3.0 * found, 0.15), "mm", "diameters: three or five lobes stay unseen", SOURCE)


def warp_pct(lift_mm: float, x_mm: float, y_mm: float) -> float:
    """Lift of a corner over the diagonal of its face.

    Parameters
    ----------
    lift_mm : float
        Of the worst corner, on a flat, cold [mm]
    x_mm : float
        Length of the face [mm]
    y_mm : float
        Width of the face [mm]

    Returns
    -------
    float
        Warp [%]

    Examples
    --------
    >>> round(warp_pct(0.6, 144.0, 108.0), 2)
    0.33
    """
    diagonal = math.hypot(x_mm, y_mm)
    if not diagonal > 0.0 or lift_mm < 0.0:
        raise KaustosError("A face has a diagonal, and a lift is not below nothing.")
    return 100.0 * lift_mm / diagonal
