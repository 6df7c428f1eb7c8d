"""Heat proven in steps: which step comes next, how long it is held, and what to look at."""

import attrs

from kaustos.core.estimates import MACHINE
from kaustos.core.planning.configuration import proven_of
from kaustos.core.planning.reach import reach_of
from kaustos.core.records import Machine, Rules

WIDE_K, FINE_K = MACHINE["step_wide"].value, MACHINE["step_fine"].value
SOAK_MIN = {zone: MACHINE[f"step_soak.{zone}"].value for zone in ("nozzle", "plate", "chamber")}


@attrs.frozen
class NextStep:
    """What is set next [°C], for how long [min], and why no more; nothing to set where the end is reached."""

    setpoint_c: float | None
    soak_min: float
    why: str


def next_step(machine: Machine, zone: str, rules: Rules) -> NextStep:
    """The next step of staged commissioning of a zone.

    Parameters
    ----------
    machine : Machine
        Limits of its parts, steps that were held, changes since [°C]
    zone : str
        nozzle, plate or chamber [-]
    rules : Rules
        Holds the hard stop of a lined hot end, and the room [°C]

    Returns
    -------
    NextStep
        Never above the lowest limit of any other part [°C, min]

    Notes
    -----
    Steps of 50 K where there is room, of 25 K in the last quarter before the end: practice, estimate.
    """
    heater = getattr(machine, zone).heater
    proven = proven_of(machine, zone)
    others = [each for each in reach_of(machine, zone, rules).limits if each.part != "heater"]
    ends = [(each.max_c, each.title) for each in others]
    plate = heater.rated_c if heater.rated_c is not None else heater.max_c
    ends += [(plate, "nameplate of the heater")] if plate is not None else []
    if proven is not None and proven.stopped_by is not None:
        return NextStep(
            None, 0.0, f"a step was stopped at {proven.stopped_by.setpoint_c or 0.0:g} °C: find out why first"
        )
    if heater.fitted is False:
        return NextStep(None, 0.0, "nothing heats this zone")
    if not ends:
        return NextStep(None, 0.0, "no limit of any part is recorded: record them first")
    end, name = min(ends)
    at = proven.max_c if proven is not None else rules.room_c
    if at >= end - 1.0:
        return NextStep(None, 0.0, f"proven up to the end, the {name} at {end:g} °C")
    step = FINE_K if at > 0.75 * end else WIDE_K
    return NextStep(min(end, 5.0 * round((at + step) / 5.0)), SOAK_MIN[zone], f"the end is the {name} at {end:g} °C")
