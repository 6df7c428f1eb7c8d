"""Line and branch coverage of an area by the tests: tools/cover.py [--area core] [MODULE ...]

By hand; without modules the tests of core, app, formats and library are run, which takes some minutes. Prints every
module below 90 %, its lines and branches that no test runs, and the whole; 1 where one is below.
"""

import json
import os
import pathlib
import subprocess
import sys
import tempfile

ROOT = pathlib.Path(__file__).parents[1]
BY_DEFAULT = ("tests/core", "tests/app", "tests/formats", "tests/library", "tests/demo")
LEAST_PCT = 90.0


def main(arguments: list[str]) -> int:
    """Run the tests under coverage and print what they leave out."""
    area = arguments[arguments.index("--area") + 1] if "--area" in arguments else "core"
    names = [each for each in arguments if each.startswith("tests.")] or default_modules()
    with tempfile.TemporaryDirectory() as scratch:
        folder = pathlib.Path(scratch)
        found = covered(area, names, folder)
    below = 0
    for file, each in sorted(found["files"].items(), key=lambda item: item[1]["summary"]["percent_covered"]):
        share = each["summary"]["percent_covered"]
        if share < LEAST_PCT:
            below += 1
            lines = ", ".join(map(str, each["missing_lines"][:30]))
            branches = ", ".join(f"{a}->{b}" for a, b in each["missing_branches"][:12])
            print(f"{share:5.1f} %  {file}\n    lines {lines or 'all'}\n    branches {branches or 'all'}")
    totals = found["totals"]
    print(f"{area}: lines {share_of(totals, 'lines', 'num_statements'):.1f} %, branches "
          f"{share_of(totals, 'branches', 'num_branches'):.1f} %, {below} modules below {LEAST_PCT:.0f} %")  # fmt: skip
    return 1 if below else 0


def share_of(totals: dict, what: str, of: str) -> float:
    """Share of lines or branches that were run, in per cent."""
    return 100.0 * totals[f"covered_{what}"] / max(totals[of], 1)


def default_modules() -> list[str]:
    """Test modules without a window."""
    files = (file for folder in BY_DEFAULT for file in sorted((ROOT / folder).rglob("test_*.py")))
    return [".".join(file.relative_to(ROOT).with_suffix("").parts) for file in files]


def covered(area: str, names: list[str], folder: pathlib.Path) -> dict:
    """What coverage says, as its own document; failures of the tests are told and stop nothing."""
    settings = folder / "coverage.ini"
    settings.write_text(
        f"[run]\nbranch = True\nparallel = True\npatch = subprocess\nsource = {ROOT / 'src/kaustos' / area}\n"
        f"data_file = {folder / 'data'}\n"
    )
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "PYTHONDONTWRITEBYTECODE": "1", "HOME": str(folder)}
    base = [sys.executable, "-m", "coverage"]
    tests = [*base, "run", f"--rcfile={settings}", "tools/run_tests.py", str(folder / "counts"), *names]
    if subprocess.run(tests, cwd=ROOT, env=environment, check=False).returncode:
        print("Not all of these tests passed: see above.")
    subprocess.run([*base, "combine", "-q", f"--rcfile={settings}"], cwd=ROOT, check=True)
    report = folder / "report.json"
    subprocess.run([*base, "json", "-q", f"--rcfile={settings}", "-o", str(report)], cwd=ROOT, check=True)
    return json.loads(report.read_text())


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
