"""A chamber as two lumped nodes, air and structure; a plate through the stack that lies on it."""

import attrs
import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]
STEFAN_BOLTZMANN = 5.670374419e-8  # [W/m^2/K^4]
KELVIN = 273.15
ROUNDS = 60


@attrs.frozen(kw_only=True, eq=False)
class Chamber:
    """Conductances and capacities; numbers or arrays of draws."""

    air: ArrayLike  # capacity of the air and what is as quick [J/K]
    wall: ArrayLike  # capacity of walls and frame [J/K]
    air_to_wall: ArrayLike  # [W/K]
    air_to_room: ArrayLike  # by leaks [W/K]
    wall_to_room: ArrayLike  # by convection outside [W/K]
    radiating: ArrayLike = 0.0  # area times emissivity that the structure shows to the room [m^2]
    plate_to_air: ArrayLike = 0.0  # [W/K]
    plate_to_wall: ArrayLike = 0.0  # by radiation, taken as constant [W/K]


def radiation(area: ArrayLike, warm_c: ArrayLike, cold_c: ArrayLike) -> Array:
    """Conductance that carries what two grey surfaces exchange by radiation.

    Parameters
    ----------
    area : float or ndarray
        Area times emissivity [m^2]
    warm_c : float or ndarray
        Temperature of the one [°C]
    cold_c : float or ndarray
        Temperature of the other [°C]

    Returns
    -------
    ndarray
        Heat flow over the difference, exact at these two temperatures [W/K]

    References
    ----------
    Stefan and Boltzmann's law, T1^4 - T2^4 split into (T1 - T2)(T1 + T2)(T1^2 + T2^2).

    Examples
    --------
    >>> round(float(radiation(1.0, 20.0, 20.0)), 2)
    5.71
    """
    warm, cold = np.asarray(warm_c, float) + KELVIN, np.asarray(cold_c, float) + KELVIN
    return np.asarray(STEFAN_BOLTZMANN * np.asarray(area, float) * (warm + cold) * (warm**2 + cold**2))


def steady(chamber: Chamber, heat: ArrayLike, plate_c: ArrayLike, room_c: float) -> tuple[Array, Array]:
    """Temperatures that a chamber comes to.

    Parameters
    ----------
    chamber : Chamber
        Its conductances [W/K]
    heat : float or ndarray
        Given into the air by a heater and by what else runs warm [W]
    plate_c : float or ndarray
        Of the hot plate [°C]
    room_c : float
        Of the room [°C]

    Returns
    -------
    tuple of ndarray
        Air and structure [°C]

    Notes
    -----
    Radiation from the structure to the room is put in as an exact conductance at the temperature found before, until
    nothing moves.
    """
    wall = np.full(np.broadcast(np.asarray(heat, float), chamber.air_to_wall, chamber.wall_to_room).shape, room_c)
    air = wall
    for _ in range(ROUNDS):
        air, wall_new = _balance(chamber, heat, plate_c, room_c, _outwards(chamber, wall, room_c))
        if np.max(np.abs(wall_new - wall), initial=0.0) < 1e-12:
            break
        wall = wall_new
    return np.asarray(air), np.asarray(wall)


def _outwards(chamber: Chamber, wall_c: ArrayLike, room_c: float) -> Array:
    return np.asarray(np.asarray(chamber.wall_to_room, float) + radiation(chamber.radiating, wall_c, room_c))


def _balance(
    chamber: Chamber, heat: ArrayLike, plate_c: ArrayLike, room_c: float, outwards: Array
) -> tuple[Array, Array]:
    """Air and structure at rest, radiation as a conductance [°C]."""
    a_w, a_r = np.asarray(chamber.air_to_wall, float), np.asarray(chamber.air_to_room, float)
    p_a, p_w = np.asarray(chamber.plate_to_air, float), np.asarray(chamber.plate_to_wall, float)
    plate = np.asarray(plate_c, float)
    into_air = np.asarray(heat, float) + p_a * plate + a_r * room_c
    into_wall = p_w * plate + outwards * room_c
    m_aa, m_ww = a_w + a_r + p_a, a_w + outwards + p_w
    det = m_aa * m_ww - a_w**2
    return (m_ww * into_air + a_w * into_wall) / det, (a_w * into_air + m_aa * into_wall) / det


@attrs.frozen(eq=False)
class WarmUp:
    """How a chamber warms: two exponentials of air and structure round where they come to rest."""

    air_rest_c: Array
    wall_rest_c: Array
    rates: tuple[Array, Array]  # [1/s]
    air_parts: tuple[Array, Array]  # [K]
    wall_parts: tuple[Array, Array]  # [K]

    def air(self, seconds: ArrayLike) -> Array:
        """Air after some time [°C]."""
        return self.air_rest_c + self._sum(self.air_parts, seconds)

    def wall(self, seconds: ArrayLike) -> Array:
        """Structure after some time [°C]."""
        return self.wall_rest_c + self._sum(self.wall_parts, seconds)

    def _sum(self, parts: tuple[Array, Array], seconds: ArrayLike) -> Array:
        time = np.asarray(seconds, float)
        return sum((part * np.exp(-rate * time) for part, rate in zip(parts, self.rates, strict=True)), np.zeros(1))


