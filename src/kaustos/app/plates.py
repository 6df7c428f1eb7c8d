"""What a shop does with plates and agents: new ones, damage, films, batches; and what each lever would change."""

from datetime import datetime, timedelta
from typing import Any

import attrs

from kaustos.app.level import keep_gap
from kaustos.app.logs import add_entry, moment_of
from kaustos.app.wording import Wording, when_words
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.planning.dose import batch_card
from kaustos.core.planning.pairing import statement_of
from kaustos.core.planning.skirt import probe_of
from kaustos.core.records import HOLDS, AgentBatch, Damage, Machine, Place, PlateItem
from kaustos.core.review.plate import Lever, Tried
from kaustos.core.review.zones import is_used_up
from kaustos.library import load

LEVER_HEADINGS = ("Lever", "Load", "Grip", "Lifts", "Harms", "")


def lever_rows(found: Tried, wording: Wording) -> tuple[tuple[Lever, ...], list[tuple[str, ...]]]:
    """Levers, those that help first, and what a table shows of each."""
    ordered = tuple(sorted(found.levers, key=lambda each: (not each.is_better, each.lifts + each.harms)))
    rows: list[tuple[str, ...]] = [
        (
            wording.remedy(each.remedy), wording.value(each.load, "bond_energy"),
            wording.value(each.grip, "bond_energy"),
            wording.value(round(100.0 * each.lifts), "share"), wording.value(round(100.0 * each.harms), "share"),
            "helps" if each.is_better else "",
        )
        for each in ordered
    ]  # fmt: skip
    return ordered, rows


PAIR_HEADINGS = ("Surface", "Agent", "Said", "Grip, J/m²", "Plate at", "Own")


def pair_rows(workspace: Workspace, wording: Wording) -> list[tuple[str, ...]]:
    """The open recipe's polymer on every surface, bare and under every agent: what practice says, and own runs.

    What holds without welding comes first; pairs that nobody tried come last, with how wide they are.
    """
    records, bonds = workspace.draft.records, load().supplies.bonds
    polymer = records.polymers.get(records.card.recipe.polymer or "") if records.current is not None else None
    if polymer is None:
        return [("Choose a polymer to see what holds it", "", "", "", "", "")]
    own = _own_results(workspace, polymer.id)
    found = []
    for surface in bonds.surfaces.values():
        for agent in ("", *bonds.agents):
            said = statement_of(bonds, polymer, surface.id, agent)
            mine = own.get((surface.id, agent), (0, 0))
            if said.basis != "tried" and not mine[1]:
                continue
            low, value, high = said.band
            bed = "" if said.bed_c is None else "–".join(wording.number(each, "temperature") for each in said.bed_c)
            rank = _RANKS.get(said.holds or "", 6) + (1 if said.is_contested else 0)
            cells = (
                surface.name, bonds.agents[agent].name if agent else "bare",
                (HOLDS[said.holds] if said.holds else "unknown") + (", contested" if said.is_contested else ""),
                f"{wording.number(low, 'bond_energy')}–{wording.number(high, 'bond_energy')}", bed,
                f"{mine[0]} of {mine[1]}" if mine[1] else "",
            )  # fmt: skip
            found.append((rank, -mine[0], -value, cells))
    return [cells for *_, cells in sorted(found)]


_RANKS = {"good": 0, "fair": 1, "strong": 2, "poor": 3, "weld": 4, "none": 5}


def _own_results(workspace: Workspace, polymer: str) -> dict[tuple[str, str], tuple[int, int]]:
    """Runs of a polymer by surface and agent: how many held, of how many that ended."""
    records = workspace.draft.records
    found: dict[tuple[str, str], tuple[int, int]] = {}
    for run in records.runs.values():
        item = records.tables["plates"].get(run.plate or "")
        if run.polymer != polymer or item is None or item.surface is None or run.retired or not run.is_ended:
            continue
        failed = {each.what for each in run.observations} & {"corner_lift", "came_off", "stuck", "surface_torn"}
        held, of = found.get((item.surface, run.agent or ""), (0, 0))
        found[(item.surface, run.agent or "")] = (held + (not failed), of + 1)
    return found


def surface_names() -> dict[str, str]:
    """Kinds of surfaces by id."""
    return {key: each.name for key, each in load().supplies.bonds.surfaces.items()}


def agent_names() -> dict[str, str]:
    """Kinds of agents by id."""
    return {key: each.name for key, each in load().supplies.bonds.agents.items()}


def new_plate(workspace: Workspace, name: str, surface: str | None, machine: str | None) -> str:
    """Log a plate; its id."""
    if not name.strip():
        raise KaustosError("Give the plate a name that stands on it too, such as G-2.")
    records = workspace.draft.records
    fits = records.machines.get(machine or "")
    key = records.free_id("plates", name)
    made = PlateItem(
        id=key, name=name.strip(), surface=surface, fits_on=machine, prints=0.0, renewed_prints=0.0, test_only=False,
        size_x_mm=fits.travel_x_mm if fits else None, size_y_mm=fits.travel_y_mm if fits else None,
        installed_utc=stamp(workspace.clock()),
    )  # fmt: skip
    workspace.draft.set({Place("plates", key): made}, title=f"Plate {made.name}")
    return key


