"""One setpoint on the ladder: dragged with the mouse, moved with the arrow keys."""

import itertools
from collections.abc import Callable

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from kaustos.core.errors import KaustosError
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.look import palette
from kaustos.ui.look.text import as_text

_gestures = itertools.count(1)
_STEPS = {Qt.Key.Key_Up: 1.0, Qt.Key.Key_Down: -1.0}


class Mark(QWidget):
    """A mark that proposes another setpoint."""

    def __init__(
        self, ladder: QWidget, at_c: Callable[[float], float], desk: Desk, field: str, *, running: bool
    ) -> None:  # fmt: skip
        super().__init__(ladder)
        self._at_c, self._desk, self.field, self._running = at_c, desk, field, running
        self._gesture = ""
        self._grip: float | None = None
        self._led = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.SizeVerCursor)

    def show_value(self, zone: str, value: float) -> None:
        """Say which setpoint this is."""
        which = "setpoint" if self._running else "setpoint of the first layer"
        words = f"{zone} {which}: {self._desk.wording.value(value, 'temperature')}"
        self.setAccessibleName(words)
        self.setToolTip(as_text(f"{words}. Drag, or press the arrow keys (Shift: 5 K)."))
        self.update()

    def lead(self, led: bool) -> None:
        """Lead the eye here, or away."""
        self._led = led
        if led:
            self.raise_()
        self.update()

    # ---- moving

    @guarded()
    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._gesture = f"drag {next(_gestures)}"
            self._grip = event.position().y() - self.height() / 2
            self.raise_()

    @guarded()
    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grip is not None:
            y = self.mapToParent(event.position()).y() - self._grip
            self._propose(round(self._at_c(y)))

    @guarded()
    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._grip, self._gesture = None, ""

    @guarded()
    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = _STEPS.get(Qt.Key(event.key()))
        if step is None or event.modifiers() & (Qt.KeyboardModifier.AltModifier | Qt.KeyboardModifier.ControlModifier):
            super().keyPressEvent(event)
            return
        present = self._present()
        if present is not None:
            large = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            self._propose(present + step * (5.0 if large else 1.0))

    @guarded()
    def focusInEvent(self, event: QFocusEvent) -> None:
        self._gesture = f"keys {next(_gestures)}"
        self.raise_()
        super().focusInEvent(event)

    def _present(self) -> float | None:
        try:
            value = self._desk.workspace.draft.value(self.field)
        except KaustosError:
            return None
        return float(value) if isinstance(value, (int, float)) else None

    def _propose(self, value: float) -> None:
        self._desk.tell(self._desk.set({self.field: float(value)}, gesture=self._gesture))

    # ---- painting

    @guarded()
    def paintEvent(self, event: QPaintEvent) -> None:
        colours = palette()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = self.height() / 2
        bar = QRectF(1, middle - 3, self.width() - 2, 6)
        if self.hasFocus() or self._led:
            painter.setPen(QPen(QColor(colours.accent if self.hasFocus() else colours.stop), 2))
            painter.drawRect(QRectF(self.rect()).adjusted(1, 1, -1, -1))
        painter.setPen(QPen(QColor(colours.ink), 1.6))
        painter.setBrush(QColor(colours.ink if self._running else colours.panel))
        painter.drawRect(bar)
