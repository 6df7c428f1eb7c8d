"""The ovens of the shop: each with its passport, and every load from the programme to what was measured cold."""

import time
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QFileDialog, QFrame, QHeaderView, QVBoxLayout

from kaustos.app.ovens import (
    GROWTH_HEADINGS,
    LOAD_HEADINGS,
    begin_load,
    end_load,
    growth_rows,
    keep_sensors,
    load_rows,
    load_words,
    loads_of,
    measure,
    new_oven,
    reading_of_load,
    watch_oven,
    watch_simulated,
)
from kaustos.app.pictures.readings import draw_readings
from kaustos.app.results import Request
from kaustos.app.wording import when_words
from kaustos.core.errors import KaustosError
from kaustos.core.records import LOAD_ENDS, Oven, OvenLoad
from kaustos.ui.benches.errand import Errand
from kaustos.ui.desk import Desk
from kaustos.ui.devices import Looker
from kaustos.ui.drawn import Drawn
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.kept import KeptPage
from kaustos.ui.rooms.parts import choice_of, entry, heading, push, row_of, small_table
from kaustos.ui.rooms.run_readings import LOGS
from kaustos.ui.tables import Row

if TYPE_CHECKING:
    from kaustos.app.readings import Watch

FIELDS = ("name", "max_c", "offset_k", "even_k", "fan", "rise_k_h", "size_x_mm", "size_y_mm", "size_z_mm", "place")
LOOK_MS, SIMULATED_MS = 5_000, 400
SIMULATED_QUICKER = 600.0  # seconds of a simulated oven in one of ours


class Ovens(KeptPage):
    """The list of ovens, the chosen one, and the name of a new one."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, "oven", "ovens", ("Oven", "Hottest", "Compared", "Last load"))
        self.hottest = entry("hottest, such as 250 °C", "Hottest of the new oven", 170)
        self.lay_out(OvenForm(desk), 560, self.hottest)

    def refresh(self, *, retired: bool) -> None:
        """Follow the desk, retired ones shown or not."""
        tables = self._desk.workspace.draft.records.tables
        self.show_kept(tables["ovens"], self._row, lambda _: (tables["loads"], self._desk.wording), retired=retired)

    def _row(self, oven: Oven) -> Row:
        wording, loads = self._desk.wording, loads_of(self._desk.workspace, oven.id)
        cells = (
            oven.name + (", retired" if oven.retired else ""), wording.field_value("oven.max_c", oven.max_c),
            "never" if oven.offset_k is None else wording.value(oven.offset_k, "temperature_difference"),
            when_words(loads[0].started_utc)[:10] if loads else "none",
        )  # fmt: skip
        return Row(oven.id, cells, (None, oven.max_c, oven.offset_k, None))

    def make_new(self) -> str:
        """Log an oven."""
        text = self.hottest.text().strip()
        made = new_oven(self._desk.workspace, self.name.text(), self._desk.wording.read(text, "temperature") if text
                        else None)  # fmt: skip
        self.hottest.clear()
        return made

    @property
    def has_load(self) -> bool:
        """Whether a load is chosen."""
        return isinstance(self.form, OvenForm) and self.form.has_load

    def take_log(self, file: Path) -> None:
        """Keep a logger's file with the load that is chosen."""
        assert isinstance(self.form, OvenForm)
        self.form.take_log(file)

    def stop(self) -> None:
        """Let go of a controller that is watched."""
        assert isinstance(self.form, OvenForm)
        self.form.stop()


