"""The documents say what is so: validation, formats and their examples."""

import json
import re
import unittest
from pathlib import Path

from kaustos.app.workspace import Workspace
from kaustos.core.records import POLYMER_VALUES, Recipe
from kaustos.core.records.fields import declaration
from kaustos.formats.csv_tables import read_recipes, read_runs, read_table, recipe_paths
from kaustos.formats.lots_csv import read_lots
from kaustos.formats.recipe_file import read_recipe
from kaustos.library import load
from tests import validation
from tests.asserting import every
from tests.machine_practice import beside_practice
from tests.proof_practice import THICK_RAMP, anneals, growths, tones

ROOT = Path(__file__).parents[2]
DOCS = ROOT / "docs"


class TestValidation(unittest.TestCase):
    def test_every_number_is_within_its_tolerance(self):
        for check in every(validation.checks()):
            with self.subTest(check.model, case=check.case):
                self.assertTrue(check.holds, f"{check.computed!r} against {check.reference!r}")

    def test_every_likely_drying_time_is_near_practice_or_has_its_reason(self):
        absorbing = {key for key, polymer in load().polymers.items() if polymer.absorbs}
        self.assertEqual({each.polymer for each in validation.USUAL}, absorbing)
        for each in beside_practice():
            with self.subTest(each.title):
                self.assertTrue(each.off <= 1.5 or each.why, "it differs from practice and does not say why")
        for each in validation.USUAL:
            likely, soonest, latest = validation.usual_hours(each.polymer)
            near = each.low_h / 1.5 <= likely <= each.high_h * 1.5
            with self.subTest(each.polymer):
                self.assertTrue(near or each.why, f"{likely:.1f} h")
                self.assertTrue(not each.why or not near, "a reason for nothing")
                self.assertTrue(soonest <= likely <= latest)

    def test_every_anneal_is_near_practice_or_has_its_reason(self):
        for each in every(anneals()):
            with self.subTest(each.polymer, wall=each.wall_mm):
                self.assertTrue(each.hold_c[0] <= each.aim_c <= each.hold_c[1], "a hold beside practice")
                self.assertTrue(each.off <= 1.5 or each.why, "it differs from practice and does not say why")
                if each.wall_mm == 30.0:
                    self.assertTrue(THICK_RAMP[0] <= each.ramp_k_h <= THICK_RAMP[1])

    def test_growth_without_a_coupon_covers_what_is_usual(self):
        for name, axis, usual, band in every(growths()):
            middle = (usual[0] + usual[1]) / 2.0
            with self.subTest(name, axis=axis):
                self.assertTrue(band[0] <= middle <= band[1])

    def test_known_bars_ring_as_thin_beams_do(self):
        for name, _, plain, found in every(tones()):
            with self.subTest(name):
                self.assertAlmostEqual(found, plain, delta=0.005 * plain)

    def test_the_page_is_the_one_that_the_command_writes(self):
        self.assertEqual((DOCS / "validation.md").read_text(encoding="utf-8"), validation.document())


class TestFormats(unittest.TestCase):
    def setUp(self):
        self.text = (DOCS / "formats.md").read_text(encoding="utf-8")

    def test_every_example_that_is_named_is_there_and_is_read(self):
        named = re.findall(r"\]\((ex[\w/.]+)\)", self.text)
        self.assertEqual(len(set(named)), 5)
        for name in named:
            text = (DOCS / name).read_text(encoding="utf-8")
            with self.subTest(name):
                if name.endswith(".json"):
                    self.assertTrue(read_recipe(text, name).recipe.name)
                elif "recipes" in name:
                    self.assertEqual(len(read_recipes(read_table(text, name))), 2)
                elif "lots" in name:
                    lots = [lot for _, lot in read_lots(read_table(text, name))]
                    self.assertEqual([(len(lot.stays), lot.weighed_g) for lot in lots], [(2, 830.0), (1, 500.0)])
                else:
                    runs = read_runs(read_table(text, name))
                    self.assertEqual([len(run.observations) for run in runs], [2, 0])

    def test_every_field_of_a_recipe_is_named(self):
        for path in every(recipe_paths()):
            with self.subTest(path):
                self.assertIsNotNone(declaration(Recipe, path))
                self.assertRegex(self.text, rf"[`.]{path.split('.')[-1]}`")


class TestLibraryExport(unittest.TestCase):
    def test_it_holds_every_polymer_with_every_value(self):
        from typer.testing import CliRunner

        from kaustos.cli import app
        from kaustos.library import load

        done = CliRunner().invoke(app, ["library", "export", "--json"])
        document = json.loads(done.stdout)
        self.assertEqual(set(document["polymers"]), set(load().polymers))
        for key, polymer in document["polymers"].items():
            with self.subTest(key):
                self.assertEqual(set(polymer["values"]), set(POLYMER_VALUES))
                known = [each for each in polymer["values"].values() if each]
                self.assertTrue(
                    all({"value", "low", "high", "unit", "kind", "source", "doubt"} <= set(each) for each in known)
                )
        self.assertEqual(CliRunner().invoke(app, ["library", "export"]).exit_code, 2)


class TestWheel(unittest.TestCase):
    def test_an_installed_wheel_opens_its_workspace_outside_the_checkout(self):
        import os
        import subprocess
        import sys
        import tempfile
        import zipfile

        with tempfile.TemporaryDirectory() as scratch:
            folder = Path(scratch)
            subprocess.run(
                [sys.executable, "-m", "hatchling", "build", "-t", "wheel", "-d", str(folder)],
                cwd=ROOT, check=True, capture_output=True,
            )  # fmt: skip
            site = folder / "site"
            zipfile.ZipFile(next(folder.glob("*.whl"))).extractall(site)
            old = folder / "old.kaustos"
            old.write_bytes((ROOT / "tests/store/old/layout-0001.kaustos").read_bytes())
            program = (
                "import sys; from pathlib import Path; import kaustos\n"
                f"assert kaustos.__file__.startswith({str(site)!r}), kaustos.__file__\n"
                "from kaustos.app.workspace import Workspace; from kaustos.library import load\n"
                f"w = Workspace(Path({str(old)!r})); print(len(w.revisions()), len(load().polymers)); w.close()\n"
                "from kaustos.app.desktop import install\n"
                f"print(len(install(Path({str(folder / 'share')!r}))))\n"
            )
            environment = {**os.environ, "PYTHONPATH": str(site)}
            done = subprocess.run(
                [sys.executable, "-c", program],
                cwd=folder,
                env=environment,
                capture_output=True,
                text=True,
                check=False,
            )
            self.assertEqual(done.stdout.split(), ["3", "29", "3"], done.stderr)
            self.assertTrue((folder / "share/icons/hicolor/scalable/apps/kaustos.svg").exists())


class TestExamples(unittest.TestCase):
    def test_the_examples_are_taken_in_by_a_workspace(self):
        import tempfile

        with tempfile.TemporaryDirectory() as scratch:
            workspace = Workspace(Path(scratch) / "new.kaustos")
            workspace.import_recipe(DOCS / "examples" / "recipe.json")
            self.assertEqual(workspace.draft.records.card.recipe.name, "Spacer")
            workspace.close()
