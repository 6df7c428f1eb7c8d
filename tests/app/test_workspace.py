"""The open workspace: autosave, revisions, files in and out, and what it refuses."""

import json
import sqlite3
import tempfile
import unittest
from pathlib import Path

from kaustos.app.results import Results, request_for
from kaustos.app.revisions import differences
from kaustos.app.settings import Settings, load_settings, save_settings
from kaustos.app.wording import Wording
from kaustos.app.workspace import Workspace, read_records
from kaustos.core.errors import KaustosError
from kaustos.core.review import BY_KEY, is_same
from kaustos.demo.scenario import RECORDS
from kaustos.formats.recipe_file import recipe_document
from kaustos.store import DamagedWorkspace, NewerWorkspace, NotAWorkspace, Store, StoreError
from tests.asserting import every
from tests.support import NOW, changed, demo_bytes, opened, recipe_and_context


class WorkspaceTest(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)
        self.file = self.folder / "demo.kaustos"

    def demo(self, **settings):
        if not self.file.exists():
            self.file.write_bytes(demo_bytes())
        workspace = Workspace(self.file, Settings(**settings), lambda: NOW)
        self.addCleanup(self.quietly, workspace)
        return workspace

    @staticmethod
    def quietly(workspace):
        if workspace._store._lock or not workspace._store.write:
            workspace.close()


class TestKeeping(WorkspaceTest):
    def test_what_is_saved_comes_back_after_reopening(self):
        workspace = self.demo(who="A. Tester")
        workspace.draft.propose("melt.nozzle_c", "371")
        workspace.draft.propose("machine.chamber.heater.max_c", "130")
        workspace.draft.propose("lot.lot_values.glass_transition_c", "182 ± 1")
        workspace.draft.propose("rules.headroom_k", "4")
        expected = workspace.draft.records
        self.assertEqual((len(expected.cards), len(expected.runs)), (9, 12))  # read before the file is let go
        workspace.close()
        again = self.demo()
        self.assertEqual(again.draft.records, expected)
        self.assertEqual(again.history()[0][1:], ("A. Tester", "Headroom a controller needs: 4 K"))

    def test_an_unclosed_workspace_still_holds_what_was_autosaved(self):
        workspace = self.demo()
        workspace.draft.propose("melt.nozzle_c", "371")
        workspace.autosave()
        self.assertEqual(read_records(self.file).cards["probe_head_shell"].recipe.melt.nozzle_c, 371.0)
        self.assertFalse(workspace.unsaved)

    def test_a_second_writer_is_told_who_has_it_and_reads_only(self):
        first = self.demo()
        second = self.demo()
        self.assertRegex(second.notice, r"is being written by .+ on .+ \(process \d+\)")
        with self.assertRaises(KaustosError):
            second.draft.propose("melt.nozzle_c", "371")
        with self.assertRaisesRegex(StoreError, "reading only"):
            second.save_revision("no")
        first.draft.propose("melt.nozzle_c", "372")
        first.autosave()
        self.assertEqual(read_records(self.file).card.recipe.melt.nozzle_c, 372.0)

    def test_the_log_is_folded_in_on_close(self):
        self.demo().close()
        self.assertEqual([path.name for path in self.folder.iterdir() if path.name.endswith(("-wal", "-shm"))], [])
        with sqlite3.connect(self.file) as connection:
            self.assertEqual(connection.execute("PRAGMA integrity_check").fetchone(), ("ok",))
            self.assertEqual(connection.execute("PRAGMA journal_mode").fetchone(), ("wal",))
        connection.close()


