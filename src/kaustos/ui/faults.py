"""The one hook for what nobody foresaw: it is logged with its stack, and told to the user."""

import logging
import logging.handlers
import sys
from pathlib import Path
from types import TracebackType

from kaustos.app.messages import Messages
from kaustos.disk import write_whole

LOG_BYTES = 1_000_000


def log_to(file: Path) -> None:
    """Keep a log of a bounded size."""
    file.parent.mkdir(parents=True, exist_ok=True)
    handler = logging.handlers.RotatingFileHandler(file, maxBytes=LOG_BYTES, backupCount=2, encoding="utf-8")
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    logging.getLogger().addHandler(handler)


def tell_faults(messages: Messages, file: Path) -> None:
    """Log every unforeseen fault and say where it is logged."""

    def on_fault(kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
        logging.getLogger("kaustos").error("unforeseen", exc_info=(kind, fault, trace))
        messages.error(f"Something went wrong in Kaustos itself ({kind.__name__}). Nothing saved is lost; see {file}.")

    sys.excepthook = on_fault


def write_report(target: Path) -> None:
    """Version, system and the tail of the log as one text; no recipe, lot or name of the shop is put in."""
    import platform

    from PySide6 import __version__ as qt_version

    from kaustos import __version__

    handlers = [each for each in logging.getLogger().handlers if isinstance(each, logging.FileHandler)]
    tail = ""
    for handler in handlers:
        handler.flush()
        tail += Path(handler.baseFilename).read_text(encoding="utf-8", errors="replace")[-60_000:]
    lines = [
        f"Kaustos {__version__}", f"Python {platform.python_version()}, PySide6 {qt_version}",
        f"{platform.system()} {platform.release()} {platform.machine()}", "", tail or "The log is empty.",
    ]  # fmt: skip
    write_whole(target, "\n".join(lines))
