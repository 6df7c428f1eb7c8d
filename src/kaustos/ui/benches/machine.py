"""Bench 30: the parts that limit each zone, and what they leave of the polymer's window."""

from PySide6.QtCore import QLineF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPen
from PySide6.QtWidgets import QButtonGroup, QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from kaustos.core.planning.reach import parts_of
from kaustos.core.records import BASES, PART_TITLES, ZONES, Machine
from kaustos.core.review.machine import MachinePicture, ZonePicture
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.picture import Picture
from kaustos.ui.desk import Desk
from kaustos.ui.fields import ChoiceBox, FieldBox
from kaustos.ui.look import palette

PRICED = ("liner", "magnet", "backing", "plastics")
_PARTS = {zone: tuple(name for name, _ in parts_of(getattr(Machine(id=""), zone))) for zone in ZONES}
WORDS = 118.0


class MachineBench(Bench):
    """The limits of one zone to edit, the picture of all zones, the figures."""

    def __init__(self, desk: Desk) -> None:
        self.form = LimitForm(desk)
        super().__init__(desk, "machine", self.form, Picture(desk, "machine", draw_chain))

    def refresh(self) -> None:
        """Begin with the zone in the worst trouble."""
        self.form.follow_recipe()

    def show_field(self, path: str) -> bool:
        """Lead to a part's limit."""
        head, _, rest = path.partition(".")
        if head == "machine" and rest.split(".")[0] in ZONES:
            zone, part = rest.split(".")[:2]
            self.form.choose(zone)
            self.form.limits[_PARTS[zone].index(part)].edit.setFocus()
            return True
        return False


class LimitForm(QWidget):
    """What limits one zone: each part with its limit, the basis of it, and what replacing it costs."""

    def __init__(self, desk: Desk, base: str = "machine.") -> None:
        super().__init__()
        self._desk, self._base = desk, base
        self.zone = "chamber"
        self.titles: list[QLabel] = []
        self.limits: list[FieldBox] = []
        self.bases: list[ChoiceBox] = []
        self.prices: dict[int, FieldBox] = {}
        self._grid = grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(3)
        for column, words in enumerate(("Part", "Limit (or none)", "Known from", "Price")):
            label = QLabel(words)
            label.setProperty("role", "muted")
            grid.addWidget(label, 0, column)
        grid.setColumnStretch(0, 1)
        column_box = QVBoxLayout(self)
        column_box.setContentsMargins(0, 0, 0, 0)
        column_box.setSpacing(5)
        column_box.addLayout(self._zones())
        column_box.addLayout(grid)
        self._card: str | None = None
        self.choose(self.zone)

    def follow(self, base: str) -> None:
        """Show another machine: what stands in front of its zones in a path."""
        self._base = base
        self.choose(self.zone)

    def follow_recipe(self) -> None:
        """A recipe that is opened begins with the zone in the worst trouble."""
        card = self._desk.workspace.draft.records.current
        if card is not None and card != self._card:
            self._card = card
            headline = next(each.headline for each in self._desk.review.operations if each.number == 30)
            self.choose(headline.split(".")[1] if headline else self.zone)

    def _zones(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(0)
        self._group = QButtonGroup(self)
        self.buttons: dict[str, QPushButton] = {}
        for zone in ("plate", "chamber", "nozzle"):
            button = QPushButton(zone.capitalize())
            button.setCheckable(True)
            button.setAccessibleName(f"Limits of the {zone}")
            button.clicked.connect(lambda _=False, zone=zone: self.choose(zone))
            self._group.addButton(button)
            self.buttons[zone] = button
            row.addWidget(button)
        row.addStretch()
        return row

    def choose(self, zone: str) -> None:
        """Show the parts of a zone."""
        self.zone = zone
        self.buttons[zone].setChecked(True)
        parts = _PARTS[zone]
        for row, part in enumerate(parts):
            if row == len(self.limits):
                self._add_row(row, f"{self._base}{zone}.{part}")
            self.titles[row].setText(_title(zone, part))
            self.limits[row].follow(f"{self._base}{zone}.{part}.max_c")
            self.bases[row].follow(f"{self._base}{zone}.{part}.basis")
            if part in PRICED:
                self._price(row, f"{self._base}{zone}.{part}.price")
        for row in range(len(self.limits)):
            for widget in (self.titles[row], self.limits[row], self.bases[row]):
                widget.setVisible(row < len(parts))
            if row in self.prices:
                self.prices[row].setVisible(row < len(parts) and parts[row] in PRICED)

    def _add_row(self, row: int, place: str) -> None:
        self.titles.append(QLabel())
        self.limits.append(FieldBox(self._desk, f"{place}.max_c", width=76))
        self.bases.append(ChoiceBox(self._desk, f"{place}.basis", BASES))
        for column, widget in enumerate((self.titles[row], self.limits[row], self.bases[row])):
            self._grid.addWidget(widget, row + 1, column)

    def _price(self, row: int, path: str) -> None:
        if row not in self.prices:
            self.prices[row] = FieldBox(self._desk, path, width=52)
            self._grid.addWidget(self.prices[row], row + 1, 3)
        self.prices[row].follow(path)


def _title(zone: str, part: str) -> str:
    title = PART_TITLES[part].capitalize()
    return "Heater or plate warmth" if (zone, part) == ("chamber", "heater") else title


# ---- the picture


def draw_chain(painter: QPainter, box: QRectF, record: MachinePicture, desk: Desk) -> None:
    """All parts' limits, lowest first, zone by zone; the polymer's window behind them, setpoints as lines."""
    if not record.zones:
        painter.setPen(QColor(palette().muted))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "Choose a machine in the head to see what holds it back.")
        return
    rows = sum(len(_drawn(zone)) for zone in record.zones)
    step = min((box.height() - 18.0 * len(record.zones)) / max(rows, 1), 20.0)
    top = box.top()
    for zone in sorted(record.zones, key=lambda each: ("plate", "chamber", "nozzle").index(each.zone)):
        height = 16.0 + step * len(_drawn(zone))
        _zone(painter, QRectF(box.left(), top, box.width(), height), zone, step, desk)
        top += height + 2.0


