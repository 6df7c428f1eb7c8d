"""What a measurement is worth: closed forms, limits, and that a worse instrument is never worth more."""

import math
import unittest

import numpy as np
from scipy.stats import norm

from kaustos.core.belief.worth import worth_of
from kaustos.core.planning.draws import normal

LOGS = normal("a quantity")
DRAWS = np.exp(LOGS)


class TestWorth(unittest.TestCase):
    def test_a_normal_prior_with_a_straight_loss_has_its_closed_form(self):
        for heed, error, slope in ((0.0, 0.5, 10.0), (4.0, 0.5, 10.0), (-8.0, 1.0, 10.0), (3.0, 0.2, 4.0)):
            spread = slope / math.sqrt(1.0 + error**2)  # of what is expected after the answer
            off = abs(heed) / spread
            expected = spread * (norm.pdf(off) - off * norm.sf(off))
            with self.subTest(heed=heed, error=error, slope=slope):
                found = worth_of(DRAWS, -slope * LOGS, heed, error)
                self.assertAlmostEqual(found.value, expected, delta=0.02 * slope)
                self.assertAlmostEqual(found.turns, norm.sf(off), delta=0.03)

    def test_the_mark_is_where_what_is_expected_is_as_dear_as_heeding(self):
        error, slope, heed = 0.5, 10.0, 4.0
        found = worth_of(DRAWS, -slope * LOGS, heed, error)
        self.assertAlmostEqual(math.log(found.at), -heed / slope * (1.0 + error**2), delta=0.02)

    def test_what_tells_nothing_is_worth_nothing(self):
        lost = 100.0 * (DRAWS < 0.8)
        self.assertAlmostEqual(worth_of(DRAWS, lost, 30.0, 1e4).value, 0.0, delta=1e-3)
        self.assertEqual(worth_of(DRAWS, lost, 30.0, 1e4).turns, 0.0)

    def test_it_never_saves_more_than_knowing_for_sure(self):
        for limit in (0.3, 0.8, 1.0, 2.0):
            for heed in (5.0, 30.0, 70.0, 95.0):
                lost = 100.0 * (limit > DRAWS)
                sure = min(lost.mean(), heed) - np.minimum(lost, heed).mean()
                with self.subTest(limit=limit, heed=heed):
                    self.assertLessEqual(worth_of(DRAWS, lost, heed, 0.05).value, sure + 1e-9)
                    self.assertGreater(worth_of(DRAWS, lost, heed, 0.05).value, 0.7 * sure)

    def test_a_worse_instrument_is_never_worth_more(self):
        lost = 100.0 * (DRAWS < 0.8)
        found = [worth_of(DRAWS, lost, 30.0, error).value for error in (0.05, 0.1, 0.2, 0.4, 0.8, 1.6, 3.2)]
        self.assertEqual(found, sorted(found, reverse=True))

    def test_a_sure_thing_is_not_worth_asking(self):
        for lost in (0.0, 100.0):
            found = worth_of(DRAWS, np.full_like(DRAWS, lost), 30.0, 0.1)
            self.assertAlmostEqual(found.value, 0.0, delta=1e-9)
            self.assertIsNone(found.at)
            self.assertEqual(found.runs_now, lost == 0.0)


if __name__ == "__main__":
    unittest.main()
