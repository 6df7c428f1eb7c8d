"""Operation 10: the margin in service against closed arithmetic."""

import math
import unittest

import attrs
import numpy as np

from kaustos.core.records import Rules
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
    wanted_margin,
)
from kaustos.core.review.brief.suiting import reasons_for
from kaustos.core.review.grading import WANTED
from kaustos.library import load
from tests.asserting import every
from tests.support import at_once, changed, codes_of, judged, opened, recipe_and_context, said_by


class TestMargin(unittest.TestCase):
    def test_margin_is_softening_minus_service_with_the_range_of_the_softening_value(self):
        records = changed(opened("sensor_cage"), {"brief.service_c": 110.0})
        recipe, context = recipe_and_context(records)
        margin = service_margin(softening_of(recipe.brief, context.polymer), 110.0)
        self.assertEqual((margin.value, margin.low, margin.high), (134.0 - 110.0, 127.0 - 110.0, 140.0 - 110.0))

    def test_between_the_tabulated_loads_it_goes_by_the_logarithm_of_load(self):
        for stress, covering in ((0.0, 0.45), (0.455, 0.45), (0.47, 1.8), (1.82, 1.8), (9.0, 1.8), (None, None)):
            self.assertEqual(covering_stress(stress), covering)
        recipe, context = recipe_and_context(opened("sensor_cage"))
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
        recipe, context = recipe_and_context(opened("probe_head_shell", "crag"))

        def grade(polymer, history, **brief):
            mine = attrs.evolve(recipe, polymer=polymer.id, brief=attrs.evolve(recipe.brief, history=history, **brief))
            found = BY_KEY["brief"].review(mine, attrs.evolve(context, polymer=polymer, lot=None))
            unknown = [each.worst for each in found.missing if each.required]
            caps = [cap.grade for cap in found.caps if cap.grade] + unknown
            return min([GRADES.index(each) for each in caps], default=len(GRADES))

        stresses, services = (0.2, 0.45, 0.6, 1.2, 1.8, 1.9, 8.0), (20.0, 50.0, 80.0, 110.0, 140.0, 180.0, 240.0, 330.0)
        for polymer in every(load().polymers.values()):
            for history in ("as_printed", "annealed"):
                table = np.array([[[grade(polymer, history, stress_mpa=stress, service_c=service, moisture=moisture)
                                    for service in services] for stress in stresses]
                                  for moisture in ("dry", "conditioned")])  # fmt: skip
                with self.subTest(polymer.id, history=history):
                    self.assertTrue((np.diff(table, axis=1) <= 0).all(), "more load, better grade")
                    self.assertTrue((np.diff(table, axis=2) <= 0).all(), "more heat, better grade")
                    self.assertTrue((table[1] <= table[0]).all(), "more water, better grade")
                    for service in (60.0, 110.0, 180.0):
                        there = {"stress_mpa": 1.0, "service_c": service, "moisture": "dry"}
                        *hours, unknown = (grade(polymer, history, **there, service_h=each)
                                           for each in (1.0, 10.0, 100.0, 1e3, 1e4, 1e5, None))  # fmt: skip
                        self.assertEqual(hours, sorted(hours, reverse=True), "more hours, better grade")
                        self.assertLessEqual(unknown, min(hours), "unknown hours, better grade")
                    purposes = [grade(polymer, history, stress_mpa=1.0, service_c=110.0, moisture="dry", purpose=each)
                                for each in ("ornament", "prototype", "tool", "loaded", "safety")]  # fmt: skip
                    self.assertEqual(purposes, sorted(purposes, reverse=True), "more hangs on it, better grade")

    def test_the_purpose_rules_unless_more_is_typed_or_less_is_signed_for(self):
        brief = Brief(purpose="loaded")  # 20 K
        for typed, signed, wanted in (
            (None, "", 20.0),
            (12.0, "", 20.0),
            (30.0, "", 30.0),
            (12.0, "R. Askew: trial", 12.0),
        ):
            with self.subTest(typed, signed=signed):
                self.assertEqual(wanted_margin(attrs.evolve(brief, margin_k=typed, margin_signed=signed)), wanted)
        self.assertIsNone(wanted_margin(Brief()))
        records = changed(opened("probe_head_shell", "crag"), {"brief.service_c": 145.0, "brief.margin_k": 15.0})
        self.assertIn("brief.service.short_margin", codes_of(records))
        signed = changed(records, {"brief.margin_signed": "R. Askew: a test piece"})
        self.assertNotIn("brief.service.short_margin", codes_of(signed))
        self.assertIn("brief.margin.below_purpose", codes_of(signed), "it stays in sight")

    def test_the_figure_says_where_the_low_end_of_what_is_known_is_counted_on(self):
        for purpose, says in (("ornament", False), ("prototype", False), ("loaded", True), ("safety", True)):
            found = said_by("brief", changed(opened("sensor_cage"), {"brief.purpose": purpose}))
            softening = next(each.value for each in found.figures if each.key == "brief.service.softening")
            with self.subTest(purpose):
                self.assertEqual("the low end of what is known" in softening.method, says)

    def test_a_purpose_on_which_much_hangs_counts_on_the_low_end(self):
        recipe, context = recipe_and_context(opened("sensor_cage"))
        value = context.polymer.value("deflection_045_as_printed_conditioned_c")
        expected = {"tool": value.value, "loaded": value.low, "outdoor": value.low, "safety": value.low}
        for purpose, counted in expected.items():
            brief = attrs.evolve(recipe.brief, purpose=purpose)
            self.assertEqual(softening_of(brief, context.polymer).value, counted)

    def test_hours_under_load_ask_for_more_and_unknown_hours_hold_the_grade_where_they_matter(self):
        short = changed(opened("probe_head_shell", "crag"), {"brief.service_c": 138.0})
        self.assertNotIn("brief.service.short_margin", codes_of(short))
        self.assertIn("brief.service.short_margin", codes_of(changed(short, {"brief.service_h": 5000.0})))
        _, _, found = judged(changed(short, {"brief.service_h": None}))
        self.assertIn("brief.service_h", found.grade.until_known)
        cool = changed(opened("probe_head_shell", "crag"), {"brief.service_c": 40.0, "brief.service_h": None})
        self.assertNotIn("brief.service_h", at_once(cool).grade.until_known)

    def test_another_state_is_offered_first_and_signing_comes_last(self):
        blade = {"brief.history": "as_printed", "brief.service_c": 124.0}
        cage = {"brief.service_c": 117.0, "brief.margin_k": 15.0}
        for card, changes, first in (
            ("centraliser_blade", blade, {"brief.history": "annealed"}),
            ("sensor_cage", cage, {"brief.moisture": "dry"}),
        ):  # fmt: skip
            findings = judged(changed(opened(card, "crag"), changes))[2].findings()
            found = [one for one in findings if one.code == "brief.service.short_margin"]
            with self.subTest(card):
                self.assertTrue(found)
                self.assertEqual(found[0].remedies[-1].title, "Accept a thinner margin by name")
                self.assertEqual(dict(found[0].remedies[0].changes), first)

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
        service = {"brief.service_c": 90.0, "brief.moisture": "dry", "context.plate": None}
        records = changed(opened("cable_guide", "crag"), service)
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

    def ranked(self, rules=None, **brief):
        recipe, context = recipe_and_context(opened("cable_guide"))
        base = {"service_c": 60.0, "margin_k": 15.0, "stress_mpa": 0.4, "history": "as_printed", "moisture": "dry"}
        base |= {"purpose": "tool", "outdoor": False, "chemical": "none", "load_across": False, "clear": False}
        base |= {"character": None, "service_h": None}
        brief = attrs.evolve(recipe.brief, **(base | {"look": "any"} | brief))
        shop = context.shop
        found = rank(brief, shop.polymers.values(), shop.machines, rules or context.rules, shop.dryers)
        return {each.polymer: each for each in found}

    def test_what_is_washed_away_is_no_candidate(self):
        self.assertEqual({"pva", "bvoh"} & set(self.ranked()), set())

    def test_margin_and_ease_move_the_order_by_their_weights_and_never_over_a_verdict(self):
        base = {"weigh_price": 0.0, "weigh_margin": 0.0, "weigh_ease": 0.0}
        by_margin = list(self.ranked(Rules(**{**base, "weigh_margin": 1.0})).values())
        first = [each for each in by_margin if each.would_do]
        beyond = [min(each.margin.value - 15.0, 50.0) for each in first]
        self.assertEqual(beyond, sorted(beyond, reverse=True))
        self.assertEqual(by_margin[: len(first)], first)
        by_ease = [each for each in self.ranked(Rules(**{**base, "weigh_ease": 1.0})).values() if each.would_do]
        counts = [len(each.hindrances) for each in by_ease]
        self.assertEqual(counts, sorted(counts))
        self.assertGreater(counts[-1], 1)
        self.assertIn("wears the nozzle", self.ranked()["pa_cf"].hindrances)

    def test_rubbery_polymers_rank_apart_unless_rubber_is_wanted(self):
        self.assertEqual(self.ranked()["tpu"].verdict, "mind")
        self.assertEqual(self.ranked(character="stiff")["tpu"].verdict, "against")
        rubbery = self.ranked(character="rubbery", service_c=40.0)
        self.assertEqual((rubbery["tpu"].verdict, rubbery["pc"].verdict), ("for", "against"))
        self.assertEqual(rubbery["tpu"].margin.value, 80.0 - 40.0)

    def test_years_of_heat_sort_out_what_ages(self):
        self.assertNotEqual(self.ranked(service_c=70.0, service_h=50.0)["abs"].verdict, "against")
        years = self.ranked(service_c=70.0, service_h=20000.0)
        codes = {key: {reason.code for reason in each.reasons} for key, each in years.items()}
        self.assertNotIn("brief.service.ages", codes["pei"])
        self.assertIn("brief.service.ages", codes["petg"])  # 60 °C for 20 000 h

    def test_what_would_do_stands_first_and_by_price_per_litre_where_nothing_else_counts(self):
        found = list(self.ranked(Rules(weigh_margin=0.0, weigh_ease=0.0)).values())
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
        self.assertEqual(found["tpu"].verdict, "against", "80 °C for years is its service limit")

    def test_what_only_its_crystals_carry_stands_behind_all_that_keep_a_margin(self):
        for service in (60.0, 80.0, 90.0, 110.0, 140.0):
            found = [each for each in self.ranked(service_c=service, stress_mpa=1.6).values()
                     if each.verdict in ("for", "mind") and each.margin is not None]  # fmt: skip
            soft = [each.margin.value <= 0.0 for each in found]
            with self.subTest(service):
                self.assertEqual(soft, sorted(soft))

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
        _, context = recipe_and_context(opened("cable_guide"))
        beck = next(each for each in context.shop.machines if each.id == "beck")
        lack = dict(lack_of(beck, context.shop.polymers["peek"], context.rules).zones)
        self.assertEqual(lack, {"nozzle": 385.0 - 240.0, "plate": 120.0 - 80.0, "chamber": 90.0 - 32.0})

    def test_what_runs_somewhere_lacks_nothing_and_without_machines_nothing_is_compared(self):
        found = self.ranked()
        self.assertIsNone(found["pla"].nearest, "Old Beck runs it")
        recipe, context = recipe_and_context(opened("cable_guide"))
        nobody = rank(recipe.brief, context.shop.polymers.values(), (), context.rules)
        self.assertEqual({(each.runs_on, each.nearest) for each in nobody}, {((), None)})
        crag = tuple(each for each in context.shop.machines if each.id == "beck")
        only = {each.polymer: each for each in rank(recipe.brief, context.shop.polymers.values(), crag, context.rules)}
        self.assertEqual(only["peek"].nearest.machine, "Old Beck")

    def test_a_litre_costs_price_times_density(self):
        _, context = recipe_and_context(opened("cable_guide"))
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
        recipe, context = recipe_and_context(opened("sensor_cage"))
        drawn = picture(recipe, context)
        chosen = [bar for bar in drawn.bars if bar.chosen]
        self.assertEqual([(bar.title_load_mpa, bar.moisture) for bar in chosen], [(0.45, "conditioned")])
        self.assertAlmostEqual(drawn.needed_c, 118.0 + 20.0 + 5.0 * math.log10(40.0 / 10.0))
