"""Opens the window. Order: application, fonts, settings, theme, workspace, desk, window, event loop.

What is heavy and not needed for the first picture (SQLAlchemy, Alembic, WeasyPrint, Jinja2) is imported on first use.
"""

import gc
import logging
import os
import signal
import sys
from datetime import datetime
from pathlib import Path

from PySide6.QtCore import QThreadPool, QTimer
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication, QWidget

from kaustos.app.recent import last_use_file
from kaustos.app.settings import Settings, load_settings, settings_file
from kaustos.app.workspace import Clock, Workspace, utc_now
from kaustos.store import StoreError
from kaustos.ui.desk import Desk
from kaustos.ui.faults import log_to, stand_guard, tell_faults_to
from kaustos.ui.files import Example
from kaustos.ui.jobs import POOLED, Pace
from kaustos.ui.look import ASSETS, apply_colours, apply_sheet, apply_theme, load_fonts
from kaustos.ui.shell import Window


def make_application() -> QApplication:
    """The application with its style and fonts."""
    found = QApplication.instance()
    app = found if isinstance(found, QApplication) else QApplication(sys.argv[:1])
    app.setApplicationName("Kaustos")
    sys.setswitchinterval(0.001)  # jobs on other threads hand over sooner than by their own will: the window goes first
    app.setStyle("Fusion")
    load_fonts()
    return app


def open_window(
    workspace: Path, settings: Settings, settings_path: Path | None, clock: Clock = utc_now, pace: Pace = POOLED,
    last_use: Path | None = None, example: Example | None = None,
) -> Window:  # fmt: skip
    """A window on a workspace, not shown yet."""
    app = QApplication.instance()
    assert isinstance(app, QApplication)
    apply_colours(app, settings.theme)

    def opener(file: Path) -> Window:
        other = open_window(file, load_settings(settings_path)[0] if settings_path else settings, settings_path, clock,
                            pace, last_use, example)  # fmt: skip
        other.show()
        other.desk.begin()
        return other

    window = Window(Desk(Workspace(workspace, settings, clock), pace), settings_path, opener, last_use, example)
    tell_faults_to(window.desk.messages)
    apply_sheet(app, settings.theme)  # one polish of the whole window instead of one for each widget as it is made
    return window


def default_workspace() -> Path:
    """Where the workspace is kept unless the user says otherwise."""
    import platformdirs

    folder = Path(platformdirs.user_data_dir("kaustos"))
    folder.mkdir(parents=True, exist_ok=True)
    return folder / "shop.kaustos"


def log_file() -> Path:
    """Where unforeseen faults are logged."""
    import platformdirs

    return Path(platformdirs.user_log_dir("kaustos")) / "kaustos.log"


def show_first(workspace: Path | None, example: Example | None = None) -> QWidget:
    """Open the window and show it, with everything there is to tell; where that fails, what can be done about it."""
    make_application()
    settings_path = settings_file()
    settings, fault = load_settings(settings_path)

    def opened(file: Path) -> Window:
        window = open_window(file, settings, settings_path, last_use=last_use_file(), example=example)
        window.files.recall()
        if fault:
            window.desk.messages.error(fault)
        return window

    def opened_later(file: Path) -> Window:
        window = opened(file)
        window.show()
        window.desk.begin()
        return window

    file = workspace or default_workspace()
    found: QWidget
    try:
        found = opened(file)
    except StoreError as error:
        from kaustos.ui.cannot_open import CannotOpen

        apply_theme(make_application(), settings.theme)
        found = CannotOpen(file, str(error), opened_later, utc_now)
    found.show()
    QTimer.singleShot(0, gc.enable)
    return found


def run(workspace: Path | None, example: Example | None = None) -> int:
    """Open the window and stay until it is closed or signalled."""
    stand_guard()
    window = show_first(workspace, example)
    QTimer.singleShot(0, window, lambda: _after_first_picture(window))
    _close_on_signal()
    return _ended(QApplication.exec())


def _ended(code: int) -> int:
    """All is saved by now: the process ends, whatever a job that was called off still does."""
    if not QThreadPool.globalInstance().waitForDone(0):
        from kaustos.app.worker import WORKER

        WORKER.stop()
        logging.shutdown()
        for stream in (sys.stdout, sys.stderr):
            stream.flush()
        os._exit(code)  # else the pool waits for it, however long it takes
    return code


def _after_first_picture(window: QWidget) -> None:
    QApplication.setWindowIcon(QIcon(str(ASSETS / "icons" / "kaustos.svg")))
    if isinstance(window, Window):
        window.desk.begin()
    log_to(log_file())


def _close_on_signal() -> None:
    """Ctrl+C and a polite kill save and close like any other way, whichever window is open by then."""
    app = QApplication.instance()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda *_: QApplication.closeAllWindows())
    awake = QTimer(app, interval=200)  # gives Python a turn to see the signal
    awake.timeout.connect(lambda: None)
    awake.start()


def fixed_clock(moment: datetime) -> Clock:
    """A clock that stands still, for pictures that are to be the same again."""
    return lambda: moment


__all__ = ["fixed_clock", "make_application", "open_window", "run", "show_first"]
