"""The run card: ticks and clocks that survive a restart, waivers that answer for themselves, the part in the hand."""

from datetime import timedelta

import attrs
from typer.testing import CliRunner

from kaustos.app.causes import after_run
from kaustos.app.cursor import along_run, resume_words, spot_of
from kaustos.app.matters import matter_words, settle
from kaustos.app.run_card import (
    add_note,
    after_words,
    card_content,
    card_lines,
    clock_words,
    close,
    end_early,
    failed_without,
    free,
    run_at_hand,
    standing_of,
    take_back,
    tick,
    waive,
)
from kaustos.app.run_seen import hand_test, mark, rest, rest_words
from kaustos.app.runs import end_run, start_run, unmet_words
from kaustos.app.workspace import Workspace
from kaustos.cli import app
from kaustos.core.errors import KaustosError
from kaustos.core.planning.run_clock import printing_h
from kaustos.core.records import Observation, Place, Run, RunRest, RunSensor, RunStep
from kaustos.core.records.job import JobPause
from kaustos.core.review.experience import judge_run, tallies
from tests.app.support import ClockedTest
from tests.support import NOW


class CardTest(ClockedTest):
    recipe = "cable_clamp"

    def setUp(self):
        super().setUp()
        self.workspace.draft.open_card(self.recipe)
        self.id = start_run(self.workspace, who="A. Rigg", why="a test").id

    @property
    def run_(self):
        return self.workspace.draft.records.runs[self.id]

    def step(self, key):
        return next(each for each in self.run_.steps if each.key == key)

    def tick_until(self, key):
        while (standing := standing_of(self.run_)) is not None and standing.step.key != key:
            tick(self.workspace, self.id, standing.step.key)


class TestClock(CardTest):
    def test_a_clock_that_was_set_back_ends_no_run_before_it_began(self):
        self.tick_until("end")
        began = self.run_.started_utc
        self.now -= timedelta(hours=3)
        before = self.workspace.draft.records
        for act in (
            lambda: tick(self.workspace, self.id, "end"), lambda: end_early(self.workspace, self.id),
            lambda: end_run(self.workspace, self.id, {"outcome": "good"}),
        ):  # fmt: skip
            with self.assertRaisesRegex(KaustosError, "the clock of this computer stands at .*set the clock right"):
                act()
        self.assertIs(self.workspace.draft.records, before, "nothing is kept")
        self.now += timedelta(hours=9)
        tick(self.workspace, self.id, "end")
        self.assertGreater(self.run_.ended_utc, began)

    def test_a_wait_counts_from_the_step_before_and_the_print_from_its_first_move(self):
        self.tick_until("hot")
        wait = self.step("hot").wait_min
        self.now += timedelta(minutes=10)
        standing = standing_of(self.run_)
        self.assertAlmostEqual(standing.left_s(self.now), 60.0 * (wait - 10.0), delta=1.5)
        self.now += timedelta(minutes=wait)
        self.assertRegex(clock_words(standing, self.now), "^now; due since 10 min")
        tick(self.workspace, self.id, "hot")
        self.now += timedelta(minutes=5)
        tick(self.workspace, self.id, "start")
        self.assertEqual(self.run_.started_utc, self.step("start").done_utc)
        look = standing_of(self.run_)
        self.assertEqual(look.step.key, "look")
        self.assertAlmostEqual(look.left_s(self.now), 3600.0 * look.step.at_h, delta=1.5)
        tick(self.workspace, self.id, "look")
        self.assertEqual((self.run_.looked_by, self.run_.looked_utc), ("A. Rigg", self.step("look").done_utc))

    def test_ticked_before_its_time_is_said(self):
        self.tick_until("hot")
        tick(self.workspace, self.id, "hot")
        self.assertRegex(self.step("hot").note, "before its time$")

    def test_killed_at_any_step_it_stands_there_again(self):
        for _ in range(len(self.run_.steps)):
            before = standing_of(self.run_)
            self.workspace.autosave()
            again = Workspace(self.workspace.file, clock=lambda: self.now, write=False)
            self.assertEqual(standing_of(again.draft.records.runs[self.id]), before)
            again.close()
            if before.step.key == "close":
                break
            self.now += timedelta(minutes=7)
            tick(self.workspace, self.id, before.step.key)
        self.assertEqual(before.step.key, "close")

    def test_each_is_one_edit_that_undo_takes_back(self):
        before = self.workspace.draft.records
        tick(self.workspace, self.id, self.run_.steps[0].key)
        self.workspace.draft.undo()
        self.assertEqual(self.workspace.draft.records, before)
        with self.assertRaisesRegex(KaustosError, "No step is done"):
            take_back(self.workspace, self.id)
        tick(self.workspace, self.id, self.run_.steps[0].key)
        take_back(self.workspace, self.id)
        self.assertEqual(standing_of(self.run_).place, 0)

    def test_a_run_of_an_earlier_version_has_no_card_and_the_newest_with_one_is_at_hand(self):
        self.assertEqual(self.workspace.draft.records.runs["run_0001"].steps, (), "nobody used its card")
        self.assertEqual(run_at_hand(self.workspace, "run_0001"), self.id)
        self.assertEqual(run_at_hand(self.workspace, self.id), self.id)
        self.assertIsNone(standing_of(self.workspace.draft.records.runs["run_0001"]))
        with self.assertRaisesRegex(KaustosError, "no step"):
            tick(self.workspace, self.id, "nothing")


