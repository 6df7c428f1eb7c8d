"""Moisture of a spool in some air: how it dries there, how it drinks, how long either takes.

Arrays hold scenarios x turns: what is likely and what is not known at either end (``scenarios``); outermost, mean and
deepest turn. A turn gives and takes water as fast as its own temperature lets it: a cold spool does not dry.
"""

import functools

import attrs
import numpy as np

from kaustos.core.estimates import DRYING, SPOOL
from kaustos.core.physics.cylinder import Profile, chained, moved
from kaustos.core.physics.humidity import GAS_CONSTANT, ZERO_K, Array, saturation_pressure
from kaustos.core.physics.moisture import diffusivity, equilibrium_moisture, film_factor, partition, spool_biot, turns
from kaustos.core.physics.warming import bar
from kaustos.core.planning.air import Air
from kaustos.core.planning.horizon import HORIZON_H
from kaustos.core.planning.scenarios import LIKELY, Values, everywhere, sampled, unsure
from kaustos.core.records import Lot, Polymer

REFERENCE_C = 80.0
OUTERMOST, MEAN, DEEPEST = TURNS = (0, 1, 2)
DEPTH_MM, WIDTH_MM = SPOOL["winding_depth"].value, SPOOL["winding_width"].value
HEAT_CAPACITY = DRYING["winding_capacity"].value
GAPS, TORTUOSITY = DRYING["winding_gaps"], DRYING["winding_tortuosity"]
LOWEST_BIOT = 1e-6
SPANS = 28  # of a stay in one air
_TIMES_H = np.concatenate(([0.0], np.geomspace(0.05, HORIZON_H, 36)))


@attrs.frozen
class Water:
    """How a polymer on a spool takes and gives water, each in every scenario."""

    diffusivity: Values  # at 80 °C [m²/s]
    energy: Values  # [J/mol]
    half: Values  # [%]
    saturated: Values  # [%]
    density: float  # [kg/m³]
    film: Values = everywhere(1.0)  # how freely vapour leaves through the gaps, over what is usual


@attrs.frozen
class Winding:
    """Strand and winding."""

    radius: float  # [m]
    depth: float  # [m]
    width: float = WIDTH_MM / 1e3  # [m]


@attrs.frozen(eq=False)
class State:
    """A spool at a moment: the moisture of its strands over their radius, and how warm its turns are."""

    profile: Profile
    turns_c: Array  # scenarios x turns [°C]

    @functools.cached_property
    def means(self) -> Array:
        """Moisture of scenarios x turns [% water]."""
        return self.profile.mean()

    @functools.cached_property
    def _sampled(self) -> Array:
        return sampled(self.means)

    @property
    def band(self) -> tuple[float, float, float]:
        """Likely moisture of the mean turn with its 95 % band [% water]."""
        likely, low, high = self._sampled[:, MEAN]
        return float(likely), float(low), float(high)

    @property
    def wettest(self) -> float:
        """What the wettest turn likely holds [% water]."""
        return float(self._sampled[0].max())

    @property
    def worst(self) -> float:
        """What no turn is wetter than for sure, 97.5 % [% water]."""
        return float(self._sampled[2].max())

    @property
    def best(self) -> float:
        """What no turn is drier than for sure, 97.5 % [% water]."""
        return float(self._sampled[1].min())


def water_of(polymer: Polymer | None) -> Water | None:
    """What the polymer's values say of water, None where one is not known."""
    keys = ("diffusivity_80c_um2_s", "diffusion_energy_kj_mol", "moisture_50_pct", "moisture_saturated_pct",
            "density_g_cm3")  # fmt: skip
    data = [polymer.value(key) for key in keys] if polymer else [None]
    if any(datum is None for datum in data):
        return None
    d, e, half, full, rho = (datum for datum in data if datum is not None)
    usual = film_factor(GAPS.value, TORTUOSITY.value)
    more, less = (
        np.hypot(np.log(film_factor(gaps, TORTUOSITY.value) / usual), np.log(film_factor(GAPS.value, way) / usual))
        for gaps, way in ((GAPS.high, TORTUOSITY.low), (GAPS.low, TORTUOSITY.high))
    )
    return Water(
        unsure("diffusivity", d.value * 1e-12, d.low * 1e-12, d.high * 1e-12),
        unsure("energy", e.value * 1e3, e.low * 1e3, e.high * 1e3),
        unsure("uptake", half.value, half.low, half.high), unsure("uptake", full.value, full.low, full.high),
        rho.value * 1e3, unsure("gaps", 1.0, float(np.exp(-less)), float(np.exp(more))),
    )  # fmt: skip


def winding_of(lot: Lot | None) -> Winding:
    """Strand and winding of a lot, an estimate where they are not recorded."""
    if lot is None:
        return Winding(1.75e-3 / 2.0, DEPTH_MM / 1e3)
    return Winding(lot.radius_m, (lot.depth_mm or DEPTH_MM) / 1e3, (lot.width_mm or WIDTH_MM) / 1e3)


