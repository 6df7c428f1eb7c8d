"""Laid over a part of the window that could not be shown: nothing old is read there as if it were of now."""

from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtWidgets import QWidget

from kaustos.ui.faults import guarded
from kaustos.ui.look.text import Label


class Cover(Label):
    """Hides all of a widget, and says why."""

    def __init__(self, over: QWidget, words: str) -> None:
        super().__init__(words, wordWrap=True)
        self.setParent(over)
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setAutoFillBackground(True)
        self.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self.setContentsMargins(10, 8, 10, 8)
        self.setAccessibleName(words)
        self.setToolTip(words)
        self.setGeometry(over.rect())
        over.installEventFilter(self)
        self.show()
        self.raise_()

    @guarded(False)
    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Resize and isinstance(watched, QWidget):
            self.setGeometry(watched.rect())
        return False
