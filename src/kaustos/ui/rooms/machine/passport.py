"""The passport of a machine: heaters, sensors, feed path, where it stands, and what plastic is near heat."""

from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout

from kaustos.app.machines import add_near
from kaustos.core.records import ZONES, Machine, NearPart, Place
from kaustos.core.records.machine import NEAR
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form
from kaustos.ui.leading import answering
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.logs import LogTable
from kaustos.ui.rooms.machine.page import MachinePage, cleared
from kaustos.ui.rooms.parts import choice_of, entry, heading, push, row_of

HEATER = ("power_w", "volts", "rated_c", "claimed_c")
HOUSE = ("site", "extraction", "geared", "tube_mm", "two_feeds", "break_kind", "probe", "panel", "noise",
         "accel_mm_s2", "corner_mm_s", "timer_h", "melt_zone_mm", "push_n")  # fmt: skip


class PassportPage(MachinePage):
    """Heaters and sensors zone by zone, the rest of the machine, parts near heat."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.zones = {
            zone: Form(desk, (*(f"{zone}.heater.{each}" for each in HEATER), f"{zone}.sensor.kind",
                              f"{zone}.sensor.table"), "machines")
            for zone in ZONES
        }  # fmt: skip
        self.house = Form(desk, HOUSE, "machines")
        self.near = LogTable(desk, "Plastic near heat", ("Part", "Where", "Softens", "Clearance", "Printed"),
                             self._cells)  # fmt: skip
        self.part, self.softens = entry("part, such as duct", "Part near heat", 130), entry("softens", "Softens at", 70)
        self.place = choice_of(NEAR, "near what", "Near which heat")
        self.clearance = entry("clearance", "Clearance to the hot metal", 80)
        self.printed = QCheckBox("printed here")
        for line in (self.part, self.softens, self.clearance):
            line.returnPressed.connect(self._on_near)
        answering(self.softens, "near")
        self.near.table.itemSelectionChanged.connect(self._show_near)
        desk.led.connect(self._on_led)
        left, right = QVBoxLayout(), QVBoxLayout()
        left.setSpacing(1)
        right.setSpacing(1)
        for zone, form in self.zones.items():
            left.addWidget(heading(f"{zone.capitalize()}: heater and sensor"))
            left.addWidget(form)
        note = Label("Heaters, supplies, mains and wiring are work for a qualified person or a licensed trade.",
                     wordWrap=True)  # fmt: skip
        note.setProperty("role", "muted")
        left.addStretch()
        left.addWidget(note)
        for widget in (heading("Feed path and place"), self.house, self.near):
            right.addWidget(widget)
        right.addLayout(row_of("", self.part, self.place, self.softens, self.clearance))
        right.addLayout(row_of("", self.printed, push("Keep part", self._on_near)))
        right.addStretch()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(16)
        row.addLayout(left, 1)
        row.addLayout(right, 1)

    def show_machine(self, machine: Machine) -> None:
        """Show its passport."""
        for form in (*self.zones.values(), self.house):
            form.follow(machine.id)
        self.near.follow(Place("machines", machine.id, "near"), machine.near)

    def _cells(self, part: NearPart) -> tuple[str, ...]:
        wording = self.desk.wording
        softens = "not recorded" if part.softens_c is None else wording.value(part.softens_c, "temperature")
        clear = "not recorded" if part.clearance_mm is None else wording.value(part.clearance_mm, "length")
        name = part.name + (f" ({part.incident})" if part.incident else "")
        return name, NEAR.get(part.place or "", ""), softens, clear, "yes" if part.printed else ""

    def _on_led(self, path: str) -> None:
        """Show the part that a question names in the entries."""
        if path.startswith("machine.near[") and self.key:
            self.near.table.selectRow(len(self.machine.near) - 1 - int(path.rstrip("]").partition("[")[2]))

    def _show_near(self) -> None:
        """The chosen part in the entries, to say more of it."""
        row = self.near.table.currentRow()
        if not (self.key and self.near.table.selectedItems() and 0 <= row < len(self.machine.near)):
            return
        part, wording = self.machine.near[-1 - row], self.desk.wording
        self.part.setText(part.name)
        self.place.setCurrentIndex(max(self.place.findData(part.place), 0))
        for line, value, quantity in (
            (self.softens, part.softens_c, "temperature"), (self.clearance, part.clearance_mm, "length"),
        ):  # fmt: skip
            line.setText("" if value is None else wording.number(value, quantity))
        self.printed.setChecked(bool(part.printed))

    def _on_near(self) -> None:
        def add() -> None:
            add_near(self.desk.workspace, self.key or "", self.part.text(), self.place.currentData() or None,
                     self.number(self.softens, "temperature"), self.number(self.clearance, "length"),
                     self.printed.isChecked())  # fmt: skip
            cleared(self.part, self.softens, self.clearance)

        self.desk.run(add)
