"""The command line: exit codes, documents, sentences; and no Qt."""

import contextlib
import gzip
import io
import json
import os
import re
import socket
import subprocess
import sys
import tempfile
import unittest
import unittest.mock
from datetime import datetime
from pathlib import Path

import numpy as np
from scipy.io import wavfile
from typer.testing import CliRunner

from kaustos import __version__
from kaustos.app.settings import Settings, save_settings, settings_file
from kaustos.app.workspace import Workspace, reading
from kaustos.cli import app, run
from kaustos.demo.jobs import jobs
from kaustos.store import back_up
from tests.support import NOW, demo_bytes


class VerbTest(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name)
        self.workspace = self.folder / "demo.kaustos"
        self.workspace.write_bytes(demo_bytes())
        opened = Workspace(self.workspace)
        self.file = self.folder / "shell.json"
        opened.export_recipe(self.file)
        opened.close()

    def run_verb(self, *words):
        return CliRunner().invoke(app, [str(word) for word in words])


def without_moments(document):
    """A document without times of day: a minute may pass between two judgements."""
    return re.sub(r"\b\d{2}:\d{2}\b|T\d{2}:\d{2}:\d{2}|\d{9,}\.?\d*", "", json.dumps(document))


class TestVerbs(VerbTest):
    def end(self, *words, stdout=subprocess.PIPE, **environment):
        """How the program itself ends, and what it says beside its output."""
        done = subprocess.run(
            [sys.executable, "-m", "kaustos.entry", *words], stdout=stdout, stderr=subprocess.PIPE, check=False,
            env={**os.environ, **environment},
        )  # fmt: skip
        self.assertNotIn(b"Traceback", done.stderr)
        return done

    def test_a_full_or_closed_pipe_ends_with_2_and_without_a_stack(self):
        with open("/dev/full", "w", encoding="utf-8") as full:
            done = self.end("review", str(self.file), stdout=full)
        self.assertEqual(done.returncode, 2)
        self.assertIn(b"No space left", done.stderr)
        for words in (("library", "export", "--json"), ("--help",)):
            read, write = os.pipe()
            os.close(read)
            with self.subTest(words, pipe="closed"):
                done = self.end(*words, stdout=write)
                self.assertEqual((done.returncode, done.stderr), (2, b""))
            os.close(write)

    def test_other_encodings_and_odd_arguments_are_answered_in_words(self):
        done = self.end("review", str(self.file), PYTHONIOENCODING="ascii")
        self.assertEqual(done.returncode, 3)
        odd = (
            ("review", os.fsencode(self.folder) + b"/lot\xff.json"), ("review", ""), ("review", "\n"), ("review", "/"),
            ("review", "/dev/zero"), ("review", "x" * 5000), ("review", str(self.file), "--machine", "\u202e"),
            ("review", str(self.file), "--only", "=1+1"), ("simulate", "--port", "99999"), ("simulate", "--port", "-1"),
            ("simulate", "--celsius", "nan", "--looks", "1"), ("simulate", "--celsius", "1e400", "--looks", "1"),
            ("sheet", str(self.file), "/proc/x.pdf"),
            ("export", str(self.file), "--workspace", str(self.workspace)),
            ("after", "", "--workspace", str(self.file)), ("job", "/dev/zero"), ("job", str(self.folder)),
            ("job", str(self.file)),
            ("restore", str(self.file), "--workspace", str(self.workspace)), ("library", "check", "/nowhere"),
            ("import", str(self.workspace), "--workspace", str(self.workspace)),
            ("orders", "--workspace", str(self.folder)), ("no-such-verb",), ("--workspace",),
        )  # fmt: skip
        for words in odd[:2]:
            with self.subTest(words):
                done = self.end(*words)
                self.assertEqual(done.returncode, 2, done.stdout[-300:] + done.stderr[-300:])
                self.assertTrue(done.stderr.strip() or done.stdout.strip())
        for words in odd[1:]:
            said = io.StringIO()
            with (
                self.subTest(words), unittest.mock.patch.object(sys, "argv", ["kaustos", *words]),
                contextlib.redirect_stdout(said), contextlib.redirect_stderr(said),
            ):  # fmt: skip
                try:
                    code = run()
                except SystemExit as end:
                    code = end.code
                self.assertEqual(code, 2, said.getvalue()[-300:])
                self.assertTrue(said.getvalue().strip())
                self.assertNotIn("Traceback", said.getvalue())

    def test_files_are_taken_in_all_or_none(self):
        bad = self.folder / "bad.json"
        bad.write_text('{"format": "kaustos-recipe", "version": 1, "recipe": {"melt": {"nozzle_c": 5000}}}')
        done = self.run_verb("import", self.file, bad, "--workspace", self.workspace)
        self.assertEqual(done.exit_code, 2)
        self.assertIn("recipe.melt.nozzle_c: 5000 °C is not possible: -100 to 1000 °C", done.output)
        with reading(self.workspace) as opened:
            self.assertEqual(len(opened.draft.records.cards), 9)
        done = self.run_verb("import", self.file, self.file, "--workspace", self.workspace)
        self.assertIn("2 files are taken in", done.output)
        with reading(self.workspace) as opened:
            self.assertEqual(len(opened.draft.records.cards), 11)

    def test_backups_are_listed_and_restored(self):
        back_up(self.workspace, NOW)
        done = self.run_verb("backups", "--workspace", self.workspace)
        self.assertIn("daily", done.output)
        name = done.output.split("\t")[-1].strip()
        self.workspace.write_bytes(b"damaged")
        self.assertIn("newest backup", self.run_verb("review", "--workspace", self.workspace, "--all").output)
        done = self.run_verb("restore", name, "--workspace", self.workspace)
        self.assertEqual(done.exit_code, 0, done.output)
        self.assertEqual(self.run_verb("review", "--workspace", self.workspace, "--all").exit_code, 3)

    def test_a_simulated_dryer_is_looked_at_and_a_taken_port_is_told(self):
        done = self.run_verb("simulate", "--looks", 1, "--celsius", 70)
        self.assertEqual(done.exit_code, 0, done.output)
        self.assertRegex(
            done.output,
            r"listens on 127\.0\.0\.1:\d+.*\nSimulated dryer: setpoint 70 °C, temperature 2[01]\.?\d* °C, "
            r"humidity \d+\.?\d* %; Simulated scale: gross 10\d\d\.?\d* g",
        )
        with socket.create_server(("127.0.0.1", 0)) as taken:
            refused = self.run_verb("simulate", "--looks", 1, "--port", taken.getsockname()[1])
        self.assertNotEqual(refused.exit_code, 0)
        self.assertIn("could not be started on port", refused.output)

    def test_a_log_of_temperatures_tells_its_sensors_losses_and_faults(self):
        file = self.folder / "warm.csv"
        lines = [f"{60 * n},{21 + 60 * (1 - 2.718281828 ** (-n / 33.3333)):.2f},480" for n in range(200)]
        file.write_text("\n".join(["time,air,power [W]", *lines]) + "\n", encoding="utf-8")
        done = self.run_verb("log", file)
        self.assertEqual(done.exit_code, 0, done.output)
        self.assertIn("air\t", done.output)
        self.assertIn("Losses 8 W/K", done.output)
        file.write_text("time,air\n0,20\n60,x\n120,22\n", encoding="utf-8")
        refused = self.run_verb("log", file)
        self.assertEqual(refused.exit_code, 2)
        self.assertIn("line 3", refused.output)

    def test_the_cheapest_changes_are_printed_and_an_unknown_machine_is_told(self):
        done = self.run_verb("upgrade", "beck", "abs", "--workspace", self.workspace)
        self.assertEqual(done.exit_code, 0, done.output)
        self.assertIn("Clips instead of the magnet\t9 €", done.output)
        self.assertIn("Bill: 149 €", done.output)
        self.assertEqual(self.run_verb("upgrade", "nobody", "abs", "--workspace", self.workspace).exit_code, 2)

    def test_a_review_with_a_stop_ends_with_3_and_without_one_with_0(self):
        self.assertEqual(self.run_verb("review", self.file).exit_code, 3)
        done = self.run_verb("review", self.file, "--machine", "crag", "--workspace", self.workspace)
        self.assertEqual(done.exit_code, 0, done.output)
        self.assertIn("Grade: functional", done.output)

    def test_a_whole_workspace_is_a_table_with_the_grades_its_window_shows(self):
        done = self.run_verb("review", "--workspace", self.workspace, "--all")
        self.assertEqual(done.exit_code, 3, done.output)
        head, *rows = (line.split("\t") for line in done.stdout.splitlines())
        self.assertEqual(head, ["Recipe", "From", "Machine", "Grade", "Stops", "Watches", "First"])
        with reading(self.workspace) as opened:
            self.assertEqual([row[1] for row in rows], list(opened.draft.records.cards))
            for row in rows:
                opened.draft.open_card(row[1])
                self.assertEqual(row[3], opened.draft.wording.grade(opened.review().grade))
        stopped = self.run_verb("review", "--workspace", self.workspace, "--all", "--only", "stop").stdout
        self.assertEqual(
            [line.split("\t")[1] for line in stopped.splitlines()[1:]], [row[1] for row in rows if int(row[4])]
        )

    def test_many_files_are_judged_in_one_call_and_a_bad_one_is_named_while_the_others_are_judged(self):
        bad = self.folder / "bad.json"
        bad.write_text("{")
        done = self.run_verb("review", self.file, bad, self.file, "--json", "--only", "stop")
        self.assertEqual(done.exit_code, 2)
        self.assertIn("bad.json: line 1, column 2", done.stderr)
        document = json.loads(done.stdout)
        self.assertEqual([each["file"] for each in document["reviews"]], [str(self.file)] * 2)
        self.assertEqual({each["recipe"] for each in document["reviews"]}, {"Probe head shell"})
        for each in document["reviews"]:
            said = [finding["severity"] for operation in each["operations"] for finding in operation["findings"]]
            self.assertEqual(set(said), {"stop"})

    def test_a_document_is_in_celsius_with_a_point_whatever_the_settings_are(self):
        home = {"XDG_CONFIG_HOME": str(self.folder / "config")}
        plain = json.loads(self.run_verb("review", self.file, "--json").stdout)
        with unittest.mock.patch.dict(os.environ, home):
            save_settings(settings_file(), Settings(temperature="°F", decimal="comma"))
            self.assertIn("°F", self.run_verb("review", self.file).stdout)
            found = json.loads(self.run_verb("review", self.file, "--json").stdout)
        self.assertEqual(without_moments(found), without_moments(plain))

    def test_what_a_run_points_to_is_printed_and_an_unknown_run_refused(self):
        done = self.run_verb("after", 10, "--workspace", self.workspace)
        self.assertEqual(done.exit_code, 0, done.output)
        self.assertRegex(done.stdout, r"Air around the part too cold \(foretold, look at 70\)\t\d+%\t17 K up\n")
        self.assertIn("Next trial: chamber 70 → 87 °C, nothing else", done.stdout)
        self.assertIn("Nothing was seen", self.run_verb("after", 1, "--workspace", self.workspace).stdout)
        refused = self.run_verb("after", 99, "--workspace", self.workspace)
        self.assertEqual((refused.exit_code, refused.output), (2, "No run is '99'; there are 12.\n"))

    def test_an_anneal_is_printed_from_the_cold_oven_to_the_cold_part(self):
        done = self.run_verb("anneal", "packer_ring", "--workspace", self.workspace)
        rows = [line.split("\t") for line in done.output.splitlines()]
        self.assertEqual((done.exit_code, rows[0], rows[1][2]), (0, ["hour", "air", "what"], "cold"))
        hours = [float(row[0]) for row in rows[1:-2]]
        self.assertEqual(hours, sorted(hours))
        self.assertGreater(hours[4] - hours[3], 3.0, "3 h from when the core is there")
        self.assertEqual((rows[-3][2], rows[-2][0], rows[-1][0]), ("taken out", "stress left", "crystals"))
        for words, told in ((("cable_guide",), "no programme"), (("nothing",), "There is no recipe 'nothing'")):
            done = self.run_verb("anneal", *words, "--workspace", self.workspace)
            self.assertEqual(done.exit_code, 2)
            self.assertIn(told, done.output)

    def test_specimens_and_tones_are_judged_from_their_files(self):
        curve = self.folder / "a1.csv"
        curve.write_text("force [N],strain [%]\n" + "".join(f"{41 * n},{n / 24}\n" for n in range(50)))
        done = self.run_verb("specimen", curve, "--width", "10", "--thick", "4.1")
        self.assertIn("a1.csv\t49.00 MPa\t2400.00 MPa", done.output)
        self.assertIn("one specimen: no interval", done.output)
        sound = self.folder / "tap.wav"
        at = np.arange(44_100) / 44_100
        wavfile.write(sound, 44_100, np.float32(0.5 * np.exp(-at / 0.2) * np.sin(2.0 * np.pi * 1168.0 * at)))
        sizes = ("--length", 150, "--width", 20, "--thick", 5, "--mass", 117.75)
        done = self.run_verb("tone", sound, *sizes)
        self.assertEqual(done.exit_code, 0)
        self.assertRegex(done.output, r"tone\t1168\.\d Hz")
        self.assertRegex(done.output, r"stiffness\t20[67]\d\d\d MPa", "steel")
        done = self.run_verb("tone", curve, *sizes)
        self.assertEqual((done.exit_code, "is no WAV" in done.output), (2, True))

    def test_the_evidence_of_a_recipe_is_printed_or_written(self):
        done = self.run_verb("evidence", "wellhead_cover", "--workspace", self.workspace)
        self.assertIn("Use: fit and light use", done.output)
        self.assertIn("The part\tpassed", done.output)
        file = self.folder / "evidence.pdf"
        done = self.run_verb("evidence", "wellhead_cover", "--workspace", self.workspace, "--pdf", file)
        self.assertEqual(done.exit_code, 0, done.output)
        self.assertTrue(file.read_bytes().startswith(b"%PDF"))
        done = self.run_verb("labels", "wellhead_cover", self.folder / "labels.pdf", "--workspace", self.workspace)
        self.assertIn("5 standing, 5 lying, 1 coupon", done.output)
        label = ("labels", "wellhead_cover", self.folder / "parts.pdf", "--workspace", self.workspace, "--parts")
        done = self.run_verb(*label, "3")
        self.assertIn("3 labels. Wellhead cover", done.output)
        self.assertIn("from 1 to 200", self.run_verb(*label, "0").output)

    def test_a_job_file_says_its_hours_heats_and_odd_words(self):
        file = self.folder / "clamp.gcode"
        file.write_bytes(gzip.decompress(jobs()[1]["job_clamp"][1]))
        done = self.run_verb("job", file)
        rows = dict(line.split("\t", 1) for line in done.stdout.splitlines())
        self.assertEqual((done.exit_code, rows["nozzle"], rows["not known"]),
                         (0, "first 300 °C\tthen 292 °C", "CHAMBER_DOOR\t1"))  # fmt: skip
        hours, least, most = map(float, rows["hours"].split("\t"))
        self.assertTrue(least <= hours <= most)
        known = self.run_verb("job", file, "--workspace", self.workspace, "--machine", "tarn")
        self.assertEqual(known.exit_code, 0, known.output)
        refused = self.run_verb("job", file, "--machine", "nobody")
        self.assertEqual((refused.exit_code, refused.output), (2, "No machine is 'nobody'; known: none.\n"))

    def test_what_cannot_be_asked_is_refused(self):
        for words, said in (
            (("--all",), "--all needs --workspace FILE"),
            ((self.file, "--only", "bad"), "known: stop, watch"),
            (("--workspace", self.workspace, "--all", "--machine", "grag"), "no machine of the workspace is 'grag'"),
        ):
            done = self.run_verb("review", *words)
            self.assertEqual(done.exit_code, 2)
            self.assertIn(said, done.output)

    def test_json_says_the_same_as_the_sentences(self):
        for _ in range(3):  # times of now are told to the minute: both within one
            minute = datetime.now().minute
            document = json.loads(self.run_verb("review", self.file, "--json").stdout)
            plain = self.run_verb("review", self.file).stdout
            if datetime.now().minute == minute:
                break
        self.assertEqual(document["grade"]["value"], "no_go")
        for operation in document["operations"]:
            for finding in operation["findings"]:
                self.assertIn(finding["text"], plain)

    def test_bad_input_ends_with_2_and_names_what_is_wrong(self):
        bad = self.folder / "bad.json"
        bad.write_text("{")
        for words, said in (
            (("review", bad), "bad.json: line 1, column 2"),
            (("review", self.folder / "none.json"), "none.json: cannot be read"),
            (("review", self.file, "--machine", "grag", "--workspace", self.workspace), "Did you mean 'crag'?"),
            (("review", self.file, "--workspace", self.folder / "none.kaustos"), "there is no such file"),
            (("review",), "Name recipe files, or say --workspace FILE --all"),
            (("sheet", self.file, self.folder / "sheet.doc"), "must end in .html or .pdf"),
        ):
            with self.subTest(said):
                done = self.run_verb(*words)
                self.assertEqual(done.exit_code, 2)
                self.assertIn(said, done.output)

    def test_sheets_are_written(self):
        for suffix, start in ((".html", b"<!DOCTYPE html>"), (".pdf", b"%PDF-")):
            output = self.folder / f"sheet{suffix}"
            self.assertEqual(self.run_verb("sheet", self.file, output).exit_code, 0)
            self.assertTrue(output.read_bytes().startswith(start))

    def test_library_check_prints_the_share_of_estimates(self):
        done = self.run_verb("library", "check")
        self.assertEqual(done.exit_code, 0)
        self.assertRegex(done.stdout, r"29 polymers, 2 machines, \d+ values, \d+% estimates, 0 faults")
        (self.folder / "polymers").mkdir()
        (self.folder / "polymers" / "x.toml").write_text("id = 1")
        self.assertEqual(self.run_verb("library", "check", self.folder).exit_code, 2)

    def test_version(self):
        self.assertEqual(self.run_verb("--version").stdout.strip(), f"kaustos {__version__}")


