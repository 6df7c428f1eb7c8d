"""Bench 120: the ladder of tests, what was measured, pulled and tapped, the next trial, what was found before."""

from collections.abc import Callable
from pathlib import Path
from typing import Any

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
    HAND_HEADINGS,
    LADDER_HEADINGS,
    LOG_HEADINGS,
    PULL_HEADINGS,
    SIZE_HEADINGS,
    TONE_HEADINGS,
    hand_rows,
    ladder_rows,
    log_rows,
    pull_rows,
    pull_words,
    release_words,
    size_rows,
    tone_rows,
)
from kaustos.app.pictures import views_of
from kaustos.app.proving import (
    ReadCurves,
    add_curves,
    add_hand,
    add_look,
    add_size,
    add_strengths,
    add_tone,
    give_verdict,
    keep_measured_ratio,
    note_find,
    put_in_service,
    roundness_words,
    take_out,
)
from kaustos.app.results import Request
from kaustos.app.trial import TRIED, next_trial_of, trial_words
from kaustos.core.errors import KaustosError
from kaustos.core.records import BREAKS, GROUPS, HANDS, MEASURED, SERVICE_ENDS, VERDICTS
from kaustos.core.records.proof import AXES, DIRECTIONS
from kaustos.core.review import Set
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.errand import Errand
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.picture import Picture
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label

FIELDS = ("brief.purpose", "brief.load_across", "brief.service_h", "context.lot")
CURVES, SOUNDS = "Curves (*.csv *.txt)", "Recordings (*.wav)"


class ProofBench(Bench):
    """What it is for; ladder, curves or sizes; a page for each kind of evidence."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "proof", self.form, Picture(desk, "proof"))
        names = views_of("proof")
        self.views, row = switches(names, lambda place: self.picture.look_at(names[place]))
        self.column.insertLayout(self.column.indexOf(self.picture), row)
        self.ladder, self.sizes, self.pulls = LadderPage(desk), SizePage(desk), PullPage(desk)
        self.hands, self.tones = HandPage(desk), TonePage(desk)
        self.trial, self.log = TrialPage(desk), LogPage(desk)
        self.switches = self.turn_pages(
            {
                "Ladder": self.ladder,
                "Size": self.sizes,
                "Pull": self.pulls,
                "Hand": self.hands,
                "Tone": self.tones,
                "Trial": self.trial,
                "Log": self.log,
                "Figures": self.figures,
            }
        )

    def show_field(self, path: str) -> bool:
        """Lead to an input."""
        return self.form.show_field(path)


class _Page(Following, QWidget):
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
        found = QLineEdit()
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


class LadderPage(_Page):
    """Tests from the cheapest to the part; what a release lacks; the report."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, LADDER_HEADINGS, "Ladder of tests", {0: 150, 2: 90, 3: 90}, "")

    def build(self) -> None:
        self.report = self.push("Write report", self._on_report)
        self.report.setToolTip("Recipe, evidence, figures with their sources, photos, room for signatures; as PDF")
        self.row(self.words_of_release(), self.report)

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


class SizePage(_Page):
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


