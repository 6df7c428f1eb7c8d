"""The route strip: a tile for each operation in working order, and the grade that all of them leave."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFont, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QFrame, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from kaustos.app.wording import GRADE_WORDS, STANDING_WORDS
from kaustos.core.review import OPERATIONS, Operation
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.look import StandingMark, draw_standing, palette

TILE = QSize(146, 66)


class Tile(Following, QAbstractButton):
    """One operation: number and name, the figure that matters most, its standing."""

    def __init__(self, desk: Desk, operation: Operation, index: int) -> None:
        super().__init__()
        self._desk, self._operation, self._index = desk, operation, index
        self._figure, self._standing = "", "open"
        self.setCheckable(True)
        self.setFixedSize(TILE)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the review."""
        if not self._desk.has_recipe:
            return
        found = self._desk.review.operations[self._index]
        self._figure, self._standing = self._desk.wording.tile(found), found.standing
        figure = next((each for each in found.figures if each.key == found.headline), None)
        words = f"{figure.title}: {self._desk.wording.figure(figure)}" if figure else ""
        self.setText(f"{self._operation.number} {self._operation.short}")
        self.setAccessibleName(f"{self.text()}, {self._figure}, {self._standing}")
        self.setToolTip(f"{self._operation.section}\n{words}")
        self.update()

    def lines(self) -> tuple[str, str, str]:
        """What the tile says."""
        return self.text(), self._figure, STANDING_WORDS[self._standing]

    def paintEvent(self, event: QPaintEvent) -> None:
        colours = palette()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.fillRect(box, QColor(colours.chosen if self.isChecked() else colours.panel))
        painter.setPen(QPen(QColor(colours.accent if self.hasFocus() else colours.rule), 2 if self.hasFocus() else 1))
        painter.drawRect(box)
        if self.isChecked():
            painter.fillRect(QRectF(0, self.height() - 4, self.width(), 4), QColor(colours.accent))
        name, figure, standing = self.lines()
        self._line(painter, 5, name, 12, QFont.Weight.Normal, colours.muted)
        self._line(painter, 22, figure, 14, QFont.Weight.DemiBold, colours.ink)
        draw_standing(painter, QRectF(10, 45, 11, 11), self._standing)
        painter.setPen(QColor(getattr(colours, self._standing)))
        painter.drawText(QRectF(27, 42, self.width() - 30, 17), Qt.AlignmentFlag.AlignVCenter, standing)

    def _line(self, painter: QPainter, y: float, words: str, size: int, weight: QFont.Weight, colour: str) -> None:
        font = QFont(self.font())
        font.setPixelSize(size)
        font.setWeight(weight)
        painter.setFont(font)
        painter.setPen(QColor(colour))
        painter.drawText(QRectF(10, y, self.width() - 14, 19), Qt.AlignmentFlag.AlignVCenter, words)


class RouteStrip(QWidget):
    """All tiles and the grade."""

    chosen = Signal(str)  # key of the operation

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(8, 6, 8, 0)
        row.setSpacing(6)
        self.tiles: dict[str, Tile] = {}
        for index, operation in enumerate(OPERATIONS):
            tile = Tile(desk, operation, index)
            tile.clicked.connect(lambda _=False, key=operation.key: self.chosen.emit(key))
            self.tiles[operation.key] = tile
            row.addWidget(tile)
        self.grade = GradePanel(desk)
        row.addWidget(self.grade, 1)

    def choose(self, key: str) -> None:
        """Show an operation as the chosen one; none for a page that is no operation."""
        for name, tile in self.tiles.items():
            tile.setChecked(name == key)


class GradePanel(Following, QFrame):
    """The grade, what is wanted, and why it is no better."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.setFixedHeight(TILE.height())
        self._desk = desk
        self.mark = StandingMark(size=18)
        self.grade = QLabel()
        self.grade.setProperty("role", "grade")
        self.wanted = QLabel()
        self.wanted.setProperty("role", "muted")
        self.why = QLabel(wordWrap=True)
        top = QHBoxLayout()
        top.setSpacing(8)
        top.addWidget(self.mark)
        top.addWidget(self.grade)
        top.addWidget(self.wanted)
        top.addStretch()
        self.known = QLabel()
        self.known.setProperty("role", "muted")
        top.addWidget(self.known)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 5, 12, 5)
        column.setSpacing(1)
        column.addLayout(top)
        column.addWidget(self.why, 1)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the review."""
        if not self._desk.has_recipe:
            return
        review, wording = self._desk.review, self._desk.wording
        grade, completeness = review.grade, review.completeness
        self.mark.show_standing(_standing_of_grade(grade.value, grade.wanted, bool(grade.until_known)))
        self.grade.setText(f"Grade: {wording.grade(grade)}")
        self.wanted.setText(f"wanted: {GRADE_WORDS[grade.wanted]}" if grade.wanted else "wanted: not recorded")
        self.known.setText(f"{completeness.known} of {completeness.asked} recorded")
        self.why.setText(self._reason())
        caps = "\n".join(f"{GRADE_WORDS[cap.grade]}: {wording.cap(cap, review)}" for cap in grade.caps)
        self.setToolTip(f"What caps the grade:\n{caps}" if caps else "Nothing caps the grade.")

    def _reason(self) -> str:
        review, wording = self._desk.review, self._desk.wording
        worst = next((each for each in review.findings() if each.code in review.grade.because), None)
        if worst:
            return wording.text(worst)
        if review.grade.until_known:
            first = [wording.field(path) for path in review.grade.until_known[:3]]
            return f"Until known: {', '.join(first)}{' and more' if len(review.grade.until_known) > 3 else ''}."
        return "Nothing caps the grade, and everything it needs is recorded."


def _standing_of_grade(value: str, wanted: str | None, until_known: bool) -> str:
    order = list(GRADE_WORDS)
    if value == "no_go":
        return "stop"
    if wanted and order.index(value) < order.index(wanted):
        return "watch"
    return "open" if until_known or wanted is None else "clear"
