"""The route strip: a tile for each operation in working order, all in one row, however many there are."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QFont, QFontMetrics, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QSizePolicy, QWidget

from kaustos.app.wording import STANDING_WORDS
from kaustos.core.review import OPERATIONS, Operation, OperationReview
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.following import Following
from kaustos.ui.look import StandingMark, draw_standing, palette
from kaustos.ui.look.text import as_text

NARROWEST, HEIGHT = 98, 62  # twelve tiles, their gaps and both margins make 1280 px
MARGIN = 8
NAME_PX, FIGURE_PX = 12, 13


class Tile(Following, QAbstractButton):
    """One operation: number and name, the figure that matters most, its standing."""

    def __init__(self, desk: Desk, operation: Operation, index: int) -> None:
        super().__init__()
        self._desk, self._operation, self._index = desk, operation, index
        self._figures: tuple[str, ...] = ("",)
        self._standing = "open"
        self.setCheckable(True)
        self.setMinimumWidth(NARROWEST)
        self.setFixedHeight(HEIGHT)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setText(f"{operation.number} {operation.short}")
        self.follow_desk(desk)

    @guarded(QSize)
    def sizeHint(self) -> QSize:
        return QSize(NARROWEST, HEIGHT)

    def refresh(self) -> None:
        """Follow the review."""
        if not self._desk.has_recipe:
            return
        self.show_review(self._desk.review.operations[self._index])

    def show_review(self, found: OperationReview) -> None:
        """Show what the operation says."""
        self._figures, self._standing = self._desk.wording.tiles(found), found.standing
        figure = next((each for each in found.figures if each.key == found.headline), None)
        words = f"{figure.title}: {self._desk.wording.figure(figure)}" if figure else ""
        self.setAccessibleName(f"{self.text()}, {self._figures[0]}, {self._standing}")
        self.setToolTip(as_text(f"{self._operation.section}\n{words}"))
        self.update()

    def lines(self) -> tuple[str, str, str]:
        """What the tile says: of the words for its figure the longest that fit."""
        metrics = QFontMetrics(self._font(FIGURE_PX, QFont.Weight.DemiBold))
        room = self.width() - 2 * MARGIN
        fitting = (each for each in self._figures if metrics.horizontalAdvance(each) <= room)
        return self.text(), next(fitting, min(self._figures, key=len)), STANDING_WORDS[self._standing]

    @guarded()
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
        self._line(painter, 3, name, NAME_PX, QFont.Weight.Normal, colours.muted)
        self._line(painter, 20, figure, FIGURE_PX, QFont.Weight.DemiBold, colours.ink)
        draw_standing(painter, QRectF(MARGIN, 42, 11, 11), self._standing)
        painter.setPen(QColor(getattr(colours, self._standing)))
        painter.setFont(self._font(NAME_PX, QFont.Weight.Normal))
        painter.drawText(QRectF(MARGIN + 16, 39, self.width() - 30, 17), Qt.AlignmentFlag.AlignVCenter, standing)

    def _font(self, size: int, weight: QFont.Weight) -> QFont:
        font = QFont(self.font())
        font.setPixelSize(size)
        font.setWeight(weight)
        return font

    def _line(self, painter: QPainter, y: float, words: str, size: int, weight: QFont.Weight, colour: str) -> None:
        painter.setFont(self._font(size, weight))
        painter.setPen(QColor(colour))
        painter.drawText(QRectF(MARGIN, y, self.width() - MARGIN, 19), Qt.AlignmentFlag.AlignVCenter, words)


class RouteStrip(QWidget):
    """All tiles, equally wide."""

    chosen = Signal(str)  # key of the operation

    def __init__(self, desk: Desk, operations: tuple[Operation, ...] = OPERATIONS) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(8, 6, 8, 0)
        row.setSpacing(5)
        self.tiles: dict[str, Tile] = {}
        for index, operation in enumerate(operations):
            tile = Tile(desk, operation, index)
            tile.clicked.connect(lambda _=False, key=operation.key: self.chosen.emit(key))
            self.tiles[operation.key] = tile
            row.addWidget(tile, 1)

    def choose(self, key: str) -> None:
        """Show an operation as the chosen one; none for a page that is no operation."""
        for name, tile in self.tiles.items():
            tile.setChecked(name == key)


__all__ = ["RouteStrip", "StandingMark", "Tile"]
