"""Bars below the route strip: messages, and the question that a save asks; nothing modal."""

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QLineEdit, QPushButton

from kaustos.app.messages import Message
from kaustos.ui.look import StandingMark


class MessageBar(QFrame):
    """Shows the latest message until it is dismissed."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.mark = StandingMark()
        self.text = QLabel(wordWrap=True)
        self.text.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        close = QPushButton("Dismiss")
        close.clicked.connect(self.hide)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 5, 8, 5)
        row.addWidget(self.mark)
        row.addWidget(self.text, 1)
        row.addWidget(close)
        self.hide()

    def show_message(self, message: Message) -> None:
        """Show a message in the place of the one before."""
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
        self.who = QLabel()
        self.why = QLineEdit()
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

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
            return
        super().keyPressEvent(event)
