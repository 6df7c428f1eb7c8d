"""The guide's day is lived: its commands run, its keys exist, and the program says what the guide quotes."""

import os
import re
from datetime import timedelta
from pathlib import Path
from unittest import mock

from typer.testing import CliRunner

from kaustos.app.causes import after_run, booking_words
from kaustos.app.runs import end_run, start_run
from kaustos.app.settings import Settings
from kaustos.app.stock import add_stay, add_weighing, new_lot
from kaustos.app.workspace import Workspace
from kaustos.cli import app
from kaustos.core.records import Observation
from kaustos.core.review import Choose
from kaustos.ui.commands import COMMANDS
from tests.app.test_workspace import WorkspaceTest
from tests.support import NOW, demo_bytes

ROOT = Path(__file__).parents[2]
GUIDE = (ROOT / "docs/guide.md").read_text(encoding="utf-8")
PLAIN = " ".join(GUIDE.replace("\n> ", " ").split())
STOPS = (0, 3)  # a review ends with 3 where a stop stands


class TestGuide(WorkspaceTest):
    def setUp(self):
        super().setUp()
        self.file = self.folder / "shop.kaustos"
        self.file.write_bytes(demo_bytes())

    def test_its_commands_run_one_after_the_other(self):
        before = Path.cwd()
        self.addCleanup(os.chdir, before)
        os.chdir(self.folder)
        commands = re.findall(r"^    kaustos (.*?)(?:\s+#.*)?$", GUIDE, re.M)
        self.assertGreaterEqual(len(commands), 6)
        with mock.patch.dict(os.environ, {"XDG_CONFIG_HOME": str(self.folder)}):
            for line in commands:
                with self.subTest(line):
                    done = CliRunner().invoke(app, line.split())
                    self.assertIn(done.exit_code, STOPS if line.startswith("review") else (0,), done.output)
        self.assertTrue((self.folder / "bracket.pdf").read_bytes().startswith(b"%PDF-"))

    def test_its_keys_and_pictures_exist(self):
        known = {part for command in COMMANDS for part in (command.keys,)} | {"Return", "Ctrl+F2"}
        for key in re.findall(r"`((?:Ctrl|Alt|Shift|F\d)[\w+]*|Return)`", GUIDE):
            with self.subTest(key):
                self.assertIn(key, known)
        for picture in re.findall(r"\(screenshots/([\w-]+\.png)\)", GUIDE):
            self.assertTrue((ROOT / "docs/screenshots" / picture).exists(), picture)
        self.assertIn("docs/guide.md", (ROOT / "README.md").read_text(encoding="utf-8"))

    def test_the_day_goes_as_it_is_told(self):
        clock = [NOW]
        workspace = Workspace(self.file, Settings(who="R. Askew"), lambda: clock[0])
        self.addCleanup(workspace.close)
        draft, wording = workspace.draft, workspace.draft.wording
        lot = new_lot(workspace, "N-074", "PA6-CF, 20 %", "black", None)
        draft.open_card("winch_bracket")
        draft.set({"context.lot": lot})
        draft.set({"lot.flange": "metal", "lot.feed": "dry_box", "lot.box_humidity_pct": 15.0, "lot.tare_g": 230.0})
        add_weighing(workspace, lot, 1231.0, clock[0])
        said = workspace.review().findings()
        for finding in said:
            self.assertIn(wording.text(finding), PLAIN)
        remedy = said[0].remedies[1]
        self.assertIsInstance(remedy, Choose)
        self.assertIn(f'"{wording.remedy(remedy)}"', PLAIN)
        draft.set({"context.dryer": remedy.id, **remedy.changes})
        left = workspace.review()
        self.assertEqual(left.grade.value, left.grade.wanted)
        self.assertEqual({each.code.split(".")[0] for each in left.findings()}, {"melt", "heat", "proof"})
        for finding in left.findings():
            self.assertIn(wording.text(finding), PLAIN)
        add_stay(workspace, lot, "dryer", clock[0], 95.0, None, dryer=remedy.id)
        clock[0] += timedelta(hours=9.5)
        add_weighing(workspace, lot, 1221.5, clock[0])
        add_stay(workspace, lot, "dry_box", clock[0], None, 15.0)
        clock[0] += timedelta(hours=13.5)
        run = start_run(workspace)
        self.assertEqual((run.filament, run.planned_h), ("dry", 9.0))
        seen = (Observation(what="corner_lift", where="corner", at_h=5.6),)
        end_run(workspace, run.id, {"outcome": "stopped", "observations": seen})
        run = draft.records.runs[run.id]
        booked = re.search(r'"(Booked: .*?)"', PLAIN)[1]
        self.assertTrue(booking_words(workspace, run).startswith(booked), booking_words(workspace, run))
        trial = re.search(r'"Next trial: (.*?)"', PLAIN)[1]
        self.assertTrue(after_run(workspace, run).trial.startswith(trial), after_run(workspace, run).trial)