def _drawn(zone: ZonePicture) -> list:  # type: ignore[type-arg]
    return [bar for bar in zone.bars if bar.max_c is not None or bar.fitted is not False]


def _zone(painter: QPainter, box: QRectF, zone: ZonePicture, step: float, desk: Desk) -> None:
    colours = palette()
    names, words_width = 140.0, WORDS
    values = [bar.max_c for bar in zone.bars if bar.max_c is not None]
    values += [each for each in (zone.setpoint_c, zone.first_c) if each is not None] + list(zone.window_c or ())
    low, high = 0.7 * min(values, default=0.0), max(values, default=100.0) * 1.02

    def x(at_c: float) -> float:
        return box.left() + names + (at_c - low) / (high - low) * (box.width() - names - words_width)

    title = QFont(painter.font())
    title.setWeight(QFont.Weight.DemiBold)
    plain = QFont(painter.font())
    body = QRectF(box.left(), box.top() + 15, box.width(), box.height() - 16)
    if zone.window_c:
        left, right = x(zone.window_c[0]), x(zone.window_c[1])
        painter.fillRect(QRectF(left, box.top() + 1, right - left, box.height() - 2), QColor(colours.window_fill))
    painter.setFont(title)
    painter.setPen(QColor(colours.ink))
    painter.drawText(
        QRectF(box.left(), box.top() - 1, names, 16), Qt.AlignmentFlag.AlignVCenter, zone.zone.capitalize()
    )
    painter.setFont(plain)
    if zone.window_c:
        wanted = desk.wording
        words = (
            f"wants {wanted.number(zone.window_c[0], 'temperature')} to {wanted.value(zone.window_c[1], 'temperature')}"
        )
        wide = painter.fontMetrics().horizontalAdvance(words) + 4
        place = min(max(x(zone.window_c[0]), box.left() + names), box.right() - wide)
        painter.drawText(QRectF(place + 2, box.top() - 1, wide, 16), Qt.AlignmentFlag.AlignVCenter, words)
    for index, bar in enumerate(_drawn(zone)):
        y = body.top() + step * (index + 0.5)
        _bar(painter, box, bar, y, x, step, desk, names)
    for value, style in ((zone.first_c, Qt.PenStyle.DashLine), (zone.setpoint_c, Qt.PenStyle.SolidLine)):
        if value is not None:
            painter.setPen(QPen(QColor(colours.accent), 2, style))
            painter.drawLine(QLineF(x(value), body.top(), x(value), body.bottom()))


def _bar(painter, box, bar, y, x, step, desk, names) -> None:  # type: ignore[no-untyped-def]
    colours = palette()
    holds = bar.rank == 0
    font = QFont(painter.font())
    font.setWeight(QFont.Weight.DemiBold if holds else QFont.Weight.Normal)
    painter.setFont(font)
    painter.setPen(QColor(colours.ink if bar.rank < 2 else colours.muted))
    painter.drawText(QRectF(box.left() + 8, y - 9, names - 12, 18), Qt.AlignmentFlag.AlignVCenter, bar.title)
    font.setWeight(QFont.Weight.Normal)
    painter.setFont(font)
    thick = min(step * 0.5, 8.0)
    right = box.left() + names
    words = "not recorded"
    if bar.max_c is None:
        painter.setPen(QPen(QColor(colours.open), 1, Qt.PenStyle.DashLine))
        painter.drawLine(QLineF(right, y, box.right() - WORDS, y))
    else:
        colour = QColor(colours.ink if holds else colours.muted)
        if not holds:
            colour.setAlphaF(0.55)
        painter.fillRect(QRectF(right, y - thick / 2, x(bar.max_c) - right, thick), colour)
        words = desk.wording.value(bar.max_c, "temperature")
        words += {0: ", holds back", 1: ", next"}.get(bar.rank, "")
    painter.setPen(QColor(colours.ink if holds else colours.muted))
    left = box.right() - WORDS + 6
    painter.drawText(QRectF(left, y - 9, WORDS - 6, 18), Qt.AlignmentFlag.AlignVCenter, words)