class TestRevisions(WorkspaceTest):
    def test_revisions_are_numbered_newest_first_and_never_change(self):
        workspace = self.demo(who="A. Tester")
        before = workspace.revisions()
        workspace.draft.propose("heat.chamber_c", "88")
        self.assertTrue(workspace.differs_from_last_revision())
        saved = workspace.save_revision(" cooler ")
        self.assertEqual((saved.number, saved.who, saved.why, saved.grade), (4, "A. Tester", "cooler", "reduced"))
        self.assertFalse(workspace.differs_from_last_revision())
        self.assertEqual(workspace.revisions()[1:], before)

    def test_differences_name_fields_in_words_and_units(self):
        workspace = self.demo()
        newest, older = workspace.revisions()[:2]
        found = differences(
            json.loads(older.document), json.loads(newest.document), Wording(Settings(temperature="°F"))
        )
        self.assertEqual([(each.field, each.before, each.after) for each in found],
                         [("margin wanted", "not recorded", "36 °F"), ("chamber", "194 °F", "257 °F")])  # fmt: skip

    def test_equal_documents_do_not_differ(self):
        document = recipe_document(self.demo().document())
        self.assertEqual(differences(document, json.loads(json.dumps(document)), Wording()), ())

    def test_a_change_inside_machine_or_lot_is_a_difference(self):
        workspace = self.demo()
        before = recipe_document(workspace.document())
        workspace.draft.propose("machine.plate.heater.max_c", "170")
        workspace.draft.propose("lot.lot_values.glass_transition_c", "182")
        found = differences(before, recipe_document(workspace.document()), Wording())
        self.assertEqual([each.field for each in found], ["plate: heater, limit", "lot: glass transition"])


class TestFiles(WorkspaceTest):
    def test_a_recipe_goes_out_and_comes_back_the_same(self):
        workspace = self.demo()
        file = self.folder / "shell.json"
        workspace.export_recipe(file)
        before = workspace.draft.records.card
        workspace.import_recipe(file)
        self.assertEqual(workspace.draft.records.current, "probe_head_shell_2")
        self.assertEqual(workspace.draft.records.card, before)

    def test_a_machine_that_differs_is_added_never_merged(self):
        workspace = self.demo()
        file = self.folder / "shell.json"
        workspace.export_recipe(file)
        workspace.draft.propose("machine.plate.heater.max_c", "99")
        workspace.import_recipe(file)
        self.assertEqual(workspace.draft.records.card.machine, "tarn_2")
        self.assertEqual(workspace.draft.records.machines["tarn"].plate.heater.max_c, 99.0)

    def test_bad_files_are_refused_by_name_and_nothing_is_lost(self):
        workspace = self.demo()
        before = workspace.draft.records
        good = json.dumps(recipe_document(workspace.document()))
        for content, words in (
            (b"{", "line 1, column 2"),
            (b"\xff\xfe", "not UTF-8"),
            (b"[]", "must be a JSON object"),
            (b"{}", "format"),
            (good.replace('"version": 1', '"version": 99').encode(), "newer version"),
            (good.replace('"version": 1', '"version": "1"').encode(), "version"),
            (good.replace("158.0", "NaN").encode(), "recipe.plate.bed_c: must be a finite number"),
            (good.replace("158.0", "-300").encode(), "recipe.plate.bed_c: .*below absolute zero"),
            (good.replace("158.0", '"warm"').encode(), "recipe.plate.bed_c: must be a number, got text"),
            (good.replace("158.0", "true").encode(), "recipe.plate.bed_c: must be a number, got true or false"),
            (good.replace('"pei_pc_blend"', '"unobtainium"').encode(), "unobtainium"),
            (good.replace("Probe head shell", "x" * 10_000_000).encode(), "recipe.name: 10,000,000 characters"),
            (b'{"a":' * 100_000, "nested too deeply"),
            (b'{"format": 1, "format": 2}', "stands twice"),
        ):
            file = self.folder / "bad.json"
            file.write_bytes(content)
            with self.subTest(words), self.assertRaisesRegex(KaustosError, words) as caught:
                workspace.import_recipe(file)
            self.assertLess(len(str(caught.exception)), 600)
        self.assertIs(workspace.draft.records, before)

    def test_a_missing_file_is_named(self):
        with self.assertRaisesRegex(KaustosError, "nowhere.json: cannot be read"):
            self.demo().import_recipe(self.folder / "nowhere.json")


