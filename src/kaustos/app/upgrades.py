"""What a shop plans to change on its machines: the catalogue, the cheapest plan, work orders that are signed."""

import re
from collections.abc import Sequence

import attrs

from kaustos.app.logs import add_entry, moment_of
from kaustos.app.recipes import check_new_name
from kaustos.app.wording import Wording, hours_words
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import FieldError, KaustosError
from kaustos.core.planning.reach import parts_of, reach_of
from kaustos.core.planning.upgrades import Plan, plan_of, short_parts, upgraded, wanted_of
from kaustos.core.planning.work_order import before_power, ticks_of
from kaustos.core.records import PART_TITLES, RISKS, ZONES, Machine, PartChange, Place, Polymer, Upgrade, WorkOrder
from kaustos.core.records.upgrade import GONE
from kaustos.core.review.brief import lack_of

_BLANK = Machine(id="")
_NAMES = tuple((zone, name) for zone in ZONES for name, _ in parts_of(getattr(_BLANK, zone)))
_PARTS = {f"{zone} {words}": f"{zone}.{name}" for zone, name in _NAMES for words in (PART_TITLES[name], name)}
_LIFT = re.compile(r"\s*(?P<part>[a-z ]+?)\s+(?P<limit>none|[-+\d].*)\s*")


def read_lifts(text: str, wording: Wording) -> dict[str, float]:
    """Limits after a change as they are typed: nozzle heater 450, nozzle liner none."""
    found: dict[str, float] = {}
    for piece in filter(None, (each.strip() for each in text.split(";"))):
        match = _LIFT.fullmatch(piece.lower())
        part = _PARTS.get(match["part"]) if match else None
        if match is None or part is None:
            known = ", ".join(sorted(key for key in _PARTS if key.count(" ") == 1))
            words = f"“{piece:.40}” is no part with its limit; write nozzle heater 450. Parts: {known}"
            raise FieldError("lifts", words)
        found[part] = GONE if match["limit"] == "none" else wording.read(match["limit"], "temperature")
    return found


def lifts_words(change: Upgrade, wording: Wording) -> str:
    """The same as it is shown."""
    return "; ".join(
        f"{path.replace('.', ' ')} {'none' if limit >= GONE else wording.value(limit, 'temperature')}"
        for path, limit in change.lifts.items()
    )


def new_upgrade(
    workspace: Workspace, name: str, part: str | None, lifts: str, price: float | None, hours: float | None,
    risk: str | None, needs: Sequence[str] = (), *, skilled: bool | None = None, whole: bool = False,
    machine: str | None = None,
) -> str:  # fmt: skip
    """A change of the catalogue; its id."""
    if not name.strip():
        raise KaustosError("A change needs a name, such as all-metal hot end.")
    records = workspace.draft.records
    check_new_name("change", name, (each.name for each in records.upgrades.values() if not each.retired))
    limits = read_lifts(lifts, workspace.draft.wording)
    if not limits and not whole:
        raise KaustosError("Say which limits it lifts, such as nozzle heater 450; nozzle liner none.")
    key = records.free_id("upgrades", name)
    change = Upgrade(id=key, name=name.strip(), machine=machine, part=part, lifts=limits, price=price, hours=hours,
                     risk=risk, needs=tuple(needs), skilled=skilled, whole=whole or None)  # fmt: skip
    workspace.draft.add("upgrades", key, change, f"New change: {change.name}")
    return key


NEAREST = 3  # other polymers that are named
PLAN_HEADINGS = ("Change, in this order", "Price", "Hours", "Risk", "Then reaches")


def known_machine(workspace: Workspace, key: str) -> str:
    """The id of a machine of the shop; what is there is named where it is not."""
    machines = workspace.draft.records.machines
    if key not in machines:
        raise KaustosError(f"There is no machine {key!r:.60} here; known: {', '.join(machines)}")
    return key


def known_polymers(workspace: Workspace, keys: Sequence[str]) -> Sequence[str]:
    """Ids of polymers that are known."""
    unknown = [each for each in keys if each not in workspace.draft.records.polymers]
    if unknown:
        raise KaustosError(f"No polymer {', '.join(unknown)} is known; kaustos library export --json lists them.")
    return keys


@attrs.frozen
class Outlook:
    """What it takes to run some polymers on a machine."""

    wanted: dict[str, float]
    plan: Plan
    rows: tuple[tuple[str, ...], ...]  # change, price, hours, risk, what each zone comes to
    words: tuple[str, ...]


