"""Runs requests away from the window; the only code that knows the thread pool.

Answers come back through a QObject on the main thread, so that a slot never runs on a worker.
"""

import logging
import threading
from collections.abc import Callable
from typing import Any

import attrs
from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer, Signal

from kaustos.app.results import Request
from kaustos.core.errors import KaustosError
from kaustos.core.progress import Cancelled
from kaustos.core.review import is_same
from kaustos.ui.faults import guarded


class Job(QObject):
    """One request on its way; it watches the work, can call it off, and passes on how far it is."""

    finished = Signal(object, object)  # request, result
    failed = Signal(object, str)  # request, fault
    moved = Signal(int, int)  # done, of

    def __init__(self, request: Request, parent: QObject) -> None:
        super().__init__(parent)
        self.request = request
        self._called_off = threading.Event()

    def cancel(self) -> None:
        """Call it off; it ends at its next check."""
        self._called_off.set()

    def check(self) -> None:
        """Between pieces of work: end here where it was called off."""
        if self._called_off.is_set():
            raise Cancelled("Called off.")

    def report(self, done: int, of: int) -> None:
        """How far it is."""
        self.moved.emit(done, of)


Runner = Callable[[Job], None]


class _Runnable(QRunnable):
    def __init__(self, job: Job) -> None:
        super().__init__()
        self._job = job

    @guarded()
    def run(self) -> None:
        run_now(self._job)


def run_now(job: Job) -> None:
    """Run a job at once, on the thread that asks: for tests and pictures."""
    try:
        job.check()
        result: Any = job.request.compute(job)
    except KaustosError as error:
        job.failed.emit(job.request, str(error))
        return
    except Exception as fault:  # on the pool nobody else hears of it, and its kind would wait for ever
        logging.getLogger("kaustos").exception("%s cannot be computed", job.request.key)
        job.failed.emit(job.request, f"{job.request.key} cannot be computed: {type(fault).__name__}: {fault}")
        return
    job.finished.emit(job.request, result)


def run_on_pool(job: Job) -> None:
    """Run a job on the thread pool."""
    QThreadPool.globalInstance().start(_Runnable(job))


@attrs.frozen
class Pace:
    """How jobs run, and how the next turn of the event loop is awaited."""

    run: Runner
    later: Callable[[QObject, Callable[[], None]], None]
    slowly: Callable[[QObject, Callable[[], None]], None]  # the same for slices of work: what is waiting comes first
    rest_ms: int = 0  # of quiet in a drag, after which what takes long is judged again; 0: at every step
    look_ms: int | None = None  # of quiet, before the grades of all recipes are brought up; None: where it is asked for


PAUSE_MS, REST_MS, LOOK_MS = 4, 90, 1_500
PATIENCE_MS = 1_000  # with a job that was called off, at the end
POOLED = Pace(
    run_on_pool,
    lambda owner, act: QTimer.singleShot(0, owner, act),
    lambda owner, act: QTimer.singleShot(PAUSE_MS, owner, act),
    REST_MS,
    LOOK_MS,
)
AT_ONCE = Pace(run_now, lambda owner, act: act(), lambda owner, act: act())


class Queue(QObject):
    """Heavy results on their way: of each kind one at a time, the newest next, what is stale never begun."""

    landed = Signal(object, object)  # request, result
    failed = Signal(str)

    def __init__(self, pace: Pace) -> None:
        super().__init__()
        self._pace = pace
        self._running: dict[str, Request] = {}
        self._waiting: dict[str, Request] = {}

    @property
    def is_idle(self) -> bool:
        """Whether nothing is on its way."""
        return not self._running

    def ask(self, request: Request) -> None:
        """Want a result; an older wish of the same kind that has not begun is dropped, one on its way is awaited."""
        running = self._running.get(request.key)
        if running is None:
            self._start(request)
        elif is_same(running.inputs, request.inputs):
            self._waiting.pop(request.key, None)
        else:
            self._waiting[request.key] = request

    def stop(self) -> None:
        """Begin nothing more and call off what runs; what does not end soon is left: its answers reach nobody."""
        self._waiting.clear()
        self.blockSignals(True)  # an answer may still be on its way to this thread when the window is gone
        for job in self.findChildren(Job):
            job.cancel()
        QThreadPool.globalInstance().waitForDone(PATIENCE_MS)

    def _start(self, request: Request) -> None:
        self._running[request.key] = request
        job = Job(request, self)
        job.finished.connect(self._on_finished)
        job.failed.connect(self._on_failed)
        self._pace.run(job)

    def _on_finished(self, request: Request, result: object) -> None:
        self._ended(request)
        self.landed.emit(request, result)
        self._next(request.key)

    def _on_failed(self, request: Request, fault: str) -> None:
        self._ended(request)
        self.failed.emit(fault)
        self._next(request.key)

    def _ended(self, request: Request) -> None:
        sender = self.sender()
        if isinstance(sender, Job):
            sender.deleteLater()
        self._running.pop(request.key, None)

    def _next(self, key: str) -> None:
        waiting = self._waiting.pop(key, None)
        if waiting is not None and key not in self._running:
            self._start(waiting)
