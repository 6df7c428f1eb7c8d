"""Findings, worst first: the chosen one whole with its remedies, the others as one sentence each."""

import re

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QScrollArea, QSizePolicy, QVBoxLayout, QWidget

from kaustos.app.wording import SHOWN, missing_words, smaller_words, told_at_once
from kaustos.app.worth import worth_lines
from kaustos.core.review import BY_KEY, CODES, Finding, is_same
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.following import Following
from kaustos.ui.grade import GradePanel
from kaustos.ui.look import StandingMark, palette
from kaustos.ui.look.text import Label, as_text

_UNIT = re.compile(r"(?<=\d) (?=(?:°[CF]|K|h|min|d|g|kg|kWh|W|mm³/s|mm|MPa|s|%|[€$£])(?![^\W\d_]))")
_REST = re.compile(r"(?<=\d\u00a0h) (?=\d\d\b)")  # 10 h 30


class Sentence(Label):
    """Words that wrap, but never between a number and its unit."""

    def __init__(self, role: str = "") -> None:
        super().__init__(wordWrap=True)
        self.setProperty("role", role)

    def setText(self, words: str) -> None:
        """Show words."""
        super().setText(_REST.sub("\u00a0", _UNIT.sub("\u00a0", words)))

    def text(self) -> str:
        """The words as they were said."""
        return super().text().replace("\u00a0", " ")


class RemedyButton(QPushButton):
    """A button whose words wrap."""

    def __init__(self) -> None:
        super().__init__()
        self.setProperty("role", "remedy")
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Minimum)
        self.words = Sentence()
        self.words.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        row = QHBoxLayout(self)
        row.setContentsMargins(9, 5, 9, 5)
        row.addWidget(self.words)

    def say(self, words: str) -> None:
        """Show what the button does."""
        self.words.setText(words)
        self.setAccessibleName(words)

    @guarded(QSize)
    def sizeHint(self) -> QSize:
        layout = self.layout()
        return layout.totalSizeHint() if layout else super().sizeHint()


class FindingCard(QFrame):
    """One finding; the chosen one shows why, the cost and what helps."""

    chosen = Signal(int)

    def __init__(self, desk: Desk, index: int) -> None:
        super().__init__()
        self._desk, self._index = desk, index
        self.setObjectName("panel")
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.mark = StandingMark()
        self.severity = Label()
        self.severity.setProperty("role", "heading")
        self.place = Label()
        self.place.setProperty("role", "muted")
        self.text = Sentence("saying")
        self.why, self.cost, self.source = Sentence(), Sentence(), Sentence("muted")
        self.buttons: list[RemedyButton] = []
        self._shown: tuple[object, ...] = ()
        head = QHBoxLayout()
        head.setSpacing(6)
        head.addWidget(self.mark)
        head.addWidget(self.severity)
        head.addStretch()
        head.addWidget(self.place)
        column = QVBoxLayout(self)
        column.setContentsMargins(9, 6, 9, 7)
        column.setSpacing(4)
        column.addLayout(head)
        for label in (self.text, self.cost, self.why):
            column.addWidget(label)
        column.addWidget(self.source)
        self._column = column

    def _button(self, number: int) -> RemedyButton:
        button = RemedyButton()
        button.clicked.connect(lambda: self.apply(number))
        self._column.insertWidget(self._column.count() - 1, button)
        return button

    def show_finding(self, finding: Finding, *, whole: bool) -> None:
        """Show a finding, whole or as one sentence."""
        self.finding = finding
        wording, code = self._desk.wording, CODES[finding.code]
        shown = (finding, whole, wording, self._desk.experience.get(finding.code), palette())
        if is_same(shown, self._shown):
            return
        self._shown = shown
        self.mark.show_standing(finding.severity)
        self.severity.setText(finding.severity)
        operation = BY_KEY[finding.code.split(".")[0]]
        self.place.setText(f"{self._worth(finding)}{operation.number} {operation.short}")
        self.text.setText(wording.text(finding))
        self.why.setText(code.why)
        self.cost.setText(wording.cost(finding))
        tally = self._desk.experience.get(finding.code)
        record = f" Right in {tally.right} of {tally.of} runs of this polymer here." if tally else ""
        self.source.setText(f"Known from: {code.source}.{record}")
        for label in (self.why, self.cost, self.source):
            label.setVisible(whole)
        while whole and len(self.buttons) < len(finding.remedies):
            self.buttons.append(self._button(len(self.buttons)))
        for number, button in enumerate(self.buttons):
            there = whole and number < len(finding.remedies)
            button.setVisible(there)
            if there:
                words = wording.remedy(finding.remedies[number])
                button.say(f"Alt+{number + 1}   {words}")
                button.setToolTip(as_text(wording.remedy_text(finding.remedies[number]) or words))
        border = f"#panel {{ border: 2px solid {palette().accent}; }}" if whole else ""
        if self.styleSheet() != border:
            self.setStyleSheet(border)
        self.setAccessibleName(f"{finding.severity}: {self.text.text()}")
        self.setWhatsThis(f"{self.text.text()} {code.why} {self.source.text()}")

    def _worth(self, finding: Finding) -> str:
        """What it costs a run; what it comes of, where curing that cures this."""
        if finding.due_to:
            cause = BY_KEY[finding.due_to.split(".")[0]]
            return f"comes of {cause.number} {cause.short}   "
        return f"{self._desk.wording.value(finding.cost.value, 'money')} a run   " if finding.cost is not None else ""

    def apply(self, number: int) -> None:
        """Carry out a remedy by its number."""
        if number < len(self.finding.remedies):
            self._desk.apply(self.finding.remedies[number])

    @guarded()
    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.chosen.emit(self._index)


