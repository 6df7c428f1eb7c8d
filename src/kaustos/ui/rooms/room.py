"""What all rooms share: a heading, what to do when there is nothing yet, and following the desk while shown."""

from pathlib import Path

from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from kaustos.core.records import Place
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.look.text import Label, as_text


class Room(Following, QFrame):
    """A page that takes the whole window under the head."""

    def __init__(self, desk: Desk, title: str, words: str, empty: str) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.desk = desk
        self.title = Label(title)
        self.title.setProperty("role", "title")
        self.words = Label(words, wordWrap=True)
        self.words.setProperty("role", "muted")
        self.empty = Label(empty, wordWrap=True)
        self.empty.setProperty("role", "question")
        self.top = QHBoxLayout()
        self.top.setSpacing(8)
        self.top.addWidget(self.title)
        self.top.addWidget(self.words, 1)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(14, 10, 14, 10)
        self.column.setSpacing(8)
        self.column.addLayout(self.top)
        self.column.addWidget(self.empty)
        self.follow_desk(desk)

    def button(self, words: str, act, tip: str = "") -> QPushButton:  # type: ignore[no-untyped-def]
        """A button in the heading row."""
        button = QPushButton(words)
        button.setToolTip(as_text(tip or words))
        button.clicked.connect(lambda: self.desk.run(act))
        self.top.addWidget(button)
        return button

    def refresh(self) -> None:
        """Follow the desk."""

    def lead_to(self, place: Place) -> bool:
        """Set the focus into what takes a value at a place of a record that is kept here; False where nothing does."""
        return False

    @property
    def takes_log(self) -> bool:
        """Whether what is chosen here is what a logger's file belongs to."""
        return False

    def take_log(self, file: Path) -> None:
        """Keep a logger's file with what is chosen here."""

    def show_empty(self, is_empty: bool, *others: QWidget) -> None:
        """Say what to do first where there is nothing, else show the rest."""
        self.empty.setVisible(is_empty)
        for widget in others:
            widget.setVisible(not is_empty)
