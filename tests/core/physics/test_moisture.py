"""Moisture in strand and spool: against 30-digit series, printed tables, conservation, and an independent solver."""

import unittest

import numpy as np
from scipy.special import jn_zeros

from kaustos.core.physics.cylinder import SHORT_TIME, TERMS, chained, eigenvalues, moved, share_lost, uniform
from kaustos.core.physics.humidity import relative_humidity, saturation_pressure, vapour_density, vapour_pressure
from kaustos.core.physics.moisture import (
    DEEPEST_LAG,
    MEAN_LAG,
    diffusivity,
    equilibrium_moisture,
    partition,
    spool_biot,
    turns,
)
from kaustos.core.physics.warming import CONDUCTIVITY, SURFACE, bar, plane_wall, warm_through_seconds
from tests.core.physics import finite_volume

# b J1(b) = Bi J0(b): first six roots as printed in Crank, and in Carslaw and Jaeger, to four decimals
PRINTED_ROOTS = {
    0.1: (0.4417, 3.8577, 7.0298, 10.1833, 13.3312, 16.4767),
    1.0: (1.2558, 4.0795, 7.1558, 10.2710, 13.3984, 16.5312),
    5.0: (1.9898, 4.7131, 7.6177, 10.6223, 13.6786, 16.7630),
    100.0: (2.3809, 5.4652, 8.5678, 11.6747, 14.7834, 17.8931),
}


def share_to_thirty_digits(fo, biot):
    """The series in mpmath-free long arithmetic: Decimal exponentials over roots polished to double precision."""
    from decimal import Decimal, getcontext

    getcontext().prec = 40
    total = Decimal(1)
    roots = eigenvalues(biot)[:TERMS]
    for b in map(Decimal, (float(each) for each in roots)):
        if np.isinf(biot):
            weight = Decimal(4) / (b * b)
        else:
            bi = Decimal(float(biot))
            weight = 4 * bi * bi / (b * b * (b * b + bi * bi))
        total -= weight * (-(b * b) * Decimal(float(fo))).exp()
    return float(total)


class TestEigenvalues(unittest.TestCase):
    def test_they_are_the_printed_ones_to_the_last_digit(self):
        for biot, printed in PRINTED_ROOTS.items():
            with self.subTest(biot):
                np.testing.assert_allclose(eigenvalues(biot)[:6], printed, atol=5e-5)

    def test_they_solve_their_equation_and_lie_between_the_zeros(self):
        from scipy.special import j0, j1

        first, zeros = np.concatenate(([0.0], jn_zeros(1, TERMS))), jn_zeros(0, TERMS + 1)
        for biot in np.geomspace(1e-6, 9e6, 41):
            b = eigenvalues(biot)
            with self.subTest(biot=float(biot)):
                residual = (b * j1(b) - biot * j0(b)) / np.hypot(b, biot)
                self.assertLess(np.abs(residual).max(), 1e-12)
                self.assertTrue((b > first).all() and (b < zeros).all())

    def test_the_limits(self):
        np.testing.assert_array_equal(eigenvalues(np.inf), jn_zeros(0, TERMS + 1))
        self.assertAlmostEqual(eigenvalues(1e-6)[0] ** 2, 2e-6, places=11)  # b² -> 2 Bi


