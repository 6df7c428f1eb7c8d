"""What a shop does with ovens: logged, loaded with the programme of the open recipe, watched, measured, ended."""

import re
from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from typing import Any

import attrs
import numpy as np

from kaustos.app.device_log import DeviceLog
from kaustos.app.logs import moment_of
from kaustos.app.readings import ReadReadings, Watch
from kaustos.app.wording import Wording, hours_words, when_words
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.planning.growth import AXES, SAYS_DENSITY, density_change, grown_pct
from kaustos.core.planning.oven_load import SAYS, Seen, as_planned, seen_by
from kaustos.core.records import LOAD_ENDS, Estimate, Growth, Oven, OvenLoad, Place, RunSensor
from kaustos.core.review.anneal import anneal_case
from kaustos.devices import SimulatedOven
from kaustos.devices.channels import SETPOINT, TEMPERATURE
from kaustos.devices.registers import OVEN, controller_at

LOAD_HEADINGS = ("Parts", "Began", "Hottest hold", "Core saw", "Came out")
GROWTH_HEADINGS = ("Measured", "Along", "Across", "Up", "Density")
WITNESS = re.compile(r"dummy|witness|core|inside", re.I)


def new_oven(workspace: Workspace, name: str, max_c: float | None) -> str:
    """Log an oven; its id."""
    if not name.strip():
        raise KaustosError("Give the oven a name that stands on it too, such as O-1.")
    key = workspace.draft.records.free_id("ovens", name)
    made = Oven(id=key, name=name.strip(), max_c=max_c)
    workspace.draft.set({Place("ovens", key): made}, title=f"Oven {made.name}")
    return key


def loads_of(workspace: Workspace, oven: str) -> tuple[OvenLoad, ...]:
    """Loads of an oven, the newest first."""
    loads = workspace.draft.records.tables["loads"].values()
    mine = (each for each in loads if each.oven == oven and not each.retired)
    return tuple(sorted(mine, key=lambda each: each.started_utc, reverse=True))


def load_rows(workspace: Workspace, oven: str) -> list[tuple[str, ...]]:
    """What a table shows of each load."""
    wording, cards = workspace.draft.wording, workspace.draft.records.cards
    rows: list[tuple[str, ...]] = []
    for load in loads_of(workspace, oven):
        hold = max((each.temperature_c for each in load.steps if each.temperature_c is not None), default=None)
        seen, card = seen_of(workspace, load), cards.get(load.card)
        rows.append(
            (
                card.recipe.name if card is not None else load.card, when_words(load.started_utc),
                "" if hold is None else wording.value(hold, "temperature"),
                "not read" if seen is None else f"{hours_words(seen.held_h)} of {hours_words(seen.wanted_h)}",
                LOAD_ENDS.get(load.outcome or "", "runs"),
            )
        )  # fmt: skip
    return rows


def seen_of(workspace: Workspace, load: OvenLoad) -> Seen | None:
    """What the core of a load saw."""
    polymer = workspace.draft.records.polymers.get(load.polymer or "")
    if polymer is None or not load.sensors:
        return None
    return seen_by(load, workspace.draft.records.tables["ovens"].get(load.oven or ""), polymer)


def load_words(workspace: Workspace, load: OvenLoad) -> str:
    """What a load saw, in sentences; what is missing to know it."""
    seen, wording = seen_of(workspace, load), workspace.draft.wording
    if seen is None:
        return "What its core saw is not known: watch its controller, or open the log of a thermocouple in a dummy."
    words = [
        f"By its {seen.by}: {hours_words(seen.held_h)} of {hours_words(seen.wanted_h)} at "
        f"{wording.value(seen.hold_c, 'temperature')}, {wording.value(round(seen.peak_c), 'temperature')} at most."
    ]
    words += [f"{SAYS[each][:1].upper()}{SAYS[each][1:]}." for each in seen.says]
    if seen.crystals is not None:
        words.append(f"Crystals {_share(seen.crystals)}.")
    words.append(f"Stress left {_share(seen.stress)}.")
    return " ".join(words)


