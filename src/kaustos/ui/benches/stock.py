"""Bench 20: how wet the spool is, what dries it, and for how long it stays dry."""

from datetime import UTC, datetime

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QWidget

from kaustos.app.clock import read_moment, ready_words, start_words
from kaustos.app.wording import drying_words, when_words
from kaustos.app.workspace import stamp
from kaustos.core.errors import KaustosError
from kaustos.core.records.recipe import Stock
from kaustos.core.review import Estimate
from kaustos.core.review.stock.drawing import DryerOption, StockPicture
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.picture import Picture
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label, Line

FIELDS = ("context.dryer", "lot.feed", "stock.dryer_c", "lot.box_humidity_pct", "stock.dryer_h", "lot.flange",
          "stock.wait_h", "stock.wait_in")  # fmt: skip


class StockBench(Bench):
    """Dryer and feed, moisture over time, and below it the figures or what each dryer would take."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, "stock", self._form(desk), Picture(desk, "stock"))
        self.options = OptionTable(desk, self.picture)
        self.switches = self.turn_pages({"Our dryers": self.options, "Figures": self.figures})

    def _form(self, desk: Desk) -> QWidget:
        self.form = Form(desk, FIELDS)
        grid = self.form.grid
        self.wanted = Line()
        self.wanted.setPlaceholderText("07:30")
        self.wanted.setAccessibleName("Dry spool wanted at")
        self.wanted.setFixedWidth(128)
        self.wanted.editingFinished.connect(self._on_wanted)
        self.answer = Label(wordWrap=True)
        self.answer.setProperty("role", "muted")
        line = QHBoxLayout()
        line.setSpacing(8)
        line.addWidget(self.wanted)
        line.addWidget(self.answer, 1)
        grid.addWidget(Label("Wanted at"), grid.rowCount(), 0)
        grid.addLayout(line, grid.rowCount() - 1, 1, 1, 4)
        return self.form

    def refresh(self) -> None:
        """Say when to start."""
        if not self.desk.has_recipe:
            return
        stock = self.desk.workspace.draft.records.card.recipe.stock
        if not self.wanted.hasFocus():
            self.wanted.setText(when_words(stock.wanted_utc))
        self._say(stock)

    def _on_wanted(self) -> None:
        """Keep when the dry spool is wanted; empty for nothing."""
        if not self.desk.has_recipe or not self.wanted.isModified():
            return
        text, now = self.wanted.text().strip(), self.desk.workspace.clock()
        try:
            wanted = stamp(read_moment(text, now)) if text else ""
        except KaustosError as error:
            self.answer.setText(str(error))
            return
        self.wanted.setModified(False)
        self.desk.tell(self.desk.set({"stock.wanted_utc": wanted}))

    def _say(self, stock: Stock) -> None:
        """Ready-at for a start now, or start-by for the wanted time."""
        now, left, start = self.desk.workspace.clock(), self._figure("ready"), self._figure("start")
        if left is None:
            self.answer.setText("no drying time is set")
        elif start is not None:
            self.answer.setText(start_words(datetime.fromtimestamp(start, UTC), 0.0, now))
        else:
            printed = f", printed from {ready_words(left + stock.wait_h, now)}" if stock.wait_h else ""
            self.answer.setText(f"started now, it is ready {ready_words(left, now)}{printed}")

    def _figure(self, name: str) -> float | None:
        """A figure of the drying: hours until it is dry if it goes in now, or the moment by which it goes in."""
        figures = {each.key: each.value for each in self.desk.review.operations[1].figures}
        found = figures.get(f"stock.drying.{name}")
        return found.value if isinstance(found, Estimate) else None

    def show_field(self, path: str) -> bool:
        """Lead to an input."""
        return self.form.show_field(path)


class OptionTable(PlainTable):
    """Each dryer of the shop with its hours and when the spool would be ready; Enter takes one."""

    def __init__(self, desk: Desk, picture: Picture) -> None:
        super().__init__(("Dryer", "At", "Likely", "Surely", "Floor, %", "Ready, surely"))
        self._desk, self._picture = desk, picture
        self._shown: tuple[DryerOption, ...] = ()
        self.setAccessibleName("What each dryer would take")
        header = self.horizontalHeader()
        for column, width in ((0, 96), (1, 56), (2, 64), (3, 64), (4, 56)):
            header.resizeSection(column, width)
        header.setSectionResizeMode(5, QHeaderView.ResizeMode.Stretch)
        self.doubleClicked.connect(lambda index: self.take(index.row()))
        picture.shown.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Follow the picture."""
        record = self._picture.record
        self._shown = record.options if isinstance(record, StockPicture) else ()
        wording, now = self._desk.wording, self._desk.workspace.clock()
        rows = [
            (
                each.name, wording.value(each.celsius, "temperature"), drying_words(each.likely_h, never=each.never),
                drying_words(each.worst_h, never=each.never_surely), wording.number(each.floor, "moisture"),
                ready_words(each.worst_h, now, never=each.never_surely),
            )
            for each in self._shown
        ]  # fmt: skip
        self.show_rows(rows or [("No dryer is recorded", "", "", "", "", "Stock room, Ctrl+2")])

    def take(self, row: int) -> None:
        """Take the dryer of a row, with its heat and hours."""
        if row >= len(self._shown):
            return
        option = self._shown[row]
        if option.take_h is None:
            self._desk.messages.note(f"{option.name} does not dry it before hot air harms it.")
            return
        changes = {"context.dryer": option.dryer, "stock.dryer_c": option.celsius, "stock.dryer_h": option.take_h}
        self._desk.tell(self._desk.set(changes, title=f"Dry in {option.name}"))
        if option.take_h < option.worst_h:
            self._desk.messages.note(f"{option.name} likely dries it in that time, not for certain: go by the scale.")

    @guarded()
    def keyPressEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.currentRow() >= 0:
            self.take(self.currentRow())
            return
        super().keyPressEvent(event)
