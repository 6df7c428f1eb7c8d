"""The made-up firm hangs together: what is named exists, nothing lies ahead, every view has something to show."""

import tempfile
import unittest
from datetime import timedelta
from pathlib import Path

from kaustos.app.spelling import polymer_of
from kaustos.app.workspace import reading
from kaustos.core.records import OUTCOMES
from kaustos.core.review import BY_KEY
from kaustos.demo.past import STEPS
from kaustos.demo.scenario import RECORDS, build
from kaustos.library import load
from tests.asserting import every
from tests.support import NOW, at_once, every_card, judged, opened


class TestRecords(unittest.TestCase):
    def test_every_card_names_records_that_exist(self):
        for key, card in every(RECORDS.cards.items()):
            with self.subTest(key):
                self.assertIn(card.machine, RECORDS.machines)
                self.assertIn(card.lot, RECORDS.lots)
                self.assertIn(card.dryer, RECORDS.dryers)
                self.assertIn(card.recipe.polymer, load().polymers)
                self.assertEqual(RECORDS.lots[card.lot].polymer, card.recipe.polymer)

    def test_every_lot_is_loaded_on_a_machine_that_exists_and_was_somewhere(self):
        for key, lot in every(RECORDS.lots.items()):
            with self.subTest(key):
                self.assertIn(lot.loaded_on, {None, *RECORDS.machines})
                self.assertTrue(lot.stays)
                self.assertGreaterEqual(lot.weighed_g, 0.0)
                self.assertLessEqual(lot.weighed_g, lot.net_g)

    def test_no_two_lots_are_loaded_on_one_machine(self):
        loaded = [lot.loaded_on for lot in RECORDS.lots.values() if lot.loaded_on]
        self.assertEqual(len(loaded), len(set(loaded)))

    def test_grades_are_spelled_so_that_their_polymer_is_found(self):
        for lot in every(RECORDS.lots.values()):
            with self.subTest(lot.grade):
                self.assertIn(lot.polymer, polymer_of(lot.grade).polymers)

    def test_nothing_lies_ahead_and_nothing_runs_backwards(self):
        today = NOW.isoformat()
        for lot in RECORDS.lots.values():
            for moments in ([s.from_utc for s in lot.stays], [w.at_utc for w in lot.weighings]):
                self.assertEqual(moments, sorted(moments))
                self.assertTrue(all(each < today for each in moments))
        days = [step.days_ago for step in STEPS]
        self.assertTrue(all(day > 0 for day in days))

    def test_recipes_show_good_and_bad_standings_at_every_operation(self):
        for place, key in enumerate(BY_KEY):
            standings = {judged(records)[2].operations[place].standing for _, records in every_card()}
            with self.subTest(key):
                self.assertGreaterEqual(len(standings), 2)

    def test_at_home_some_recipes_are_fit_and_some_are_not(self):
        grades = [at_once(opened(card)).grade.value for card in RECORDS.cards]
        self.assertIn("no_go", grades)
        self.assertGreaterEqual(len(set(grades)), 3)


class TestBuilding(unittest.TestCase):
    def test_its_runs_hang_on_revisions_and_ended_before_now(self):
        with tempfile.TemporaryDirectory() as scratch:
            file = Path(scratch) / "demo.kaustos"
            build(file, NOW)
            with reading(file) as workspace:
                runs = workspace.draft.records.runs
                self.assertEqual(len(runs), sum(step.run is not None for step in STEPS))
                for run in runs.values():
                    with self.subTest(run.id):
                        self.assertIsNotNone(workspace.revision(run.card, run.revision))
                        self.assertLess(run.started_utc, run.ended_utc)
                        self.assertLess(run.ended_utc, (NOW + timedelta(minutes=1)).isoformat())
                seen = {run.outcome for run in runs.values()}
                self.assertLessEqual({"good", "failed"}, seen)
                self.assertLessEqual(seen, {*OUTCOMES})
