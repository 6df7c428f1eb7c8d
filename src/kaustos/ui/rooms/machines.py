"""The machines of the shop: what each reaches and what holds it back; a short form for a new one."""

from collections import Counter
from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFrame,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
)

from kaustos.app.device_log import Entry
from kaustos.app.recipes import new_machine, retire
from kaustos.core.planning.reach import reach_of
from kaustos.core.records import Machine, Place
from kaustos.library import load
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.leading import lead
from kaustos.ui.look.text import Label, Line
from kaustos.ui.rooms.machine.chamber import ChamberPage
from kaustos.ui.rooms.machine.history import HistoryPage
from kaustos.ui.rooms.machine.limits import LimitsPage
from kaustos.ui.rooms.machine.page import MachinePage
from kaustos.ui.rooms.machine.panel import PanelPage
from kaustos.ui.rooms.machine.passport import PassportPage
from kaustos.ui.rooms.machine.plate import PlatePage
from kaustos.ui.rooms.machine.steps import StepsPage
from kaustos.ui.rooms.machine.upgrade import UpgradePage
from kaustos.ui.rooms.room import Room
from kaustos.ui.tables import Listing, Row

ORDER = ("nozzle", "plate", "chamber")
LIST_HEIGHT = 166


class MachinesRoom(Room):
    """The list, and the whole record of the chosen machine."""

    def __init__(self, desk: Desk, live: LiveDevices) -> None:
        super().__init__(
            desk, "Machines", "The weakest part of each zone is its reach.",
            "There is no machine yet. Name the first one below; start from a typical one, or from nothing: what you do "
            "not know stays not recorded.",
        )  # fmt: skip
        self.retired = QCheckBox("Show retired")
        self.retired.toggled.connect(self.refresh)
        self.top.addWidget(self.retired)
        self.retiring = self.button("Retire", self._on_retire, "Out of the lists; its runs stay")
        self.device = self.button(
            "Start simulated devices", self._on_device, "A dryer that speaks Modbus TCP, a scale, a logger"
        )
        self.live = live
        self.live.looked.connect(self._on_looked)
        self.shown = Label()
        self.shown.setProperty("role", "muted")
        self.shown.hide()
        self.column.insertWidget(1, self.shown)
        self.list = Listing(desk, "machines", ("Machine", "Nozzle", "Plate", "Chamber", "Recipes", "Runs"), 0)
        self.list.chosen.connect(self._on_chosen)
        self.form = MachineForm(desk)
        self.list.setFixedHeight(LIST_HEIGHT)
        self.column.addWidget(self.list)
        self.column.addWidget(self.form, 1)
        self.beginning = _Beginning(desk, self._on_begun)
        self.column.addWidget(self.beginning)

    def refresh(self) -> None:
        """Follow the desk."""
        records = self.desk.workspace.draft.records
        shown = {key: each for key, each in records.machines.items() if self.retired.isChecked() or not each.retired}
        self.show_empty(not records.machines, self.list)
        recipes = Counter(card.machine for card in records.cards.values() if not card.retired)
        runs = Counter(run.machine for run in records.runs.values() if not run.retired)
        self.list.show_keys(
            tuple(shown),
            lambda key: self._row(key, shown[key], recipes[key], runs[key]),
            lambda key: (shown[key], records.rules, recipes[key], runs[key], self.desk.wording),
        )
        self.beginning.refresh()
        if shown:
            mine = records.card.machine if records.current else None
            self.list.choose_first(mine if mine in shown else next(iter(shown)))
        self._on_chosen()

    def choose(self, key: str) -> None:
        """Show one machine."""
        self.refresh()
        self.list.choose(key)

    def lead_to(self, place: Place) -> bool:
        """Set the focus into what takes a value of a machine, on whichever page it stands."""
        self.choose(place.key)
        return lead(self.form, self.form.switches, place, self.desk.workspace.draft.records)

    def take_log_of(self, machine: str, file: Path) -> None:
        """Read a log of temperatures for a machine, on the page where it stands."""
        self.choose(machine)
        self.form.switches[LOG_PAGE].click()
        page = self.form.page
        assert isinstance(page, ChamberPage)
        page.take(file)

    def begin(self) -> None:
        """Go to the name of a new machine."""
        self.beginning.name.setFocus()

    def _on_device(self) -> None:
        if self.live.is_running:
            self.stop_devices()
            return
        recipe = self.desk.workspace.draft.records.card.recipe if self.desk.has_recipe else None
        self.live.start(recipe.stock.dryer_c or 60.0 if recipe else 60.0)
        self.device.setText("Stop simulated devices")
        self.shown.show()

    def stop_devices(self) -> None:
        """End what was started here."""
        self.live.stop()
        self.device.setText("Start simulated devices")
        self.shown.hide()

    def _on_looked(self, entry: object) -> None:
        assert isinstance(entry, Entry)
        count = len(self.live.log.entries) if self.live.log else 0
        words = entry.words(self.desk.wording)
        self.shown.setText(
            f"Listening on 127.0.0.1:{self.live.port}, logged {count} time{'' if count == 1 else 's'}. {words}"
        )

    def _row(self, key: str, machine: Machine, recipes: int, runs: int) -> Row:
        records, wording = self.desk.workspace.draft.records, self.desk.wording
        words, values = [], []
        for zone in ORDER:
            reach = reach_of(machine, zone, records.rules)
            known = reach.bottleneck
            words.append(f"{wording.value(known.max_c, 'temperature')}, {known.title}" if known else "not recorded")
            values.append(known.max_c if known else None)
        name = machine.name + (" (retired)" if machine.retired else "")
        return Row(key, (name, *words, str(recipes), str(runs)), (None, *values, recipes, runs))

    def _chosen(self) -> str | None:
        return next(iter(self.list.chosen_keys()), None)

    def _on_chosen(self) -> None:
        key = self._chosen()
        self.form.follow(key)
        self.retiring.setEnabled(key is not None)
        if key is not None:
            self.retiring.setText("Bring back" if self.desk.workspace.draft.records.machines[key].retired else "Retire")

    def _on_retire(self) -> None:
        key = self._chosen()
        if key is not None:
            retired = self.desk.workspace.draft.records.machines[key].retired
            retire(self.desk.workspace, "machines", key, retired=not retired)

    def _on_begun(self, name: str, like: str | None) -> None:
        self.choose(new_machine(self.desk.workspace, name, like))


