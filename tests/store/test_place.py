"""What happens to a workspace's file while it is open, and where it cannot be written at all."""

import contextlib
import os
import shutil
import sqlite3

from kaustos.app.settings import Settings
from kaustos.app.workspace import Workspace, read_records
from kaustos.core.errors import KaustosError
from kaustos.store import Displaced, Store
from tests.asserting import every
from tests.store.support import NOW, StoreTest, without_rights
from tests.store.test_store import OLD
from tests.support import NOW as MOMENT


class PlaceTest(StoreTest):
    def workspace(self):
        workspace = Workspace(self.file, Settings(who="A. Tester"), lambda: MOMENT)
        self.addCleanup(workspace.close, discard=True)
        return workspace


class TestDisplaced(PlaceTest):
    def displacements(self):
        def replaced():
            other = self.demo("other.kaustos")
            os.replace(other, self.file)

        def written():
            with contextlib.closing(sqlite3.connect(self.file)) as other:
                other.execute("UPDATE documents SET changed_utc = 'now'")
                other.commit()

        return {
            "deleted": self.file.unlink,
            "moved": lambda: self.file.rename(self.folder / "moved.kaustos"),
            "replaced": replaced,
            "written": written,
        }

    def test_it_is_noticed_before_the_next_save_and_written_anew_on_request(self):
        for name, displace in every(self.displacements().items()):
            with self.subTest(name):
                for each in self.folder.iterdir():
                    each.unlink()
                self.demo()
                workspace = self.workspace()
                workspace.draft.propose("name", "First")
                workspace.autosave()
                workspace.save_revision("kept")
                displace()
                workspace.draft.propose("name", "Second")
                with self.assertRaisesRegex(Displaced, "nothing was written.*Write the workspace anew"):
                    workspace.autosave()
                self.assertTrue(workspace.unsaved)
                words = workspace.write_anew()
                self.assertFalse(workspace.unsaved)
                self.assertEqual("kept as" in words, name in ("replaced", "written"))
                workspace.draft.propose("brief.mass_g", "77")
                workspace.close()
                again = self.workspace()
                recipe = again.draft.records.card.recipe
                self.assertEqual((recipe.name, recipe.brief.mass_g), ("Second", 77.0))
                self.assertEqual(again.revisions()[0].why, "kept")
                again.close()
                if name == "replaced":
                    self.assertEqual(len(read_records(self.folder / "shop.kaustos.aside").cards), 9)

    def test_a_copy_can_be_saved_where_the_file_cannot_be_read_any_more(self):
        self.demo()
        workspace = self.workspace()
        workspace.draft.propose("name", "Only on the screen")
        with contextlib.closing(workspace._store._connection):
            workspace._store._connection = sqlite3.connect(":memory:")
        left_out = workspace.save_copy(self.folder / "copy.kaustos")
        self.assertIn("Revisions, photos and what was not read yet are not in it", left_out)
        self.assertEqual(read_records(self.folder / "copy.kaustos").card.recipe.name, "Only on the screen")


class TestReadingOnly(PlaceTest):
    def opened(self, mode=0o555):
        with without_rights(self.folder, mode):
            workspace = self.workspace()
            records = workspace.draft.records
            self.assertTrue(workspace.draft.read_only)
            with self.assertRaises(KaustosError):
                workspace.draft.propose("name", "No")
            workspace.close()
        return records, workspace.notice

    def test_a_folder_that_cannot_be_written_opens_for_reading(self):
        self.demo()
        records, notice = self.opened()
        self.assertEqual((len(records.cards), self.left()), (9, ["shop.kaustos"]))
        self.assertRegex(notice, "could not be written.*reading only")

    def test_a_file_that_cannot_be_written_opens_for_reading(self):
        self.demo().chmod(0o444)
        records, notice = self.opened(0o777)
        self.assertEqual(len(records.cards), 9)
        self.assertIn("reading only", notice)

    def test_what_stands_in_a_live_log_is_read_from_there_too(self):
        self.demo()
        store = Store(self.file, write=True)
        store.put_documents([("jig", "in_the_log", {"v": 1})], NOW)
        copy = self.folder / "sub"
        copy.mkdir()
        for ending in ("", "-wal"):
            shutil.copyfile(f"{self.file}{ending}", copy / f"shop.kaustos{ending}")
        store.close()
        self.folder, self.file = copy, copy / "shop.kaustos"
        before = {name: (copy / name).read_bytes() for name in self.left()}
        records, _ = self.opened()
        self.assertIn("in_the_log", records.foreign["jig"])
        self.assertEqual({name: (copy / name).read_bytes() for name in self.left()}, before)

    def test_an_older_layout_is_read_through_a_migrated_copy(self):
        shutil.copyfile(OLD / "layout-0001.kaustos", self.file)
        before = self.file.read_bytes()
        records, notice = self.opened()
        self.assertEqual((len(records.cards), self.left(), self.file.read_bytes()), (4, ["shop.kaustos"], before))
        self.assertIn("A copy of it is shown", notice)
        self.assertEqual(len(read_records(self.file).cards), 4)

    def test_a_second_window_reads_what_the_first_writes(self):
        self.demo()
        writer, reader = self.workspace(), self.workspace()
        self.assertEqual((writer.draft.read_only, reader.draft.read_only), (False, True))
        writer.draft.propose("name", "From the first")
        writer.autosave()
        self.assertTrue(reader.follow())
        self.assertEqual(reader.draft.records.card.recipe.name, "From the first")
