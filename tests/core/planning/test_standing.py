"""How a part stands: sharpness along its outline, anchors, room on the plate."""

import math
import unittest

import attrs
import numpy as np
import shapely

from kaustos.core.errors import FieldError
from kaustos.core.estimates import BOND
from kaustos.core.planning.dose import batch_card, dose_ml
from kaustos.core.planning.skirt import probe_of
from kaustos.core.planning.standing import (
    Anchor,
    anchor_cost,
    anchored_of,
    box_shape,
    clip_strips,
    layout_of,
    standing_of,
)

BARE = Anchor()
ANCHORS = (Anchor(kind="brim", width_mm=5.0), Anchor(kind="brim", width_mm=12.0), Anchor(kind="ears", width_mm=10.0),
           Anchor(kind="raft", width_mm=6.0, raft_mm=1.0))  # fmt: skip


def shaped(polygon, height=20.0):
    """A part that stands upright on a polygon."""
    area, around = polygon.area, polygon.length
    wide, deep = polygon.bounds[2] - polygon.bounds[0], polygon.bounds[3] - polygon.bounds[1]
    rings = [polygon.exterior, *polygon.interiors]
    return attrs.evolve(
        box_shape(wide, deep, height), contact_mm2=area, shadow_mm2=area, volume_mm3=area * height,
        areas_mm2=(area, area), perimeters_mm=(around, around),
        footprint=(tuple(tuple(map(tuple, shapely.get_coordinates(ring)[:-1])) for ring in rings),),
    )  # fmt: skip


class TestThinAnchors(unittest.TestCase):
    def test_no_brim_ears_or_raft_divides_the_load_of_a_corner_by_more_than_practice_gives_it(self):
        body = box_shape(60.0, 40.0, 20.0)
        plain = standing_of(body, BARE).bare
        for anchor in (*ANCHORS, Anchor(kind="brim", width_mm=40.0)):
            found = standing_of(body, anchor).sharpness
            best = BOND[f"best.{anchor.kind}"].value
            with self.subTest(anchor):
                self.assertTrue((found >= np.minimum(plain, best) - 1e-9).all())
        wide = standing_of(body, Anchor(kind="brim", width_mm=40.0)).sharpness
        self.assertLess(wide.max(), plain.max(), "and yet it helps")


class TestAnchored(unittest.TestCase):
    def test_a_brim_of_half_a_millimetre_lies_round_the_part_too(self):
        for wide in (0.5, 5.0):
            found = anchored_of(box_shape(40.0, 30.0, 10.0), Anchor(kind="brim", width_mm=wide), np.empty((0, 2)))
            ring = 2.0 * (40.0 + 30.0) * wide + math.pi * wide**2
            self.assertAlmostEqual(found.area, 40.0 * 30.0 + ring, delta=0.01 * ring)
        for bare in (Anchor(), Anchor(kind="skirt", width_mm=5.0), Anchor(kind="brim", width_mm=0.0)):
            self.assertEqual(anchored_of(box_shape(40.0, 30.0, 10.0), bare, np.empty((0, 2))).area, 1200.0)