class TestNoQt(unittest.TestCase):
    def test_no_verb_loads_qt(self):
        program = (
            "import sys\nfrom typer.testing import CliRunner\nfrom kaustos.cli import app\n"
            "CliRunner().invoke(app, ['library', 'check'])\nCliRunner().invoke(app, ['review', 'none.json'])\n"
            "print([name for name in sys.modules if name.startswith(('PySide6', 'kaustos.ui'))])"
        )
        done = subprocess.run(
            [sys.executable, "-c", program], capture_output=True, text=True, check=True, env=dict(os.environ)
        )
        self.assertEqual(done.stdout.strip(), "[]")


class TestInAndOut(VerbTest):
    def test_a_workspace_goes_out_and_comes_back_into_a_new_one(self):
        out = self.folder / "out"
        done = self.run_verb("export", out, "--workspace", self.workspace)
        self.assertEqual(done.exit_code, 0, done.output)
        self.assertEqual(len(list(out.glob("*.json"))), 9)
        new = self.folder / "new.kaustos"
        done = self.run_verb("import", *sorted(out.glob("*.json")), "--workspace", new)
        self.assertEqual(done.exit_code, 0, done.output)
        with reading(new) as back, reading(self.workspace) as before:
            for key, card in before.draft.records.cards.items():
                names = [each.recipe for each in back.draft.records.cards.values()]
                self.assertIn(card.recipe, names, key)
            self.assertEqual(back.draft.records.machines, before.draft.records.machines)

    def test_the_order_list_names_what_runs_wait_for_and_all_of_it_where_it_is_asked_for(self):
        found = self.run_verb("orders", "--workspace", self.workspace)
        lines = found.output.splitlines()
        self.assertEqual((found.exit_code, len(lines)), (0, 4), "heading, two lines to order, their sum")
        self.assertTrue(lines[1].startswith("PEEK, medium flow\tnatural\t380 g\t588 g\t\t500 g"), lines[1])
        self.assertTrue(lines[-1].startswith("To order: 1500 g"))
        every = self.run_verb("orders", "--all", "--workspace", self.workspace)
        self.assertEqual(len(every.output.splitlines()), 2 + 9, "a line for each grade and colour")
        none = self.run_verb("orders", "--workspace", self.folder / "none.kaustos")
        self.assertEqual(none.exit_code, 2)
        self.assertIn("none.kaustos", none.output)

    def test_writing_is_refused_while_a_window_has_the_workspace(self):
        opened = Workspace(self.workspace)
        self.addCleanup(opened.close)
        done = self.run_verb("import", self.file, "--workspace", self.workspace)
        self.assertEqual(done.exit_code, 2)
        self.assertIn("is being written by", done.output)
        self.assertEqual(self.run_verb("export", self.folder / "x", "--workspace", self.workspace).exit_code, 0)

    def test_a_review_says_what_is_worth_finding_out_first(self):
        done = self.run_verb("review", self.file, "--workspace", self.workspace)
        line = next(each for each in done.stdout.splitlines() if each.startswith("Worth finding out first: "))
        self.assertRegex(line, r"five specimens across their layers: .+ of work, .+ a run and pays after \d+")
        self.assertNotIn("Worth finding out", self.run_verb("review", self.file, "--only", "stop").stdout)

    def test_a_review_says_how_often_its_findings_were_right(self):
        done = self.run_verb("review", self.file, "--workspace", self.workspace, "--json")
        findings = json.loads(done.stdout)["operations"][2]["findings"]
        runs = {each["code"]: each["runs"] for each in findings}
        self.assertEqual(runs["machine.chamber.below_window"], {"right": 2, "of": 2})
