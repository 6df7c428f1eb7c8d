"""Lots on their spools: the list, how wet and how full they are, and a new one as its label says."""

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from kaustos.app.lot_state import state_of
from kaustos.app.orders import lots_to_order
from kaustos.app.stock import new_lot
from kaustos.core.records import Lot
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.rooms.lot.form import LotForm
from kaustos.ui.rooms.parts import entry, push, row_of
from kaustos.ui.tables import Listing, Row

LIST_AGES_S = 300.0


class Lots(QWidget):
    """The list of lots, the chosen one, and what a new one's label says."""

    def __init__(self, desk: Desk, devices: LiveDevices) -> None:
        super().__init__()
        self._desk = desk
        self.list = Listing(
            desk, "lots", ("Lot", "Grade", "Colour", "Polymer", "Left", "Worth", "Moisture", "State"), 1
        )
        self.list.chosen.connect(self._on_chosen)
        self.form = LotForm(desk, devices)
        area = QScrollArea(widgetResizable=True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(self.form)
        area.setFixedWidth(520)
        middle = QHBoxLayout()
        middle.setSpacing(12)
        middle.addWidget(self.list, 1)
        middle.addWidget(area)
        self.beginning = NewLot(desk, self.list.choose)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(middle, 1)
        column.addWidget(self.beginning)

    def refresh(self, *, retired: bool) -> None:
        """Follow the desk, retired ones shown or not."""
        lots = {key: lot for key, lot in self._desk.workspace.draft.records.lots.items() if retired or not lot.retired}
        self.beginning.refresh()
        due = lots_to_order(self._desk.workspace)
        records, taken = self._desk.workspace.draft.records, self._desk.workspace.shop().taken_g
        shared = (records.own_polymers, records.rules, self._desk.wording, self._moment())
        self.list.show_keys(
            tuple(lots),
            lambda key: self._row(lots[key], to_order=key in due),
            lambda key: (lots[key], taken.get(key, 0.0), key in due, *shared),
        )
        if lots:
            mine = self._desk.workspace.draft.records.card.lot if self._desk.has_recipe else None
            self.list.choose_first(mine if mine in lots else next(iter(lots)))
        self._on_chosen()

    def _moment(self) -> float:
        """The moment by which a list goes: water moves slowly, and 2,000 spools are not worked out every minute."""
        return self._desk.workspace.clock().timestamp() // LIST_AGES_S

    def _row(self, lot: Lot, *, to_order: bool) -> Row:
        wording, state = self._desk.wording, state_of(self._desk.workspace, lot)
        polymer = self._desk.workspace.draft.records.polymers.get(lot.polymer or "")
        moisture, sort = "not known", None
        if state.moisture:
            likely, low, high = state.moisture
            moisture = f"{wording.number(likely, 'moisture')} ({wording.number(low, 'moisture')} to "
            moisture += f"{wording.number(high, 'moisture')}) %"
            sort = likely
        word = state.word + (", order" if to_order else "") + (", retired" if lot.retired else "")
        cells = (
            lot.name, lot.grade, lot.colour or "not recorded", polymer.name if polymer else "not recorded",
            "not known" if state.left_g is None else wording.value(state.left_g, "mass"),
            "" if state.worth is None else wording.value(state.worth, "money"), moisture, word,
        )  # fmt: skip
        return Row(lot.id, cells, (None, None, None, None, state.left_g, state.worth, sort, None))

    def _on_chosen(self) -> None:
        self.form.follow(next(iter(self.list.chosen_keys()), None))


class NewLot(QFrame):
    """A lot as its label says; the polymer is found from the grade, or asked for."""

    def __init__(self, desk: Desk, made: Callable[[str], None]) -> None:
        super().__init__()
        self._desk, self._made = desk, made
        self.name, self.grade = entry("lot number", "Lot number", 120), entry("grade", "Grade on the label", 200)
        self.colour = entry("colour", "Colour", 100)
        self.polymer = QComboBox()
        self.polymer.setAccessibleName("Polymer of the new lot")
        self._known: object = None
        self.refresh()
        for line in (self.name, self.grade, self.colour):
            line.returnPressed.connect(self._on_make)
        row = row_of("New lot", self.name, self.grade, self.colour, self.polymer, push("Make", self._on_make))
        row.setContentsMargins(0, 0, 0, 0)
        self.setLayout(row)

    def refresh(self) -> None:
        """Know the polymers of now."""
        polymers = self._desk.workspace.draft.records.polymers
        if polymers != self._known:
            self._known = polymers
            self.polymer.clear()
            self.polymer.addItem("polymer from the grade", "")
            for name, key in sorted((each.name, key) for key, each in polymers.items()):
                self.polymer.addItem(name, key)

    def _on_make(self) -> None:
        def make() -> None:
            polymer = self.polymer.currentData() or None
            made = new_lot(self._desk.workspace, self.name.text(), self.grade.text(), self.colour.text(), polymer)
            self._made(made)
            for line in (self.name, self.grade, self.colour):
                line.clear()
            self.polymer.setCurrentIndex(0)

        self._desk.run(make)
