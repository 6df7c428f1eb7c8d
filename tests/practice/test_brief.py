"""The brief asked as an engineer asks: more load, heat or water never helps, and a claim anneals nothing."""

import unittest

import attrs

from kaustos.core.records import AnnealStep
from kaustos.core.records.recipe import Brief
from kaustos.core.review.brief.figures import softening_of
from kaustos.core.review.brief.ranking import rank
from kaustos.core.review.brief.state import as_it_will_be
from kaustos.core.review.contract import GRADES
from tests.practice.situation import asked, situation
from tests.support import RECORDS, load_polymers

POLYMERS = ("petg", "pla", "abs", "asa", "pc", "pei", "ppsu", "peek", "pps_cf", "pa6", "pa12", "pa_cf", "pp", "tpu")
RANK = {"clear": 3, "open": 2, "watch": 1, "stop": 0}


def standing(polymer, history="as_printed", steps=(), **brief):
    """Grade and standing of the brief: more is better."""
    told = {"service_c": 55.0, "stress_mpa": 0.4, "moisture": "dry", "history": history} | brief
    records = situation(polymer, **{f"brief.{key}": each for key, each in told.items()}, **{"anneal.steps": steps})
    _, _, found = asked(records)
    operation = found.operations[0]
    cap = min((GRADES.index(each.grade) for each in operation.caps), default=len(GRADES))
    return cap, RANK[operation.standing]


class TestWorseNeverHelps(unittest.TestCase):
    def falls(self, polymer, name, values, **more):
        found = [standing(polymer, **{name: each}, **more) for each in values]
        with self.subTest(polymer, name=name, **more):
            self.assertEqual(found, sorted(found, reverse=True), f"{polymer} {name}: {values}")

    def test_more_load_or_heat_or_longer_service(self):
        loads = (0.1, 0.44, 0.46, 0.47, 0.8, 1.2, 1.75, 1.86, 2.5, 8.0)
        for polymer in POLYMERS:
            for history in ("as_printed", "annealed"):
                self.falls(polymer, "stress_mpa", loads, history=history, service_c=75.0)
            self.falls(polymer, "service_c", (25.0, 45.0, 60.0, 75.0, 90.0, 120.0, 160.0, 240.0))
            self.falls(polymer, "service_h", (1.0, 100.0, 3000.0, 40_000.0), service_c=60.0)


class TestFirstAnswers(unittest.TestCase):
    """What the trade names first for a purpose, with all machines of the shop or with one."""

    def ranked(self, *machines, **brief):
        told = {"purpose": "tool", "stress_mpa": 0.3, "history": "as_printed", "moisture": "dry"} | brief
        shop = tuple(RECORDS.machines[each] for each in machines or RECORDS.machines)
        found = rank(Brief(**told), load_polymers().values(), shop, RECORDS.rules, tuple(RECORDS.dryers.values()))
        return {each.polymer: (place, each.verdict) for place, each in enumerate(found)}

    def first(self, found, count):
        return {key for key, (place, _) in found.items() if place < count}

    def test_e1_a_loaded_bracket_at_80_on_a_closed_machine_without_a_heater(self):
        for load, moisture in ((0.4, "dry"), (1.5, "dry"), (0.4, "conditioned")):
            found = self.ranked("gill", purpose="loaded", service_c=80.0, stress_mpa=load, moisture=moisture)
            with self.subTest(load=load, moisture=moisture):
                self.assertEqual(self.first(found, 2), {"pa6_gf", "pa_cf"})
                self.assertLess(found["pc_cf"][0], 8)
                self.assertEqual({found[each][1] for each in ("pla", "hips", "petg")}, {"against"})

    def test_e2_a_clip_that_is_sterilised_by_steam(self):
        found = self.ranked(service_c=134.0, moisture="conditioned", chemical="steam")
        self.assertEqual(self.first(found, 3), {"ppsu", "pei", "psu"})
        self.assertEqual(found["peek"][1], "for")
        self.assertEqual({found[each][1] for each in ("pom", "pc", "pa12", "pet_cf", "ppa_cf")}, {"against"})

    def test_e3_a_large_housing_indoors(self):
        found = self.ranked(service_c=60.0, size_x_mm=300.0, size_y_mm=200.0, size_z_mm=80.0)
        self.assertIn(min(("abs", "asa", "pc", "pp", "pa6", "pom", "tpu", "petg"), key=lambda key: found[key][0]),
                      ("abs", "asa"))  # fmt: skip
        self.assertLess(max(found["abs"][0], found["asa"][0]), min(found["pp"][0], found["pa6"][0], found["tpc"][0]))
        small = self.ranked(service_c=60.0, size_x_mm=60.0, size_y_mm=40.0, size_z_mm=20.0)
        self.assertLess(small["pp"][0], found["pp"][0], "what curls is the large one")

    def test_e4_a_gasket_is_rubbery_and_nothing_else(self):
        found = self.ranked(service_c=40.0, character="rubbery")
        self.assertEqual({key for key, (_, verdict) in found.items() if verdict != "against"}, {"tpu", "tpc"})

    def test_e5_a_tank_fitting_for_alkali(self):
        found = self.ranked(service_c=60.0, chemical="alkalis")
        self.assertIn("pp", self.first(found, 3))
        self.assertEqual({found[each][1] for each in ("pc", "petg", "pvdf", "pla", "pet_cf")}, {"against"})

    def test_e6_years_outdoors(self):
        found = self.ranked(purpose="outdoor", service_c=50.0, outdoor=True)
        self.assertEqual(self.first(found, 1), {"asa"})
        self.assertEqual(found["abs"][1], "against")

    def test_e7_a_clear_window(self):
        found = self.ranked(service_c=45.0, stress_mpa=0.2, clear=True)
        self.assertEqual(self.first(found, 2), {"petg", "pc"})
        self.assertEqual({found[each][1] for each in ("abs", "pp", "pa_cf")}, {"against"})

    def test_none_that_does_not_stand_the_service_comes_before_one_that_does(self):
        for service in (40.0, 60.0, 80.0, 110.0, 150.0, 200.0):
            for purpose in ("ornament", "tool", "safety"):
                found = self.ranked(service_c=service, purpose=purpose)
                stands = [place for place, verdict in found.values() if verdict == "for"]
                fails = [place for place, verdict in found.values() if verdict == "against"]
                with self.subTest(service, purpose=purpose):
                    self.assertLess(max(stands, default=-1), min(fails, default=99))


