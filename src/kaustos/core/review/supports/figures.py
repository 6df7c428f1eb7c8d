"""The figures of operation 80, and what its tile says."""

import math

import attrs

from kaustos.core.estimates import SUPPORT
from kaustos.core.planning.support import Cost
from kaustos.core.records import SUPPORT_WAYS, Estimate, Recipe
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure, Saying
from kaustos.core.review.supports.afterwards import work_after
from kaustos.core.review.supports.case import SupportCase, course_in, room_in, support_case

SEEN = "faces, starts and spans of the mesh"


@attrs.frozen
class _Nothing:
    """What stands where no way is set."""

    attended_min: float | None = None
    machine_h: float | None = None
    grams: float | None = None
    low_mm: float | None = None
    risk: float | None = None


NOTHING = _Nothing()
WIDE = SUPPORT["takes"].value


def figures_of(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """Everything that can be asked where it comes from."""
    case = support_case(recipe, context)
    needs = case.needs
    chosen = case.chosen
    cost: Cost | _Nothing = chosen.cost if chosen is not None else NOTHING
    area = None if needs is None else sum(each.area_mm2 for each in needs) / 100.0
    column = None if needs is None else sum(each.column_mm3 for each in needs) / 1e3
    onto = None if needs is None else sum(each.onto_mm2 for each in needs) / 100.0
    return (
        Figure(
            "supports.place.count", "Places that want help", _exact(None if needs is None else float(len(needs)), "1")
        ),
        Figure("supports.place.limit", "Bears from upright", case.borne.limit),
        Figure("supports.place.bridge", "Spans", case.borne.bridge),
        Figure("supports.place.area", "Faces beyond it", _exact(area, "cm²")),
        Figure("supports.place.column", "Room under them", _near(column, "ml", 0.05, "prisms down to plate or part")),
        Figure("supports.place.onto", "Of it stands on the part", _near(onto, "cm²", 0.1, "cells below")),
        Figure("supports.place.reach", "Tools reach", _near(_least(case, "reached"), "%", 0.1, "26 straight lines")),
        Figure("supports.bath.hours", "Bath takes", _bath_hours(case, recipe)),
        Figure("supports.way.best", "Cheapest way", _best(case)),
        Figure("supports.way.work", "Work on supports", _near(cost.attended_min, "min", WIDE, "by the way set")),
        Figure("supports.after.work", "Work after the plate", _told(work_after(recipe, context))),
        Figure("supports.way.hours", "Machine, longer by", _near(cost.machine_h, "h", WIDE, "volume over flow")),
        Figure("supports.way.grams", "Filament in supports", _near(cost.grams, "g", WIDE, "filled room, contact")),
        Figure(
            "supports.way.money",
            "Costs a part, risk with it",
            _near(chosen.each if chosen is not None else None, "money", WIDE, "all of it, by copy"),
        ),
        Figure("supports.way.low", "Ceilings come out low by", _near(cost.low_mm, "mm", 0.5, "gap, or sag")),
        Figure("supports.bath.room", "Bath takes more", _told(_room(case, recipe))),
        Figure(
            "supports.way.risk",
            "Part is lost by it",
            _near(None if cost.risk is None else 100.0 * cost.risk, "%", WIDE, "practice"),
        ),
    )


def _exact(value: float | None, unit: str) -> Estimate | Absent:
    return UNKNOWN if value is None else Estimate(value, value, value, unit, SEEN, "the file of the part")


def _told(value: Estimate | None) -> Estimate | Absent:
    return UNKNOWN if value is None else value


def _near(value: float | None, unit: str, share: float, method: str) -> Estimate | Absent:
    if value is None:
        return UNKNOWN
    most = 100.0 if unit == "%" else math.inf
    return Estimate(value, value * (1.0 - share), min(value * (1.0 + share), most), unit, method, "estimate")


def _least(case: SupportCase, name: str) -> float | None:
    """The least share over all places that want help [%]."""
    if not case.needs:
        return None
    return 100.0 * min(float(getattr(each.place, name)) for each in case.needs)


def _room(case: SupportCase, recipe: Recipe) -> Estimate | None:
    bath, material = case.bath, case.material
    if material is None or not material.is_bath:
        return None
    volume = bath.volume_ml if bath is not None else recipe.supports.bath_ml
    return room_in(bath, volume, material)


def _bath_hours(case: SupportCase, recipe: Recipe) -> Estimate | str | Absent:
    """How long this plate's supports take: in the bath that is chosen as full and warm as it is, else as is usual."""
    if case.way is None:
        return UNKNOWN
    material = case.material
    if material is None or material.bath_h is None:
        return UNKNOWN if case.way == "soluble" else "no bath"
    course = course_in(case, recipe)
    if course is not None:
        return course.hours if course.hours is not None else "full before it is clean"
    hours = material.bath_h
    return Estimate(hours.value, hours.low, hours.high, "h", "usual hours of such a bath", hours.source)


def _best(case: SupportCase) -> str | Absent:
    if case.needs is None:
        return UNKNOWN
    if not case.needs:
        return "none needed"
    best = next((each for each in case.ways if each.is_possible), None)
    return best.title.lower() if best is not None else "none is to be had"


def tile_of(recipe: Recipe, context: Context) -> tuple[Saying, ...]:
    """How many places hang, or what holding them takes."""
    case = support_case(recipe, context)
    if case.needs is None:  # nobody looked at the part: what is set is shown, and no verdict on it
        short = {"none": "none set", "coat": "coat set"}
        return (Saying(short.get(case.way, SUPPORT_WAYS[case.way].lower())),) if case.way else ()
    if not case.needs:
        return (Saying("none needed"),)
    if not case.is_held:
        return (Saying("{count:ratio} hang", {"count": float(len(case.needs))}),)
    chosen = case.chosen
    if chosen is None:
        return ()
    return (Saying("{work:minutes}", {"work": float(round(chosen.cost.attended_min))}),)
