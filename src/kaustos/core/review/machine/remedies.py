"""What helps against a finding of the machine: another setpoint, an uprated part, another machine."""

from collections.abc import Callable

import attrs

from kaustos.core.errors import FieldError
from kaustos.core.planning.configuration import calibrations_of, offset_of
from kaustos.core.planning.loading import fitted_on
from kaustos.core.planning.panel import translated
from kaustos.core.planning.reach import is_chamber_heated, reach_through
from kaustos.core.planning.upgrades import Plan, plan_of
from kaustos.core.records import Machine, Nozzle, Recipe
from kaustos.core.records.fields import value_at, with_value
from kaustos.core.review.contract import Advice, Choose, Context, Finding, Remedy, Set
from kaustos.core.review.making import Offers
from kaustos.core.review.zones import CHAMBER, NOWHERE, SETTINGS, Zone, clipped, window_of, zones_of


def set_to(zone: Zone, field: str, title: str, target_c: float) -> Set:
    """A remedy that names the shortfall it leaves, and takes plate or nozzle along where they would cross."""
    left = zone.short_k(target_c)
    text = "Set {setting:setting} to {target:temperature}"
    values: dict[str, float | str] = {"setting": title, "target": target_c}
    if left > 0:
        text, values = text + ", {left:temperature_difference} below the window", {**values, "left": left}
    sibling = _sibling(zone, field, target_c)
    if sibling:
        text, values = text + ", {sibling:setting} too", {**values, "sibling": sibling[1]}
    changes = {field: target_c} | ({sibling[0]: target_c} if sibling else {})
    partners = {other: value for each in changes for other, value in _crossed_partner(zone, each, target_c).items()}
    if partners:
        text += ", {partner:setting} into its window"
        values["partner"] = "Nozzle" if zone.name == "plate" else "Plate"
    return Set(text, changes | partners, values)


def _sibling(zone: Zone, field: str, target: float) -> tuple[str, str] | None:
    """The zone's other setting where it stands on the wrong side of the target as well."""
    setpoint = value_at(zone.recipe, field)
    for other, title, value in zone.settings():
        if other != field and setpoint is not None and (value > target) == (setpoint > target) and value != target:
            return other, title
    return None


_PARTNERS = {
    "plate.bed_c": ("melt.nozzle_c", "nozzle"),
    "first_layer.bed_c": ("first_layer.nozzle_c", "nozzle"),
    "melt.nozzle_c": ("plate.bed_c", "plate"),
    "first_layer.nozzle_c": ("first_layer.bed_c", "plate"),
}


def _crossed_partner(zone: Zone, field: str, target: float) -> dict[str, float]:
    """The setting that must move too, lest the plate end up hotter than the nozzle."""
    if field not in _PARTNERS:
        return {}
    other, other_zone = _PARTNERS[field]
    value = value_at(zone.recipe, other)
    low, high = window_of(zone.polymer, other_zone, zone.context)
    if value is None or low is None or high is None:
        return {}
    nozzle, plate = (value, target) if other_zone == "nozzle" else (target, value)
    if nozzle >= plate:
        return {}
    reach = (
        reach_through(zone.machine, other_zone, zone.context.rules, zone.context.nozzle) if zone.machine else NOWHERE
    )
    return {other: clipped(value, low.value, high.value, reach.max_c)}


def raise_reach(zone: Zone) -> Advice:
    first, then = zone.reach.bottleneck, zone.reach.next
    assert first is not None, "asked only where the reach is known"
    values: dict[str, float | str] = {
        "bottleneck": first.title, "limit": first.max_c, "machine": zone.machine_name,
    }  # fmt: skip
    text = "It holds {machine:text} at {limit:temperature}."
    if then:
        text += " Behind it comes the {next:text} at {then:temperature}."
        values |= {"next": then.title, "then": then.max_c}
    text += " Changes to heaters, wiring or firmware are work for the maker or a licensed trade."
    return Advice("Have the {bottleneck:text} uprated", text, values)


def severity_of_gap(zone: Zone, gap_k: float) -> str:
    if not gap_k > 0:
        return ""
    return "watch" if gap_k <= zone.context.rules.reduced_within_k else "stop"


def set_unless_worse(zone: Zone, field: str, title: str, setpoint_c: float, target_c: float) -> tuple[Set, ...]:
    """The remedy, none where it would turn a shortfall into a stop."""
    before, after = (severity_of_gap(zone, zone.short_k(each)) for each in (setpoint_c, target_c))
    return (set_to(zone, field, title, target_c),) if after in ("", before) else ()


def or_advice(zone: Zone, remedies: tuple[Set, ...]) -> tuple[Remedy, ...]:
    return remedies or (raise_reach(zone),)


Judge = Callable[[Recipe, Context], tuple[Finding, ...]]


def other_machines(recipe: Recipe, context: Context, judge: Judge) -> Offers:
    """Each other machine of the shop for the stops that it takes away without a new one."""
    stops = {each.code: each.field for each in judge(recipe, context) if each.severity == "stop"}
    found: dict[tuple[str, str], tuple[Remedy, ...]] = {}
    if not stops:
        return found
    offers = (_offer(recipe, context, machine, set(stops), judge) for machine in _others(context))
    for choose, left in (offer for offer in offers if offer):
        for stop in ((code, field) for code, field in stops.items() if code not in left):
            found[stop] = (*found.get(stop, ()), choose)
    return found


def _others(context: Context) -> tuple[Machine, ...]:
    present = context.machine.id if context.machine else None
    return tuple(machine for machine in context.shop.machines if machine.id != present)


