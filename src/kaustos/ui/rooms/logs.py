"""A log of a record as a small table, the newest entry first; the chosen one can be taken out."""

from collections.abc import Callable
from typing import Any

import attrs
from PySide6.QtWidgets import QVBoxLayout, QWidget

from kaustos.app.logs import drop_entry
from kaustos.core.records import Place
from kaustos.ui.desk import Desk
from kaustos.ui.rooms.parts import heading, push, row_of, small_table


class LogTable(QWidget):
    """Entries of one log of one record after another."""

    def __init__(self, desk: Desk, title: str, headings: tuple[str, ...],
                 cells: Callable[[Any], tuple[str, ...]], lines: int = 2) -> None:  # fmt: skip
        super().__init__()
        self._desk, self._title, self._cells = desk, title, cells
        self._log: Place | None = None
        self._count = 0
        self.table = small_table(headings, title)
        self.table.setFixedHeight(28 + lines * 23 + 4)
        self.drop = push("Take out", self._on_drop)
        self.drop.setToolTip("Take the chosen entry out of the log")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        top = row_of(heading(title))
        top.addWidget(self.drop)
        column.addLayout(top)
        column.addWidget(self.table)

    def follow(self, log: Place, entries: tuple[Any, ...]) -> None:
        """Show the log of another record."""
        self._log, self._count = log, len(entries)
        self.table.show_rows([self._cells(each) for each in reversed(entries)])
        self.drop.setEnabled(bool(entries))

    def _on_drop(self) -> None:
        row, log = self.table.currentRow(), self._log
        if log is None or row < 0:
            self._desk.messages.note("Choose the entry in the table first.")
            return
        name = getattr(self._desk.workspace.draft.value(attrs.evolve(log, field="")), "name", log.key)
        title = f"{name}: {self._title.lower()}, entry taken out"
        self._desk.run(lambda: drop_entry(self._desk.workspace, log, self._count - 1 - row, title))
