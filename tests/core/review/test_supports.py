"""Operation 80 judged like an engineer: unknown is never fine, ways that are offered do what they say."""

import itertools
import unittest

import attrs

from kaustos.core.records import SUPPORT_MATERIALS, Calibration, Steep, Wash
from kaustos.core.review import GRADES, Choose, Set
from kaustos.core.review.supports import picture, steps_after, support_case
from kaustos.core.review.supports.case import bond_said
from kaustos.library import load
from tests.asserting import every
from tests.core.review import cases
from tests.core.review.cases import ALONE, CLAMP, PVA, SADDLE, decision, saddle
from tests.support import at_once, changed, codes_of, opened, recipe_and_context
from tests.support_practice import BATHS, PRACTICE, figures

TAKES = {
    "machine.two_feeds": True,
    "polymer": "petg",
    "heat.chamber_c": 30.0,
    "plate.bed_c": 70.0,
    "first_layer.bed_c": 70.0,
    "melt.nozzle_c": 240.0,
}  # what a second polymer stands
POLYMERS, MATERIALS = load().polymers, load().supplies.supports


def case_of(records):
    recipe, context = recipe_and_context(records)
    return support_case(recipe, context)


def rank(records):
    return GRADES.index(at_once(records).grade.value)


class TestLibrary(unittest.TestCase):
    def test_pairs_and_baths_are_what_the_trade_says(self):
        for material, model, outcome in PRACTICE:
            with self.subTest(material, model=model):
                self.assertEqual(bond_said(MATERIALS[material], POLYMERS[model]), outcome)
        for material, model, effect in BATHS:
            with self.subTest(material, bath_of=model):
                self.assertEqual(MATERIALS[material].does_to(POLYMERS[model]), effect)

    def test_every_material_can_be_chosen_and_names_known_models_only(self):
        self.assertEqual({key: each.name for key, each in MATERIALS.items()}, SUPPORT_MATERIALS)
        known = {*POLYMERS, *(each.family for each in POLYMERS.values())}
        for key, each in MATERIALS.items():
            named = {model for said in (*each.pairs, *each.attacks) for model in said.models}
            with self.subTest(key):
                self.assertLessEqual(named, known)
                self.assertTrue(each.cautions)
                self.assertTrue(not each.polymer or each.polymer in POLYMERS)

    def test_limits_gaps_hours_and_capacities_lie_beside_practice(self):
        for name, low, high, found in every(figures()):
            with self.subTest(name):
                self.assertTrue(low / 1.5 <= found <= high * 1.5, found)


