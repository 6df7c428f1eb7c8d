"""The pictures of operation 70: maps of the weld over what can be set, and heat along the height."""

import attrs
import numpy as np

from kaustos.core.physics.cylinder import share_lost
from kaustos.core.planning.draws import Array, ends, middle
from kaustos.core.planning.reach import reach_through
from kaustos.core.planning.welding import PERIODS, Matter, Section, share_map, share_over_periods
from kaustos.core.records import Recipe
from kaustos.core.records.fields import with_value
from kaustos.core.review.contract import Context
from kaustos.core.review.heat.case import HeatCase, heat_case, section_at
from kaustos.core.review.heat.layers import end_of, softness_of
from kaustos.core.review.heat.schools import School, schools_of
from kaustos.core.review.melt.case import melt_case
from kaustos.core.review.zones import window_of

COLUMNS = ROWS = 120
LEVELS = 5  # shares at which contours are drawn, the two that grade among them
PROFILE = 12  # heights at which the end of a layer is solved
FLOWS = 9  # nozzles at which the limit of flow is worked out


@attrs.frozen(eq=False)
class WeldMap:
    """Share of the strength across layers over the nozzle (up) and one other thing that can be set (along)."""

    along: str  # chamber, layer or speed
    field: str  # that a drag along it sets
    quantity: str
    x: Array
    y: Array  # nozzle, as it is shown [°C]
    share: Array  # y by x, likely [1]
    contours: tuple[tuple[float, Array], ...]  # share, nozzle for each x
    wanted: tuple[float, float]  # shares that make reduced and functional
    band: tuple[Array, Array]  # nozzle for each x at which functional is met at the worst and at the best
    reach_x: float | None
    reach_y: float | None
    window_x: tuple[float, float] | None
    window_y: tuple[float, float] | None
    decomposes_c: float | None
    flow_x: Array | None  # along the nozzles of ``flow_y``: the largest x that the head gives
    flow_y: Array
    flow_above_c: float | None  # nozzle that the flow needs, where x does not change it
    point: tuple[float, float] | None


@attrs.frozen(eq=False)
class HeightProfile:
    """Along the height of the part."""

    height_mm: Array
    seconds: Array
    end_at_mm: Array
    end_c: Array
    sets_c: float | None
    weakest_mm: float | None
    needed_s: float | None


@attrs.frozen(eq=False)
class HeatPicture:
    """Maps by what runs along them, and the profile."""

    maps: dict[str, WeldMap]
    profile: HeightProfile | None
    schools: tuple[School, ...]
    why_not: str  # what is missing for a map

    @property
    def is_empty(self) -> bool:
        """Whether there is nothing to draw yet."""
        return not self.maps and self.profile is None


def picture(recipe: Recipe, context: Context) -> HeatPicture:
    """Every map of this recipe, and its heat along the height."""
    case = heat_case(recipe, context)
    ready = (
        case.matter is not None and case.section is not None and case.melt.melting is not None and case.matter.is_known
    )
    maps = {along: weld_map(recipe, context, along) for along in ("chamber", "layer", "speed")} if ready else {}
    why = "" if ready else "Choose a polymer and set the nozzle to see how its layers weld."
    schools = schools_of(recipe, context) if ready else ()
    return HeatPicture({key: each for key, each in maps.items() if each is not None}, _profile(case), schools, why)


