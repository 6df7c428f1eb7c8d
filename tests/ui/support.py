"""What window tests share: one application, a fresh demo for each test, and nothing left behind."""

import contextlib
import logging
import sys
import tempfile
import traceback
import unittest
from pathlib import Path
from unittest import mock

from PySide6.QtCore import (
    QCoreApplication,
    QEvent,
    QMimeData,
    QPoint,
    QPointF,
    Qt,
    QThreadPool,
    QTimer,
    QUrl,
    qInstallMessageHandler,
)
from PySide6.QtGui import QDragEnterEvent, QDropEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from kaustos.app.settings import Settings
from kaustos.ui.jobs import AT_ONCE
from kaustos.ui.main import fixed_clock, make_application, open_window
from kaustos.ui.tables import ROW_FAULT
from tests import warm
from tests.support import NOW, demo_bytes

_messages: list[str] = []


LET_THROUGH = "This plugin does not support"


def _on_message(kind: object, _: object, text: str) -> None:
    if not text.startswith(LET_THROUGH):
        _messages.append(f"{kind}: {text}")


def _on_fault(kind, fault, trace) -> None:
    _messages.append("".join(traceback.format_exception(kind, fault, trace)))


class _OnLogged(logging.Handler):
    """What a guard of ours caught is a complaint too."""

    def emit(self, record: logging.LogRecord) -> None:
        if record.exc_info and record.getMessage() in GUARDED:
            _on_fault(*record.exc_info)


GUARDED = ("an override of Qt failed", "a part of the window cannot be shown", ROW_FAULT)
logging.getLogger("kaustos").addHandler(_OnLogged())
qInstallMessageHandler(_on_message)
sys.excepthook = _on_fault


class WindowTest(unittest.TestCase):
    """A window on a fresh copy of the demo."""

    may_complain = False  # whether a test breaks a part of the window on purpose
    may_not_judge = False  # whether a test breaks the judging on purpose
    is_seen = False  # whether the window wears its style sheet and paints: half of what a window costs

    def setUp(self) -> None:
        self.app = make_application()
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)
        self.file = self.folder / "demo.kaustos"
        self.settings_file = self.folder / "settings.json"
        _messages.clear()
        self.addCleanup(self._leaves_nothing)
        self.windows = []

    def open(self, settings: Settings | None = None, file: Path | None = None, pace=AT_ONCE):
        """A shown window; the demo is built on first use."""
        if file is None and not self.file.exists():
            self.file.write_bytes(demo_bytes())
        with contextlib.nullcontext() if self.is_seen else mock.patch("kaustos.ui.main.apply_sheet"):
            window = open_window(
                file or self.file, settings or Settings(who="A. Tester"), self.settings_file, fixed_clock(NOW), pace
            )
        self.windows.append(window)
        window.setUpdatesEnabled(self.is_seen)
        if pace is AT_ONCE:
            window.desk.standings._judge = warm.JUDGE  # nobody judges beside it
        window.desk.begin()
        window.show()
        window.activateWindow()
        self.app.processEvents()
        return window

    def complaints(self) -> list[str]:
        """What Qt or an event handler has complained of so far."""
        return list(_messages)

    def close(self, window) -> None:
        """Close a window as a person does."""
        if not self.may_not_judge:
            self.assertEqual(window.desk.cannot_judge, "", "a recipe could not be judged")
        self.windows.remove(window)
        window.close()
        window.deleteLater()
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)

    def _leaves_nothing(self) -> None:
        for window in tuple(self.windows):
            self.close(window)
        QThreadPool.globalInstance().waitForDone()
        self.assertEqual(QThreadPool.globalInstance().activeThreadCount(), 0)
        left = [widget for widget in QApplication.topLevelWidgets() if widget.isVisible()]
        self.assertEqual(left, [])
        timers = [timer for timer in self.app.findChildren(QTimer) if timer.isActive()]
        self.assertEqual(timers, [])
        if not self.may_complain:
            self.assertEqual(_messages, [], "Qt complained")


def type_into(edit, words: str) -> None:
    """Replace a field's text by typing, and leave it with Enter."""
    edit.setFocus()
    edit.selectAll()
    QTest.keyClicks(edit, words)
    QTest.keyClick(edit, Qt.Key.Key_Return)


def drag(widget, by: int) -> None:
    """Drag a widget up or down by pixels, in steps as a hand does."""
    start = widget.rect().center()
    QTest.mousePress(widget, Qt.MouseButton.LeftButton, pos=start)
    target = widget.mapToGlobal(start + QPoint(0, by))
    steps = 8
    origin = widget.mapToGlobal(start)
    for step in range(1, steps + 1):
        place = origin + (target - origin) * (step / steps)
        QTest.mouseMove(widget, widget.mapFromGlobal(place))
    QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, pos=widget.mapFromGlobal(target))


def carried(*files) -> QMimeData:
    """Files as a file manager hands them over: as addresses, and as text beside them."""
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(each)) for each in files])
    data.setText("\n".join(map(str, files)))
    return data


def drop(widget, *files, data: QMimeData | None = None) -> bool:
    """Drag files over a widget and let them fall there, as Qt delivers it; whether somebody took them."""
    data, place = data or carried(*files), QPointF(widget.rect().center())
    copy, left, none = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    enters = QDragEnterEvent(place.toPoint(), copy, data, left, none)
    QApplication.sendEvent(widget, enters)
    if enters.isAccepted():
        QApplication.sendEvent(widget, QDropEvent(place, copy, data, left, none))
    QApplication.processEvents()
    return enters.isAccepted()


def press_key(key, modifier=Qt.KeyboardModifier.NoModifier) -> None:
    """A key where the hand is: it goes to the widget that has the focus."""
    QTest.keyClick(QApplication.focusWidget(), key, modifier)
    QApplication.processEvents()