class TestWorseIsNeverBetter(unittest.TestCase):
    def test_fewer_reached_or_more_hanging_places_never_grade_better(self):
        for way in ("grid", "breakaway", "soluble", "none"):
            base = changed(opened(CLAMP), {"supports.way": way})
            for shapes in itertools.pairwise((ALONE, saddle(), saddle(reached=0.4), saddle(reached=0.4, open=0.0))):
                better, worse = (rank(changed(base, {"part.shape": each})) for each in shapes)
                with self.subTest(way):
                    self.assertLessEqual(worse, better)

    def test_a_part_nobody_looked_at_is_asked_about_and_never_grades_better_than_one_without_overhangs(self):
        base = changed(opened(CLAMP), {"supports.way": None})
        blank = changed(base, {"context.part": None})
        found = at_once(blank)
        self.assertIn("supports.way", {each.field for each in found.completeness.missing})
        self.assertLessEqual(rank(blank), rank(changed(base, {"part.shape": ALONE})))

    def test_a_second_feed_that_is_not_recorded_is_not_offered(self):
        for feeds, wanted in ((None, False), (False, False), (True, True)):
            case = case_of(changed(opened(CLAMP), TAKES | {"machine.two_feeds": feeds}))
            second = [each for each in case.ways if each.key in ("breakaway", "soluble")]
            with self.subTest(feeds=feeds):
                self.assertTrue(second)
                self.assertEqual(any(each.is_possible for each in second), wanted)

    def test_an_untried_pair_is_never_proposed_and_a_bath_that_attacks_never_either(self):
        ways = (
            (model, way) for model in POLYMERS
            for way in case_of(changed(opened(CLAMP), {"machine.two_feeds": True, "polymer": model})).ways
        )  # fmt: skip
        for model, way in every(each for each in ways if each[1].material is not None and each[1].is_possible):
            with self.subTest(model, way=way.title):
                self.assertIn(bond_said(way.material, POLYMERS[model]), ("breaks", "coupon"))
                self.assertNotIn(way.material.does_to(POLYMERS[model]), ("cracks", "dissolves"))

    def test_a_fuller_older_or_unknown_bath_never_grades_better_nor_finds_less(self):
        base = changed(opened(CLAMP), cases.ON_ASA | cases.IN_TANK)

        def found(**changes):
            records = changed(base, {"baths/bath_t2": cases.tank(**changes)})
            return rank(records), -sum(each.startswith("supports.bath.") for each in codes_of(records))

        for chain in (
            [{"taken_g": grams} for grams in (0.0, 20.0, 60.0, 90.0)],
            [{"mixed_utc": f"{day}T08:00:00Z"} for day in ("2026-03-01", "2026-02-10", "2026-01-20", "2025-06-01")],
            [{"mixed_utc": "2026-03-01T08:00:00Z"}, {"mixed_utc": ""}],
            [{"volume_ml": volume} for volume in (8000.0, 2000.0, 300.0)],
            [{"volume_ml": 8000.0}, {"volume_ml": None}],
            [{"washes": (Wash(part="lid", supports_g=1.0),)}, {"washes": (Wash(part="lid"),)}],
        ):
            for better, worse in every(itertools.pairwise(found(**each) for each in chain)):
                with self.subTest(chain[0]):
                    self.assertLessEqual(worse, better)

    def test_a_tank_that_is_kept_hotter_than_the_part_stands_is_found_where_the_recipe_sets_no_heat(self):
        base = changed(opened(CLAMP), cases.ON_ASA | cases.IN_TANK | {"supports.bath_c": None})
        glass = POLYMERS["asa"].value("glass_transition_c").value
        for kept, wanted in ((60.0, False), (glass - 5.0, True), (glass + 10.0, True)):
            found = {
                each.code: each
                for each in at_once(changed(base, {"baths/bath_t2": cases.tank(warm_c=kept)})).findings()
            }
            with self.subTest(kept):
                self.assertEqual("supports.bath.softens" in found, wanted)
                if wanted:
                    self.assertEqual(found["supports.bath.softens"].values["bath"], kept)

    def test_another_bath_is_offered_only_where_it_is_right_fresh_and_has_room(self):
        full = {"baths/bath_t2": cases.tank(taken_g=80.0)}
        base = changed(opened(CLAMP), cases.ON_ASA | cases.IN_TANK | full)
        for other, wanted in (
            ({}, 1), ({"taken_g": 74.9}, 0), ({"material": "pva"}, 0), ({"mixed_utc": "2025-06-01T08:00:00Z"}, 0),
            ({"mixed_utc": ""}, 0), ({"washes": (Wash(part="lid"),)}, 0), ({"volume_ml": None}, 0),
        ):  # fmt: skip
            spare = attrs.evolve(cases.tank(**other), id="t5", name="T-5")
            records = changed(base, {"baths/t5": spare, "baths/bath_w1": None})
            finding = next(each for each in at_once(records).findings() if each.code == "supports.bath.full")
            with self.subTest(other):
                self.assertEqual(sum(isinstance(each, Choose) for each in finding.remedies), wanted)


class TestAfterwards(unittest.TestCase):
    def steps(self, **changes):
        recipe, context = recipe_and_context(changed(opened(CLAMP), changes))
        return steps_after(recipe, context)

    def test_steps_follow_the_way_and_what_drinks_is_dried_longer_and_conditioned(self):
        grid = self.steps()
        self.assertEqual([each.what for each in grid], ["Take supports off"])
        bath = self.steps(**cases.ON_ASA, **{"supports.material": "alkali_acrylic"})
        self.assertEqual([each.what.split(":")[0] for each in bath],
                         ["Weigh it, dry", "Bath", "Rinse and wipe", "Dry it until it is level", "Weigh it twice",
                          "Inspect it"])  # fmt: skip
        wet = self.steps(**PVA, polymer="pa6")
        self.assertIn("Condition it", [each.what for each in wet])
        dries = [next(each.waits.value for each in found if each.what.startswith("Dry")) for found in (bath, wet)]
        self.assertLess(dries[0], dries[1])
        self.assertEqual(self.steps(**{"supports.way": "none"}), ())

    def test_copies_take_their_own_work_and_what_is_not_seen_takes_twice_the_look(self):
        def look(**changes):
            return self.steps(**PVA, **changes)[-1].minutes.value

        self.assertEqual(look(**{"supports.contrast": None}), 2.0 * look(**{"supports.contrast": True}))
        self.assertEqual(look(**{"plate.copies": 4.0}), 4.0 * look(**{"plate.copies": 1.0}))
        two = self.steps(**{"part.decided": (decision("skin", layer_mm=0.3), decision("drawn", SADDLE.overhangs[1]))})
        self.assertEqual([each.what for each in two][:2], ["Drill 1 skin open", "Cut drawn supports out"])


