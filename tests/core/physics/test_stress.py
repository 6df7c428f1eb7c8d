"""Stress of cooling layers against sums taken another way."""

import unittest

import numpy as np
from scipy.integrate import quad

from kaustos.core.errors import FieldError
from kaustos.core.physics.stress import Solid, Stiffness, energy_density, kept_stress, stress_parts, yields_at

CURVE = Stiffness(
    celsius=np.array([23.0, 60.0, 100.0, 143.0, 160.0, 250.0, 330.0]),
    modulus=np.array([3.8e9, 3.6e9, 3.4e9, 2.6e9, 5.0e8, 2.5e8, 5.0e7]),
)
CRYSTALLISING = Solid(
    stiffness=CURVE, glass_c=143.0, solid_c=300.0, expansion_glassy=50e-6, expansion_rubbery=130e-6,
    crystal_shrinkage=0.015, strength=98e6,
)  # fmt: skip
GLASS = Solid(stiffness=CURVE, glass_c=143.0, solid_c=143.0, expansion_glassy=60e-6, expansion_rubbery=180e-6)


class TestStiffness(unittest.TestCase):
    def test_its_integral_is_that_of_the_curve_itself_inside_and_beyond_its_ends(self):
        for low, high in ((23.0, 330.0), (40.0, 41.0), (-20.0, 90.0), (150.0, 400.0), (100.0, 143.0)):
            with self.subTest(low=low, high=high):
                corners = [each for each in CURVE.celsius if low < each < high]
                summed = quad(lambda t: float(CURVE.at(t)), low, high, points=corners or None, limit=200)[0]
                self.assertAlmostEqual(float(CURVE.integral(high) - CURVE.integral(low)) / summed, 1.0, places=8)

    def test_between_two_points_the_logarithm_is_straight(self):
        self.assertAlmostEqual(float(CURVE.at(205.0)) / (5.0e8 * 2.5e8) ** 0.5, 1.0, places=12)

    def test_a_level_stretch_sums_up_without_dividing_by_nothing(self):
        level = Stiffness(celsius=np.linspace(0.0, 80.0, 5), modulus=np.full(5, 2e9))
        self.assertAlmostEqual(float(level.integral(55.0)), 55.0 * 2e9, places=3)

    def test_four_points_falling_temperatures_or_no_modulus_are_refused(self):
        for celsius, modulus in (
            ([0, 1, 2, 3], [1, 1, 1, 1]),
            ([0, 1, 1, 3, 4], [1, 1, 1, 1, 1]),
            ([0, 1, 2, 3, 4], [1, 1, 0, 1, 1]),
        ):
            with self.subTest(celsius), self.assertRaises(FieldError):
                Stiffness(celsius=np.array(celsius, float), modulus=np.array(modulus, float))


class TestStress(unittest.TestCase):
    def test_it_is_the_sum_of_modulus_times_strain_taken_step_by_step(self):
        for end in (23.0, 90.0, 160.0, 220.0):
            t = np.linspace(end, 300.0, 400_001)
            middle, step = 0.5 * (t[1:] + t[:-1]), np.diff(t)
            strain = np.where(middle < 143.0, 50e-6, 130e-6)
            crystal = np.where(middle > 260.0, 0.015 / 40.0, 0.0)
            glassy = (CURVE.at(middle) * strain * step)[middle < 143.0].sum()
            rubbery = (CURVE.at(middle) * (strain + crystal) * step)[middle >= 143.0].sum()
            found = stress_parts(CRYSTALLISING, end)
            with self.subTest(end=end):
                self.assertAlmostEqual(float(found[0]) / 1e6, glassy / 1e6, places=3)
                self.assertAlmostEqual(float(found[1]) / 1e6, rubbery / 1e6, places=3)

    def test_a_glass_that_ends_above_its_transition_keeps_nothing(self):
        self.assertEqual([float(each) for each in stress_parts(GLASS, 150.0)], [0.0, 0.0])

    def test_colder_ends_never_keep_less_stress_up_to_the_yield(self):
        ends = np.linspace(10.0, 320.0, 500)
        for solid in (GLASS, CRYSTALLISING):
            glassy, rubbery = stress_parts(solid, ends)
            self.assertTrue((np.diff(glassy) <= 1e-6).all())
            self.assertTrue((np.diff(rubbery) <= 1e-6).all())

    def test_it_never_passes_what_the_layer_yields_at(self):
        ends = np.linspace(10.0, 320.0, 500)
        found = kept_stress(CRYSTALLISING, ends, 0.6)
        self.assertTrue((found <= yields_at(CRYSTALLISING, ends) + 1e-6).all())
        self.assertEqual(float(kept_stress(CRYSTALLISING, 23.0, 0.0)), float(stress_parts(CRYSTALLISING, 23.0)[0]))

    def test_energy_is_half_of_stress_times_strain(self):
        self.assertAlmostEqual(float(energy_density(30e6, 3e9)), 0.5 * 30e6 * 0.01)
