"""A page of what a shop keeps: the list of a kind, the chosen one beside it, and the line that makes a new one."""

from collections.abc import Callable, Hashable, Mapping
from typing import Any, Protocol

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QScrollArea, QVBoxLayout, QWidget

from kaustos.ui.desk import Desk
from kaustos.ui.rooms.parts import entry, push, row_of
from kaustos.ui.tables import Listing, Row


class FormOfOne(Protocol):
    """What stands beside the list."""

    def follow(self, key: str | None) -> None:
        """Show another record."""


class KeptPage(QWidget):
    """Laid out once for nozzles, plates and agents; each says its rows and how one is made."""

    def __init__(self, desk: Desk, one: str, many: str, headings: tuple[str, ...]) -> None:
        super().__init__()
        self._desk, self._one = desk, one
        self.list = Listing(desk, many, headings, 0)
        self.list.chosen.connect(self._on_chosen)
        self.name = entry("number or name", f"Name of the new {one}", 150)
        self.form: FormOfOne

    def lay_out(self, form: QWidget, width: int, *making: QWidget) -> None:
        """Put the form beside the list, and the widgets that make a new one below."""
        self.form = form  # type: ignore[assignment]
        area = QScrollArea(widgetResizable=True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(form)
        area.setFixedWidth(width)
        middle = QHBoxLayout()
        middle.setSpacing(12)
        middle.addWidget(self.list, 1)
        middle.addWidget(area)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(middle, 1)
        column.addLayout(row_of(f"New {self._one}", self.name, *making, push("Make", self._on_make)))
        for line in (self.name, *making):
            if isinstance(line, QLineEdit):
                line.returnPressed.connect(self._on_make)

    def show_kept(
        self, kept: Mapping[str, Any], row: Callable[[Any], Row], reads: Callable[[Any], Hashable], *, retired: bool
    ) -> None:
        """Show the records of now, that of the open recipe chosen where none is."""
        shown = {key: each for key, each in kept.items() if retired or not each.retired}
        self.list.show_keys(tuple(shown), lambda key: row(shown[key]), lambda key: (shown[key], reads(shown[key])))
        if shown:
            records = self._desk.workspace.draft.records
            mine = records.chosen(records.card).get(self._one) if self._desk.has_recipe else None
            self.list.choose_first(mine.id if mine and mine.id in shown else next(iter(shown)))
        self._on_chosen()

    def make_new(self) -> str:
        """Make a record of what is typed; its id."""
        raise NotImplementedError

    def _on_chosen(self) -> None:
        self.form.follow(next(iter(self.list.chosen_keys()), None))

    def _on_make(self) -> None:
        def make() -> None:
            self.list.choose(self.make_new())
            self.name.clear()

        self._desk.run(make)