class TestWaiver(CardTest):
    def test_it_takes_a_name_and_a_reason_and_is_the_first_suspect(self):
        for who, why, words in (("", "late", "nobody is named"), ("B. Fell", " ", "Say why")):
            with self.assertRaisesRegex(KaustosError, words):
                waive(self.workspace, self.id, "check.dry", who, why)
        waive(self.workspace, self.id, "check.dry", "B. Fell", "no time")
        self.assertRegex(unmet_words(self.run_), r"^Gone without: spool dry until the end \(B\. Fell: no time\)\.")

    def test_what_was_seen_to_after_the_start_is_no_suspect_any_more(self):
        self.assertIn("soak planned", unmet_words(self.run_))
        tick(self.workspace, self.id, "check.soak")
        self.assertNotIn("soak planned", unmet_words(self.run_))
        waive(self.workspace, self.id, "check.sensors", "B. Fell", "not at hand")
        self.assertEqual(unmet_words(self.run_).count("sensors agree"), 1)

    def test_nobody_signs_for_a_safety_stop_nor_for_a_run_without_its_first_move(self):
        self.workspace.draft.open_card("probe_head_shell")
        run = start_run(self.workspace, who="B. Fell", why="it took place", took_place=True)
        with self.assertRaisesRegex(KaustosError, "nobody signs"):
            waive(self.workspace, run.id, "check.reach", "B. Fell", "hurry")
        with self.assertRaisesRegex(KaustosError, "is none"):
            waive(self.workspace, run.id, "start", "B. Fell", "hurry")

    def test_done_is_no_way_round_a_safety_stop_that_still_stands(self):
        self.workspace.draft.open_card("probe_head_shell")
        run = start_run(self.workspace, who="B. Fell", why="it took place", took_place=True).id
        with self.assertRaisesRegex(KaustosError, "it still stands.*plastic parts of Tarn"):
            tick(self.workspace, run, "check.reach")
        self.workspace.draft.set({Place("machines", "tarn", "chamber.plastics.fitted"): False})
        tick(self.workspace, run, "check.reach")
        self.assertTrue(next(each for each in self.workspace.draft.records.runs[run].steps
                             if each.key == "check.reach").is_over)  # fmt: skip

    def test_a_line_of_the_list_is_called_done_by_somebody(self):
        self.workspace.settings = attrs.evolve(self.workspace.settings, who=" ")
        with self.assertRaisesRegex(KaustosError, "nobody is named who has seen to it"):
            tick(self.workspace, self.id, "check.soak")
        tick(self.workspace, self.id, "load")

    def test_a_step_that_a_failed_run_went_without_is_compulsory_for_its_like(self):
        waive(self.workspace, self.id, "check.dry", "B. Fell", "no time")
        close(self.workspace, self.id, "failed")
        again = start_run(self.workspace, who="A. Rigg", why="again").id
        with self.assertRaisesRegex(KaustosError, "run 13 failed without it"):
            waive(self.workspace, again, "check.dry", "B. Fell", "no time")
        waive(self.workspace, again, "check.soak", "B. Fell", "no time")
        self.workspace.draft.open_card("wellhead_cover")
        other = start_run(self.workspace, who="A. Rigg", why="another polymer").id
        record = self.workspace.draft.records.runs[other]
        self.assertNotEqual(record.polymer, self.run_.polymer)
        waive(self.workspace, other, "check.soak", "B. Fell", "not needed")


