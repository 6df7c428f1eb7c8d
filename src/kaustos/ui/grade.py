"""The grade that all operations leave: what it is, what is wanted, and why it is no better."""

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from kaustos.app.wording import GRADE_WORDS
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.look import StandingMark
from kaustos.ui.look.text import Label, as_text


class GradePanel(Following, QWidget):
    """The grade, over the findings that explain it."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.mark = StandingMark(size=18)
        self.grade, self.why = Label(), Label(wordWrap=True)
        self.grade.setProperty("role", "grade")
        self.wanted, self.known = Label(), Label()
        for label in (self.wanted, self.known):
            label.setProperty("role", "muted")
        top, below = QHBoxLayout(), QHBoxLayout()
        top.setSpacing(8)
        top.addWidget(self.mark)
        top.addWidget(self.grade, 1)
        below.addWidget(self.wanted, 1)
        below.addWidget(self.known)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 4, 4)
        column.setSpacing(3)
        column.addLayout(top)
        column.addLayout(below)
        column.addWidget(self.why)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the review."""
        if not self._desk.has_recipe:
            return
        review, wording = self._desk.review, self._desk.wording
        grade, completeness = review.grade, review.completeness
        if not self._desk.begun:  # only the bench that is shown is judged before the first picture
            self.mark.show_standing("open")
            self.grade.setText("Grade: computing")
            return
        self.mark.show_standing(review.standing)
        self.grade.setText(f"Grade: {wording.grade(grade)}")
        self.wanted.setText(f"wanted: {GRADE_WORDS[grade.wanted]}" if grade.wanted else "wanted: not recorded")
        self.known.setText(f"{completeness.known} of {completeness.asked} recorded")
        self.why.setText(self._reason())
        caps = "\n".join(f"{GRADE_WORDS[cap.grade]}: {wording.cap(cap, review)}" for cap in grade.caps)
        self.setToolTip(as_text(f"What caps the grade:\n{caps}" if caps else "Nothing caps the grade."))

    def _reason(self) -> str:
        review, wording = self._desk.review, self._desk.wording
        if review.grade.because:
            return f"Held there by: {wording.held_by(review)}."
        if review.grade.until_known:
            first = [wording.field(path) for path in review.grade.until_known[:3]]
            return f"Until known: {', '.join(first)}{' and more' if len(review.grade.until_known) > 3 else ''}."
        return "Nothing caps the grade, and everything it needs is recorded."
