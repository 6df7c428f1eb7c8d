"""What weighings tell, against simulated truth: intervals that cover it, and honesty where they cannot."""

import unittest

import numpy as np

from kaustos.core.fitting import effective_diffusivity, fit_drying, least_loss_g, water_lost
from kaustos.core.physics.cylinder import eigenvalues
from tests.core.fitting.cases import weighings

SEEDS = range(200)
METAL, CARD, ANY = (0.0, 0.0), (0.02, 0.08), (0.0, 0.08)  # water of the spool body, share of its mass


class TestTimeConstant(unittest.TestCase):
    def test_its_interval_covers_the_truth_in_about_ninety_five_of_a_hundred(self):
        covered, widths, values = 0, [], []
        for seed in SEEDS:
            found = fit_drying(*weighings(6.0, 12.0, seed), scale_g=0.5).time_constant_h
            if found is not None:
                covered += found.low <= 6.0 <= found.high
                widths.append(found.high - found.low)
                values.append(found.value)
        self.assertGreater(len(values), 190)
        self.assertTrue(180 <= covered <= 199, covered)
        ratio = 0.5 * np.mean(widths) / np.std(values)
        self.assertTrue(1.5 <= ratio <= 3.0, f"half width over spread is {ratio:.2f}")

    def test_without_noise_it_is_the_truth(self):
        hours, _ = weighings(6.0, 12.0, 0)
        found = fit_drying(hours, 1000.0 + 12.0 * np.exp(-hours / 6.0), scale_g=0.01)
        self.assertAlmostEqual(found.time_constant_h.value, 6.0, delta=0.1)
        self.assertAlmostEqual(found.end_g.value, 1000.0, delta=0.2)

    def test_its_residual_is_the_scatter_of_the_weighings(self):
        hours, _ = weighings(6.0, 12.0, 0)
        course, noise = 1000.0 + 12.0 * np.exp(-hours / 6.0), np.random.default_rng(4).normal(0.0, 0.3, hours.size)
        self.assertLess(fit_drying(hours, course, scale_g=0.3).residual_g, 0.05)
        found = fit_drying(hours, course + noise, scale_g=0.3).residual_g
        self.assertTrue(0.4 * noise.std() <= found <= noise.std(), found)  # a fit of three numbers takes some of it

    def test_what_the_data_cannot_determine_is_said(self):
        hours, grams = weighings(6.0, 12.0, 3)
        for times, masses, words in (
            (hours[:2], grams[:2], "three weighings"),
            (hours, 1000.0 + 0.1 * np.sin(hours), "no more than the scale's own spread"),
            (hours, 1012.0 - 0.5 * hours, "weigh on"),
            (np.array([0.0, 0.0, 5.0]), np.array([3.0, 3.0, 1.0]), "different times"),
        ):
            found = fit_drying(times, masses, scale_g=0.5)
            with self.subTest(words):
                self.assertIsNone(found.time_constant_h)
                self.assertIn(words, found.undetermined[0])

    def test_a_better_scale_gives_a_narrower_interval(self):
        widths = []
        for scale in (1.0, 0.3, 0.1):
            found = fit_drying(*weighings(6.0, 12.0, 11, scale), scale_g=scale).time_constant_h
            widths.append(found.high - found.low)
        self.assertEqual(widths, sorted(widths, reverse=True))


class TestWaterLost(unittest.TestCase):
    def test_the_worked_figure(self):
        found = water_lost(1012.4, 1009.3, 772.4, 237.0, METAL, 0.1)
        self.assertAlmostEqual(found.percent.value, 0.40, places=2)
        self.assertTrue(found.is_told)

    def test_a_body_that_may_have_given_all_of_it_leaves_nothing_for_the_filament(self):
        found = water_lost(1001.5, 1000.0, 760.0, 240.0, CARD, 0.1)
        self.assertEqual((found.grams.value, found.percent.value), (0.0, 0.0), "5 % of 240 g of card is 12 g")
        self.assertLessEqual(found.grams.low, 0.0)

    def test_the_interval_covers_the_truth_for_a_body_that_drinks_nothing(self):
        covered = 0
        for seed in SEEDS:
            noise = np.random.default_rng(seed).normal(scale=1.0, size=2)
            found = water_lost(1010.0 + noise[0], 1005.0 + noise[1], 775.0, 230.0, METAL, 1.0)
            covered += found.grams.low <= 5.0 <= found.grams.high
        self.assertTrue(180 <= covered <= 199, covered)

    def test_card_takes_its_share_and_an_unknown_body_widens_the_band(self):
        metal, card, unknown = (
            water_lost(1020.0, 1000.0, 770.0, 230.0, body, 0.5).grams for body in (METAL, CARD, ANY)
        )
        self.assertEqual(metal.value, 20.0)
        self.assertAlmostEqual(card.value, 20.0 - 0.05 * 230.0)
        self.assertGreater(unknown.high - unknown.low, card.high - card.low)
        noise = 1.96 * 2**0.5 * 0.5
        self.assertAlmostEqual(card.low, 20.0 - 0.08 * 230.0 - noise)
        self.assertAlmostEqual(card.high, 20.0 - 0.02 * 230.0 + noise)
        self.assertAlmostEqual(metal.low, 20.0 - noise)

    def test_a_loss_below_the_scale_is_not_told(self):
        self.assertFalse(water_lost(1000.0, 998.0, 770.0, 230.0, METAL, 1.0).is_told)
        self.assertAlmostEqual(least_loss_g(1.0), 1.96 * 2**0.5)


class TestEffectiveDiffusivity(unittest.TestCase):
    def test_it_gives_back_the_time_constant(self):
        radius, at, biot = 0.875e-3, 1.2e-11, 8.0
        for tau in (2.0, 6.0, 30.0):
            found, is_one = effective_diffusivity(tau, radius, biot, at)
            there = biot * at / found
            rate = found * float(eigenvalues(there)[0]) ** 2 / radius**2
            with self.subTest(tau):
                self.assertAlmostEqual(1.0 / rate / 3600.0, tau, places=4)
                self.assertEqual(is_one, there > 5.0)
