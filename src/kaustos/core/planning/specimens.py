"""Pulled specimens: chord modulus, strength, strain at break; groups with interval; across over along."""

import math
from collections.abc import Sequence

import attrs
import numpy as np

from kaustos.core.errors import KaustosError
from kaustos.core.planning.draws import Array
from kaustos.core.records import Estimate

CHORD = (0.0005, 0.0025)  # strain between which the modulus is taken
BROKE = 0.5  # of the highest stress, below which a specimen has broken
METHOD = "ISO 527-1"
LEAST = 3  # specimens of a group from which anything is said of it


@attrs.frozen(kw_only=True, eq=False)
class Pulled:
    """What one specimen showed; stress on the true section."""

    strength_mpa: float
    nominal_mpa: float | None  # on the section as drawn; None where nobody says it
    strain_at_strength_pct: float | None
    break_pct: float | None  # None where it did not break, or strain is not known
    modulus_mpa: float | None  # None where travel is not strain, or too few points lie in the chord
    toe_pct: float  # taken off the strain: grips that settled
    says: tuple[str, ...]


@attrs.frozen(kw_only=True, eq=False)
class Curve:
    """Force over travel or strain of one specimen, and its sizes."""

    force_n: Array
    travel_mm: Array | None = None
    strain: Array | None = None  # measured on the specimen [1]
    width_mm: float
    thick_mm: float
    gauge_mm: float | None = None  # length that the travel belongs to
    drawn_mm2: float | None = None
    compliance_mm_n: float | None = None  # of machine and grips


def pulled(curve: Curve) -> Pulled:
    """Judge one specimen.

    Parameters
    ----------
    curve : Curve
        Force, strain or travel, section [N, 1, mm]

    Returns
    -------
    Pulled
        Strength, strain at break, chord modulus [MPa, %]

    Notes
    -----
    Modulus is the chord between 0.05 and 0.25 % strain, of strain measured on the specimen, or of travel less what a
    stated compliance of machine and grips takes. Travel alone gives strength and nominal strain, never a modulus. The
    toe is where the straight through the chord meets no stress.

    References
    ----------
    ISO 527-1, definitions of stress, strain and modulus
    """
    force = np.asarray(curve.force_n, float)
    if force.size < 3 or not np.all(np.isfinite(force)) or not force.max() > 0.0:
        raise KaustosError("A curve wants at least three finite points, and a force above nothing.")
    if not (curve.width_mm > 0.0 and curve.thick_mm > 0.0):
        raise KaustosError("Width and thickness of a specimen must be above nothing.")
    stress = force / (curve.width_mm * curve.thick_mm)
    strain, is_true = _strain(curve)
    top = int(np.argmax(stress))
    end = _end(stress, top)
    modulus, toe, says = None, 0.0, []
    if strain is None:
        says.append("no strain")
    else:
        modulus, toe = _chord(strain[: end + 1], stress[: end + 1])
        if not is_true:
            modulus = None
            says.append("travel only: no modulus")
        elif modulus is None:
            says.append("no points in the chord")
    broke = end < stress.size - 1 or stress[-1] < BROKE * stress[top]
    nominal = float(force.max() / curve.drawn_mm2) if curve.drawn_mm2 else None
    return Pulled(
        strength_mpa=float(stress[top]), nominal_mpa=nominal, modulus_mpa=modulus, toe_pct=100.0 * toe,
        strain_at_strength_pct=None if strain is None else 100.0 * (float(strain[top]) - toe),
        break_pct=None if strain is None or not broke else 100.0 * (float(strain[end]) - toe), says=tuple(says),
    )  # fmt: skip


def _strain(curve: Curve) -> tuple[Array | None, bool]:
    """Strain, and whether it is that of the specimen."""
    if curve.strain is not None:
        return np.asarray(curve.strain, float), True
    if curve.travel_mm is None or not curve.gauge_mm:
        return None, False
    taken = 0.0 if curve.compliance_mm_n is None else np.asarray(curve.force_n, float) * curve.compliance_mm_n
    return (np.asarray(curve.travel_mm, float) - taken) / curve.gauge_mm, curve.compliance_mm_n is not None


def _end(stress: Array, top: int) -> int:
    """The last point before the stress falls away."""
    below = np.flatnonzero(stress[top:] < BROKE * stress[top])
    return top + int(below[0]) - 1 if below.size else stress.size - 1


