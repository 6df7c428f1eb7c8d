"""An anneal followed through: when the core is there, what it leaves of stress and crystals, what a ramp may be."""

import functools
import math

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.estimates import ANNEAL, WELD
from kaustos.core.physics.annealing import Array, Course, Lags, Section, followed, lags, stress_left, thermal_stress
from kaustos.core.physics.weld import crystal_rate
from kaustos.core.planning.anneal_programme import Load, Programme, window_of
from kaustos.core.planning.anneal_usage import Usage, usage_of
from kaustos.core.planning.draws import drawn, ends_along, estimate
from kaustos.core.planning.draws import ends as ends_of
from kaustos.core.records import Estimate, Polymer

DRAWS = 96
THERMAL = 24  # of them that differ in how heat gets in
POINTS = 150
HOLDS_H = (1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0, 16.0, 24.0, 48.0)  # that are tried
USUAL = "usual for such a section"
METHOD = "one section followed through the programme, sampled"
SOURCE = "heat of a slab or rod; relaxation after Kohlrausch, crystals after Nakamura; constants are estimates"


def section_of(load: Load, polymer: Polymer, draws: int = THERMAL) -> Section | None:
    """The thickest section as draws; one draw is the likely one.

    Parameters
    ----------
    load : Load
        Wall, packing and fan [mm]
    polymer : Polymer
        With its conductivity, heat capacity and density [W/m/K, kJ/kg/K, g/cm^3]
    draws : int
        How many, one for what is likely [-]

    Returns
    -------
    Section or None
        In SI [m, W/m/K]; None where heat data are not known
    """
    bands = _bands(polymer, "conductivity_w_mk", "heat_capacity_kj_kgk", "density_g_cm3")
    if bands is None:
        return None
    key = "still" if load.in_machine or load.fan is False else "stirred" if load.fan else "fan_unknown"
    names = ("conductivity", "heat capacity", "density", "film of an oven")
    k, heat, rho, film = (
        np.array([band[1]]) if draws == 1 else drawn(name, band)[:draws]
        for name, band in zip(names, (*bands, ANNEAL[key].band), strict=True)
    )
    round_it, usual = load.pack != "free", ANNEAL.get(f"{load.pack}_mm")
    thick = (usual.value if load.pack_mm is None and usual is not None else load.pack_mm or 0.0) if round_it else 0.0
    conducts, holds = (ANNEAL[f"{load.pack if round_it else 'sand'}_{each}"].value for each in ("conducts", "holds"))
    return Section(
        half=np.full(k.shape, load.wall_mm / 2e3), conductivity=k, capacity=heat * rho * 1e6, film=film,
        pack=thick / 1e3, pack_conductivity=conducts, pack_capacity=holds * 1e6, is_rod=load.is_rod,
    )  # fmt: skip


def _bands(polymer: Polymer, *keys: str) -> list[tuple[float, float, float]] | None:
    found = [polymer.value(key) for key in keys]
    known = [each.band for each in found if each is not None and each.low > 0.0]
    return known if len(known) == len(keys) else None


@attrs.frozen(kw_only=True, eq=False)
class Ends:
    """What the core is at the end, draw by draw, and how quickly it goes on at the last hold."""

    grown: Array | None  # of the crystals, in the measure that grows evenly; None for a glass
    grows: Array | None  # in a second
    exponent: Array  # of Avrami
    eased: Array  # of the stress, in the measure that grows evenly
    eases: Array  # in a second
    stretch: Array
    keep: Array  # share of the stress that crystals keep

    def after(self, seconds: float) -> tuple[Array | None, Array]:
        """Crystals and stress that is left, had the last hold lasted so much longer [1]."""
        crystals = None
        if self.grown is not None and self.grows is not None:
            crystals = 1.0 - np.exp(-((self.grown + seconds * self.grows) ** self.exponent))
        left = np.exp(-((self.eased + seconds * self.eases) ** self.stretch))
        return crystals, self.keep + (1.0 - self.keep) * left


