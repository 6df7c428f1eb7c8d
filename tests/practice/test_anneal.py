"""Anneal, cooling and coming off: every row asked of the whole product."""

import unittest
from itertools import pairwise

from kaustos.core.planning.anneal_programme import window_of
from kaustos.core.review.anneal.case import anneal_case
from kaustos.core.review.anneal.remedies import planned
from kaustos.core.review.plate.cooling import cooling_case
from kaustos.library import load
from tests.asserting import every
from tests.practice.situation import asked, situation
from tests.support import changed, said_by

WALLS = (3.0, 10.0, 25.0)
OFF = 1.5  # either way, unless practice itself says a range
ROWS = (  # polymer, hold [°C], hours by wall, ramps [K/h]
    ("pei", (195.0, 208.0), ((1.0, 2.0), (2.0, 4.0), (5.0, 10.0)), (10.0, 30.0)),
    ("psu", (165.0, 178.0), ((1.0, 2.0), (2.0, 4.0), (5.0, 10.0)), (10.0, 30.0)),
    ("ppsu", (200.0, 212.0), ((1.0, 2.0), (2.0, 4.0), (5.0, 10.0)), (10.0, 30.0)),
    ("pc", (120.0, 137.0), ((1.0, 2.0), (2.0, 4.0), (5.0, 10.0)), (20.0, 50.0)),
    ("peek", (195.0, 250.0), ((1.0, 2.0), (3.0, 4.0), (6.0, 10.0)), (10.0, 40.0)),
    ("peek_cf", (195.0, 250.0), ((1.0, 2.0), (3.0, 4.0), (6.0, 10.0)), (10.0, 40.0)),
    ("pa6", (80.0, 120.0), ((4.0, 8.0),) * 3, None),
    ("pa12", (80.0, 120.0), ((4.0, 8.0),) * 3, None),
    ("pa_cf", (80.0, 120.0), ((4.0, 8.0),) * 3, None),
    ("pla", (80.0, 110.0), ((0.5, 2.0),) * 3, None),
    ("abs", (80.0, 95.0), ((1.0, 4.0), (1.0, 8.0), (3.0, 8.0)), None),
    ("asa", (80.0, 95.0), ((1.0, 4.0), (1.0, 8.0), (3.0, 8.0)), None),
    ("pps_cf", (110.0, 150.0), ((4.0, 12.0),) * 3, None),
    ("ppa_cf", (110.0, 150.0), ((4.0, 12.0),) * 3, None),
    ("pet_cf", (110.0, 150.0), ((4.0, 12.0),) * 3, None),
)


def of(polymer, wall, **changes):
    """A recipe of a block as thick as a wall, to be annealed in the shop's oven."""
    wanted = {"brief.history": "annealed", "anneal.where": "oven", "context.oven": "oven_o1", **changes}
    return situation(polymer, size=(80.0, 60.0, wall), **wanted)


def plan_of(records):
    """Hold, hours and ramp that are proposed."""
    recipe, context, _ = asked(records)
    remedy = planned(recipe, context)
    assert remedy is not None
    return remedy, remedy.values["aim"], remedy.values["hours"], remedy.values["ramp"]


def codes(records):
    """What operation 110 finds."""
    return {each.code for each in said_by("anneal", records).findings}


class TestPlans(unittest.TestCase):
    def test_a1_to_a7_what_is_planned_is_what_the_trade_does(self):
        for polymer, (low_c, high_c), hours, ramps in ROWS:
            for wall, (least, most) in zip(WALLS, hours, strict=True):
                for purpose in ("tool", "safety"):
                    with self.subTest(polymer, wall=wall, purpose=purpose):
                        _, hold, held, ramp = plan_of(of(polymer, wall, **{"brief.purpose": purpose}))
                        self.assertTrue(low_c <= hold <= high_c, hold)
                        self.assertTrue(least / OFF <= held <= most * OFF, held)
                        if ramps is not None:
                            self.assertTrue(ramps[0] / OFF <= ramp <= ramps[1] * OFF, ramp)

    def test_a_thicker_wall_is_held_no_shorter_and_ramped_no_steeper(self):
        for polymer in ("pei", "pc", "peek", "pekk_a", "pa6", "abs", "pps", "pei_pc_blend", "pet_cf", "hips"):
            found = [plan_of(of(polymer, wall)) for wall in (1.5, 3.0, 6.0, 10.0, 17.0, 25.0, 40.0)]
            with self.subTest(polymer):
                self.assertTrue(all(one[2] <= other[2] for one, other in pairwise(found)), [each[2] for each in found])
                self.assertTrue(all(one[3] >= other[3] for one, other in pairwise(found)), [each[3] for each in found])

    def test_what_is_planned_is_found_good(self):
        for polymer in ("pei", "pc", "peek", "pa6", "pps_cf", "abs"):
            for wall in WALLS:
                records = of(polymer, wall)
                left = codes(changed(records, dict(plan_of(records)[0].changes)))
                told = {"anneal.hold.short", "anneal.hold.hurried", "anneal.hold.cold", "anneal.hold.hot",
                        "anneal.ramp.steep", "anneal.cool.steep", "anneal.out.hot"}  # fmt: skip
                with self.subTest(polymer, wall=wall):
                    self.assertFalse(left & told)

    def test_a_purpose_that_much_hangs_on_is_held_longer_by_no_more_than_practice_varies(self):
        for polymer in ("pc", "pei", "psu", "abs"):
            lax, strict = (plan_of(of(polymer, 10.0, **{"brief.purpose": each}))[2] for each in ("tool", "safety"))
            with self.subTest(polymer):
                self.assertTrue(lax <= strict <= 4.0 * lax, (lax, strict))


