"""The figures of operation 70, and what its tile says."""

from kaustos.core.estimates import WELD
from kaustos.core.planning.draws import estimate
from kaustos.core.planning.layer_times import layers_at
from kaustos.core.planning.welding import METHOD, SOURCE
from kaustos.core.records import Estimate, Recipe
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Figure, Saying
from kaustos.core.review.heat.case import HeatCase, heat_case
from kaustos.core.review.heat.findings import fan_price, soak_needed_min
from kaustos.core.review.heat.layers import softness_of

STACK = "heat of a stack of layers that grows"


def figures_of(recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    """Everything that can be asked where it comes from."""
    case = heat_case(recipe, context)
    return (*_weld(case), *_layers(case), *_air(case, recipe, context))


def _exact(value: float | None, unit: str, method: str, source: str = SOURCE) -> Estimate | Absent:
    return UNKNOWN if value is None else Estimate(value, value, value, unit, method, source)


def _weld(case: HeatCase) -> tuple[Figure, ...]:
    weld, share = case.weld, case.band()
    glassy = weld is not None and weld.healed.size > 0
    bond = estimate(
        100.0 * case.water, "%", "1 at the printing limit, halved for each factor of 4 above it", "practice, estimate"
    )
    return (
        Figure("heat.weld.share", "Strength across layers, of the bulk", share if share is not None else UNKNOWN),
        Figure(
            "heat.weld.healing",
            "Chains healed",
            weld.band(100.0 * weld.healed, "%") if weld is not None and glassy else UNKNOWN,
        ),
        Figure(
            "heat.weld.index",
            "Weld index, no prediction",
            weld.band(100.0 * weld.index, "%") if weld is not None and not glassy else UNKNOWN,
        ),
        Figure("heat.weld.contact", "Layers meet at", weld.band(weld.contact_c, "°C") if weld is not None else UNKNOWN),
        Figure(
            "heat.weld.skin", "Layer below has cooled to", weld.band(weld.skin_c, "°C") if weld is not None else UNKNOWN
        ),
        Figure(
            "heat.weld.above",
            "Weld stays hot for",
            _exact(
                weld.above_s if weld is not None else None, "s", "time above glass transition or crystallisation onset"
            ),
        ),
        Figure(
            "heat.weld.crystals",
            "Crystallised by the end of a layer",
            _exact(
                100.0 * weld.crystals if weld is not None and weld.crystals is not None else None,
                "%",
                "Nakamura with Ziabicki's bell, relative",
            ),
        ),
        Figure("heat.weld.water", "Left of it by water", bond),
        Figure(
            "heat.weld.at",
            "Its worst height",
            _exact(case.at_mm, "mm", "longest time at the most edge", "part and pace"),
        ),
    )


def _layers(case: HeatCase) -> tuple[Figure, ...]:
    times, soft = case.times, softness_of(case)
    seconds = times.seconds if times is not None and times.seconds.size else None
    pace = "filled area over distance of beads and speed, travels a factor"
    needed: Estimate | str | Absent = UNKNOWN
    if soft is not None:
        needed = "no time is enough" if soft.needed_s is None else "none needed"
        if soft.needed_s is not None and soft.over_k > 0.0:
            needed = Estimate(
                soft.needed_s,
                0.6 * soft.needed_s,
                1.7 * soft.needed_s,
                "s",
                f"{STACK}, until it carries the next",
                SOURCE,
            )
    return (
        Figure(
            "heat.layer.longest",
            "Longest layer",
            _exact(float(seconds.max()) if seconds is not None else None, "s", pace),
        ),
        Figure(
            "heat.layer.shortest",
            "Shortest layer",
            _exact(float(seconds.min()) if seconds is not None else None, "s", pace),
        ),
        Figure("heat.layer.hours", "Layers together", _exact(_hours(case), "h", pace)),
        Figure(
            "heat.layer.end", "Hottest layer ends at", _exact(soft.end_c if soft is not None else None, "°C", STACK)
        ),
        Figure(
            "heat.layer.sets",
            "It carries the next below",
            _exact(
                soft.sets_c if soft is not None else None,
                "°C",
                "glass transition or crystallisation onset less a distance",
                "practice, estimate",
            ),
        ),
        Figure("heat.layer.needed", "Time that it needs", needed),
    )


def _hours(case: HeatCase) -> float | None:
    times, shape = case.times, case.melt.shape
    if times is None or shape is None or not times.seconds.size:
        return None
    return float((times.seconds * layers_at(times, shape.size_z_mm, case.pace.height_mm)).sum() / 3600.0)


def _air(case: HeatCase, recipe: Recipe, context: Context) -> tuple[Figure, ...]:
    price = fan_price(case, recipe, context)
    fan = recipe.heat.fan_pct
    known = "film of air, radiation apart"
    return (
        Figure(
            "heat.air.beside",
            "Air beside the part",
            estimate(
                case.air_c, "°C", "set, reached or warmed by the plate, corrected", "machine and its calibrations"
            ),
        ),
        Figure("heat.air.film", "Film of air", _exact(case.film_w, "W/m²/K", known, WELD["still"].source)),
        Figure(
            "heat.fan.price",
            "Strength that the fan costs",
            _exact(None if price is None else 100.0 * price, "%", f"{METHOD}, with and without it"),
        ),
        Figure(
            "heat.fan.gain",
            "Steeper overhang by the fan",
            _exact(
                None if fan is None else WELD["fan_overhang"].value * fan / 100.0, "°", "practice", "practice, estimate"
            ),
        ),
        Figure(
            "heat.soak.needed",
            "Walls are warm after",
            _exact(soak_needed_min(recipe, context), "min", "warm-up of the enclosure", "machine record, or a log"),
        ),
    )


def tile_of(recipe: Recipe, context: Context) -> tuple[Saying, ...]:
    """What the weld keeps."""
    share = heat_case(recipe, context).likely
    return () if share is None else (Saying("weld {share:share}", {"share": float(round(100.0 * share))}),)
