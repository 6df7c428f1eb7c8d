"""Bench 80: what of the part grows over air, the ways to hold it, and what coupons said."""

from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from kaustos.app.pictures import views_of
from kaustos.app.supporting import (
    AFTER_HEADINGS,
    CONVENTIONS,
    PAUSE_HEADINGS,
    PLACE_HEADINGS,
    WAY_HEADINGS,
    after_rows,
    decide,
    gap_words,
    keep_gaps,
    keep_overhang,
    pause_rows,
    place_rows,
    way_rows,
    ways_of,
    work_out_gaps,
)
from kaustos.core.errors import KaustosError
from kaustos.core.records import DECISIONS
from kaustos.core.review.supports import PlacePicture
from kaustos.core.review.supports.case import SECOND
from kaustos.core.review.supports.remedies import take_way
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.choices import ChoiceTable
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.picture import Picture
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label, Line

FIELDS = (
    "supports.way", "supports.gap_mm", "supports.from_deg", "supports.filled_pct", "supports.material",
    "supports.contact_only", "supports.contrast", "context.bath", "supports.bath_c", "supports.bath_ml",
)  # fmt: skip
OF_SECOND = ("supports.material", "supports.contact_only", "supports.contrast")
OF_BATH = ("context.bath", "supports.bath_c", "supports.bath_ml")


class SupportsBench(Bench):
    """Way, gap and bath; the part from below; ways ranked, coupons, figures."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "supports", self.form, Picture(desk, "supports"))
        names = views_of("supports")
        self.views, row = switches(names, lambda place: self.picture.look_at(names[place]))
        self.column.insertLayout(self.column.indexOf(self.picture), row)
        self.ways = WayTable(desk)
        self.places = PlacePage(desk, self.picture)
        self.pauses = PauseTable(desk, self.picture)
        self.afterwards = AfterTable(desk)
        self.coupons = CouponPage(desk, self.picture)
        self.switches = self.turn_pages(
            {
                "Ways": self.ways,
                "Places": self.places,
                "Pauses": self.pauses,
                "Afterwards": self.afterwards,
                "Measured": self.coupons,
                "Figures": self.figures,
            }
        )

    def refresh(self) -> None:
        """Show what the way that is set asks for: a second polymer its name, a bath which one."""
        if not self.desk.has_recipe:
            return
        card = self.desk.workspace.draft.records.card
        way, bath = card.recipe.supports.way, card.chosen.get("bath")
        for field in OF_SECOND:
            self._show(field, wanted=way in SECOND)
        for field in OF_BATH:
            self._show(field, wanted=way == "soluble" and (field != "supports.bath_ml" or bath is None))

    def _show(self, field: str, *, wanted: bool) -> None:
        self.form.boxes[field].setVisible(wanted)
        self.form.titles[field].setVisible(wanted)

    def show_field(self, path: str) -> bool:
        """Lead to an input, one that the way does not ask for too."""
        if path in self.form.boxes:
            self._show(path, wanted=True)
        return self.form.show_field(path)


class WayTable(Following, ChoiceTable):
    """What each way to hold the part takes; Enter sets one that is to be had."""

    def __init__(self, desk: Desk) -> None:
        widths = ((0, 146), (1, 50), (2, 56), (3, 56), (4, 38), (5, 42))
        super().__init__(desk, "Ways to hold what grows over air", WAY_HEADINGS, widths, stretched=6)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow part and recipe."""
        if not self._desk.has_recipe:
            return
        ways = ways_of(self._desk.context, self._desk.workspace)
        self._remedies = tuple(take_way(each) for each in ways)
        nothing = ("Nothing of the part wants help, or nobody has looked", *("",) * 6)
        self.show_rows(way_rows(ways, self._desk.wording) or [nothing])


