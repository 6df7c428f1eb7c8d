"""What trying a lever needs: carry it out, and tell whether a finding is worse or eased by it."""

from typing import Any

import attrs

from kaustos.core.records import Recipe
from kaustos.core.records.fields import with_value
from kaustos.core.review.contract import Choose, Context, Finding, Set
from kaustos.core.review.machine.remedies import on_machine


def carried_out(remedy: Set | Choose, recipe: Recipe, context: Context) -> tuple[Recipe, Context]:
    """Recipe and context as they would be."""
    for path, value in remedy.changes.items():
        recipe = with_value(recipe, path, value)
    if isinstance(remedy, Choose):
        record: Any = next(each for each in context.shop.in_use[f"{remedy.what}s"] if each.id == remedy.id)
        is_machine = remedy.what == "machine"
        context = on_machine(context, record) if is_machine else attrs.evolve(context, **{remedy.what: record})
    return recipe, context


def is_worse(after: Finding, before: Finding) -> bool:
    """Whether a finding stops where it watched, or is clearly more."""
    if (after.severity, before.severity) == ("stop", "watch"):
        return True
    return after.severity == before.severity and _gap(after) > _gap(before) + 1.0


def is_eased(before: Finding, after: Finding | None) -> bool:
    """Whether a finding is gone, milder, or clearly less."""
    if after is None or (after.severity, before.severity) == ("watch", "stop"):
        return True
    return after.severity == before.severity and _gap(after) < 0.8 * _gap(before)


def _gap(finding: Finding) -> float:
    return float(finding.values.get("gap", 0.0))
