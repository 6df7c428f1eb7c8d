"""A lot's water: where it was, what it weighed, what its strand showed, and what that tells."""

from datetime import datetime
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QLineEdit, QPushButton, QVBoxLayout, QWidget

from kaustos.app.clock import read_past
from kaustos.app.drying import drying_ways
from kaustos.app.humid import read_humidity
from kaustos.app.lot_state import desiccant_day
from kaustos.app.stock import add_stay, add_weighing, drop_stay, drop_weighing, fresh_desiccant
from kaustos.app.weighing import told_by_weighings, told_words, use_own_diffusivity
from kaustos.app.wording import when_words
from kaustos.core.records import STAYS, Lot, Stay
from kaustos.devices import GROSS, HUMIDITY, TEMPERATURE, Channel
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.leading import answering
from kaustos.ui.look.text import Label
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
        self.dates = Label()
        self.dates.setProperty("role", "muted")
        self.desiccant, self.told = Label(wordWrap=True), Label(wordWrap=True)
        self.use = QPushButton("Dry by its own weighings from now on")
        self.use.clicked.connect(lambda: desk.run(lambda: use_own_diffusivity(desk.workspace, self.lot or "")))
        self.place = QComboBox()
        self.place.setAccessibleName("Where the spool is now")
        self._changing: dict[str, int] = {}  # which row of a log is being corrected, by log
        self.since = entry("since: now", "Since when it is there", 96)
        self.celsius = entry(unit, "Temperature there", 50)
        self.humidity = entry("% or dp", "Humidity there, or its dew point", 58)
        self.gross = entry("gross, such as 1012 g", "Gross weight", 136)
        self.weighed_at = entry("at: now", "When it was weighed", 96)
        self.read_scale = push("Read scale", self._on_read_scale)
        for line in (self.gross, self.weighed_at):
            line.returnPressed.connect(self._on_weigh)
        self.read_dryer, self.log_stay = push("Read", self._on_read_dryer), push("Log", self._on_stay)
        self.read_dryer.setToolTip("What the dryer shows now: it is in there, at that temperature and humidity")
        self.fresh = push("Put in fresh", self._on_desiccant)
        for widget, field in ((self.since, "stays"), (self.gross, "weighings"), (self.fresh, "desiccant_utc")):
            answering(widget, field)
        self.strand = LotStrand(desk)
        self.ways = Label(wordWrap=True)
        self.ways.setProperty("role", "muted")
        self._lay_out()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(row_of(heading("Where it was"), self.dates))
        column.addWidget(self.stays)
        column.addLayout(row_of("Now in", self.place, self.since, self.celsius, self.humidity))
        stays = (push("Change", self._on_change_stay), push("Take out", self._on_drop_stay))
        stays[0].setToolTip("Correct the chosen stay")
        stays[1].setToolTip("Take the chosen stay out")
        column.addLayout(row_of("", self.read_dryer, self.log_stay, *stays))
        column.addWidget(self.ways)
        box = row_of(self.desiccant, self.fresh)
        box.setStretch(0, 1)
        column.addLayout(box)
        column.addWidget(heading("Weighings"))
        column.addWidget(self.weighings)
        column.addLayout(row_of("Weighed", self.gross, self.weighed_at, self.read_scale))
        weighings = (push("Change", self._on_change_weighing), push("Take out", self._on_drop_weighing))
        for button, words in zip(
            weighings, ("Correct the chosen weighing", "Take the chosen weighing out"), strict=True
        ):
            button.setToolTip(words)
        column.addLayout(row_of("", push("Log", self._on_weigh), *weighings))
        column.addWidget(self.told)
        column.addWidget(self.use, 0, Qt.AlignmentFlag.AlignLeft)
        column.addWidget(self.strand)
        column.addStretch()

    def follow(self, key: str, lot: Lot) -> None:
        """Show another lot."""
        if key != self.lot:
            self._changing.clear()
        self.lot = key
        self._show_places()
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
                    when_words(stay.from_utc), self._place_words(stay),
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
        self.ways.setText(drying_ways(self._desk.workspace, lot))

    def _show_told(self, lot: Lot) -> None:
        told = told_by_weighings(self._desk.workspace, lot)
        self.told.setText(told_words(told, lot, self._desk.wording))
        self.use.setVisible(told.own is not None)

    def _place_words(self, stay: Stay) -> str:
        dryer = self._desk.workspace.draft.records.dryers.get(stay.dryer or "")
        return dryer.name if dryer else STAYS[stay.place]

    def _show_places(self) -> None:
        """Every place, the dryers of the shop by their names."""
        dryers = self._desk.workspace.draft.records.dryers.values()
        items = [(words, key) for key, words in STAYS.items()]
        items += [(each.name, f"dryer/{each.id}") for each in dryers if not each.retired]
        if [(self.place.itemText(at), self.place.itemData(at)) for at in range(self.place.count())] != items:
            self.place.clear()
            for words, data in items:
                self.place.addItem(words, data)

    # ---- logging

    def _on_stay(self) -> None:
        def log() -> None:
            when = self._when(self.since)
            celsius = self._entered(self.celsius, "temperature")
            air_c = self._desk.workspace.draft.records.rules.room_c if celsius is None else celsius
            humidity = read_humidity(self.humidity.text(), air_c) if self.humidity.text().strip() else None
            place, _, dryer = str(self.place.currentData()).partition("/")
            add_stay(self._desk.workspace, self.lot or "", place, when, celsius, humidity, dryer,
                     self._changing.get("stays"))  # fmt: skip
            self._changing.pop("stays", None)
            for line in (self.since, self.celsius, self.humidity):
                line.clear()

        if self.lot is not None:
            self._desk.run(log)

    def _chosen(self, log: str) -> int | None:
        """Which entry of a log is chosen; the newest stands first in its table."""
        table = self.stays if log == "stays" else self.weighings
        row = table.currentRow()
        return table.rowCount() - 1 - row if self.lot is not None and row >= 0 else None

    def _entry(self, log: str) -> Any:
        place = self._chosen(log)
        if place is None:
            self._desk.messages.note("Choose the entry in the table first.")
            return None
        self._changing[log] = place
        return getattr(self._desk.workspace.draft.records.lots[self.lot or ""], log)[place]

    def _on_change_stay(self) -> None:
        """Put the chosen stay into the fields; Log puts it back corrected."""
        stay, wording = self._entry("stays"), self._desk.wording
        if stay is None:
            return
        self.place.setCurrentIndex(max(0, self.place.findData(f"dryer/{stay.dryer}" if stay.dryer else stay.place)))
        self.since.setText(when_words(stay.from_utc))
        self.celsius.setText("" if stay.temperature_c is None else wording.number(stay.temperature_c, "temperature"))
        self.humidity.setText("" if stay.humidity_pct is None else wording.number(stay.humidity_pct, "share"))
        self.since.setFocus()

    def _on_change_weighing(self) -> None:
        """Put the chosen weighing into the fields; Log puts it back corrected."""
        weighing = self._entry("weighings")
        if weighing is None:
            return
        self.gross.setText(f"{weighing.gross_g:g} g" if weighing.gross_g is not None else "")
        self.weighed_at.setText(when_words(weighing.at_utc))
        self.gross.setFocus()

    def _on_drop_stay(self) -> None:
        place = self._chosen("stays")
        if place is not None:
            self._desk.run(lambda: drop_stay(self._desk.workspace, self.lot or "", place))

    def _on_drop_weighing(self) -> None:
        place = self._chosen("weighings")
        if place is not None:
            self._desk.run(lambda: drop_weighing(self._desk.workspace, self.lot or "", place))

    def _on_desiccant(self) -> None:
        def log() -> None:
            fresh_desiccant(self._desk.workspace, self.lot or "", self._when(self.since))
            self.since.clear()

        if self.lot is not None:
            self._desk.run(log)

    def _entered(self, line: QLineEdit, quantity: str) -> float | None:
        """What is typed, in the user's unit where it says none; None for nothing."""
        return self._desk.wording.read(line.text(), quantity) if line.text().strip() else None

    def _when(self, line: QLineEdit) -> datetime:
        """The moment that is typed, else now."""
        now = self._desk.workspace.clock()
        return read_past(line.text(), now) if line.text().strip() else now

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
            when = self._when(self.weighed_at)
            add_weighing(self._desk.workspace, self.lot or "", gross, when, instead_of=self._changing.get("weighings"))
            self._changing.pop("weighings", None)
            self.gross.clear()
            self.weighed_at.clear()

        if self.lot is not None:
            self._desk.run(log)
