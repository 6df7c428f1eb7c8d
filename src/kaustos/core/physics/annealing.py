"""How a part follows the air of an oven: behind the air its face, behind a packing its skin, behind that its core."""

import attrs
import numpy as np
from numpy.typing import NDArray

from kaustos.core.errors import KaustosError

Array = NDArray[np.float64]
CELLS, PACK_CELLS = 24, 8  # through half a section, and through what it is packed in


@attrs.frozen(kw_only=True, eq=False)
class Section:
    """The thickest section of a part, alone or in sand or a jig; each value one number, or as many as there are draws.

    Half of a flat wall, or the radius of a rod.
    """

    half: Array  # [m]
    conductivity: Array  # [W/m/K]
    capacity: Array  # heat held by a volume [J/m³/K]
    film: Array  # heat transfer from the air [W/m²/K]
    pack: float = 0.0  # what lies round it, nothing for a part that lies free [m]
    pack_conductivity: float = 0.3  # [W/m/K]
    pack_capacity: float = 1.3e6  # [J/m³/K]
    is_rod: bool = False

    def __attrs_post_init__(self) -> None:
        for name in ("half", "conductivity", "capacity", "film", "pack_conductivity", "pack_capacity"):
            if not np.all(np.asarray(getattr(self, name)) > 0.0):
                raise KaustosError(f"{name} of a section must be above nothing")
        if not self.pack >= 0.0:
            raise KaustosError(f"pack of a section must not be negative, got {self.pack!r}")


@attrs.frozen(kw_only=True, eq=False)
class Lags:
    """How far each stands behind the one before it in a long steady ramp [K]."""

    air: Array  # from the air to the face it meets
    pack: Array  # through sand or jig
    core: Array  # from skin to core


def lags(section: Section, ramp: float) -> Lags:
    """Lags of face, packing and core behind the air in a steady ramp.

    Parameters
    ----------
    section : Section
        The thickest section and what lies round it [m, W/m/K]
    ramp : float
        Of the air [K/s]

    Returns
    -------
    Lags
        Air to face, through the packing, skin to core [K]

    Notes
    -----
    Once every depth rises as the air does, the flux at a depth is the ramp times the heat held inside it. A flat wall
    of half L that lies free: r L rho cp / h and r L² / (2 alpha); a rod of radius R half of both.

    References
    ----------
    Carslaw and Jaeger, Conduction of Heat in Solids: slab and cylinder with their surface rising steadily

    Examples
    --------
    >>> one = np.ones(1)
    >>> bar = Section(half=0.015 * one, conductivity=0.25 * one, capacity=1.9e6 * one, film=15.0 * one)
    >>> [round(float(each[0]), 1) for each in (lags(bar, 1.0 / 60.0).air, lags(bar, 1.0 / 60.0).core)]
    [31.7, 14.2]
    """
    inner, outer = section.half, section.half + section.pack
    part, pack = section.capacity, section.pack_capacity
    across = section.pack_conductivity
    if section.is_rod:
        held = part * inner**2 / 2.0 + pack * (outer**2 - inner**2) / 2.0  # inside the face, for each radian
        through = (part - pack) * inner**2 / 2.0 * np.log(outer / inner) + pack * (outer**2 - inner**2) / 4.0
        return Lags(
            air=ramp * held / (outer * section.film), pack=ramp * through / across,
            core=ramp * part * inner**2 / (4.0 * section.conductivity),
        )  # fmt: skip
    held = part * inner + pack * section.pack
    return Lags(
        air=ramp * held / section.film, pack=ramp * section.pack * (part * inner + pack * section.pack / 2.0) / across,
        core=ramp * part * inner**2 / (2.0 * section.conductivity),
    )  # fmt: skip


@attrs.frozen(kw_only=True, eq=False)
class Course:
    """Face, skin and core over time; draws along the first axis, moments along the last [°C]."""

    seconds: Array
    air: Array
    face: Array  # of the packing, or the skin itself where nothing lies round it
    skin: Array
    core: Array


