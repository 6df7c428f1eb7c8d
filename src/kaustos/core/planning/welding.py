"""How strong the weld between two layers becomes: heat of the growing stack, chains or crystals, as draws."""

import functools
import math
from collections.abc import Callable

import attrs
import numpy as np

from kaustos.core.estimates import WELD
from kaustos.core.estimates.assumed import Band
from kaustos.core.physics.layers import (
    Responses,
    Stack,
    film_nodes,
    film_of,
    first_look,
    interpolating,
    looks,
    responses,
)
from kaustos.core.physics.weld import crystal_rate, crystallised, healed, weld_index
from kaustos.core.planning.draws import Array, drawn, estimate, middle, normal
from kaustos.core.records import Estimate, Polymer

METHOD = "chains that heal, or contact that closes, in the heat of a stack of layers that grows"
SOURCE = "Wool; Yang and Pitchumani (2002); heat data: estimates"
FILMS = (4.0, 110.0)  # between which films of air and radiation lie [W/m^2/K]
NODES = 10  # films that are solved for a map
PERIODS = (1.5, 1200.0)  # times of a layer that a map over time may show [s]
PERIOD_NODES = 10


@attrs.frozen(kw_only=True)
class Section:
    """A part at one height, as far as its heat goes."""

    layer_mm: float
    period_s: float
    below: int  # layers under it
    edge_mm: float  # perimeter over area of what is filled [1/mm]


@attrs.frozen(kw_only=True)
class Matter:
    """What of a polymer decides its weld."""

    is_glassy: bool
    glass_c: float | None
    melting_c: float | None
    conductivity: float
    heat: float  # [J/m^3/K]
    fastest_c: float | None
    half_s: float | None
    onset_c: float | None
    is_rubbery: bool
    half: Band  # shortfall to melting at which the index is a half

    @property
    def is_known(self) -> bool:
        """Whether the transition that decides is known."""
        return (self.glass_c if self.is_glassy else self.melting_c) is not None

    @property
    def sets_at_c(self) -> float | None:
        """Temperature below which a layer carries the next one [°C]."""
        if self.is_glassy:
            return None if self.glass_c is None else self.glass_c - WELD["softens"].value
        if self.onset_c is None:
            return None
        return self.onset_c - WELD["sets_rubber" if self.is_rubbery else "sets_below"].value


@attrs.frozen(kw_only=True, eq=False)
class Welded:
    """The weld at one height, draw by draw."""

    healed: Array  # degree of healing, cut at 1; empty for a crystallising polymer
    index: Array  # weld index; empty for a glassy one
    contact_c: Array
    skin_c: Array  # of the lower layer as the next one comes
    end_c: Array  # of a layer as the next one comes
    above_s: float  # likely time above glass transition or crystallisation onset
    crystals: float | None  # likely relative crystallinity at the end of a layer

    @property
    def share(self) -> Array:
        """What of the bulk the heat alone leaves [1]."""
        return self.healed if self.healed.size else self.index

    def band(self, draws: Array, unit: str) -> Estimate:
        """Draws of it [its unit] as an estimate."""
        return estimate(draws, unit, METHOD, SOURCE)


def matter_of(polymer: Polymer) -> Matter | None:
    """What of a polymer decides its weld.

    Parameters
    ----------
    polymer : Polymer
        With transitions and heat data [°C, W/m/K]

    Returns
    -------
    Matter or None
        None where its heat data are not known [W/m/K, J/m^3/K]
    """
    k, cp, rho = (polymer.value(key) for key in ("conductivity_w_mk", "heat_capacity_kj_kgk", "density_g_cm3"))
    if k is None or cp is None or rho is None or not min(k.value, cp.value, rho.value) > 0.0:
        return None
    keys = ("glass_transition_c", "melting_c", "crystal_fastest_c", "crystal_half_s", "crystallisation_c")
    glass, melting, fastest, half, onset = (
        each.value if (each := polymer.value(key)) is not None else None for key in keys
    )
    return Matter(
        is_glassy=polymer.is_glassy,
        glass_c=glass,
        melting_c=melting,
        conductivity=k.value,
        heat=rho.value * cp.value * 1e6 * WELD["heat_rises"].value,
        fastest_c=fastest,
        half_s=half,
        onset_c=onset,
        is_rubbery=polymer.character == "rubbery",
        half=WELD[f"half.{polymer.family}" if f"half.{polymer.family}" in WELD else "half"].band,
    )


