"""Bench 10: what the part is for, and whether the polymer stands it."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QHeaderView,
    QStackedWidget,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from kaustos.app.candidates import candidate_tip, candidate_words
from kaustos.core.records import POLYMER_VALUES
from kaustos.core.records.quantities import BY_UNIT
from kaustos.core.review.brief import RANKING, Candidate
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.picture import Picture
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.following import Following
from kaustos.ui.forms import Form
from kaustos.ui.look import palette
from kaustos.ui.look.text import as_text

GROUPS = {
    "Service": ("brief.purpose", "polymer", "brief.service_c", "brief.service_h", "brief.stress_mpa",
                "brief.margin_k", "brief.history", "brief.moisture"),
    "Around": ("brief.load_across", "brief.outdoor", "brief.chemical", "brief.character", "brief.clear",
                     "brief.look", "brief.margin_signed"),
    "Afterwards": ("brief.glued", "brief.painted", "brief.sanded", "brief.inserts", "brief.slides"),
    "Run": ("brief.size_x_mm", "brief.size_y_mm", "brief.size_z_mm", "brief.mass_g", "brief.print_h",
                     "brief.runs"),
    "Faces": ("part.underside", "part.sides", "part.flat_mm", "part.stock_mm", "part.hole_error_mm",
              "part.twin"),
    "Decision": ("brief.why", "brief.rejected"),
}  # fmt: skip
PAGES = ("Figures", "Polymers for this purpose", "Values of this polymer")


class BriefBench(Bench):
    """Inputs of the brief, the picture of margins; below it figures, the ranking, or the polymer's values."""

    def __init__(self, desk: Desk) -> None:
        self.groups = QStackedWidget()
        super().__init__(desk, "brief", self._form(desk), Picture(desk, "brief"))
        self.ranking = RankingTable(desk)
        self.values = ValueTable(desk)
        self.switches = self.turn_pages(dict(zip(PAGES, (self.figures, self.ranking, self.values), strict=True)))

    def _form(self, desk: Desk) -> QWidget:
        form = QWidget()
        column = QVBoxLayout(form)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(5)
        self.group_switches, row = switches(tuple(GROUPS), self.groups.setCurrentIndex)
        column.addLayout(row)
        column.addWidget(self.groups)
        self.forms = [Form(desk, fields, whole_row=GROUPS["Decision"]) for fields in GROUPS.values()]
        for group in self.forms:
            self.groups.addWidget(group)
        return form

    def show_field(self, path: str) -> bool:
        """Lead to an input, or to the polymer's values."""
        if path.startswith("polymer."):
            self.switches[2].click()
            self.values.go_to(path.removeprefix("polymer."))
            return True
        for switch, form in zip(self.group_switches, self.forms, strict=True):
            if path in form.boxes:
                switch.click()
                return form.show_field(path)
        return False


class RankingTable(Following, PlainTable):
    """All polymers in the order in which they suit the brief; Enter or a double click takes one."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(("Polymer", "Margin", "A litre", "Runs on", "Because"))
        self._desk = desk
        self._candidates: tuple[Candidate, ...] = ()
        self.setAccessibleName("Polymers for this purpose")
        header = self.horizontalHeader()
        for column, width in ((0, 96), (1, 54), (2, 58), (3, 82)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(4, QHeaderView.ResizeMode.Stretch)
        self.doubleClicked.connect(lambda index: self.take(index.row()))
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the ranking, once it is there."""
        if not self._desk.has_recipe:
            return
        found = self._desk.context.results.get(RANKING)
        if found is None:
            self.show_rows([("computing", "", "", "", "")])
        elif found is not self._candidates:
            self._candidates = found
            wording = self._desk.wording
            rows = [candidate_words(each, wording) for each in found]
            self.show_rows(rows, [candidate_tip(each, wording) for each in found])

    def take(self, row: int) -> None:
        """Take the polymer of a row for the recipe."""
        if row < len(self._candidates):
            candidate = self._candidates[row]
            self._desk.tell(self._desk.set({"polymer": candidate.polymer}, title=f"Polymer: {candidate.name}"))

    @guarded()
    def keyPressEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.currentRow() >= 0:
            self.take(self.currentRow())
            return
        super().keyPressEvent(event)


