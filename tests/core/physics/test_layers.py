"""Heat in a growing stack: contact of two bodies, a lumped fin, scaling, interpolation, grids."""

import math
import unittest
from itertools import pairwise

import attrs
import numpy as np
from scipy.linalg import expm, solve_banded
from scipy.special import erf

from kaustos.core.errors import FieldError
from kaustos.core.physics import layers
from kaustos.core.physics.layers import FOLLOWING, Stack, film_nodes, film_of, interpolating, looks, responses
from kaustos.core.physics.weld import healed

WALL = Stack(layer=2e-4, period=15.0, below=60, conductivity=0.2, heat=1.9e6, edge=2.0 / 6e-4)
BLOCK = attrs.evolve(WALL, edge=200.0, period=40.0)


class TestContact(unittest.TestCase):
    def test_at_first_two_bodies_meet_half_way(self):
        """Hot melt on a cold body: the face takes the mean of both, as two half-spaces in contact do."""
        found = responses(attrs.evolve(WALL, period=30.0), 12.0)
        early = found.times < 0.1 * WALL.layer**2 / (WALL.conductivity / WALL.heat)
        self.assertGreater(early.sum(), 0)
        mean = 0.5 * (1.0 + float(found.skin_melt[0]))
        np.testing.assert_allclose(found.melt[0][early], mean, rtol=0.01)

    def test_a_slab_between_two_half_spaces_cools_as_the_error_function_says(self):
        """Without losses, before heat reaches the top: a hot layer on a cold half-space, its top insulated."""
        stack = attrs.evolve(WALL, edge=0.0, below=40, period=4000.0)
        found = responses(stack, 1e-6)
        alpha, thick = stack.conductivity / stack.heat, stack.layer
        times = found.times[found.times <= stack.period]
        cold = float(found.skin_melt[0])
        wanted = cold + (1.0 - cold) * erf(2.0 * thick / np.sqrt(4.0 * alpha * times)) / 2.0
        soon = times < thick**2 / alpha
        np.testing.assert_allclose(found.melt[0][: times.size][soon], wanted[soon], rtol=0.01)


class TestFin(unittest.TestCase):
    def test_thin_quick_layers_are_a_fin_that_moves_with_its_top(self):
        """Lumped fin in a frame that rises: T0 exp(-k z), a k² + v k = loss, melt brings what top and fin take."""
        for edge, period in ((200.0, 0.5), (600.0, 0.4), (300.0, 0.3)):
            stack = Stack(layer=5e-5, period=period, below=2_000, conductivity=0.2, heat=1.9e6, edge=edge)
            film, spread, speed = 15.0, 0.2 / 1.9e6, 5e-5 / period
            loss = film * edge / stack.heat
            decay = (-speed + math.sqrt(speed**2 + 4.0 * spread * loss)) / (2.0 * spread)
            top = speed / (speed + spread * decay + film / stack.heat)
            found = responses(stack, film)
            last = found.times > FOLLOWING * period
            times, face = found.times[last], found.melt[0][last]
            mean = float(np.trapezoid(face, times) / (times[-1] - times[0]))
            wanted = top * math.exp(-decay * (FOLLOWING + 1) * stack.layer)
            self.assertAlmostEqual(mean, wanted, delta=0.01 * wanted)

    def test_far_up_a_plate_is_forgotten_and_near_it_is_not(self):
        near, far = responses(attrs.evolve(WALL, below=3), 15.0), responses(attrs.evolve(WALL, below=400), 15.0)
        self.assertGreater(near.plate[0].max(), 0.3)
        self.assertLess(float(np.abs(far.plate).max()), 1e-6)

    def test_the_plate_fades_as_a_fin_says(self):
        """Steady part of a tall fin: exp(-m z) with m² = h P / (k A); a slow stack that has come to rest."""
        film, stack = 15.0, attrs.evolve(WALL, period=4000.0, edge=400.0)
        m = math.sqrt(film * stack.edge / stack.conductivity)
        for below in (10, 20, 30):
            found = responses(attrs.evolve(stack, below=below), film)
            height = below * stack.layer
            biot = film / (stack.conductivity * m)
            top = (below + 1) * stack.layer

            def fin(z, top=top, biot=biot):
                return (math.cosh(m * (top - z)) + biot * math.sinh(m * (top - z))) / (
                    math.cosh(m * top) + biot * math.sinh(m * top)
                )

            self.assertAlmostEqual(
                float(np.interp(4000.0, found.times, found.plate[0])), fin(height), delta=0.01 * fin(height)
            )


