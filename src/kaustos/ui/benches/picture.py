"""A live picture: asks for its record as a job, draws it, and greys it while a newer one is being computed."""

from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QColor, QContextMenuEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QApplication, QMenu, QWidget

from kaustos.app.pictures import Box, drawing_of
from kaustos.app.results import Request
from kaustos.core.review import BY_KEY
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.following import Following
from kaustos.ui.look import palette
from kaustos.ui.pen import QtPen


class Picture(Following, QWidget):
    """Draws the picture of one operation."""

    shown = Signal()  # another record is drawn

    def __init__(self, desk: Desk, key: str) -> None:
        super().__init__()
        self._desk, self._key = desk, key
        self._wanted: Request | None = None
        self._shown_for: Request | None = None
        self._shown: Any = None
        self._view = ""
        self.setMinimumHeight(150)
        self.setAccessibleName(f"Picture of {key}")
        self.follow_desk(desk)

    @property
    def record(self) -> Any:
        """What is drawn now, None before the first answer."""
        return self._shown

    @property
    def is_current(self) -> bool:
        """Whether what is drawn is the picture of now."""
        return self._shown_for is not None and self._shown_for is self._wanted

    def look_at(self, view: str) -> None:
        """Show another view of what is drawn."""
        self._view = view
        self.update()

    def refresh(self) -> None:
        """Ask for the picture of now, unless it is at hand; the old one is greyed meanwhile."""
        if not self._desk.has_recipe:
            return
        self._wanted, found = self._desk.heavy(BY_KEY[self._key].drawn)
        if found is None:
            self.update()
        elif found is not self._shown:
            self._show(found)
        else:
            self._shown_for = self._wanted

    def _show(self, result: Any) -> None:
        self._shown_for, self._shown = self._wanted, result
        self.shown.emit()
        self.update()

    @guarded()
    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._shown is not None:
            if not self.is_current:
                painter.setOpacity(0.4)
            pen, box = QtPen(painter, self.font()), Box(0.0, 0.0, float(self.width()), float(self.height()))
            drawing_of(self._key, self._view)(pen, box, self._shown, self._desk.wording)
            painter.setOpacity(1.0)
        if not self.is_current:
            painter.setFont(self.font())
            painter.setPen(QColor(palette().muted))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "computing")

    @guarded()
    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction("Copy picture", self.copy)
        menu.exec(event.globalPos())

    def copy(self) -> None:
        """Copy the picture as it stands."""
        QApplication.clipboard().setPixmap(self.grab())
