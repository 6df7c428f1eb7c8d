"""Builds the context a recipe is judged with, and judges documents without a window."""

from collections.abc import Collection, Mapping
from datetime import datetime
from typing import Any

import attrs

from kaustos.app.indexes import Indexes, OfRuns
from kaustos.app.past import loads_of, past_of, proofs_of, services_of
from kaustos.app.records import Records
from kaustos.app.results import KEPT, Request, Results, request_for
from kaustos.core.errors import FaultList
from kaustos.core.memo import by_identity
from kaustos.core.planning.configuration import calibrations_of
from kaustos.core.planning.matters import Matter, open_matters
from kaustos.core.progress import UNWATCHED
from kaustos.core.records import CHOSEN, Recipe, RecipeCard, Rules, Run, with_own_values
from kaustos.core.review import (
    BY_KEY,
    OPERATIONS,
    Context,
    Operation,
    OperationReview,
    Review,
    Shop,
    nothing_said,
    whole,
)
from kaustos.core.review.comes_of import with_causes_said
from kaustos.core.review.filed import as_filed
from kaustos.core.review.tempering import tempered
from kaustos.formats.recipe_file import RecipeDocument
from kaustos.library import load


@attrs.frozen
class Judged:
    """A review with the context it was made in, and what it still waits for."""

    context: Context
    review: Review
    wanted: tuple[Request, ...]


class Judge:
    """The one judge of window, run, revision, lists and command line.

    For each operation it keeps what was read of late and what was said of it, so that a drag costs what the changed
    operation costs, and going back costs nothing.
    """

    def __init__(self, kept: int = KEPT) -> None:
        self.results = Results(kept)
        self._said = Results(kept)

    def at_hand(self, recipe: Recipe, context: Context, only: Collection[str] | None = None) -> Judged:
        """Judge with the heavy results that are there; only some operations, the others as they were or not yet."""
        wanted: list[Request] = []
        found: dict[str, Any] = {}
        reviews = []
        filed = as_filed(recipe, context)
        for operation in OPERATIONS:
            if only is not None and operation.key not in only:
                reviews.append(self._said.latest(operation.key) or nothing_said(operation))
                continue
            seen = recipe if operation.as_typed else filed
            for heavy in operation.heavy:
                request = request_for(heavy, seen, context)
                result = self.results.get(request.key, request.inputs)
                if result is None:
                    wanted.append(request)
                else:
                    found[heavy.key] = result
            reviews.append(self._reviewed(operation, seen, context, found))
        every = attrs.evolve(context, results={**context.results, **found})
        proven = context.past.as_it_stands if context.past is not None else 0
        heard = tempered(with_causes_said(tuple(reviews)), lambda: context.shop.record(recipe.polymer or ""), proven)
        return Judged(every, whole(heard, recipe), tuple(wanted))

    def to_the_end(self, recipe: Recipe, context: Context) -> tuple[Context, Review]:
        """Judge with every heavy result, computed now where it is not at hand."""
        judged = self.at_hand(recipe, context)
        for request in judged.wanted:
            self.results.put(request.key, request.inputs, request.compute(UNWATCHED))
        judged = self.at_hand(recipe, context) if judged.wanted else judged
        return judged.context, judged.review

    def one(self, key: str, recipe: Recipe, context: Context) -> OperationReview:
        """What one operation says, nothing remembered: for lists of many recipes."""
        return BY_KEY[key].review(recipe, context)

    def _reviewed(
        self, operation: Operation, recipe: Recipe, context: Context, found: Mapping[str, Any]
    ) -> OperationReview:  # fmt: skip
        mine = {heavy.key: found[heavy.key] for heavy in operation.heavy if heavy.key in found}
        inputs = (*operation.reads.of(recipe, context), *mine.values(), tuple(mine))
        said: OperationReview | None = self._said.get(operation.key, inputs)
        if said is None:
            same = context if context.results == mine else attrs.evolve(context, results=mine)
            said = operation.said_of(recipe, same)  # one context for most of them: what they share is worked out once
            self._said.put(operation.key, inputs, said)
        return said


def context_of(
    recipe: Recipe, chosen: Mapping[str, Any], rules: Rules, shop: Shop, now: datetime | None = None,
    results: Mapping[str, Any] | None = None,
) -> Context:  # fmt: skip
    """The one place where a context is built."""
    generic = shop.polymers.get(recipe.polymer or "")
    lot = chosen.get("lot")
    own_lot = lot if lot and lot.polymer == recipe.polymer else None
    machine = chosen.get("machine")
    return Context(
        polymer=with_own_values(generic, own_lot) if generic else None,
        **chosen,
        calibrations=calibrations_of(machine, shop.calibrations) if machine else (),
        now=now.replace(second=0, microsecond=0) if now else None,  # to the minute, so that a drag finds one moment
        wall=now.replace(second=0, microsecond=0).astimezone() if now else None,
        rules=rules,
        shop=shop,
        supplies=load().supplies,
        results=results or {},
    )


