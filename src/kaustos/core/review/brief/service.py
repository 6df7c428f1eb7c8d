"""Service temperature against the deflection temperature for the part's load and state."""

import math

import attrs

from kaustos.core.estimates import PURPOSE
from kaustos.core.records import DEFLECTION_STRESSES_MPA, KNOWN_FROM, Datum, Polymer, deflection_key
from kaustos.core.records.recipe import STRICT, Brief
from kaustos.core.review.contract import Estimate

ALLOWANCE_K = {purpose: each.value for purpose, each in PURPOSE.group("allowance").items()}
CREEP_K, CREEP_FROM_H = PURPOSE["creep"].value, PURPOSE["creep_from"].value
AGEING_K, LIFE_H, LONGEST_H = PURPOSE["ageing"].value, PURPOSE["life"].value, PURPOSE["longest"].value
LOW_MPA, HIGH_MPA = DEFLECTION_STRESSES_MPA
BELOW_MELTING_K = PURPOSE["below_melting"].value
TOLERANCE = 0.03  # 66 psi and 264 psi are 0.455 and 1.82 MPa


def covering_stress(stress_mpa: float | None) -> float | None:
    """The tabulated load at or above a stress, the higher one for what lies above both.

    Parameters
    ----------
    stress_mpa : float or None
        Bending stress in service [MPa]

    Returns
    -------
    float or None
        0.45 or 1.8 [MPa]; None where the stress is not recorded

    References
    ----------
    ISO 75, loads of methods B and A

    Examples
    --------
    >>> covering_stress(0.46), covering_stress(0.5), covering_stress(2.5)
    (0.45, 1.8, 1.8)
    """
    if stress_mpa is None:
        return None
    return LOW_MPA if stress_mpa <= LOW_MPA * (1.0 + TOLERANCE) else HIGH_MPA


def is_beyond(brief: Brief, polymer: Polymer | None = None) -> bool:
    """Whether the load is above every one of which a value is known: what is known is an upper bound."""
    if brief.stress_mpa is None:
        return False
    most = HIGH_MPA
    if polymer is not None and brief.history is not None and brief.moisture is not None:
        values = {
            each: polymer.value(deflection_key(each, brief.history, brief.moisture)) for each in (LOW_MPA, HIGH_MPA)
        }
        most = LOW_MPA if values[HIGH_MPA] is None and values[LOW_MPA] is not None else HIGH_MPA
    return brief.stress_mpa > most * (1.0 + TOLERANCE) and (polymer is None or polymer.character != "rubbery")


def softening_of(brief: Brief, polymer: Polymer | None) -> Datum | None:
    """Deflection temperature for the load and state of the brief.

    Parameters
    ----------
    brief : Brief
        Heat history, moisture and stress in service [MPa]
    polymer : Polymer or None
        Values by load and state [°C]

    Returns
    -------
    Datum or None
        Deflection temperature, above 1.8 MPa no more than an upper bound [°C]; None where brief or polymer do not say

    Notes
    -----
    Between the two loads straight in the logarithm of load; below 0.45 MPa the value there holds. A purpose on which
    much hangs counts on the low end of what is known. A rubbery polymer has no deflection temperature: what it stands
    for years takes its place.

    References
    ----------
    ISO 75, loads of methods B and A
    """
    stress = brief.stress_mpa
    if polymer is None or stress is None or brief.history is None or brief.moisture is None:
        return None
    found = _between(brief, polymer, stress)
    return _counted(brief, polymer.value("long_service_c") if polymer.character == "rubbery" else found)


def _counted(brief: Brief, datum: Datum | None) -> Datum | None:
    """A value as far as its purpose may count on it."""
    strict = datum is not None and brief.purpose in STRICT
    return attrs.evolve(datum, value=datum.low, rival=None) if datum is not None and strict else datum


def _between(brief: Brief, polymer: Polymer, stress: float) -> Datum | None:
    history, moisture = str(brief.history), str(brief.moisture)
    low, high = (polymer.value(deflection_key(each, history, moisture)) for each in DEFLECTION_STRESSES_MPA)
    if stress <= LOW_MPA * (1.0 + TOLERANCE):
        return low or high  # what holds under more holds under less
    if high is None or low is None or stress >= HIGH_MPA * (1.0 - TOLERANCE):
        return high or low  # what lets go under less lets go under more: an upper bound
    share = math.log(stress / LOW_MPA) / math.log(HIGH_MPA / LOW_MPA)
    value, least, most = (
        one + share * (two - one) for one, two in ((low.value, high.value), (low.low, high.low), (low.high, high.high))
    )
    return attrs.evolve(high, value=value, low=min(least, value), high=max(most, value), rival=None)


