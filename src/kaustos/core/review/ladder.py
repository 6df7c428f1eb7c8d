"""The heat ladder as a picture: one temperature scale, the polymer's lines, a lane for each heated zone."""

import attrs

from kaustos.core.planning.reach import Reach, reach_through
from kaustos.core.records import DEFLECTION_STRESSES_MPA, Machine, Polymer, Recipe, deflection_key
from kaustos.core.records.fields import value_at
from kaustos.core.review.contract import Context, Reads
from kaustos.core.review.outside import tamed
from kaustos.core.review.zones import window_of

DRYER_FIELD = "stock.dryer_c"
LANES = (  # zone, title, field of the running setpoint, field of the first layer's
    ("plate", "Plate", "plate.bed_c", "first_layer.bed_c"),
    ("chamber", "Chamber", "heat.chamber_c", None),
    ("nozzle", "Nozzle", "melt.nozzle_c", "first_layer.nozzle_c"),
)
FLOOR_TOP_C = 300.0


@attrs.frozen
class Line:
    """A temperature of the polymer, drawn across all lanes."""

    key: str
    title: str
    load: str  # under which load, empty where none belongs to it
    at_c: float


@attrs.frozen
class Gap:
    """Where window and reach do not meet."""

    from_c: float
    to_c: float
    by_k: float
    bottleneck: str


@attrs.frozen
class Lane:
    """One heated zone: what the polymer wants, what the machine reaches, what is set."""

    zone: str
    title: str
    window_c: tuple[float, float] | None
    reach_c: float | None
    bottleneck: str
    field: str
    setpoint_c: float | None
    first_field: str | None
    first_c: float | None
    gap: Gap | None


@attrs.frozen
class Ladder:
    """The whole picture, from room to the top of the nozzle."""

    low_c: float
    high_c: float
    lines: tuple[Line, ...]
    lanes: tuple[Lane, ...]


_READS = Reads(
    recipe=("stock", "plate", "first_layer", "melt", "heat", "anneal"), context=("lot", "dryer", "machine", "oven")
)


def ladder(recipe: Recipe, context: Context) -> Ladder:
    """Spans, marks and named gaps of the heat ladder.

    Parameters
    ----------
    recipe : Recipe
        Holds the setpoints [°C]
    context : Context
        Polymer with its windows and lines, machine with its limits [°C]

    Returns
    -------
    Ladder
        Picture to be drawn by window and sheet [°C, K]
    """
    recipe, context = tamed(recipe, context, _READS)
    lanes = (
        _dryer_lane(recipe, context), *(_lane(recipe, context, *lane) for lane in LANES),
        *_anneal_lane(recipe, context),
    )  # fmt: skip
    lines = _lines(recipe, context.polymer)
    tops = [FLOOR_TOP_C, *(line.at_c for line in lines)]
    for lane in lanes:
        tops += [each for each in (lane.reach_c, lane.setpoint_c, lane.first_c) if each is not None]
        tops += lane.window_c or ()
    return Ladder(context.rules.room_c - 1.0, max(tops) + 20.0, lines, lanes)


def _lines(recipe: Recipe, polymer: Polymer | None) -> tuple[Line, ...]:
    if polymer is None:
        return ()
    found = [
        ("glass_transition_c", "Glass transition", ""),
        ("crystallisation_c", "Crystallisation", ""),
        ("melting_c", "Melting", ""),
        ("decomposition_c", "Decomposition", ""),
    ]
    history, moisture = recipe.brief.history or "as_printed", recipe.brief.moisture or "dry"
    for stress in DEFLECTION_STRESSES_MPA:
        found.append((deflection_key(stress, history, moisture), "Deflection", f"{stress:g} MPa: "))
    known = [(key, title, load, polymer.value(key)) for key, title, load in found]
    return tuple(Line(key, title, load, datum.value) for key, title, load, datum in known if datum)


def _lane(recipe: Recipe, context: Context, zone: str, title: str, field: str, first_field: str | None) -> Lane:
    low, high = window_of(context.polymer, zone, context)
    window = (low.value, high.value) if low and high else None
    reach = _reach(context.machine, zone, context)
    bottleneck = reach.bottleneck if reach else None
    gap = None
    if window and bottleneck and bottleneck.max_c < window[0]:
        gap = Gap(bottleneck.max_c, window[0], window[0] - bottleneck.max_c, bottleneck.title)
    setpoint = value_at(recipe, field)
    first = value_at(recipe, first_field) if first_field else None
    return Lane(
        zone, title, window, bottleneck.max_c if bottleneck else None, bottleneck.title if bottleneck else "",
        field, setpoint, first_field, first, gap,
    )  # fmt: skip


def _dryer_lane(recipe: Recipe, context: Context) -> Lane:
    """The dryer beside the machine: the polymer's window, and the weaker of dryer and spool body."""
    polymer, dryer, lot = context.polymer, context.dryer, context.lot
    low, high = (polymer.value("dryer_low_c"), polymer.value("dryer_high_c")) if polymer else (None, None)
    window = (low.value, high.value) if low and high else None
    limits = [(dryer.max_c, dryer.name or "dryer")] if dryer and dryer.max_c is not None else []
    body = context.supplies.stands_c(lot.flange) if lot else None
    if body is not None:
        limits.append((body, "spool body"))
    reach, bottleneck = min(limits) if limits else (None, "")
    gap = None
    if window and reach is not None and reach < window[0]:
        gap = Gap(reach, window[0], window[0] - reach, bottleneck)
    return Lane("dryer", "Dryer", window, reach, bottleneck, DRYER_FIELD, recipe.stock.dryer_c, None, None, gap)


def _anneal_lane(recipe: Recipe, context: Context) -> tuple[Lane, ...]:
    """The oven behind the machine, where the part is to be annealed: window, reach, the hottest hold."""
    steps = recipe.anneal.steps
    if context.polymer is None or not (steps or recipe.brief.history == "annealed"):
        return ()
    from kaustos.core.planning.anneal_programme import window_of  # with its numbers, only where it is asked for
    from kaustos.core.review.anneal.case import place_of

    found, place = window_of(context.polymer), place_of(recipe, context)
    window = (found.low, found.high) if found is not None else None
    reach = place.reach_c if place is not None else None
    holds = [each.temperature_c for each in steps if each.temperature_c is not None]
    hold = max(holds, default=None)
    at = next((number for number, each in enumerate(steps) if each.temperature_c == hold), 0)
    gap = None
    if window and reach is not None and place is not None and reach < window[0]:
        gap = Gap(reach, window[0], window[0] - reach, place.name)
    field = f"anneal.steps.{at}.temperature_c"
    name = place.name if place is not None else ""
    return (Lane("anneal", "Anneal", window, reach, name, field, hold, None, None, gap),)


def _reach(machine: Machine | None, zone: str, context: Context) -> Reach | None:
    return reach_through(machine, zone, context.rules, context.nozzle) if machine else None
