"""Stands in the place of the window where a workspace cannot be opened: why, and which earlier state can come back."""

from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QListWidget, QListWidgetItem, QPushButton, QVBoxLayout, QWidget

from kaustos.app.clock import moment_words
from kaustos.core.errors import KaustosError
from kaustos.disk import name_of
from kaustos.store import backups_of
from kaustos.ui.files import WORKSPACE_FILES, named
from kaustos.ui.look.text import Label

Open = Callable[[Path], QWidget]


class CannotOpen(QWidget):
    """The fault, the earlier states with the newest chosen, and the ways on; nothing is touched until one is taken."""

    def __init__(self, file: Path, fault: str, open_one: Open, clock: Callable[[], datetime]) -> None:
        super().__init__()
        self._file, self._open, self._clock = file, open_one, clock
        self.setObjectName("body")
        self.setWindowTitle(f"{file.stem}: Kaustos")
        self.resize(900, 460)
        heading = Label(f"{name_of(file)} cannot be opened")
        heading.setProperty("role", "heading")
        self.fault = Label(fault, wordWrap=True)
        self.fault.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.states = QListWidget()
        self.states.setAccessibleName("Earlier states")
        for each in backups_of(file):
            item = QListWidgetItem(f"{moment_words(each.at)}   {each.why}   {each.size / 1e6:.1f} MB")
            item.setData(Qt.ItemDataRole.UserRole, str(each.file))
            self.states.addItem(item)
        has_states = self.states.count() > 0
        words = (
            "Earlier states, the newest first. What cannot be opened is kept beside the one that comes back."
            if has_states
            else "There is no earlier state beside it."
        )
        self.back = QPushButton("Bring back this state")
        self.back.setEnabled(has_states)
        self.back.clicked.connect(self.bring_back)
        self.states.itemActivated.connect(lambda _: self.bring_back())
        again, other, new, end = (
            QPushButton(each) for each in ("Try again", "Open another workspace", "Begin an empty one", "Close")
        )
        again.clicked.connect(lambda: self._go_on(file))
        other.clicked.connect(self._ask_other)
        new.clicked.connect(self._ask_new)
        end.clicked.connect(self.close)
        row = QHBoxLayout()
        for button in (self.back, again, other, new, end):
            row.addWidget(button)
        row.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 16)
        column.setSpacing(10)
        for widget in (heading, self.fault, Label(words, wordWrap=True)):
            column.addWidget(widget)
        column.addWidget(self.states, 1)
        column.addLayout(row)
        if has_states:
            self.states.setCurrentRow(0)
            self.states.setFocus()

    def bring_back(self) -> None:
        """Put the chosen state in the place of what cannot be opened, and open it."""
        from kaustos.app.restore import restore

        item = self.states.currentItem()
        if item is None:
            return
        try:
            restore(self._file, Path(item.data(Qt.ItemDataRole.UserRole)), self._clock())
        except (KaustosError, OSError) as error:
            self.fault.setText(str(error))
            return
        self._go_on(self._file)

    def _go_on(self, file: Path) -> None:
        try:
            self._open(file)
        except (KaustosError, OSError) as error:
            self.fault.setText(str(error))
            return
        self.close()

    def _ask_other(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open workspace", "", WORKSPACE_FILES)
        if name:
            self._go_on(Path(name))

    def _ask_new(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "New workspace", "shop.kaustos", WORKSPACE_FILES)
        if name:
            self._go_on(named(name))
