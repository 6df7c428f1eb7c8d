"""Footprint, profile, walls and gaps of solids that are known by heart."""

import math
import unittest

import numpy as np

from kaustos.core.part import MeshFault, mended, shape_of, turned_down
from kaustos.core.part.mesh import Mesh
from kaustos.core.progress import Cancelled, Unwatched
from tests.core.part.solids import box, cone, joined, turned


class Stopped(Unwatched):
    """Called off before it began."""

    def check(self):
        raise Cancelled("Called off.")


def close(test, found, wanted, share=1e-6):
    test.assertLess(abs(found / wanted - 1.0), share, f"{found} is not {wanted}")


class TestKnownSolids(unittest.TestCase):
    def test_a_box_to_a_millionth(self):
        shape = shape_of(box(30.0, 20.0, 10.0))
        close(self, shape.volume_mm3, 6000.0)
        close(self, shape.surface_mm2, 2200.0)
        close(self, shape.contact_mm2, 600.0)
        close(self, shape.shadow_mm2, 600.0)
        for area, around in zip(shape.areas_mm2, shape.perimeters_mm, strict=True):
            close(self, area, 600.0)
            close(self, around, 100.0)
        self.assertEqual((shape.thinnest_mm, shape.gap_mm), (20.0, None))

    def test_sections_of_a_cone_shrink_with_the_square_of_the_height_left(self):
        sides, height = 720, 40.0
        shape = shape_of(cone(10.0, height, sides=sides))
        foot = 0.5 * sides * 100.0 * math.sin(2.0 * math.pi / sides)
        for z, area in zip(shape.heights_mm, shape.areas_mm2, strict=True):
            close(self, area, foot * (1.0 - z / height) ** 2)
        close(self, shape.volume_mm3, foot * height / 3.0)

    def test_the_volume_under_the_profile_is_that_of_the_mesh(self):
        shape = shape_of(cone(20.0, 60.0, top=5.0))
        z, areas = np.array(shape.heights_mm[1:]), np.array(shape.areas_mm2[1:])
        self.assertAlmostEqual(float((areas * 60.0 / len(z)).sum()) / shape.volume_mm3, 1.0, places=3)

    def test_a_cone_on_its_tip_has_hardly_any_contact_and_a_whole_shadow(self):
        tip = cone(10.0, 40.0)
        over = Mesh(vertices=tip.vertices * [1.0, 1.0, -1.0], faces=tip.faces[:, ::-1])
        shape = shape_of(mended(over)[0])
        self.assertLess(shape.contact_mm2 / shape.shadow_mm2, 1e-4)
        close(self, shape.shadow_mm2, math.pi * 100.0, 1e-3)

    def test_a_tube_has_its_hole_in_footprint_area_and_wall(self):
        outside, inside = cone(12.0, 30.0, top=12.0), cone(9.0, 30.0, top=9.0)
        tube = joined(outside, Mesh(vertices=inside.vertices, faces=inside.faces[:, ::-1]))
        shape = shape_of(tube)
        share = 0.5 * 720 * math.sin(2.0 * math.pi / 720)
        close(self, shape.areas_mm2[5], share * (144.0 - 81.0))
        self.assertEqual(len(shape.footprint[0]), 2)
        self.assertAlmostEqual(shape.thinnest_mm, 3.0, delta=0.01)

    def test_the_gap_between_bodies_at_the_plate_is_found_and_a_thin_wall_higher_up_too(self):
        pair = joined(box(10.0, 10.0, 8.0), box(10.0, 10.0, 8.0, at=(10.3, 0.0, 0.0)))
        self.assertAlmostEqual(shape_of(pair).gap_mm, 0.3, places=6)
        fin = joined(box(20.0, 20.0, 10.0), box(0.6, 20.0, 10.0, at=(5.0, 0.0, 9.0)))
        shape = shape_of(fin)
        self.assertAlmostEqual(shape.thinnest_mm, 0.6, places=6)
        self.assertGreater(shape.thinnest_at_mm, 9.0)

    def test_turning_moving_and_the_order_of_corners_and_faces_change_nothing(self):
        part = joined(cone(12.0, 30.0, top=7.0), box(14.0, 3.0, 30.0, at=(8.0, -1.5, 0.0)))
        before = shape_of(part)
        rng = np.random.default_rng(4)
        order = rng.permutation(len(part.vertices))
        place = np.argsort(order)
        shuffled = Mesh(vertices=part.vertices[order], faces=np.roll(place[part.faces], 1, axis=1)[::-1])
        for name, other in (
            ("turned", turned(part, 33.0, (200.0, -7.0, 55.0))),
            ("by a right angle", turned(part, 90.0)),
            ("shuffled", shuffled),
        ):
            after = shape_of(other)
            with self.subTest(name):
                for field in ("volume_mm3", "surface_mm2", "contact_mm2", "size_z_mm"):
                    close(self, getattr(after, field), getattr(before, field))
                self.assertLess(max(abs(np.array(after.areas_mm2) / np.array(before.areas_mm2) - 1.0)), 1e-6)

    def test_a_face_that_is_laid_down_lies_down_and_nothing_else_changes(self):
        part = box(30.0, 20.0, 10.0)
        for face, wanted in ((0, (30.0, 600.0)), (8, (20.0, 300.0)), (4, (20.0, 300.0))):
            lying = turned_down(part, face)
            shape = shape_of(lying)
            close(self, shape.volume_mm3, 6000.0)
            normal = lying.normals[face] / np.linalg.norm(lying.normals[face])
            self.assertAlmostEqual(float(normal[2]), -1.0, places=9)
            self.assertIn(round(shape.contact_mm2), (600, 300, 200))
            self.assertIsNotNone(wanted)

    def test_it_can_be_given_up(self):
        with self.assertRaises(Cancelled):
            shape_of(cone(12.0, 30.0), Stopped())


