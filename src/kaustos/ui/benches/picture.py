"""A live picture: asks for its record as a job, draws it, and greys it while a newer one is being computed."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QContextMenuEvent, QFont, QPainter, QPaintEvent
from PySide6.QtWidgets import QApplication, QMenu, QWidget

from kaustos.app.results import picture_request
from kaustos.ui.desk import Desk
from kaustos.ui.jobs import Job, Runner
from kaustos.ui.look import palette


class Picture(QWidget):
    """Draws the picture of one operation."""

    shown = Signal()  # another record is drawn

    def __init__(self, desk: Desk, run: Runner, key: str, draw: Callable[[QPainter, QRectF, Any, Desk], None]) -> None:
        super().__init__()
        self._desk, self._run, self._key, self._draw = desk, run, key, draw
        self._wanted = ""
        self._shown_key = ""
        self._shown: Any = None
        self._fault = ""
        self.setMinimumHeight(150)
        self.setAccessibleName(f"Picture of {key}")
        desk.changed.connect(self.refresh)
        self.refresh()

    @property
    def record(self) -> Any:
        """What is drawn now, None before the first answer."""
        return self._shown

    def refresh(self) -> None:
        """Ask for the picture of now, unless it is at hand."""
        if not self._desk.has_recipe:
            return
        recipe = self._desk.workspace.draft.records.card.recipe
        request = picture_request(self._key, recipe, self._desk.context)
        self._wanted, self._fault = request.key, ""
        found = self._desk.results.get(request.key)
        if found is not None:
            self._show(request.key, found)
            return
        job = Job(request, self)
        job.finished.connect(self._on_finished)
        job.failed.connect(self._on_failed)
        self._run(job)
        self.update()

    def _on_finished(self, key: str, result: Any) -> None:
        self._drop_sender()
        self._desk.results.put(key, result)
        if key == self._wanted:
            self._show(key, result)

    def _on_failed(self, key: str, fault: str) -> None:
        self._drop_sender()
        if key == self._wanted:
            self._fault = fault
            self.update()

    def _drop_sender(self) -> None:
        sender = self.sender()
        if isinstance(sender, Job):
            sender.deleteLater()

    def _show(self, key: str, result: Any) -> None:
        self._shown_key, self._shown = key, result
        self.shown.emit()
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        font = QFont(self.font())
        font.setPixelSize(12)
        painter.setFont(font)
        if self._shown is not None:
            if self._shown_key != self._wanted:
                painter.setOpacity(0.4)
            self._draw(painter, QRectF(self.rect()), self._shown, self._desk)
            painter.setOpacity(1.0)
        if self._fault or self._shown_key != self._wanted:
            painter.setPen(QColor(palette().muted))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, self._fault or "computing")

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = QMenu(self)
        menu.addAction("Copy picture", self.copy)
        menu.exec(event.globalPos())

    def copy(self) -> None:
        """Copy the picture as it stands."""
        QApplication.clipboard().setPixmap(self.grab())
