"""The chamber and the plate of a machine as models: from its record, or from what was fitted to a log of it."""

import functools

import attrs
import numpy as np

from kaustos.core.estimates import CHAMBERS
from kaustos.core.estimates.assumed import Band
from kaustos.core.memo import by_identity
from kaustos.core.physics.chamber import Chamber, heat_for, steady, surface, warm_up
from kaustos.core.planning.draws import DRAWS, Array, drawn, estimate
from kaustos.core.records import Calibration, Enclosure, Estimate, Layer, Machine

SOURCE = "sizes in the machine record; losses and gaps: practice, estimate"
AIR_DENSITY, AIR_HEAT = 1.1, 1006.0  # of warm air [kg/m³, J/kg/K]
SETTLED_K = CHAMBERS["settled"].value
NEVER_H = 1e3


def _draws(key: str) -> Array:
    return drawn(key, CHAMBERS[key].band)


@by_identity(64)
def chamber_of(machine: Machine, fit: Calibration | None) -> Chamber | None:
    """The chamber of a machine as draws; None where its sizes or walls are not recorded.

    Parameters
    ----------
    machine : Machine
        With its enclosure and the size of its plate [mm]
    fit : Calibration or None
        Losses and capacity fitted to a log, which go before what the walls suggest [W/K, J/K]

    Returns
    -------
    Chamber or None
        Conductances and capacities [W/K, J/K]
    """
    space = machine.enclosure
    sizes = (space.inner_x_mm, space.inner_y_mm, space.inner_z_mm)
    if None in sizes or space.wall is None or space.kind in (None, "open"):
        return None
    x, y, z = ((each or 0.0) / 1e3 for each in sizes)
    if not min(x, y, z) > 0.0:
        return None
    area, volume = 2.0 * (x * y + y * z + z * x), x * y * z
    losses = area / (1.0 / drawn(f"loses.{space.wall}", CHAMBERS[f"loses.{space.wall}"].band) + _insulated(space))
    frame = CHAMBERS["frame_kg"].band if space.frame_kg is None else (max(space.frame_kg, 0.01),) * 3
    stored = 1e3 * (area * drawn(f"stores.{space.wall}", CHAMBERS[f"stores.{space.wall}"].band)
                    + drawn("frame mass", frame) * _draws("frame"))  # fmt: skip
    if fit is not None and "losses_w_k" in fit.values:
        losses = drawn("fitted losses", _fitted(fit, "losses_w_k"))
    if fit is not None and "capacity_j_k" in fit.values:
        stored = drawn("fitted capacity", _fitted(fit, "capacity_j_k"))
    stirred = CHAMBERS["stirred"].value if space.fan else 1.0
    inner = np.maximum(area * stirred * _draws("inner_film"), 1.2 * losses)
    air = AIR_DENSITY * AIR_HEAT * volume
    plate = (machine.travel_x_mm or 0.0) * (machine.travel_y_mm or 0.0) * 1e-6
    return Chamber(
        air=3.0 * air, wall=stored, air_to_wall=inner, air_to_room=air * _draws("changes") / 3600.0,
        wall_to_room=1.0 / (1.0 / losses - 1.0 / inner), plate_to_air=plate * _draws("plate_air"),
        plate_to_wall=plate * _draws("plate_wall"),
    )  # fmt: skip


def _insulated(space: Enclosure) -> Array | float:
    """Resistance of added insulation [m²K/W]."""
    return 0.0 if not space.insulation_mm else space.insulation_mm / 1e3 / _draws("insulation")


def _fitted(fit: Calibration, key: str) -> Band:
    """A fitted number with its band, wider where what it was fitted to was changed since."""
    value, half = fit.values[key], fit.values.get(f"{key}_half", 0.2 * fit.values[key])
    low, high = max(value - half, 0.2 * value), value + half
    wide = 1.0 if fit.is_valid else CHAMBERS["fit_stale"].value
    return low / wide, value, high * wide


def idle_heat() -> Array:
    """Heat of hot end, motors and supply that stays in the warm space, as draws [W].

    Returns
    -------
    ndarray
        Power [W]
    """
    return _draws("idle")


@functools.lru_cache(256)
def expected_air(chamber: Chamber, plate_c: float, room_c: float) -> Estimate:
    """The air that a plate alone makes in a closed chamber.

    Parameters
    ----------
    chamber : Chamber
        As draws [W/K]
    plate_c : float
        Of the hot plate [°C]
    room_c : float
        Of the room [°C]

    Returns
    -------
    Estimate
        Air after hours [°C]
    """
    air, _ = steady(chamber, idle_heat(), plate_c, room_c)
    return estimate(air, "°C", "heat of the plate and of the drives against losses through walls", SOURCE)


@functools.lru_cache(256)
def power_wanted(chamber: Chamber, air_c: float, plate_c: float, room_c: float) -> Estimate:
    """The heater power that holds the air at a temperature.

    Parameters
    ----------
    chamber : Chamber
        As draws [W/K]
    air_c : float
        Air that is wanted [°C]
    plate_c : float
        Of the hot plate [°C]
    room_c : float
        Of the room [°C]

    Returns
    -------
    Estimate
        Nothing where the plate alone is enough [W]
    """
    needed = np.maximum(heat_for(chamber, air_c, plate_c, room_c) - idle_heat(), 0.0)
    return estimate(needed, "W", "losses at rest less what plate and drives give", SOURCE)