def followed(section: Section, nodes_s: Array, nodes_c: Array, seconds: Array) -> Course:
    """How a section follows air that runs straight from node to node, from rest at the first of them.

    Parameters
    ----------
    section : Section
        The thickest section and what lies round it [m, W/m/K]
    nodes_s : ndarray
        Moments of the nodes, rising [s]
    nodes_c : ndarray
        Air at the nodes; held after the last [°C]
    seconds : ndarray
        Moments that are asked for, rising [s]

    Returns
    -------
    Course
        Air, face, skin and core at each moment [°C]

    Notes
    -----
    Cells through half the section, solved exactly in their modes: a mode lags each straight piece by its own time
    constant. One dimension; what is packed round it touches it well.
    """
    chain = _chain(section)
    rates, shapes = np.linalg.eigh(chain.matrix)
    rates = np.maximum(rates, 1e-12)
    weight = np.einsum("ncm,nc->nm", shapes, chain.drive) / rates  # of each mode, for air that rises by one
    behind = _modes(rates, weight, nodes_s, nodes_c, seconds)  # draws, modes, moments
    air = np.interp(seconds, nodes_s, nodes_c)
    ends = np.einsum("nkc,ncm->nkm", chain.ends, shapes / np.sqrt(chain.holds)[..., None])
    found = air + np.einsum("nkm,nmt->nkt", ends, behind)
    return Course(seconds=seconds, air=air, face=found[:, 0], skin=found[:, 1], core=found[:, 2])


def _modes(rates: Array, weight: Array, nodes_s: Array, nodes_c: Array, seconds: Array) -> Array:
    """What each mode stands behind its steady value at each moment."""
    state = np.zeros_like(rates)
    found = np.zeros((*rates.shape, seconds.size))
    ends = [*nodes_s[1:], np.inf]
    slopes = [*(np.diff(nodes_c) / np.diff(nodes_s)), 0.0]
    for start, end, slope in zip(nodes_s, ends, slopes, strict=True):
        inside = (seconds >= start) & (seconds < end)
        to = -weight * slope / rates  # towards which it tends while the air runs so
        since = seconds[inside] - start
        found[..., inside] = to[..., None] + (state - to)[..., None] * np.exp(-rates[..., None] * since)
        if np.isfinite(end):
            state = to + (state - to) * np.exp(-rates * (end - start))
    return found


@attrs.frozen(kw_only=True, eq=False)
class _Chain:
    """Cells from core to face as one symmetric system, driven by the air."""

    holds: Array  # heat held by each cell
    matrix: Array
    drive: Array  # by which the air drives each mode's cell
    ends: Array  # how face, skin and core are made of the cells' lags


def _chain(section: Section) -> _Chain:
    draws = np.broadcast_shapes(*(np.shape(each) for each in (section.half, section.conductivity, section.capacity,
                                                              section.film)))  # fmt: skip
    half, conductivity, capacity, film = (
        np.broadcast_to(each, draws)[:, None]
        for each in (section.half, section.conductivity, section.capacity, section.film)
    )
    packs = PACK_CELLS if section.pack > 0.0 else 0
    edges = half * np.linspace(0.0, 1.0, CELLS + 1)
    if packs:
        edges = np.concatenate([edges, half + section.pack * np.linspace(0.0, 1.0, packs + 1)[1:]], axis=1)
    wide = np.diff(edges)
    conducts = np.concatenate([conductivity.repeat(CELLS, 1), np.full((draws[0], packs), section.pack_conductivity)], 1)
    stores = np.concatenate([capacity.repeat(CELLS, 1), np.full((draws[0], packs), section.pack_capacity)], 1)
    power = 2.0 if section.is_rod else 1.0
    volume = np.diff(edges**power) / power
    area = edges[:, 1:] ** (power - 1.0)
    resists = wide / (2.0 * conducts)  # from the middle of a cell to its edge
    between = area[:, :-1] / (resists[:, :-1] + resists[:, 1:])
    outer = area[:, -1:] / (resists[:, -1:] + 1.0 / film)
    holds, cells = stores * volume, CELLS + packs
    matrix = np.zeros((draws[0], cells, cells))
    at = np.arange(cells)
    lower = np.concatenate([np.zeros((draws[0], 1)), between], axis=1)
    upper = np.concatenate([between, outer], axis=1)
    matrix[:, at, at] = lower + upper
    matrix[:, at[1:], at[:-1]] = matrix[:, at[:-1], at[1:]] = -between
    root = np.sqrt(holds)
    drive = np.zeros((draws[0], cells))
    drive[:, -1:] = outer / root[:, -1:]
    # towards 1 everywhere as the air rises by one
    return _Chain(
        holds=holds, matrix=matrix / (root[:, :, None] * root[:, None, :]), drive=drive,
        ends=_ends(draws[0], cells, resists, film, area),
    )  # fmt: skip


