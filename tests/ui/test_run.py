"""Works the run as a person does: a job file dropped, differences taken into the recipe by a key, the day written."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.formats.test_job_code import squares
from tests.ui.support import drop, press_key
from tests.ui.test_melt_heat import CONTROL, BenchTest


class TestRun(BenchTest):
    recipe, operation = "winch_bracket", "run"

    def drop(self, text, name="bracket.gcode"):
        file = self.folder / name
        file.write_bytes(text if isinstance(text, bytes) else text.encode())
        self.assertTrue(drop(self.window, file))

    def findings(self):
        return {each.code: each for each in self.desk.review.findings() if each.code.startswith("run.job.")}

    def test_a_dropped_file_is_bound_its_differences_are_found_and_one_key_takes_each(self):
        self.drop(squares(count=12))
        self.assertIn("these moves never ran", self.bench.errand.words.text())
        self.assertEqual(self.bench.form.boxes["context.job"].currentText(), "bracket.gcode")
        found = self.findings()
        self.assertIn("run.job.nozzle", found)
        self.assertEqual(found["run.job.nozzle"].values["said"], 240.0)
        findings, before = self.window.findings, self.value("melt.height_mm")
        at = next(at for at, card in enumerate(findings.shown) if card.finding.code == "run.job.layer")
        findings.choose(at)
        self.assertEqual(findings.shown[at].finding.remedies[0].values["said"], 0.2)
        QTest.keyClick(self.window.focusWidget() or self.window, Qt.Key.Key_1, Qt.KeyboardModifier.AltModifier)
        self.app.processEvents()
        self.assertEqual((before, self.value("melt.height_mm")), (0.35, 0.2))
        self.assertNotIn("run.job.layer", self.findings())
        self.window.setFocus()
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.value("melt.height_mm"), 0.35)
        self.bench.views[1].click()
        self.app.processEvents()
        self.assertEqual(len(self.bench.picture.record.heights_mm), 12)

    def test_version_zero_tells_what_was_moved(self):
        self.turn("Versions")
        page = self.bench.versions
        QTest.mouseClick(page.zero, Qt.MouseButton.LeftButton)
        self.assertIn("Bind a job file first", self.window.message.text.text())
        self.drop(squares(count=12), "default.gcode")
        QTest.mouseClick(page.zero, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        self.assertEqual(self.draft.records.tables["jobs"]["default"].zero_machine, "gill")
        self.drop(squares(count=14), "own.gcode")
        rows = {page.table.item(row, 0).text(): [page.table.item(row, at).text() for at in range(1, 5)]
                for row in range(page.table.rowCount())}  # fmt: skip
        self.assertEqual(rows["nozzle"][2:], ["240 °C", "moved up"])
        self.assertEqual(self.draft.records.tables["jobs"][self.draft.records.card.chosen["job"]].name, "own.gcode")
        self.draft.set({"melt.nozzle_c": 240.0})
        self.app.processEvents()
        row = next(row for row in range(page.table.rowCount()) if page.table.item(row, 0).text() == "nozzle")
        self.assertEqual(page.table.item(row, 4).text(), "as the default")
        self.drop(squares(count=12), "default.gcode")
        self.assertEqual(self.draft.records.tables["jobs"]["default"].zero_machine, "gill", "read again it stays")

    def test_what_is_no_job_file_is_named_and_nothing_is_bound(self):
        for content, words in ((b"\0\1\2", "holds bytes that are no text"), (b"G28\nM104 S240\n", "lays filament")):
            self.drop(content)
            with self.subTest(words):
                self.assertIn(words, self.window.message.text.text())
                self.assertIn("bracket.gcode", self.bench.errand.words.text())
                self.assertIsNone(self.draft.records.card.chosen.get("job"))

    def test_a_file_for_a_larger_machine_is_a_stop(self):
        self.drop(squares().replace("X40.000", "X640.000"))
        self.assertEqual(self.findings()["run.job.size"].severity, "stop")
        shown = [card.text.text() for card in self.window.findings.shown]
        self.assertTrue(any("travels" in each for each in shown))

    def test_the_list_before_a_start_and_the_day_follow_the_recipe(self):
        self.turn("Preflight")
        table = self.bench.preflight
        titles = {table.item(row, 0).text(): table.item(row, 1).text() for row in range(table.rowCount())}
        self.assertEqual(titles["File and recipe say the same"], "unknown")
        self.draft.set({"first_layer.look_by": ""})
        self.app.processEvents()
        titles = {table.item(row, 0).text(): table.item(row, 1).text() for row in range(table.rowCount())}
        self.assertEqual(titles["Somebody looks at layer one"], "not met")
        self.turn("Day")
        file = self.folder / "run.ics"
        self.bench.day.write_to(file)
        self.assertIn(b"SUMMARY:Winch bracket: take it off", file.read_bytes())
        self.draft.set({"brief.print_h": None, "brief.size_x_mm": None})  # neither hours nor layers are known
        self.app.processEvents()
        self.assertIn("no hours", self.bench.day.table.item(0, 1).text())
        self.bench.day.write_to(self.folder / "none.ics")
        self.assertIn("No hours are known", self.window.message.text.text())
        self.assertFalse((self.folder / "none.ics").exists())
