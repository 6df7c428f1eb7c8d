"""Marks of standing: a shape of its own for each, so that colour is never alone."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from kaustos.ui.faults import guarded
from kaustos.ui.look.theme import palette


def draw_standing(painter: QPainter, box: QRectF, standing: str) -> None:
    """Draw the mark of a standing: barred block, half diamond, open ring, or a low stroke."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    colour = QColor(getattr(palette(), standing))
    painter.setPen(QPen(colour, 1.6))
    {"stop": _stop, "watch": _watch, "open": _open, "clear": _clear}[standing](painter, box, colour)
    painter.restore()


def _stop(painter: QPainter, box: QRectF, colour: QColor) -> None:
    painter.setBrush(colour)
    painter.drawRect(box)
    painter.setPen(QPen(QColor(palette().panel), box.height() / 5))
    middle = box.center().y()
    painter.drawLine(QPointF(box.left() + 2, middle), QPointF(box.right() - 2, middle))


def _watch(painter: QPainter, box: QRectF, colour: QColor) -> None:
    top, bottom = QPointF(box.center().x(), box.top()), QPointF(box.center().x(), box.bottom())
    left, right = QPointF(box.left(), box.center().y()), QPointF(box.right(), box.center().y())
    painter.drawPolygon(QPolygonF([top, right, bottom, left]))
    painter.setBrush(colour)
    painter.drawPolygon(QPolygonF([left, right, bottom]))


def _open(painter: QPainter, box: QRectF, colour: QColor) -> None:
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(box.adjusted(1, 1, -1, -1))


def _clear(painter: QPainter, box: QRectF, colour: QColor) -> None:
    painter.setPen(QPen(colour, 2.4))
    y = box.bottom() - box.height() / 3
    painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))


class StandingMark(QWidget):
    """Shows one standing as its mark."""

    def __init__(self, standing: str = "open", size: int = 14) -> None:
        super().__init__()
        self._standing = standing
        self.setFixedSize(QSize(size, size))
        self.show_standing(standing)

    def show_standing(self, standing: str) -> None:
        """Show another standing."""
        self._standing = standing
        self.setAccessibleName(standing)
        self.update()

    @guarded()
    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        draw_standing(painter, QRectF(self.rect()).adjusted(1, 1, -1, -1), self._standing)
