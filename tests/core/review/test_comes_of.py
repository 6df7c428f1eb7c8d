"""What one cure takes away stands behind its cause, and says so."""

import unittest

import attrs

from kaustos.core.review import Finding
from kaustos.core.review.comes_of import with_causes_said
from kaustos.core.review.contract import Estimate, worst_first
from tests.support import at_once, changed, judged, opened, said_by


def finding(code, severity, cost, due_to="", basis="prior"):
    """A finding of a cost [money]."""
    priced = Estimate(cost, cost, cost, "money", "", "")
    return Finding(code, severity, {}, "melt.nozzle_c", priced, (), basis=basis, due_to=due_to)


def codes(*findings):
    """Their codes, worst first."""
    return [each.code for each in worst_first(findings)]


class TestOrder(unittest.TestCase):
    def test_a_cause_takes_the_place_of_the_dearest_that_comes_of_it(self):
        other, cause = finding("b", "stop", 40.0), finding("a", "stop", 30.0)
        dear, cheap = finding("c", "stop", 50.0, "a"), finding("d", "stop", 1.0, "a")
        self.assertEqual(codes(other, cheap, dear, cause), ["a", "c", "d", "b"])

    def test_a_stop_never_stands_behind_a_watch_for_its_cause(self):
        watch, stop = finding("a", "watch", 90.0), finding("c", "stop", 5.0, "a")
        self.assertEqual(codes(watch, stop), ["c", "a"])

    def test_what_can_hurt_people_stays_first(self):
        hurts, cause = finding("h", "stop", 0.0, basis="people"), finding("a", "stop", 30.0)
        self.assertEqual(codes(cause, finding("c", "stop", 50.0, "a"), hurts), ["h", "a", "c"])

    def test_nothing_is_lost_or_told_twice(self):
        every = [finding(each, "stop", float(place), "a" if place % 2 else "") for place, each in enumerate("abcdefg")]
        self.assertEqual(sorted(codes(*every)), list("abcdefg"))


class TestWeld(unittest.TestCase):
    def weld(self, records):
        """The finding against the weld."""
        return next(each for each in judged(records)[2].findings() if each.code == "heat.weld.weak")

    def test_a_wet_spool_that_alone_makes_it_weak_is_its_cause(self):
        wet = opened("winch_bracket")
        self.assertEqual(self.weld(wet).due_to, "stock.moisture.wet")
        said = judged(wet)[2].findings()
        self.assertEqual([each.code for each in said[:2]], ["stock.moisture.wet", "heat.weld.weak"])
        dry = changed(wet, {"lot.flange": "metal", "stock.dryer_c": 90.0, "stock.dryer_h": 48.0})
        left = judged(dry)[2].findings()
        self.assertFalse([each for each in left if each.code == "heat.weld.weak" and each.severity == "stop"])

    def test_what_can_be_cured_elsewhere_is_not_told_that_no_lever_is_left(self):
        titles = [each.title for each in self.weld(opened("winch_bracket")).remedies]
        self.assertEqual(titles[0], "Cure first what it comes of")

    def test_air_below_its_window_is_its_cause_where_warm_air_would_do(self):
        self.assertEqual(self.weld(opened("probe_head_shell")).due_to, "machine.chamber.below_window")

    def test_a_large_part_that_lifts_for_cold_air_stands_with_its_weld_behind_the_air(self):
        large = {"plate.anchor": "none", "plate.cleaned": "touched", "context.part": None,
                 "brief.size_x_mm": 220.0, "brief.size_y_mm": 120.0, "brief.size_z_mm": 40.0}  # fmt: skip
        cold = changed(opened("probe_head_shell"), large | {"heat.chamber_c": 60.0})
        said = at_once(cold).findings()
        air = next(place for place, each in enumerate(said) if each.code == "machine.chamber.below_window")
        behind = {each.code: each.due_to for each in said[air + 1 : air + 3]}
        self.assertEqual(behind, dict.fromkeys(("heat.weld.weak", "plate.corner.lifts"), said[air].code))
        in_window = at_once(changed(opened("probe_head_shell", "crag"), large | {"heat.chamber_c": 130.0}))
        self.assertFalse([each for each in in_window.findings() if each.code == "machine.chamber.below_window"])
        left = {each.code: each.due_to for each in in_window.findings()}
        self.assertEqual(left.get("plate.corner.lifts", ""), "")

    def test_a_cause_that_nobody_names_leaves_it_alone(self):
        heat = said_by("heat", opened("winch_bracket"))
        alone = with_causes_said((heat,))[0]
        self.assertEqual({each.due_to for each in alone.findings}, {""})
        spool = attrs.evolve(heat, number=20, findings=(finding("stock.moisture.wet", "stop", 1.0),))
        self.assertEqual(with_causes_said((heat, spool))[0], heat)


if __name__ == "__main__":
    unittest.main()
