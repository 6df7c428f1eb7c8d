"""What a bench reads away from the window: one job at a time, with words of how it goes and a way to call it off."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QPushButton, QWidget

from kaustos.app.results import Request
from kaustos.ui.desk import Desk
from kaustos.ui.jobs import Job
from kaustos.ui.look.text import Label


class Errand(QObject):
    """A later job takes the place of one on its way, whose answer is then dropped."""

    def __init__(self, desk: Desk, owner: QWidget) -> None:
        super().__init__(owner)
        self._desk = desk
        self._job: Job | None = None
        self._done: Callable[[Any], None] | None = None
        self.words, self.cancel = Label(wordWrap=True), QPushButton("Cancel")
        self.cancel.clicked.connect(self.call_off)
        self.words.hide()
        self.cancel.hide()

    def say(self, words: str) -> None:
        """Say how it goes; nothing for no words."""
        self.words.setText(words)
        self.words.setVisible(bool(words))

    def begin(self, request: Request, words: str, done: Callable[[Any], None]) -> None:
        """Begin a job; what it finds is handed on."""
        self.call_off()
        self._done = done
        self._job = Job(request, self)
        self._job.finished.connect(self._on_finished)
        self._job.failed.connect(self._on_failed)
        self.say(words)
        self.cancel.show()
        self._desk.pace.run(self._job)

    def call_off(self) -> None:
        """Stop what is on its way."""
        if self._job is not None:
            self._job.cancel()
            self._job = None
            self.say("Called off; nothing was changed.")
        self.cancel.hide()

    def _is_mine(self, request: Request) -> bool:
        if self._job is None or request is not self._job.request:
            return False
        self._job = None
        self.cancel.hide()
        return True

    def _on_failed(self, request: Request, fault: str) -> None:
        if self._is_mine(request):
            self.say(fault)
            self._desk.messages.error(fault)

    def _on_finished(self, request: Request, found: Any) -> None:
        if self._is_mine(request) and self._done is not None:
            self.say("")
            self._done(found)
