"""Copies, backups and restores are whole, whatever stands under the name before, and delete nothing."""

import os
import shutil
from datetime import timedelta
from unittest.mock import patch

from kaustos.app.restore import restore
from kaustos.app.settings import Settings
from kaustos.app.workspace import Workspace, read_records
from kaustos.core.errors import KaustosError
from kaustos.store import Store, StoreError, WriterLock, back_up, backups_of, sqlite
from kaustos.store.copies import KEPT
from tests.power import power
from tests.store.support import NOW, StoreTest
from tests.support import NOW as MOMENT


class TestCopiesOverWhatIsThere(StoreTest):
    def left_behind(self, name: str, value: int) -> None:
        """A workspace whose writer was killed: the newest record stands in the log alone."""
        store = Store(self.folder / "alive.kaustos", write=True)
        store.put_documents([("card", "a", {"v": 0})], NOW)
        sqlite.fold_in(store._connection)
        store.put_documents([("card", "a", {"v": value})], NOW)
        for ending in ("", "-wal"):
            shutil.copyfile(self.folder / f"alive.kaustos{ending}", self.folder / f"{name}{ending}")
        store.close()
        for each in self.folder.glob("alive*"):
            each.unlink()

    def value(self, name: str):
        store = Store(self.folder / name, write=True)
        self.addCleanup(store.close)
        return store.documents().get("card", {}).get("a")

    def test_a_copy_over_a_left_behind_log_holds_what_was_copied(self):
        self.left_behind("target.kaustos", 7)
        store = Store(self.file, write=True)
        store.put_documents([("card", "a", {"v": 1})], NOW)
        store.copy_to(self.folder / "target.kaustos")
        store.close()
        self.assertEqual(self.value("target.kaustos"), {"v": 1})

    def test_what_cannot_be_opened_is_moved_aside_with_its_log_and_never_deleted(self):
        self.left_behind("target.kaustos", 7)
        log = (self.folder / "target.kaustos-wal").read_bytes()
        (self.folder / "target.kaustos").write_bytes(b"damaged" * 1000)
        store = Store(self.file, write=True)
        store.put_documents([("card", "a", {"v": 1})], NOW)
        store.copy_to(self.folder / "target.kaustos")
        store.close()
        self.assertEqual(self.value("target.kaustos"), {"v": 1})
        self.assertEqual((self.folder / "target.kaustos.aside").read_bytes(), b"damaged" * 1000)
        self.assertEqual((self.folder / "target.kaustos.aside-wal").read_bytes(), log)

    def test_nothing_is_copied_over_a_workspace_that_is_open(self):
        store, other = Store(self.file, write=True), Store(self.folder / "other.kaustos", write=True)
        self.addCleanup(other.close)
        self.addCleanup(store.close)
        with self.assertRaisesRegex(StoreError, "is being written by"):
            store.copy_to(other.file)

    def test_copies_are_on_the_disk_before_they_have_their_names(self):
        store = Store(self.demo(), write=True)
        self.addCleanup(store.close)
        with power() as found:
            store.copy_to(self.folder / "copy.kaustos")
            back_up(self.file, MOMENT)
        self.assertEqual(found.losses(), [])
        self.assertEqual(found.named(), {"copy.kaustos", "shop.kaustos.backup-2026-03-02"})

    def test_a_copy_that_is_not_whole_does_not_take_the_name(self):
        store = Store(self.demo(), write=True)
        self.addCleanup(store.close)
        target = self.folder / "copy.kaustos"
        target.write_bytes(b"what was there")
        damaged = patch("kaustos.store.sqlite.check_whole", side_effect=StoreError("copy", "is damaged"))
        with damaged, self.assertRaises(StoreError):
            store.copy_to(target)
        self.assertEqual(target.read_bytes(), b"what was there")
        self.assertFalse([name for name in self.left() if name.startswith(".kaustos")])


