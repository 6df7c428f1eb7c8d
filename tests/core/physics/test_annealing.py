"""Lags, courses and relaxation of an anneal, against another solver and closed forms."""

import doctest
import math
import unittest

import numpy as np
from scipy.integrate import solve_ivp

from kaustos.core.errors import KaustosError
from kaustos.core.physics import annealing
from kaustos.core.physics.annealing import Section, followed, lags, stress_left, thermal_stress
from kaustos.core.physics.warming import plane_wall
from kaustos.core.physics.weld import crystal_rate, crystallised

ONE = np.ones(1)
WALL = Section(half=0.015 * ONE, conductivity=0.25 * ONE, capacity=1.9e6 * ONE, film=15.0 * ONE)
ROD = Section(half=0.015 * ONE, conductivity=0.25 * ONE, capacity=1.9e6 * ONE, film=15.0 * ONE, is_rod=True)
IN_SAND = Section(half=0.005 * ONE, conductivity=0.25 * ONE, capacity=1.9e6 * ONE, film=15.0 * ONE, pack=0.025)
ROD_IN_SAND = Section(
    half=0.01 * ONE, conductivity=0.3 * ONE, capacity=1.7e6 * ONE, film=20.0 * ONE, pack=0.02, is_rod=True
)


def load_tests(loader, tests, pattern):
    tests.addTests(doctest.DocTestSuite(annealing))
    return tests


def solved(section, nodes_s, nodes_c, seconds, cells=160):
    """The same by finite differences on another grid, marched in time by a stiff integrator: face, skin, core."""
    half, pack = float(section.half[0]), section.pack
    edges = np.linspace(0.0, half + pack, cells + 1)
    middle, wide = 0.5 * (edges[1:] + edges[:-1]), edges[1] - edges[0]
    inside = np.clip((half - edges[:-1]) / wide, 0.0, 1.0)  # share of a cell that is part, the rest is packing
    capacity = inside * section.capacity[0] + (1.0 - inside) * section.pack_capacity
    resists = inside / section.conductivity[0] + (1.0 - inside) / section.pack_conductivity
    around = edges if section.is_rod else np.ones_like(edges)
    volume = middle * wide if section.is_rod else np.full(cells, wide)
    conducts = around[1:-1] / (0.5 * wide * (resists[1:] + resists[:-1]))
    last = around[-1] / (0.5 * wide * resists[-1] + 1.0 / section.film[0])

    def rate(t, celsius):
        air = np.interp(t, nodes_s, nodes_c)
        flux = np.concatenate([[0.0], conducts * np.diff(celsius), [last * (air - celsius[-1])]])
        return np.diff(flux) / (capacity * volume)

    found = solve_ivp(rate, (0.0, seconds[-1]), np.full(cells, nodes_c[0]), "BDF", seconds, rtol=1e-8, atol=1e-8,
                      max_step=300.0)  # fmt: skip
    air = np.interp(seconds, nodes_s, nodes_c)
    face = found.y[-1] + (air - found.y[-1]) * last * 0.5 * wide * resists[-1] / around[-1]
    skin = np.array([np.interp(half, middle, each) for each in found.y.T]) if pack else face
    return face, skin, found.y[0]


class TestLags(unittest.TestCase):
    def test_thirty_millimetres_at_a_kelvin_a_minute_lag_thirty_two_kelvin_behind_the_air(self):
        found = lags(WALL, 1.0 / 60.0)
        self.assertAlmostEqual(found.air[0], 0.015 * 1.9e6 / 15.0 / 60.0)
        self.assertAlmostEqual(found.core[0], 0.015**2 * 1.9e6 / (2.0 * 0.25) / 60.0)
        self.assertEqual(found.pack[0], 0.0)

    def test_a_rod_lags_half_of_a_wall(self):
        wall, rod = lags(WALL, 0.01), lags(ROD, 0.01)
        self.assertAlmostEqual(rod.air[0] / wall.air[0], 0.5)
        self.assertAlmostEqual(rod.core[0] / wall.core[0], 0.5)

    def test_all_three_are_those_of_another_solver_in_a_long_ramp_within_half_a_per_cent(self):
        for name, section in (("wall", WALL), ("rod", ROD), ("sand", IN_SAND), ("rod in sand", ROD_IN_SAND)):
            with self.subTest(name):
                end = 60_000.0
                course = solved(section, [0.0, end], [20.0, 620.0], np.array([0.0, end]))
                face, skin, core = (each[-1] for each in course)
                found = lags(section, 600.0 / end)
                self.assertAlmostEqual(620.0 - face, found.air[0], delta=0.005 * found.air[0])
                self.assertAlmostEqual(skin - core, found.core[0], delta=0.005 * found.core[0])
                if section.pack:
                    self.assertAlmostEqual(face - skin, found.pack[0], delta=0.005 * found.pack[0])

    def test_more_wall_sand_or_ramp_never_lags_less(self):
        for name, more in (("half", 0.02 * ONE), ("pack", 0.05)):
            values = {each: getattr(IN_SAND, each) for each in ("half", "conductivity", "capacity", "film", "pack")}
            before, after = lags(IN_SAND, 0.01), lags(Section(**(values | {name: more})), 0.01)
            self.assertTrue(after.air >= before.air and after.pack >= before.pack and after.core >= before.core)

    def test_what_cannot_be_is_refused(self):
        with self.assertRaisesRegex(KaustosError, "half"):
            Section(half=0.0 * ONE, conductivity=ONE, capacity=ONE, film=ONE)
        with self.assertRaisesRegex(KaustosError, "pack"):
            Section(half=ONE, conductivity=ONE, capacity=ONE, film=ONE, pack=float("nan"))


