"""Setpoints to start a recipe from: proposed, never filled in silently."""

import math
from collections.abc import Mapping

import attrs

from kaustos.core.planning.reach import is_chamber_heated, reach_through
from kaustos.core.records import KNOWN_FROM, Datum, Machine, Nozzle, Polymer, Rules

FIELDS = (  # field, zone
    ("first_layer.nozzle_c", "nozzle"),
    ("melt.nozzle_c", "nozzle"),
    ("first_layer.bed_c", "plate"),
    ("plate.bed_c", "plate"),
    ("heat.chamber_c", "chamber"),
)


@attrs.frozen
class Proposal:
    """One setpoint with the window and the reach it comes from [°C]."""

    field: str
    value_c: float
    window_c: tuple[float, float]
    reach_c: float | None
    short_k: float  # how far the machine stays below the window, 0 where it does not [K]
    source: str


def propose_setpoints(
    polymer: Polymer, machine: Machine | None, rules: Rules, nozzle: Nozzle | None = None,
    more_k: Mapping[str, float] | None = None,
) -> tuple[Proposal, ...]:  # fmt: skip
    """A setpoint for each heater: the middle of the polymer's window, as far as the machine reaches with headroom.

    Parameters
    ----------
    polymer : Polymer
        Holds the windows [°C]
    machine : Machine or None
        The machine as it stands [°C]
    rules : Rules
        Headroom that a controller needs [K]
    nozzle : Nozzle or None
        What it stands counts in the reach [°C]
    more_k : mapping of str to float or None
        By zone, how much more than the wanted heat has to be set: a display that shows too much, a nozzle that conducts
        poorly [K]

    Returns
    -------
    tuple of Proposal
        In the order in which heaters are set [°C]; a zone without a window is left out

    Notes
    -----
    Whole kelvins. Where the reach, less its own uncertainty and the headroom, lies below the middle of the window, the
    setpoint keeps that distance; where it lies below the window, the shortfall is named.
    """
    found = []
    for field, zone in FIELDS:
        low, high = polymer.value(f"{zone}_low_c"), polymer.value(f"{zone}_high_c")
        if low is not None and high is not None and (zone != "chamber" or is_chamber_heated(machine)):
            found.append(_proposal(field, zone, low, high, machine, rules, nozzle, (more_k or {}).get(zone, 0.0)))
    return tuple(found)


def _proposal(
    field: str, zone: str, low: Datum, high: Datum, machine: Machine | None, rules: Rules, nozzle: Nozzle | None,
    more_k: float,
) -> Proposal:  # fmt: skip
    middle = min((low.value + high.value) / 2.0 + more_k, high.value)
    reach = reach_through(machine, zone, rules, nozzle) if machine else None
    source = f"window of the polymer ({KNOWN_FROM[low.kind]})"
    if reach is None or reach.low_c is None or reach.max_c is None:
        return Proposal(field, float(math.floor(middle)), (low.value, high.value), None, 0.0, source)
    safe = min(reach.max_c - rules.headroom_k, reach.low_c)
    setpoint = float(math.floor(min(middle, max(safe, min(low.value, reach.max_c)))))
    short = max(0.0, low.value - setpoint)
    return Proposal(field, setpoint, (low.value, high.value), reach.max_c, short, source)
