"""The figures of the machine, each with its band, method and source."""

from collections.abc import Mapping

from kaustos.core.estimates import PURPOSE
from kaustos.core.planning.reach import SPREAD_K, Reach, reach_through
from kaustos.core.records import KNOWN_FROM, ZONES, Datum, Recipe
from kaustos.core.review.contract import UNKNOWN, Absent, Context, Estimate, Figure, Finding, Saying, worst_first
from kaustos.core.review.machine.nozzle_figures import nozzle_figures
from kaustos.core.review.machine.passport_figures import passport_figures
from kaustos.core.review.zones import SCHOOL_K, Zone, window_of


def headline_of(zones: tuple[Zone, ...], findings: tuple[Finding, ...]) -> str:
    """The gap of the zone that is in the worst trouble, else of the one that has the least to spare."""
    troubled = [each.code.split(".")[1] for each in worst_first(findings)]
    if any(each in ZONES for each in troubled):
        return f"machine.{next(each for each in troubled if each in ZONES)}.gap"
    gaps = [(gap.value, zone.name) for zone, gap in ((zone, _gap(zone)) for zone in zones) if gap]
    return f"machine.{max(gaps)[1]}.gap" if gaps else "machine.chamber.gap"


def tile_of(zones: tuple[Zone, ...], headline: str) -> tuple[Saying, ...]:
    """What the headline's zone has to spare or lacks; where it has enough, how far it is set over its reach."""
    name = headline.split(".")[1]
    zone = next((each for each in zones if each.name == name), None)
    gap = _gap(zone) if zone else None
    if zone is None or gap is None:
        return ()
    values: dict[str, float | str] = {
        "zone": name, "sign": "−" if gap.value > 0 else "+",
        "way": "short" if gap.value > 0 else "spare", "gap": abs(gap.value), "short": _SHORT[name],
        "over": zone.over_reach_k(),
    }  # fmt: skip
    if gap.value <= 0 and zone.over_reach_k() > 0:
        texts = ("{zone:text} over {over:temperature_difference}", "over {over:temperature_difference}",
                 ">{over:temperature_difference}")  # fmt: skip
        return tuple(Saying(text, values) for text in texts)
    return tuple(
        Saying(text, values)
        for text in (
            "{zone:text} {gap:temperature_difference} {way:text}",
            "{short:text} {gap:temperature_difference} {way:text}",
            "{gap:temperature_difference} {way:text}",
            "{sign:text}{gap:temperature_difference}",
        )
    )


_SHORT = {"nozzle": "nozzle", "plate": "plate", "chamber": "air"}


def figures_of(recipe: Recipe, context: Context, zones: tuple[Zone, ...]) -> tuple[Figure, ...]:
    by_name: Mapping[str, Zone] = {zone.name: zone for zone in zones}
    figures = []
    for name in ZONES:
        figures += _zone_figures(name, by_name.get(name), context)
    return (
        *figures,
        *nozzle_figures(context),
        *passport_figures(recipe, context),
        _school(context),
        _decomposition_margin(recipe, context),
        *_energy(recipe, context),
    )


def _gap(zone: Zone) -> Estimate | None:
    """Window minus reach: positive is short, negative is to spare [K]."""
    reach = zone.reach
    if reach.max_c is None or reach.low_c is None or zone.low is None:
        return None
    source = f"{zone.low.source}; {zone.machine_name}: {reach.limits[0].title}"
    return Estimate(
        zone.low.value - reach.max_c, zone.low.low - reach.max_c, zone.low.high - reach.low_c, "K",
        "lower end of the window − reach", source,
    )  # fmt: skip


