"""Ladders: the best of a curve that is known, bands that cover, and steps from which nothing follows."""

import math
import unittest

import numpy as np

from kaustos.core.fitting.ladder import LadderFault, flow_ladder, heat_ladder

STEPS = [230.0, 240.0, 250.0, 260.0, 270.0, 280.0]


class TestHeat(unittest.TestCase):
    def test_the_vertex_of_a_parabola_is_found(self):
        for best in (244.0, 252.0, 263.0):
            fit = heat_ladder(STEPS, [5.0 - ((x - best) / 20.0) ** 2 for x in STEPS])
            self.assertAlmostEqual(fit.best, best, delta=0.01)
            self.assertTrue(fit.low < best < fit.high)

    def test_the_band_covers_a_known_best_under_scatter(self):
        rng = np.random.default_rng(11)
        for best in (243.0, 256.0, 267.0):  # in the middle of the ladder and near its ends
            fits = []
            for _ in range(200):
                scores = [4.0 - ((x - best) / 18.0) ** 2 + rng.normal(0.0, 0.25) for x in STEPS]
                fits.append(heat_ladder(STEPS, scores))
            hits = sum(fit.low <= best <= fit.high for fit in fits)
            half = np.median([(fit.high - fit.low) / 2.0 for fit in fits])
            with self.subTest(best):
                self.assertTrue(180 <= hits <= 200, hits)
                self.assertTrue(1.5 <= half / np.std([fit.best for fit in fits]) <= 4.0, "wide enough, and no wider")

    def test_the_best_single_row_does_not_win_over_the_curve(self):
        scores = [1.0, 2.4, 3.2, 3.4, 3.0, 2.0]
        scores[1] = 3.6  # a lucky piece
        self.assertTrue(245.0 < heat_ladder(STEPS, scores).best < 270.0)

    def test_a_ladder_that_still_rises_says_go_on(self):
        fit = heat_ladder(STEPS, [1.0, 1.5, 2.0, 2.6, 3.3, 4.1])
        self.assertTrue(fit.is_end)
        self.assertEqual((fit.best, fit.next_step), (280.0, 290.0))
        falls = heat_ladder(STEPS, [4.1, 3.3, 2.6, 2.0, 1.5, 1.0])
        self.assertEqual((falls.best, falls.next_step), (230.0, 220.0))

    def test_order_does_not_matter(self):
        scores = dict(zip(STEPS, [1.0, 2.4, 3.2, 3.4, 3.0, 2.0], strict=True))
        mixed = [260.0, 230.0, 280.0, 250.0, 240.0, 270.0]
        self.assertAlmostEqual(
            heat_ladder(mixed, [scores[x] for x in mixed]).best, heat_ladder(STEPS, [*scores.values()]).best
        )

    def test_too_few_steps_say_so(self):
        for steps, scores in (([], []), ([240.0], [3.0]), ([240.0, 250.0], [3.0, 2.0]), ([240.0] * 4, [1.0] * 4)):
            with self.subTest(steps), self.assertRaisesRegex(LadderFault, "at least 3"):
                heat_ladder(steps, scores)
        with self.assertRaisesRegex(LadderFault, "one for each"):
            heat_ladder(STEPS, [1.0])
        with self.assertRaisesRegex(LadderFault, "number"):
            heat_ladder(STEPS, [1.0, 2.0, math.nan, 1.0, 1.0, 1.0])


class TestFlow(unittest.TestCase):
    def test_the_limit_lies_between_the_last_good_and_the_first_bad(self):
        fit = flow_ladder([4.0, 6.0, 8.0, 10.0], [True, True, True, False])
        self.assertEqual((fit.low, fit.best, fit.high), (8.0, 9.0, 10.0))

    def test_contradictions_widen_it(self):
        fit = flow_ladder([4.0, 6.0, 8.0, 10.0], [True, False, True, False])
        self.assertEqual((fit.low, fit.high), (6.0, 8.0))

    def test_all_good_goes_on_and_none_good_begins_again(self):
        self.assertEqual(flow_ladder([4.0, 6.0, 8.0], [True] * 3).next_step, 10.0)
        with self.assertRaisesRegex(LadderFault, "slower or hotter"):
            flow_ladder([4.0, 6.0, 8.0], [False] * 3)

    def test_a_narrow_band_needs_no_finer_step(self):
        self.assertIsNone(flow_ladder([9.0, 9.5, 10.0], [True, True, False]).next_step)
