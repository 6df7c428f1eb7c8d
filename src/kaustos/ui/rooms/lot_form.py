"""One lot: its spool, where it was, what it weighed, and what that tells."""

from datetime import datetime

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QFrame, QGridLayout, QLabel, QPushButton, QVBoxLayout

from kaustos.app.clock import read_past
from kaustos.app.quantities import read
from kaustos.app.stock import (
    add_stay,
    add_weighing,
    desiccant_day,
    fresh_desiccant,
    told_by_weighings,
    use_own_diffusivity,
)
from kaustos.app.wording import when_words
from kaustos.core.records import STAYS, Lot
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.fields import ChoiceBox, FieldBox
from kaustos.ui.photos import PhotoLabel
from kaustos.ui.rooms.parts import entry, heading, push, row_of, small_table


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
        self.stays = small_table(("From", "Where", "°C", "% humidity"), "Where the spool was")
        self.weighings = small_table(("When", "Gross", "Filament"), "Weighings")
        self.dates = QLabel()
        self.dates.setProperty("role", "muted")
        self.desiccant = QLabel(wordWrap=True)
        self.told = QLabel(wordWrap=True)
        self.use = QPushButton("Dry by its own weighings from now on")
        self.use.clicked.connect(lambda: desk.run(lambda: use_own_diffusivity(desk.workspace, self.lot or "")))
        self.place = QComboBox()
        self.place.setAccessibleName("Where the spool is now")
        for key, words in STAYS.items():
            self.place.addItem(words, key)
        self.since, self.celsius = (
            entry("since: now", "Since when it is there", 118),
            entry("°C", "Temperature there", 60),
        )
        self.humidity = entry("% rh", "Humidity there", 60)
        self.gross = entry("gross, such as 1012 g", "Gross weight", 160)
        self.gross.returnPressed.connect(self._on_weigh)
        self.read_scale = push("Read scale", self._on_read_scale)
        self.label_photo = PhotoLabel(desk)
        self._lay_out()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 8, 0)
        column.setSpacing(6)
        column.addLayout(self._grid)
        column.addLayout(row_of(heading("Where it was"), self.dates))
        column.addWidget(self.stays)
        column.addLayout(
            row_of("Now in", self.place, self.since, self.celsius, self.humidity, push("Log", self._on_stay))
        )
        box = row_of(self.desiccant, push("Put in fresh", self._on_desiccant))
        box.setStretch(0, 1)
        column.addLayout(box)
        column.addWidget(heading("Weighings"))
        column.addWidget(self.weighings)
        column.addLayout(row_of("Weighed", self.gross, self.read_scale, push("Log", self._on_weigh)))
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
        due, put_in = desiccant_day(self._desk.workspace, lot), when_words(lot.desiccant_utc)[:10]
        words = f"put in {put_in}, change it on {wording.estimate(due)}" if due else "not logged"
        self.desiccant.setText(f"Desiccant of its dry box: {words}")
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
            least = wording.value(told.least_g, "mass")
            words.append("Two weighings while it dries tell the water lost, three or more this spool's time constant")
            words.append(f"the scale tells {least} and more")
        self.told.setText("; ".join(word for word in words if word) + ".")
        self.use.setVisible(told.own is not None)

    # ---- logging

    def _on_loaded(self) -> None:
        if self.lot is not None:
            machine = self.loaded.currentData() or None
            self._desk.tell(self._desk.set({f"lots/{self.lot}/loaded_on": machine}, title="Loaded on another machine"))

    def _on_stay(self) -> None:
        def log() -> None:
            when = self._when()
            celsius = read(self.celsius.text(), "temperature") if self.celsius.text().strip() else None
            humidity = read(self.humidity.text(), "share") if self.humidity.text().strip() else None
            add_stay(self._desk.workspace, self.lot or "", self.place.currentData(), when, celsius, humidity)
            for line in (self.since, self.celsius, self.humidity):
                line.clear()

        if self.lot is not None:
            self._desk.run(log)

    def _on_desiccant(self) -> None:
        def log() -> None:
            fresh_desiccant(self._desk.workspace, self.lot or "", self._when())
            self.since.clear()

        if self.lot is not None:
            self._desk.run(log)

    def _when(self) -> datetime:
        """The moment that is typed, else now."""
        now = self._desk.workspace.clock()
        return read_past(self.since.text(), now) if self.since.text().strip() else now

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
