"""The pages of bench 120: each shows one kind of evidence and takes more of it."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from kaustos.app.evidence import (
    LADDER_HEADINGS,
    LOG_HEADINGS,
    SIZE_HEADINGS,
    ladder_rows,
    log_rows,
    release_words,
    size_rows,
)
from kaustos.app.proving import (
    add_size,
    give_verdict,
    note_find,
    put_in_service,
    roundness_words,
    take_out,
)
from kaustos.app.trial import TRIED, next_trial_of, trial_words
from kaustos.core.records import MEASURED, SERVICE_ENDS, VERDICTS
from kaustos.core.records.proof import AXES
from kaustos.core.review import Set
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.look.text import Label, Line


class EvidencePage(Following, QWidget):
    """A table that follows the recipe, and lines under it that add to what it shows."""

    def __init__(self, desk: Desk, headings: tuple[str, ...], name: str, widths: dict[int, int], hint: str) -> None:
        super().__init__()
        self.desk = desk
        self.table = PlainTable(headings)
        self.table.setAccessibleName(name)
        header = self.table.horizontalHeader()
        header.setMinimumSectionSize(20)
        for column in range(len(headings)):
            if column in widths:
                header.resizeSection(column, widths[column])
            else:
                header.setSectionResizeMode(column, QHeaderView.ResizeMode.Stretch)
        self.hint = hint
        self.words = Label(wordWrap=True)
        self.words.hide()
        self.table.setToolTip(hint)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(4)
        self.column.addWidget(self.table, 1)
        self.build()
        self.column.addWidget(self.words)
        self.follow_desk(desk)

    def build(self) -> None:
        """Lay out the lines under the table."""

    def rows(self) -> list[tuple[str, ...]]:
        """What the table shows."""
        raise NotImplementedError

    def refresh(self) -> None:
        """Follow recipe and evidence."""
        if self.desk.has_recipe:
            self.table.show_rows(self.rows())

    def line(self, name: str, hint: str, act: Callable[[], object], width: int = 0) -> QLineEdit:
        """A line to type into; Enter does what its button does."""
        found = Line()
        found.setAccessibleName(name)
        found.setPlaceholderText(hint)
        found.setMaxLength(400)
        if width:
            found.setFixedWidth(width)
        found.returnPressed.connect(act)
        return found

    def choice(self, name: str, words: dict[str, str], nothing: str = "") -> QComboBox:
        """A box of words."""
        found = QComboBox()
        found.setAccessibleName(name)
        if nothing:
            found.addItem(nothing, None)
        for key, each in words.items():
            found.addItem(each, key)
        return found

    def row(self, *widgets: QWidget) -> None:
        """Widgets beside each other."""
        line = QHBoxLayout()
        line.setSpacing(6)
        for widget in widgets:
            line.addWidget(widget)
        self.column.addLayout(line)

    def push(self, words: str, act: Callable[[], object]) -> QPushButton:
        """A button."""
        found = QPushButton(words)
        found.clicked.connect(lambda: act())
        return found

    def say(self, words: str) -> None:
        """Say what follows, where there is something to say."""
        self.words.setText(words)
        self.words.setVisible(bool(words))

    def do(self, act: Callable[[], str], *clear: QLineEdit) -> None:
        """Do it, say what follows, clear what was typed."""

        def done() -> None:
            words = act()
            for line in clear:
                line.clear()
            self.say(words)
            self.desk.messages.note(words)

        self.desk.run(done)


class LadderPage(EvidencePage):
    """Tests from the cheapest to the part; what a release lacks; the report."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, LADDER_HEADINGS, "Ladder of tests", {0: 150, 2: 90, 3: 90}, "")

    def build(self) -> None:
        self.report = self.push("Write report", self._on_report)
        self.report.setToolTip("Recipe, evidence, figures with their sources, photos, room for signatures; as PDF")
        self.labels = self.push("Part labels", self._on_labels)
        self.labels.setToolTip("For the parts of one run: what each may be used for, lot, machine, a code; as PDF")
        self.row(self.words_of_release(), self.labels, self.report)

    def words_of_release(self) -> Label:
        """What a release still lacks."""
        self.lacks = Label(wordWrap=True)
        return self.lacks

    def rows(self) -> list[tuple[str, ...]]:
        """The rungs."""
        self.lacks.setText(release_words(self.desk.workspace, self.desk.review))
        return ladder_rows(self.desk.context, self.desk.workspace)

    def _on_report(self) -> None:
        file, _ = QFileDialog.getSaveFileName(self, "Write report", "evidence.pdf", "PDF (*.pdf)")
        if file:
            self.write_to(Path(file))

    def write_to(self, file: Path) -> None:
        """Write the report into a file."""
        from kaustos.app.evidence_report import write_report

        self.do(lambda: write_report(self.desk.workspace, self.desk.context, self.desk.review, file))

    def _on_labels(self) -> None:
        file, _ = QFileDialog.getSaveFileName(self, "Write part labels", "parts.pdf", "PDF (*.pdf)")
        if file:
            self.write_labels(Path(file))

    def write_labels(self, file: Path) -> None:
        """Write a label for each part of a run into a file."""
        from kaustos.app.part_labels import write_part_labels

        self.do(lambda: write_part_labels(self.desk.workspace, self.desk.context, self.desk.review, file))


