"""Words are text: whatever signs a name holds, none of them is read as markup."""

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtGui import Qt as Text
from PySide6.QtWidgets import QLabel, QLineEdit


class Label(QLabel):
    """A label that shows what it is given, sign by sign."""

    def __init__(self, text: str = "", *, wordWrap: bool = False) -> None:  # noqa: N803 - Qt's own name
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setWordWrap(wordWrap)
        self.setText(text)


class Line(QLineEdit):
    """A line to type into; a file that is dropped on it goes to the window, as one beside it does."""

    def __init__(self, text: str = "") -> None:
        super().__init__(text)
        self.setAcceptDrops(False)


def as_text(words: str) -> str:
    """Words for a tool tip, which has no plain format: escaped where they would be taken for markup."""
    if not Text.mightBeRichText(words):
        return words
    return f"<qt>{escape(words).replace(chr(10), '<br>')}</qt>"
