"""What the label of a lot's grade says, beside what is in force, and its picture."""

from PySide6.QtWidgets import QGridLayout, QLineEdit, QVBoxLayout, QWidget

from kaustos.app.label import RANGES, label_lines, not_on_label, read_label
from kaustos.core.errors import KaustosError
from kaustos.core.records import Lot
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label
from kaustos.ui.photos import PhotoLabel
from kaustos.ui.rooms.parts import entry, heading


class LotLabel(QWidget):
    """One line for each thing a label may give; what is typed holds for every lot of the grade."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.lot: str | None = None
        self.entries: dict[str, QLineEdit] = {}
        self.notes: dict[str, Label] = {}  # what is in force, or why what is typed is no range
        self.units: dict[str, Label] = {}
        self.faults: dict[str, str] = {}
        self.missing = Label(wordWrap=True)
        self.photo = PhotoLabel(desk)
        grid = QGridLayout()
        grid.setVerticalSpacing(4)
        grid.setHorizontalSpacing(8)
        grid.setColumnStretch(3, 1)
        for row, (key, (title, *_)) in enumerate(RANGES.items()):
            line = entry("not given", f"{title} on the label", 110)
            line.editingFinished.connect(lambda key=key: self._on_edited(key))
            self.entries[key], self.units[key], self.notes[key] = line, Label(), Label(wordWrap=True)
            for place, widget in enumerate((Label(title), line, self.units[key], self.notes[key])):
                grid.addWidget(widget, row, place)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(heading("As the label or the data sheet says, for every lot of the grade"))
        column.addLayout(grid)
        column.addWidget(self.missing)
        column.addWidget(self.photo)
        column.addStretch()

    def follow(self, key: str, lot: Lot) -> None:
        """Show another lot's label; what is no range stays where it was typed, marked."""
        if key != self.lot:
            self.faults.clear()
        self.lot = key
        for line in label_lines(self._desk.workspace.draft.records, lot, self._desk.wording):
            box, note, fault = self.entries[line.key], self.notes[line.key], self.faults.get(line.key, "")
            if not fault and not (box.hasFocus() and box.isModified()):
                box.setText(line.text)
                box.setModified(False)
            self.units[line.key].setText(line.unit)
            note.setText(fault or line.in_force)
            for widget, name, value in ((note, "role", "fault" if fault else "muted"),
                                        (box, "fault", "true" if fault else "false")):  # fmt: skip
                widget.setProperty(name, value)
                widget.style().polish(widget)
        missing = not_on_label(lot)
        words = f"Not given: {', '.join(missing)}. There the library's typical values are in force: ask the maker."
        self.missing.setText(words if missing else "The label gives every window.")
        self.photo.follow(lot.photos)

    def _on_edited(self, key: str) -> None:
        box = self.entries[key]
        if self.lot is None or not box.isModified():
            return
        self.faults.pop(key, None)
        try:
            read_label(self._desk.workspace, self.lot, key, box.text())
            box.setModified(False)
        except KaustosError as error:
            self.faults[key] = str(error)
        self.follow(self.lot, self._desk.workspace.draft.records.lots[self.lot])
