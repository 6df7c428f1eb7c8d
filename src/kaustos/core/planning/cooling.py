"""How a plate with its part cools: behind a shut door, or with it open; and when it may come off."""

import attrs
import numpy as np

from kaustos.core.estimates import CHAMBERS, RUN
from kaustos.core.planning.draws import DRAWS, Array, drawn, ends, ends_along, estimate
from kaustos.core.records import Estimate, Layer

RAMP_MIN = 10.0
LONGEST_MIN = 720.0
METHOD = "plate and air as two lumped nodes"


@attrs.frozen(kw_only=True, eq=False)
class Body:
    """What cools, as draws."""

    plate_j_m2_k: Array  # heat that plate and part hold
    plate_w_m2_k: Array  # from both sides of it
    air_per_min: Array  # at which the air behind a shut door nears the room; no end where there is no door


def body_of(
    stack: tuple[Layer, ...], surface_j_m2_k: float, part_j_m2_k: float, air_min: Array | None,
    measured: Estimate | None = None,
) -> Body:  # fmt: skip
    """What cools on a machine.

    Parameters
    ----------
    stack : tuple of Layer
        That lies on the heater, surface and all [mm]
    surface_j_m2_k : float
        Heat held by the surface that is clamped on, where nobody wrote down the stack [J/m^2/K]
    part_j_m2_k : float
        And by the part, by the area of the plate [J/m^2/K]
    air_min : ndarray or None
        Minutes in which the air behind a shut door nears the room to a third; None for an open machine [min]
    measured : Estimate or None
        How quickly the plate of this machine was seen to cool, whatever lay on it: a part is waited for longer [1/min]

    Returns
    -------
    Body
        As draws [J/m^2/K, W/m^2/K, 1/min]
    """
    held = np.zeros(DRAWS)
    for each in stack:
        if each.material is not None and each.thickness_mm is not None:
            key = f"holds.{each.material}"
            held = held + 1e3 * each.thickness_mm * drawn(key, CHAMBERS[key].band)
    if not held.any():
        under = RUN["heater_holds"]
        held = drawn("plate holds", under.band) + (surface_j_m2_k or RUN["surface_holds"].value)
    loses = drawn("plate_air", CHAMBERS["plate_air"].band) + drawn("plate_wall", CHAMBERS["plate_wall"].band)
    if measured is not None:
        loses = held * drawn("plate cools", (measured.low, measured.value, measured.high)) / 60.0
    quick = np.full(DRAWS, np.inf) if air_min is None else 1.0 / np.maximum(air_min, 1e-3)
    return Body(plate_j_m2_k=held + part_j_m2_k, plate_w_m2_k=loses, air_per_min=quick)


@attrs.frozen(kw_only=True, eq=False)
class Cooling:
    """A course of cooling: rates as draws, and what follows from them."""

    rate: Array  # of the plate [1/min]
    air_rate: Array  # of the air behind a shut door; no end where the air is that of the room
    plate_c: float
    air_c: float
    room_c: float
    until: Estimate | None  # it may come off [min]; None where that is not reached in half a day
    steepest_k_min: float  # likely, of the plate, over ten minutes

    def plate_at(self, minutes: Array) -> tuple[Array, Array, Array]:
        """The plate after some minutes: least, likely, most [deg C]."""
        return ends_along(_plate(self, minutes[None, :]))

    def air_at(self, minutes: Array) -> Array:
        """The air after some minutes, likely [deg C]."""
        rate = float(np.median(self.air_rate))
        fallen = np.zeros(minutes.size) if np.isinf(rate) else np.exp(-rate * minutes)
        return np.asarray(self.room_c + (self.air_c - self.room_c) * fallen)


def cooled(body: Body, plate_c: float, air_c: float, room_c: float, release_c: float, *, is_open: bool) -> Cooling:
    """How a plate cools.

    Parameters
    ----------
    body : Body
        Plate, part and air [J/m^2/K, W/m^2/K]
    plate_c : float
        As it is at the end of the print [deg C]
    air_c : float
        Round it [deg C]
    room_c : float
        Of the room [deg C]
    release_c : float
        At which the part may come off [deg C]
    is_open : bool
        Whether the door is opened at once: the air is then that of the room [-]

    Returns
    -------
    Cooling
        Over time, and when it may come off [min, deg C]

    Notes
    -----
    With the air falling to the room as one exponential, the plate is the sum of two. Draws, the same for each input:
    more heat, warmer air or a hotter plate never cool sooner.
    """
    rate = 60.0 * body.plate_w_m2_k / body.plate_j_m2_k
    air_rate = np.full(DRAWS, np.inf) if is_open else body.air_per_min
    course = Cooling(
        rate=rate, air_rate=air_rate, plate_c=plate_c, air_c=air_c, room_c=room_c, until=None, steepest_k_min=0.0
    )  # fmt: skip
    minutes = _until(course, release_c)
    _, likely, _ = ends(minutes)
    found = None
    if likely < LONGEST_MIN:
        found = estimate(minutes, "min", METHOD, "heat held and lost by the plate, estimate")
    at = np.arange(0.0, 121.0, RAMP_MIN)
    likely_c = course.plate_at(at)[1]
    return attrs.evolve(course, until=found, steepest_k_min=float(np.max(-np.diff(likely_c)) / RAMP_MIN))