@functools.lru_cache(512)
def unit_of(
    section: Section, conductivity: float, heat: float, films: tuple[float, float] = FILMS, nodes: int = NODES
) -> Responses:  # fmt: skip
    """Unit responses at one height for all films between two, remembered.

    Parameters
    ----------
    section : Section
        Layer, time, edge [mm, s]
    conductivity : float
        Of the polymer [W/m/K]
    heat : float
        Density times specific heat [J/m^3/K]
    films : tuple of float
        Least and most [W/m^2/K]
    nodes : int
        Films that are solved [-]

    Returns
    -------
    Responses
        At nodes between the least and the most film [1]
    """
    return responses(stack_of(section, conductivity, heat), film_nodes(*films, nodes))


def stack_of(section: Section, conductivity: float, heat: float) -> Stack:
    """A section as a stack in SI units.

    Parameters
    ----------
    section : Section
        Layer, time, edge [mm, s]
    conductivity : float
        Of the polymer [W/m/K]
    heat : float
        Density times specific heat [J/m^3/K]

    Returns
    -------
    Stack
        The same [m, s]
    """
    return Stack(
        layer=section.layer_mm * 1e-3, period=section.period_s, below=max(section.below, 1),
        conductivity=conductivity, heat=heat, edge=section.edge_mm * 1e3,
    )  # fmt: skip


def near_film(section: Section, conductivity: float, heat: float, film: float) -> Responses:
    """Unit responses for films round a likely one, wide enough for its draws and for those of its neighbours.

    Parameters
    ----------
    section : Section
        Layer, time, edge [mm, s]
    conductivity : float
        Of the polymer [W/m/K]
    heat : float
        Density times specific heat [J/m^3/K]
    film : float
        Likely one [W/m^2/K]

    Returns
    -------
    Responses
        At few nodes [1]
    """
    step = math.floor(math.log(film / FILMS[0]) / math.log(RUNG))
    low = FILMS[0] * RUNG**step
    span = WELD["film"]
    ends = (max(0.9 * low * span.low, FILMS[0] * 0.5), 1.1 * low * RUNG * span.high)
    return unit_of(section, conductivity, heat, ends, POINT_NODES)


RUNG, POINT_NODES = 1.6, 5


def air_film(stirred: bool, fan: float) -> float:
    """Film of the air round a part, likely.

    Parameters
    ----------
    stirred : bool
        Whether a fan stirs the chamber [-]
    fan : float
        Part fan, 0 to 1 [1]

    Returns
    -------
    float
        Radiation apart [W/m^2/K]
    """
    base = WELD["stirred" if stirred else "still"].value
    return base + fan * (WELD["blown"].value - base)


def films_over(air: float, surroundings_c: Array | float) -> Array:
    """Film with radiation, likely, kept between the ends that are solved [W/m^2/K].

    Parameters
    ----------
    air : float
        Film of the air alone [W/m^2/K]
    surroundings_c : float or ndarray
        Chamber [°C]

    Returns
    -------
    ndarray
        Film [W/m^2/K]
    """
    return np.clip(film_of(air, surroundings_c, warmer=WELD["warmer"].value), FILMS[0] * 1.02, FILMS[1] * 0.98)


