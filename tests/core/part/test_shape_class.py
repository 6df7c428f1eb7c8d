"""Shape classes of bodies whose class anybody would name; scaled and turned about the height they keep it."""

import math
import unittest

from kaustos.core.part.shape_class import shape_class
from kaustos.core.records import Shape
from kaustos.core.records.run import SHAPES


def body(x, y, z, volume=None, surface=None, hole=0.0):
    ring = ((0.0, 0.0), (x, 0.0), (x, y), (0.0, y))
    inner = tuple((x / 2 + hole / 2 * math.cos(a), y / 2 + hole / 2 * math.sin(a))
                  for a in (k * math.pi / 16 for k in range(32)))  # fmt: skip
    return Shape(
        size_x_mm=x, size_y_mm=y, size_z_mm=z, volume_mm3=volume or x * y * z,
        surface_mm2=surface or 2.0 * (x * y + y * z + x * z), contact_mm2=x * y, shadow_mm2=x * y,
        footprint=((ring, inner) if hole else (ring,),), heights_mm=(0.0, z), areas_mm2=(x * y, x * y),
        perimeters_mm=(2 * (x + y), 2 * (x + y)),
    )  # fmt: skip


class TestClass(unittest.TestCase):
    def test_named_bodies(self):
        for name, shape, wanted in (
            ("cube", body(60.0, 60.0, 60.0), "block"),
            ("ruler", body(200.0, 30.0, 4.0), "flat"),
            ("post", body(20.0, 20.0, 120.0), "tall"),
            ("tube", body(80.0, 80.0, 100.0, hole=70.0), "ring"),
            ("washer", body(88.0, 88.0, 6.0, hole=60.0), "ring"),
            ("plate with a screw hole", body(100.0, 100.0, 10.0, hole=5.0), "flat"),
            ("box of 2 mm walls", body(80.0, 80.0, 60.0, volume=5.1e4, surface=5.1e4), "shell"),
            ("clip", body(22.0, 14.0, 9.0), "detail"),
        ):
            with self.subTest(name):
                self.assertEqual(shape_class(shape), wanted)
                self.assertIn(wanted, SHAPES)

    def test_turned_about_its_height_it_is_the_same(self):
        for x, y, z in ((200.0, 30.0, 4.0), (60.0, 40.0, 28.0), (30.0, 30.0, 200.0)):
            with self.subTest((x, y, z)):
                self.assertEqual(shape_class(body(x, y, z)), shape_class(body(y, x, z)))
