"""Does what a person does: drags, reads, presses the remedy's key, undoes, saves, reopens."""

import json
import unittest
from unittest import mock

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from kaustos.app.settings import Settings, load_settings
from kaustos.app.workspace import Workspace
from kaustos.core.records import Place, Run
from kaustos.store import StoreError
from kaustos.ui.jobs import POOLED
from tests.ui.support import WindowTest, drag, drop, type_into

ALT, CONTROL = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ControlModifier
SHIFT = Qt.KeyboardModifier.ShiftModifier


def _no_review():
    return mock.patch("kaustos.app.judge.Judge.at_hand", side_effect=ZeroDivisionError("deep inside"))


class TestTheFirstSlice(WindowTest):
    is_seen = True

    def test_drag_read_apply_undo_save_reopen(self):
        window = self.open()
        mark = window.ladder.view.marks["heat.chamber_c"]
        before = window.desk.workspace.draft.value("heat.chamber_c")
        drag(mark, 15)
        after = window.desk.workspace.draft.value("heat.chamber_c")
        self.assertTrue(90.0 < after < before - 5)
        first = window.findings.shown[0]
        self.assertIn("plastic parts of Tarn", first.text.text())
        self.assertIn(f"{after:g} °C", first.text.text())
        QTest.keyClick(window, Qt.Key.Key_1, ALT)
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), 90.0)
        self.assertNotIn("plastic parts", "".join(card.text.text() for card in window.findings.shown))
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), after)
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), before, "one drag is one step")
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL | SHIFT)
        QTest.keyClick(window, Qt.Key.Key_S, CONTROL)
        QTest.keyClicks(window.saving.why, "cooler chamber")
        QTest.keyClick(window.saving.why, Qt.Key.Key_Return)
        self.assertIn("Revision 4 is kept", window.message.text.text())
        self.close(window)
        again = self.open()
        self.assertEqual(again.desk.workspace.draft.value("heat.chamber_c"), after)
        newest = again.desk.workspace.revisions()[0]
        self.assertEqual((newest.number, newest.who, newest.why), (4, "A. Tester", "cooler chamber"))
        self.assertEqual(json.loads(newest.document)["recipe"]["heat"]["chamber_c"], after)

    def test_moving_to_the_machine_that_can_makes_the_recipe_functional(self):
        window = self.open()
        texts = [button.words.text() for button in window.findings.shown[0].buttons if button.isVisible()]
        number = next(index for index, text in enumerate(texts) if "Move to Crag" in text)
        QTest.mouseClick(window.findings.shown[0].buttons[number], Qt.MouseButton.LeftButton)
        self.assertEqual(window.findings.grade.grade.text(), "Grade: functional")
        self.assertEqual(window.head.machine.currentText(), "Crag")
        self.assertEqual(window.route.tiles["machine"].lines()[2], "clear")

    def test_an_unsaved_edit_is_in_the_file_within_two_seconds(self):
        window = self.open()
        window.ladder.view.marks["plate.bed_c"].setFocus()
        QTest.keyClick(window.ladder.view.marks["plate.bed_c"], Qt.Key.Key_Down)
        self.assertEqual(window.foot.state.text(), "Saving")
        QTest.qWait(1500)
        self.assertEqual(window.foot.state.text(), "Draft saved")


