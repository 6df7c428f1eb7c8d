"""Works the run card as at the machine: number keys to the widget with the focus, its sizes by the screen, restarts."""

from datetime import timedelta
from unittest import mock

from PySide6.QtCore import Qt
from PySide6.QtGui import QFontMetricsF, QPixmap
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from kaustos.app.run_card import standing_of
from kaustos.app.runs import end_run, start_run
from kaustos.core.records import Observation
from kaustos.ui.run_card import CAPITALS_MM, TARGET_MM
from tests.support import NOW
from tests.ui.support import WindowTest, drop, press_key

CONTROL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


class CardTest(WindowTest):
    def setUp(self):
        super().setUp()
        self.now = NOW
        self.start(self.open())

    def start(self, window, *, new=True):
        self.window, self.draft = window, window.desk.workspace.draft
        window.desk.workspace.clock = lambda: self.now
        if new:
            self.draft.open_card("cable_clamp")
            self.app.processEvents()
            self.window.setFocus()
            press_key(Qt.Key.Key_G, CONTROL)
            self.app.processEvents()
            self.keys("a test")  # a stop stands, and asks why it is run all the same
            self.enter()
            self.id = self.window.rooms["runs"].form.run
        self.window.rooms["runs"].setFocus()
        press_key(Qt.Key.Key_G, CONTROL | SHIFT)
        self.app.processEvents()
        self.card = self.window.cards[self.id]
        self.card.activateWindow()
        self.card.setFocus()
        self.app.processEvents()

    @property
    def run_(self):
        return self.draft.records.runs[self.id]

    def keys(self, words):
        """Typed where the focus is."""
        for sign in words:
            QTest.keyClicks(QApplication.focusWidget(), sign)
            self.app.processEvents()

    def enter(self):
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
        self.app.processEvents()

    def step(self):
        standing = standing_of(self.run_)
        return standing.step.key if standing is not None else None

    def keys_until(self, key):
        while self.step() not in (key, None):
            self.keys("1")


