"""A workspace file from anybody: checked before use, told in one sentence, nothing run, nothing leaked."""

import os
import random
import sqlite3
import time
from unittest.mock import patch

from kaustos.app.stored import read_whole
from kaustos.store import DamagedWorkspace, NewerWorkspace, NotAWorkspace, Store, StoreError, back_up
from kaustos.store.sqlite import HEAD, LAYOUTS, LONGEST
from tests.store.support import NOW, StoreTest, change, opened_in
from tests.support import NOW as MOMENT


def opens(file, write=True):
    store = Store(file, write=write)
    try:
        return read_whole(store)
    finally:
        store.close()


class TestSchema(StoreTest):
    def test_only_the_tables_of_its_layout_are_taken(self):
        odd = {
            "view": "CREATE VIEW documents_too AS SELECT * FROM documents",
            "trigger": "CREATE TRIGGER spy AFTER INSERT ON documents BEGIN DELETE FROM history; END",
            "table": "CREATE TABLE more (a)",
            "virtual": "CREATE VIRTUAL TABLE words USING fts5(a)",
            "index": "CREATE INDEX more ON documents (changed_utc)",
            "column": "ALTER TABLE documents ADD COLUMN more",
            "missing": "DROP TABLE statuses",
            "generated": "ALTER TABLE history ADD COLUMN more AS (upper(title))",
        }
        for name, statement in odd.items():
            file = self.demo(f"{name}.kaustos")
            change(file, statement)
            before = file.read_bytes()
            for write in (True, False):
                with self.subTest(name, write=write), self.assertRaisesRegex(DamagedWorkspace, "left as it is"):
                    opens(file, write)
            self.assertEqual(file.read_bytes(), before)

    def test_a_view_in_the_place_of_a_table_is_refused(self):
        file = self.demo()
        change(file, "ALTER TABLE documents RENAME TO d", "CREATE VIEW documents AS SELECT * FROM d")
        with self.assertRaises(DamagedWorkspace):
            opens(file)

    def test_newer_older_and_other_files_are_told_apart_before_anything_else(self):
        newer = self.demo("newer.kaustos")
        change(newer, "UPDATE alembic_version SET version_num = '0009'", "CREATE TABLE later (a)")
        with self.assertRaisesRegex(NewerWorkspace, "layout 0009"):
            opens(newer)
        other = self.folder / "other.kaustos"
        change(other, "CREATE TABLE t (a)")
        with self.assertRaisesRegex(NotAWorkspace, "is a database, but not"):
            opens(other)
        for name, content in (("text", b"hello there, no workspace at all"), ("zip", b"PK\3\4" + bytes(5000))):
            file = self.folder / name
            file.write_bytes(content)
            with self.subTest(name), self.assertRaises(NotAWorkspace):
                opens(file)
        empty = self.folder / "empty.kaustos"
        empty.touch()
        with self.assertRaisesRegex(NotAWorkspace, "is empty"):
            opens(empty, write=False)

    def test_a_file_that_lost_its_tables_is_damaged_and_gets_no_new_ones(self):
        file = self.demo()
        change(file, "DELETE FROM sqlite_master")
        before = file.read_bytes()
        for write in (True, False):
            with self.subTest(write), self.assertRaises(StoreError):
                opens(file, write)
        self.assertEqual(file.read_bytes(), before)

    def test_pipes_folders_and_impossible_names_are_refused_at_once(self):
        os.mkfifo(self.folder / "pipe.kaustos")
        for place in (self.folder / "pipe.kaustos", self.folder, self.folder / "a\0b", self.folder / ("x" * 300)):
            for write in (True, False):
                with self.subTest(place, write=write), self.assertRaises(StoreError):
                    opens(place, write)

    def test_the_layouts_are_those_that_the_steps_make(self):
        file = self.demo()
        connection = sqlite3.connect(file)
        self.addCleanup(connection.close)
        tables = [name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        self.assertEqual(set(tables), set(LAYOUTS[HEAD]))

    def test_every_writer_syncs_fully_and_trusts_no_schema(self):
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        names = ("journal_mode", "synchronous", "foreign_keys", "trusted_schema", "cell_size_check")
        found = [store._connection.execute(f"PRAGMA {name}").fetchone()[0] for name in names]
        self.assertEqual(found, ["wal", 2, 1, 0, 1])


class TestCells(StoreTest):
    def test_cells_of_any_kind_close_nothing_else(self):
        file = self.demo()
        change(file, *(f"INSERT INTO documents VALUES ({row}, '{NOW}')" for row in (
            "'machine', 'bad_text', CAST(x'7b22ff' AS TEXT)", "'machine', 'blob', x'00ff'", "'machine', 'number', 7",
            "'machine', x'ff', '{}'", "'machine', 'list', '[]'", f"'machine', 'deep', '{'[' * 100_000}'",
            "'machine', 'nan', '{\"id\": NaN}'",
        )))  # fmt: skip
        records, unread = opens(file)
        self.assertEqual(len(records.cards), 9)
        self.assertEqual(len(unread), 7)
        self.assertTrue(all(each.fault for each in unread))

    def test_the_largest_that_we_store_is_read_back_and_more_is_named(self):
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        store.put_documents([("card", "large", {"v": "x" * 32_000_000})], NOW)
        self.assertEqual(len(store.documents()["card"]["large"]["v"]), 32_000_000)
        with self.assertRaisesRegex(StoreError, "could not be written|refused"):
            store.put_documents([("card", "larger", {"v": "x" * (LONGEST + 2_000_000)})], NOW)
        self.assertEqual(set(store.documents()["card"]), {"large"})

    def test_pages_that_lead_in_circles_end(self):
        file = self.demo()
        with sqlite3.connect(file) as connection:
            size = connection.execute("PRAGMA page_size").fetchone()[0]
            root = connection.execute("SELECT rootpage FROM sqlite_master WHERE name = 'documents'").fetchone()[0]
        connection.close()
        content = bytearray(file.read_bytes())
        page = (root - 1) * size
        self.assertEqual(content[page], 5, "an inner page")
        content[page + 8 : page + 12] = root.to_bytes(4, "big")  # its last child is itself
        file.write_bytes(content)
        begun = time.monotonic()
        with self.assertRaises(DamagedWorkspace):
            opens(file)
        self.assertLess(time.monotonic() - begun, 60.0)


class TestDamage(StoreTest):
    def test_damage_anywhere_ends_in_one_sentence_and_leaks_nothing(self):
        whole = self.demo().read_bytes()
        pick = random.Random(2026)
        for turn in range(150):
            content = bytearray(whole)
            for _ in range(pick.choice((1, 5, 50, 500))):
                content[pick.randrange(len(content) if turn % 3 else 4096)] = pick.randrange(256)
            if turn % 10 == 0:
                del content[pick.randrange(len(content)) :]
            file = self.folder / f"{turn}.kaustos"
            file.write_bytes(content)
            with self.subTest(turn):
                try:
                    records, _ = opens(file, write=bool(turn % 2))
                    self.assertLessEqual(len(records.cards), 9)
                except StoreError as told:
                    self.assertIn(f"{turn}.kaustos", str(told))
                    self.assertNotIn("\n", str(told))
            for each in self.folder.glob(f"{turn}.*"):
                each.unlink()
        self.assertEqual(opened_in(self.file.parent), [])

    def test_the_newest_backup_is_named(self):
        file = self.demo()
        back_up(file, MOMENT)
        file.write_bytes(b"\0" * 8192)
        for write in (True, False):
            with self.assertRaisesRegex(StoreError, r"newest backup is shop\.kaustos\.backup-2026-03-02"):
                opens(file, write)

    def test_a_fault_while_reading_revisions_names_the_file(self):
        store = Store(self.demo(), write=True)
        self.addCleanup(store.close)
        told = self.assertRaisesRegex(DamagedWorkspace, r"shop\.kaustos: cannot be read")
        for read in (lambda: store.revisions("probe_head_shell"), store.history, store.released, store.kept_revisions):
            with patch.multiple("kaustos.store.sqlite", _LEAST_STEPS=0, _STEPS_PER_BYTE=0, _STEPS_AT_ONCE=1), told:
                read()
            self.assertTrue(read())
