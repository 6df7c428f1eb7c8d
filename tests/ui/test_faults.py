"""What nobody foresaw is logged without words of the shop, told, and ends nothing."""

import ast
import importlib
import logging
import pkgutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

from PySide6.QtCore import QCoreApplication, QEvent, QSize, Qt
from PySide6.QtWidgets import QWidget

import kaustos
import kaustos.ui
from kaustos.app.messages import Messages
from kaustos.ui.cover import Cover
from kaustos.ui.faults import log_to, stand_guard, tell_faults_to, write_report
from tests.support import demo_bytes
from tests.ui.support import WindowTest

NOT_VIRTUAL = {"setText", "text"}  # methods of ours that hide those of Qt; Qt itself never calls them
ANSWERS = {"sizeHint": QSize, "rowCount": 0, "columnCount": 0, "lessThan": False, "eventFilter": False}  # others: None


def overrides():
    """Every method of ours that Qt may call in the place of its own: class, name, method."""
    for found in pkgutil.walk_packages(kaustos.ui.__path__, "kaustos.ui."):
        module = importlib.import_module(found.name)
        for one in vars(module).values():
            if not isinstance(one, type) or one.__module__ != module.__name__ or getattr(one, "_is_protocol", False):
                continue
            bases = [each for each in one.__mro__[1:] if each.__module__.startswith("PySide6")] or [QWidget]
            names = {name for each in bases for base in each.__mro__ for name in vars(base)} - NOT_VIRTUAL
            for name, method in vars(one).items():
                if callable(method) and not name.startswith("_") and name in names:
                    yield one, name, method


class TestGuards(unittest.TestCase):
    def test_every_override_is_guarded_and_declares_what_qt_gets(self):
        found = list(overrides())
        self.assertGreater(len(found), 35)
        for one, name, method in found:
            with self.subTest(f"{one.__qualname__}.{name}"):
                answer, refuse = getattr(method, "guard", (None, None))
                self.assertIsNotNone(refuse, "is not guarded")
                self.assertEqual((answer, refuse), (ANSWERS.get(name), name == "closeEvent"))

    def test_every_kind_of_override_fails_for_real_and_the_process_lives(self):
        with tempfile.TemporaryDirectory() as scratch:
            file = Path(scratch) / "demo.kaustos"
            file.write_bytes(demo_bytes())
            done = subprocess.run(
                [sys.executable, "-c", _CHILD, str(file)], capture_output=True, text=True, timeout=120, check=False
            )
        self.assertEqual(done.returncode, 0, done.stdout[-1000:] + done.stderr[-3000:])
        hit = set(done.stdout.split())
        self.assertGreaterEqual(hit, {
            "paintEvent", "showEvent", "closeEvent", "eventFilter", "sizeHint", "rowCount", "columnCount", "data",
            "headerData", "keyPressEvent", "mousePressEvent", "resizeEvent", "focusInEvent", "dragEnterEvent",
            "wheelEvent", "run",
        })  # fmt: skip


_CHILD = """
import os
import sys
from pathlib import Path
from PySide6.QtCore import QMimeData, QModelIndex, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QAbstractItemView, QApplication, QComboBox, QWidget
from kaustos.app.settings import Settings
from kaustos.ui.faults import guarded
from kaustos.ui.main import make_application, open_window
from tests.ui.test_faults import overrides

hit = set()
sys.excepthook = sys.__excepthook__  # importing the tests has put another in its place
def failing(name):
    def fails(self, *given):
        hit.add(name)
        return int("x")  # raised in C
    return fails

app = make_application()
window = open_window(Path(sys.argv[1]), Settings(), None)
window.show()
window.desk.begin()
for room in ("runs", "stock", "recipes", "settings", "recipe"):
    window.show_room(room)
    app.processEvents()
for one, name, method in overrides():
    answer, refuse = method.guard
    setattr(one, name, guarded(answer, refuse=refuse)(failing(name)))
for room in ("machines", "runs", "atlas", "recipe", "settings", "stock", "recipe"):
    window.show_room(room)
    app.processEvents()
window.resize(1300, 820)
for widget in window.findChildren(QWidget):
    try:
        widget.setFocus()
        QTest.keyClick(widget, Qt.Key.Key_A)
        if not isinstance(widget, (QAbstractButton, QComboBox)):  # those open dialogs, which wait for a person
            QTest.mousePress(widget, Qt.MouseButton.LeftButton)
            QTest.mouseRelease(widget, Qt.MouseButton.LeftButton)
        spot = QPointF(3, 3)
        QApplication.sendEvent(widget, QWheelEvent(spot, spot, QPoint(0, 10), QPoint(0, 10), Qt.MouseButton.NoButton,
                               Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False))
        widget.sizeHint()
        QWidget.update(widget)
        if isinstance(widget, QAbstractItemView) and widget.model() is not None:
            model = widget.model()
            model.rowCount(), model.columnCount(), model.headerData(0, Qt.Orientation.Horizontal)
            model.data(QModelIndex())
    except ValueError:
        raise SystemExit(f"a fault left an override of {widget}")
data = QMimeData()
data.setUrls([QUrl.fromLocalFile("/x.csv")])
where = (QPoint(3, 3), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)
QApplication.sendEvent(window, QDragEnterEvent(*where))
window.desk.look_round()
app.processEvents()
assert not window.close() and window.isVisible(), "a window whose closing failed stays"
print(*hit)
sys.stdout.flush()
os._exit(0)
"""