class TestWhatIsNoWorkspace(WorkspaceTest):
    def test_other_files_are_refused_and_stay_as_they_are(self):
        other = sqlite3.connect(self.folder / "other.db")
        other.execute("CREATE TABLE t (a)")
        other.commit()
        other.close()
        (self.folder / "text.txt").write_text("not a database at all, just words, and many of them")
        for name, kind in (("other.db", NotAWorkspace), ("text.txt", NotAWorkspace)):
            file = self.folder / name
            before = file.read_bytes()
            with self.subTest(name), self.assertRaises(kind):
                Store(file, write=True)
            self.assertEqual(file.read_bytes(), before)

    def test_a_newer_workspace_is_refused_untouched(self):
        self.demo().close()
        with sqlite3.connect(self.file) as connection:
            connection.execute("UPDATE alembic_version SET version_num = '0999'")
        connection.close()
        before = self.file.read_bytes()
        with self.assertRaisesRegex(NewerWorkspace, "newer version"):
            Store(self.file, write=True)
        self.assertEqual(self.file.read_bytes(), before)

    def test_a_damaged_workspace_is_told_and_left(self):
        self.demo().close()
        whole = self.file.read_bytes()
        self.file.write_bytes(whole[:100] + b"\x07" * (len(whole) - 100))
        before = self.file.read_bytes()
        with self.assertRaises((DamagedWorkspace, NotAWorkspace)):
            Store(self.file, write=True)
        self.assertEqual(self.file.read_bytes(), before)

    def test_a_folder_and_a_missing_file_are_named(self):
        with self.assertRaisesRegex(NotAWorkspace, "folder"):
            Store(self.folder, write=True)
        with self.assertRaisesRegex(NotAWorkspace, "no such file"):
            Store(self.folder / "none.kaustos", write=False)


class TestSettings(WorkspaceTest):
    def test_settings_come_back_and_a_broken_file_leaves_the_defaults(self):
        file = self.folder / "config" / "settings.json"
        save_settings(file, Settings(who="A. Tester", theme="dark"))
        self.assertEqual(load_settings(file), (Settings(who="A. Tester", theme="dark"), ""))
        save_settings(file, Settings(who="Åsa Ø"))
        self.assertIn("Åsa Ø", file.read_text(encoding="utf-8"), "a person can read the file")
        for content in ("{", "[]", '{"theme": "pink"}', '{"theme": 5}'):
            file.write_text(content)
            found, fault = load_settings(file)
            with self.subTest(content):
                self.assertEqual(found, Settings())
                self.assertIn(str(file), fault)


class TestResults(unittest.TestCase):
    def test_a_request_changes_with_what_it_reads_and_with_nothing_else(self):
        def inputs(records):
            recipe, context = recipe_and_context(records)
            return request_for(BY_KEY["machine"].drawn, recipe, context).inputs

        same, other = opened("probe_head_shell"), opened("probe_head_shell", "crag")
        self.assertTrue(is_same(inputs(same), inputs(same.with_tables(cards=dict(same.cards)))))
        self.assertTrue(is_same(inputs(same), inputs(changed(same, {"stock.dryer_h": 1.0}))))
        self.assertFalse(is_same(inputs(same), inputs(other)))

    def test_the_longest_unused_result_of_a_kind_is_dropped_first(self):
        results = Results(kept=2)
        for kind in ("picture", "ranking"):
            for name in ("a", "b"):
                results.put(kind, (name,), name.upper())
        results.get("picture", ("a",))
        results.put("picture", ("c",), "C")
        self.assertEqual([results.get("picture", (name,)) for name in ("a", "b", "c")], ["A", None, "C"])
        self.assertEqual([results.get("ranking", (name,)) for name in ("a", "b", "c")], ["A", "B", None])


class TestNothingInTheDemoIsMissing(unittest.TestCase):
    def test_every_machine_and_lot_that_a_card_names_is_there(self):
        for card in every(RECORDS.cards.values()):
            self.assertIn(card.machine, RECORDS.machines)
            self.assertIn(card.lot, RECORDS.lots)
