"""A cast of a nozzle's bore by a cold pull: fill at melt heat, let it set, pull just above its glass transition."""

import attrs

from kaustos.core.estimates import NOZZLES
from kaustos.core.records import Polymer

PULL_RISKS = (
    "The filament must be dry. A cast breaks now and then and blocks the nozzle: trained hands, and log it. Hot metal "
    "burns; never pull while fingers are on the block. Let fumes out."
)
_NEVER = {
    "pom": "it gives off formaldehyde when it stands hot",
    "pva": "it chars when it stands hot",
    "bvoh": "it chars when it stands hot",
    "tpu": "it stretches instead of coming out",
}


@attrs.frozen
class PullStep:
    """One step: what to do at which heat [°C], for how long [min]."""

    text: str
    at_c: float
    minutes: float


def cold_pull(polymer: Polymer) -> tuple[tuple[PullStep, ...], str]:
    """The steps of a cold pull with a polymer, or why there are none.

    Parameters
    ----------
    polymer : Polymer
        With window of the nozzle, glass transition and crystallisation onset [°C]

    Returns
    -------
    tuple
        Steps [°C, min], and a reason where there are none [-]

    Notes
    -----
    An amorphous strand comes out whole a little above its glass transition, a crystallising one part of the way from
    there to where its crystals form: practice, estimate.
    """
    if polymer.id in _NEVER:
        return (), _NEVER[polymer.id] + "."
    low, high = polymer.value("nozzle_low_c"), polymer.value("nozzle_high_c")
    transition, crystals = polymer.value("glass_transition_c"), polymer.value("crystallisation_c")
    if low is None or high is None or transition is None or (not polymer.is_glassy and crystals is None):
        return (), "its window of the nozzle, its glass transition or its crystallisation is not recorded."
    fill_c = 0.5 * (low.value + high.value)
    above_k = NOZZLES["pull_above"].value
    pull_c = transition.value + above_k
    if not polymer.is_glassy and crystals is not None:
        pull_c = transition.value + max(above_k, NOZZLES["pull_share"].value * (crystals.value - transition.value))
    if pull_c < NOZZLES["pull_least"].value:
        return (), "it would have to be pulled cold, where it does not let go."
    return (
        PullStep("Heat to {at} and push filament by hand until it runs smooth and clean", fill_c, 3.0),
        PullStep("Let it cool to {at} with light pressure on the filament, so that the bore stays full",
                 transition.value - above_k, 8.0),
        PullStep("Heat to {at} and wait", pull_c, 3.0),
        PullStep("Pull straight and steadily at {at} until it comes out whole", pull_c, 0.5),
        PullStep("Measure the thin end of the cast at {at} of the room; its step is the land, its slope the cone",
                 21.0, 2.0),
    ), ""  # fmt: skip
