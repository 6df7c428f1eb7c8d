"""Lift of a part that has let go: closed forms of the freed length and of the curl."""

import doctest
import unittest

import numpy as np

from kaustos.core.physics import lift
from kaustos.core.physics.lift import curl, freed_length

HEIGHTS = np.linspace(0.0, 0.02, 2001)


def load_tests(loader, tests, pattern):
    tests.addTests(doctest.DocTestSuite(lift))
    return tests


class TestFreedLength(unittest.TestCase):
    def test_it_begins_at_nothing_and_ends_in_the_middle(self):
        grips = np.array([400.0, 151.0, 149.999, 120.0, 105.0, 100.001, 99.0, 10.0])
        found = freed_length(100.0, 1.5, grips, 0.01, 0.06)
        self.assertEqual(found[:2].tolist(), [0.0, 0.0])
        self.assertLess(found[2], 1e-6)
        self.assertEqual(found[-2:].tolist(), [0.06, 0.06])
        self.assertTrue((np.diff(found) >= 0.0).all())

    def test_where_it_stops_the_load_is_the_grip(self):
        for grip in (148.0, 130.0, 110.0):
            length = float(freed_length(100.0, 1.5, grip, 0.01, 1.0))
            self.assertAlmostEqual(100.0 * (1.0 + 0.5 * np.exp(-length / 0.01)), grip, places=9)


class TestCurl(unittest.TestCase):
    def bent(self, strain, start, later=0.0):
        return float(curl(HEIGHTS, np.broadcast_to(strain, (1, HEIGHTS.size)), np.array([start]), later)[0])

    def test_even_strain_bends_nothing_and_a_straight_rise_bends_by_its_slope(self):
        self.assertAlmostEqual(self.bent(np.full(HEIGHTS.size, 4e-3), 2000), 0.0, places=6)
        self.assertAlmostEqual(self.bent(4e-3 * HEIGHTS / 0.02, 2000), 4e-3 / 0.02, delta=1e-3)

    def test_a_stiff_upper_half_bends_by_one_and_a_half_strains_over_its_height(self):
        """A step in the middle of a section: 12/h^3 times half its area times a quarter of its height."""
        step = np.where(HEIGHTS > 0.01, 3e-3, 0.0)
        self.assertAlmostEqual(self.bent(step, 2000), 1.5 * 3e-3 / 0.02, delta=2e-3)

    def test_layers_laid_later_bend_by_the_integral_of_six_strains_over_the_square_of_the_height(self):
        even, start = np.full(HEIGHTS.size, 2e-3), 500
        by_hand = 6.0 * 2e-3 * (1.0 / HEIGHTS[start] - 1.0 / HEIGHTS[-1])
        for later in (1.0, 0.3):
            self.assertAlmostEqual(self.bent(even, start, later) / (later * by_hand), 1.0, delta=0.01)

    def test_layers_that_shrank_less_above_never_lift_it(self):
        self.assertEqual(self.bent(4e-3 * (1.0 - HEIGHTS / 0.02), 2000), 0.0)


if __name__ == "__main__":
    unittest.main()
