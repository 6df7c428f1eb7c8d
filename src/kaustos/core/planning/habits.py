"""Settings to start from that are no heats: fan, clips and coats, by the habits of the shop."""

from kaustos.core.planning.setpoints import Proposal
from kaustos.core.records import KNOWN_FROM, Agent, PlateItem, Polymer, Rules

CLIPS_MOST = 12.0
SHEETS = ("magnet", "vacuum", "clips")  # how a sheet is held that clips could hold as well


def propose_habits(
    polymer: Polymer, rules: Rules, proven: int, item: PlateItem | None, agent: Agent | None
) -> tuple[Proposal, ...]:
    """Fan, clips and coats of a new recipe.

    Parameters
    ----------
    polymer : Polymer
        Holds the window of the fan [%]
    rules : Rules
        By which school the shop starts [-]
    proven : int
        Good runs of the recipe so far [-]
    item : PlateItem or None
        The plate: clips are for sheets that are held by something else [-]
    agent : Agent or None
        What lies on it: coats are of an agent [-]

    Returns
    -------
    tuple of Proposal
        In the units of their fields, each with what others would do; what nothing is known of is left out [%, 1]
    """
    found = []
    low, high = polymer.value("fan_low"), polymer.value("fan_high")
    if low is not None and high is not None:
        source = f"window of the polymer ({KNOWN_FROM[low.kind]})"
        if high.value > 0.0 and waits_for_proof(rules, proven):
            value, other = 0.0, "others run it from the start, for overhangs"
        else:
            value = low.value + min(max(rules.start_in_window_pct / 100.0, 0.0), 1.0) * (high.value - low.value)
            other = "others keep it off until a few runs have proven the bond" if high.value > 0.0 else ""
        found.append(Proposal("heat.fan_pct", float(round(value)), (low.value, high.value), None, 0.0, source, other))
    if item is not None and item.held in SHEETS:
        other = "others trust the magnet: quick" if rules.start_clips else "others set clips: magnets lose to heat"
        found.append(
            Proposal("plate.clips", rules.start_clips, (0.0, CLIPS_MOST), None, 0.0, "habit of the shop", other)
        )
    if agent is not None:
        coats = max(rules.start_coats, 1.0)
        other = "others lay one thin coat" if coats > 1.0 else "others dry several, which last for more prints"
        found.append(Proposal("plate.coats", coats, (1.0, 12.0), None, 0.0, "habit of the shop", other))
    return tuple(found)


def waits_for_proof(rules: Rules, proven: int) -> bool:
    """Whether a shop still keeps the fan off.

    Parameters
    ----------
    rules : Rules
        After how many good runs it goes on [-]
    proven : int
        Good runs of the recipe so far [-]

    Returns
    -------
    bool
        True while there are too few [-]
    """
    return proven < rules.fan_after_runs
