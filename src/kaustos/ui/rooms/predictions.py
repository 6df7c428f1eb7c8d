"""Predictions: what was foretold beside what was found, how often bands held, which warnings were right."""

from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QVBoxLayout

from kaustos.app.predictions import PAIR_HEADINGS, SCORE_HEADINGS, WARNING_HEADINGS, predictions_of
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.room import Room

MADE_OF = ("runs", "proofs", "cards", "machines", "plates", "lots")


class PredictionsRoom(Room):
    """Scores above, single figures and warnings below."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(
            desk, "Predictions", "Hours are foretold from the runs before; welds and lifts by the models alone.",
            "Nothing can be compared yet. Bind a job file and tick a run on its card, or log pulled specimens on bench "
            "120: what is found then stands here beside what was foretold.",
        )  # fmt: skip
        self._made_of: tuple[object, ...] = (None,) * (len(MADE_OF) + 1)  # what is shown was made of
        self.scores = _table(SCORE_HEADINGS, "How good the predictions are", 6)
        self.pairs = _table(PAIR_HEADINGS, "Foretold and found", 3)
        self.warnings = _table(WARNING_HEADINGS, "Warnings that runs can tell of", 0)
        self.unforetold = Label("", wordWrap=True)
        left, right = QVBoxLayout(), QVBoxLayout()
        left.addWidget(_heading("Foretold and found, the newest first"))
        left.addWidget(self.pairs, 1)
        right.addWidget(_heading("Warnings, and whether runs showed what they said"))
        right.addWidget(self.warnings, 1)
        right.addWidget(self.unforetold)
        below = QHBoxLayout()
        below.setSpacing(14)
        below.addLayout(left, 3)
        below.addLayout(right, 2)
        self.column.addWidget(self.scores)
        self.column.addLayout(below, 1)

    def refresh(self) -> None:
        """Follow the desk."""
        tables = self.desk.workspace.draft.records.tables
        made_of = (*(tables[kind] for kind in MADE_OF), self.desk.wording)
        if all(one is other for one, other in zip(made_of, self._made_of, strict=True)):
            return
        self._made_of = made_of
        found = predictions_of(self.desk.workspace, self.desk.wording)
        self.show_empty(not (found.scores or found.warnings), self.scores, self.pairs, self.warnings, self.unforetold)
        self.scores.show_rows(found.scores)
        self.scores.setFixedHeight(self.scores.horizontalHeader().height() + 30 * min(max(len(found.scores), 1), 6) + 6)
        self.pairs.show_rows(found.pairs)
        self.warnings.show_rows(found.warnings)
        self.unforetold.setText(found.unforetold)


def _table(headings: tuple[str, ...], name: str, wide: int) -> PlainTable:
    table = PlainTable(headings)
    table.setAccessibleName(name)
    header = table.horizontalHeader()
    header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    header.setSectionResizeMode(wide, QHeaderView.ResizeMode.Stretch)
    return table


def _heading(words: str) -> Label:
    label = Label(words)
    label.setProperty("role", "heading")
    return label
