"""A bath that takes supports out: what is in it, what it still takes, how long the next wash lasts."""

import math
from collections.abc import Sequence
from datetime import datetime
from itertools import pairwise

import attrs
import numpy as np

from kaustos.core.estimates import SUPPORT
from kaustos.core.estimates.assumed import Band
from kaustos.core.fitting.weighing import least_loss_g
from kaustos.core.planning.draws import Array, drawn, ends, ends_along, estimate
from kaustos.core.records import Bath, Estimate, SupportMaterial, Wash

METHOD = "dissolved at a steady face, slower as the bath fills and cools"


@attrs.frozen(kw_only=True)
class Contents:
    """What is dissolved in a bath."""

    grams: float  # with what lies in it now
    untold: int  # washes of which nobody noted what they took


def contents_of(bath: Bath) -> Contents:
    """What a bath has dissolved, as its log tells.

    Parameters
    ----------
    bath : Bath
        With its washes [g]

    Returns
    -------
    Contents
        By weighing where a part was weighed before and after and its wash has ended, else what was on it [g]

    Notes
    -----
    A part that is not level yet is weighed with its water, and would seem to have left less behind.
    """
    told = [_took(each) for each in bath.washes]
    return Contents(grams=(bath.taken_g or 0.0) + sum(each or 0.0 for each in told), untold=told.count(None))


def newest_in(bath: Bath) -> Wash | None:
    """The newest wash that lies in a bath.

    Parameters
    ----------
    bath : Bath
        With its washes [-]

    Returns
    -------
    Wash or None
        None where it is empty [-]
    """
    return next((each for each in reversed(bath.washes) if each.is_in and each.ended is None), None)


def _took(wash: Wash) -> float | None:
    if wash.ended is not None and wash.before_g is not None and wash.dried and wash.dried[-1].gross_g is not None:
        return max(wash.before_g - wash.dried[-1].gross_g, 0.0)
    return wash.supports_g


def room_of(volume_ml: float, material: SupportMaterial, dissolved_g: float) -> Estimate | None:
    """What a bath still takes.

    Parameters
    ----------
    volume_ml : float
        Of the bath [ml]
    material : SupportMaterial
        That is taken out [g/L]
    dissolved_g : float
        Already in it [g]

    Returns
    -------
    Estimate or None
        Never below nothing [g]; None for a support that is taken off by hand
    """
    if material.grams_per_l is None:
        return None
    takes = material.grams_per_l
    value, low, high = (max(each * volume_ml / 1e3 - dissolved_g, 0.0) for each in (takes.value, takes.low, takes.high))
    return Estimate(value, low, high, "g", "grams by litre less what is dissolved", takes.source)


@attrs.frozen(kw_only=True)
class Course:
    """How a wash goes on."""

    hours: Estimate | None  # until nothing is left; None where the bath is full before
    supports_g: float
    room_g: Array  # draws
    rate_per_h: Array  # at which room is taken, draws

    def left_at(self, hours: Array) -> tuple[Array, Array, Array]:
        """Share of the supports that is still on after some hours: least, likely, most [1]."""
        taken = self.room_g[:, None] / self.supports_g * -np.expm1(-self.rate_per_h[:, None] * hours)
        return ends_along(np.maximum(1.0 - taken, 0.0))


