"""A strand purged from a lot and looked at: what it showed, and what that tells."""

from pathlib import Path

from PySide6.QtWidgets import QCheckBox, QGridLayout, QVBoxLayout, QWidget

from kaustos.app.lot_state import strand_shows, strand_words
from kaustos.app.stock import log_strand
from kaustos.core.records import STRAND_SIGNS, Lot
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label
from kaustos.ui.photos import ask_photo
from kaustos.ui.rooms.parts import heading, push, row_of


class LotStrand(QWidget):
    """Signs to tick, and the newest strand in words."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.lot: str | None = None
        self.words = Label(wordWrap=True)
        self.words.setProperty("role", "muted")
        self.signs = {key: QCheckBox(words) for key, words in STRAND_SIGNS.items()}
        grid = QGridLayout()
        grid.setVerticalSpacing(2)
        for place, box in enumerate(self.signs.values()):
            grid.addWidget(box, *divmod(place, 3))
        self.clean = Label("Nothing ticked is a clean strand.")
        self.log = push("Log strand", self.log_strand)
        self.log_with_photo = push("Log with photo", self._on_photo)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(heading("Purged strand"))
        column.addWidget(self.words)
        column.addLayout(grid)
        column.addLayout(row_of(self.clean, self.log, self.log_with_photo))

    def follow(self, key: str, lot: Lot) -> None:
        """Show another lot's newest strand; ticks stay while it is the same lot."""
        if key != self.lot:
            self._clear()
        self.lot = key
        shows = strand_shows(self._desk.workspace.draft.records, lot)
        for widget in (*self.signs.values(), self.clean, self.log, self.log_with_photo):
            widget.setVisible(shows)
        self.words.setText(strand_words(self._desk.workspace, lot))

    def log_strand(self, photo: Path | None = None) -> None:
        """Log what is ticked; nothing ticked is a clean strand."""
        signs = [key for key, box in self.signs.items() if box.isChecked()]

        def log() -> None:
            verdict = log_strand(self._desk.workspace, self.lot or "", signs, photo)
            self._desk.messages.note(f"The strand says: {verdict}.")
            self._clear()

        if self.lot is not None:
            self._desk.run(log)

    def _on_photo(self) -> None:
        file = ask_photo(self)
        if file is not None:
            self.log_strand(file)

    def _clear(self) -> None:
        for box in self.signs.values():
            box.setChecked(False)
