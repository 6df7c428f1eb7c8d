"""A table whose rows each carry a remedy: Enter or a double click takes it."""

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHeaderView

from kaustos.core.review import Remedy
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded


class ChoiceTable(PlainTable):
    """Rows to choose from."""

    def __init__(
        self, desk: Desk, name: str, headings: tuple[str, ...], widths: Sequence[tuple[int, int]], stretched: int = 0
    ) -> None:
        super().__init__(headings)
        self._desk = desk
        self._remedies: tuple[Remedy, ...] = ()
        self.setAccessibleName(name)
        header = self.horizontalHeader()
        header.setSectionResizeMode(stretched, QHeaderView.ResizeMode.Stretch)
        for column, width in widths:
            header.resizeSection(column, width)
        self.doubleClicked.connect(lambda index: self.take(index.row()))

    def take(self, row: int) -> None:
        """Take the remedy of a row."""
        if row < len(self._remedies):
            self._desk.apply(self._remedies[row])

    @guarded()
    def keyPressEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.currentRow() >= 0:
            self.take(self.currentRow())
            return
        super().keyPressEvent(event)