def resting(profile: Profile, at_c: float) -> State:
    """A spool that has long been at a temperature.

    Parameters
    ----------
    profile : Profile
        Its moisture [%]
    at_c : float
        Its temperature [°C]

    Returns
    -------
    State
        All its turns at that temperature [°C]
    """
    return State(profile, np.full(profile.equilibrium.shape, at_c))


def floor_of(water: Water, air: Air) -> Array:
    """Moisture that drying in an air ends at: no time gets below it.

    Parameters
    ----------
    water : Water
        Sorption of the polymer [%]
    air : Air
        Temperature and humidity of the dryer [°C, -]

    Returns
    -------
    ndarray
        Floor in each scenario [%]
    """
    return np.asarray(equilibrium_moisture(np.array(water.half), np.array(water.saturated), np.array(air.humidity)))


def films(water: Water, winding: Winding, air: Air) -> Array:
    """Biot numbers of the turns in an air once they are as warm as it.

    Parameters
    ----------
    water : Water
        The polymer [m^2/s, J/mol, %]
    winding : Winding
        Strand and winding [m]
    air : Air
        The surroundings [°C, -]

    Returns
    -------
    ndarray
        Biot numbers of scenarios x turns [-]

    Notes
    -----
    Water moves faster in a warm strand and is held less tightly by it, at nearly the same rate: a cold turn has nearly
    the same Biot number.
    """
    at_c = air.temperature_c + np.array(air.off_k)
    d = np.asarray(diffusivity(np.array(water.diffusivity), REFERENCE_C, np.array(water.energy), at_c))
    share = partition(np.array(water.half), water.density, at_c)
    biot = np.asarray(spool_biot(winding.radius, winding.depth, share, d, at_c)) * np.array(water.film) * air.thinner
    return turns(np.maximum(biot, LOWEST_BIOT))


def passed(
    state: State, water: Water, winding: Winding, air: Air, hours: Array, kept_at: int = -1
) -> tuple[Array, State]:
    """What becomes of a spool that comes into an air: its turns warm or cool, and give or take water as they do.

    Parameters
    ----------
    state : State
        The spool as it comes [%, °C]
    water : Water
        The polymer [m^2/s, J/mol, %]
    winding : Winding
        Strand and winding [m]
    air : Air
        The surroundings [°C, -]
    hours : ndarray
        Times since it came, from 0 and rising [h]
    kept_at : int
        Which of the times after the first the spool is kept at [-]

    Returns
    -------
    tuple of ndarray and State
        Moisture of scenarios x turns x times [%], and the spool as it is kept [%, °C]

    Notes
    -----
    Between two of the times a turn has the mean diffusivity of that while, after Simpson, and a surface in balance with
    the air as humid as it is at the turn's own temperature half way.
    """
    t = np.asarray(hours, dtype=float)
    missing = _missing(winding.depth, winding.width, tuple(np.sort(np.concatenate((t, 0.5 * (t[1:] + t[:-1]))))))
    air_c = (air.temperature_c + np.array(air.off_k))[:, None]
    turns_c = air_c + (state.turns_c - air_c) * missing[:, None, :]
    energy = np.array(water.energy)[:, None] / GAS_CONSTANT
    speed = np.exp(-energy * (1.0 / (turns_c + ZERO_K) - 1.0 / (REFERENCE_C + ZERO_K)))
    mean_speed = (speed[:-1:2] + 4.0 * speed[1::2] + speed[2::2]) / 6.0
    rate = np.array(water.diffusivity)[:, None] / winding.radius**2
    fourier = rate * mean_speed * (np.diff(t) * 3600.0)[:, None, None]
    driven = np.asarray(saturation_pressure(air_c)) / np.asarray(saturation_pressure(turns_c[1::2]))
    humidity = np.array(air.humidity)[:, None] * driven
    surface = equilibrium_moisture(np.array(water.half)[:, None], np.array(water.saturated)[:, None], humidity)
    there = moved(state.profile, films(water, winding, air), np.asarray(surface)[0])
    means, profile = chained(there, fourier, np.asarray(surface), kept_at)
    course_ = np.concatenate((state.means[None], means))
    return np.moveaxis(course_, 0, -1), State(profile, turns_c[2::2][kept_at])


def shut_away(state: State, winding: Winding, at_c: float, hours: float) -> State:
    """A spool in a sealed pack: it keeps its water and takes the temperature round the pack.

    Parameters
    ----------
    state : State
        The spool as it is packed [%, °C]
    winding : Winding
        Strand and winding [m]
    at_c : float
        Temperature round the pack [°C]
    hours : float
        How long [h]

    Returns
    -------
    State
        The spool after that [%, °C]
    """
    return State(state.profile, at_c + (state.turns_c - at_c) * _missing(winding.depth, winding.width, (hours,)))


@functools.lru_cache(maxsize=64)
def _missing(depth: float, width: float, hours: tuple[float, ...]) -> Array:
    return np.minimum(bar(np.array(hours) * 3600.0, depth, width, HEAT_CAPACITY), 1.0)


