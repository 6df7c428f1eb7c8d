"""What a shop does with its plates and panels: grids probed, offsets kept, settings typed and typed back."""

import re
from collections.abc import Mapping

import attrs

from kaustos.app.logs import add_entry, moment_of
from kaustos.app.machines import keep_calibration, standing
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace
from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.planning.configuration import offset_of
from kaustos.core.planning.flatness import flatness_of, jump_of
from kaustos.core.planning.panel import Typed, panel_of, short_name, translated
from kaustos.core.records import (
    OFFSETS,
    PANEL_PATHS,
    GapOffset,
    Machine,
    PanelField,
    Place,
    ProbeGrid,
    ProbePoint,
)
from kaustos.core.records.fields import value_at

_BETWEEN = re.compile(r"[;\t ]+|,(?=\s)|(?<=\d),(?=-?\d+\.)|(?<=\.\d\d),|(?<=\.\d),")  # a lone comma is decimal
ALIKE_K = 5.0  # how far apart trials may lie that look alike
ACROSS = 3.0  # mm: more is no height of a plate that is probed


def read_points(text: str) -> tuple[ProbePoint, ...]:
    """Points as they are typed or pasted: x, y and height on each line; faults are named with their line."""
    points, faults = [], []
    for number, line in enumerate(text.splitlines(), start=1):
        if not line.strip() or line.lstrip().startswith("#"):
            continue
        cells = [
            each for each in re.split(r"[;\t ]+|,(?=\s)|(?<=\d),(?=-?\d+[.,]?\d*\s*(?:,|$))", line.strip()) if each
        ]
        try:
            x, y, z = (float(each.replace(",", ".")) for each in cells)
        except ValueError:
            faults.append(f"line {number}: “{line.strip():.40}” is not x, y and height, such as 20; 20; -0.05")
            continue
        if abs(z) > ACROSS:
            faults.append(f"line {number}: a height of {z:g} mm is none of a plate")
            continue
        points.append(ProbePoint(x_mm=x, y_mm=y, z_mm=z))
    if faults:
        raise FaultList("Points", tuple(faults))
    return tuple(points)


def add_grid(
    workspace: Workspace, machine: str, text: str, plate_c: float | None, soaked_min: float | None
) -> str:  # fmt: skip
    """Log a probed plate; refused where it tells no plane; in words what it tells."""
    record = workspace.draft.records.machines[machine]
    grid = ProbeGrid(points=read_points(text), plate_c=plate_c, soaked_min=soaked_min, by=workspace.settings.who,
                     at_utc=moment_of(workspace, None))  # fmt: skip
    if flatness_of(attrs.evolve(record, grids=(grid,))) is None:
        raise KaustosError("Four points or more, not all in one line, are needed to tell tilt from sag.")
    add_entry(workspace, Place("machines", machine, "grids"), grid, f"{record.name}: plate probed")
    return flat_words(workspace.draft.records.machines[machine], workspace.draft.wording)


def flat_words(machine: Machine, wording: Wording) -> str:
    """What the newest grid tells."""
    flat = flatness_of(machine)
    if flat is None:
        return "Not probed yet. Probe it hot and soaked: at least four points, better nine."
    heat = "at a heat that is not recorded" if flat.grid.plate_c is None else (
        f"at {wording.value(flat.grid.plate_c, 'temperature')}"
    )  # fmt: skip
    words = [
        f"Probed {flat.grid.at_utc[:10]} {heat}: tilt {_um(flat.tilt_mm, wording)}, sag {_um(flat.sag_mm, wording)}."
    ]
    if flat.turns:
        words.append("Screws, turns that lift: " + ", ".join(f"{name} {turn:+.2f}" for name, turn in flat.turns) + ".")
    return " ".join(words)


def _um(length_mm: float, wording: Wording) -> str:
    return wording.value(1e3 * length_mm, "fine_length")


def keep_gap(workspace: Workspace, machine: str, offset_mm: float) -> str:
    """Keep the offset between probe and nozzle as the machine has it; a jump is said at once."""
    record = workspace.draft.records.machines[machine]
    entry = GapOffset(offset_mm=offset_mm, by=workspace.settings.who, at_utc=moment_of(workspace, None))
    title = f"{record.name}: offset {offset_mm:g} mm"
    add_entry(workspace, Place("machines", machine, "offsets"), entry, title)
    found = jump_of(workspace.draft.records.machines[machine].offsets)
    if found is None or abs(found[0] - found[1]) < 0.05:
        return ""
    return f"The offset has moved by {abs(found[0] - found[1]):.2f} mm since before: is that meant?"


def add_panel_field(
    workspace: Workspace, machine: str, path: str | None, label: str, low: float | None, high: float | None,
    step: float | None,
) -> None:  # fmt: skip
    """Describe one field of a machine's panel; the same setting twice is refused."""
    record = workspace.draft.records.machines[machine]
    if path not in PANEL_PATHS:
        raise KaustosError("Say which setting the field of the panel holds.")
    if any(each.path == path for each in record.panel_fields):
        raise KaustosError(f"The panel has a field for {PANEL_PATHS[path].lower()} already; take it out first.")
    if low is not None and high is not None and not low < high:
        raise KaustosError("A range begins below its end.")
    field = PanelField(path=path, label=label.strip(), low=low, high=high, step=step)
    fields = {Place("machines", machine, "panel_fields"): (*record.panel_fields, field)}
    workspace.draft.set(fields, title=f"{record.name}: panel field {PANEL_PATHS[path].lower()}")


