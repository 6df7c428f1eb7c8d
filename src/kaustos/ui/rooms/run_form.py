"""Logs a run in a few strokes: what was seen, where, when, and what it came to; the rest below."""

from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtWidgets import (
    QComboBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
)

from kaustos.app.going_on import stop_words
from kaustos.app.quantities import read
from kaustos.app.runs import (
    RUN_SETTINGS,
    accept_first_layer,
    deviations,
    end_run,
    hold_words,
    number_of,
    unmet_words,
)
from kaustos.core.errors import KaustosError
from kaustos.core.records import OUTCOMES, PLACES, SEEN, Observation, Place, Run
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label, Line

DETAILS = (
    "kind", "shape", "planned_h", "ran_h", "mass_g", "filament", "off", "off_c", "hours_lost", "money_lost", "part",
    "note",
)  # fmt: skip


class RunForm(QFrame):
    """The form of one run."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.run: str | None = None
        self.what, self.where, self.outcome = (
            _picker("What was seen", "nothing to add", SEEN),
            _picker("Where it was seen", "where", PLACES),
            _picker("Outcome", "still running", OUTCOMES),
        )
        self.at = Line()
        self.at.setAccessibleName("Minute or height at which it was seen")
        self.at.setPlaceholderText("12 min or 40 mm")
        self.at.setFixedWidth(132)
        self.at.returnPressed.connect(self.add_observation)
        self.lift = Line()
        self.lift.setAccessibleName("How far the corner lifted")
        self.lift.setPlaceholderText("lift, mm")
        self.lift.setFixedWidth(92)
        self.lift.returnPressed.connect(self.add_observation)
        self.lift.hide()
        self.what.currentIndexChanged.connect(lambda: self.lift.setVisible(self.what.currentData() == "corner_lift"))
        self.fault = Label(wordWrap=True)
        self.fault.setProperty("role", "fault")
        self.fault.hide()
        self.log = QPushButton("Log it (Ctrl+Return)")
        self.log.clicked.connect(self.log_run)
        self.hold = Label(wordWrap=True)
        self.good = QPushButton("Layer one is good")
        self.good.clicked.connect(self._on_good)
        self.details = Form(desk, DETAILS, "runs", whole_row=("part", "note"))
        self._quick()
        self.settings: dict[str, Line] = {}
        for first, second in ((self.what, self.where), (self.where, self.at), (self.at, self.outcome)):
            self.setTabOrder(first, second)
        self.setTabOrder(self.outcome, self.lift)
        self.setTabOrder(self.lift, self.log)

    def _quick(self) -> None:
        self.what.setFixedWidth(186)
        self.where.setFixedWidth(112)
        lines = ((self.what, self.where, self.at), (self.outcome, self.lift, self.log))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(5)
        for words, widgets in zip(("Seen", "Outcome"), lines, strict=True):
            line = QHBoxLayout()
            label = Label(words)
            label.setFixedWidth(64)
            line.addWidget(label)
            for widget in widgets:
                line.addWidget(widget)
            line.addStretch()
            column.addLayout(line)
        column.addWidget(self.hold)
        held = QHBoxLayout()
        held.addWidget(self.good)
        held.addStretch()
        column.addLayout(held)
        column.addWidget(self.fault)
        column.addWidget(self.details)
        self._grid = QGridLayout()
        self._grid.setVerticalSpacing(5)
        self._grid.setHorizontalSpacing(8)
        self._grid.setColumnStretch(3, 1)
        column.addLayout(self._grid)
        differing = Label("As run, where it differed from the revision")
        differing.setProperty("role", "muted")
        self._grid.addWidget(differing, 7, 0, 1, 4)

    # ---- following

    def follow(self, run: Run) -> None:
        """Show a run; what is being typed stays while it is the same one."""
        if run.id != self.run:
            self.run = run.id
            for picker in (self.what, self.where):
                picker.setCurrentIndex(0)
            self.at.clear()
            self.lift.clear()
            self._say("")
        with QSignalBlocker(self.outcome):
            self.outcome.setCurrentIndex(max(self.outcome.findData(run.outcome or ""), 0))
        words = hold_words(run, self._desk.workspace.clock())
        advice = stop_words(self._desk.workspace, run)
        self.hold.setText(" ".join(filter(None, (advice, words, unmet_words(run)))))
        self.good.setVisible(bool(run.look_due_utc) and not run.looked_utc and not run.is_ended)
        self.details.follow(run.id)
        self._follow_settings(run)

    def _follow_settings(self, run: Run) -> None:
        wording = self._desk.wording
        planned = deviations(self._desk.workspace, run)
        for place, path in enumerate(RUN_SETTINGS):
            if path not in self.settings:
                line = Line()
                line.setFixedWidth(92)
                line.setAccessibleName(f"{wording.field(path)} as run")
                line.editingFinished.connect(lambda path=path, line=line: self._on_setting(path, line))
                self.settings[path] = line
                row, column = 8 + place // 2, 2 * (place % 2)
                title = wording.field(path)
                self._grid.addWidget(Label(title[:1].upper() + title[1:]), row, column)
                self._grid.addWidget(line, row, column + 1)
            line = self.settings[path]
            if not (line.hasFocus() and line.isModified()):
                as_run = run.settings.get(path)
                line.setText("" if as_run is None else wording.number(as_run, "temperature"))
                line.setPlaceholderText(wording.value(planned[path], "temperature") if path in planned else "none set")

    # ---- logging

    def begin(self) -> None:
        """Go to what was seen."""
        self.what.setFocus()

    def add_observation(self) -> bool:
        """Add what is entered to the run; False where it is no observation."""
        if self.run is None:
            return False
        try:
            seen = self._entered()
        except KaustosError as error:
            self._say(str(error))
            return False
        self._say("")
        if seen is not None:
            run = self._desk.workspace.draft.records.runs[self.run]
            changes = {Place("runs", self.run, "observations"): (*run.observations, seen)}
            self._desk.tell(self._desk.set(changes, title=f"Run {number_of(self.run)}: {SEEN[seen.what].lower()}"))
            self._clear()
        return True

    def _on_good(self) -> None:
        name = self.run
        if name is not None:
            self._desk.run(lambda: accept_first_layer(self._desk.workspace, name))

    def log_run(self) -> None:
        """Everything entered goes into the log as one edit."""
        if self.run is None:
            return
        try:
            seen = self._entered()
        except KaustosError as error:
            self._say(str(error))
            return
        self._say("")
        run = self._desk.workspace.draft.records.runs[self.run]
        changes: dict[str, object] = {"outcome": self.outcome.currentData() or None}
        if seen is not None:
            changes["observations"] = (*run.observations, seen)
        name = self.run
        self._desk.run(lambda: end_run(self._desk.workspace, name, changes))
        self._clear()

    def _clear(self) -> None:
        self.what.setCurrentIndex(0)
        self.where.setCurrentIndex(0)
        self.at.clear()
        self.lift.clear()

    def _entered(self) -> Observation | None:
        """The observation that is entered, None for none; raises where a part of it is no value."""
        what, words = self.what.currentData(), self.at.text().strip()
        if not what:
            if words or self.where.currentData():
                raise KaustosError("Choose what was seen.")
            return None
        at_h, at_mm = _when(words)
        lift = self.lift.text().strip() if what == "corner_lift" else ""
        return Observation(what=what, where=self.where.currentData() or None, at_h=at_h, at_mm=at_mm,
                           lift_mm=read(lift, "length") if lift else None)  # fmt: skip

    def _say(self, fault: str) -> None:
        self.fault.setText(fault)
        self.fault.setVisible(bool(fault))

    def _on_setting(self, path: str, line: QLineEdit) -> None:
        if self.run is None or not line.isModified():
            return
        line.setModified(False)
        place = Place("runs", self.run, "settings")

        def set_it() -> None:
            present = dict(self._desk.workspace.draft.records.runs[self.run or ""].settings)
            present.pop(path, None)
            if line.text().strip():
                present[path] = self._desk.wording.read(line.text(), "temperature")
            number = number_of(self.run or "")
            self._desk.workspace.draft.set({place: present}, title=f"Run {number}: {self._desk.wording.field(path)}")

        self._desk.run(set_it)


def _picker(name: str, nothing: str, choices: dict[str, str]) -> QComboBox:
    """A choice that is made by typing its first letters."""
    box = QComboBox()
    box.setAccessibleName(name)
    box.addItem(nothing, "")
    for key, words in choices.items():
        box.addItem(words, key)
    box.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
    return box


def _when(words: str) -> tuple[float | None, float | None]:
    """Time or height; a bare number counts minutes."""
    if not words:
        return None, None
    if words.replace(",", ".").replace(".", "", 1).isdigit():
        return read(f"{words} min", "duration"), None
    try:
        return read(words, "duration"), None
    except KaustosError:
        return None, read(words, "length")
