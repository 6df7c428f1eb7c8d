"""Settings in one place: the person's on this computer, the shop's in this workspace; both made from declarations."""

from collections.abc import Callable

import attrs
from PySide6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from kaustos.app.estimates import HEADINGS, estimate_rows
from kaustos.app.settings import SETTINGS
from kaustos.core.records import Rules
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.fields import FieldBox
from kaustos.ui.look.text import Label, Line
from kaustos.ui.rooms.room import Room
from kaustos.ui.tables import Listing, Row


class SettingsRoom(Room):
    """Two columns: you, and this shop."""

    def __init__(self, desk: Desk, change: Callable[[str, str], None]) -> None:
        super().__init__(desk, "Settings", "Each holds at once and is kept.", "")
        self.empty.hide()
        self._change = change
        self.boxes: dict[str, QLineEdit | QComboBox | FieldBox] = {}
        inside = QWidget()
        columns = QHBoxLayout(inside)
        columns.setContentsMargins(0, 0, 8, 0)
        columns.setSpacing(28)
        columns.addLayout(self._column("You, on this computer", self._own()), 2)
        columns.addLayout(self._column("This shop, in this workspace", self._shop()), 3)
        area = QScrollArea(widgetResizable=True)
        area.setWidget(inside)
        self.pages = QStackedWidget()
        self.assumed = Listing(desk, "assumed constants", HEADINGS, 0)
        self.assumed.show_rows([Row(str(place), row) for place, row in enumerate(estimate_rows())])
        for page in (area, self.assumed):
            self.pages.addWidget(page)
        self.switches, row = switches(("Settings and rules", "What is assumed"), self.pages.setCurrentIndex)
        self.column.addLayout(row)
        self.column.addWidget(self.pages, 1)

    def refresh(self) -> None:
        """Follow the settings in force."""
        for setting in SETTINGS:
            box = self.boxes[setting.name]
            value = getattr(self.desk.settings, setting.name)
            if isinstance(box, QComboBox):
                box.setCurrentText(value)
            elif isinstance(box, QLineEdit) and not box.hasFocus():
                box.setText(value)

    def _column(self, heading: str, grid: QGridLayout) -> QVBoxLayout:
        label = Label(heading)
        label.setProperty("role", "heading")
        column = QVBoxLayout()
        column.addWidget(label)
        column.addLayout(grid)
        column.addStretch()
        return column

    def _own(self) -> QGridLayout:
        grid = _grid()
        for setting in SETTINGS:
            value = getattr(self.desk.settings, setting.name)
            box: QLineEdit | QComboBox
            if setting.choices:
                box = QComboBox()
                box.addItems(setting.choices)
                box.setCurrentText(value)
                box.activated.connect(lambda _=0, name=setting.name, box=box: self._change(name, box.currentText()))
            else:
                box = Line(value)
                box.setMaxLength(100)
                box.editingFinished.connect(lambda name=setting.name, box=box: self._change(name, box.text().strip()))
            box.setAccessibleName(setting.title)
            self.boxes[setting.name] = box
            _add(grid, setting.title, box, setting.help)
        return grid

    def _shop(self) -> QGridLayout:
        grid = _grid()
        for field in (each for each in attrs.fields(Rules) if each.name != "extra"):
            box = FieldBox(self.desk, f"rules.{field.name}")
            self.boxes[field.name] = box
            start = self.desk.wording.value(float(field.default or 0.0), field.metadata["quantity"])
            _add(grid, field.metadata["title"], box, f"{field.metadata['help']}. Starts at {start}.")
        return grid


def _grid() -> QGridLayout:
    grid = QGridLayout()
    grid.setHorizontalSpacing(12)
    grid.setVerticalSpacing(4)
    grid.setColumnStretch(2, 1)
    return grid


def _add(grid: QGridLayout, title: str, widget: QWidget, help_line: str) -> None:
    row = grid.rowCount()
    note = Label(help_line, wordWrap=True)
    note.setProperty("role", "muted")
    grid.addWidget(Label(title, wordWrap=True), row, 0)
    grid.addWidget(widget, row, 1)
    grid.addWidget(note, row, 2)