class TestShareLost(unittest.TestCase):
    def test_known_values(self):
        for fo, biot, value in ((0.05, np.inf, 0.45212), (0.2, np.inf, 0.78215), (0.2, 5.0, 0.60380)):
            self.assertAlmostEqual(share_lost(fo, biot), value, places=5)

    def test_series_against_thirty_digits(self):
        for biot in (0.1, 1.0, 5.0, 40.0, np.inf):
            for fo in (0.02, 0.05, 0.2, 0.5, 1.0):
                with self.subTest(biot=biot, fo=fo):
                    self.assertAlmostEqual(share_lost(fo, biot), share_to_thirty_digits(fo, biot), delta=1e-6)

    def test_short_and_long_form_meet(self):
        below, above = share_lost(SHORT_TIME * (1 - 1e-9)), share_lost(SHORT_TIME)
        self.assertLess(abs(below - above), 1e-5)

    def test_it_rises_from_none_to_all_and_a_stiff_film_is_a_lump(self):
        fo = np.geomspace(1e-6, 20.0, 200)
        for biot in (0.5, 5.0, np.inf):
            lost = share_lost(fo, biot)
            self.assertTrue((np.diff(lost) > -1e-12).all() and lost[0] < 0.01 and lost[-1] > 0.999)
        lump = 1.0 - np.exp(-2.0 * 0.001 * 300.0)  # Bi -> 0: rate 2 Bi
        self.assertAlmostEqual(share_lost(300.0, 0.001), lump, places=3)

    def test_ninety_per_cent_is_gone_at_a_third_of_the_radius_squared(self):
        self.assertAlmostEqual(share_lost(0.3305), 0.90, places=2)


class TestChanges(unittest.TestCase):
    def test_no_water_is_lost_at_any_change_of_surroundings(self):
        rng = np.random.default_rng(5)
        profile = uniform(np.array([1.0, 2.0, 0.3]))
        for _ in range(12):
            biot = np.where(rng.random(3) < 0.3, np.inf, 10.0 ** rng.uniform(-3, 4, 3))
            before = profile.mean()
            profile = moved(profile, biot, rng.uniform(0.0, 3.0, 3))
            np.testing.assert_allclose(profile.mean(), before, atol=1e-12)
            profile = profile.after(10.0 ** rng.uniform(-4, 0, 3))

    def test_one_step_is_the_closed_form(self):
        for biot in (0.3, 5.0, np.inf):
            for fo in (0.003, 0.02, 0.3):
                mean = moved(uniform(np.array(1.0)), biot, 0.2).mean(fo)
                self.assertAlmostEqual(float(mean), 0.2 + 0.8 * (1 - share_lost(fo, biot)), delta=2e-4)

    def test_a_change_to_the_same_surroundings_changes_nothing(self):
        there = moved(uniform(np.array(1.0)), 5.0, 0.2)
        straight = there.mean(0.3)
        broken = moved(there.after(0.1), 5.0, 0.2).mean(0.2)
        self.assertAlmostEqual(float(straight), float(broken), places=7)

    def test_an_independent_solver_agrees_over_a_changing_history(self):
        spans = (
            (1e-6, 8.0, 0.5, 40_000.0),
            (9e-6, 1.5, 0.02, 30_000.0),
            (1e-6, np.inf, 1.2, 20_000.0),
            (2e-5, 0.4, 0.01, 50_000.0),
            (5e-7, 20.0, 0.8, 90_000.0),
        )
        expected = finite_volume.run(2.0, spans)
        profile = uniform(np.array(2.0))
        for (rate, biot, target, seconds), mean in zip(spans, expected, strict=True):
            profile = moved(profile, biot, target).after(rate * seconds)
            with self.subTest(biot=biot):
                self.assertAlmostEqual(float(profile.mean()), mean, delta=0.005 * 2.0)

    def test_many_at_once_are_each_alone(self):
        biot = np.array([[0.5, 5.0], [np.inf, 50.0]])
        together = moved(moved(uniform(np.ones((2, 2))), biot, 0.1).after(0.05), biot * 2.0, 0.4).mean(0.1)
        for place in np.ndindex(2, 2):
            alone = moved(moved(uniform(np.array(1.0)), biot[place], 0.1).after(0.05), biot[place] * 2.0, 0.4).mean(0.1)
            self.assertAlmostEqual(float(together[place]), float(alone), places=12)


