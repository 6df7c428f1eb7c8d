"""Pages that take the place of a bench: settings and the shop's rules, made from their declarations."""

from collections.abc import Callable

import attrs
from PySide6.QtWidgets import QComboBox, QFrame, QGridLayout, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout

from kaustos.app.settings import SETTINGS
from kaustos.core.records import Rules
from kaustos.ui.desk import Desk
from kaustos.ui.fields import FieldBox


class SidePage(QFrame):
    """A heading, a way back, and a grid of rows."""

    def __init__(self, title: str, words: str, back: Callable[[], object]) -> None:
        super().__init__()
        self.setObjectName("panel")
        heading = QLabel(title)
        heading.setProperty("role", "heading")
        close = QPushButton("Back to the bench")
        close.clicked.connect(back)
        top = QHBoxLayout()
        top.addWidget(heading)
        top.addStretch()
        top.addWidget(close)
        self.grid = QGridLayout()
        self.grid.setHorizontalSpacing(12)
        self.grid.setVerticalSpacing(4)
        self.grid.setColumnStretch(1, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 8)
        column.addLayout(top)
        column.addWidget(QLabel(words, wordWrap=True))
        column.addLayout(self.grid)
        column.addStretch()

    def add_row(self, title: str, widget: QLineEdit | QComboBox | FieldBox, help_line: str) -> None:
        """One setting with what it means."""
        row = self.grid.rowCount()
        note = QLabel(help_line, wordWrap=True)
        note.setProperty("role", "muted")
        self.grid.addWidget(QLabel(title, wordWrap=True), row, 0)
        self.grid.addWidget(widget, row, 1)
        self.grid.addWidget(note, row + 1, 0, 1, 2)


class SettingsPage(SidePage):
    """The settings of the person at this computer."""

    def __init__(self, desk: Desk, change: Callable[[str, str], None], back: Callable[[], object]) -> None:
        super().__init__("Settings", "They hold for you on this computer, in every workspace.", back)
        self.boxes: dict[str, QLineEdit | QComboBox] = {}
        for setting in SETTINGS:
            value = getattr(desk.settings, setting.name)
            if setting.choices:
                box = QComboBox()
                box.addItems(setting.choices)
                box.setCurrentText(value)
                box.activated.connect(lambda _=0, name=setting.name, box=box: change(name, box.currentText()))
                self.boxes[setting.name] = box
            else:
                line = QLineEdit(value)
                line.setMaxLength(100)
                line.editingFinished.connect(lambda name=setting.name, line=line: change(name, line.text().strip()))
                self.boxes[setting.name] = line
            self.boxes[setting.name].setAccessibleName(setting.title)
            self.add_row(setting.title, self.boxes[setting.name], setting.help)


class RulesPage(SidePage):
    """The shop's thresholds of judgement."""

    def __init__(self, desk: Desk, back: Callable[[], object]) -> None:
        words = "Thresholds that every recipe of this workspace is judged by. All start as estimates; set your own."
        super().__init__("Rules of judgement", words, back)
        self.boxes: dict[str, FieldBox] = {}
        for field in attrs.fields(Rules):
            box = FieldBox(desk, f"rules.{field.name}")
            self.boxes[field.name] = box
            self.add_row(field.metadata["title"], box, f"{field.metadata['help']}. Starts at {field.default:g}.")