def outlook(workspace: Workspace, machine: str, polymers: Sequence[str], wording: Wording) -> Outlook:
    """The cheapest plan for some polymers on a machine, its bill, what is out of reach, and what else would do."""
    records = workspace.draft.records
    record, rules = records.machines[machine], records.rules
    catalogue = [each for each in records.upgrades.values() if not each.retired]
    chosen = [records.polymers[each] for each in polymers]
    wanted = wanted_of(chosen)
    plan = plan_of(record, wanted, catalogue, rules)
    rows = tuple(
        (
            each.change.name + (", qualified person" if each.change.skilled else ""),
            _money(each.change.price, wording), _hours(each.change.hours),
            RISKS.get(each.change.risk or "", "not known"),
            ", ".join(
                f"{zone} {wording.value(limit, 'temperature')}"
                for zone, limit in each.reach_c.items() if limit is not None
            ),
        )
        for each in plan.steps
    )  # fmt: skip
    words = (*_plan_words(plan, record, workspace, wanted, wording), *_each_alone(workspace, record, chosen, wording),
             *_others(workspace, machine, wanted, wording), *_as_it_is(workspace, record, chosen))  # fmt: skip
    return Outlook(wanted, plan, rows, words)


def _money(price: float | None, wording: Wording) -> str:
    return "not recorded" if price is None else wording.value(price, "money")


def _hours(hours: float | None) -> str:
    return "not recorded" if hours is None else hours_words(hours)


def _plan_words(
    plan: Plan, machine: Machine, workspace: Workspace, wanted: dict[str, float], wording: Wording
) -> list[str]:
    rules = workspace.draft.records.rules
    if not wanted:
        return ["Tick the polymers that this machine is to run."]
    if plan.blocked:
        return [_blocked(each.title, each.wanted_c, each.limit_c, each.best_c, wording) for each in plan.blocked]
    if not plan.steps:
        return [f"Nothing has to be changed: {machine.name} reaches what is wanted."]
    wage = rules.wage_per_h * plan.hours
    bill = f"Bill: {wording.value(plan.cost, 'money')} of parts and {hours_words(plan.hours)} of work"
    words = [f"{bill} ({wording.value(wage, 'money')} at the shop's wage)."]
    if plan.unknown:
        words.append(f"Price or hours are not recorded for {', '.join(plan.unknown)}: the bill is not whole.")
    unknown = [f"{zone}: {PART_TITLES[part]}" for zone in wanted for part in reach_of(machine, zone, rules).unknown]
    if unknown:
        words.append(f"Not recorded, and so not in the plan: {', '.join(unknown)}.")
    for each in workspace.draft.records.upgrades.values():
        if not each.whole or not each.price or each.retired:
            continue
        share = (plan.cost + wage) / (each.price or 1.0)
        words.append(f"That is {100.0 * share:.0f} % of {each.name} at {wording.value(each.price or 0.0, 'money')}.")
    return words


def _blocked(title: str, wanted: float, limit: float, best: float | None, wording: Wording) -> str:
    said = f"{title} {wording.value(limit, 'temperature')}, wanted {wording.value(wanted, 'temperature')}"
    best_words = "no change lifts it" if best is None else f"the best change {wording.value(best, 'temperature')}"
    return f"Out of reach: {said}, {best_words}."


def _each_alone(workspace: Workspace, machine: Machine, polymers: Sequence[Polymer], wording: Wording) -> list[str]:
    """What each polymer alone would cost, where several are wanted."""
    if len(polymers) < 2:
        return []
    records = workspace.draft.records
    catalogue = [each for each in records.upgrades.values() if not each.retired]
    found = []
    for polymer in polymers:
        plan = plan_of(machine, wanted_of([polymer]), catalogue, records.rules)
        cost = "out of reach" if plan.blocked else wording.value(plan.cost, "money")
        found.append(f"{polymer.name} alone: {cost}")
    return ["; ".join(found) + "."]


def _others(workspace: Workspace, machine: str, wanted: dict[str, float], wording: Wording) -> list[str]:
    """Other machines of the shop that reach it as they stand, else the one that lacks least."""
    records = workspace.draft.records
    if not wanted:
        return []
    others = [each for key, each in records.machines.items() if key != machine and not each.retired]
    able = [each.name for each in others if not short_parts(each, wanted, records.rules)]
    if able:
        return [f"As it stands, {' and '.join(able)} {'does' if len(able) == 1 else 'do'} it without any change."]
    return ["No other machine of the shop does it as it stands."]


def _as_it_is(workspace: Workspace, machine: Machine, wanted: Sequence[Polymer]) -> list[str]:
    """Polymers that the machine runs without any change, the nearest in glass transition first."""
    records = workspace.draft.records
    marks = [found.value for each in wanted if (found := each.value("glass_transition_c"))]
    if not marks:
        return []

    def far(polymer: Polymer) -> float:
        found = polymer.value("glass_transition_c")
        return min(abs(found.value - each) for each in marks) if found else float("inf")

    others = (each for each in records.polymers.values() if each.id not in {one.id for one in wanted})
    able = [each for each in others if not each.is_support and not lack_of(machine, each, records.rules).zones]
    names = [each.name for each in sorted(able, key=far)[:NEAREST]]
    return (
        [f"Without any change {machine.name} runs {', '.join(names)}, the nearest in glass transition."]
        if names
        else []
    )