class TestAnAnnealCountsOnlyIfItAnneals(unittest.TestCase):
    def softens(self, polymer, *steps):
        recipe, context, _ = asked(situation(polymer, **{
            "brief.history": "annealed", "brief.moisture": "dry", "brief.stress_mpa": 0.4, "anneal.steps": steps,
        }))  # fmt: skip
        return softening_of(as_it_will_be(recipe, context.polymer).brief, context.polymer)

    def test_a_claim_or_six_minutes_at_forty_lift_no_deflection_temperature(self):
        for polymer in ("pla", "pps_cf", "pa_cf", "peek"):
            made = load_polymers()[polymer]
            glass = made.value("glass_transition_c").value
            printed = attrs.evolve(
                asked(situation(polymer))[0].brief, history="as_printed", moisture="dry", stress_mpa=0.4
            )
            for steps in ((), (AnnealStep(temperature_c=40.0 if glass > 80.0 else glass - 40.0, hold_h=0.1),),
                          (AnnealStep(temperature_c=glass + 10.0, hold_h=0.1),)):  # fmt: skip
                with self.subTest(polymer, steps=steps):
                    self.assertEqual(self.softens(polymer, *steps), softening_of(printed, made))
            done = self.softens(polymer, AnnealStep(temperature_c=glass + 25.0, hold_h=2.0))
            self.assertGreater(done.value, softening_of(printed, made).value)

    def test_where_no_transition_is_known_nothing_counts_as_an_anneal(self):
        steps = (AnnealStep(temperature_c=200.0, hold_h=3.0),)
        recipe, context, _ = asked(situation("peek", **{"brief.history": "annealed", "anneal.steps": steps}))
        values = {key: each for key, each in context.polymer.values.items() if key != "glass_transition_c"}
        unknown = attrs.evolve(context.polymer, values=values)
        self.assertIs(as_it_will_be(recipe, context.polymer), recipe)
        self.assertEqual(as_it_will_be(recipe, unknown).brief.history, "as_printed")

    def test_what_is_claimed_and_not_planned_is_told(self):
        for steps, is_told in (((), True), ((AnnealStep(temperature_c=40.0, hold_h=0.1),), True),
                               ((AnnealStep(temperature_c=200.0, hold_h=3.0),), False)):  # fmt: skip
            _, _, found = asked(situation("peek", **{"brief.history": "annealed", "anneal.steps": steps}))
            codes = {each.code for each in found.findings()}
            self.assertEqual("brief.anneal.not_planned" in codes, is_told, steps)
