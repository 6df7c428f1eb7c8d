"""How many small faults the tests of their own modules see: tools/mutants.py [COUNT] [SEED] [--area AREA] [--kept]

A sample over an area, core where none is named, of: a comparison turned round or made strict, + for -, * for /, and for
or, a number moved by one, True for False. Its seed is the commit's hash where none is given. Each is tried in a copy of
the tree; it dies where a test of its module fails. With --kept those that live are also looked for in what is kept of
the demo recipes. By hand: sixty take half an hour.
"""

import ast
import concurrent.futures
import json
import os
import pathlib
import random
import shutil
import subprocess
import sys
import tempfile

ROOT = pathlib.Path(__file__).parents[1]
MOST_TESTS, LIMIT_S = 5, 300
KEPT = "tests.test_kept"
COMPARISONS = {ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
               ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In}  # fmt: skip
SUMS = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}


def sites(tree: ast.AST):
    """Every place that can be changed, and what changes it; how a class is declared is none."""
    declared = {each for node in ast.walk(tree) if isinstance(node, ast.ClassDef)
                for decorator in node.decorator_list for each in ast.walk(decorator)}  # fmt: skip
    for node in ast.walk(tree):
        if node in declared:
            continue
        if isinstance(node, ast.Compare) and type(node.ops[0]) in COMPARISONS:
            yield node, lambda node: node.ops.__setitem__(0, COMPARISONS[type(node.ops[0])]())
        elif isinstance(node, ast.BinOp) and type(node.op) in SUMS and not _is_text(node):
            yield node, lambda node: setattr(node, "op", SUMS[type(node.op)]())
        elif isinstance(node, ast.BoolOp):
            yield node, lambda node: setattr(node, "op", ast.Or() if isinstance(node.op, ast.And) else ast.And())
        elif isinstance(node, ast.Constant) and isinstance(node.value, bool):
            yield node, lambda node: setattr(node, "value", not node.value)
        elif isinstance(node, ast.Constant) and isinstance(node.value, (int, float)):
            yield node, lambda node: setattr(node, "value", node.value + 1)


def _is_text(node: ast.BinOp) -> bool:
    sides = (node.left, node.right)
    return any(isinstance(each, (ast.JoinedStr, ast.Tuple)) or
               (isinstance(each, ast.Constant) and isinstance(each.value, str)) for each in sides)  # fmt: skip


def every_site(area: str) -> list[tuple[pathlib.Path, int]]:
    """Files of an area with the number of each place in them; data sheets and declarations are left out."""
    found = []
    for file in sorted((ROOT / "src/kaustos" / area).rglob("*.py")):
        if file.name not in ("__init__.py", "codes.py") and "estimates" not in file.parts:
            found += [(file, place) for place, _ in enumerate(sites(ast.parse(file.read_text())))]
    return found


def owners(file: pathlib.Path) -> list[str]:
    """The tests of a module: its mirror, then those that import it or its package, the quickest first."""
    parts = file.relative_to(ROOT / "src").with_suffix("").parts
    dotted, package = ".".join(parts), ".".join(parts[:-1])
    times = json.loads((ROOT / "tests/times.json").read_text())
    found = []
    for test in sorted((ROOT / "tests").rglob("test_*.py")):
        text, name = test.read_text(), ".".join(test.relative_to(ROOT).with_suffix("").parts)
        mirror = test.stem == f"test_{parts[-1]}" or test.stem == f"test_{parts[-2]}"
        if mirror or f"{dotted} " in text or f"{package} " in text or f"from {package} import" in text:
            found.append((not mirror, times.get(name, 9.0), name))
    names = [name for _, _, name in sorted(found)[:MOST_TESTS]]
    return names + (["tests.core.review.test_registry"] if "review" in parts else [])


def fate(file: pathlib.Path, place: int, *, kept: bool) -> tuple[str, str]:
    """Whether it dies by its module's tests, is seen by what is kept, or lives; and what was changed."""
    tree = ast.parse(file.read_text())
    node, change = next(each for number, each in enumerate(sites(tree)) if number == place)
    before = ast.unparse(node)
    change(node)
    after = f"{file.relative_to(ROOT)}:{node.lineno}: {before}  ->  {ast.unparse(node)}"
    with tempfile.TemporaryDirectory() as scratch:
        copy = pathlib.Path(scratch) / "src"
        shutil.copytree(ROOT / "src", copy, ignore=shutil.ignore_patterns("__pycache__", "*.egg-info"))
        (copy / file.relative_to(ROOT / "src")).write_text(ast.unparse(tree))
        environment = {**os.environ, "PYTHONPATH": f"{copy}:{ROOT}", "QT_QPA_PLATFORM": "offscreen",
                       "PYTHONPYCACHEPREFIX": f"{scratch}/compiled"}  # fmt: skip
        for name in (*owners(file), *((KEPT,) if kept else ())):
            try:
                done = subprocess.run([sys.executable, "-m", "unittest", "-f", name], cwd=ROOT, env=environment,
                                      capture_output=True, timeout=LIMIT_S, check=False)  # fmt: skip
            except subprocess.TimeoutExpired:
                return "dies", after
            if done.returncode:
                return "seen" if name == KEPT else "dies", after
    return "lives", after


def seed_of_commit() -> int:
    """A number that nobody chose."""
    done = subprocess.run(["git", "rev-parse", "HEAD"], cwd=ROOT, capture_output=True, text=True, check=True)
    return int(done.stdout[:8], 16)


def main(arguments: list[str]) -> int:
    """Try a sample and print those that live."""
    area = arguments[arguments.index("--area") + 1] if "--area" in arguments else "core"
    numbers = [int(each) for each in arguments if each.isdigit()]
    count, seed = [*numbers, 60][0], numbers[1] if len(numbers) > 1 else seed_of_commit()
    sample = random.Random(seed).sample(every_site(area), count)
    words = []
    with concurrent.futures.ThreadPoolExecutor(max_workers=os.cpu_count()) as pool:
        for found, after in pool.map(lambda each: fate(*each, kept="--kept" in arguments), sample):
            words.append(found)
            if found != "dies":
                print(f"{found}: {after}", flush=True)
    print(f"{words.count('dies')} of {count} die by their module's tests, {words.count('seen')} are seen by what is "
          f"kept of the demo recipes, {words.count('lives')} live (seed {seed})")  # fmt: skip
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