def by_small_steps(stack, film, melt_c, air_c, plate_c, glass_c):
    """Healing by an independent way: implicit steps through every layer on an even grid, errors of time taken out."""
    cells, steps, dz = 10, 80, stack.layer / 10
    spread, at = stack.conductivity / stack.heat, stack.below * 10
    fine = 1e-4 * stack.layer**2 / spread
    moments = np.concatenate(([0.0], np.geomspace(min(fine, stack.period / 100.0), stack.period, steps)))

    def later(now, dt):
        rate, side = spread / dz**2 * dt, dt * film * stack.edge / stack.heat
        top = dt / (1.0 / film + 0.5 * dz / stack.conductivity) / (stack.heat * dz)
        middle, source = np.full(now.size, 1.0 + 2.0 * rate + side), now + side * air_c
        middle[0], source[0] = middle[0] + rate, source[0] + 2.0 * rate * plate_c
        middle[-1], source[-1] = middle[-1] - rate + top, source[-1] + top * air_c
        beside = np.full(now.size, -rate)
        return solve_banded((1, 1), np.stack([np.roll(beside, 1), middle, beside]), source)

    def speed(now):
        over = 0.5 * (now[at - 1] + now[at]) - glass_c
        return 10.0 ** (17.44 * over / (51.6 + over)) if over > 0.0 else 0.0

    now, healed_s = np.zeros(0), 0.0
    for layer in range(stack.below + 1 + FOLLOWING):
        now = np.concatenate((now, np.full(cells, melt_c)))
        for start, end in pairwise(moments):
            half = later(now, (end - start) / 2.0)
            then = 2.0 * later(half, (end - start) / 2.0) - later(now, end - start)
            if layer >= stack.below:
                healed_s += (end - start) * (speed(now) + 4.0 * speed(half) + speed(then)) / 6.0
            now = then
    return healed_s**0.25


class TestLateLayers(unittest.TestCase):
    def test_from_one_second_to_half_an_hour_healing_is_that_of_small_implicit_steps(self):
        for layer, period, edge in (
            (8e-5, 1.0, 3333.0), (8e-5, 360.0, 100.0), (2e-4, 1.0, 100.0), (2e-4, 360.0, 100.0), (2e-4, 1500.0, 3333.0),
            (6e-4, 15.0, 100.0), (6e-4, 360.0, 3333.0), (6e-4, 1500.0, 100.0),
        ):  # fmt: skip
            for melt, air, plate, glass in ((390.0, 150.0, 165.0, 217.0), (255.0, 70.0, 100.0, 100.0)):
                with self.subTest(layer=layer, period=period, edge=edge, glass=glass):
                    stack = Stack(layer=layer, period=period, below=12, conductivity=0.2, heat=1.9e6, edge=edge)
                    found = responses(stack, 18.0)
                    face = air + (melt - air) * found.melt[0] + (plate - air) * found.plate[0]
                    wanted = by_small_steps(stack, 18.0, melt, air, plate, glass)
                    self.assertAlmostEqual(float(healed(found.lasts, face, glass)), wanted, delta=0.01 * wanted)

    def test_a_layer_that_takes_longer_loses_a_little_more_and_never_nearly_all(self):
        """Once a layer has cooled before the next comes, more time changes nothing."""
        found = []
        for period in (60.0, 180.0, 360.0, 900.0, 1500.0):
            stack = Stack(layer=2e-4, period=period, below=60, conductivity=0.2, heat=1.9e6, edge=100.0)
            unit = responses(stack, 18.0)
            found.append(float(healed(unit.lasts, 150.0 + 240.0 * unit.melt[0], 217.0)))
        self.assertTrue((np.diff(found) <= 1e-3 * found[0]).all(), found)
        self.assertGreater(found[-1], 0.95 * found[2])

    def test_the_plate_is_felt_less_the_higher_a_face_lies_at_every_height(self):
        stack = Stack(layer=6e-4, period=360.0, below=1, conductivity=0.2, heat=1.9e6, edge=3333.0)
        heights = range(6, 24)
        felt = [float(responses(attrs.evolve(stack, below=below), 18.0).plate[0][0]) for below in heights]
        self.assertTrue((np.diff(felt) < 0.0).all(), felt)