def _share(found: Estimate) -> str:
    return f"{100.0 * found.value:.0f} % ({100.0 * found.low:.0f} to {100.0 * found.high:.0f} %)"


def begin_load(workspace: Workspace, oven: str, runs: str) -> str:
    """Parts of the open recipe go in, its programme with them; the id of the load."""
    records = workspace.draft.records
    if records.current is None:
        raise KaustosError("Open the recipe whose parts go in: its programme goes with them.")
    recipe, case = records.card.recipe, anneal_case(records.card.recipe, workspace.context())
    if case.programme is None:
        raise KaustosError("The open recipe has no anneal yet: bench 110 plans one.")
    named = tuple(each for each in re.split(r"[,\s]+", runs.strip()) if each)
    lost = [each for each in named if each not in records.runs]
    if lost:
        raise KaustosError(f"There is no run {lost[0]!r:.40}; leave it empty, or name runs of the log.")
    key = records.free_id("loads", f"load {len(records.tables['loads']) + 1}")
    anneal = recipe.anneal
    made = OvenLoad(
        id=key, oven=oven, card=records.current, runs=named, polymer=recipe.polymer,
        started_utc=moment_of(workspace, None), steps=anneal.steps, cool_k_h=anneal.cool_k_h, out_c=anneal.out_c,
        packed=anneal.packed, pack_mm=anneal.pack_mm, wall_mm=case.wall.mm if case.wall is not None else None,
        by=workspace.settings.who,
    )  # fmt: skip
    workspace.draft.set({Place("loads", key): made}, title=f"{recipe.name} into the oven")
    return key


def change_load(workspace: Workspace, load: OvenLoad, title: str, **changes: object) -> None:
    """One edit of a load."""
    workspace.draft.set({Place("loads", load.id, name): value for name, value in changes.items()}, title=title)


def end_load(workspace: Workspace, load: OvenLoad, outcome: str | None, who: str) -> str:
    """A load came out; nothing is called good that nobody measured or read."""
    if outcome is None:
        raise KaustosError(f"Say how it came out: {', '.join(LOAD_ENDS.values()).lower()}.")
    if load.outcome is not None:
        raise KaustosError("That load has ended; undo brings it back.")
    if outcome == "good" and not load.grown and not who.strip():
        raise KaustosError("Nothing of it was measured: say who looked it over, cold, or measure a coupon.")
    change_load(workspace, load, f"Load {LOAD_ENDS[outcome].lower()}", outcome=outcome,
                ended_utc=moment_of(workspace, None), by=who.strip() or load.by)  # fmt: skip
    after = workspace.draft.records.tables["loads"][load.id]
    return f"{LOAD_ENDS[outcome]}. {load_words(workspace, after)}"


# ---- coupons and parts, before and after


def growth_rows(load: OvenLoad, scale_g: float) -> list[tuple[str, ...]]:
    """How much each body grew, and what its density says."""
    rows: list[tuple[str, ...]] = []
    for each in load.grown:
        grown = [grown_pct(each, axis) for axis in AXES]
        cells = ["" if share is None else f"{share:+.2f} %".replace("-", "−") for share in grown]
        change = density_change(each, scale_g)
        density = "" if change is None else f"{change[0]:+.2f} ± {change[1]:.2f} %: {SAYS_DENSITY[change[2]]}"
        rows.append((each.name, *cells, density.replace("-", "−")))
    return rows