class TestChain(unittest.TestCase):
    """Many spans in one film, against the same spans expanded anew each time, and against finite volumes."""

    def test_it_is_what_new_expansions_give(self):
        rng = np.random.default_rng(3)
        fourier, surface = rng.uniform(0.001, 0.2, (8, 3)), rng.uniform(0.0, 2.0, (8, 3))
        film = np.array([0.3, 5.0, np.inf])
        alone = there = moved(uniform(np.array([1.0, 2.0, 0.3])), film, surface[0])
        means, last = chained(there, fourier, surface)
        for span in range(8):
            alone = moved(alone, film, surface[span])
            alone = alone.after(fourier[span])
            np.testing.assert_allclose(means[span], alone.mean(), atol=2e-4)
        np.testing.assert_allclose(last.mean(), means[-1], atol=1e-9)
        _, third = chained(there, fourier, surface, kept=2)
        np.testing.assert_allclose(third.mean(), means[2], atol=1e-9)

    def test_it_is_what_finite_volumes_give(self):
        spans = [(0.02, 5.0, 0.4), (0.05, 5.0, 1.5), (0.4, 5.0, 0.1)]
        there = moved(uniform(np.array([1.0])), 5.0, np.array([0.4]))
        means, _ = chained(there, np.array([[fo] for fo, *_ in spans]), np.array([[target] for *_, target in spans]))
        expected = finite_volume.run(1.0, [(1.0, biot, target, fo) for fo, biot, target in spans])
        np.testing.assert_allclose(means[:, 0], expected, atol=8e-3)  # their steps of time are of the first order


class TestAir(unittest.TestCase):
    def test_saturation_is_that_of_the_steam_tables(self):
        printed = {0.01: 611.66, 20.0: 2339.3, 60.0: 19_946.0, 100.0: 101_418.0, 150.0: 476_160.0, 200.0: 1_554_900.0,
                   300.0: 8_587_900.0}  # fmt: skip
        for celsius, pascal in printed.items():
            with self.subTest(celsius):
                self.assertAlmostEqual(saturation_pressure(celsius) / pascal, 1.0, delta=1.5e-4)

    def test_magnus_meets_it_below_forty_degrees_and_not_above_a_hundred(self):
        for celsius in (0.0, 10.0, 20.0, 40.0):
            self.assertAlmostEqual(vapour_pressure(celsius) / saturation_pressure(celsius), 1.0, delta=0.003)
        self.assertGreater(abs(vapour_pressure(150.0) / saturation_pressure(150.0) - 1.0), 0.02)

    def test_humidity_falls_with_heat_and_never_passes_one(self):
        vapour = vapour_pressure(10.0)
        self.assertAlmostEqual(relative_humidity(vapour, 10.0), 1.0, delta=0.002)
        self.assertAlmostEqual(relative_humidity(vapour, 80.0), 1228.1 / 47_416.0, delta=3e-4)
        self.assertEqual(relative_humidity(vapour, 5.0), 1.0)
        self.assertAlmostEqual(vapour_density(2339.3, 20.0), 0.01729, places=4)