class OvenForm(QFrame):
    """One oven: its passport, and its loads."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.oven: str | None = None
        self.watch: Watch | None = None
        self.form = Form(desk, FIELDS, "ovens")
        self.loads = small_table(LOAD_HEADINGS, "Loads")
        self.loads.setFixedHeight(28 + 4 * 23 + 4)
        header = self.loads.horizontalHeader()
        for at, width in ((1, 124), (2, 82), (3, 96), (4, 106)):
            header.setSectionResizeMode(at, QHeaderView.ResizeMode.Interactive)
            header.resizeSection(at, width)
        self.loads.itemSelectionChanged.connect(self._show_load)
        self.runs = entry("runs, such as run_0007", "Runs whose parts go in", 190)
        self.watching = push("Watch controller", lambda: desk.run(self.watch_controller))
        self.simulating = push("Simulated oven", lambda: desk.run(self.watch_simulated))
        self.opening = push("Open log", self._on_open)
        self.keeping = push("Stop and keep", lambda: desk.run(self.stop_and_keep))
        self.errand = Errand(desk, self)
        self.body = entry("coupon 1", "What is measured", 96)
        self.before = entry("80.02 20.01 4.00", "Before: along, across, up", 128)
        self.after = entry("after", "After: along, across, up", 128)
        self.masses = entry("13.184 2.961 13.171 2.998", "Mass in air and in water, before and after", 190)
        self.grown = small_table(GROWTH_HEADINGS, "Growth of coupons and parts")
        self.grown.setFixedHeight(28 + 3 * 23 + 4)
        self.ended = choice_of(LOAD_ENDS, "came out", "How it came out")
        self.who = entry("looked over by", "Who looked it over", 110)
        self.picture = Drawn(desk, draw_readings, "Readings of the load", 150)
        self.said = Label(wordWrap=True)
        self.looker = Looker(desk.pace)
        self.looker.looked.connect(lambda found: self.said.setText(found.words(self._desk.wording)))
        self.looker.failed.connect(desk.messages.error)
        self._lay_out()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 6, 0)
        column.setSpacing(6)
        column.addWidget(self.form)
        column.addWidget(heading("Loads, the newest first"))
        column.addWidget(self.loads)
        column.addLayout(row_of("In", self.runs, push("Begin load of the open recipe", self._on_begin)))
        column.addLayout(row_of("Heat", self.watching, self.simulating, self.opening, self.keeping, self.errand.cancel))
        for each in (self.errand.words, self.said, self.picture, self.grown):
            column.addWidget(each)
        column.addLayout(row_of("Sizes", self.body, self.before, self.after))
        column.addLayout(row_of("Masses", self.masses, push("Measured", self._on_measured)))
        column.addLayout(row_of("End", self.ended, self.who, push("End it", self._on_end)))
        column.addStretch()

    # ---- following

    def follow(self, key: str | None) -> None:
        """Show another oven."""
        self.setVisible(key is not None)
        is_other = key != self.oven
        self.oven = key
        if key is None:
            return
        self.form.follow(key)
        rows = load_rows(self._desk.workspace, key)
        self.loads.show_rows(rows or [("None yet", "", "", "", "")])
        if rows and (is_other or not 0 <= self.loads.currentRow() < len(rows)):
            self.loads.selectRow(0)
        self._show_load()

    def _load(self) -> OvenLoad | None:
        loads = loads_of(self._desk.workspace, self.oven or "")
        row = self.loads.currentRow()
        return loads[row] if 0 <= row < len(loads) else None

    def _show_load(self) -> None:
        load = self._load()
        records = self._desk.workspace.draft.records
        self.picture.setVisible(load is not None and bool(load.sensors))
        self.picture.show_record(load.sensors if load is not None else ())
        rows = growth_rows(load, records.rules.scale_g) if load is not None else []
        self.grown.show_rows(rows)
        self.grown.setVisible(bool(rows))
        if self.watch is None:
            self.said.setText(load_words(self._desk.workspace, load) if load is not None else "")
        runs = load is not None and load.outcome is None
        for button in (self.watching, self.simulating):
            button.setEnabled(runs and self.watch is None)
        self.opening.setEnabled(load is not None)
        self.keeping.setEnabled(self.watch is not None)

    def _chosen(self) -> OvenLoad:
        load = self._load()
        if load is None:
            raise KaustosError("Begin a load first, or choose one in the table.")
        return load

    @property
    def has_load(self) -> bool:
        """Whether a load is chosen."""
        return self._load() is not None

    def take_log(self, file: Path) -> None:
        """Keep a logger's file with the load that is chosen."""
        self.take(file, self._chosen().id)

    def _do(self, act: Callable[[], str]) -> None:
        """Do it, say what follows, and clear what was typed."""

        def done() -> None:
            words = act()
            for line in (self.runs, self.before, self.after, self.masses, self.who):
                line.clear()
            self.ended.setCurrentIndex(0)
            self.follow(self.oven)
            self.said.setText(words)

        if self.oven is not None:
            self._desk.run(done)

    def _on_begin(self) -> None:
        def act() -> str:
            begin_load(self._desk.workspace, self.oven or "", self.runs.text())
            self.loads.selectRow(0)
            return "It runs. Its hold counts from when the core is there: put a thermocouple into a dummy."

        self._do(act)

    def _on_measured(self) -> None:
        self._do(
            lambda: measure(
                self._desk.workspace, self._chosen(), self.body.text(), self.before.text(), self.after.text(),
                self.masses.text(), self._desk.wording,
            )
        )  # fmt: skip

    def _on_end(self) -> None:
        self._do(
            lambda: end_load(self._desk.workspace, self._chosen(), self.ended.currentData() or None, self.who.text())
        )

    # ---- watching

    def watch_controller(self) -> None:
        """Look at the oven's controller from now on."""
        from kaustos.app.device_log import log_file

        self._begin(watch_oven(self._desk.workspace, self._chosen(), log_file(datetime.now(UTC))))

    def watch_simulated(self) -> None:
        """Let a stand-in run the load's programme, ten minutes a second."""
        from kaustos.app.device_log import log_file

        began, begun = time.monotonic(), datetime.now(UTC)

        def passed() -> float:
            return SIMULATED_QUICKER * (time.monotonic() - began)

        self._begin(watch_simulated(self._desk.workspace, self._chosen(), passed, log_file(begun),
                                    lambda: begun + timedelta(seconds=passed())), SIMULATED_MS)  # fmt: skip

    def _begin(self, watch: "Watch", every_ms: int = LOOK_MS) -> None:
        self.watch = watch
        self.looker.begin(watch.log, every_ms)
        self._show_load()

    def stop(self) -> None:
        """Let go of the controller; its file stays."""
        self.looker.end()
        if self.watch is not None:
            watch, self.watch = self.watch, None
            watch.stop()

    def stop_and_keep(self) -> None:
        """Let go of the controller, and keep with the load what it showed."""
        watch = self.watch
        if watch is None:
            raise KaustosError("Nothing is watched.")
        self.stop()
        self.take(watch.file, watch.run)

    def _on_open(self) -> None:
        def opened() -> None:
            load = self._chosen().id  # before the dialog: what is chosen may move while it is open
            file, _ = QFileDialog.getOpenFileName(self, "Open log of the oven", "", LOGS)
            if file:
                self.take(Path(file), load)

        self._desk.run(opened)

    def take(self, file: Path, load: str) -> None:
        """Read a log as a job, and keep it with a load."""

        def keep(found: Any) -> None:
            def act() -> None:
                self.errand.say("")
                record = self._desk.workspace.draft.records.tables["loads"].get(load)
                if record is None:
                    raise KaustosError(f"The load that {file.name} was opened for is gone; nothing was kept.")
                words = keep_sensors(self._desk.workspace, record, found, file)
                self.follow(self.oven)
                self.said.setText(words)

            self._desk.run(act)

        self.errand.begin(Request("readings", (file,), reading_of_load(file)), f"Reading {file.name}", keep)
