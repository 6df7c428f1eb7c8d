"""The nozzles of the shop: the list, and the chosen one with its wear, what was fed and what was found."""

from pathlib import Path

from PySide6.QtWidgets import QComboBox, QFrame, QVBoxLayout

from kaustos.app.clock import read_past
from kaustos.app.nozzles import (
    feed_by_hand,
    fit_on,
    kilograms,
    life_words,
    look_at,
    new_nozzle,
    nozzle_state,
    pull_words,
    section_on,
)
from kaustos.app.pictures.nozzle import draw_section
from kaustos.app.wording import when_words
from kaustos.core.records import FILLER_TITLES, Feeding, Inspection, Nozzle, Place
from kaustos.core.records.nozzle import FOUND_BY, MATERIALS, STATES
from kaustos.ui.desk import Desk
from kaustos.ui.drawn import Drawn
from kaustos.ui.forms import Form
from kaustos.ui.leading import answering
from kaustos.ui.look.text import Label
from kaustos.ui.photos import ask_photo
from kaustos.ui.rooms.kept import KeptPage
from kaustos.ui.rooms.logs import LogTable
from kaustos.ui.rooms.parts import choice_of, entry, heading, push, row_of, show_records
from kaustos.ui.tables import Row

FIELDS = ("name", "serial", "material", "bore_mm", "land_mm", "cone_deg", "max_c", "price", "origin", "edge",
          "finish")  # fmt: skip


class Nozzles(KeptPage):
    """The list of nozzles, the chosen one, and the name of a new one."""

    def __init__(self, desk: Desk) -> None:
        headings = ("Nozzle", "Bore", "Fitted on", "Fed", "Tip lost", "Fibre to come", "State")
        super().__init__(desk, "nozzle", "nozzles", headings)
        self.material = choice_of(MATERIALS, "material not known", "Material of the new nozzle")
        self.bore = entry("bore, such as 0.6 mm", "Bore of the new nozzle", 150)
        self.lay_out(NozzleForm(desk), 520, self.material, self.bore)

    def refresh(self, *, retired: bool) -> None:
        """Follow the desk, retired ones shown or not."""
        records, wording = self._desk.workspace.draft.records, self._desk.wording
        fed = self._desk.workspace.shop().fed
        self.show_kept(
            records.nozzles, self._row,
            lambda each: (fed.get(each.id), records.machines.get(each.fitted_on or ""), wording), retired=retired,
        )  # fmt: skip

    def _row(self, nozzle: Nozzle) -> Row:
        wording, state = self._desk.wording, nozzle_state(self._desk.workspace, nozzle)
        machine = self._desk.workspace.draft.records.machines.get(nozzle.fitted_on or "")
        cells = (
            nozzle.name, wording.field_value("nozzle.bore_mm", nozzle.bore_mm), machine.name if machine else "",
            kilograms(state.fed_g), wording.value(state.lost_um, "fine_length"), kilograms(state.fibre_g),
            state.word + (", retired" if nozzle.retired else ""),
        )  # fmt: skip
        sort = (None, nozzle.bore_mm, None, state.fed_g, state.lost_um, state.fibre_g, None)
        return Row(nozzle.id, cells, sort)

    def make_new(self) -> str:
        """Log a nozzle."""
        bore = self._desk.wording.read(self.bore.text(), "length") if self.bore.text().strip() else None
        made = new_nozzle(self._desk.workspace, self.name.text(), self.material.currentData() or None, bore)
        self.bore.clear()
        return made


