"""How hot a melt comes out of a hot end at a flow, how much flow it gives, what pushes it: as draws."""

import math

import attrs
import numpy as np

from kaustos.core.estimates import MELT
from kaustos.core.memo import by_identity
from kaustos.core.physics.flow import flow_for_core, melt_exit, nozzle_pressure, thinner_when_hotter
from kaustos.core.planning.draws import Array, drawn, estimate, middle, normal
from kaustos.core.records import Estimate, Polymer

METHOD = "heat conducted into a rod that moves through the hot end"
SOURCE = "conductivity, heat capacity and viscosity of generic polymers; length of the hot end"


@attrs.frozen(kw_only=True)
class HotEnd:
    """What of machine and nozzle decides how a melt flows."""

    zone_mm: float | None  # heated length
    bore_mm: float | None
    land_mm: float | None
    push_n: float | None  # measured
    is_geared: bool | None
    tube_mm: float | None
    strand_mm: float  # diameter of the filament


@attrs.frozen(kw_only=True, eq=False)
class Melting:
    """What becomes of a flow, draw by draw."""

    exit_c: Array  # mean of the melt as it leaves
    soft: Array  # flow above which the weld pays [mm³/s]
    hard: Array  # flow above which it starves [mm³/s]
    core_first: float  # share of draws in which a cold core, not force, is the hard limit
    force: Array  # at this flow [N]
    push: Array  # what the drive gives [N]
    residence_s: Array

    def band(self, which: str, unit: str) -> Estimate:
        """One of the draws as an estimate."""
        return estimate(getattr(self, which), unit, METHOD, SOURCE)


def flows_from(polymer: Polymer) -> float | None:
    """Temperature from which a polymer passes a nozzle: its melting point, or well above its glass transition [°C].

    Parameters
    ----------
    polymer : Polymer
        With its transitions [°C]

    Returns
    -------
    float or None
        None where its transition is not known [°C]
    """
    melting, glass = polymer.value("melting_c"), polymer.value("glass_transition_c")
    if melting is not None and polymer.weld_class == "crystallising":
        return melting.value + MELT["flows_melting"].value
    if glass is None:
        return None
    soft = glass.value + MELT["flows_above"].value
    return soft if melting is None else max(soft, melting.value - MELT["flows_slow"].value)


def diffusivity_of(polymer: Polymer, nozzle_c: float, feed_c: float) -> float | None:
    """Thermal diffusivity from room to melt, its melting counted as heat capacity.

    Parameters
    ----------
    polymer : Polymer
        With conductivity, heat capacity, density, heat of fusion [W/m/K, kJ/kg/K, g/cm³, kJ/kg]
    nozzle_c : float
        To which it is heated [°C]
    feed_c : float
        From which it is heated [°C]

    Returns
    -------
    float or None
        None where one of them is not known [m^2/s]
    """
    k, cp, rho = (polymer.value(key) for key in ("conductivity_w_mk", "heat_capacity_kj_kgk", "density_g_cm3"))
    if k is None or cp is None or rho is None or not min(k.value, cp.value, rho.value) > 0.0:
        return None
    fusion = polymer.value("fusion_kj_kg")
    stored = cp.value * MELT["heat_rises"].value
    stored += fusion.value / max(nozzle_c - feed_c, 50.0) if fusion is not None else 0.0
    return k.value / (rho.value * 1e3 * stored * 1e3)


@by_identity(256)
def melting_of(
    polymer: Polymer,
    hot_end: HotEnd,
    nozzle_c: float,
    spread_k: float,
    feed_c: float,
    flow_mm3_s: float,
    core_short: float,
) -> Melting | None:
    """What becomes of a flow in a hot end.

    Parameters
    ----------
    polymer : Polymer
        With what decides its heat and its viscosity [°C, W/m/K, kJ/kg/K, Pa s]
    hot_end : HotEnd
        Of machine and nozzle [mm, N]
    nozzle_c : float
        True temperature of the nozzle [°C]
    spread_k : float
        How far that may be off [K]
    feed_c : float
        Of the filament as it comes in [°C]
    flow_mm3_s : float
        Volume of melt [mm³/s]
    core_short : float
        Share of its heat that the core may lack [1]

    Returns
    -------
    Melting or None
        None where heat data of the polymer are not known [°C, mm³/s, N, s]

    Notes
    -----
    The hard limit is the lesser of two: a core that is too cold to pass the bore, and the push of the drive against
    cone and land. Slip and heat of shear are left out.
    """
    spread, from_c = diffusivity_of(polymer, nozzle_c, feed_c), flows_from(polymer)
    if spread is None or from_c is None or not flow_mm3_s > 0.0:
        return None
    zone = _zone(hot_end)
    hot = nozzle_c + _off("nozzle shown", spread_k)
    k = polymer.value("conductivity_w_mk")
    ratio = (k.low / k.value, 1.0, k.high / k.value) if k is not None else (0.7, 1.0, 1.4)
    alpha = spread * drawn("conducts heat", ratio) * drawn("heat rises", _relative("heat_rises"))
    exit_c = melt_exit(hot, feed_c, flow_mm3_s * 1e-9, alpha, zone * 1e-3)
    soft = flow_for_core(core_short, alpha, zone * 1e-3) * 1e9
    softens = from_c + _off("flows from", 12.0)
    missing = np.clip((hot - softens) / np.maximum(hot - feed_c, 1.0), 0.02, 0.9)
    core = flow_for_core(missing, alpha, zone * 1e-3) * 1e9 * np.where(hot > softens, 1.0, 0.02)
    force, push, power = _forces(polymer, hot_end, exit_c, flow_mm3_s)
    by_force = flow_mm3_s * (push / force) ** (1.0 / power)
    section = math.pi * hot_end.strand_mm**2 / 4.0
    return Melting(
        exit_c=exit_c,
        soft=soft,
        hard=np.minimum(core, by_force),
        core_first=float((core <= by_force).mean()),
        force=force,
        push=push,
        residence_s=section * zone / flow_mm3_s,
    )