class FindingsPanel(Following, QFrame):
    """All findings of the recipe, and what is not recorded."""

    jump = Signal(str)  # a field whose place is to be shown

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.setFixedWidth(376)
        self._desk = desk
        self._chosen: tuple[str, str] | None = None
        self.title = Label()
        self.title.setProperty("role", "heading")
        self.cards: list[FindingCard] = []
        self.empty = Sentence()
        self.worth = Sentence("muted")
        self.worth.hide()
        self.missing = Sentence("muted")
        self.first_missing = QPushButton()
        self.first_missing.setProperty("role", "link")
        self.first_missing.clicked.connect(self._on_missing)
        self._tells_smaller = False
        self._folded_of: str | None = None
        self.smaller = QPushButton()
        self.smaller.setProperty("role", "link")
        self.smaller.clicked.connect(self._on_smaller)
        self._tells_all = False
        self.all_missing = QPushButton()
        self.all_missing.setProperty("role", "link")
        self.all_missing.clicked.connect(self._on_all_missing)
        inside = QWidget()
        self._column = QVBoxLayout(inside)
        self._column.setContentsMargins(0, 0, 4, 0)
        self._column.setSpacing(6)
        for widget in (self.smaller, self.empty, self.worth, self.missing, self.first_missing, self.all_missing):
            self._column.addWidget(widget)
        self._column.addStretch()
        self.area = QScrollArea(widgetResizable=True)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.area.setWidget(inside)
        self.area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 8, 6, 8)
        self.grade = GradePanel(desk)
        column.addWidget(self.grade)
        column.addWidget(self.title)
        column.addWidget(self.area, 1)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the review; the chosen finding stays chosen while it stands, else the worst is."""
        if not self._desk.has_recipe:
            return
        findings = self._desk.review.findings()
        names = [(finding.code, finding.field) for finding in findings]
        if self._chosen not in names:
            self._chosen = names[0] if names else None
        while len(self.cards) < len(findings):
            card = FindingCard(self._desk, len(self.cards))
            card.chosen.connect(self.choose)
            self._column.insertWidget(len(self.cards), card)
            self.cards.append(card)
        told = told_at_once(findings)
        current = self._desk.workspace.draft.records.current
        if current != self._folded_of:  # another recipe begins folded
            self._folded_of, self._tells_smaller = current, False
        if self._chosen in names[told:]:
            self._tells_smaller = True
        for index, card in enumerate(self.cards):
            card.setVisible(index < (len(findings) if self._tells_smaller else told))
            if index < len(findings):
                card.show_finding(findings[index], whole=names[index] == self._chosen)
        titles = [finding.severity for finding in findings]
        self.title.setText(_title(titles) if self._desk.begun else "Findings: computing")
        self._show_smaller(findings[told:])
        self._show_worth()
        self._show_missing(bool(findings))

    def _show_smaller(self, smaller: tuple[Finding, ...]) -> None:
        self.smaller.setVisible(bool(smaller))
        words = smaller_words(smaller, self._desk.wording)
        self.smaller.setText("Show the largest only" if self._tells_smaller else words)

    def _show_worth(self) -> None:
        """What is worth finding out first; as it was while something is dragged."""
        if self._desk.is_dragging or not self._desk.begun:
            return
        from kaustos.core.review.worth import WORTH_KNOWING  # with its arithmetic, once the first window is painted

        _, found = self._desk.heavy(WORTH_KNOWING)
        lines = list(worth_lines(found or (), self._desk.wording))
        self.worth.setVisible(bool(lines))
        self.worth.setText("\n".join(("Worth finding out first.", *lines)))

    def _show_missing(self, any_findings: bool) -> None:
        wording, missing = self._desk.wording, self._desk.review.completeness.missing
        self.empty.setVisible(not any_findings and self._desk.begun)
        self.empty.setText("Nothing found against this recipe." + (" Some of it is not recorded." if missing else ""))
        self.missing.setVisible(bool(missing))
        self.first_missing.setVisible(bool(missing))
        self.all_missing.setVisible(len(missing) > SHOWN)
        if missing:
            names = [wording.field(each.field) for each in missing]
            whole = f"Not recorded, in the order in which it would change the grade: {'; '.join(names)}."
            self.missing.setText(whole if self._tells_all else missing_words(self._desk.review, wording))
            self.first_missing.setText(f"Go to: {names[0]}")
            self.all_missing.setText("Show three" if self._tells_all else f"Show all {len(names)}")

    # ---- choosing

    @property
    def shown(self) -> list[FindingCard]:
        """The cards that show a finding."""
        return self.cards[: len(self._desk.review.findings())] if self._desk.has_recipe else []

    def choose(self, index: int) -> None:
        """Show a finding whole and lead the eye to its field."""
        if 0 <= index < len(self.shown):
            finding = self.shown[index].finding
            self._chosen = (finding.code, finding.field)
            self.refresh()
            self.area.ensureWidgetVisible(self.cards[index])
            self.jump.emit(finding.field)
            self._desk.led.emit(finding.field)

    def step(self, by: int) -> None:
        """Choose the next finding, or the one before."""
        self.choose(min(max(self._index() + by, 0), len(self.shown) - 1))

    def apply(self, number: int) -> None:
        """Carry out a remedy of the chosen finding by its number."""
        if self.shown:
            self.shown[self._index()].apply(number)

    def _index(self) -> int:
        names = [(card.finding.code, card.finding.field) for card in self.shown]
        return names.index(self._chosen) if self._chosen in names else 0

    def _on_smaller(self) -> None:
        self._tells_smaller = not self._tells_smaller
        if not self._tells_smaller:
            self._chosen = None
        self.refresh()

    def _on_all_missing(self) -> None:
        self._tells_all = not self._tells_all
        self.refresh()

    def _on_missing(self) -> None:
        missing = self._desk.review.completeness.missing
        if missing:
            self._desk.asked.emit(missing[0].field)


def _title(severities: list[str]) -> str:
    if not severities:
        return "Findings: none"
    counts = [f"{severities.count(each)} {each}" for each in ("stop", "watch") if each in severities]
    return f"Findings: {', '.join(counts)}"