class TestBackups(StoreTest):
    def test_one_a_day_of_use_seven_kept_and_what_was_moved_aside_stays(self):
        self.demo()
        (self.folder / "shop.kaustos.aside").write_bytes(b"keep")
        for day in range(10):
            for hours in (0, 5):
                moment = MOMENT + timedelta(days=day, hours=hours)
                made = back_up(self.file, moment)
                self.assertEqual(made is not None, hours == 0)
                if made:
                    os.utime(made, (moment.timestamp(), moment.timestamp()))
        daily = [each.file.name for each in backups_of(self.file) if each.kind == "backup"]
        self.assertEqual(daily, [f"shop.kaustos.backup-2026-03-{day:02}" for day in range(11, 11 - KEPT, -1)])
        self.assertIn("shop.kaustos.aside", self.left())
        self.assertEqual(read_records(self.folder / daily[0]).cards.keys(), read_records(self.file).cards.keys())

    def test_files_of_other_workspaces_are_none_of_its_backups(self):
        self.demo()
        for name in ("shop.kaustos2.backup-2026-03-02", "shop.kaustos.backup", "my shop.kaustos.aside"):
            (self.folder / name).touch()
        (self.folder / "shop.kaustos.aside-2").symlink_to(self.file)
        self.assertEqual([each.file.name for each in backups_of(self.file)], ["shop.kaustos.backup"])

    def test_a_backup_while_the_writer_writes_is_whole(self):
        store = Store(self.demo(), write=True)
        self.addCleanup(store.close)
        store.put_documents([("card", "late", {"v": 1})], NOW)
        back_up(self.file, MOMENT)
        kept = Store(self.folder / "shop.kaustos.backup-2026-03-02", write=False)
        self.addCleanup(kept.close)
        self.assertEqual(kept.documents()["card"]["late"], {"v": 1})
        store.put_documents([("card", "later", {"v": 2})], NOW)  # reading is no writing by another


class TestRestore(StoreTest):
    def workspace(self):
        workspace = Workspace(self.file, Settings(), lambda: MOMENT)
        self.addCleanup(workspace.close)
        return workspace

    def test_the_state_of_the_backup_is_there_and_the_state_before_is_kept(self):
        self.demo()
        back_up(self.file, MOMENT)
        workspace = self.workspace()
        workspace.draft.propose("name", "After the backup")
        workspace.close()
        with power() as found:
            words = restore(self.file, self.folder / "shop.kaustos.backup-2026-03-02", MOMENT)
        self.assertEqual(found.losses(), [])
        kept = next(each for each in backups_of(self.file) if each.kind == "before-restore")
        self.assertIn(kept.file.name, words)
        self.assertEqual(read_records(kept.file).card.recipe.name, "After the backup")
        self.assertNotEqual(read_records(self.file).card.recipe.name, "After the backup")

    def test_a_damaged_workspace_is_moved_aside_for_the_backup(self):
        self.demo()
        back_up(self.file, MOMENT)
        self.file.write_bytes(b"\0" * 10_000)
        words = restore(self.file, self.folder / "shop.kaustos.backup-2026-03-02", MOMENT)
        self.assertIn("shop.kaustos.aside", words)
        self.assertEqual((self.folder / "shop.kaustos.aside").read_bytes(), b"\0" * 10_000)
        self.assertEqual(len(read_records(self.file).cards), 9)

    def test_refused_copies_touch_nothing_and_leave_nothing(self):
        self.demo()
        Store(self.folder / "nothing.kaustos", write=True).close()
        (self.folder / "empty.kaustos").touch()
        (self.folder / "photo.png").write_bytes(b"\x89PNG" * 100)
        before, names = self.file.read_bytes(), self.left()
        for name in ("nothing.kaustos", "empty.kaustos", "photo.png", "missing.kaustos", ".", "shop.kaustos"):
            with self.subTest(name), self.assertRaises(KaustosError):
                restore(self.file, self.folder / name, MOMENT)
        with WriterLock(self.file), self.assertRaisesRegex(KaustosError, "is being written by"):
            restore(self.file, self.demo("copy.kaustos"), MOMENT)
        self.assertEqual((self.file.read_bytes(), self.left()), (before, sorted([*names, "copy.kaustos"])))

    def test_a_copy_with_a_log_beside_it_is_restored_with_it(self):
        self.demo("copy.kaustos")
        store = Store(self.folder / "copy.kaustos", write=True)
        self.addCleanup(store.close)
        store.put_documents([("jig", "in_the_log", {"v": 1})], NOW)
        restore(self.file, self.folder / "copy.kaustos", MOMENT)
        self.assertIn("in_the_log", read_records(self.file).foreign["jig"])