class TestKeyboard(WindowTest):
    is_seen = True

    def test_arrow_keys_move_one_kelvin_and_with_shift_five(self):
        window = self.open()
        mark = window.ladder.view.marks["melt.nozzle_c"]
        mark.setFocus()
        for key, modifier in ((Qt.Key.Key_Up, Qt.KeyboardModifier.NoModifier), (Qt.Key.Key_Up, SHIFT),
                              (Qt.Key.Key_Down, Qt.KeyboardModifier.NoModifier)):  # fmt: skip
            QTest.keyClick(mark, key, modifier)
        self.assertEqual(window.desk.workspace.draft.value("melt.nozzle_c"), 370.0)

    def test_tab_reaches_every_input_and_mark_without_a_mouse(self):
        window = self.open()
        window.head.recipe.setFocus()
        seen = []
        for _ in range(200):
            QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
            focused = QApplication.focusWidget()
            if focused in seen:
                break
            seen.append(focused)
        wanted = [*window.ladder.view.marks.values(), *(box.edit for box in window.ladder.boxes.values()),
                  *window.route.tiles.values(), *(box.edit for box in window.benches["machine"].form.limits[:4]),
                  window.head.machine, window.head.command]  # fmt: skip
        self.assertEqual([each.accessibleName() for each in wanted if each not in seen], [])

    def test_findings_are_walked_and_remedied_by_keys_alone(self):
        window = self.open()
        for _ in range(12):
            QTest.keyClick(window, Qt.Key.Key_Down, ALT)
            chosen = next(card for card in window.findings.shown if card.why.isVisible())
            if "nothing is left" in chosen.text.text():
                break
        self.assertIn("nothing is left to regulate with", chosen.text.text())
        QTest.keyClick(window, Qt.Key.Key_1, ALT)
        draft = window.desk.workspace.draft
        self.assertEqual((draft.value("plate.bed_c"), draft.value("first_layer.bed_c")), (157.0, 157.0))

    def test_the_command_field_finds_recipes_and_commands(self):
        window = self.open()
        QTest.keyClick(window, Qt.Key.Key_K, CONTROL)
        QTest.keyClicks(window.head.command, "open sensor")
        QTest.keyClick(window.head.command, Qt.Key.Key_Return)
        self.assertEqual(window.desk.workspace.draft.records.current, "sensor_cage")
        QTest.keyClicks(window.head.command, "light or dark")
        QTest.keyClick(window.head.command, Qt.Key.Key_Return)
        self.assertEqual(load_settings(self.settings_file)[0].theme, "dark")

    def test_a_remedy_takes_the_text_that_is_still_being_typed_first(self):
        window = self.open()
        edit = window.ladder.boxes["melt.nozzle_c"].edit
        edit.setFocus()
        edit.selectAll()
        QTest.keyClicks(edit, "372")
        QTest.keyClick(edit, Qt.Key.Key_1, ALT)
        draft = window.desk.workspace.draft
        self.assertEqual((draft.value("melt.nozzle_c"), draft.value("heat.chamber_c")), (372.0, 90.0))


class TestTyping(WindowTest):
    is_seen = True

    def test_any_unit_is_taken_and_shown_in_the_field_s_own(self):
        window = self.open()
        edit = window.ladder.boxes["melt.nozzle_c"].edit
        type_into(edit, "680 F")
        self.assertEqual((edit.text(), window.desk.workspace.draft.value("melt.nozzle_c")), ("360", 360.0))

    def test_a_text_that_is_no_value_stays_marked_and_never_reaches_the_record(self):
        window = self.open()
        box = window.ladder.boxes["melt.nozzle_c"]
        type_into(box.edit, "hot as hell")
        self.assertEqual(box.edit.text(), "hot as hell")
        self.assertEqual(box.edit.property("fault"), "true")
        self.assertIn("is not a temperature", box.fault.text())
        self.assertEqual(window.desk.workspace.draft.value("melt.nozzle_c"), 365.0)
        QTest.keyClick(box.edit, Qt.Key.Key_Escape)
        self.assertEqual((box.edit.text(), box.fault.text(), box.fault.isVisible()), ("365", "", False))

    def test_emptying_a_field_is_not_recorded_and_is_listed(self):
        window = self.open()
        type_into(window.ladder.boxes["heat.chamber_c"].edit, " ")
        self.assertNotIn("heat.chamber_c", window.ladder.view.marks)
        self.assertIn("chamber", window.findings.missing.text())
        self.assertIn("not better than", window.findings.grade.grade.text())

    def test_a_limit_typed_as_none_is_a_part_that_is_not_there(self):
        window = self.open()
        form = window.benches["machine"].form
        QTest.mouseClick(form.buttons["plate"], Qt.MouseButton.LeftButton)
        type_into(form.limits[4].edit, "none")
        backing = window.desk.workspace.draft.records.machines["tarn"].plate.backing
        self.assertEqual((backing.fitted, backing.max_c), (False, None))
        self.assertEqual(form.limits[4].edit.text(), "none")

    def test_an_own_value_moves_line_finding_and_source(self):
        window = self.open()
        QTest.mouseClick(window.route.tiles["brief"], Qt.MouseButton.LeftButton)
        bench = window.benches["brief"]
        QTest.mouseClick(bench.switches[2], Qt.MouseButton.LeftButton)
        bench.values.item(0, 3).setText("150 ± 2")
        self.assertIn("own value for lot H-117", bench.values.item(0, 2).text())
        self.assertEqual(window.desk.ladder.lines[0].at_c, 150.0)
        self.assertIn("machine.plate.above_glass_transition", [c.finding.code for c in window.findings.shown])
        bench.values.item(0, 3).setText("nonsense")
        self.assertIn("is not a temperature", window.message.text.text())

    def test_a_rule_of_the_shop_changes_the_grade(self):
        window = self.open()
        QTest.keyClick(window, Qt.Key.Key_Comma, CONTROL)
        window.desk.set({"heat.chamber_c": 90.0})
        self.assertEqual(window.desk.review.grade.value, "reduced")
        page = window.rooms["settings"]
        type_into(page.boxes["functional_pct"].edit, "30")
        self.assertEqual(window.desk.review.grade.value, "functional")
        type_into(page.boxes["liner_stop_c"].edit, "260")
        self.assertIn("may be lowered but not raised", page.boxes["liner_stop_c"].fault.text())


