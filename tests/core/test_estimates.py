"""What is assumed stands in one place, whole, and nowhere else."""

import re
import unittest
from pathlib import Path

from kaustos.app.estimates import estimate_rows, estimates_document
from kaustos.core.errors import FieldError
from kaustos.core.estimates import AREAS, DRYING, MACHINE, PURPOSE, SPOOL, Area, Assumed
from kaustos.core.records.recipe import PURPOSES
from kaustos.core.review.machine.questions import questions_of
from kaustos.library import load
from tests.asserting import every
from tests.support import opened, recipe_and_context

ROOT = Path(__file__).parents[2]
# what practice knows, in a range of its own: a constant that leaves it is wrong, not another opinion
USUAL = (
    (SPOOL, "mass_margin", 0.0, 0.15), (SPOOL, "winding_depth", 25.0, 80.0),
    (DRYING, "box_humidity", 0.05, 0.45), (DRYING, "winding_conductivity", 0.03, 0.25),
    (DRYING, "surface_transfer", 5.0, 30.0), (MACHINE, "below_transition", 3.0, 12.0),
    (PURPOSE, "comes_true.watch", 0.02, 0.6), (PURPOSE, "allowance.safety", 15.0, 40.0),
)  # fmt: skip


class TestTables(unittest.TestCase):
    def test_each_lies_in_what_practice_knows(self):
        for area, key, low, high in USUAL:
            with self.subTest(key):
                self.assertTrue(low <= area[key].low and area[key].high <= high)

    def test_every_word_of_a_record_that_needs_one_has_one(self):
        self.assertEqual(set(PURPOSE.group("allowance")), set(PURPOSES))
        recipe, context = recipe_and_context(opened("probe_head_shell"))
        parts = {each.field.removeprefix("machine.") for each in questions_of(recipe, context)}
        self.assertLessEqual(set(MACHINE.group("lowest")), parts)

    def test_a_falling_band_an_empty_reason_and_a_doubled_key_are_refused(self):
        good = {"key": "a", "value": 1.0, "low": 0.0, "high": 2.0, "unit": "1", "why": "because"}
        for change in ({"low": 1.5}, {"high": 0.5}, {"value": float("nan")}, {"why": " "}, {"unit": ""}):
            with self.subTest(change), self.assertRaises(FieldError):
                Assumed(**(good | change))
        with self.assertRaises(FieldError):
            Area("x", Assumed(**good), Assumed(**good))

    def test_no_module_keeps_a_constant_marked_estimate_of_its_own(self):
        files = (each for each in (ROOT / "src/kaustos/core").rglob("*.py") if "estimates" not in each.parts)
        for file in every(files):
            found = re.findall(r"^_?[A-Z][A-Z_, ]* = .*#.*estimate.*$", file.read_text(), re.M)
            with self.subTest(file.name):
                self.assertEqual(found, [])

    def test_the_document_is_the_one_that_the_code_makes(self):
        self.assertEqual((ROOT / "docs/estimates.md").read_text(), estimates_document())
        supplies = load().supplies
        held = 2 * len(supplies.bodies) + len(supplies.desiccants)
        self.assertEqual(len(estimate_rows()), sum(len(area) for area in AREAS) + held)
