"""A picture of what is at hand: no recipe, no job; drawn anew when another record is shown."""

from typing import Any

from PySide6.QtGui import QContextMenuEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QApplication, QMenu, QWidget

from kaustos.app.pictures import Box, Draw
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.pen import QtPen


class Drawn(QWidget):
    """Draws a record with a pen."""

    def __init__(self, desk: Desk, draw: Draw, name: str, height: int = 190) -> None:
        super().__init__()
        self._desk, self._draw = desk, draw
        self.record: Any = None
        self.setMinimumHeight(height)
        self.setAccessibleName(name)

    def show_record(self, record: Any) -> None:
        """Draw another record."""
        self.record = record
        self.update()

    @guarded()
    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = Box(0.0, 0.0, float(self.width()), float(self.height()))
        self._draw(QtPen(painter, self.font()), box, self.record, self._desk.wording)

    @guarded()
    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction("Copy picture", self.copy)
        menu.exec(event.globalPos())

    def copy(self) -> None:
        """Copy the picture as it stands."""
        QApplication.clipboard().setPixmap(self.grab())
