"""Operation 10: the margin in service against closed arithmetic."""

import unittest

import attrs
import numpy as np

from kaustos.core.records.recipe import Brief
from kaustos.core.review import BY_KEY, GRADES
from kaustos.core.review.brief import (
    covering_stress,
    lack_of,
    lets_go_at,
    picture,
    price_per_litre,
    rank,
    service_margin,
    softening_of,
)
from kaustos.core.review.brief.suiting import reasons_for
from kaustos.core.review.grading import WANTED
from kaustos.library import load
from tests.support import changed, codes_of, judged, opened


class TestMargin(unittest.TestCase):
    def test_margin_is_softening_minus_service_with_the_range_of_the_softening_value(self):
        records = changed(opened("sensor_cage"), {"brief.service_c": 110.0})
        recipe, context, _ = judged(records)
        margin = service_margin(softening_of(recipe.brief, context.polymer), 110.0)
        self.assertEqual((margin.value, margin.low, margin.high), (134.0 - 110.0, 127.0 - 110.0, 140.0 - 110.0))

    def test_between_the_tabulated_loads_it_goes_by_the_logarithm_of_load(self):
        for stress, covering in ((0.0, 0.45), (0.455, 0.45), (0.47, 1.8), (1.82, 1.8), (9.0, 1.8), (None, None)):
            self.assertEqual(covering_stress(stress), covering)
        recipe, context, _ = judged(opened("sensor_cage"))
        low, high = (context.polymer.value(f"deflection_{each}_as_printed_dry_c").value for each in ("045", "180"))
        expected = {0.1: low, 0.45: low, 0.455: low, 0.9: (low + high) / 2.0, 1.8: high, 1.82: high, 3.0: high}
        for stress, value in expected.items():  # 0.9 is the geometric mean of 0.45 and 1.8
            brief = attrs.evolve(recipe.brief, stress_mpa=stress, history="as_printed", moisture="dry")
            with self.subTest(stress):
                self.assertAlmostEqual(softening_of(brief, context.polymer).value, value)

    def test_above_every_tabulated_load_it_is_an_upper_bound_whose_cap_holds_and_no_value(self):
        records = opened("probe_head_shell", "crag")
        grades = []
        for stress in (1.8, 1.85, 1.9, 5.0, 50.0):
            _, _, found = judged(changed(records, {"brief.stress_mpa": stress}))
            grades.append(GRADES.index(found.grade.value))
            beyond = stress > 1.854
            with self.subTest(stress):
                self.assertEqual("polymer.deflection" in found.grade.until_known, beyond)
        self.assertEqual(grades, sorted(grades, reverse=True))
        hot = changed(records, {"brief.stress_mpa": 5.0, "brief.service_c": 175.0})
        self.assertLessEqual({"brief.service.above_softening", "brief.service.no_value"}, codes_of(hot))

    def test_a_crystallised_part_creeps_above_the_value_for_its_load_and_lets_go_above_the_lower_load_s(self):
        for key, history in (("pa_cf", "as_printed"), ("pps", "annealed"), ("pp", "as_printed")):
            polymer = load().polymers[key]
            low, high = (polymer.value(f"deflection_{each}_{history}_dry_c") for each in ("045", "180"))
            brief = attrs.evolve(Brief(), stress_mpa=1.8, history=history, moisture="dry")
            gone = lets_go_at(brief, polymer)
            with self.subTest(key):
                self.assertTrue(high.value < gone <= low.value)
                self.assertLessEqual(gone, max(high.value, polymer.value("melting_c").value - 40.0))
                for service, verdict in ((high.value + 1.0, "mind"), (gone + 1.0, "against")):
                    reason = reasons_for(attrs.evolve(brief, service_c=service), polymer)[0]
                    self.assertEqual((reason.verdict, reason.code), (verdict, "brief.service.above_softening"))
        for key in ("pc", "pei", "pet_cf", "petg"):
            polymer = load().polymers[key]
            brief = attrs.evolve(Brief(), stress_mpa=1.8, history="as_printed", moisture="dry")
            self.assertEqual(lets_go_at(brief, polymer), softening_of(brief, polymer).value, key)

    def test_more_load_more_heat_and_more_water_never_give_a_better_grade_for_any_polymer(self):
        recipe, context, _ = judged(opened("probe_head_shell", "crag"))

        def grade(polymer, history, **brief):
            mine = attrs.evolve(recipe, polymer=polymer.id, brief=attrs.evolve(recipe.brief, history=history, **brief))
            found = BY_KEY["brief"].review(mine, attrs.evolve(context, polymer=polymer, lot=None))
            unknown = [each.worst for each in found.missing if each.required]
            caps = [cap.grade for cap in found.caps if cap.grade] + unknown
            return min([GRADES.index(each) for each in caps], default=len(GRADES))

        stresses, services = (0.2, 0.45, 0.6, 1.2, 1.8, 1.9, 8.0), (20.0, 50.0, 80.0, 110.0, 140.0, 180.0, 240.0, 330.0)
        for polymer in load().polymers.values():
            for history in ("as_printed", "annealed"):
                table = np.array([[[grade(polymer, history, stress_mpa=stress, service_c=service, moisture=moisture)
                                    for service in services] for stress in stresses]
                                  for moisture in ("dry", "conditioned")])  # fmt: skip
                with self.subTest(polymer.id, history=history):
                    self.assertTrue((np.diff(table, axis=1) <= 0).all(), "more load, better grade")
                    self.assertTrue((np.diff(table, axis=2) <= 0).all(), "more heat, better grade")
                    self.assertTrue((table[1] <= table[0]).all(), "more water, better grade")

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

    def test_a_polymer_that_holds_and_runs_here_is_offered_with_its_setpoints(self):
        records = changed(opened("cable_guide", "crag"), {"brief.service_c": 90.0, "brief.moisture": "dry"})
        finding = judged(records)[2].findings()[0]
        self.assertEqual(finding.code, "brief.service.above_softening")
        taken = changed(records, finding.remedies[0].changes)
        self.assertNotIn("brief.service.above_softening", codes_of(taken))
        self.assertEqual({code for code in codes_of(taken, "stop") if code.startswith("machine")}, set())

    def test_the_purpose_asks_for_a_grade(self):
        for purpose, grade in (("ornament", "decorative"), ("tool", "reduced"), ("safety", "functional")):
            self.assertEqual(WANTED[purpose], grade)
            _, _, found = judged(changed(opened("probe_head_shell"), {"brief.purpose": purpose}))
            self.assertEqual(found.grade.wanted, grade)


