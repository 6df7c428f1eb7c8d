"""Load, grip, damage and weld of a part on a plate as sampled bands, and what of them gives way first."""

import attrs
import numpy as np
from numpy.typing import ArrayLike, NDArray

from kaustos.core.estimates import BOND
from kaustos.core.memo import by_identity
from kaustos.core.physics.grip import contact_temperature, effusivity, grip
from kaustos.core.physics.lift import curl, freed_length
from kaustos.core.physics.sheet import bowed, rises
from kaustos.core.physics.stress import Solid, Stiffness, stress_parts, yields_at
from kaustos.core.physics.warp import breadth_factor, decay_length, energy_release, rising_release
from kaustos.core.physics.weld import healing
from kaustos.core.planning.draws import DRAWS, drawn, estimate, normal
from kaustos.core.planning.standing import Standing
from kaustos.core.records import Estimate, Polymer, Surface

Array = NDArray[np.float64]
_Thin = NDArray[np.float32]  # draw by draw over the height: a band needs no more digits
LEVELS = 41  # over the height
PASSED = 32  # temperatures that a layer passes on its way down
FOOT = 4  # level from which on layers lie above the first ones
GROUPS = 8  # of draws, each with a heat transfer of its own
METHOD = "elastic energy of layers that cool, at the point of the outline that has the least support"
SOURCE = "modulus, expansion and words of practice: estimates for generic polymers"
THIN_FILM_MM = 0.1  # below which a surface counts as what it lies on
EDGE_M = BOND["edge_zone"].value / 1e3
SOFTENS_K = BOND["soft_span"].value
STEEL = BOND["steel_takes"].value
DRAGGED_MM = 10.0  # stands for a part that the nozzle takes along


@attrs.frozen(kw_only=True, eq=False)
class Making:
    """How a part is made, as far as the bond to the plate rests on it."""

    melt_c: float
    plate_c: float  # at its top, while the part grows
    first_plate_c: float  # while the first layer is laid
    air_c: float
    room_c: float
    off_c: float  # plate when the part is taken off
    aspect: float | None  # of the first beads, width over gap
    filled: float | None  # share
    cleaned: str | None
    fan: float = 0.0  # of the part, share of full
    worn: float | None = 0.0  # share of the life of the surface that is gone; None where nobody counted


@attrs.frozen(kw_only=True, eq=False)
class Usual:
    """What practice finds of a pair in the middle of its window."""

    grip: Array  # draws, nothing learned [J/m²]
    harms: float  # share of parts that harm the surface as they come off [1]
    lets_go: float  # share that parts by itself once it is cold [1]


def usual_of(leaves: str, band: tuple[float, float, float]) -> Usual | None:
    """What practice finds of a pair, by how it comes off.

    Parameters
    ----------
    leaves : str
        Key of COMES_OFF; empty where nobody tried [-]
    band : tuple of float
        Grip at the middle of the book [J/m^2]

    Returns
    -------
    Usual or None
        None where nobody tried [-]
    """
    if not leaves:
        return None
    lets_go = BOND["lets_go"].value if leaves == "itself" else 0.0
    return Usual(grip=drawn("book", band), harms=BOND[f"harms.{leaves}"].value / (1.0 - lets_go), lets_go=lets_go)