def lets_go_at(brief: Brief, polymer: Polymer) -> float | None:
    """Where a part gives way whatever its load.

    Parameters
    ----------
    brief : Brief
        Heat history, moisture and stress in service [MPa]
    polymer : Polymer
        Values by load and state [°C]

    Returns
    -------
    float or None
        Temperature [°C]; None where it is not known

    Notes
    -----
    An amorphous part, or one that crystallises slowly, lets go near its deflection temperature. A crystallised one has
    lost most of its stiffness there and creeps; it lets go above the value for 0.45 MPa, or 40 K below its melting
    point.
    """
    softening = softening_of(brief, polymer)
    if polymer.is_glassy or softening is None or brief.history is None or brief.moisture is None:
        return softening.value if softening else None
    low = _counted(brief, polymer.value(deflection_key(LOW_MPA, brief.history, brief.moisture)))
    melting = polymer.value("melting_c")
    ends = [softening.value, *([low.value] if low else [])]
    return max(ends) if melting is None else min(max(ends), max(softening.value, melting.value - BELOW_MELTING_K))


def service_margin(softening: Datum, service_c: float) -> Estimate:
    """Softening value minus service temperature.

    Parameters
    ----------
    softening : Datum
        Deflection temperature with its range [°C]
    service_c : float
        Hottest the part gets under load [°C]

    Returns
    -------
    Estimate
        Margin with the range of the softening value [K]
    """
    value, low, high = (each - service_c for each in (softening.value, softening.low, softening.high))
    return Estimate(
        value, low, high, "K", f"deflection temperature ({KNOWN_FROM[softening.kind]}) − service temperature",
        softening.source,
    )  # fmt: skip


def margin_of(brief: Brief, polymer: Polymer | None) -> Estimate | None:
    """The margin of a polymer in the service of a brief.

    Parameters
    ----------
    brief : Brief
        Service temperature, load and state [°C, MPa]
    polymer : Polymer or None
        Values by load and state [°C]

    Returns
    -------
    Estimate or None
        Margin [K]; None where it is unknown
    """
    softening = softening_of(brief, polymer)
    return service_margin(softening, brief.service_c) if softening and brief.service_c is not None else None


def wanted_margin(brief: Brief, hours: float | None = None) -> float | None:
    """The margin that a brief asks for.

    Parameters
    ----------
    brief : Brief
        Purpose, margin typed, who signed for a thinner one, load and hours in service [K, MPa, h]
    hours : float or None
        Hours in service to take instead of those recorded [h]

    Returns
    -------
    float or None
        Margin [K]; None where neither purpose nor margin is recorded

    Notes
    -----
    The allowance of the purpose rules unless a larger margin is typed, or somebody signed for a thinner one. A part
    that carries a load for long creeps: from ten hours on every tenfold asks for more.
    """
    allowance, typed = ALLOWANCE_K.get(brief.purpose or ""), brief.margin_k
    if typed is not None and brief.margin_signed.strip():
        base: float | None = typed
    else:
        base = max((each for each in (allowance, typed) if each is not None), default=None)
    return None if base is None else base + creep_allowance(brief.stress_mpa, hours or brief.service_h)


def creep_allowance(stress_mpa: float | None, hours: float | None) -> float:
    """Margin that a load of some hours asks for on top.

    Parameters
    ----------
    stress_mpa : float or None
        Bending stress in service [MPa]
    hours : float or None
        Under load at the service temperature [h]

    Returns
    -------
    float
        Margin, 0 where nothing pulls or hours are not known [K]

    Examples
    --------
    >>> creep_allowance(1.0, 1000.0), creep_allowance(1.0, 5.0), creep_allowance(0.0, 1000.0)
    (10.0, 0.0, 0.0)
    """
    if not stress_mpa or not hours or hours <= CREEP_FROM_H:
        return 0.0
    return CREEP_K * math.log10(hours / CREEP_FROM_H)


def stands_for(brief: Brief, polymer: Polymer, hours: float | None) -> float | None:
    """The hottest air that a polymer stands for some hours before it has lost half its strength.

    Parameters
    ----------
    brief : Brief
        Its purpose says whether the low end counts [-]
    polymer : Polymer
        Its long-term air temperature [°C]
    hours : float or None
        In service [h]

    Returns
    -------
    float or None
        Temperature [°C]; None where hours or value are not known

    Notes
    -----
    Half the life for every 10 K, estimate; below a hundred hours heat does not age a part.
    """
    datum = _counted(brief, polymer.value("long_service_c"))
    if datum is None or hours is None:
        return None
    return datum.value + AGEING_K * math.log2(LIFE_H / max(hours, AGES_FROM_H))


AGES_FROM_H = PURPOSE["ages_from"].value


def state_words(brief: Brief) -> str:
    """The state of the part in words."""
    return ", ".join(word.replace("_", " ") for word in (brief.history, brief.moisture) if word)
