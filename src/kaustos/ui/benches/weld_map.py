"""The map of the weld, with its point to drag or to move by the arrow keys."""

import itertools

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QFocusEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen

from kaustos.app.pictures import Box
from kaustos.app.pictures.heat import MapScale
from kaustos.app.welds import MAP_VIEWS, map_move
from kaustos.ui.benches.picture import Picture
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.look import palette

_gestures = itertools.count(1)
NEAR = 16.0  # pixels from the point within which it is taken hold of
_KEYS = {
    Qt.Key.Key_Up: (0.0, 1.0), Qt.Key.Key_Down: (0.0, -1.0), Qt.Key.Key_Right: (1.0, 0.0), Qt.Key.Key_Left: (-1.0, 0.0),
}  # fmt: skip


class WeldMapPicture(Picture):
    """The picture of operation 70; its maps set the nozzle and what runs along them."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, "heat")
        self._gesture = ""
        self._held = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Map of the weld: arrow keys move nozzle and air, Shift five times as far")

    @property
    def scale(self) -> MapScale | None:
        """Where points of the map that is shown lie; None for a view that is no map."""
        along = MAP_VIEWS.get(self._view or next(iter(MAP_VIEWS)))
        found = self._shown.maps.get(along) if self._shown is not None and along is not None else None
        return None if found is None else MapScale(found, Box(0.0, 0.0, float(self.width()), float(self.height())))

    @guarded()
    def mousePressEvent(self, event: QMouseEvent) -> None:
        scale = self.scale
        if event.button() != Qt.MouseButton.LeftButton or scale is None or scale.record.point is None:
            return
        at = QPointF(*scale.place_of(*scale.record.point))
        if (event.position() - at).manhattanLength() <= NEAR:
            self._held, self._gesture = True, f"map {next(_gestures)}"
            self.setCursor(Qt.CursorShape.ClosedHandCursor)

    @guarded()
    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        scale = self.scale
        if self._held and scale is not None:
            self._go(scale, *scale.at(event.position().x(), event.position().y()))

    @guarded()
    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._held, self._gesture = False, ""
        self.unsetCursor()

    @guarded()
    def keyPressEvent(self, event: QKeyEvent) -> None:
        way, scale = _KEYS.get(Qt.Key(event.key())), self.scale
        if way is None or scale is None or scale.record.point is None:
            super().keyPressEvent(event)
            return
        times = 5.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
        x, y = scale.record.point
        self._go(scale, x + times * way[0], y + times * way[1], along=bool(way[0]), up=bool(way[1]))

    @guarded()
    def focusInEvent(self, event: QFocusEvent) -> None:
        self._gesture = f"map keys {next(_gestures)}"
        super().focusInEvent(event)
        self.update()

    @guarded()
    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.update()

    def _go(self, scale: MapScale, x: float, y: float, *, along: bool = True, up: bool = True) -> None:
        changes = map_move(self._desk.context.machine, scale.record, x if along else None, y if up else None)
        if changes:
            self._desk.tell(self._desk.set(changes, gesture=self._gesture))

    @guarded()
    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if self.hasFocus():
            painter = QPainter(self)
            painter.setPen(QPen(QColor(palette().accent), 2))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
