"""Watches and opens readings in the runs room as a person does: simulated line, log, words, table, what is missing."""

import csv

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kaustos.ui.rooms import run_readings
from tests.ui.test_run_card import CardTest


class TestReadings(CardTest):
    def setUp(self):
        super().setUp()
        self.room = self.window.rooms["runs"]
        self.panel = self.room.readings
        self.window.activateWindow()
        self.window.show_room("runs")
        self.room.choose(self.id)
        self.app.processEvents()

    def click(self, button):
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)
        self.app.processEvents()

    def log(self, wanted, rows=400):
        file = self.folder / "logger.csv"
        with file.open("w", newline="") as opened:
            writer = csv.writer(opened)
            writer.writerow(["time [s]", "chamber [°C]"])
            writer.writerows([10 * n, round(wanted + 0.1 * (n % 3), 2)] for n in range(rows))
        return file

    def test_a_simulated_machine_is_watched_and_kept_with_the_run(self):
        self.assertIn("can reset a board", self.panel.caution.text())
        self.click(self.panel.simulate)
        self.assertRegex(self.panel.words.text(), r"Simulated machine: nozzle \d")
        self.assertFalse(self.panel.begin.isEnabled())
        for _ in range(3):
            self.panel.looker.look()
            self.app.processEvents()
        self.click(self.panel.end)
        self.assertEqual({each.zone for each in self.run_.sensors}, {"nozzle", "plate", "chamber"})
        self.assertIsNone(self.panel.watch)
        self.assertEqual(self.panel.table.rowCount(), 3)
        self.assertTrue(self.panel.picture.isVisible())

    def test_a_log_is_judged_and_what_is_missing_gets_less(self):
        self.assertIn("readings of the chamber", self.panel.missing.text())
        self.panel.take(self.log(60.0), self.id)
        self.app.processEvents()
        self.assertIn("chamber never got there", self.panel.words.text())
        self.assertNotIn("readings of the chamber", self.panel.missing.text())
        self.assertIn("short_of_heat", self.run_.seen)

    def test_what_cannot_be_watched_or_read_is_said_and_nothing_is_kept(self):
        self.panel.port.setEditText("/dev/no_line")
        self.click(self.panel.begin)
        self.assertIn("/dev/no_line cannot be opened", self.window.message.text.text())
        self.panel.port.setEditText("")
        self.click(self.panel.begin)
        self.assertIn("Name the line", self.window.message.text.text())
        empty = self.folder / "empty.csv"
        empty.write_text("")
        self.panel.take(empty, self.id)
        self.app.processEvents()
        self.assertIn("empty.csv", self.panel.errand.words.text())
        self.assertEqual(self.run_.sensors, ())

    def test_closing_the_window_lets_go_of_the_line(self):
        self.click(self.panel.simulate)
        watch = self.panel.watch
        self.window.close()
        self.app.processEvents()
        self.assertIsNone(self.panel.watch)
        self.assertTrue(watch.log.look().fault)
        self.assertGreater(run_readings.LOOK_MS, 1_000, "a board has other work")