class TestSharpness(unittest.TestCase):
    def test_a_wall_of_any_thickness_has_a_straight_edge_along_its_sides(self):
        for wall in (0.4, 0.8, 1.5, 3.0, 8.0, 40.0):
            standing = standing_of(box_shape(150.0, wall, 30.0), BARE)
            far = (np.abs(standing.points[:, 0] - 75.0) < 60.0) & (standing.bare <= 1.0 + 1e-6)
            along = np.abs(standing.points[:, 0] - 75.0) < 60.0
            with self.subTest(wall=wall):
                self.assertTrue(along.any())
                self.assertEqual(int(far.sum()), int(along.sum()))
                self.assertLess(float(np.abs(standing.sharpness[along] - 1.0).max()), 1e-6)

    def test_a_square_corner_is_twice_a_straight_edge_and_a_round_one_less(self):
        square = standing_of(box_shape(60.0, 60.0, 20.0), BARE)
        self.assertAlmostEqual(float(square.bare.max()), 2.0, places=6)
        radii = (2.0, 5.0, 10.0, 20.0)
        sharp = []
        for radius in radii:
            rounded = shapely.box(0, 0, 60, 60).buffer(-radius).buffer(radius, quad_segs=64)
            sharp.append(float(standing_of(shaped(rounded), BARE).bare.max()))
        self.assertEqual(sharp, sorted(sharp, reverse=True))
        self.assertLess(sharp[-1], 1.2)

    def test_no_anchor_ever_sharpens_a_point_of_the_parts_own_outline(self):
        rng = np.random.default_rng(5)
        for number in range(12):
            blobs = [shapely.Point(*rng.uniform(0, 30, 2)).buffer(rng.uniform(3, 9), quad_segs=6) for _ in range(5)]
            whole = shapely.union_all([*blobs, shapely.box(8, 8, 22, 22)])
            part = max(shapely.get_parts(whole), key=lambda each: each.area)
            shape = shaped(part)
            bare = standing_of(shape, BARE)
            for anchor in ANCHORS:
                held = standing_of(shape, anchor)
                with self.subTest(number=number, anchor=anchor.kind):
                    self.assertTrue((held.sharpness <= bare.sharpness + 1e-9).all())
                    self.assertTrue((held.lengths == bare.lengths).all(), "anchors do not count in the part's length")

    def test_a_wider_brim_never_holds_less(self):
        shape = box_shape(80.0, 30.0, 25.0)
        worst = [float(standing_of(shape, Anchor(kind="brim", width_mm=w)).sharpness.max()) for w in (0, 1, 2, 4, 8)]
        self.assertEqual(worst, sorted(worst, reverse=True))
        self.assertLess(worst[-1], 1.0)

    def test_neighbours_whose_brims_touch_never_raise_the_load_and_lower_it_where_they_stand(self):
        shape, brim = box_shape(40.0, 30.0, 25.0), Anchor(kind="brim", width_mm=1.5)
        alone = standing_of(shape, brim)
        beside = standing_of(shape, brim, ((43.0, 0.0), (0.0, 33.0)))
        self.assertTrue((beside.sharpness <= alone.sharpness + 1e-9).all())
        corner = np.argmin(np.hypot(*(alone.points - [40.0, 30.0]).T))
        self.assertLess(beside.sharpness[corner], 0.95 * alone.sharpness[corner])
        outer = np.argmin(np.hypot(*alone.points.T))
        self.assertAlmostEqual(beside.sharpness[outer], alone.sharpness[outer], places=9)

    def test_turning_a_part_changes_nothing(self):
        a = math.radians(29.0)
        turn = np.array([[math.cos(a), -math.sin(a)], [math.sin(a), math.cos(a)]])
        polygon = shapely.Polygon([(0, 0), (50, 0), (50, 20), (20, 24), (0, 12)])
        plain = standing_of(shaped(polygon), BARE)
        other = standing_of(shaped(shapely.transform(polygon, lambda xy: xy @ turn.T)), BARE)
        corners = slice(0, 5)
        self.assertLess(float(np.abs(plain.bare[corners] - other.bare[corners]).max()), 1e-6)
        self.assertLess(float(np.abs(plain.lengths[corners] - other.lengths[corners]).max()), 1e-9)


class TestAnchors(unittest.TestCase):
    def test_what_an_anchor_takes_is_its_area_times_its_height(self):
        shape = box_shape(100.0, 40.0, 10.0)
        brim = anchor_cost(shape, Anchor(kind="brim", width_mm=5.0), 1.25, 0.25, 20.0, 0.5)
        area = 2.0 * 5.0 * 140.0 + math.pi * 25.0
        self.assertAlmostEqual(brim.extra_mm2 / area, 1.0, places=2)
        self.assertAlmostEqual(brim.grams / (area * 0.25 * 1.25e-3), 1.0, places=2)
        self.assertAlmostEqual(brim.minutes / (area / (0.5 * 20.0 * 60.0)), 1.0, places=2)
        self.assertEqual(anchor_cost(shape, BARE, 1.25, 0.25, 20.0, 0.5).grams, 0.0)

    def test_a_raft_costs_more_than_a_brim_and_ears_less(self):
        shape = box_shape(100.0, 40.0, 10.0)
        grams = {each.kind: anchor_cost(shape, each, 1.25, 0.25, 20.0, 0.5).grams for each in ANCHORS[1:]}
        self.assertGreater(grams["raft"], grams["brim"])
        self.assertGreater(grams["brim"], grams["ears"])


