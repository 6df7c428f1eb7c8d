"""Lots and dryers as a shop handles them, and clock times as it says them."""

import unittest
from datetime import UTC, datetime, timedelta

import attrs
import numpy as np

from kaustos.app.clock import read_moment, read_past, ready_words, start_words
from kaustos.app.lot_state import jobs_that_fit, state_of
from kaustos.app.runs import start_run
from kaustos.app.stock import add_stay, add_weighing, fresh_desiccant, log_strand, new_dryer, new_lot, put_aside
from kaustos.app.weighing import told_by_weighings, told_words, use_own_diffusivity
from kaustos.core.errors import KaustosError
from tests.app.test_workspace import WorkspaceTest
from tests.support import NOW


class TestLots(WorkspaceTest):
    def test_a_new_lot_finds_its_polymer_or_asks_and_is_unknown_not_dry(self):
        workspace = self.demo()
        key = new_lot(workspace, "P-900", "PA6-CF 20, deep black", "black")
        lot = workspace.draft.records.lots[key]
        self.assertEqual((lot.polymer, [stay.place for stay in lot.stays]), ("pa_cf", ["sealed"]))
        self.assertEqual(state_of(workspace, lot).word, "unknown")
        for name, grade, words in (("x", "Nylon", "PA6 or PA12"), ("x", "mystery", "No polymer is known"),
                                   ("", "PC", "needs its number")):  # fmt: skip
            with self.subTest(grade), self.assertRaisesRegex(KaustosError, words):
                new_lot(workspace, name, grade, "")

    def test_a_known_grade_gives_its_polymer_and_own_values_to_a_new_colour_that_stays_unqualified(self):
        workspace = self.demo()
        key = new_lot(workspace, "C-050", "pc, TOUGH grade", "orange")
        lot = workspace.draft.records.lots[key]
        self.assertEqual((lot.grade, lot.polymer), ("PC, tough grade", "pc"))
        self.assertIn("glass_transition_c", lot.grade_values)
        red = new_lot(workspace, "A-300", "ASA, weather grade", "blue")
        workspace.draft.open_card("wellhead_cover")
        workspace.draft.set({"context.lot": red})
        self.assertIn("stock.lot.unqualified", [each.code for each in workspace.review().findings()])

    def test_a_spelling_that_was_asked_for_once_is_known_from_then_on(self):
        workspace = self.demo()
        with self.assertRaisesRegex(KaustosError, "PA6 or PA12"):
            new_lot(workspace, "Y-1", "Nylon", "white")
        new_lot(workspace, "Y-1", "Nylon", "white", "pa12")
        key = new_lot(workspace, "Y-2", " NYLON.", "white")
        self.assertEqual(workspace.draft.records.lots[key].polymer, "pa12")
        new_lot(workspace, "Y-3", "Nylon", "white", "pa6")
        with self.assertRaisesRegex(KaustosError, "PA6 or PA12"):
            new_lot(workspace, "Y-4", "nylon-", "white")

    def test_a_stay_hotter_than_any_dryer_is_refused(self):
        workspace = self.demo()
        before = workspace.draft.records.lots["lot_n061"].stays
        with self.assertRaisesRegex(KaustosError, "is not possible here"):
            add_stay(workspace, "lot_n061", "dryer", NOW, 374.0, None)
        self.assertEqual(workspace.draft.records.lots["lot_n061"].stays, before)

    def test_a_stay_opens_a_pack_and_a_sealed_one_does_not(self):
        workspace = self.demo()
        key = new_lot(workspace, "P-901", "PA6-CF 20, deep black", "black")
        add_stay(workspace, key, "sealed", NOW - timedelta(hours=9), None, None)
        self.assertEqual(workspace.draft.records.lots[key].opened_utc, "")
        for hours in (5, 3):
            add_stay(workspace, key, "open", NOW - timedelta(hours=hours), None, None)
        opened = datetime.fromisoformat(workspace.draft.records.lots[key].opened_utc)
        self.assertEqual(opened, NOW - timedelta(hours=5), "by the first stay, and once")

    def test_left_worth_and_state_follow_the_log(self):
        workspace = self.demo()
        lot = workspace.draft.records.lots["lot_n061"]
        state = state_of(workspace, lot)
        self.assertEqual((state.left_g, state.word), (360.0, "wet"))
        self.assertAlmostEqual(state.worth, 0.36 * 75.0)
        add_stay(workspace, "lot_n061", "dryer", NOW - timedelta(hours=80), 95.0, 0.1)
        self.assertEqual(state_of(workspace, workspace.draft.records.lots["lot_n061"]).word, "dry")

    def test_impossible_logs_are_refused_and_change_nothing(self):
        workspace = self.demo()
        before = workspace.draft.records.lots["lot_n061"]
        for act, words in (
            (lambda: add_weighing(workspace, "lot_n061", 200.0, NOW), "less than the empty spool"),
            (lambda: add_weighing(workspace, "lot_n061", 580.0, NOW + timedelta(hours=1)), "lies ahead"),
            (lambda: add_stay(workspace, "lot_n061", "dryer", NOW, None, None), "how hot"),
            (lambda: add_stay(workspace, "lot_n061", "open", NOW + timedelta(hours=1), None, None), "lies ahead"),
            (lambda: add_stay(workspace, "lot_n061", "open", NOW, 20.0, 140.0), "more than 100"),
            (lambda: workspace.draft.propose("lots/lot_n061/tare_g", "-5"), "not possible"),
            (lambda: put_aside(workspace, "lot_n061", 361.0, "bars"), "361 g cannot be put aside: 360 g are free"),
            (lambda: put_aside(workspace, "lot_n061", 0.0, "bars"), "how much"),
            (lambda: put_aside(workspace, "lot_n061", 10.0, " "), "for what"),
            (lambda: fresh_desiccant(workspace, "lot_n061", NOW + timedelta(hours=1)), "lies ahead"),
            (lambda: log_strand(workspace, "lot_n061", ["vapour"], self.folder / "none.png"), "none.png"),
        ):
            with self.subTest(words), self.assertRaisesRegex(KaustosError, words):
                act()
        self.assertEqual(workspace.draft.records.lots["lot_n061"], before)

    def test_a_strand_of_a_polymer_that_shows_nothing_is_refused(self):
        workspace = self.demo()
        with self.assertRaisesRegex(KaustosError, "shows nothing until layers part: weigh"):
            log_strand(workspace, "lot_h117", ["bubbles"])
        self.assertEqual(workspace.draft.records.lots["lot_h117"].strands, ())

    def test_unknown_is_not_dry_until_a_clean_strand_of_the_day_says_so(self):
        workspace = self.demo()
        workspace.draft.open_card("winch_bracket")
        workspace.draft.set({"stock.dryer_h": None, "lot.stays": (), "lot.strands": ()})

        def unknown():
            return "stock.moisture.unknown" in {each.code for each in workspace.review().findings()}

        self.assertTrue(unknown())
        self.assertEqual(log_strand(workspace, "lot_n061", []), "dry")
        self.assertFalse(unknown())
        self.assertEqual(log_strand(workspace, "lot_n061", ["dull"]), "suspect")
        self.assertTrue(unknown())

    def test_a_run_takes_from_its_lot_until_it_is_weighed(self):
        workspace = self.demo()
        workspace.draft.open_card("winch_bracket")
        lots = workspace.draft.records.lots
        run = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        self.assertEqual(run.mass_g, 310.0)
        self.assertEqual(state_of(workspace, lots["lot_n061"]).left_g, 50.0)
        self.assertIn("stock.mass.short", {each.code for each in workspace.review().findings()})
        workspace.draft.set({f"runs/{run.id}/mass_g": 20.0})  # it was stopped early
        self.assertEqual(state_of(workspace, lots["lot_n061"]).left_g, 340.0)
        self.assertEqual(jobs_that_fit(workspace, lots["lot_n061"]), (("Winch bracket", 340.0 / (310.0 * 1.05)),))

    def test_weighings_tell_a_time_constant_that_is_used_from_then_on(self):
        workspace = self.demo()
        begun = NOW - timedelta(hours=30)
        add_stay(workspace, "lot_c042", "dryer", begun, 105.0, 0.2)
        with self.assertRaisesRegex(KaustosError, "three weighings"):
            use_own_diffusivity(workspace, "lot_c042")
        for hours in np.linspace(0.0, 30.0, 7):
            gross = 1180.0 + 4.0 * float(np.exp(-hours / 9.0))
            add_weighing(workspace, "lot_c042", gross, begun + timedelta(hours=float(hours)), 0.1)
        told = told_by_weighings(workspace, workspace.draft.records.lots["lot_c042"])
        self.assertAlmostEqual(told.fit.time_constant_h.value, 9.0, delta=0.6)
        self.assertTrue(told.lost.is_told)
        use_own_diffusivity(workspace, "lot_c042")
        workspace.draft.open_card("sensor_cage")
        datum = workspace.context().polymer.value("diffusivity_80c_um2_s")
        self.assertEqual(datum.kind, "own")
        self.assertIn("weighings of lot C-042, black", datum.source)
        workspace.draft.undo()
        self.assertNotEqual(workspace.context().polymer.value("diffusivity_80c_um2_s").kind, "own")

    def test_weighings_tell_of_water_only_while_it_dries_and_of_what_the_scale_can_tell(self):
        workspace = self.demo()
        lot = workspace.draft.records.lots["lot_h117"]
        told = told_by_weighings(workspace, lot)
        self.assertAlmostEqual(told.lost.grams.value, 2.6, msg="1014.6 to 1012.0 on a metal body")
        self.assertAlmostEqual(told.lost.percent.value, 100.0 * 2.6 / (1012.0 - lot.tare_g), places=6)
        self.assertAlmostEqual(told.least_g, 1.96 * 2**0.5 * 0.1, places=3)
        add_weighing(workspace, "lot_h117", 600.0, NOW)
        after = told_by_weighings(workspace, workspace.draft.records.lots["lot_h117"])
        self.assertEqual((after.lost, after.fit), (told.lost, told.fit), "what was printed since is no water")
        workspace.draft.set({"rules.scale_g": 5.0})
        never_dried = told_by_weighings(workspace, workspace.draft.records.lots["lot_k008"])
        self.assertIsNone(never_dried.lost)
        self.assertAlmostEqual(never_dried.least_g, 1.96 * 2**0.5 * 5.0, places=2)

    def test_a_weighing_told_later_takes_its_place_in_time(self):
        workspace = self.demo()
        add_weighing(workspace, "lot_n061", 600.0, NOW - timedelta(days=26))
        self.assertEqual([each.gross_g for each in workspace.draft.records.lots["lot_n061"].weighings], [600.0, 590.0])

    def test_a_spool_entered_today_that_lies_in_the_dryer_since_morning_was_not_sealed_meanwhile(self):
        workspace = self.demo()
        key = new_lot(workspace, "N-099", "PA6-CF, 20 %", "black")
        add_stay(workspace, key, "dryer", NOW - timedelta(hours=5), 80.0, None, "shelf")
        stays = workspace.draft.records.lots[key].stays
        self.assertEqual([(each.place, each.dryer) for each in stays], [("dryer", "shelf")])
        add_stay(workspace, key, "sealed", NOW - timedelta(hours=1), None, None)
        self.assertEqual([each.place for each in workspace.draft.records.lots[key].stays], ["dryer", "sealed"])

    def test_what_is_missing_for_a_weighing_is_said_with_its_field(self):
        workspace = self.demo()
        lot = attrs.evolve(workspace.draft.records.lots["lot_h117"], tare_g=None, flange=None)
        words = told_words(told_by_weighings(workspace, lot), lot, workspace.draft.wording)
        self.assertIn("empty spool is not recorded", words)
        self.assertIn("spool body is not recorded", words)
        self.assertNotIn("Water lost: 0", words)
        workspace.draft.set({"rules.scale_g": 5.0})
        damp = workspace.draft.records.lots["lot_k008"]
        words = told_words(told_by_weighings(workspace, damp), damp, workspace.draft.wording)
        self.assertIn("this scale cannot prove it", words)

    def test_a_dryer_is_begun_by_name_and_survives_reopening(self):
        workspace = self.demo()
        key = new_dryer(workspace, "Cupboard")
        workspace.draft.propose(f"dryers/{key}/max_c", "158 F")
        workspace.close()
        self.assertEqual(self.demo().draft.records.dryers[key].max_c, 70.0)
        with self.assertRaisesRegex(KaustosError, "needs a name"):
            new_dryer(self.demo(), " ")


