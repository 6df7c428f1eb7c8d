"""What a bench reads away from the window: one job at a time, with words of how it goes and a way to call it off."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QPushButton, QWidget

from kaustos.app.results import Request
from kaustos.ui.desk import Desk
from kaustos.ui.jobs import Job
from kaustos.ui.look.text import Label

Taker = Callable[[Any], None]  # of what a job finds


class _Sent(Job):
    """A job with who waits for its answer, and who takes one that nobody wants any more."""

    def __init__(self, request: Request, parent: QObject, done: Taker, let_go: Taker) -> None:
        super().__init__(request, parent)
        self.done, self.let_go = done, let_go


class Errand(QObject):
    """A later job takes the place of one on its way, whose answer is then dropped."""

    def __init__(self, desk: Desk, owner: QWidget) -> None:
        super().__init__(owner)
        self._desk = desk
        self._job: _Sent | None = None
        self.words, self.cancel = Label(wordWrap=True), QPushButton("Cancel")
        self.cancel.clicked.connect(self.call_off)
        self.words.hide()
        self.cancel.hide()

    def say(self, words: str) -> None:
        """Say how it goes; nothing for no words."""
        self.words.setText(words)
        self.words.setVisible(bool(words))

    def begin(self, request: Request, words: str, done: Taker, let_go: Taker = lambda _: None) -> None:
        """Begin a job; what it finds is handed on, or to be let go where it was called off meanwhile."""
        self.call_off()
        self._job = _Sent(request, self, done, let_go)
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

    def _ended(self) -> tuple[_Sent | None, bool]:
        """The job that ended, and whether it is still waited for."""
        job = self.sender()
        if not isinstance(job, _Sent):
            return None, False
        job.deleteLater()
        if job is not self._job:
            return job, False
        self._job = None
        self.cancel.hide()
        return job, True

    def _on_failed(self, request: Request, fault: str) -> None:
        _, is_awaited = self._ended()
        if is_awaited:
            self.say(fault)
            self._desk.messages.error(fault)

    def _on_finished(self, request: Request, found: Any) -> None:
        job, is_awaited = self._ended()
        if job is not None and is_awaited:
            self.say("")
            job.done(found)
        elif job is not None:
            job.let_go(found)