def weld_map(recipe: Recipe, context: Context, along: str) -> WeldMap | None:
    """One map: nozzle against chamber, time of a layer, or speed."""
    case = heat_case(recipe, context)
    nozzle, polymer, matter, section = recipe.melt.nozzle_c, context.polymer, case.matter, case.section
    low, high = window_of(polymer, "nozzle")
    if nozzle is None or polymer is None or matter is None or section is None or low is None or high is None:
        return None
    y = np.linspace(min(low.value - 30.0, nozzle - 10.0), max(high.value + 30.0, nozzle + 10.0), ROWS)
    x, field, quantity = _axis(along, recipe, case, context)
    share = _grid(along, case, matter, section, x, y, nozzle) * _kept(case)
    share = np.minimum(share, middle(case.water) if not matter.is_glassy else _most(case))
    wanted = context.rules.reduced_pct / 100.0, context.rules.functional_pct / 100.0
    shares = sorted({*wanted, 0.15, 0.65, 0.8})
    worst, best = _factors(case)
    machine = context.machine
    reach = {
        zone: reach_through(machine, zone, context.rules, context.nozzle).max_c if machine else None
        for zone in ("nozzle", "chamber")
    }
    chamber = window_of(polymer, "chamber")
    ends = polymer.value("decomposition_c")
    heats = np.linspace(float(y[0]), float(y[-1]), FLOWS)
    hard = _hard_over(recipe, context, heats)
    flow_x, above = _flow_limit(along, case, heats, hard)
    point = {"chamber": case.air_likely_c, "layer": section.period_s, "speed": case.melt.speed_mm_s}[along]
    return WeldMap(
        along,
        field,
        quantity,
        x,
        y,
        share,
        tuple((each, _contour(share, y, each)) for each in shares),
        wanted,
        (_contour(share * worst, y, wanted[1]), _contour(np.minimum(share * best, 1.0), y, wanted[1])),
        reach["chamber"] if along == "chamber" else None,
        reach["nozzle"],
        (chamber[0].value, chamber[1].value) if along == "chamber" and chamber[0] and chamber[1] else None,
        (low.value, high.value),
        ends.value if ends is not None else None,
        flow_x,
        heats,
        above,
        (point, nozzle),
    )


def _axis(along: str, recipe: Recipe, case: HeatCase, context: Context) -> tuple[Array, str, str]:
    if along == "chamber":
        _, high = window_of(context.polymer, "chamber")
        top = max(high.value if high is not None else 80.0, case.air_likely_c) + 25.0
        return np.linspace(min(context.rules.room_c, case.air_likely_c), top, COLUMNS), "heat.chamber_c", "temperature"
    section = case.section
    assert section is not None
    if along == "layer":
        least, most = max(section.period_s / 6.0, PERIODS[0]), min(section.period_s * 6.0, PERIODS[1])
        return np.geomspace(min(least, most / 4.0), most, COLUMNS), "heat.least_layer_s", "seconds"
    speed = case.melt.speed_mm_s
    return np.geomspace(max(speed / 4.0, 1.0), speed * 4.0, COLUMNS), "melt.speed_mm_s", "speed"


def _grid(along: str, case: HeatCase, matter: Matter, section: Section, x: Array, y: Array, nozzle: float) -> Array:
    """What of the bulk the heat alone leaves, likely: nozzle by what runs along [1]."""
    melting = case.melt.melting
    assert melting is not None and case.melt.nozzle_c is not None
    true = y + (case.melt.nozzle_c - nozzle)
    room = case.melt.feed_c
    gained = (middle(melting.exit_c) - room) / (case.melt.nozzle_c - room)
    if along == "chamber":
        return share_map(matter, section, room + (true - room) * gained, x, case.plate_c, case.film_w)
    air, plate, film = case.air_likely_c, case.plate_c, case.film_w
    if along == "layer":
        return share_over_periods(
            matter, section, np.clip(x, *PERIODS), room + (true - room) * gained, air, plate, film
        )
    gains = _gains(case, x, gained)
    melt = room + (true[:, None] - room) * gains[None, :]
    periods = np.clip(section.period_s * case.melt.speed_mm_s / x, *PERIODS)
    return share_over_periods(matter, section, periods, melt, air, plate, film)


