"""Room on the machine and the strand that it feeds; what is done with a part afterwards; how it went last time."""

import math
import unittest

import numpy as np

from kaustos.core.records import Run
from kaustos.core.records.polymer import HANDLINGS
from kaustos.core.review import Choose
from kaustos.core.review.machine.fit import has_room
from kaustos.library import load
from tests.support import at_once, changed, codes_of, judged, opened


def carver(part, plate):
    """The known condition for a rectangle within another, which needs no angles."""
    p, q = max(part), min(part)
    a, b = max(plate), min(plate)
    if p <= a and q <= b:
        return True
    if p <= a or q > b or p == q:
        return False
    return ((a + b) / (p + q)) ** 2 + ((a - b) / (p - q)) ** 2 >= 2.0


class TestRoom(unittest.TestCase):
    def test_a_part_may_lie_askew_as_far_as_the_known_condition_says(self):
        rng = np.random.default_rng(17)
        same, askew = 0, 0
        for _ in range(400):
            plate = tuple(float(each) for each in rng.uniform(150, 300, 2))
            part = (float(rng.uniform(100, 420)), float(rng.uniform(5, 120)))
            same += has_room(part, plate) == carver(part, plate)
            askew += carver(part, plate) and max(part) > max(plate)
        self.assertGreaterEqual(same, 398, "but for parts that fit to within a quarter of a degree")
        self.assertGreater(askew, 10)
        self.assertFalse(has_room((300.0, 300.0), (299.0, 400.0)))
        self.assertTrue(has_room((0.0, 0.0), (math.inf, math.inf)))

    def test_larger_is_never_better_and_an_unknown_travel_is_asked_for(self):
        stops = [
            "machine.size.too_big" in codes_of(changed(opened("wellhead_cover"), {"brief.size_x_mm": float(size)}))
            for size in (100, 200, 250, 300, 330, 500)
        ]
        self.assertEqual(stops, sorted(stops))
        self.assertEqual((stops[0], stops[-1]), (False, True))
        unknown = {"brief.size_x_mm": 900.0, "machine.travel_x_mm": None, "machine.travel_y_mm": None}
        unmeasured = changed(opened("wellhead_cover"), unknown)
        self.assertNotIn("machine.size.too_big", codes_of(unmeasured))
        self.assertLessEqual({"machine.travel_x_mm", "machine.travel_y_mm"}, set(at_once(unmeasured).grade.until_known))
        nameless = changed(unmeasured, {"brief.size_x_mm": None, "brief.size_y_mm": None})
        self.assertFalse({"machine.travel_x_mm", "machine.travel_y_mm"} & set(at_once(nameless).grade.until_known))

    def test_a_machine_with_room_is_offered(self):
        tall = changed(opened("probe_head_shell", "crag"), {"brief.size_z_mm": 300.0, "heat.chamber_c": 90.0})
        found = next(each for each in judged(tall)[2].findings() if each.code == "machine.size.too_big")
        self.assertIn("62 × 62 × 300 mm", str(found.values["part"]))
        self.assertEqual(found.field, "brief.size_z_mm")
        both = judged(changed(opened("wellhead_cover", "gill"), {"brief.size_x_mm": 310.0, "brief.size_y_mm": 190.0}))[
            2
        ]
        found = next(each for each in both.findings() if each.code == "machine.size.too_big")
        self.assertEqual([each.id for each in found.remedies if isinstance(each, Choose)], ["tarn"])


class TestStrand(unittest.TestCase):
    def test_another_diameter_is_a_stop_and_the_lot_that_fits_is_offered(self):
        thick = changed(opened("wellhead_cover"), {"lot.diameter": "2.85"})
        found = next(each for each in judged(thick)[2].findings() if each.code == "machine.strand.other")
        self.assertEqual(found.severity, "stop")
        self.assertEqual({each.id for each in found.remedies if isinstance(each, Choose)}, {"lot_a204"})
        self.assertEqual(at_once(thick).grade.value, "no_go")
        for unknown in ({"lot.diameter": None}, {"lot.diameter": "2.85", "machine.feeds": None}):
            records = changed(opened("wellhead_cover"), unknown)
            self.assertNotIn("machine.strand.other", codes_of(records))
            asked = "machine.feeds" in at_once(records).grade.until_known
            self.assertEqual(asked, "machine.feeds" in unknown, "an odd strand on a machine of which it is not known")


class TestAfterwards(unittest.TestCase):
    def test_every_handling_goes_badly_with_some_polymer_and_well_with_another(self):
        polymers = [each for each in load().polymers.values() if not each.is_support]
        for name in HANDLINGS:
            badly = [name in each.traits.goes_badly for each in polymers]
            with self.subTest(name):
                self.assertEqual(set(badly), {True, False})

    def test_what_goes_badly_is_said_once_with_all_of_it_and_costs_no_grade(self):
        wishes = {"polymer": "petg", "brief.sanded": True, "brief.slides": True, "brief.glued": True}
        found = [each for each in judged(changed(opened("cable_guide"), wishes))[2].findings()
                 if each.code == "brief.handling.poor"]  # fmt: skip
        self.assertEqual([each.values["wishes"] for each in found], ["be sanded and slide"])
        self.assertEqual(found[0].field, "brief.sanded")


class TestLastTime(unittest.TestCase):
    def said(self, records):
        found = {each.key: each.value for each in judged(records)[2].operations[0].figures}
        return found["brief.last.part"], found["brief.last.polymer"]

    def test_how_the_part_and_the_polymer_on_this_machine_went_last_time(self):
        clamp = opened("cable_clamp")
        self.assertEqual(self.said(clamp), ("not yet", "not yet"))
        first = Run(id="a", card="cable_clamp", revision=1.0, polymer="pc_cf", machine="tarn", outcome="good",
                    started_utc="2026-02-01T08:00:00Z")  # fmt: skip
        later = Run(id="b", card="sensor_cage", revision=1.0, polymer="pc_cf", machine="tarn", outcome="failed",
                    started_utc="2026-02-09T08:00:00Z")  # fmt: skip
        records = changed(clamp, {"runs/a": first, "runs/b": later})
        self.assertEqual(self.said(records), ("2026-02-01, good", "2026-02-09, failed"))
        copied = changed(records, {"cards/sensor_cage/recipe.part": clamp.card.recipe.part})
        self.assertEqual(self.said(copied)[0], "2026-02-09, failed", "another recipe of the same part")
