"""A list to look things up in: sorts by any column, filters by typing, copies and is written as CSV."""

from collections.abc import Sequence
from pathlib import Path

import attrs
from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, QSortFilterProxyModel, Qt, Signal
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from kaustos.disk import write_whole
from kaustos.formats.csv_tables import written
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.look.text import Label, as_text

AnyIndex = QModelIndex | QPersistentModelIndex
SORT = Qt.ItemDataRole.UserRole


@attrs.frozen
class Row:
    """One line: its key, a text for each column, what to sort by where the text will not do, and a tooltip."""

    key: str
    cells: tuple[str, ...]
    sort: tuple[float | str | None, ...] = ()
    tip: str = ""


class _Model(QAbstractTableModel):
    def __init__(self, headings: tuple[str, ...]) -> None:
        super().__init__()
        self.headings = headings
        self.rows: list[Row] = []

    def show_rows(self, rows: Sequence[Row]) -> None:
        self.beginResetModel()
        self.rows = list(rows)
        self.endResetModel()

    @guarded(0)
    def rowCount(self, parent: AnyIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else len(self.rows)

    @guarded(0)
    def columnCount(self, parent: AnyIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return len(self.headings)

    @guarded()
    def data(self, index: AnyIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        row = self.rows[index.row()]
        text = row.cells[index.column()]
        if role == Qt.ItemDataRole.DisplayRole:
            return text
        if role == Qt.ItemDataRole.ToolTipRole:
            return as_text(row.tip or text)
        if role == SORT:
            own = row.sort[index.column()] if index.column() < len(row.sort) else None
            return text.lower() if own is None else own
        return None

    @guarded()
    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if orientation == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole:
            return self.headings[section]
        return None


class _Proxy(QSortFilterProxyModel):
    @guarded(False)
    def lessThan(self, left: AnyIndex, right: AnyIndex) -> bool:
        one, two = left.data(SORT), right.data(SORT)
        if isinstance(one, (int, float)) and isinstance(two, (int, float)):
            return one < two
        if isinstance(one, (int, float)) or isinstance(two, (int, float)):
            return isinstance(one, (int, float))  # numbers before words such as "not recorded"
        return str(one) < str(two)


class _View(QTableView):
    def __init__(self, owner: "Listing") -> None:
        super().__init__()
        self._owner = owner

    @guarded()
    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.matches(QKeySequence.StandardKey.Copy):
            self._owner.copy()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._owner.open_chosen()
        elif event.text().isalnum() and not event.modifiers() & ~Qt.KeyboardModifier.ShiftModifier:
            self._owner.filter.setFocus()
            self._owner.filter.setText(self._owner.filter.text() + event.text())
        else:
            super().keyPressEvent(event)


class Listing(QWidget):
    """A table with its filter, its count and a way out as CSV."""

    opened = Signal(str)  # key of the row that Enter or a double click opens
    chosen = Signal()

    def __init__(self, desk: Desk, name: str, headings: tuple[str, ...], stretched: int = 0) -> None:
        super().__init__()
        self._desk, self._name = desk, name
        self.filter = QLineEdit()
        self.filter.setPlaceholderText(f"Filter {name} by typing")
        self.filter.setAccessibleName(f"Filter {name}")
        self.filter.setClearButtonEnabled(True)
        self.count = Label()
        self.count.setProperty("role", "muted")
        self.out = QPushButton("Write CSV")
        self.out.setToolTip("Write what is listed now as a CSV file")
        self.out.clicked.connect(self._on_write)
        self.model = _Model(headings)
        self.proxy = _Proxy()
        self.proxy.setSourceModel(self.model)
        self.proxy.setSortRole(SORT)
        self.proxy.setFilterKeyColumn(-1)
        self.proxy.setFilterCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        self.view = _View(self)
        self.view.setModel(self.proxy)
        self.view.setAccessibleName(name.capitalize())
        self._dress(stretched)
        self.filter.textChanged.connect(self._on_filter)
        self.view.doubleClicked.connect(lambda _: self.open_chosen())
        self.view.selectionModel().selectionChanged.connect(lambda *_: self.chosen.emit())
        top = QHBoxLayout()
        top.addWidget(self.filter, 1)
        top.addWidget(self.count)
        top.addWidget(self.out)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(top)
        column.addWidget(self.view, 1)

    def _dress(self, stretched: int) -> None:
        view = self.view
        view.setSortingEnabled(True)
        view.sortByColumn(-1, Qt.SortOrder.AscendingOrder)
        view.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        view.setAlternatingRowColors(True)
        view.setShowGrid(False)
        view.setTabKeyNavigation(False)
        view.setWordWrap(False)
        view.verticalHeader().hide()
        view.verticalHeader().setDefaultSectionSize(25)
        header = view.horizontalHeader()
        header.setHighlightSections(False)
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(stretched, QHeaderView.ResizeMode.Stretch)

    # ---- what is shown

    def show_rows(self, rows: Sequence[Row]) -> None:
        """Show these rows; what was chosen stays chosen where it is still there."""
        kept = self.chosen_keys()
        if rows != self.model.rows:
            self.model.show_rows(rows)
            self.choose(*kept)
        self._say_count()

    def _on_filter(self, words: str) -> None:
        self.proxy.setFilterFixedString(words)
        self._say_count()

    def _say_count(self) -> None:
        shown, every = self.proxy.rowCount(), len(self.model.rows)
        self.count.setText(f"{every}" if shown == every else f"{shown} of {every}")

    # ---- choosing

    def chosen_keys(self) -> list[str]:
        """Keys of the chosen rows, from top to bottom."""
        rows = sorted(index.row() for index in self.view.selectionModel().selectedRows())
        return [self._key(row) for row in rows]

    def choose(self, *keys: str) -> None:
        """Choose rows by their keys."""
        from PySide6.QtCore import QItemSelectionModel

        selection = self.view.selectionModel()
        selection.clearSelection()
        flags = QItemSelectionModel.SelectionFlag.Select | QItemSelectionModel.SelectionFlag.Rows
        for row in range(self.proxy.rowCount()):
            if self._key(row) in keys:
                selection.select(self.proxy.index(row, 0), flags)
                selection.setCurrentIndex(self.proxy.index(row, 0), QItemSelectionModel.SelectionFlag.NoUpdate)

    def open_chosen(self) -> None:
        """Open the row under the cursor."""
        row = self.view.currentIndex().row()
        if row >= 0:
            self.opened.emit(self._key(row))

    def _key(self, row: int) -> str:
        return self.model.rows[self.proxy.mapToSource(self.proxy.index(row, 0)).row()].key

    # ---- taking away

    def lines(self, rows: Sequence[int] | None = None) -> list[list[str]]:
        """Heading and the rows as they are shown."""
        wanted = range(self.proxy.rowCount()) if rows is None else rows
        cells = [
            [str(self.proxy.index(row, column).data()) for column in range(self.model.columnCount())] for row in wanted
        ]
        return [list(self.model.headings), *cells]

    def copy(self) -> None:
        """Copy the chosen rows, all where none is chosen, as tab-separated text."""
        rows = sorted(index.row() for index in self.view.selectionModel().selectedRows()) or None
        QApplication.clipboard().setText("\n".join("\t".join(line) for line in self.lines(rows)))

    def csv(self) -> str:
        """What is listed now as CSV."""
        return written(self.lines())

    def _on_write(self) -> None:
        file, _ = QFileDialog.getSaveFileName(self, "Write CSV", f"{self._name}.csv", "CSV (*.csv)")
        if file:
            self._desk.run(lambda: write_whole(Path(file), self.csv()))
