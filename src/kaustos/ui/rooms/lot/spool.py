"""A lot's spool: grade, colour and body, where it is loaded, how much of it is free, what is planned on it."""

from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QVBoxLayout, QWidget

from kaustos.app.stock import load_on
from kaustos.core.records import Lot, Place
from kaustos.ui.desk import Desk
from kaustos.ui.fields import ChoiceBox, FieldBox
from kaustos.ui.rooms.lot.ledger import LotLedger
from kaustos.ui.rooms.lot.planned import PlannedOnLot

FIELDS = (
    ("grade", "Grade"), ("name", "Lot"), ("colour", "Colour"), ("diameter", "Strand"), ("flange", "Spool body"),
    ("feed", "Fed from"), ("tare_g", "Empty spool"), ("net_g", "When full"), ("depth_mm", "Winding depth"),
    ("width_mm", "Winding width"), ("ingredients", "Ingredients"), ("reorder_g", "Order below"),
    ("lead_h", "Lead time"),
)  # fmt: skip
CHOICES = ("diameter", "flange", "feed", "ingredients")


class LotSpool(QWidget):
    """What a lot is, and what of it is left."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.lot: str | None = None
        self.boxes: dict[str, FieldBox | ChoiceBox] = {}
        self._grid = QGridLayout()
        self._grid.setVerticalSpacing(4)
        self._grid.setHorizontalSpacing(8)
        self.loaded = QComboBox()
        self.loaded.setAccessibleName("Loaded on")
        self.loaded.activated.connect(self._on_loaded)
        self.ledger, self.planned = LotLedger(desk), PlannedOnLot(desk)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(self._grid)
        column.addWidget(self.ledger)
        column.addWidget(self.planned)
        column.addStretch()

    def follow(self, key: str, lot: Lot) -> None:
        """Show another lot."""
        self.lot = key
        for place, (field, words) in enumerate(FIELDS):
            self._follow_field(Place("lots", key, field), field, words, place)
        self._show_loaded(lot)
        self.ledger.follow(key, lot)
        self.planned.follow(key)

    def _follow_field(self, path: Place, field: str, words: str, place: int) -> None:
        if field in self.boxes:
            self.boxes[field].follow(path)
            return
        wide = {"grade": 0, "name": 128, "colour": 128}.get(field, 72)
        box = ChoiceBox(self._desk, path) if field in CHOICES else FieldBox(self._desk, path, wide)
        self.boxes[field] = box
        row, column = (0, 0) if field == "grade" else divmod(place + 1, 2)
        self._grid.addWidget(QLabel(words), row, 2 * column)
        self._grid.addWidget(box, row, 2 * column + 1, 1, 3 if field == "grade" else 1)
        if place == len(FIELDS) - 1:
            row, column = divmod(place + 2, 2)
            self._grid.addWidget(QLabel("Loaded on"), row, 2 * column)
            self._grid.addWidget(self.loaded, row, 2 * column + 1)

    def _show_loaded(self, lot: Lot) -> None:
        machines = self._desk.workspace.draft.records.machines
        items = [("no machine", ""), *[(each.name, key) for key, each in machines.items()]]
        if [(self.loaded.itemText(at), self.loaded.itemData(at)) for at in range(self.loaded.count())] != items:
            self.loaded.clear()
            for words, key in items:
                self.loaded.addItem(words, key)
        self.loaded.setCurrentIndex(max(self.loaded.findData(lot.loaded_on or ""), 0))

    def _on_loaded(self) -> None:
        if self.lot is not None:
            lot, machine = self.lot, self.loaded.currentData() or None
            self._desk.run(lambda: load_on(self._desk.workspace, lot, machine))