HELD_ELSEWHERE = ("polymer and its lot", "drying", "surface and agent", "purging", "cooling, release and annealing")


def panel_rows(workspace: Workspace, machine: Machine, wording: Wording) -> list[tuple[str, ...]]:
    """Setting, what the recipe says, what is typed, and what stands against it."""
    records = workspace.draft.records
    if records.current is None:
        return []
    return [
        (each.title, _heat(each.wanted, wording), _heat(each.typed, wording), each.fault or _rounded(each))
        for each in panel_of(records.card.recipe, machine)
    ]


def _heat(value: float | None, wording: Wording) -> str:
    return "" if value is None else wording.value(value, "temperature")


def _rounded(each: Typed) -> str:
    return "" if each.typed == each.wanted else "rounded"


def panel_words(workspace: Workspace, machine: Machine, wording: Wording) -> str:
    """The name to type, and what the panel does not hold."""
    records = workspace.draft.records
    if records.current is None:
        return "Open a recipe to see what is typed at this panel."
    if not machine.panel_fields:
        return "Describe the panel's fields first: what each holds, its range and its step."
    name = short_name(records.card.recipe.name, machine.panel_letters)
    return f"Name to type: {name}. The panel does not hold {', '.join(HELD_ELSEWHERE)}: the sheet goes with it."


def typed_back(workspace: Workspace, machine: Machine, values: Mapping[str, float]) -> list[str]:
    """What was typed back from the panel against what should stand there."""
    recipe = workspace.draft.records.card.recipe
    faults = []
    for each in panel_of(recipe, machine):
        found = values.get(each.path)
        if each.typed is None:
            continue
        if found is None:
            faults.append(f"{each.title}: not typed back")
        elif abs(found - each.typed) > 1e-6:
            faults.append(f"{each.title}: stands at {found:g}, should be {each.typed:g} °C")
    return faults


def translate_rows(workspace: Workspace, here: Machine, there: str, wording: Wording) -> list[tuple[str, ...]]:
    """Setpoints of the open recipe carried from this machine to another, with how sure that is."""
    records = workspace.draft.records
    if records.current is None or there not in records.machines:
        return []
    recipe = records.card.recipe
    zones = {"nozzle": ("melt.nozzle_c", "first_layer.nozzle_c"), "plate": ("plate.bed_c", "first_layer.bed_c"),
             "chamber": ("heat.chamber_c",)}  # fmt: skip
    mine, other = standing(workspace, here.id), standing(workspace, there)
    rows: list[tuple[str, ...]] = []
    for zone, paths in zones.items():
        one, two = offset_of(mine, zone), offset_of(other, zone)
        for path in paths:
            setpoint = value_at(recipe, path)
            if setpoint is None:
                continue
            if one is None or two is None:
                rows.append(
                    (PANEL_PATHS[path], _heat(setpoint, wording), "not known", "one of both was never compared")
                )
                continue
            sure = 2.0 if one.is_valid and two.is_valid else 10.0
            spread = (one.values.get("spread_k", sure) ** 2 + two.values.get("spread_k", sure) ** 2) ** 0.5
            spread += 0.0 if one.is_valid and two.is_valid else 10.0
            value = translated(setpoint, one.values["offset_k"], two.values["offset_k"])
            stale = "" if one.is_valid and two.is_valid else ", a calibration is stale"
            rows.append(
                (PANEL_PATHS[path], _heat(setpoint, wording), _heat(value, wording), f"± {spread:.0f} K{stale}")
            )
    return rows


def align_trials(
    workspace: Workspace, here: str, there: str, zone: str, here_c: float, there_c: float
) -> str:  # fmt: skip
    """Keep the offset of a zone here from trials that came out alike on another machine, which was compared itself."""
    machines = workspace.draft.records.machines
    if there not in machines:
        raise KaustosError("Choose the machine on which the same came out.")
    known = offset_of(standing(workspace, there), zone)
    if known is None or not known.is_valid:
        raise KaustosError(
            f"{machines[there].name} was not compared itself, or that is stale: nothing can be carried over."
        )
    off = there_c + known.values["offset_k"] - here_c
    spread = (known.values.get("spread_k", 3.0) ** 2 + ALIKE_K**2) ** 0.5
    note = f"the same came out at {there_c:g} °C on {machines[there].name}"
    values = {"offset_k": off, "spread_k": spread, "at_c": here_c}
    keep_calibration(workspace, here, OFFSETS[zone], values, "trials that came out alike", note)
    way = f"{off:+.1f} K of what it shows at the {zone}, give or take {spread:.0f} K"
    return f"{machines[here].name} is taken to be {way}."