class TestFiles(WindowTest):
    is_seen = True

    def test_dropped_files_are_taken_or_refused_by_name(self):
        window = self.open()
        good, odd, bad = (self.folder / name for name in ("shell.json", "shell.step", "bad.json"))
        window.desk.workspace.export_recipe(good)
        odd.write_text("solid")
        bad.write_text("{")
        for file, words in ((odd, "shell.step: only recipes"), (bad, "bad.json: line 1"), (good, "is taken in")):
            self.assertTrue(drop(window, file))
            self.assertIn(words, window.message.text.text())
        self.assertEqual(window.head.recipe.count(), 10)

    def test_the_sheet_is_written_where_the_user_says(self):
        window = self.open()
        window.files.write_sheet(self.folder / "sheet.pdf")
        window.files.write_sheet(self.folder / "sheet.html")
        self.assertTrue((self.folder / "sheet.pdf").read_bytes().startswith(b"%PDF-"))
        self.assertIn("revision 3, draft", (self.folder / "sheet.html").read_text())

    def test_a_disk_that_refuses_is_shown_until_it_does_not(self):
        window = self.open()

        def refuse():
            raise OSError("the disk is full")

        keep, window.desk.workspace.autosave = window.desk.workspace.autosave, refuse
        window.desk.set({"plate.bed_c": 150.0})
        window.desk.save_draft()
        self.assertEqual(window.foot.state.text(), "NOT SAVED, trying again")
        self.assertIn("disk is full", window.message.text.text())
        window.desk.workspace.autosave = keep
        window.desk.save_draft()
        self.assertEqual(window.foot.state.text(), "Draft saved")

    def test_a_window_that_cannot_save_stays_and_asks_and_nothing_is_thrown_away(self):
        window = self.open()
        keep = window.desk.workspace._store.put_documents

        def refuse(*_):
            raise StoreError("demo.kaustos", "could not be written: the disk is full")

        window.desk.workspace._store.put_documents = refuse
        type_into(window.ladder.boxes["plate.bed_c"].edit, "151")
        window.close()
        self.assertTrue(window.isVisible())
        self.assertIn("disk is full", window.closing.text.text())
        copy = self.folder / "elsewhere.kaustos"
        window.desk.workspace.save_copy(copy)
        rescued = Workspace(copy, write=False)
        self.assertEqual(rescued.draft.value("plate.bed_c"), 151.0)
        rescued.close()
        window.desk.workspace._store.put_documents = keep
        QTest.mouseClick(window.closing.buttons[0], Qt.MouseButton.LeftButton)
        self.assertFalse(window.isVisible())
        again = self.open()
        self.assertEqual(again.ladder.boxes["plate.bed_c"].edit.text(), "151")

    def test_what_cannot_be_saved_is_discarded_only_when_that_is_said(self):
        window = self.open()
        window.desk.workspace._store.put_documents = lambda *_: (_ for _ in ()).throw(OSError("no room"))
        type_into(window.ladder.boxes["plate.bed_c"].edit, "151")
        window.close()
        QTest.mouseClick(window.closing.buttons[4], Qt.MouseButton.LeftButton)
        self.assertTrue(window.isVisible())
        window.close()
        QTest.mouseClick(window.closing.buttons[3], Qt.MouseButton.LeftButton)
        self.assertFalse(window.isVisible())

    def test_a_fault_of_the_review_is_told_and_saving_goes_on(self):
        window = self.open()
        with self.assertLogs("kaustos"), _no_review():
            type_into(window.ladder.boxes["plate.bed_c"].edit, "151")
            self.assertIn("cannot be judged: ZeroDivisionError", window.message.text.text())
            self.assertIn("not judged", window.foot.state.text())
            window.desk.save_draft()
        self.assertFalse(window.desk.workspace.unsaved)
        type_into(window.ladder.boxes["plate.bed_c"].edit, "152")
        self.assertEqual(window.foot.state.text(), "Saving")

    def test_a_recipe_that_cannot_be_judged_at_all_still_opens(self):
        self.may_not_judge = True
        with self.assertLogs("kaustos"), _no_review():
            window = self.open()
            for key in ("brief", "stock", "machine"):
                window.show_bench(key)
            self.app.processEvents()
            self.assertIn("cannot be judged", window.message.text.text())

    def test_runs_with_odd_ids_are_listed(self):
        window = self.open()
        odd = {key: Run(id=key, card="winch_bracket", revision=1.0) for key in ("shift-7", "run_x", "a/b")}
        window.desk.workspace.draft.set({Place("runs", key): run for key, run in odd.items()})
        window.show_room("runs")
        for key in odd:
            window.rooms["runs"].choose(key)
        self.assertEqual(self.complaints(), [])

    def test_an_empty_workspace_opens_and_takes_a_recipe_in(self):
        full = self.open()
        file = self.folder / "shell.json"
        full.desk.workspace.export_recipe(file)
        window = self.open(file=self.folder / "new.kaustos")
        self.assertFalse(window.desk.has_recipe)
        for key, modifier in ((Qt.Key.Key_S, CONTROL), (Qt.Key.Key_R, CONTROL), (Qt.Key.Key_1, ALT)):
            QTest.keyClick(window, key, modifier)
        window.files.take_in(file)
        self.assertEqual(window.head.recipe.currentText(), "Probe head shell")

    def test_a_second_window_reads_only(self):
        self.open()
        second = self.open()
        self.assertIn("is being written by", second.message.text.text())
        type_into(second.ladder.boxes["melt.nozzle_c"].edit, "300")
        self.assertIn("reading only", second.ladder.boxes["melt.nozzle_c"].fault.text())
        self.assertEqual(second.foot.state.text(), "Reading only")


