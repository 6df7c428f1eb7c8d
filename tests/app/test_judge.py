"""What a recipe is judged with: made of the records, and nothing else."""

import unittest
from datetime import UTC, datetime

import attrs

from kaustos.app.indexes import Indexes
from kaustos.app.judge import context_of_records, shop_of
from kaustos.app.records import Records, free_key
from kaustos.core.records import Run
from kaustos.demo.scenario import RECORDS
from tests.support import NOW, opened


def with_runs(*runs):
    return RECORDS.with_tables(runs={run.id: run for run in runs})


def run(key, lot, outcome, **more):
    return Run(id=key, card="wellhead_cover", revision=1.0, lot=lot, outcome=outcome, **more)


class TestShop(unittest.TestCase):
    def test_a_colour_is_qualified_by_a_good_run_of_it_and_by_nothing_else(self):
        lot = next(each for each in RECORDS.lots.values() if each.colour)
        other = next(each for each in RECORDS.lots.values() if each.colour and each.colour != lot.colour)
        for outcome, counts in (("good", True), ("usable", False), ("failed", False), (None, False)):
            shop = shop_of(with_runs(run("r", lot.id, outcome), run("s", other.id, "failed")))
            with self.subTest(outcome):
                self.assertEqual(shop.qualified, {(lot.grade, lot.colour)} if counts else frozenset())
        self.assertEqual(shop_of(with_runs(run("r", lot.id, "good", retired=True))).qualified, frozenset())
        self.assertEqual(shop_of(with_runs(run("r", "gone", "good"), run("t", None, "good"))).qualified, frozenset())

    def test_runs_whose_part_can_be_used_are_counted_and_retired_ones_not(self):
        outcomes = ("good", "usable", "failed", None)
        runs = [run(f"r{place}", None, outcome) for place, outcome in enumerate(outcomes)]
        shop = shop_of(with_runs(*runs, run("r9", None, "good", retired=True)))
        self.assertEqual(dict(shop.runs_done), {"wellhead_cover": 2})

    def test_what_is_retired_is_not_in_use_and_its_lots_are_used_up(self):
        lot = next(iter(RECORDS.lots))
        records = RECORDS.with_tables(lots={**RECORDS.lots, lot: attrs.evolve(RECORDS.lots[lot], retired=True)})
        shop = shop_of(records)
        self.assertNotIn(lot, {each.id for each in shop.lots})
        self.assertIn(lot, {each.id for each in shop.used_up})
        self.assertEqual(len(shop.lots) + len(shop.used_up), len(RECORDS.lots))


class TestContext(unittest.TestCase):
    def test_now_is_known_to_the_minute_so_that_a_drag_finds_one_moment(self):
        moment = datetime(2026, 3, 2, 8, 15, 42, 777, tzinfo=UTC)
        self.assertEqual(context_of_records(opened("probe_head_shell"), moment).now,
                         datetime(2026, 3, 2, 8, 15, tzinfo=UTC))  # fmt: skip
        self.assertIsNone(context_of_records(opened("probe_head_shell"), None).now)

    def test_own_values_of_the_lot_count_for_its_own_polymer_only(self):
        records = opened("sensor_cage")
        own = context_of_records(records, NOW).polymer.value("glass_transition_c")
        card = attrs.evolve(records.card, recipe=attrs.evolve(records.card.recipe, polymer="petg"))
        other = context_of_records(records.with_tables(cards={**records.cards, "sensor_cage": card}), NOW)
        self.assertEqual(own.kind, "own")
        self.assertNotEqual(other.polymer.value("glass_transition_c").kind, "own")


class TestWanted(unittest.TestCase):
    def test_a_recipe_of_which_nothing_is_printed_yet_wants_all_its_runs(self):
        card = RECORDS.cards["probe_head_shell"]
        brief = attrs.evolve(card.recipe.brief, runs=4.0, mass_g=100.0)
        cards = {"one": attrs.evolve(card, recipe=attrs.evolve(card.recipe, brief=brief))}
        for done, runs in (({}, 4), ({"one": 1}, 3), ({"one": 4}, 0), ({"one": 9}, 0), ({"other": 3}, 4)):
            found = Indexes().wanted_by_lot(RECORDS.with_tables(cards=cards), done, None)
            with self.subTest(done=done):
                self.assertAlmostEqual(found.get(card.lot, 0.0), runs * 100.0 * 1.05)
        self.assertEqual(Indexes().wanted_by_lot(RECORDS.with_tables(cards=cards), {}, "one"), {})


class TestKeys(unittest.TestCase):
    def test_a_free_key_counts_on_and_is_made_of_letters_and_digits(self):
        taken: set[str] = set()
        for expected in ("big_part", "big_part_2", "big_part_3", "big_part_4"):
            found = free_key(taken, "Big part!", "recipe")
            self.assertEqual(found, expected)
            taken.add(found)
        self.assertEqual(free_key({}, " ?! ", "recipe"), "recipe")
        self.assertEqual(len(free_key({}, "x" * 300, "recipe")), 60)

    def test_lots_of_a_grade_are_all_that_carry_its_name(self):
        lots = {key: attrs.evolve(RECORDS.lots["lot_c042"], id=key, grade=grade)
                for key, grade in (("a", "G1"), ("b", "G2"), ("c", "G1"))}  # fmt: skip
        self.assertEqual(Records.of(lots=lots).lots_of_grade("a"), ["a", "c"])
