"""The heat ladder: one temperature scale, the polymer's lines, a lane and draggable marks for each heated zone."""

from PySide6.QtGui import QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QFrame, QGridLayout, QVBoxLayout, QWidget

from kaustos.app.pictures.ladder import MARK_HEIGHT, OVERHANG, LadderScale, draw_ladder, lane_left, lane_width
from kaustos.app.pictures.pen import Box
from kaustos.core.review import Lane
from kaustos.core.review.ladder import DRYER_FIELD
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.fields import FieldBox
from kaustos.ui.following import Following
from kaustos.ui.ladder_mark import Mark
from kaustos.ui.look.text import Label
from kaustos.ui.pen import QtPen


class LadderPanel(QFrame):
    """The ladder with the typed fields of its setpoints below."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.setFixedWidth(372)
        self.view = LadderView(desk)
        title = Label("Heat ladder")
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


def _muted(words: str) -> Label:
    label = Label(words)
    label.setProperty("role", "muted")
    return label


def _legend() -> Label:
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

    @property
    def scale(self) -> LadderScale:
        """Where temperatures lie."""
        return LadderScale(self._desk.ladder, float(self.height()))

    def place_of(self, at_c: float) -> float:
        """Where a temperature lies."""
        return self.scale.place_of(at_c)

    def at_c(self, y: float) -> float:
        """The temperature at a place."""
        return self.scale.at_c(y)

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
                self.marks[field] = Mark(self, self.at_c, self._desk, field, running=running)
                self.marks[field].show()
            self._place(self.marks[field], index, lane, value)
        self.setToolTip("\n".join(_reach_words(lane, self._desk) for lane in self._desk.ladder.lanes))
        self.update()

    def _place(self, mark: Mark, index: int, lane: Lane, value: float) -> None:
        x, wide = lane_left(self._desk.ladder, index) - OVERHANG, lane_width(self._desk.ladder) + 2 * OVERHANG
        mark.setGeometry(int(x), round(self.place_of(value) - MARK_HEIGHT / 2), int(wide), int(MARK_HEIGHT))
        mark.show_value(lane.title, value)

    def _on_led(self, field: str) -> None:
        for path, mark in self.marks.items():
            mark.lead(path == field)

    @guarded()
    def resizeEvent(self, event: QResizeEvent) -> None:
        self.refresh()

    # ---- painting

    @guarded()
    def paintEvent(self, event: QPaintEvent) -> None:
        if not self._desk.has_recipe:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = Box(0.0, 0.0, float(self.width()), float(self.height()))
        draw_ladder(QtPen(painter, self.font()), box, self._desk.ladder, self._desk.wording, marks=False)


def _reach_words(lane: Lane, desk: Desk) -> str:
    if lane.reach_c is None:
        return f"{lane.title}: reach not recorded"
    reach = desk.wording.value(lane.reach_c, "temperature")
    return f"{lane.title}: reaches {reach}, held back by its {lane.bottleneck}"
