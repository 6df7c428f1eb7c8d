"""What limits a machine zone by zone, and which polymers that leaves."""

from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QVBoxLayout

from kaustos.app.candidates import lack_words
from kaustos.app.runs import configuration_of
from kaustos.core.planning.configuration import proven_of
from kaustos.core.planning.reach import reach_of
from kaustos.core.records import ZONES, Machine
from kaustos.core.review.brief import lack_of
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.machine import LimitForm
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.machine.page import MachinePage

FIELDS = ("name", "feeds", "power_w", "rate_per_h", "travel_x_mm", "travel_y_mm", "travel_z_mm")


class LimitsPage(MachinePage):
    """Name, power, cost and every limit, beside what the machine can run."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.form = Form(desk, FIELDS, "machines")
        self.limits: LimitForm | None = None
        self.configuration, self.heading = Label(wordWrap=True), Label()
        self.configuration.setProperty("role", "muted")
        self.heading.setProperty("role", "heading")
        self.runs = PlainTable(("Polymer", "On this machine"))
        self.runs.setAccessibleName("What this machine can run")
        self.runs.horizontalHeader().resizeSection(0, 150)
        self.runs.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        self._left = QVBoxLayout()
        self._left.addWidget(self.form)
        self._left.addWidget(self.configuration)
        self._left.addStretch()
        right = QVBoxLayout()
        right.addWidget(self.heading)
        right.addWidget(self.runs, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(16)
        row.addLayout(self._left, 1)
        row.addLayout(right, 1)

    def show_machine(self, machine: Machine) -> None:
        """Show its limits, and every polymer with what it lacks for it, the nearest first."""
        key, records, wording = machine.id, self.desk.workspace.draft.records, self.desk.wording
        self.form.follow(key)
        if self.limits is None:
            self.limits = LimitForm(self.desk, f"machines/{key}/")
            self._left.insertWidget(1, self.limits)
        self.limits.follow(f"machines/{key}/")
        known = sum(len(reach_of(machine, zone, records.rules).limits) for zone in ZONES)
        proven = [(zone, found) for zone in ZONES if (found := proven_of(machine, zone))]
        steps = ", ".join(f"{zone} {wording.value(found.max_c, 'temperature')}" for zone, found in proven)
        words = f"Configuration {configuration_of(machine)}: changes with every limit; runs remember theirs. "
        words += f"{known} limits recorded."
        words += f" Proven step by step, which counts before a heater's limit above: {steps}." if steps else ""
        self.configuration.setText(words)
        lacks = [(lack_of(machine, polymer, records.rules), polymer.name) for polymer in records.polymers.values()]
        lacks.sort(key=lambda each: (each[0].total_k, each[1]))
        running = sum(not lack.zones for lack, _ in lacks)
        self.heading.setText(f"Reaches the windows of {running} of {len(lacks)} polymers; the nearest first")
        self.runs.show_rows([(name, lack_words(lack, wording) or "all windows reached") for lack, name in lacks])
