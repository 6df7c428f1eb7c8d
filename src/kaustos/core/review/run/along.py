"""One run along its height: minute, layer, layer time and weld belong to one another, whichever of them is asked."""

from bisect import bisect_left

import attrs
import numpy as np

from kaustos.core.planning.draws import Array, middle
from kaustos.core.planning.layer_times import layers_at
from kaustos.core.records import Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.heat.case import HeatCase, heat_case, section_at, share_at
from kaustos.core.review.run.case import RunCase, run_case


@attrs.frozen(kw_only=True)
class Spot:
    """One place in a run."""

    at_h: float  # after the first move
    at_mm: float
    layer: int  # from 1
    layer_s: float  # its time
    grams: float | None  # fed until then, all of the run
    keeps: float | None  # share of the strength across layers there, likely [1]; None where nothing says
    paused_mm: float | None  # the pause right below, where there is one


@attrs.frozen(kw_only=True, eq=False)
class Along:
    """A run from the plate to its top."""

    tops_mm: Array  # from 0
    passed_h: Array  # until then
    layers: Array
    seconds: Array  # of a layer, one fewer
    grams: float | None
    pauses_mm: tuple[float, ...]
    layer_mm: float
    heat: HeatCase

    @property
    def hours(self) -> float:
        """The whole of it [h]."""
        return float(self.passed_h[-1])

    def at_hour(self, hours: float) -> Spot:
        """Where a run is after some hours [h]."""
        return self.at_height(float(np.interp(hours, self.passed_h, self.tops_mm)))

    def at_height(self, at_mm: float) -> Spot:
        """What belongs to a height; beyond the part its nearest end."""
        at_mm = min(max(at_mm, 0.0), float(self.tops_mm[-1]))
        hours = float(np.interp(at_mm, self.tops_mm, self.passed_h))
        place = min(max(bisect_left(self.tops_mm.tolist(), at_mm) - 1, 0), self.seconds.size - 1)
        below = [each for each in self.pauses_mm if -1e-6 <= at_mm - each <= 2.0 * self.layer_mm]
        return Spot(
            at_h=hours, at_mm=at_mm, layer=max(int(np.ceil(np.interp(at_mm, self.tops_mm, self.layers) - 1e-6)), 1),
            layer_s=float(self.seconds[place]),
            grams=None if self.grams is None else self.grams * hours / max(self.hours, 1e-9),
            keeps=self._keeps(at_mm), paused_mm=max(below, default=None),
        )  # fmt: skip

    def _keeps(self, at_mm: float) -> float | None:
        times = self.heat.times
        if times is None or not times.height_mm.size:
            return None
        found = share_at(self.heat, section_at(times, self.heat.pace, int(np.argmin(np.abs(times.height_mm - at_mm)))))
        return None if found is None else middle(found)


def along_of(recipe: Recipe, context: Context) -> Along | None:
    """A run along its height.

    Parameters
    ----------
    recipe : Recipe
        Part, layers and speeds [mm, mm/s]
    context : Context
        With the job file where one is bound [-]

    Returns
    -------
    Along or None
        By the file, else by geometry, its hours those of the run [mm, h]; None where neither part nor file is known

    Notes
    -----
    What a machine does before its first layer is spread over the run.
    """
    case, heat = run_case(recipe, context), heat_case(recipe, context)
    pieces = _by_file(case) or _by_part(heat)
    if pieces is None:
        return None
    layers, seconds, tops = pieces
    passed = np.concatenate(([0.0], np.cumsum(layers * seconds))) / 3600.0
    if case.hours is not None and passed[-1] > 0.0:
        passed = passed * case.hours.value / passed[-1]
    return Along(
        tops_mm=np.concatenate(([0.0], tops)), passed_h=passed, layers=np.concatenate(([0.0], np.cumsum(layers))),
        seconds=seconds, grams=recipe.brief.mass_g if case.grams is None else case.grams,
        pauses_mm=tuple(each.at_mm for each in case.job.pauses) if case.job is not None else (),
        layer_mm=heat.pace.height_mm, heat=heat,
    )  # fmt: skip


def _by_file(case: RunCase) -> tuple[Array, Array, Array] | None:
    job = case.job
    if job is None or not job.heights_mm:
        return None
    return np.array(job.layers), np.array(job.seconds), np.array(job.heights_mm)


def _by_part(heat: HeatCase) -> tuple[Array, Array, Array] | None:
    times, shape, layer = heat.times, heat.melt.shape, heat.pace.height_mm
    if times is None or shape is None or not times.height_mm.size:
        return None
    layers = layers_at(times, shape.size_z_mm, layer)
    return layers, times.seconds, np.cumsum(layers) * layer


@attrs.frozen(kw_only=True)
class Resumed:
    """A run that stood still, and what it is worth to go on with it."""

    says: str  # resume, looks, scrap, unknown
    keeps: float | None  # share across the layer that waited [1]
    usual: float | None  # the same without a wait [1]
    left: float  # share of the hours still to come [1]


def resumed(along: Along, at_mm: float, rest_min: float, least: tuple[float, float], *, is_held: bool) -> Resumed:
    """Whether a run that stood still is worth going on with.

    Parameters
    ----------
    along : Along
        The run [mm, h]
    at_mm : float
        Height at which it stood [mm]
    rest_min : float
        For how long [min]
    least : tuple of float
        Shares of strength below which a part is reduced, and only looked at [1]
    is_held : bool
        Whether the plate was kept hot: a part on a cold plate has let go, or has moved [-]

    Returns
    -------
    Resumed
        A longer rest never says better [-]
    """
    spot, heat = along.at_height(at_mm), along.heat
    keeps = None
    if heat.times is not None and heat.times.height_mm.size:
        place = int(np.argmin(np.abs(heat.times.height_mm - at_mm)))
        section = section_at(heat.times, heat.pace, place)
        found = share_at(heat, attrs.evolve(section, period_s=section.period_s + 60.0 * rest_min))
        keeps = None if found is None else min(middle(found), spot.keeps or 1.0)
    says = "unknown" if keeps is None else "resume" if keeps >= least[0] else "looks" if keeps >= least[1] else "scrap"
    left = 1.0 - spot.at_h / max(along.hours, 1e-9)
    return Resumed(says=says if is_held else "scrap", keeps=keeps, usual=spot.keeps, left=left)