class TestScaling(unittest.TestCase):
    def test_melt_and_plate_together_at_one_are_one_where_nothing_is_lost(self):
        """Conservation: everything at 1 and no losses stays at 1."""
        found = responses(attrs.evolve(WALL, edge=0.0, below=6), 1e-9)
        np.testing.assert_allclose(found.melt[0] + found.plate[0], 1.0, atol=2e-5)

    def test_films_between_nodes_are_interpolated(self):
        nodes = film_nodes(6.0, 60.0, 9)
        together = responses(WALL, nodes)
        for film in (7.0, 13.0, 24.0, 50.0):
            direct = responses(WALL, film)
            between = together.at(film)
            for name in ("melt", "skin_melt", "end_melt"):
                np.testing.assert_allclose(getattr(between, name), getattr(direct, name), atol=1e-5)

    def test_a_polynomial_is_interpolated_exactly(self):
        nodes = np.array([0.0, 0.4, 1.0, 1.7])
        wanted = np.array([0.1, 0.4, 1.2])
        np.testing.assert_allclose(interpolating(nodes, wanted) @ nodes**3, wanted**3, atol=1e-12)

    def test_more_loss_or_more_time_never_leaves_it_hotter(self):
        films = np.array([8.0, 16.0, 32.0])
        by_film = responses(WALL, films).melt
        self.assertTrue((np.diff(by_film, axis=0) <= 1e-9).all())
        ends = [float(responses(attrs.evolve(WALL, period=t), 15.0).end_melt[0]) for t in (4.0, 8.0, 16.0, 32.0)]
        self.assertEqual(ends, sorted(ends, reverse=True))

    def test_a_finer_grid_and_more_layers_change_it_little(self):
        usual = {stack: responses(stack, 15.0) for stack in (WALL, BLOCK)}
        kept = layers.CELLS, layers.FINE, layers.LEFT, layers._DIGITS
        gaps = []
        try:
            for cells in (3, 12):
                layers.CELLS, layers.FINE, layers.LEFT, layers._DIGITS = cells, 8, 1e-5, 20.0
                finer = {stack: responses(stack, 15.0) for stack in (WALL, BLOCK)}
                gaps.append(max(float(np.abs(finer[s].melt - usual[s].melt).max()) for s in usual))
        finally:
            layers.CELLS, layers.FINE, layers.LEFT, layers._DIGITS = kept
        self.assertLess(gaps[1], 0.008)  # of melt less air

    def test_moments_of_all_spans_are_those_of_the_matrix_exponential(self):
        below, middle, above = np.full(7, 3.0), np.linspace(-9.0, -7.0, 8), np.full(7, 4.0)
        start = np.linspace(1.0, 0.2, 8)
        rates = np.stack([np.append(0.0, above), middle, np.append(below, 0.0)])[:, None]
        since = np.concatenate([np.geomspace(1e-4, 3.0, 40), [40.0]])
        found = layers._decayed(rates, start[None, None], since)[:, 0, 0]
        whole = np.diag(middle) + np.diag(above, 1) + np.diag(below, -1)
        wanted = np.array([expm(whole * each) @ start for each in since])
        np.testing.assert_allclose(found, wanted, atol=2e-5)

    def test_moments_cover_the_layer_and_those_that_follow(self):
        for first in (1e-3, 1e-5, 3e-7):
            times, lasts = looks(first)
            self.assertTrue((np.diff(times) > 0.0).all())
            self.assertEqual(float(times[-1]), FOLLOWING + 1.0)
            self.assertAlmostEqual(float(lasts.sum()), FOLLOWING + 1.0, delta=1e-9)
            self.assertTrue((lasts >= 0.0).all())
            since = times[times <= 1.0]  # by hand: the integral of -ln t from 0 to 1 is 1
            self.assertAlmostEqual(float(-np.log(since) @ lasts[: since.size]), 1.0, delta=2.0 * first)

    def test_what_cannot_be_is_refused(self):
        for name, value in (("layer", 0.0), ("period", -1.0), ("conductivity", math.nan), ("edge", -1.0), ("below", 0)):
            with self.subTest(name), self.assertRaises(FieldError):
                attrs.evolve(WALL, **{name: value})


class TestFilm(unittest.TestCase):
    def test_radiation_grows_with_heat_as_the_law_says(self):
        cold, warm = 293.15, 338.15
        wanted = 8.0 + 0.95 * 5.670374e-8 * (warm**4 - cold**4) / (warm - cold)
        self.assertAlmostEqual(float(film_of(8.0, 20.0)), wanted, places=5)
        self.assertGreater(float(film_of(8.0, 200.0)), float(film_of(8.0, 20.0)))
