"""Everything that a weld between layers rests on, gathered once for findings, figures, levers and maps."""

import math
from typing import Any

import attrs
import numpy as np
from scipy.special import ndtri

from kaustos.core.estimates import MELT, WELD
from kaustos.core.memo import by_identity
from kaustos.core.planning.configuration import measured_of, offset_of
from kaustos.core.planning.draws import DRAWS, Array, drawn, estimate, middle, normal
from kaustos.core.planning.layer_times import LayerTimes, Pace, is_in_step, layer_times, times_of_file
from kaustos.core.planning.melting import Melting
from kaustos.core.planning.welding import (
    SOURCE,
    Matter,
    Section,
    Welded,
    air_film,
    films_over,
    matter_of,
    welded,
)
from kaustos.core.records import Calibration, Estimate, Proof, Recipe
from kaustos.core.review.contract import Context
from kaustos.core.review.heat.evidence import Evidence, evidence_of, made_like, moved
from kaustos.core.review.melt.case import MeltCase, melt_case, same_stuff, value_of
from kaustos.core.review.plate.case import air_of
from kaustos.core.review.stock.conditions import is_water_known
from kaustos.core.review.stock.plan import plan_of
from kaustos.core.review.zones import window_of

LAYER_S = MELT["layer_s"].value


@attrs.frozen(kw_only=True, eq=False)
class HeatCase:
    """One recipe in its surroundings, as far as either is recorded."""

    melt: MeltCase
    matter: Matter | None
    times: LayerTimes | None  # None where the size of the part is not known
    pace: Pace
    section: Section | None  # the height whose weld is worst
    at_mm: float | None  # its height
    air_c: Array
    air_likely_c: float
    plate_c: float
    film_w: float  # of the air alone, likely
    weld: Welded | None
    hottest: Section | None  # the height whose layers are hottest
    hottest_mm: float | None
    water: Array  # what water leaves of the weld
    is_water_known: bool
    ratio: Calibration | None  # measured across to along
    share: Array | None  # of the strength of the bulk, across layers
    evidence: Evidence | None = None  # what moved it

    @property
    def likely(self) -> float | None:
        """The share, likely [1]."""
        return None if self.share is None else middle(self.share)

    def band(self) -> Estimate | None:
        """The share with its band [%]."""
        if self.share is None:
            return None
        if self.ratio is not None:
            return estimate(100.0 * self.share, "%", "measured across to along on this machine", "own specimens")
        if self.evidence is not None:
            return estimate(100.0 * self.share, "%", story_of(self.evidence), f"own specimens; {SOURCE}")
        return estimate(100.0 * self.share, "%", "heat of a growing stack, times bonded section and water", SOURCE)

    @property
    def is_index(self) -> bool:
        """Whether it rests on an index and on nothing measured."""
        is_told = self.ratio is not None or self.evidence is not None
        return not is_told and self.matter is not None and not self.matter.is_glassy


def story_of(evidence: Evidence) -> str:
    """What the model says, and what was found, in one line."""
    low, likely, high = (100.0 * each for each in evidence.told)
    found = f"{evidence.specimens} specimens {100.0 * evidence.found:.0f} %" if evidence.found else "broken by hand"
    return f"model {likely:.0f} % ({low:.0f} to {high:.0f}); {found}"


@by_identity(64)
def heat_case(recipe: Recipe, context: Context) -> HeatCase:
    """The case of a recipe; what is costly is remembered as long as nothing that it rests on is another."""
    melt = melt_case(recipe, context)
    matter = None if melt.polymer is None else _matter(melt.polymer)
    pace = pace_of(recipe, melt)
    times = None if melt.shape is None else part_times(melt.shape, pace)
    if times is not None and context.job is not None and context.job.heights_mm and is_in_step(context.job, pace):
        times = _by_file(times, context.job, pace)
    air, spread = air_of(recipe, context), _air_spread(context)
    plate = recipe.plate.bed_c if recipe.plate.bed_c is not None else air
    film = _film(recipe, context)
    cold, hot = _sections(times, pace, matter, air, plate, film)
    weld = None
    if matter is not None and cold is not None and melt.melting is not None:
        weld = _weld(matter, cold[0], melt.melting, air, spread, plate, film)
    water, known = water_left(recipe, context)
    ratio, covers = _ratio(recipe, context, cold[0].period_s if cold is not None else None)
    share, evidence = _share(melt, weld, water, ratio, covers=covers), None
    if share is not None and not covers and context.proofs:
        evidence = evidence_of(context, share, lambda proof: _foretold(proof, recipe, context))
        share = share if evidence is None else moved(share, evidence, _order_of(share))
    return HeatCase(
        melt=melt,
        matter=matter,
        times=times,
        pace=pace,
        section=cold[0] if cold else None,
        at_mm=cold[1] if cold else None,
        air_c=_air(air, spread),
        air_likely_c=air,
        plate_c=plate,
        film_w=film,
        weld=weld,
        hottest=hot[0] if hot else None,
        hottest_mm=hot[1] if hot else None,
        water=water,
        is_water_known=known,
        ratio=ratio if covers else None,
        share=share,
        evidence=evidence,
    )