def _until(course: Cooling, release_c: float) -> Array:
    """Minutes after which the plate is at the release heat for good, by halving; the longest where it never is."""
    if np.isinf(course.air_rate).any():  # one exponential
        gone, goal = course.plate_c - course.room_c, release_c - course.room_c
        if gone <= goal:
            return np.zeros(DRAWS)
        found = np.log(gone / goal) / course.rate if goal > 0.0 else np.full(DRAWS, LONGEST_MIN)
        return np.asarray(np.minimum(found, LONGEST_MIN))
    low, high = _hottest_at(course), np.full(DRAWS, LONGEST_MIN)
    hot = _plate(course, low[:, None])[:, 0] > release_c
    for _ in range(20):  # to less than a tenth of a second
        middle = 0.5 * (low + high)
        warm = _plate(course, middle[:, None])[:, 0] > release_c
        low, high = np.where(warm, middle, low), np.where(warm, high, middle)
    never = _plate(course, np.full((1, 1), LONGEST_MIN))[:, 0] > release_c
    return np.where(never, LONGEST_MIN, np.where(hot, high, 0.0))


def _hottest_at(course: Cooling) -> Array:
    """Minutes after which the plate is hottest: at once, or later where the air behind the door is the hotter one."""
    if course.air_c <= course.plate_c:
        return np.zeros(DRAWS)
    plate_k, air_k = course.plate_c - course.room_c, course.air_c - course.room_c
    apart = course.rate - course.air_rate
    apart = np.where(np.abs(apart) < 1e-6, 1e-6, apart)
    from_plate = course.rate / apart * air_k - plate_k  # the plate is air_k r/(r-a) exp(-a t) less this of exp(-r t)
    from_air = course.air_rate / apart * air_k
    with np.errstate(invalid="ignore", divide="ignore"):
        found = np.log(from_plate / from_air) / apart
    return np.clip(np.nan_to_num(found, nan=0.0, posinf=LONGEST_MIN, neginf=0.0), 0.0, LONGEST_MIN)


def _plate(course: Cooling, minutes: Array) -> Array:
    """The plate for every draw [draws x times]; times alike for all, or one for each."""
    own = np.exp(-course.rate[:, None] * minutes)
    over = course.room_c + (course.plate_c - course.room_c) * own
    if np.isinf(course.air_rate).any():
        return np.asarray(over)
    apart = course.rate - course.air_rate
    apart = np.where(np.abs(apart) < 1e-6, 1e-6, apart)
    air = np.exp(-course.air_rate[:, None] * minutes)
    return np.asarray(over + (course.air_c - course.room_c) * (course.rate / apart)[:, None] * (air - own))


def cooling_rate(minutes: Array, shown_c: Array, room_c: float) -> Estimate | None:
    """How quickly a plate cools in the air of the room, from a log of it.

    Parameters
    ----------
    minutes : ndarray
        Since its heater went off [min]
    shown_c : ndarray
        What it showed [deg C]
    room_c : float
        Of the room [deg C]

    Returns
    -------
    Estimate or None
        With at least the band that another door or draught makes [1/min]; None where the log is short, or no single
        exponential, as behind a shut door

    Notes
    -----
    Least squares on the logarithm of what the plate is above the room.
    """
    over = shown_c - room_c
    good = np.isfinite(over) & (over > RUN["cool_over_k"].value)
    at, value = minutes[good], np.log(over[good])
    if at.size < 10 or np.ptp(at) < RUN["cool_log_min"].value:
        return None
    half = at.size // 2
    slope, early, late = (float(np.polyfit(at[each], value[each], 1)[0])
                          for each in (slice(None), slice(None, half), slice(half, None)))  # fmt: skip
    if slope >= 0.0 or early >= 0.0 or abs(late / early - 1.0) > RUN["cool_bends"].value:
        return None
    low, _, high = RUN["cool_again"].band
    return Estimate(-slope, -slope * low, -slope * high, "1/min", "least squares on the logarithm", "own log")


def hold_kwh(body: Body, area_m2: float, plate_c: float, air_c: float) -> Estimate:
    """What an hour of holding the plate hot takes.

    Parameters
    ----------
    body : Body
        With its losses [W/m^2/K]
    area_m2 : float
        Of the plate [m^2]
    plate_c : float
        Held at [deg C]
    air_c : float
        Round it [deg C]

    Returns
    -------
    Estimate
        By the plate alone [kWh]
    """
    lost = body.plate_w_m2_k * area_m2 * max(plate_c - air_c, 0.0) / 1e3
    return estimate(lost, "kWh", "losses of the plate", "estimate")
