"""Melt through a hot end: heat of a moving rod, limits, pressure of melts with a closed form."""

import math
import unittest

import numpy as np

from kaustos.core.physics.flow import flow_for_core, melt_exit, nozzle_pressure, shear_rate, thinner_when_hotter

ALPHA, ZONE = 1.1e-7, 0.012


class TestHeat(unittest.TestCase):
    def test_a_moving_rod_gains_what_the_tables_of_a_cylinder_say(self):
        """Carslaw and Jaeger's cylinder with its surface held: mean 0.692 exp(-5.783 Fo) is missing, Fo above 0.2."""
        for fourier in (0.2, 0.4, 0.8):
            flow = ALPHA * ZONE * math.pi / fourier
            missing = sum(4.0 / b**2 * math.exp(-(b**2) * fourier) for b in (2.404826, 5.520078, 8.653728))
            found = (240.0 - float(melt_exit(240.0, 20.0, flow, ALPHA, ZONE))) / 220.0
            self.assertAlmostEqual(found, missing, delta=1e-4)

    def test_at_a_crawl_it_leaves_as_hot_as_the_nozzle_and_in_a_rush_as_it_came(self):
        self.assertAlmostEqual(float(melt_exit(240.0, 20.0, 1e-12, ALPHA, ZONE)), 240.0, places=6)
        self.assertLess(float(melt_exit(240.0, 20.0, 1e-4, ALPHA, ZONE)), 30.0)

    def test_more_flow_never_comes_out_hotter(self):
        found = melt_exit(240.0, 20.0, np.geomspace(1e-10, 1e-6, 200), ALPHA, ZONE)
        self.assertTrue((np.diff(found) <= 1e-9).all())

    def test_the_flow_for_a_core_is_that_of_the_series_on_the_axis(self):
        flow = float(flow_for_core(0.05, ALPHA, ZONE))
        fourier = ALPHA * ZONE * math.pi / flow
        roots = ((2.404826, 0.519147), (5.520078, -0.340265), (8.653728, 0.271452))
        core = sum(2.0 / (b * j) * math.exp(-(b**2) * fourier) for b, j in roots)
        self.assertAlmostEqual(core, 0.05, delta=5e-4)

    def test_twice_the_length_gives_twice_the_flow(self):
        self.assertAlmostEqual(
            float(flow_for_core(0.1, ALPHA, 0.024) / flow_for_core(0.1, ALPHA, 0.012)), 2.0, places=9
        )


class TestPressure(unittest.TestCase):
    def test_a_newtonian_melt_in_a_tube_is_the_law_of_hagen_and_poiseuille(self):
        flow, bore, land, viscosity = 5e-9, 0.4e-3, 0.8e-3, 200.0
        wanted = 128.0 * viscosity * land * flow / (math.pi * bore**4)
        found = float(nozzle_pressure(flow, bore, land, viscosity, 1.0, entry=bore))
        self.assertAlmostEqual(found, wanted, delta=1e-6 * wanted)

    def test_a_cone_is_a_row_of_tubes(self):
        flow, bore, viscosity, n, cone = 5e-9, 0.4e-3, 200.0, 0.4, 60.0
        slices = np.linspace(bore, 1.75e-3, 40_001)
        middle, step = 0.5 * (slices[1:] + slices[:-1]), np.diff(slices) / (2.0 * math.tan(math.radians(cone / 2.0)))
        consistency = viscosity * 1000.0 ** (1.0 - n)
        stress = consistency * ((3.0 * n + 1.0) / (4.0 * n) * 32.0 * flow / (math.pi * middle**3)) ** n
        wanted = float((4.0 * stress * step / middle).sum())
        found = float(nozzle_pressure(flow, bore, 0.0, viscosity, n, cone))
        self.assertAlmostEqual(found, wanted, delta=1e-4 * wanted)

    def test_the_rate_at_the_wall_is_four_flows_over_pi_radius_cubed(self):
        self.assertAlmostEqual(float(shear_rate(8e-9, 0.4e-3)), 4.0 * 8e-9 / (math.pi * 0.2e-3**3), places=6)

    def test_hotter_melts_are_thinner(self):
        for glass in (105.0, None):
            found = thinner_when_hotter(np.linspace(200.0, 280.0, 9), 240.0, glass)
            self.assertTrue((np.diff(found) < 0.0).all())
            self.assertEqual(float(found[4]), 1.0)
