"""How the modules hang together: no circle of imports, not even of types or inside functions."""

import ast
import graphlib
import unittest
from pathlib import Path

from tests.asserting import every, methods_of, unsure

TESTS = Path(__file__).parent
SRC = Path(__file__).parents[1] / "src"


def modules() -> dict[str, Path]:
    """Every module of the program by its dotted name."""
    names = {file: ".".join(file.relative_to(SRC).with_suffix("").parts) for file in SRC.rglob("*.py")}
    return {name.removesuffix(".__init__"): file for file, name in names.items()}


def imported(text: str, known: dict[str, Path]) -> set[str]:
    """The modules of the program that a text imports anywhere."""
    found = set()
    for node in ast.walk(ast.parse(text)):
        if isinstance(node, ast.ImportFrom) and node.module in known:
            inner = (f"{node.module}.{each.name}" for each in node.names)
            found |= {name if name in known else node.module for name in inner}
        elif isinstance(node, ast.Import):
            found |= {each.name for each in node.names if each.name in known}
    return found


def shared_helpers() -> dict[str, ast.FunctionDef]:
    """What tests inherit or import to look at something, by name."""
    found: dict[str, ast.FunctionDef] = {}
    for file in TESTS.rglob("*.py"):
        for node in ast.parse(file.read_text()).body:
            if isinstance(node, ast.FunctionDef) and node.name.startswith("assert"):
                found[node.name] = node
            elif isinstance(node, ast.ClassDef) and node.name.endswith(("Test", "Mixin")):
                found.update(methods_of(node))
    return found


class TestTests(unittest.TestCase):
    def test_no_test_passes_for_want_of_anything_to_look_at(self):
        shared = shared_helpers()
        for file in every(sorted(TESTS.rglob("test_*.py")), 100):
            with self.subTest(file.relative_to(TESTS)):
                self.assertEqual(unsure(file.read_text(), shared), [])

    def test_a_test_that_could_look_at_nothing_is_seen(self):
        for body, is_sure in (
            ("for a in found: self.assertTrue(a)", False),
            ("for a in every(found): self.assertTrue(a)", True),
            ("for a in (1, 2): self.assertTrue(a)", True),
            ("for a in (1, 2):\n   if a > b: self.assertTrue(a)", False),
            ("for a in [c for c in (1, 2) if c > b]: self.assertTrue(a)", False),
            ("for a, b in zip(found, (1, 2), strict=True): self.assertTrue(a)", True),
            ("for a, b in zip(found, (1, 2)): self.assertTrue(a)", False),
            ("for a in (1, 2):\n   with self.subTest(a): self.look(a)", True),
            ("for a in (1, 2): self.glance(a)", False),
            ("with self.assertRaises(ValueError): f()", True),
            ("f()", False),
        ):
            text = (
                f"class T:\n def test_a(self):\n  {body}\n"
                " def look(self, a):\n  self.assertTrue(a)\n"
                " def glance(self, a):\n  if a: self.assertTrue(a)\n"
            )
            with self.subTest(body):
                self.assertEqual(unsure(text) == [], is_sure)


class TestImports(unittest.TestCase):
    def test_no_module_imports_itself_round_a_corner(self):
        known = modules()
        self.assertGreater(len(known), 200)
        graph = {name: imported(file.read_text(), known) - {name} for name, file in known.items()}
        self.assertIn("kaustos.ui.desk", graph["kaustos.ui.shell"])
        try:
            graphlib.TopologicalSorter(graph).prepare()
        except graphlib.CycleError as error:
            self.fail(" -> ".join(error.args[1]))

    def test_imports_of_types_and_inside_functions_are_seen(self):
        known = {"a": Path("a"), "a.b": Path("b"), "c": Path("c")}
        text = "if TYPE_CHECKING:\n    from a import b\ndef f():\n    import c\nfrom a import thing\nimport os\n"
        self.assertEqual(imported(text, known), {"a", "a.b", "c"})
