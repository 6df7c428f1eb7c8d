"""Works the rooms as a person does: logs a run by keys alone, begins recipes and machines, looks things up."""

import functools

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QColor, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit, QPlainTextEdit

from kaustos.app.settings import Settings
from kaustos.core.records import Place
from kaustos.core.review import OPERATIONS
from kaustos.ui.rooms.names import ROOMS
from kaustos.ui.rooms.recipes import HEADINGS
from tests.asserting import every
from tests.ui.support import WindowTest, drop, press_key, type_into

CONTROL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


class Keys:
    """Presses keys on whatever has the focus, and counts those beside typed text."""

    def __init__(self, window):
        self.window, self.pressed = window, 0

    def press(self, key, modifier=Qt.KeyboardModifier.NoModifier):
        self.pressed += 1
        QTest.keyClick(QApplication.focusWidget() or self.window, key, modifier)

    def type(self, words):
        QTest.keyClicks(QApplication.focusWidget(), words)


class TestAtlas(WindowTest):
    def room(self):
        window = self.open()
        QTest.keyClick(window, Qt.Key.Key_7, CONTROL)
        return window, window.rooms["atlas"]

    def test_a_polymer_is_derived_gets_its_own_value_and_can_be_chosen(self):
        window, room = self.room()
        room.choose("pc")
        QTest.keyClicks(room.making.name, "PC, heat grade")
        QTest.keyClick(room.making.name, Qt.Key.Key_Return)
        self.assertIn("of ours, derived from PC", room.heading.text())
        row = [room.values.item(at, 0).text() for at in range(room.values.rowCount())].index("Glass transition")
        room.values.setCurrentCell(row, 0)
        QTest.keyClicks(room.own.value, "155 ± 2")
        QTest.keyClick(room.own.value, Qt.Key.Key_Return)
        self.assertIn("how it is known", window.message.text.text())
        QTest.keyClicks(room.own.how, "DSC 10 K/min")
        QTest.keyClick(room.own.how, Qt.Key.Key_Return)
        self.assertEqual(room.values.item(row, 1).text(), "155 °C (153 to 157)")
        self.assertIn("own: DSC 10 K/min", room.values.item(row, 2).text())
        window.show_room("recipe")
        window.show_bench("brief")
        box = window.benches["brief"].forms[0].boxes["polymer"]
        self.assertGreaterEqual(box.findText("PC, heat grade"), 0)
        window.undo()
        window.undo()
        self.assertEqual(box.findText("PC, heat grade"), -1, "undone, it is gone from the lists")

    def test_chosen_polymers_stand_side_by_side(self):
        _, room = self.room()
        room.list.choose("pc", "petg", "pei")
        headings = [room.values.horizontalHeaderItem(at).text() for at in range(room.values.columnCount())]
        self.assertEqual(headings, ["Value", "PC", "PEI", "PETG"])
        row = [room.values.item(at, 0).text() for at in range(room.values.rowCount())].index("Glass transition")
        self.assertTrue(all("°C" in room.values.item(row, at).text() for at in (1, 2, 3)))


