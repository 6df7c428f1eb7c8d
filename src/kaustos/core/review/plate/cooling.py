"""How the plate of a recipe cools once the print has ended: heats, the door, what holds heat."""

import attrs
import numpy as np

from kaustos.core.estimates import RUN
from kaustos.core.memo import by_identity
from kaustos.core.planning.anneal_programme import Load
from kaustos.core.planning.anneal_usage import BY_WALL
from kaustos.core.planning.annealing import ramp_limit
from kaustos.core.planning.cooling import Cooling, body_of, cooled, hold_kwh
from kaustos.core.planning.draws import Array, drawn
from kaustos.core.planning.warmth import chamber_of
from kaustos.core.records import Calibration, Estimate, Layer, Machine, Polymer, Recipe, Surface
from kaustos.core.review.contract import Context
from kaustos.core.review.machine.warmth_findings import fitted
from kaustos.core.review.plate.case import air_of
from kaustos.core.review.section import wall_of
from kaustos.core.review.zones import surface_of


@attrs.frozen(kw_only=True, eq=False)
class CoolingCase:
    """One recipe at the end of its print."""

    way: str | None  # hot, cold, flex, blade
    plate_c: float | None
    air_c: float  # round the part
    room_c: float
    release_c: float  # at which it may come off
    release: Estimate  # the same as a band
    has_door: bool
    shut: Cooling | None  # door kept shut
    opened: Cooling | None
    cracks: bool  # whether cold air may bend or crack it, where that cools it more quickly than it bears
    bears_k_min: float  # cooling that its section bears [K/min]
    kwh_per_h: Estimate | None  # that holding it hot takes
    is_brittle: bool  # whether the plate is
    is_flexible: bool

    @property
    def best(self) -> Cooling | None:
        """The way that is proposed: shut where cold air may crack the part, else with the door open."""
        return self.shut if self.cracks and self.has_door else self.opened

    @property
    def burns(self) -> bool:
        """Whether part and plate still burn skin when it comes off."""
        return self.way == "hot" or self.release_c >= RUN["burns_c"].value

    @property
    def minutes(self) -> float:
        """Until it can be taken off: likely, by the way that is proposed; as is usual where that is not known [min]."""
        if self.way == "hot":
            return 0.0
        best = self.best
        return RUN["cool_min"].value if best is None or best.until is None else best.until.value


@by_identity(64)
def cooling_case(recipe: Recipe, context: Context) -> CoolingCase:
    """The case of a recipe; remembered as long as nothing that it rests on is another."""
    surface, machine, polymer = surface_of(context), context.machine, context.polymer
    plate, air, room = recipe.plate.bed_c, air_of(recipe, context), context.rules.room_c
    bends = recipe.plate.release == "flex" or (surface is not None and surface.is_flexible)
    release = release_of(polymer, bends=bends)
    has_door = machine is not None and machine.enclosure.kind not in (None, "open")
    courses: tuple[Cooling | None, Cooling | None, Estimate | None] = (None, None, None)
    if plate is not None:
        mass = recipe.brief.mass_g
        fits = fitted(context, "chamber_fit"), fitted(context, "plate_cooling")
        courses = _courses(plate, air, room, release.value, mass, machine, surface, *fits)
    shut, opened, kwh = courses
    bears = _bears(recipe, context)
    return CoolingCase(
        way=recipe.plate.release, plate_c=plate, air_c=air, room_c=room, release_c=release.value, release=release,
        has_door=has_door, shut=shut, opened=opened, kwh_per_h=kwh,
        cracks=_is_chilled(polymer, air - room) and (opened is None or opened.steepest_k_min > bears),
        bears_k_min=bears,
        is_brittle=surface is not None and surface.is_brittle,
        is_flexible=surface is not None and surface.is_flexible,
    )  # fmt: skip


