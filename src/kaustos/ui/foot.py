"""The foot: mass, time, energy and cost of the run, cautions that apply, and whether all is saved."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QWidget

from kaustos.app.sheet import run_rows
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.look.text import Label

NOT_SAVED = "NOT SAVED, trying again"


class IntakeBar(QWidget):
    """The table that is being taken in, how far it is, and how to stop it; not there while there is none."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._taking_in = desk.taking_in
        self.words, self.bar, self.stop = Label(), QProgressBar(), QPushButton("Stop taking in")
        self.bar.setFixedWidth(120)
        self.bar.setTextVisible(False)
        self.stop.setToolTip("Nothing of the table is kept (Ctrl+.)")
        self.stop.clicked.connect(self._taking_in.call_off)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        for each in (self.words, self.bar, self.stop):
            row.addWidget(each)
        self._taking_in.changed.connect(self._show)
        self._show()

    def _show(self) -> None:
        """Follow what is being taken in."""
        file, done, of = self._taking_in.file, self._taking_in.done, self._taking_in.of
        self.setVisible(file is not None)
        self.words.setText(f"{self._taking_in.name}: line {done} of {of}" if of else self._taking_in.name)
        self.bar.setMaximum(of)
        self.bar.setValue(done)


class Foot(Following, QWidget):
    """One row under everything."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.setObjectName("foot")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._desk = desk
        self.run, self.state = Label(), Label()
        self.state.setProperty("role", "muted")
        self.state.setMinimumWidth(self.state.fontMetrics().horizontalAdvance(NOT_SAVED))  # so that nothing jumps
        self.state.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.cautions = QPushButton()
        self.cautions.setProperty("role", "link")
        self.cautions.clicked.connect(self._on_cautions)
        self.intake = IntakeBar(desk)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 3, 12, 3)
        row.setSpacing(16)
        row.addWidget(self.run)
        row.addWidget(self.cautions)
        row.addStretch()
        row.addWidget(self.intake)
        row.addWidget(self.state)
        self.follow_desk(desk)
        desk.saved.connect(self.show_state)
        self.show_state()

    def refresh(self) -> None:
        """Follow the desk."""
        if not self._desk.has_recipe:
            return
        recipe = self._desk.workspace.draft.records.card.recipe
        rows = run_rows(recipe, self._desk.context, self._desk.review, self._desk.wording)
        self.run.setText("   ".join(f"{name} {_bare(value)}" for name, value in rows))
        self.run.setToolTip("\n".join(f"{name}: {value}" for name, value in rows))
        cautions = self._texts()
        self.cautions.setText(f"{len(cautions)} cautions apply" if len(cautions) != 1 else "1 caution applies")
        self.cautions.setToolTip("\n\n".join(cautions))
        self.cautions.setVisible(bool(cautions))
        self.show_state()

    def show_state(self) -> None:
        """Say whether all is saved."""
        self.state.setText(self._state())

    def _texts(self) -> list[str]:
        return [caution.text for operation in self._desk.review.operations for caution in operation.cautions]

    def _on_cautions(self) -> None:
        self._desk.messages.note("\n".join(self._texts()))

    def _state(self) -> str:
        if self._desk.workspace.draft.read_only:
            return "Reading only"
        if self._desk.fault:
            return NOT_SAVED
        if self._desk.cannot_judge:
            return "Saving, not judged" if self._desk.workspace.unsaved else "Saved, not judged"
        return "Saving" if self._desk.workspace.unsaved else "Draft saved"


def _bare(value: str) -> str:
    return value.split(" (")[0]
