"""Operation 10: the margin in service against closed arithmetic."""

import unittest

from kaustos.core.review.brief import picture, service_margin, softening_of, tabulated_stress
from kaustos.core.review.grading import WANTED
from tests.support import changed, codes_of, judged, opened


class TestMargin(unittest.TestCase):
    def test_margin_is_softening_minus_service_with_the_range_of_the_softening_value(self):
        records = changed(opened("sensor_cage"), {"brief.service_c": 110.0})
        recipe, context, _ = judged(records)
        margin = service_margin(softening_of(recipe, context.polymer), 110.0)
        self.assertEqual((margin.value, margin.low, margin.high), (134.0 - 110.0, 127.0 - 110.0, 140.0 - 110.0))

    def test_the_next_higher_tabulated_load_counts(self):
        for stress, load in ((0.0, 0.45), (0.45, 0.45), (0.46, 1.8), (1.8, 1.8), (1.81, None), (None, None)):
            self.assertEqual(tabulated_stress(stress), load)

    def test_margin_falls_one_kelvin_for_each_kelvin_of_service(self):
        values = []
        for service in (100.0, 101.0, 111.0):
            _, _, found = judged(changed(opened("sensor_cage"), {"brief.service_c": service}))
            values.append(found.operations[0].figures[0].value.value)
        self.assertEqual([values[0] - each for each in values], [0.0, 1.0, 11.0])

    def test_an_unknown_state_is_unknown_and_blocks_functional(self):
        records = changed(opened("probe_head_shell", "crag"), {"brief.moisture": "conditioned"})
        _, _, found = judged(records)
        self.assertIn("brief.service.no_value", codes_of(records))
        self.assertIn("polymer.deflection", found.grade.until_known)

    def test_service_above_softening_leaves_ornaments_only(self):
        _, _, found = judged(changed(opened("probe_head_shell", "crag"), {"brief.service_c": 175.0}))
        self.assertEqual(found.grade.value, "decorative")

    def test_a_polymer_that_holds_is_named(self):
        records = changed(opened("cable_guide", "crag"), {"brief.service_c": 90.0, "brief.moisture": "dry"})
        finding = judged(records)[2].findings()[0]
        self.assertIn("PC, PEI-PC blend", finding.remedies[0].text)

    def test_the_purpose_asks_for_a_grade(self):
        for purpose, grade in (("ornament", "decorative"), ("tool", "reduced"), ("safety", "functional")):
            self.assertEqual(WANTED[purpose], grade)
            _, _, found = judged(changed(opened("probe_head_shell"), {"brief.purpose": purpose}))
            self.assertEqual(found.grade.wanted, grade)


class TestOwnValues(unittest.TestCase):
    def test_lot_overrides_grade_overrides_library_and_the_source_changes_with_it(self):
        generic, graded = opened("sensor_cage"), opened("sensor_cage")
        self.assertIn("own measurement", judged(graded)[1].polymer.value("glass_transition_c").source)
        bare = changed(generic, {"lot.grade_values": {}})
        self.assertIn("Polymer Handbook", judged(bare)[1].polymer.value("glass_transition_c").source)

    def test_a_lot_of_another_polymer_overrides_nothing(self):
        records = changed(opened("sensor_cage"), {"polymer": "petg"})
        self.assertEqual(judged(records)[1].polymer.value("glass_transition_c").value, 78.0)


class TestPicture(unittest.TestCase):
    def test_exactly_one_bar_is_the_chosen_state_and_needed_is_service_plus_margin(self):
        recipe, context, _ = judged(opened("sensor_cage"))
        drawn = picture(recipe, context)
        chosen = [bar for bar in drawn.bars if bar.chosen]
        self.assertEqual([(bar.title_load_mpa, bar.moisture) for bar in chosen], [(0.45, "conditioned")])
        self.assertEqual(drawn.needed_c, 118.0 + 20.0)
