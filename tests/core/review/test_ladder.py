"""The heat ladder as a picture."""

import unittest

import attrs

from kaustos.core.review import ladder
from tests.asserting import every
from tests.support import changed, every_card, judged, opened, recipe_and_context


class TestLadder(unittest.TestCase):
    def lanes(self, records):
        recipe, context = recipe_and_context(records)
        return {lane.zone: lane for lane in ladder(recipe, context).lanes}

    def test_a_gap_is_drawn_exactly_where_window_and_reach_do_not_meet(self):
        for name, records in every_card():
            for lane in every(self.lanes(records).values()):
                with self.subTest(name, zone=lane.zone):
                    if lane.reach_c is not None and lane.reach_c < lane.window_c[0]:
                        self.assertEqual((lane.gap.from_c, lane.gap.to_c), (lane.reach_c, lane.window_c[0]))
                        self.assertEqual(lane.gap.by_k, lane.window_c[0] - lane.reach_c)
                    else:
                        self.assertIsNone(lane.gap)

    def test_where_one_end_of_a_window_is_not_known_no_window_and_no_gap_is_drawn(self):
        recipe, context = recipe_and_context(opened("probe_head_shell"))
        for lost in ("chamber_low_c", "chamber_high_c"):
            left = {key: value for key, value in context.polymer.values.items() if key != lost}
            polymer = attrs.evolve(context.polymer, values=left)
            lanes = {each.zone: each for each in ladder(recipe, attrs.evolve(context, polymer=polymer)).lanes}
            self.assertEqual((lanes["chamber"].window_c, lanes["chamber"].gap), (None, None), lost)
            self.assertIsNotNone(lanes["plate"].window_c)

    def test_the_gap_names_what_holds_the_zone_back(self):
        self.assertEqual(self.lanes(opened("probe_head_shell"))["chamber"].gap.bottleneck, "plastic machine parts")

    def test_everything_drawn_lies_on_the_scale(self):
        for name, records in every_card():
            recipe, context = recipe_and_context(changed(records, {"melt.nozzle_c": 455.0}))
            drawn = ladder(recipe, context)
            points = [line.at_c for line in drawn.lines]
            points += [
                value for lane in drawn.lanes for value in (lane.setpoint_c, lane.first_c, lane.reach_c) if value
            ]
            with self.subTest(name):
                self.assertTrue(all(drawn.low_c <= each <= drawn.high_c for each in points))

    def test_lines_follow_the_state_of_the_part(self):
        before = judged(opened("centraliser_blade"))
        after = judged(changed(opened("centraliser_blade"), {"brief.history": "as_printed"}))
        places = [[line.at_c for line in ladder(*each[:2]).lines] for each in (before, after)]
        self.assertEqual([set(each) for each in places], [{185.0, 400.0, 175.0, 158.0}, {185.0, 400.0, 170.0, 150.0}])

    def test_without_machine_and_polymer_the_setpoints_remain(self):
        lanes = self.lanes(changed(opened("probe_head_shell"), {"context.machine": None, "polymer": None}))
        self.assertEqual([lanes["nozzle"].setpoint_c, lanes["nozzle"].first_c], [365.0, 370.0])
        self.assertIsNone(lanes["nozzle"].window_c)


class TestAnnealLane(unittest.TestCase):
    def lane(self, records):
        recipe, context = recipe_and_context(records)
        return {each.zone: each for each in ladder(recipe, context).lanes}.get("anneal")

    def test_it_appears_with_the_anneal_and_says_the_gap_of_a_cold_oven(self):
        self.assertIsNone(self.lane(opened("probe_head_shell")))
        ring = self.lane(opened("packer_ring"))
        self.assertEqual((ring.setpoint_c, ring.field, ring.gap), (200.0, "anneal.steps.1.temperature_c", None))
        self.assertEqual(ring.reach_c, 320.0)
        cold = self.lane(changed(opened("packer_ring"), {"oven.max_c": 150.0}))
        self.assertEqual(cold.gap.bottleneck, "O-2, small oven")
        self.assertAlmostEqual(cold.gap.by_k, cold.window_c[0] - 150.0)
