"""Tables taken in by a window: how far they are, how to stop them, and what changed meanwhile."""

import time

import attrs
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from kaustos.app.recipes import new_machine
from kaustos.core.progress import EVERY
from kaustos.formats.csv_tables import write_runs
from kaustos.ui.jobs import POOLED, Pace, run_now
from tests.ui.support import WindowTest, drop, press_key


class TestLogsAnywhere(WindowTest):
    """A logger's file that is dropped is read where it belongs, in whichever room one is."""

    LINES = ("time;beside the part °C;wall °C", *(f"{60 * n};{20.0 + n / 4:.1f};{19.0 + n / 5:.1f}" for n in range(90)))

    def drop(self, window, name="logger.csv", lines=LINES):
        file = self.folder / name
        file.write_text("\n".join(lines), encoding="utf-8")
        self.assertTrue(drop(window, file))

    def test_on_a_bench_it_goes_to_the_machine_of_the_recipe(self):
        window = self.open()
        window.desk.workspace.draft.open_card("winch_bracket")
        for name in ("logger.csv", "logger.txt"):
            window.show_bench("heat")
            self.drop(window, name)
            page = window.rooms["machines"].form.page
            self.assertEqual((window.room, page.key), ("machines", window.desk.workspace.draft.records.card.machine))
            self.assertEqual(page.log.name, name)

    def test_beside_a_chosen_run_it_is_kept_with_that_run(self):
        window = self.open()
        window.show_room("runs")
        room = window.rooms["runs"]
        run = next(iter(window.desk.workspace.draft.records.runs))
        room.list.choose(run)
        self.drop(window)
        self.assertEqual({each.name for each in window.desk.workspace.draft.records.runs[run].sensors},
                         {"beside the part °C", "wall °C"})  # fmt: skip

    def test_a_table_that_is_no_log_and_no_records_says_what_is_missing(self):
        window = self.open()
        self.drop(window, lines=["colour;size", "red;large", "blue;small"])
        self.assertIn("neither of recipes, runs nor lots", window.message.text.text())


