"""The stock room: lots on their spools, how wet and how full they are, and the dryers."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from kaustos.app.clock import read_past
from kaustos.app.quantities import read
from kaustos.app.recipes import retire
from kaustos.app.stock import (
    add_stay,
    add_weighing,
    new_dryer,
    new_lot,
    state_of,
    told_by_weighings,
    use_own_diffusivity,
)
from kaustos.app.wording import when_words
from kaustos.core.errors import KaustosError
from kaustos.core.records import AIRS, STAYS, Lot
from kaustos.library import load
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.fields import ChoiceBox, FieldBox
from kaustos.ui.photos import PhotoLabel, ask_photo, keep_photo
from kaustos.ui.rooms.room import Room
from kaustos.ui.tables import Listing, Row


class StockRoom(Room):
    """Lots, or dryers; the chosen one whole beside the list."""

    def __init__(self, desk: Desk, devices: LiveDevices) -> None:
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
        self.switches, row = switches(("Lots on their spools", "Dryers"), self._on_page)
        self.column.insertLayout(1, row)
        self.column.addWidget(self.pages, 1)
        self.lots, self.dryers = _Lots(desk, devices), _Dryers(desk)
        for page in (self.lots, self.dryers):
            self.pages.addWidget(page)
            page.list.chosen.connect(self._say_retired)
        self.list = self.lots.list

    def refresh(self) -> None:
        """Follow the desk."""
        records = self.desk.workspace.draft.records
        self.empty.setVisible(not records.lots and self.pages.currentIndex() == 0)
        self.lots.refresh(retired=self.retired.isChecked())
        self.dryers.refresh(retired=self.retired.isChecked())
        self._say_retired()

    def choose(self, key: str) -> None:
        """Show one lot."""
        self.switches[0].click()
        self.refresh()
        self.list.choose(key)

    def take_photo(self, file: Path) -> None:
        """Keep a photo of its label with the chosen lot."""
        lot = self.lots.form.lot
        if lot is None:
            raise KaustosError("Choose the lot whose label this is.")
        keep_photo(self.desk, f"lots/{lot}", file, self.desk.workspace.draft.records.lots[lot].name)

    def _on_photo(self) -> None:
        file = ask_photo(self)
        if file is not None:
            self.desk.run(lambda: self.take_photo(file))

    def _on_page(self, place: int) -> None:
        self.pages.setCurrentIndex(place)
        self._say_retired()

    def _shown(self) -> tuple[str, str | None]:
        page = self.pages.currentWidget()
        assert isinstance(page, (_Lots, _Dryers))
        kind = "lots" if page is self.lots else "dryers"
        return kind, next(iter(page.list.chosen_keys()), None)

    def _say_retired(self) -> None:
        kind, key = self._shown()
        self.photo.setVisible(kind == "lots")
        self.retiring.setEnabled(key is not None)
        record = getattr(self.desk.workspace.draft.records, kind).get(key) if key else None
        self.retiring.setText("Bring back" if record is not None and record.retired else "Retire")

    def _on_retire(self) -> None:
        kind, key = self._shown()
        if key is not None:
            record = getattr(self.desk.workspace.draft.records, kind)[key]
            retire(self.desk.workspace, kind, key, retired=not record.retired)


class _Lots(QWidget):
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
        self.beginning = _NewLot(desk, self.list.choose)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(middle, 1)
        column.addWidget(self.beginning)

    def refresh(self, *, retired: bool) -> None:
        lots = {key: lot for key, lot in self._desk.workspace.draft.records.lots.items() if retired or not lot.retired}
        self.list.show_rows([self._row(key, lot) for key, lot in lots.items()])
        if lots and not self.list.chosen_keys():
            mine = self._desk.workspace.draft.records.card.lot if self._desk.has_recipe else None
            self.list.choose(mine if mine in lots else next(iter(lots)))
        self._on_chosen()

    def _row(self, key: str, lot: Lot) -> Row:
        wording, state = self._desk.wording, state_of(self._desk.workspace, lot)
        polymer = load().polymers.get(lot.polymer or "")
        moisture, sort = "not known", None
        if state.moisture:
            likely, low, high = state.moisture
            moisture = f"{wording.number(likely, 'moisture')} ({wording.number(low, 'moisture')} to "
            moisture += f"{wording.number(high, 'moisture')}) %"
            sort = likely
        low_mark = lot.reorder_g is not None and state.left_g is not None and state.left_g < lot.reorder_g
        word = state.word + (", order" if low_mark else "") + (", retired" if lot.retired else "")
        cells = (
            lot.name, lot.grade, lot.colour or "not recorded", polymer.name if polymer else "not recorded",
            "not known" if state.left_g is None else wording.value(state.left_g, "mass"),
            "" if state.worth is None else wording.value(state.worth, "money"), moisture, word,
        )  # fmt: skip
        return Row(key, cells, (None, None, None, None, state.left_g, state.worth, sort, None))

    def _on_chosen(self) -> None:
        self.form.follow(next(iter(self.list.chosen_keys()), None))


class LotForm(QFrame):
    """One lot: its spool, where it was, what it weighed, and what that tells."""

    FIELDS = (
        ("grade", "Grade"), ("name", "Lot"), ("colour", "Colour"), ("diameter", "Strand"), ("flange", "Spool body"),
        ("feed", "Fed from"), ("tare_g", "Empty spool"), ("net_g", "When full"), ("depth_mm", "Winding depth"),
        ("width_mm", "Winding width"), ("reorder_g", "Order below"), ("lead_h", "Lead time"),
    )  # fmt: skip
    CHOICES = ("diameter", "flange", "feed")

    def __init__(self, desk: Desk, devices: LiveDevices) -> None:
        super().__init__()
        self._devices = devices
        self._desk = desk
        self.lot: str | None = None
        self.boxes: dict[str, FieldBox | ChoiceBox] = {}
        self._grid = QGridLayout()
        self._grid.setVerticalSpacing(4)
        self._grid.setHorizontalSpacing(8)
        self.loaded = QComboBox()
        self.loaded.setAccessibleName("Loaded on")
        self.loaded.activated.connect(self._on_loaded)
        self.stays = _table(("From", "Where", "°C", "% humidity"), "Where the spool was")
        self.weighings = _table(("When", "Gross", "Filament"), "Weighings")
        self.dates = QLabel()
        self.dates.setProperty("role", "muted")
        self.told = QLabel(wordWrap=True)
        self.use = QPushButton("Dry by its own weighings from now on")
        self.use.clicked.connect(lambda: desk.run(lambda: use_own_diffusivity(desk.workspace, self.lot or "")))
        self.place = QComboBox()
        self.place.setAccessibleName("Where the spool is now")
        for key, words in STAYS.items():
            self.place.addItem(words, key)
        self.since, self.celsius = (
            _line("since: now", "Since when it is there", 118),
            _line("°C", "Temperature there", 60),
        )
        self.humidity = _line("% rh", "Humidity there", 60)
        self.gross = _line("gross, such as 1012 g", "Gross weight", 160)
        self.gross.returnPressed.connect(self._on_weigh)
        self.read_scale = _button("Read scale", self._on_read_scale)
        self.label_photo = PhotoLabel(desk)
        self._lay_out()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 8, 0)
        column.setSpacing(6)
        column.addLayout(self._grid)
        column.addLayout(_row(_heading("Where it was"), self.dates))
        column.addWidget(self.stays)
        column.addLayout(
            _row("Now in", self.place, self.since, self.celsius, self.humidity, _button("Log", self._on_stay))
        )
        column.addWidget(_heading("Weighings"))
        column.addWidget(self.weighings)
        column.addLayout(_row("Weighed", self.gross, self.read_scale, _button("Log", self._on_weigh)))
        column.addWidget(self.told)
        column.addWidget(self.use, 0, Qt.AlignmentFlag.AlignLeft)
        column.addWidget(self.label_photo)
        column.addStretch()

    def follow(self, key: str | None) -> None:
        """Show another lot."""
        self.lot = key
        self.setVisible(key is not None)
        if key is None:
            return
        for place, (field, words) in enumerate(self.FIELDS):
            self._follow_field(f"lots/{key}/{field}", field, words, place)
        lot = self._desk.workspace.draft.records.lots[key]
        self._show_loaded(lot)
        self._show_tables(lot)
        self.label_photo.follow(lot.photos)

    def _follow_field(self, path: str, field: str, words: str, place: int) -> None:
        if field in self.boxes:
            self.boxes[field].follow(path)
            return
        wide = {"grade": 0, "name": 128, "colour": 128}.get(field, 72)
        box = ChoiceBox(self._desk, path) if field in self.CHOICES else FieldBox(self._desk, path, wide)
        self.boxes[field] = box
        row, column = (0, 0) if field == "grade" else divmod(place + 1, 2)
        self._grid.addWidget(QLabel(words), row, 2 * column)
        self._grid.addWidget(box, row, 2 * column + 1, 1, 3 if field == "grade" else 1)
        if place == len(self.FIELDS) - 1:
            self._grid.addWidget(QLabel("Loaded on"), row, 2)
            self._grid.addWidget(self.loaded, row, 3)

    def _show_loaded(self, lot: Lot) -> None:
        machines = self._desk.workspace.draft.records.machines
        items = [("no machine", ""), *[(each.name, key) for key, each in machines.items()]]
        if [(self.loaded.itemText(at), self.loaded.itemData(at)) for at in range(self.loaded.count())] != items:
            self.loaded.clear()
            for words, key in items:
                self.loaded.addItem(words, key)
        self.loaded.setCurrentIndex(max(self.loaded.findData(lot.loaded_on or ""), 0))

    def _show_tables(self, lot: Lot) -> None:
        wording = self._desk.wording
        dates = (("received", lot.received_utc), ("opened", lot.opened_utc))
        self.dates.setText(", ".join(f"{words} {when_words(at)}" for words, at in dates if at))
        self.stays.show_rows(
            [
                (
                    when_words(stay.from_utc), STAYS[stay.place],
                    "room" if stay.temperature_c is None else wording.number(stay.temperature_c, "temperature"),
                    "not logged" if stay.humidity_pct is None else wording.number(stay.humidity_pct, "share"),
                )
                for stay in reversed(lot.stays)
            ]
        )  # fmt: skip
        self.weighings.show_rows(
            [
                (
                    when_words(each.at_utc), wording.field_value("lot.net_g", each.gross_g),
                    "not known" if lot.tare_g is None or each.gross_g is None
                    else wording.value(each.gross_g - lot.tare_g, "mass"),
                )
                for each in reversed(lot.weighings)
            ]
        )  # fmt: skip
        self._show_told(lot)

    def _show_told(self, lot: Lot) -> None:
        told, wording = told_by_weighings(self._desk.workspace, lot), self._desk.wording
        words = []
        if told.lost is not None:
            words.append(f"Water lost: {wording.estimate(told.lost.percent)}")
            words.append("" if told.lost.is_told else "the scale cannot tell it from nothing")
        if told.fit is not None and told.fit.time_constant_h is not None:
            words.append(f"time constant {wording.estimate(told.fit.time_constant_h)}")
        if told.fit is not None:
            words += list(told.fit.undetermined)
        if not words:
            words.append("Two weighings in the dryer tell the water lost, three or more a time constant of this spool")
        self.told.setText("; ".join(word for word in words if word) + ".")
        self.use.setVisible(told.own is not None)

    # ---- logging

    def _on_loaded(self) -> None:
        if self.lot is not None:
            machine = self.loaded.currentData() or None
            self._desk.tell(self._desk.set({f"lots/{self.lot}/loaded_on": machine}, title="Loaded on another machine"))

    def _on_stay(self) -> None:
        def log() -> None:
            now = self._desk.workspace.clock()
            when = read_past(self.since.text(), now) if self.since.text().strip() else now
            celsius = read(self.celsius.text(), "temperature") if self.celsius.text().strip() else None
            humidity = read(self.humidity.text(), "share") if self.humidity.text().strip() else None
            add_stay(self._desk.workspace, self.lot or "", self.place.currentData(), when, celsius, humidity)
            for line in (self.since, self.celsius, self.humidity):
                line.clear()

        if self.lot is not None:
            self._desk.run(log)

    def _on_read_scale(self) -> None:
        shown = self._devices.gross_g
        if shown is None:
            self._desk.messages.note("No scale runs. A simulated one is started in the room of machines (Ctrl+3).")
        else:
            self.gross.setText(f"{shown:g} g")
            self.gross.setFocus()

    def _on_weigh(self) -> None:
        def log() -> None:
            gross = read(self.gross.text(), "mass")
            add_weighing(self._desk.workspace, self.lot or "", gross, self._desk.workspace.clock())
            self.gross.clear()

        if self.lot is not None:
            self._desk.run(log)


class _NewLot(QFrame):
    """A lot as its label says; the polymer is found from the grade, or asked for."""

    def __init__(self, desk: Desk, made: Callable[[str], None]) -> None:
        super().__init__()
        self._desk, self._made = desk, made
        self.name, self.grade = _line("lot number", "Lot number", 120), _line("grade", "Grade on the label", 200)
        self.colour = _line("colour", "Colour", 100)
        self.polymer = QComboBox()
        self.polymer.setAccessibleName("Polymer of the new lot")
        self.polymer.addItem("polymer from the grade", "")
        for name, key in sorted((each.name, key) for key, each in load().polymers.items()):
            self.polymer.addItem(name, key)
        for line in (self.name, self.grade, self.colour):
            line.returnPressed.connect(self._on_make)
        row = _row("New lot", self.name, self.grade, self.colour, self.polymer, _button("Make", self._on_make))
        row.setContentsMargins(0, 0, 0, 0)
        self.setLayout(row)

    def _on_make(self) -> None:
        def make() -> None:
            polymer = self.polymer.currentData() or None
            made = new_lot(self._desk.workspace, self.name.text(), self.grade.text(), self.colour.text(), polymer)
            self._made(made)
            for line in (self.name, self.grade, self.colour):
                line.clear()
            self.polymer.setCurrentIndex(0)

        self._desk.run(make)


class _Dryers(QWidget):
    FIELDS = (("name", "Name"), ("max_c", "Hottest"), ("air", "Air"), ("dew_point_c", "Dew point of its air"),
              ("pressure_mbar", "Pressure"))  # fmt: skip

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.boxes: dict[str, FieldBox | ChoiceBox] = {}
        self.list = Listing(desk, "dryers", ("Dryer", "Hottest", "Air", "Recipes"), 0)
        self.list.chosen.connect(self._on_chosen)
        self._form = QFrame()
        self._grid = QGridLayout()
        column = QVBoxLayout(self._form)
        column.addLayout(self._grid)
        column.addStretch()
        self._form.setFixedWidth(420)
        self.name = _line("Name of the new dryer", "Name of the new dryer", 240)
        self.name.returnPressed.connect(self._on_make)
        middle = QHBoxLayout()
        middle.addWidget(self.list, 1)
        middle.addWidget(self._form)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addLayout(middle, 1)
        outer.addLayout(_row("New dryer", self.name, _button("Make", self._on_make)))

    def refresh(self, *, retired: bool) -> None:
        records, wording = self._desk.workspace.draft.records, self._desk.wording
        dryers = {key: each for key, each in records.dryers.items() if retired or not each.retired}
        rows = []
        for key, each in dryers.items():
            hottest = wording.field_value("dryer.max_c", each.max_c)
            recipes = sum(card.dryer == key for card in records.cards.values())
            air = AIRS.get(each.air or "", "not recorded")
            rows.append(Row(key, (each.name, hottest, air, str(recipes)), (None, each.max_c, None, recipes)))
        self.list.show_rows(rows)
        if dryers and not self.list.chosen_keys():
            self.list.choose(next(iter(dryers)))
        self._on_chosen()

    def _on_chosen(self) -> None:
        key = next(iter(self.list.chosen_keys()), None)
        self._form.setVisible(key is not None)
        for row, (field, words) in enumerate(self.FIELDS if key else ()):
            path = f"dryers/{key}/{field}"
            if field in self.boxes:
                self.boxes[field].follow(path)
                continue
            self.boxes[field] = ChoiceBox(self._desk, path) if field == "air" else FieldBox(self._desk, path, 130)
            self._grid.addWidget(QLabel(words), row, 0)
            self._grid.addWidget(self.boxes[field], row, 1)

    def _on_make(self) -> None:
        def make() -> None:
            self.list.choose(new_dryer(self._desk.workspace, self.name.text()))
            self.name.clear()

        self._desk.run(make)


def _table(headings: tuple[str, ...], name: str) -> PlainTable:
    table = PlainTable(headings)
    table.setAccessibleName(name)
    table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
    table.setFixedHeight(28 + 2 * 23 + 4)
    return table


def _line(words: str, name: str, width: int) -> QLineEdit:
    line = QLineEdit()
    line.setPlaceholderText(words)
    line.setAccessibleName(name)
    line.setFixedWidth(width)
    line.setMaxLength(200)
    return line


def _button(words: str, act: Callable[[], object]) -> QPushButton:
    button = QPushButton(words)
    button.clicked.connect(lambda: act())
    return button


def _heading(words: str) -> QLabel:
    label = QLabel(words)
    label.setProperty("role", "heading")
    return label


def _row(words: str | QLabel, *widgets: QWidget) -> QHBoxLayout:
    row = QHBoxLayout()
    row.addWidget(QLabel(words) if isinstance(words, str) else words)
    for widget in widgets:
        row.addWidget(widget)
    row.addStretch()
    return row
