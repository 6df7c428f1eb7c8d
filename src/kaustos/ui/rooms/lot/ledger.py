"""How much of a lot is free: what runs took, what is put aside, what the rest is enough for."""

from PySide6.QtWidgets import QVBoxLayout, QWidget

from kaustos.app.lot_state import jobs_that_fit, state_of
from kaustos.app.stock import give_back, put_aside
from kaustos.app.wording import when_words
from kaustos.core.records import Lot
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.parts import entry, heading, push, row_of, small_table

MOST_JOBS = 3


class LotLedger(QWidget):
    """The account of one lot, and entries for what is put aside."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.lot: str | None = None
        self.words = Label(wordWrap=True)
        self.reserves = small_table(("When", "Put aside", "For"), "Filament put aside")
        self.grams, self.purpose = (
            entry("such as 40 g", "Filament to put aside", 100),
            entry("for", "Put aside for", 150),
        )
        for line in (self.grams, self.purpose):
            line.returnPressed.connect(self._on_put_aside)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(heading("Filament"))
        column.addWidget(self.words)
        column.addWidget(self.reserves)
        back = push("Take out", self._on_give_back)
        column.addLayout(row_of("Aside", self.grams, self.purpose, push("Put aside", self._on_put_aside), back))

    def follow(self, key: str, lot: Lot) -> None:
        """Show another lot's account."""
        self.lot = key
        wording, ledger = self._desk.wording, state_of(self._desk.workspace, lot).ledger
        self.reserves.setVisible(bool(lot.reserves))
        self.reserves.show_rows(
            [(when_words(each.at_utc), wording.field_value("lot.net_g", each.grams), each.purpose)
             for each in lot.reserves]
        )  # fmt: skip
        if ledger is None:
            self.words.setText("How much is left is not known: weigh it, and record the empty spool.")
            return
        words = f"{wording.value(ledger.free_g, 'mass')} free: {wording.value(ledger.weighed_g, 'mass')} weighed"
        words += f", {wording.value(ledger.taken_g, 'mass')} taken by runs since" if ledger.taken_g else ""
        words += f", {wording.value(ledger.put_aside_g, 'mass')} put aside" if ledger.put_aside_g else ""
        jobs = jobs_that_fit(self._desk.workspace, lot)[:MOST_JOBS]
        enough = ", ".join(f"{int(runs)} × {name}" for name, runs in jobs)
        self.words.setText(f"{words}. Enough for {enough}." if enough else f"{words}.")

    def _on_put_aside(self) -> None:
        def put() -> None:
            grams = self._desk.wording.read(self.grams.text(), "mass")
            put_aside(self._desk.workspace, self.lot or "", grams, self.purpose.text())
            self.grams.clear()
            self.purpose.clear()

        if self.lot is not None:
            self._desk.run(put)

    def _on_give_back(self) -> None:
        place = self.reserves.currentRow()
        if self.lot is not None and place >= 0:
            self._desk.run(lambda: give_back(self._desk.workspace, self.lot or "", place))