def warm_up(
    chamber: Chamber, heat: ArrayLike, plate_c: ArrayLike, room_c: float,
    start: tuple[ArrayLike, ArrayLike] | None = None,
) -> WarmUp:  # fmt: skip
    """How a chamber warms from the room, or from where it stands.

    Parameters
    ----------
    chamber : Chamber
        Conductances and capacities [W/K, J/K]
    heat : float or ndarray
        Given into the air [W]
    plate_c : float or ndarray
        Of the hot plate [°C]
    room_c : float
        Of the room [°C]
    start : tuple of float or None
        Air and structure at the beginning; the room where it is None [°C]

    Returns
    -------
    WarmUp
        Closed form of both temperatures [°C]

    Notes
    -----
    Radiation to the room is a conductance at the temperatures of rest, so that the end is exact and the way there a
    little quick.
    """
    air_end, wall_end = steady(chamber, heat, plate_c, room_c)
    outwards = _outwards(chamber, wall_end, room_c)
    a_w = np.asarray(chamber.air_to_wall, float)
    c_a, c_w = np.asarray(chamber.air, float), np.asarray(chamber.wall, float)
    m_aa = (a_w + np.asarray(chamber.air_to_room, float) + np.asarray(chamber.plate_to_air, float)) / c_a
    m_ww = (a_w + outwards + np.asarray(chamber.plate_to_wall, float)) / c_w
    m_aw, m_wa = a_w / c_a, a_w / c_w
    middle, half = (m_aa + m_ww) / 2.0, np.sqrt(((m_aa - m_ww) / 2.0) ** 2 + m_aw * m_wa)
    fast, slow = middle + half, middle - half
    first = (room_c, room_c) if start is None else start
    off_a, off_w = np.asarray(first[0], float) - air_end, np.asarray(first[1], float) - wall_end
    # each mode: structure over air is (m_aa - rate) / m_aw
    k_fast, k_slow = (m_aa - fast) / m_aw, (m_aa - slow) / m_aw
    in_fast = (off_w - k_slow * off_a) / (k_fast - k_slow)
    in_slow = off_a - in_fast
    return WarmUp(air_end, wall_end, (fast, slow), (in_fast, in_slow), (k_fast * in_fast, k_slow * in_slow))


def heat_for(chamber: Chamber, air_c: ArrayLike, plate_c: ArrayLike, room_c: float) -> Array:
    """Heat into the air that holds it at a temperature.

    Parameters
    ----------
    chamber : Chamber
        Its conductances [W/K]
    air_c : float or ndarray
        Air that is wanted [°C]
    plate_c : float or ndarray
        Of the hot plate [°C]
    room_c : float
        Of the room [°C]

    Returns
    -------
    ndarray
        Negative where the plate alone makes it hotter [W]
    """
    air, plate = np.asarray(air_c, float), np.asarray(plate_c, float)
    a_w, p_w = np.asarray(chamber.air_to_wall, float), np.asarray(chamber.plate_to_wall, float)
    wall = np.full(np.broadcast(air, a_w, np.asarray(chamber.wall_to_room, float)).shape, room_c)
    for _ in range(ROUNDS):
        outwards = _outwards(chamber, wall, room_c)
        moved = (a_w * air + p_w * plate + outwards * room_c) / (a_w + p_w + outwards)
        if np.max(np.abs(moved - wall), initial=0.0) < 1e-12:
            break
        wall = moved
    lost = a_w * (air - wall) + np.asarray(chamber.air_to_room, float) * (air - room_c)
    return np.asarray(lost - np.asarray(chamber.plate_to_air, float) * (plate - air))


def surface(heated_c: ArrayLike, resistance: ArrayLike, film: ArrayLike, air_c: ArrayLike) -> Array:
    """Temperature on top of what lies on a heated plate.

    Parameters
    ----------
    heated_c : float or ndarray
        Where the sensor is [°C]
    resistance : float or ndarray
        Of all layers and gaps up to the top [m^2 K/W]
    film : float or ndarray
        Convection and radiation from the top [W/m^2/K]
    air_c : float or ndarray
        Above it [°C]

    Returns
    -------
    ndarray
        Temperature of the top [°C]

    Notes
    -----
    Across the stack only; edges run colder.

    Examples
    --------
    >>> round(float(surface(100.0, 0.006, 12.0, 30.0)), 1)
    95.3
    """
    lost = np.asarray(resistance, float) * np.asarray(film, float)
    return np.asarray((np.asarray(heated_c, float) + lost * np.asarray(air_c, float)) / (1.0 + lost))
