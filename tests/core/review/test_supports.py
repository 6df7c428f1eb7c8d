"""Operation 80 judged like an engineer: unknown is never fine, ways that are offered do what they say."""

import itertools
import unittest

from kaustos.core.records import SUPPORT_MATERIALS, Calibration, Steep
from kaustos.core.review import GRADES, Set
from kaustos.core.review.supports import picture, support_case
from kaustos.core.review.supports.case import bond_said
from kaustos.library import load
from tests.core.review.cases import ALONE, CLAMP, PVA, decision, saddle
from tests.support import at_once, changed, codes_of, judged, opened
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
    recipe, context, _ = judged(records)
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
        for name, low, high, found in figures():
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
        for model in POLYMERS:
            case = case_of(changed(opened(CLAMP), {"machine.two_feeds": True, "polymer": model}))
            for way in case.ways:
                if way.material is not None and way.is_possible:
                    with self.subTest(model, way=way.title):
                        self.assertIn(bond_said(way.material, POLYMERS[model]), ("breaks", "coupon"))
                        self.assertNotIn(way.material.does_to(POLYMERS[model]), ("cracks", "dissolves"))


class TestWays(unittest.TestCase):
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
                self.assertAlmostEqual(chosen.cost.money, remedy.values["money"], delta=0.2 * chosen.cost.money)

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
        recipe, context, _ = judged(records)
        drawn = picture(recipe, context)
        self.assertEqual([each.number for each in drawn.places], [1, 2, 3])
        self.assertEqual({each.reach for each in drawn.places}, {"unreached"})
        self.assertEqual({each.standing for each in drawn.places}, {"stop"})
        areas = [area for _, area in drawn.lean]
        self.assertEqual(areas, sorted(areas, reverse=True), "less leans by more")

    def test_what_stands_against_it_is_told_when_it_is_set_all_the_same(self):
        found = codes_of(changed(opened(CLAMP), PVA | {"polymer": "pc", "heat.chamber_c": 70.0}))
        self.assertLessEqual({"supports.pair.untried", "supports.pair.heat"}, found)