def add_order(workspace: Workspace, machine: str, changes: Sequence[str]) -> None:
    """Open a work order for some changes."""
    if not changes:
        raise KaustosError("There is nothing to change: tick what is wanted, and see the plan first.")
    record = workspace.draft.records.machines[machine]
    if open_order(record) is not None:
        raise KaustosError("A work order is open on this machine; close it or take it out first.")
    order = WorkOrder(changes=tuple(changes), at_utc=moment_of(workspace, None))
    add_entry(workspace, Place("machines", machine, "orders"), order, f"{record.name}: work order opened")


def open_order(machine: Machine) -> WorkOrder | None:
    """The order that is not closed."""
    return next((each for each in machine.orders if not each.closed_utc), None)


def changes_in(workspace: Workspace, order: WorkOrder) -> list[Upgrade]:
    """The changes of an order that are in the catalogue."""
    upgrades = workspace.draft.records.upgrades
    return [upgrades[each] for each in order.changes if each in upgrades]


def tick(workspace: Workspace, machine: str, key: str, *, done: bool) -> None:
    """Tick a step of the open order, or take the tick back; what comes after the signature waits for it."""
    record = workspace.draft.records.machines[machine]
    order = open_order(record)
    if order is None:
        raise KaustosError("No work order is open on this machine.")
    steps = {each.key: each for each in ticks_of(changes_in(workspace, order))}
    if done and key not in before_power(changes_in(workspace, order)) and not order.signed_by:
        raise KaustosError("Power comes after the signature: tick what stands before it, and sign.")
    ticks = tuple(each for each in steps if (each in order.ticks or each == key) and (done or each != key))
    signed = order.signed_by if all(each in ticks for each in before_power(changes_in(workspace, order))) else ""
    changed = attrs.evolve(order, ticks=ticks, signed_by=signed)
    _replace(workspace, machine, changed, f"{record.name}: {steps[key].text:.60}")


def sign_order(workspace: Workspace, machine: str, who: str) -> None:
    """Sign before power: every step in front of it is ticked, and somebody answers for it by name."""
    record = workspace.draft.records.machines[machine]
    order = open_order(record)
    if order is None:
        raise KaustosError("No work order is open on this machine.")
    left = [each for each in before_power(changes_in(workspace, order)) if each not in order.ticks]
    if left:
        raise KaustosError(f"{len(left)} steps in front of the signature are not ticked.")
    if not who.strip():
        raise KaustosError("Say who answers for it before power comes on.")
    _replace(workspace, machine, attrs.evolve(order, signed_by=who.strip()), f"{record.name}: signed before power")


def close_order(workspace: Workspace, machine: str) -> str:
    """Close a signed order: limits as rated, a change of configuration for each part; in words what is left to do."""
    record = workspace.draft.records.machines[machine]
    order = open_order(record)
    if order is None or not order.signed_by:
        raise KaustosError("An order is closed once it is signed.")
    now = stamp(workspace.clock())
    present = record
    changed = list(record.changes)
    for each in changes_in(workspace, order):
        steps = present.heat_steps
        present = attrs.evolve(upgraded(present, each), heat_steps=steps)
        changed.append(PartChange(part=each.part, now=each.name, why="work order", by=order.signed_by, at_utc=now))
    closed = attrs.evolve(order, closed_utc=now)
    orders = tuple(closed if each is order else each for each in record.orders)
    values: dict[Place, object] = {Place("machines", machine, zone): getattr(present, zone) for zone in ZONES}
    values |= {Place("machines", machine, "changes"): tuple(changed), Place("machines", machine, "orders"): orders}
    workspace.draft.set(values, title=f"{record.name}: work order closed")
    left = [each.text for each in ticks_of(changes_in(workspace, order)) if each.key not in order.ticks]
    return ("Still to do: " + "; ".join(left)) if left else "Everything of the order is done."


def _replace(workspace: Workspace, machine: str, order: WorkOrder, title: str) -> None:
    record = workspace.draft.records.machines[machine]
    orders = tuple(order if each.at_utc == order.at_utc else each for each in record.orders)
    workspace.draft.set({Place("machines", machine, "orders"): orders}, title=title)


def order_text(workspace: Workspace, machine: str) -> str:
    """The open order as plain text for paper."""
    record = workspace.draft.records.machines[machine]
    order = open_order(record)
    if order is None:
        raise KaustosError("No work order is open on this machine.")
    changes = changes_in(workspace, order)
    lines = [f"Work order: {record.name}, opened {order.at_utc[:10]}", ""]
    first = before_power(changes)
    for each in ticks_of(changes):
        lines.append(f"[{'x' if each.key in order.ticks else ' '}] {each.text}")
        if first and each.key == first[-1]:
            lines += ["", f"Signed before power by: {order.signed_by or '__________________'}", ""]
    lines += ["", "Mains, wiring and firmware are work for a qualified person or a licensed trade; a machine that is "
              "changed may lose its approval."]  # fmt: skip
    return "\n".join(lines) + "\n"
