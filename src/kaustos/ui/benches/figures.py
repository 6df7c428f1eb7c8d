"""The figures of an operation, each with its band and where it is known from."""

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import QApplication, QFrame, QHeaderView, QTableWidget, QTableWidgetItem, QVBoxLayout

from kaustos.core.review import OPERATIONS, Figure
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.following import Following
from kaustos.ui.look.text import Label, as_text

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
                item.setToolTip(as_text(tips[row] if tips else text))

    @guarded()
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


class FigureTable(Following, QFrame):
    """The figures of one operation; the chosen one shows its whole value, band, method and source below."""

    LINES, DETAIL = 4, 52

    def __init__(self, desk: Desk, key: str) -> None:
        super().__init__()
        self._desk, self._index = desk, _INDEX[key]
        self._figures: tuple[Figure, ...] = ()
        self.table = PlainTable(("Figure", "Value"))
        self.table.setAccessibleName(f"Figures of {key}")
        header = self.table.horizontalHeader()
        header.resizeSection(0, 270)
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        self.whole = Label(wordWrap=True)
        self.whole.setProperty("role", "muted")
        self.whole.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.whole.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.whole.setFixedHeight(self.DETAIL)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(self.table, 1)
        column.addWidget(self.whole)
        self.setFixedHeight(28 + self.LINES * 23 + 4 + self.DETAIL)
        self.table.itemSelectionChanged.connect(self._show_chosen)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the review."""
        if not self._desk.has_recipe:
            return
        wording = self._desk.wording
        self._figures = self._desk.review.operations[self._index].figures
        self.table.show_rows([(figure.title, wording.figure(figure, band=False)) for figure in self._figures])
        self._show_chosen()

    def _show_chosen(self) -> None:
        """The chosen figure whole, the first where none is chosen."""
        row = max(self.table.currentRow(), 0)
        if row < len(self._figures):
            figure, wording = self._figures[row], self._desk.wording
            origin = wording.origin(figure)
            words = f"{figure.title}: {wording.figure(figure)}. {origin[:1].upper()}{origin[1:]}"
            self.whole.setText(words.strip())
            self.whole.setAccessibleName(self.whole.text())
