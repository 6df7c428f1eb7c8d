"""What leaves the workspace stays in the folder that was named, overwrites nothing and starts no formula."""

import csv
import io
import os

import attrs

from kaustos.app.tables import file_name, lots_csv, recipes_csv, runs_csv, write_everything, write_tables
from kaustos.core.errors import KaustosError
from kaustos.core.records import Place, Run
from kaustos.formats.csv_tables import FORMULA, armed, disarmed, read_recipes, read_runs, read_table
from kaustos.formats.lots_csv import read_lots
from tests.app.test_workspace import WorkspaceTest

ODD = ('=HYPERLINK("x")', "+49 123", "-cmd|' /C calc'!A0", "@SUM(1)", "\tTab", "'quoted", "''=2", "plain", "-5", "=")


class TestFormula(WorkspaceTest):
    def test_what_is_disarmed_comes_back_and_what_others_wrote_is_as_they_wrote_it(self):
        for words in ODD:
            with self.subTest(words):
                self.assertEqual(armed(disarmed(words)), words)
        for words in ("-5", "+3.5", "-1e3", "plain", "5"):
            self.assertEqual(disarmed(words), words, "numbers and plain words stay")
        for words in ("=1+1", "'quoted", "it's"):
            self.assertEqual(armed(words), words)

    def test_no_cell_of_a_table_starts_a_formula_and_every_name_survives(self):
        workspace = self.demo()
        records = workspace.draft.records
        lot, card = records.lots["lot_h117"], records.cards["winch_bracket"]
        changes = {}
        for at, words in enumerate(ODD):
            name = words.strip()
            changes[Place("lots", f"odd_{at}")] = attrs.evolve(lot, id=f"odd_{at}", name=name)
            recipe = attrs.evolve(card.recipe, name=name)
            changes[Place("cards", f"odd_{at}")] = attrs.evolve(card, recipe=recipe)
            changes[Place("runs", f"odd_{at}")] = Run(
                id=f"odd_{at}", card="winch_bracket", revision=1.0, note=name, started_utc="2026-03-02T08:00:00Z"
            )
        workspace.draft.set(changes)
        for text in (recipes_csv(workspace), runs_csv(workspace), lots_csv(workspace)):
            for row in csv.reader(io.StringIO(text)):
                for cell in row:
                    self.assertFalse(
                        cell.startswith(FORMULA) and not cell.lstrip("+-").replace(".", "").isdigit(), cell
                    )
        wanted = {f"odd_{at}": words.strip() for at, words in enumerate(ODD)}
        recipes = {key: recipe.name for key, recipe, _ in read_recipes(read_table(recipes_csv(workspace), "r"))}
        runs = {run.id: run.note for run in read_runs(read_table(runs_csv(workspace), "r"))}
        lots = {each.id: each.name for _, each in read_lots(read_table(lots_csv(workspace), "l"))}
        for found in (recipes, runs, lots):
            self.assertEqual({key: found[key] for key in wanted}, wanted)


class TestFolder(WorkspaceTest):
    def test_an_id_never_leads_out_of_the_folder_nor_hides_a_file(self):
        for key in (
            "../../etc/passwd",
            "/etc/passwd",
            "..",
            ".hidden",
            "a\nb",
            "a\0b",
            "x" * 400,
            "ä#?%41",
            "con",
            "a/b",
        ):
            with self.subTest(key):
                name = file_name(key)
                self.assertNotIn("/", name)
                self.assertFalse(name.startswith("."))
                self.assertLess(len(name), 150)
                self.assertEqual((self.folder / f"{name}.json").resolve().parent, self.folder.resolve())
        self.assertNotEqual(file_name("x" * 400), file_name("x" * 401))
        self.assertEqual(file_name("winch_bracket"), "winch_bracket")

    def test_nothing_is_overwritten_no_link_followed_and_then_nothing_is_written_at_all(self):
        workspace = self.demo()
        out = self.folder / "out"
        out.mkdir()
        outside = self.folder / "outside.txt"
        outside.write_text("mine")
        for make in (lambda file: file.write_text("there"), lambda file: os.symlink(outside, file),
                     lambda file: os.symlink(self.folder / "nowhere", file)):  # fmt: skip
            file = out / "winch_bracket.json"
            make(file)
            with self.subTest(os.path.islink(file)), self.assertRaisesRegex(KaustosError, "is there already"):
                write_everything(workspace, out)
            self.assertEqual((outside.read_text(), [each.name for each in out.iterdir()]), ("mine", [file.name]))
            file.unlink()
        written = write_everything(workspace, out)
        self.assertEqual(len(written), 3 + len(workspace.draft.records.cards))
        with self.assertRaisesRegex(KaustosError, "recipes.csv: is there already|is there already; nothing"):
            write_tables(workspace, out)
