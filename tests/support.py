"""What tests share: the demo's recipes and machines as contexts, and ways to vary them."""

import functools
import os
import shutil
import tempfile
import unittest
from collections.abc import Iterator, Mapping
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import attrs

from kaustos.app.judge import Judge, context_of_records
from kaustos.app.records import Records
from kaustos.core.progress import UNWATCHED
from kaustos.core.records import Recipe
from kaustos.core.review import BY_KEY, Context, OperationReview, Review
from kaustos.demo.scenario import RECORDS, build
from tests import warm

warm.install()

JUDGE = Judge(
    kept=200
)  # one for all tests: what was judged before is not judged again, and tests say that it is the same
LIGHT, OFFERS = Judge(kept=24), Judge(kept=24)  # offers of some would make the same look otherwise in a light one
NOW = datetime(2026, 3, 2, 8, 0, tzinfo=UTC)


def changed(records: Records, changes: Mapping[str, Any]) -> Records:
    """The records with values at paths of the open card."""
    for path, value in changes.items():
        records = records.with_all({records.place(path): value})
    return records


def opened(card: str, machine: str | None = None, records: Records = RECORDS) -> Records:
    """The demo's records with a card open, on another machine where one is named."""
    found = attrs.evolve(records, current=card)
    return changed(found, {"context.machine": machine}) if machine else found


def load_polymers() -> Mapping[str, Any]:
    """The polymers of the library."""
    return RECORDS.polymers


def every_card() -> Iterator[tuple[str, Records]]:
    """Each demo recipe on its own machine, and on one after another of the rest."""
    machines = tuple(RECORDS.machines)
    for place, (card, record) in enumerate(RECORDS.cards.items()):
        for machine in dict.fromkeys((record.machine, machines[place % len(machines)])):
            yield f"{card} on {machine}", opened(card, machine)


def recipe_and_context(records: Records) -> tuple[Recipe, Context]:
    """What the open card is judged with, nothing judged."""
    return records.card.recipe, context_of_records(records, NOW)


def judged(records: Records) -> tuple[Recipe, Context, Review]:
    """Recipe, context and review of the open card, heavy results at hand."""
    recipe = records.card.recipe
    context, found = JUDGE.to_the_end(recipe, context_of_records(records, NOW))
    return recipe, context, found


def with_offers(records: Records, key: str) -> Review:
    """The review of the open card with the heavy results of one operation."""
    recipe, context = records.card.recipe, context_of_records(records, NOW)
    for request in OFFERS.at_hand(recipe, context).wanted:
        if request.key.startswith(f"{key}."):
            OFFERS.results.put(request.key, request.inputs, request.compute(UNWATCHED))
    return OFFERS.at_hand(recipe, context).review


def beside_offers(records: Records) -> Review:
    """The review of the open card where a neighbour of it was judged with its offers."""
    return OFFERS.at_hand(records.card.recipe, context_of_records(records, NOW)).review


def at_once(records: Records) -> Review:
    """The review of the open card without what takes long: its findings and grade are whole, offers are not."""
    return LIGHT.at_hand(records.card.recipe, context_of_records(records, NOW)).review


def said_by(key: str, records: Records) -> OperationReview:
    """What one operation alone says of the open card."""
    return BY_KEY[key].review(*recipe_and_context(records))


def operation_of(found: Review, key: str) -> OperationReview:
    """One operation of a review by its key."""
    return found.operations[[*BY_KEY].index(key)]


def codes_of(records: Records, severity: str | None = None) -> set[str]:
    """Codes of the findings, of one severity where it is named."""
    return {each.code for each in at_once(records).findings() if severity in (None, each.severity)}


@functools.cache
def demo_bytes() -> bytes:
    """The demo workspace, built once; where KAUSTOS_TEST_DEMO names a file, once for all processes of a run."""
    kept = Path(os.environ.get("KAUSTOS_TEST_DEMO", ""))
    if kept.is_file():
        return kept.read_bytes()
    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / "demo.kaustos"
        build(file, NOW)
        if kept.name:
            written = kept.with_name(f"{kept.name}.{os.getpid()}")
            shutil.copyfile(file, written)
            written.replace(kept)
        return file.read_bytes()


class TableTest(unittest.TestCase):
    """A case whose long differences are shown whole."""

    maxDiff = None
