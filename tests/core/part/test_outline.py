"""Support round points of an outline, walls and lengths inward, against plain geometry."""

import math
import unittest

import numpy as np
import shapely

from kaustos.core.part.outline import inward_length, local_support, outline_of, walls_at


def corner(degrees, leg=60.0):
    """A kite whose first corner, at nothing, has an angle."""
    half = math.radians(degrees) / 2.0
    far = leg * math.cos(half) * 1.5
    return shapely.Polygon([(0.0, 0.0), (leg * math.cos(half), -leg * math.sin(half)), (far, 0.0),
                            (leg * math.cos(half), leg * math.sin(half))])  # fmt: skip


class TestSupport(unittest.TestCase):
    def test_at_a_corner_whose_legs_exceed_the_disc_it_is_the_angle_over_the_whole_turn(self):
        for degrees in range(15, 151, 5):
            found = local_support(np.zeros((1, 2)), np.array([4.0]), corner(float(degrees)))[0]
            with self.subTest(degrees=degrees):
                self.assertAlmostEqual(found / (degrees / 360.0), 1.0, places=6)

    def test_it_agrees_with_cutting_a_disc_of_many_sides_out_of_anything(self):
        rng = np.random.default_rng(7)
        for _ in range(12):
            blobs = [shapely.Point(*rng.uniform(-4, 4, 2)).buffer(rng.uniform(0.5, 4.0)) for _ in range(5)]
            holes = [shapely.box(*at, *(at + rng.uniform(0.2, 2.0, 2))) for at in rng.uniform(-4, 4, (4, 2))]
            shape = shapely.difference(shapely.union_all(blobs), shapely.union_all(holes))
            if shape.is_empty:
                continue
            at, radius = rng.uniform(-3, 3, 2), rng.uniform(0.5, 5.0)
            disc = shapely.Point(*at).buffer(radius, quad_segs=2000)
            wanted = shapely.intersection(disc, shape).area / disc.area
            found = local_support(at[None], np.array([radius]), shape)[0]
            self.assertAlmostEqual(found, wanted, places=6)

    def test_turning_moving_and_where_a_ring_begins_change_nothing(self):
        shape = shapely.difference(shapely.box(0, 0, 30, 12), shapely.box(4, 4, 9, 8))
        points, radius = np.array([[0.0, 0.0], [30.0, 6.0], [4.0, 5.0]]), np.array([3.0, 4.0, 2.0])
        before = local_support(points, radius, shape)
        a = math.radians(37.0)
        turn = np.array([[math.cos(a), -math.sin(a)], [math.sin(a), math.cos(a)]])
        other = shapely.transform(shape, lambda xy: xy @ turn.T + [50.0, -80.0])
        self.assertLess(np.abs(local_support(points @ turn.T + [50.0, -80.0], radius, other) - before).max(), 1e-9)
        ring = shapely.get_coordinates(shape.exterior)[:-1]
        rolled = shapely.Polygon(np.roll(ring, 2, axis=0)[::-1], [shapely.get_coordinates(shape.interiors[0])])
        self.assertLess(np.abs(local_support(points, radius, rolled) - before).max(), 1e-9)

    def test_more_material_never_supports_less(self):
        rng = np.random.default_rng(3)
        base = shapely.box(0, 0, 20, 10)
        outline = outline_of(base)
        radius = np.full(len(outline.points), 4.0)
        bare = local_support(outline.points, radius, base)
        for _ in range(20):
            more = shapely.union(base, shapely.Point(*rng.uniform(-5, 25, 2)).buffer(rng.uniform(1.0, 8.0)))
            self.assertTrue((local_support(outline.points, radius, more) >= bare - 1e-9).all())


class TestWalls(unittest.TestCase):
    def test_the_wall_of_a_strip_and_the_gap_of_a_slot(self):
        slot = shapely.difference(shapely.box(0, 0, 40, 20), shapely.box(5, 8, 35, 10.5))
        outline = outline_of(slot)
        self.assertAlmostEqual(float(walls_at(outline, slot)[~outline.is_corner].min()), 5.0, places=9)
        self.assertAlmostEqual(float(walls_at(outline, slot, outwards=True).min()), 2.5, places=9)

    def test_points_lie_on_the_outline_and_inward_is_inside(self):
        shape = shapely.difference(shapely.box(0, 0, 40, 20), shapely.Point(20, 10).buffer(5))
        outline = outline_of(shape)
        sides = ~outline.is_corner
        self.assertLess(float(shapely.distance(shapely.points(outline.points), shape.boundary).max()), 1e-9)
        inside = shapely.points((outline.points + 0.01 * outline.inward)[sides])
        self.assertTrue(shapely.contains(shape, inside).all())

    def test_length_inward_is_that_of_the_body_it_stands_on(self):
        apart = shapely.union(shapely.box(0, 0, 10, 4), shapely.box(20, 0, 50, 4))
        outline = outline_of(apart)
        found = inward_length(outline, apart)
        left = (outline.points[:, 0] < 1e-9) & ~outline.is_corner
        far = (outline.points[:, 0] > 50.0 - 1e-9) & ~outline.is_corner
        self.assertAlmostEqual(float(found[left].max()), 10.0, places=9)
        self.assertAlmostEqual(float(found[far].min()), 30.0, places=9)
