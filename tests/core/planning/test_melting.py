"""Flow through hot ends beside practice, and what no change for the worse may better."""

import itertools
import unittest

import attrs
import numpy as np

from kaustos.core.planning.change_over import change_over
from kaustos.core.planning.melting import HotEnd, feed_speed, flows_from, melting_of
from kaustos.library import load

POLYMERS = load().polymers
HEAD = HotEnd(zone_mm=13.0, bore_mm=0.4, land_mm=0.6, push_n=None, is_geared=True, tube_mm=0.0, strand_mm=1.75)
PRACTICE = {  # common heads and bores: usual largest flow [mm³/s]
    ("pla", 13.0, 0.4): 11.5, ("abs", 13.0, 0.4): 11.5, ("petg", 13.0, 0.4): 12.0, ("pc", 13.0, 0.4): 11.5,
    ("pla", 21.0, 0.6): 22.0, ("abs", 21.0, 0.6): 22.0, ("petg", 21.0, 0.6): 22.0, ("peek", 20.0, 0.6): 15.0,
    ("pa6", 20.0, 0.6): 15.0, ("pp", 13.0, 0.4): 10.0, ("tpu", 13.0, 0.4): 3.0, ("pei", 20.0, 0.6): 18.0,
    ("pa_cf", 20.0, 0.6): 18.0, ("pla", 34.0, 0.6): 33.0,
}  # fmt: skip


def hard(name, head=HEAD, nozzle=None, flow=6.0):
    """Likely hard limit at the middle of the window."""
    polymer = POLYMERS[name]
    ends = [polymer.value(f"nozzle_{end}_c").value for end in ("low", "high")]
    found = melting_of(polymer, head, nozzle or sum(ends) / 2.0, 4.0, 21.0, flow, 0.05)
    return float(np.median(found.hard))


class TestPractice(unittest.TestCase):
    def test_heads_give_what_shops_say_within_a_factor_of_one_and_a_half(self):
        for (name, zone, bore), usual in PRACTICE.items():
            with self.subTest(name, zone=zone, bore=bore):
                found = hard(name, attrs.evolve(HEAD, zone_mm=zone, bore_mm=bore))
                self.assertTrue(usual / 1.5 <= found <= usual * 1.5, f"{found:.1f} beside {usual}")

    def test_a_soft_strand_gives_least(self):
        for soft in ("tpu", "tpc"):
            self.assertLess(hard(soft), min(hard(name) for name in ("pla", "abs", "petg", "pc", "pa6")))


class TestDirections(unittest.TestCase):
    def test_the_limit_belongs_to_the_head_not_to_the_flow_that_is_asked(self):
        for name in ("pla", "pei", "peek"):
            self.assertAlmostEqual(hard(name, flow=3.0), hard(name, flow=9.0), delta=0.12 * hard(name))

    def test_a_longer_melt_zone_a_larger_bore_a_stronger_drive_and_more_heat_never_give_less(self):
        for name in ("pla", "pei", "tpu", "peek"):
            rows = {
                "zone": [hard(name, attrs.evolve(HEAD, zone_mm=z)) for z in (8.0, 12.0, 20.0, 35.0)],
                "bore": [hard(name, attrs.evolve(HEAD, bore_mm=b)) for b in (0.25, 0.4, 0.6, 0.8)],
                "push": [hard(name, attrs.evolve(HEAD, push_n=p)) for p in (5.0, 20.0, 60.0, 120.0)],
            }
            high = POLYMERS[name].value("nozzle_high_c").value
            rows["heat"] = [hard(name, nozzle=high + k) for k in (-30.0, -20.0, -10.0, 0.0)]
            for way, found in rows.items():
                with self.subTest(name, way=way):
                    self.assertTrue(all(b >= a - 1e-6 for a, b in itertools.pairwise(found)), found)

    def test_more_flow_leaves_colder_pushes_harder_and_stands_less(self):
        polymer = POLYMERS["abs"]
        found = [melting_of(polymer, HEAD, 245.0, 4.0, 21.0, flow, 0.05) for flow in (2.0, 4.0, 8.0, 16.0)]
        for name, way in (("exit_c", -1.0), ("force", 1.0), ("residence_s", -1.0)):
            values = [way * float(np.median(getattr(each, name))) for each in found]
            self.assertEqual(values, sorted(values), name)

    def test_a_nozzle_that_does_not_melt_the_polymer_gives_next_to_nothing(self):
        self.assertLess(hard("peek", nozzle=330.0), 0.5)

    def test_a_cubic_millimetre_of_melt_is_one_of_filament(self):
        self.assertAlmostEqual(feed_speed(2.405, 1.75), 1.0, places=3)
        self.assertAlmostEqual(feed_speed(6.379, 2.85), 1.0, places=3)


class TestChangeOver(unittest.TestCase):
    def plan(self, old, new, reach=500.0):
        return change_over(POLYMERS[old], POLYMERS[new], POLYMERS.values(), 20.0, 1.75, reach)

    def test_one_heat_melts_both_and_burns_neither(self):
        for old, new in (("abs", "pla"), ("pc", "pei_pc_blend"), ("pa6", "petg"), ("pei", "psu"), ("psu", "pei")):
            with self.subTest(old, to=new):
                plan = self.plan(old, new)
                self.assertTrue(plan.is_possible)
                for name in (old, new):
                    self.assertGreaterEqual(plan.low_c, flows_from(POLYMERS[name]))
                    self.assertLessEqual(plan.high_c, POLYMERS[name].value("decomposition_c").value)

    def test_where_no_heat_serves_both_another_polymer_leads_over(self):
        plan = self.plan("pva", "peek")
        self.assertFalse(plan.is_possible)
        self.assertIsNone(plan.load_c)
        self.assertTrue(plan.order)

    def test_a_polymer_between_meets_both(self):
        plan = self.plan("pom", "pei")
        self.assertFalse(plan.is_possible)
        by_name = {each.name: each.id for each in POLYMERS.values()}
        self.assertTrue(plan.between)
        for name in plan.between:
            self.assertTrue(self.plan("pom", by_name[name]).is_possible)
            self.assertTrue(self.plan(by_name[name], "pei").is_possible)

    def test_purge_is_a_few_melt_zones_of_filament(self):
        plan = self.plan("petg", "pla")
        self.assertTrue(100.0 <= plan.purge_mm <= 600.0, "a hand's breadth of filament, more where the old one clings")
        self.assertAlmostEqual(plan.purge_g, plan.purge_mm * 2.405 / 1e3 * 1.24, delta=0.05)

    def test_a_machine_that_does_not_reach_closes_the_window(self):
        self.assertTrue(self.plan("psu", "pei").is_possible)
        self.assertFalse(self.plan("psu", "pei", 250.0).is_possible)
