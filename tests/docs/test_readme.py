"""What the README shows is run."""

import doctest
import os
import re
import subprocess
import sys
import tomllib
import unittest
from pathlib import Path
from unittest import mock

from typer.testing import CliRunner

from kaustos.cli import app
from kaustos.demo.__main__ import app as demo_app
from kaustos.demo.shots import Shot, take
from tests.asserting import every
from tests.support import NOW, demo_bytes

ROOT = Path(__file__).parents[2]
README = (ROOT / "README.md").read_text(encoding="utf-8")


class TestReadme(unittest.TestCase):
    def setUp(self):
        before = Path.cwd()
        os.chdir(ROOT)
        self.addCleanup(os.chdir, before)

    def test_its_lines_of_python_run(self):
        examples = re.search(r"```python\n(.*?)```", README, re.S)[1]
        test = doctest.DocTestParser().get_doctest(examples, {}, "README", "README.md", 0)
        self.assertEqual(doctest.DocTestRunner().run(test).failed, 0)

    def test_its_reviews_end_as_it_says(self):
        for line, code in (
            ("review docs/example.json", 3),
            ("review docs/example.json --json", 3),
            ("review docs/example.json --machine generic_heated_chamber", 0),
            ("library check", 0),
        ):
            with self.subTest(line):
                self.assertIn(f"kaustos {line}", README)
                self.assertEqual(CliRunner().invoke(app, line.split()).exit_code, code)

    def test_every_picture_that_is_listed_is_there_and_linked_and_no_other(self):
        listed = tomllib.loads((ROOT / "docs/screenshots/shots.toml").read_text())
        there = {path.stem for path in (ROOT / "docs/screenshots").glob("*.png")}
        linked = set(re.findall(r"docs/screenshots/([\w-]+)\.png", README))
        self.assertEqual(set(listed), there)
        self.assertEqual(linked, there)
        self.assertLess(len(there), 20)

    def test_every_folder_of_the_map_exists(self):
        for folder in every(re.findall(r"^\| `(src/[\w/]+)` \|", README, re.M)):
            self.assertTrue((ROOT / folder).is_dir(), folder)


class TestShots(unittest.TestCase):
    def test_the_same_time_gives_the_same_picture_and_bad_words_are_told(self):
        import tempfile

        with tempfile.TemporaryDirectory() as scratch:
            file, other = Path(scratch) / "a.png", Path(scratch) / "b.png"
            words = ["--shot", str(file), "--now", "2026-03-02T08:00:00+00:00", "--operation", "10"]
            subprocess.run([sys.executable, "-m", "kaustos.demo", *words], check=True, cwd=ROOT)
            with mock.patch("kaustos.demo.shots.build", lambda to, _: to.write_bytes(demo_bytes())):
                take({other: Shot(operation=10)}, NOW)
            self.assertEqual(file.read_bytes(), other.read_bytes())
            for words, said in (
                (["--room", "cellar"], "no room"),
                (["--size", "big"], "width x height"),
                (["--now", "noon"], "not a time"),
                (["--recipe", "soup"], "no recipe 'soup'"),
            ):
                with self.subTest(said), mock.patch.dict(os.environ):
                    done = CliRunner().invoke(demo_app, ["--shot", str(file), *words])
                    self.assertEqual(done.exit_code, 2, done.output)
                    self.assertIn(said, done.output)