class TestClock(unittest.TestCase):
    NOW = datetime(2026, 3, 2, 12, 0, tzinfo=UTC)

    def test_moments_as_people_say_them(self):
        local = self.NOW.astimezone()
        for text, hours in (("+6 h", 6.0), ("+1,5 h", 1.5)):
            self.assertEqual(read_moment(text, self.NOW) - self.NOW, timedelta(hours=hours))
        later = f"{(local + timedelta(hours=2)):%H:%M}"
        self.assertEqual(read_moment(later, self.NOW) - self.NOW, timedelta(hours=2))
        self.assertEqual(read_moment(f"tomorrow {later}", self.NOW) - self.NOW, timedelta(hours=26))
        earlier = f"{(local - timedelta(hours=2)):%H:%M}"
        self.assertEqual(read_moment(earlier, self.NOW) - self.NOW, timedelta(hours=22), "the next one")
        self.assertEqual(self.NOW - read_past(earlier, self.NOW), timedelta(hours=2), "the last one")
        self.assertEqual(self.NOW - read_past("-3 d", self.NOW), timedelta(days=3))
        for text in ("", "soon", "25:00", "7:99", "2026-02-30 10:00"):
            with self.subTest(text), self.assertRaises(KaustosError):
                read_moment(text, self.NOW)

    def test_ready_and_start(self):
        self.assertEqual(ready_words(float("inf"), self.NOW, never=True), "never, in this air")
        self.assertEqual(ready_words(float("inf"), self.NOW), "longer than 10 d", "never is kept for floors")
        wanted = self.NOW + timedelta(hours=10)
        self.assertIn("start by", start_words(wanted, 6.0, self.NOW))
        self.assertIn("late already", start_words(wanted, 12.0, self.NOW))
