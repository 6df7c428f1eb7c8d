"""Service temperature against the deflection temperature for the part's load and state."""

from kaustos.core.records import DEFLECTION_STRESSES_MPA, KNOWN_FROM, Datum, Polymer, deflection_key
from kaustos.core.records.recipe import Brief
from kaustos.core.review.contract import Estimate


def tabulated_stress(stress_mpa: float | None) -> float | None:
    """The tabulated load that covers a stress.

    Parameters
    ----------
    stress_mpa : float or None
        Bending stress in service [MPa]

    Returns
    -------
    float or None
        0.45 or 1.8 [MPa]; None above 1.8 or where the stress is not recorded

    Notes
    -----
    Between the two loads the higher one counts: deflection temperature falls with load, so this is the safe side.

    References
    ----------
    ISO 75, loads of methods B and A

    Examples
    --------
    >>> tabulated_stress(0.5)
    1.8
    """
    return next((each for each in DEFLECTION_STRESSES_MPA if stress_mpa is not None and stress_mpa <= each), None)


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
        Deflection temperature [°C]; None where brief or polymer do not say
    """
    load = tabulated_stress(brief.stress_mpa)
    if polymer is None or load is None or brief.history is None or brief.moisture is None:
        return None
    return polymer.value(deflection_key(load, brief.history, brief.moisture))


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


def state_words(brief: Brief) -> str:
    """The state of the part in words."""
    return ", ".join(word.replace("_", " ") for word in (brief.history, brief.moisture) if word)