class TestCourse(unittest.TestCase):
    NODES_S, NODES_C = [0.0, 7_200.0, 14_400.0, 18_000.0], [20.0, 170.0, 170.0, 60.0]

    def test_every_depth_is_that_of_another_solver_within_half_a_per_cent_of_the_rise(self):
        seconds = np.linspace(0.0, 24_000.0, 25)
        for name, section in (("wall", WALL), ("rod", ROD), ("sand", IN_SAND), ("rod in sand", ROD_IN_SAND)):
            found = followed(section, np.array(self.NODES_S), np.array(self.NODES_C), seconds)
            wanted = solved(section, self.NODES_S, self.NODES_C, seconds)
            for depth, mine, other in zip(("face", "skin", "core"), (found.face, found.skin, found.core), wanted,
                                          strict=True):  # fmt: skip
                with self.subTest(name, depth=depth):
                    self.assertLess(np.max(np.abs(mine[0] - other)), 0.005 * 150.0)

    def test_a_step_of_the_air_is_the_series_of_a_plane_wall(self):
        seconds = np.linspace(600.0, 9_000.0, 8)
        found = followed(WALL, np.array([0.0, 1e-3]), np.array([20.0, 120.0]), seconds)
        alpha = 0.25 / 1.9e6
        left = plane_wall(alpha * seconds / 0.015**2, 15.0 * 0.015 / 0.25)
        np.testing.assert_allclose(found.skin[0], 120.0 - 100.0 * left[:, 0], atol=0.1)
        np.testing.assert_allclose(found.core[0], 120.0 - 100.0 * left[:, 2], atol=0.1)

    def test_draws_are_followed_each_by_itself(self):
        both = Section(half=np.array([0.004, 0.015]), conductivity=np.array([0.3, 0.25]),
                       capacity=np.array([1.6e6, 1.9e6]), film=np.array([20.0, 15.0]))  # fmt: skip
        seconds = np.linspace(0.0, 9_000.0, 7)
        found = followed(both, np.array(self.NODES_S), np.array(self.NODES_C), seconds)
        alone = followed(WALL, np.array(self.NODES_S), np.array(self.NODES_C), seconds)
        np.testing.assert_allclose(found.core[1], alone.core[0], atol=1e-9)


class TestRelaxation(unittest.TestCase):
    def test_at_one_temperature_it_is_a_stretched_exponential(self):
        seconds = np.linspace(0.0, 7_200.0, 9)
        for celsius in (130.0, 140.0, 147.0):
            found = stress_left(seconds, np.full((1, 9), celsius), 147.0 * ONE, 4e5 * ONE, 0.5 * ONE)[0]
            tau = 100.0 * math.exp(4e5 / 8.314462618 * (1.0 / (celsius + 273.15) - 1.0 / 420.15))
            np.testing.assert_allclose(found, [math.exp(-math.sqrt(each / tau)) for each in seconds], rtol=1e-9)

    def test_hotter_and_longer_never_leave_more(self):
        seconds = np.linspace(0.0, 3_600.0, 13)
        before = None
        for celsius in range(60, 220, 10):
            found = stress_left(seconds, np.full((1, 13), celsius), 147.0 * ONE, 4e5 * ONE, 0.5 * ONE)[0]
            self.assertTrue(np.all(np.diff(found) <= 0.0))
            if before is not None:
                self.assertTrue(np.all(found <= before + 1e-12))
            before = found

    def test_crystals_at_one_heat_are_avramis_law(self):
        seconds = np.linspace(0.0, 900.0, 400)
        rate = crystal_rate(np.full(400, 110.0), 110.0, 150.0, 75.0)
        avrami = 1.0 - np.exp(-math.log(2.0) * (seconds / 150.0) ** 2)
        np.testing.assert_allclose(crystallised(seconds, rate), avrami, atol=1e-6)

    def test_stress_of_a_parabola_sums_to_nothing_over_a_wall(self):
        """Skin two thirds, core one third the other way: pressed and pulled balance."""
        depth = np.linspace(0.0, 1.0, 2001)
        gap = 1.0 / 3.0 - depth**2  # mean less local, for a core that is one unit behind the skin
        skin = float(thermal_stress(1.0, 1.0, 1.0, 0.0))
        self.assertAlmostEqual(skin, abs(gap[-1]), places=6)
        self.assertAlmostEqual(float(np.trapezoid(gap, depth)), 0.0, places=6)
        self.assertAlmostEqual(float(thermal_stress(1.0, 1.0, 1.0, 0.0, is_rod=True)), 0.5)
