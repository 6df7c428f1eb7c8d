"""The pages of specimens: pulled on a machine, broken by hand, tapped."""

from pathlib import Path
from typing import Any

from PySide6.QtWidgets import (
    QFileDialog,
)

from kaustos.app.evidence import (
    HAND_HEADINGS,
    PULL_HEADINGS,
    TONE_HEADINGS,
    hand_rows,
    pull_rows,
    pull_words,
    tone_rows,
)
from kaustos.app.proving import (
    ReadCurves,
    add_curves,
    add_hand,
    add_look,
    add_strengths,
    add_tone,
    give_verdict,
    keep_measured_ratio,
    proof_asked,
)
from kaustos.app.results import Request
from kaustos.core.errors import KaustosError
from kaustos.core.records import BREAKS, GROUPS, HANDS, VERDICTS
from kaustos.core.records.proof import DIRECTIONS
from kaustos.ui.benches.errand import Errand
from kaustos.ui.benches.proof_pages import EvidencePage
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label

CURVES, SOUNDS = "Curves (*.csv *.txt)", "Recordings (*.wav)"


class PullPage(EvidencePage):
    """Specimens of a testing machine, or strengths as typed; the ratio kept with machine and lot."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, PULL_HEADINGS, "Specimens", {0: 90, 1: 132, 2: 76, 3: 80, 4: 72}, "")

    def build(self) -> None:
        self.errand = Errand(self.desk, self)
        self.group = self.choice("Direction", GROUPS)
        self.section = self.line("Width, thickness, length of travel, give for 1 kN", "10.2 4.1 50", self._on_open, 100)
        self.strengths = self.line("Strengths as typed", "or strengths: 18.2 17.5 19.1", self._on_typed)
        self.open = self.push("Open curves", self._on_open)
        self.keep = self.push("Keep ratio", self._on_keep)
        self.labels = self.push("Labels", self._on_labels)
        self.labels.setToolTip("Which specimens to print, and their labels with a code, as PDF")
        self.row(self.group, self.section, self.open, self.errand.cancel)
        self.row(self.strengths, self.push("Add", self._on_typed), self.keep, self.labels)
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

        group, sizes, of = self.group.currentData(), self.section.text(), proof_asked(self.desk.workspace, "pull")

        def keep(found: Any) -> None:
            self.errand.say("")
            self.do(lambda: add_curves(self.desk.workspace, found, group, sizes, self.desk.wording, of))

        self.errand.begin(Request("curves", files, ReadCurves(files)), f"Reading {len(files)} curves", keep)

    def _on_typed(self) -> None:
        self.do(
            lambda: add_strengths(self.desk.workspace, self.group.currentData(), self.strengths.text(),
                                  self.desk.wording), self.strengths,
        )  # fmt: skip

    def _on_labels(self) -> None:
        file, _ = QFileDialog.getSaveFileName(self, "Write labels", "specimens.pdf", "PDF (*.pdf)")
        if file:
            self.write_labels(Path(file))

    def write_labels(self, file: Path) -> None:
        """Write the labels of the specimens into a file."""
        from kaustos.app.specimen_labels import write_labels

        self.do(lambda: write_labels(self.desk.workspace, self.desk.context, file))

    def _on_keep(self) -> None:
        self.do(lambda: keep_measured_ratio(self.desk.workspace, self.desk.context))


class HandPage(EvidencePage):
    """Pieces broken, struck or squeezed by hand, compared by condition; what was looked over, graded."""

    HINT = "Clamp it, goggles and gloves first. Three pieces of each condition; the same hand, the same hammer."

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, HAND_HEADINGS, "Tests by hand", {0: 104, 1: 116, 2: 56, 3: 82}, self.HINT)

    def build(self) -> None:
        self.hand, self.group = self.choice("Done by hand", HANDS), self.choice("Direction of the load", GROUPS)
        self.mode = self.choice("Broke", BREAKS, "broke")
        hint = "3, or tube: 20 30 1.2 15"
        self.value = self.line("Blows, effort, or force, length, wall, radius", hint, self._on_hand)
        self.row(self.hand, self.group)
        self.row(self.mode, self.value, self.push("Add", self._on_hand))
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


class TonePage(EvidencePage):
    """Coupons that are tapped: a recording or a tone, sizes and mass; whether the coupon passes."""

    HINT = "On two soft supports at 0.224 of its length, tapped in the middle; weighed; its thickness thrice."

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, TONE_HEADINGS, "Tapped bars", {0: 44, 1: 86, 3: 56, 4: 50, 5: 112, 6: 64}, self.HINT)

    def build(self) -> None:
        self.bar = self.line("Length, width, thickness, mass", "100 15.02 4.03 7.51", self._on_typed, 150)
        self.direction = self.choice("Tapped", DIRECTIONS)
        self.hz = self.line("Tone in hertz", "1180 Hz", self._on_typed)
        self.row(self.bar, self.direction)
        self.row(self.push("Open WAV", self._on_open), self.hz, self.push("Add", self._on_typed))
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