class TestKeys(CardTest):
    def test_number_keys_alone_lead_from_the_list_to_the_verdict(self):
        self.assertRegex(self.card.title.text(), "^Not met: Spool dry")
        self.draft.open_card("packer_ring")
        other = start_run(self.window.desk.workspace, who="A. Tester", why="a test")
        step = next(each for each in other.steps if each.stands == "unknown")
        self.assertEqual((step.title, step.says), ("File and recipe say the same", "not recorded: job file"))
        self.keys("22")
        self.assertEqual(self.run_.steps[0].waived, "No time")
        self.keys_until("look")
        self.now += timedelta(minutes=27)
        self.keys("131")
        self.assertTrue(self.card.line.isVisible())
        self.keys("1.5")
        self.enter()
        seen = self.run_.observations[-1]
        self.assertEqual((seen.what, seen.lift_mm, round(seen.at_h, 2)), ("corner_lift", 1.5, 0.45))
        self.assertRegex(self.card.says.text(), r"Corner lifted by 1\.5.mm after 27.min at 1\d")
        self.assertRegex(self.card.says.text(), "such runs held on")
        self.keys("1")
        self.keys_until("free")
        self.keys("12")
        self.assertFalse(standing_of(self.run_).step.is_over)
        self.keys("44")
        self.enter()
        self.assertEqual((self.run_.off, self.run_.off_c), ("easy", 44.0))
        self.keys_until("close")
        self.keys("1")
        self.assertEqual(self.run_.outcome, "good")
        self.assertEqual(self.card.title.text(), "All done")
        self.keys("0")
        self.assertFalse(self.card.isVisible())

    def test_typed_digits_are_no_keys_and_escape_leaves_without_a_trace(self):
        before = self.draft.records
        self.keys("8")
        self.keys("17 turns")
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Escape)
        self.app.processEvents()
        self.assertIs(self.draft.records, before)
        self.keys("8")
        self.keys("17 turns")
        self.enter()
        self.assertEqual(self.run_.steps[0].note, "17 turns")

    def test_what_is_no_number_is_said_and_stays_to_be_mended(self):
        self.keys_until("look")
        self.keys("31")
        self.keys("high")
        self.enter()
        self.assertIn("high", self.card.says.text())
        self.assertEqual(self.card.line.text(), "high")
        self.assertEqual(self.run_.observations, ())

    def test_a_run_that_is_ended_goes_on_with_cooling(self):
        self.keys_until("corners")
        self.keys("47")
        self.assertEqual(self.step(), "corners")
        self.keys("41")
        self.assertEqual(self.step(), "cool")

    def test_stood_still_it_is_asked_for_minutes_and_heat(self):
        self.keys_until("look")
        self.now += timedelta(minutes=40)
        self.keys("6")
        self.keys("10")
        self.enter()
        self.keys("2")
        self.assertRegex(self.card.says.text(), "^Scrap it and begin anew")
        self.keys("1")
        self.assertEqual(self.step(), "look")

    def test_back_takes_the_last_tick_back_and_what_cannot_be_is_said(self):
        self.keys("1")
        self.assertEqual(standing_of(self.run_).place, 1)
        self.keys("7")
        self.assertEqual(standing_of(self.run_).place, 0)
        self.keys("7")
        self.assertEqual((self.card.title.text(), self.card.says.text()), ("That cannot be", "No step is done yet."))

    def test_undo_takes_a_mark_back_and_a_step_that_comes_due_calls_once(self):
        self.keys_until("look")
        self.keys("33")
        self.keys("1")
        self.assertEqual(len(self.run_.observations), 1)
        QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Z, CONTROL)
        self.app.processEvents()
        self.assertEqual(self.run_.observations, ())
        calls = []
        with mock.patch.object(QApplication, "beep", lambda: calls.append(1)):
            for minutes in (0, 1, 9, 9, 9):
                self.now = standing_of(self.run_).due + timedelta(minutes=minutes - 5)
                self.card.show_clock()
        self.assertEqual(calls, [1])

    def test_without_a_name_nothing_is_gone_without(self):
        self.window.desk.use(who="")
        self.app.processEvents()
        self.keys("2")
        self.assertIn("nobody is named", self.card.says.text())
        self.keys("1")
        self.assertEqual(standing_of(self.run_).place, 0)

    def test_what_is_stuck_is_not_forced_and_a_failed_run_says_where_to_look_and_what_is_next(self):
        self.keys_until("free")
        self.keys("14")
        self.enter()
        self.assertRegex(self.card.says.text(), "^Stop prying.*S-7, textured coat")
        self.assertIn("stuck", self.run_.seen)
        self.keys("1")
        self.assertEqual(self.step(), "free", "it is still to come off")
        self.keys("13")
        self.enter()
        self.assertEqual(self.run_.off, "hard")
        self.keys_until("close")
        self.assertIn("Not recorded: readings of the", self.card.says.text())
        self.keys("3")
        self.assertEqual((self.run_.outcome, self.card.title.text()), ("failed", "Failed"))
        self.assertRegex(self.card.says.text(), r"look at \d0\)\. Next: ")

    def test_smoke_is_stopped_at_once(self):
        self.keys_until("look")
        self.keys("38")
        self.assertIn("stop it, heat off", self.card.says.text())

    def test_a_photo_is_kept_by_drop_and_another_file_is_refused(self):
        picture = self.folder / "corner.png"
        QPixmap(8, 8).save(str(picture))
        (self.folder / "words.txt").write_text("no photo")
        for name in ("words.txt", "corner.png"):
            self.assertTrue(drop(self.card, self.folder / name))
            words = self.card.says.text()
            self.assertIn(name, words)
        self.assertEqual([each.name for each in self.run_.photos], ["corner.png"])


