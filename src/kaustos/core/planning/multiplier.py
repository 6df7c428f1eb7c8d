"""An extrusion multiplier from measured walls: how sure it is, and what to rule out before it is believed."""

import math
from collections.abc import Sequence

import attrs
import numpy as np

from kaustos.core.errors import KaustosError
from kaustos.core.estimates import MELT
from kaustos.core.planning.bead import ROUND, bead_section, wall_of

LEAST_READINGS = 3
CAUSES = (
    "Bore entered is not the bore fitted",
    "Diameter of the strand is not the one entered: measure it at three places",
    "Wet filament foams: dry it and repeat",
    "Fibres swell the bead, or ribs were measured: use flat jaws, press lightly",
    "The drive slips or its steps are off: mark 100 mm and feed them",
    "Wall is not of so many beads: look at its section",
)


class ReadingFault(KaustosError):
    """Readings from which no multiplier follows."""


@attrs.frozen(kw_only=True)
class MultiplierFit:
    """What measured walls say."""

    multiplier: float
    half: float  # 95 % either way
    spread_pct: float  # of one reading
    expected_mm: float
    mean_mm: float
    strand_mm: float  # diameter that would explain it
    is_odd: bool
    why: str  # why it is not believed yet; empty where it is


def multiplier_of(
    walls_mm: Sequence[float], beads: int, width_mm: float, height_mm: float, commanded: float, strand_mm: float
) -> MultiplierFit:  # fmt: skip
    """The multiplier that makes walls as thick as they are sliced.

    Parameters
    ----------
    walls_mm : sequence of float
        Walls as they were measured [mm]
    beads : int
        Side by side in each [-]
    width_mm : float
        Of a bead as it is sliced [mm]
    height_mm : float
        Of the layer [mm]
    commanded : float
        Multiplier with which they were printed [1]
    strand_mm : float
        Diameter of the filament as it is entered [mm]

    Returns
    -------
    MultiplierFit
        Multiplier with its interval, and what it implies [1, mm]

    Notes
    -----
    The section of a bead is proportional to the multiplier, its width is not: what round sides overlap stays. The
    interval is Student's for the mean of the readings.

    Examples
    --------
    >>> fit = multiplier_of([0.50, 0.50, 0.50], 1, 0.48, 0.2, 1.0, 1.75)
    >>> round(fit.multiplier, 3)
    0.956
    """
    walls = np.asarray(walls_mm, float)
    if walls.size < LEAST_READINGS:
        raise ReadingFault(f"At least {LEAST_READINGS} readings are wanted; {walls.size} are there.")
    if not (np.isfinite(walls).all() and (walls > 0.0).all()):
        raise ReadingFault("Every reading must be a length above nothing.")
    if beads < 1 or not width_mm >= height_mm > 0.0 or not commanded > 0.0:
        raise ReadingFault("Beads, width, layer and multiplier must be those that were printed.")
    expected = bead_section(width_mm, height_mm)
    each = (walls + (beads - 1) * height_mm * ROUND) / beads
    sections = (each - height_mm * ROUND) * height_mm
    if not (sections > 0.0).all():
        raise ReadingFault("A reading is thinner than the sides of a bead: look at the unit.")
    ratio = sections / expected
    mean, spread = float(ratio.mean()), float(ratio.std(ddof=1))
    found = commanded / mean
    half = found * _student(walls.size - 1) * spread / mean / math.sqrt(walls.size)
    low, high = MELT["odd_low"].value, MELT["odd_high"].value
    why = ""
    if not low <= found <= high:
        why = f"outside {low:g} to {high:g}"
    elif half > MELT["multiplier_wide"].value * found:
        why = f"readings scatter by {100.0 * spread / mean:.1f} %: it is known within {100.0 * half / found:.0f} % only"
    return MultiplierFit(
        multiplier=found, half=half, spread_pct=100.0 * spread / mean, mean_mm=float(walls.mean()),
        expected_mm=wall_of(beads, width_mm, height_mm), strand_mm=strand_mm / math.sqrt(found), is_odd=bool(why),
        why=why,
    )  # fmt: skip


def _student(freedom: int) -> float:
    """Half the width of Student's 95 % interval, over the standard error."""
    from scipy.special import stdtrit

    return float(stdtrit(freedom, 0.975))