class TestMending(unittest.TestCase):
    def test_a_mesh_that_is_inside_out_is_turned_and_says_so(self):
        part = box(3.0, 3.0, 3.0)
        mesh, repair = mended(Mesh(vertices=part.vertices, faces=part.faces[:, ::-1]))
        close(self, mesh.volume, 27.0)
        self.assertIn("inside out", " ".join(repair.done))

    def test_corners_at_one_place_become_one_and_a_sound_mesh_is_left_alone(self):
        part = box(3.0, 4.0, 5.0)
        soup = Mesh(vertices=part.vertices[part.faces].reshape(-1, 3), faces=np.arange(36).reshape(-1, 3))
        mesh, repair = mended(soup)
        self.assertEqual((len(mesh.vertices), repair.done, repair.left), (8, (), ()))

    def test_faces_without_area_and_faces_that_stand_twice_are_dropped(self):
        part = box(3.0, 4.0, 5.0)
        faces = np.concatenate((part.faces, [[0, 0, 1]], part.faces[:1]))
        mesh, repair = mended(Mesh(vertices=part.vertices, faces=faces))
        self.assertEqual((len(mesh.faces), len(repair.done), repair.left), (12, 2, ()))

    def test_holes_flipped_faces_and_edges_of_three_faces_are_told_and_left(self):
        part = box(3.0, 4.0, 5.0)
        flipped = part.faces.copy()
        flipped[0] = flipped[0][::-1]
        fin = np.concatenate((part.faces, [[0, 1, 8]]))
        for name, vertices, faces, words in (
            ("hole", part.vertices, part.faces[1:], "holes"),
            ("flipped", part.vertices, flipped, "disagree"),
            ("fin", np.concatenate((part.vertices, [[-4.0, -4.0, 2.0]])), fin, "more than two"),
        ):
            with self.subTest(name):
                self.assertIn(words, " ".join(mended(Mesh(vertices=vertices, faces=faces))[1].left))

    def test_what_is_flat_empty_or_no_number_is_a_fault_with_its_name(self):
        part = box(3.0, 4.0, 5.0)
        nowhere = part.vertices.copy()
        nowhere[3, 1] = np.nan
        twin = np.concatenate((part.faces, part.faces[:, ::-1]))
        for name, vertices, faces, words in (
            ("flat", part.vertices * [1.0, 1.0, 0.0], part.faces, "extent"),
            ("no faces", part.vertices, np.empty((0, 3), int), "no faces"),
            ("no number", nowhere, part.faces, "number"),
            ("beyond", part.vertices, part.faces + 1, "corner that is not there"),
            ("no volume", part.vertices, twin, "no volume"),
        ):
            with self.subTest(name), self.assertRaisesRegex(MeshFault, words):
                mended(Mesh(vertices=vertices, faces=faces))
