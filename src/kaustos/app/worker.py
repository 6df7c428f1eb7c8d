"""One worker process for foreign files: started on first use and kept, bounded in memory and time, killed by cancel."""

import contextlib
import importlib
import multiprocessing
import threading
import time
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any

from kaustos.core.errors import KaustosError
from kaustos.core.progress import Progress

MOST_BYTES = 6 << 30  # address space of the worker
MOST_S = 180.0  # for one file
LOOK_S = 0.05


class WorkerGone(KaustosError):
    """The worker was stopped, or did not come back."""


def _serve(pipe: Connection) -> None:
    """In the worker: answer what is asked until the other end is closed."""
    with contextlib.suppress(ImportError, ValueError, OSError):
        import resource

        resource.setrlimit(resource.RLIMIT_AS, (MOST_BYTES, MOST_BYTES))
    with contextlib.suppress(EOFError, KeyboardInterrupt):
        while True:
            module, name, given = pipe.recv()
            try:
                answer: tuple[bool, Any] = (True, getattr(importlib.import_module(module), name)(*given))
            except KaustosError as fault:
                answer = (False, fault)
            except MemoryError:
                answer = (False, KaustosError("is larger than this program takes in"))
            except Exception as fault:  # noqa: BLE001 - whatever a foreign file raises, the file cannot be used
                answer = (False, KaustosError(f"cannot be read ({type(fault).__name__}: {str(fault)[:120]})"))
            pipe.send(answer)


class Worker:
    """The process, and the line to it."""

    def __init__(self) -> None:
        self._process: Any = None
        self._pipe: Connection | None = None
        self._busy = threading.Lock()

    def call(self, work: Callable[..., Any], *given: Any, progress: Progress, most_s: float = MOST_S) -> Any:
        """What a function of a module returns, run in the worker; cancel and the time limit kill it."""
        with self._busy:
            pipe = self._started()
            begun = time.monotonic()
            try:
                pipe.send((work.__module__, work.__name__, given))
                while not pipe.poll(LOOK_S):
                    progress.check()
                    if time.monotonic() - begun > most_s:
                        raise WorkerGone(f"took longer than {most_s:g} s and was stopped")
                sound, answer = pipe.recv()
            except (EOFError, BrokenPipeError, ConnectionResetError) as error:
                self.stop()
                raise WorkerGone("took more memory than it may, or broke the reader; nothing was taken in") from error
            except BaseException:
                self.stop()
                raise
        if not sound:
            raise answer
        return answer

    def stop(self) -> None:
        """End the process now."""
        process, pipe = self._process, self._pipe
        self._process = self._pipe = None
        if pipe is not None:
            pipe.close()
        if process is not None:
            process.kill()
            process.join()
            process.close()

    def _started(self) -> Connection:
        if self._pipe is None or self._process is None or not self._process.is_alive():
            self.stop()
            context = multiprocessing.get_context("spawn")
            self._pipe, there = context.Pipe()
            self._process = context.Process(target=_serve, args=(there,), daemon=True, name="kaustos worker")
            self._process.start()
            there.close()
        return self._pipe


WORKER = Worker()
