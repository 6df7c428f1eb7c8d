"""Runs one group of tests and writes its counts: python -W error tools/run_tests.py core|window COUNTS.

Fails when fewer tests ran than stand in the tree; prints stacks and ends when it hangs.
"""

import ast
import faulthandler
import pathlib
import sys
import unittest

LIMIT_S = 480
ROOT = pathlib.Path(__file__).parents[1]
GROUPS = {"core": lambda path: "ui" not in path.parts, "window": lambda path: "ui" in path.parts}


def main() -> int:
    group, counts = sys.argv[1], pathlib.Path(sys.argv[2])
    faulthandler.dump_traceback_later(LIMIT_S, exit=True)
    sys.path.insert(0, str(ROOT))
    files = [path for path in sorted((ROOT / "tests").rglob("test_*.py")) if GROUPS[group](path.relative_to(ROOT))]
    names = [".".join(path.relative_to(ROOT).with_suffix("").parts) for path in files]
    loader = unittest.TestLoader()
    suite = loader.loadTestsFromNames(names)
    written = sum(_written(path) for path in files)
    result = unittest.TextTestRunner(stream=_Quiet(), verbosity=0, buffer=True).run(suite)
    bad = result.failures + result.errors + [(test, "unexpected success") for test in result.unexpectedSuccesses]
    for test, trace in bad:
        print(f"FAILED {test}\n{trace}")
    if result.testsRun < written:
        print(f"FAILED {group}: {result.testsRun} tests ran, {written} stand in the tree")
    failed = len(bad) + (result.testsRun < written)
    counts.write_text(f"{result.testsRun - len(bad) - len(result.skipped)} {failed} {len(result.skipped)}\n")
    faulthandler.cancel_dump_traceback_later()
    return 1 if failed else 0


def _written(path: pathlib.Path) -> int:
    """Test methods that stand in a file, mixins left out."""
    classes = [node for node in ast.parse(path.read_text()).body if isinstance(node, ast.ClassDef)]
    return sum(
        isinstance(each, ast.FunctionDef) and each.name.startswith("test_")
        for node in classes
        if not node.name.endswith("Mixin")
        for each in node.body
    )


class _Quiet:
    def write(self, text: str) -> None:
        """Failures are printed at the end, the rest is not wanted."""

    def flush(self) -> None:
        """Nothing is held."""


if __name__ == "__main__":
    sys.exit(main())
