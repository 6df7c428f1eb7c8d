"""What all benches share: the question on top, inputs, the live picture, and the figures below."""

from PySide6.QtWidgets import QFrame, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from kaustos.core.review import BY_KEY
from kaustos.ui.benches.figures import FigureTable
from kaustos.ui.benches.picture import Picture
from kaustos.ui.benches.switches import switches
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.look.text import Label


class Bench(Following, QFrame):
    """One operation's working place."""

    def __init__(self, desk: Desk, key: str, inputs: QWidget, picture: Picture) -> None:
        super().__init__()
        self.setObjectName("panel")
        self.desk, self.key, self.picture = desk, key, picture
        operation = BY_KEY[key]
        heading = Label(f"{operation.number} {operation.title}")
        heading.setProperty("role", "heading")
        question = Label(operation.section, wordWrap=True)
        question.setProperty("role", "question")
        self.figures = FigureTable(desk, key)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(12, 8, 12, 8)
        self.column.setSpacing(7)
        self.column.addWidget(heading)
        self.column.addWidget(question)
        self.column.addWidget(inputs)
        self.column.addWidget(picture, 1)
        self.column.addWidget(self.figures)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow the desk in what is this bench's own; its fields, tables and picture follow by themselves."""

    def turn_pages(self, pages: dict[str, QWidget]) -> list[QPushButton]:
        """Let one of some pages, the figures among them, stand below the picture; the buttons that choose it."""
        stack, height = QStackedWidget(), self.figures.height()
        stack.setFixedHeight(height)
        self.column.removeWidget(self.figures)
        for page in pages.values():
            page.setFixedHeight(height)
            stack.addWidget(page)
        buttons, row = switches(tuple(pages), stack.setCurrentIndex)
        self.column.addLayout(row)
        self.column.addWidget(stack)
        return buttons

    def show_field(self, path: str) -> bool:
        """Lead to a field of this bench; False where it stands elsewhere."""
        return False