def _chord(strain: Array, stress: Array) -> tuple[float | None, float]:
    """Chord modulus of a curve whose toe is taken off, and the toe; a line through what lies within the chord."""
    toe = float(strain[np.argmax(stress > 0.005 * stress.max())])  # where it begins to be pulled, to start with
    for _ in range(12):
        moved = strain - toe
        inside = np.flatnonzero((moved >= CHORD[0] - 1e-12) & (moved <= CHORD[1] + 1e-12))
        if inside.size < 2:
            return None, 0.0
        first, last = inside[0], inside[-1] + 1
        rows = np.stack([strain[first:last], np.ones(last - first)], axis=1)
        (slope, height), *_ = np.linalg.lstsq(rows, stress[first:last], rcond=None)
        if not slope > 0.0:
            return None, 0.0
        found = -height / slope
        if abs(found - toe) < 1e-9:
            break
        toe = float(found)
    return float(slope), toe


@attrs.frozen(kw_only=True)
class Group:
    """Specimens of one condition."""

    count: int
    mean: float
    spread: float | None  # standard deviation; None for one
    low: float | None  # 95 % interval of the mean; None for one
    high: float | None


def group_of(values: Sequence[float]) -> Group:
    """Mean, standard deviation and interval of a group.

    Parameters
    ----------
    values : sequence of float
        Of one condition [any unit]

    Returns
    -------
    Group
        Mean with Student's interval; one specimen has none [the same unit]

    Examples
    --------
    >>> group_of([30.0]).low is None, round(group_of([30.0, 31.0, 29.0]).high, 2)
    (True, 32.48)
    """
    if not values:
        raise KaustosError("A group without specimens says nothing.")
    found = np.asarray(values, float)
    mean = float(found.mean())
    if found.size == 1:
        return Group(count=1, mean=mean, spread=None, low=None, high=None)
    from scipy.special import stdtrit

    spread = float(found.std(ddof=1))
    half = float(stdtrit(found.size - 1, 0.975)) * spread / math.sqrt(found.size)
    return Group(count=found.size, mean=mean, spread=spread, low=mean - half, high=mean + half)


def ratio_of(across: Sequence[float], along: Sequence[float]) -> Estimate | None:
    """Across over along, or over a reference of one value.

    Parameters
    ----------
    across : sequence of float
        Strengths across the layers [MPa]
    along : sequence of float
        Strengths along them, or one of moulded matrix [MPa]

    Returns
    -------
    Estimate or None
        Ratio of the means with its 95 % interval [1]; None where a group has no specimen, or both have but one

    Notes
    -----
    The interval is that of the difference of logarithms, after Welch. One value against several counts as exact.
    """
    one, other = np.asarray(across, float), np.asarray(along, float)
    if not one.size or not other.size or min(one.min(), other.min()) <= 0.0 or one.size + other.size < 3:
        return None
    from scipy.special import stdtrit

    parts = [(np.log(each).var(ddof=1) / each.size, each.size - 1) for each in (one, other) if each.size > 1]
    square = sum(part for part, _ in parts)
    ratio = float(one.mean() / other.mean())
    if square <= 0.0:
        return Estimate(ratio, ratio, ratio, "1", f"{one.size} across, {other.size} along", "own specimens")
    free = square**2 / sum(part**2 / count for part, count in parts)
    half = float(stdtrit(free, 0.975)) * math.sqrt(square)
    return Estimate(
        ratio, ratio * math.exp(-half), ratio * math.exp(half), "1", f"{one.size} across, {other.size} along",
        "own specimens",
    )  # fmt: skip


def rate_of(good: int, count: int) -> Estimate:
    """Share of successes with its two-sided interval.

    Parameters
    ----------
    good : int
        Successes [-]
    count : int
        Trials [-]

    Returns
    -------
    Estimate
        Share with the interval after Clopper and Pearson [1]

    References
    ----------
    Clopper and Pearson, The use of confidence or fiducial limits illustrated in the case of the binomial

    Examples
    --------
    >>> round(rate_of(5, 5).low, 3), rate_of(0, 0).high
    (0.478, 1.0)
    """
    if not 0 <= good <= count:
        raise KaustosError(f"{good} of {count} cannot be.")
    from scipy.special import betaincinv

    low = float(betaincinv(good, count - good + 1, 0.025)) if good else 0.0
    high = float(betaincinv(good + 1, count - good, 0.975)) if good < count else 1.0
    value = good / count if count else 0.5
    return Estimate(value, low, high, "1", f"{good} of {count}", "own log")


def lower_bound(good: int, of: int) -> float:
    """Lower end of what a count of successes says of their share.

    Parameters
    ----------
    good : int
        Successes [-]
    of : int
        Trials [-]

    Returns
    -------
    float
        Share that the truth exceeds with 95 % confidence [-]

    References
    ----------
    Clopper and Pearson, one-sided 95 % bound of a share

    Examples
    --------
    >>> round(lower_bound(5, 5), 3)
    0.549
    """
    if good == 0 or of == 0:
        return 0.0
    if good == of:
        return float(0.05 ** (1.0 / of))
    from scipy.special import betaincinv

    return float(betaincinv(good, of - good + 1, 0.05))
