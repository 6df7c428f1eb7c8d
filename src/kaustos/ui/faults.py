"""What nobody foresaw: logged with its place, told to the person, and never the end of the program.

An exception that leaves an override of Qt can end the process on Python 3.11, so every override is guarded and says
what Qt gets in its place. The log and the report hold where a fault was and of which kind, and no words of it: those
may hold names and values of the shop.
"""

import contextlib
import functools
import logging
import os
import sys
import threading
import traceback
from collections.abc import Callable
from pathlib import Path
from types import TracebackType
from typing import Any, TypeVar

from PySide6.QtCore import QObject, Signal, Slot

from kaustos.app.messages import Messages
from kaustos.disk import write_whole

LOG_BYTES = 1_000_000
REPORT_SIGNS = 60_000
_PACKAGE = Path(__file__).parents[2]

Method = TypeVar("Method", bound=Callable[..., Any])
_LOG = logging.getLogger("kaustos")


class _Faults(QObject):
    """Where faults are told and logged, as far as there is such a place yet; those of other threads come over."""

    came = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.messages: Messages | None = None
        self.log: Path | None = None
        self.came.connect(self._show)

    def tell(self, kind: type[BaseException]) -> None:
        where = f"; see {self.log}" if self.log else ""
        words = f"Something went wrong in Kaustos itself ({kind.__name__}). Nothing saved is lost{where}."
        with contextlib.suppress(RuntimeError):  # the program is ending, and nobody is left to be told
            self.came.emit(words)

    @Slot(str)
    def _show(self, words: str) -> None:
        try:
            if self.messages is not None:
                self.messages.error(words)
                return
        except RuntimeError:  # the window that would tell it is gone
            self.messages = None
        print(words, file=sys.stderr)  # noqa: T201 - where there is no window nothing else can be seen


_FAULTS = _Faults()


def stand_guard() -> None:
    """Before anything else: every fault that nobody foresaw, on any thread, comes here."""
    sys.excepthook = _on_fault
    threading.excepthook = lambda found: _on_fault(
        found.exc_type, found.exc_value or found.exc_type(), found.exc_traceback
    )


def tell_faults_to(messages: Messages) -> None:
    """Tell faults in the window that is open now."""
    _FAULTS.messages = messages


def log_to(file: Path) -> None:
    """Keep a log of a bounded size; where it cannot be kept, faults are told all the same."""
    from logging.handlers import RotatingFileHandler

    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        handler = RotatingFileHandler(file, maxBytes=LOG_BYTES, backupCount=2, encoding="utf-8")
    except OSError:
        _LOG.warning("the log cannot be written")
        return
    handler.setFormatter(_Plain("%(asctime)s %(levelname)s"))
    logging.getLogger().addHandler(handler)
    _FAULTS.log = file


def _on_fault(kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
    if isinstance(fault, KeyboardInterrupt):
        sys.__excepthook__(kind, fault, trace)
        return
    _LOG.error("unforeseen", exc_info=(kind, fault, trace))
    _FAULTS.tell(kind)


def guarded(answer: object = None, *, refuse: bool = False) -> Callable[[Method], Method]:
    """Guard an override of Qt: what it raises is logged and told, and Qt gets the answer, made anew where it is a type.

    ``refuse`` ignores the event that came with the call, as closeEvent must: a window whose closing failed stays.
    """

    def wrap(method: Method) -> Method:
        @functools.wraps(method)
        def inside(self: Any, *given: Any) -> Any:
            try:
                return method(self, *given)
            except Exception as fault:
                logging.getLogger("kaustos").exception("an override of Qt failed")
                _FAULTS.tell(type(fault))
                if refuse:
                    given[-1].ignore()
                return answer() if isinstance(answer, type) else answer

        inside.guard = (answer, refuse)  # type: ignore[attr-defined]
        return inside  # type: ignore[return-value]

    return wrap


class _Plain(logging.Formatter):
    """A record without its values, a fault without its words."""

    def format(self, record: logging.LogRecord) -> str:
        words = f"{self.formatTime(record)} {record.levelname} {record.name}: {record.msg}"
        fault = record.exc_info[1] if record.exc_info else None
        while fault is not None:
            words += f"\n{type(fault).__name__}"
            words += "".join(f"\n  {_place(each)}" for each in traceback.extract_tb(fault.__traceback__))
            fault = fault.__cause__ or fault.__context__
        return words


def _place(frame: traceback.FrameSummary) -> str:
    file = Path(frame.filename)
    shown = file.relative_to(_PACKAGE) if file.is_relative_to(_PACKAGE) else file.name
    return f"{shown}:{frame.lineno} in {frame.name}"


def write_report(target: Path) -> None:
    """Version, system and the tail of the log as one text; no recipe, lot or name of the shop is put in."""
    import platform

    from PySide6 import __version__ as qt_version

    from kaustos import __version__

    tail = ""
    for handler in logging.getLogger().handlers:
        if isinstance(handler, logging.FileHandler) and isinstance(handler.formatter, _Plain):
            handler.flush()
            tail += Path(handler.baseFilename).read_text(encoding="utf-8", errors="replace")[-REPORT_SIGNS:]
    lines = [
        f"Kaustos {__version__}", f"Python {platform.python_version()}, PySide6 {qt_version}",
        f"{platform.system()} {platform.release()} {platform.machine()}, {os.cpu_count()} cores", "",
        tail or "The log is empty.",
    ]  # fmt: skip
    write_whole(target, "\n".join(lines))