class TestTakingIn(WindowTest):
    def setUp(self):
        super().setUp()
        self.held = []
        self.window = self.open(pace=Pace(self.begin, *[lambda owner, act: act()] * 2))
        self.desk, self.bar = self.window.desk, self.window.foot.intake

    def begin(self, job):
        """Tables wait until the test lets them go; all else runs at once."""
        self.held.append(job) if job.request.key == "intake" else run_now(job)

    def table(self, name, count):
        """So many runs that look like the first of the demo."""
        first = next(iter(self.desk.workspace.draft.records.runs.values()))
        file = self.folder / f"{name}.csv"
        runs = (attrs.evolve(first, id=f"{name}-{number}", observations=()) for number in range(count))
        file.write_text(write_runs(runs), encoding="utf-8")
        return file

    def drop(self, *files):
        """Drop files on the window."""
        self.assertTrue(drop(self.window, *files))

    def taken(self, name):
        return sum(key.startswith(f"{name}-") for key in self.desk.workspace.draft.records.runs)

    def test_two_dropped_tables_are_one_edit_and_the_bar_goes_with_them(self):
        first, second = self.table("first", 3 * EVERY), self.table("second", 5)
        self.assertFalse(self.bar.isVisible())
        self.drop(first, second)
        self.assertEqual((self.bar.isVisible(), self.bar.words.text()), (True, "first.csv and 1 more"))
        seen = []
        self.desk.taking_in.changed.connect(lambda: seen.append((self.bar.bar.value(), self.bar.words.text())))
        run_now(self.held.pop())
        lines = [
            f"first.csv and 1 more: line {n} of {of}" for of in (3 * EVERY, 5) for n in range(0, of + 1, min(of, EVERY))
        ]
        self.assertEqual([words for _, words in seen if "line" in words], lines)
        self.assertEqual((self.taken("first"), self.taken("second"), self.bar.isVisible()), (3 * EVERY, 5, False))
        self.assertIn("2 files are taken in: first.csv, second.csv", self.window.message.text.text())
        press_key(Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual((self.taken("first"), self.taken("second")), (0, 0), "both are one edit")

    def test_of_two_that_came_together_the_second_is_wrong_and_nothing_is_taken_in(self):
        good, bad = self.table("good", 3), self.folder / "bad.csv"
        bad.write_text(good.read_text(encoding="utf-8").replace("good-", "worse-").replace("2026-", "1926-"))
        before = self.desk.workspace.draft.records
        self.drop(good, bad)
        run_now(self.held.pop())
        self.assertIn("bad.csv", self.window.message.text.text())
        self.assertIs(self.desk.workspace.draft.records, before)

    def test_stopping_keeps_nothing_of_the_table_and_begins_no_other(self):
        before = self.desk.workspace.draft.records
        for name, stop in (
            ("a", lambda: QTest.mouseClick(self.bar.stop, Qt.MouseButton.LeftButton)),
            ("b", lambda: QTest.keyClick(QApplication.focusWidget() or self.window, Qt.Key.Key_Period,
                                         Qt.KeyboardModifier.ControlModifier)),
        ):  # fmt: skip
            with self.subTest(name):
                self.drop(self.table(name, 5))
                self.drop(self.table(f"{name}_more", 5))
                stop()
                run_now(self.held.pop())
                self.assertEqual(self.window.message.text.text(), f"{name}.csv: called off; nothing was taken in.")
                self.assertEqual((self.held, self.bar.isVisible()), ([], False))
                self.assertEqual(self.desk.workspace.draft.records, before)

    def test_a_table_that_is_stopped_half_way_ends_there(self):
        self.drop(self.table("long", 10 * EVERY))
        lines = []

        def stop_half_way():
            lines.append(self.desk.taking_in.done)
            if lines[-1] == 5 * EVERY:
                self.desk.taking_in.call_off()

        self.desk.taking_in.changed.connect(stop_half_way)
        run_now(self.held.pop())
        self.assertEqual(max(lines), 5 * EVERY)
        self.assertEqual(self.taken("long"), 0)

    def test_what_came_meanwhile_is_not_written_over_and_edits_stay(self):
        file = self.table("both", 3)
        self.drop(file)
        self.drop(file)
        run_now(self.held.pop())
        run_now(self.held.pop())
        self.assertIn("run both-0 is in this workspace already", self.window.message.text.text())
        self.drop(self.table("calm", 2))
        job = self.held.pop()
        machine = next(iter(self.desk.workspace.draft.records.machines))
        self.drop(file)
        self.assertEqual(self.held, [], "the second waits for the first")
        self.desk.propose("brief.mass_g", "77")
        new_machine(self.desk.workspace, "Beck", machine)
        run_now(job)
        self.assertEqual(self.taken("calm"), 2)
        self.assertEqual(self.desk.workspace.draft.records.card.recipe.brief.mass_g, 77.0)
        run_now(self.held.pop())
        self.assertIn("is in this workspace already", self.window.message.text.text())

    def test_a_record_that_came_while_the_table_was_read_is_named_and_kept(self):
        file = self.table("late", 2)
        self.drop(file)
        job = self.held.pop()
        records = self.desk.workspace.draft.records
        own = attrs.evolve(next(iter(records.runs.values())), id="late-1", note="mine")
        self.desk.workspace.draft.add("runs", "late-1", own, "mine")
        run_now(job)
        self.assertIn("run late-1 is in this workspace already", self.window.message.text.text())
        self.assertEqual(self.desk.workspace.draft.records.runs["late-1"].note, "mine")
        self.assertEqual(self.taken("late"), 1)

    def test_with_nothing_on_its_way_stopping_says_so(self):
        self.window.actions_by_id["recipe.stop_taking_in"].trigger()
        self.assertEqual(self.window.message.text.text(), "Nothing is being taken in.")


class TestInTheBackground(WindowTest):
    def test_the_window_answers_while_a_table_is_read_and_closing_takes_nothing(self):
        window = self.open(pace=POOLED)
        desk = window.desk
        first = next(iter(desk.workspace.draft.records.runs.values()))
        file = self.folder / "many.csv"
        file.write_text(write_runs(attrs.evolve(first, id=f"m-{n}") for n in range(1_000)), encoding="utf-8")
        window.files.take_file(file)
        turns, until = 0, time.monotonic() + 240.0
        while desk.taking_in.file is not None and time.monotonic() < until:
            self.app.processEvents()
            time.sleep(0.002)  # or this loop takes the reader's turns
            turns += 1
        taking = desk.taking_in
        self.assertIsNone(taking.file, f"line {taking.done} of {taking.of} after {turns} turns")
        self.assertIn("many.csv", window.message.text.text())
        self.assertGreater(turns, 1)
        self.assertEqual(sum(key.startswith("m-") for key in desk.workspace.draft.records.runs), 1_000)
        window.files.take_file(self.table_again(file))
        self.close(window)
        again = self.open()
        self.assertEqual(sum(key.startswith("n-") for key in again.desk.workspace.draft.records.runs), 0)
        self.assertEqual(sum(key.startswith("m-") for key in again.desk.workspace.draft.records.runs), 1_000)

    def table_again(self, file):
        other = self.folder / "more.csv"
        other.write_text(file.read_text(encoding="utf-8").replace("m-", "n-"), encoding="utf-8")
        return other
