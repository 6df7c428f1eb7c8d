"""What of a part grows over air: areas, starts, spans, reach, on solids that are known by heart."""

import itertools
import math
import unittest
from unittest import mock

import numpy as np

from kaustos.core.part import Mesh, mended, turned_down
from kaustos.core.part.grid import DIRECTIONS, Grid, grid_of, open_to_outside, reached, seen_from_outside
from kaustos.core.part.overhang import hanging_area, overhangs_of
from kaustos.core.progress import UNWATCHED, Cancelled
from kaustos.demo.bonding import profile
from tests.asserting import every
from tests.core.part.solids import box, cone, joined, turned

TEE = ((10.0, 0.0), (20.0, 0.0), (20.0, 30.0), (30.0, 30.0), (30.0, 40.0), (0.0, 40.0), (0.0, 30.0), (10.0, 30.0))
ARCH = ((0.0, 0.0), (5.0, 0.0), (5.0, 20.0), (25.0, 20.0), (25.0, 0.0), (30.0, 0.0), (30.0, 30.0), (0.0, 30.0))
WEDGE = ((0.0, 0.0), (10.0, 0.0), (40.0, 30.0), (0.0, 30.0))
SEE = ((0.0, 0.0), (30.0, 0.0), (30.0, 5.0), (5.0, 5.0), (5.0, 15.0), (30.0, 15.0), (30.0, 20.0), (0.0, 20.0))


def upside_down(mesh):
    """The same on its head."""
    low = mesh.vertices[:, 2].max()
    flipped = mesh.vertices * [1.0, 1.0, -1.0] + [0.0, 0.0, low]
    return mended(Mesh(vertices=flipped, faces=mesh.faces[:, ::-1]))[0]


def places(mesh, tool=3.0):
    return overhangs_of(mesh, tool)[0]


