"""The warm space of a machine: its walls, what lies on the plate, and what a log of temperatures tells."""

from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QCheckBox, QComboBox, QFileDialog, QHBoxLayout, QHeaderView, QVBoxLayout, QWidget

from kaustos.app.heat_log import (
    SENSOR_HEADINGS,
    HeatLog,
    ReadHeatLog,
    fit_of,
    keep_fit,
    keep_offset,
    log_words,
    sensor_rows,
    warm_picture,
)
from kaustos.app.pictures.warmth import draw_warm_up
from kaustos.app.results import Request
from kaustos.core.records import Layer, Machine, Place
from kaustos.core.records.enclosure import LAYERS
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.drawn import Drawn
from kaustos.ui.forms import Form
from kaustos.ui.jobs import Job
from kaustos.ui.leading import answering
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.logs import LogTable
from kaustos.ui.rooms.machine.page import MachinePage, cleared
from kaustos.ui.rooms.parts import choice_of, entry, heading, push, row_of

FIELDS = ("enclosure.kind", "enclosure.wall", "enclosure.inner_x_mm", "enclosure.insulation_mm",
          "enclosure.inner_y_mm", "enclosure.frame_kg", "enclosure.inner_z_mm", "enclosure.fan")  # fmt: skip


class ChamberPage(MachinePage):
    """Enclosure and stack on the left, warm-up and log on the right."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.form = Form(desk, FIELDS, "machines")
        self.stack = LogTable(desk, "On the plate, the uppermost first", ("Layer", "Thickness", "Bonded"), self._cells)
        self.layer = choice_of(LAYERS, "layer", "Layer on the plate")
        self.thickness = entry("thickness", "Thickness of the layer", 90)
        self.loose = QCheckBox("lies loose")
        self.thickness.returnPressed.connect(self._on_layer)
        answering(self.layer, "stack")
        self.picture = Drawn(desk, draw_warm_up, "How the chamber warms", 150)
        self.words = Label(wordWrap=True)
        self.sensors = PlainTable(SENSOR_HEADINGS)
        self.sensors.setAccessibleName("Sensors of the log")
        self.sensors.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.sensors.setFixedHeight(28 + 3 * 23 + 4)
        self.open, self.cancel = push("Open log", self._on_open), push("Call off", self._on_cancel)
        self.beside, self.display = QComboBox(), QComboBox()
        self.beside.setAccessibleName("Sensor beside the part")
        self.display.setAccessibleName("Sensor that the machine shows")
        self.beside.activated.connect(lambda: self._show_log())
        self.offset = push("Keep offset", self._on_offset)
        self.keep = push("Keep fit", self._on_fit)
        self._logs: dict[str, HeatLog] = {}  # by the machine that each was opened for
        self._read_for = ""  # the machine that a log on its way was opened for
        self._shown = ""
        self._job: Job | None = None
        self._lay_out()

    def _lay_out(self) -> None:
        left, right = QVBoxLayout(), QVBoxLayout()
        left.setSpacing(3)
        right.setSpacing(4)
        left.addWidget(heading("Warm space"))
        left.addWidget(self.form)
        left.addWidget(self.stack)
        left.addLayout(row_of(self.layer, self.thickness, self.loose, push("Lay on", self._on_layer)))
        left.addStretch()
        right.addWidget(self.picture, 1)
        right.addWidget(self.sensors)
        right.addWidget(self.words)
        self._of_log = QWidget()  # shown once there is a log
        chosen = row_of("Beside the part", self.beside, Label("shown"), self.display, self.offset, self.keep)
        chosen.setContentsMargins(0, 0, 0, 0)
        self._of_log.setLayout(chosen)
        right.addLayout(row_of(self.open, self.cancel))
        right.addWidget(self._of_log)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(16)
        row.addLayout(left, 2)
        row.addLayout(right, 3)

    def show_machine(self, machine: Machine) -> None:
        """Show its warm space; a log stays with the machine that it was opened for."""
        self.form.follow(machine.id)
        self.stack.follow(Place("machines", machine.id, "stack"), machine.stack)
        if machine.id != self._shown:
            self._shown = machine.id
            self._name_sensors()
        self._show_log()

    @property
    def log(self) -> HeatLog | None:
        """The log that was opened for the machine that is shown."""
        return self._logs.get(self.key or "")

    def _cells(self, each: Layer) -> tuple[str, ...]:
        thick = "not recorded" if each.thickness_mm is None else self.desk.wording.value(each.thickness_mm, "length")
        return LAYERS.get(each.material or "", ""), thick, "loose" if each.loose else "bonded"

    def _on_layer(self) -> None:
        def add() -> None:
            layer = Layer(material=self.layer.currentData() or None, thickness_mm=self.number(self.thickness, "length"),
                          loose=self.loose.isChecked())  # fmt: skip
            title = f"{self.machine.name}: layer on the plate"
            stack = {Place("machines", self.key or "", "stack"): (*self.machine.stack, layer)}
            self.desk.workspace.draft.set(stack, title=title)
            cleared(self.thickness)

        self.desk.run(add)

    # ---- the log

    def _on_open(self) -> None:
        file, _ = QFileDialog.getOpenFileName(self, "Open log of temperatures", "", "Logs (*.csv *.txt *.tsv *.log)")
        if file:
            self.take(Path(file))

    def take(self, file: Path) -> None:
        """Read a log as a job."""
        self._on_cancel()
        wanted = ReadHeatLog(file, self.machine.chamber.heater.power_w)
        self._read_for = self.key or ""
        self._job = Job(Request("heat log", (file,), wanted), self)
        self._job.finished.connect(self._on_read)
        self._job.failed.connect(self._on_failed)
        self._job.moved.connect(self._on_moved)
        self.words.setText(f"Reading {file.name}")
        self.desk.pace.run(self._job)

    def _on_moved(self, done: int, of: int) -> None:
        if self._job is not None and self.sender() is self._job:
            self.words.setText(f"Reading: {100 * done // max(of, 1)} %")

    def _on_cancel(self) -> None:
        if self._job is not None:
            self._job.cancel()
            self._job = None

    def _on_failed(self, request: Request, fault: str) -> None:
        if self._job is not None and request is self._job.request:
            self._job = None
            self.desk.messages.error(fault)
        self._show_log()

    def _on_read(self, request: Request, log: Any) -> None:
        if self._job is None or request is not self._job.request:
            return
        self._job = None
        machine = self.desk.workspace.draft.records.machines.get(self._read_for)
        if machine is None:
            self.desk.messages.error(f"The machine that {log.name} was opened for is not there any more.")
            return
        self._logs[machine.id] = log
        if machine.id == self.key:
            self._name_sensors()
            self._show_log()
        else:
            self.desk.messages.note(f"{log.name} is read; it stands with {machine.name}, for which it was opened.")

    def _name_sensors(self) -> None:
        names = list(self.log.thin.readings) if self.log is not None else []
        for box in (self.beside, self.display):
            box.clear()
            box.addItems(names)
        self.beside.setCurrentIndex(min(1, len(names) - 1))

    def _show_log(self) -> None:
        log, wording = self.log, self.desk.wording
        for widget in (self.sensors, self._of_log):
            widget.setVisible(log is not None)
        self.cancel.setVisible(self._job is not None)
        self.picture.show_record(warm_picture(self.desk.workspace, self.machine, log) if self.key else None)
        if log is None:
            self.words.setText(
                "Open a log of thermocouples or of the machine: CSV with a time and one column a sensor. "
                "Power in watts beside them tells losses and capacity."
            )
            return
        self.sensors.show_rows(sensor_rows(log, wording))
        fit = fit_of(log, self.beside.currentText(), self.desk.workspace.draft.records.rules.room_c)
        self.words.setText(log_words(log, fit, wording))
        self.keep.setEnabled("losses_w_k" in fit.values)

    def _on_offset(self) -> None:
        log = self.log
        if log is not None:
            self.desk.run(lambda: self.tell(keep_offset(
                self.desk.workspace, self.key or "", log, self.display.currentText(), self.beside.currentText()
            )))  # fmt: skip

    def _on_fit(self) -> None:
        log = self.log
        if log is not None:
            sensor = self.beside.currentText()
            fit = fit_of(log, sensor, self.desk.workspace.draft.records.rules.room_c)
            self.desk.run(lambda: self.tell(keep_fit(self.desk.workspace, self.key or "", log, sensor, fit)))