class SizePage(EvidencePage):
    """What a caliper says; a verdict by name and reason."""

    HINT = (
        "Cold, the same gauge. Drawn, found, within: 62 61.84 0.2; a name before a colon; a lift is one number; "
        "radii or diameters at angles: 0 10.02; 24 10.05 …"
    )

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, SIZE_HEADINGS, "Sizes", {1: 40, 2: 76, 3: 76, 4: 76, 5: 66}, self.HINT)

    def build(self) -> None:
        self.what, self.axis = self.choice("What was measured", MEASURED), self.choice("Axis", AXES, "axis")
        self.reading = self.line("Drawn, found, within", "bore: 8 7.86 0.1", self._on_add)
        self.row(self.what, self.axis, self.reading, self.push("Add", self._on_add))
        self.verdict = self.choice("Verdict", VERDICTS, "verdict")
        self.who, self.why = (
            self.line("Verdict by", "by", self._on_verdict, 80),
            self.line("Verdict because", "because", self._on_verdict),
        )
        self.row(self.verdict, self.who, self.why, self.push("Give", self._on_verdict))

    def rows(self) -> list[tuple[str, ...]]:
        """Readings of the newest proof."""
        return size_rows(self.desk.context, self.desk.workspace)

    def _on_add(self) -> None:
        if ";" in self.reading.text():  # readings round it, at angles
            self.do(lambda: roundness_words(self.what.currentData(), self.reading.text(), self.desk.wording))
            return
        self.do(
            lambda: add_size(self.desk.workspace, self.what.currentData(), self.axis.currentData(), self.reading.text(),
                             self.desk.wording), self.reading,
        )  # fmt: skip

    def _on_verdict(self) -> None:
        self.do(
            lambda: give_verdict(self.desk.workspace, "size", self.verdict.currentData(), self.who.text(),
                                 self.why.text()), self.who, self.why,
        )  # fmt: skip


class TrialPage(QWidget):
    """The next level of one setting by what was tried; set by its button, one undo."""

    HINT = "One setting, its limits, what was tried with its score, more is better; judge all by one measure."

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk = desk
        self.found: tuple[str, float] | None = None
        self.field = QComboBox()
        self.field.setAccessibleName("Setting that is tried")
        for key, (_, title) in TRIED.items():
            self.field.addItem(title, key)
        self.limits, self.tried = Line(), Line()
        for line, name, hint in ((self.limits, "Between", "340 400"),
                                 (self.tried, "Tried, with its score", "350 2; 370 3.5")):  # fmt: skip
            line.setAccessibleName(name)
            line.setPlaceholderText(hint)
            line.returnPressed.connect(self.propose)
        self.limits.setFixedWidth(110)
        self.tried.setMaxLength(2000)
        self.words = Label(self.HINT, wordWrap=True)
        ask, self.take = QPushButton("Propose"), QPushButton("Set it")
        ask.clicked.connect(self.propose)
        self.take.clicked.connect(self._on_take)
        self.take.setEnabled(False)
        column, row = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        for widget in (self.field, self.limits, self.tried, ask, self.take):
            row.addWidget(widget)
        column.addLayout(row)
        column.addWidget(self.words)
        column.addStretch()

    def propose(self) -> None:
        """Work out the next trial."""

        def work() -> None:
            self.found, field = None, self.field.currentData()
            self.take.setEnabled(False)
            found = next_trial_of(self.desk.workspace, self.desk.context, field, self.tried.text(), self.limits.text())
            self.words.setText(trial_words(field, found, self.desk.context, self.desk.wording))
            self.found = (field, found.at[0])
            self.take.setEnabled(True)

        self.desk.run(work)

    def _on_take(self) -> None:
        if self.found is not None:
            field, level = self.found
            self.desk.apply(Set(f"Trial: {TRIED[field][1].lower()}", {field: level}))


class LogPage(EvidencePage):
    """Dead ends and lucky finds with the settings as they stood; parts in service until they end."""

    HINT = "What did not work is worth as much as what did: the next one who comes near is shown it."

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, LOG_HEADINGS, "Dead ends, finds, parts in service", {0: 86, 1: 120, 3: 80}, self.HINT)

    def build(self) -> None:
        self.note = self.line("What was tried, what came of it", "fan 30 % splits it at 40 mm", self._on_dead)
        self.row(self.note, self.push("Dead end", self._on_dead), self.push("Works, cause unknown", self._on_lucky))
        self.part = self.line("Part in service", "vane 7", self._on_in, 80)
        self.place = self.line("Serves in", "well 3, 140 °C", self._on_in)
        self.ended = self.choice("Ended", SERVICE_ENDS, "ended")
        self.row(self.part, self.place, self.push("In", self._on_in), self.ended, self.push("Out", self._on_out))

    def rows(self) -> list[tuple[str, ...]]:
        """The log."""
        return log_rows(self.desk.context, self.desk.workspace)

    def _on_dead(self) -> None:
        self.do(lambda: note_find(self.desk.workspace, "dead_end", self.note.text()), self.note)

    def _on_lucky(self) -> None:
        self.do(lambda: note_find(self.desk.workspace, "lucky", self.note.text()), self.note)

    def _on_in(self) -> None:
        self.do(lambda: put_in_service(self.desk.workspace, self.part.text(), self.place.text()), self.part, self.place)

    def _on_out(self) -> None:
        self.do(lambda: take_out(self.desk.workspace, self.part.text(), self.ended.currentData()), self.part)