@attrs.frozen(kw_only=True, eq=False)
class Bond:
    """Draws of everything that stands against each other [J/m²]."""

    load: Array  # while it is printed, at the worst point
    cold: Array  # when the plate is at the heat at which the part is taken off
    grip: Array
    cold_grip: Array
    damage: Array
    weld: Array
    above: Array  # load of what lies above the first layers
    worst: int  # number of the worst point
    along: Array  # load at every point of the outline, likely
    capped: float  # share of draws in which stress is capped at yield
    contact_c: float
    contact_book_c: float
    limit_mm: float  # lift that spoils the part
    lift_mm: Array  # of the worst point, by the time the part is printed
    plate_stress: Array  # in a brittle plate as the part cools on it [MPa]; nothing in others
    plate_strength: Array  # that it bears under such a foot [MPa]
    lets_go: float = 0.0  # chance, by practice, that the pair parts by itself once it is cold [1]

    @property
    def starts(self) -> float:
        """Chance that an edge lets go while it is printed, however little it lifts [1]."""
        return float((self.load > self.grip).mean())

    @property
    def lifts(self) -> float:
        """Chance of a lift that spoils the part [1]."""
        return float((self.lift_mm > self.limit_mm).mean())

    @property
    def harms(self) -> float:
        """Chance that it holds more strongly than the surface stands when it is taken off, and does not let go itself.

        [1]
        """
        stays = (self.cold_grip > self.damage) & (self.cold <= self.cold_grip)
        return float(stays.mean()) * (1.0 - self.lets_go)

    @property
    def splits(self) -> float:
        """Chance that layers split before the bond to the plate gives way [1]."""
        return float(((self.above > self.weld) & (self.grip > self.weld)).mean())

    @property
    def breaks(self) -> float:
        """Chance that a brittle plate breaks under the contraction of what still holds on it [1]."""
        holds = self.cold <= self.cold_grip
        return float(((self.plate_stress > self.plate_strength) & holds).mean()) * (1.0 - self.lets_go)

    @property
    def comes_off(self) -> float:
        """Chance that it lets go by itself as it cools [1]."""
        return 1.0 - (1.0 - float((self.cold > self.cold_grip).mean())) * (1.0 - self.lets_go)

    @property
    def first(self) -> str:
        """What gives way first when the load grows: corner, weld or surface."""
        levels = {"corner": self.grip, "weld": self.weld, "surface": self.damage}
        return min(levels, key=lambda key: float(np.median(levels[key])))

    def band(self, which: str) -> Estimate:
        """One of the draws as an estimate."""
        return estimate(getattr(self, which), "J/m²", METHOD, SOURCE)


def worse_of(one: Bond, other: Bond) -> Bond:
    """Of two ends between which a case lies: what is worse, for lift, harm and splitting each by itself.

    Parameters
    ----------
    one : Bond
        At one end [J/m^2]
    other : Bond
        At the other [J/m^2]

    Returns
    -------
    Bond
        No chance of which is smaller than that of either for what is printed, taken off and split [J/m^2]
    """
    lifted = max(one, other, key=lambda each: (each.lifts, each.starts))
    cooled = max(one, other, key=lambda each: each.harms + each.breaks)
    split = max(one, other, key=lambda each: each.splits)
    return attrs.evolve(
        lifted,
        cold=cooled.cold,
        cold_grip=cooled.cold_grip,
        damage=cooled.damage,
        plate_stress=cooled.plate_stress,
        plate_strength=cooled.plate_strength,
        weld=split.weld,
        above=split.above,
    )


@by_identity(64)
def solid_of(polymer: Polymer, against_um_mk: float) -> Solid | None:
    """What of a polymer decides its stress, less what the plate contracts; None where its modulus is not known.

    Parameters
    ----------
    polymer : Polymer
        With modulus, transitions and expansions [MPa, °C, µm/m/K]
    against_um_mk : float
        Expansion of the plate that it stands on; nothing while the plate stays hot [µm/m/K]

    Returns
    -------
    Solid or None
        In SI units [Pa, °C, 1/K]
    """
    glass, curve = polymer.value("glass_transition_c"), polymer.modulus
    wanted = [polymer.value(key) for key in ("expansion_glassy_um_mk", "expansion_rubbery_um_mk", "strength_mpa")]
    if glass is None or curve is None or None in wanted:
        return None
    glassy, rubbery, strength = (each.value for each in wanted if each is not None)
    onset = polymer.value("crystallisation_c")
    hot = onset.value if onset is not None and not polymer.is_glassy else glass.value
    shrinks = polymer.value("crystal_shrinkage_pct")
    points = np.array(curve.points)
    return Solid(
        stiffness=Stiffness(celsius=points[:, 0], modulus=points[:, 1] * 1e6),
        glass_c=glass.value,
        solid_c=max(hot, glass.value),
        expansion_glassy=max(glassy - against_um_mk, 0.0) * 1e-6,
        expansion_rubbery=max(rubbery - against_um_mk, 0.0) * 1e-6,
        crystal_shrinkage=(shrinks.value / 100.0 if shrinks is not None and not polymer.is_glassy else 0.0),
        strength=strength * 1e6,
    )


