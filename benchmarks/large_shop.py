"""A large shop, made up: python -m benchmarks.large_shop FILE

2,000 recipes, 10,000 runs, 2,000 lots, 300 machines, 40 dryers: the demo's records many times over, each a little
different, with a revision for every recipe, so that speed is seen where it hurts.
"""

import json
import random
import sys
from datetime import UTC, datetime, timedelta
from pathlib import Path

import attrs

from kaustos.app.records import Records
from kaustos.app.workspace import fill, stamp
from kaustos.core.records import OUTCOMES, SHAPES, Observation, RecipeCard, Run, Weighing
from kaustos.demo.scenario import RECORDS
from kaustos.formats.recipe_file import RecipeDocument, recipe_document
from kaustos.store import Revision, Store

CARDS, RUNS, LOTS, MACHINES, DRYERS = 2_000, 10_000, 2_000, 300, 40
NOW = datetime(2026, 3, 2, 8, tzinfo=UTC)
COLOURS = ("natural", "black", "grey", "amber", "white", "blue")


def records_of(cards: int = CARDS, runs: int = RUNS, lots: int = LOTS, machines: int = MACHINES) -> Records:
    """The records of the shop; the same for the same numbers."""
    rng = random.Random(7)
    patterns = {name: [*table.values()] for name, table in RECORDS.tables.items()}
    made_machines = {key: attrs.evolve(rng.choice(patterns["machines"]), id=key, name=f"Machine {key[2:]}")
                     for key in (f"m_{n:03d}" for n in range(machines))}  # fmt: skip
    made_dryers = {key: attrs.evolve(rng.choice(patterns["dryers"]), id=key, name=f"Dryer {key[2:]}")
                   for key in (f"d_{n:02d}" for n in range(DRYERS))}  # fmt: skip
    made_lots = {key: _lot(rng, key, patterns["lots"]) for key in (f"l_{n:04d}" for n in range(lots))}
    by_polymer: dict[str, list[str]] = {}
    for key, lot in made_lots.items():
        by_polymer.setdefault(lot.polymer or "", []).append(key)
    made_cards = {
        key: _card(rng, key, patterns["cards"], [*made_machines], by_polymer, [*made_dryers])
        for key in (f"c_{n:04d}" for n in range(cards))
    }
    made_runs = {key: _run(rng, key, made_cards) for key in (f"run_{n:05d}" for n in range(1, runs + 1))}
    return Records.of(
        cards=made_cards, machines=made_machines, lots=made_lots, dryers=made_dryers, runs=made_runs,
        current=next(iter(made_cards)),
    )  # fmt: skip


def _lot(rng, key, patterns):
    pattern = rng.choice(patterns)
    weighed = tuple(
        Weighing(at_utc=stamp(NOW - timedelta(days=days)), gross_g=(pattern.tare_g or 200.0) + rng.uniform(50.0, 900.0))
        for days in sorted(rng.sample(range(1, 90), 2), reverse=True)
    )
    return attrs.evolve(
        pattern, id=key, name=key.replace("l_", "L-"), colour=rng.choice(COLOURS), weighings=weighed, loaded_on=None
    )


def _card(rng, key, patterns, machines, by_polymer, dryers) -> RecipeCard:
    pattern = rng.choice(patterns)
    brief = attrs.evolve(pattern.recipe.brief, mass_g=round(rng.uniform(20.0, 400.0)), runs=float(rng.randint(0, 20)))
    recipe = attrs.evolve(pattern.recipe, name=f"{pattern.recipe.name} {key[2:]}", brief=brief)
    lots = by_polymer.get(recipe.polymer or "", [])
    chosen = {"machine": rng.choice(machines), "dryer": rng.choice(dryers)}
    return RecipeCard(recipe=recipe, chosen=chosen | ({"lot": rng.choice(lots)} if lots else {}))


def _run(rng, key, cards) -> Run:
    card = rng.choice([*cards]) if rng.random() < 0.9 else next(iter(cards))
    chosen = cards[card].chosen
    started = NOW - timedelta(hours=rng.uniform(4.0, 8_000.0))
    return Run(
        id=key, card=card, revision=1.0, machine=chosen.get("machine"), lot=chosen.get("lot"), kind="trial",
        polymer=cards[card].recipe.polymer, started_utc=stamp(started), ended_utc=stamp(started + timedelta(hours=3)),
        outcome=rng.choice([*OUTCOMES]), shape=rng.choice([*SHAPES]), mass_g=cards[card].recipe.brief.mass_g,
        filament="dry", foretold=("stock.moisture.unknown", "machine.chamber.below_window"),
        observations=(Observation(what="corner_lift", where="corner"),) if rng.random() < 0.4 else (),
    )  # fmt: skip


def build_large(file: Path) -> None:
    """Write the shop into a new workspace file."""
    records = records_of()
    fill(file, records, lambda: NOW)
    store = Store(file, write=True)
    try:
        store.add_revisions(_revision(key, card) for key, card in records.cards.items())
    finally:
        store.close()


def _revision(key: str, card: RecipeCard) -> Revision:
    document = recipe_document(RecipeDocument(recipe=card.recipe, chosen=card.chosen))
    return Revision(
        card=key, number=1, status="draft", who="R. Askew", why="first", saved_utc=stamp(NOW - timedelta(days=400)),
        polymer=card.recipe.polymer, machine=card.machine, grade="reduced",
        document=json.dumps(document, ensure_ascii=False),
    )  # fmt: skip


if __name__ == "__main__":
    if len(sys.argv) != 2 or Path(sys.argv[1]).exists():
        sys.exit("python -m benchmarks.large_shop FILE, a name that is not taken")
    build_large(Path(sys.argv[1]))
