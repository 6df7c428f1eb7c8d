"""Runs requests away from the window; the only code that knows the thread pool.

Answers come back through a QObject on the main thread, so that a slot never runs on a worker.
"""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from kaustos.app.results import Request
from kaustos.core.errors import KaustosError


class Job(QObject):
    """One request on its way; ``finished`` carries its key and result, ``failed`` its key and the fault."""

    finished = Signal(str, object)
    failed = Signal(str, str)

    def __init__(self, request: Request, parent: QObject) -> None:
        super().__init__(parent)
        self.request = request


Runner = Callable[[Job], None]


class _Runnable(QRunnable):
    def __init__(self, job: Job) -> None:
        super().__init__()
        self._job = job

    def run(self) -> None:
        run_now(self._job)


def run_now(job: Job) -> None:
    """Run a job at once, on the thread that asks: for tests and pictures."""
    try:
        result: Any = job.request.compute()
    except KaustosError as error:
        job.failed.emit(job.request.key, str(error))
        return
    job.finished.emit(job.request.key, result)


def run_on_pool(job: Job) -> None:
    """Run a job on the thread pool."""
    QThreadPool.globalInstance().start(_Runnable(job))
