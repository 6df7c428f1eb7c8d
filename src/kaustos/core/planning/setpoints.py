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
    """One setting with the window and the reach it comes from, in the unit of its field."""

    field: str
    value: float
    window: tuple[float, float]
    reach: float | None
    short: float  # how far the machine stays below the window, 0 where it does not
    source: str
    other: str = ""  # what shops that go by another school would do


def propose_setpoints(
    polymer: Polymer, machine: Machine | None, rules: Rules, nozzle: Nozzle | None = None,
    more_k: Mapping[str, float] | None = None,
) -> tuple[Proposal, ...]:  # fmt: skip
    """A setpoint for each heater, by the school of the shop, as far as the machine reaches with headroom.

    Parameters
    ----------
    polymer : Polymer
        Holds the windows [°C]
    machine : Machine or None
        The machine as it stands [°C]
    rules : Rules
        Headroom that a controller needs, and by which school the shop starts [K]
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
    Whole kelvins. Where the reach, less its own uncertainty and the headroom, lies below what is wanted, the setpoint
    keeps that distance; where it lies below the window, the shortfall is named. Shops disagree where in a window to
    start, whether the plate goes by the glass transition, and whether the first layer is hotter: the rules of the shop
    say what it does, and each proposal what others would do. No school leaves the window.
    """
    found = []
    for field, zone in FIELDS:
        low, high = polymer.value(f"{zone}_low_c"), polymer.value(f"{zone}_high_c")
        if low is not None and high is not None and (zone != "chamber" or is_chamber_heated(machine)):
            wanted, other = _by_school(field, zone, low.value, high.value, polymer, rules)
            more = (more_k or {}).get(zone, 0.0)
            proposal = _proposal(field, zone, wanted + more, low, high, machine, rules, nozzle)
            found.append(attrs.evolve(proposal, other=other))
    return tuple(found)


def _by_school(
    field: str, zone: str, low: float, high: float, polymer: Polymer, rules: Rules
) -> tuple[float, str]:  # fmt: skip
    """What the shop's school wants within a window [°C], and the other opinion."""
    if zone == "chamber":
        return (low + high) / 2.0, ""
    share = min(max(rules.start_in_window_pct / 100.0, 0.0), 1.0)
    wanted = low + share * (high - low)
    glass = polymer.value("glass_transition_c")
    if zone == "plate":
        if glass is None or not polymer.is_glassy:
            return wanted, _others(share)
        if rules.start_below_glass_k > 0.0:
            return min(max(glass.value - rules.start_below_glass_k, low), high), "others go by the window of the table"
        return wanted, "others start 5 to 10 K below the glass transition"
    if field.startswith("first_layer"):
        others = "others keep one heat" if rules.start_first_k else "others lay the first layer 5 to 10 K hotter"
        return min(wanted + max(rules.start_first_k, 0.0), high), others
    return wanted, _others(share)


def _others(share: float) -> str:
    """Where others start in a window, who start where this shop does not."""
    low, hot = "low, for less ageing and strings", "hot, for the weld"
    if share < 1.0 / 3.0:
        return f"others start in the middle, or {hot}"
    return f"others start {low}, or {hot if share <= 2.0 / 3.0 else 'in the middle'}"


def _proposal(
    field: str, zone: str, wanted_c: float, low: Datum, high: Datum, machine: Machine | None, rules: Rules,
    nozzle: Nozzle | None,
) -> Proposal:  # fmt: skip
    middle = min(wanted_c, high.value)
    reach = reach_through(machine, zone, rules, nozzle) if machine else None
    source = f"window of the polymer ({KNOWN_FROM[low.kind]})"
    if reach is None or reach.low_c is None or reach.max_c is None:
        return Proposal(field, float(math.floor(middle)), (low.value, high.value), None, 0.0, source)
    safe = min(reach.max_c - rules.headroom_k, reach.low_c)
    setpoint = float(math.floor(min(middle, max(safe, min(low.value, reach.max_c)))))
    short = max(0.0, low.value - setpoint)
    return Proposal(field, setpoint, (low.value, high.value), reach.max_c, short, source)