def bond_of(
    polymer: Polymer,
    surface: Surface,
    book: Array,
    middle: tuple[float, float],
    making: Making,
    loads: "Loads",
    *,
    mixes: bool,
    usual: "Usual | None" = None,
    limit_mm: float = BOND["lift_counts"].value,
) -> Bond:
    """Everything that stands against each other in a part on a plate.

    Parameters
    ----------
    polymer : Polymer
        Of the part [MPa, °C]
    surface : Surface
        That it stands on [J/m^2]
    book : ndarray
        Draws of the grip at the middle of the book [J/m^2]
    middle : tuple of float
        Nozzle and plate at the middle of the book [°C]
    making : Making
        How it is made [°C]
    loads : Loads
        That it puts on the bond [J/m^2]
    mixes : bool
        Whether polymer and surface weld to each other, nothing between them [-]
    usual : Usual or None
        What practice finds of the pair in the middle of its window; None where nobody tried it [-]
    limit_mm : float
        Lift that spoils the part [mm]

    Returns
    -------
    Bond
        Draws of each [J/m^2]
    """
    held, contact_c, book_c = grip_of(
        polymer, surface, book, middle, making, mixes=mixes, is_parted=usual is not None and usual.harms < 0.5
    )
    fracture = polymer.value("fracture_kj_m2")
    low, value, high = (BOND["bulk_fracture"] if fracture is None else fracture).band
    bulk = (1e3 * low, 1e3 * value, 1e3 * high)
    damage = drawn("damage", surface.damage.band)
    cools = making.off_c < making.plate_c - 20.0
    colder = drawn("cold grip", BOND["cold_grip"].band) if cools else np.ones(DRAWS)
    if usual is not None:  # so that in the middle of its window as many are harmed as practice finds
        damage = damage * np.quantile(usual.grip * np.minimum(colder, 1.0) / damage, 1.0 - usual.harms)
    share = drawn("weld share", BOND["weld_amorphous" if polymer.is_glassy else "weld_crystallising"].band)
    ratio = drawn("ratio drifts", BOND["ratio_scale"].band)
    drifts = np.exp(np.clip(contact_c - book_c, -60.0, 60.0) * (1.0 / drawn("scale", BOND["scale"].band) - 1.0 / ratio))
    return Bond(
        limit_mm=limit_mm,
        lift_mm=np.where(drawn("drag", BOND["drag"].band) > held, DRAGGED_MM, loads.lift_mm(held)),
        load=loads.load,
        cold=loads.cold,
        grip=held,
        cold_grip=held * np.minimum(colder, 1.0),
        plate_stress=_plate_stress(surface, loads.force) if cools else np.zeros(DRAWS),
        plate_strength=_plate_strength(loads.foot_mm2),
        lets_go=usual.lets_go if usual is not None and cools else 0.0,
        damage=damage * drifts,
        weld=np.minimum(share, 1.0) ** 2 * drawn("bulk", bulk),
        above=loads.above,
        worst=loads.worst,
        along=loads.along,
        capped=loads.capped,
        contact_c=contact_c,
        contact_book_c=book_c,
    )


@attrs.frozen(kw_only=True, eq=False)
class Loads:
    """Draws of the load, hot and cold, and the likely load along the outline [J/m²]."""

    load: Array
    cold: Array
    above: Array
    worst: int
    along: Array
    capped: float
    heights: Array  # [m]
    rising: _Thin  # load of a straight edge up to each height, draw by draw
    sharp: Array  # of the worst point over a straight edge [1]
    strain: _Thin  # by which each height shrinks once it carries [1]
    half: float  # from the worst point to the middle of the foot [m]
    modulus: Array  # mean over the height while it is printed, of what its outline spans [Pa]
    force: Array  # with which the part pulls together as it cools, for each width [N/m]
    foot_mm2: float  # on which it stands

    def lift_mm(self, grip: Array) -> Array:
        """Lift of the worst point where the plate holds so strongly [J/m^2], draw by draw [mm]."""
        if self.heights.size < 2:
            return np.zeros(grip.size)
        found = np.zeros(grip.size)
        free = np.flatnonzero(self.sharp * self.rising[:, -1] > grip)
        if not free.size:
            return found
        held, sharp, rising = grip[free], self.sharp[free], self.rising[free]
        start = np.argmax(sharp[:, None] * rising > held[:, None], axis=1)
        freed = freed_length(rising[:, -1], sharp, held, float(self.heights[-1]), self.half)
        later = drawn("later bends", BOND["later_bends"].band)[free]
        found[free] = 1e3 * curl(self.heights, self.strain[free].astype(float), start, later) * freed**2 / 2.0
        return found

    def sheet_rise_mm(self, sheet_mm: ArrayLike, stiff_pa: ArrayLike, holds_pa: ArrayLike) -> Array:
        """How far a thin sheet [mm, Pa] rises with the part over what holds it down so [Pa], draw by draw [mm]."""
        if self.heights.size < 2:
            return np.zeros(len(self.load))
        sheet = np.asarray(sheet_mm, float) * 1e-3
        curvature, stiffness = bowed(self.heights, self.strain.astype(float), self.modulus, sheet, stiff_pa)
        return 1e3 * rises(curvature, stiffness, self.half, holds_pa)