def welded(
    matter: Matter, section: Section, melt_c: Array, air_c: Array, plate_c: float, air_film_w: float
) -> Welded | None:
    """The weld at one height.

    Parameters
    ----------
    matter : Matter
        Of the polymer [°C, W/m/K]
    section : Section
        The height [mm, s]
    melt_c : ndarray
        Draws of the melt as it leaves the nozzle [°C]
    air_c : ndarray
        Draws of the air round the part [°C]
    plate_c : float
        Of the plate [°C]
    air_film_w : float
        Film of the air alone, likely [W/m^2/K]

    Returns
    -------
    Welded or None
        None where the transition that decides is not known [1]
    """
    if not matter.is_known:
        return None
    likely_film = middle(films_over(air_film_w, air_c))
    unit = near_film(section, matter.conductivity, matter.heat, likely_film)
    film = films_over(air_film_w, air_c) * drawn("film", WELD["film"].band)
    unit = unit.at(np.clip(film, unit.films[0], unit.films[-1]))
    over, plate = (melt_c - air_c), (plate_c - air_c)
    face = air_c[:, None] + over[:, None] * unit.melt + plate[:, None] * unit.plate
    skin = air_c + over * unit.skin_melt + plate * unit.skin_plate
    end = air_c + over * unit.end_melt + plate * unit.end_plate
    contact = 0.5 * (melt_c + skin)
    likely = np.median(face, axis=0)
    nothing = np.zeros(0)
    if matter.is_glassy:
        assert matter.glass_c is not None
        chains = drawn("relaxes", WELD["relaxes"].band) ** 0.25
        share = np.minimum(healed(unit.lasts, face, matter.glass_c) / chains, 1.0)
        return Welded(
            healed=share,
            index=nothing,
            contact_c=contact,
            skin_c=skin,
            end_c=end,
            above_s=_above(unit.lasts, likely, matter.glass_c),
            crystals=None,
        )
    assert matter.melting_c is not None
    low, likely_half, high = matter.half
    half = likely_half + normal("weld half") * (high - low) / 2.0 / 1.96
    return Welded(
        healed=nothing,
        index=weld_index(matter.melting_c - contact, half, WELD["width"].value),
        contact_c=contact,
        skin_c=skin,
        end_c=end,
        above_s=_above(unit.lasts, likely, matter.onset_c or matter.melting_c),
        crystals=_crystals(matter, section, unit.times, likely),
    )


def _above(lasts: Array, face: Array, limit_c: float) -> float:
    """How long a face stays above a temperature, in the history that was looked at [s]."""
    return float(lasts[face > limit_c].sum())


def _crystals(matter: Matter, section: Section, times: Array, face: Array) -> float | None:
    """Relative crystallinity of a face as the next layer comes, likely [1]."""
    if matter.fastest_c is None or matter.half_s is None:
        return None
    first = times <= section.period_s * 1.0001
    rates = crystal_rate(face[first], matter.fastest_c, matter.half_s, WELD["bell"].value)
    return float(crystallised(times[first], rates)[-1])


def share_map(
    matter: Matter, section: Section, melt_c: Array, air_c: Array, plate_c: float, air_film_w: float
) -> Array:
    """What of the bulk the heat alone leaves over a grid: melt along the first axis, air along the second, likely.

    Parameters
    ----------
    matter : Matter
        Of the polymer [°C, W/m/K]
    section : Section
        The height [mm, s]
    melt_c : ndarray
        Of the melt [°C]
    air_c : ndarray
        Of the air [°C]
    plate_c : float
        Of the plate [°C]
    air_film_w : float
        Film of the air alone [W/m^2/K]

    Returns
    -------
    ndarray
        Degree of healing before it is cut at 1, or weld index, melt by air [1]

    Notes
    -----
    Every temperature is scaled from the unit responses; only the film changes with the air, and is interpolated.
    """
    unit = unit_of(section, matter.conductivity, matter.heat).at(films_over(air_film_w, air_c))
    return _over(matter, unit, section.period_s, melt_c[:, None], air_c[None, :], plate_c)