class TestWays(unittest.TestCase):
    def test_all_of_it_in_a_second_polymer_takes_more_of_everything_than_its_contact(self):
        ways = {each.title: each for each in case_of(changed(opened(CLAMP), TAKES)).ways if each.material}
        self.assertTrue(ways)
        for title, each in ways.items():
            if each.contact_only:
                whole = ways[title + ", all of it"].cost
                with self.subTest(title):
                    self.assertLess(each.cost.changes, whole.changes)
                    self.assertLess(each.cost.machine_h, whole.machine_h)
                    self.assertLess(each.cost.on_part_g + each.cost.purge_g, whole.grams)

    def test_each_way_that_is_offered_takes_the_finding_away_and_costs_what_it_says(self):
        records = changed(opened(CLAMP), TAKES | {"supports.way": "none"})
        finding = next(each for each in at_once(records).findings() if each.code == "supports.place.unheld")
        offered = [each for each in finding.remedies if isinstance(each, Set)]
        self.assertGreaterEqual(len(offered), 2)
        money = [each.values["money"] for each in offered]
        self.assertEqual(money, sorted(money), "the cheapest first")
        for remedy in offered:
            after = changed(records, dict(remedy.changes))
            with self.subTest(remedy.values["way"]):
                self.assertNotIn("supports.place.unheld", codes_of(after))
                self.assertEqual(codes_of(after, "stop") - codes_of(records, "stop"), set())
                chosen = case_of(after).chosen
                self.assertEqual(chosen.title, remedy.values["way"])
                self.assertAlmostEqual(chosen.each, remedy.values["money"], delta=0.2 * chosen.each)

    def test_where_scars_matter_the_ways_that_leave_none_come_first(self):
        for sides, first in (("free", {False, True}), ("sealing", {False})):
            ways = case_of(changed(opened(CLAMP), TAKES | {"part.sides": sides, "supports.gap_mm": 0.0})).ways
            possible = [each for each in ways if each.is_possible]
            scarred = [each.cost.scar_mm2 > 0.0 for each in possible]
            with self.subTest(sides):
                self.assertIn(scarred[0], first)
                self.assertEqual(scarred != sorted(scarred), sides == "free", "by money alone")

    def test_out_of_reach_leaves_the_bath_and_a_closed_hollow_leaves_nothing(self):
        two = TAKES | {"supports.way": "grid"}
        for shape, kinds in ((saddle(reached=0.2), {"soluble"}), (saddle(reached=0.2, open=0.0), set())):
            case = case_of(changed(opened(CLAMP), two | {"part.shape": shape}))
            self.assertEqual({each.key for each in case.ways if each.is_possible}, kinds)

    def test_what_is_decided_on_a_place_is_kept_to_and_its_price_told(self):
        base = opened(CLAMP)
        for what, wanting, severity in (("leave", 2, "stop"), ("drawn", 2, None), ("hold", 3, None)):
            records = changed(base, {"part.decided": (decision(what),)})
            case = case_of(records)
            told = next((each for each in at_once(records).findings() if each.code == "supports.place.left"), None)
            with self.subTest(what):
                self.assertEqual(len(case.needs), wanting)
                self.assertEqual(told and told.severity, severity)
        gentle = saddle(steps=(), span_mm=0.0, out_mm=0.0)
        asked = changed(base, {"part.shape": gentle, "part.decided": (decision("hold"),)})
        self.assertEqual([each.sort for each in case_of(asked).needs], ["asked"])
        self.assertNotIn("supports.way.needless", codes_of(asked))

    def test_a_coupon_of_ones_own_decides_what_is_held(self):
        slope = Steep(angle_deg=50.0, area_mm2=200.0, flat_mm2=150.0, column_mm3=900.0, onto_mm2=0.0)
        leans = changed(opened(CLAMP), {"part.shape": saddle(steps=(slope,), span_mm=0.0, out_mm=0.0)})
        self.assertEqual(len(case_of(leans).needs), 3)
        for limit, wanted in ((49.0, 3), (51.0, 0)):
            own = Calibration(id="c", machine="tarn", kind="overhang", lot="lot_c077",
                              values={"limit_deg": limit, "fan_pct": 0.0}, done_utc="2026-02-20T08:00:00Z")  # fmt: skip
            with self.subTest(limit=limit):
                self.assertEqual(len(case_of(changed(leans, {"calibrations/c": own})).needs), wanted)

    def test_the_picture_numbers_the_places_of_the_findings_and_marks_what_stays_in(self):
        records = changed(opened(CLAMP), {"part.shape": saddle(reached=0.2)})
        recipe, context = recipe_and_context(records)
        drawn = picture(recipe, context)
        self.assertEqual([each.number for each in drawn.places], [1, 2, 3])
        self.assertEqual({each.reach for each in drawn.places}, {"unreached"})
        self.assertEqual({each.standing for each in drawn.places}, {"stop"})
        areas = [area for _, area in drawn.lean]
        self.assertEqual(areas, sorted(areas, reverse=True), "less leans by more")

    def test_what_stands_against_it_is_told_when_it_is_set_all_the_same(self):
        found = codes_of(changed(opened(CLAMP), PVA | {"polymer": "pc", "heat.chamber_c": 70.0}))
        self.assertLessEqual({"supports.pair.untried", "supports.pair.heat"}, found)
