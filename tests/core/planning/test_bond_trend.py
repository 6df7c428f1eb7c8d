"""How parts come off a plate over its life: trends that are there are found, chance is not taken for one."""

import random
import unittest

from kaustos.core.planning.bond_trend import EFFORTS, bond_trend


class TestTrend(unittest.TestCase):
    def test_rising_effort_is_harder_and_told_backwards_looser(self):
        off = ["let_go", "let_go", "easy", "easy", "hard", "stuck"]
        self.assertEqual(bond_trend(off).says, "harder")
        self.assertEqual(bond_trend(off[::-1]).says, "looser")

    def test_few_parts_say_nothing_and_parts_alike_are_steady(self):
        self.assertEqual(bond_trend(["let_go", "easy", "hard", "stuck"]).says, "unknown")
        self.assertEqual(bond_trend([]).says, "unknown")
        self.assertEqual(bond_trend(["easy"] * 9).says, "steady")

    def test_chance_is_called_a_trend_in_few_of_many_plates(self):
        told = random.Random(4)
        found = [bond_trend([told.choice(list(EFFORTS)) for _ in range(12)]).says for _ in range(400)]
        self.assertLess(found.count("steady"), 400)
        self.assertGreater(found.count("steady"), 360)

    def test_what_is_long_ago_is_forgotten(self):
        before = ["stuck", "hard", "easy", "let_go"] * 3
        self.assertEqual(bond_trend([*before, *["let_go"] * 5, *["easy"] * 4, *["hard"] * 3]).says, "harder")
