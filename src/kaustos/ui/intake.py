"""Files on their way in: one after the other, each a job that says how far it is and can be called off.

Files that came together are one job, taken in all or none.
"""

from collections import deque
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, Signal

from kaustos.app.messages import Messages
from kaustos.app.results import Request
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.disk import name_of
from kaustos.ui.jobs import Job, Pace


class TakingIn(QObject):
    """The files that are being taken in, in the order in which they came."""

    changed = Signal()

    def __init__(self, workspace: Workspace, messages: Messages, pace: Pace) -> None:
        super().__init__()
        self._workspace, self._messages, self._pace = workspace, messages, pace
        self._waiting: deque[tuple[Path, ...]] = deque()
        self._job: Job | None = None
        self._called_off = self._is_over = False
        self.file: Path | None = None  # the one that is being read, or the first of those that came together
        self.name = ""  # how it is spoken of
        self.done, self.of = 0, 0

    def take(self, *files: Path) -> None:
        """Take a file in, or several all or none, after those that came before."""
        self._waiting.append(files)
        if self._job is None:
            self._next()

    def call_off(self) -> None:
        """Stop the one that is being read, and begin no other."""
        self._waiting.clear()
        if self._job is None:
            self._messages.note("Nothing is being taken in.")
        else:
            self._called_off = True
            self._job.cancel()

    def stop(self) -> None:
        """The window goes: begin no other, and let the one that is being read end without a word."""
        self._waiting.clear()
        self._is_over = True
        if self._job is not None:
            self._job.cancel()

    def _next(self) -> None:
        self._job, self.file, self._called_off = None, None, False
        self.done, self.of = 0, 0
        if self._waiting:
            files = self._waiting.popleft()
            self.file = files[0]
            self.name = name_of(files[0]) + (f" and {len(files) - 1} more" if len(files) > 1 else "")
            self._begin(files)
        self.changed.emit()

    def _begin(self, files: tuple[Path, ...]) -> None:
        from kaustos.app.intake import intake, intake_of_all

        try:
            wanted = intake(self._workspace, files[0]) if len(files) == 1 else intake_of_all(self._workspace, files)
            request = Request("intake", files, wanted)
        except KaustosError as error:
            self._messages.error(str(error))
            self._next()
            return
        self._job = Job(request, self)
        self._job.moved.connect(self._on_moved)
        self._job.finished.connect(self._on_finished)
        self._job.failed.connect(self._on_failed)
        self._pace.run(self._job)

    def _on_moved(self, done: int, of: int) -> None:
        self.done, self.of = done, of
        if not self._is_over:
            self.changed.emit()

    def _on_finished(self, request: Request, taken: Any) -> None:
        from kaustos.app.intake import IntakeOfAll, put_all_in, put_in

        if self._is_over or self._called_off:
            self._on_failed(request, "")
            return
        wanted = request.compute
        try:
            if isinstance(wanted, IntakeOfAll):
                self._messages.note(put_all_in(self._workspace, wanted, taken))
            else:
                self._messages.note(put_in(self._workspace, taken))
        except KaustosError as error:
            self._messages.error(str(error))
        self._ended()

    def _on_failed(self, _: Request, fault: str) -> None:
        if self._is_over:
            return
        if self._called_off:
            self._messages.note(f"{self.name}: called off; nothing was taken in.")
        else:
            self._messages.error(fault)
        self._ended()

    def _ended(self) -> None:
        if self._job is not None:
            self._job.deleteLater()
        self._next()
