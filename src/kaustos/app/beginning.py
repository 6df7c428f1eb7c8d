"""The first hour: what an empty workspace asks for, in order, what each step unlocks, and whether it is done."""

import attrs

from kaustos.app.recipes import new_recipe, proposals
from kaustos.app.workspace import Workspace
from kaustos.core.planning import Proposal
from kaustos.core.records import CHOSEN, Place
from kaustos.core.review.stock import options_of, plan_of


@attrs.frozen
class Step:
    """One step of the first hour."""

    key: str
    title: str
    unlocks: str
    done: str  # what there is already, empty while there is none


def first_steps(workspace: Workspace) -> tuple[Step, ...]:
    """Machine, dryer, spool, recipe: in that order, since each is chosen for the one that follows."""
    records = workspace.draft.records
    found = {
        "machine": [each.name for each in records.machines.values() if not each.retired],
        "dryer": [each.name for each in records.dryers.values() if not each.retired],
        "lot": [each.name for each in records.lots.values() if not each.retired],
        "recipe": [each.recipe.name for each in records.cards.values() if not each.retired],
    }
    return tuple(Step(key, title, unlocks, ", ".join(found[key][:3])) for key, title, unlocks in _STEPS)


_STEPS = (
    ("machine", "Machine", "What it reaches, and which part holds it back, is set against what a polymer wants."),
    ("dryer", "Dryer", "How long each spool dries, and by when it must go in."),
    ("lot", "Spool", "How wet it is, how much is on it, whether it is the right polymer."),
    ("recipe", "Recipe", "The judgement: setpoints to start from, findings, their cost, what helps."),
)


def begin_recipe(workspace: Workspace, name: str, polymer: str | None, machine: str | None) -> tuple[str, bool]:
    """A recipe with all that is chosen without a doubt, then its setpoints as an edit of their own; its id, and whether
    any were proposed.

    Where no polymer is said, it is that of the newest spool; a machine, dryer or spool that is the only one is taken.
    """
    records = workspace.draft.records
    newest = next((lot for lot in reversed(list(records.lots.values())) if not lot.retired), None)
    meant = polymer or (newest.polymer if newest else None)
    key = new_recipe(workspace, name, meant, machine or _only(workspace, "machines"))
    lots = [lot.id for lot in workspace.draft.records.lots.values() if not lot.retired and lot.polymer == meant]
    chosen = {"lot": lots[0] if len(lots) == 1 else None, "dryer": _only(workspace, "dryers")}
    found = {Place("cards", key, kind.one): chosen[kind.one] for kind in CHOSEN if chosen.get(kind.one)}
    if found:
        workspace.draft.set(found, title="Spool and dryer: the only ones")
    return key, enter_proposals(workspace)


def enter_proposals(workspace: Workspace) -> bool:
    """Enter setpoints and drying to start from as one edit; whether there were any."""
    if workspace.context().polymer is None:
        return False
    changes: dict[str, object] = {each.field: each.value for each in _setpoints(workspace)}
    changes |= _drying(workspace)
    if changes:
        workspace.draft.set(changes, title="Setpoints to start from")
    return bool(changes)


def _setpoints(workspace: Workspace) -> tuple[Proposal, ...]:
    return proposals(workspace)


def _drying(workspace: Workspace) -> dict[str, object]:
    """Heat and hours in the chosen dryer, where it dries the spool."""
    recipe, context = workspace.draft.records.card.recipe, workspace.context()
    plan = plan_of(recipe, context)
    if plan is None or context.dryer is None or context.polymer is None or not context.polymer.absorbs:
        return {}
    options = (each for each in options_of(recipe, context, plan) if each.dryer == context.dryer.id)
    option = next(options, None)
    if option is None or option.take_h is None:
        return {}
    return {"stock.dryer_c": option.celsius, "stock.dryer_h": option.take_h}


def _only(workspace: Workspace, many: str) -> str | None:
    keys = [key for key, each in workspace.draft.records.tables[many].items() if not each.retired]
    return keys[0] if len(keys) == 1 else None