def _gains(case: HeatCase, speeds: Array, now: float) -> Array:
    """Share of the way to the nozzle that the melt gets to at each speed: the series, exact at the speed of now."""
    melting, flow = case.melt.melting, case.melt.flow_mm3_s
    assert melting is not None and flow is not None
    grid = np.geomspace(1e-3, 10.0, 400)
    fourier = float(np.interp(now, np.asarray(share_lost(grid)), grid))
    return np.asarray(share_lost(fourier * case.melt.speed_mm_s / speeds))


def _kept(case: HeatCase) -> float:
    """What bonded section and water leave of the heat's share: at its point the map says what the figure says."""
    weld, share = case.weld, case.likely
    if weld is None or share is None:
        return 1.0
    heat = middle(weld.share)
    return share / heat if heat > 1e-6 and case.ratio is None else _most(case)


def _most(case: HeatCase) -> float:
    """What is left where the heat leaves all."""
    bonded = case.melt.bonded if case.melt.bonded is not None else 0.7
    return bonded * middle(case.water)


def _factors(case: HeatCase) -> tuple[float, float]:
    """By what the weld may lie lower and higher than likely."""
    weld = case.weld
    if weld is None:
        return 0.6, 1.6
    raw = weld.share
    low, likely, high = (each for each in ends(raw))
    return max(low / max(likely, 1e-6), 0.3), max(min(high / max(likely, 1e-6), 3.0), 1.05)


def _contour(share: Array, y: Array, level: float) -> Array:
    """The nozzle at which each column reaches a share; below or above the map where none does [°C]."""
    reached = share >= level
    first = np.argmax(reached, axis=0)
    none = ~reached.any(axis=0)
    before = np.maximum(first - 1, 0)
    columns = np.arange(share.shape[1])
    low, high = share[before, columns], share[first, columns]
    part = np.where(high > low, (level - low) / np.where(high > low, high - low, 1.0), 0.0)
    found = y[before] + part * (y[first] - y[before])
    return np.where(none, np.nan, np.where(first == 0, y[0], found))


def _hard_over(recipe: Recipe, context: Context, nozzles: Array) -> Array:
    """What the head gives at each nozzle; melt cases are remembered, so that every map asks anew for nothing."""
    found = [melt_case(with_value(recipe, "melt.nozzle_c", float(each)), context).hard_mm3_s for each in nozzles]
    return np.array([np.nan if each is None else middle(each) for each in found])


def _flow_limit(along: str, case: HeatCase, heats: Array, hard: Array) -> tuple[Array | None, float | None]:
    """The speed that the head gives at each nozzle, or the nozzle that the flow of now needs."""
    bead, flow = case.melt.bead_mm2, case.melt.flow_mm3_s
    if bead is None or flow is None or np.isnan(hard).any():
        return None, None
    if along == "speed":
        return hard / (flow / case.melt.speed_mm_s), None
    if flow > hard.max():
        return None, float(heats[-1])
    return None, None if flow <= hard.min() else float(np.interp(flow, np.maximum.accumulate(hard), heats))


def _profile(case: HeatCase) -> HeightProfile | None:
    times, matter = case.times, case.matter
    if times is None or times.height_mm.size < 2:
        return None
    soft = softness_of(case)
    at, ends = np.zeros(0), np.zeros(0)
    if matter is not None and case.melt.melting is not None:
        places = np.unique(np.linspace(0, times.height_mm.size - 1, PROFILE).astype(int))
        melt = middle(case.melt.melting.exit_c)
        at = times.height_mm[places]
        ends = np.array([_end(case, matter, section_at(times, case.pace, int(place)), melt) for place in places])
    return HeightProfile(
        times.height_mm,
        times.seconds,
        at,
        ends,
        matter.sets_at_c if matter is not None else None,
        case.at_mm,
        soft.needed_s if soft is not None and soft.over_k > 0.0 else None,
    )


def _end(case: HeatCase, matter: Matter, section: Section, melt: float) -> float:
    return end_of(matter, section, section.period_s, melt, case.air_likely_c, case.plate_c, case.film_w)