@attrs.frozen(eq=False)
class _Drawn:
    """What the load rests on, draw by draw."""

    stiffer: Array
    wider: Array
    kept: Array
    filled: Array
    damps: Array
    power: Array
    poisson: Array


def _draws(polymer: Polymer, part_filled: float | None) -> _Drawn:
    curve, expansion = polymer.modulus, polymer.value("expansion_glassy_um_mk")
    assert curve is not None and expansion is not None
    ratio = (expansion.low / expansion.value, 1.0, expansion.high / expansion.value) if expansion.value else (1.0,) * 3
    filled = BOND["infill_unknown"].band if part_filled is None else (part_filled,) * 3
    nothing = np.zeros(DRAWS)
    return _Drawn(
        drawn("modulus", (1.0 / curve.factor, 1.0, curve.factor)),
        drawn("expansion", ratio),
        nothing if polymer.is_glassy else drawn("kept", BOND["kept"].band),
        drawn("filled", (max(filled[0], 0.02), max(filled[1], 0.02), max(filled[2], 0.02))),
        drawn("damps", BOND["wall_damps"].band),
        drawn("sharp", BOND["sharp_power"].band),
        drawn("poisson", BOND["poisson"].band),
    )


def _force(stress: _Thin, standing: Standing, length: float) -> Array:
    """Pull of a part that cools, for each width of its foot, as high as it is stressed [N/m]."""
    high = min(standing.height, length / 4.0)
    levels = max(round(LEVELS * high / standing.height), 2)
    return np.asarray(stress[:, :levels].mean(axis=1) * high * standing.solid)


def _plate_stress(surface: Surface, force: Array) -> Array:
    """Stress in a brittle plate under a part that contracts on it [MPa]: its pull over the plate's thickness."""
    if not surface.is_brittle or surface.thickness_mm <= 0.0:
        return np.zeros(DRAWS)
    return np.asarray(BOND["glass_takes"].value * force / (surface.thickness_mm * 1e-3) / 1e6)


def _plate_strength(foot_mm2: float) -> Array:
    """Stress that a used brittle plate bears under a foot [MPa]: more under a small one, where fewer scratches lie."""
    small = BOND["glass_area"].value / max(foot_mm2 / 100.0, 1e-3)
    return np.asarray(drawn("glass", BOND["glass_strength"].band) * small ** (1.0 / BOND["glass_flaws"].value))


def least_loads() -> Loads:
    """What any part asks of its bond, however small and of whatever polymer: the drag of the nozzle [J/m^2].

    Returns
    -------
    Loads
        Nothing but the drag [J/m^2]
    """
    nothing = np.zeros(DRAWS)
    return Loads(
        load=drawn("drag", BOND["drag"].band), cold=nothing, above=nothing, worst=0, along=np.zeros(0), capped=0.0,
        heights=np.zeros(0), rising=np.zeros((DRAWS, 0), np.float32), sharp=nothing + 1.0,
        strain=np.zeros((DRAWS, 0), np.float32), half=0.0, modulus=nothing, force=nothing,
        foot_mm2=0.0,
    )  # fmt: skip