def _foretold(proof: Proof, recipe: Recipe, context: Context) -> float | None:
    """What the model says of dry filament at the heat, air and layer time that specimens were made at [1]."""
    case = heat_case(*made_like(proof, recipe, context))
    return None if case.share is None else middle(case.share / case.water)


def _order_of(draws: Array) -> Array:
    """Normal draws in the order of others, so that what made one draw low keeps it low."""
    order = np.argsort(np.argsort(draws))
    return np.asarray(ndtri((order + 0.5) / draws.size))


_matter = by_identity(64)(matter_of)
part_times = by_identity(64)(layer_times)
_by_file = by_identity(64)(times_of_file)


def pace_of(recipe: Recipe, melt: MeltCase) -> Pace:
    """How layers are laid, usual where it is not recorded."""
    filled = recipe.melt.infill_pct
    return _pace(
        melt.width_mm,
        melt.height_mm,
        melt.speed_mm_s,
        recipe.melt.walls if recipe.melt.walls is not None else WELD["usual_walls"].value,
        WELD["usual_filled"].value if filled is None else max(filled / 100.0, 0.02),
        recipe.plate.copies or 1.0,
        recipe.heat.least_layer_s or 0.0,
    )


@by_identity(128)
def _pace(width: float, height: float, speed: float, walls: float, filled: float, copies: float, least: float) -> Pace:
    return Pace(
        width_mm=width, height_mm=height, speed_mm_s=speed, walls=walls, filled=filled, copies=copies, least_s=least
    )


def _sections(
    times: LayerTimes | None, pace: Pace, matter: Matter | None, air: float, plate: float, film: float
) -> tuple[Any, Any]:
    """The coldest height and the hottest, each with its section; usual ones where the part is not known."""
    if times is None or not times.height_mm.size or matter is None:
        plain = _section(pace.height_mm, max(LAYER_S, pace.least_s), 200, 1.0 / pace.width_mm)
        return (plain, None), None
    return _extremes(times, pace, matter, round(air, 1), round(plate, 1), film)


@by_identity(128)
def _extremes(times: LayerTimes, pace: Pace, matter: Matter, air: float, plate: float, film: float) -> tuple[Any, Any]:
    """Which heights are solved: those whose layers a lump with a fin below would leave coldest and hottest."""
    film_w = float(films_over(film, air))
    edge, seconds, z = times.edge_mm * 1e3, times.seconds, times.height_mm * 1e-3
    plate_left = np.exp(-np.sqrt(film_w * edge / matter.conductivity) * z)
    warmed = air + (plate - air) * plate_left
    loss = film_w * (edge + 1e3 / pace.height_mm) / matter.heat
    left = warmed + (MELT_C - warmed) * np.exp(-0.5 * loss * seconds)
    free = plate_left <= max(FREE_OF_PLATE, float(plate_left.min()))
    return _at(times, pace, int(np.argmin(left))), _at(times, pace, int(np.argmax(np.where(free, left, -np.inf))))


FREE_OF_PLATE = 0.2  # what is left of the plate's warmth where layers must carry the next by themselves
MELT_C = 300.0  # any melt: heights are only ranked by it


def _at(times: LayerTimes, pace: Pace, place: int) -> tuple[Section, float]:
    return section_at(times, pace, place), float(times.height_mm[place])


def section_at(times: LayerTimes, pace: Pace, place: int) -> Section:
    """The section of one height, by its place [1], rounded so that heights that are alike are solved once."""
    below = max(int(times.height_mm[place] / pace.height_mm), 1)
    return _section(pace.height_mm, _rounded(float(times.seconds[place])), below, _rounded(float(times.edge_mm[place])))


def _rounded(value: float) -> float:
    """Three digits: more are not known of a time or an edge."""
    return float(f"{value:.3g}")


@by_identity(256)
def _section(layer: float, period: float, below: int, edge: float) -> Section:
    return Section(layer_mm=layer, period_s=max(period, 0.2), below=min(below, 400), edge_mm=edge)


def _air_spread(context: Context) -> float:
    """How far the air beside the part may be off [K]."""
    offset = offset_of(context.calibrations, "chamber")
    return WELD["air_known" if offset is not None and offset.is_valid else "air"].value


def _air(likely: float, spread: float) -> Array:
    return np.asarray(likely + normal("air beside the part") * spread / 1.96)


def _film(recipe: Recipe, context: Context) -> float:
    machine = context.machine
    stirred = bool(machine is not None and machine.enclosure.fan)
    return air_film(stirred, (recipe.heat.fan_pct or 0.0) / 100.0)


@by_identity(256)
def _weld(
    matter: Matter, section: Section, melting: Melting, air: float, spread: float, plate: float, film: float
) -> Welded | None:
    return welded(matter, section, melting.exit_c, _air(air, spread), plate, film)


