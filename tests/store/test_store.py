"""The workspace file itself: transactions, migration, pragmas."""

import hashlib
import multiprocessing
import os
import signal
import sqlite3
import tempfile
import time
import unittest
from pathlib import Path
from unittest import mock

from sqlalchemy import create_engine, inspect

from kaustos.store import StatusEntry, Store, StoreError
from kaustos.store.tables import ALL
from tests.asserting import every

OLD = Path(__file__).parent / "old"
NOW = "2026-03-02T08:00:00.000000Z"


class StoreTest(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.file = Path(scratch.name) / "shop.kaustos"


class TestTransactions(StoreTest):
    def test_all_or_none(self):
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        store.put_documents([("card", "a", {"v": 1})], NOW)
        with self.assertRaises(StoreError):
            store.put_documents(
                [("card", "a", {"v": 2})], NOW, [{"at_utc": NOW, "who": "x", "title": None, "changes": ""}]
            )
        self.assertEqual(store.documents()["card"], {"a": {"v": 1}})

    def test_a_full_disk_is_said_and_what_was_saved_stays(self):
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        store.put_documents([("card", "a", {"v": 1})], NOW)
        with store._engine.connect() as connection:
            pages = connection.exec_driver_sql("PRAGMA page_count").scalar()
            connection.exec_driver_sql(f"PRAGMA max_page_count = {pages}")
        with self.assertRaisesRegex(StoreError, "disk is full.*untouched"):
            store.put_documents([("card", "b", {"v": "x" * 1_000_000})], NOW)
        self.assertEqual(store.documents()["card"], {"a": {"v": 1}})

    def test_the_file_is_written_with_a_log_and_full_sync(self):
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        with store._engine.connect() as connection:
            pragmas = [connection.exec_driver_sql(f"PRAGMA {name}").scalar() for name in
                       ("journal_mode", "synchronous", "foreign_keys", "busy_timeout")]  # fmt: skip
        self.assertEqual(pragmas, ["wal", 2, 1, 5000])


class TestMigration(StoreTest):
    def test_the_steps_make_exactly_the_columns_that_the_queries_name(self):
        Store(self.file, write=True).close()
        made = create_engine(f"sqlite:///{self.file}")
        self.addCleanup(made.dispose)
        names = [each.name for each in ALL]
        self.assertEqual(sorted(inspect(made).get_table_names()), sorted([*names, "alembic_version"]))
        for each in ALL:
            with self.subTest(each.name):
                columns = [column["name"] for column in inspect(made).get_columns(each.name)]
                self.assertEqual(columns, [column.name for column in each.columns])

    def test_a_step_that_fails_leaves_the_file_as_it_was(self):
        def fails(*_):
            raise RuntimeError("half-way")

        self.file.write_bytes((OLD / "layout-0001.kaustos").read_bytes())
        with mock.patch("alembic.op.create_index", fails), self.assertRaises(RuntimeError):
            Store(self.file, write=True)
        with sqlite3.connect(self.file) as connection:
            self.assertEqual(connection.execute("SELECT version_num FROM alembic_version").fetchall(), [("0001",)])
            self.assertFalse(connection.execute("SELECT * FROM sqlite_master WHERE name = 'statuses'").fetchall())
        connection.close()
        Store(self.file, write=True).close()

    def test_every_stored_old_file_opens_whole_and_its_old_state_is_kept_beside(self):
        for old in every(sorted(OLD.glob("layout-*.kaustos"))):
            with self.subTest(old.name):
                file = self.file.with_name(old.name)
                file.write_bytes(old.read_bytes())
                store = Store(file, write=True)
                self.assertEqual(len(store.revisions("probe_head_shell")), 3)
                self.assertEqual(len(store.documents()["card"]), 4)
                self.assertEqual([each.status for each in store.statuses("probe_head_shell")], ["draft"] * 3)
                store.close()
                kept = file.with_name(f"{old.name}.before-layout-0001")
                with sqlite3.connect(kept) as connection:
                    self.assertEqual(connection.execute("SELECT count(*) FROM revisions").fetchone(), (3,))
                    self.assertEqual(
                        connection.execute("SELECT version_num FROM alembic_version").fetchone(), ("0001",)
                    )
                connection.close()

    def test_a_kill_in_the_middle_of_a_migration_leaves_the_old_layout_whole(self):
        self.file.write_bytes((OLD / "layout-0001.kaustos").read_bytes())
        context = multiprocessing.get_context("forkserver")  # a process without threads, that has loaded the store
        context.set_forkserver_preload([__name__])
        begun = context.Event()
        process = context.Process(target=_migrate_slowly, args=(str(self.file), begun))
        process.start()
        self.assertTrue(begun.wait(30))
        os.kill(process.pid, signal.SIGKILL)
        process.join()
        with sqlite3.connect(self.file) as connection:
            self.assertEqual(connection.execute("PRAGMA integrity_check").fetchone(), ("ok",))
            self.assertEqual(connection.execute("SELECT version_num FROM alembic_version").fetchone(), ("0001",))
        connection.close()
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        self.assertEqual(len(store.revisions("probe_head_shell")), 3)


def _migrate_slowly(file, begun):
    """Migrate with a pause between the last step and the commit, in which the kill falls."""

    def slow(*_):
        begun.set()
        time.sleep(60)

    with mock.patch("alembic.op.create_index", slow):
        Store(Path(file), write=True)


class TestStatusesAndAttachments(StoreTest):
    def test_a_revision_keeps_its_content_and_its_status_changes_are_listed(self):
        self.file.write_bytes((OLD / "layout-0001.kaustos").read_bytes())
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        before = {each.number: each.document for each in store.revisions("probe_head_shell")}
        store.set_status(
            "probe_head_shell", 2, StatusEntry(number=2, status="released", who="A", why="held", at_utc=NOW)
        )
        found = store.revisions("probe_head_shell")
        self.assertEqual([each.status for each in found], ["draft", "released", "draft"])
        self.assertEqual({each.number: each.document for each in found}, before)
        newest = store.statuses("probe_head_shell")[0]
        self.assertEqual((newest.number, newest.status, newest.who, newest.why), (2, "released", "A", "held"))

    def test_an_attachment_is_kept_once_under_its_fingerprint(self):
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        key = store.attach("a.png", b"picture", NOW)
        self.assertEqual(store.attach("b.png", b"picture", NOW), key)
        self.assertEqual(key, hashlib.sha256(b"picture").hexdigest())
        self.assertEqual((store.attachment(key), store.attachment("0" * 64)), (b"picture", None))

    def test_a_copy_is_whole_and_never_lands_on_the_open_file(self):
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        store.put_documents([("card", "a", {"v": 1})], NOW)
        copy = self.file.with_name("copy.kaustos")
        store.copy_to(copy)
        with self.assertRaisesRegex(StoreError, "the open workspace itself"):
            store.copy_to(self.file)
        with self.assertRaisesRegex(StoreError, "could not be written"):
            store.copy_to(self.file.parent / "nowhere" / "copy.kaustos")
        other = Store(copy, write=True)
        self.addCleanup(other.close)
        self.assertEqual(other.documents()["card"], {"a": {"v": 1}})

    def test_a_reader_sees_that_the_writer_wrote(self):
        writer = Store(self.file, write=True)
        self.addCleanup(writer.close)
        reader = Store(self.file, write=False)
        self.addCleanup(reader.close)
        before = reader.version()
        self.assertEqual(reader.version(), before)
        writer.put_documents([("card", "a", {"v": 1})], NOW)
        self.assertNotEqual(reader.version(), before)


def _write_for_ever(file, ready):
    store = Store(Path(file), write=True)
    number = max((each["n"] for each in store.documents().get("card", {}).values()), default=0)
    while True:
        number += 1
        edit = {"at_utc": NOW, "who": "w", "title": f"edit {number}", "changes": "[]"}
        rows = [("card", "a", {"n": number}), ("card", "b", {"n": number, "pad": "x" * (number * 997 % 20_000)})]
        store.put_documents(rows, NOW, [edit])
        ready.value = number


class TestKills(StoreTest):
    def test_every_acknowledged_save_survives_ten_kills_at_any_moment(self):
        context = multiprocessing.get_context("forkserver")  # a process without threads, that has loaded the store
        context.set_forkserver_preload([__name__])
        acknowledged = context.Value("q", 0)
        for kill in range(10):
            begun = acknowledged.value
            writer = context.Process(target=_write_for_ever, args=(str(self.file), acknowledged))
            writer.start()
            while acknowledged.value < begun + 3 + 2 * kill:
                self.assertTrue(writer.is_alive())
                time.sleep(0.0005 * (kill + 1))
            os.kill(writer.pid, signal.SIGKILL)
            writer.join()
            with self.subTest(kill=kill):
                self.check(acknowledged.value)

    def check(self, acknowledged):
        store = Store(self.file, write=True)
        found = store.documents()["card"]
        self.assertEqual(found["a"]["n"], found["b"]["n"], "both records of one save, or neither")
        self.assertGreaterEqual(found["a"]["n"], acknowledged)
        self.assertEqual(store.history(1)[0].title, f"edit {found['a']['n']}", "records and history are one save")
        with store._engine.connect() as connection:
            self.assertEqual(connection.exec_driver_sql("PRAGMA integrity_check").scalar(), "ok")
        store.close()