PAGES: tuple[tuple[str, Callable[[Desk], MachinePage]], ...] = (
    ("Limits", LimitsPage),
    ("Passport", PassportPage),
    ("Changes", HistoryPage),
    ("Heat steps", StepsPage),
    ("Chamber and logs", ChamberPage),
    ("Plate", PlatePage),
    ("Panel", PanelPage),
    ("Upgrade", UpgradePage),
)


LOG_PAGE = next(place for place, (_, page) in enumerate(PAGES) if page is ChamberPage)


class MachineForm(QFrame):
    """One machine, a page at a time; a page is made when it is first looked at."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.key: str | None = None
        self.pages = QStackedWidget()
        self._made: dict[int, MachinePage] = {}
        self.switches, row = switches(tuple(title for title, _ in PAGES), self.turn_to)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addLayout(row)
        column.addWidget(self.pages, 1)
        self.turn_to(0)

    @property
    def page(self) -> MachinePage:
        """The page that is shown."""
        page = self.pages.currentWidget()
        assert isinstance(page, MachinePage)
        return page

    def turn_to(self, place: int) -> None:
        """Show another page of the machine."""
        if place not in self._made:
            self._made[place] = PAGES[place][1](self._desk)
            self.pages.addWidget(self._made[place])
        self.pages.setCurrentWidget(self._made[place])
        self.follow(self.key)

    def follow(self, key: str | None) -> None:
        """Show another machine."""
        self.setVisible(key is not None)
        self.key = key
        if key is not None:
            self.page.follow(key)


class _Beginning(QFrame):
    """Begins a machine from a name, like another one or from nothing."""

    def __init__(self, desk: Desk, make: Callable[[str, str | None], None]) -> None:
        super().__init__()
        self._desk, self._make = desk, make
        self.name = Line()
        self.name.setPlaceholderText("Name of the new machine")
        self.name.setAccessibleName("Name of the new machine")
        self.name.setMaxLength(200)
        self.like = QComboBox()
        self.like.setAccessibleName("Start the new machine from")
        make_it = QPushButton("Make")
        make_it.clicked.connect(self._on_make)
        self.name.returnPressed.connect(self._on_make)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        for widget in (Label("New machine"), self.name, Label("starting from"), self.like, make_it):
            row.addWidget(widget, 1 if widget is self.name else 0)

    def refresh(self) -> None:
        """Know the machines of now."""
        mine = self._desk.workspace.draft.records.machines
        typical = [(each.name, key) for key, each in load().machines.items() if key not in mine]
        items = [("nothing known", ""), *[(each.name, key) for key, each in mine.items()], *typical]
        if [(self.like.itemText(at), self.like.itemData(at)) for at in range(self.like.count())] != items:
            self.like.clear()
            for words, key in items:
                self.like.addItem(words, key)

    def _on_make(self) -> None:
        name, like = self.name.text(), self.like.currentData() or None

        def make() -> None:
            self._make(name, like)
            self.name.clear()

        self._desk.run(make)
