"""What a lot may be used for: every recipe that is planned on it, with the worst that its spool means for it."""

import attrs

from kaustos.app.judge import context_of_card
from kaustos.app.workspace import Workspace

CLEAR = {
    "clear": "may be printed as it is planned",
    "open": "cannot be judged: something is not recorded",
}


@attrs.frozen
class PlannedRecipe:
    """One recipe on a lot: how it stands, and why."""

    card: str
    name: str
    standing: str
    why: str


def planned_on(workspace: Workspace, lot: str) -> tuple[PlannedRecipe, ...]:
    """The recipes that are planned on a lot, each judged with it, its machine and its dryer."""
    records, found = workspace.draft.records, []
    for key, card in records.cards.items():
        if card.lot != lot or card.retired:
            continue
        context = context_of_card(records, key, workspace.clock(), workspace.shop(), workspace.indexes)
        judged = workspace.judge.one("stock", card.recipe, context)
        worst = next(iter(judged.findings), None)
        why = workspace.draft.wording.text(worst) if worst else CLEAR.get(judged.standing, judged.standing)
        found.append(PlannedRecipe(key, card.recipe.name, judged.standing, why))
    return tuple(found)
