"""One lot beside the list: its water, its spool with what is left, or its label."""

from PySide6.QtWidgets import QFrame, QVBoxLayout

from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.rooms.lot.label import LotLabel
from kaustos.ui.rooms.lot.spool import LotSpool
from kaustos.ui.rooms.lot.water import LotWater


class LotForm(QFrame):
    """Three pages of one lot; only the one that is shown takes room."""

    def __init__(self, desk: Desk, devices: LiveDevices) -> None:
        super().__init__()
        self._desk = desk
        self.lot: str | None = None
        self.water, self.spool, self.label = LotWater(desk, devices), LotSpool(desk), LotLabel(desk)
        self._pages = (self.water, self.spool, self.label)
        self.switches, row = switches(("Water", "Spool and filament", "Label"), self._on_page)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 8, 0)
        column.setSpacing(8)
        column.addLayout(row)
        for page in self._pages:
            column.addWidget(page, 1)
        self._on_page(0)

    def _on_page(self, place: int) -> None:
        for at, page in enumerate(self._pages):
            page.setVisible(at == place)
        self._place = place
        self.follow(self.lot)

    def follow(self, key: str | None) -> None:
        """Show another lot."""
        self.lot = key
        self.setVisible(key is not None)
        if key is not None:
            self._pages[self._place].follow(key, self._desk.workspace.draft.records.lots[key])