class TestLogging(WindowTest):
    def test_a_run_with_an_observation_and_a_verdict_takes_at_most_twelve_keys(self):
        window = self.open()
        window.desk.set({"context.machine": "crag"})
        runs = len(window.desk.workspace.draft.records.runs)
        keys = Keys(window)
        keys.press(Qt.Key.Key_G, CONTROL)
        keys.type("corner")
        keys.press(Qt.Key.Key_Tab)
        keys.type("at")
        keys.press(Qt.Key.Key_Tab)
        keys.type("12 min")
        keys.press(Qt.Key.Key_Tab)
        keys.type("fail")
        keys.press(Qt.Key.Key_Return, CONTROL)
        self.assertLessEqual(keys.pressed, 12)
        found = window.desk.workspace.draft.records.runs
        self.assertEqual(len(found), runs + 1)
        run = found["run_0013"]
        seen = run.observations[0]
        self.assertEqual((run.outcome, seen.what, seen.where, seen.at_h), ("failed", "corner_lift", "corner", 0.2))
        self.assertEqual(run.revision, 4.0)
        window.desk.save_draft()
        self.close(window)
        again = self.open()
        self.assertEqual(again.desk.workspace.draft.records.runs["run_0013"], run)

    def test_undoing_the_start_of_a_run_leaves_its_form_and_takes_its_spool_off_again(self):
        window = self.open()
        draft = window.desk.workspace.draft
        draft.open_card("sensor_cage")
        before = draft.records.lots["lot_c042"].loaded_on
        QTest.keyClick(window, Qt.Key.Key_G, CONTROL)
        self.assertEqual(draft.records.lots["lot_c042"].loaded_on, "tarn")
        self.assertIn("Tarn has C-042, black loaded from now on", window.message.text.text())
        self.assertEqual(window.rooms["runs"].form.run, "run_0013")
        draft.undo()
        self.app.processEvents()
        self.assertNotIn("run_0013", draft.records.runs)
        self.assertEqual(draft.records.lots["lot_c042"].loaded_on, before)
        self.assertEqual(window.rooms["runs"].form.run, "run_0012", "the next one is shown")

    def test_a_stop_asks_for_name_and_reason_before_a_run_and_one_of_safety_refuses(self):
        window = self.open(Settings(who=""))
        runs = dict(window.desk.workspace.draft.records.runs)
        QTest.keyClick(window, Qt.Key.Key_G, CONTROL)
        self.assertIn("is refused", window.message.text.text())
        self.assertFalse(window.stopping.isVisible())
        window.desk.set({"context.machine": "crag", "heat.chamber_c": 60.0})
        QTest.keyClick(window, Qt.Key.Key_G, CONTROL)
        self.assertTrue(window.stopping.isVisible())
        self.assertIn("65 K short", window.stopping.words.text())
        keys = Keys(window)
        keys.press(Qt.Key.Key_Return)
        self.assertEqual(window.desk.workspace.draft.records.runs, runs, "a name and a reason are wanted")
        self.assertTrue(window.stopping.isVisible())
        keys.press(Qt.Key.Key_Escape)
        self.assertFalse(window.stopping.isVisible())
        QTest.keyClick(window, Qt.Key.Key_G, CONTROL)
        keys.type("A. Tester")
        keys.press(Qt.Key.Key_Tab)
        keys.type("to see the split")
        keys.press(Qt.Key.Key_Return)
        run = window.desk.workspace.draft.records.runs["run_0013"]
        self.assertEqual(run.despite, "A. Tester: to see the split")
        self.assertFalse(window.stopping.isVisible())
        self.assertEqual((window.room, window.rooms["runs"].form.run), ("runs", "run_0013"))
        self.assertIn("Despite a stop, A. Tester: to see the split", window.rooms["runs"].detail.title.text())

    def test_what_is_no_time_stays_marked_and_logs_nothing(self):
        window = self.open()
        window.desk.set({"context.machine": "crag"})
        QTest.keyClick(window, Qt.Key.Key_G, CONTROL)
        form = window.rooms["runs"].form
        form.what.setCurrentIndex(1)
        form.at.setText("later")
        QTest.mouseClick(form.log, Qt.MouseButton.LeftButton)
        self.assertIn("is not a length", form.fault.text())
        self.assertEqual(window.desk.workspace.draft.records.runs["run_0013"].observations, ())
        form.at.setText("40 mm")
        QTest.keyClick(form.at, Qt.Key.Key_Return)
        self.assertEqual(window.desk.workspace.draft.records.runs["run_0013"].observations[0].at_mm, 40.0)
        self.assertFalse(form.fault.isVisible())

    def test_the_record_of_a_finding_is_shown_with_it_and_moves_with_the_log(self):
        window = self.open()
        window.desk.set({"heat.chamber_c": 88.0})
        QTest.keyClick(window, Qt.Key.Key_1, CONTROL)

        def record():
            cards = {card.finding.code: card for card in window.findings.shown}
            return cards["machine.chamber.below_window"].source.text()

        self.assertIn("Right in 2 of 2 runs", record())
        window.start_run()
        window.stopping.why.setText("to see")
        window.stopping.why.returnPressed.emit()
        form = window.rooms["runs"].form
        form.outcome.setCurrentIndex(form.outcome.findData("good"))
        QTest.mouseClick(form.log, Qt.MouseButton.LeftButton)
        window.show_room("recipe")
        self.assertIn("Right in 2 of 3 runs", record())

    def test_what_the_review_had_said_stands_beside_what_was_seen(self):
        window = self.open()
        window.show_thing("runs", "run_0010")
        rows = window.rooms["runs"].detail.judged
        words = [(rows.item(row, 0).text(), rows.item(row, 1).text()) for row in range(rows.rowCount())]
        self.assertIn("Layers split, half way up, at 1.4 h, at 40 mm height", words[0][0])
        self.assertEqual(
            words[0][1],
            "Foretold by: chamber: below the window; weld: too weak; nozzle: below the window",
        )
        self.assertIn(("Not seen", "Foretold, but absent: plate: no headroom"), words)

    def test_two_chosen_runs_are_compared(self):
        window = self.open()
        QTest.keyClick(window, Qt.Key.Key_4, CONTROL)
        room = window.rooms["runs"]
        room.list.choose("run_0002", "run_0003")
        self.assertIn("One thing differs, plate", room.comparison.verdict.text())
        self.assertFalse(room.form.isVisible())

    def test_settings_as_run_are_kept_where_they_differ(self):
        window = self.open()
        window.desk.set({"context.machine": "crag"})
        window.start_run()
        line = window.rooms["runs"].form.settings["melt.nozzle_c"]
        self.assertEqual(line.placeholderText(), "365 °C")
        type_into(line, "698 F")
        run = window.desk.workspace.draft.records.runs["run_0013"]
        self.assertEqual(dict(run.settings), {"melt.nozzle_c": 370.0})
        type_into(line, "hot")
        self.assertIn("is not a temperature", window.message.text.text())
        type_into(line, " ")
        self.assertEqual(dict(window.desk.workspace.draft.records.runs["run_0013"].settings), {})

    def test_a_dropped_photo_is_kept_with_the_run_and_shown(self):
        window = self.open()
        window.desk.set({"context.machine": "crag"})
        file = self.folder / "corner.png"
        image = QImage(40, 30, QImage.Format.Format_RGB32)
        image.fill(QColor("red"))
        image.save(str(file))
        self.drop(window, file)
        self.assertIn("a photo belongs to a run or a lot", window.message.text.text())
        window.start_run()
        self.drop(window, file)
        run = window.desk.workspace.draft.records.runs["run_0013"]
        self.assertEqual(window.desk.workspace.attachment(run.photos[0].sha256), file.read_bytes())
        self.assertFalse(window.rooms["runs"].detail.pictures.pixmap().isNull())

    def test_a_file_that_falls_on_a_line_goes_to_the_window_and_not_into_the_line(self):
        window = self.open()
        file = self.folder / "words.odd"
        file.write_text("nothing")
        for show in (*(functools.partial(window.show_operation, each.number) for each in OPERATIONS),
                     *(functools.partial(window.show_room, each.key) for each in ROOMS)):  # fmt: skip
            show()
        kinds = (QLineEdit, QPlainTextEdit)
        for line in every((each for kind in kinds for each in window.findChildren(kind)), 150):
            with self.subTest(line.accessibleName()):
                before = line.text() if isinstance(line, QLineEdit) else line.toPlainText()
                window.message.text.setText("")
                self.assertTrue(drop(line, file))
                self.assertIn("words.odd: only recipes", window.message.text.text())
                self.assertEqual(line.text() if isinstance(line, QLineEdit) else line.toPlainText(), before)

    def drop(self, window, file):
        self.assertTrue(drop(window, file))