class TestLayout(unittest.TestCase):
    def test_copies_stand_apart_inside_the_plate_and_clear_of_what_is_barred(self):
        shape, anchor = box_shape(40.0, 30.0, 10.0), Anchor(kind="brim", width_mm=5.0)
        dead = (*clip_strips(4, (200.0, 200.0), 12.0), (90.0, 90.0, 10.0, 10.0))
        found = layout_of(shape, anchor, 9, 4.0, (200.0, 200.0), dead)
        self.assertTrue(found.fits)
        boxes = [shapely.box(x, y, x + 50.0, y + 40.0) for x, y in found.places]
        barred = shapely.union_all([shapely.box(x, y, x + w, y + h) for x, y, w, h in dead])
        for number, each in enumerate(boxes):
            self.assertTrue(shapely.box(0, 0, 200, 200).buffer(1e-6).contains(each))
            self.assertAlmostEqual(each.intersection(barred).area, 0.0)
            for other in boxes[number + 1 :]:
                self.assertGreaterEqual(each.distance(other), 4.0 - 1e-9)

    def test_as_many_as_there_is_room_for_and_never_more_than_area_allows(self):
        shape = box_shape(60.0, 60.0, 10.0)
        counts = [len(layout_of(shape, BARE, 50, 2.0, (side, side), ()).places) for side in (59.0, 60.0, 121.0, 122.0)]
        self.assertEqual(counts, [0, 1, 1, 4])


class TestDose(unittest.TestCase):
    def test_a_film_is_area_times_wet_thickness_and_grows_with_coats(self):
        square = shapely.box(0, 0, 100, 100)
        one = dose_ml(square, 50.0, 1.0)
        self.assertAlmostEqual(dose_ml(square, 50.0, 3.0), 3.0 * one)
        self.assertGreater(one, 100.0 * 100.0 * 50.0 / 1e6)
        self.assertLess(one, 3.0 * 100.0 * 100.0 * 50.0 / 1e6)

    def test_a_batch_keeps_its_shares_and_refuses_no_volume(self):
        card = batch_card(400.0, 7.5, {"water": 0.3, "alcohol": 0.7})
        self.assertAlmostEqual(card.grams, 30.0)
        self.assertAlmostEqual(sum(card.parts_ml.values()), 400.0)
        with self.assertRaises(FieldError):
            batch_card(0.0, 7.5, {})


class TestSkirt(unittest.TestCase):
    def test_tilt_and_offset_of_a_plane_come_out_as_they_were_put_in(self):
        rng = np.random.default_rng(2)
        for _ in range(50):
            offset, along, deep = rng.uniform(-0.1, 0.1, 3)
            thick = {"left": 0.25 + offset - along / 2, "right": 0.25 + offset + along / 2,
                     "front": 0.25 + offset - deep / 2, "back": 0.25 + offset + deep / 2}  # fmt: skip
            found = probe_of(thick, 0.25)
            self.assertAlmostEqual(found.offset_mm, offset)
            self.assertAlmostEqual(found.along_mm, along)
            self.assertAlmostEqual(found.deep_mm, deep)
            self.assertFalse(found.is_twisted)

    def test_sides_that_lie_in_no_plane_are_told(self):
        self.assertTrue(probe_of({"left": 0.35, "right": 0.35, "front": 0.2, "back": 0.2}, 0.25).is_twisted)
        self.assertTrue(probe_of(dict.fromkeys(("left", "right", "front", "back"), 0.26), 0.25).is_level)