def _spans(hours: float) -> Array:
    """Times that follow a change, dense where things change fast."""
    return np.concatenate(([0.0], np.geomspace(min(0.02, hours / 50.0), hours, SPANS)))


def kept(state: State, water: Water, winding: Winding, air: Air, hours: float) -> State:
    """The spool after some hours in an air.

    Parameters
    ----------
    state : State
        The spool as it comes [%, °C]
    water : Water
        The polymer [m^2/s, J/mol, %]
    winding : Winding
        Strand and winding [m]
    air : Air
        The surroundings [°C, -]
    hours : float
        How long, more than 0 [h]

    Returns
    -------
    State
        The spool after that [%, °C]
    """
    return passed(state, water, winding, air, _spans(hours))[1]


def course(state: State, water: Water, winding: Winding, air: Air, hours: Array) -> Array:
    """Mean moisture over time in one air.

    Parameters
    ----------
    state : State
        The spool as it comes [%, °C]
    water : Water
        The polymer [m^2/s, J/mol, %]
    winding : Winding
        Strand and winding [m]
    air : Air
        The surroundings [°C, -]
    hours : ndarray
        Times since the change [h]

    Returns
    -------
    ndarray
        Moisture of scenarios x turns x times [%]
    """
    wanted = np.asarray(hours, dtype=float)
    every = np.union1d(wanted, _spans(float(wanted.max()))) if wanted.max() > 0.0 else np.zeros(1)
    if len(every) < 2:
        return state.means[..., None] * np.ones(len(wanted))
    return passed(state, water, winding, air, every)[0][..., np.searchsorted(every, wanted)]


def hours_until(moisture: Array, hours: Array, limit: float) -> Array:
    """First time at which a falling or rising course passes a limit.

    Parameters
    ----------
    moisture : ndarray
        Courses along a last axis [%]
    hours : ndarray
        Times of the last axis [h]
    limit : float
        The limit [%]

    Returns
    -------
    ndarray
        Hours until it is passed; 0 where it is on the far side from the start, infinity where it is never [h]
    """
    over = moisture - limit
    side = np.sign(over[..., :1])
    crossed = (np.sign(over) != side) | (over == 0.0)
    first = np.argmax(crossed, axis=-1)
    ever = crossed.any(axis=-1)
    before = np.maximum(first - 1, 0)
    a = np.take_along_axis(over, before[..., None], axis=-1)[..., 0]
    b = np.take_along_axis(over, first[..., None], axis=-1)[..., 0]
    share = np.where(a == b, 0.0, a / np.where(a == b, 1.0, a - b))
    found = hours[before] + share * (hours[first] - hours[before])
    return np.where(ever, found, np.inf)


@attrs.frozen(eq=False)
class Passing:
    """When a spool that dries or drinks passes a limit: its moisture in every scenario and turn over time."""

    times_h: Array
    moisture: Array  # scenarios x turns x times [%]
    limit: float  # [%]
    dries: bool
    _known: dict[int, tuple[float, float, float]] = attrs.field(factory=dict, init=False, repr=False)  # by turn

    def hours(self, turn: int) -> tuple[float, float, float]:
        """Likely, soonest and latest hours at which a turn passes it; 0 for at once, infinity for never [h]."""
        if turn not in self._known:
            self._known[turn] = self._hours(turn)
        return self._known[turn]

    def _hours(self, turn: int) -> tuple[float, float, float]:
        courses = sampled(self.moisture[:, turn])
        likely, low, high = np.where(self._begun(courses[:, 0]), 0.0, hours_until(courses, self.times_h, self.limit))
        soonest, latest = (low, high) if self.dries else (high, low)
        return float(likely), float(soonest), float(latest)

    def likely_h(self, turn: int) -> float:
        """The likely hours alone [h]."""
        course_ = self.moisture[LIKELY, turn]
        return 0.0 if self._begun(course_[0]) else float(hours_until(course_, self.times_h, self.limit))

    def _begun(self, before: Array) -> Array:
        return np.asarray(before <= self.limit if self.dries else before > self.limit)


def hung(
    state: State, water: Water, winding: Winding, air: Air, limit: float, hours: float | None = None
) -> tuple[Passing, State]:
    """When a spool in an air passes a limit, and how it is after some hours there, in one go.

    Parameters
    ----------
    state : State
        The spool as it comes [%, °C]
    water : Water
        The polymer [m^2/s, J/mol, %]
    winding : Winding
        Strand and winding [m]
    air : Air
        The surroundings [°C, -]
    limit : float
        Moisture that still prints well [%]
    hours : float or None
        After how long its state is wanted; None for as it comes [h]

    Returns
    -------
    tuple of Passing and State
        When it passes the limit [h], and the spool after those hours [%, °C]
    """
    times = _TIMES_H if not hours else np.union1d(_TIMES_H, [hours])
    at = int(np.searchsorted(times, hours)) - 1 if hours else -1
    moisture, after = passed(state, water, winding, air, times, at)
    dries = bool(moisture[LIKELY, MEAN, -1] <= moisture[LIKELY, MEAN, 0])
    return Passing(times, moisture, limit, dries), after if hours else state