class TestTelling(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)
        hook, handlers = sys.excepthook, list(logging.getLogger().handlers)

        def undo():
            sys.excepthook = hook
            for handler in set(logging.getLogger().handlers) - set(handlers):
                logging.getLogger().removeHandler(handler)
                handler.close()

        self.addCleanup(undo)

    def test_a_fault_of_ours_is_logged_with_its_place_and_no_words_of_the_shop(self):
        file = self.folder / "log" / "kaustos.log"
        messages, heard = Messages(), []
        messages.listen(heard.append)
        with patch("threading.excepthook"):
            stand_guard()
        log_to(file)
        tell_faults_to(messages)
        try:
            try:
                raise KeyError("machine Crag at 231 °C")
            except KeyError as inner:
                raise ZeroDivisionError("recipe Winch bracket") from inner
        except ZeroDivisionError as fault:
            sys.excepthook(type(fault), fault, fault.__traceback__)
        logging.getLogger("kaustos").error("%s %s cannot be read", "machine", "Crag")
        text = file.read_text()
        write_report(self.folder / "report.txt")
        self.assertIn("ZeroDivisionError", heard[0].text)
        for where in (text, (self.folder / "report.txt").read_text()):
            self.assertRegex(where, r"ZeroDivisionError\n.*test_faults\.py:\d+ in test_a_fault")
            self.assertIn("KeyError", where)
            self.assertIn("%s %s cannot be read", where)
            for words in ("Crag", "Winch", "231"):
                self.assertNotIn(words, where)

    def test_what_is_logged_is_a_fixed_sentence_and_its_values_stand_apart(self):
        seen = 0
        for file in Path(kaustos.__file__).parent.rglob("*.py"):
            for call in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
                name = call.func.attr if isinstance(call, ast.Call) and isinstance(call.func, ast.Attribute) else ""
                if name in ("warning", "exception") or (name == "error" and "_LOG" in ast.unparse(call.func)):
                    seen += 1
                    first = call.args[0]
                    is_fixed = isinstance(first, ast.Constant) or (isinstance(first, ast.Name) and first.id.isupper())
                    self.assertTrue(is_fixed, f"{file.name}:{call.lineno}: the log would hold words of the shop")
        self.assertGreater(seen, 8)

    def test_a_log_that_cannot_be_written_ends_nothing(self):
        (self.folder / "log").write_text("a file in the way")
        log_to(self.folder / "log" / "kaustos.log")
        self.assertEqual((self.folder / "log").read_text(), "a file in the way")

    def test_messages_are_held_until_somebody_listens(self):
        messages, heard = Messages(), []
        messages.error("first")
        messages.note("second")
        messages.listen(heard.append)
        self.assertEqual([(each.text, each.is_error) for each in heard], [("first", True), ("second", False)])


class TestAPartThatFails(WindowTest):
    may_complain = True

    def test_it_is_told_and_the_others_go_on_and_edits_are_saved(self):
        window = self.open()
        with patch.object(type(window.findings), "refresh", lambda _: int("x")):
            window.desk.propose("brief.mass_g", "77")
            self.assertIn("FindingsPanel cannot be shown", window.message.text.text())
            window.desk.save_draft()
        self.assertFalse(window.desk.workspace.unsaved)

    def test_nothing_old_is_read_where_a_part_could_not_be_shown_until_it_can(self):
        window = self.open()
        panel = window.findings
        with patch.object(type(panel), "refresh", lambda _: int("x")):
            window.desk.propose("brief.mass_g", "77")
            (cover,) = (each for each in panel.children() if isinstance(each, Cover))
            self.assertEqual(cover.geometry(), panel.rect())
            self.assertTrue(cover.isVisible() and cover.testAttribute(Qt.WidgetAttribute.WA_StyledBackground))
            self.assertIn("cannot be shown: ValueError", cover.text())
            self.assertIs(panel.childAt(panel.rect().center()), cover, "it lies over everything")
            window.resize(1500, 900)
            self.app.processEvents()
            self.assertEqual(cover.geometry(), panel.rect())
            window.desk.propose("brief.mass_g", "78")
            self.assertEqual(sum(isinstance(each, Cover) for each in panel.children()), 1, "one is enough")
        window.desk.propose("brief.mass_g", "79")
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        self.assertEqual([each for each in panel.children() if isinstance(each, Cover)], [])
