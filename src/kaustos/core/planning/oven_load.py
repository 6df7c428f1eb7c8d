"""What a load of an oven really saw, by its witness or by the air and the section it followed."""

import attrs
import numpy as np

from kaustos.core.estimates import ANNEAL
from kaustos.core.physics.annealing import Section, followed
from kaustos.core.planning.anneal_programme import Load, as_programme
from kaustos.core.planning.annealing import annealed, is_near_hold, outcome_of, section_of
from kaustos.core.planning.draws import Array
from kaustos.core.records import Estimate, Oven, OvenLoad, Polymer, RunSensor

SAYS = {
    "never": "the core never came to its hold",
    "short": "the core was held for less than planned",
    "hot": "the core got hotter than its hold",
    "early": "it was taken out while it was hot",
}


@attrs.frozen(kw_only=True, eq=False)
class Seen:
    """What the core of a load saw."""

    by: str  # witness or air
    hours: Array
    core_c: Array
    held_h: float  # at the last hold, within reach of it
    wanted_h: float
    peak_c: float
    hold_c: float
    crystals: Estimate | None
    stress: Estimate
    says: tuple[str, ...]


def seen_by(load: OvenLoad, oven: Oven | None, polymer: Polymer) -> Seen | None:
    """What the parts of a load saw.

    Parameters
    ----------
    load : OvenLoad
        With what its sensors showed, and its programme as planned [h, °C]
    oven : Oven or None
        True less shown of its display [K]
    polymer : Polymer
        Heat data and transitions [W/m/K, °C]

    Returns
    -------
    Seen or None
        None where no sensor showed anything, nothing was planned, or data are missing [h, °C]

    Notes
    -----
    A thermocouple inside a dummy of the thickest section is the core itself. Else the section follows the air that was
    shown, the offset of the oven added.
    """
    hold = max((each.temperature_c for each in load.steps if each.temperature_c is not None), default=None)
    if hold is None:
        return None
    last = next(each for each in reversed(load.steps) if each.temperature_c == hold)
    sensor = next((each for each in load.sensors if each.name == load.witness and load.witness), None)
    by = "witness" if sensor is not None else "air"
    sensor = sensor or (load.sensors[0] if load.sensors else None)
    if sensor is None or len(sensor.hours) < 2:
        return None
    hours, core = _core(sensor, by, load, oven, polymer)
    if core is None:
        return None
    crystals, stress = outcome_of(polymer, hours * 3600.0, core)
    wanted = last.hold_h or 0.0
    held = float(np.sum(np.diff(hours) * is_near_hold(core, hold)[1:]))
    peak, near = float(np.max(core)), ANNEAL["near_k"].value
    says = []
    if peak < hold - near:
        says.append("never")
    elif held < 0.9 * wanted:
        says.append("short")
    if peak > hold + 2.0 * near:
        says.append("hot")
    if load.out_c is not None and load.ended_utc and float(core[-1]) > load.out_c + 2.0 * near:
        says.append("early")
    return Seen(by=by, hours=hours, core_c=core, held_h=held, wanted_h=wanted, peak_c=peak, hold_c=hold,
                crystals=crystals, stress=stress, says=tuple(says))  # fmt: skip


def _core(
    sensor: RunSensor, by: str, load: OvenLoad, oven: Oven | None, polymer: Polymer
) -> tuple[Array, Array | None]:
    hours, shown = np.asarray(sensor.hours, float), np.asarray(sensor.shown_c, float)
    if by == "witness":
        return hours, shown
    off = oven.offset_k if oven is not None and oven.offset_k is not None else 0.0
    packed = _packed(load, oven)
    section = section_of(packed, polymer, 1) if packed is not None else None
    if section is None:
        return hours, None
    keep = np.concatenate([[True], np.diff(hours) > 0.0])
    seconds, air = hours[keep] * 3600.0, shown[keep] + off
    return hours[keep], followed(section, seconds, air, seconds).core[0]


@attrs.frozen(kw_only=True, eq=False)
class Plan:
    """The programme of a load as its air is to run, and the section in it."""

    nodes: tuple[tuple[float, float], ...]  # [s, °C]
    section: Section


def as_planned(load: OvenLoad, oven: Oven | None, polymer: Polymer, room_c: float) -> Plan | None:
    """How the air of a load is to run, its holds counted from the core.

    Parameters
    ----------
    load : OvenLoad
        With its steps and thickest section [°C, h, mm]
    oven : Oven or None
        How quickly its air rises, and whether a fan moves it [K/h]
    polymer : Polymer
        Heat data and transitions [W/m/K, °C]
    room_c : float
        Before it begins [°C]

    Returns
    -------
    Plan or None
        Nodes of the air, and the section [s, °C]; None where no hold or no section is known
    """
    quick = oven.rise_k_h if oven is not None and oven.rise_k_h else ANNEAL["rises"].value
    programme = as_programme(load.steps, load.cool_k_h, load.out_c, quick, room_c)
    packed = _packed(load, oven)
    if programme is None or packed is None:
        return None
    found, section = annealed(programme, packed, polymer), section_of(packed, polymer, 1)
    if found is None or section is None:
        return None
    nodes = tuple((3600.0 * hours, celsius) for hours, celsius in zip(found.nodes_h, found.nodes_c, strict=True))
    return Plan(nodes=nodes, section=section)


def _packed(load: OvenLoad, oven: Oven | None) -> Load | None:
    """How it lies; None where its section is not known."""
    if load.wall_mm is None:
        return None
    return Load(wall_mm=load.wall_mm, pack=load.packed or "free", pack_mm=load.pack_mm,
                fan=oven.fan if oven is not None else None)  # fmt: skip
