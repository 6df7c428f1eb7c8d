"""Pages on which what was measured is typed, worked out and kept: multiplier, ladders, strength across layers."""

from typing import Any, ClassVar

from PySide6.QtWidgets import QCheckBox, QComboBox, QGridLayout, QHBoxLayout, QLineEdit, QPushButton, QWidget

from kaustos.app.measuring import (
    LADDERS,
    keep_ladder,
    keep_multiplier,
    keep_ratio,
    ladder_words,
    multiplier_words,
    work_out_ladder,
    work_out_multiplier,
)
from kaustos.core.errors import KaustosError
from kaustos.core.planning.multiplier import CAUSES
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label, Line


def _line(name: str, hint: str, width: int = 0) -> QLineEdit:
    line = Line()
    line.setAccessibleName(name)
    line.setPlaceholderText(hint)
    if width:
        line.setFixedWidth(width)
    return line


class _Page(QWidget):
    """Lines of readings, what they say, and a button that keeps it."""

    def __init__(self, desk: Desk, keep: str) -> None:
        super().__init__()
        self._desk = desk
        self.found: Any = None
        self.words = Label(wordWrap=True)
        self.keep = QPushButton(keep)
        self.keep.setEnabled(False)
        self.keep.clicked.connect(self._on_keep)
        self.grid = QGridLayout(self)
        self.grid.setContentsMargins(0, 0, 0, 0)
        self.grid.setVerticalSpacing(4)

    def read(self) -> None:
        """Say what is typed tells so far."""
        self.found = None
        try:
            self.found, words = self._work_out()
        except KaustosError as fault:
            words = str(fault)
        self.words.setText(words)
        self.keep.setEnabled(self.found is not None)

    def _work_out(self) -> tuple[Any, str]:
        raise NotImplementedError

    def _kept(self) -> str:
        raise NotImplementedError

    def _on_keep(self) -> None:
        def keep() -> None:
            self._desk.messages.note(self._kept())

        self._desk.run(keep)


class MultiplierPage(_Page):
    """Walls measured with a caliper; the multiplier they ask for; causes to rule out where it is odd."""

    HINT = "Print a hollow box as the recipe is set, measure its walls, type them with blanks between."

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, "Keep with machine and lot")
        self.walls = _line("Walls as measured", "0.51 0.50 0.52 0.50")
        self.beads = _line("Beads in that wall", "1", 48)
        self.beads.setText("1")
        self.waived = _line("Waived by", "name", 110)
        self.causes = [QCheckBox(str(number)) for number in range(1, len(CAUSES) + 1)]
        for line in (self.walls, self.beads):
            line.textEdited.connect(lambda _: self.read())
        row, below = QHBoxLayout(), QHBoxLayout()
        row.setSpacing(6)
        row.addWidget(Label("Ruled out"))
        for box, cause in zip(self.causes, CAUSES, strict=True):
            box.setToolTip(cause)
            box.setAccessibleName(f"Ruled out: {cause}")
            row.addWidget(box)
        row.addStretch()
        below.addWidget(Label("or waived by"))
        below.addWidget(self.waived)
        below.addStretch()
        below.addWidget(self.keep)
        self.grid.addWidget(Label("Walls"), 0, 0)
        self.grid.addWidget(self.walls, 0, 1)
        self.grid.addWidget(Label("beads in it"), 0, 2)
        self.grid.addWidget(self.beads, 0, 3)
        self.grid.addWidget(self.words, 1, 0, 1, 4)
        self.grid.addLayout(row, 2, 0, 1, 4)
        self.grid.addLayout(below, 3, 0, 1, 4)
        self.grid.setColumnStretch(1, 1)
        self.grid.setRowStretch(1, 1)
        self.words.setText(self.HINT)

    def _work_out(self) -> tuple[Any, str]:
        if not self.walls.text().strip():
            return None, self.HINT
        fit = work_out_multiplier(self.walls.text(), self.beads.text(), self._desk.context, self._desk.workspace)
        words = multiplier_words(fit, self._desk.wording)
        if fit.is_odd:
            words += " " + "; ".join(f"{number} {cause.lower()}" for number, cause in enumerate(CAUSES, 1)) + "."
        return fit, words

    def _kept(self) -> str:
        ruled_out = [cause for box, cause in zip(self.causes, CAUSES, strict=True) if box.isChecked()]
        words = keep_multiplier(self._desk.workspace, self._desk.context, self.found, ruled_out, self.waived.text())
        self.walls.clear()
        self.read()
        return words


class LadderPage(_Page):
    """Steps of heat with what they scored, or steps of flow that were good or bad."""

    HINTS: ClassVar = {"heat": "240 2; 250 3.5; 260 4; 270 3", "flow": "6 good; 8 good; 10 good; 12 bad"}

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, "Keep with machine and lot")
        self.kind = QComboBox()
        self.kind.setAccessibleName("Which ladder")
        for key, title in LADDERS.items():
            self.kind.addItem(title, key)
        self.steps = _line("Steps with their results", self.HINTS["heat"])
        self.steps.textEdited.connect(lambda _: self.read())
        self.kind.currentIndexChanged.connect(lambda _: self._turn())
        self.grid.addWidget(self.kind, 0, 0)
        self.grid.addWidget(self.steps, 0, 1)
        self.grid.addWidget(self.words, 1, 0, 1, 2)
        self.grid.addWidget(self.keep, 2, 1)
        self.grid.setColumnStretch(1, 1)
        self.grid.setRowStretch(1, 1)
        self.read()

    def _turn(self) -> None:
        self.steps.setPlaceholderText(self.HINTS[self.kind.currentData()])
        self.read()

    def _work_out(self) -> tuple[Any, str]:
        if not self.steps.text().strip():
            return None, "Type each step with its result. Judge all by one measure: bend, sound, look of the fracture."
        ladder = work_out_ladder(self.kind.currentData(), self.steps.text(), self._desk.wording)
        return ladder, ladder_words(ladder, self._desk.wording)

    def _kept(self) -> str:
        words = keep_ladder(self._desk.workspace, self._desk.context, self.found)
        self.steps.clear()
        self.read()
        return words


class RatioPage(_Page):
    """Strength of specimens across and along the layers; what the grade rests on from then on."""

    HINT = "Pull or bend specimens made like the part, across and along; at least three of each, in MPa."

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, "Keep the ratio with machine and lot")
        self.across = _line("Strength across the layers", "31 28 30")
        self.along = _line("Strength along the layers", "52 55 53")
        for row, (title, line) in enumerate((("Across", self.across), ("Along", self.along))):
            line.textEdited.connect(lambda _: self.read())
            self.grid.addWidget(Label(title), row, 0)
            self.grid.addWidget(line, row, 1)
        self.grid.addWidget(self.words, 2, 0, 1, 2)
        self.grid.addWidget(self.keep, 3, 1)
        self.grid.setColumnStretch(1, 1)
        self.grid.setRowStretch(2, 1)
        self.words.setText(self.HINT)

    def _work_out(self) -> tuple[Any, str]:
        is_there = bool(self.across.text().strip() and self.along.text().strip())
        return (True if is_there else None), self.HINT

    def _kept(self) -> str:
        words = keep_ratio(self._desk.workspace, self._desk.context, self.across.text(), self.along.text())
        self.across.clear()
        self.along.clear()
        self.read()
        return words