def _gone(worn: float | None) -> Array:
    """Share of a surface's life that is gone, draw by draw: anything where nobody counted."""
    if worn is None:
        return np.asarray((np.argsort(np.argsort(normal("prints"))) + 0.5) / DRAWS)
    return np.full(DRAWS, min(max(worn, 0.0), 1.0))


def loads_of(polymer: Polymer, against_um_mk: float, making: Making, standing: Standing) -> Loads | None:
    """Load on the bond while it is printed and when it cools.

    Parameters
    ----------
    polymer : Polymer
        Of the part [MPa, °C]
    against_um_mk : float
        Expansion of the plate, whose own contraction counts on cooling [µm/m/K]
    making : Making
        Temperatures [°C]
    standing : Standing
        Lengths inward, sharpness, height [m]

    Returns
    -------
    Loads or None
        None where the modulus of the polymer is not known [J/m^2]

    Notes
    -----
    A modulus at room temperature never stands in for one above the glass transition.
    """
    return _loads(
        polymer, against_um_mk, making.plate_c, making.air_c, making.off_c, making.fan, making.filled, standing
    )


@by_identity(64)
def _energies(
    polymer: Polymer,
    against_um_mk: float,
    plate_c: float,
    air_c: float,
    off_c: float,
    fan: float,
    part_filled: float | None,
    height: float,
    fin: float,
) -> "tuple[_Drawn, Array, _Thin, _Thin | None, _Thin, _Thin, _Thin, NDArray[np.bool_]] | None":
    """Energy over the height, draw by draw, hot and cold, what it shrinks, how stiff: the same for every anchor.

    No cold energy of a part that comes off as hot as it was printed.
    """
    hot, cold = solid_of(polymer, 0.0), solid_of(polymer, against_um_mk)
    if hot is None or cold is None:
        return None
    draws = _draws(polymer, part_filled)
    z = np.linspace(0.0, height, LEVELS)
    conductivity = polymer.value("conductivity_w_mk")
    k = conductivity.value if conductivity is not None else BOND["melt_conducts"].value
    transfer = drawn("transfer", BOND["transfer"].band) * (1.0 + fan * (BOND["fan_cools"].value - 1.0))
    group = np.empty(DRAWS, np.int64)
    group[np.argsort(transfer)] = np.arange(DRAWS) * GROUPS // DRAWS
    usual = np.median(np.sort(transfer).reshape(GROUPS, -1), axis=1)
    fades = decay_length(k, fin, 1.0, usual)
    t = air_c + (plate_c - air_c) * np.exp(-z / fades[:, None])
    energy, shrunk, stiff, capped = _energy(hot, t, draws, group)
    cools = off_c < plate_c - 1.0  # else it is taken off as it was printed, the plate still wide
    energy_cold, shrunk_cold = _energy(cold, np.minimum(t, off_c), draws, group)[:2] if cools else (energy, shrunk)
    pulls = (2.0 * energy_cold / np.maximum(shrunk_cold, 1e-9)).astype(np.float32)  # stress of the whole section [Pa]
    return draws, z, energy, energy_cold if cools else None, shrunk, stiff.mean(axis=1), pulls, capped


@by_identity(256)
def _loads(
    polymer: Polymer,
    against_um_mk: float,
    plate_c: float,
    air_c: float,
    off_c: float,
    fan: float,
    part_filled: float | None,
    standing: Standing,
) -> Loads | None:
    """The same from what of the making the load rests on: asked again and again while other things change."""
    if not len(standing.points):
        return None
    height, fin = standing.height, min(standing.width / 2.0, EDGE_M)
    found = _energies(polymer, against_um_mk, plate_c, air_c, off_c, fan, part_filled, height, fin)
    if found is None:
        return None
    draws, z, energy, energy_cold, shrunk, stiff, force, capped = found
    likely = np.median(energy.T.copy(), axis=1).astype(float)
    wide = breadth_factor(standing.width, z, BOND["poisson"].value)
    release = energy_release(z, likely, standing.lengths, wide)
    along = release * standing.sharpness ** BOND["sharp_power"].value
    worst = int(np.argmax(along))
    breadth = breadth_factor(standing.width, z, draws.poisson[:, None]).astype(np.float32)
    above = z[FOOT:] - z[FOOT]
    sharp = standing.sharpness[worst] ** draws.power
    length = float(standing.lengths[worst])
    rising = rising_release(z, energy, length, breadth).astype(np.float32)
    cold = rising[:, -1] if energy_cold is None else energy_release(z, energy_cold, length, breadth)
    return Loads(
        load=np.maximum(sharp * rising[:, -1], drawn("drag", BOND["drag"].band)),
        cold=sharp * cold,
        above=sharp * energy_release(above, energy[:, FOOT:], length, breadth[:, : len(above)]),
        heights=z,
        rising=rising,
        sharp=np.broadcast_to(sharp, DRAWS),
        strain=shrunk,
        half=standing.reach[worst] / 2.0,
        modulus=stiff * draws.stiffer * draws.damps * draws.filled * standing.solid,
        force=_force(force, standing, length),
        foot_mm2=standing.contact_mm2,
        worst=worst,
        along=along,
        capped=float(capped.mean()),
    )