def weld_at(case: HeatCase, section: Section) -> Welded | None:
    """The weld at another height of the same part."""
    if case.matter is None or case.melt.melting is None:
        return None
    return welded(case.matter, section, case.melt.melting.exit_c, case.air_c, case.plate_c, case.film_w)


def share_at(case: HeatCase, section: Section) -> Array | None:
    """Share of the strength of the bulk across layers at another height, or after another time [1], draw by draw."""
    return _share(case.melt, weld_at(case, section), case.water, case.ratio, covers=False)


def warmer_by(case: HeatCase, context: Context) -> float | None:
    """How many times its share a weld likely had in air at the foot of its window [1]; None where it is there."""
    low, _ = window_of(context.polymer, "chamber", context)
    if low is None or not low.value > case.air_likely_c or case.weld is None or not middle(case.weld.share) > 0.0:
        return None
    if case.matter is None or case.section is None or case.melt.melting is None:
        return None
    plate, spread = max(case.plate_c, low.value), _air_spread(context)
    warm = _weld(case.matter, case.section, case.melt.melting, low.value, spread, plate, case.film_w)
    return None if warm is None else middle(warm.share) / middle(case.weld.share)


def water_left(recipe: Recipe, context: Context) -> tuple[Array, bool]:
    """What water leaves of a weld [1], draw by draw, and whether anybody knows how wet the spool is."""
    polymer = context.polymer
    if polymer is None or not polymer.hydrolyses:
        return _DRY, True
    plan = plan_of(recipe, context)
    if plan is None or not is_water_known(recipe, context):
        return drawn("wet unknown", WELD["wet_unknown"].band), False
    low, likely, high = _worst(plan)
    power = math.log(2.0) / math.log(WELD["wet_half"].value)
    return _left(low / plan.limit, likely / plan.limit, high / plan.limit, power), True


def _worst(plan: Any) -> tuple[float, float, float]:
    states = [each for each in (plan.start, plan.end) if each is not None]
    likely, low, high = max((each.band for each in states), key=lambda each: each[0])
    return max(low, 1e-6), max(likely, 1e-6), max(high, 1e-6)


@by_identity(64)
def _left(low: float, likely: float, high: float, power: float) -> Array:
    wet = drawn("water", (min(low, likely), likely, max(high, likely)))
    return np.asarray(np.minimum(wet ** (-power), 1.0))


_DRY = np.ones(DRAWS)


def _ratio(recipe: Recipe, context: Context, layer_s: float | None) -> tuple[Calibration | None, bool]:
    """Strength across to along, measured with this polymer on this machine; whether the recipe is as hot and quick."""
    found = measured_of(context.calibrations, "across", same_polymer(context))
    if found is None or value_of(found, "ratio") is None:
        return None, False
    hot = {"nozzle_c": recipe.melt.nozzle_c, "chamber_c": recipe.heat.chamber_c}
    pairs = [(found.values.get(key), now) for key, now in hot.items()]
    is_hot = all(then is None or (now is not None and now >= then - WELD["ratio_colder"].value) for then, now in pairs)
    took = found.values.get("layer_s")  # a layer that waits longer than those of the specimens is colder
    is_quick = took is None or (layer_s is not None and layer_s <= WELD["ratio_slower"].value * took)
    return found, is_hot and is_quick


def same_polymer(context: Context) -> list[str]:
    """Lots of the same polymer, by id: those of the same grade first."""
    polymer = context.polymer
    mine = same_stuff(context).split()
    return [*mine, *(each.id for each in context.shop.every_lot if polymer is not None and each.polymer == polymer.id)]


def _share(
    melt: MeltCase, weld: Welded | None, water: Array, ratio: Calibration | None, *, covers: bool
) -> Array | None:
    """Share of the strength of the bulk across layers, draw by draw; what was measured hotter is the most there is."""
    measured = None
    if ratio is not None:
        value = ratio.values["ratio"]
        half = ratio.values.get("ratio_half", 0.2 * value)
        measured = np.maximum(value + normal("ratio") * half / 1.96, 0.01) * np.minimum(water, 1.0)
        if covers:
            return np.asarray(measured)
    if weld is None:
        return None
    bonded = drawn("bonded unknown", WELD["bonded_unknown"].band)
    if melt.bonded is not None and not melt.assumed:
        bonded = np.minimum(melt.bonded * drawn("bonded", WELD["bonded"].band), 1.0)
    if melt.has_fibre:
        bonded = bonded * drawn("fibre bonds", WELD["fibre_bonds"].band)
    found = weld.share * bonded * water * _dose(melt)
    return np.asarray(found if measured is None else np.minimum(found, measured))


def _dose(melt: MeltCase) -> float:
    """What the time in the hot end leaves of the chains, likely [1]."""
    stable = melt.polymer.value("stable_min") if melt.polymer is not None else None
    if stable is None or melt.melting is None or not stable.value > 0.0:
        return 1.0
    over = middle(melt.melting.residence_s) / (60.0 * stable.value)
    return 1.0 / (1.0 + WELD["heat_dose"].value * over**2)
