"""Trends by order beside another library, and on series whose trend is known."""

import unittest

import numpy as np
from scipy.stats import kendalltau, theilslopes

from kaustos.core.planning.rank_trends import median_slope, rank_trend


class TestRankTrend(unittest.TestCase):
    def test_chance_beside_another_library_with_ties_and_without(self):
        rng = np.random.default_rng(20260302)
        for count in range(5, 13):
            for levels in (2, 4, 40):
                series = rng.integers(0, levels, count).astype(float)
                series[0], series[-1] = 0.0, levels
                other = kendalltau(np.arange(count), series, method="asymptotic")
                score, chance = rank_trend(series)
                with self.subTest(count=count, levels=levels):
                    self.assertAlmostEqual(chance, other.pvalue, delta=1e-12)
                    self.assertEqual(np.sign(score), np.sign(other.statistic))

    def test_reversed_it_falls_with_the_same_chance(self):
        series = [0.0, 2.0, 1.0, 3.0, 3.0, 5.0]
        (up, one), (down, other) = rank_trend(series), rank_trend(series[::-1])
        self.assertEqual((up, one), (-down, other))
        self.assertEqual(up, 12.0)  # 15 pairs: one falls, one is tied


class TestMedianSlope(unittest.TestCase):
    def test_beside_another_library(self):
        rng = np.random.default_rng(7)
        for count in (10, 33, 60):
            at = np.sort(rng.uniform(0.0, 10.0, count))
            value = np.round(0.3 * at + rng.normal(0.0, 0.4, count), 1)
            slope, _, low, high = theilslopes(value, at, alpha=0.99)
            with self.subTest(count):
                np.testing.assert_allclose(median_slope(at, value, 0.99), (slope, low, high), rtol=1e-12)

    def test_a_third_of_wild_points_does_not_turn_it(self):
        at = np.arange(30.0)
        value = 2.0 * at
        value[::4] += 500.0
        slope, low, high = median_slope(at, value, 0.9)
        self.assertAlmostEqual(slope, 2.0, delta=0.1)
        self.assertTrue(low <= slope <= high)