class TestBeginning(WindowTest):
    def test_an_empty_workspace_says_what_to_do_first_and_a_recipe_is_begun_by_keys(self):
        window = self.open(file=self.folder / "new.kaustos")
        self.assertEqual(window.room, "begin")
        press_key(Qt.Key.Key_R, CONTROL | SHIFT)
        room = window.rooms["recipes"]
        self.assertIn("There is no recipe yet", room.empty.text())
        QTest.keyClick(window, Qt.Key.Key_3, CONTROL)
        self.assertIn("There is no machine yet", window.rooms["machines"].empty.text())
        type_into(window.rooms["machines"].beginning.name, "Scar")
        form = window.rooms["machines"].form
        QTest.mouseClick(form.page.limits.buttons["nozzle"], Qt.MouseButton.LeftButton)
        type_into(form.page.limits.limits[0].edit, "300")
        self.assertEqual(window.desk.workspace.draft.records.machines["scar"].nozzle.heater.max_c, 300.0)
        QTest.keyClick(window, Qt.Key.Key_N, CONTROL)
        room.beginning.polymer.setCurrentIndex(room.beginning.polymer.findData("petg"))
        room.beginning.machine.setCurrentIndex(room.beginning.machine.findData("scar"))
        type_into(room.beginning.name, "Lid")
        self.assertEqual((window.room, window.head.recipe.currentText()), ("recipe", "Lid"))
        self.assertEqual(window.desk.workspace.draft.value("melt.nozzle_c"), 242.0)
        self.assertIn("Setpoints to start from", window.message.text.text(), "nothing is filled in silently")
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
        self.assertIsNone(window.desk.workspace.draft.value("melt.nozzle_c"))

    def test_a_recipe_is_copied_renamed_retired_and_brought_back(self):
        window = self.open()
        QTest.keyClick(window, Qt.Key.Key_D, CONTROL)
        self.assertEqual(window.head.recipe.currentText(), "Probe head shell, copy")
        QTest.keyClick(window, Qt.Key.Key_R, CONTROL | SHIFT)
        room = window.rooms["recipes"]
        key = window.desk.workspace.draft.records.current
        room.list.choose(key)
        type_into(room.naming.boxes["recipe.name"].edit, "Short shell")
        self.assertEqual(window.head.recipe.currentText(), "Short shell")
        QTest.mouseClick(room.retiring, Qt.MouseButton.LeftButton)
        self.assertEqual(room.list.count.text(), "9")
        room.retired.setChecked(True)
        room.list.choose(key)
        self.assertEqual(room.retiring.text(), "Bring back")
        QTest.mouseClick(room.retiring, Qt.MouseButton.LeftButton)
        self.assertFalse(window.desk.workspace.draft.records.cards[key].retired)

    def test_a_machine_s_name_and_cost_are_edited_and_undone(self):
        window = self.open()
        QTest.keyClick(window, Qt.Key.Key_3, CONTROL)
        room = window.rooms["machines"]
        self.assertEqual(room.list.chosen_keys(), ["tarn"])
        type_into(room.form.page.form.boxes["rate_per_h"].edit, "5,5")
        self.assertEqual(window.desk.workspace.draft.records.machines["tarn"].rate_per_h, 5.5)
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
        self.assertEqual(room.form.page.form.boxes["rate_per_h"].edit.text(), "4.00")
        self.assertIn("25 of 29 polymers", room.form.page.heading.text())


