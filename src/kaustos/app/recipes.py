"""New recipes and machines, copies, names: everything a shop does to its list of them."""

from collections.abc import Iterable

import attrs

from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.planning import Proposal, propose_habits, propose_setpoints
from kaustos.core.records import Machine, Place, Recipe, card_of
from kaustos.core.review.machine.passport_findings import more_k
from kaustos.core.review.zones import agent_on
from kaustos.library import load


def new_recipe(workspace: Workspace, name: str, polymer: str | None, machine: str | None) -> str:
    """A recipe that knows its polymer and machine and nothing else; its id."""
    named = name.strip()
    if not named:
        raise KaustosError("A recipe needs a name, so that it can be found again.")
    records = workspace.draft.records
    check_new_name("recipe", named, (each.recipe.name for each in records.cards.values() if not each.retired))
    key = records.free_id("cards", named)
    card = card_of(Recipe(name=named, polymer=polymer), machine=machine)
    workspace.draft.add("cards", key, card, f"New recipe: {named}")
    return key


def check_new_name(kind: str, name: str, taken: Iterable[str]) -> None:
    """Ask for another name where a new thing would be called like one there is."""
    if name.strip().lower() in {each.strip().lower() for each in taken}:
        raise KaustosError(f"There is a {kind} “{name.strip():.40}” already: give the new one a name of its own.")


def copy_recipe(workspace: Workspace, key: str) -> str:
    """A second recipe that starts from one there is; its id."""
    records = workspace.draft.records
    card = records.cards[key]
    name, taken = f"{card.recipe.name or 'Unnamed recipe'}, copy", {each.recipe.name for each in records.cards.values()}
    name = next(each for each in (name, *(f"{name} {n}" for n in range(2, len(taken) + 3))) if each not in taken)
    copy = attrs.evolve(card, recipe=attrs.evolve(card.recipe, name=name), retired=False)
    new = records.free_id("cards", name)
    workspace.draft.add("cards", new, copy, f"New recipe: {name}")
    return new


def new_machine(workspace: Workspace, name: str, like: str | None = None) -> str:
    """A machine of which only the name is known, or one like a machine of the shop or of the library; its id."""
    named = name.strip()
    if not named:
        raise KaustosError("A machine needs a name, so that recipes can say which one they are for.")
    records = workspace.draft.records
    check_new_name("machine", named, (each.name for each in records.machines.values() if not each.retired))
    key = records.free_id("machines", named)
    pattern = records.machines.get(like or "") or load().machines.get(like or "") or Machine(id=key)
    machine = attrs.evolve(pattern, id=key, name=named, retired=False, extra={})
    workspace.draft.add("machines", key, machine, f"New machine: {named}")
    return key


def retire(workspace: Workspace, kind: str, key: str, *, retired: bool = True) -> None:
    """Take a record out of the lists, or bring it back; nothing is deleted."""
    if kind == "cards" and retired:
        others = [each for each, card in workspace.draft.records.cards.items() if not card.retired and each != key]
        if key == workspace.draft.records.current and others:
            workspace.draft.open_card(others[0])
    name = name_of(workspace, kind, key)
    title = f"Retired: {name}" if retired else f"Brought back: {name}"
    workspace.draft.set({Place(kind, key, "retired"): retired}, title=title)


def name_of(workspace: Workspace, kind: str, key: str) -> str:
    """The name of a record as a person says it."""
    record = workspace.draft.records.tables[kind][key]
    return str(record.recipe.name or "Unnamed recipe") if kind == "cards" else str(getattr(record, "name", "") or key)


def proposals(workspace: Workspace) -> tuple[Proposal, ...]:
    """Setpoints to start the open recipe from."""
    context = workspace.context()
    if context.polymer is None:
        raise KaustosError("Choose a polymer first (10 Brief): setpoints come from its windows.")
    heats = propose_setpoints(context.polymer, context.machine, context.rules, context.nozzle, more_k(context))
    proven = context.past.as_it_stands if context.past is not None else 0
    habits = propose_habits(context.polymer, context.rules, proven, context.plate, agent_on(context))
    return (*heats, *habits)