class TestSeen(CardTest):
    def test_minute_and_height_come_from_the_clock(self):
        self.tick_until("look")
        self.now += timedelta(minutes=27)
        seen = mark(self.workspace, self.id, "corner_lift", 1.5)
        along = along_run(self.workspace, self.run_)
        self.assertAlmostEqual(seen.at_h, 0.45)
        self.assertAlmostEqual(seen.at_mm, along.at_hour(0.45).at_mm, delta=0.06)
        self.assertEqual((seen.where, seen.lift_mm), ("corner", 1.5))
        self.assertEqual(self.run_.observations[-1], seen)
        self.assertAlmostEqual(spot_of(along, seen).at_h, 0.45, delta=0.01)

    def test_what_it_stood_at_a_pause_is_no_printing_and_later_steps_are_due_later(self):
        pauses = (JobPause(line=9.0, at_mm=9.0, after_h=0.3, word="M600"),)
        self.workspace.draft.set({Place("jobs", "job_clamp", "pauses"): pauses})
        self.id = start_run(self.workspace, who="A. Rigg", why="a test").id
        self.tick_until("look")
        begun = self.now
        self.tick_until("pause.1")
        end = self.step("end").at_h
        self.now = begun + timedelta(minutes=40)
        self.assertAlmostEqual(printing_h(self.run_, self.now), 0.3, msg="it stands")
        self.assertAlmostEqual(mark(self.workspace, self.id, "strings").at_h, 0.3)
        tick(self.workspace, self.id, "pause.1")
        self.now += timedelta(minutes=6)
        self.assertAlmostEqual(printing_h(self.run_, self.now), 0.4, places=6)
        place = next(at for at, each in enumerate(self.run_.steps) if each.key == "end")
        due = standing_of(self.run_, place).due
        self.assertAlmostEqual((due - begun).total_seconds() / 3600.0, end + 40.0 / 60.0 - 0.3, places=5)

    def test_before_the_first_move_nothing_is_placed(self):
        tick(self.workspace, self.id, self.run_.steps[0].key)
        self.now += timedelta(hours=2)
        seen = mark(self.workspace, self.id, "smell")
        self.assertEqual((seen.at_h, seen.at_mm), (None, None))

    def test_after_its_last_layer_no_height_is_invented(self):
        self.tick_until("look")
        self.now += timedelta(hours=5)
        self.assertIsNone(mark(self.workspace, self.id, "smell").at_mm)

    def test_stood_still_it_says_go_on_or_anew_with_what_each_costs(self):
        self.tick_until("look")
        self.now += timedelta(minutes=40)
        words = resume_words(self.workspace, self.run_, 10.0, is_held=True)
        self.assertRegex(words, r"at 1\d\.?\d* mm the next layer would keep \d+%.*Going on takes .*, anew ")
        self.assertRegex(resume_words(self.workspace, self.run_, 10.0, is_held=False), "^Scrap it.*let go or moved")
        with self.assertRaisesRegex(KaustosError, "check the minutes"):
            resume_words(self.workspace, self.run_, 300.0, is_held=True)
        close(self.workspace, self.id, "stopped")
        with self.assertRaisesRegex(KaustosError, "has its verdict"):
            resume_words(self.workspace, self.run_, 10.0, is_held=True)


