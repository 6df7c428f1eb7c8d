"""Steps of a run and the cursor along it: their order, their hours beside sums, and worse input never says better."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from kaustos.core.review import CODES
from kaustos.core.review.first_layer import first_minutes
from kaustos.core.review.run import preflight, run_case
from kaustos.core.review.run.along import along_of, resumed
from kaustos.core.review.run.steps import steps_of
from tests.support import changed, judged, opened, recipe_and_context

SAFETY = frozenset(key for key, code in CODES.items() if code.is_safety)
CARDS = ("cable_clamp", "sensor_cage", "packer_ring", "winch_bracket", "wellhead_cover", "probe_head_shell")


def steps(card, **changes):
    recipe, context, review = judged(changed(opened(card), changes) if changes else opened(card))
    checks = preflight(review, recipe, context)
    return steps_of(recipe, context, checks, SAFETY), checks, run_case(recipe, context)


UNSIZED = {"brief.print_h": None, "brief.size_x_mm": None, "context.part": None}  # neither hours nor layers are known


class TestSteps(unittest.TestCase):
    def test_they_come_in_the_order_of_the_work_and_the_hours_rise(self):
        for card in CARDS:
            found, _, case = steps(card)
            with self.subTest(card):
                phases = [each.phase for each in found]
                self.assertEqual(phases, sorted(phases, key=("before", "during", "after").index))
                hours = [each.at_h for each in found if each.phase == "during"]
                self.assertEqual(hours, sorted(hours))
                self.assertLessEqual(max(hours), case.hours.value)
                keys = [each.key for each in found]
                self.assertEqual(len(set(keys)), len(keys))
                self.assertLess(keys.index("heat"), keys.index("start"))
                self.assertEqual(keys[-1], "close")

    def test_every_line_that_does_not_stand_is_a_step_and_no_other(self):
        for card in CARDS:
            found, checks, _ = steps(card)
            unmet = {f"check.{each.key}" for each in checks if each.state != "met"}
            with self.subTest(card):
                self.assertEqual({each.key for each in found if each.key.startswith("check.")}, unmet)

    def test_a_line_with_a_safety_stop_is_marked_and_others_are_not(self):
        found = {each.key: each.is_safety for each in steps("probe_head_shell")[0]}
        self.assertTrue(found["check.reach"], "plastic parts in the chamber soften")
        self.assertFalse(found["load"])
        self.assertFalse(any(each.is_safety for each in steps("cable_clamp")[0]))

    def test_waits_are_those_of_drying_heating_and_cooling(self):
        found, _, case = steps("winch_bracket")
        waits = {each.key: each.wait_min for each in found if each.wait_min is not None}
        self.assertAlmostEqual(waits["dried"], 60.0 * case.dry_h)
        self.assertAlmostEqual(waits["hot"], case.heat_min + case.soak_min)
        self.assertAlmostEqual(waits["cool"], case.cool_min)

    def test_a_part_that_comes_off_hot_is_not_waited_for(self):
        self.assertNotIn("cool", {each.key for each in steps("sensor_cage", **{"plate.release": "hot"})[0]})

    def test_the_first_look_is_due_when_layer_one_is_down(self):
        records = opened("packer_ring")
        recipe, context = recipe_and_context(records)
        found = {each.key: each.at_h for each in steps("packer_ring")[0]}
        self.assertAlmostEqual(found["look"] * 60.0, first_minutes(recipe, context), places=9)

    def test_without_hours_layer_one_is_still_looked_at(self):
        found = {each.key: each.at_h for each in steps("packer_ring", **UNSIZED)[0]}
        self.assertIsNone(found["look"])
        self.assertIsNone(found["end"])


class TestAlong(unittest.TestCase):
    def along(self, card, **changes):
        recipe, context = recipe_and_context(changed(opened(card), changes) if changes else opened(card))
        return along_of(recipe, context), context, run_case(recipe, context)

    def test_hour_and_height_lead_to_each_other(self):
        for card in CARDS:
            along, *_ = self.along(card)
            for share in (0.1, 0.37, 0.8):
                spot = along.at_hour(share * along.hours)
                with self.subTest(card, share=share):
                    self.assertAlmostEqual(along.at_height(spot.at_mm).at_h, share * along.hours, places=6)

    def test_by_the_file_its_layers_and_seconds_are_counted(self):
        along, context, case = self.along("cable_clamp")
        job = context.job
        self.assertAlmostEqual(along.hours, case.hours.value)
        whole = sum(n * s for n, s in zip(job.layers, job.seconds, strict=True))
        half = len(job.heights_mm) // 2
        until = sum(n * s for n, s in zip(job.layers[:half], job.seconds[:half], strict=True))
        spot = along.at_height(job.heights_mm[half - 1])
        self.assertAlmostEqual(spot.at_h, case.hours.value * until / whole)
        self.assertEqual(spot.layer, round(sum(job.layers[:half])))
        self.assertAlmostEqual(spot.grams, case.grams * until / whole)

    def test_beyond_the_part_the_nearest_end_is_told(self):
        along, *_ = self.along("sensor_cage")
        self.assertEqual(along.at_height(1e6), along.at_height(float(along.tops_mm[-1])))
        self.assertEqual(along.at_height(-5.0).at_h, 0.0)

    def test_nothing_is_known_without_part_and_file(self):
        nothing = {f"brief.size_{axis}_mm": None for axis in "xyz"} | {"context.part": None}
        self.assertIsNone(self.along("packer_ring", **nothing)[0])

    @settings(max_examples=25, deadline=None)
    @given(st.floats(0.02, 0.98), st.floats(0.5, 600.0), st.floats(1.0, 10.0), st.booleans())
    def test_a_longer_rest_or_a_cold_plate_never_says_better(self, share, rest, more, is_held):
        along, *_ = self.along("sensor_cage")
        order = ("resume", "looks", "scrap")
        at = share * float(along.tops_mm[-1])
        short = resumed(along, at, rest, (0.5, 0.3), is_held=is_held)
        longer = resumed(along, at, rest * more, (0.5, 0.3), is_held=is_held)
        cold = resumed(along, at, rest, (0.5, 0.3), is_held=False)
        self.assertLessEqual(order.index(short.says), order.index(longer.says))
        self.assertGreaterEqual(short.keeps, longer.keeps - 1e-4)
        self.assertEqual(cold.says, "scrap")
        self.assertLessEqual(short.keeps, short.usual)

    def test_what_is_left_and_what_is_gone_are_the_whole(self):
        along, *_ = self.along("wellhead_cover")
        for at in np.linspace(1.0, 80.0, 5):
            left = resumed(along, float(at), 1.0, (0.5, 0.3), is_held=True).left
            self.assertAlmostEqual(left + along.at_height(float(at)).at_h / along.hours, 1.0)
