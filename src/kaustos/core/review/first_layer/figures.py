"""The figures of operation 50, and what its tile says."""

import numpy as np

from kaustos.core.planning.bead import bead_section
from kaustos.core.planning.bond import contact_share
from kaustos.core.planning.draws import estimate
from kaustos.core.records import Estimate, Recipe
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure, Saying
from kaustos.core.review.first_layer.bead import first_minutes, offs_of
from kaustos.core.review.plate.case import case_of, first_width_of


def figures_of(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """Everything that can be asked where it comes from."""
    case, first = case_of(recipe, context), recipe.first_layer
    width, minutes, offs = first_width_of(recipe), first_minutes(recipe, context), offs_of(case)
    aspect = case.making.aspect if case.making is not None else None
    known = case.making is not None and case.middle is not None
    flow = None
    if first.width_mm and first.height_mm and first.speed_mm_s and first.width_mm >= first.height_mm:
        flow = bead_section(first.width_mm, first.height_mm) * first.speed_mm_s
    return (
        Figure(
            "first_layer.bead.aspect", "First bead, width over height", _exact(aspect, "1", "pressed under the gap")
        ),
        Figure(
            "first_layer.bead.width", "First bead comes out as wide as", _exact(width, "mm", "section kept, pressed")
        ),
        Figure("first_layer.bead.flow", "First layer, flow", _exact(flow, "mm³/s", "section × speed")),
        Figure(
            "first_layer.bead.contact",
            "Pressed on, middle gap = 1",
            (
                UNKNOWN
                if aspect is None
                else estimate(
                    np.asarray(contact_share(aspect)),
                    "1",
                    "by width over height",
                    "words of practice in numbers, estimate",
                )
            ),
        ),
        Figure(
            "first_layer.conditions.off",
            "Off the middle: of gap, nozzle, plate",
            (
                " and ".join(f"{each.name} {'+' if each.way > 0 else '−'}" for each in offs) or "none"
                if known
                else UNKNOWN
            ),
        ),
        Figure(
            "first_layer.look.due",
            "Layer one is laid after",
            _exact(minutes, "min", "area with anchor over width and speed"),
        ),
        Figure("first_layer.plate.step", "Plate, first layer over running", _step(recipe, "bed_c", recipe.plate.bed_c)),
        Figure(
            "first_layer.nozzle.step",
            "Nozzle, first layer over running",
            _step(recipe, "nozzle_c", recipe.melt.nozzle_c),
        ),
        Figure(
            "first_layer.slow.minutes",
            "Slow layers take",
            _exact(
                None if minutes is None or first.slow_layers is None else minutes * max(first.slow_layers, 1.0),
                "min",
                "slow layers, each as long as the first",
            ),
        ),
        Figure("first_layer.look.stake", "Filament laid by then", _laid(recipe, context)),
    )


def _exact(value: float | None, unit: str, method: str) -> Estimate | Absent:
    return UNKNOWN if value is None else Estimate(value, value, value, unit, method, "as it is set")


def _step(recipe: Recipe, field: str, running: float | None) -> Estimate | Absent:
    first = getattr(recipe.first_layer, field)
    return UNKNOWN if first is None or running is None else _exact(first - running, "K", "setpoints")


def _laid(recipe: Recipe, context: Context) -> Estimate | Absent:
    standing, height = case_of(recipe, context).standing, recipe.first_layer.height_mm
    density = context.polymer.value("density_g_cm3") if context.polymer else None
    if standing is None or height is None or density is None:
        return UNKNOWN
    volume = float(standing.anchored.area) * height / 1e3 * (recipe.plate.copies or 1.0)
    grams, low, high = (volume * each for each in (density.value, density.low, density.high))
    return Estimate(grams, low, high, "g", "area with anchor × height × density", density.source)


def tile_of(recipe: Recipe, context: Context) -> tuple[Saying, ...]:
    """When layer one is to be looked at."""
    minutes = first_minutes(recipe, context)
    if minutes is None:
        return ()
    if minutes < 100.0:
        return (Saying("look {due:minutes}", {"due": float(round(minutes))}),)
    return (Saying("look {due:duration}", {"due": float(round(minutes / 60.0))}),)
