"""One lot beside the list: its water, its spool with what is left, or its label."""

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QFrame, QStackedWidget, QVBoxLayout

from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.rooms.lot.label import LotLabel
from kaustos.ui.rooms.lot.spool import LotSpool
from kaustos.ui.rooms.lot.water import LotWater


class Pages(QStackedWidget):
    """Pages that are as high as the one that is shown."""

    def sizeHint(self) -> QSize:
        return self.currentWidget().sizeHint()

    def minimumSizeHint(self) -> QSize:
        return self.currentWidget().minimumSizeHint()


class LotForm(QFrame):
    """Three pages of one lot."""

    def __init__(self, desk: Desk, devices: LiveDevices) -> None:
        super().__init__()
        self._desk = desk
        self.lot: str | None = None
        self.pages = Pages()
        self.spool, self.water, self.label = LotSpool(desk), LotWater(desk, devices), LotLabel(desk)
        for page in (self.water, self.spool, self.label):
            self.pages.addWidget(page)
        self.switches, row = switches(("Water", "Spool and filament", "Label"), self._on_page)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 8, 0)
        column.setSpacing(8)
        column.addLayout(row)
        column.addWidget(self.pages, 1)

    def _on_page(self, place: int) -> None:
        self.pages.setCurrentIndex(place)
        self.pages.updateGeometry()

    def follow(self, key: str | None) -> None:
        """Show another lot."""
        self.lot = key
        self.setVisible(key is not None)
        if key is not None:
            lot = self._desk.workspace.draft.records.lots[key]
            self.spool.follow(key, lot)
            self.water.follow(key, lot)
            self.label.follow(key, lot)
