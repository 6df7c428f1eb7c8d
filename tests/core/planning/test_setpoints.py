"""Setpoints to start from: in the middle of the window, or as far as the machine reaches."""

import unittest

from kaustos.core.planning import propose_setpoints
from kaustos.core.planning.reach import reach_of
from kaustos.core.records import Rules
from kaustos.demo.scenario import RECORDS
from kaustos.library import load
from tests.asserting import every

RULES = Rules()


class TestProposals(unittest.TestCase):
    def proposed(self, polymer, machine):
        record = RECORDS.machines[machine] if machine else None
        return {each.field: each for each in propose_setpoints(load().polymers[polymer], record, RULES)}

    def test_a_machine_that_reaches_all_gets_the_middles(self):
        found = self.proposed("pc", "crag")
        self.assertEqual(found["melt.nozzle_c"].value_c, 290.0)  # 270 to 310
        self.assertEqual(found["heat.chamber_c"].value_c, 92.0)  # 70 to 115, rounded down
        self.assertEqual({each.short_k for each in found.values()}, {0.0})

    def test_a_machine_that_falls_short_says_by_how_much(self):
        found = self.proposed("pei_pc_blend", "tarn")["heat.chamber_c"]
        self.assertEqual((found.value_c, found.short_k, found.reach_c), (90.0, 125.0 - 90.0, 90.0))

    def test_without_a_machine_the_windows_alone_speak(self):
        found = self.proposed("petg", None)
        self.assertEqual(found["plate.bed_c"].value_c, 70.0)
        self.assertIsNone(found["plate.bed_c"].reach_c)

    def test_no_proposal_lies_above_reach_or_window_on_any_machine(self):
        for polymer in every(load().polymers.values()):
            for machine in every(RECORDS.machines.values()):
                for each in every(propose_setpoints(polymer, machine, RULES)):
                    zone = {"nozzle": "nozzle", "bed": "plate", "chamber": "chamber"}[
                        each.field.split(".")[1].split("_")[0]
                    ]
                    with self.subTest(polymer.id, machine=machine.id, field=each.field):
                        self.assertLessEqual(each.value_c, reach_of(machine, zone, RULES).max_c)
                        self.assertLessEqual(each.value_c, each.window_c[1])
                        self.assertAlmostEqual(each.short_k, max(0.0, each.window_c[0] - each.value_c))
