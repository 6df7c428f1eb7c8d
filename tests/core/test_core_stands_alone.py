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
from kaustos.core import records, review

BLOCKED = ("PySide6", "sqlalchemy", "alembic", "trimesh", "cattrs", "pint", "jinja2", "weasyprint", "typer", "sqlite3")


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


class TestDataSheets(unittest.TestCase):
    def public_functions(self):
        faces = [getattr(area, name) for area in (records, review) for name in area.__all__]
        with_sheet = [
            each
            for module in modules()
            for each in vars(module).values()
            if inspect.isfunction(each) and "Parameters\n" in (each.__doc__ or "")
        ]
        return {each for each in faces if inspect.isfunction(each)} | set(with_sheet)

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
