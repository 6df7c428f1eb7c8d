"""Heat proven step by step: what comes next, what was held, and what the next limit is."""

from PySide6.QtWidgets import QComboBox, QVBoxLayout

from kaustos.app.machines import HOT_STEP_CAUTION, log_step, next_words
from kaustos.app.wording import when_words
from kaustos.core.records import ZONES, HeatStep, Machine, Place
from kaustos.core.records.machine_logs import SEEN_HOT, VERDICTS
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.logs import LogTable
from kaustos.ui.rooms.machine.page import MachinePage, cleared
from kaustos.ui.rooms.parts import choice_of, entry, push, row_of


class StepsPage(MachinePage):
    """The steps of all zones, and what is next for one."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.steps = LogTable(desk, "Heat steps", ("When", "Zone", "Set to", "Reached", "In", "Read with", "Seen",
                                                   "Verdict"), self._cells, 9)  # fmt: skip
        self.zone = QComboBox()
        self.zone.setAccessibleName("Zone of the step")
        for zone in ZONES:
            self.zone.addItem(zone.capitalize(), zone)
        self.zone.activated.connect(lambda: self._say_next())
        self.next, caution = Label(wordWrap=True), Label(HOT_STEP_CAUTION, wordWrap=True)
        self.next.setProperty("role", "question")
        caution.setProperty("role", "muted")
        self.set_to, self.reached = entry("set to", "Set to", 80), entry("reached", "Reached", 80)
        self.minutes, self.sensor = entry("minutes", "Minutes to get there", 80), entry("read with", "Read with", 150)
        self.seen = choice_of(SEEN_HOT, "what was seen", "What was seen")
        self.verdict = choice_of(VERDICTS, "go or stop", "Verdict")
        for line in (self.set_to, self.reached, self.minutes, self.sensor):
            line.returnPressed.connect(self._on_step)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(row_of("Zone", self.zone))
        column.addWidget(self.next)
        column.addWidget(caution)
        column.addWidget(self.steps)
        column.addLayout(row_of("Step", self.set_to, self.reached, self.minutes, self.sensor, self.seen, self.verdict,
                                push("Log step", self._on_step)))  # fmt: skip
        column.addStretch()

    def show_machine(self, machine: Machine) -> None:
        """Show its steps."""
        self.steps.follow(Place("machines", machine.id, "heat_steps"), machine.heat_steps)
        self._say_next()

    def _say_next(self) -> None:
        if self.key is not None:
            zone = str(self.zone.currentData())
            self.next.setText(next_words(self.desk.workspace, self.machine, zone, self.desk.wording))

    def _cells(self, each: HeatStep) -> tuple[str, ...]:
        wording = self.desk.wording
        heat = ("" if at is None else wording.value(at, "temperature") for at in (each.setpoint_c, each.reached_c))
        minutes = "" if each.minutes is None else wording.value(each.minutes, "minutes")
        return (when_words(each.at_utc)[:10], (each.zone or "").capitalize(), *heat, minutes, each.sensor,
                SEEN_HOT.get(each.seen or "", ""), VERDICTS.get(each.verdict or "", ""))  # fmt: skip

    def _on_step(self) -> None:
        def log() -> None:
            set_to = self.desk.wording.read(self.set_to.text(), "temperature")
            words = log_step(
                self.desk.workspace, self.key or "", str(self.zone.currentData()), set_to,
                self.number(self.reached, "temperature"), self.number(self.minutes, "minutes"), self.sensor.text(),
                self.seen.currentData() or None, self.verdict.currentData() or None, None,
            )  # fmt: skip
            cleared(self.set_to, self.reached, self.minutes)
            self.tell(words)

        self.desk.run(log)
