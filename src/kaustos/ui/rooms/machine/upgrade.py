"""What to change so that a machine runs what is wanted: the cheapest plan, the catalogue, the work order."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QFileDialog,
    QHBoxLayout,
    QHeaderView,
    QListWidget,
    QListWidgetItem,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from kaustos.app.recipes import retire
from kaustos.app.upgrades import (
    PLAN_HEADINGS,
    add_order,
    changes_in,
    close_order,
    lifts_words,
    new_upgrade,
    open_order,
    order_text,
    outlook,
    sign_order,
    tick,
)
from kaustos.core.planning.work_order import before_power, ticks_of
from kaustos.core.records import RISKS, Machine
from kaustos.core.records.machine_logs import CHANGED
from kaustos.disk import write_whole
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.machine.page import MachinePage, cleared
from kaustos.ui.rooms.parts import choice_of, entry, heading, push, row_of


class UpgradePage(MachinePage):
    """Wanted polymers, the plan and its bill, the catalogue below; the open work order on the right."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.wanted = QListWidget()
        self.wanted.setAccessibleName("Polymers that are wanted")
        self.wanted.setFixedWidth(176)
        self.wanted.itemChanged.connect(lambda _: self._show_plan())
        self.plan = _table(PLAN_HEADINGS, "Plan")
        self.words = Label(wordWrap=True)
        self.open = push("Open work order", self._on_open)
        self.catalogue = _table(("Change", "Price", "Hours", "Risk", "Lifts"), "Catalogue of changes")
        self.name, self.lifts = entry("change", "Name of the change", 150), entry(
            "nozzle heater 450; nozzle liner none", "Limits that it lifts", 230
        )  # fmt: skip
        self.price, self.hours = entry("price", "Price of the change", 64), entry("hours", "Hours of the change", 64)
        self.risk = choice_of(RISKS, "risk", "Risk of the change")
        self.part = choice_of(CHANGED, "changes which part", "Part that it changes")
        self.skilled = QCheckBox("qualified person")
        for line in (self.name, self.lifts, self.price, self.hours):
            line.returnPressed.connect(self._on_new)
        self.order = _Order(desk, self)
        self._known: object = None
        self._lay_out()

    def _lay_out(self) -> None:
        left, middle = QVBoxLayout(), QVBoxLayout()
        left.addWidget(heading("To run"))
        left.addWidget(self.wanted, 1)
        middle.addWidget(heading("Cheapest set of changes"))
        middle.addWidget(self.plan, 3)
        said = QScrollArea(widgetResizable=True)
        said.setWidget(self.words)
        said.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        row = QHBoxLayout()
        row.addWidget(said, 1)
        row.addWidget(self.open, 0, Qt.AlignmentFlag.AlignTop)
        middle.addLayout(row, 3)
        middle.addWidget(heading("Catalogue"))
        middle.addWidget(self.catalogue, 4)
        middle.addLayout(row_of(self.name, self.lifts, self.price, self.hours))
        middle.addLayout(row_of(self.part, self.risk, self.skilled, push("Add change", self._on_new),
                                push("Take out", self._on_retire)))  # fmt: skip
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(12)
        row.addLayout(left)
        row.addLayout(middle, 1)
        row.addWidget(self.order)

    def show_machine(self, machine: Machine) -> None:
        """Show what it takes."""
        records, wording = self.desk.workspace.draft.records, self.desk.wording
        if records.own_polymers is not self._known:
            self._known = records.own_polymers
            self._fill()
        self._shown = [each for each in records.upgrades.values() if not each.retired]
        self.catalogue.show_rows(
            [
                (each.name, "" if each.price is None else wording.value(each.price, "money"),
                 wording.field_value("upgrade.hours", each.hours), RISKS.get(each.risk or "", ""),
                 lifts_words(each, wording))
                for each in self._shown
            ]
        )  # fmt: skip
        self._show_plan()
        self.order.follow(machine)

    def _fill(self) -> None:
        self.wanted.blockSignals(True)
        ticked = self.ticked()
        if not ticked and self.desk.has_recipe:
            polymer = self.desk.workspace.draft.records.card.recipe.polymer
            ticked = [polymer] if polymer else []
        self.wanted.clear()
        polymers = self.desk.workspace.draft.records.polymers
        for name, key in sorted((each.name, key) for key, each in polymers.items()):
            item = QListWidgetItem(name)
            item.setData(Qt.ItemDataRole.UserRole, key)
            item.setCheckState(Qt.CheckState.Checked if key in ticked else Qt.CheckState.Unchecked)
            self.wanted.addItem(item)
        self.wanted.blockSignals(False)

    def ticked(self) -> list[str]:
        """The polymers that are ticked."""
        items = (self.wanted.item(at) for at in range(self.wanted.count()))
        return [each.data(Qt.ItemDataRole.UserRole) for each in items if each.checkState() == Qt.CheckState.Checked]

    def _show_plan(self) -> None:
        if self.key is None:
            return
        found = outlook(self.desk.workspace, self.key, self.ticked(), self.desk.wording)
        self.plan.show_rows(list(found.rows))
        self.words.setText("\n".join(found.words))
        self._changes = [each.change.id for each in found.plan.steps]
        self.open.setEnabled(bool(self._changes) and open_order(self.machine) is None)

    def _on_open(self) -> None:
        self.desk.run(lambda: add_order(self.desk.workspace, self.key or "", self._changes))

    def _on_new(self) -> None:
        def make() -> None:
            new_upgrade(
                self.desk.workspace, self.name.text(), self.part.currentData() or None, self.lifts.text(),
                self.number(self.price, "money"), self.number(self.hours, "duration"),
                self.risk.currentData() or None, skilled=self.skilled.isChecked(),
            )  # fmt: skip
            cleared(self.name, self.lifts, self.price, self.hours)

        self.desk.run(make)

    def _on_retire(self) -> None:
        row = self.catalogue.currentRow()
        if row < 0:
            self.desk.messages.note("Choose the change in the catalogue first.")
            return
        self.desk.run(lambda: retire(self.desk.workspace, "upgrades", self._shown[row].id))