@attrs.frozen(eq=False)
class Times:
    """When the air is there, and when the walls have followed."""

    air: Estimate
    soaked: Estimate


@functools.lru_cache(256)
def warm_times(chamber: Chamber, air_c: float | None, heater_w: float, plate_c: float, room_c: float) -> Times:
    """How long a chamber takes with its heater, and until its walls are soaked.

    Parameters
    ----------
    chamber : Chamber
        As draws [W/K, J/K]
    air_c : float or None
        Air that is wanted; None for 1 K short of where it comes to rest by itself [°C]
    heater_w : float
        Power of the heater, 0 for none [W]
    plate_c : float
        Of the hot plate [°C]
    room_c : float
        Of the room [°C]

    Returns
    -------
    Times
        As long as a thousand hours where it never gets there [h]

    Notes
    -----
    Full power until the air is there, then held there while the walls follow.
    """
    course = warm_up(chamber, heater_w + idle_heat(), plate_c, room_c)
    wanted = np.maximum(course.air_rest_c - 1.0, room_c) if air_c is None else np.full(DRAWS, air_c)
    seconds = _first_over(course.air, wanted, course.rates[1])
    held = np.maximum(heat_for(chamber, wanted, plate_c, room_c), 0.0)
    wall_end = steady(chamber, held, plate_c, room_c)[1]
    wall_now = course.wall(np.minimum(seconds, 3600.0 * NEVER_H))
    wall_rate = (np.asarray(chamber.air_to_wall, float) + np.asarray(chamber.wall_to_room, float)) / chamber.wall
    lag = np.log(np.maximum((wall_end - wall_now) / SETTLED_K, 1.0)) / wall_rate
    hours = np.minimum(seconds / 3600.0, NEVER_H)
    method = f"full power, then held until the walls are within {SETTLED_K:g} K of rest"
    return Times(
        estimate(hours, "h", "full power until the air is there", SOURCE),
        estimate(np.minimum(hours + lag / 3600.0, NEVER_H), "h", method, SOURCE),
    )


def _first_over(course, wanted_c: Array, slow: Array) -> Array:  # type: ignore[no-untyped-def]
    """When a rising course first passes a temperature, by halving [s]; very long where it does not."""
    low, high = np.zeros(DRAWS), 12.0 / slow
    never = course(high) < wanted_c
    for _ in range(50):
        middle = 0.5 * (low + high)
        under = course(middle) < wanted_c
        low, high = np.where(under, middle, low), np.where(under, high, middle)
    return np.where(never, 3600.0 * NEVER_H, high)


@attrs.frozen(eq=False)
class Top:
    """What lies on the plate: its top, how far below the sensor that is, how long it takes to follow."""

    surface: Estimate
    drop: Estimate
    settles: Estimate


@functools.lru_cache(256)
def top_of(stack: tuple[Layer, ...], heated_c: float, air_c: float, fit: Calibration | None) -> Top | None:
    """The top of a plate through the stack that lies on it; None where a layer is not known whole.

    Parameters
    ----------
    stack : tuple of Layer
        From the heater upwards [mm]
    heated_c : float
        Where the sensor is, in truth [°C]
    air_c : float
        Above the plate [°C]
    fit : Calibration or None
        What was measured of this drop: ``drop_k`` at ``at_c`` [K, °C]

    Returns
    -------
    Top or None
        Surface, drop and time to settle [°C, K, min]
    """
    if not stack or any(each.material is None or each.thickness_mm is None for each in stack):
        return None
    below, stored, lag = np.zeros(DRAWS), np.zeros(DRAWS), np.zeros(DRAWS)
    for place, each in enumerate(stack):
        deep = (each.thickness_mm or 0.0) / 1e3
        across = deep / drawn(f"conducts.{each.material}", CHAMBERS[f"conducts.{each.material}"].band)
        gap = 0.0 if each.loose is False else 1e-3 * drawn(f"contact {place}", CHAMBERS["contact"].band)
        held = 1e6 * deep * drawn(f"holds.{each.material}", CHAMBERS[f"holds.{each.material}"].band)
        lag = lag + held * (below + gap + across / 2.0)
        below, stored = below + gap + across, stored + held
    top = surface(heated_c, below, _draws("film"), air_c)
    if fit is not None and fit.is_valid and "drop_k" in fit.values and fit.values.get("at_c", 0.0) > air_c:
        share = fit.values["drop_k"] / (fit.values["at_c"] - air_c)
        top = heated_c - share * max(heated_c - air_c, 0.0) * drawn("drop spread", (0.85, 1.0, 1.15))
    even = _draws("even")
    return Top(
        estimate(top, "°C", "heat through the stack against what the top gives off", SOURCE),
        estimate(heated_c - top, "K", "sensor less surface", SOURCE),
        estimate(
            3.0 * lag / 60.0 + even, "min", "three time constants of the stack, and until the edges follow", SOURCE
        ),
    )