class TestLookingUp(WindowTest):
    def test_the_command_field_finds_recipe_machine_polymer_run_and_command(self):
        window = self.open()
        for words, room in (
            ("Machine Crag", "machines"),
            ("Polymer PEEK-CF", "atlas"),
            ("Run 7: Packer back-up ring", "runs"),
            ("Open Turbine vane", "recipe"),
            ("Room: Settings", "settings"),
        ):
            QTest.keyClick(window, Qt.Key.Key_K, CONTROL)
            type_into(window.head.command, words)
            with self.subTest(words):
                self.assertEqual(window.room, room)
        self.assertEqual(window.rooms["machines"].list.chosen_keys(), ["crag"])
        self.assertEqual(window.rooms["atlas"].list.chosen_keys(), ["peek_cf"])
        self.assertEqual(window.head.recipe.currentText(), "Turbine vane")
        type_into(window.head.command, "nothing like it")
        self.assertIn("Nothing is called", window.message.text.text())

    def test_the_atlas_filters_by_reach_and_typing_sorts_and_copies(self):
        window = self.open()
        QTest.keyClick(window, Qt.Key.Key_7, CONTROL)
        room = window.rooms["atlas"]
        room.reached.setCurrentIndex(room.reached.findData("beck"))
        room.refresh()
        names = [line[0] for line in room.list.lines()[1:]]
        self.assertIn("PLA", names)
        self.assertNotIn("PEEK", names)
        room.reached.setCurrentIndex(0)
        room.refresh()
        room.list.view.sortByColumn(1, Qt.SortOrder.DescendingOrder)
        transitions = [float(line[1].split()[0].replace("−", "-")) for line in room.list.lines()[1:]]
        self.assertEqual(transitions, sorted(transitions, reverse=True), "numbers sort as numbers")
        room.list.view.setFocus()
        QTest.keyClicks(room.list.view, "pek")
        self.assertEqual(room.list.filter.text(), "pek")
        self.assertEqual(room.list.count.text(), "1 of 31")
        room.list.choose("pekk_a")
        room.list.copy()
        self.assertIn("PEKK, amorphous grade\t160", QApplication.clipboard().text())
        self.assertEqual(len(room.list.csv().splitlines()), 2)

    def test_contested_values_show_both_and_why(self):
        window = self.open()
        window.show_thing("atlas", "pei_pc_blend")
        table = window.rooms["atlas"].values
        row = next(row for row in range(table.rowCount()) if table.item(row, 0).text() == "Density")
        self.assertEqual(table.item(row, 1).text(), "1.27 or 1.34 g/cm³ (1.25 to 1.34)")
        self.assertIn("both are quoted", table.item(row, 3).text())

    def test_the_ranking_takes_a_polymer_and_undo_brings_the_old_one_back(self):
        window = self.open()
        window.show_operation(10)
        self.app.processEvents()
        bench = window.benches["brief"]
        QTest.mouseClick(bench.switches[1], Qt.MouseButton.LeftButton)
        first = bench.ranking.item(0, 0).text()
        bench.ranking.setFocus()
        bench.ranking.selectRow(0)
        QTest.keyClick(bench.ranking, Qt.Key.Key_Return)
        self.assertEqual(bench.forms[0].boxes["polymer"].currentText(), first)
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
        self.assertEqual(window.desk.workspace.draft.value("polymer"), "pei_pc_blend")


