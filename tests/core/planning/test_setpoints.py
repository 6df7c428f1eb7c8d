"""Setpoints to start from: in the middle of the window, or as far as the machine reaches."""

import math
import unittest

from kaustos.core.planning import propose_setpoints
from kaustos.core.planning.reach import reach_of
from kaustos.core.records import Rules
from kaustos.demo.scenario import RECORDS
from kaustos.library import load
from tests.asserting import every

RULES = Rules()


class TestProposals(unittest.TestCase):
    def proposed(self, polymer, machine, **rules):
        record = RECORDS.machines[machine] if machine else None
        return {each.field: each for each in propose_setpoints(load().polymers[polymer], record, Rules(**rules))}

    def test_each_school_starts_where_it_says_and_the_other_opinion_stands_beside_it(self):
        starts = [self.proposed("pc", "crag", start_in_window_pct=each) for each in (0.0, 25.0, 50.0, 100.0)]
        self.assertEqual([each["melt.nozzle_c"].value for each in starts], [270.0, 280.0, 290.0, 310.0])
        self.assertEqual(len({each["heat.chamber_c"].value for each in starts}), 1, "air has no schools")
        for each, own in zip(starts, ("low", "low", "middle", "hot"), strict=True):
            self.assertIn("others start", each["melt.nozzle_c"].other)
            self.assertNotIn(own, each["melt.nozzle_c"].other, "the other opinion, not the shop's own")
        glass = load().polymers["abs"].value("glass_transition_c").value
        below = self.proposed("abs", "crag", start_below_glass_k=7.0)["plate.bed_c"]
        self.assertEqual(below.value, math.floor(min(max(glass - 7.0, below.window[0]), below.window[1])))
        self.assertIn("table", below.other)
        crystals = self.proposed("pa12", "crag", start_below_glass_k=7.0)["plate.bed_c"]
        self.assertEqual(crystals.value, self.proposed("pa12", "crag")["plate.bed_c"].value)
        first = self.proposed("pc", "crag", start_first_k=8.0)
        self.assertEqual(first["first_layer.nozzle_c"].value - first["melt.nozzle_c"].value, 8.0)

    def test_no_school_leaves_the_window_or_the_reach(self):
        for rules in ({"start_in_window_pct": 100.0, "start_first_k": 30.0, "start_below_glass_k": 1.0},
                      {"start_in_window_pct": 0.0, "start_below_glass_k": 40.0}):  # fmt: skip
            for polymer in every(load().polymers.values()):
                for each in every(propose_setpoints(polymer, RECORDS.machines["crag"], Rules(**rules))):
                    with self.subTest(polymer.id, field=each.field):
                        self.assertLessEqual(each.value, each.window[1])
                        self.assertGreaterEqual(each.value, math.floor(each.window[0]) - each.short)

    def test_a_machine_that_reaches_all_gets_the_middles(self):
        found = self.proposed("pc", "crag")
        self.assertEqual(found["melt.nozzle_c"].value, 290.0)  # 270 to 310
        self.assertEqual(found["heat.chamber_c"].value, 92.0)  # 70 to 115, rounded down
        self.assertEqual({each.short for each in found.values()}, {0.0})

    def test_a_machine_that_falls_short_says_by_how_much(self):
        found = self.proposed("pei_pc_blend", "tarn")["heat.chamber_c"]
        self.assertEqual((found.value, found.short, found.reach), (90.0, 125.0 - 90.0, 90.0))

    def test_without_a_machine_the_windows_alone_speak(self):
        found = self.proposed("petg", None)
        self.assertEqual(found["plate.bed_c"].value, 70.0)
        self.assertIsNone(found["plate.bed_c"].reach)

    def test_no_proposal_lies_above_reach_or_window_on_any_machine(self):
        for polymer in every(load().polymers.values()):
            for machine in every(RECORDS.machines.values()):
                for each in every(propose_setpoints(polymer, machine, RULES)):
                    zone = {"nozzle": "nozzle", "bed": "plate", "chamber": "chamber"}[
                        each.field.split(".")[1].split("_")[0]
                    ]
                    with self.subTest(polymer.id, machine=machine.id, field=each.field):
                        self.assertLessEqual(each.value, reach_of(machine, zone, RULES).max_c)
                        self.assertLessEqual(each.value, each.window[1])
                        self.assertAlmostEqual(each.short, max(0.0, each.window[0] - each.value))
