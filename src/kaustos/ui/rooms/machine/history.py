"""What was changed on a machine, and which of its calibrations still stand."""

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QHeaderView, QVBoxLayout

from kaustos.app.machines import compare_heat, log_calibration, log_change, standing
from kaustos.app.wording import when_words
from kaustos.core.records import CALIBRATIONS, OFFSETS, ZONES, Machine, PartChange, Place
from kaustos.core.records.machine_logs import CHANGED
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.leading import answering
from kaustos.ui.rooms.logs import LogTable
from kaustos.ui.rooms.machine.page import MachinePage, cleared
from kaustos.ui.rooms.parts import choice_of, entry, heading, push, row_of


class HistoryPage(MachinePage):
    """Parts that were changed on the left, calibrations on the right."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.changes = LogTable(desk, "Parts changed", ("When", "Part", "Out", "In", "Why"), self._cells, 8)
        self.part = choice_of(CHANGED, "which part", "Part that was changed")
        self.was, self.now = entry("came out", "What came out", 110), entry("went in", "What went in", 110)
        self.why, self.when = entry("why", "Why it was changed", 150), entry("when: now", "When it was changed", 96)
        for line in (self.was, self.now, self.why, self.when):
            line.returnPressed.connect(self._on_change)
        self.calibrations = PlainTable(("Calibration", "Done", "Found", "Stands"))
        self.calibrations.setAccessibleName("Calibrations")
        header = self.calibrations.horizontalHeader()
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        self.zone = QComboBox()
        self.zone.setAccessibleName("Zone that was compared")
        for zone in ZONES:
            self.zone.addItem(zone.capitalize(), zone)
        self.shown, self.true = entry("shown", "Temperature shown", 70), entry("read", "Temperature read", 70)
        self.sensor = entry("with which sensor", "Sensor that it was read with", 150)
        for line in (self.shown, self.true, self.sensor):
            line.returnPressed.connect(self._on_compare)
        kinds = {key: words for key, words in CALIBRATIONS.items() if key not in OFFSETS.values()}
        answering(self.shown, *(f"calibration.{each}" for each in OFFSETS.values()))
        self.kind = choice_of(kinds, "what else", "What was calibrated")
        self.found = entry("what was found", "What was found", 180)
        self.found.returnPressed.connect(self._on_calibrate)
        answering(self.found, *(f"calibration.{each}" for each in kinds))
        desk.led.connect(self._on_led)
        self._lay_out()

    def _lay_out(self) -> None:
        left, right = QVBoxLayout(), QVBoxLayout()
        left.addWidget(self.changes)
        left.addLayout(row_of("Changed", self.part, self.was, self.now))
        left.addLayout(row_of("", self.why, self.when, push("Log change", self._on_change)))
        left.addStretch()
        right.addWidget(heading("Calibrations"))
        right.addWidget(self.calibrations, 1)
        right.addLayout(row_of("Compared", self.zone, self.shown, self.true, self.sensor))
        right.addLayout(row_of("", push("Log comparison", self._on_compare)))
        right.addLayout(row_of("Calibrated", self.kind, self.found, push("Log", self._on_calibrate)))
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(16)
        row.addLayout(left, 1)
        row.addLayout(right, 1)

    def show_machine(self, machine: Machine) -> None:
        """Show its history."""
        self.changes.follow(Place("machines", machine.id, "changes"), machine.changes)
        rows = []
        for each in standing(self.desk.workspace, machine.id):
            off = each.values.get("offset_k")
            found = (
                each.note if off is None else f"{off:+.1f} K by {each.sensor or 'a second sensor'}".replace("-", "−")
            )
            stands = "yes" if each.is_valid else f"STALE: {each.stale_because}"
            rows.append((CALIBRATIONS.get(each.kind or "", ""), when_words(each.done_utc)[:10], found, stands))
        self.calibrations.show_rows(rows)

    def _on_led(self, path: str) -> None:
        """Choose what a question asks to be calibrated."""
        asked = path.removeprefix("calibration.")
        zone = next((each for each, kind in OFFSETS.items() if kind == asked), None)
        box, wanted = (self.zone, zone) if zone else (self.kind, asked)
        if box.findData(wanted) >= 0:
            box.setCurrentIndex(box.findData(wanted))

    def _cells(self, each: PartChange) -> tuple[str, ...]:
        return when_words(each.at_utc)[:10], CHANGED.get(each.part or "", ""), each.was, each.now, each.why

    def _on_change(self) -> None:
        def log() -> None:
            words = log_change(self.desk.workspace, self.key or "", self.part.currentData() or None, self.was.text(),
                               self.now.text(), self.why.text(), self.moment(self.when))  # fmt: skip
            cleared(self.was, self.now, self.why, self.when)
            self.tell(words)

        self.desk.run(log)

    def _on_compare(self) -> None:
        def log() -> None:
            wording = self.desk.wording
            shown, true = (wording.read(each.text(), "temperature") for each in (self.shown, self.true))
            words = compare_heat(self.desk.workspace, self.key or "", str(self.zone.currentData()), shown, true,
                                 self.sensor.text(), None)  # fmt: skip
            cleared(self.shown, self.true)
            self.tell(words)

        self.desk.run(log)

    def _on_calibrate(self) -> None:
        def log() -> None:
            log_calibration(self.desk.workspace, self.key or "", self.kind.currentData() or "", self.found.text(), None)
            cleared(self.found)

        self.desk.run(log)