def log_damage(
    workspace: Workspace, plate: str, kind: str | None, x_mm: float | None, y_mm: float | None, radius_mm: float | None
) -> str:  # fmt: skip
    """Log a damaged place; in words what follows from it."""
    if kind is None:
        raise KaustosError("Say what the damage is: scuffed, torn, chipped ...")
    record = workspace.draft.records.tables["plates"][plate]
    records = workspace.draft.records
    polymer = records.polymers.get(records.card.recipe.polymer or "") if records.current is not None else None
    entry = Damage(kind=kind, x_mm=x_mm, y_mm=y_mm, radius_mm=radius_mm, at_utc=moment_of(workspace, None),
                   by=polymer.name if polymer else "")  # fmt: skip
    add_entry(workspace, Place("plates", plate, "damages"), entry, f"{record.name}: {kind}")
    if kind in ("chip", "crack"):
        return f"{record.name} is not to be heated any more: chipped and cracked plates break. Take it out of use."
    return ""


def coat(workspace: Workspace, plate: str, agent: str | None, coats: float) -> None:
    """Note what film lies on a plate from now on; none takes it away."""
    record = workspace.draft.records.tables["plates"][plate]
    values = {"film": agent, "film_coats": coats if agent else None, "film_prints": 0.0 if agent else None}
    title = f"{record.name}: coated" if agent else f"{record.name}: washed off"
    workspace.draft.set({Place("plates", plate, field): value for field, value in values.items()}, title=title)


def new_agent(workspace: Workspace, name: str, kind: str | None, volume_ml: float | None) -> str:
    """Log a bottle or a batch; its id."""
    if not name.strip():
        raise KaustosError("Give the bottle a name that stands on it too, such as V-16.")
    records = workspace.draft.records
    known = load().supplies.bonds.agents.get(kind or "")
    key = records.free_id("agents", name)
    made = AgentBatch(id=key, name=name.strip(), agent=kind, mixed_utc=stamp(workspace.clock()), mixed_ml=volume_ml,
                      left_ml=volume_ml, solids_pct=known.solids_pct.value if known else None)  # fmt: skip
    workspace.draft.set({Place("agents", key): made}, title=f"Agent {made.name}")
    return key


def batch_words(batch: AgentBatch, volume_ml: float | None, now: datetime, wording: Wording) -> str:
    """The batch card: grams and millilitres for a volume, when it is ready and until when it keeps."""
    kind = load().supplies.bonds.agents.get(batch.agent or "")
    if kind is None:
        return "Choose what it is to see its card."
    words = []
    if kind.solvents:
        volume = volume_ml or batch.mixed_ml or 100.0
        card = batch_card(volume, batch.solids_pct or kind.solids_pct.value, kind.solvents)
        parts = [f"{wording.value(ml, 'volume')} {name}" for name, ml in card.parts_ml.items()]
        grams = wording.value(card.grams, "mass")
        words.append(f"For {wording.value(volume, 'volume')}: {grams} of solids in {' and '.join(parts)}.")
    if batch.mixed_utc:
        mixed = datetime.fromisoformat(batch.mixed_utc)
        if kind.ripens_h is not None:
            ready = mixed + timedelta(hours=kind.ripens_h.value)
            words.append(f"Ready {when_words(stamp(ready))}." if ready > now else "Dissolved by now.")
        words.append(f"Mixed or opened {when_words(batch.mixed_utc)}.")
        words.append(f"Keeps until {when_words(stamp(mixed + timedelta(hours=kind.keeps_h.value)))[:10]}.")
    if kind.is_flammable:
        words.append("Flammable: label it, no sparks, ventilate, never in a food bottle.")
    return " ".join(words)


def steps_of(agent: str) -> tuple[tuple[str, float], ...]:
    """The steps of putting an agent on, each with its minutes; repeated ones as often as they are done."""
    kind = load().supplies.bonds.agents.get(agent)
    if kind is None:
        return ()
    found: list[tuple[str, float]] = []
    rounds = int(max((each.repeat for each in kind.steps), default=1.0))
    once_before = [each for each in kind.steps if each.repeat <= 1.0]
    again = [each for each in kind.steps if each.repeat > 1.0]
    found += [(each.do, each.minutes) for each in once_before]
    for number in range(rounds if again else 0):
        found += [(f"{each.do} ({number + 1} of {rounds})", each.minutes) for each in again]
    return tuple(found)


@attrs.frozen(kw_only=True)
class CoatingStep:
    """Where the coating of a plate stands."""

    number: int  # from 1
    of: int
    do: str
    left_s: float  # until it is done; below nothing when it is over