def share_over_periods(
    matter: Matter, section: Section, periods_s: Array, melt_c: Array, air_c: float, plate_c: float, air_film_w: float
) -> Array:
    """The same over melt and time of a layer; where melt has two axes it is taken as it is, column by column.

    Parameters
    ----------
    matter : Matter
        Of the polymer [°C, W/m/K]
    section : Section
        The height, its time replaced [mm, s]
    periods_s : ndarray
        Times of a layer [s]
    melt_c : ndarray
        Of the melt: a row, or melt by time [°C]
    air_c : float
        Of the air [°C]
    plate_c : float
        Of the plate [°C]
    air_film_w : float
        Film of the air alone [W/m^2/K]

    Returns
    -------
    ndarray
        Degree of healing before it is cut at 1, or weld index, melt by time [1]
    """
    found = _over_periods(
        attrs.evolve(section, period_s=1.0),
        matter.conductivity,
        matter.heat,
        round(float(films_over(air_film_w, air_c)), 3),
    )
    nodes, lasts, melt_g, plate_g, skin_g, skin_p = found
    weights = interpolating(np.log(nodes), np.log(periods_s))
    over, plate = np.atleast_2d(melt_c.T).T - air_c, plate_c - air_c
    if matter.is_glassy:
        face = air_c + over[..., None] * (weights @ melt_g) + plate * (weights @ plate_g)
        return _of_chains(matter, lasts, face) * periods_s**0.25  # the integral scales with the time of a layer
    skin = air_c + over * (weights @ skin_g) + plate * (weights @ skin_p)
    return _of_contact(matter, over + air_c, skin)


@functools.lru_cache(32)
def _over_periods(
    section: Section, conductivity: float, heat: float, film: float
) -> tuple[Array, Array, Array, Array, Array, Array]:
    """Unit responses of one film at nodes over the logarithm of the time of a layer, looked at at the same shares."""
    nodes = film_nodes(*PERIODS, PERIOD_NODES)
    there = [attrs.evolve(section, period_s=float(period)) for period in nodes]
    stacks = [stack_of(each, conductivity, heat) for each in there]
    first = min(map(first_look, stacks))
    units = [responses(each, film, first) for each in stacks]
    return (
        nodes,
        looks(first)[1],
        np.concatenate([each.melt for each in units]),
        np.concatenate([each.plate for each in units]),
        np.concatenate([each.skin_melt for each in units]),
        np.concatenate([each.skin_plate for each in units]),
    )


def _over(matter: Matter, unit: Responses, period_s: float, melt_c: Array, air_c: Array, plate_c: float) -> Array:
    """Weld over melt (first axis) and air (second axis, that of the films)."""
    over, plate = melt_c - air_c, plate_c - air_c
    if matter.is_glassy:
        face = air_c[..., None] + over[..., None] * unit.melt[None] + plate[..., None] * unit.plate[None]
        return np.asarray(_of_chains(matter, unit.lasts / period_s, face) * period_s**0.25)
    return _of_contact(matter, melt_c, air_c + over * unit.skin_melt[None] + plate * unit.skin_plate[None])


def _of_chains(matter: Matter, lasts: Array, face: Array) -> Array:
    """Degree of healing, likely, of faces whose layers take a second each."""
    assert matter.glass_c is not None
    return np.asarray(healed(lasts, face, matter.glass_c) / WELD["relaxes"].value ** 0.25)


def _of_contact(matter: Matter, melt_c: Array, skin_c: Array) -> Array:
    """Weld index, likely."""
    assert matter.melting_c is not None
    return weld_index(matter.melting_c - 0.5 * (melt_c + skin_c), matter.half[1], WELD["width"].value)


def least_period(end_at: Callable[[float], float], sets_at_c: float, least_s: float, most_s: float) -> float | None:
    """The time of a layer after which it carries the next one.

    Parameters
    ----------
    end_at : callable
        Temperature at the end of a layer by its time [°C] by [s]
    sets_at_c : float
        That it must come down to [°C]
    least_s : float
        Shortest that is looked at [s]
    most_s : float
        Longest [s]

    Returns
    -------
    float or None
        The shortest where none is needed, None where none is enough [s]
    """
    if end_at(least_s) <= sets_at_c:
        return least_s
    if end_at(most_s) > sets_at_c:
        return None
    low, high = math.log(least_s), math.log(most_s)
    above, below = end_at(least_s) - sets_at_c, end_at(most_s) - sets_at_c
    for _ in range(LOOKS):  # false position on the logarithm, halving where one end stays
        place = low + (high - low) * min(max(above / (above - below), 0.15), 0.85)
        off = end_at(math.exp(place)) - sets_at_c
        if abs(off) < CLOSE_K and off <= 0.0:
            return math.exp(place)
        if off > 0.0:
            low, above = place, off
        else:
            high, below = place, off
    return math.exp(high)


LOOKS, CLOSE_K = 6, 0.5
