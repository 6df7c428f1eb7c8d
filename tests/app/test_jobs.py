"""Job files bound to a recipe: kept, told apart, compared; their layer times rule; the day and its list."""

import re
import unittest
from datetime import timedelta

import attrs
import icalendar

from kaustos.app.going_on import stop_words
from kaustos.app.jobs import ReadJob, content_of, keep_job, reading, seen_before
from kaustos.app.running import calendar_of, checks_of, day_rows, write_calendar
from kaustos.app.runs import start_run, unmet_words
from kaustos.core.errors import KaustosError
from kaustos.core.planning.motion import Planned, planned_of
from kaustos.core.progress import Cancelled
from kaustos.core.records import Observation, Run, Stay
from kaustos.core.review.heat import heat_case
from kaustos.core.review.run import preflight, run_case
from kaustos.core.review.run.preflight import LINES
from tests.app.test_workspace import WorkspaceTest
from tests.formats.test_job_code import squares
from tests.support import NOW, changed, judged, opened, recipe_and_context


class DemoTest(WorkspaceTest):
    def setUp(self):
        super().setUp()
        self.workspace = self.demo()


class TestBinding(DemoTest):
    def setUp(self):
        super().setUp()
        self.draft = self.workspace.draft
        self.card = "winch_bracket"
        self.draft.open_card(self.card)

    def read(self, text=None, name="bracket.gcode"):
        file = self.folder / name
        file.write_text(squares() if text is None else text)
        return reading(self.workspace, file)()

    def job(self):
        return self.draft.records.tables["jobs"][self.draft.records.card.chosen["job"]]

    def test_a_file_is_bound_kept_byte_by_byte_and_undone_at_one_step(self):
        before = self.draft.records
        words = keep_job(self.workspace, self.read(), self.card)
        self.assertIn("never ran", words)
        self.assertEqual(content_of(self.workspace, self.job()).decode(), squares())
        self.assertEqual((self.job().nozzle_c, self.job().layer_mm, self.job().first_mm), (240.0, 0.2, 0.2))
        self.draft.undo()
        self.assertEqual(self.draft.records.tables["jobs"], before.tables["jobs"])
        self.assertNotIn("job", self.draft.records.card.chosen)

    def test_the_same_bytes_are_the_same_record_and_the_same_moves_are_known_again(self):
        keep_job(self.workspace, self.read(), self.card)
        first = self.job().id
        keep_job(self.workspace, self.read(), self.card)
        self.assertEqual(self.job().id, first)
        records = self.draft.records
        run = Run(id="r", card=records.current, revision=1.0, machine="gill", lot="lot_n061", outcome="good", job=first)
        self.draft.add("runs", "r", run, "ran")
        words = keep_job(self.workspace, self.read("; of Tuesday\n" + squares(), "again.gcode"), self.card)
        self.assertNotEqual(self.job().id, first)
        self.assertIn("ran 1 times on this machine from this lot, 1 good", words)
        self.draft.set({"context.machine": "tarn"})
        self.assertIn("proven there, not here", seen_before(self.workspace, self.job().id, self.card))

    def test_what_is_no_job_file_or_has_no_recipe_is_named_and_loses_nothing(self):
        before = self.draft.records
        for text, words in (("G28\n", "lays filament"), ("\0\1", "no text"), ("x" * 2_000_000, "longer than")):
            with self.subTest(words), self.assertRaisesRegex(KaustosError, f"^bracket.gcode.*{words}"):
                self.read(text)
        with self.assertRaisesRegex(KaustosError, "nowhere.gcode"):
            ReadJob(self.folder / "nowhere.gcode", Planned())()
        self.assertEqual(self.draft.records, before)

    def test_reading_is_called_off(self):
        class Gone:
            def check(self):
                raise Cancelled("Called off.")

            def report(self, done, of):
                """Nobody asks."""

        with self.assertRaises(Cancelled):
            ReadJob(self.folder / "bracket.gcode", Planned())(Gone())

    def test_read_again_for_a_slower_machine_the_same_record_has_other_hours(self):
        keep_job(self.workspace, self.read(), self.card)
        before = self.job()
        self.draft.set({"machine.accel_mm_s2": 200.0, "machine.corner_mm_s": 2.0})
        keep_job(self.workspace, self.read(), self.card)
        self.assertEqual((self.job().id, self.job().copy), (before.id, before.copy))
        self.assertGreater(self.job().hours, before.hours)
        self.assertEqual((self.job().accel_mm_s2, self.job().corner_mm_s), (200.0, 2.0))
        self.draft.undo()
        self.assertEqual(self.job(), before)

    def test_a_passport_narrows_the_hours(self):
        gill = self.draft.records.machines["gill"]
        known = attrs.evolve(gill, accel_mm_s2=1_500.0, corner_mm_s=8.0)
        bands = [planned_of(each).accel_mm_s2 for each in (None, gill, known)]
        self.assertEqual(bands[0], bands[1])
        self.assertLess(bands[2][2] / bands[2][0], bands[0][2] / bands[0][0])

    def test_a_run_keeps_its_file_and_what_was_not_met(self):
        keep_job(self.workspace, self.read(), self.card)
        run = start_run(self.workspace, who="R. Askew", why="tried all the same", took_place=True)
        self.assertEqual(run.job, self.job().id)
        self.assertIn("file", run.unmet)
        self.assertIn("file and recipe say the same", unmet_words(run))
        self.assertEqual(unmet_words(attrs.evolve(run, unmet=())), "")


