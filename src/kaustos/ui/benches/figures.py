"""The figures of an operation, each with its band and where it is known from."""

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import QApplication, QHeaderView, QTableWidget, QTableWidgetItem

from kaustos.core.review import OPERATIONS
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following

_INDEX = {operation.key: index for index, operation in enumerate(OPERATIONS)}


class PlainTable(QTableWidget):
    """A read-only table whose rows can be copied as text."""

    def __init__(self, headings: tuple[str, ...]) -> None:
        super().__init__(0, len(headings))
        self.setHorizontalHeaderLabels(list(headings))
        self.horizontalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        self.horizontalHeader().setHighlightSections(False)
        self.verticalHeader().hide()
        self.verticalHeader().setDefaultSectionSize(23)
        self.setShowGrid(False)
        self.setAlternatingRowColors(True)
        self.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectRows)
        self.setTabKeyNavigation(False)
        self.setWordWrap(False)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def show_rows(self, rows: Sequence[tuple[str, ...]], tips: list[str] | None = None) -> None:
        """Show these rows, reusing the items that are there."""
        self.setRowCount(len(rows))
        for row, words in enumerate(rows):
            for column, text in enumerate(words):
                item = self.item(row, column)
                if item is None:
                    item = QTableWidgetItem()
                    self.setItem(row, column, item)
                item.setText(text)
                item.setToolTip(tips[row] if tips else text)

    def keyPressEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        if event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
            return
        super().keyPressEvent(event)

    def copy(self) -> None:
        """Copy the chosen rows, all where none is chosen, as tab-separated text."""
        rows = sorted({index.row() for index in self.selectedIndexes()}) or range(self.rowCount())
        lines = ["\t".join(self._text(row, column) for column in range(self.columnCount())) for row in rows]
        QApplication.clipboard().setText("\n".join(lines))

    def _text(self, row: int, column: int) -> str:
        item = self.item(row, column)
        return item.text() if item else ""


class FigureTable(Following, PlainTable):
    """The figures of one operation."""

    def __init__(self, desk: Desk, key: str) -> None:
        super().__init__(("Figure", "Value (95 % band)", "Known from"))
        self._desk, self._index = desk, _INDEX[key]
        self.setAccessibleName(f"Figures of {key}")
        header = self.horizontalHeader()
        for column, width in ((0, 176), (1, 150)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.setFixedHeight(28 + 5 * 23 + 4)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the review."""
        if not self._desk.has_recipe:
            return
        wording = self._desk.wording
        figures = self._desk.review.operations[self._index].figures
        rows = [(figure.title, wording.figure(figure), wording.origin(figure)) for figure in figures]
        self.show_rows(rows, [f"{title}: {value}\n{origin}" for title, value, origin in rows])
