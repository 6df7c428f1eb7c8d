"""A map of the weld beside one direct solve per pixel, and what a dragged point waits for.

The direct solve is the same banded solver at the same grid, one film, one pixel; twenty pixels are sampled.
"""

import statistics
import time

import numpy as np

from kaustos.app.judge import context_of_records
from kaustos.core.physics.layers import responses
from kaustos.core.physics.weld import healed
from kaustos.core.planning import welding
from kaustos.core.planning.welding import Section, films_over, matter_of, share_map, share_over_periods, stack_of
from kaustos.core.records.fields import with_value
from kaustos.core.review.heat import heat_case, weld_map
from kaustos.demo.scenario import RECORDS
from kaustos.library import load

SIDE, SAMPLED, RUNS = 120, 20, 9
WALL = Section(layer_mm=0.2, period_s=15.0, below=200, edge_mm=2.0 / 1.2)


def _matter():
    return matter_of(load().polymers["pei_pc_blend"])


def _direct(matter, section, melt, air):
    unit = responses(stack_of(section, matter.conductivity, matter.heat), float(films_over(8.0, air)))
    face = air + (melt - air) * unit.melt[0] + (160.0 - air) * unit.plate[0]
    return float(healed(unit.times, face, matter.glass_c))


def _timed(act):
    start = time.perf_counter()
    act()
    return time.perf_counter() - start


def _forget():
    welding.unit_of.cache_clear()
    welding._over_periods.cache_clear()


def _beside_direct(make):
    """Time of a map from nothing, over that of one direct solve for each of its pixels, times a thousand."""
    matter, rng = _matter(), np.random.default_rng(1)
    melts, airs = rng.uniform(330.0, 420.0, SAMPLED), rng.uniform(21.0, 160.0, SAMPLED)
    _direct(matter, WALL, 365.0, 90.0)
    make(matter)
    maps, pixels = [], []
    for melt, air in zip(melts, airs, strict=True):
        _forget()
        maps.append(_timed(lambda: make(matter)))
        pixels.append(_timed(lambda melt=melt, air=air: _direct(matter, WALL, melt, air)))
    return 1000.0 * statistics.median(maps) / (SIDE * SIDE * statistics.median(pixels))


def _over_air(matter):
    return share_map(matter, WALL, np.linspace(330.0, 420.0, SIDE), np.linspace(21.0, 160.0, SIDE), 160.0, 8.0)


def _over_time(matter):
    return share_over_periods(
        matter, WALL, np.geomspace(3.0, 90.0, SIDE), np.linspace(330.0, 420.0, SIDE), 90.0, 160.0, 8.0
    )


def _recipes():
    """The demo's first recipe with a nozzle that moves, as under a drag."""
    context = context_of_records(RECORDS)
    recipe = RECORDS.card.recipe
    heat_case(recipe, context)
    weld_map(recipe, context, "chamber")
    return [with_value(recipe, "melt.nozzle_c", 350.0 + step) for step in range(RUNS)], context


def point_in_fifty_ms():
    """The numbers of the present point after a nozzle moved, in fifties of milliseconds."""
    recipes, context = _recipes()
    return statistics.median(_timed(lambda r=r: heat_case(r, context)) for r in recipes) / 0.05


def new_point_in_fifty_ms():
    """The same where the speed moved, so that the heat of the stack is solved anew."""
    recipes, context = _recipes()
    moved = [with_value(recipes[0], "melt.speed_mm_s", 31.0 + 2.0 * step) for step in range(RUNS)]
    return statistics.median(_timed(lambda r=r: heat_case(r, context)) for r in moved) / 0.05


def map_in_tenths():
    """A map after a nozzle moved, in tenths of a second."""
    recipes, context = _recipes()
    return statistics.median(_timed(lambda r=r: weld_map(r, context, "chamber")) for r in recipes) / 0.1


def new_map_in_tenths():
    """A map from nothing, in tenths of a second."""
    matter = _matter()
    times = []
    for _ in range(RUNS):
        _forget()
        times.append(_timed(lambda: _over_air(matter)))
    return statistics.median(times) / 0.1


COMPARISONS = (
    ("map nozzle x air, beside direct solves of each pixel", 1.0, "thousandth", lambda: _beside_direct(_over_air)),
    ("map nozzle x layer time, beside direct solves", 1.0, "thousandth", lambda: _beside_direct(_over_time)),
    ("weld of the point, nozzle dragged", 1.0, "times 50 ms", point_in_fifty_ms),
    ("weld of the point, speed dragged", 1.0, "times 50 ms", new_point_in_fifty_ms),
    ("map of the weld, nozzle dragged", 1.0, "times 100 ms", map_in_tenths),
    ("map of the weld, from nothing", 1.0, "times 100 ms", new_map_in_tenths),
)