class TestCard(CardTest):
    def test_capitals_and_targets_are_as_large_as_they_must_be_and_nothing_is_cut(self):
        for size in ((1024, 600), (1280, 800)):
            self.card.resize(*size)
            walked = 0
            while self.step() is not None:
                walked += 1
                self.app.processEvents()
                with self.subTest(size=size, step=self.step()):
                    self.look_at_sizes()
                    self.keys("3")
                    self.look_at_sizes()
                    QTest.keyClick(self.card, Qt.Key.Key_Escape)
                    if self.step() in ("free", "check.dry"):
                        self.keys("1" if self.step() == "free" else "2")
                        self.look_at_sizes()
                        self.keys("7")
                if self.step() == "close":
                    break
                self.keys("1" if self.step() != "free" else "12")
                if self.card.line.isVisible():
                    self.enter()
            self.assertGreater(walked, 12)
            while any(each.is_over for each in self.run_.steps):
                self.keys("7")

    def look_at_sizes(self):
        mm = self.card.mm_px
        for label in (self.card.title, self.card.clock):
            self.assertGreaterEqual(QFontMetricsF(label.font()).capHeight(), (CAPITALS_MM - 0.3) * mm)
        for digit, button in self.card.buttons.items():
            if button.isVisible():
                self.assertGreaterEqual(button.height(), TARGET_MM * mm - 1.0)
                self.assertGreaterEqual(button.width(), TARGET_MM * mm)
                self.assertLessEqual(button.fontMetrics().horizontalAdvance(button.text()), button.width() - 8, digit)
        for label in (self.card.title, self.card.says, self.card.caution):
            if label.isVisible():
                self.assertLessEqual(label.heightForWidth(label.width()), label.height() + 1, label.text())

    def test_closed_and_opened_again_it_stands_where_it_stood_and_its_clock_went_on(self):
        self.keys_until("hot")
        due = standing_of(self.run_).due
        self.window.close()
        self.app.processEvents()
        self.assertFalse(self.card.isVisible())
        self.now += timedelta(minutes=11)
        self.start(self.open(), new=False)
        self.assertEqual((self.step(), standing_of(self.run_).due), ("hot", due))
        self.assertIn(due.astimezone().strftime("%H:%M"), self.card.clock.text())

    def test_two_runs_stand_side_by_side(self):
        first, other = self.card, self.id
        self.window.activateWindow()
        self.draft.open_card("wellhead_cover")
        self.app.processEvents()
        self.window.setFocus()
        press_key(Qt.Key.Key_G, CONTROL)
        self.app.processEvents()
        self.keys("another test")
        self.enter()
        self.id = self.window.rooms["runs"].form.run
        self.start(self.window, new=False)
        self.assertIsNot(self.card, first)
        self.keys("1")
        self.assertEqual(standing_of(self.draft.records.runs[other]).place, 0)
        self.assertEqual(standing_of(self.run_).place, 1)

    def test_the_log_shows_where_in_the_run_it_was(self):
        self.keys_until("look")
        self.now += timedelta(minutes=27)
        self.keys("34")
        self.window.activateWindow()
        self.app.processEvents()
        table = self.window.rooms["runs"].detail.judged
        words = table.item(0, 0).text()
        self.assertRegex(words, r"Starved.* at 0\.45.h, at 1\d\S* mm height: layer \d+, layer time .*keeps \d+%")


class TestLeftOpen(CardTest):
    def test_it_is_closed_in_the_room_of_runs_with_what_was_found_and_the_stop_is_gone(self):
        workspace = self.window.desk.workspace
        end_run(workspace, self.run_.id, {"outcome": "failed", "observations": (Observation(what="heater_fault"),)})
        codes = {each.code for each in self.window.desk.review.findings()}
        self.assertIn("run.matter.danger", codes)
        room = self.window.rooms["runs"]
        self.window.show_room("runs")
        room.choose(self.run_.id)
        detail = room.detail
        self.assertIn("Left open: a heater failed", detail.title.text())
        self.window.activateWindow()
        detail.proof.setFocus()
        self.app.processEvents()
        self.enter()
        self.assertIn("Say who looked", self.window.message.text.text())
        self.keys("B. Volt: crimp renewed")
        self.enter()
        self.assertIn("Closed: a heater failed (A. Tester): B. Volt: crimp renewed", detail.title.text())
        self.assertFalse(detail.settling.isVisible())
        self.assertNotIn("run.matter.danger", {each.code for each in self.window.desk.review.findings()})

    def test_after_the_end_its_keys_are_those_of_the_part(self):
        self.keys_until("end")
        self.keys("1")
        self.keys("3")
        self.assertIn("1   Warped", [each.text() for each in self.card.buttons.values()])
        self.keys("1")
        self.assertIn("warped", self.run_.seen)
        self.keys("1")
        self.keys("5")
        self.keys("3")
        self.assertIn("weak_layers", self.run_.seen)
