"""Fits of logged warm-ups: intervals that cover the truth, what is not told, offsets and lags of sensors."""

import unittest

import numpy as np
from scipy.integrate import solve_ivp

from kaustos.core.fitting.heat_log import fit_chamber, summary_of, thinned

TIMES = np.linspace(0.0, 7_200.0, 300)
ROOM = 21.0


def warmed(losses, capacity, power):
    """A single node by an integrator, not by our own recursion."""
    done = solve_ivp(lambda t, at: (power(t) - losses * (at - ROOM)) / capacity, (0.0, TIMES[-1]), (ROOM,),
                     t_eval=TIMES, rtol=1e-8, atol=1e-8, max_step=60.0)  # fmt: skip
    return done.y[0]


class TestFit(unittest.TestCase):
    def test_the_stated_interval_covers_losses_and_capacity(self):
        inside = {"losses_w_k": 0, "capacity_j_k": 0}
        for seed in range(200):
            rng = np.random.default_rng(seed)
            truth = {"losses_w_k": 3.0 + 3.0 * rng.random(), "capacity_j_k": 8e3 + 6e3 * rng.random()}
            air = warmed(truth["losses_w_k"], truth["capacity_j_k"], lambda _: 220.0)
            fit = fit_chamber(TIMES, air + rng.normal(0.0, 0.5, TIMES.size), np.full(TIMES.size, 220.0), ROOM)
            for key, value in truth.items():
                inside[key] += fit.values[key].low <= value <= fit.values[key].high
        for key, count in inside.items():
            with self.subTest(key):
                self.assertTrue(180 <= count <= 199, count)

    def test_without_power_only_the_time_constant_is_told(self):
        inside = 0
        for seed in range(200):
            rng = np.random.default_rng(seed)
            tau = 900.0 + 900.0 * rng.random()
            air = 21.0 + 45.0 * (1.0 - np.exp(-TIMES / tau)) + rng.normal(0.0, 0.5, TIMES.size)
            fit = fit_chamber(TIMES, air, None, ROOM)
            inside += fit.values["tau_s"].low <= tau <= fit.values["tau_s"].high
            self.assertNotIn("losses_w_k", fit.values)
        self.assertTrue(180 <= inside <= 199, inside)
        self.assertIn("power was not logged", fit.missing[0])

    def test_what_the_log_does_not_tell_is_said(self):
        rng = np.random.default_rng(1)
        flat = fit_chamber(TIMES, 60.0 + rng.normal(0.0, 0.3, TIMES.size), None, ROOM)
        self.assertEqual((dict(flat.values), len(flat.missing)), ({}, 1))
        short = TIMES[:40]
        early = fit_chamber(short, 21.0 + 0.01 * short + rng.normal(0.0, 0.2, short.size), None, ROOM)
        self.assertNotIn("tau_s", early.values)
        self.assertTrue(early.missing)


class TestSummary(unittest.TestCase):
    def test_offsets_lag_and_gaps_are_those_that_were_put_in(self):
        seconds = np.concatenate((np.arange(0.0, 3_000.0, 5.0), np.arange(3_600.0, 7_200.0, 5.0)))
        air = 21.0 + 50.0 * (1.0 - np.exp(-seconds / 1_500.0))
        slow = 21.0 + 50.0 * (1.0 - (1_500.0 * np.exp(-seconds / 1_500.0) - 300.0 * np.exp(-seconds / 300.0)) / 1_200.0)
        readings = {"a": air, "b": air - 6.0, "late": slow, "c": air + 0.0}
        found = summary_of(seconds, readings, thinned(seconds, readings, None))
        by_name = {each.name: each for each in found.sensors}
        self.assertAlmostEqual(by_name["b"].offset_k, -6.0, delta=0.4)
        self.assertAlmostEqual(by_name["late"].lag_s, 300.0, delta=60.0)
        self.assertEqual((found.gaps, found.longest_gap_s), (1, 605.0))
        self.assertAlmostEqual(found.spread_k[0], 6.0, delta=0.5)

    def test_thinning_keeps_the_mean_and_leaves_holes_out(self):
        seconds = np.arange(0.0, 1_000.0)
        values = seconds.copy()
        values[500:600] = np.nan
        thin = thinned(seconds, {"a": values}, None, 10)
        wanted = [100.0 * place + 49.5 for place in range(10)]
        known = [place for place in range(10) if place != 5]
        np.testing.assert_allclose(thin.readings["a"][known], np.array(wanted)[known], atol=0.6)
        np.testing.assert_allclose(thin.seconds, wanted, atol=50.0)
        self.assertTrue(np.isnan(thin.readings["a"][5]))


if __name__ == "__main__":
    unittest.main()
