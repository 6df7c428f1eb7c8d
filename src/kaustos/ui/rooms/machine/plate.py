"""The plate of a machine as it was probed, and the offset between probe and nozzle kept outside of it."""

from PySide6.QtWidgets import QHBoxLayout, QPlainTextEdit, QVBoxLayout

from kaustos.app.level import add_grid, flat_words, keep_gap
from kaustos.app.pictures.level import draw_plate
from kaustos.app.wording import when_words
from kaustos.core.planning.flatness import flatness_of
from kaustos.core.records import GapOffset, Machine, Place, ProbeGrid
from kaustos.ui.desk import Desk
from kaustos.ui.drawn import Drawn
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.logs import LogTable
from kaustos.ui.rooms.machine.page import MachinePage, cleared
from kaustos.ui.rooms.parts import entry, push, row_of


class PlatePage(MachinePage):
    """Points to paste and the map on the left, logs on the right."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.map = Drawn(desk, draw_plate, "Map of the plate", 200)
        self.words = Label(wordWrap=True)
        self.points = QPlainTextEdit()
        self.points.setAcceptDrops(False)
        self.points.setAccessibleName("Probed points")
        self.points.setPlaceholderText("x; y; height of each point, a line each, such as\n20; 20; -0.05\n180; 20; 0.02")
        self.points.setTabChangesFocus(True)
        self.plate, self.soaked = entry("plate at", "Plate at", 80), entry("soaked, min", "Soaked for", 90)
        self.grids = LogTable(desk, "Grids", ("When", "Points", "Plate at", "By"), self._grid_cells, 3)
        self.offsets = LogTable(desk, "Offset of probe and nozzle", ("When", "Offset", "By"), self._offset_cells, 3)
        self.offset = entry("offset, such as -1.80 mm", "Offset of probe and nozzle", 170)
        self.offset.returnPressed.connect(self._on_offset)
        self.screws = Form(desk, ("screw_pitch_mm",), "machines", columns=1)
        left, right = QVBoxLayout(), QVBoxLayout()
        left.addWidget(self.map, 1)
        left.addWidget(self.words)
        right.addWidget(self.points, 1)
        right.addLayout(row_of(self.plate, self.soaked, push("Log points", self._on_points)))
        right.addWidget(self.grids)
        right.addWidget(self.offsets)
        right.addLayout(row_of(self.offset, push("Keep offset", self._on_offset)))
        right.addWidget(self.screws)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(16)
        row.addLayout(left, 3)
        row.addLayout(right, 2)

    def show_machine(self, machine: Machine) -> None:
        """Show its plate."""
        self.map.show_record(flatness_of(machine))
        self.words.setText(flat_words(machine, self.desk.wording))
        self.grids.follow(Place("machines", machine.id, "grids"), machine.grids)
        self.offsets.follow(Place("machines", machine.id, "offsets"), machine.offsets)
        self.screws.follow(machine.id)

    def _grid_cells(self, each: ProbeGrid) -> tuple[str, ...]:
        heat = "not recorded" if each.plate_c is None else self.desk.wording.value(each.plate_c, "temperature")
        return when_words(each.at_utc)[:10], str(len(each.points)), heat, each.by

    def _offset_cells(self, each: GapOffset) -> tuple[str, ...]:
        offset = "" if each.offset_mm is None else self.desk.wording.value(each.offset_mm, "height")
        return when_words(each.at_utc)[:10], offset, each.by

    def _on_points(self) -> None:
        def log() -> None:
            words = add_grid(self.desk.workspace, self.key or "", self.points.toPlainText(),
                             self.number(self.plate, "temperature"), self.number(self.soaked, "minutes"))  # fmt: skip
            self.points.clear()
            cleared(self.plate, self.soaked)
            self.tell(words)

        self.desk.run(log)

    def _on_offset(self) -> None:
        def keep() -> None:
            offset = self.desk.wording.read(self.offset.text(), "height")
            self.tell(keep_gap(self.desk.workspace, self.key or "", offset))
            cleared(self.offset)

        self.desk.run(keep)
