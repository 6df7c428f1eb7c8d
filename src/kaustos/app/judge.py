"""Builds the context a recipe is judged with, and judges documents without a window."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

import attrs

from kaustos.app.records import Records
from kaustos.core.errors import FaultList
from kaustos.core.records import Lot, Machine, Recipe, Rules, with_own_values
from kaustos.core.review import Context, Review, Shop, review
from kaustos.core.review.brief import RANKING, rank
from kaustos.formats.recipe_file import RecipeDocument
from kaustos.library import load


def context_of(
    recipe: Recipe, machine: Machine | None, lot: Lot | None, rules: Rules, machines: tuple[Machine, ...],
    now: datetime | None = None, results: Mapping[str, Any] | None = None,
) -> Context:  # fmt: skip
    """The one place where a context is built."""
    library = load()
    generic = library.polymers.get(recipe.polymer or "")
    own_lot = lot if lot and lot.polymer == recipe.polymer else None
    return Context(
        polymer=with_own_values(generic, own_lot) if generic else None,
        machine=machine,
        lot=lot,
        now=now,
        rules=rules,
        shop=Shop(machines=machines, polymers=library.polymers),
        results=results or {},
    )


def with_ranking(recipe: Recipe, context: Context) -> Context:
    """The context with the ranking of polymers for the brief computed, for those who can wait for it."""
    shop = context.shop
    ranking = rank(recipe.brief, shop.polymers.values(), shop.machines, context.rules)
    return attrs.evolve(context, results={**context.results, RANKING: ranking})


def context_of_records(records: Records, now: datetime | None = None) -> Context:
    """The context of the card that is open."""
    card = records.card
    machine = records.machines.get(card.machine or "")
    lot = records.lots.get(card.lot or "")
    return context_of(card.recipe, machine, lot, records.rules, tuple(records.machines.values()), now)


def judge_document(
    document: RecipeDocument, name: str, machines: Mapping[str, Machine], lots: Mapping[str, Lot]
) -> tuple[Context, Review]:
    """Judge a document; ids are looked up among the machines and lots given, else in the shipped library."""
    library = load()
    faults = []
    if document.recipe.polymer is not None and document.recipe.polymer not in library.polymers:
        faults.append(_unknown("recipe.polymer", document.recipe.polymer, library.polymers))
    machine, lot = document.machine, document.lot
    if isinstance(machine, str):
        everywhere = {**library.machines, **machines}
        if machine not in everywhere:
            faults.append(_unknown("context.machine", machine, everywhere))
        machine = everywhere.get(machine)
    if isinstance(lot, str):
        if lot not in lots:
            faults.append(_unknown("context.lot", lot, lots))
        lot = lots.get(lot)
    if faults:
        raise FaultList(name, tuple(faults))
    offered = tuple(machines.values()) or tuple(library.machines.values())
    context = with_ranking(
        document.recipe, context_of(document.recipe, machine, lot, document.rules or Rules(), offered)
    )
    return context, review(document.recipe, context)


def _unknown(field: str, name: str, known: Mapping[str, object]) -> str:
    import difflib

    near = difflib.get_close_matches(name, known, n=1)
    hint = f" Did you mean {near[0]!r}?" if near else f" Known: {', '.join(known) or 'none'}."
    return f"{field}: nothing is known under {name!r:.60}.{hint}"