class PauseTable(PlainTable):
    """When a coat by hand would be put on, the weld over the layer that cooled meanwhile, how long it may rest."""

    NOTE = "Head off the part, axes at rest, gloves; purge before going on; nobody there: no pause."

    def __init__(self, desk: Desk, picture: Picture) -> None:
        super().__init__(PAUSE_HEADINGS)
        self._desk, self._picture = desk, picture
        self.setAccessibleName("Pauses for a coat by hand")
        self.setToolTip(self.NOTE)
        header = self.horizontalHeader()
        for column, width in ((0, 70), (1, 60), (3, 52), (4, 80), (5, 46), (6, 58)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        picture.shown.connect(self.refresh)

    def refresh(self) -> None:
        """Follow the picture."""
        rows = pause_rows(self._picture.record, self._desk.wording)
        nothing = ("", "", "no place wants a coat, or part and speed are not known", *("",) * 4)
        self.show_rows(rows or [nothing])


class AfterTable(Following, PlainTable):
    """What the part still needs because of what held it."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(AFTER_HEADINGS)
        self._desk = desk
        self.setAccessibleName("Steps after the plate because of supports")
        header = self.horizontalHeader()
        for column, width in ((0, 190), (1, 60), (2, 130)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow part and recipe."""
        if self._desk.has_recipe:
            rows = after_rows(self._desk.context, self._desk.workspace)
            self.show_rows(rows or [("Nothing is left to take off", "", "", "")])


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
        self.what, self.why, keep = QComboBox(), Line(), QPushButton("Decide")
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
        return None if record is None or not record.is_looked_at else record.places

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
    """The steepest lean of a coupon, a series of gaps and what it says: kept with machine and lot."""

    HINT = "Print gaps of rising layers, take each off by hand: layers, minutes, underside."

    def __init__(self, desk: Desk, picture: Picture) -> None:
        super().__init__()
        self._desk, self._picture = desk, picture
        self.angle, self.convention, self.steps = Line(), QComboBox(), Line()
        self.angle.setFixedWidth(70)
        for line, name, hint in (
            (self.angle, "Steepest lean without a flaw", "50°"),
            (self.steps, "Series of gaps", "1 fused; 2 0.5 marked; 3 0.3 clean"),
        ):
            line.setAccessibleName(name)
            line.setPlaceholderText(hint)
        self.convention.setAccessibleName("Lean counted")
        for key, title in CONVENTIONS.items():
            self.convention.addItem(title, key)
        self.words = Label(self.HINT, wordWrap=True)
        keep_angle, keep_series = QPushButton("Keep the lean"), QPushButton("Keep the gap")
        keep_angle.clicked.connect(self._on_angle)
        keep_series.clicked.connect(self._on_gaps)
        self.angle.returnPressed.connect(self._on_angle)
        self.steps.returnPressed.connect(self._on_gaps)
        self.steps.textEdited.connect(lambda _: self._read())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        leans, gaps = QHBoxLayout(), QHBoxLayout()
        for widget in (Label("Coupon leans"), self.angle, self.convention, keep_angle):
            leans.addWidget(widget)
        leans.addStretch()
        gaps.addWidget(Label("Series of gaps"))
        gaps.addWidget(self.steps, 1)
        gaps.addWidget(keep_series)
        column.addLayout(leans)
        column.addLayout(gaps)
        column.addWidget(self.words)
        column.addStretch()

    def _read(self) -> None:
        """Say what the series tells so far."""
        record = self._picture.record
        try:
            words = gap_words(work_out_gaps(self.steps.text()), record.gaps if record is not None else ())
        except KaustosError as fault:
            words = str(fault) if self.steps.text().strip() else self.HINT
        self.words.setText(words)

    def _on_angle(self) -> None:
        def keep() -> None:
            words = keep_overhang(
                self._desk.workspace, self._desk.context, self.angle.text(), self.convention.currentData()
            )
            self._desk.messages.note(words)
            self.angle.clear()

        self._desk.run(keep)

    def _on_gaps(self) -> None:
        def keep() -> None:
            words = keep_gaps(self._desk.workspace, self._desk.context, work_out_gaps(self.steps.text()))
            self._desk.messages.note(words)
            self.steps.clear()
            self._read()

        self._desk.run(keep)