def coating_of(item: PlateItem, now: datetime) -> CoatingStep | None:
    """The step that is under way on a plate, by its record: a restart loses nothing; None where there is none."""
    steps = steps_of(item.coating or "")
    if not steps or item.step is None or not item.step_utc or not 1 <= item.step <= len(steps):
        return None
    number = int(item.step)
    do, minutes = steps[number - 1]
    gone = (now - datetime.fromisoformat(item.step_utc)).total_seconds()
    return CoatingStep(number=number, of=len(steps), do=do, left_s=60.0 * minutes - gone)


def begin_coating(workspace: Workspace, plate: str, agent: str | None) -> None:
    """Begin to put an agent on, with its first step."""
    if agent is None or not steps_of(agent):
        raise KaustosError("Choose the agent that is put on.")
    _step(workspace, plate, agent, 1.0, f"{agent_names()[agent]}: begun")


def next_step(workspace: Workspace, plate: str) -> str:
    """The step is done: the next one, or the film that lies on the plate from now on; in words."""
    item: PlateItem = workspace.draft.records.tables["plates"][plate]
    steps = steps_of(item.coating or "")
    if not steps or item.step is None:
        return ""
    if item.step < len(steps):
        _step(workspace, plate, item.coating, item.step + 1.0, f"{item.name}: step {int(item.step) + 1}")
        return ""
    kind = load().supplies.bonds.agents[item.coating or ""]
    values: dict[str, object] = {
        "film": item.coating, "film_coats": max((each.repeat for each in kind.steps), default=1.0), "film_prints": 0.0,
        "coating": None, "step": None, "step_utc": "",
    }  # fmt: skip
    places = {Place("plates", plate, field): value for field, value in values.items()}
    workspace.draft.set(places, title=f"{item.name}: coated")
    return f"{item.name} is coated with {agent_names()[item.coating or '']}."


def stop_coating(workspace: Workspace, plate: str) -> None:
    """Give the coating up."""
    _step(workspace, plate, None, None, "coating given up")


def _step(workspace: Workspace, plate: str, agent: str | None, step: float | None, title: str) -> None:
    begun = stamp(workspace.clock()) if step is not None else ""
    values: dict[str, object] = {"coating": agent, "step": step, "step_utc": begun}
    workspace.draft.set({Place("plates", plate, field): value for field, value in values.items()}, title=title)


def probe_words(thick: dict[str, float], wanted_mm: float, wording: Wording) -> tuple[str, float]:
    """What a skirt's thickness says, and by how much the offset is to be changed [mm]."""
    found = probe_of(thick, wanted_mm)
    words = []
    if found.is_twisted:
        words.append("The four sides lie in no plane: the plate sags, or a reading is wrong.")
    for value, low, high in ((found.along_mm, "left", "right"), (found.deep_mm, "front", "back")):
        if abs(value) > 0.03:
            side = high if value > 0.0 else low
            words.append(f"The {side} is {_um(value, wording)} farther from the nozzle: raise the plate there.")
    if abs(found.offset_mm) > 0.03:
        way = "nearer" if found.offset_mm > 0.0 else "farther"
        words.append(f"In the middle the nozzle wants to be {_um(found.offset_mm, wording)} {way}.")
    return (" ".join(words) or "Level, and the gap is as it was set.", -found.offset_mm)


def keep_correction(workspace: Workspace, machine: Machine, correction_mm: float) -> str:
    """Move the kept offset of a machine by what a skirt told; in words what follows from it."""
    last = machine.offsets[-1].offset_mm if machine.offsets else None
    return keep_gap(workspace, machine.id, round((last or 0.0) + correction_mm, 3))


def film_words(item: PlateItem | None) -> str:
    """What lies on a plate, and whether it still counts."""
    film = agent_names().get(item.film or "") if item is not None else None
    if item is None or film is None:
        return "bare"
    return f"{film}, used up: counts as bare" if is_used_up(item) else film


def _um(value_mm: float, wording: Wording) -> str:
    return wording.value(abs(value_mm) * 1e3, "fine_length")


def plate_outcomes(workspace: Workspace, plate: str, wording: Wording) -> list[tuple[str, ...]]:
    """What became of runs on a plate, the newest first."""
    found: list[tuple[str, ...]] = []
    records = workspace.draft.records
    for run in sorted(records.runs.values(), key=lambda each: each.started_utc, reverse=True):
        if run.plate != plate or run.retired or not run.is_ended:
            continue
        polymer = records.polymers.get(run.polymer or "")
        seen = ", ".join(dict.fromkeys(each.what.replace("_", " ") for each in run.observations)) or "nothing"
        expected: Any = run.bond.get("load")
        ratio = "" if expected is None else wording.number(2.718281828**expected, "ratio")
        agent = agent_names().get(run.agent or "", "bare")
        found.append(
            (when_words(run.started_utc)[:10], polymer.name if polymer else "", agent, ratio, seen, run.outcome or "")
        )
    return found