def _offer(
    recipe: Recipe, context: Context, machine: Machine, stops: set[str], judge: Judge
) -> tuple[Choose, set[str]] | None:
    """Choosing the machine, with setpoints lifted into their windows; and what would still be found."""
    there = on_machine(context, machine)
    changes = _translated(recipe, context, there)
    moved = recipe
    try:
        for field, value in changes.items():
            moved = with_value(moved, field, value)
        changes |= _lifted(moved, there)
        for field, value in changes.items():
            moved = with_value(moved, field, value)
    except FieldError:  # limits or offsets of that machine which cannot be: nothing is offered by them
        return None
    left = {finding.code for finding in judge(moved, there) if finding.severity == "stop"}
    if left - stops or left == stops:
        return None
    lifted = any(field in _lifted(recipe, there) for field in changes)
    translated_too = any(field in _translated(recipe, context, there) for field in changes)
    title = "Move to {machine:text}" + (", setpoints into their windows" if lifted else "")
    title += ", translated by both calibrations" if translated_too else ""
    return Choose(title, "machine", machine.id, {"machine": machine.name}, changes), left


def on_machine(context: Context, machine: Machine) -> Context:
    """The same on another machine: with the nozzle that is on it there, and its own calibrations."""
    return attrs.evolve(
        context, machine=machine, nozzle=_nozzle_there(context, machine),
        calibrations=calibrations_of(machine, context.shop.calibrations),
    )  # fmt: skip


def _nozzle_there(context: Context, machine: Machine) -> Nozzle | None:
    """The nozzle that a recipe asks for, or the one that is fitted where it came with the machine."""
    mine, here = context.nozzle, context.machine
    came_with = mine is None or (here is not None and mine.fitted_on == here.id)
    return fitted_on(context.shop.nozzles, machine.id) if came_with else mine


def _translated(recipe: Recipe, context: Context, there: Context) -> dict[str, float | None]:
    """Setpoints that bring the same true heat there, where both machines were compared with a second sensor."""
    changes: dict[str, float | None] = {}
    for zone, settings in SETTINGS.items():
        here, other = (offset_of(each.calibrations, zone) for each in (context, there))
        if here is None or other is None or not (here.is_valid and other.is_valid):
            continue
        for field, _, _ in settings:
            setpoint = value_at(recipe, field)
            if setpoint is not None:
                moved = translated(setpoint, here.values["offset_k"], other.values["offset_k"])
                reach = reach_through(there.machine, zone, there.rules, there.nozzle).max_c if there.machine else None
                if round(moved) != setpoint and (reach is None or round(moved) <= reach):
                    changes[field] = float(round(moved))
    return changes


def _lifted(recipe: Recipe, context: Context) -> dict[str, float | None]:
    """Setpoints below the window, lifted to it where the machine reaches that; one for the air only where it heats."""
    changes: dict[str, float | None] = {}
    for zone in zones_of(recipe, context):
        for field, _, setpoint in zone.settings():
            if zone.low and setpoint < zone.wanted_c(zone.low.value):
                changes[field] = zone.wanted_c(zone.low.value)
    air = recipe.heat.chamber_c
    if air is not None and not is_chamber_heated(context.machine):
        changes[CHAMBER] = None
    elif air is None and is_chamber_heated(context.machine) and context.polymer:
        low, _ = window_of(context.polymer, "chamber")
        if low:
            reach = reach_through(context.machine, "chamber", context.rules, None).max_c if context.machine else None
            changes[CHAMBER] = clipped(low.value, low.value, low.value, reach)
    return changes


def upgrade_offers(recipe: Recipe, context: Context, judge: Judge) -> Offers:
    """The cheapest set of changes for the stops that a zone of this machine falls short in."""
    machine, polymer = context.machine, context.polymer
    if machine is None or polymer is None or not context.shop.upgrades:
        return {}

    found: dict[tuple[str, str], tuple[Remedy, ...]] = {}
    for finding in judge(recipe, context):
        zone = finding.code.split(".")[1]
        if finding.severity != "stop" or finding.code.split(".")[2] not in _SHORT:
            continue
        low, _ = window_of(polymer, zone, context)
        setpoint = finding.values.get("setpoint")
        wanted = max([each for each in (low.value if low else None, setpoint) if isinstance(each, float)], default=None)
        if wanted is None:
            continue
        plan = plan_of(machine, {zone: wanted}, context.shop.upgrades, context.rules)
        if plan.steps:
            found[finding.code, finding.field] = (_bill(plan, machine, wanted),)
    return found


_SHORT = ("below_window", "not_heated", "beyond_reach", "liner_limit", "magnet_limit", "backing_limit", "parts_soften",
          "electronics_limit", "cannot_extrude")  # fmt: skip


def _bill(plan: Plan, machine: Machine, wanted_c: float) -> Advice:
    names = " and ".join(each.change.name for each in plan.steps)
    values: dict[str, float | str] = {
        "names": names, "machine": machine.name, "cost": plan.cost, "hours": plan.hours, "wanted": wanted_c,
    }  # fmt: skip
    text = "The cheapest set of changes that brings this zone of {machine:text} to {wanted:temperature}."
    if plan.unknown:
        text += " Price or hours are not recorded for all of it."
    text += " Open a work order for it in the room of machines; wiring, mains and firmware are for a qualified person."
    return Advice("Change {names:text}: {cost:money}, {hours:duration}", text, values)


def merged(*offers: Offers) -> Offers:
    """Offers for the same findings one behind the other."""
    found: dict[tuple[str, str], tuple[Remedy, ...]] = {}
    for each in offers:
        for key, remedies in each.items():
            found[key] = (*found.get(key, ()), *remedies)
    return found
