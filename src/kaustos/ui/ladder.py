"""The heat ladder: one temperature scale, the polymer's lines, a lane and draggable marks for each heated zone."""

from PySide6.QtCore import QLineF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QFrame, QGridLayout, QLabel, QVBoxLayout, QWidget

from kaustos.core.review import Lane
from kaustos.core.review.ladder import DRYER_FIELD
from kaustos.ui.desk import Desk
from kaustos.ui.fields import FieldBox
from kaustos.ui.following import Following
from kaustos.ui.ladder_mark import MARK_HEIGHT, Mark
from kaustos.ui.look import palette

AXIS, FIRST_LANE, LANE_WIDTH, LANE_STEP = 32.0, 40.0, 42.0, 53.0
TOP, BOTTOM, OVERHANG = 26.0, 12.0, 5.0
LABEL_HEIGHT = 27.0
STEP_C = 50.0


class LadderPanel(QFrame):
    """The ladder with the typed fields of its setpoints below."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.setFixedWidth(372)
        self.view = LadderView(desk)
        title = QLabel("Heat ladder")
        title.setProperty("role", "heading")
        layout = QVBoxLayout(self)
        layout.setContentsMargins(10, 8, 8, 10)
        layout.setSpacing(6)
        layout.addWidget(title)
        layout.addWidget(self.view, 1)
        layout.addWidget(_legend())
        layout.addLayout(self._fields(desk))

    def _fields(self, desk: Desk) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(5)
        grid.setVerticalSpacing(4)
        self.boxes: dict[str, FieldBox] = {}
        for column, words in enumerate(("Dryer", "Plate", "Chamber", "Nozzle"), start=1):
            grid.addWidget(_muted(words), 0, column)
        rows = (
            ("First", (None, "first_layer.bed_c", None, "first_layer.nozzle_c")),
            ("Running", (DRYER_FIELD, "plate.bed_c", "heat.chamber_c", "melt.nozzle_c")),
        )
        for row, (words, paths) in enumerate(rows, start=1):
            grid.addWidget(_muted(words), row, 0)
            for column, path in enumerate(paths, start=1):
                if path:
                    self.boxes[path] = FieldBox(desk, path, width=50)
                    self.boxes[path].edit.setPlaceholderText("?")
                    grid.addWidget(self.boxes[path], row, column)
        return grid


def _muted(words: str) -> QLabel:
    label = QLabel(words)
    label.setProperty("role", "muted")
    return label


def _legend() -> QLabel:
    label = _muted(
        "Tinted: the polymer wants it. Hatched: the machine cannot. Solid mark: running, hollow: first layer."
    )
    label.setWordWrap(True)
    return label


class LadderView(Following, QWidget):
    """Paints the ladder and places its marks."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.setMinimumHeight(300)
        self.setAccessibleName("Heat ladder")
        self.setWhatsThis(
            "Heat ladder. What the polymer wants (its windows), what the machine reaches (the lowest limit of its "
            "parts) and what is set, on one scale. Drag a mark, or focus it and press the arrow keys (Shift: 5 K)."
        )
        self.marks: dict[str, Mark] = {}
        self.follow_desk(desk)
        desk.led.connect(self._on_led)

    # ---- scale

    def place_of(self, at_c: float) -> float:
        """Where a temperature lies."""
        ladder = self._desk.ladder
        share = (at_c - ladder.low_c) / (ladder.high_c - ladder.low_c)
        return self.height() - BOTTOM - min(max(share, 0.0), 1.0) * (self.height() - TOP - BOTTOM)

    def at_c(self, y: float) -> float:
        """The temperature at a place."""
        ladder = self._desk.ladder
        share = (self.height() - BOTTOM - y) / (self.height() - TOP - BOTTOM)
        return ladder.low_c + min(max(share, 0.0), 1.0) * (ladder.high_c - ladder.low_c)

    # ---- marks

    def refresh(self) -> None:
        """Follow the desk."""
        if not self._desk.has_recipe:
            return
        wanted: dict[str, tuple[int, Lane, bool, float]] = {}
        for index, lane in enumerate(self._desk.ladder.lanes):
            if lane.first_field and lane.first_c is not None:
                wanted[lane.first_field] = (index, lane, False, lane.first_c)
            if lane.setpoint_c is not None:
                wanted[lane.field] = (index, lane, True, lane.setpoint_c)
        for field in self.marks.keys() - wanted.keys():
            self.marks.pop(field).deleteLater()
        for field, (index, lane, running, value) in wanted.items():
            if field not in self.marks:
                self.marks[field] = Mark(self, self._desk, field, running=running)
                self.marks[field].show()
            self._place(self.marks[field], index, lane, value)
        self.setToolTip("\n".join(_reach_words(lane, self._desk) for lane in self._desk.ladder.lanes))
        self.update()

    def _place(self, mark: Mark, index: int, lane: Lane, value: float) -> None:
        x = FIRST_LANE + index * LANE_STEP - OVERHANG
        mark.setGeometry(
            int(x), round(self.place_of(value) - MARK_HEIGHT / 2), int(LANE_WIDTH + 2 * OVERHANG), int(MARK_HEIGHT)
        )
        mark.show_value(lane.title, value)

    def _on_led(self, field: str) -> None:
        for path, mark in self.marks.items():
            mark.lead(path == field)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.refresh()

    # ---- painting

    def paintEvent(self, event: QPaintEvent) -> None:
        if not self._desk.has_recipe:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        font = QFont(self.font())
        font.setPixelSize(11)
        painter.setFont(font)
        self._axis(painter)
        for index, lane in enumerate(self._desk.ladder.lanes):
            self._lane(painter, FIRST_LANE + index * LANE_STEP, lane)
        self._lines(painter)
        for index, lane in enumerate(self._desk.ladder.lanes):
            self._gap(painter, FIRST_LANE + index * LANE_STEP, lane)
            self._values(painter, FIRST_LANE + index * LANE_STEP, lane)

    def _axis(self, painter: QPainter) -> None:
        painter.setPen(QColor(palette().muted))
        at = STEP_C
        while at < self._desk.ladder.high_c:
            y = self.place_of(at)
            text = self._desk.wording.number(at, "temperature")
            align = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(QRectF(0, y - 8, AXIS - 7, 16), align, text)
            painter.drawLine(QLineF(AXIS - 4, y, AXIS + 2, y))
            at += STEP_C
        unit = self._desk.wording.unit("temperature")
        painter.drawText(QRectF(0, 2, AXIS - 7, 16), Qt.AlignmentFlag.AlignRight, unit)

    def _lane(self, painter: QPainter, x: float, lane: Lane) -> None:
        colours = palette()
        bold = QFont(painter.font())
        bold.setWeight(QFont.Weight.DemiBold)
        bold.setPixelSize(12)
        plain = painter.font()
        painter.setFont(bold)
        painter.setPen(QColor(colours.ink))
        painter.drawText(QRectF(x - 8, 0, LANE_WIDTH + 16, 20), Qt.AlignmentFlag.AlignCenter, lane.title)
        painter.setFont(plain)
        bottom = self.height() - BOTTOM
        body = QRectF(x, TOP, LANE_WIDTH, bottom - TOP)
        painter.fillRect(body, QColor(colours.ground))
        if lane.window_c:
            low, high = self.place_of(lane.window_c[0]), self.place_of(lane.window_c[1])
            painter.fillRect(QRectF(x, high, LANE_WIDTH, low - high), QColor(colours.window_fill))
        if lane.reach_c is not None:
            wall = self.place_of(lane.reach_c)
            hatched = QRectF(x, TOP, LANE_WIDTH, wall - TOP)
            painter.fillRect(hatched, QBrush(QColor(colours.hatch), Qt.BrushStyle.BDiagPattern))
            painter.setPen(QPen(QColor(colours.ink), 2))
            painter.drawLine(QLineF(x, wall, x + LANE_WIDTH, wall))
        painter.setPen(QPen(QColor(colours.muted), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(body)

    def _lines(self, painter: QPainter) -> None:
        colours = palette()
        left = FIRST_LANE + 3 * LANE_STEP + LANE_WIDTH + 10
        placed = self.height() + 10.0
        for line in sorted(self._desk.ladder.lines, key=lambda each: each.at_c):
            y = self.place_of(line.at_c)
            painter.setPen(QPen(QColor(colours.ink), 1, Qt.PenStyle.DashLine))
            painter.drawLine(QLineF(AXIS, y, left - 4, y))
            top = min(y - LABEL_HEIGHT / 2, placed - LABEL_HEIGHT - 1)
            placed = top
            painter.setPen(QPen(QColor(colours.muted), 1))
            painter.drawLine(QLineF(left - 4, y, left, top + LABEL_HEIGHT / 2))
            box = QRectF(left + 2, top, self.width() - left - 2, LABEL_HEIGHT)
            painter.setPen(QColor(colours.ink))
            words = f"{line.title}\n{line.load}{self._desk.wording.value(line.at_c, 'temperature')}"
            painter.drawText(box, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, words)

    def _gap(self, painter: QPainter, x: float, lane: Lane) -> None:
        if not lane.gap:
            return
        colours = palette()
        top, bottom = self.place_of(lane.gap.to_c), self.place_of(lane.gap.from_c)
        painter.setPen(QPen(QColor(colours.stop), 2))
        for inset in (2.0, LANE_WIDTH - 2.0):
            painter.drawLine(QLineF(x + inset, top, x + inset, bottom))
        label = QRectF(x + 3, self._clear_of_marks((top + bottom) / 2 - 14, lane), LANE_WIDTH - 6, 28)
        painter.fillRect(label, QColor(colours.panel))
        painter.drawRect(label)
        font = painter.font()
        bold = QFont(font)
        bold.setWeight(QFont.Weight.DemiBold)
        painter.setFont(bold)
        words = f"{self._desk.wording.value(lane.gap.by_k, 'temperature_difference')}\nshort"
        painter.drawText(label, Qt.AlignmentFlag.AlignCenter, words)
        painter.setFont(font)

    def _clear_of_marks(self, wanted: float, lane: Lane) -> float:
        """Where the words of a gap begin: in its middle, or below the lane's marks and their numbers."""
        shown = {value for value in (lane.setpoint_c, lane.first_c) if value is not None}
        number = 14.0 if len(shown) > 1 else 0.0
        below = max((self.place_of(value) for value in shown), default=TOP) + MARK_HEIGHT / 2 + number
        return min(max(wanted, below), self.height() - BOTTOM - 28.0)

    def _values(self, painter: QPainter, x: float, lane: Lane) -> None:
        """Numbers beside the marks: the higher one above, the lower one below."""
        shown = [value for value in (lane.setpoint_c, lane.first_c) if value is not None]
        for value in dict.fromkeys(shown):
            above = value == max(shown)
            y = self.place_of(value) + (-MARK_HEIGHT / 2 - 14 if above else MARK_HEIGHT / 2)
            words = self._desk.wording.number(value, "temperature")
            box = QRectF(x + LANE_WIDTH / 2 - 14, y, 28, 14)
            painter.fillRect(box, QColor(palette().panel))
            painter.setPen(QColor(palette().ink))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)


def _reach_words(lane: Lane, desk: Desk) -> str:
    if lane.reach_c is None:
        return f"{lane.title}: reach not recorded"
    reach = desk.wording.value(lane.reach_c, "temperature")
    return f"{lane.title}: reaches {reach}, held back by its {lane.bottleneck}"
