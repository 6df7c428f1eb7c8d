"""The state of the filament that a run begins with: told by hand from figures at and about the printing limit."""

import unittest

import attrs

from kaustos.core.records import StrandCheck
from kaustos.core.review import Estimate
from kaustos.core.review.run_moisture import filament_of
from tests.core.review.cases import DRIED
from tests.support import changed, judged, opened

BRACKET = "winch_bracket"
LIMIT = 0.2  # of the polymer of the bracket, as its library file says


class TestFilament(unittest.TestCase):
    def state(self, start, end, records=None):
        """The state where moisture is likely and at most so much at start and end."""
        recipe, context, found = judged(records or changed(opened(BRACKET), DRIED))
        self.assertEqual(context.polymer.value("moisture_limit_pct").value, LIMIT)
        operations = tuple(attrs.evolve(each, figures=self.figures(each, start, end)) for each in found.operations)
        return filament_of(recipe, context, attrs.evolve(found, operations=operations))

    def figures(self, operation, start, end):
        told = {"stock.moisture.start": start, "stock.moisture.end": end}
        return tuple(
            attrs.evolve(each, value=self.estimate(told[each.key])) if told.get(each.key) else each
            for each in operation.figures
        )

    def estimate(self, pair):
        value, high = pair
        return Estimate(value, 0.0, high, "% water", "", "")

    def test_the_likely_value_decides_wet_and_the_worst_one_doubt(self):
        for start, end, word in (
            ((0.15, 0.19), (0.10, 0.17), "dry"), ((0.15, 0.20), (0.20, 0.20), "dry"),
            ((0.15, 0.21), (0.10, 0.15), "doubtful"), ((0.10, 0.15), (0.15, 0.21), "doubtful"),
            ((0.21, 0.30), (0.10, 0.15), "wet"), ((0.10, 0.15), (0.21, 0.30), "wet"),
        ):  # fmt: skip
            with self.subTest(start=start, end=end):
                self.assertEqual(self.state(start, end), word)

    def test_a_strand_that_showed_water_is_wet_whatever_the_figures_say_and_a_doubtful_one_is_not(self):
        undried = changed(opened(BRACKET), {"stock.dryer_h": None})
        dry = (0.1, 0.2)
        self.assertEqual(self.state(dry, dry, undried), "wet", "bubbles and drool")
        one = (StrandCheck(at_utc="2026-02-10T08:00:00Z", signs=("dull",)),)
        self.assertEqual(self.state(dry, dry, changed(undried, {"lot.strands": one})), "dry")
        none = changed(undried, {"lot.strands": (), "lot.stays": ()})
        self.assertEqual(self.state(dry, dry, none), "unknown")

    def test_nothing_is_said_where_nothing_is_known(self):
        recipe, context, found = judged(changed(opened(BRACKET), DRIED))
        values = {key: each for key, each in context.polymer.values.items() if key != "moisture_limit_pct"}
        without_limit = attrs.evolve(context, polymer=attrs.evolve(context.polymer, values=values))
        self.assertIsNone(filament_of(recipe, without_limit, found))
        bare = attrs.evolve(found, operations=())
        self.assertIsNone(filament_of(recipe, context, bare))
        self.assertIsNone(filament_of(recipe, attrs.evolve(context, polymer=None), found))


if __name__ == "__main__":
    unittest.main()
