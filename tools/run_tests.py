"""Runs the tests over the cores and writes their counts: python -W error tools/run_tests.py COUNTS [MODULE ...]

Modules are dealt to as many processes as there are cores, the longest first by the times of the last recorded run
(tests/times.json, written with --record). Fails when fewer tests ran than stand in the tree; a process that hangs
prints its stacks and ends.
"""

import ast
import faulthandler
import json
import os
import pathlib
import subprocess
import sys
import tempfile
import threading
import time
import unittest

LIMIT_S = 1_800  # of one module: a busy machine is not a hang
ROOT = pathlib.Path(__file__).parents[1]
TIMES = ROOT / "tests" / "times.json"
UNKNOWN_S = 5.0


def main(arguments: list[str]) -> int:
    """Deal the modules, collect the answers, print what failed."""
    if arguments[:1] == ["--worker"]:
        return _work()
    record = "--record" in arguments
    counts, *names = [each for each in arguments if each != "--record"]
    files = {_name(path): path for path in sorted((ROOT / "tests").rglob("test_*.py"))}
    wanted = names or [*files]
    times = json.loads(TIMES.read_text()) if TIMES.exists() else {}
    left = sorted(wanted, key=lambda name: -times.get(name, UNKNOWN_S))
    with tempfile.TemporaryDirectory() as scratch:
        os.environ["KAUSTOS_TEST_DEMO"] = f"{scratch}/demo.kaustos"  # built by the first that wants it
        answers = _dealt(left, max(1, os.cpu_count() or 1))
    failed = _told(answers, {name: _written(files[name]) for name in wanted})
    ran, skipped = (sum(each.get(key, 0) for each in answers.values()) for key in ("ran", "skipped"))
    bad = sum(len(each.get("bad", ())) for each in answers.values())
    pathlib.Path(counts).write_text(f"{ran - bad - skipped} {failed} {skipped}\n")
    if record:
        taken = times | {name: round(each["seconds"], 1) for name, each in answers.items() if "seconds" in each}
        kept = {name: taken[name] for name in sorted(taken) if name in files}
        TIMES.write_text(json.dumps(kept, indent=0) + "\n")
    return 1 if failed else 0


def _dealt(left: list[str], workers: int) -> dict[str, dict]:
    """Every module's answer; a process that ends takes its module with it and the rest goes on in a new one."""
    answers: dict[str, dict] = {}
    lock = threading.Lock()

    def deal() -> None:
        process = None
        while True:
            with lock:
                if not left:
                    break
                name = left.pop(0)
            if process is None or process.poll() is not None:
                process = _started(process)
            answers[name] = _asked(process, name)
        if process is not None and process.poll() is None:
            process.communicate()

    threads = [threading.Thread(target=deal) for _ in range(workers)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return answers


def _started(ended: subprocess.Popen | None = None) -> subprocess.Popen:
    for pipe in (ended.stdin, ended.stdout) if ended else ():
        pipe.close()
    return subprocess.Popen(
        [sys.executable, "-W", "error", "-X", "faulthandler", __file__, "--worker"], stdin=subprocess.PIPE,
        stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, cwd=ROOT,
    )  # fmt: skip


def _asked(process: subprocess.Popen, name: str) -> dict:
    process.stdin.write(name + "\n")
    process.stdin.flush()
    said = []
    for line in process.stdout:
        if line.startswith(MARK):
            return json.loads(line.removeprefix(MARK)) | {"said": "".join(said)}
        said.append(line)
    return {"crashed": process.wait(), "said": "".join(said)}


MARK = "\x1eanswer "


def _told(answers: dict[str, dict], written: dict[str, int]) -> int:
    """Print what failed; how many failures there were."""
    failed = 0
    for name, answer in sorted(answers.items()):
        for test, trace in answer.get("bad", ()):
            print(f"FAILED {test}\n{trace}")
            failed += 1
        if "crashed" in answer:
            print(f"FAILED {name}: its process ended with {answer['crashed']}\n{answer['said']}")
            failed += 1
        elif answer["ran"] < written[name]:
            print(f"FAILED {name}: {answer['ran']} tests ran, {written[name]} stand in the tree\n{answer['said']}")
            failed += 1
    return failed


def _work() -> int:
    """Run one module after another as their names come in."""
    answers = os.fdopen(os.dup(1), "w")
    sys.path.insert(0, str(ROOT))
    for line in sys.stdin:
        name, began = line.strip(), time.perf_counter()
        faulthandler.dump_traceback_later(LIMIT_S, exit=True)
        suite = unittest.TestLoader().loadTestsFromName(name)
        result = unittest.TextTestRunner(stream=_Quiet(), verbosity=0, buffer=True).run(suite)
        faulthandler.cancel_dump_traceback_later()
        bad = result.failures + result.errors
        traces = [(str(test), trace) for test, trace in bad]
        traces += [(str(test), "unexpected success") for test in result.unexpectedSuccesses]
        answer = {
            "ran": result.testsRun, "skipped": len(result.skipped), "bad": traces,
            "seconds": time.perf_counter() - began,
        }  # fmt: skip
        answers.write(MARK + json.dumps(answer) + "\n")
        answers.flush()
    return 0


def _name(path: pathlib.Path) -> str:
    return ".".join(path.relative_to(ROOT).with_suffix("").parts)


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
    sys.exit(main(sys.argv[1:]))
