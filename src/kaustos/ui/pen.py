"""Draws a picture with Qt, in the colours of the theme."""

from collections.abc import Sequence

from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetricsF, QPainter, QPen, QPolygonF

from kaustos.app.pictures.pen import Box, Point
from kaustos.ui.look import palette

_ALIGN = {
    "left": Qt.AlignmentFlag.AlignLeft, "centre": Qt.AlignmentFlag.AlignHCenter, "right": Qt.AlignmentFlag.AlignRight,
}  # fmt: skip
_STYLES = {"solid": Qt.PenStyle.SolidLine, "dash": Qt.PenStyle.DashLine}


class QtPen:
    """Strokes on a painter."""

    def __init__(self, painter: QPainter, font: QFont, size: float = 12.0) -> None:
        self._painter, self._font, self._size = painter, font, size

    def line(self, x1: float, y1: float, x2: float, y2: float, colour: str, width: float = 1.0,
             style: str = "solid") -> None:  # fmt: skip
        """A line."""
        self._painter.setPen(_pen(colour, width, style))
        self._painter.drawLine(QLineF(x1, y1, x2, y2))

    def area(self, box: Box, colour: str, opacity: float = 1.0) -> None:
        """A filled rectangle."""
        self._painter.fillRect(_rect(box), _colour(colour, opacity))

    def frame(self, box: Box, colour: str, width: float = 1.0) -> None:
        """The outline of a rectangle."""
        self._painter.setPen(_pen(colour, width, "solid"))
        self._painter.setBrush(Qt.BrushStyle.NoBrush)
        self._painter.drawRect(_rect(box))

    def hatch(self, box: Box, colour: str) -> None:
        """A rectangle of slanted lines."""
        self._painter.fillRect(_rect(box), QBrush(_colour(colour), Qt.BrushStyle.BDiagPattern))

    def shape(self, points: Sequence[Point], colour: str, opacity: float = 1.0) -> None:
        """A filled polygon."""
        self._painter.setPen(Qt.PenStyle.NoPen)
        self._painter.setBrush(_colour(colour, opacity))
        self._painter.drawPolygon(_polygon(points))
        self._painter.setBrush(Qt.BrushStyle.NoBrush)

    def path(self, points: Sequence[Point], colour: str, width: float = 1.0, style: str = "solid") -> None:
        """A line through points."""
        self._painter.setPen(_pen(colour, width, style))
        self._painter.drawPolyline(_polygon(points))

    def words(self, box: Box, text: str, colour: str, align: str = "left", *, bold: bool = False,
              size: float = 0.0) -> None:  # fmt: skip
        """Words in the middle of a box's height."""
        self._painter.setFont(self._sized(size or self._size, bold))
        self._painter.setPen(_colour(colour))
        self._painter.drawText(_rect(box), _ALIGN[align] | Qt.AlignmentFlag.AlignVCenter, text)

    def width_of(self, text: str, *, bold: bool = False) -> float:
        """How wide words are."""
        return QFontMetricsF(self._sized(self._size, bold)).horizontalAdvance(text)

    def _sized(self, size: float, bold: bool) -> QFont:
        font = QFont(self._font)
        font.setPixelSize(int(size))
        font.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
        return font


def _colour(name: str, opacity: float = 1.0) -> QColor:
    colour = QColor(getattr(palette(), name))
    colour.setAlphaF(opacity)
    return colour


def _pen(colour: str, width: float, style: str) -> QPen:
    return QPen(_colour(colour), width, _STYLES[style])


def _rect(box: Box) -> QRectF:
    return QRectF(box.left, box.top, box.width, box.height)


def _polygon(points: Sequence[Point]) -> QPolygonF:
    return QPolygonF([QPointF(x, y) for x, y in points])