def course_of(
    supports_g: float, material: SupportMaterial, volume_ml: float, dissolved_g: float, warm_c: float | None,
    slow: Band,
) -> Course | None:  # fmt: skip
    """How long a wash takes, and what is left meanwhile.

    Parameters
    ----------
    supports_g : float
        On the part or parts [g]
    material : SupportMaterial
        That is taken out [h, g/L, deg C]
    volume_ml : float
        Of the bath [ml]
    dissolved_g : float
        Already in it [g]
    warm_c : float or None
        Bath; as it usually is for None [deg C]
    slow : tuple of float
        Hours over those that are usual for a fresh bath: least, likely, most [1]

    Returns
    -------
    Course or None
        Hours with their band, share left over time; None for a support without bath [h, 1]

    Notes
    -----
    What dissolves in an hour is steady in a fresh bath, and falls in proportion to the room that is left:
    ``x = R (1 - exp(-S t / (C t0)))`` with the supports ``S``, what the bath takes ``C``, the room ``R`` of it that is
    left, and ``t0`` the hours in a fresh and large bath. It is clean when ``x = S``; never where ``S`` is more than
    ``R``.

    References
    ----------
    Noyes and Whitney, rate of solution in proportion to what is short of saturation
    """
    if material.grams_per_l is None or material.bath_h is None or not supports_g > 0.0 or not volume_ml > 0.0:
        return None
    usual_c = material.bath_c.value if material.bath_c is not None else None
    cooler = 0.0 if warm_c is None or usual_c is None else (usual_c - warm_c) / 10.0
    fresh = drawn("bath hours", material.bath_h.band) * drawn("bath slow", slow)
    fresh = fresh * drawn("bath ten kelvin", SUPPORT["bath_ten_k"].band) ** cooler
    takes = drawn("bath takes", material.grams_per_l.band) * volume_ml / 1e3
    room = np.maximum(takes - dissolved_g, 0.0)
    rate = supports_g / (takes * fresh)
    most = SUPPORT["bath_given_up"].value
    share = np.minimum(supports_g / np.maximum(room, 1e-9), 1.0 - 1e-12)
    hours = np.where(supports_g < room, -np.log1p(-share) / rate, most)
    _, likely, _ = ends(hours)
    found = None if likely >= most else estimate(np.minimum(hours, most), "h", METHOD, material.bath_h.source)
    return Course(hours=found, supports_g=supports_g, room_g=room, rate_per_h=rate)


def slow_by(ratios: Sequence[tuple[float, float]]) -> Band:
    """How many times longer washes of a bath take than is usual, learned from those that came clean.

    Parameters
    ----------
    ratios : sequence of tuple of float
        For each wash the hours after which some was still on and those after which none was, each over what a fresh
        bath of that fill and heat takes by advice [1]

    Returns
    -------
    tuple of float
        Least, likely, most for the next wash [1]

    Notes
    -----
    Normal in the logarithm: what is usual as prior, each wash with its scatter and with how far its looks lay apart.

    Examples
    --------
    >>> [round(each, 2) for each in slow_by([])]
    [0.85, 1.5, 2.64]
    """
    low, value, high = SUPPORT["bath_slow"].band
    scatter = math.log(SUPPORT["wash_differs"].value) / 1.96
    mean, weight = math.log(value), (2.0 * 1.96 / math.log(high / low)) ** 2
    for shortest, longest in ratios:
        last = max(longest, 1e-3)
        first = min(max(shortest, SUPPORT["first_look"].value * last), last)
        apart = math.log(last / first) / (2.0 * 1.96)
        told = 1.0 / (scatter**2 + apart**2)
        mean = (weight * mean + told * 0.5 * math.log(first * last)) / (weight + told)
        weight += told
    half = 1.96 * math.sqrt(1.0 / weight + scatter**2)
    return math.exp(mean - half), math.exp(mean), math.exp(mean + half)


def slow_in(bath: Bath | None, material: SupportMaterial) -> Band:
    """How many times longer the next wash takes than is advised, by what a bath has shown.

    Parameters
    ----------
    bath : Bath or None
        With its washes; None for a new one [-]
    material : SupportMaterial
        That it takes out [h]

    Returns
    -------
    tuple of float
        Least, likely, most [1]
    """
    return slow_by(looked_at(bath, material) if bath is not None else ())


def looked_at(bath: Bath, material: SupportMaterial) -> tuple[tuple[float, float], ...]:
    """What the washes that came clean tell of a bath: hours over those that a fresh one takes by advice.

    Parameters
    ----------
    bath : Bath
        With its washes [-]
    material : SupportMaterial
        That it takes out [h]

    Returns
    -------
    tuple of tuple of float
        For each wash the shares after which some was still on and after which none was [1]
    """
    found = []
    for number, wash in enumerate(bath.washes):
        none_at = [hours_in(wash, each.at_utc) for each in wash.looks if each.seen == "none"]
        end = min(none_at, default=hours_in(wash, wash.out_utc) if wash.out_utc and wash.ended == "clean" else None)
        before = attrs.evolve(bath, washes=bath.washes[:number])
        ideal = _ideal_h(wash, before, material)
        if end is None or ideal is None or not end > 0.0:
            continue
        still = [hours_in(wash, each.at_utc) for each in wash.looks if each.seen in ("most", "some")]
        found.append((max((each for each in still if each < end), default=0.0) / ideal, end / ideal))
    return tuple(found)