class _Order(QWidget):
    """The open work order as a list of ticks, with the signature in its place."""

    def __init__(self, desk: Desk, page: MachinePage) -> None:
        super().__init__()
        self._desk, self._page = desk, page
        self.setFixedWidth(330)
        self.title, self.signed = Label(), Label(wordWrap=True)
        self.title.setProperty("role", "heading")
        self.boxes: dict[str, QCheckBox] = {}
        self._list = QWidget()
        self._column = QVBoxLayout(self._list)
        self._column.setContentsMargins(0, 0, 6, 0)
        area = QScrollArea(widgetResizable=True)
        area.setWidget(self._list)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.who = entry("who answers for it", "Signed before power by", 150)
        self.sign, self.close_it = push("Sign before power", self._on_sign), push("Close order", self._on_close)
        self.write = push("Write", self._on_write)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.title)
        column.addWidget(area, 1)
        column.addWidget(self.signed)
        column.addLayout(row_of(self.who, self.sign))
        column.addLayout(row_of(self.close_it, self.write))

    def follow(self, machine: Machine) -> None:
        """Show the open order of a machine."""
        order = open_order(machine)
        self.title.setText("Work order" if order else "No work order is open")
        for widget in (self.who, self.sign, self.close_it, self.write, self.signed):
            widget.setVisible(order is not None)
        changes = changes_in(self._desk.workspace, order) if order else []
        steps = ticks_of(changes) if order else ()
        if tuple(self.boxes) != tuple(each.key for each in steps):
            self._rebuild([(each.key, each.text) for each in steps])
        first = before_power(changes)
        for key, box in self.boxes.items():
            box.blockSignals(True)
            box.setChecked(order is not None and key in order.ticks)
            box.blockSignals(False)
            box.setEnabled(key in first or bool(order and order.signed_by))
        if order:
            self.signed.setText(f"Signed before power by {order.signed_by}." if order.signed_by else
                                "Not signed: no power before that.")  # fmt: skip
            self.close_it.setEnabled(bool(order.signed_by))

    def _rebuild(self, steps: list[tuple[str, str]]) -> None:
        while self._column.count():
            item = self._column.takeAt(0)
            widget = item.widget() if item else None
            if widget is not None:
                widget.deleteLater()
        self.boxes = {}
        for key, text in steps:
            box = QCheckBox()
            box.setAccessibleName(text)
            box.toggled.connect(lambda done, key=key: self._on_tick(key, done))
            label = Label(text, wordWrap=True)
            row, holder = QHBoxLayout(), QWidget()
            row.setContentsMargins(0, 0, 0, 0)
            row.addWidget(box, 0, Qt.AlignmentFlag.AlignTop)
            row.addWidget(label, 1)
            holder.setLayout(row)
            self.boxes[key] = box
            self._column.addWidget(holder)
        self._column.addStretch()

    def _on_tick(self, key: str, done: bool) -> None:
        self._desk.run(lambda: tick(self._desk.workspace, self._page.key or "", key, done=done))

    def _on_sign(self) -> None:
        self._desk.run(lambda: sign_order(self._desk.workspace, self._page.key or "", self.who.text()))

    def _on_close(self) -> None:
        self._desk.run(lambda: self._page.tell(close_order(self._desk.workspace, self._page.key or "")))

    def _on_write(self) -> None:
        from pathlib import Path

        file, _ = QFileDialog.getSaveFileName(self, "Write work order", "work-order.txt", "Text (*.txt)")
        if file:
            self._desk.run(lambda: write_whole(Path(file), order_text(self._desk.workspace, self._page.key or "")))


def _table(headings: tuple[str, ...], name: str) -> PlainTable:
    table = PlainTable(headings)
    table.setAccessibleName(name)
    header = table.horizontalHeader()
    header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    header.setSectionResizeMode(len(headings) - 1, QHeaderView.ResizeMode.Stretch)
    return table
