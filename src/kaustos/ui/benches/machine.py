"""Bench 30: the parts that limit each zone, and what they leave of the polymer's window."""

from PySide6.QtWidgets import QButtonGroup, QGridLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from kaustos.app.pictures import views_of
from kaustos.core.planning.reach import parts_of
from kaustos.core.records import BASES, PART_TITLES, ZONES, Machine
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.picture import Picture
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.fields import ChoiceBox, FieldBox
from kaustos.ui.forms import ChosenBox
from kaustos.ui.look.text import Label

LIMITED = ("", "max_c", "basis", "price")  # what is typed of a part on the bench
PRICED = ("liner", "magnet", "backing", "plastics", "electronics")
_PARTS = {zone: tuple(name for name, _ in parts_of(getattr(Machine(id=""), zone))) for zone in ZONES}
WORDS = 118.0


class MachineBench(Bench):
    """The limits of one zone to edit, the picture of all zones, the figures."""

    def __init__(self, desk: Desk) -> None:
        self.form = LimitForm(desk)
        super().__init__(desk, "machine", self.form, Picture(desk, "machine"))
        names = views_of("machine")
        self.switches, row = switches(names, lambda place: self.picture.look_at(names[place]))
        row.addWidget(Label("Nozzle"))
        self.nozzle = ChosenBox(desk, "nozzle", "the fitted one")
        row.addWidget(self.nozzle)
        self.column.insertLayout(self.column.indexOf(self.picture), row)
        self.picture.setMinimumHeight(110)
        self.figures.setFixedHeight(self.figures.height() - 23)

    def refresh(self) -> None:
        """Begin with the zone in the worst trouble."""
        self.form.follow_recipe()

    def show_field(self, path: str) -> bool:
        """Lead to a part's limit."""
        if path in ("context.nozzle", "nozzle"):
            self.switches[views_of("machine").index("Nozzle")].click()
            self.nozzle.setFocus()
            return True
        head, zone, part, what = (*path.split("."), "", "", "")[:4]
        if head != "machine" or zone not in ZONES or what not in LIMITED:
            return False
        self.form.choose(zone)
        row = _PARTS[zone].index(part)
        if what == "basis":
            self.form.bases[row].setFocus()
        else:
            (self.form.prices[row] if what == "price" else self.form.limits[row]).edit.setFocus()
        return True


class LimitForm(QWidget):
    """What limits one zone: each part with its limit, the basis of it, and what replacing it costs."""

    def __init__(self, desk: Desk, base: str = "machine.") -> None:
        super().__init__()
        self._desk, self._base = desk, base
        self.zone = "chamber"
        self.titles: list[Label] = []
        self.limits: list[FieldBox] = []
        self.bases: list[ChoiceBox] = []
        self.prices: dict[int, FieldBox] = {}
        self._grid = grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(3)
        for column, words in enumerate(("Part", "Limit (or none)", "Known from", "Price")):
            label = Label(words)
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
        self.titles.append(Label())
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