def shop_of(records: Records, indexes: Indexes | None = None) -> Shop:
    """What else the shop could use, which colours of which grades passed a trial, and what runs took of each lot."""
    indexes = indexes or Indexes()
    lots, log = records.lots, indexes.of_runs(records.runs)
    qualified = frozenset(
        (lots[key].grade, lots[key].colour) for key in log.good_lots if key in lots and lots[key].colour
    )
    return Shop(
        in_use={
            kind.many: tuple(each for each in records.tables[kind.many].values() if not each.retired) for kind in CHOSEN
        },
        used_up=tuple(each for each in lots.values() if each.retired),
        qualified=qualified,
        taken_g=indexes.taken_by_lot(lots, records.runs),
        hot=indexes.hot_by_machine(records.runs),
        bonded=indexes.bonded_by_plate(records.runs, records.tables["plates"]),
        paces=indexes.paces_by_machine(records.runs),
        fed=indexes.fed_by_nozzle(lots, records.runs, records.polymers),
        runs_done=log.done,
        last_runs=log.last,
        record=log.record,
        polymers=records.polymers,
        calibrations=tuple(records.calibrations.values()),
        upgrades=tuple(each for each in records.upgrades.values() if not each.retired),
    )


def context_of_records(
    records: Records, now: datetime | None = None, shop: Shop | None = None, indexes: Indexes | None = None
) -> Context:
    """The context of the card that is open."""
    card, index = records.card, indexes or Indexes()
    known, log = shop or shop_of(records), index.of_runs(records.runs)
    found = context_of(card.recipe, records.chosen(card), records.rules, known, now)
    return attrs.evolve(
        found,
        runs_done=known.runs_done.get(records.current or "", 0),
        loads=loads_of(records),
        proofs=proofs_of(records),
        services=services_of(records),
        matters=_matters_of(found, log),
        past=past_of(records, log),
        same_part=frozenset(
            key
            for key, each in records.cards.items()
            if key == records.current or (each.recipe.part and each.recipe.part == card.recipe.part)
        ),
        wanted_g=index.wanted_by_lot(records, known.runs_done, without=records.current),
    )


def _matters_of(context: Context, log: OfRuns) -> tuple[Matter, ...]:
    """What earlier runs left open on the machine and the plate of a recipe."""
    machine, plate = context.machine, context.plate
    return _open_matters(
        log.by_machine.get(machine.id, _NO_RUNS) if machine is not None else _NO_RUNS,
        log.by_plate.get(plate.id, _NO_RUNS) if plate is not None else _NO_RUNS,
    )


_NO_RUNS: list[Run] = []  # one and the same, to be known again
_open_matters = by_identity(256)(open_matters)


def context_of_card(
    records: Records, key: str, now: datetime | None, shop: Shop, indexes: Indexes, state: RecipeCard | None = None
) -> Context:
    """The context of any card, or of another state of it: as it was released, run or would be elsewhere."""
    if state is not None:
        records = records.with_tables(cards={**records.cards, key: state})
    return context_of_records(attrs.evolve(records, current=key), now, shop, indexes)


def judge_document(
    document: RecipeDocument, name: str, records: Records | None = None, now: datetime | None = None
) -> tuple[Context, Review]:
    """Judge a document; ids are looked up among the records given, machines else in the shipped library."""
    return Judge().to_the_end(document.recipe, context_of_document(document, name, records, now))


def context_of_document(
    document: RecipeDocument, name: str, records: Records | None = None, now: datetime | None = None
) -> Context:
    """What a document is judged with; ids that nobody knows are all named at once."""
    library = load()
    known = _with_own(records or Records.of(), document)
    faults: list[str] = []
    if document.recipe.polymer is not None and document.recipe.polymer not in known.polymers:
        faults.append(_unknown("recipe.polymer", document.recipe.polymer, dict.fromkeys(known.polymers)))
    shipped = {"machine": library.machines}
    chosen = {
        kind.one: _looked_up(found, kind.one, {**shipped.get(kind.one, {}), **known.tables[kind.many]}, faults)
        for kind in CHOSEN
        if (found := document.chosen.get(kind.one)) is not None
    }
    if faults:
        raise FaultList(name, tuple(faults))
    shop = shop_of(known)
    if not known.machines:
        shop = attrs.evolve(shop, in_use={**shop.in_use, "machines": tuple(library.machines.values())})
    return context_of(document.recipe, chosen, document.rules or Rules(), shop, now)


def _with_own(records: Records, document: RecipeDocument) -> Records:
    """The records with the polymer that a document brings along, where they have none of that id."""
    own = document.own_polymer
    if own is None or own.id in records.own_polymers:
        return records
    return records.with_tables(own_polymers={**records.own_polymers, own.id: own})


def _looked_up(record: Any, kind: str, known: Mapping[str, Any], faults: list[str]) -> Any:
    """A whole record as it is, an id looked up."""
    if not isinstance(record, str):
        return record
    if record not in known:
        faults.append(_unknown(f"context.{kind}", record, known))
    return known.get(record)


def _unknown(field: str, name: str, known: Mapping[str, object]) -> str:
    import difflib

    near = difflib.get_close_matches(name, known, n=1)
    hint = f" Did you mean {near[0]!r}?" if near else f" Known: {', '.join(known) or 'none'}."
    return f"{field}: nothing is known under {name!r:.60}.{hint}"
