"""The workspace file itself: transactions, migration, pragmas."""

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

from kaustos.store import Store, StoreError
from kaustos.store.migrations import STEPS
from kaustos.store.tables import ALL

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
        self.assertEqual(store.documents("card"), {"a": {"v": 1}})

    def test_a_full_disk_is_said_and_what_was_saved_stays(self):
        store = Store(self.file, write=True)
        self.addCleanup(store.close)
        store.put_documents([("card", "a", {"v": 1})], NOW)
        with store._engine.connect() as connection:
            pages = connection.exec_driver_sql("PRAGMA page_count").scalar()
            connection.exec_driver_sql(f"PRAGMA max_page_count = {pages}")
        with self.assertRaisesRegex(StoreError, "disk is full.*untouched"):
            store.put_documents([("card", "b", {"v": "x" * 1_000_000})], NOW)
        self.assertEqual(store.documents("card"), {"a": {"v": 1}})

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
        def fails():
            STEPS["0001"]()
            raise RuntimeError("half-way")

        with mock.patch.dict("kaustos.store.migrations.STEPS", {"0001": fails}), self.assertRaises(RuntimeError):
            Store(self.file, write=True)
        Store(self.file, write=True).close()
        with sqlite3.connect(self.file) as connection:
            self.assertEqual(connection.execute("SELECT version_num FROM alembic_version").fetchall(), [("0001",)])
        connection.close()


def _write_for_ever(file, ready):
    store = Store(Path(file), write=True)
    number = max((each["n"] for each in store.documents("card").values()), default=0)
    while True:
        number += 1
        edit = {"at_utc": NOW, "who": "w", "title": f"edit {number}", "changes": "[]"}
        rows = [("card", "a", {"n": number}), ("card", "b", {"n": number, "pad": "x" * (number * 997 % 20_000)})]
        store.put_documents(rows, NOW, [edit])
        ready.value = number


class TestKills(StoreTest):
    def test_every_acknowledged_save_survives_ten_kills_at_any_moment(self):
        context = multiprocessing.get_context("spawn")
        acknowledged = context.Value("q", 0)
        for kill in range(10):
            begun = acknowledged.value
            writer = context.Process(target=_write_for_ever, args=(str(self.file), acknowledged))
            writer.start()
            while acknowledged.value < begun + 3 + 2 * kill:
                self.assertTrue(writer.is_alive())
                time.sleep(0.0005 * kill)
            os.kill(writer.pid, signal.SIGKILL)
            writer.join()
            with self.subTest(kill=kill):
                self.check(acknowledged.value)

    def check(self, acknowledged):
        store = Store(self.file, write=True)
        found = store.documents("card")
        self.assertEqual(found["a"]["n"], found["b"]["n"], "both records of one save, or neither")
        self.assertGreaterEqual(found["a"]["n"], acknowledged)
        self.assertEqual(store.history(1)[0].title, f"edit {found['a']['n']}", "records and history are one save")
        with store._engine.connect() as connection:
            self.assertEqual(connection.exec_driver_sql("PRAGMA integrity_check").scalar(), "ok")
        store.close()
