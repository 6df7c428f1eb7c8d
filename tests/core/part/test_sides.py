"""Sides on which solids could lie, beside areas and heights known by heart."""

import math
import unittest
from unittest import mock

import numpy as np

from kaustos.core.part import sides
from kaustos.core.part.sides import sides_of
from tests.core.part.solids import box, cone, joined


class TestSides(unittest.TestCase):
    def test_a_box_lies_on_each_of_its_six_sides(self):
        found = sides_of(box(30.0, 20.0, 10.0))
        self.assertEqual([round(each.area_mm2) for each in found], [600, 600, 300, 300, 200, 200])
        self.assertEqual([round(each.height_mm) for each in found], [10, 10, 20, 20, 30, 30])

    def test_nothing_hangs_of_a_box_and_the_flange_of_a_stepped_one_does(self):
        self.assertEqual({each.hangs_mm2 for each in sides_of(box(30.0, 20.0, 10.0))}, {0.0})
        stepped = joined(box(10.0, 10.0, 20.0, at=(10.0, 10.0, 0.0)), box(30.0, 30.0, 5.0, at=(0.0, 0.0, 20.0)))
        lying = {round(each.area_mm2): each.hangs_mm2 for each in sides_of(stepped)}
        joint = 100.0  # where one body stands on the other
        self.assertEqual(lying[900], joint)
        self.assertEqual(lying[100], 900.0)  # on its foot the flange hangs, the joint with it

    def test_a_cone_lies_on_its_base_and_on_two_of_its_facets(self):
        found = sides_of(cone(20.0, 30.0, sides=90))
        base = 0.5 * 90 * 20.0**2 * math.sin(2.0 * math.pi / 90)
        self.assertAlmostEqual(found[0].area_mm2, base, places=3)
        self.assertAlmostEqual(found[0].height_mm, 30.0)
        self.assertEqual(len(found), 3)
        facet = 0.5 * 2.0 * 20.0 * math.sin(math.pi / 90) * math.hypot(30.0, 20.0 * math.cos(math.pi / 90))
        for each in found[1:]:
            self.assertAlmostEqual(each.area_mm2, facet, places=3)

    def test_of_a_skin_of_many_facets_the_largest_directions_are_looked_at(self):
        body = cone(20.0, 30.0, sides=2000)
        looked = mock.Mock(side_effect=np.ptp)
        with mock.patch.object(sides.np, "ptp", looked):
            found = sides_of(body)
        self.assertLessEqual(looked.call_count, sides.MOST_TRIED)
        self.assertEqual(round(found[0].height_mm), 30)
