"""What the label of a lot's grade says, beside what is in force, and its picture."""

from PySide6.QtWidgets import QGridLayout, QLabel, QLineEdit, QVBoxLayout, QWidget

from kaustos.app.label import RANGES, label_lines, not_on_label, read_label
from kaustos.core.errors import KaustosError
from kaustos.core.records import Lot
from kaustos.ui.desk import Desk
from kaustos.ui.photos import PhotoLabel
from kaustos.ui.rooms.parts import entry, heading


class LotLabel(QWidget):
    """One line for each thing a label may give; what is typed holds for every lot of the grade."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.lot: str | None = None
        self.entries: dict[str, QLineEdit] = {}
        self.in_force: dict[str, QLabel] = {}
        self.units: dict[str, QLabel] = {}
        self.fault, self.missing = QLabel(wordWrap=True), QLabel(wordWrap=True)
        self.fault.setProperty("role", "fault")
        self.photo = PhotoLabel(desk)
        grid = QGridLayout()
        grid.setVerticalSpacing(4)
        grid.setHorizontalSpacing(8)
        grid.setColumnStretch(3, 1)
        for row, (key, (title, *_)) in enumerate(RANGES.items()):
            line = entry("not given", f"{title} on the label", 110)
            line.editingFinished.connect(lambda key=key: self._on_edited(key))
            self.entries[key], self.units[key], self.in_force[key] = line, QLabel(), QLabel(wordWrap=True)
            self.in_force[key].setProperty("role", "muted")
            for place, widget in enumerate((QLabel(title), line, self.units[key], self.in_force[key])):
                grid.addWidget(widget, row, place)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(heading("As the label or the data sheet says, for every lot of the grade"))
        column.addLayout(grid)
        for widget in (self.fault, self.missing, self.photo):
            column.addWidget(widget)
        column.addStretch()

    def follow(self, key: str, lot: Lot) -> None:
        """Show another lot's label; what is no range stays where it was typed."""
        if key != self.lot:
            self._say("")
        self.lot = key
        for line in label_lines(lot, self._desk.wording):
            box = self.entries[line.key]
            if not (box.isModified() and (box.hasFocus() or self.fault.isVisible())):
                box.setText(line.text)
                box.setModified(False)
            self.units[line.key].setText(line.unit)
            self.in_force[line.key].setText(line.in_force)
        missing = not_on_label(lot)
        words = f"Not given: {', '.join(missing)}. There the library's typical values are in force: ask the maker."
        self.missing.setText(words if missing else "The label gives every window.")
        self.photo.follow(lot.photos)

    def _on_edited(self, key: str) -> None:
        box = self.entries[key]
        if self.lot is None or not box.isModified():
            return
        try:
            read_label(self._desk.workspace, self.lot, key, box.text())
        except KaustosError as error:
            self._say(str(error))
            return
        box.setModified(False)
        self._say("")
        self.follow(self.lot, self._desk.workspace.draft.records.lots[self.lot])

    def _say(self, fault: str) -> None:
        self.fault.setText(fault)
        self.fault.setVisible(bool(fault))
