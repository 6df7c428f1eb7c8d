"""Operation 10: the margin in service against closed arithmetic."""

import unittest

import attrs

from kaustos.core.review.brief import (
    lack_of,
    picture,
    price_per_litre,
    rank,
    service_margin,
    softening_of,
    tabulated_stress,
)
from kaustos.core.review.grading import WANTED
from tests.support import changed, codes_of, judged, opened


class TestMargin(unittest.TestCase):
    def test_margin_is_softening_minus_service_with_the_range_of_the_softening_value(self):
        records = changed(opened("sensor_cage"), {"brief.service_c": 110.0})
        recipe, context, _ = judged(records)
        margin = service_margin(softening_of(recipe.brief, context.polymer), 110.0)
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
