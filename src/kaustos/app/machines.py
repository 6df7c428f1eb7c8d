"""What a shop does with its machines: parts changed, heat proven in steps, temperatures compared, parts near heat."""

from collections.abc import Mapping
from datetime import datetime

import attrs

from kaustos.app.logs import add_entry, moment_of
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.planning.commissioning import next_step
from kaustos.core.planning.configuration import calibrations_of, proven_of
from kaustos.core.records import (
    CALIBRATIONS,
    OFFSETS,
    Calibration,
    HeatStep,
    Machine,
    NearPart,
    PartChange,
    Place,
)
from kaustos.core.records.calibration import VOIDS
from kaustos.core.records.machine_logs import CHANGED, VERDICTS

HOT_STEP_CAUTION = (
    "Stay by it, with a means to cut the power in reach. Clean the path of the old polymer first: its smoke hides that "
    "of parts. Stop at any smell or smoke that is new. Wiring, supply and mains are work for a qualified person."
)


def log_change(
    workspace: Workspace, machine: str, part: str | None, was: str, now: str, why: str, when: datetime | None
) -> str:
    """Log a part that was changed, and say which calibrations are stale by it."""
    if part not in CHANGED:
        raise KaustosError("Say which part was changed.")
    name = workspace.draft.records.machines[machine].name
    before = {each.id for each in standing(workspace, machine) if each.is_valid}
    entry = PartChange(part=part, was=was.strip(), now=now.strip(), why=why.strip(), by=workspace.settings.who,
                       at_utc=moment_of(workspace, when))  # fmt: skip
    add_entry(workspace, Place("machines", machine, "changes"), entry, f"{name}: {CHANGED[part].lower()} changed")
    stale = [each for each in standing(workspace, machine) if not each.is_valid and each.id in before]
    if stale:
        return "To be measured again: " + "; ".join(CALIBRATIONS[each.kind or ""] for each in stale) + "."
    names = "; ".join(CALIBRATIONS[each] for each in VOIDS[part])
    return f"Nothing that was measured is stale by it. Never measured, or measured since: {names}."


def standing(workspace: Workspace, machine: str) -> tuple[Calibration, ...]:
    """The newest calibration of each kind of a machine, with what has made it stale."""
    records = workspace.draft.records
    return calibrations_of(records.machines[machine], records.calibrations.values())


def compare_heat(
    workspace: Workspace, machine: str, zone: str, shown_c: float, true_c: float, sensor: str, when: datetime | None
) -> str:
    """Log what a second sensor read against what was shown, as the offset of the zone; in words what it means."""
    if not sensor.strip():
        raise KaustosError("Say which sensor it was compared with, such as thermocouple 2 in the nozzle.")
    record, off = workspace.draft.records.machines[machine], true_c - shown_c
    keep_calibration(workspace, machine, OFFSETS[zone], {"offset_k": off, "at_c": shown_c}, sensor.strip(), "", when)
    way = "more" if off < 0.0 else "less"
    return f"{record.name} shows {abs(off):.1f} K {way} than there is at the {zone}. Recipes are judged by that."


def log_calibration(workspace: Workspace, machine: str, kind: str, note: str, when: datetime | None) -> None:
    """Log that something was calibrated, with what was found in words."""
    if kind not in CALIBRATIONS or kind in OFFSETS.values():
        raise KaustosError("Say what was calibrated; temperatures are logged with what was shown and what was read.")
    keep_calibration(workspace, machine, kind, {}, "", note.strip(), when)


def keep_calibration(
    workspace: Workspace, machine: str, kind: str, values: Mapping[str, float], sensor: str, note: str,
    when: datetime | None = None, lot: str | None = None, by: str = "",
) -> None:  # fmt: skip
    """Keep a calibration of a machine as it stands; with its lot where it is true of that alone."""
    from kaustos.app.runs import configuration_of

    record = workspace.draft.records.machines[machine]
    key = workspace.draft.records.free_id("calibrations", f"{machine} {kind}")
    entry = Calibration(
        id=key, machine=machine, kind=kind, values=dict(values), configuration=configuration_of(record), sensor=sensor,
        note=note[:200], done_utc=moment_of(workspace, when), by=by or workspace.settings.who, lot=lot,
    )  # fmt: skip
    workspace.draft.add("calibrations", key, entry, f"{record.name}: {CALIBRATIONS[kind].lower()}")


def log_step(
    workspace: Workspace, machine: str, zone: str, setpoint_c: float, reached_c: float | None,
    minutes: float | None,
    sensor: str, seen: str | None, verdict: str | None, when: datetime | None,
) -> str:  # fmt: skip
    """Log a step of commissioning, and say what comes next; a step without look and verdict is refused."""
    if verdict not in VERDICTS or seen is None:
        raise KaustosError("A step counts when somebody has looked: say what was seen, and go or stop.")
    record = workspace.draft.records.machines[machine]
    step = HeatStep(zone=zone, setpoint_c=setpoint_c, reached_c=reached_c, minutes=minutes, sensor=sensor.strip(),
                    seen=seen, verdict=verdict, by=workspace.settings.who,
                    at_utc=moment_of(workspace, when))  # fmt: skip
    add_entry(workspace, Place("machines", machine, "heat_steps"), step,
              f"{record.name}: {zone} at {setpoint_c:g} °C, {VERDICTS[verdict].lower()}")  # fmt: skip
    _raise_limit(workspace, machine, zone)
    return next_words(workspace, workspace.draft.records.machines[machine], zone, workspace.draft.wording)


def _raise_limit(workspace: Workspace, machine: str, zone: str) -> None:
    """A heater that has held more than its recorded limit is recorded with what it has held."""
    record = workspace.draft.records.machines[machine]
    proven, heater = proven_of(record, zone), getattr(record, zone).heater
    if proven is not None and heater.max_c is not None and proven.max_c > heater.max_c:
        place = f"machines/{machine}/{zone}.heater"
        changes = {f"{place}.max_c": proven.max_c, f"{place}.basis": "proven"}
        workspace.draft.set(changes, title=f"{record.name}: {zone} heater proven at {proven.max_c:g} °C")


def next_words(workspace: Workspace, machine: Machine, zone: str, wording: Wording) -> str:
    """What the next step of commissioning is."""
    step = next_step(machine, zone, workspace.draft.records.rules)
    if step.setpoint_c is None:
        return f"No further step: {step.why}."
    return f"Next: {wording.value(step.setpoint_c, 'temperature')}, held {step.soak_min:g} min; {step.why}."


def add_near(
    workspace: Workspace, machine: str, name: str, place: str | None, softens_c: float | None,
    clearance_mm: float | None,
    printed: bool | None,
) -> None:  # fmt: skip
    """Put a plastic part near heat on the machine's list; one of that name near the same heat is said anew."""
    if not name.strip() or place is None:
        raise KaustosError("Say which part it is, and what heat it is near.")
    record = workspace.draft.records.machines[machine]
    known = next((each for each in record.near if (each.name, each.place) == (name.strip(), place)), None)
    part = attrs.evolve(known or NearPart(name=name.strip(), place=place), softens_c=softens_c,
                        clearance_mm=clearance_mm, printed=printed)  # fmt: skip
    kept = tuple(part if each is known else each for each in record.near)
    places = {Place("machines", machine, "near"): kept if known else (*kept, part)}
    workspace.draft.set(places, title=f"{record.name}: {part.name} near heat")
