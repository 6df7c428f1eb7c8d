"""Healing and crystals: closed forms at constant temperature, practice of welds, ranking of contact."""

import unittest

import numpy as np

from kaustos.core.physics.layers import Stack, responses
from kaustos.core.physics.weld import crystal_rate, crystallised, healed, healing, relaxation_time, weld_index

BEAD = Stack(layer=2e-4, period=15.0, below=500, conductivity=0.2, heat=1.9e6, edge=2.0 / 6e-4)
TAU = 1e9


def healed_at(melt_c, air_c, glass_c):
    """One bead 0.6 mm wide, layers of 0.2 mm in 15 s, far from the plate, film 20 W/m²/K."""
    found = responses(BEAD, 20.0)
    face = air_c + (melt_c - air_c) * found.melt[0]
    return float(healed(found.lasts, face, glass_c)) / TAU**0.25


class TestHealing(unittest.TestCase):
    def test_at_one_temperature_it_is_the_fourth_root_of_time(self):
        lasts = np.array([0.1, 0.2, 0.3, 0.9, 1.0, 0.4, 0.1])
        for celsius in (130.0, 160.0, 200.0):
            tau = TAU * 10.0 ** (-17.44 * (celsius - 105.0) / (51.6 + celsius - 105.0))
            found = float(healed(lasts, np.full(7, celsius), 105.0)) / TAU**0.25
            self.assertAlmostEqual(found, (3.0 / tau) ** 0.25, delta=1e-9 * found)

    def test_below_the_glass_transition_nothing_heals(self):
        self.assertEqual(float(healed(np.full(5, 1.8), np.full(5, 104.0), 105.0)), 0.0)
        self.assertEqual(float(healing(105.0, 105.0, 1e12)), 0.0)

    def test_a_decade_hotter_shortens_the_wait_as_the_shift_says(self):
        ratio = float(relaxation_time(155.0, 105.0) / relaxation_time(180.0, 105.0))
        shift = 17.44 * (75.0 / 126.6 - 50.0 / 101.6)
        self.assertAlmostEqual(ratio, 10.0**shift, delta=1e-6 * ratio)

    def test_welds_of_practice_come_out(self):
        wanted = {
            (350.0, 65.0, 185.0): (0.10, 0.30), (380.0, 150.0, 185.0): (1.0, 99.0), (290.0, 30.0, 147.0): (0.0, 0.15),
            (290.0, 95.0, 147.0): (0.45, 0.75), (240.0, 25.0, 78.0): (0.75, 99.0),
        }  # fmt: skip
        for (melt, air, glass), (low, high) in wanted.items():
            with self.subTest(melt=melt, air=air):
                self.assertTrue(low <= healed_at(melt, air, glass) <= high, healed_at(melt, air, glass))

    def test_more_heat_of_nozzle_or_air_heals_more(self):
        by_nozzle = [healed_at(melt, 60.0, 147.0) for melt in np.linspace(260.0, 320.0, 13)]
        by_air = [healed_at(290.0, air, 147.0) for air in np.linspace(20.0, 120.0, 13)]
        for found in (by_nozzle, by_air):
            self.assertEqual(found, sorted(found))


class TestContact(unittest.TestCase):
    def test_the_index_ranks_heats_of_a_crystallising_polymer(self):
        found = responses(BEAD, 20.0)
        shares = []
        for melt, air in ((400.0, 25.0), (400.0, 90.0), (420.0, 160.0), (440.0, 200.0)):
            skin = air + (melt - air) * float(found.skin_melt[0])
            shares.append(float(weld_index(343.0 - 0.5 * (melt + skin))))
        self.assertEqual(shares, sorted(set(shares)))
        self.assertLess(shares[0], 0.1)
        self.assertGreater(shares[-1], 0.9)

    def test_it_stays_between_nothing_and_all(self):
        found = weld_index(np.array([-1e6, -100.0, 55.0, 300.0, 1e6]))
        self.assertTrue(((found >= 0.0) & (found <= 1.0)).all())
        self.assertEqual(float(found[2]), 0.5)


class TestCrystals(unittest.TestCase):
    def test_at_one_temperature_it_is_the_law_of_avrami(self):
        times = np.linspace(0.0, 40.0, 200)
        for exponent in (1.0, 2.0, 3.0):
            rate = 0.05
            found = crystallised(times, np.full(200, rate), exponent)
            np.testing.assert_allclose(found, 1.0 - np.exp(-((rate * times) ** exponent)), atol=1e-6)

    def test_half_is_there_after_the_half_time_where_it_is_fastest(self):
        times = np.linspace(0.0, 12.0, 50)
        rates = crystal_rate(np.full(50, 230.0), 230.0, 12.0, 75.0)
        self.assertAlmostEqual(float(crystallised(times, rates)[-1]), 0.5, places=9)

    def test_it_is_slower_to_both_sides(self):
        found = crystal_rate(np.array([150.0, 192.5, 230.0, 267.5, 310.0]), 230.0, 4.0, 75.0)
        self.assertAlmostEqual(float(found[1] / found[2]), 0.5, places=9)
        self.assertAlmostEqual(float(found[3] / found[2]), 0.5, places=9)
        self.assertLess(float(found[0]), float(found[1]))
