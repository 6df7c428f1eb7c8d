"""What a person sees of the workspace's file: gone, damaged, backed up, restored."""

import os
from datetime import timedelta
from unittest.mock import patch

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from kaustos.app.settings import Settings
from kaustos.app.tables import write_tables
from kaustos.app.workspace import read_records
from kaustos.core.errors import KaustosError
from kaustos.store import InUse, WriterLock, back_up
from kaustos.ui.cannot_open import CannotOpen
from kaustos.ui.foot import NOT_SAVED
from kaustos.ui.main import open_window, show_first
from kaustos.ui.shell import Window
from tests.store.support import change
from tests.support import NOW, demo_bytes
from tests.ui.support import AT_ONCE, WindowTest, press_key


class FileTest(WindowTest):
    def demo(self):
        self.file.write_bytes(demo_bytes())
        return self.file

    def command(self, window, words: str) -> None:
        """Type a part of a command's name and press Enter."""
        press_key(Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
        QTest.keyClicks(window.head.command, words)
        press_key(Qt.Key.Key_Return)

    def shown(self):
        return [each for each in QApplication.topLevelWidgets() if isinstance(each, Window) and each.isVisible()]

    def is_locked(self) -> bool:
        try:
            WriterLock(self.file).release()
        except InUse:
            return True
        return False


class TestDisplaced(FileTest):
    def test_a_deleted_workspace_is_told_and_written_anew_by_a_command(self):
        window = self.open()
        self.file.unlink()
        window.desk.propose("name", "Still here")
        window.desk.save_draft()
        self.assertIn("was deleted or moved while it was open", window.message.text.text())
        self.assertEqual(window.foot.state.text(), NOT_SAVED)
        self.command(window, "workspace anew")
        self.assertIn("is written anew", window.message.text.text())
        self.assertEqual(window.foot.state.text(), "Draft saved")
        self.close(window)
        self.assertEqual(read_records(self.file).card.recipe.name, "Still here")

    def test_closing_asks_and_one_key_writes_it_anew(self):
        window = self.open()
        window.desk.propose("name", "Still here")
        self.file.rename(self.folder / "moved.kaustos")
        window.close()
        self.assertTrue(window.isVisible())
        self.assertEqual(QApplication.focusWidget().text(), "Write the workspace anew")
        press_key(Qt.Key.Key_Space)
        self.assertFalse(window.isVisible())
        self.assertEqual(read_records(self.file).card.recipe.name, "Still here")


class TestBackupsInTheWindow(FileTest):
    def test_a_backup_is_made_when_idle_and_listed_and_enter_brings_it_back(self):
        window = self.open()
        window.desk.back_up()
        window.desk.propose("name", "After the backup")
        window.desk.save_draft()
        window.show_room("workspaces")
        listed = window.rooms["workspaces"].backups
        self.assertEqual([each.cells[1] for each in listed.model.rows], ["daily"])
        with patch.object(window.files, "_opener", lambda file: self.open(file=file)):
            listed.view.setFocus()
            listed.view.selectRow(0)
            press_key(Qt.Key.Key_Return)
        other = next(each for each in self.windows if each is not window)
        self.assertEqual(self.shown(), [other])
        self.assertTrue(self.is_locked())
        self.assertIn("Restored from demo.kaustos.backup-2026-03-02", other.message.text.text())
        self.assertNotEqual(other.desk.workspace.draft.records.card.recipe.name, "After the backup")
        self.windows.remove(window)

    def test_a_restore_that_fails_leaves_one_window_with_one_lock_on_what_was_there(self):
        window = self.open()
        window.desk.propose("name", "As it was")
        bad = self.folder / "bad.kaustos"
        bad.write_bytes(b"no workspace at all, but long enough to be looked at" * 100)
        with patch.object(window.files, "_opener", lambda file: self.open(file=file)):
            window.files.restore_from(bad)
        other = next(each for each in self.windows if each is not window)
        self.windows.remove(window)
        self.assertEqual((self.shown(), self.is_locked()), ([other], True))
        self.assertIn("bad.kaustos", other.message.text.text())
        self.assertEqual(other.desk.workspace.draft.records.card.recipe.name, "As it was")
        self.assertFalse(other.desk.workspace.draft.read_only)


class TestReadLater(FileTest):
    def test_the_first_picture_reads_one_recipe_and_no_run_and_all_follows(self):
        window = open_window(self.demo(), Settings(), None, pace=AT_ONCE)
        self.windows.append(window)
        window.show()
        self.app.processEvents()
        tables = window.desk.workspace.draft.records.tables
        self.assertEqual((tables["runs"].is_read, tables["cards"].is_read), (False, False))
        self.assertEqual(window.head.recipe.count(), 1)
        self.assertEqual(window.findings.title.text(), "Findings: computing", "nothing is judged yet, and it says so")
        window.desk.begin()
        self.app.processEvents()
        self.assertEqual((tables["runs"].is_read, tables["cards"].is_read), (True, True))
        self.assertEqual((window.head.recipe.count(), len(tables["runs"])), (9, 12))
        self.assertIn("stop", window.findings.title.text())

    def test_a_run_that_cannot_be_read_is_told_when_it_is_tried_and_can_be_written_out(self):
        change(self.demo(), "UPDATE documents SET document = '{' WHERE id = 'run_0003'")
        window = self.open(file=self.file)
        self.assertIn("The run “run_0003” cannot be read", window.message.text.text())
        self.assertEqual(len(window.desk.workspace.draft.records.runs), 11)
        window.desk.tell(window.desk.set({"runs/run_0001/note": "changed"}))
        window.desk.save_draft()  # what cannot be read stays known when the others are written
        written = write_tables(window.desk.workspace, self.folder)
        self.assertIn("run run_0003", written[-1].read_text())


class TestCannotOpen(FileTest):
    def setUp(self):
        super().setUp()
        folders = {f"XDG_{name}_HOME": str(self.folder / name) for name in ("CONFIG", "STATE", "DATA")}
        patched = patch.dict(os.environ, folders)
        patched.start()
        self.addCleanup(patched.stop)

    def first(self):
        found = show_first(self.file)
        self.app.processEvents()
        self.addCleanup(found.close)
        return found

    def test_a_damaged_workspace_names_the_fault_and_enter_brings_the_newest_state_back(self):
        self.demo()
        for days in (3, 1):
            made = back_up(self.file, NOW - timedelta(days=days))
            at = (NOW - timedelta(days=days)).timestamp()
            os.utime(made, (at, at))
        self.file.write_bytes(b"\0" * 20_000)
        found = self.first()
        self.assertIsInstance(found, CannotOpen)
        self.assertIn("demo.kaustos", found.fault.text())
        self.assertEqual(found.states.count(), 2)
        self.assertIn("01 Mar", found.states.currentItem().text())
        press_key(Qt.Key.Key_Return)
        self.assertFalse(found.isVisible())
        window = self.shown()[0]
        self.windows.append(window)
        self.assertEqual((len(self.shown()), self.is_locked()), (1, True))
        self.assertEqual(len(window.desk.workspace.draft.records.cards), 9)
        self.assertEqual((self.folder / "demo.kaustos.aside").read_bytes(), b"\0" * 20_000)
        window.desk.queue.stop()

    def test_without_an_earlier_state_it_says_so_and_leaves_the_file(self):
        self.file.write_bytes(b"\0" * 20_000)
        found = self.first()
        self.assertFalse(found.back.isEnabled())
        found.bring_back()
        self.assertEqual(self.file.read_bytes(), b"\0" * 20_000)

    def test_a_workspace_that_cannot_be_opened_leaves_the_open_one(self):
        window = open_window(self.demo(), Settings(), None, pace=AT_ONCE)
        self.windows.append(window)
        window.show()
        bad = self.folder / "bad.kaustos"
        bad.write_bytes(b"\0" * 5000)
        with self.assertRaises(KaustosError):
            window.files.open_workspace(bad)
        self.assertEqual(self.shown(), [window])