class TestWorkspaces(WindowTest):
    def test_a_copy_is_written_opened_and_restored(self):
        window = self.open()
        copy = self.folder / "copy.kaustos"
        window.desk.workspace.save_copy(copy)
        window.desk.set({"melt.nozzle_c": 300.0})
        window.files.restore_from(copy)
        self.windows.remove(window)
        window.deleteLater()
        restored = next(each for each in QApplication.topLevelWidgets() if each.isVisible() and hasattr(each, "desk"))
        self.windows.append(restored)
        self.assertEqual(restored.desk.workspace.draft.value("melt.nozzle_c"), 365.0)
        self.assertIn("Restored from copy.kaustos", restored.message.text.text())
        (self.folder / "text.txt").write_text("no workspace, just words and words and words")
        restored.desk.run(lambda: restored.files.open_workspace(self.folder / "text.txt"))
        self.assertIn("is not a Kaustos workspace", restored.message.text.text())
        self.assertTrue(restored.isVisible())

    def test_the_history_lists_what_was_done(self):
        window = self.open()
        window.desk.set({"melt.nozzle_c": 371.0})
        window.desk.save_draft()
        QTest.keyClick(window, Qt.Key.Key_O, CONTROL | SHIFT)
        room = window.rooms["workspaces"]
        self.assertEqual(room.history.lines()[1][1:], ["A. Tester", "Nozzle: 371 °C"])

    def test_a_second_window_is_live(self):
        first, second = self.open(), self.open()
        type_into(first.ladder.boxes["melt.nozzle_c"].edit, "366")
        first.desk.save_draft()
        QTest.qWait(1200)
        self.assertEqual(second.ladder.boxes["melt.nozzle_c"].edit.text(), "366")

    def test_the_window_stands_as_it_stood_and_remembers_its_workspace(self):
        from kaustos.ui.main import open_window

        self.open()
        state = self.folder / "last-use.json"
        window = open_window(self.folder / "other.kaustos", Settings(), None, last_use=state)
        window.resize(1180, 740)
        window.show()
        window.close()
        window.deleteLater()
        again = open_window(self.folder / "other.kaustos", Settings(), None, last_use=state)
        self.windows.append(again)
        again.files.recall()
        self.assertEqual((again.width(), again.height()), (1180, 740))
        self.assertEqual(again.files.recent(), (str(self.folder / "other.kaustos"),))


class TestStatus(WindowTest):
    def test_a_revision_is_released_with_a_reason_and_the_head_says_so(self):
        window = self.open()
        QTest.keyClick(window, Qt.Key.Key_R, CONTROL)
        page = window.revisions
        page.list.selectRow(0)
        page.status.setCurrentIndex(page.status.findData("withdrawn"))
        QTest.mouseClick(page.give, Qt.MouseButton.LeftButton)
        self.assertIn("needs a reason", window.message.text.text())
        type_into(page.why, "splits at layer 40")
        self.assertIn("revision 3, withdrawn", window.head.revision.text())
        self.assertIn("revision 3 withdrawn by A. Tester: splits at layer 40", page.log.text())