class TestPages(WindowTest):
    is_seen = True

    def test_revisions_are_listed_with_what_differs(self):
        window = self.open()
        QTest.keyClick(window, Qt.Key.Key_R, CONTROL)
        page = window.revisions
        self.assertEqual([page.list.item(row, 0).text() for row in range(3)], ["3", "2", "1"])
        self.assertEqual((page.before.currentText(), page.after.currentText()), ("revision 2", "revision 3"))
        fields = [page.differing.item(row, 0).text() for row in range(page.differing.rowCount())]
        self.assertEqual(fields, ["Margin wanted", "Chamber"])
        page.differing.selectAll()
        QTest.keyClick(page.differing, Qt.Key.Key_C, CONTROL)
        self.assertIn("Chamber\t90 °C\t125 °C", QApplication.clipboard().text())

    def test_f1_explains_the_focused_field(self):
        window = self.open()
        words = window.ladder.boxes["melt.nozzle_c"].edit.whatsThis()
        self.assertIn("Typed as 85 C, 302 F", words)

    def test_settings_change_units_everywhere_at_once(self):
        window = self.open()
        QTest.keyClick(window, Qt.Key.Key_Comma, CONTROL)
        window.change_setting("temperature", "°F")
        window.show_room("recipe")
        self.assertIn("257 °F", window.findings.shown[0].text.text())
        self.assertEqual(window.ladder.boxes["heat.chamber_c"].edit.text(), "257")
        self.assertIn("63 °F short", window.route.tiles["machine"].lines()[1])

    def test_pictures_computed_on_the_pool_land_on_the_window_s_thread(self):
        window = self.open(Settings(), pace=POOLED)
        picture = window.benches["machine"].picture
        window.desk.set({"heat.chamber_c": 101.0})
        for _ in range(100):
            QTest.qWait(10)
            if picture.record and next(z for z in picture.record.zones if z.zone == "chamber").setpoint_c == 101.0:
                break
        self.assertEqual(next(z for z in picture.record.zones if z.zone == "chamber").setpoint_c, 101.0)


if __name__ == "__main__":
    unittest.main()