class TestPlaces(unittest.TestCase):
    def test_ledges_bridges_and_slopes_have_the_areas_and_spans_of_their_drawing(self):
        for corners, depth, wanted in (
            (TEE, 8.0, [("out", 10.0, 80.0, 80.0 * 30.0, 90.0)] * 2),
            (ARCH, 8.0, [("span", 20.0, 160.0, 160.0 * 20.0, 90.0)]),
            (WEDGE, 10.0, [("", 0.0, 300.0 * math.sqrt(2.0), 10.0 * 30.0 * 30.0 / 2.0, 45.0)]),
        ):
            found = places(profile(corners, depth))
            self.assertEqual(len(found), len(wanted))
            for each, (kind, length, area, column, angle) in zip(found, wanted, strict=True):
                with self.subTest(corners=corners):
                    over = each.beyond(30.0)
                    self.assertAlmostEqual(over.area_mm2 / area, 1.0, delta=1e-6)
                    self.assertAlmostEqual(over.column_mm3 / column, 1.0, delta=1e-6)
                    self.assertAlmostEqual(each.steepest_deg, angle, delta=0.1)
                    self.assertFalse(each.begins)
                    spans = {"out": (0.0, length), "span": (length, 0.0), "": (0.0, 0.0)}[kind]
                    self.assertAlmostEqual(each.span_mm, spans[0], delta=1e-6 * max(length, 1.0))
                    self.assertAlmostEqual(each.out_mm, spans[1], delta=1e-6 * max(length, 1.0))

    def test_what_stands_over_the_part_itself_lands_on_it_within_a_cell(self):
        (found,), cell = overhangs_of(profile(SEE, 10.0), 3.0)
        over = found.beyond(30.0)
        self.assertAlmostEqual(over.onto_mm2, over.flat_mm2, delta=0.02 * over.flat_mm2)
        self.assertAlmostEqual(over.column_mm3, 250.0 * 10.0, delta=250.0 * cell)

    def test_a_roof_half_over_a_ledge_and_half_over_the_plate_fills_down_to_each(self):
        half = ((0.0, 0.0), (15.0, 0.0), (15.0, 5.0), (5.0, 5.0), (5.0, 15.0), (30.0, 15.0), (30.0, 20.0), (0.0, 20.0))
        (found,), _ = overhangs_of(profile(half, 10.0), 3.0)
        over = found.beyond(30.0)
        self.assertAlmostEqual(over.column_mm3, 10.0 * (10.0 * 10.0 + 15.0 * 15.0), delta=60.0)
        self.assertAlmostEqual(over.onto_mm2, 10.0 * 10.0, delta=5.0)

    def test_a_hanging_body_and_a_tip_begin_in_the_air_and_a_pit_does_not(self):
        (hangs,) = places(joined(box(30.0, 10.0, 5.0), box(5.0, 10.0, 5.0, (0.0, 0.0, 30.0))))
        self.assertTrue(hangs.begins)
        self.assertEqual(hangs.low_mm, 30.0)
        steep, flat = upside_down(cone(10.0, 30.0)), upside_down(cone(10.0, 10.0))  # 18 and 45 degrees from upright
        for mesh in (steep, flat):
            lifted = Mesh(vertices=mesh.vertices + np.array([0.0, 0.0, 5.0]), faces=mesh.faces)
            (tip,) = places(joined(box(30.0, 30.0, 1.0, (-15.0, -15.0, 0.0)), lifted))
            self.assertTrue(tip.begins)
            self.assertAlmostEqual(tip.low_mm, 5.0, places=9)
        notch = ((0.0, 0.0), (20.0, 0.0), (20.0, 10.0), (12.0, 10.0), (10.0, 6.0), (8.0, 10.0), (0.0, 10.0))
        self.assertEqual(places(profile(notch, 10.0)), ())

    def test_a_cone_on_its_head_leans_by_its_own_angle_and_has_its_own_area(self):
        for radius, height in ((10.0, 10.0), (12.0, 6.0)):
            lean, side = math.degrees(math.atan2(radius, height)), math.hypot(radius, height)
            (found,) = places(upside_down(cone(radius, height)))
            with self.subTest(radius=radius):
                self.assertAlmostEqual(found.steepest_deg, lean, delta=0.1)
                self.assertAlmostEqual(found.beyond(lean - 1.0).area_mm2, math.pi * radius * side, delta=0.02)
                self.assertEqual(found.beyond(lean + 1.0).area_mm2, 0.0)

    def test_what_would_hang_on_another_side_is_what_hangs_once_it_lies_there(self):
        mesh = profile(TEE, 8.0)
        units = mesh.normals / np.linalg.norm(mesh.normals, axis=1)[:, None]
        for face in range(len(mesh.faces)):
            hangs = hanging_area(mesh, units[face], 40.0)
            laid = turned_down(mesh, face)
            found = sum(each.beyond(40.0).area_mm2 for each in places(laid))
            with self.subTest(face=face):
                self.assertAlmostEqual(hangs, found, delta=1e-6 * max(found, 1.0))

    def test_turning_it_about_the_upright_and_moving_it_change_nothing(self):
        base = places(profile(TEE, 8.0))
        for degrees in (33.0, 90.0, 201.0):
            mesh = turned(profile(TEE, 8.0), degrees, (13.0, -7.0, 0.0))
            again = sorted(places(mesh), key=lambda each: -each.area_mm2)
            for one, two in every(zip(base, again, strict=True)):
                with self.subTest(degrees=degrees):
                    self.assertAlmostEqual(one.area_mm2, two.area_mm2, places=6)
                    self.assertAlmostEqual(one.beyond(45.0).column_mm3, two.beyond(45.0).column_mm3, places=3)
                    self.assertAlmostEqual(one.out_mm, two.out_mm, delta=1e-5)
                    self.assertEqual((one.begins, one.reached, one.open), (two.begins, two.reached, two.open))

    def test_a_hollow_is_closed_until_it_has_a_hole_and_out_of_reach_until_that_is_as_wide_as_the_tool(self):
        for hole, tool, reach, is_open in ((0.0, 3.0, 0.0, 0.0), (2.0, 3.0, 0.0, 1.0), (9.9, 3.0, 1.0, 1.0),
                                           (9.9, 12.0, 0.0, 1.0)):  # fmt: skip
            if hole:  # a slot through the right wall
                low, high = 10.0 - hole / 2.0, 10.0 + hole / 2.0
                corners = ((0.0, 0.0), (20.0, 0.0), (20.0, low), (15.0, low), (15.0, 5.0), (5.0, 5.0), (5.0, 15.0),
                           (15.0, 15.0), (15.0, high), (20.0, high), (20.0, 20.0), (0.0, 20.0))  # fmt: skip
                mesh = profile(corners, 20.0)
                mesh = joined(mesh, box(20.0, 2.0, 20.0, (0.0, -2.0, 0.0)), box(20.0, 2.0, 20.0, (0.0, 20.0, 0.0)))
            else:
                inner = box(10.0, 10.0, 10.0, (5.0, 5.0, 5.0))
                mesh = joined(box(20.0, 20.0, 20.0), Mesh(vertices=inner.vertices, faces=inner.faces[:, ::-1]))
            found = max(places(mesh, tool), key=lambda each: each.span_mm)
            with self.subTest(hole=hole, tool=tool):
                self.assertEqual(found.span_mm, 10.0)
                self.assertAlmostEqual(found.open, is_open, delta=0.02)
                self.assertEqual(found.reached > 0.5, reach > 0.5)

    def test_a_block_wants_nothing_and_calling_off_ends_it(self):
        self.assertEqual(places(box(10.0, 20.0, 5.0)), ())
        watch = mock.Mock(wraps=UNWATCHED)
        watch.check.side_effect = [None, Cancelled("Called off.")]
        with self.assertRaises(Cancelled):
            overhangs_of(profile(TEE, 8.0), 3.0, watch)


