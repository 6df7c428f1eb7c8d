"""Bench 80: what of the part grows over air, the ways to hold it, and what coupons said."""

from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from kaustos.app.supporting import (
    CONVENTIONS,
    PAUSE_HEADINGS,
    PLACE_HEADINGS,
    WAY_HEADINGS,
    decide,
    keep_gap,
    keep_overhang,
    pause_rows,
    place_rows,
    way_rows,
    ways_of,
)
from kaustos.core.errors import KaustosError
from kaustos.core.records import DECISIONS
from kaustos.core.review.supports import PlacePicture
from kaustos.core.review.supports.remedies import take_way
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.choices import ChoiceTable
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.picture import Picture
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label

FIELDS = ("supports.way", "supports.material", "supports.from_deg", "supports.gap_mm", "supports.filled_pct",
          "supports.contact_only", "supports.bath_ml", "supports.bath_c")  # fmt: skip


class SupportsBench(Bench):
    """Way, gap and bath; the part from below; ways ranked, coupons, figures."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "supports", self.form, Picture(desk, "supports"))
        self.ways = WayTable(desk)
        self.places = PlacePage(desk, self.picture)
        self.pauses = PauseTable(desk)
        self.coupons = CouponPage(desk)
        self.switches = self.turn_pages(
            {
                "Ways": self.ways,
                "Places": self.places,
                "Pauses": self.pauses,
                "Measured": self.coupons,
                "Figures": self.figures,
            }
        )

    def show_field(self, path: str) -> bool:
        """Lead to an input."""
        return self.form.show_field(path)


class WayTable(Following, ChoiceTable):
    """What each way to hold the part takes; Enter sets one that is to be had."""

    def __init__(self, desk: Desk) -> None:
        widths = ((0, 128), (1, 52), (2, 60), (3, 56), (4, 44), (5, 48))
        super().__init__(desk, "Ways to hold what grows over air", WAY_HEADINGS, widths, stretched=6)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow part and recipe."""
        if not self._desk.has_recipe:
            return
        ways = ways_of(self._desk.context, self._desk.workspace)
        self._remedies = tuple(take_way(each) for each in ways)
        nothing = ("Nothing of the part wants help, or nobody has looked", "", "", "", "", "", "")
        self.show_rows(way_rows(ways, self._desk.wording) or [nothing])


class PauseTable(Following, PlainTable):
    """When a coat by hand would be put on, and what the weld over the layer that cooled meanwhile keeps."""

    NOTE = "Head off the part, axes at rest, gloves; purge before going on; nobody there: no pause."

    def __init__(self, desk: Desk) -> None:
        super().__init__(PAUSE_HEADINGS)
        self._desk = desk
        self.setAccessibleName("Pauses for a coat by hand")
        self.setToolTip(self.NOTE)
        header = self.horizontalHeader()
        for column, width in ((0, 70), (1, 60), (3, 56), (4, 80), (5, 50)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow part and recipe."""
        if self._desk.has_recipe:
            rows = pause_rows(self._desk.context, self._desk.workspace)
            self.show_rows(rows or [("", "", "no place wants a coat, or part and speed are not known", "", "", "")])


class PlacePage(QWidget):
    """Each place that grows over air; what is decided on the chosen one, and why, is kept with the part."""

    def __init__(self, desk: Desk, picture: Picture) -> None:
        super().__init__()
        self._desk, self._picture = desk, picture
        self.table = PlainTable(PLACE_HEADINGS)
        self.table.setAccessibleName("Places that grow over air")
        header = self.table.horizontalHeader()
        header.setMinimumSectionSize(20)
        for column, width in enumerate((20, 84, 44, 58, 52, 58, 88)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(7, QHeaderView.ResizeMode.Stretch)
        self.what, self.why, keep = QComboBox(), QLineEdit(), QPushButton("Decide")
        self.what.setAccessibleName("What is decided")
        self.what.addItem("Let the limit decide", "")
        for key, title in DECISIONS.items():
            self.what.addItem(title, key)
        self.why.setAccessibleName("Why it is decided so")
        self.why.setPlaceholderText("why, such as: sealing face")
        self.why.setMaxLength(200)
        self.why.returnPressed.connect(self._on_decide)
        keep.clicked.connect(self._on_decide)
        row = QHBoxLayout()
        for widget in (self.what, self.why, keep):
            row.addWidget(widget)
        column_ = QVBoxLayout(self)
        column_.setContentsMargins(0, 0, 0, 0)
        column_.addWidget(self.table)
        column_.addLayout(row)
        picture.shown.connect(self.refresh)

    def refresh(self) -> None:
        """Follow the picture."""
        nothing = ("", "nobody has looked" if self._places() is None else "none", *("",) * 6)
        self.table.show_rows(place_rows(self._picture.record, self._desk.wording) or [nothing])

    def _places(self) -> "tuple[PlacePicture, ...] | None":
        record = self._picture.record
        return None if record is None or record.is_empty else record.places

    def _on_decide(self) -> None:
        def keep() -> None:
            places, row = self._places() or (), self.table.currentRow()
            if not 0 <= row < len(places):
                raise KaustosError("Choose the place in the table first.")
            words = decide(
                self._desk.workspace, self._desk.context, places[row], self.what.currentData(), self.why.text()
            )
            self._desk.messages.note(words)
            self.why.clear()

        self._desk.run(keep)


class CouponPage(QWidget):
    """The steepest lean of a coupon, the best gap of a series: kept with machine and lot."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.angle, self.convention, self.gap, self.minutes = QLineEdit(), QComboBox(), QLineEdit(), QLineEdit()
        for line, name, hint in (
            (self.angle, "Steepest lean without a flaw", "50°"),
            (self.gap, "Gap that came off best", "0.4 mm"),
            (self.minutes, "Minutes to take it off", "0.5 min"),
        ):
            line.setAccessibleName(name)
            line.setPlaceholderText(hint)
            line.setFixedWidth(70)
        self.convention.setAccessibleName("Lean counted")
        for key, title in CONVENTIONS.items():
            self.convention.addItem(title, key)
        keep_angle, keep_gap_ = QPushButton("Keep the lean"), QPushButton("Keep the gap")
        keep_angle.clicked.connect(self._on_angle)
        keep_gap_.clicked.connect(self._on_gap)
        self.angle.returnPressed.connect(self._on_angle)
        self.minutes.returnPressed.connect(self._on_gap)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        for widgets in (
            (Label("Coupon leans"), self.angle, self.convention, keep_angle),
            (Label("Best gap"), self.gap, Label("off in"), self.minutes, keep_gap_),
        ):
            row = QHBoxLayout()
            for widget in widgets:
                row.addWidget(widget)
            row.addStretch()
            column.addLayout(row)
        column.addStretch()

    def _on_angle(self) -> None:
        def keep() -> None:
            words = keep_overhang(
                self._desk.workspace, self._desk.context, self.angle.text(), self.convention.currentData()
            )
            self._desk.messages.note(words)
            self.angle.clear()

        self._desk.run(keep)

    def _on_gap(self) -> None:
        def keep() -> None:
            words = keep_gap(self._desk.workspace, self._desk.context, self.gap.text(), self.minutes.text())
            self._desk.messages.note(words)
            self.gap.clear()
            self.minutes.clear()

        self._desk.run(keep)