class PullPage(_Page):
    """Specimens of a testing machine, or strengths as typed; the ratio kept with machine and lot."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, PULL_HEADINGS, "Specimens", {0: 90, 1: 132, 2: 76, 3: 80, 4: 72}, "")

    def build(self) -> None:
        self.errand = Errand(self.desk, self)
        self.group = self.choice("Direction", GROUPS)
        self.section = self.line("Width, thickness, length of travel", "10.2 4.1 50", self._on_open, 100)
        self.strengths = self.line("Strengths as typed", "or strengths: 18.2 17.5 19.1", self._on_typed)
        self.open = self.push("Open curves", self._on_open)
        self.keep = self.push("Keep ratio", self._on_keep)
        self.row(self.group, self.section, self.open, self.errand.cancel)
        self.row(self.strengths, self.push("Add", self._on_typed), self.keep)
        self.sum = Label(wordWrap=True)
        self.column.addWidget(self.errand.words)
        self.column.addWidget(self.sum)

    def rows(self) -> list[tuple[str, ...]]:
        """Specimens of the newest proof."""
        self.sum.setText(pull_words(self.desk.context, self.desk.workspace))
        return pull_rows(self.desk.context, self.desk.workspace)

    def _on_open(self) -> None:
        files, _ = QFileDialog.getOpenFileNames(self, "Open curves", "", CURVES)
        if files:
            self.desk.run(lambda: self.take(tuple(Path(each) for each in files)))

    def take(self, files: tuple[Path, ...]) -> None:
        """Read curves as a job and keep them as specimens of the chosen direction."""
        if not self.section.text().strip():
            raise KaustosError("Type width and thickness as measured first, such as 10.2 4.1; then open the curves.")

        def keep(found: Any) -> None:
            self.errand.say("")
            self.do(
                lambda: add_curves(self.desk.workspace, found, self.group.currentData(), self.section.text(),
                                   self.desk.wording)
            )  # fmt: skip

        self.errand.begin(Request("curves", files, ReadCurves(files)), f"Reading {len(files)} curves", keep)

    def _on_typed(self) -> None:
        self.do(
            lambda: add_strengths(self.desk.workspace, self.group.currentData(), self.strengths.text(),
                                  self.desk.wording), self.strengths,
        )  # fmt: skip

    def _on_keep(self) -> None:
        self.do(lambda: keep_measured_ratio(self.desk.workspace, self.desk.context))


class HandPage(_Page):
    """Pieces broken, struck or squeezed by hand, compared by condition; what was looked over, graded."""

    HINT = "Clamp it, goggles and gloves first. Three pieces of each condition; the same hand, the same hammer."

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, HAND_HEADINGS, "Tests by hand", {0: 116, 1: 134, 2: 72, 3: 76}, self.HINT)

    def build(self) -> None:
        self.hand, self.group = self.choice("Done by hand", HANDS), self.choice("Direction of the load", GROUPS)
        self.mode = self.choice("Broke", BREAKS, "broke")
        hint = "3, or tube: 20 30 1.2 15"
        self.value = self.line("Blows, effort, or force, length, wall, radius", hint, self._on_hand)
        self.row(self.hand, self.group, self.mode, self.value, self.push("Add", self._on_hand))
        self.what = self.line("Looked at", "underside", self._on_look)
        self.grade = self.choice("Graded", {each: f"{each} of 4" for each in "01234"}, "grade")
        self.expected = self.choice("As expected", {"yes": "expected", "no": "not expected"}, "expected?")
        self.row(self.what, self.grade, self.expected, self.push("Grade", self._on_look))

    def rows(self) -> list[tuple[str, ...]]:
        """By condition, and by criterion."""
        return hand_rows(self.desk.context)

    def _on_hand(self) -> None:
        self.do(
            lambda: add_hand(self.desk.workspace, self.hand.currentData(), self.group.currentData(),
                             self.mode.currentData(), self.value.text(), self.desk.wording), self.value,
        )  # fmt: skip

    def _on_look(self) -> None:
        said = self.expected.currentData()
        self.do(
            lambda: add_look(self.desk.workspace, self.what.text(), self.grade.currentData() or "",
                             None if said is None else said == "yes"), self.what,
        )  # fmt: skip


class TonePage(_Page):
    """Coupons that are tapped: a recording or a tone, sizes and mass; whether the coupon passes."""

    HINT = "On two soft supports at 0.224 of its length, tapped in the middle; weighed; its thickness thrice."

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, TONE_HEADINGS, "Tapped bars", {0: 44, 1: 86, 3: 56, 4: 50, 5: 112, 6: 64}, self.HINT)

    def build(self) -> None:
        self.bar = self.line("Length, width, thickness, mass", "100 15.02 4.03 7.51", self._on_typed, 150)
        self.direction = self.choice("Tapped", DIRECTIONS)
        self.hz = self.line("Tone in hertz", "1180 Hz", self._on_typed, 70)
        self.row(self.bar, self.direction, self.push("Open WAV", self._on_open), self.hz,
                 self.push("Add", self._on_typed))  # fmt: skip
        self.verdict = self.choice("Verdict on the coupon", VERDICTS, "verdict")
        self.who, self.why = (
            self.line("Coupon judged by", "by", self._on_verdict, 80),
            self.line("Coupon judged so because", "because", self._on_verdict),
        )
        self.row(self.verdict, self.who, self.why, self.push("Give", self._on_verdict))

    def rows(self) -> list[tuple[str, ...]]:
        """Every tapped bar."""
        return tone_rows(self.desk.context, self.desk.workspace)

    def _on_open(self) -> None:
        file, _ = QFileDialog.getOpenFileName(self, "Open recording", "", SOUNDS)
        if file:
            self.take(Path(file))

    def take(self, file: Path | None) -> None:
        """A recording of a tapped bar, or the tone as typed."""
        self.do(
            lambda: add_tone(self.desk.workspace, file, self.hz.text(), self.bar.text(), self.direction.currentData(),
                             self.desk.wording), self.hz,
        )  # fmt: skip

    def _on_typed(self) -> None:
        self.take(None)

    def _on_verdict(self) -> None:
        self.do(
            lambda: give_verdict(self.desk.workspace, "tone", self.verdict.currentData(), self.who.text(),
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
        self.limits, self.tried = QLineEdit(), QLineEdit()
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


class LogPage(_Page):
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
