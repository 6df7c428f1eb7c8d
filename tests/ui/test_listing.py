"""A list sorts by its numbers, filters as one types, copies what is chosen and writes what is shown."""

import csv
import io
import time
from unittest import mock

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog

from kaustos.ui.jobs import POOLED
from kaustos.ui.tables import Listing, Row
from tests.ui.support import WindowTest

ROWS = (
    Row("a", ("Wide ring", "9 g"), (None, 9.0)),
    Row("b", ("narrow ring", "120 g"), (None, 120.0)),
    Row("c", ("Bracket, left", "not known"), (None, None)),
    Row("d", ("Clamp", "35 g"), (None, 35.0)),
)


class TestListing(WindowTest):
    def setUp(self):
        super().setUp()
        self.window = self.open()
        self.listing = Listing(self.window.desk, "parts", ("Part", "Mass"), 0)
        self.listing.show_rows(ROWS)
        self.listing.show()
        self.addCleanup(self.listing.deleteLater)
        self.addCleanup(self.listing.close)
        self.opened = []
        self.listing.opened.connect(self.opened.append)

    def keys(self):
        """Keys in the order in which they are shown."""
        return [self.listing._key(row) for row in range(self.listing.model.rowCount())]

    def test_it_stands_as_given_until_a_column_is_chosen(self):
        self.assertEqual(self.keys(), ["a", "b", "c", "d"])
        self.listing.view.sortByColumn(0, Qt.SortOrder.AscendingOrder)
        self.assertEqual(self.keys(), ["c", "d", "b", "a"], "capitals do not count")

    def test_masses_sort_as_numbers_and_what_is_not_known_stands_last(self):
        self.listing.view.sortByColumn(1, Qt.SortOrder.AscendingOrder)
        self.assertEqual(self.keys(), ["a", "d", "b", "c"])

    def test_typing_on_the_list_filters_it_and_says_how_many(self):
        self.listing.view.setFocus()
        QTest.keyClick(self.listing.view, Qt.Key.Key_R)
        QTest.keyClicks(self.listing.filter, "ing")
        self.assertEqual((self.keys(), self.listing.count.text()), (["a", "b"], "2 of 4"))
        self.listing.filter.clear()
        self.assertEqual(self.listing.count.text(), "4")

    def test_enter_opens_the_row_under_the_cursor_after_sorting_too(self):
        self.listing.view.sortByColumn(1, Qt.SortOrder.DescendingOrder)
        self.listing.choose("d")
        QTest.keyClick(self.listing.view, Qt.Key.Key_Return)
        self.assertEqual(self.opened, ["d"])

    def test_what_is_chosen_stays_chosen_while_rows_change(self):
        self.listing.choose("b", "d")
        self.listing.show_rows([Row("z", ("Anchor", "1 g"), (None, 1.0)), *ROWS])
        self.assertEqual(self.listing.chosen_keys(), ["b", "d"])
        self.listing.show_rows(ROWS[:2])
        self.assertEqual(self.listing.chosen_keys(), ["b"])

    def test_chosen_rows_are_copied_all_where_none_is(self):
        self.listing.choose("c")
        QTest.keyClick(self.listing.view, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(QApplication.clipboard().text(), "Part\tMass\nBracket, left\tnot known")
        self.listing.choose()
        self.listing.copy()
        self.assertEqual(len(QApplication.clipboard().text().splitlines()), 5)

    def test_the_csv_is_what_is_shown_and_reads_back(self):
        self.listing.filter.setText("bracket")
        file = self.folder / "parts.csv"
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(file), "")):
            self.listing.out.click()
        read = list(csv.reader(io.StringIO(file.read_text(encoding="utf-8"))))
        self.assertEqual(read, [["Part", "Mass"], ["Bracket, left", "not known"]])

    def test_a_file_that_cannot_be_written_is_told(self):
        with mock.patch.object(QFileDialog, "getSaveFileName", return_value=(str(self.folder / "no" / "x.csv"), "")):
            self.listing.out.click()
        self.assertIn("x.csv", self.window.message.text.text())


