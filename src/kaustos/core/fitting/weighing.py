"""What weighings of a drying spool tell: water lost, and the time constant of that lot on that spool."""

import attrs
import numpy as np

from kaustos.core.physics.cylinder import eigenvalues
from kaustos.core.physics.humidity import Array
from kaustos.core.records import Estimate

TWO_SIDED = 1.96  # 95 % of a normal distribution
CHI_SQUARE = 3.841  # 95 %, one degree of freedom
_GRID = 400


@attrs.frozen
class WaterLost:
    """Water that left the filament between two weighings."""

    grams: Estimate
    percent: Estimate
    is_told: bool  # whether the scale can tell it from nothing


def least_loss_g(scale_g: float) -> float:
    """The least loss that two weighings can tell from nothing.

    Parameters
    ----------
    scale_g : float
        Repeatability of the scale, one standard deviation [g]

    Returns
    -------
    float
        Loss [g]

    Examples
    --------
    >>> round(least_loss_g(1.0), 2)
    2.77
    """
    return TWO_SIDED * float(np.sqrt(2.0)) * scale_g


def water_lost(
    before_g: float, after_g: float, net_g: float, tare_g: float, body_takes: tuple[float, float], scale_g: float
) -> WaterLost:
    """Water lost between two weighings, less what the spool body gave off.

    Parameters
    ----------
    before_g : float
        Spool before drying [g]
    after_g : float
        Spool after drying [g]
    net_g : float
        Filament without the spool [g]
    tare_g : float
        Empty spool [g]
    body_takes : tuple of float
        Least and most water of the spool body's own, share of its mass [1]
    scale_g : float
        Repeatability of the scale, one standard deviation [g]

    Returns
    -------
    WaterLost
        Grams and share of the filament [g, %]

    Notes
    -----
    Card drinks more than the polymer: 2 to 8 % of its mass (estimate) may be its own water.
    """
    low_share, high_share = body_takes
    noise = least_loss_g(scale_g)
    whole = before_g - after_g
    body = 0.5 * (low_share + high_share) * tare_g
    grams = min(max(whole - body, 0.0), max(whole, 0.0))
    low, high = whole - high_share * tare_g - noise, whole - low_share * tare_g + noise
    method = "difference of two weighings − water of the spool body"
    found = Estimate(grams, min(low, grams), max(high, grams), "g", method, f"scale of ±{scale_g:g} g")
    share = attrs.evolve(
        found, value=100.0 * grams / net_g, low=100.0 * found.low / net_g, high=100.0 * found.high / net_g,
        unit="% water",
    )  # fmt: skip
    return WaterLost(found, share, low > 0.0)


@attrs.frozen
class DryingFit:
    """An exponential course fitted to weighings."""

    time_constant_h: Estimate | None  # None where the data cannot determine it
    end_g: Estimate | None  # mass it tends to
    residual_g: float  # root mean square
    undetermined: tuple[str, ...]


def fit_drying(hours: Array, grams: Array, scale_g: float) -> DryingFit:
    """The time constant of drying from three or more weighings.

    Parameters
    ----------
    hours : ndarray
        Times of the weighings since drying began [h]
    grams : ndarray
        Mass of the spool [g]
    scale_g : float
        Repeatability of the scale, one standard deviation [g]

    Returns
    -------
    DryingFit
        Time constant and end mass with 95 % intervals, and what the data cannot determine [h, g]

    Notes
    -----
    Mass falls as end + loss exp(-t/tau). For each tau on a grid end and loss follow by linear least squares; the
    interval of tau holds all whose sum of squares over the scale's variance stays within 3.84 of the least. An interval
    that reaches an end of the grid, a tenth of the shortest gap to ten times the whole time, is not determined.

    References
    ----------
    Profile likelihood of a parameter, chi square with one degree of freedom
    """
    t, m = np.asarray(hours, dtype=float), np.asarray(grams, dtype=float)
    span, gap = float(np.ptp(t)), float(np.diff(np.sort(t)).min()) if len(t) > 1 else 0.0
    if len(t) < 3 or gap <= 0.0:
        return DryingFit(None, None, 0.0, ("time constant: three weighings at different times are needed",))
    grid = np.geomspace(0.1 * gap, 10.0 * span, _GRID)
    shape = np.exp(-(t - t.min()) / grid[:, None])  # grid x weighings
    ends, squares = _least_squares(shape, m)
    best = int(np.argmin(squares))
    inside = squares / scale_g**2 <= squares[best] / scale_g**2 + CHI_SQUARE
    low, high = grid[np.argmax(inside)], grid[len(grid) - 1 - np.argmax(inside[::-1])]
    residual = float(np.sqrt(squares[best] / len(t)))
    loss = m.max() - m.min()
    if loss < least_loss_g(scale_g):
        return DryingFit(None, None, residual, ("time constant: the loss is no more than the scale's own spread",))
    if inside[0] or inside[-1]:
        side = "it may be as short as the gaps" if inside[0] else "the end is not in sight: weigh on"
        return DryingFit(None, None, residual, (f"time constant: {side}",))
    method, source = "exponential through weighings, profile likelihood", f"scale of ±{scale_g:g} g"
    tau = Estimate(float(grid[best]), float(low), float(high), "h", method, source)
    among = ends[inside]
    end = Estimate(float(ends[best]), float(among.min()), float(among.max()), "g", method, source)
    return DryingFit(tau, end, residual, ())


def _least_squares(shape: Array, mass: Array) -> tuple[Array, Array]:
    """End mass and sum of squares of the best line mass = end + loss shape, for each row of shapes."""
    centred = shape - shape.mean(axis=1, keepdims=True)
    about = mass - mass.mean()
    slope = (centred @ about) / np.maximum((centred**2).sum(axis=1), 1e-300)
    ends = mass.mean() - slope * shape.mean(axis=1)
    left = about - slope[:, None] * centred
    return ends, (left**2).sum(axis=1)


def effective_diffusivity(
    time_constant_h: float, radius: float, biot_at: float, diffusivity_at: float
) -> tuple[float, bool]:
    """The diffusivity that gives a spool the time constant that was measured.

    Parameters
    ----------
    time_constant_h : float
        Time constant of the spool at late times [h]
    radius : float
        Radius of the strand [m]
    biot_at : float
        Biot number of the winding at the diffusivity below [-]
    diffusivity_at : float
        A diffusivity for which the Biot number is known [m^2/s]

    Returns
    -------
    tuple of float and bool
        Diffusivity [m^2/s], and whether it is one: below a Biot number of 5 the winding rules, and it is only effective

    Notes
    -----
    The Biot number of a winding falls as diffusivity rises; solved by bisection over four decades either way.
    """
    low, high = 1e-4 * diffusivity_at, 1e4 * diffusivity_at
    wanted = radius**2 / (time_constant_h * 3600.0)
    for _ in range(80):
        middle = float(np.sqrt(low * high))
        biot = max(biot_at * diffusivity_at / middle, 1e-6)
        if middle * float(eigenvalues(biot)[0]) ** 2 < wanted:
            low = middle
        else:
            high = middle
    found = float(np.sqrt(low * high))
    return found, biot_at * diffusivity_at / found > 5.0