class NozzleForm(QFrame):
    """One nozzle: what it is, where it is, its section, what went through it and what was found."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.nozzle: str | None = None
        self.form = Form(desk, FIELDS, "nozzles")
        self.fitted = QComboBox()
        self.fitted.setAccessibleName("Fitted on")
        self.fitted.activated.connect(self._on_fitted)
        answering(self.fitted, "fitted_on")
        self.section = Drawn(desk, draw_section, "Section of the nozzle")
        self.life = Label(wordWrap=True)
        self.fed = LogTable(desk, "Fed outside of runs", ("When", "Fed", "Filler"), self._fed_cells)
        self.grams = entry("grams, such as 400 g", "Filament fed", 140)
        self.filler = choice_of(FILLER_TITLES, "filler not known", "Filler that was fed")
        self.fed_at = entry("when: now", "When it was fed", 96)
        self.looks = LogTable(desk, "Looks", ("When", "Bore", "Shorter by", "Found by", "Looks"), self._look_cells)
        self.bore, self.lost = entry("bore", "Bore found", 72), entry("shorter by", "Tip shorter by", 84)
        answering(self.bore, "inspections")
        self.found_by = choice_of(FOUND_BY, "found by", "How it was found")
        self.state = choice_of(STATES, "looks", "How it looks")
        self.looked_at = entry("when: now", "When it was looked at", 96)
        self.pull = Label(wordWrap=True)
        self.pull.setProperty("role", "muted")
        for line in (self.grams, self.fed_at):
            line.returnPressed.connect(self._on_fed)
        for line in (self.bore, self.lost, self.looked_at):
            line.returnPressed.connect(lambda: self.log_look())
        self._lay_out()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 6, 0)
        column.setSpacing(6)
        column.addWidget(self.form)
        column.addLayout(row_of("Fitted on", self.fitted))
        column.addWidget(self.section)
        column.addWidget(self.life)
        column.addWidget(self.looks)
        column.addLayout(row_of("Found", self.bore, self.lost, self.found_by))
        column.addLayout(row_of("", self.state, self.looked_at, push("Log look", lambda: self.log_look()),
                                push("With photo", self._on_photo)))  # fmt: skip
        column.addWidget(self.fed)
        column.addLayout(row_of("Fed", self.grams, self.filler, self.fed_at, push("Log", self._on_fed)))
        column.addWidget(heading("Cold pull with the polymer of the open recipe"))
        column.addWidget(self.pull)
        column.addStretch()

    def follow(self, key: str | None) -> None:
        """Show another nozzle."""
        self.setVisible(key is not None)
        self.nozzle = key
        if key is None:
            return
        workspace, wording = self._desk.workspace, self._desk.wording
        nozzle = workspace.draft.records.nozzles[key]
        self.form.follow(key)
        show_records(self.fitted, "no machine", workspace.draft.records.machines, nozzle.fitted_on)
        self.section.show_record(section_on(workspace, nozzle))
        self.life.setText(life_words(workspace, nozzle, wording))
        self.fed.follow(Place("nozzles", key, "fed"), nozzle.fed)
        self.looks.follow(Place("nozzles", key, "inspections"), nozzle.inspections)
        self.pull.setText(pull_words(self._desk.context.polymer if self._desk.has_recipe else None, wording))

    def _fed_cells(self, each: Feeding) -> tuple[str, ...]:
        grams = self._desk.wording.field_value("nozzle.price", None) if each.grams is None else (
            self._desk.wording.value(each.grams, "mass")
        )  # fmt: skip
        return when_words(each.at_utc)[:10], grams, FILLER_TITLES.get(each.filler or "", "not known")

    def _look_cells(self, each: Inspection) -> tuple[str, ...]:
        wording = self._desk.wording
        bore, lost = ("" if size is None else wording.value(size, "length") for size in (each.bore_mm, each.lost_mm))
        return (when_words(each.at_utc)[:10], bore, lost, FOUND_BY.get(each.found_by or "", ""),
                STATES.get(each.state or "", ""))  # fmt: skip

    def _on_fitted(self) -> None:
        if self.nozzle is not None:
            nozzle, machine = self.nozzle, self.fitted.currentData() or None
            self._desk.run(lambda: fit_on(self._desk.workspace, nozzle, machine))

    def _on_fed(self) -> None:
        def log() -> None:
            now = self._desk.workspace.clock()
            when = read_past(self.fed_at.text(), now) if self.fed_at.text().strip() else None
            grams = self._desk.wording.read(self.grams.text(), "mass")
            feed_by_hand(self._desk.workspace, self.nozzle or "", grams, self.filler.currentData() or None, when)
            self.grams.clear()
            self.fed_at.clear()

        if self.nozzle is not None:
            self._desk.run(log)

    def log_look(self, photo: Path | None = None) -> None:
        """Log what was found."""

        def log() -> None:
            wording, now = self._desk.wording, self._desk.workspace.clock()
            bore, lost = (
                wording.read(each.text(), "length") if each.text().strip() else None for each in (self.bore, self.lost)
            )
            when = read_past(self.looked_at.text(), now) if self.looked_at.text().strip() else None
            words = look_at(self._desk.workspace, self.nozzle or "", bore, lost, self.found_by.currentData() or None,
                            self.state.currentData() or None, when, photo)  # fmt: skip
            if words:
                self._desk.messages.note(words)
            for line in (self.bore, self.lost, self.looked_at):
                line.clear()
            self.state.setCurrentIndex(0)

        if self.nozzle is not None:
            self._desk.run(log)

    def _on_photo(self) -> None:
        file = ask_photo(self)
        if file is not None:
            self.log_look(file)