def _energy(
    solid: Solid, t: Array, draws: _Drawn, group: NDArray[np.int64]
) -> tuple[_Thin, _Thin, _Thin, NDArray[np.bool_]]:
    """Energy by volume over the height, draw by draw, what it shrinks, its modulus, and where the stress is capped.

    ``t`` holds the temperatures of some groups of draws, ``group`` says which each draw belongs to. A layer passes all
    temperatures down to its own, and the most that it stores on the way counts: where nothing is stored above the glass
    transition, that is what it stores at the end.
    """
    stress, stiff, capped = _stress(solid, t, draws, group)
    shrunk = stress / stiff
    energy = np.multiply(stress, shrunk, out=stress)
    if solid.solid_c > solid.glass_c:
        np.maximum(energy, _on_the_way(solid, t, draws, group), out=energy)
    energy *= (0.5 * draws.stiffer * draws.damps * draws.filled)[:, None]
    return energy, shrunk, stiff, capped


def _stress(solid: Solid, t: Array, draws: _Drawn, group: NDArray[np.int64]) -> tuple[_Thin, _Thin, NDArray[np.bool_]]:
    """Stress and modulus at temperatures, draw by draw [Pa], and in which draws it is capped."""
    parts = (*stress_parts(solid, t), yields_at(solid, t), solid.stiffness.at(t))
    stress, rubbery, most, stiff = (each.astype(np.float32)[group] for each in parts)
    if draws.kept.any():
        rubbery *= draws.kept[:, None]
        stress += rubbery
    stress *= draws.wider[:, None]
    capped = np.asarray((stress > most).any(axis=1))
    return np.minimum(stress, most, out=stress), stiff, capped


def _on_the_way(solid: Solid, t: Array, draws: _Drawn, group: NDArray[np.int64]) -> _Thin:
    """Twice the most energy by volume that a layer stores above its last temperature, draw by draw [J/m³]."""
    top = max(solid.solid_c, solid.glass_c)
    way = np.linspace(top, min(float(t.min()), top - 1.0), PASSED)
    stress, stiff, _ = _stress(solid, way[None, :], draws, np.zeros(DRAWS, np.int64))
    energy = np.maximum.accumulate(np.square(stress, out=stress) / stiff, axis=1)
    rises = np.diff(energy, axis=1)
    place = np.clip((top - t) / (way[0] - way[1]), 0.0, PASSED - 1.001)
    low = place.astype(np.int64)
    share = (place - low).astype(np.float32)
    found = np.empty((DRAWS, t.shape[1]), np.float32)
    for each in range(len(t)):
        mine = np.flatnonzero(group == each)
        found[mine] = energy[mine][:, low[each]] + share[each] * rises[mine][:, low[each]]
    return found