class TestManyRows(WindowTest):
    """Rows are made when they are looked at; sorting and filtering read all of them without holding the window up."""

    def setUp(self):
        super().setUp()
        self.window = self.open(pace=POOLED)
        self.listing = Listing(self.window.desk, "parts", ("Part", "Mass"), 0)
        self.listing.resize(600, 400)
        self.addCleanup(self.listing.deleteLater)
        self.addCleanup(self.listing.close)
        self.made, self.values = [], {f"p{n:05}": [float(-n)] for n in range(3_000)}
        self.show()
        self.listing.show()
        self.app.processEvents()

    def show(self):
        values = dict(self.values)

        def make(key):
            self.made.append(key)
            return Row(key, (key, f"{values[key][0]} g"), (None, values[key][0]))

        self.listing.show_keys(tuple(values), make, lambda key: (values[key],))

    def settle(self):
        longest, began, until = 0.0, time.monotonic(), time.monotonic() + 30.0
        while self.listing._is_reading and time.monotonic() < until:
            turn = time.monotonic()
            self.app.processEvents()
            longest = max(longest, time.monotonic() - turn)
        return longest, time.monotonic() - began

    def test_a_row_that_fails_closes_no_other(self):
        self.may_complain = True
        good = self.listing.model._make
        self.listing.show_keys(("x", *self.values), lambda key: good(key) if key != "x" else int("x"), lambda key: ())
        self.listing.view.sortByColumn(0, Qt.SortOrder.AscendingOrder)
        self.settle()
        self.assertEqual(self.listing.lines([0])[1], ["cannot be shown", ""])
        self.assertEqual(self.listing.count.text(), "3001")

    def test_only_what_is_in_sight_is_made(self):
        self.assertGreater(len(self.made), 5)
        self.assertLess(len(set(self.made)), 60)
        self.assertEqual(self.listing.count.text(), "3000")

    def test_sorting_reads_all_in_slices_and_then_sorts(self):
        self.listing.choose("p00002")
        self.listing.view.sortByColumn(1, Qt.SortOrder.AscendingOrder)
        self.settle()
        self.assertEqual([self.listing._key(at) for at in (0, 1, 2_999)], ["p02999", "p02998", "p00000"])
        self.assertEqual(self.listing.chosen_keys(), ["p00002"])
        self.made.clear()
        self.listing.view.sortByColumn(1, Qt.SortOrder.DescendingOrder)
        self.assertEqual((self.made, self.listing._key(0)), ([], "p00000"))

    def test_what_is_chosen_comes_into_sight(self):
        self.listing.choose("p02000")
        self.app.processEvents()
        view = self.listing.view
        self.assertTrue(view.viewport().rect().contains(view.visualRect(self.listing.model.index(2_000, 0)).center()))
        self.listing.view.scrollToTop()
        self.listing.hide()
        self.listing.show()
        self.app.processEvents()
        self.assertTrue(view.viewport().rect().contains(view.visualRect(self.listing.model.index(2_000, 0)).center()))

    def test_a_list_that_is_hidden_reads_on_when_it_is_shown(self):
        self.listing.view.sortByColumn(1, Qt.SortOrder.AscendingOrder)
        self.app.processEvents()
        self.listing.hide()
        self.app.processEvents()
        time.sleep(0.02)
        self.app.processEvents()
        self.assertFalse(self.listing._is_reading)
        count = len(self.made)
        self.app.processEvents()
        self.assertEqual(len(self.made), count)
        self.listing.show()
        self.settle()
        self.assertEqual(self.listing._key(0), "p02999")

    def test_filtering_finds_what_was_never_in_sight(self):
        self.listing.view.setFocus()
        QTest.keyClicks(self.listing.filter, "p02998")
        self.settle()
        self.assertEqual((self.listing.count.text(), self.listing._key(0)), ("1 of 3000", "p02998"))

    def test_of_a_change_only_its_row_is_made_again_and_the_order_follows(self):
        self.listing.view.sortByColumn(1, Qt.SortOrder.AscendingOrder)
        self.settle()
        self.made.clear()
        self.values["p00007"] = [-9e9]
        self.show()
        self.settle()
        self.assertEqual((self.made, self.listing._key(0)), (["p00007"], "p00007"))
        del self.values["p00007"]
        self.show()
        self.settle()
        self.assertEqual((self.listing.count.text(), self.listing._key(0)), ("2999", "p02999"))
