"""The plates of the shop: the list, and the chosen one with its film, its damage and what became of its runs."""

from PySide6.QtCore import QTimer
from PySide6.QtGui import QHideEvent, QShowEvent
from PySide6.QtWidgets import QComboBox, QFrame, QVBoxLayout

from kaustos.app.plates import (
    agent_names,
    begin_coating,
    coat,
    coating_of,
    film_words,
    log_damage,
    new_plate,
    next_step,
    plate_outcomes,
    stop_coating,
    surface_names,
)
from kaustos.app.wording import when_words
from kaustos.core.records import DAMAGES, Damage, Place, PlateItem
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.forms import Form
from kaustos.ui.leading import answering
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.kept import KeptPage
from kaustos.ui.rooms.logs import LogTable
from kaustos.ui.rooms.parts import choice_of, entry, heading, push, row_of, show_records, small_table
from kaustos.ui.tables import Row

FIELDS = ("name", "held", "size_x_mm", "size_y_mm", "cleaned", "price", "stands_c", "backing_c", "prints",
          "renewed_prints", "film_coats", "film_prints", "thick_mm", "test_only")  # fmt: skip


OUTCOMES = ("When", "Polymer", "Agent", "Grip / load", "Seen", "Came to")


class Plates(KeptPage):
    """The list of plates, the chosen one, and the name of a new one."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, "plate", "plates", ("Plate", "Surface", "On", "Prints", "Film", "State"))
        self.surface = choice_of(surface_names(), "surface not known", "Surface of the new plate")
        self.machine = QComboBox()
        self.machine.setAccessibleName("Machine of the new plate")
        self.lay_out(PlateForm(desk), 584, self.surface, self.machine)

    def refresh(self, *, retired: bool) -> None:
        """Follow the desk, retired ones shown or not."""
        records = self._desk.workspace.draft.records
        show_records(self.machine, "any machine", records.machines, self.machine.currentData() or None)
        self.show_kept(
            records.tables["plates"], self._row,
            lambda item: (records.machines.get(item.fits_on or ""), self._desk.wording), retired=retired,
        )  # fmt: skip

    def _row(self, item: PlateItem) -> Row:
        machine = self._desk.workspace.draft.records.machines.get(item.fits_on or "")
        state = "broken" if item.is_chipped else "tests only" if item.test_only else "in use"
        cells = (
            item.name, surface_names().get(item.surface or "", "not known"), machine.name if machine else "",
            self._desk.wording.field_value("plate.prints", item.prints), film_words(item),
            state + (", retired" if item.retired else ""),
        )  # fmt: skip
        return Row(item.id, cells, (None, None, None, item.prints, None, None))

    def make_new(self) -> str:
        """Log a plate."""
        return new_plate(self._desk.workspace, self.name.text(), self.surface.currentData() or None,
                         self.machine.currentData() or None)  # fmt: skip


class PlateForm(QFrame):
    """One plate: what it is, the film on it, its damage, what became of runs on it."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.plate: str | None = None
        self.form = Form(desk, FIELDS, "plates")
        self.surface = choice_of(surface_names(), "surface not known", "Surface")
        self.surface.activated.connect(self._on_surface)
        self.machine = QComboBox()
        self.machine.setAccessibleName("Fits on")
        self.machine.activated.connect(self._on_machine)
        for widget, field in ((self.surface, "surface"), (self.machine, "fits_on")):
            answering(widget, field)
        self.agent = choice_of(agent_names(), "bare", "Agent that is put on")
        self.agent.setFixedWidth(180)
        self.step = Label(wordWrap=True)
        self.begin = push("Begin", self._on_begin)
        self.done = push("Step done", self._on_done)
        self.stop = push("Give up", self._on_stop)
        self.washed = push("Washed off", self._on_wash)
        self.damages = LogTable(desk, "Damage", ("When", "What", "Where", "By"), self._cells)
        self.kind = choice_of(DAMAGES, "damage", "Kind of damage")
        self.left, self.front = (
            entry("from left", "Damage from the left", 84),
            entry("from front", "Damage from the front", 84),
        )
        self.radius = entry("radius", "Radius of the damage", 70)
        for line in (self.left, self.front, self.radius):
            line.returnPressed.connect(self._on_damage)
        self.outcomes = small_table(OUTCOMES, "Runs on this plate")
        self._clock = QTimer(self, interval=1000)
        self._clock.timeout.connect(self._show_step)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 6, 0)
        column.setSpacing(6)
        column.addLayout(row_of("Surface", self.surface, Label("Fits on"), self.machine))
        column.addWidget(self.form)
        column.addWidget(heading("Film on it"))
        column.addLayout(row_of("Put on", self.agent, self.begin, self.done, self.stop, self.washed))
        column.addWidget(self.step)
        column.addWidget(self.damages)
        column.addLayout(row_of("Seen", self.kind, self.left, self.front, self.radius, push("Log", self._on_damage)))
        column.addWidget(heading("What became of runs on it"))
        column.addWidget(self.outcomes)
        column.addStretch()

    def follow(self, key: str | None) -> None:
        """Show another plate."""
        self.setVisible(key is not None)
        self.plate = key
        if key is None:
            return
        records = self._desk.workspace.draft.records
        item = records.tables["plates"][key]
        self.form.follow(key)
        self.surface.setCurrentIndex(max(self.surface.findData(item.surface or ""), 0))
        show_records(self.machine, "any machine", records.machines, item.fits_on)
        if item.coating:
            self.agent.setCurrentIndex(max(self.agent.findData(item.coating), 0))
        self.damages.follow(Place("plates", key, "damages"), item.damages)
        self.outcomes.show_rows(plate_outcomes(self._desk.workspace, key, self._desk.wording)
                                or [("none yet", "", "", "", "", "")])  # fmt: skip
        self._show_step()

    @guarded()
    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._show_step()

    @guarded()
    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        self._clock.stop()

    def _show_step(self) -> None:
        """Where the coating stands; the clock runs while a step does and somebody looks."""
        item = self._desk.workspace.draft.records.tables["plates"].get(self.plate or "")
        found = coating_of(item, self._desk.workspace.clock()) if item is not None else None
        for button in (self.done, self.stop):
            button.setEnabled(found is not None)
        self.begin.setEnabled(found is None)
        if found is None:
            self._clock.stop()
            self.step.setText(f"On it: {film_words(item)}.")
            return
        left = max(found.left_s, 0.0)
        rest = f"{int(left // 60)} min {int(left % 60):02d} s left" if left else "its time is over"
        self.step.setText(f"Step {found.number} of {found.of}: {found.do}; {rest}.")
        if left and self.isVisible():
            self._clock.start()
        else:
            self._clock.stop()

    def _cells(self, each: Damage) -> tuple[str, ...]:
        wording = self._desk.wording
        where = "" if each.x_mm is None or each.y_mm is None else (
            f"{wording.number(each.x_mm, 'length')}, {wording.value(each.y_mm, 'length')}"
        )  # fmt: skip
        return when_words(each.at_utc)[:10], DAMAGES.get(each.kind or "", "not said"), where, each.by

    def _set(self, field: str, value: str | None, title: str) -> None:
        if self.plate is not None:
            self._desk.tell(self._desk.set({Place("plates", self.plate, field): value}, title=title))

    def _on_surface(self) -> None:
        self._set("surface", self.surface.currentData() or None, "Surface of a plate")

    def _on_machine(self) -> None:
        self._set("fits_on", self.machine.currentData() or None, "Machine of a plate")

    def _on_begin(self) -> None:
        plate, agent = self.plate or "", self.agent.currentData() or None
        self._desk.run(lambda: begin_coating(self._desk.workspace, plate, agent))

    def _on_done(self) -> None:
        def done() -> None:
            words = next_step(self._desk.workspace, self.plate or "")
            if words:
                self._desk.messages.note(words)

        self._desk.run(done)

    def _on_stop(self) -> None:
        self._desk.run(lambda: stop_coating(self._desk.workspace, self.plate or ""))

    def _on_wash(self) -> None:
        self._desk.run(lambda: coat(self._desk.workspace, self.plate or "", None, 0.0))

    def _on_damage(self) -> None:
        def log() -> None:
            wording = self._desk.wording
            x, y, r = (wording.read(line.text(), "length") if line.text().strip() else None
                       for line in (self.left, self.front, self.radius))  # fmt: skip
            words = log_damage(self._desk.workspace, self.plate or "", self.kind.currentData() or None, x, y, r)
            if words:
                self._desk.messages.error(words)
            for line in (self.left, self.front, self.radius):
                line.clear()

        self._desk.run(log)
