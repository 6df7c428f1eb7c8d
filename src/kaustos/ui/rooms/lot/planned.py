"""The recipes that are planned on a lot, each with what the spool means for it; Enter opens its drying."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHeaderView, QVBoxLayout, QWidget

from kaustos.app.planned import PlannedRecipe, planned_on
from kaustos.app.wording import STANDING_WORDS
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.parts import heading


class PlannedOnLot(QWidget):
    """A short table of recipes."""

    opened = Signal(str)  # the recipe whose drying is asked for

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._found: tuple[PlannedRecipe, ...] = ()
        self.table = _Table(self)
        self.none = Label("No recipe is planned on it.")
        self.none.setProperty("role", "muted")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(heading("Planned on it"))
        column.addWidget(self.none)
        column.addWidget(self.table)

    def follow(self, key: str) -> None:
        """Show another lot's recipes."""
        self._found = planned_on(self._desk.workspace, key)
        self.none.setVisible(not self._found)
        self.table.setVisible(bool(self._found))
        rows = [(each.name, STANDING_WORDS[each.standing], each.why) for each in self._found]
        self.table.show_rows(rows, [f"{each.why}\nEnter opens its drying." for each in self._found])

    def open_row(self, row: int) -> None:
        """Ask for the drying of a row's recipe."""
        if 0 <= row < len(self._found):
            self.opened.emit(self._found[row].card)


class _Table(PlainTable):
    def __init__(self, owner: PlannedOnLot) -> None:
        super().__init__(("Recipe", "Spool", "Because"))
        self._owner = owner
        self.setAccessibleName("Recipes planned on this lot")
        self.setWordWrap(True)
        for column, width in ((0, 128), (1, 48)):
            self.horizontalHeader().resizeSection(column, width)
        self.horizontalHeader().setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.setMinimumHeight(120)
        self.doubleClicked.connect(lambda index: owner.open_row(index.row()))

    @guarded()
    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._owner.open_row(self.currentRow())
            return
        super().keyPressEvent(event)
