"""How the modules hang together: no circle of imports, not even of types or inside functions."""

import ast
import graphlib
import unittest
from pathlib import Path

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
