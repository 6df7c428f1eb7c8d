"""Bars below the route strip: messages, and the question that a save asks; nothing modal."""

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton

from kaustos.app.messages import Message
from kaustos.ui.desk import Desk
from kaustos.ui.faults import guarded
from kaustos.ui.following import Following
from kaustos.ui.look import StandingMark
from kaustos.ui.look.text import Label, Line

Act = Callable[[], object]


class MessageBar(Following, QFrame):
    """Shows the latest message until it is dismissed; a note leaves when an edit has made it old."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk, self._said_of = desk, desk.workspace.draft.records
        self._is_error = False
        self.setObjectName("panel")
        self.mark = StandingMark()
        self.text = Label(wordWrap=True)
        self.text.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        close = QPushButton("Dismiss")
        close.clicked.connect(self.hide)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 5, 8, 5)
        row.addWidget(self.mark)
        row.addWidget(self.text, 1)
        row.addWidget(close)
        self.hide()
        self.follow_desk(desk)

    def refresh(self) -> None:
        """A note is about the records of when it was said."""
        if not self._is_error and self._desk.workspace.draft.records is not self._said_of:
            self.hide()

    def show_message(self, message: Message) -> None:
        """Show a message in the place of the one before."""
        self._said_of, self._is_error = self._desk.workspace.draft.records, message.is_error
        self.mark.show_standing("stop" if message.is_error else "open")
        self.text.setText(message.text)
        self.setAccessibleName(message.text)
        self.show()


class SaveBar(QFrame):
    """Asks why a revision is saved; Enter saves, Esc goes back."""

    def __init__(self, save: Callable[[str], None]) -> None:
        super().__init__()
        self.setObjectName("panel")
        self._save = save
        self.who = Label()
        self.why = Line()
        self.why.setPlaceholderText("Why this revision? For example: hotter after the shell split")
        self.why.setAccessibleName("Why this revision")
        self.why.setMaxLength(500)
        self.why.returnPressed.connect(self._on_save)
        keep, back = QPushButton("Keep"), QPushButton("Cancel")
        keep.clicked.connect(self._on_save)
        back.clicked.connect(self.hide)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 5, 8, 5)
        row.addWidget(self.who)
        row.addWidget(self.why, 1)
        row.addWidget(keep)
        row.addWidget(back)
        self.hide()

    def ask(self, who: str) -> None:
        """Show the question."""
        self.who.setText(f"Saved by {who}:" if who else "Saved by nobody yet (Settings):")
        self.why.clear()
        self.show()
        self.why.setFocus()

    def _on_save(self) -> None:
        self.hide()
        self._save(self.why.text())

    @guarded()
    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
            return
        super().keyPressEvent(event)


class StopBar(QFrame):
    """Asks who answers for a run that is started despite a stop, and why; Enter starts it, Esc goes back."""

    def __init__(self, start: Callable[[str, str], None]) -> None:
        super().__init__()
        self.setObjectName("panel")
        self._start = start
        self.mark, self.words = StandingMark(), Label(wordWrap=True)
        self.mark.show_standing("stop")
        self.who, self.why = Line(), Line()
        self.who.setPlaceholderText("Name")
        self.who.setAccessibleName("Who answers for it")
        self.who.setMaximumWidth(140)
        self.why.setPlaceholderText("Why all the same?")
        self.why.setAccessibleName("Why it is run despite the stop")
        for line in (self.who, self.why):
            line.setMaxLength(90)
            line.returnPressed.connect(self._on_start)
        start_it, back = QPushButton("Start despite the stop"), QPushButton("Cancel")
        start_it.clicked.connect(self._on_start)
        back.clicked.connect(self.hide)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 5, 8, 5)
        row.addWidget(self.mark)
        row.addWidget(self.words, 2)
        for widget in (self.who, self.why, start_it, back):
            row.addWidget(widget, 1 if widget is self.why else 0)
        self.hide()

    def ask(self, words: str, who: str) -> None:
        """Show the stop and the question."""
        self.words.setText(words)
        self.who.setText(who)
        self.why.clear()
        self.show()
        (self.why if who else self.who).setFocus()

    def _on_start(self) -> None:
        self._start(self.who.text(), self.why.text())

    @guarded()
    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
            return
        super().keyPressEvent(event)


class ClosingBar(QFrame):
    """Asks what becomes of what could not be saved, before the window closes."""

    def __init__(self, try_again: Act, anew: Act, copy: Act, discard: Act) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.text = Label(wordWrap=True)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 5, 8, 5)
        row.addWidget(StandingMark("stop"))
        row.addWidget(self.text, 1)
        self.buttons = []
        for words, act in (
            ("Try again", try_again), ("Write the workspace anew", anew), ("Save a copy elsewhere", copy),
            ("Close without saving", discard), ("Stay", self.hide),
        ):  # fmt: skip
            button = QPushButton(words)
            button.clicked.connect(act)
            self.buttons.append(button)
            row.addWidget(button)
        self.hide()

    def ask(self, fault: str, *, is_displaced: bool) -> None:
        """Show the question; trying again helps where the disk was full, writing anew where the file is gone."""
        for button, is_shown in zip(self.buttons, (not is_displaced, is_displaced), strict=False):
            button.setVisible(is_shown)
        self.text.setText(f"Not closed, your last edits are not saved: {fault}")
        self.setAccessibleName(self.text.text())
        self.show()
        self.buttons[int(is_displaced)].setFocus()
