"""Core needs neither window nor database nor files, and its public functions carry their data sheets."""

import doctest
import importlib
import inspect
import pkgutil
import re
import subprocess
import sys
import unittest

import kaustos.core
from kaustos.core import fitting, planning, records, review

FACES = (records, planning, fitting, review)
BLOCKED = ("PySide6", "sqlalchemy", "alembic", "trimesh", "cattrs", "pint", "jinja2", "weasyprint", "typer", "sqlite3")


UNITS = ("_c", "_k", "_h", "_s", "_g", "_mm", "_pct", "_g_day", "_um2_s", "_per_h", "_per_kg")  # of names
COUNTS = ("number", "done", "of")  # of things


def modules():
    return [
        importlib.import_module(found.name) for found in pkgutil.walk_packages(kaustos.core.__path__, "kaustos.core.")
    ]


class TestCoreStandsAlone(unittest.TestCase):
    def test_core_imports_with_interface_and_store_made_unimportable(self):
        names = [module.__name__ for module in modules()]
        program = (
            f"import sys\nfor name in {BLOCKED!r}: sys.modules[name] = None\n"
            f"import importlib\nfor name in {names!r}: importlib.import_module(name)\nprint('alone')"
        )
        done = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=False)
        self.assertEqual(done.stdout.strip(), "alone", done.stderr)


def is_number(annotation):
    """Whether a float, an array or a tuple of them is meant; what a table holds says its unit by its key."""
    plain = re.sub(r"(Mapping|Callable|dict)\[.*\]", "", str(annotation))
    return bool(re.search(r"\b(float|ndarray)\b", plain)) or annotation is int


class TestDataSheets(unittest.TestCase):
    def public_functions(self):
        faces = [getattr(area, name) for area in FACES for name in area.__all__]
        with_sheet = [
            each
            for module in modules()
            for each in vars(module).values()
            if inspect.isfunction(each) and "Parameters\n" in (each.__doc__ or "")
        ]
        return {each for each in faces if inspect.isfunction(each)} | set(with_sheet)

    def every_function(self):
        """Every public function, method and property of the core."""
        for module in modules():
            for name, thing in vars(module).items():
                if name.startswith("_") or getattr(thing, "__module__", "") != module.__name__:
                    continue
                if inspect.isfunction(thing):
                    yield f"{module.__name__}.{name}", thing
                elif inspect.isclass(thing):
                    for inner, found in vars(thing).items():
                        found = found.fget if isinstance(found, property) else found
                        if inspect.isfunction(found) and not inner.startswith("_"):
                            yield f"{module.__name__}.{name}.{inner}", found

    def test_every_number_that_a_public_function_takes_or_gives_carries_its_unit(self):
        found = dict(self.every_function())
        self.assertGreater(len(found), 200)
        for place, function in found.items():
            text, signature = inspect.getdoc(function) or "", inspect.signature(function)
            has_unit = bool(re.search(r"\[[^\]]+\]", text))
            bare = [
                name
                for name, parameter in signature.parameters.items()
                if is_number(parameter.annotation) and not (has_unit or name.endswith(UNITS) or name in COUNTS)
            ]
            if is_number(signature.return_annotation) and not (has_unit or place.endswith(UNITS)):
                bare.append("what it returns")
            with self.subTest(place):
                self.assertEqual(bare, [])

    def test_every_parameter_is_described_with_its_unit_in_brackets(self):
        self.assertGreaterEqual(len(self.public_functions()), 9)
        for function in self.public_functions():
            with self.subTest(function.__qualname__):
                text = inspect.getdoc(function)
                sheet = re.search(r"Parameters\n-+\n(.*?)\n\n", text + "\n\n", re.S)
                self.assertIsNotNone(sheet, "has no data sheet")
                described = re.findall(r"^(\w+) : ", sheet[1], re.M)
                self.assertEqual(described, list(inspect.signature(function).parameters))
                self.assertEqual(len(re.findall(r"\[[^\]]+\]$", sheet[1], re.M)), len(described))
                self.assertRegex(text, r"Returns\n-+\n(.|\n)*\[[^\]]+\]")


def load_tests(loader, tests, pattern):
    for module in modules():
        tests.addTests(doctest.DocTestSuite(module))
    return tests