def _ends(draws: int, cells: int, resists: Array, film: Array, area: Array) -> Array:
    """Face, skin and core out of the cells: by what conducts to either side, and by a parabola at the core."""
    ends = np.zeros((draws, 3, cells))
    face = (1.0 / film / (resists[:, -1:] + 1.0 / film))[:, 0]
    ends[:, 0, -1] = face
    if cells == CELLS:
        ends[:, 1, -1] = face
    else:
        inside, outside = resists[:, CELLS - 1], resists[:, CELLS]
        ends[:, 1, CELLS - 1] = outside / (inside + outside)
        ends[:, 1, CELLS] = inside / (inside + outside)
    ends[:, 2, 0], ends[:, 2, 1] = 9.0 / 8.0, -1.0 / 8.0
    return ends


def thermal_stress(
    difference: Array | float, modulus: float, expansion: float, poisson: float = 0.38, *, is_rod: bool = False
) -> Array:  # fmt: skip
    """Stress of the skin of a section whose core stands a difference behind it in a steady ramp.

    Parameters
    ----------
    difference : float or ndarray
        Skin less core [K]
    modulus : float
        Of elasticity, at the heat in question [Pa]
    expansion : float
        Linear thermal expansion [1/K]
    poisson : float
        Contraction across over stretch along [-]
    is_rod : bool
        Whether it is a rod, else a flat wall [-]

    Returns
    -------
    ndarray
        Of the skin, pressed while it warms, pulled while it cools [Pa]

    References
    ----------
    Timoshenko and Goodier, Theory of Elasticity: plate and cylinder with heat that changes through them

    Examples
    --------
    >>> round(float(thermal_stress(10.0, 3.0e9, 50e-6)) / 1e6, 2)
    1.61
    """
    share = 0.5 if is_rod else 2.0 / 3.0
    return np.asarray(share * modulus * expansion * np.asarray(difference, float) / (1.0 - poisson))


def stress_left(seconds: Array, celsius: Array, glass_c: Array, energy: Array, exponent: Array) -> Array:
    """Share of its stress that a glass keeps along a history of temperature.

    Parameters
    ----------
    seconds : ndarray
        Moments, from the first of which it counts [s]
    celsius : ndarray
        At each of them; time is its last axis [°C]
    glass_c : ndarray
        Glass transition, one for each draw [°C]
    energy : ndarray
        Of activation, one for each draw [J/mol]
    exponent : ndarray
        How far relaxation is stretched, one for each draw [-]

    Returns
    -------
    ndarray
        At each moment, 1 to 0 [1]

    Notes
    -----
    A stretched exponential whose time is 100 s at the glass transition and shifts with an activation energy
    (Kohlrausch, Williams and Watts; Arrhenius close to the glass transition). Above it by more than 30 K the shift is
    held.

    Examples
    --------
    >>> t, one = np.linspace(0.0, 100.0, 3), np.ones(1)
    >>> left = stress_left(t, np.full((1, 3), 147.0), 147.0 * one, 4e5 * one, 0.5 * one)
    >>> round(float(left[0, -1]), 4)
    0.3679
    """
    hot = np.minimum(np.asarray(celsius, float), glass_c[..., None] + 30.0) + 273.15
    shift = energy[..., None] / 8.314462618 * (1.0 / hot - 1.0 / (glass_c[..., None] + 273.15))
    rate = np.exp(-np.minimum(shift, 300.0)) / 100.0
    steps = 0.5 * (rate[..., 1:] + rate[..., :-1]) * np.diff(seconds)
    gone = np.concatenate([np.zeros((*rate.shape[:-1], 1)), np.cumsum(steps, axis=-1)], axis=-1)
    return np.asarray(np.exp(-(gone ** exponent[..., None])))
