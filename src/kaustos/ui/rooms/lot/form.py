"""One lot beside the list: its water, or its spool with what is left."""

from PySide6.QtWidgets import QFrame, QStackedWidget, QVBoxLayout

from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.rooms.lot.spool import LotSpool
from kaustos.ui.rooms.lot.water import LotWater


class LotForm(QFrame):
    """Two pages of one lot."""

    def __init__(self, desk: Desk, devices: LiveDevices) -> None:
        super().__init__()
        self._desk = desk
        self.lot: str | None = None
        self.spool, self.water = LotSpool(desk), LotWater(desk, devices)
        pages = QStackedWidget()
        for page in (self.water, self.spool):
            pages.addWidget(page)
        self.switches, row = switches(("Water", "Spool and filament"), pages.setCurrentIndex)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 8, 0)
        column.setSpacing(8)
        column.addLayout(row)
        column.addWidget(pages, 1)

    def follow(self, key: str | None) -> None:
        """Show another lot."""
        self.lot = key
        self.setVisible(key is not None)
        if key is not None:
            lot = self._desk.workspace.draft.records.lots[key]
            self.spool.follow(key, lot)
            self.water.follow(key, lot)
