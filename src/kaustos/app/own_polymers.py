"""Polymers of the shop's own: made from nothing or derived, their values with source, day and who; second opinions."""

from collections.abc import Mapping

import attrs

from kaustos.app.field_kinds import own_datum
from kaustos.app.recipes import check_new_name
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.records import POLYMER_VALUES, Datum, OwnPolymer, Place, check_sorption, polymer_of_ours
from kaustos.library import load


def new_polymer(
    workspace: Workspace, name: str, based_on: str | None, structure: str | None = None, filler: str | None = None
) -> str:  # fmt: skip
    """A polymer of ours, derived from one there is or from nothing; its id."""
    named, records = name.strip(), workspace.draft.records
    if not named:
        raise KaustosError("A polymer needs a name: the one on its label or in its papers.")
    check_new_name("polymer", named, (each.name for each in records.polymers.values()))
    if based_on is None and structure is None:
        raise KaustosError("A polymer from nothing needs its structure: amorphous or semi-crystalline.")
    key = records.free_id("own_polymers", named)
    while key in load().polymers:
        key = f"{key}_own"
    parent = records.own_polymers.get(based_on or "")
    made = attrs.evolve(parent, id=key, name=named, retired=False) if parent else OwnPolymer(
        id=key, name=named, based_on=based_on, structure=structure, filler=filler
    )  # fmt: skip
    workspace.draft.add("own_polymers", key, made, f"New polymer: {named}")
    return key


def set_value(workspace: Workspace, key: str, value: str, text: str, how: str) -> None:
    """Set a value of a polymer of ours, such as 141 or 141 ± 2, with how it is known; the one before stays beside it.

    Empty takes the value back.
    """
    own = workspace.draft.records.own_polymers[key]
    before, kind = own.values.get(value), POLYMER_VALUES[value]
    values, opinions = dict(own.values), dict(own.opinions)
    if not text.strip():
        values.pop(value, None)
    else:
        if not how.strip():
            raise KaustosError(f"{kind.title}: say how it is known, and under which condition, such as DSC 10 K/min.")
        who = workspace.settings.who or "nobody named"
        source = f"{how.strip()}; {who}, {workspace.clock():%Y-%m-%d}"
        values[value] = own_datum(workspace.draft.wording, value, text, source)
        if before is not None and before.value != values[value].value:
            opinions[value] = before
    _keep(workspace, own, values, opinions, f"{own.name}: {kind.title} {text.strip() or 'taken back'}")


def swap_opinion(workspace: Workspace, key: str, value: str) -> None:
    """Put the second opinion in force, and the one that was in force beside it."""
    own = workspace.draft.records.own_polymers[key]
    if value not in own.opinions:
        raise KaustosError(f"{POLYMER_VALUES[value].title}: no second opinion is kept.")
    values, opinions = dict(own.values), dict(own.opinions)
    other = opinions.pop(value)
    if value in values:
        opinions[value] = values[value]
    values[value] = other
    _keep(workspace, own, values, opinions, f"{own.name}: the other value of {POLYMER_VALUES[value].title}")


def _keep(
    workspace: Workspace, own: OwnPolymer, values: Mapping[str, Datum], opinions: Mapping[str, Datum], title: str
) -> None:
    base = load().polymers.get(own.based_on or "")
    whole = {**polymer_of_ours(attrs.evolve(own, values={}), base).values, **values} if base else values
    check_sorption(whole)
    place = Place("own_polymers", own.id)
    changes = {attrs.evolve(place, field="values"): values, attrs.evolve(place, field="opinions"): opinions}
    workspace.draft.set(changes, title=title)
