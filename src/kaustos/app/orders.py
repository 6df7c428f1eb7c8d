"""What is to be ordered: every grade and colour of the store room against the runs still to come."""

import math
from datetime import datetime

import attrs

from kaustos.app.indexes import mass_of
from kaustos.app.records import Records
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace, stamp
from kaustos.core.errors import KaustosError
from kaustos.core.planning.ledger import ledger_of
from kaustos.core.planning.supply import SPOOL_G, Supply, grams_wanted, lots_alike, order_changes, supply_of
from kaustos.core.records import Lot, Place, Polymer, with_own_values
from kaustos.core.review import Shop

HEADINGS = ("Grade", "Colour", "Free", "Wanted", "On its way", "To order", "Cost", "Lead time", "State",
            "On the shelf instead")  # fmt: skip


@attrs.frozen
class OrderLine:
    """One grade and colour: what there is, what is wanted, what to order."""

    lot: str | None  # the newest of it; None where there is none on the shelf yet
    grade: str
    colour: str
    free_g: float
    wanted_g: float
    coming_g: float
    order_g: float
    cost: float | None
    lead_h: float | None
    state: str
    instead: str


def order_list(workspace: Workspace) -> tuple[OrderLine, ...]:
    """A line for each grade and colour, and for each polymer that a recipe has no lot of; what to order first."""
    records, shop, now = workspace.draft.records, workspace.shop(), workspace.clock()
    wanted = workspace.indexes.wanted_by_lot(records, shop.runs_done)
    lines = []
    for lots in lots_alike(shop.every_lot).values():
        lot, found = lots[-1], supply_of(lots[-1], lots, shop.taken_g, wanted)
        if lot.retired and not found.wanted_g and not found.coming_g:
            continue  # used up, and nobody asks for it
        waiting = _waiting(records, found, shop) if found.short_g else ""
        lines.append(_line(lot, found, shop, _state(found, waiting, now)))
    return tuple(sorted([*lines, *_first_trials(workspace, shop)], key=_urgency))


def lots_to_order(workspace: Workspace) -> frozenset[str]:
    """Every lot of a grade and colour of which more is to be ordered."""
    shop = workspace.shop()
    wanted = workspace.indexes.wanted_by_lot(workspace.draft.records, shop.runs_done)
    known, found = workspace.indexes.due, {}
    for group, lots in lots_alike(shop.every_lot).items():
        asked = (*lots, *((wanted.get(lot.id, 0.0), shop.taken_g.get(lot.id, 0.0)) for lot in lots))
        before = known.get(group)
        if before is None or before[0] != asked:
            before = (asked, supply_of(lots[-1], lots, shop.taken_g, wanted).spools > 0)
        found[group] = before
    workspace.indexes.due = found
    return frozenset(
        lot.id
        for asked, is_due in found.values()
        if is_due
        for lot in asked
        if isinstance(lot, Lot) and not lot.retired
    )


def order_cells(line: OrderLine, wording: Wording) -> tuple[str, ...]:
    """A line in the user's units, under the headings."""

    def mass(grams: float) -> str:
        return wording.value(grams, "mass") if grams else ""

    lead = "" if line.lead_h is None else f"{line.lead_h / 24.0:.0f} d"
    cost = "" if line.cost is None or not line.order_g else wording.value(line.cost, "money")
    free = wording.value(line.free_g, "mass")
    return (line.grade, line.colour or "not recorded", free, mass(line.wanted_g), mass(line.coming_g),
            mass(line.order_g), cost, lead, line.state, line.instead)  # fmt: skip


def order_total(lines: tuple[OrderLine, ...], wording: Wording) -> str:
    """How much is to be ordered, and what it costs, in a sentence."""
    if not lines:
        return "Nothing is to be ordered: there is no lot on the shelf, and no recipe that wants one."
    due = [line for line in lines if line.order_g]
    if not due:
        return "Nothing is to be ordered: what is free and on its way is enough for the runs wanted and every mark."
    grams, cost = sum(line.order_g for line in due), sum(line.cost or 0.0 for line in due)
    unpriced = sum(line.cost is None for line in due)
    where = "1 line" if len(due) == 1 else f"{len(due)} lines"
    words = f"To order: {wording.value(grams, 'mass')} in {where}, {wording.value(cost, 'money')}"
    return words + (f" and {unpriced} without a price." if unpriced else ".")


def mark_ordered(workspace: Workspace, lot: str, grams: float) -> None:
    """Note that more of a lot's grade and colour is ordered, beside what is on its way already."""
    if not grams > 0.0:
        raise KaustosError("Say how much is ordered.")
    record = workspace.draft.records.lots[lot]
    found = _supply(workspace, record)
    changes: dict[str, object] = {**order_changes(found, lot, grams, stamp(workspace.clock()))}
    workspace.draft.set(changes, title=f"{record.grade}: {grams:g} g ordered")


