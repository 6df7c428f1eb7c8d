"""The books after runs: filament, hours, money, bottle, orders and nozzle follow what a run really took."""

import math
from datetime import timedelta

import attrs

from kaustos.app.causes import booking_words, lost_with
from kaustos.app.indexes import mass_of
from kaustos.app.run_card import close, end_early, standing_of, tick
from kaustos.app.runs import end_run, start_run
from kaustos.core.planning.booking import HEAT_UP_H, PURGE_G, booking_of
from kaustos.core.planning.ledger import ledger_of
from kaustos.core.records import Observation, Place
from kaustos.core.review.run.preflight import preflight
from tests.app.support import ClockedTest

# 12 layers that are full, then 36 of walls: four times the time, and as much filament again
COURSE = {"heights_mm": (2.4, 9.6), "seconds": (75.0, 100.0), "layers": (12.0, 36.0), "feeds_mm_s": (4.0, 1.0)}
STRAND_MM2 = math.pi / 4.0 * 1.75**2


class BooksTest(ClockedTest):
    def setUp(self):
        super().setUp()
        self.draft.open_card("cable_clamp")
        told = {**COURSE, "hours": 1.25, "least_h": 1.2, "most_h": 1.3}
        job = attrs.evolve(self.draft.records.tables["jobs"]["job_clamp"], **told)
        self.draft.set({Place("jobs", "job_clamp"): job})

    def start(self):
        return start_run(self.workspace, who="A. Rigg", why="a test").id

    def run_of(self, key):
        return self.draft.records.runs[key]

    def tick_until(self, run, key):
        while standing_of(self.run_of(run)).step.key != key:
            tick(self.workspace, run, standing_of(self.run_of(run)).step.key)


class TestEndedEarly(BooksTest):
    def test_by_the_card_it_books_the_file_up_to_its_hour_and_everything_follows(self):
        lot = self.draft.records.lots["lot_c077"]
        before = self.workspace.shop()
        free = ledger_of(lot, before.taken_g.get(lot.id, 0.0)).free_g
        run = self.start()
        whole = self.run_of(run)
        self.assertEqual(whole.planned_h, 1.25)
        self.tick_until(run, "start")
        tick(self.workspace, run, "start")
        self.now += timedelta(hours=0.25)  # the full layers are laid: a fifth of the time
        end_early(self.workspace, run)
        self.now += timedelta(hours=20.0)  # and looked at the next day
        close(self.workspace, run, "failed")
        ended = self.run_of(run)
        self.assertAlmostEqual(ended.ran_h, 0.25)
        # 12 x 75 s x 4 mm/s against 36 x 100 s x 1 mm/s: half of the filament
        booked = booking_of(ended)
        self.assertAlmostEqual(booked.mass_g, 0.5 * whole.mass_g + PURGE_G, places=1)
        self.assertAlmostEqual(booked.hours, 0.25 + HEAT_UP_H)
        after = self.workspace.shop()
        left = ledger_of(lot, after.taken_g.get(lot.id, 0.0)).free_g
        self.assertAlmostEqual(free - left, booked.mass_g, places=6)
        fed = [sum(each.grams for each in shop.fed.get(ended.nozzle, ())) for shop in (before, after)]
        self.assertAlmostEqual(fed[1] - fed[0], booked.mass_g, places=6)
        self.assertIn("20% of the run", booking_words(self.workspace, ended))
        self.assertNotIn("only a job file tells", booking_words(self.workspace, ended))

    def test_seen_at_a_height_it_ended_there(self):
        run = self.start()
        seen = (Observation(what="layers_split", at_mm=2.4),)
        end_run(self.workspace, run, {"outcome": "stopped", "observations": seen})
        self.assertAlmostEqual(self.run_of(run).ran_h, 0.25)

    def test_judged_failed_while_it_prints_it_ended_then_and_after_its_time_it_is_whole(self):
        for passed, ran in ((0.5, 0.5), (30.0, None)):
            with self.subTest(passed):
                run = self.start()
                self.now += timedelta(hours=passed)
                end_run(self.workspace, run, {"outcome": "failed"})
                self.assertEqual(self.run_of(run).ran_h, ran)

    def test_a_good_run_is_booked_with_the_hours_of_its_card(self):
        run = self.start()
        self.tick_until(run, "start")
        tick(self.workspace, run, "start")
        self.tick_until(run, "end")
        self.now += timedelta(hours=1.5)
        tick(self.workspace, run, "end")
        close(self.workspace, run, "good")
        self.assertAlmostEqual(self.run_of(run).ran_h, 1.5)
        self.assertAlmostEqual(booking_of(self.run_of(run)).hours, 1.5 + HEAT_UP_H)