class ValueTable(Following, PlainTable):
    """Values of the polymer that the judgement reads; own values for lot or grade are typed beside them."""

    OWN = (("lot.lot_values.", 3), ("lot.grade_values.", 4))

    def __init__(self, desk: Desk) -> None:
        super().__init__(("Value of the polymer", "In force", "Known from", "Own, lot", "Own, grade"))
        self._desk = desk
        self._showing = False
        self.setAccessibleName("Values of the polymer")
        self.setEditTriggers(QTableWidget.EditTrigger.AllEditTriggers)
        self.setSelectionBehavior(QTableWidget.SelectionBehavior.SelectItems)
        header = self.horizontalHeader()
        for column, width in ((0, 138), (1, 128), (3, 58), (4, 76)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
        self.itemChanged.connect(self._on_changed)
        self.follow_desk(desk)

    def go_to(self, key: str) -> None:
        """Set the focus where an own value for the lot is typed; of several that are meant, at the first not known."""
        meant = [place for place, each in enumerate(POLYMER_VALUES) if each == key or each.startswith(f"{key}_0")]
        meant += [place for place, each in enumerate(POLYMER_VALUES) if each.startswith(f"{key}_1")]
        self.refresh()  # it may not have been looked at before
        self.setCurrentCell(meant[0] if meant else 0, self.OWN[0][1])
        self.scrollToItem(self.currentItem(), QTableWidget.ScrollHint.PositionAtCenter)
        self.setFocus()

    def refresh(self) -> None:
        """Follow the polymer and the lot."""
        if not self._desk.has_recipe:
            return
        self._showing = True
        self.show_rows([self._row(key) for key in POLYMER_VALUES])
        has_lot = self._desk.context.lot is not None
        for row, key in enumerate(POLYMER_VALUES):
            for column in range(self.columnCount()):
                item = self.item(row, column)
                if item is not None:
                    self._prepare(item, key, typed=column >= 3 and has_lot)
        self._showing = False

    def _row(self, key: str) -> tuple[str, ...]:
        wording, context = self._desk.wording, self._desk.context
        datum = context.polymer.value(key) if context.polymer else None
        value = "not recorded"
        if datum:
            quantity = BY_UNIT[datum.unit]
            low, high = wording.number(datum.low, quantity), wording.number(datum.high, quantity)
            value = f"{wording.value(datum.value, quantity)} ({low} to {high})"
        source = f"{datum.kind}: {datum.source}{'; in doubt: ' + datum.doubt if datum.doubt else ''}" if datum else ""
        own = [self._desk.workspace.draft.text(prefix + key) if context.lot else "no lot" for prefix, _ in self.OWN]
        return (POLYMER_VALUES[key].title, value, source, *own)

    def _prepare(self, item: QTableWidgetItem, key: str, *, typed: bool) -> None:
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        item.setFlags(flags | Qt.ItemFlag.ItemIsEditable if typed else flags)
        if typed:
            item.setToolTip("Type an own value, such as 141 or 141 ± 2; empty goes back to the library")

    def _on_changed(self, item: QTableWidgetItem) -> None:
        prefix = next((each for each, column in self.OWN if column == item.column()), None)
        if self._showing or prefix is None:
            return
        fault = self._desk.propose(prefix + list(POLYMER_VALUES)[item.row()], item.text())
        if fault:
            self._desk.tell(fault)
            self._showing = True
            item.setToolTip(as_text(fault))
            item.setForeground(QColor(palette().stop))
            self._showing = False
        else:
            item.setData(Qt.ItemDataRole.ForegroundRole, None)
