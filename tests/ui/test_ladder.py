"""The ladder's marks lie where their values are, and go where the hand goes."""

import unittest

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from kaustos.demo.scenario import RECORDS
from tests.asserting import every
from tests.ui.support import WindowTest, drag, type_into


class TestGeometry(WindowTest):
    is_seen = True

    def test_place_and_temperature_are_inverse(self):
        view = self.open().ladder.view
        for at_c in (25.0, 100.0, 365.0):
            self.assertAlmostEqual(view.at_c(view.place_of(at_c)), at_c, places=6)

    def test_every_mark_lies_at_its_value_and_all_stay_inside(self):
        window = self.open()
        for card in every(RECORDS.cards):
            window.desk.workspace.draft.open_card(card)
            view = window.ladder.view
            for field, mark in every(view.marks.items()):
                with self.subTest(card, field=field):
                    value = window.desk.workspace.draft.value(field)
                    self.assertAlmostEqual(mark.geometry().center().y(), view.place_of(value), delta=1.5)
                    self.assertTrue(view.rect().contains(mark.geometry()))

    def test_the_scale_grows_with_a_setpoint_beyond_it(self):
        window = self.open()
        before = window.desk.ladder.high_c
        type_into(window.ladder.boxes["melt.nozzle_c"].edit, "600")
        self.assertGreater(window.desk.ladder.high_c, before)
        self.assertTrue(window.ladder.view.rect().contains(window.ladder.view.marks["melt.nozzle_c"].geometry()))


class TestDragging(WindowTest):
    is_seen = True

    def test_a_drag_follows_the_hand_to_the_kelvin_and_changes_nothing_else(self):
        window = self.open()
        view, draft = window.ladder.view, window.desk.workspace.draft
        before = draft.records.card.recipe
        mark = view.marks["plate.bed_c"]
        target = view.at_c(view.place_of(158.0) + 30)
        drag(mark, 30)
        self.assertAlmostEqual(draft.value("plate.bed_c"), target, delta=1.0)
        self.assertEqual(draft.value("plate.bed_c"), round(draft.value("plate.bed_c")))
        after = draft.records.card.recipe
        self.assertEqual((after.melt, after.heat, after.first_layer), (before.melt, before.heat, before.first_layer))

    def test_a_drag_off_the_scale_ends_at_its_end(self):
        window = self.open()
        drag(window.ladder.view.marks["heat.chamber_c"], 2000)
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), 20.0)

    def test_a_click_without_moving_is_no_edit(self):
        window = self.open()
        QTest.mouseClick(window.ladder.view.marks["heat.chamber_c"], Qt.MouseButton.LeftButton)
        self.assertEqual(window.desk.workspace.draft.undo_title, "")

    def test_the_right_button_does_not_drag(self):
        window = self.open()
        mark = window.ladder.view.marks["heat.chamber_c"]
        QTest.mousePress(mark, Qt.MouseButton.RightButton, pos=mark.rect().center())
        QTest.mouseMove(mark, mark.rect().center() + QPoint(0, 60))
        QTest.mouseRelease(mark, Qt.MouseButton.RightButton, pos=mark.rect().center())
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), 125.0)

    def test_keys_of_one_stay_on_a_mark_are_one_step_of_undo(self):
        window = self.open()
        mark = window.ladder.view.marks["heat.chamber_c"]
        mark.setFocus()
        for _ in range(6):
            QTest.keyClick(mark, Qt.Key.Key_Down)
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), 119.0)
        window.undo()
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), 125.0)


class TestWords(WindowTest):
    is_seen = True

    def test_marks_and_reach_are_named_for_those_who_do_not_see_them(self):
        view = self.open().ladder.view
        self.assertEqual(view.marks["heat.chamber_c"].accessibleName(), "Chamber setpoint: 125 °C")
        self.assertEqual(view.marks["first_layer.bed_c"].accessibleName(), "Plate setpoint of the first layer: 160 °C")
        self.assertIn("Chamber: reaches 90 °C, held back by its plastic machine parts", view.toolTip())

    def test_a_chosen_finding_leads_to_its_mark(self):
        window = self.open()
        found = [each.code for each in window.desk.review.findings()]
        window.findings.choose(found.index("machine.plate.no_headroom"))
        self.assertTrue(window.ladder.view.marks["first_layer.bed_c"]._led)
        self.assertFalse(window.ladder.view.marks["heat.chamber_c"]._led)

    def test_without_a_machine_the_ladder_says_so(self):
        window = self.open()
        window.head.machine.setCurrentIndex(0)
        window.head.machine.activated.emit(0)
        self.assertIn("Chamber: reach not recorded", window.ladder.view.toolTip())
        self.assertIn("machine", window.findings.missing.text())
        self.assertEqual(window.benches["machine"].form.limits[0].edit.text(), "")


if __name__ == "__main__":
    unittest.main()
