"""The lock of a workspace: one writer, whatever becomes of the lock file."""

import multiprocessing
import os
import stat
from pathlib import Path

from kaustos.store import InUse, NotWritable, Store, StoreError, WriterLock
from tests.store.support import NOW, StoreTest, without_rights


class TestLock(StoreTest):
    def lock_file(self) -> Path:
        return self.folder / "shop.kaustos.lock"

    def test_a_lock_is_held_by_one_and_gone_when_let_go(self):
        with WriterLock(self.file):
            with self.assertRaisesRegex(InUse, f"process {os.getpid()}"):
                WriterLock(self.file)
            self.assertTrue(self.lock_file().exists())
        self.assertEqual(self.left(), [])

    def test_a_link_in_the_place_of_the_lock_is_not_followed(self):
        other = self.folder / "precious"
        other.write_text("keep")
        self.lock_file().symlink_to(other)
        with self.assertRaisesRegex(NotWritable, "is a link"):
            WriterLock(self.file)
        self.assertEqual((other.read_text(), self.lock_file().is_symlink()), ("keep", True))

    def test_a_folder_or_pipe_in_its_place_is_told_and_waited_for_by_nobody(self):
        self.lock_file().mkdir()
        with self.assertRaises(NotWritable):
            WriterLock(self.file)
        self.lock_file().rmdir()
        os.mkfifo(self.lock_file())
        with self.assertRaisesRegex(NotWritable, "is no file"):
            WriterLock(self.file)

    def test_who_may_write_the_folder_may_write_the_lock(self):
        mask = os.umask(0)
        self.addCleanup(os.umask, mask)
        for mode, rights in ((0o770, 0o660), (0o755, 0o644)):
            self.folder.chmod(mode)
            with WriterLock(self.file):
                self.assertEqual(stat.S_IMODE(self.lock_file().stat().st_mode), rights)

    def test_a_lock_left_by_a_kill_is_taken_over(self):
        self.lock_file().write_text("somebody who is gone")
        with WriterLock(self.file):
            self.assertIn(str(os.getpid()), self.lock_file().read_text())

    def test_of_many_that_come_and_go_never_two_hold_it(self):
        context = multiprocessing.get_context("fork")
        inside, most = context.Value("i", 0), context.Value("i", 0)

        def come_and_go():
            for _ in range(150):
                try:
                    with WriterLock(self.file):
                        with inside.get_lock():
                            inside.value += 1
                            most.value = max(most.value, inside.value)
                        with inside.get_lock():
                            inside.value -= 1
                except InUse:
                    pass

        processes = [context.Process(target=come_and_go) for _ in range(4)]
        for each in processes:
            each.start()
        for each in processes:
            each.join()
        self.assertEqual(([each.exitcode for each in processes], most.value), ([0] * 4, 1))

    def test_a_deleted_lock_file_is_taken_again_before_the_next_save(self):
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        self.lock_file().unlink()
        store.put_documents([("card", "a", {"v": 1})], NOW)
        with self.assertRaises(InUse):
            Store(self.file, write=True)

    def test_a_second_writer_that_took_the_lock_meanwhile_is_noticed(self):
        store = Store(self.file, write=True)
        store.put_documents([("card", "a", {"v": 1})], NOW)
        self.lock_file().unlink()
        other = Store(self.file, write=True)
        self.addCleanup(other.close)
        with self.assertRaises(InUse):
            store.put_documents([("card", "a", {"v": 2})], NOW)
        self.assertEqual(other.documents()["card"]["a"], {"v": 1})
        store.close()
        with self.assertRaises(InUse):
            Store(self.file, write=True)

    def test_a_folder_that_cannot_be_written_is_told_as_such(self):
        self.demo()
        with without_rights(self.folder, 0o555), self.assertRaisesRegex(StoreError, "could not be written"):
            Store(self.file, write=True)
        self.assertEqual(self.left(), ["shop.kaustos"])
