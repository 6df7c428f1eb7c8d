"""A list to look things up in: sorts by any column, filters by typing, copies and is written as CSV."""

import logging
import time
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

import attrs
import shiboken6
from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, Qt, Signal
from PySide6.QtGui import QKeyEvent, QKeySequence, QShowEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from kaustos.disk import write_whole
from kaustos.formats.csv_tables import written
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.look.text import Label, Line, as_text

AnyIndex = QModelIndex | QPersistentModelIndex


@attrs.frozen
class Row:
    """One line: its key, a text for each column, what to sort by where the text will not do, and a tooltip."""

    key: str
    cells: tuple[str, ...]
    sort: tuple[float | str | None, ...] = ()
    tip: str = ""


ROW_FAULT = "a row cannot be shown"  # logged; one that fails closes no other
ROWS_MEASURED, CELL_MARGIN = 40, 9  # a column is as wide as so many rows want it [px]
Make = Callable[[str], Row]
State = Callable[[str], tuple[Any, ...]]


class _Model(QAbstractTableModel):
    """Rows by key, each made when it is first looked at and kept while what it was made of is the same.

    Sorting and filtering ask for all rows: they wait until every row has been made, a slice of time after the other.
    """

    SLICE_S = 0.012

    def __init__(self, headings: tuple[str, ...]) -> None:
        super().__init__()
        self.headings = headings
        self.words, self.column, self.descending = "", -1, False
        self._keys: tuple[str, ...] = ()  # in their usual order
        self._shown: list[str] = []  # those that pass the filter, in the order that is wanted
        self._places: dict[str, int] | None = {}
        self._make: Make = lambda key: Row(key, ("",) * len(headings))
        self._state: State = lambda key: ()
        self._made: dict[str, tuple[tuple[Any, ...], Row, str]] = {}  # what it was made of, row, words to filter by
        self._next = 0  # rows before it, in their usual order, are made

    # ---- rows

    def show(self, keys: tuple[str, ...], make: Make, state: State) -> bool:
        """Show the rows of other keys, or made of something else; whether the order or the number is another one."""
        self._make, self._state = make, state
        self._next = 0
        if keys == self._keys and not self._is_ordered:
            return False
        gone = set(self._keys).difference(keys)
        if gone:  # what is not there any more is not looked at, however long the others take to be read
            self.beginResetModel()
            self._shown, self._places = [key for key in self._shown if key not in gone], None
            self.endResetModel()
            for key in gone:
                self._made.pop(key, None)
        self._keys = keys
        return True

    @property
    def _is_ordered(self) -> bool:
        return bool(self.words) or self.column >= 0

    @property
    def keys(self) -> tuple[str, ...]:
        """All keys, in their usual order."""
        return self._keys

    @property
    def rows(self) -> list[Row]:
        """All rows, in their usual order, made now where they are not yet."""
        return [self.row_of(key) for key in self._keys]

    def row_of(self, key: str) -> Row:
        """The row of a key, made of what is now."""
        return self._entry(key)[1]

    def _entry(self, key: str) -> tuple[tuple[Any, ...], Row, str]:
        known = self._made.get(key)
        try:
            state = self._state(key)
            if known is not None and _is_same(known[0], state):
                return known
            row = self._make(key)
        except Exception:
            logging.getLogger("kaustos").exception(ROW_FAULT)
            state, row = (), Row(key, ("cannot be shown", *[""] * (len(self.headings) - 1)))
        self._made[key] = found = (state, row, "\n".join(row.cells).lower())
        return found

    def make_some(self) -> bool:
        """Make rows for a slice of time; whether all are made."""
        until = time.perf_counter() + self.SLICE_S
        keys = self._keys
        while self._next < len(keys) and time.perf_counter() < until:
            self._entry(keys[self._next])
            self._next += 1
        return self._next >= len(keys)

    @property
    def made(self) -> int:
        """How many rows are made."""
        return self._next

    def arrange(self) -> None:
        """Bring the rows into the order and through the filter that are wanted; all must be made for either."""
        shown = list(self._keys)
        if self.words:
            shown = [key for key in shown if self.words in self._made[key][2]]
        if self.column >= 0:
            shown.sort(key=lambda key: _order(self._made[key][1], self.column), reverse=self.descending)
        self.beginResetModel()
        self._shown, self._places = shown, None
        self.endResetModel()

    def key_at(self, row: int) -> str:
        """The key of a line."""
        return self._shown[row]

    def line_of(self, key: str) -> int | None:
        """The line of a key, None where it is not shown."""
        if self._places is None:
            self._places = {each: place for place, each in enumerate(self._shown)}
        return self._places.get(key)

    # ---- what Qt asks

    @guarded(0)
    def rowCount(self, parent: AnyIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else len(self._shown)

    @guarded(0)
    def columnCount(self, parent: AnyIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return len(self.headings)

    @guarded()
    def data(self, index: AnyIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if role not in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.ToolTipRole):
            return None
        row = self.row_of(self._shown[index.row()])
        text = row.cells[index.column()]
        return text if role == Qt.ItemDataRole.DisplayRole else as_text(row.tip or text)

    @guarded()
    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if orientation == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole:
            return self.headings[section]
        return None

    wanted = Signal()  # another order is

    @guarded()
    def sort(self, column: int, order: Qt.SortOrder = Qt.SortOrder.AscendingOrder) -> None:
        wanted = (column, order == Qt.SortOrder.DescendingOrder)
        if wanted != (self.column, self.descending):  # Qt says it twice
            self.column, self.descending = wanted
            self.wanted.emit()


def _is_same(one: tuple[Any, ...], other: tuple[Any, ...]) -> bool:
    """Whether two rows were made of the same: records by identity, plain values and tuples by their worth."""
    return len(one) == len(other) and all(
        a is b or (isinstance(b, str | int | float | tuple) and a == b) for a, b in zip(one, other, strict=True)
    )


def _order(row: Row, column: int) -> tuple[int, float | str]:
    """Numbers by their size before words such as "not recorded"."""
    own = row.sort[column] if column < len(row.sort) else None
    if isinstance(own, int | float):
        return (0, own)
    return (1, row.cells[column].lower() if own is None else own)


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
        self._is_reading = self._is_due = False
        self._kept: tuple[str, ...] = ()  # chosen before the rows were made anew
        self._awaited: tuple[str, ...] = ()  # to be chosen once they are listed
        self.filter = Line()
        self.filter.setPlaceholderText(f"Filter {name} by typing")
        self.filter.setAccessibleName(f"Filter {name}")
        self.filter.setClearButtonEnabled(True)
        self.count = Label()
        self.count.setProperty("role", "muted")
        self.out = QPushButton("Write CSV")
        self.out.setToolTip("Write what is listed now as a CSV file")
        self.out.clicked.connect(self._on_write)
        self.model = _Model(headings)
        self.model.wanted.connect(self._arrange_soon)
        self.view = _View(self)
        self.view.setModel(self.model)
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
        header.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        header.setSectionResizeMode(stretched, QHeaderView.ResizeMode.Stretch)

    # ---- what is shown

    def show_rows(self, rows: Sequence[Row]) -> None:
        """Show these rows; what was chosen stays chosen where it is still there."""
        by_key = {row.key: row for row in rows}
        self.show_keys(tuple(by_key), by_key.__getitem__, lambda key: (by_key[key],))

    def show_keys(self, keys: Sequence[str], make: Make, state: State) -> None:
        """Show rows that are made when they are looked at; ``state`` says what each is made of, by identity."""
        kept = self.chosen_keys()
        if self.model.show(tuple(keys), make, state) or not self.model.rowCount():
            self._arrange_soon(*kept)
        else:
            self._fit()
            self.view.viewport().update()
            self._say_count()

    def _on_filter(self, words: str) -> None:
        self.model.words = words.lower()
        self._arrange_soon()

    def _arrange_soon(self, *kept: str) -> None:
        """Arrange at once where nothing has to be read for it, else when all is read."""
        self._kept = kept or tuple(self.chosen_keys())
        if self.model.words or self.model.column >= 0:
            self._is_due = True
            self._read_on()
        else:
            self._arrange()

    def _read_on(self) -> None:
        if not self._is_reading:
            self._is_reading = True
            self._read()

    def _read(self) -> None:
        """Make rows a slice at a time, so that the window answers meanwhile."""
        if not shiboken6.isValid(self):
            return
        if not self.isVisible():
            self._is_reading = False  # nobody waits for it: it goes on when it is shown again
            return
        if self.model.make_some():
            self._is_reading = False
            if self._is_due:
                self._arrange()
            return
        self._say_count()
        self._desk.pace.slowly(self, self._read)

    @guarded()
    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if self._is_due:
            self._read_on()
        self._desk.pace.later(self, self._into_sight)

    def _into_sight(self) -> None:
        """Bring what is chosen into sight, once there is a sight."""
        line = next((self.model.line_of(key) for key in self.chosen_keys()), None)
        if line is not None:
            self.view.scrollTo(self.model.index(line, 0))

    def _arrange(self) -> None:
        self._is_due = False
        kept = tuple(self.chosen_keys()) or self._kept
        self.model.arrange()
        self._fit()
        if not self._awaited:
            self._select(kept)
        elif all(key in self.model.keys for key in self._awaited):
            self.choose(*self._awaited)
        self._say_count()

    def _say_count(self) -> None:
        shown, every = self.model.rowCount(), len(self.model.keys)
        if self._is_due:
            self.count.setText(f"reading {self.model.made} of {every}")
        else:
            self.count.setText(f"{every}" if shown == every else f"{shown} of {every}")

    def _fit(self) -> None:
        """Make the columns as wide as the first rows want them; Qt's own way asks for eight things of each cell."""
        header, metrics = self.view.horizontalHeader(), self.view.fontMetrics()
        rows = [self.model.row_of(self._key(line)).cells for line in range(min(self.model.rowCount(), ROWS_MEASURED))]
        for column in range(self.model.columnCount()):
            if header.sectionResizeMode(column) == QHeaderView.ResizeMode.Fixed:
                widest = max((metrics.horizontalAdvance(cells[column]) for cells in rows), default=0)
                header.resizeSection(column, max(widest + CELL_MARGIN, header.sectionSizeHint(column)))

    # ---- choosing

    def chosen_keys(self) -> list[str]:
        """Keys of the chosen rows, from top to bottom."""
        rows = sorted(index.row() for index in self.view.selectionModel().selectedRows())
        return [self._key(row) for row in rows]

    def choose(self, *keys: str) -> None:
        """Choose rows by their keys; none until they are listed, if one is not yet: its form is shut so long.

        A filter that hides one of them goes.
        """
        is_listed = all(key in self.model.keys for key in keys)
        self._awaited = () if is_listed else keys
        if is_listed and self.model.words and any(self.model.line_of(key) is None for key in keys):
            self._kept = keys
            self._select(())
            self.filter.clear()
        self._select(keys if is_listed else ())

    def choose_first(self, key: str) -> None:
        """Choose a row, where it is shown and none is chosen, nor to be chosen once it is listed."""
        if not self._awaited and not self.chosen_keys():
            self._select((key,))

    def _select(self, keys: Sequence[str]) -> None:
        from PySide6.QtCore import QItemSelectionModel

        selection = self.view.selectionModel()
        selection.clearSelection()
        flags = QItemSelectionModel.SelectionFlag.Select | QItemSelectionModel.SelectionFlag.Rows
        lines = sorted(line for key in keys if (line := self.model.line_of(key)) is not None)
        if lines:
            self.view.scrollTo(self.model.index(lines[0], 0))
        for line in lines:
            selection.select(self.model.index(line, 0), flags)
            selection.setCurrentIndex(self.model.index(line, 0), QItemSelectionModel.SelectionFlag.NoUpdate)

    def open_chosen(self) -> None:
        """Open the row under the cursor."""
        row = self.view.currentIndex().row()
        if row >= 0:
            self.opened.emit(self._key(row))

    def _key(self, row: int) -> str:
        return self.model.key_at(row)

    # ---- taking away

    def lines(self, rows: Sequence[int] | None = None) -> list[list[str]]:
        """Heading and the rows as they are shown."""
        wanted = range(self.model.rowCount()) if rows is None else rows
        return [list(self.model.headings), *(list(self.model.row_of(self._key(row)).cells) for row in wanted)]

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
