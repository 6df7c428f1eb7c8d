"""One record that cannot be read closes nothing; one that could not be read back is never written."""

import sqlite3
import tempfile
from pathlib import Path

from kaustos.app.settings import Settings
from kaustos.app.tables import write_tables
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.records import KINDS, Machine, Place
from tests.app.test_workspace import WorkspaceTest
from tests.support import NOW

BROKEN = ("{", "[]", "null", '{"id": 5}', '{"id": "x", "name": "\\ud800"}', '{"id": "x", "name": NaN}', "", '"text"')


class StoredTest(WorkspaceTest):
    def broken(self, kind, key, text):
        """The demo with the text of one record replaced behind the program's back."""
        if not self.file.exists():
            self.demo().close()
        with sqlite3.connect(self.file) as connection:
            connection.execute("UPDATE documents SET document = ? WHERE kind = ? AND id = ?", (text, kind, key))
        connection.close()
        return self.demo()


class TestUnread(StoredTest):
    def test_a_record_of_any_kind_that_is_broken_in_any_way_is_named_and_the_rest_opens(self):
        self.demo().close()
        whole = self.file.read_bytes()
        for kind, key in (("card", "winch_bracket"), ("machine", "tarn"), ("lot", "lot_h117"), ("dryer", "kiln"),
                          ("run", "run_0003")):  # fmt: skip
            for text in BROKEN:
                self.file.write_bytes(whole)
                with self.subTest(kind, text=text):
                    workspace = self.broken(kind, key, text)
                    while not workspace.read_on():
                        pass
                    self.assertEqual([(each.kind, each.key) for each in workspace.unread], [(kind, key)])
                    self.assertIn(f"The {kind} “{key}” cannot be read", workspace.notice or workspace.late_words())
                    records = workspace.draft.records
                    for each in KINDS:
                        table = records.tables[each.many]
                        self.assertEqual(key in table, False if each.one == kind else key in table)
                    for card in records.cards if text == BROKEN[0] else ():
                        workspace.draft.open_card(card)
                        self.assertTrue(workspace.review().grade.value)
                    workspace.draft.set({"rules.headroom_k": 4.0})
                    workspace.close()
                    with sqlite3.connect(self.file) as connection:
                        query = "SELECT document FROM documents WHERE kind = ? AND id = ?"
                        self.assertEqual(connection.execute(query, (kind, key)).fetchone()[0], text, "left as it is")
                    connection.close()

    def test_its_text_is_written_beside_the_tables(self):
        workspace = self.broken("machine", "tarn", "{")
        with tempfile.TemporaryDirectory() as folder:
            files = write_tables(workspace, Path(folder))
            self.assertEqual(files[-1].name, "cannot-be-read.txt")
            self.assertIn("machine tarn: is no JSON", files[-1].read_text())

    def test_rules_that_cannot_be_read_are_those_of_a_new_shop_and_named(self):
        workspace = self.broken("shop", "shop", '{"rules": {"headroom_k": "much"}, "current": "winch_bracket"}')
        self.assertEqual((workspace.unread[0].kind, workspace.draft.records.current), ("shop", "winch_bracket"))
        self.assertIn("headroom_k", workspace.unread[0].fault)


class TestWriting(StoredTest):
    def test_a_record_that_would_not_come_back_is_named_and_the_others_are_saved(self):
        workspace = self.demo(who="A. Tester")
        odd = Machine(id="odd", name="Odd", extra={"newer": float("nan")})
        workspace.draft.set({Place("machines", "odd"): odd, "melt.nozzle_c": 371.0})
        with self.assertRaisesRegex(KaustosError, "the machine “odd” cannot be written: .* All else is saved"):
            workspace.autosave()
        self.assertTrue(workspace.unsaved, "it is tried again")
        workspace.close(discard=True)
        again = self.demo()
        self.assertEqual(again.draft.value("melt.nozzle_c"), 371.0)
        self.assertNotIn("odd", again.draft.records.machines)

    def test_nothing_is_written_over_a_record_that_cannot_be_read(self):
        workspace = self.broken("machine", "tarn", "{")
        workspace.draft.set({Place("machines", "tarn"): Machine(id="tarn", name="Another")})
        with self.assertRaisesRegex(KaustosError, "written over one that cannot be read"):
            workspace.autosave()
        workspace.close(discard=True)
        self.assertEqual(self.broken("machine", "tarn", "{").unread[0].text, "{")

    def test_the_rest_of_a_file_is_open_to_the_command_line_too(self):
        self.broken("machine", "tarn", "{").close()
        from typer.testing import CliRunner

        from kaustos.cli import app

        done = CliRunner().invoke(app, ["review", "--workspace", str(self.file), "--all"])
        self.assertIn(done.exit_code, (0, 3), done.output)
        self.assertIn("Packer back-up ring", done.stdout)
        self.assertTrue(Workspace(self.file, Settings(), lambda: NOW, write=False).unread)