class TestPrinting(WindowTest):
    def test_the_sheet_s_pages_are_drawn_onto_a_printer(self):
        from PySide6.QtPrintSupport import QPrinter

        from kaustos.ui.printing import page_images, print_pages

        window = self.open()
        pdf = window.files._sheet_pdf()
        images = page_images(pdf)
        self.assertGreater(images[0].height(), images[0].width())
        dark = sum(images[0].pixelColor(QPoint(x, y)).lightness() < 100
                   for x in range(0, images[0].width(), 9) for y in range(0, images[0].height(), 9))  # fmt: skip
        self.assertGreater(dark, 200, "the page is not empty")
        printer = QPrinter()
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(self.folder / "printed.pdf"))
        self.assertEqual(print_pages(printer, pdf), len(images))
        self.assertTrue((self.folder / "printed.pdf").read_bytes().startswith(b"%PDF-"))

    def test_the_error_report_holds_version_and_log_and_no_recipe(self):
        from kaustos.ui.faults import write_report

        file = self.folder / "report.txt"
        write_report(file)
        self.assertRegex(file.read_text(), r"^Kaustos \d")
        self.assertNotIn("Probe head", file.read_text())


class TestGradesOfAll(WindowTest):
    def cells(self, window, column):
        room = window.rooms["recipes"]
        press_key(Qt.Key.Key_R, CONTROL | SHIFT)
        at = HEADINGS.index(column)
        return {row.cells[0]: row.cells[at] for row in room.list.model.rows}

    def test_all_recipes_show_the_grade_of_now_and_a_lower_limit_says_what_it_changes(self):
        window = self.open()
        self.assertEqual(set(self.cells(window, "Grade now").values()), {"being judged"})
        window.desk.look_round()
        before = self.cells(window, "Grade now")
        self.assertEqual(before["Probe head shell"], "no-go")
        press_key(Qt.Key.Key_3, CONTROL)
        form = window.rooms["machines"].form
        window.rooms["machines"].list.choose("tarn")
        QTest.mouseClick(form.page.limits.buttons["nozzle"], Qt.MouseButton.LeftButton)
        type_into(form.page.limits.limits[0].edit, "200")
        window.desk.look_round()
        said = window.message.text.text()
        after = self.cells(window, "Grade now")
        changed = [name for name in after if after[name] != before[name]]
        self.assertIn(f"{len(changed)} recipes change with this edit", said)
        for name in changed:
            self.assertIn(f"{name}, {before[name]} before, {after[name]} now", said)
        press_key(Qt.Key.Key_Z, CONTROL)
        window.desk.look_round()
        self.assertEqual(self.cells(window, "Grade now"), before)

    def test_a_released_recipe_that_is_no_go_now_is_told_first_thing(self):
        window = self.open()
        released = window.desk.workspace.released()
        machine = window.desk.workspace.draft.records.cards[next(iter(released))].machine
        window.desk.workspace.draft.set({Place("machines", machine, "nozzle.heater.max_c"): 180.0})
        self.close(window)
        window = self.open()
        window.desk.look_round()
        self.assertIn("no-go now", window.message.text.text())
        window.desk.messages.note("something else")
        window.desk.look_round()
        self.assertEqual(window.message.text.text(), "something else", "said once")

    def test_a_grade_beside_a_stop_is_never_marked_clear(self):
        window = self.open()
        window.desk.workspace.draft.open_card("cable_clamp")
        self.assertEqual(window.desk.review.grade.standing, "clear")
        self.assertEqual(window.findings.grade.mark.accessibleName(), "stop")
        window.desk.look_round()
        window.show_room("recipes")
        row = next(row for row in window.rooms["recipes"].list.model.rows if row.key == "cable_clamp")
        self.assertEqual(row.cells[HEADINGS.index("Grade now")], "reduced, a stop stands")


class TestAfterARun(WindowTest):
    def test_the_next_trial_of_a_failed_run_is_taken_by_one_press_and_back_by_one_key(self):
        window = self.open()
        press_key(Qt.Key.Key_4, CONTROL)
        room = window.rooms["runs"]
        room.list.choose("run_0010")
        self.assertEqual(room.next.trial.text(), "Next trial: chamber 70 → 87 °C, nothing else")
        QTest.mouseClick(room.next.take, Qt.MouseButton.LeftButton)
        self.assertEqual(window.room, "recipe")
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), 87.0)
        self.assertEqual(window.ladder.boxes["heat.chamber_c"].edit.text(), "87")
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), 125.0)
        window.show_room("runs")
        for key, shown in (("run_0012", False), ("run_0005", True)):
            room.list.choose(key)
            self.assertEqual(room.next.isVisible(), shown, key)
        self.assertIn("qualified person", room.next.trial.text())
        self.assertFalse(room.next.take.isVisible(), "after smoke nothing is tried")
