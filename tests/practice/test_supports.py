"""Supports: gaps, leans, bridges, baths and whose word counts, asked of the whole product."""

import unittest

import numpy as np

from kaustos.core.part import Mesh, mended, shape_of
from kaustos.core.planning.support import bears
from kaustos.core.records.part import Decision
from kaustos.core.review.supports.case import support_case, usual_gap
from kaustos.demo.bonding import profile
from kaustos.library import load
from tests.asserting import every
from tests.practice.situation import asked, situation

TEE = ((10.0, 0.0), (20.0, 0.0), (20.0, 30.0), (30.0, 30.0), (30.0, 40.0), (0.0, 40.0), (0.0, 30.0), (10.0, 30.0))
LEANS = ((0.0, 0.0), (12.0, 0.0), (40.0, 20.0), (40.0, 26.0), (24.0, 26.0), (24.0, 34.0), (0.0, 34.0))


def codes(records):
    return {each.code: each.severity for each in asked(records)[2].findings()}


class TestGap(unittest.TestCase):
    def test_u1_two_layers_are_usual_and_what_welds_to_itself_takes_three_and_asks_at_two(self):
        polymers = load().polymers
        self.assertEqual([usual_gap(None, polymers[each]) for each in ("pla", "abs", "pc")], [2.0] * 3)
        self.assertEqual([usual_gap(None, polymers[each]) for each in ("petg", "pp", "tpu")], [3.0] * 3)
        for polymer, layers, wanted in every(
            (
                ("petg", 2.0, "watch"),
                ("petg", 3.0, None),
                ("petg", 0.3, "stop"),
                ("pla", 2.0, None),
                ("pla", 1.0, None),
                ("pla", 0.3, "stop"),
            )
        ):
            found = codes(situation(polymer, air=25.0, shape=shape_of(profile(TEE, 20.0)), **{
                "supports.way": "grid", "supports.gap_mm": 0.2 * layers}))  # fmt: skip
            with self.subTest(polymer, layers=layers):
                self.assertEqual(found.get("supports.gap.fuses"), wanted)


class TestPlaces(unittest.TestCase):
    def test_u2_leans_and_bridges_that_the_trade_leaves_free(self):
        still, blown = bears(0.0), bears(100.0)
        self.assertTrue(40.0 <= still.limit.value <= 50.0)
        self.assertTrue(55.0 <= blown.limit.value <= 65.0)
        self.assertTrue(10.0 / 1.5 <= blown.bridge.value <= 25.0 * 1.5)
        found = [bears(each) for each in np.linspace(0.0, 100.0, 11)]
        self.assertTrue((np.diff([each.limit.value for each in found]) > 0.0).all())
        self.assertTrue((np.diff([each.bridge.value for each in found]) > 0.0).all())

    def test_a_part_and_its_mirror_image_are_judged_alike(self):
        for corners in (TEE, LEANS):
            mesh = profile(corners, 18.0)
            mirrored = mended(Mesh(vertices=mesh.vertices * [-1.0, 1.0, 1.0] + [60.0, 0.0, 0.0],
                                   faces=mesh.faces[:, ::-1]))[0]  # fmt: skip
            told = []
            for each in (mesh, mirrored):
                recipe, context, found = asked(situation("abs", shape=shape_of(each)))
                case = support_case(recipe, context)
                told.append((
                    [(need.sort, round(need.beyond, 2), round(need.area_mm2)) for need in case.needs],
                    [(way.key, way.against, round(way.cost.money, 1)) for way in case.ways],
                    {finding.code: finding.severity for finding in found.findings() if "supports" in finding.code},
                ))  # fmt: skip
            with self.subTest(corners):
                self.assertTrue(told[0][0])
                self.assertEqual(*told)

    def test_a_place_that_somebody_holds_stops_no_more_and_one_that_is_left_does(self):
        shape = shape_of(profile(TEE, 20.0))
        self.assertEqual(codes(situation("abs", shape=shape)).get("supports.place.unheld"), "stop")

        def decided(what, places):
            return {"part.decided": tuple(
                Decision(x_mm=each.x_mm, y_mm=each.y_mm, low_mm=each.low_mm, what=what) for each in places
            )}  # fmt: skip

        self.assertEqual(codes(situation("abs", shape=shape, **decided("hold", shape.overhangs)))[
            "supports.place.unheld"], "watch")  # fmt: skip
        self.assertEqual(codes(situation("abs", shape=shape, **decided("hold", shape.overhangs[:1])))[
            "supports.place.unheld"], "stop", "the other place is still nobody's")  # fmt: skip
        self.assertEqual(codes(situation("abs", shape=shape, **decided("leave", shape.overhangs)))[
            "supports.place.left"], "stop")  # fmt: skip
        none = codes(situation("abs", shape=shape, **{"supports.way": "none"}, **decided("hold", shape.overhangs)))
        self.assertEqual(none["supports.place.unheld"], "stop", "nothing is laid, whatever was decided")
        drawn = codes(situation("abs", shape=shape, **decided("drawn", shape.overhangs)))
        self.assertFalse({"supports.place.unheld", "supports.place.left"} & set(drawn))

    def test_nothing_that_falls_stands_above_a_way_that_holds(self):
        for polymer in ("abs", "petg", "pei"):
            recipe, context, _ = asked(situation(polymer, shape=shape_of(profile(TEE, 18.0))))
            ways = support_case(recipe, context).ways
            falls = [number for number, each in enumerate(ways) if "it falls" in each.against]
            self.assertEqual(falls, [len(ways) - 1])


class TestPairs(unittest.TestCase):
    def test_u3_soluble_supports_want_hours_in_a_warm_bath_and_vinyl_alcohol_foams_when_it_is_wet(self):
        supports = load().supplies.supports
        for key in every(("pva", "bvoh", "hips", "alkali_acrylic")):
            with self.subTest(key):
                self.assertTrue(supports[key].is_bath)
                self.assertTrue(4.0 / 1.5 <= supports[key].bath_h.value <= 24.0 * 1.5)
        self.assertIn("wet it foams", " ".join(supports["pva"].cautions).lower())
