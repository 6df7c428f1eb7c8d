"""Heat in a growing stack: contact of two bodies, a lumped fin, scaling, interpolation, grids."""

import math
import unittest

import attrs
import numpy as np
from scipy.special import erf

from kaustos.core.errors import FieldError
from kaustos.core.physics import layers
from kaustos.core.physics.layers import FOLLOWING, Stack, film_nodes, film_of, interpolating, relative_times, responses

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
        times = found.times[:24]
        cold = float(found.skin_melt[0])
        wanted = cold + (1.0 - cold) * erf(2.0 * thick / np.sqrt(4.0 * alpha * times)) / 2.0
        soon = times < thick**2 / alpha
        np.testing.assert_allclose(found.melt[0][:24][soon], wanted[soon], rtol=0.01)


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

            self.assertAlmostEqual(float(found.plate[0][23]), fin(height), delta=0.01 * fin(height))


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
        kept = layers.CELLS, layers.FINE, layers.LEFT, layers._POLES
        gaps = []
        try:
            for cells in (3, 12):
                layers.CELLS, layers.FINE, layers.LEFT, layers._POLES = cells, 8, 1e-5, 20
                finer = {stack: responses(stack, 15.0) for stack in (WALL, BLOCK)}
                gaps.append(max(float(np.abs(finer[s].melt - usual[s].melt).max()) for s in usual))
        finally:
            layers.CELLS, layers.FINE, layers.LEFT, layers._POLES = kept
        self.assertLess(gaps[1], 0.008)  # of melt less air

    def test_moments_cover_the_layer_and_those_that_follow(self):
        times = relative_times()
        self.assertTrue((np.diff(times) > 0.0).all())
        self.assertEqual(float(times[-1]), FOLLOWING + 1.0)

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