def not_ordered(workspace: Workspace, lot: str) -> None:
    """Take the note of an order back, of whichever lot of its grade and colour carries it."""
    mine = workspace.draft.records.lots[lot]
    lots = [each.id for each in _supply(workspace, mine).lots if each.ordered_g]
    changes: dict[Place, object] = {Place("lots", each, "ordered_g"): None for each in lots}
    changes |= {Place("lots", each, "ordered_utc"): "" for each in lots}
    if changes:
        workspace.draft.set(changes, title=f"{mine.grade}: not ordered after all")


def _supply(workspace: Workspace, lot: Lot) -> Supply:
    shop = workspace.shop()
    return supply_of(lot, shop.every_lot, shop.taken_g, {})


def _cost(polymer: Polymer | None, grams: float) -> float | None:
    price = polymer.value("price_per_kg") if polymer else None
    return None if price is None else price.value * grams / 1000.0


def _line(lot: Lot, found: Supply, shop: Shop, state: str) -> OrderLine:
    polymer = shop.polymers.get(lot.polymer or "")
    cost = _cost(with_own_values(polymer, lot) if polymer else None, found.order_g)
    return OrderLine(
        lot=lot.id, grade=lot.grade, colour=lot.colour, free_g=found.free_g, wanted_g=found.wanted_g,
        coming_g=found.coming_g, order_g=found.order_g, cost=cost, lead_h=found.lead_h, state=state,
        instead=_instead(lot, found, shop) if found.short_g else "",
    )  # fmt: skip


def _waiting(records: Records, found: Supply, shop: Shop) -> str:
    """The recipes whose runs to come are printed from a supply."""
    lots = {each.id for each in found.lots}
    names = [
        card.recipe.name
        for key, card in records.cards.items()
        if card.lot in lots and not card.retired and (card.recipe.brief.runs or 0.0) > shop.runs_done.get(key, 0)
    ]
    return ", ".join(names)


def _state(found: Supply, waiting: str, now: datetime) -> str:
    words = []
    if found.spools:
        below = found.free_g + found.coming_g < found.reorder_g
        usual = "below its mark" if below else "the runs wanted take it below its mark"
        reason = f"runs of {waiting} wait" if found.short_g else usual
        words.append(f"order {found.spools} spool{'s' if found.spools > 1 else ''}: {reason}")
    if found.coming_g:
        day = found.due.astimezone().strftime("%Y-%m-%d") if found.due else "no day known"
        words.append(f"late: was due {day}" if found.due and found.due < now else f"on its way, due {day}")
    if found.not_weighed:
        words.append(f"{', '.join(each.name for each in found.not_weighed)} not weighed: counted as empty")
    return "; ".join(words) or "enough"


def _instead(lot: Lot, found: Supply, shop: Shop) -> str:
    """Other lots of the polymer that hold what is lacking, and whether their colour has passed a trial."""
    held = []
    for other in shop.lots:
        ledger = ledger_of(other, shop.taken_g.get(other.id, 0.0))
        alike = (other.grade, other.colour) == (lot.grade, lot.colour)
        if other.polymer == lot.polymer and not alike and ledger and ledger.free_g >= found.short_g:
            passed = (other.grade, other.colour) in shop.qualified
            held.append(other.name if passed else f"{other.name} (no trial passed)")
    return ", ".join(held)


def _first_trials(workspace: Workspace, shop: Shop) -> list[OrderLine]:
    """What recipes need that have no lot, where the shelf has none of their polymer."""
    held = {lot.polymer for lot in shop.lots}
    needed: dict[str, float] = {}
    for key, card in workspace.draft.records.cards.items():
        polymer, brief = card.recipe.polymer, card.recipe.brief
        if polymer and polymer in shop.polymers and not card.lot and not card.retired and polymer not in held:
            done = shop.runs_done.get(key, 0)
            grams = grams_wanted(max(brief.runs or 0.0, done + 1.0), done, mass_of(card, workspace.draft.records))
            needed[polymer] = needed.get(polymer, 0.0) + grams
    lines = []
    for key, grams in needed.items():
        polymer_named, order_g = shop.polymers[key], max(1, math.ceil(grams / SPOOL_G)) * SPOOL_G
        lines.append(OrderLine(
            lot=None, grade=f"{polymer_named.name}, any grade", colour="any", free_g=0.0, wanted_g=grams,
            coming_g=0.0, order_g=order_g, cost=_cost(polymer_named, order_g), lead_h=None,
            state="none on the shelf: a trial waits for it", instead="",
        ))  # fmt: skip
    return lines


def _urgency(line: OrderLine) -> tuple[bool, bool, str, str]:
    return not line.order_g, not line.coming_g, line.grade, line.colour
