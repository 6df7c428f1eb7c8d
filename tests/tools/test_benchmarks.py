"""What the runner of the benchmarks makes of a part: figures beside their limits, and what has failed."""

import contextlib
import io
import json
import unittest
from unittest import mock

from benchmarks import __main__ as runner
from benchmarks import anneals


def said(*figures, code=0):
    """A part that prints figures and ends with a code."""
    lines = [runner.MARK + json.dumps({"limit": 1.0, "unit": "times", "load": 0.1} | each) for each in figures]
    process = mock.Mock(returncode=code)
    process.communicate.return_value = ("\n".join(["a word of its own", *lines, ""]), None)
    return process


class TestParts(unittest.TestCase):
    def test_what_takes_no_time_is_measured_here_too_so_that_a_changed_core_breaks_no_benchmark_unseen(self):
        with mock.patch.object(anneals, "RUNS", 1):
            for name, _, _, measure in anneals.COMPARISONS:
                with self.subTest(name):
                    self.assertGreater(measure(), 0.0)


class TestRunner(unittest.TestCase):
    def run_part(self, *figures, code=0):
        out = io.StringIO()
        part = mock.patch.object(runner.subprocess, "Popen", return_value=said(*figures, code=code))
        with part, contextlib.redirect_stdout(out):
            counts = runner._run("logs")
        return counts, out.getvalue()

    def test_each_figure_stands_beside_its_limit_and_what_is_over_is_counted(self):
        counts, out = self.run_part({"name": "quick", "found": 0.5}, {"name": "slow", "found": 1.5})
        self.assertEqual(counts, (1, 0))
        self.assertRegex(out, r"ok +quick +0\.50 of at most 1 times +\[load 0\.1\]")
        self.assertRegex(out, r"OVER slow +1\.50")
        self.assertIn("a word of its own", out)

    def test_a_figure_that_fails_is_told_and_the_rest_goes_on(self):
        counts, out = self.run_part({"name": "broken", "fault": "ValueError: no"}, {"name": "quick", "found": 0.5})
        self.assertEqual(counts, (0, 1))
        self.assertRegex(out, r"FAIL broken +ValueError: no\nok ")

    def test_a_part_that_ends_badly_or_says_nothing_has_failed(self):
        for figures, code in (((), 0), (({"name": "quick", "found": 0.5},), 9)):
            with self.subTest(code=code):
                self.assertEqual(self.run_part(*figures, code=code)[0], (0, 1))

    def test_a_part_that_nobody_knows_is_refused_by_name(self):
        out = io.StringIO()
        with contextlib.redirect_stdout(out):
            self.assertEqual(runner.main(["nonsense"]), 2)
        self.assertIn("known: review_again", out.getvalue())
