"""Bench 90: the job file, the list before a start, and the day by the clock."""

from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QHeaderView, QPushButton, QVBoxLayout, QWidget

from kaustos.app.jobs import VERSION_HEADINGS, call_zero, keep_job, reading, version_rows
from kaustos.app.pictures import views_of
from kaustos.app.results import Request
from kaustos.app.running import (
    CHECK_HEADINGS,
    DAY_HEADINGS,
    check_rows,
    checks_of,
    day_rows,
    preflight_words,
    write_calendar,
)
from kaustos.core.errors import KaustosError
from kaustos.disk import name_of
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.errand import Errand
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.picture import Picture
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.files import JOB_FILES
from kaustos.ui.following import Following
from kaustos.ui.forms import Form

FIELDS = ("context.job", "first_layer.look_by", "brief.print_h", "heat.soak_min")
FILES = f"Job files ({' '.join(f'*{each}' for each in JOB_FILES)})"


class RunBench(Bench):
    """File and who looks; the day or the file; the list before a start, the day's tasks, figures."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "run", self.form, Picture(desk, "run"))
        self.open, self.errand = QPushButton("Open job file"), Errand(desk, self)
        self.open.clicked.connect(self._on_open)
        names = views_of("run")
        self.views, row = switches(names, lambda place: self.picture.look_at(names[place]))
        for widget in (self.open, self.errand.cancel):
            row.addWidget(widget)
        self.column.insertLayout(self.column.indexOf(self.picture), row)
        self.column.insertWidget(self.column.indexOf(self.picture), self.errand.words)
        self.preflight, self.day = PreflightTable(desk), DayPage(desk)
        self.versions = VersionsPage(desk)
        pages = {"Preflight": self.preflight, "Day": self.day, "Versions": self.versions, "Figures": self.figures}
        self.switches = self.turn_pages(pages)

    def show_field(self, path: str) -> bool:
        """Lead to an input."""
        return self.form.show_field(path)

    # ---- reading a file

    def _on_open(self) -> None:
        file, _ = QFileDialog.getOpenFileName(self, "Open job file", "", FILES)
        if file:
            self.desk.run(lambda: self.take(Path(file)))

    def take(self, file: Path) -> None:
        """Read a file as a job."""
        wanted, card = reading(self.desk.workspace, file), self.desk.workspace.draft.records.current or ""

        def keep(found: Any) -> None:
            words = keep_job(self.desk.workspace, found, card)
            self.errand.say(words)
            self.desk.messages.note(words)

        self.errand.begin(Request("job", (file,), wanted), f"Reading {name_of(file)}",
                          lambda found: self.desk.run(lambda: keep(found)))  # fmt: skip


class PreflightTable(Following, PlainTable):
    """Every line before a start: met, not met or unknown, and why."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(CHECK_HEADINGS)
        self._desk = desk
        self.setAccessibleName("List before a start")
        header = self.horizontalHeader()
        for column, width in ((0, 190), (1, 64)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the review."""
        if not self._desk.has_recipe or self._desk.review is None:
            return
        recipe = self._desk.workspace.draft.records.card.recipe
        checks = checks_of(self._desk.review, recipe, self._desk.context)
        self.setToolTip(preflight_words(checks))
        self.show_rows(check_rows(checks, self._desk.wording))


class VersionsPage(Following, QWidget):
    """Recipe, bound file and the file of the default profile side by side."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.table = PlainTable(VERSION_HEADINGS)
        self.table.setAccessibleName("Recipe, file and version zero")
        header = self.table.horizontalHeader()
        for column, width in ((0, 150), (1, 76), (2, 76), (3, 90)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(4, QHeaderView.ResizeMode.Stretch)
        self.zero = QPushButton("This file is version zero")
        self.zero.setToolTip("What the default profile of this machine and polymer makes, nothing moved")
        self.zero.clicked.connect(lambda: desk.run(lambda: desk.messages.note(call_zero(desk.workspace))))
        column_ = QVBoxLayout(self)
        column_.setContentsMargins(0, 0, 0, 0)
        column_.addWidget(self.table)
        row = QHBoxLayout()
        row.addStretch()
        row.addWidget(self.zero)
        column_.addLayout(row)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow recipe and files."""
        self.table.show_rows(version_rows(self._desk.workspace))


class DayPage(Following, QWidget):
    """Who is wanted when; written as a calendar."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.table = PlainTable(DAY_HEADINGS)
        self.table.setAccessibleName("Tasks of the run by the clock")
        header = self.table.horizontalHeader()
        for column, width in ((0, 130), (1, 150), (2, 70)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        self.write = QPushButton("Write calendar")
        self.write.clicked.connect(self._on_write)
        column_ = QVBoxLayout(self)
        column_.setContentsMargins(0, 0, 0, 0)
        column_.addWidget(self.table)
        row = QHBoxLayout()
        row.addStretch()
        row.addWidget(self.write)
        column_.addLayout(row)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow recipe, file and clock."""
        if self._desk.has_recipe:
            rows = day_rows(self._desk.context, self._desk.workspace)
            self.table.show_rows(rows or [("", "no hours are known yet", "", "")])

    def _on_write(self) -> None:
        file, _ = QFileDialog.getSaveFileName(self, "Write calendar", "run.ics", "Calendar (*.ics)")
        if file:
            self.write_to(Path(file))

    def write_to(self, file: Path) -> None:
        """Write the calendar into a file."""

        def write() -> None:
            if not self._desk.has_recipe:
                raise KaustosError("Open a recipe first.")
            self._desk.messages.note(write_calendar(self._desk.workspace, self._desk.context, file))

        self._desk.run(write)