class TestPolymer(unittest.TestCase):
    def test_arrhenius_is_the_worked_figure(self):
        ratio = diffusivity(1.0, 80.0, 45e3, 110.0)
        self.assertAlmostEqual(ratio, 3.3, delta=0.05)  # 45 kJ/mol, 110 to 80 °C: 3.3 times

    def test_sorption_passes_both_points_and_nothing_at_dry(self):
        self.assertAlmostEqual(equilibrium_moisture(2.8, 9.5, 0.5), 2.8)
        self.assertAlmostEqual(equilibrium_moisture(2.8, 9.5, 1.0), 9.5)
        self.assertEqual(equilibrium_moisture(2.8, 9.5, 0.0), 0.0)

    def test_sorption_is_straight_to_half_and_never_above_saturation(self):
        humidity = np.linspace(0.0, 0.5, 11)
        np.testing.assert_allclose(equilibrium_moisture(2.8, 9.5, humidity), 2.8 * humidity / 0.5)
        self.assertAlmostEqual(equilibrium_moisture(2.8, 9.5, 0.03), 0.168)  # a floor at 3 %; a power law says 0.003
        above = equilibrium_moisture(2.8, 9.5, np.linspace(0.5, 1.0, 50))
        self.assertTrue((np.diff(above) > 0.0).all())
        self.assertEqual(equilibrium_moisture(2.8, 9.5, 1.7), 9.5)

    def test_a_winding_slows_the_more_the_more_water_the_polymer_binds(self):
        common = {"radius": 0.875e-3, "depth": 0.045, "diffusivity_": 1e-11, "temperature_c": 80.0}
        binds, hardly = (spool_biot(partition_=k, **common) for k in (400.0, 4.0))
        self.assertAlmostEqual(hardly / binds, 100.0)
        vapour = 2.6e-5 * (353.15 / 298.15) ** 1.8
        even = 3 * vapour * 0.2 * 0.875e-3**2 / (2 * 1.7 * 0.8 * 0.045**2 * 1e-11 * 400.0)  # were it giving evenly
        slowest = even / 3 * np.pi**2 / 4  # were it all in its slowest mode
        self.assertTrue(slowest < binds < even)
        outermost, mean, deepest = turns(binds)
        self.assertTrue(np.isinf(outermost) and mean == binds and even * 2 / 3 < deepest < slowest)

    def test_a_turn_is_at_a_twentieth_of_its_water_when_the_slowest_mode_of_the_winding_is(self):
        slowest = np.log(1.0 / 0.05)  # times the lag by which a lumped turn dies is its time to a twentieth
        for lag, amplitude in ((MEAN_LAG, 8 / np.pi**2), (DEEPEST_LAG, 4 / np.pi)):
            self.assertAlmostEqual(amplitude * np.exp(-slowest * lag * np.pi**2 / 4), 0.05)

    def test_partition_is_water_over_water(self):
        air = vapour_density(0.5 * saturation_pressure(25.0), 25.0)
        self.assertAlmostEqual(partition(2.8, 1130.0, 25.0), 1130.0 * 0.028 / air)


class TestWarming(unittest.TestCase):
    def test_the_wall_is_that_of_the_printed_one_term_tables(self):
        # Bi 1: zeta 0.8603, C 1.1191; Bi 10: zeta 1.4289, C 1.2620 (Incropera and DeWitt, one-term solutions)
        for biot, zeta, c in ((1.0, 0.8603, 1.1191), (10.0, 1.4289, 1.2620)):
            for fo in (0.8, 1.5):
                self.assertAlmostEqual(plane_wall(fo, biot)[2], c * np.exp(-(zeta**2) * fo), places=3)

    def test_a_bar_starts_cold_ends_warm_and_a_deeper_one_takes_longer(self):
        self.assertAlmostEqual(bar(1.0, 0.045, 0.06, 1.3e6)[2], 1.0, places=2)
        self.assertLess(bar(2e5, 0.045, 0.06, 1.3e6)[2], 0.01)
        times = [warm_through_seconds(depth, 0.06, 1.3e6) for depth in (0.02, 0.03, 0.045)]
        self.assertEqual(times, sorted(times))
        alpha = CONDUCTIVITY / 1.3e6
        middle = [plane_wall(alpha * times[2] / half**2, SURFACE * half / CONDUCTIVITY)[2] for half in (0.045, 0.03)]
        self.assertAlmostEqual(middle[0] * middle[1], 0.05, places=3)

    def test_mean_and_face_are_those_of_the_wall_and_a_step_is_conserved(self):
        # mean: the integral of the one-term profile, sin(zeta)/zeta of the middle; face: cos(zeta) of it
        for biot, zeta, c in ((1.0, 0.8603, 1.1191), (10.0, 1.4289, 1.2620)):
            middle = c * np.exp(-(zeta**2) * 1.2)
            np.testing.assert_allclose(
                plane_wall(1.2, biot), [middle * np.cos(zeta), middle * np.sin(zeta) / zeta, middle], rtol=3e-3
            )
        np.testing.assert_allclose(plane_wall(0.0, 5.0)[1:], 1.0, atol=1e-4)
        hours = np.linspace(0.0, 8.0, 30) * 3600.0
        outermost, mean, deepest = bar(hours, 0.045, 0.06, 1.3e6).T
        self.assertTrue((outermost <= mean + 1e-3).all() and (mean <= deepest + 1e-3).all())
        self.assertTrue((np.diff(deepest) < 1e-3).all())
