"""The machine as it is: worse parts, less power, closer plastic and less knowledge never give a milder verdict."""

import unittest

import attrs

from kaustos.app.wording import Wording
from kaustos.core.records import Feeding, Layer, NearPart, PartChange
from kaustos.core.review import Advice, Estimate, Set
from kaustos.core.review.machine.passport_findings import PEAK, heat_needed
from tests.support import at_once, changed, codes_of, judged, opened, operation_of, recipe_and_context

ORDER = ("", "watch", "stop")
CARD, MACHINE = "packer_ring", "crag"


def severity(records, code):
    """How bad a finding is, nothing where it is not there."""
    found = [each.severity for each in at_once(records).findings() if each.code == code]
    return ORDER.index(found[0]) if found else 0


def figure(records, key):
    found = operation_of(at_once(records), "machine").figures
    return next(each.value for each in found if each.key == key)


class TestWorseIsNeverBetter(unittest.TestCase):
    def rising(self, code, field, values, card=CARD, machine=MACHINE, **more):
        found = [severity(changed(opened(card, machine), {**more, field: each}), code) for each in values]
        self.assertEqual(found, sorted(found), (code, values))
        self.assertLess(found[0], found[-1], "the values are such that it matters")

    def test_less_heater_power(self):
        self.rising("machine.nozzle.heater_weak", "machine.nozzle.heater.power_w", (200.0, 70.0, 45.0, 20.0))
        self.rising("machine.plate.heater_weak", "machine.plate.heater.power_w", (900.0, 20.0, 4.0))
        self.rising("machine.chamber.heater_weak", "machine.chamber.heater.power_w", (900.0, 200.0, 100.0, 20.0))

    def test_closer_and_softer_plastic(self):
        parts = [(NearPart(name="Duct", place="nozzle", softens_c=160.0, clearance_mm=each),)
                 for each in (60.0, 20.0, 8.0, 1.0)]  # fmt: skip
        self.rising("machine.near.softens", "machine.near", parts)
        soft = [
            (NearPart(name="Duct", place="nozzle", softens_c=each, clearance_mm=8.0),) for each in (300.0, 170.0, 80.0)
        ]
        self.rising("machine.near.softens", "machine.near", soft)

    def test_a_clearance_that_is_not_known_is_taken_for_none(self):
        known, unknown = ((NearPart(name="Duct", place="nozzle", softens_c=170.0, clearance_mm=each),)
                          for each in (4.0, None))  # fmt: skip
        near = [severity(changed(opened(CARD, MACHINE), {"machine.near": each}), "machine.near.softens")
                for each in (known, unknown)]  # fmt: skip
        self.assertLessEqual(near[0], near[1])

    def test_a_duct_beside_a_hot_nozzle_is_no_matter_of_the_chamber(self):
        duct = (NearPart(name="Duct", place="nozzle", softens_c=105.0, clearance_mm=5.0),)
        records = changed(opened("winch_bracket", "gill"), {"machine.near": duct, "heat.chamber_c": None})
        self.assertGreater(severity(records, "machine.near.softens"), 0)
        self.assertEqual(severity(records, "machine.chamber.parts_soften"), 0)

    def test_more_fibre_fed_and_a_heavier_part(self):
        fed = [(Feeding(grams=each, filler="carbon", at_utc="2026-01-01T08:00:00Z"),) for each in (0.0, 150.0, 5_000.0)]
        self.rising("machine.nozzle.worn", "nozzle.fed", fed, "cable_guide", "beck")
        self.rising("machine.nozzle.wears_out", "brief.mass_g", (20.0, 320.0, 9_000.0), "winch_bracket", "beck")

    def test_a_nozzle_of_unknown_metal_is_judged_no_milder_than_brass(self):
        records = changed(opened("winch_bracket", "beck"), {"context.nozzle": "nozzle_b11"})
        first = {}  # the least mass that each is told to wear out over
        for material in ("brass", None):
            for mass in (40.0, 60.0, 90.0, 130.0, 200.0, 300.0, 450.0, 700.0):
                told = changed(records, {"nozzle.material": material, "brief.mass_g": mass})
                if "machine.nozzle.wears_out" in codes_of(told):
                    first[material] = mass
                    break
        self.assertLess(first[None], first["brass"], "where it is not known the least that it may last decides")
        for code in ("machine.nozzle.wears_out", "machine.nozzle.look_due"):
            brass, unknown = (severity(changed(opened("winch_bracket", "beck"), {"nozzle.material": each}), code)
                              for each in ("brass", None))  # fmt: skip
            self.assertLessEqual(brass, unknown)

    def test_thicker_glass_under_the_part(self):
        stacks = [(Layer(material="glass", thickness_mm=each, loose=True),) for each in (1.0, 8.0, 30.0)]
        more = {"plate.bed_c": 71.0, "context.plate": None}
        code = "machine.plate.surface_below"
        found = [severity(changed(opened("winch_bracket", "gill"), more | {"machine.stack": each}), code)
                 for each in stacks]  # fmt: skip
        self.assertEqual(found, sorted(found))
        self.assertGreater(found[-1], 0)