def release_of(polymer: Polymer | None, *, bends: bool) -> Estimate:
    """Heat of a plate at which a part lets go: by its polymer, hotter where a sheet is bent.

    Parameters
    ----------
    polymer : Polymer or None
        Of the part [-]
    bends : bool
        Whether the sheet is bent [-]

    Returns
    -------
    Estimate
        Practice [°C]
    """
    key = f"release_c.{polymer.family}" if polymer is not None else ""
    low, value, high = (RUN[key] if key in RUN else RUN["release_c"]).band
    more = RUN["release_bent"].value if bends else 0.0
    return Estimate(value + more, low, high + more, "°C", "by polymer and surface", "practice, estimate")


def _is_chilled(polymer: Polymer | None, above_k: float) -> bool:
    """Whether a part is hot and brittle enough for cold air: a glass, or a stiff polymer of a thick section."""
    if polymer is None or above_k <= RUN["open_from_k"].value:
        return False
    return polymer.is_glassy or polymer.family in BY_WALL


def _bears(recipe: Recipe, context: Context) -> float:
    """Cooling that a section bears [K/min]: as in an oven, at most the usual; of an unknown one the least."""
    wall, polymer, usual = wall_of(recipe, context), context.polymer, RUN["ramp"]
    limit = ramp_limit(Load(wall_mm=wall.mm, is_rod=wall.is_rod), polymer) if wall and polymer is not None else None
    return usual.low if limit is None else float(np.clip(limit.bears_k_h / 60.0, usual.low, usual.value))


@by_identity(64)
def _courses(
    plate_c: float, air_c: float, room_c: float, release_c: float, mass_g: float | None, machine: Machine | None,
    surface: Surface | None, chamber_fit: Calibration | None, plate_fit: Calibration | None,
) -> tuple[Cooling | None, Cooling | None, Estimate | None]:  # fmt: skip
    """Door shut, door open, and what an hour of heat takes; remembered while nothing that cools is another."""
    area = _area_m2(machine)
    air_min = _air_min(machine, chamber_fit)
    body = body_of(*_held(mass_g, area, machine, surface), air_min, _measured(plate_fit))
    shut = cooled(body, plate_c, air_c, room_c, release_c, is_open=False) if air_min is not None else None
    opened = cooled(body, plate_c, air_c, room_c, release_c, is_open=True)
    return shut, opened, hold_kwh(body, area, plate_c, air_c) if area is not None else None


def _held(
    mass_g: float | None, area: float | None, machine: Machine | None, surface: Surface | None
) -> tuple[tuple[Layer, ...], float, float]:
    """What lies on the heater, and what surface and part hold [mm, J/m^2/K]."""
    held = part = 0.0
    if surface is not None:
        held = surface.thickness_mm * surface.density.value * surface.heat_capacity.value * 1e3
    if area is not None and mass_g is not None:  # what is far from the plate cools by itself
        part = RUN["near_plate"].value * mass_g * RUN["part_holds"].value / area
    return machine.stack if machine is not None else (), held, part


def _measured(found: Calibration | None) -> Estimate | None:
    """How quickly the plate of this machine was seen to cool; what a change of parts made stale says nothing."""
    if found is None or not found.is_valid or "rate_per_min" not in found.values:
        return None
    rate, half = found.values["rate_per_min"], found.values.get("rate_half", 0.0)
    return Estimate(rate, max(rate - half, 0.5 * rate), rate + half, "1/min", "own log", found.note or "own log")


def _air_min(machine: Machine | None, fit: Calibration | None) -> Array | None:
    """Minutes in which the air behind a shut door nears the room to a third; None where there is no door."""
    if machine is None or machine.enclosure.kind in (None, "open"):
        return None
    chamber = chamber_of(machine, fit)
    if chamber is None:
        return np.asarray(drawn("air behind a door", RUN["air_min"].band))
    inner, leaks = np.asarray(chamber.air_to_wall), np.asarray(chamber.air_to_room)
    out = leaks + 1.0 / (1.0 / inner + 1.0 / np.asarray(chamber.wall_to_room))
    return np.asarray((np.asarray(chamber.wall) + np.asarray(chamber.air)) / out / 60.0)


def _area_m2(machine: Machine | None) -> float | None:
    if machine is None or machine.travel_x_mm is None or machine.travel_y_mm is None:
        return None
    area = machine.travel_x_mm * machine.travel_y_mm * 1e-6
    return area if area > 0.0 else None
