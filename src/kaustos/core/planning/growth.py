"""What an anneal made of size and density: measured coupons before and after, and the scale to print at."""

import math
from collections.abc import Sequence

import attrs
import numpy as np

from kaustos.core.estimates import ANNEAL
from kaustos.core.records import Estimate, Growth, OvenLoad, Polymer

AXES = {"x": "along the beads", "y": "across the beads", "z": "across the layers"}
WATER_G_CM3 = 0.998  # at 20 °C
PRACTICE = "practice, estimate"
USUAL_TOLD = 3  # coupons that the usual spread counts for


def grown_pct(growth: Growth, axis: str) -> float | None:
    """Growth of one coupon along an axis.

    Parameters
    ----------
    growth : Growth
        Lengths before and after [mm]
    axis : str
        x, y or z [-]

    Returns
    -------
    float or None
        Above nothing where it grew [%]; None where one of both is not known

    Examples
    --------
    >>> grown_pct(Growth(x_mm=80.0, after_x_mm=79.2), "x")
    -1.0
    """
    before, after = getattr(growth, f"{axis}_mm"), getattr(growth, f"after_{axis}_mm")
    return None if not before or not after else round(100.0 * (after / before - 1.0), 9)


def growth_of(loads: Sequence[OvenLoad], polymer: Polymer, axis: str) -> Estimate | None:
    """Growth to be reckoned with along an axis.

    Parameters
    ----------
    loads : sequence of OvenLoad
        Of the same recipe; those of another polymer are left out [mm]
    polymer : Polymer
        Whose usual growth stands where nothing was measured [-]
    axis : str
        x, y or z [-]

    Returns
    -------
    Estimate or None
        Growth with its band [%]; None for a polymer of which nothing is usual

    Notes
    -----
    Student's interval of the next part: its spread is that of the coupons, and that by which parts usually differ from
    coupons as if three more had told it, so that one coupon already tells something. Without any only a wide usual
    range is known: stretch that is let go shrinks parts along their beads and thickens their layers, by how much no
    data sheet says.
    """
    mine = [each for load in loads if load.polymer in (None, polymer.id) for each in load.grown]
    measured = [each for each in (grown_pct(growth, axis) for growth in mine) if each is not None]
    kind = "amorphous" if polymer.structure == "amorphous" else polymer.weld_class
    usual = ANNEAL.get(f"{'up' if axis == 'z' else 'along'}.{kind}")
    if not measured:
        return None if usual is None else Estimate(usual.value, usual.low, usual.high, "%", PRACTICE, usual.source)
    from scipy.special import stdtrit

    mean, count = float(np.mean(measured)), len(measured)
    square = USUAL_TOLD * ANNEAL["coupon_pct"].value ** 2 + float(np.sum((np.array(measured) - mean) ** 2))
    free = USUAL_TOLD + count - 1
    wide = float(stdtrit(free, 0.975)) * math.sqrt(square / free * (1.0 + 1.0 / count))
    coupons = "one coupon" if count == 1 else f"{count} coupons"
    return Estimate(mean, mean - wide, mean + wide, "%", coupons, "own coupons, before and after")


def print_at(growth: Estimate) -> Estimate:
    """Scale at which a length is printed so that it fits after the anneal.

    Parameters
    ----------
    growth : Estimate
        Of the length [%]

    Returns
    -------
    Estimate
        Of the model, 1 for as drawn [1]

    Examples
    --------
    >>> round(print_at(Estimate(-1.0, -1.0, -1.0, "%", "m", "s")).value, 4)
    1.0101
    """
    low, value, high = (1.0 / (1.0 + each / 100.0) for each in (growth.high, growth.value, growth.low))
    return Estimate(value, low, high, "×", growth.method, growth.source)


@attrs.frozen(kw_only=True)
class Weighed:
    """Density of one body by weighing it in air and in water [g/cm³], and by how much two readings may mislead."""

    density: float
    doubt: float


def by_water(air_g: float | None, water_g: float | None, scale_g: float) -> Weighed | None:
    """Density after Archimedes.

    Parameters
    ----------
    air_g : float or None
        Mass in air [g]
    water_g : float or None
        Mass hung in water at room heat, no bubbles on it [g]
    scale_g : float
        Repeatability of the balance [g]

    Returns
    -------
    Weighed or None
        None where one is not known, or it floats [g/cm^3]

    Notes
    -----
    Voids of a print count as polymer of no mass: only the change of one body tells of crystals, never its value.

    References
    ----------
    ISO 1183-1, method A

    Examples
    --------
    >>> round(by_water(13.0, 3.0, 0.001).density, 3)
    1.297
    """
    if air_g is None or water_g is None or not air_g > water_g >= 0.0:
        return None
    lost = air_g - water_g
    density = WATER_G_CM3 * air_g / lost
    doubt = density * math.hypot(scale_g / air_g, math.sqrt(2.0) * scale_g / lost)
    return Weighed(density=density, doubt=2.0 * doubt)


SAYS_DENSITY = {
    "denser": "denser: it crystallised",
    "same": "no change that the balance can tell",
    "lighter": "lighter: it foamed, or water drove out",
}


def density_change(growth: Growth, scale_g: float) -> tuple[float, float, str] | None:
    """How much denser a body became, and what that says.

    Parameters
    ----------
    growth : Growth
        Masses in air and in water, before and after [g]
    scale_g : float
        Repeatability of the balance [g]

    Returns
    -------
    tuple of float, float and str or None
        Change, what two weighings may mislead by, and a key of ``SAYS_DENSITY`` [%]; None where masses are missing
    """
    before = by_water(growth.mass_g, growth.water_g, scale_g)
    after = by_water(growth.after_g, growth.after_water_g, scale_g)
    if before is None or after is None:
        return None
    change = 100.0 * (after.density / before.density - 1.0)
    doubt = 100.0 * math.hypot(before.doubt / before.density, after.doubt / after.density)
    says = "same" if abs(change) <= doubt else "denser" if change > 0.0 else "lighter"
    return change, doubt, says