class TestBottle(BooksTest):
    def test_a_run_empties_the_bottle_by_what_its_footprint_wants(self):
        self.draft.set({"context.agent": "agent_v14"})
        bottle = self.draft.records.tables["agents"]["agent_v14"]
        figures = {
            each.key: each.value for operation in self.workspace.review().operations for each in operation.figures
        }
        dose = figures["plate.agent.dose"].value
        self.start()
        left = self.draft.records.tables["agents"]["agent_v14"].left_ml
        self.assertAlmostEqual(bottle.left_ml - left, dose, delta=0.006)
        self.draft.undo()
        self.assertEqual(self.draft.records.tables["agents"]["agent_v14"].left_ml, bottle.left_ml)

    def test_an_empty_bottle_does_not_go_below_nothing(self):
        self.draft.set({"context.agent": "agent_v14"})
        self.draft.set({"agent.left_ml": 0.001})
        self.start()
        self.assertEqual(self.draft.records.tables["agents"]["agent_v14"].left_ml, 0.0)


class TestLost(BooksTest):
    def test_typed_hours_and_money_enter_what_a_run_cost(self):
        self.draft.set({"rules.wage_per_h": 40.0, "machine.rate_per_h": 10.0})
        run = self.start()
        end_run(self.workspace, run, {"outcome": "failed", "hours_lost": 2.0, "money_lost": 7.0})
        self.assertEqual(lost_with(self.workspace, self.run_of(run)), 2.0 * (40.0 + 10.0) + 7.0)
        words = booking_words(self.workspace, self.run_of(run))
        self.assertRegex(words, r"Lost beside it: 107 €, 1\d\d € in all\.")


class TestFileFirst(BooksTest):
    """A bound file goes before what is typed, and tells what nobody typed."""

    def setUp(self):
        super().setUp()
        self.draft.set({"brief.mass_g": None, "brief.print_h": None})
        job = self.draft.records.tables["jobs"]["job_clamp"]
        self.grams = STRAND_MM2 * sum(job.filament_mm.values()) * 1.26 / 1000.0

    def test_nothing_asks_for_mass_or_hours_and_the_list_before_a_start_knows_them(self):
        context, review = self.workspace.judged()
        missing = {each.field for each in review.completeness.missing}
        self.assertTrue(missing.isdisjoint({"brief.mass_g", "brief.print_h"}), missing)
        lines = preflight(review, self.draft.records.card.recipe, context)
        self.assertEqual([line.key for line in lines if "brief.mass_g" in line.missing], [])
        costs = [each for operation in review.operations for each in operation.figures if each.key == "brief.run.cost"]
        self.assertEqual([each.value.unit for each in costs], ["money"])

    def test_orders_and_stock_reckon_with_it(self):
        records = self.draft.records
        self.assertAlmostEqual(mass_of(records.card, records), self.grams, places=3)
        wanted = self.workspace.indexes.wanted_by_lot(records, {})
        self.assertAlmostEqual(wanted["lot_c077"], 12.0 * self.grams * 1.05, places=2)

    def test_hours_of_the_file_stand_in_the_sums_of_the_run(self):
        self.draft.set({Place("rules", "", "machine_per_h"): 10.0, "machine.rate_per_h": 10.0})
        cheap = self.cost()
        self.draft.set({"job.hours": 2.25, "job.least_h": 2.2, "job.most_h": 2.3})
        pace = 10.0 * 1.0
        self.assertAlmostEqual(self.cost() - cheap, pace, delta=0.5, msg="one more hour of the machine")

    def cost(self):
        figures = (each for operation in self.workspace.review().operations for each in operation.figures)
        return next(each.value.value for each in figures if each.key == "brief.run.cost")