def _zone_figures(name: str, zone: Zone | None, context: Context) -> list[Figure]:
    title = name.capitalize()
    low, high = window_of(context.polymer, name, context)
    reach = (
        zone.reach
        if zone
        else reach_through(context.machine, name, context.rules, context.nozzle)
        if context.machine
        else None
    )
    return [
        Figure(f"machine.{name}.gap", f"{title}: window minus reach", (_gap(zone) if zone else None) or UNKNOWN),
        Figure(f"machine.{name}.reach", f"{title}: reach", _reach_estimate(context, reach) or UNKNOWN),
        Figure(f"machine.{name}.bottleneck", f"{title}: held back by", _bottleneck_words(reach) or UNKNOWN),
        Figure(f"machine.{name}.window_low", f"{title}: window from", _of(low, "window of the polymer")),
        Figure(f"machine.{name}.window_high", f"{title}: window to", _of(high, "window of the polymer")),
    ]


def _of(datum: Datum | None, method: str) -> Estimate | Absent:
    if datum is None:
        return UNKNOWN
    return Estimate(
        datum.value, datum.low, datum.high, datum.unit, f"{method} ({KNOWN_FROM[datum.kind]})", datum.source
    )


def _reach_estimate(context: Context, reach: Reach | None) -> Estimate | None:
    if reach is None or reach.bottleneck is None or reach.low_c is None or context.machine is None:
        return None
    high = reach.bottleneck.max_c + (SPREAD_K["proven"] if reach.bottleneck.basis == "proven" else 0.0)
    basis = reach.bottleneck.basis or "origin not recorded"
    source = f"{context.machine.name}: {reach.bottleneck.title}, {basis}"
    return Estimate(reach.bottleneck.max_c, reach.low_c, high, "°C", "lowest limit of the parts recorded", source)


def _bottleneck_words(reach: Reach | None) -> str | None:
    if reach is None or reach.bottleneck is None:
        return None
    words = reach.bottleneck.title
    return f"{words}, then {reach.next.title}" if reach.next else words


def _school(context: Context) -> Figure:
    transition = context.polymer.value("glass_transition_c") if context.polymer else None
    value: Estimate | Absent = UNKNOWN
    if transition and context.polymer and context.polymer.is_glassy:
        least, middle, most = (transition.value - each for each in SCHOOL_K)
        value = Estimate(middle, most, least, "°C", "school: plate 5 to 10 K below the glass transition",
                         f"practice, estimate; glass transition: {transition.source}")  # fmt: skip
    return Figure("machine.plate.school", "Plate just below glass transition (a school)", value)


def _decomposition_margin(recipe: Recipe, context: Context) -> Figure:
    start = context.polymer.value("decomposition_c") if context.polymer else None
    hottest = [each for each in (recipe.melt.nozzle_c, recipe.first_layer.nozzle_c) if each is not None]
    value: Estimate | Absent = UNKNOWN
    if start and hottest:
        left, least, most = (each - max(hottest) for each in (start.value, start.low, start.high))
        method = f"start of decomposition ({KNOWN_FROM[start.kind]}) − hottest nozzle setpoint"
        value = Estimate(left, least, most, "K", method, start.source)
    return Figure("machine.nozzle.to_decomposition", "Nozzle: left to decomposition", value)


def _energy(recipe: Recipe, context: Context) -> tuple[Figure, Figure]:
    hours = recipe.brief.print_h
    power = context.machine.power_w if context.machine else None
    energy: Estimate | Absent = UNKNOWN
    cost: Estimate | Absent = UNKNOWN
    if hours is not None and power is not None:
        used, price = power * hours / 1000.0, context.rules.energy_per_kwh
        spread = PURPOSE["energy_spread"].value
        method, source = f"mean power × hours (±{100.0 * spread:g} %, estimate)", "power in the machine record"
        energy = Estimate(used, (1.0 - spread) * used, (1.0 + spread) * used, "kWh", method, source)
        low, high = (1.0 - spread) * used * price, (1.0 + spread) * used * price
        cost = Estimate(used * price, low, high, "money", "energy × price of energy", source)
    return (
        Figure("machine.run.energy", "Energy of the run", energy),
        Figure("machine.run.energy_cost", "Energy of the run in money", cost),
    )