def _zone(hot_end: HotEnd) -> Array:
    """Heated length, draw by draw [mm]."""
    if hot_end.zone_mm is None:
        return drawn("melt zone", MELT["zone"].band)
    return hot_end.zone_mm * drawn("melt zone", MELT["zone_known"].band)


def _off(name: str, most: float) -> Array:
    """How far something is off that may be off by so much either way [its unit]."""
    return np.asarray(normal(name) * most / 1.96)


def _relative(key: str) -> tuple[float, float, float]:
    """The band of a constant over its likely value, turned round: more of it makes less."""
    low, value, high = MELT[key].band
    return value / high, 1.0, value / low


def _forces(polymer: Polymer, hot_end: HotEnd, exit_c: Array, flow_mm3_s: float) -> tuple[Array, Array, float]:
    """Force that the flow wants, force that the drive gives [N], and the exponent of shear thinning."""
    thinning = MELT["thinning"].value
    viscosity = polymer.value("viscosity_pa_s")
    band = viscosity.band if viscosity is not None else (80.0, 250.0, 800.0)
    ends = [polymer.value(f"nozzle_{end}_c") for end in ("low", "high")]
    known = [each.value for each in ends if each is not None]
    book_c = sum(known) / len(known) if known else middle(exit_c)
    glass = polymer.value("glass_transition_c")
    glassy = glass.value if glass is not None and polymer.is_glassy else None
    stiffer = np.minimum(thinner_when_hotter(exit_c, book_c, glassy) ** thinning, 50.0)
    bore = hot_end.bore_mm if hot_end.bore_mm else MELT["bore"].value
    land = hot_end.land_mm if hot_end.land_mm is not None else 0.7
    pressure = nozzle_pressure(
        flow_mm3_s * 1e-9, bore * 1e-3, land * 1e-3, drawn("viscosity", band) * stiffer, thinning
    )
    section = math.pi * (hot_end.strand_mm * 1e-3) ** 2 / 4.0
    force = np.maximum(pressure * section * drawn("entry", MELT["entry"].band), 1e-3)
    return force, _push(polymer, hot_end), thinning


def _push(polymer: Polymer, hot_end: HotEnd) -> Array:
    measured = None if hot_end.push_n is None else hot_end.push_n * drawn("push measured", (0.85, 1.0, 1.1))
    if polymer.character == "rubbery":  # buckles long before the drive slips on a stiff strand
        push = drawn("push soft", MELT["push_soft"].band) * (2.0 if hot_end.is_geared else 1.0)
        push = push if measured is None else np.minimum(push, measured)
    elif measured is not None:
        push = measured
    else:
        push = drawn("push", MELT["push_geared" if hot_end.is_geared else "push_plain"].band)
    tube = (hot_end.tube_mm or 0.0) / 500.0
    return np.asarray(push * np.maximum(1.0 - tube * drawn("tube drag", MELT["tube_drag"].band), 0.1))


def feed_speed(flow_mm3_s: float, strand_mm: float) -> float:
    """How fast filament is fed.

    Parameters
    ----------
    flow_mm3_s : float
        Volume of melt [mm³/s]
    strand_mm : float
        Diameter of the filament [mm]

    Returns
    -------
    float
        Speed [mm/s]

    Examples
    --------
    >>> round(feed_speed(9.5, 1.75), 1)
    3.9
    """
    return flow_mm3_s / (math.pi * strand_mm**2 / 4.0)