class TestRecipe(unittest.TestCase):
    def test_layer_times_of_the_file_go_before_those_of_geometry(self):
        recipe, context = recipe_and_context(opened("cable_clamp"))
        by_file = heat_case(recipe, context).times
        by_shape = heat_case(recipe, attrs.evolve(context, job=None)).times
        laid = context.job.seconds[len(context.job.seconds) // 2]
        self.assertAlmostEqual(float(by_file.seconds[by_file.seconds.size // 2]), laid)
        self.assertFalse((by_file.seconds == by_shape.seconds).all())
        slow = attrs.evolve(context.job, seconds=tuple(3.0 * each for each in context.job.seconds))
        shares = [
            float(heat_case(recipe, attrs.evolve(context, job=job)).share.mean()) for job in (context.job, slow)
        ]  # fmt: skip
        self.assertLess(shares[1], shares[0], "layers that wait weld less")

    def test_sections_of_beads_and_mass_come_from_what_is_fed(self):
        recipe, context = recipe_and_context(opened("cable_clamp"))
        case = run_case(recipe, context)
        self.assertAlmostEqual(case.section_mm2, 0.72 * 0.3 * 0.95, places=3)
        path = sum(2.0 * (60 + 40 - 2.88 * n) for n in range(11)) * 93
        self.assertAlmostEqual(case.fed_mm3, path * 0.72 * 0.3 * 0.95, delta=0.001 * case.fed_mm3)


class TestPreflight(unittest.TestCase):
    def test_every_line_is_made_from_findings_and_figures_that_there_are(self):
        from kaustos.core.review import CODES

        _, _, review = judged(opened("cable_clamp"))
        figures = {each.key for operation in review.operations for each in operation.figures}
        for line in LINES:
            with self.subTest(line.key):
                self.assertTrue(all(any(code.startswith(each) for code in CODES) for each in line.codes))
                self.assertTrue(not line.figure or line.figure in figures)

    def test_unknown_is_never_met_and_worse_is_never_better(self):
        order = ("not met", "unknown", "met")

        def state(records, key):
            recipe, context, review = judged(records)
            return order.index({each.key: each.state for each in preflight(review, recipe, context)}[key])

        base = opened("probe_head_shell")
        for key, path in (
            ("file", "context.job"), ("dry", "context.lot"), ("plate", "context.plate"), ("soak", "heat.soak_min"),
            ("somebody", "first_layer.look_by"), ("enough", "brief.mass_g"), ("reach", "context.machine"),
        ):  # fmt: skip
            with self.subTest(key):
                self.assertLess(state(changed(base, {path: "" if path.endswith("look_by") else None}), key), 2)
        full = changed(opened("cable_clamp"), {"brief.mass_g": 20.0})
        self.assertLessEqual(state(changed(full, {"brief.mass_g": 5_000.0}), "enough"), state(full, "enough"))

    def test_what_is_not_met_stands_first(self):
        recipe, context, review = judged(opened("cable_clamp"))
        states = [each.state for each in checks_of(review, recipe, context)]
        self.assertEqual(states, sorted(states, key=("not met", "unknown", "met").index))


class TestStopOrGoOn(DemoTest):
    def run_with(self, what, gone_h, outcomes, **changes):
        log = {
            f"old{n}": Run(id=f"old{n}", card="x", revision=1.0, polymer="pa6_cf", outcome=outcome,
                           observations=(Observation(what="corner_lift"),))
            for n, outcome in enumerate(outcomes)
        }  # fmt: skip
        begun = (NOW - timedelta(hours=gone_h)).strftime("%Y-%m-%dT%H:%M:%SZ")
        now = Run(id="now", card="winch_bracket", revision=1.0, machine="gill", polymer="pa6_cf", planned_h=16.0,
                  mass_g=310.0, started_utc=begun)  # fmt: skip
        now = attrs.evolve(now, observations=tuple(Observation(what=each) for each in what.split()), **changes)
        for key, each in (log | {"now": now}).items():
            self.workspace.draft.add("runs", key, each, key)
        return stop_words(self.workspace, now)

    def test_an_early_lift_that_seldom_held_is_stopped_and_a_late_one_that_often_did_runs_on(self):
        self.assertRegex(self.run_with("corner_lift", 0.5, ["failed"] * 30 + ["good"]), r"^Stop it: 1 of 3\d such runs")
        self.assertRegex(self.run_with("corner_lift", 15.0, ["good"] * 40), r"^Let it run, and look again")

    def test_stopped_runs_are_left_out_and_said_and_smoke_is_no_matter_of_money(self):
        words = self.run_with("corner_lift", 8.0, ["stopped"] * 6 + ["good"] * 2 + ["failed"] * 2)
        self.assertRegex(words, r"The log cannot tell.*6 were stopped|The log cannot tell.*\d+ were stopped")
        self.assertIn("heat off", self.run_with("smell", 1.0, []))

    def test_what_was_seen_first_is_not_forgotten_over_what_was_seen_last(self):
        at_once = "^(Smoke or sharp smell|Heater fault): stop it, heat off"
        for what in ("smell corner_lift", "corner_lift smell", "strings heater_fault strings"):
            with self.subTest(what):
                self.assertRegex(self.run_with(what, 15.0, ["good"] * 40), at_once)
        words = self.run_with("corner_lift strings", 0.5, ["failed"] * 40)
        self.assertRegex(
            words, r"^Stop it: corner lifted: ", "the mark that speaks most for stopping, whatever came last"
        )
        self.assertEqual(words, self.run_with("strings corner_lift", 0.5, []))

    def test_without_hours_or_its_recipe_it_says_that_it_cannot_tell(self):
        for changes in ({"planned_h": None}, {"card": "gone"}):
            with self.subTest(changes):
                words = self.run_with("corner_lift", 1.0, [], **changes)
                self.assertRegex(words, "^What going on costs is not known")

    def test_its_money_is_that_of_the_hours_it_was_planned_with(self):
        money = [float(re.findall(r"printing anew ([\d.]+)", self.run_with("corner_lift", 1.0, [], planned_h=each))[0])
                 for each in (20.0, 40.0)]  # fmt: skip
        rate = self.workspace.draft.records.machines["gill"].rate_per_h
        self.assertAlmostEqual(money[1] - money[0], 20.0 * rate, delta=1.1)

    def test_nothing_seen_or_an_ended_run_gets_no_advice(self):
        run = self.workspace.draft.records.runs["run_0001"]
        self.assertEqual(stop_words(self.workspace, run), "")
        self.assertEqual(stop_words(self.workspace, attrs.evolve(run, outcome=None, observations=())), "")


class TestDay(DemoTest):
    def test_the_calendar_holds_what_wants_hands_with_an_alarm_each(self):
        self.workspace.draft.open_card("cable_clamp")
        context = self.workspace.context()
        case = run_case(self.workspace.draft.records.card.recipe, context)
        read = icalendar.Calendar.from_ical(calendar_of(case, "Clamp"))
        events = read.walk("VEVENT")
        self.assertEqual([str(each["SUMMARY"]) for each in events], [f"Clamp: {each.name}" for each in case.hands])
        self.assertEqual(len(read.walk("VALARM")), len(case.hands))
        starts = [each["DTSTART"].dt for each in events]
        self.assertEqual(starts, sorted(starts))
        file = self.folder / "run.ics"
        self.assertIn(str(file), write_calendar(self.workspace, context, file))
        self.assertTrue(file.read_bytes().startswith(b"BEGIN:VCALENDAR"))

    def test_the_day_is_told_in_order_and_without_hours_nothing_is_planned(self):
        self.workspace.draft.open_card("cable_clamp")
        rows = day_rows(self.workspace.context(), self.workspace)
        self.assertEqual(rows[0][1], "load and heat up", "it is dry for certain")
        wet = (Stay(place="open", from_utc="2026-02-01T08:00:00Z", humidity_pct=60.0),)
        self.workspace.draft.set({"lot.stays": wet})
        rows = day_rows(self.workspace.context(), self.workspace)
        self.assertEqual(rows[0][1], "into the dryer")
        self.assertEqual(rows[-1][1], "take it off")
        self.workspace.draft.set(
            {"context.job": None, "brief.print_h": None, "context.part": None, "brief.size_x_mm": None}
        )
        self.assertEqual(day_rows(self.workspace.context(), self.workspace), [])
        case = run_case(self.workspace.draft.records.card.recipe, self.workspace.context())
        with self.assertRaisesRegex(KaustosError, "No hours are known"):
            calendar_of(case, "Clamp")
