"""Readings of the chosen run: its machine watched on a line, or a logger's file; what they say, and what is missing."""

import time
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
)

from kaustos.app.pictures.readings import draw_readings
from kaustos.app.readings import HEADINGS, keep_readings, missing_words, reading_of, readings_words, sensor_rows
from kaustos.app.results import Request
from kaustos.core.errors import KaustosError
from kaustos.core.records import Run
from kaustos.devices.registers import SPELT
from kaustos.devices.serial_line import RESETS, ports
from kaustos.ui.benches.errand import Errand
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.devices import Looker
from kaustos.ui.drawn import Drawn
from kaustos.ui.look.text import Label

if TYPE_CHECKING:
    from kaustos.app.readings import Watch

LOOK_MS = 5_000
SIMULATED_QUICKER = 60.0  # seconds of a simulated machine in one of ours
LOGS = "Logs (*.csv *.txt *.tsv *.log)"


class RunReadings(QFrame):
    """Watch, open, judge, draw."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._run: Run | None = None
        self.watch: Watch | None = None
        self.title = Label("Readings")
        self.title.setProperty("role", "heading")
        self.words, self.missing, self.caution = (Label(wordWrap=True) for _ in range(3))
        self.missing.setProperty("role", "muted")
        self.caution.setProperty("role", "muted")
        self.caution.setText(RESETS)
        self.port = QComboBox(editable=True)
        for each in self.port.findChildren(QLineEdit):
            each.setAcceptDrops(False)  # a file goes to the window
        self.port.setAccessibleName("Serial line of the machine")
        self.port.setFixedWidth(150)
        self.port.setToolTip(f"A serial line, or a chamber controller over Modbus TCP as {SPELT}")
        self.begin, self.simulate = QPushButton("Watch line"), QPushButton("Simulated machine")
        self.open, self.end = QPushButton("Open log"), QPushButton("Stop and keep")
        self.begin.clicked.connect(lambda: desk.run(self.watch_line))
        self.simulate.clicked.connect(lambda: desk.run(self.watch_simulated))
        self.open.clicked.connect(self._on_open)
        self.end.clicked.connect(lambda: desk.run(self.stop_and_keep))
        self.errand = Errand(desk, self)
        self.table = PlainTable(HEADINGS)
        self.table.setAccessibleName("Sensors of the run")
        self.table.setMinimumHeight(110)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.picture = Drawn(desk, draw_readings, "Readings over the run", 170)
        self.looker = Looker(desk.pace)
        self.looker.looked.connect(self._on_looked)
        self.looker.failed.connect(desk.messages.error)
        self._lay_out()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 0)
        column.setSpacing(5)
        column.addWidget(self.title)
        for widgets in ((self.port, self.begin, self.simulate), (self.open, self.end, self.errand.cancel)):
            row = QHBoxLayout()
            for widget in widgets:
                row.addWidget(widget)
            row.addStretch()
            column.addLayout(row)
        for each in (self.caution, self.errand.words, self.words, self.picture, self.table, self.missing):
            column.addWidget(each)

    # ---- following

    def follow(self, run: Run) -> None:
        """Show what is kept of a run."""
        if self._run is None:
            self.port.addItems(list(ports()))
        self._run = run
        wording = self._desk.wording
        if self.watch is None:
            self.words.setText(readings_words(run, wording))
        self.words.setVisible(bool(self.words.text()))
        self.missing.setText(missing_words(run))
        self.picture.show_record(run.sensors)
        self.picture.setVisible(bool(run.sensors))
        self.table.show_rows(sensor_rows(run, wording))
        self.table.setVisible(bool(run.sensors))
        mine = self.watch is not None and self.watch.run == run.id
        for button in (self.begin, self.simulate):
            button.setEnabled(self.watch is None and not run.is_ended)
        self.end.setEnabled(mine)

    def _chosen(self) -> str:
        if self._run is None:
            raise KaustosError("Choose the run that the readings belong to.")
        return self._run.id

    # ---- watching

    def watch_line(self) -> None:
        """Open the line as a job, for it can take seconds, and begin to look at the run that was chosen."""
        from kaustos.app.device_log import log_file
        from kaustos.app.readings import begun, controller_of, line_of

        port = self.port.currentText().strip()
        if not port:
            raise KaustosError(f"Name the line of the machine, such as /dev/ttyUSB0, or of a chamber: {SPELT}.")
        way = controller_of if ":" in port else line_of
        wanted = way(self._desk.workspace, self._chosen(), port, log_file(datetime.now(UTC)))

        def keep(watch: Any) -> None:
            self._desk.run(lambda: self._begin(begun(self._desk.workspace, watch)))

        request = Request("line", (wanted.run, port), wanted)
        self.errand.begin(request, f"Opening {port}", keep, let_go=lambda watch: watch.stop())

    def watch_simulated(self) -> None:
        """Let a stand-in play the run, a minute a second."""
        from kaustos.app.device_log import log_file
        from kaustos.app.readings import watch_simulated

        began, begun = time.monotonic(), datetime.now(UTC)

        def passed() -> float:
            return SIMULATED_QUICKER * (time.monotonic() - began)

        self._begin(watch_simulated(self._desk.workspace, self._chosen(), passed, log_file(begun),
                                    lambda: begun + timedelta(seconds=passed())))  # fmt: skip

    def _begin(self, watch: "Watch") -> None:
        self.stop()  # a machine that began to be watched while this line was opened
        self.watch = watch
        self.looker.begin(watch.log, LOOK_MS)
        if self._run is not None:
            self.follow(self._run)

    def _on_looked(self, entry: Any) -> None:
        self.words.setText(entry.words(self._desk.wording))
        self.words.show()

    def stop(self) -> None:
        """Let go of the line, also of one that is being opened; its file stays."""
        self.errand.call_off()
        self.looker.end()
        if self.watch is not None:
            watch, self.watch = self.watch, None
            watch.stop()

    def stop_and_keep(self) -> None:
        """Let go of the line, and keep with the run what it said."""
        watch = self.watch
        if watch is None:
            raise KaustosError("Nothing is watched.")
        self.stop()
        self.take(watch.file, watch.run)

    # ---- files

    def _on_open(self) -> None:
        def opened() -> None:
            run = self._chosen()  # before the dialog: what is chosen may move while it is open
            file, _ = QFileDialog.getOpenFileName(self, "Open readings of the run", "", LOGS)
            if file:
                self.take(Path(file), run)

        self._desk.run(opened)

    def take_chosen(self, file: Path) -> None:
        """Read a file for the run that is chosen now."""
        self.take(file, self._chosen())

    def take(self, file: Path, run: str) -> None:
        """Read a file of readings as a job, and keep it with a run."""
        wanted = reading_of(self._desk.workspace, run, file)

        def keep(found: Any) -> None:
            def act() -> None:
                self.errand.say("")
                self._desk.messages.note(keep_readings(self._desk.workspace, run, found, file))

            self._desk.run(act)

        self.errand.begin(Request("readings", (file,), wanted), f"Reading {file.name}", keep)
