"""The stock room: lots on their spools, dryers, nozzles, plates, agents, baths, and what is to be ordered."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import QCheckBox, QStackedWidget, QWidget

from kaustos.app.recipes import retire
from kaustos.core.errors import KaustosError
from kaustos.core.records import Place
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.leading import lead
from kaustos.ui.photos import ask_photo, keep_photo
from kaustos.ui.rooms.agents import Agents
from kaustos.ui.rooms.baths import Baths
from kaustos.ui.rooms.dryers import Dryers
from kaustos.ui.rooms.lots import Lots
from kaustos.ui.rooms.nozzles import Nozzles
from kaustos.ui.rooms.orders import Orders
from kaustos.ui.rooms.ovens import Ovens
from kaustos.ui.rooms.plates import Plates
from kaustos.ui.rooms.room import Room
from kaustos.ui.tables import Listing

KEPT = (Lots, Dryers, Nozzles, Plates, Agents, Baths, Ovens)
PAGES = ("Lots on their spools", "Dryers", "To order", "Nozzles", "Plates", "Agents", "Baths", "Ovens")
KINDS = ("lots", "dryers", "nozzles", "plates", "agents", "baths", "ovens")


class StockRoom(Room):
    """Lots, dryers, nozzles, plates, agents, baths, or what is to be ordered."""

    def __init__(self, desk: Desk, devices: LiveDevices, show_drying: Callable[[], None]) -> None:
        super().__init__(
            desk, "Stock", "A sealed, new or unlogged spool is unknown, not dry.",
            "There is no lot yet. Type the first one below, as its label says.",
        )  # fmt: skip
        self.retired = QCheckBox("Show retired")
        self.retired.toggled.connect(self.refresh)
        self.top.addWidget(self.retired)
        self.retiring = self.button("Retire", self._on_retire, "Out of the lists; its runs stay")
        self.photo = self.button("Add label photo", self._on_photo, "A picture of the label, kept with the chosen lot")
        self.pages = QStackedWidget()
        self.switches, row = switches(PAGES, self._on_page)
        self.column.insertLayout(1, row)
        self.column.addWidget(self.pages, 1)
        self.lots, self.dryers, self.orders = Lots(desk, devices), Dryers(desk), Orders(desk)
        self.nozzles, self.plates, self.agents, self.baths = Nozzles(desk), Plates(desk), Agents(desk), Baths(desk)
        self.ovens = Ovens(desk)
        kept = (self.lots, self.dryers, self.nozzles, self.plates, self.agents, self.baths, self.ovens)
        self._kept: dict[QWidget, str] = dict(zip(kept, KINDS, strict=True))
        for page in (self.lots, self.dryers, self.orders, self.nozzles, self.plates, self.agents, self.baths,
                     self.ovens):  # fmt: skip
            self.pages.addWidget(page)
            page.list.chosen.connect(self._say_retired)
        self.orders.list.opened.connect(self._on_order_opened)
        self._show_drying = show_drying
        self.lots.form.spool.planned.opened.connect(self._on_recipe_opened)

    @property
    def list(self) -> Listing:
        """The list that is shown."""
        page = self.pages.currentWidget()
        assert isinstance(page, (Orders, *KEPT))
        return page.list

    def refresh(self) -> None:
        """Follow the desk."""
        page = self.pages.currentWidget()
        if isinstance(page, KEPT):
            page.refresh(retired=self.retired.isChecked())
        else:
            self.orders.refresh()
        self._say_retired()

    def choose(self, key: str) -> None:
        """Show one lot."""
        self.switches[0].click()
        self.lots.list.choose(key)

    @property
    def takes_log(self) -> bool:
        """Whether a load of an oven is chosen, which a logger's file belongs to."""
        return self.pages.currentWidget() is self.ovens and self.ovens.has_load

    def take_log(self, file: Path) -> None:
        """Keep a logger's file with the load that is chosen."""
        self.ovens.take_log(file)

    def lead_to(self, place: Place) -> bool:
        """Set the focus into what takes a value of a lot, dryer, nozzle, plate, agent, bath or oven."""
        page = next(each for each, kind in self._kept.items() if kind == place.kind)
        self.switches[self.pages.indexOf(page)].click()
        self.list.choose(place.key)
        turns = self.lots.form.switches if page is self.lots else ()
        return lead(page, turns, place, self.desk.workspace.draft.records)

    def take_photo(self, file: Path) -> None:
        """Keep a photo of its label with the chosen lot."""
        lot = self.lots.form.lot
        if lot is None:
            raise KaustosError("Choose the lot whose label this is.")
        keep_photo(self.desk, Place("lots", lot), file, self.desk.workspace.draft.records.lots[lot].name)

    def _on_photo(self) -> None:
        file = ask_photo(self)
        if file is not None:
            self.desk.run(lambda: self.take_photo(file))

    def _on_page(self, place: int) -> None:
        self.pages.setCurrentIndex(place)
        self.refresh()

    def _on_order_opened(self, key: str) -> None:
        if key in self.desk.workspace.draft.records.lots:
            self.choose(key)

    def _on_recipe_opened(self, card: str) -> None:
        self.desk.run(lambda: self.desk.workspace.draft.open_card(card))
        self._show_drying()

    def _shown(self) -> tuple[str, str | None]:
        page = self.pages.currentWidget()
        if not isinstance(page, KEPT):
            return "orders", None
        return self._kept[page], next(iter(page.list.chosen_keys()), None)

    def _say_retired(self) -> None:
        kind, key = self._shown()
        self.empty.setVisible(kind == "lots" and not self.desk.workspace.draft.records.lots)
        self.photo.setVisible(kind == "lots")
        for widget in (self.retiring, self.retired):
            widget.setVisible(kind != "orders")
        self.retiring.setEnabled(key is not None)
        record = None if key is None else self.desk.workspace.draft.records.tables[kind].get(key)
        self.retiring.setText("Bring back" if record is not None and record.retired else "Retire")

    def _on_retire(self) -> None:
        kind, key = self._shown()
        if key is not None:
            record = self.desk.workspace.draft.records.tables[kind][key]
            retire(self.desk.workspace, kind, key, retired=not record.retired)