def hours_in(wash: Wash, at_utc: str) -> float:
    """Hours from going in to a moment.

    Parameters
    ----------
    wash : Wash
        With its beginning [-]
    at_utc : str
        The moment [-]

    Returns
    -------
    float
        Below nothing where it lies before [h]
    """
    begun = datetime.fromisoformat(wash.at_utc)
    return (datetime.fromisoformat(at_utc) - begun).total_seconds() / 3600.0


def _ideal_h(wash: Wash, before: Bath, material: SupportMaterial) -> float | None:
    """Hours of a wash by advice, as full and as warm as the bath was [h]."""
    takes, advised, grams = material.grams_per_l, material.bath_h, wash.supports_g
    if takes is None or advised is None or not grams or not before.volume_ml or not wash.at_utc:
        return None
    all_of_it = takes.value * before.volume_ml / 1e3
    room = all_of_it - contents_of(before).grams
    if grams >= room:
        return None
    warm = [each.bath_c for each in wash.looks if each.bath_c is not None]
    mean = sum(warm) / len(warm) if warm else before.warm_c
    cooler = 0.0 if mean is None or material.bath_c is None else (material.bath_c.value - mean) / 10.0
    fresh = advised.value * SUPPORT["bath_ten_k"].value ** cooler
    return float(-math.log1p(-grams / room) * all_of_it * fresh / grams)


@attrs.frozen(kw_only=True)
class Residue:
    """What two masses say of what is left in a part."""

    says: str  # one of SAYS
    grams: Estimate | None
    least_g: float | None  # that the balance and the extrusion let be told from nothing
    may_stay_g: float | None


SAYS = {
    "drying": "not level yet: dry on, weigh again",
    "blind": "the balance cannot tell: inspect it",
    "left": "supports are left: back in",
    "eaten": "it lost more than its supports: the bath takes the part",
    "clean": "clean by mass",
}


def residue_of(
    supports_g: float | None, before_g: float | None, dried: Sequence[tuple[float, float]], scale_g: float
) -> Residue:
    """Whether a part is clean, by the mass that it lost.

    Parameters
    ----------
    supports_g : float or None
        On it before the bath, as extruded [g]
    before_g : float or None
        Part with its supports, dry [g]
    dried : sequence of tuple of float
        Hours after it came out and mass, one weighing after the other [h, g]
    scale_g : float
        Repeatability of the balance, one standard deviation [g]

    Returns
    -------
    Residue
        What is left with its band, the least that could be told, and what it says [g]

    Notes
    -----
    Left is what was on it less what it lost. Known to the balance, twice, and to what extrusion scatters from part to
    part. Before two weighings apart are level, water is weighed with it.

    Examples
    --------
    >>> residue_of(8.0, 60.0, [(4.0, 52.1), (8.0, 52.1)], 0.01).says
    'clean'
    >>> residue_of(0.4, 60.0, [(4.0, 59.6), (8.0, 59.6)], 1.0).says
    'blind'
    """
    if supports_g is None or before_g is None:
        return Residue(says="blind", grams=None, least_g=None, may_stay_g=None)
    scatter = 1.96 * SUPPORT["extruded"].value / 100.0 * supports_g
    least = math.hypot(least_loss_g(scale_g), scatter)
    may_stay = SUPPORT["may_stay"].value / 100.0 * supports_g
    if not dried or not is_level(dried, scale_g):
        return Residue(says="drying", grams=None, least_g=least, may_stay_g=may_stay)
    left = supports_g - (before_g - dried[-1][1])
    source = f"balance of ±{scale_g:g} g, extrusion ±{SUPPORT['extruded'].value:g} %"
    grams = Estimate(left, left - least, left + least, "g", "supports less mass lost", source)
    if grams.high < 0.0:
        says = "eaten"
    elif grams.low > 0.0:
        says = "left"
    else:
        says = "clean" if grams.high <= may_stay else "blind"
    return Residue(says=says, grams=grams, least_g=least, may_stay_g=may_stay)


def is_level(dried: Sequence[tuple[float, float]], scale_g: float) -> bool:
    """Whether a rinsed part has come to its dry mass.

    Parameters
    ----------
    dried : sequence of tuple of float
        Hours and mass, one weighing after the other [h, g]
    scale_g : float
        Repeatability of the balance [g]

    Returns
    -------
    bool
        True where the last two lie apart in time and not in mass [-]
    """
    last = list(pairwise(dried))[-1:]
    return any(
        later - sooner >= SUPPORT["level_h"].value and abs(was - now) <= least_loss_g(scale_g)
        for (sooner, was), (later, now) in last
    )
