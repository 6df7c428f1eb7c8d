"""Forms from declarations: which fields, of what; titles, words and kinds of box come from the records themselves."""

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QWidget

from kaustos.app.field_kinds import choices_of, quantity_of
from kaustos.app.records import Address, path_of
from kaustos.core.records import BY_ONE, Place, declared
from kaustos.library import load
from kaustos.ui.desk import Desk
from kaustos.ui.fields import ChoiceBox, FieldBox
from kaustos.ui.look.text import Label

NUMBER_WIDTH = 98  # "not recorded" fits


class ChosenBox(ChoiceBox):
    """Which record of a kind the open recipe is judged with: those in use, and the one that is chosen."""

    def __init__(self, desk: Desk, kind: str, nothing: str = "") -> None:
        self._kind = BY_ONE[kind]
        super().__init__(desk, f"context.{kind}", {})
        if nothing:
            self.setItemText(0, nothing)

    def show_value(self) -> None:
        """Know the records of now."""
        if self._desk.has_recipe:
            records = self._desk.workspace.draft.records
            chosen = records.card.chosen.get(self._kind.one)
            table = records.tables[self._kind.many]
            names = [(each.name, key) for key, each in table.items() if not each.retired or key == chosen]
            if [(self.itemText(at), self.itemData(at)) for at in range(1, self.count())] != names:
                while self.count() > 1:
                    self.removeItem(1)
                for name, key in names:
                    self.addItem(name, key)
        super().show_value()


class PolymerBox(ChoiceBox):
    """Which polymer: of the library, or the shop's own."""

    def __init__(self, desk: Desk, address: Address) -> None:
        self._known: object = None
        super().__init__(desk, address, {})

    def show_value(self) -> None:
        """Know the polymers of now."""
        polymers = self._desk.workspace.draft.records.polymers
        if polymers != self._known:
            self._known = polymers
            while self.count() > 1:
                self.removeItem(1)
            for name, key in sorted((each.name, key) for key, each in polymers.items()):
                self.addItem(name, key)
        super().show_value()


Box = FieldBox | ChoiceBox


def box_for(desk: Desk, address: Address) -> Box:
    """The box that a field is shown and typed in."""
    path = path_of(address)
    head, _, rest = path.partition(".")
    if head == "context":
        return ChosenBox(desk, rest)
    if path == "polymer":
        return PolymerBox(desk, address)
    if path == "own_polymer.based_on":
        return ChoiceBox(desk, address, {key: each.name for key, each in load().polymers.items()})
    found = declared(path)
    if choices_of(path) or (found is not None and found.metadata.get("flag")):
        return ChoiceBox(desk, address)
    return FieldBox(desk, address, NUMBER_WIDTH if quantity_of(path) else 0)


def title_of(path: str) -> str:
    """What stands beside a field."""
    found = declared(path)
    title = str(found.metadata.get("short") or found.metadata.get("title") or "") if found is not None else ""
    return title or path.split(".")[-1].replace("_", " ").capitalize()


class Form(QWidget):
    """Fields beside their titles, in columns; of the open recipe, or of one record of a kind after another."""

    def __init__(self, desk: Desk, fields: Sequence[str], kind: str = "", columns: int = 2,
                 whole_row: Sequence[str] = ()) -> None:  # fmt: skip
        super().__init__()
        self._desk, self._fields, self._kind = desk, tuple(fields), kind
        self.boxes: dict[str, Box] = {}
        self.titles: dict[str, Label] = {}
        self.grid = QGridLayout(self)
        self.grid.setContentsMargins(0, 0, 0, 0)
        self.grid.setHorizontalSpacing(8)
        self.grid.setVerticalSpacing(4)
        self.grid.setColumnStretch(2 * columns, 1)  # what is left over is left at the end, fields stay beside titles
        self._columns, self._whole_row = columns, frozenset(whole_row)
        if not kind:
            self._build(None)

    def follow(self, key: str) -> None:
        """Show another record of the kind."""
        if not self.boxes:
            self._build(key)
            return
        for field, box in self.boxes.items():
            box.follow(self._address(field, key))

    def show_field(self, path: str) -> bool:
        """Lead to a field by its path; False where it does not stand here."""
        box = next((box for box in self.boxes.values() if path_of(box.path) == path), None)
        if box is not None:
            (box.edit if isinstance(box, FieldBox) else box).setFocus()
        return box is not None

    def _address(self, field: str, key: str | None) -> Address:
        return field if key is None else Place(self._kind, key, field)

    def _build(self, key: str | None) -> None:
        place = 0
        for field in self._fields:
            address = self._address(field, key)
            whole = field in self._whole_row
            place += -place % self._columns if whole else 0
            row, column = divmod(place, self._columns)
            self.titles[field] = Label(title_of(path_of(address)))
            self.boxes[field] = box_for(self._desk, address)
            self.grid.addWidget(self.titles[field], row, 2 * column, Qt.AlignmentFlag.AlignTop)
            self.grid.addWidget(self.boxes[field], row, 2 * column + 1, 1, 2 * self._columns if whole else 1)
            self.boxes[field].show()  # at once, so that it takes the focus now
            self.titles[field].setMinimumHeight(28)
            place += self._columns if whole else 1