class TestRanking(unittest.TestCase):
    """Expected orders are worked out by hand from the library's values."""

    def ranked(self, **brief):
        recipe, context, _ = judged(opened("cable_guide"))
        base = {"service_c": 60.0, "margin_k": 15.0, "stress_mpa": 0.4, "history": "as_printed", "moisture": "dry"}
        base |= {"purpose": "tool", "outdoor": False, "chemical": "none", "load_across": False, "clear": False}
        brief = attrs.evolve(recipe.brief, **(base | {"look": "any"} | brief))
        found = rank(brief, context.shop.polymers.values(), context.shop.machines, context.rules)
        return {each.polymer: each for each in found}

    def test_what_would_do_stands_first_and_by_price_per_litre(self):
        found = list(self.ranked().values())
        first = [each for each in found if each.would_do]
        self.assertEqual(found[: len(first)], first)
        prices = [each.price_per_litre.value for each in first]
        self.assertEqual(prices, sorted(prices))
        self.assertEqual(first[0].polymer, "hips")  # 22 a kg at 1.04, before ABS at 1.05 and PP at 31.5 a litre

    def test_service_heat_sorts_out_what_softens_below_it(self):
        found = self.ranked(service_c=130.0, margin_k=20.0)
        self.assertEqual(found["petg"].verdict, "against")
        self.assertEqual(found["pei"].verdict, "for")
        self.assertEqual(found["pei"].margin.value, 206.0 - 130.0)
        self.assertEqual(found["tpu"].verdict, "unknown", "no deflection temperature is known")

    def test_weather_chemicals_light_and_look_each_speak(self):
        def against(found):
            return {key for key, each in found.items() if each.verdict == "against"}

        self.assertFalse({"abs", "pp", "pom", "pc"} & against(self.ranked()))
        self.assertLessEqual({"abs", "pp", "pom"}, against(self.ranked(outdoor=True)))
        self.assertLessEqual({"pc", "petg", "pei"}, against(self.ranked(chemical="alkalis")))
        self.assertLessEqual({"abs", "peek", "pa6"}, against(self.ranked(clear=True)))
        self.assertNotIn("pc", against(self.ranked(clear=True)))
        self.assertEqual(self.ranked(look="matt")["pc"].verdict, "mind")
        self.assertEqual(self.ranked(look="matt")["pc_cf"].verdict, "for")

    def test_load_across_layers_minds_what_crystallises(self):
        found = self.ranked(load_across=True)
        self.assertEqual((found["peek"].verdict, found["pekk_a"].verdict, found["pc"].verdict), ("mind", "for", "for"))

    def test_the_shop_s_reach_is_compared_zone_by_zone(self):
        found = self.ranked()
        self.assertIn("Old Beck", found["pla"].runs_on)
        self.assertEqual(found["ppsu"].runs_on, ("Crag",))
        _, context, _ = judged(opened("cable_guide"))
        beck = next(each for each in context.shop.machines if each.id == "beck")
        lack = dict(lack_of(beck, context.shop.polymers["peek"], context.rules).zones)
        self.assertEqual(lack, {"nozzle": 385.0 - 240.0, "plate": 120.0 - 80.0, "chamber": 90.0 - 32.0})

    def test_what_runs_somewhere_lacks_nothing_and_without_machines_nothing_is_compared(self):
        found = self.ranked()
        self.assertIsNone(found["pla"].nearest, "Old Beck runs it")
        recipe, context, _ = judged(opened("cable_guide"))
        nobody = rank(recipe.brief, context.shop.polymers.values(), (), context.rules)
        self.assertEqual({(each.runs_on, each.nearest) for each in nobody}, {((), None)})
        crag = tuple(each for each in context.shop.machines if each.id == "beck")
        only = {each.polymer: each for each in rank(recipe.brief, context.shop.polymers.values(), crag, context.rules)}
        self.assertEqual(only["peek"].nearest.machine, "Old Beck")

    def test_a_litre_costs_price_times_density(self):
        _, context, _ = judged(opened("cable_guide"))
        self.assertAlmostEqual(price_per_litre(context.shop.polymers["pvdf"]).value, 160.0 * 1.78)

    def test_a_dear_polymer_for_a_mild_purpose_is_said_with_what_it_wastes(self):
        records = changed(opened("probe_head_shell", "crag"), {"brief.service_c": 50.0, "brief.margin_k": 20.0})
        finding = next(each for each in judged(records)[2].findings() if each.code == "brief.price.dearer")
        self.assertAlmostEqual(finding.values["price"], 190.0 * 1.27)
        self.assertLess(finding.values["lower"], finding.values["price"] / 1.5)
        litres = judged(records)[0].brief.mass_g / 1270.0
        saved = litres * (finding.values["price"] - finding.values["lower"])
        self.assertAlmostEqual(finding.cost.value, saved)
        self.assertAlmostEqual(finding.cost.low, saved * 0.5, msg="half of it at least")
        self.assertAlmostEqual(finding.cost.high, saved * 1.5)


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
