"""A part and its sheet as one bar, beside closed forms and a section solved layer by layer."""

import unittest

import numpy as np

from kaustos.core.physics.lift import curl
from kaustos.core.physics.sheet import bowed, rises


def of_layers(heights, shrinks, modulus, sheet, stiff, count=4000):
    """Curvature of the section by thin layers and two balances, solved as they stand."""
    z = np.concatenate((np.linspace(-sheet, 0.0, count), np.linspace(0.0, heights[-1], count)))
    middle, thick = (z[1:] + z[:-1]) / 2.0, np.diff(z)
    of = np.where(middle < 0.0, stiff, modulus) * thick
    wants = np.where(middle < 0.0, 0.0, np.interp(middle, heights, shrinks))
    sums = np.array([[of.sum(), (of * middle).sum()], [(of * middle).sum(), (of * middle**2).sum()]])
    _, slope = np.linalg.solve(sums, -np.array([(of * wants).sum(), (of * wants * middle).sum()]))
    return -slope


class TestBow(unittest.TestCase):
    def test_two_strips_of_even_strain_bow_as_timoshenko_says(self):
        for high, sheet, part, steel in (
            (0.01, 0.0005, 2e9, 2e11),
            (0.002, 0.001, 1e9, 7e10),
            (0.03, 0.006, 3e9, 7e10),
        ):
            m, n = sheet / high, steel / part
            known = (
                6.0 * 2e-3 * (1 + m) ** 2 / ((high + sheet) * (3 * (1 + m) ** 2 + (1 + m * n) * (m**2 + 1 / (m * n))))
            )
            found, _ = bowed(np.linspace(0.0, high, 201), np.full((1, 201), 2e-3), part, sheet, steel)
            self.assertAlmostEqual(found[0] / known, 1.0, places=3)

    def test_a_strain_that_grows_over_the_height_as_a_section_of_layers(self):
        z = np.linspace(0.0, 0.02, 401)
        for shrinks in (4e-3 * z / 0.02, 4e-3 * (1.0 - np.exp(-z / 0.005)), np.where(z > 0.01, 3e-3, 0.0)):
            found, _ = bowed(z, shrinks[None], 1.5e9, 0.0005, 1.95e11)
            known = of_layers(z, shrinks, 1.5e9, 0.0005, 1.95e11)
            self.assertAlmostEqual(found[0] / known, 1.0, delta=0.01)

    def test_even_strain_without_a_sheet_bends_nothing_and_a_thick_plate_is_hardly_bent(self):
        z, even = np.linspace(0.0, 0.01, 101), np.full((1, 101), 3e-3)
        free, _ = bowed(z, even, 2e9, 1e-9, 2e9)
        self.assertLess(abs(free[0]), 1e-4)
        curves = [float(bowed(z, even, 2e9, sheet, 7e10)[0][0]) for sheet in (0.0005, 0.002, 0.008, 0.02)]
        self.assertTrue((np.diff(curves[1:]) < 0.0).all(), curves)
        self.assertLess(curves[-1], 0.05 * curves[0])

    def test_without_a_sheet_it_is_the_curl_of_a_part_that_let_go(self):
        z = np.linspace(0.0, 0.02, 2001)
        strain = np.array([4e-3 * (z / 0.02) ** 2, 2e-3 * np.sqrt(z / 0.02)])
        whole = np.full(2, z.size - 1)
        np.testing.assert_allclose(bowed(z, strain, 2e9, 1e-9, 2e9)[0], curl(z, strain, whole, 0.0), rtol=2e-3)

    def test_stiffness_without_a_sheet_is_that_of_the_part(self):
        _, stiff = bowed(np.linspace(0.0, 0.01, 101), np.zeros((1, 101)), 2e9, 1e-9, 2e9)
        self.assertAlmostEqual(float(stiff) / (2e9 * 0.01**3 / 12.0), 1.0, places=3)


class TestRise(unittest.TestCase):
    def test_loose_it_is_an_arc(self):
        radius, half = 2.0, 0.1
        self.assertAlmostEqual(float(rises(np.array(1 / radius), np.array(50.0), half, 0.0)), half**2 / 2 / radius)

    def test_held_it_is_what_a_beam_under_even_pressure_is(self):
        curve, stiff, holds, half = 0.5, 20.0, 3000.0, 0.2
        x = np.linspace(0.0, half, 40001)  # from the end inward
        bends = np.maximum(curve - holds * x**2 / 2.0 / stiff, 0.0)  # nothing beyond where its moment is taken up
        slope = np.cumsum(bends[::-1])[::-1] * (x[1] - x[0])
        known = float(np.sum(slope) * (x[1] - x[0]))
        self.assertAlmostEqual(float(rises(np.array(curve), np.array(stiff), half, holds)) / known, 1.0, places=3)

    def test_more_hold_less_rise_and_never_below_the_plate(self):
        holds = np.geomspace(1.0, 1e8, 60)
        found = rises(np.full(60, 0.6), np.full(60, 80.0), 0.08, holds)
        self.assertTrue((np.diff(found) <= 1e-15).all())
        self.assertGreaterEqual(found.min(), 0.0)
        self.assertEqual(float(rises(np.array(-0.6), np.array(80.0), 0.08, 0.0)), 0.0)