class TestAfterwards(CardTest):
    """What a run shows once it is printed has its keys at that step."""

    def printed(self):
        self.tick_until("start")
        tick(self.workspace, self.id, "start")
        self.tick_until("end")
        self.now += timedelta(hours=0.9)
        tick(self.workspace, self.id, "end")
        self.now += timedelta(hours=2.0)

    def test_what_shows_later_has_no_hour_and_points_to_a_cause(self):
        self.printed()
        seen = mark(self.workspace, self.id, "warped")
        self.assertEqual((seen.at_h, seen.at_mm), (None, None))
        close(self.workspace, self.id, "failed")
        self.assertIn("Next:", after_words(self.workspace, self.id))

    def test_a_break_by_hand_is_evidence_and_gives_the_next_trial(self):
        self.printed()
        before = set(self.workspace.draft.records.tables["proofs"])
        hand_test(self.workspace, self.id, "easily")
        (new,) = set(self.workspace.draft.records.tables["proofs"]) - before
        proof = self.workspace.draft.records.tables["proofs"][new]
        self.assertEqual((proof.sort, proof.card, proof.run, proof.rows[0].blows), ("hand", self.recipe, self.id, 0.0))
        self.assertEqual(proof.nozzle_c, self.workspace.draft.records.card.recipe.melt.nozzle_c)
        self.assertIn("weak_layers", self.run_.seen)
        close(self.workspace, self.id, "failed")
        self.assertIn("Next:", after_words(self.workspace, self.id))
        self.workspace.draft.undo()
        self.workspace.draft.undo()
        self.assertEqual(set(self.workspace.draft.records.tables["proofs"]), before, "one edit, taken back at once")
        hand_test(self.workspace, self.id, "held")
        self.assertEqual(self.run_.observations, ())

    def test_it_lands_at_the_recipe_of_the_run_whichever_is_open(self):
        self.printed()
        self.workspace.draft.open_card("packer_ring")
        hand_test(self.workspace, self.id, "effort")
        newest = [*self.workspace.draft.records.tables["proofs"].values()][-1]
        self.assertEqual(newest.card, self.recipe)

    def test_stuck_it_stays_to_be_freed_and_how_it_came_off_is_told_then(self):
        self.tick_until("free")
        free(self.workspace, self.id, "stuck")
        self.assertEqual((self.run_.off, self.step("free").is_over), ("stuck", False))
        free(self.workspace, self.id, "torn", 24.0)
        self.assertEqual((self.run_.off, self.step("free").is_over), ("torn", True))
        self.assertEqual([each.what for each in self.run_.observations], ["stuck", "surface_torn"])


class TestStoodStill(CardTest):
    def test_minutes_and_answer_are_kept_and_are_no_printing(self):
        self.tick_until("start")
        tick(self.workspace, self.id, "start")
        self.now += timedelta(hours=0.5)
        said = rest(self.workspace, self.id, 12.0, is_held=True)
        (kept,) = self.run_.rests
        self.assertEqual(
            (kept.minutes, kept.is_held, kept.says, kept.by), (12.0, True, said.partition(". ")[0], "A. Rigg")
        )
        self.assertAlmostEqual(kept.at_mm, along_run(self.workspace, self.run_).at_hour(0.3).at_mm, delta=0.06)
        self.now += timedelta(hours=0.2)
        self.assertAlmostEqual(printing_h(self.run_, self.now), 0.5, msg="0.7 h passed, 0.2 h of them it stood")
        self.assertIn("Stood still 12 min", rest_words(self.run_, self.workspace)[0])
        again = rest(self.workspace, self.id, 6.0, is_held=False)
        self.assertIn("its plate was not kept hot", again)
        self.assertAlmostEqual(printing_h(self.run_, self.now), 0.4)


