"""Names are text everywhere: no sign in them is read as markup, in labels, tool tips and explanations."""

import re
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import Qt as Text
from PySide6.QtWidgets import QLabel, QTableWidget, QWidget

from kaustos.core.records import Place
from kaustos.ui.look.text import as_text
from kaustos.ui.rooms.names import ROOMS
from tests.asserting import every
from tests.ui.support import WindowTest

MARKUP = "<b>Tarn</b><img src='file:///dev/zero'><!--"
SOURCE = Path(__file__).parents[2] / "src" / "kaustos" / "ui"


class TestText(WindowTest):
    is_seen = True

    def opened(self):
        window = self.open()
        draft = window.desk.workspace.draft
        draft.set({Place("machines", "tarn", "name"): MARKUP, Place("lots", "lot_h117", "name"): MARKUP,
                   "name": MARKUP, "part": MARKUP})  # fmt: skip
        return window

    def everywhere(self, window):
        """The window with each bench and room shown in turn."""
        for number in (10, 20, 30):
            window.show_operation(number)
            self.app.processEvents()
            yield f"bench {number}"
        window.desk.look_round()
        for room in ROOMS:
            window.show_room(room.key)
            self.app.processEvents()
            yield room.key

    def test_every_label_shows_what_it_is_given_sign_by_sign(self):
        window = self.opened()
        self.assertIn(MARKUP, window.findings.shown[0].text.text())
        for where in self.everywhere(window):
            for label in window.findChildren(QLabel):
                with self.subTest(where, text=label.text()[:40]):
                    self.assertEqual(label.textFormat(), Qt.TextFormat.PlainText)

    def test_no_tool_tip_is_taken_for_markup_of_a_name(self):
        window, seen = self.opened(), 0
        for where in self.everywhere(window):
            tips = [each.toolTip() for each in window.findChildren(QWidget)]
            for table in window.findChildren(QTableWidget):
                cells = (table.item(row, column) for row in range(table.rowCount())
                         for column in range(table.columnCount()))  # fmt: skip
                tips += [cell.toolTip() for cell in cells if cell is not None]
            for listing in (getattr(each, "list", None) for each in window.rooms.values() if each is not None):
                if listing is not None:
                    model = listing.model
                    tips += [model.data(model.index(row, 0), Qt.ItemDataRole.ToolTipRole)
                             for row in range(model.rowCount())]  # fmt: skip
            for tip in tips:
                with self.subTest(where, tip=tip[:60]):
                    self.assertTrue(not Text.mightBeRichText(tip) or "<img" not in tip, "an image is asked for")
                    seen += "&lt;img" in tip
        self.assertGreater(seen, 0)

    def test_words_come_through_whole(self):
        self.assertEqual(as_text("2 < 3, plain"), "2 < 3, plain")
        self.assertEqual(as_text("<b>x</b>\ny"), "<qt>&lt;b&gt;x&lt;/b&gt;<br>y</qt>")

    def test_no_widget_of_the_window_is_made_without_the_one_label_class(self):
        for file in every(each for each in SOURCE.rglob("*.py") if each.name != "text.py"):
            with self.subTest(file.name):
                self.assertIsNone(re.search(r"\bQLabel\b", file.read_text(encoding="utf-8")))
