"""A workspace written before the joints were rebuilt: every spelling in it stays readable and is written back."""

import contextlib
import json
import sqlite3
import tempfile
import unittest
from pathlib import Path

from kaustos.app.settings import Settings
from kaustos.app.workspace import Workspace, fill
from kaustos.formats.recipe_file import recipe_from
from tests.asserting import every
from tests.support import NOW

STORED = Path(__file__).parent / "stored" / "step-3.kaustos"


def keeps(test, old, new, path):
    """Everything that stood in a document stands in the other; the other may say more."""
    if isinstance(old, dict):
        for key, each in old.items():
            test.assertIn(key, new, path)
            keeps(test, each, new[key], f"{path}.{key}")
    elif isinstance(old, list):
        test.assertEqual(len(old), len(new), path)
        for place, (one, other) in enumerate(zip(old, new, strict=True)):
            keeps(test, one, other, f"{path}[{place}]")
    else:
        test.assertEqual(old, new, path)


class TestStoredSpellings(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.file = Path(scratch.name) / "stored.kaustos"
        self.file.write_bytes(STORED.read_bytes())
        self.before = self.rows("SELECT kind, id, document FROM documents")
        self.workspace = Workspace(self.file, Settings(who="A. Tester"), clock=lambda: NOW)
        self.addCleanup(self.workspace.close)

    def rows(self, query):
        with contextlib.closing(sqlite3.connect(f"file:{self.file}?mode=ro", uri=True)) as connection:
            return connection.execute(query).fetchall()

    def test_every_document_is_written_back_as_it_was(self):
        copy = self.file.with_name("copy.kaustos")
        fill(copy, self.workspace.draft.records)
        with contextlib.closing(sqlite3.connect(copy)) as connection:
            rows = connection.execute("SELECT kind, id, document FROM documents").fetchall()
        after = {(kind, key): text for kind, key, text in rows}
        self.assertEqual({(kind, key) for kind, key, _ in self.before}, set(after))
        for kind, key, text in self.before:
            with self.subTest(f"{kind} {key}"):
                keeps(self, json.loads(text), json.loads(after[kind, key]), "document")

    def test_every_place_of_the_history_is_a_place_of_now(self):
        records = self.workspace.draft.records
        places = [each["place"] for (text,) in self.rows("SELECT changes FROM history") for each in json.loads(text)]
        self.assertGreater(len(places), 20)
        for place in places:
            with self.subTest(place):
                records.at(records.place(place))  # raises where it is no place

    def test_every_revision_is_read_and_run_comparisons_find_it(self):
        revisions = ((card, each) for card in self.workspace.draft.records.cards
                     for each in self.workspace.revisions_of(card))  # fmt: skip
        for card, revision in every(revisions):
            with self.subTest(f"{card} {revision.number}"):
                document = recipe_from(json.loads(revision.document), "revision")
                self.assertEqual(document.recipe.polymer, revision.polymer)

    def test_photos_are_found_under_the_fingerprint_that_a_record_holds(self):
        records = self.workspace.draft.records
        kept = [photo for each in (*records.lots.values(), *records.runs.values()) for photo in each.photos]
        self.assertEqual(len(kept), 2)
        for photo in kept:
            self.assertEqual(self.workspace.attachment(photo.sha256), b"\x89PNG made up")