@attrs.frozen(kw_only=True, eq=False)
class Annealed:
    """What a programme makes of a load."""

    nodes_h: tuple[float, ...]  # of the air
    nodes_c: tuple[float, ...]
    waits_h: tuple[float, ...]  # until the core is there, after the air is, by step
    course: Course  # likely, one draw
    lags: Lags  # in the steepest ramp, as draws [K]
    crystals: tuple[Array, Array, Array] | None  # least, likely, most, over time [1]; None for a glass
    stress: tuple[Array, Array, Array]  # the same of the share of stress that is left
    crystals_at_end: Estimate | None
    stress_at_end: Estimate
    ends: "Ends"
    pull_mpa: float | None  # of the skin while it cools, at the steepest [MPa]

    @property
    def hours(self) -> float:
        """From the cold oven until it is taken out [h]."""
        return self.nodes_h[-1]


@functools.lru_cache(256)
def annealed(programme: Programme, load: Load, polymer: Polymer) -> Annealed | None:
    """Follow a load through a programme whose holds count from the core.

    Parameters
    ----------
    programme : Programme
        Ramps, holds and cooling [K/h, °C, h]
    load : Load
        What lies in the oven [mm]
    polymer : Polymer
        Its heat data, transitions and crystals [W/m/K, °C, s]

    Returns
    -------
    Annealed or None
        Nodes, lags, crystals, stress [h, °C, K, 1]; None where data are missing, or nothing is held

    Notes
    -----
    Each hold lasts as long as the likely core takes to come within 3 K of it, and then its own time; it is taken out
    once the core is as cool as that. Bands are of the
    core, the last place to become anything.
    """
    likely, many = section_of(load, polymer, 1), section_of(load, polymer)
    glass = polymer.value("glass_transition_c")
    if likely is None or many is None or glass is None or not programme.steps:
        return None
    nodes_s, nodes_c, waits = _nodes(programme, likely)
    seconds = np.unique(np.concatenate([np.linspace(0.0, nodes_s[-1], POINTS), nodes_s]))
    course = followed(likely, nodes_s, nodes_c, seconds)
    cores = np.tile(followed(many, nodes_s, nodes_c, seconds).core, (DRAWS // THERMAL, 1))
    crystals, grown, grows, exponent = _crystals(polymer, seconds, cores, programme.steps[-1].hold_c)
    stress, eased, eases, stretch, keep = _stress(
        polymer, seconds, cores, programme.steps[-1].hold_c, keeps=crystals is not None
    )
    return Annealed(
        nodes_h=tuple((nodes_s / 3600.0).tolist()), nodes_c=tuple(nodes_c.tolist()), waits_h=tuple(waits),
        course=course, lags=lags(many, programme.steepest_k_h / 3600.0),
        crystals=None if crystals is None else ends_along(crystals), stress=ends_along(stress),
        crystals_at_end=None if crystals is None else estimate(crystals[:, -1], "1", METHOD, SOURCE),
        stress_at_end=estimate(stress[:, -1], "1", METHOD, SOURCE),
        ends=Ends(grown=grown, grows=grows, exponent=exponent, eased=eased, eases=eases, stretch=stretch, keep=keep),
        pull_mpa=_pull(polymer, course, load),
    )  # fmt: skip


def _nodes(programme: Programme, likely: Section) -> tuple[Array, Array, list[float]]:
    """The air from node to node, every hold begun when the core is there, and how long that took [h]; out cool."""
    at, air, waits = [0.0], [programme.from_c], []
    for step in programme.steps:
        ramp_s = max(abs(step.hold_c - air[-1]) / step.ramp_k_h * 3600.0, 1.0)
        at.append(at[-1] + ramp_s)
        air.append(step.hold_c)
        wait = _wait(np.array(at), np.array(air), likely)
        waits.append(wait / 3600.0)
        at.append(at[-1] + max(wait + step.hold_h * 3600.0, 1.0))
        air.append(step.hold_c)
    fall = max(air[-1] - programme.out_c, 0.0)
    at.append(at[-1] + max(fall / programme.cool_k_h * 3600.0, 1.0))
    air.append(min(programme.out_c, air[-1]))
    at.append(at[-1] + max(_wait(np.array(at), np.array(air), likely), 1.0))
    air.append(air[-1])
    return np.array(at), np.array(air), waits


def _wait(at: Array, air: Array, likely: Section) -> float:
    """How long the likely core takes after the air has reached a hold, until it is near it [s]."""
    reach = 5.0 * _slowest(likely)
    after = np.concatenate([[0.0], np.geomspace(1.0, max(reach, 2.0), 160)])
    core = followed(likely, at, air, at[-1] + after).core[0]
    away = np.abs(core - air[-1]) > ANNEAL["near_k"].value
    if not away.any():
        return 0.0
    last = int(np.flatnonzero(away)[-1])
    return float(after[min(last + 1, after.size - 1)])


def _slowest(section: Section) -> float:
    """About the slowest time constant of a section [s]: all its lags for a ramp of 1 K/s."""
    found = lags(section, 1.0)
    return float(max(found.air[0] + found.pack[0] + found.core[0], 1.0))


def _crystals(
    polymer: Polymer, seconds: Array, cores: Array, hold_c: float
) -> tuple[Array | None, Array | None, Array | None, Array]:
    """Relative crystallinity of the core over time, as draws; its measure at the end, how that grows at a hold."""
    exponent = drawn("avrami", ANNEAL["avrami"].band)[:DRAWS]
    bands = _bands(polymer, "crystal_half_s", "crystal_fastest_c")
    if polymer.structure == "amorphous" or bands is None:
        return None, None, None, exponent
    half, fastest = (drawn(name, band)[:DRAWS, None]
                     for name, band in zip(("crystals, half", "crystals, fastest"), bands, strict=True))  # fmt: skip
    begins = np.minimum(drawn("crystals, begun", ANNEAL[_begins(polymer)].band)[:DRAWS], 0.99)
    bell = drawn("bell", WELD["bell"].band)[:DRAWS, None]
    glass = _glass(polymer)[:, None]

    def rate(celsius: Array) -> Array:  # halves after that time, whatever the exponent; frozen below
        found = crystal_rate(celsius, fastest, half, bell) * math.log(2.0) ** (1.0 / exponent[:, None] - 0.5)
        return np.where(celsius > glass, found, 0.0)

    over = rate(cores)
    steps = 0.5 * (over[:, 1:] + over[:, :-1]) * np.diff(seconds)
    start = (-np.log(1.0 - begins)) ** (1.0 / exponent)
    gone = start[:, None] + np.concatenate([np.zeros((DRAWS, 1)), np.cumsum(steps, axis=1)], axis=1)
    grows = rate(np.full((DRAWS, 1), hold_c))[:, 0]
    return np.asarray(1.0 - np.exp(-(gone ** exponent[:, None]))), gone[:, -1], grows, exponent


def _glass(polymer: Polymer) -> Array:
    """Glass transition as draws [°C]."""
    glass = polymer.value("glass_transition_c")
    assert glass is not None
    low, value, high = (each + 273.15 for each in glass.band)
    return np.asarray(drawn("glass transition", (low, value, high))[:DRAWS] - 273.15)


def _begins(polymer: Polymer) -> str:
    return "begins_slow" if polymer.weld_class == "slow" else "begins_fast"


def _stress(
    polymer: Polymer, seconds: Array, cores: Array, hold_c: float, *, keeps: bool
) -> tuple[Array, Array, Array, Array, Array]:
    """Share of the stress left in the core over time, as draws, crystals holding on to some; and how that goes on."""
    glass = _glass(polymer)
    energy = 1e3 * drawn("relaxation, energy", ANNEAL["energy"].band)[:DRAWS]
    stretch = drawn("relaxation, stretch", ANNEAL["stretch"].band)[:DRAWS]
    left = stress_left(seconds, cores, glass, energy, stretch)
    keep = drawn("crystals keep", ANNEAL["crystals_keep"].band)[:DRAWS] if keeps else np.zeros(DRAWS)
    eased = (-np.log(np.maximum(left[:, -1], 1e-300))) ** (1.0 / stretch)
    second = stress_left(np.array([0.0, 1.0]), np.full((DRAWS, 2), hold_c), glass, energy, np.ones(DRAWS))[:, -1]
    eases = -np.log(np.maximum(second, 1e-300))
    return keep[:, None] + (1.0 - keep[:, None]) * left, eased, eases, stretch, keep


def _pull(polymer: Polymer, course: Course, load: Load) -> float | None:
    """Most that the skin is pulled while it cools [MPa]."""
    expansion = polymer.value("expansion_glassy_um_mk")
    if expansion is None or polymer.modulus is None:
        return None
    split = float(np.max(course.core[0] - course.skin[0]))
    modulus = polymer.modulus.points[0][1]
    pull = thermal_stress(max(split, 0.0), modulus * 1e6, expansion.value * 1e-6, is_rod=load.is_rod)
    return float(pull) / 1e6


def is_near_hold(core: Array, hold_c: float) -> NDArray[np.bool_]:
    """When a core was at a hold.

    Parameters
    ----------
    core : ndarray
        Over time [°C]
    hold_c : float
        Hold [°C]

    Returns
    -------
    ndarray
        Whether it was within reach of it [-]
    """
    return np.asarray(core >= hold_c - ANNEAL["near_k"].value)


def outcome_of(polymer: Polymer, seconds: Array, core: Array) -> tuple[Estimate | None, Estimate]:
    """What a course of the core leaves of crystals and stress.

    Parameters
    ----------
    polymer : Polymer
        With its transitions and crystals [°C, s]
    seconds : ndarray
        Moments, rising [s]
    core : ndarray
        As it was measured, or followed [°C]

    Returns
    -------
    tuple of Estimate or None, and Estimate
        Relative crystallinity, None for a glass, and share of stress that is left [1]
    """
    cores = np.broadcast_to(core, (DRAWS, core.size))
    crystals = _crystals(polymer, seconds, cores, 0.0)[0]
    stress = _stress(polymer, seconds, cores, 0.0, keeps=crystals is not None)[0][:, -1]
    left = estimate(stress, "1", METHOD, SOURCE)
    return None if crystals is None else estimate(crystals[:, -1], "1", METHOD, SOURCE), left


@attrs.frozen(kw_only=True)
class RampLimit:
    """Steepest ramp that a section bears, and what sets it."""

    ramp_k_h: float
    split_k: float  # from skin to core, at that ramp
    by: str
    bears_k_h: float  # by heat and stress alone, whatever is usual


def ramp_limit(load: Load, polymer: Polymer) -> RampLimit | None:
    """Steepest ramp that neither bends nor cracks a section.

    Parameters
    ----------
    load : Load
        Its thickest section [mm]
    polymer : Polymer
        Heat data, modulus, expansion, strength [W/m/K, MPa]

    Returns
    -------
    RampLimit or None
        Ramp of the air and what sets it [K/h]; None where heat data are not known

    Notes
    -----
    Three limits: a few kelvin from skin to core, beyond which parts bend in practice; a share of the strength across
    layers, against the stress of the skin; and what nobody goes beyond for such a section. The lowest one holds.
    """
    likely = section_of(load, polymer, 1)
    if likely is None:
        return None
    split = float(lags(likely, 1.0 / 3600.0).core[0])  # K from skin to core for 1 K/h
    limits = {
        USUAL: usage_of(polymer, load.wall_mm).most_k_h,
        "skin and core apart": ANNEAL["split_k"].value / split,
    }
    strength, expansion = polymer.value("strength_mpa"), polymer.value("expansion_glassy_um_mk")
    if strength is not None and expansion is not None and polymer.modulus is not None:
        stiff = polymer.modulus.points[0][1] * 1e6
        per_k = float(thermal_stress(1.0, stiff, expansion.value * 1e-6, is_rod=load.is_rod))
        bears = ANNEAL["pull"].value * ANNEAL["across"].value * strength.value * 1e6
        limits["stress across layers"] = bears / per_k / split
    by = min(limits, key=lambda key: limits[key])
    bears = min(value for key, value in limits.items() if key != USUAL)
    return RampLimit(ramp_k_h=limits[by], split_k=limits[by] * split, by=by, bears_k_h=bears)


def hold_wanted_h(programme: Programme, load: Load, polymer: Polymer, *, strict: bool) -> float | None:
    """How long the core wants to be at the last hold.

    Parameters
    ----------
    programme : Programme
        The hold of its last step is what is sought [h]
    load : Load
        What lies in the oven [mm]
    polymer : Polymer
        Heat data, transitions and crystals [W/m/K, °C, s]
    strict : bool
        Whether the unlucky end of the band is to be there too [-]

    Returns
    -------
    float or None
        At least what is usual for its section, in its window at most what is [h]; None where two days do not do, or
        data are missing
    """
    usual, least = usage_of(polymer, load.wall_mm), ANNEAL["least_h"].value
    last = attrs.evolve(programme.steps[-1], hold_h=least)
    found = annealed(attrs.evolve(programme, steps=(*programme.steps[:-1], last)), load, polymer)
    if found is None:
        return None
    for hours in HOLDS_H:
        if hours >= usual.least_h and _does(*found.ends.after((hours - least) * 3600.0), strict=strict):
            return min(hours, _most_h(programme, usual, polymer) or hours)
    return _most_h(programme, usual, polymer)


def _most_h(programme: Programme, usual: Usage, polymer: Polymer) -> float | None:
    """Hours beyond which practice waits for nothing [h]; None below the window, where only what comes of it counts."""
    window = window_of(polymer)
    return usual.most_h if window is not None and programme.steps[-1].hold_c >= window.low else None


def _does(crystals: Array | None, stress: Array, *, strict: bool) -> bool:
    """Whether draws of crystals, or of the stress of a glass, are where they are wanted."""
    low, likely, high = ends_of(crystals if crystals is not None else stress)
    if crystals is not None:
        return (low if strict else likely) >= ANNEAL["crystals_wanted"].value
    return (high if strict else likely) <= ANNEAL["stress_wanted"].value


def is_enough(found: Annealed, programme: Programme, load: Load, polymer: Polymer, *, strict: bool) -> bool:
    """Whether a programme leaves a part annealed.

    Parameters
    ----------
    found : Annealed
        What it makes of the load [1]
    programme : Programme
        With the hours of its last hold [h]
    load : Load
        With its thickest section [mm]
    polymer : Polymer
        Whose practice counts [-]
    strict : bool
        Whether the unlucky end of the band decides [-]

    Returns
    -------
    bool
        True where crystals are there, or stress is gone from a glass, after the hours that are usual at least; and
        after the most that are usual in its window [-]
    """
    held, usual = programme.steps[-1].hold_h, usage_of(polymer, load.wall_mm)
    most = _most_h(programme, usual, polymer)
    if held < usual.least_h or (most is not None and held >= most):
        return held >= usual.least_h
    crystals = found.crystals_at_end
    if crystals is not None:
        return (crystals.low if strict else crystals.value) >= ANNEAL["crystals_wanted"].value
    stress = found.stress_at_end
    return (stress.high if strict else stress.value) <= ANNEAL["stress_wanted"].value
