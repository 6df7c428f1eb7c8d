"""A lot's spool: grade, colour and body, where it is loaded, how much of it is free, what is planned on it."""

from PySide6.QtWidgets import QComboBox, QVBoxLayout, QWidget

from kaustos.app.stock import load_on
from kaustos.core.records import Lot
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form
from kaustos.ui.leading import answering
from kaustos.ui.rooms.lot.ledger import LotLedger
from kaustos.ui.rooms.lot.planned import PlannedOnLot
from kaustos.ui.rooms.parts import row_of, show_records

FIELDS = ("grade", "name", "colour", "diameter", "flange", "feed", "tare_g", "net_g", "depth_mm", "width_mm",
          "ingredients", "filler", "recycled", "reorder_g", "lead_h")  # fmt: skip


class LotSpool(QWidget):
    """What a lot is, and what of it is left."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.lot: str | None = None
        self.form = Form(desk, FIELDS, "lots", whole_row=("grade",))
        self.loaded = QComboBox()
        self.loaded.setAccessibleName("Loaded on")
        self.loaded.activated.connect(self._on_loaded)
        answering(self.loaded, "loaded_on")
        self.ledger, self.planned = LotLedger(desk), PlannedOnLot(desk)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.form)
        column.addLayout(row_of("Loaded on", self.loaded))
        column.addWidget(self.ledger)
        column.addWidget(self.planned)
        column.addStretch()

    def follow(self, key: str, lot: Lot) -> None:
        """Show another lot."""
        self.lot = key
        self.form.follow(key)
        self._show_loaded(lot)
        self.ledger.follow(key, lot)
        self.planned.follow(key)

    def _show_loaded(self, lot: Lot) -> None:
        show_records(self.loaded, "no machine", self._desk.workspace.draft.records.machines, lot.loaded_on)

    def _on_loaded(self) -> None:
        if self.lot is not None:
            lot, machine = self.lot, self.loaded.currentData() or None
            self._desk.run(lambda: load_on(self._desk.workspace, lot, machine))
