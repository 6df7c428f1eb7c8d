"""How a plate with its part cools: behind a shut door, or with it open; and when it may come off."""

import attrs
import numpy as np

from kaustos.core.estimates import CHAMBERS
from kaustos.core.planning.draws import DRAWS, Array, drawn, ends, estimate
from kaustos.core.records import Estimate, Layer

STEP_MIN = 1.0
LONGEST_MIN = 720.0
USUAL_J_M2_K = 12_000.0  # glass of 4 mm on a plate of 3 mm aluminium
METHOD = "plate and air as two lumped nodes"


@attrs.frozen(kw_only=True, eq=False)
class Body:
    """What cools, as draws."""

    plate_j_m2_k: Array  # heat that plate and part hold
    plate_w_m2_k: Array  # from both sides of it
    air_per_min: Array  # at which the air behind a shut door nears the room; no end where there is no door


def body_of(stack: tuple[Layer, ...], surface_j_m2_k: float, part_j_m2_k: float, air_min: Array | None) -> Body:
    """What cools on a machine.

    Parameters
    ----------
    stack : tuple of Layer
        That lies on the heater [mm]
    surface_j_m2_k : float
        Heat held by the surface that is clamped on [J/m^2/K]
    part_j_m2_k : float
        And by the part, by the area of the plate [J/m^2/K]
    air_min : ndarray or None
        Minutes in which the air behind a shut door nears the room to a third; None for an open machine [min]

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
        held = USUAL_J_M2_K * drawn("plate holds", (0.6, 1.0, 1.7))
    loses = drawn("plate_air", CHAMBERS["plate_air"].band) + drawn("plate_wall", CHAMBERS["plate_wall"].band)
    quick = np.full(DRAWS, np.inf) if air_min is None else 1.0 / np.maximum(air_min, 1e-3)
    return Body(plate_j_m2_k=held + surface_j_m2_k + part_j_m2_k, plate_w_m2_k=loses, air_per_min=quick)


@attrs.frozen(kw_only=True, eq=False)
class Cooling:
    """A course of cooling."""

    at_min: Array
    plate_c: tuple[Array, Array, Array]  # least, likely, most
    air_c: Array  # likely
    until: Estimate | None  # it may come off [min]; None where that is not reached in half a day
    steepest_k_min: float  # likely, of the plate


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
    at = np.arange(0.0, LONGEST_MIN + STEP_MIN, STEP_MIN)
    plate, air = _course(rate, air_rate, plate_c, air_c, room_c, at)
    below = plate <= release_c
    first = np.where(below.any(axis=1), below.argmax(axis=1), at.size - 1) * STEP_MIN
    _, likely, _ = ends(first)
    found = None
    if likely < LONGEST_MIN:
        found = estimate(first, "min", METHOD, "heat held and lost by the plate, estimate")
    ordered = np.sort(plate, axis=0)
    low, middle, high = (ordered[int(each * (DRAWS - 1) + 0.5)] for each in (0.025, 0.5, 0.975))
    ahead = max(int(10.0 / STEP_MIN), 1)
    return Cooling(
        at_min=at, plate_c=(low, middle, high), air_c=np.median(air, axis=0), until=found,
        steepest_k_min=float(np.max(middle[:-ahead] - middle[ahead:]) / (ahead * STEP_MIN)),
    )  # fmt: skip


def _course(
    rate: Array, air_rate: Array, plate_c: float, air_c: float, room_c: float, at: Array
) -> tuple[Array, Array]:
    """Plate and air over time, for every draw."""
    own = np.exp(-rate[:, None] * at)
    if np.isinf(air_rate).any():
        return room_c + (plate_c - room_c) * own, np.full(own.shape, room_c)
    air = np.exp(-air_rate[:, None] * at)
    apart = rate - air_rate
    apart = np.where(np.abs(apart) < 1e-6, 1e-6, apart)
    share = (rate / apart)[:, None] * (air - own)
    return room_c + (plate_c - room_c) * own + (air_c - room_c) * share, room_c + (air_c - room_c) * air


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
