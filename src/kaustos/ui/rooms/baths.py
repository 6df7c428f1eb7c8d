"""The baths of the shop: each with its card, and every wash from dry part to dry part."""

from collections.abc import Callable

from PySide6.QtWidgets import QFrame, QHeaderView, QVBoxLayout

from kaustos.app.baths import (
    WASH_HEADINGS,
    bath_names,
    card_words,
    end_wash,
    look,
    new_bath,
    planned_g,
    put_in,
    take_out,
    wash_rows,
    weigh,
)
from kaustos.app.wording import when_words
from kaustos.core.planning.bath import contents_of
from kaustos.core.records import STILL_ON, WASHED, Bath
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.kept import KeptPage
from kaustos.ui.rooms.parts import choice_of, entry, heading, push, row_of, small_table
from kaustos.ui.tables import Row

FIELDS = ("name", "material", "volume_ml", "dose_g", "warm_c", "taken_g")


class Baths(KeptPage):
    """The list of baths, the chosen one, and the name of a new one."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk, "bath", "baths", ("Bath", "Takes out", "Mixed", "Dissolved", "In it now"))
        self.kind = choice_of(bath_names(), "takes out", "What the new bath takes out")
        self.volume = entry("volume, such as 4000 ml", "Volume of the new bath", 150)
        self.lay_out(BathForm(desk), 560, self.kind, self.volume)

    def refresh(self, *, retired: bool) -> None:
        """Follow the desk, retired ones shown or not."""
        baths = self._desk.workspace.draft.records.tables["baths"]
        self.show_kept(baths, self._row, lambda _: self._desk.wording, retired=retired)

    def _row(self, bath: Bath) -> Row:
        inside, lies = contents_of(bath), sum(each.is_in and each.ended is None for each in bath.washes)
        cells = (
            bath.name, bath_names().get(bath.material or "", "not known"), when_words(bath.mixed_utc)[:10],
            self._desk.wording.value(round(inside.grams, 1), "mass") + (" and more" if inside.untold else ""),
            (f"{lies} in it" if lies else "") + (", retired" if bath.retired else ""),
        )  # fmt: skip
        return Row(bath.id, cells, (None, None, None, inside.grams, None))

    def make_new(self) -> str:
        """Log a bath."""
        text = self.volume.text().strip()
        volume = self._desk.wording.read(text, "volume") if text else None
        made = new_bath(self._desk.workspace, self.name.text(), self.kind.currentData() or None, volume)
        self.volume.clear()
        return made


class BathForm(QFrame):
    """One bath: what it takes out, its card, and its washes."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.bath: str | None = None
        self.form = Form(desk, FIELDS, "baths")
        self.card = Label(wordWrap=True)
        self.washes = small_table(WASH_HEADINGS, "Washes")
        self.washes.setFixedHeight(28 + 5 * 23 + 4)
        header = self.washes.horizontalHeader()
        for at, width in ((1, 128), (2, 62), (3, 60)):
            header.setSectionResizeMode(at, QHeaderView.ResizeMode.Interactive)
            header.resizeSection(at, width)
        self.part = entry("run or words: head 3 of 4", "What goes in", 190)
        self.supports = entry("supports, 8 g", "Supports on it", 100)
        self.before = entry("dry, 60.12 g", "Mass before, dry", 100)
        self.seen = choice_of(STILL_ON, "still on", "What is still on")
        self.warm = entry("bath at, 42 °C", "How warm the bath is", 118)
        self.added = entry("topped up, 200 ml", "What was topped up", 142)
        self.mass = entry("dry, 52.08 g", "Mass after, dry", 100)
        self.balance = entry("balance ±, 0.01 g", "Repeatability of the balance", 130)
        self.ended = choice_of(WASHED, "ended", "How it ended")
        self.who = entry("looked over by", "Who looked it over", 110)
        self.said = Label(wordWrap=True)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 6, 0)
        column.setSpacing(6)
        column.addWidget(self.form)
        column.addWidget(heading("Batch card"))
        column.addWidget(self.card)
        column.addWidget(heading("Washes, the newest first"))
        column.addWidget(self.washes)
        column.addLayout(row_of("In", self.part, self.supports, self.before, push("Put in", self._on_in)))
        column.addLayout(row_of("Look", self.seen, self.warm, self.added, push("Note", self._on_look)))
        column.addLayout(
            row_of("Out", push("Take out", self._on_out), self.mass, self.balance, push("Weighed", self._on_weighed))
        )
        column.addLayout(row_of("End", self.ended, self.who, push("End it", self._on_end)))
        column.addWidget(self.said)
        column.addStretch()

    def follow(self, key: str | None) -> None:
        """Show another bath."""
        self.setVisible(key is not None)
        if key != self.bath:
            self.said.setText("")
        self.bath = key
        if key is None:
            return
        desk, bath = self._desk, self._record()
        self.form.follow(key)
        self.card.setText(card_words(bath, desk.workspace.clock(), desk.wording))
        rows = wash_rows(desk.workspace, bath)
        self.washes.show_rows(rows or [("None yet", "", "", "", "")])
        if rows and not 0 <= self.washes.currentRow() < len(rows):
            self.washes.selectRow(0)
        grams = planned_g(desk.workspace)
        hint = "supports, 8 g" if grams is None else f"recipe: {desk.wording.value(grams, 'mass')}"
        self.supports.setPlaceholderText(hint)

    def _record(self) -> Bath:
        found: Bath = self._desk.workspace.draft.records.tables["baths"][self.bath or ""]
        return found

    def _place(self) -> int:
        """Where the chosen wash stands in the log; the table shows the newest first."""
        return len(self._record().washes) - 1 - self.washes.currentRow()

    def _do(self, act: Callable[[], str]) -> None:
        """Do it, say what follows, and clear what was typed."""

        def done() -> None:
            self.said.setText("")
            words = act()
            for line in (self.part, self.supports, self.before, self.warm, self.added, self.mass, self.who):
                line.clear()
            for box in (self.seen, self.ended):
                box.setCurrentIndex(0)
            self.follow(self.bath)
            self.said.setText(words)

        if self.bath is not None:
            self._desk.run(done)

    def _read(self, text: str, quantity: str) -> float | None:
        return self._desk.wording.read(text, quantity) if text.strip() else None

    def _on_in(self) -> None:
        def act() -> str:
            part, workspace = self.part.text().strip(), self._desk.workspace
            run = part if part in workspace.draft.records.runs else None
            grams = self._read(self.supports.text(), "mass")
            grams = planned_g(workspace) if grams is None else grams
            words = put_in(workspace, self.bath or "", part, run, grams, self._read(self.before.text(), "mass"))
            self.washes.selectRow(0)
            return words

        self._do(act)

    def _on_look(self) -> None:
        self._do(
            lambda: look(
                self._desk.workspace, self.bath or "", self._place(), self.seen.currentData() or None,
                self._read(self.warm.text(), "temperature"), self._read(self.added.text(), "volume"),
            )
        )  # fmt: skip

    def _on_out(self) -> None:
        self._do(lambda: take_out(self._desk.workspace, self.bath or "", self._place()))

    def _on_weighed(self) -> None:
        self._do(
            lambda: weigh(
                self._desk.workspace, self.bath or "", self._place(), self._read(self.mass.text(), "mass"),
                self._read(self.balance.text(), "mass"),
            )
        )  # fmt: skip

    def _on_end(self) -> None:
        self._do(
            lambda: end_wash(
                self._desk.workspace, self.bath or "", self._place(), self.ended.currentData() or None, self.who.text()
            )
        )