class TestRamps(unittest.TestCase):
    def programme(self, polymer, wall, hold, hours, ramp):
        changes = {"anneal.steps.0.temperature_c": hold, "anneal.steps.0.hold_h": hours,
                   "anneal.steps.0.ramp_k_h": ramp, "anneal.cool_k_h": ramp, "anneal.out_c": 50.0}  # fmt: skip
        return of(polymer, wall, **changes)

    def test_a8_nobody_ramps_ten_millimetres_at_a_hundred_kelvin_an_hour(self):
        for polymer in ("pei", "psu", "ppsu", "pc", "peek", "pekk_a"):
            hold = load().polymers[polymer]
            aim = window_of(hold).aim
            for ramp, is_steep in ((100.0, True), (200.0, True), (15.0, False)):
                found = codes(self.programme(polymer, 10.0, aim, 4.0, ramp))
                with self.subTest(polymer, ramp=ramp):
                    self.assertEqual({"anneal.ramp.steep", "anneal.cool.steep"} <= found, is_steep)
                    self.assertEqual("anneal.ramp.steep" in found, is_steep)

    def test_a8_a_door_is_not_opened_on_a_thick_hot_part_and_may_be_on_a_thin_or_cool_one(self):
        for polymer, air in (("pei", 160.0), ("ppsu", 160.0), ("pc", 100.0), ("peek", 150.0), ("pekk_a", 140.0)):
            with self.subTest(polymer):
                thick, cool = (
                    cooling_case(*asked(situation(polymer, size=(80.0, 60.0, 40.0), air=each))[:2])
                    for each in (air, 35.0)
                )
                self.assertTrue(thick.cracks)
                self.assertFalse(cool.cracks)

    def test_a_section_that_is_thicker_or_unknown_never_bears_more_of_a_chill(self):
        for polymer in ("pei", "pc", "peek", "abs", "pa6"):
            found = [cooling_case(*asked(situation(polymer, size=(80.0, 60.0, each)))[:2]).bears_k_min
                     for each in (1.0, 3.0, 8.0, 15.0, 30.0, 50.0)]  # fmt: skip
            unknown = cooling_case(*asked(situation(polymer, **{"brief.size_z_mm": None}))[:2]).bears_k_min
            with self.subTest(polymer):
                self.assertEqual(found, sorted(found, reverse=True))
                self.assertLessEqual(unknown, found[-1])

    def test_a_wall_that_is_typed_too_thin_does_not_go_before_a_thicker_one_that_was_measured(self):
        recipe, context, _ = asked(of("peek", 30.0, **{"anneal.wall_mm": 4.0}))
        self.assertEqual(anneal_case(recipe, context).wall.mm, 4.0, "nothing else is known of its inside")
        from tests.support import opened, recipe_and_context

        records = next(
            each for each in map(opened, ("packer_ring", "turbine_vane")) if each.at(each.place("part.shape"))
        )
        recipe, context = recipe_and_context(changed(records, {"anneal.wall_mm": 0.5}))
        case = anneal_case(recipe, context)
        self.assertEqual(case.wall.by, "file")
        self.assertGreater(case.wall.mm, 0.5)

    def test_a9_six_minutes_are_no_anneal(self):
        for polymer in ("pei", "pc", "peek", "pa6", "pla", "abs", "pps_cf"):
            hold = window_of(load().polymers[polymer]).aim
            with self.subTest(polymer):
                self.assertIn("anneal.hold.hurried", codes(self.programme(polymer, 10.0, hold, 0.1, 15.0)))


class TestRelease(unittest.TestCase):
    HEATS = (  # polymer, plate at which it comes off [°C]
        ("pla", 30.0, 45.0), ("petg", 30.0, 45.0), ("abs", 40.0, 70.0), ("asa", 40.0, 70.0), ("pc", 50.0, 90.0),
        ("pc_cf", 50.0, 90.0), ("pei", 60.0, 150.0), ("psu", 60.0, 150.0), ("ppsu", 60.0, 150.0), ("peek", 60.0, 120.0),
        ("pekk_a", 60.0, 120.0), ("pa6", 30.0, 70.0), ("tpu", 30.0, 70.0),
    )  # fmt: skip

    def test_s15_heats_at_which_parts_let_go(self):
        for polymer, low, high in self.HEATS:
            for surface in ("pei_film", "glass"):
                case = cooling_case(*asked(situation(polymer, surface=surface))[:2])
                with self.subTest(polymer, surface=surface):
                    self.assertTrue(low <= case.release_c <= high, case.release_c)

    def cautions(self, found):
        return {each.code for operation in found.operations for each in operation.cautions}

    def test_whoever_takes_it_off_where_it_still_burns_is_told_so(self):
        for polymer, burns in (("peek", True), ("pei", True), ("pc", True), ("pla", False), ("petg", False)):
            _, _, found = asked(situation(polymer, surface="glass"))
            with self.subTest(polymer):
                self.assertEqual("release.warm" in self.cautions(found), burns)
        _, _, hot = asked(situation("pei", surface="glass", release="hot"))
        self.assertIn("release.hot", self.cautions(hot))

    def test_a_hot_polymer_comes_off_before_the_plate_is_cold(self):
        """Nobody waits half a day for a part of PEEK: it lets go on the way down."""
        for polymer in ("peek", "pei", "ppsu"):
            case = cooling_case(*asked(situation(polymer))[:2])
            with self.subTest(polymer):
                for course in every((each for each in (case.shut, case.opened) if each is not None), 1):
                    self.assertIsNotNone(course.until)
                    self.assertLess(course.until.value, 8.0 * 60.0)
