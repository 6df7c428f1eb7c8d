"""The part of a recipe: its file, what was measured on it, which side lies down, how large it is."""

from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from kaustos.app.parts import (
    Asked,
    Measured,
    ReadPart,
    add_fit,
    again,
    asked_now,
    drop_fit,
    keep_part,
    part_rows,
    read_scale,
    scaled_words,
    side_title,
    side_words,
)
from kaustos.app.results import Request
from kaustos.core.errors import KaustosError
from kaustos.core.records import PrintedPart, Shape
from kaustos.core.records.part import FITS
from kaustos.ui.benches.errand import Errand
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.leading import answering
from kaustos.ui.look.text import Label, Line

UNREAD = -1
FILES = "Part files (*.stl *.3mf *.obj)"


class PartPage(Following, QWidget):
    """One part file: opened or dropped, measured away from the window, kept by one edit."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._measured: Measured | None = None
        self._asked = Asked(None, None)  # what the file was opened for that a unit is asked of
        self._of: str | None = None  # part whose sides are listed, empty for none
        self.table = PlainTable(("Part", ""))
        self.table.setAccessibleName("What was measured on the part")
        self.table.horizontalHeader().resizeSection(0, 150)
        self.table.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        self.open = QPushButton("Open part file")
        self.open.clicked.connect(self._on_open)
        answering(self.open, "part", "part.shape")
        self.sides = QComboBox()
        self.sides.setAccessibleName("Side that lies down")
        self.sides.setFixedWidth(190)
        self.sides.activated.connect(self._on_side)
        self.scale = Line()
        self.scale.setPlaceholderText("scale")
        self.scale.setAccessibleName("Scale of the part")
        self.scale.setFixedWidth(60)
        self.scale.editingFinished.connect(self._on_scale)
        self.why = Line()
        self.why.setPlaceholderText("why the earlier file is given up")
        self.why.setAccessibleName("Why the earlier file is given up")
        self.why.setFixedWidth(210)
        self.hole = Line()
        self.hole.setPlaceholderText("hole for: M5 insert")
        self.hole.setAccessibleName("What goes into a hole")
        self.fit = QComboBox()
        self.fit.setAccessibleName("How it sits")
        self.fit.addItem("fit", None)
        for key, title in FITS.items():
            self.fit.addItem(title, key)
        self.fit.setFixedWidth(118)
        self.across = Line()
        self.across.setPlaceholderText("across, mm")
        self.across.setAccessibleName("Across, of what goes in")
        self.across.setFixedWidth(96)
        self.across.returnPressed.connect(self.add_hole)
        self.add = QPushButton("Note")
        self.add.clicked.connect(self.add_hole)
        self.drop = QPushButton("Take out")
        self.drop.clicked.connect(self.drop_hole)
        self.errand = Errand(desk, self)
        self.errand.words.setProperty("role", "muted")
        self.units = QHBoxLayout()
        row = QHBoxLayout()
        row.setSpacing(8)
        for widget in (self.open, self.errand.cancel, Label("Lies on"), self.sides, Label("Scale"), self.scale):
            row.addWidget(widget)
        row.addStretch()
        holes = QHBoxLayout()
        holes.setSpacing(8)
        for widget in (self.hole, self.fit, self.across, self.add, self.drop):
            holes.addWidget(widget)
        given_up = QHBoxLayout()
        given_up.setSpacing(8)
        given_up.addWidget(self.errand.words, 1)
        given_up.addWidget(self.why, 0, Qt.AlignmentFlag.AlignRight)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addLayout(row)
        column.addLayout(given_up)
        column.addLayout(self.units)
        column.addLayout(holes)
        column.addWidget(self.table, 1)
        self.setAcceptDrops(False)  # the window takes what is dropped
        self.follow_desk(desk)

    @property
    def part(self) -> PrintedPart | None:
        """The part that the open recipe prints."""
        return self._desk.context.part if self._desk.has_recipe else None

    def refresh(self) -> None:
        """Follow the recipe."""
        if not self._desk.has_recipe:
            return
        part = self.part
        self.table.show_rows(part_rows(part, self._desk.wording))
        self.scale.setEnabled(part is not None)
        self.why.setEnabled(part is not None and bool(part.files))
        self.drop.setEnabled(part is not None and bool(part.fits))
        self.sides.setEnabled(part is not None and bool(part.files))
        current = part.id if part is not None else ""
        if self._of != current:  # another part, or another recipe: its sides are not read yet
            self._of = current
            if part is not None and part.shape is not None and part.shape.sides:
                self._show_sides(part.shape, None if part.turned is None else int(part.turned))
            else:  # measured by an older version
                self.sides.clear()
                self.sides.addItem("choose, to read its sides", UNREAD)
        if not self.scale.hasFocus():
            self.scale.setText("" if part is None else f"{part.scale or 1.0:g}")

    # ---- reading

    def _on_open(self) -> None:
        file, _ = QFileDialog.getOpenFileName(self, "Open part file", "", FILES)
        if file:
            self.take(Path(file))

    def take(self, file: Path) -> None:
        """Measure a file as a job."""
        self._begin(ReadPart(file))

    def _begin(self, wanted: ReadPart, asked: Asked | None = None) -> None:
        asked = asked or asked_now(self._desk.workspace)
        given_up = self.why.text().strip()
        self._clear_units()  # of a file before this one

        def done(found: Any) -> None:
            if found.unlikely:
                self._ask_unit(found, asked)
            else:
                self.keep(found, asked, given_up)

        request = Request("part", (wanted.file,), wanted)
        self.errand.begin(request, f"Measuring {wanted.file.name}", done)

    def keep(self, found: Measured, asked: Asked, given_up: str) -> None:
        """Keep what was measured with the recipe that it was opened for."""

        def act() -> None:
            key = keep_part(self._desk.workspace, found, asked, given_up)
            mended = "; ".join((*found.repair.done, *found.repair.left))
            words = f"{found.name} measured." + (f" {mended}." if mended else "")
            if asked.card != self._desk.workspace.draft.records.current:
                name = self._desk.workspace.draft.records.cards[asked.card].recipe.name if asked.card else "no recipe"
                self._desk.messages.note(f"{words} It is kept with {name}, for which it was opened.")
                self.errand.say("")
                return
            self._of, self._measured = key, found
            self._show_sides(found.shape, found.turned)
            self.why.clear()
            self.errand.say(words)

        self._desk.run(act)

    def _show_sides(self, shape: Shape, turned: int | None) -> None:
        wording = self._desk.wording
        self.sides.clear()
        self.sides.addItem("as it came", None)
        for side in shape.sides:
            self.sides.addItem(side_title(side, wording), int(side.number))
            self.sides.setItemData(self.sides.count() - 1, side_words(side, wording), Qt.ItemDataRole.ToolTipRole)
        at = self.sides.findData(turned)
        self.sides.setCurrentIndex(max(at, 0))

    def _ask_unit(self, found: Measured, asked: Asked) -> None:
        """A size that is unlikely in millimetres: which unit was meant is asked, nothing is guessed."""
        self._measured, self._asked = found, asked
        size = max(found.shape.size_x_mm, found.shape.size_y_mm, found.shape.size_z_mm)
        self.errand.say(f"{found.name} would be {size:g} mm long. Which unit is it in?")
        self._clear_units()
        for unit, factor in {"mm": 1.0, **found.unlikely}.items():
            button = QPushButton(f"{unit}: {size * factor:g} mm")
            button.clicked.connect(lambda _=False, factor=factor: self._on_unit(factor))
            self.units.addWidget(button)

    def _on_unit(self, factor: float) -> None:
        found, self._measured = self._measured, None
        self._clear_units()
        if found is None:
            return
        self.errand.say("")
        if factor == 1.0:
            self.keep(found, self._asked, self.why.text().strip())
            return
        self._begin(ReadPart(Path(found.name), found.scale * factor, found.turned, found.content), self._asked)

    def _clear_units(self) -> None:
        while self.units.count():
            item = self.units.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.deleteLater()

    # ---- holes

    def add_hole(self) -> None:
        """Note a hole by what goes into it."""
        name, kind, across = self.hole.text(), self.fit.currentData(), self.across.text()

        def act() -> None:
            add_fit(self._desk.workspace, self.part, name, kind, across)
            self.hole.clear()
            self.across.clear()

        self._desk.run(act)

    def drop_hole(self) -> None:
        """Take out the hole of the chosen row, the last where none is chosen."""
        part = self.part
        if part is None or not part.fits:
            return
        last = len(part.fits) - 1
        chosen = self.table.currentRow() - (self.table.rowCount() - len(part.fits))
        self._desk.run(lambda: drop_fit(self._desk.workspace, part, chosen if 0 <= chosen <= last else last))

    # ---- turning and scaling what is kept

    def _on_side(self) -> None:
        part, turned = self.part, self.sides.currentData()
        if part is None:
            return
        if turned == UNREAD:
            turned = None if part.turned is None else int(part.turned)
        self._desk.run(lambda: self._begin(again(self._desk.workspace, part, part.scale or 1.0, turned)))

    def _on_scale(self) -> None:
        part, text = self.part, self.scale.text().strip()
        if part is None or not self.scale.isModified():
            return
        self.scale.setModified(False)
        try:
            factor = read_scale(text, self._desk.wording)
        except KaustosError as fault:
            self.errand.say(str(fault))
            return
        nozzle = self._desk.context.nozzle
        words = scaled_words(part, factor, nozzle.bore_mm if nozzle else None, self._desk.wording)
        self._desk.messages.note(f"Scaled: {words}.")
        turned = None if part.turned is None else int(part.turned)
        self._desk.run(lambda: self._begin(again(self._desk.workspace, part, factor, turned)))