class TestLeftOpen(CardTest):
    """What was learned becomes the next run's list."""

    def fail(self, what):
        self.tick_until("end")
        self.workspace.draft.set({Place("runs", self.id, "observations"): (Observation(what=what),)})
        self.now += timedelta(hours=1.0)
        close(self.workspace, self.id, "failed")

    def again(self, **stops):
        before, self.id = self.id, start_run(self.workspace, who="A. Rigg", why="a test", **stops).id
        return before

    def test_a_failed_heater_stands_first_on_the_next_list_and_is_neither_waived_nor_ticked_until_closed(self):
        self.fail("heater_fault")
        review = self.workspace.judged_now()[1]
        self.assertIn("run.matter.danger", {each.code for each in review.findings()})
        self.assertEqual(review.grade.value, "no_go")
        with self.assertRaisesRegex(KaustosError, "a heater failed"):
            start_run(self.workspace, who="A. Rigg", why="in a hurry")
        before = self.again(took_place=True)
        self.assertTrue(self.step("check.matters").is_safety)
        with self.assertRaisesRegex(KaustosError, "come to harm"):
            waive(self.workspace, self.id, "check.matters", "A. Rigg", "no time")
        with self.assertRaisesRegex(KaustosError, "close it with what was found"):
            tick(self.workspace, self.id, "check.matters")
        with self.assertRaisesRegex(KaustosError, "Say who looked"):
            settle(self.workspace, before, "heater_fault", " ")
        settle(self.workspace, before, "heater_fault", "B. Volt: crimp of the plate heater renewed")
        tick(self.workspace, self.id, "check.matters")
        self.assertNotIn("run.matter.danger", {each.code for each in self.workspace.judged_now()[1].findings()})
        self.assertIn(
            "Closed: a heater failed (A. Rigg): B. Volt", matter_words(self.workspace.draft.records.runs[before])[0]
        )

    def test_a_heater_that_fell_short_is_closed_by_a_reading_that_gets_there(self):
        self.fail("short_of_heat")
        before = self.id
        wanted = self.workspace.draft.records.runs[before].hot["nozzle"]
        for proof, why in (
            ("seen to", "a reading: what it reaches now"),
            ("255 by the probe", "with its unit"),
            (f"nozzle {wanted - 20.0:.0f} °C by the probe", "that stays open"),
            (f"{wanted:.0f} °C by the probe", "which zone"),
            (f"nozzle {1.8 * (wanted - 20.0) + 32.0:.0f} °F by the probe", "that stays open"),
        ):
            with self.subTest(proof), self.assertRaisesRegex(KaustosError, why):
                settle(self.workspace, before, "short_of_heat", proof)
        settle(self.workspace, before, "short_of_heat", f"nozzle {wanted:.0f} °C by the probe in the block")
        self.again()
        self.assertNotIn("run.matter.open", {each.code for each in self.workspace.judged_now()[1].findings()})

    def test_a_reading_of_another_zone_closes_nothing_and_the_c_of_a_unit_is_no_chamber(self):
        self.fail("short_of_heat")
        before, hot = self.id, self.workspace.draft.records.runs[self.id].hot
        sensor = RunSensor(name="nozzle", zone="nozzle", says=("short",), short_k=20.0)
        self.workspace.draft.set({Place("runs", before, "sensors"): (sensor,)})
        for proof, why in (
            (f"plate {hot['plate']:.0f} °C by the probe", "which zone the reading is of: nozzle"),
            (f"{hot['nozzle'] - 20.0:.0f} °C by the probe", "Its nozzle reaches"),
        ):
            with self.subTest(proof), self.assertRaisesRegex(KaustosError, why):
                settle(self.workspace, before, "short_of_heat", proof)
        self.assertIn("closed by", settle(self.workspace, before, "short_of_heat", f"{hot['nozzle']:.0f} °C, probe"))

    def test_a_soak_gone_without_is_closed_by_its_minutes(self):
        self.tick_until("hot")
        waive(self.workspace, self.id, "hot", "A. Rigg", "no time")
        close(self.workspace, self.id, "failed")
        with self.assertRaisesRegex(KaustosError, "minutes, and the reading"):
            settle(self.workspace, self.id, "no_soak", "done this time")
        self.assertIn("closed by", settle(self.workspace, self.id, "no_soak", "40 min, 62 °C beside the part"))

    def test_a_stuck_part_is_told_and_closed_by_the_next_good_run(self):
        self.fail("stuck")
        self.again()
        self.assertFalse(self.step("check.matters").is_safety)
        end_run(self.workspace, self.id, {"outcome": "good"})
        self.now += timedelta(days=1)
        self.assertNotIn("run.matter.open", {each.code for each in self.workspace.judged_now()[1].findings()})

    def test_one_failure_bars_only_the_lines_that_would_have_prevented_it(self):
        lines = [each.key for each in self.run_.steps if each.key.startswith("check.") and not each.is_safety]
        self.assertGreaterEqual(len(lines), 3)
        for key in lines:
            waive(self.workspace, self.id, key, "A. Rigg", "no time")
        self.workspace.draft.set({Place("runs", self.id, "observations"): (Observation(what="corner_lift"),)})
        close(self.workspace, self.id, "failed")
        self.again()
        barred = [key for key in lines if key in {each.key for each in self.run_.steps}
                  and failed_without(self.workspace, self.run_, key)]  # fmt: skip
        free_ones = set(lines) - set(barred)
        self.assertTrue(free_ones, "what has nothing to do with a lift may be gone without")
        self.assertNotIn("check.dry", barred)


