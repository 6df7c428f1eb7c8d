"""Planned pauses: at which layer, when on the clock, and what the weld over a layer that cooled meanwhile keeps."""

from collections.abc import Iterable

import attrs
import numpy as np

from kaustos.core.estimates import MELT, WELD
from kaustos.core.planning.draws import middle
from kaustos.core.planning.layer_times import layers_at
from kaustos.core.planning.welding import Section
from kaustos.core.records import Estimate, Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.heat.case import HeatCase, heat_case, section_at, share_at


@attrs.frozen(kw_only=True)
class Pause:
    """One pause."""

    layer: int  # the last one before it
    at_mm: float
    after: Estimate  # the first move [h]
    share: float  # of what is printed by then [1]
    keeps: float | None  # share of the strength across the layer laid after it, likely [1]
    usual: float | None  # the same without a pause
    limit_min: float | None  # longest rest that keeps nearly that; None where none does, or nobody asked


def pause_plan(
    recipe: Recipe, context: Context, heights_mm: Iterable[float], minutes: float, *, limits: bool = False
) -> tuple[Pause, ...]:
    """What pauses at some heights mean; their limits only where asked; empty without part or speed [mm, min]."""
    case = heat_case(recipe, context)
    times, shape, layer = case.times, case.melt.shape, case.pace.height_mm
    if times is None or shape is None or not times.height_mm.size:
        return ()
    counts = layers_at(times, shape.size_z_mm, layer)
    passed = np.concatenate(([0.0], np.cumsum(counts * times.seconds)))
    tops = np.concatenate(([0.0], np.cumsum(counts) * layer))
    first = recipe.first_layer.height_mm or layer
    band, found = MELT["moves"], []
    for number, height in enumerate(sorted(heights_mm)):
        hours = float(np.interp(height, tops, passed)) / 3600.0
        low, high = (hours * each / band.value for each in (band.low, band.high))
        if recipe.brief.print_h is not None:  # the run as somebody knows it, where layers tell another time
            told = recipe.brief.print_h * hours * 3600.0 / max(float(passed[-1]), 1e-9)
            low, high = min(low, told), max(high, told)
        waits = number * minutes / 60.0
        after = Estimate(
            hours + waits,
            low + waits,
            high + waits,
            "h",
            "layer times up to there, and the hours of the brief",
            "travels: estimate",
        )
        section = section_at(times, case.pace, int(np.argmin(np.abs(times.height_mm - height))))
        keeps, usual = (_keeps(case, section, each) for each in (minutes, 0.0))
        found.append(
            Pause(
                layer=max(round((height - first) / layer) + 1, 1), at_mm=height, after=after,
                share=3600.0 * hours / max(float(passed[-1]), 1e-9), keeps=keeps, usual=usual,
                limit_min=_limit(case, section, usual) if limits else None,
            )
        )  # fmt: skip
    return tuple(found)


RESTS_MIN = (32.0, 16.0, 8.0, 4.0, 2.0, 1.0)


def _keeps(case: HeatCase, section: Section, rest_min: float) -> float | None:
    """Share of the strength over a layer that rested, likely [1]."""
    found = share_at(case, attrs.evolve(section, period_s=section.period_s + 60.0 * rest_min))
    return None if found is None else middle(found)


def _limit(case: HeatCase, section: Section, usual: float | None) -> float | None:
    """Longest of some rests over which the weld keeps most of what it would without [min]."""
    if usual is None:
        return None
    least = WELD["rest_keeps"].value * usual
    return next((each for each in RESTS_MIN if (_keeps(case, section, each) or 0.0) >= least), None)
