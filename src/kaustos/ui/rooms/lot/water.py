"""A lot's water: where it was, what it weighed, what its strand showed, and what that tells."""

from datetime import datetime

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from kaustos.app.clock import read_past
from kaustos.app.lot_state import desiccant_day
from kaustos.app.stock import add_stay, add_weighing, fresh_desiccant
from kaustos.app.weighing import told_by_weighings, use_own_diffusivity
from kaustos.app.wording import when_words
from kaustos.core.records import STAYS, Lot
from kaustos.devices import GROSS, HUMIDITY, TEMPERATURE, Channel
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.rooms.lot.strand import LotStrand
from kaustos.ui.rooms.parts import entry, heading, push, row_of, small_table


class LotWater(QWidget):
    """The log of one lot, with entries for what is new."""

    def __init__(self, desk: Desk, devices: LiveDevices) -> None:
        super().__init__()
        self._desk, self._devices = desk, devices
        self.lot: str | None = None
        unit = desk.wording.unit("temperature")
        self.stays = small_table(("From", "Where", unit, "% humidity"), "Where the spool was")
        self.weighings = small_table(("When", "Gross", "Filament"), "Weighings")
        self.dates = QLabel()
        self.dates.setProperty("role", "muted")
        self.desiccant, self.told = QLabel(wordWrap=True), QLabel(wordWrap=True)
        self.use = QPushButton("Dry by its own weighings from now on")
        self.use.clicked.connect(lambda: desk.run(lambda: use_own_diffusivity(desk.workspace, self.lot or "")))
        self.place = QComboBox()
        self.place.setAccessibleName("Where the spool is now")
        for key, words in STAYS.items():
            self.place.addItem(words, key)
        self.since = entry("since: now", "Since when it is there", 96)
        self.celsius = entry(unit, "Temperature there", 50)
        self.humidity = entry("% rh", "Humidity there", 50)
        self.gross = entry("gross, such as 1012 g", "Gross weight", 160)
        self.read_scale = push("Read scale", self._on_read_scale)
        self.gross.returnPressed.connect(self._on_weigh)
        self.read_dryer, self.log_stay = push("Read", self._on_read_dryer), push("Log", self._on_stay)
        self.read_dryer.setToolTip("What the dryer shows now: it is in there, at that temperature and humidity")
        self.strand = LotStrand(desk)
        self._lay_out()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(row_of(heading("Where it was"), self.dates))
        column.addWidget(self.stays)
        column.addLayout(
            row_of("Now in", self.place, self.since, self.celsius, self.humidity, self.read_dryer, self.log_stay)
        )
        box = row_of(self.desiccant, push("Put in fresh", self._on_desiccant))
        box.setStretch(0, 1)
        column.addLayout(box)
        column.addWidget(heading("Weighings"))
        column.addWidget(self.weighings)
        column.addLayout(row_of("Weighed", self.gross, self.read_scale, push("Log", self._on_weigh)))
        column.addWidget(self.told)
        column.addWidget(self.use, 0, Qt.AlignmentFlag.AlignLeft)
        column.addWidget(self.strand)
        column.addStretch()

    def follow(self, key: str, lot: Lot) -> None:
        """Show another lot."""
        self.lot = key
        self._show_tables(lot)
        self.strand.follow(key, lot)

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

    def _on_stay(self) -> None:
        def log() -> None:
            when = self._when()
            celsius, humidity = self._entered(self.celsius, "temperature"), self._entered(self.humidity, "share")
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

    def _entered(self, line: QLineEdit, quantity: str) -> float | None:
        """What is typed, in the user's unit where it says none; None for nothing."""
        return self._desk.wording.read(line.text(), quantity) if line.text().strip() else None

    def _when(self) -> datetime:
        """The moment that is typed, else now."""
        now = self._desk.workspace.clock()
        return read_past(self.since.text(), now) if self.since.text().strip() else now

    def _shown(self, channel: Channel) -> float | None:
        """What a channel of the devices showed last."""
        latest = self._devices.latest
        return latest.value(channel.name) if latest else None

    def _on_read_scale(self) -> None:
        gross_g = self._shown(GROSS)
        if gross_g is None:
            self._desk.messages.note("No scale answers. A simulated one is started in the room of machines (Ctrl+3).")
        else:
            self.gross.setText(f"{gross_g:g} g")
            self.gross.setFocus()

    def _on_read_dryer(self) -> None:
        celsius, humidity = self._shown(TEMPERATURE), self._shown(HUMIDITY)
        if celsius is None or humidity is None:
            self._desk.messages.note("No dryer answers. A simulated one is started in the room of machines (Ctrl+3).")
            return
        self.place.setCurrentIndex(self.place.findData("dryer"))
        self.celsius.setText(self._desk.wording.number(celsius, "temperature"))
        self.humidity.setText(self._desk.wording.number(humidity, "share"))

    def _on_weigh(self) -> None:
        def log() -> None:
            gross = self._desk.wording.read(self.gross.text(), "mass")
            add_weighing(self._desk.workspace, self.lot or "", gross, self._desk.workspace.clock())
            self.gross.clear()

        if self.lot is not None:
            self._desk.run(log)
