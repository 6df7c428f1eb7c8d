"""The runner counts what stands in the tree, and says what fails."""

import subprocess
import sys
import tempfile
import textwrap
import unittest
from pathlib import Path

RUNNER = Path(__file__).parents[2] / "tools" / "run_tests.py"


class TestRunner(unittest.TestCase):
    def run_tree(self, body, *names):
        """Run the runner on a tree of one test file; exit code, output, counts."""
        with tempfile.TemporaryDirectory() as scratch:
            root = Path(scratch)
            (root / "tools").mkdir()
            (root / "tests" / "ui").mkdir(parents=True)
            for folder in ("tests", "tests/ui"):
                (root / folder / "__init__.py").touch()
            (root / "tools" / "run_tests.py").write_text(RUNNER.read_text())
            (root / "tests" / "test_one.py").write_text(textwrap.dedent(body))
            (root / "tests" / "ui" / "test_two.py").write_text(
                "import unittest\n\n\nclass T(unittest.TestCase):\n    def test_window(self):\n        pass\n"
            )
            command = [sys.executable, str(root / "tools" / "run_tests.py"), str(root / "counts"), *names]
            done = subprocess.run(command, capture_output=True, text=True, timeout=60, check=False)
            return done.returncode, done.stdout, (root / "counts").read_text().split()

    def test_good_bad_and_skipped_are_counted_and_only_bad_ones_speak(self):
        code, said, counts = self.run_tree(
            """
            import unittest

            class T(unittest.TestCase):
                def test_good(self):
                    print("noise")

                def test_bad(self):
                    self.assertEqual(1, 2)

                @unittest.skip("not here")
                def test_skipped(self):
                    pass
            """
        )
        self.assertEqual((code, counts), (1, ["2", "1", "1"]))
        self.assertIn("FAILED test_bad", said)
        self.assertNotIn("noise", said)
        self.assertNotIn("test_good", said)

    def test_a_test_that_hides_another_of_its_name_fails(self):
        code, said, counts = self.run_tree(
            """
            import unittest

            class T(unittest.TestCase):
                def test_same(self):
                    pass

                def test_same(self):
                    pass
            """
        )
        self.assertEqual((code, counts[1]), (1, "1"))
        self.assertIn("1 tests ran, 2 stand in the tree", said)

    def test_a_module_that_is_named_runs_alone(self):
        code, said, counts = self.run_tree("import unittest\n", "tests.ui.test_two")
        self.assertEqual((code, said, counts), (0, "", ["1", "0", "0"]))

    def test_a_process_that_dies_takes_its_module_along_and_the_rest_goes_on(self):
        code, said, counts = self.run_tree(
            """
            import os, unittest

            class T(unittest.TestCase):
                def test_dies(self):
                    os._exit(3)
            """
        )
        self.assertEqual((code, counts), (1, ["1", "1", "0"]))
        self.assertIn("tests.test_one: its process ended with 3", said)

    def test_a_file_that_cannot_be_imported_fails(self):
        code, said, _ = self.run_tree("import unittest\nimport nothing_of_this_name\n")
        self.assertEqual(code, 1)
        self.assertIn("nothing_of_this_name", said)
