"""What outcomes teach of a grip, against the closed form of one update and against a truth that is known."""

import itertools
import math
import unittest

import numpy as np
from scipy.stats import norm

from kaustos.core.fitting.bond_outcomes import SCATTER, Seen, belief


def closed_form(spread, over, scatter):
    """Mean and variance of N(0, spread²) after one part held."""
    width = math.hypot(scatter, spread)
    z = over / width
    r = norm.pdf(z) / norm.cdf(z)
    return spread**2 * r / width, spread**2 - spread**4 * r * (z + r) / width**2


class TestOneOutcome(unittest.TestCase):
    def test_it_moves_the_belief_as_the_closed_form_does(self):
        for spread, over in itertools.product((0.2, 0.47, 0.9), (-1.5, -0.3, 0.0, 0.8, 2.0)):
            found = belief(spread, spread, [Seen(over=over, above=True)])
            mean, variance = closed_form(spread, over, SCATTER)
            with self.subTest(spread=spread, over=over):
                self.assertAlmostEqual(found.mean, mean, places=6)
                self.assertAlmostEqual(found.variance, variance, places=6)

    def test_letting_go_is_the_mirror_of_holding(self):
        held = belief(0.5, 0.5, [Seen(over=0.4, above=True)])
        let_go = belief(0.5, 0.5, [Seen(over=-0.4, above=False)])
        self.assertAlmostEqual(held.mean, -let_go.mean, places=9)
        self.assertAlmostEqual(held.variance, let_go.variance, places=9)

    def test_the_more_surprising_it_is_the_further_it_moves(self):
        moved = [belief(0.5, 0.5, [Seen(over=over, above=True)]).mean for over in (2.0, 1.0, 0.0, -1.0)]
        self.assertEqual(moved, sorted(moved))


class TestMany(unittest.TestCase):
    def test_ten_holds_far_below_the_grip_leave_it_within_a_tenth(self):
        found = belief(0.47, 0.47, [Seen(over=math.log(6.0), above=True)] * 10)
        self.assertLess(abs(math.exp(found.mean) - 1.0), 0.1)

    def test_the_order_does_not_matter(self):
        seen = [Seen(over=over, above=above) for over, above in ((0.4, True), (-0.7, False), (0.1, False), (1.2, True))]
        first = belief(0.5, 0.4, seen)
        for other in itertools.permutations(seen):
            self.assertAlmostEqual(belief(0.5, 0.4, other).mean, first.mean, places=12)

    def test_shares_of_the_belief_come_back_in_order_and_spread_as_it_is(self):
        found = belief(0.5, 0.5, [Seen(over=0.0, above=True)])
        drawn = found.at((np.arange(4000) + 0.5) / 4000)
        self.assertTrue((np.diff(drawn) > 0).all())
        self.assertAlmostEqual(float(drawn.mean()), found.mean, places=3)
        self.assertAlmostEqual(float(drawn.var()), found.variance, places=3)

    def test_thirty_outcomes_of_a_plate_close_in_on_its_true_grip(self):
        """Loads between a third and three times the book; the truth half of it; most bands cover it."""
        rng, covered, narrower, errors = np.random.default_rng(11), 0, 0, []
        for _ in range(60):
            truth = rng.normal(0.0, 0.47)
            seen = []
            for over in rng.uniform(-1.1, 1.1, 30):
                seen.append(Seen(over=over, above=bool(truth + over + rng.normal(0.0, SCATTER) > 0.0)))
            found = belief(0.47, 0.47, seen)
            half = 1.96 * found.variance**0.5
            covered += abs(found.mean - truth) <= half
            narrower += half < 0.5 * 1.96 * 0.47
            errors.append(found.mean - truth)
        self.assertGreaterEqual(covered, 52)
        self.assertGreaterEqual(narrower, 55)
        self.assertLess(abs(float(np.mean(errors))), 0.08)