class TestHeaterPower(unittest.TestCase):
    def test_the_melt_takes_what_its_flow_carries_from_the_room_to_its_heat(self):
        """By hand: grams a second at the peak, times heat capacity, times kelvins; a glass melts no crystals."""
        records = changed(opened("sensor_cage"), {"context.job": None, "brief.mass_g": 100.0})
        watts = []
        for hours in (10.0, 5.0):
            recipe, context = recipe_and_context(changed(records, {"brief.print_h": hours}))
            watts.append(heat_needed(recipe, context).value)
        over_k = recipe.melt.nozzle_c - context.rules.room_c
        by_hand = [PEAK * 100.0 / (hours * 3600.0) * 1.9 * over_k for hours in (10.0, 5.0)]
        self.assertAlmostEqual((watts[1] - watts[0]) / (by_hand[1] - by_hand[0]), 1.0, delta=0.1)
        idle = 0.042 * over_k + 8.3e-5 * over_k**2
        self.assertAlmostEqual((watts[0] - by_hand[0]) / idle, 1.0, delta=0.1)


class TestStaleness(unittest.TestCase):
    def test_a_stale_calibration_widens_the_true_heat_and_is_no_longer_judged_by(self):
        fresh = opened("sensor_cage", "tarn")
        stale = changed(fresh, {"machine.changes": (PartChange(part="nozzle_sensor", at_utc="2026-03-01T08:00:00Z"),)})
        before, after = (figure(each, "machine.nozzle.true") for each in (fresh, stale))
        self.assertIsInstance(after, Estimate)
        self.assertGreater(after.high - after.low, 2.0 * (before.high - before.low))
        self.assertIn("stale", after.source)
        cold = {"melt.nozzle_c": 272.0}
        self.assertEqual(severity(changed(fresh, cold), "machine.nozzle.reads_off"), 1)
        self.assertEqual(severity(changed(stale, cold), "machine.nozzle.reads_off"), 0)
        self.assertEqual(severity(changed(stale, cold), "machine.calibration.stale"), 1)

    def test_a_display_that_shows_too_much_is_set_higher_by_just_that(self):
        records = changed(opened("sensor_cage", "tarn"), {"melt.nozzle_c": 272.0, "nozzle.material": "brass"})
        finding = next(each for each in judged(records)[2].findings() if each.code == "machine.nozzle.reads_off")
        remedy = next(each for each in finding.remedies if isinstance(each, Set))
        self.assertEqual(
            remedy.changes["melt.nozzle_c"], 270.0 + 4.0, "lower end of the window and 4 K that it shows too much"
        )


class TestUpgradeOffers(unittest.TestCase):
    def test_a_stop_offers_the_cheapest_changes_with_their_bill(self):
        found = judged(opened("winch_bracket", "beck"))[2].findings()
        words = [Wording().remedy(each) for finding in found for each in finding.remedies if isinstance(each, Advice)]
        self.assertTrue(any("All-metal hot end" in each and "123 €" in each for each in words), words)

    def test_without_a_catalogue_nothing_of_the_kind_is_offered(self):
        records = opened("winch_bracket", "beck").with_tables(upgrades={})
        titles = [each.title for finding in judged(records)[2].findings() for each in finding.remedies
                  if isinstance(each, Advice)]  # fmt: skip
        self.assertFalse([each for each in titles if each.startswith("Change {names")])


class TestNozzleInReach(unittest.TestCase):
    def test_a_brass_tip_holds_a_hot_machine_back(self):
        records = changed(opened("probe_head_shell", "crag"), {"context.nozzle": "nozzle_b11"})
        finding = next(each for each in judged(records)[2].findings() if each.code == "machine.nozzle.beyond_reach")
        self.assertEqual((finding.values["reach"], finding.values["bottleneck"]), (300.0, "nozzle tip"))

    def test_the_one_that_is_fitted_counts_where_none_is_asked_for(self):
        _, context = recipe_and_context(opened("probe_head_shell", "tarn"))
        self.assertEqual(context.nozzle.id, "nozzle_s04")
        bare = opened("probe_head_shell", "tarn")
        off = bare.with_tables(nozzles={key: attrs.evolve(each, fitted_on=None) for key, each in bare.nozzles.items()})
        self.assertIsNone(judged(off)[1].nozzle)


if __name__ == "__main__":
    unittest.main()