class TestLeftOut(CardTest):
    def test_the_next_trial_does_what_was_left_out_where_that_would_have_prevented_it(self):
        waive(self.workspace, self.id, "check.soak", "A. Rigg", "no time")
        self.tick_until("end")
        self.workspace.draft.set({Place("runs", self.id, "observations"): (Observation(what="corner_lift"),)})
        close(self.workspace, self.id, "failed")
        found = after_run(self.workspace, self.run_)
        self.assertRegex(found.trial, "^Do what was left out: soak planned")
        self.assertEqual(found.changes, {})
        self.assertIn("If it is the same, next is:", found.expected)

    def test_what_has_nothing_to_do_with_it_is_no_trial(self):
        waive(self.workspace, self.id, "check.soak", "A. Rigg", "no time")
        self.tick_until("end")
        self.workspace.draft.set({Place("runs", self.id, "observations"): (Observation(what="charred"),)})
        close(self.workspace, self.id, "failed")
        self.assertNotIn("left out", after_run(self.workspace, self.run_).trial)


class TestStoodAndPaused(CardTest):
    """A stand-still before a pause is in the tick of the pause, and is not counted twice."""

    PAUSE = RunStep(key="pause.1", title="It waits", phase="during", at_h=1.0)

    def run_with(self, *rests, paused_h=None):
        def at(hours):
            return (NOW + timedelta(hours=hours)).isoformat()

        start = RunStep(key="start", done_utc=at(0.0))
        pause = attrs.evolve(self.PAUSE, done_utc="" if paused_h is None else at(paused_h))
        kept = tuple(RunRest(at_utc=at(hours), minutes=minutes) for hours, minutes in rests)
        return attrs.evolve(self.run_, steps=(start, pause), rests=kept)

    def printed(self, run, hours):
        return printing_h(run, NOW + timedelta(hours=hours))

    def test_by_hand(self):
        before = self.run_with((0.8, 18.0), paused_h=1.5)  # 0.5 h printed, 0.3 h stood, 0.5 h printed, 0.2 h paused
        self.assertAlmostEqual(self.printed(before, 2.0), 1.5)
        after = self.run_with((2.0, 18.0), paused_h=1.5)  # 1 h, 0.5 h paused, 0.2 h printed, 0.3 h stood
        self.assertAlmostEqual(self.printed(after, 2.5), 1.7)
        both = self.run_with((0.8, 18.0), (2.0, 18.0), paused_h=1.5)
        self.assertAlmostEqual(self.printed(both, 2.5), 1.7)

    def test_one_that_stood_before_its_pause_comes_to_it_later(self):
        stood = self.run_with((0.8, 18.0))
        self.assertAlmostEqual(self.printed(stood, 1.2), 0.9)
        self.assertAlmostEqual(self.printed(stood, 1.4), 1.0, msg="it waits there now")
        late = self.run_with((1.1, 18.0))  # it stood from 0.8 h on
        self.assertAlmostEqual(self.printed(late, 1.2), 0.9)


class TestWatched(CardTest):
    def test_nobody_there_is_not_right_where_layer_one_and_corners_were_ticked_by_name(self):
        foretold = ("first_layer.look.nobody", "run.day.alone")
        lifted = Observation(what="corner_lift", at_h=0.6)
        self.workspace.draft.set({Place("runs", self.id, "foretold"): foretold})
        self.tick_until("end")
        self.workspace.draft.set({Place("runs", self.id, "observations"): (lifted,)})
        close(self.workspace, self.id, "failed")
        found = tallies([self.run_])
        self.assertEqual({code: found[code].right for code in foretold}, dict.fromkeys(foretold, 0))
        self.assertEqual(judge_run(self.run_).not_foretold, ("corner_lift",))
        alone = attrs.evolve(self.run_, steps=(), looked_by="", looked_utc="")
        self.assertEqual({code: tallies([alone])[code].right for code in foretold}, dict.fromkeys(foretold, 1))


