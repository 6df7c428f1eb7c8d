"""Grip of a pair: contact temperatures, healing, and the rule of two out of three."""

import itertools
import unittest

import numpy as np

from kaustos.core.physics.grip import contact_temperature, effusivity, grip
from kaustos.core.physics.weld import healing

POLYMER = float(effusivity(0.2, 1240.0, 1400.0))
SHEET = float(effusivity(0.22, 1270.0, 1250.0))  # of a polymer film, too thick to count as its backing
MIDDLE = {"gap": 0.6, "nozzle": 245.0, "plate": 75.0}
OFF = {"gap": 1.0, "nozzle": 265.0, "plate": 90.0}


def grip_at(off):
    """Grip over that at the middle with some of the three off towards harm."""
    at = {key: OFF[key] if key in off else MIDDLE[key] for key in MIDDLE}
    contact = contact_temperature(at["nozzle"], POLYMER, at["plate"], SHEET)
    usual = contact_temperature(MIDDLE["nozzle"], POLYMER, MIDDLE["plate"], SHEET)
    return float(grip(1.0, at["gap"] / MIDDLE["gap"], contact - usual, 12.0))


class TestContact(unittest.TestCase):
    def test_heat_that_leaves_the_melt_arrives_in_the_plate(self):
        melt, plate = 600.0, 1900.0
        meets = float(contact_temperature(250.0, melt, 80.0, plate))
        self.assertAlmostEqual(melt * (250.0 - meets), plate * (meets - 80.0), places=6)

    def test_glass_stays_nearer_to_its_own_heat_than_a_sheet_of_polymer(self):
        glass = float(effusivity(1.1, 2230.0, 830.0))
        self.assertLess(
            contact_temperature(250.0, POLYMER, 80.0, glass), contact_temperature(250.0, POLYMER, 80.0, 560)
        )


class TestHealing(unittest.TestCase):
    def test_it_grows_with_the_fourth_root_of_time_and_stops_at_whole(self):
        early, late = (float(healing(130.0, 105.0, seconds)) for seconds in (0.1, 1.6))
        self.assertAlmostEqual(late / early, 2.0, places=9)
        self.assertEqual(float(healing(300.0, 105.0, 1e12)), 1.0)
        self.assertEqual(float(healing(105.0, 105.0, 1e12)), 0.0)

    def test_hotter_faces_never_heal_less(self):
        self.assertTrue((np.diff(healing(np.linspace(90.0, 300.0, 400), 105.0, 2.0)) >= 0.0).all())


class TestTwoOfThree(unittest.TestCase):
    """With damage at 2.7 times the grip of the middle, one off holds without harm, two off do harm."""

    def test_any_one_off_stays_below_damage(self):
        for one in OFF:
            with self.subTest(one):
                self.assertLess(grip_at((one,)), 2.7)
                self.assertGreater(grip_at((one,)), 1.0)

    def test_any_two_off_pass_it(self):
        for two in itertools.combinations(OFF, 2):
            with self.subTest(two):
                self.assertGreater(grip_at(two), 2.7)

    def test_dirt_and_wear_only_take(self):
        self.assertEqual(float(grip(300.0, 1.0, 0.0, 12.0, 0.5, 0.4)), 60.0)