class TestGrid(unittest.TestCase):
    def test_nothing_is_seen_through_a_wall_nor_inside_one(self):
        """A closed box of one cell: its wall is seen by nobody, its inside neither; with a lid off the inside is."""
        free = np.ones((7, 7, 7), bool)
        free[1:6, 1:6, 1:6] = False
        free[2:5, 2:5, 2:5] = True
        seen = seen_from_outside(free)
        self.assertFalse((seen & ~free).any(), "no cell of a wall is free")
        self.assertFalse(seen[2:5, 2:5, 2:5].any())
        for side in itertools.product((0, -1), range(3)):
            opened = np.moveaxis(free.copy(), side[1], 0)
            opened[1 if side[0] == 0 else 5, 3, 3] = True
            with self.subTest(side):
                self.assertTrue(seen_from_outside(np.moveaxis(opened, 0, side[1]))[3, 3, 3])

    def test_cells_of_a_box_fill_its_volume(self):
        for size, longest in (((10.0, 20.0, 5.0), 40), ((7.0, 7.0, 21.0), 42)):
            grid = grid_of(box(*size), longest)
            self.assertAlmostEqual(grid.full.sum() * grid.cell_mm**3, math.prod(size), delta=1e-6)

    def test_what_sees_the_outside_is_what_rays_of_every_direction_say_cell_by_cell(self):
        rng = np.random.default_rng(80)
        free = rng.random((9, 8, 7)) < 0.6
        wanted = np.zeros_like(free)
        for place in np.argwhere(free):
            for direction in DIRECTIONS:
                at = place.copy()
                while True:
                    at = at + direction
                    if (at < 0).any() or (at >= free.shape).any():
                        wanted[tuple(place)] = True
                        break
                    if not free[tuple(at)]:
                        break
        np.testing.assert_array_equal(seen_from_outside(free), wanted)

    def test_a_wider_tool_never_comes_nearer_and_a_bath_comes_wherever_a_tool_does(self):
        grid = grid_of(profile(SEE, 10.0), 60)
        near = [reached(grid, tool) for tool in (0.5, 3.0, 6.0, 12.0)]
        for one, two in itertools.pairwise(near):
            self.assertTrue((two >= one - 1e-9).all())
        wet = open_to_outside(grid)
        self.assertTrue(wet[(near[0] == 0.0) & ~grid.full].all())

    def test_a_grid_without_a_way_in_is_out_of_reach_everywhere(self):
        full = np.ones((3, 3, 3), bool)
        shut = Grid(full=full, corner=np.zeros(3), cell_mm=1.0)
        self.assertTrue(np.isinf(reached(shut, 3.0)).all())
