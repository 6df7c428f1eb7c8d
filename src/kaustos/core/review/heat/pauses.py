"""Planned pauses: at which layer, when on the clock, and what the weld over a layer that cooled meanwhile keeps."""

from collections.abc import Iterable

import attrs
import numpy as np

from kaustos.core.estimates import MELT
from kaustos.core.planning.draws import middle
from kaustos.core.planning.layer_times import layers_at
from kaustos.core.records import Estimate, Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.heat.case import heat_case, section_at, share_at


@attrs.frozen(kw_only=True)
class Pause:
    """One pause."""

    layer: int  # the last one before it
    at_mm: float
    after: Estimate  # the first move [h]
    keeps: float | None  # share of the strength across the layer laid after it, likely [1]
    usual: float | None  # the same without a pause


def pause_plan(recipe: Recipe, context: Context, heights_mm: Iterable[float], minutes: float) -> tuple[Pause, ...]:
    """What pauses at some heights mean; empty where part or speed is not known [mm, min]."""
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
        cold = attrs.evolve(section, period_s=section.period_s + 60.0 * minutes)
        keeps, usual = (share_at(case, each) for each in (cold, section))
        found.append(
            Pause(
                layer=max(round((height - first) / layer) + 1, 1), at_mm=height, after=after,
                keeps=None if keeps is None else middle(keeps), usual=None if usual is None else middle(usual),
            )
        )  # fmt: skip
    return tuple(found)
