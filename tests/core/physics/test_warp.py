"""Load of corners against its limits and against closed forms worked out another way."""

import math
import unittest

import numpy as np

from kaustos.core.physics.warp import (
    along_height,
    breadth_factor,
    decay_length,
    edge_load,
    energy_release,
    foot_strain,
    layered_bar,
    strip_support,
)


class TestEnergyRelease(unittest.TestCase):
    def test_a_long_low_part_sets_all_of_its_energy_free(self):
        z = np.linspace(0.0, 0.004, 2001)
        for breadth in (1.0, 2.2):
            found = float(energy_release(z, np.full(2001, 3e4), 4.0, breadth))
            self.assertAlmostEqual(found, breadth * 3e4 * 0.004, places=6)

    def test_a_tall_part_of_even_energy_comes_to_0_244_u_l_whatever_its_height(self):
        for height in (0.2, 0.5, 2.0):
            z = np.linspace(0.0, height, 200_001)
            self.assertAlmostEqual(float(energy_release(z, np.full(z.size, 1e4), 0.02)) / (1e4 * 0.02), 0.244, places=3)

    def test_it_grows_with_height_length_and_energy_and_scales_with_energy(self):
        z = np.linspace(0.0, 0.05, 301)
        u = 2e4 * np.exp(-z / 0.02)
        base = float(energy_release(z, u, 0.03))
        self.assertGreaterEqual(float(energy_release(np.linspace(0.0, 0.06, 301), u, 0.03)), base)
        self.assertGreater(float(energy_release(z, u, 0.04)), base)
        self.assertAlmostEqual(float(energy_release(z, 3.0 * u, 0.03)) / base, 3.0)

    def test_a_part_that_grows_on_carries_its_worst_height_along(self):
        z = np.linspace(0.0, 0.3, 3001)
        u = np.where(z < 0.01, 5e4, 0.0)
        low = z[z <= 0.02]
        self.assertAlmostEqual(
            float(energy_release(z, u, 0.01)), float(energy_release(low, u[: low.size], 0.01)), places=9
        )


class TestSupport(unittest.TestCase):
    def test_half_a_disc_for_a_wide_strip_and_the_area_of_a_slice_for_a_narrow_one(self):
        self.assertAlmostEqual(float(strip_support(9.0, 2.0)), 0.5)
        for wall in (0.1, 0.7, 1.3, 1.99):
            x = np.linspace(0.0, wall, 2_000_001)
            chords = 2.0 * np.sqrt(4.0 - x**2)
            area = float(np.trapezoid(chords, x))
            self.assertAlmostEqual(float(strip_support(wall, 2.0)), area / (math.pi * 4.0), places=7)

    def test_the_load_is_that_of_a_straight_edge_over_the_share_that_is_held(self):
        self.assertEqual(float(edge_load(100.0, 0.5, 0.5, 1.7)), 100.0)
        self.assertAlmostEqual(float(edge_load(100.0, 0.125, 0.5, 1.5)), 800.0)

    def test_a_wide_foot_stores_as_much_as_a_plate_does_and_a_strip_as_a_bar(self):
        self.assertAlmostEqual(float(breadth_factor(0.0, 0.01, 0.38)), 1.0)
        self.assertAlmostEqual(float(breadth_factor(1e6, 0.01, 0.38)), 1.38 / 0.62, places=6)
        widths = breadth_factor(np.linspace(0.0, 0.3, 50), 0.02, 0.38)
        self.assertTrue((np.diff(widths) > 0).all())


class TestProfile(unittest.TestCase):
    def test_it_solves_the_fin(self):
        fades = float(decay_length(0.2, 4e-4, 0.08, 10.0))
        z, step = np.linspace(0.0, 0.05, 5001), 0.05 / 5000
        t = along_height(z, 60.0, 120.0, fades)
        second = (t[2:] - 2.0 * t[1:-1] + t[:-2]) / step**2
        lost = 10.0 * 0.08 / (0.2 * 4e-4) * (t[1:-1] - 60.0)
        self.assertLess(float(np.abs(second / lost - 1.0).max()), 1e-4)
        self.assertEqual((float(t[0]), round(float(along_height(9.0, 60.0, 120.0, fades)), 9)), (120.0, 60.0))


BAR = {"length": 0.1, "height": 0.005, "layer": 0.00025, "expansion": 8e-5, "glass_c": 105.0, "ends_c": 65.0}


class TestLayeredBar(unittest.TestCase):
    def test_it_is_the_published_form_as_it_was_published(self):
        n, layer, strain, length = 20, 0.00025, 8e-5 * 40.0, 0.1
        radius = n**3 * layer / (6.0 * strain * (n - 1))
        found = layered_bar(**BAR)
        self.assertAlmostEqual(found.radius / radius, 1.0, places=12)
        self.assertAlmostEqual(found.lift, radius * (1.0 - math.cos(length / (2.0 * radius))), places=12)

    def test_a_nearly_straight_bar_lifts_by_its_sagitta_and_loses_no_digits(self):
        found = layered_bar(**(BAR | {"ends_c": 105.0 - 1e-7}))
        self.assertAlmostEqual(found.lift / (0.1**2 / (8.0 * found.radius)), 1.0, places=9)

    def test_where_it_does_not_apply_it_says_so(self):
        for change, words in (
            ({"ends_c": 105.0}, "cool"),
            ({"layer": 0.0025}, "three layers"),
            ({"height": 0.011}, "tenth"),
        ):
            found = layered_bar(**(BAR | change))
            with self.subTest(change):
                self.assertIsNone(found.lift)
                self.assertIn(words, found.not_applicable)

    def test_more_cooling_and_a_longer_bar_curl_more(self):
        base = layered_bar(**BAR).lift
        self.assertGreater(layered_bar(**(BAR | {"ends_c": 45.0})).lift, base)
        self.assertGreater(layered_bar(**(BAR | {"length": 0.15})).lift, base)


class TestFoot(unittest.TestCase):
    def test_nothing_sags_below_the_transition_and_a_fluid_at_it_as_its_viscosity_says(self):
        self.assertEqual(float(foot_strain(1100.0, 0.1, 104.9, 105.0, 36_000.0, (17.44, 51.6))), 0.0)
        at_it = float(foot_strain(1100.0, 0.1, 105.0 + 1e-9, 105.0, 36_000.0, (17.44, 51.6)))
        self.assertAlmostEqual(at_it / (1100.0 * 9.81 * 0.1 * 36_000.0 / 3e12), 1.0, places=6)

    def test_hotter_longer_and_heavier_sag_more(self):
        base = float(foot_strain(1100.0, 0.1, 115.0, 105.0, 3600.0, (17.44, 51.6)))
        for change in ({"celsius": 118.0}, {"seconds": 7200.0}, {"height": 0.2}):
            usual = {"height": 0.1, "celsius": 115.0, "seconds": 3600.0} | change
            self.assertGreater(float(foot_strain(density=1100.0, glass_c=105.0, shift=(17.44, 51.6), **usual)), base)