class TestRelease(CardTest):
    def test_what_tore_stands_with_run_and_plate_as_one_edit(self):
        self.tick_until("free")
        before = self.workspace.draft.records
        free(self.workspace, self.id, "torn", 41.0)
        plate = self.workspace.draft.records.tables["plates"][self.run_.plate]
        self.assertEqual((self.run_.off, self.run_.off_c, plate.damages[-1].kind), ("torn", 41.0, "torn"))
        self.assertIn("surface_torn", self.run_.seen)
        self.assertTrue(self.step("free").is_over)
        self.workspace.draft.undo()
        self.assertEqual(self.workspace.draft.records, before)
        free(self.workspace, self.id, "easy")
        self.assertEqual(self.workspace.draft.records.tables["plates"], before.tables["plates"])
        self.assertEqual((self.run_.off_c, self.run_.observations), (None, ()))

    def test_what_is_open_again_takes_with_it_what_came_with_it(self):
        self.tick_until("free")
        before = self.workspace.draft.records
        free(self.workspace, self.id, "torn", 41.0)
        take_back(self.workspace, self.id)
        self.assertEqual(self.workspace.draft.records, before)
        take_back(self.workspace, self.id)
        take_back(self.workspace, self.id)
        self.assertEqual((standing_of(self.run_).step.key, self.run_.ended_utc), ("end", ""))
        self.now += timedelta(minutes=3)
        tick(self.workspace, self.id, "end")
        self.assertEqual(self.run_.ended_utc, self.step("end").done_utc)

    def test_ended_early_the_rest_of_the_print_is_over_and_nobody_is_suspected_for_it(self):
        before = unmet_words(self.run_)
        end_early(self.workspace, self.id)
        self.assertEqual(unmet_words(self.run_), before, "what nobody saw to is still begun without")
        self.workspace.draft.undo()
        self.tick_until("corners")
        said = unmet_words(self.run_)
        end_early(self.workspace, self.id)
        self.assertEqual(standing_of(self.run_).step.key, "cool")
        self.assertEqual(unmet_words(self.run_), said)
        self.assertEqual(self.run_.ended_utc, self.step("end").done_utc)
        with self.assertRaisesRegex(KaustosError, "has ended"):
            end_early(self.workspace, self.id)
        self.workspace.draft.undo()
        self.assertEqual(standing_of(self.run_).step.key, "corners")
        self.now += timedelta(minutes=6)
        end_early(self.workspace, self.id)
        ended = printing_h(self.run_, self.now)
        self.now += timedelta(hours=5)  # it cooled, and somebody had lunch
        close(self.workspace, self.id, "stopped")
        self.assertAlmostEqual(self.run_.ran_h, ended, places=6)
        self.workspace.draft.undo()
        self.assertIsNone(self.run_.outcome, "verdict and step are one edit")

    def test_closed_it_has_its_verdict_and_its_hours(self):
        self.tick_until("end")
        self.now += timedelta(minutes=54)
        self.tick_until("close")
        ended = self.run_.ended_utc
        self.now += timedelta(hours=3)
        close(self.workspace, self.id, "good")
        self.assertEqual((self.run_.outcome, self.run_.ended_utc), ("good", ended))
        self.assertIsNone(standing_of(self.run_))

    def test_the_page_holds_every_step_and_the_terminal_too(self):
        add_note(self.workspace, self.id, "load", "spool turned")
        lines = card_lines(self.run_)
        self.assertEqual(len(lines), len(self.run_.steps))
        self.assertIn("spool turned", "".join(line[3] for line in lines))
        content = card_content(self.workspace, self.run_)
        self.assertEqual(sum(len(rows) for _, rows in content["phases"]), len(lines))
        self.workspace.autosave()
        pdf = self.folder / "card.pdf"
        where = ("--workspace", str(self.workspace.file))
        told = CliRunner().invoke(app, ["card", "13", *where])
        self.assertEqual((told.exit_code, len(told.stdout.splitlines())), (0, len(lines)))
        self.assertEqual(CliRunner().invoke(app, ["card", "13", *where, "--pdf", str(pdf)]).exit_code, 0)
        import pypdfium2

        document = pypdfium2.PdfDocument(pdf)
        self.assertEqual(len(document), 1)
        text = document[0].get_textpage().get_text_range()
        document.close()
        for words in ("Look at layer one", "What did it come to?", "Corner lifts"):
            self.assertIn(words, text)
        wrong = CliRunner().invoke(app, ["card", "999", *where])
        self.assertEqual((wrong.exit_code, "No run is '999'" in wrong.output), (2, True))


class TestRecord(CardTest):
    def test_a_step_is_over_once_it_has_its_hour(self):
        self.assertFalse(RunStep(key="x").is_over)
        self.assertTrue(RunStep(key="x", done_utc="2026-03-01T08:00:00Z").is_over)
        self.assertEqual(Run(id="r", card="c", revision=1.0).steps, ())
