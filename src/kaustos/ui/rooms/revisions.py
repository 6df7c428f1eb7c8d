"""Saved revisions of the open recipe, and what differs between two of them."""

from PySide6.QtWidgets import QComboBox, QFrame, QHBoxLayout, QHeaderView, QPushButton, QVBoxLayout

from kaustos.app.giving import give_status
from kaustos.app.revisions import differences, is_damaged, plain_of
from kaustos.app.wording import GRADE_WORDS, when_words
from kaustos.app.workspace import STATUSES
from kaustos.formats.recipe_file import recipe_document
from kaustos.store import Revision
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.look.text import Label, Line

DRAFT = "the draft of now"


class RevisionsPage(Following, QFrame):
    """The list, and under it the differences between the two that are chosen."""

    def __init__(self, desk: Desk, back) -> None:  # type: ignore[no-untyped-def]
        super().__init__()
        self.setObjectName("panel")
        self._desk = desk
        self._revisions: tuple[Revision, ...] = ()
        heading = Label("Revisions")
        heading.setProperty("role", "heading")
        close = QPushButton("Back to the bench")
        close.clicked.connect(back)
        self.empty = Label("Nothing is saved yet. Ctrl+S keeps the present state, with who and why.", wordWrap=True)
        self.list = PlainTable(("No", "Saved", "Who", "Status, grade", "Why"))
        self.list.setWordWrap(True)
        self.list.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.list.setAccessibleName("Revisions")
        self.differing = PlainTable(("Field", "Before", "After"))
        self.differing.setAccessibleName("Differences")
        for table, stretched in ((self.list, 4), (self.differing, 0)):
            table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
            table.horizontalHeader().setSectionResizeMode(stretched, QHeaderView.ResizeMode.Stretch)
        self.status, self.why = QComboBox(), Line()
        self.status.setAccessibleName("New status")
        for key, words in STATUSES.items():
            self.status.addItem(words, key)
        self.why.setAccessibleName("Why this status")
        self.why.setPlaceholderText("Why? For example: three good runs over two shapes")
        self.why.setMaxLength(500)
        self.why.returnPressed.connect(self._on_status)
        self.second = Line()
        self.second.setAccessibleName("Second name, where a release lacks something")
        self.second.setPlaceholderText("second name")
        self.second.setMaxLength(100)
        self.second.setFixedWidth(140)
        self.second.returnPressed.connect(self._on_status)
        self.give = QPushButton("Give")
        self.give.clicked.connect(self._on_status)
        self.log = Label(wordWrap=True)
        self.log.setProperty("role", "muted")
        self.before, self.after = QComboBox(), QComboBox()
        self.before.setAccessibleName("Compare from")
        self.after.setAccessibleName("Compare to")
        top, middle = QHBoxLayout(), QHBoxLayout()
        top.addWidget(heading)
        top.addStretch()
        top.addWidget(close)
        for words, box in (("What changed from", self.before), ("to", self.after)):
            middle.addWidget(Label(words))
            middle.addWidget(box)
            box.activated.connect(self._compare)
        middle.addStretch()
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 8)
        column.addLayout(top)
        column.addWidget(self.empty)
        column.addWidget(self.list, 1)
        column.addLayout(self._status_row())
        column.addWidget(self.log)
        column.addLayout(middle)
        column.addWidget(self.differing, 1)
        self.list.itemSelectionChanged.connect(self._on_selected)
        self.follow_desk(desk)

    def _status_row(self) -> QVBoxLayout:
        rows, upper, lower = QVBoxLayout(), QHBoxLayout(), QHBoxLayout()
        for widget in (Label("Chosen revision becomes"), self.status, self.second):
            upper.addWidget(widget)
        upper.addStretch()
        lower.addWidget(self.why, 1)
        lower.addWidget(self.give)
        rows.addLayout(upper)
        rows.addLayout(lower)
        return rows

    def _chosen(self) -> Revision | None:
        rows = sorted({index.row() for index in self.list.selectedIndexes()}) or [0]
        return self._revisions[rows[0]] if self._revisions else None

    def _on_status(self) -> None:
        revision = self._chosen()
        if revision is None:
            return
        number, status, why = revision.number, self.status.currentData(), self.why.text()

        def give() -> None:
            give_status(self._desk.workspace, number, status, why, self.second.text())
            self.why.clear()
            self.second.clear()
            self._desk.announce()

        self._desk.run(give)

    def _say_log(self) -> None:
        entries = [
            f"{when_words(each.at_utc)} revision {each.number} {STATUSES[each.status]} by {each.who or 'not recorded'}"
            + (f": {each.why}" if each.why else "")
            for each in self._desk.workspace.statuses()[:4]
        ]
        self.log.setText("\n".join(entries))

    def refresh(self) -> None:
        """Read the list anew and compare the newest revision with the draft."""
        self._revisions = self._desk.workspace.revisions()
        self._say_log()
        self.second.setVisible(self._desk.workspace.draft.records.rules.release_names > 1.0)
        self.empty.setVisible(not self._revisions)
        rows = [
            (
                str(each.number),
                when_words(each.saved_utc)[:10],
                each.who or "not recorded",
                "damaged" if is_damaged(each.document) else f"{STATUSES[each.status]}, {GRADE_WORDS[each.grade]}",
                each.why,
            )
            for each in self._revisions
        ]
        self.list.show_rows(rows, [f"Saved {when_words(each.saved_utc)}\n{each.why}" for each in self._revisions])
        names = [f"revision {each.number}" for each in self._revisions]
        for box, items in ((self.before, names), (self.after, [DRAFT, *names])):
            box.clear()
            box.addItems(items)
        if len(self._revisions) > 1 and not self._desk.workspace.differs_from_last_revision():
            self.before.setCurrentIndex(1)
            self.after.setCurrentIndex(1)
        self._compare()

    def _on_selected(self) -> None:
        rows = sorted({index.row() for index in self.list.selectedIndexes()})
        if rows:
            newest, oldest = rows[0], rows[-1]
            self.after.setCurrentIndex(newest + 1 if newest != oldest else newest)
            self.before.setCurrentIndex(oldest)
            self._compare()

    def _compare(self) -> None:
        if not self._revisions or self.before.currentIndex() < 0:
            self.differing.show_rows([])
            return
        self.differing.show_rows([("These two cannot be compared", "", "")])  # until they are
        before = plain_of(self._revisions[self.before.currentIndex()].document)
        chosen = self.after.currentIndex()
        draft = recipe_document(self._desk.workspace.document())
        after = draft if chosen <= 0 else plain_of(self._revisions[chosen - 1].document)
        found = differences(before, after, self._desk.wording)
        rows = [(each.field[:1].upper() + each.field[1:], each.before, each.after) for each in found]
        self.differing.show_rows(rows or [("No difference", "", "")])
