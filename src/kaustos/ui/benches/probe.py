"""A skirt as a level probe: its thickness on four sides, and what that says of tilt and offset."""

from PySide6.QtWidgets import QGridLayout, QLineEdit, QPushButton, QWidget

from kaustos.app.plates import keep_correction, probe_words
from kaustos.core.errors import KaustosError
from kaustos.core.planning.skirt import SIDES
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label, Line


class SkirtProbe(QWidget):
    """Four readings of a skirt, and the correction that they ask for."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._correction: float | None = None
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(4)
        self.lines: dict[str, QLineEdit] = {}
        for place, side in enumerate(SIDES):
            line = Line()
            line.setPlaceholderText("thickness")
            line.setAccessibleName(f"Thickness of the skirt, {side}")
            line.setFixedWidth(84)
            line.textEdited.connect(lambda _: self.read())
            self.lines[side] = line
            grid.addWidget(Label(side.capitalize()), place // 2, 2 * (place % 2))
            grid.addWidget(line, place // 2, 2 * (place % 2) + 1)
        self.words = Label("Measure the skirt on all four sides with a caliper.", wordWrap=True)
        self.keep = QPushButton("Keep the correction on the machine")
        self.keep.clicked.connect(self._on_keep)
        self.keep.setEnabled(False)
        grid.addWidget(self.words, 2, 0, 1, 5)
        grid.addWidget(self.keep, 3, 0, 1, 3)
        grid.setColumnStretch(4, 1)
        grid.setRowStretch(4, 1)

    def read(self) -> None:
        """Say what the readings tell, as far as all four are there."""
        self._correction = None
        if self._desk.has_recipe and all(line.text().strip() for line in self.lines.values()):
            first = self._desk.workspace.draft.records.card.recipe.first_layer
            wanted = first.gap_mm or first.height_mm
            try:
                thick = {side: self._desk.wording.read(line.text(), "length") for side, line in self.lines.items()}
                if wanted is None:
                    self.words.setText("Set the gap of the first layer above: it is what the skirt is compared with.")
                else:
                    words, self._correction = probe_words(thick, wanted, self._desk.wording)
                    self.words.setText(words)
            except KaustosError as fault:
                self.words.setText(str(fault))
        else:
            self.words.setText("Measure the skirt on all four sides with a caliper.")
        self.keep.setEnabled(self._correction is not None and self._desk.context.machine is not None)

    def _on_keep(self) -> None:
        machine, correction = self._desk.context.machine, self._correction
        if machine is None or correction is None:
            return

        def keep() -> None:
            words = keep_correction(self._desk.workspace, machine, correction)
            self._desk.messages.note(words or f"The offset of {machine.name} is kept with its date.")
            for line in self.lines.values():
                line.clear()
            self.read()

        self._desk.run(keep)