def measure(
    workspace: Workspace, load: OvenLoad, name: str, before: str, after: str, weighed: str, wording: Wording
) -> str:  # fmt: skip
    """Lengths and masses of a body before and after; a name that stands already is told more of."""
    if not name.strip():
        raise KaustosError("Name what was measured, such as coupon 1.")
    known = next((each for each in load.grown if each.name == name.strip()), Growth(name=name.strip()))
    values: dict[str, float] = {}
    for text, fields in ((before, ("x_mm", "y_mm", "z_mm")), (after, ("after_x_mm", "after_y_mm", "after_z_mm"))):
        values |= dict(zip(fields, _numbers(text, "length", wording, "80.02 20.01 4.00"), strict=False))
    if weighed.strip():
        names = ("mass_g", "water_g", "after_g", "after_water_g")
        values |= dict(zip(names, _numbers(weighed, "mass", wording, "13.184 2.961 13.171 2.998"), strict=False))
    if not values:
        raise KaustosError("Type its lengths, along, across and up, or its masses in air and in water.")
    changes: dict[str, Any] = dict(values)
    body = attrs.evolve(known, **changes)
    others = tuple(each for each in load.grown if each.name != body.name)
    change_load(workspace, load, f"{body.name} measured", grown=(*others, body))
    words = [f"{AXES[axis]} {grown:+.2f} %" for axis in AXES if (grown := grown_pct(body, axis)) is not None]
    change = density_change(body, workspace.draft.records.rules.scale_g)
    words += [SAYS_DENSITY[change[2]]] if change is not None else []
    return f"{body.name}: {', '.join(words).replace('-', '−')}." if words else f"{body.name} is noted."


def _numbers(text: str, quantity: str, wording: Wording, hint: str) -> list[float]:
    parts = text.split()
    most = len(hint.split())
    if len(parts) > most:
        raise KaustosError(f"“{text:.60}”: at most {most} numbers, such as {hint}.")
    return [wording.read(each, quantity) for each in parts]


# ---- sensors


def reading_of_load(file: Path) -> ReadReadings:
    """The request that reads a log of an oven."""
    return ReadReadings(file=file, wanted_c={}, hours=None)


def keep_sensors(workspace: Workspace, load: OvenLoad, sensors: tuple[RunSensor, ...], file: Path) -> str:
    """Keep what sensors showed with a load, and their file; the one inside a dummy is the witness."""
    kept = workspace.attach(file)
    shown = tuple(each for each in sensors if "set" not in each.name.split())
    inside = next((each.name for each in shown if WITNESS.search(each.name)), "")
    change_load(workspace, load, f"Readings of {file.name}", sensors=shown, readings=kept, witness=inside)
    return load_words(workspace, workspace.draft.records.tables["loads"][load.id])


def watch_oven(workspace: Workspace, load: OvenLoad, file: Path) -> Watch:
    """Watch the controller of a load's oven over Modbus TCP; it is read, never set."""
    from kaustos.devices.modbus import ModbusDevice

    oven = workspace.draft.records.tables["ovens"].get(load.oven or "")
    if oven is None or not oven.place.strip():
        raise KaustosError("Say where the oven's controller listens, such as 192.168.4.20:502 h1/10 h0/10.")
    host, port, registers = controller_at(oven.place, (TEMPERATURE, SETPOINT))
    device = ModbusDevice(host, port, oven.name, registers, may_set=False)
    try:
        device.read()
    except BaseException:
        device.close()
        raise
    return Watch(run=load.id, log=DeviceLog((device,), file, workspace.clock), file=file, ends=(device.close,))


def watch_simulated(
    workspace: Workspace, load: OvenLoad, clock: Callable[[], float], file: Path, now: Callable[[], datetime]
) -> Watch:  # fmt: skip
    """Watch a stand-in that runs the programme of a load by a clock of its own, behind Modbus TCP on loopback."""
    from kaustos.devices.modbus import ModbusDevice, ModbusServer

    records = workspace.draft.records
    oven, polymer = records.tables["ovens"].get(load.oven or ""), records.polymers.get(load.polymer or "")
    plan = as_planned(load, oven, polymer, records.rules.room_c) if polymer is not None else None
    if plan is None:
        raise KaustosError("Its hold and its thickest section are wanted for that.")
    stand_in = SimulatedOven(clock, np.random.default_rng(), plan.nodes, plan.section)
    server = ModbusServer(stand_in, OVEN)
    device = ModbusDevice("127.0.0.1", server.port, stand_in.name, OVEN, may_set=False)
    return Watch(run=load.id, log=DeviceLog((device,), file, now), file=file, ends=(device.close, server.stop))
