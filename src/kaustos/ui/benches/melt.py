"""Bench 60: beads in the wall, flow against what the head gives; schools, change-over, multiplier, ladders, route."""

from PySide6.QtWidgets import QComboBox, QHeaderView, QVBoxLayout, QWidget

from kaustos.app.welds import CHANGE_HEADINGS, ROUTE_HEADINGS, change_rows, route_rows
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.measuring import LadderPage, MultiplierPage
from kaustos.ui.benches.picture import Picture
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.forms import Form

FIELDS = ("melt.nozzle_c", "melt.height_mm", "melt.speed_mm_s", "melt.width_mm", "melt.multiplier", "melt.walls",
          "melt.pause_min", "melt.infill_pct")  # fmt: skip


class MeltBench(Bench):
    """Nozzle, bead, layer and speed; the wall and the flow; what to compare and what was measured."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "melt", self.form, Picture(desk, "melt"))
        self.change = ChangePage(desk)
        self.multiplier = MultiplierPage(desk)
        self.ladder = LadderPage(desk)
        self.route = RouteTable(desk)
        self.switches = self.turn_pages({
            "Multiplier": self.multiplier, "Ladders": self.ladder, "Change over": self.change,
            "Route": self.route, "Figures": self.figures,
        })  # fmt: skip

    def show_field(self, path: str) -> bool:
        """Lead to an input."""
        return self.form.show_field(path)


class ChangePage(Following, QWidget):
    """From which polymer: the last on this machine, or another; what to do in which order."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._known: tuple[str, ...] = ()
        self.before = QComboBox()
        self.before.setAccessibleName("Polymer that is in the hot end")
        self.before.activated.connect(lambda _: self.refresh())
        self.table = PlainTable(CHANGE_HEADINGS)
        self.table.setAccessibleName("How to change over")
        self.table.horizontalHeader().resizeSection(0, 130)
        self.table.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(self.before)
        column.addWidget(self.table, 1)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow recipe and machine."""
        if not self._desk.has_recipe:
            return
        polymers = self._desk.workspace.draft.records.polymers
        if tuple(polymers) != self._known:
            self._known = tuple(polymers)
            self.before.clear()
            self.before.addItem("What ran last on this machine", "")
            for name, key in sorted((each.name, key) for key, each in polymers.items()):
                self.before.addItem(name, key)
        self.table.show_rows(change_rows(self._desk.workspace, self._desk.context, self.before.currentData() or None))


class RouteTable(Following, PlainTable):
    """Filament, pellets, or printed larger and machined: hours, money and why."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(ROUTE_HEADINGS)
        self._desk = desk
        self.setAccessibleName("Ways to the part")
        header = self.horizontalHeader()
        for column, width in ((0, 212), (1, 62), (2, 62)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(3, QHeaderView.ResizeMode.Stretch)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow part and recipe."""
        if self._desk.has_recipe:
            self.show_rows(route_rows(self._desk.workspace, self._desk.context))