def conditions_of(polymer: Polymer, surface: Surface, melt_c: float, plate_c: float) -> float:
    """Temperature at which the first bead meets a surface.

    Parameters
    ----------
    polymer : Polymer
        With conductivity, density and heat capacity [W/m/K, g/cm^3, kJ/kg/K]
    surface : Surface
        A film under a tenth of a millimetre counts as what it lies on [W/m/K]
    melt_c : float
        Of the melt [°C]
    plate_c : float
        Of the plate's top [°C]

    Returns
    -------
    float
        Temperature [°C]
    """
    values = [polymer.value(key) for key in ("conductivity_w_mk", "density_g_cm3", "heat_capacity_kj_kgk")]
    usual = (BOND[f"melt_{key}"].value for key in ("conducts", "dense", "holds"))
    k, rho, cp = (each.value if each is not None else other for each, other in zip(values, usual, strict=True))
    melt = effusivity(max(k, 1e-3), max(rho, 1e-2) * 1e3, max(cp, 1e-2) * 1e3)
    plate: Array | float = effusivity(
        surface.conductivity.value, surface.density.value * 1e3, surface.heat_capacity.value * 1e3
    )
    if surface.thickness_mm < THIN_FILM_MM:
        plate = STEEL
    return float(contact_temperature(melt_c, melt, plate_c, plate))


def contact_share(aspect: float | None) -> Array:
    """How well the first beads are pressed on, over that of a middle gap.

    Parameters
    ----------
    aspect : float or None
        Width of the bead over the gap; None where it is not recorded [1]

    Returns
    -------
    ndarray
        Draws; 1 for beads twice as wide as high [1]

    Notes
    -----
    From 0.4 for a round bead to 1 for one that is flattened, 0.6 in the middle: words of practice in numbers.
    """
    middle = BOND["contact_gap"].value
    if aspect is None:
        return drawn("gap unknown", BOND["contact_gap"].band) / middle
    rise = drawn("contact", BOND["contact_rise"].band)
    return np.asarray(np.clip(middle + rise * (aspect - 2.0), 0.4, 1.0) / middle)


def grip_of(
    polymer: Polymer, surface: Surface, book: Array, middle: tuple[float, float], making: Making, *, mixes: bool,
    is_parted: bool = False,
) -> tuple[Array, float, float]:  # fmt: skip
    """Grip of a pair under the conditions of a first layer.

    Parameters
    ----------
    polymer : Polymer
        Of the part [°C]
    surface : Surface
        That it stands on [°C]
    book : ndarray
        Draws of the grip at the middle of the book [J/m^2]
    middle : tuple of float
        Nozzle and plate at that middle [°C]
    making : Making
        Heat, gap, cleanliness, wear [°C, 1]
    mixes : bool
        Whether they weld to each other [-]
    is_parted : bool
        Whether practice parts them all the same in the middle of their window [-]

    Returns
    -------
    tuple
        Draws of the grip, contact temperature now and at the middle of the book [J/m^2, °C, °C]
    """
    contact = conditions_of(polymer, surface, making.melt_c, making.first_plate_c)
    usual = conditions_of(polymer, surface, *middle)
    clean = drawn(f"clean.{making.cleaned or 'unknown'}", BOND[f"clean.{making.cleaned or 'unknown'}"].band)
    worn = 1.0 - _gone(making.worn) * (1.0 - drawn("worn", BOND["worn"].band))
    hotter = float(np.clip(contact - usual, -60.0, 60.0))
    held = grip(
        book, contact_share(making.aspect), hotter, drawn("scale", BOND["scale"].band), np.minimum(clean, 1.0), worn
    )
    glass = polymer.value("glass_transition_c")
    sheet = surface.glass_c
    if mixes and glass is not None and sheet is not None and sheet.value > making.room_c:
        hottest = max(glass.value, sheet.value)
        slow = BOND["weld_time"].band
        healed = healing(contact, hottest, drawn("weld time", slow))
        fracture = polymer.value("fracture_kj_m2")
        bulk = 1e3 * (fracture.value if fracture is not None else BOND["bulk_fracture"].value)
        if is_parted:  # in the middle of its window practice finds that it comes off: what is hotter heals more
            healed = np.sqrt(np.maximum(healed**2 - healing(usual, hottest, drawn("weld time", slow)) ** 2, 0.0))
        held = np.maximum(held, healed**2 * bulk)
    if (
        glass is not None and polymer.is_glassy
    ):  # what practice says of the middle holds there, however soft the foot is
        softer = making.plate_c - max(glass.value, middle[1])
        held = held * drawn("soft grip", BOND["soft_grip"].band) ** float(np.clip(softer / SOFTENS_K, 0.0, 1.0))
    return np.asarray(held), contact, usual
