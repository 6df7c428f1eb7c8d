"""Flow, bead and first layer: what the trade answers in one breath, asked of the whole product."""

import unittest

import numpy as np

from kaustos.core.planning.nozzle_life import wear_of
from kaustos.core.records import FILLER_WEARS, Calibration, Nozzle
from kaustos.core.records.nozzle import Fed, band_of
from kaustos.core.review.melt.case import melt_case
from tests.asserting import every
from tests.practice.situation import asked, situation

COMMON = {"machine.melt_zone_mm": 13.0, "machine.geared": False, "machine.push_n": None}
LARGE = {"machine.melt_zone_mm": 26.0, "machine.geared": True, "machine.push_n": None}
CARBON = band_of(FILLER_WEARS["carbon"])
AIR = {"pla": 25.0, "petg": 25.0, "tpu": 25.0, "abs": 50.0}


def most(polymer, head, **how):
    """Flow that a head gives, likely [mm³/s]."""
    recipe, context, _ = asked(situation(polymer, air=AIR.get(polymer), **how, **head))
    return float(np.median(melt_case(recipe, context).hard_mm3_s))


def codes(records):
    return {each.code: each.severity for each in asked(records)[2].findings()}


class TestFlow(unittest.TestCase):
    def test_f1_what_heads_give_through_0_4_mm(self):
        for polymer in every(("pla", "abs", "petg")):
            with self.subTest(polymer):
                self.assertTrue(8.0 / 1.5 <= most(polymer, COMMON) <= 14.0 * 1.5)
                self.assertTrue(20.0 / 1.5 <= most(polymer, LARGE) <= 35.0 * 1.5)
                self.assertGreater(most(polymer, LARGE), 1.6 * most(polymer, COMMON))

    def test_f1_a_rubbery_strand_buckles_whatever_the_drive_pushes_of_a_stiff_one(self):
        plain, geared = (most("tpu", head) for head in (COMMON, COMMON | {"machine.geared": True}))
        measured = most("tpu", COMMON | {"machine.geared": True, "machine.push_n": 80.0})
        self.assertLess(plain, geared)
        self.assertAlmostEqual(measured, geared, delta=0.2 * geared)
        self.assertTrue(2.0 / 1.5 <= measured <= 5.0 * 1.5, measured)
        self.assertLess(most("tpu", COMMON | {"machine.geared": True, "machine.push_n": 3.0}), geared)

    def test_f2_usual_beads_and_layers_say_nothing_and_those_beyond_do(self):
        about = ("melt.bead.", "melt.layer.over", "melt.layer.drags")
        for bead, layer, is_usual in ((0.4, 0.1, True), (0.45, 0.2, True), (0.52, 0.3, True), (0.3, 0.2, False),
                                      (0.95, 0.2, False), (0.45, 0.38, False), (0.45, 0.04, False)):  # fmt: skip
            found = [each for each in codes(situation("abs", bead=bead, layer=layer)) if each.startswith(about)]
            with self.subTest(bead=bead, layer=layer):
                self.assertEqual(not found, is_usual, found)

    def test_f3_a_usual_first_layer_is_no_stop(self):
        for polymer in every(("pla", "petg", "abs", "pa12", "pc")):
            nozzle = asked(situation(polymer))[0].melt.nozzle_c
            for height, speed, more in ((0.2, 15.0, 0.0), (0.28, 20.0, 5.0), (0.32, 30.0, 10.0)):
                values = {"first_layer.height_mm": height, "first_layer.speed_mm_s": speed,
                          "first_layer.nozzle_c": nozzle + more}  # fmt: skip
                found = codes(situation(polymer, air=AIR.get(polymer), **values))
                with self.subTest(polymer, height=height):
                    stops = [key for key, each in found.items() if key.startswith("first_layer") and each == "stop"]
                    self.assertEqual(stops, [])

    def test_f4_no_head_gives_a_hundred_and_a_test_that_says_so_is_asked_about(self):
        fast = situation("abs", bead=0.5, layer=0.25, speed=900.0)
        self.assertEqual(codes(fast)["melt.flow.beyond"], "stop")

        def tested(flow):
            test = Calibration(id="flow", machine="crag", kind="flow", lot="spool", done_utc="2026-02-28T08:00:00Z",
                               values={"flow_mm3_s": flow, "at_c": 240.0})  # fmt: skip
            return {"calibrations/flow": test}

        with_test = codes(situation("abs", bead=0.5, layer=0.25, speed=900.0, **tested(120.0)))
        self.assertEqual(with_test["melt.flow.beyond"], "stop", "what cannot be lifts no stop")
        self.assertIn("melt.flow.odd", with_test)
        cold = Calibration(id="flow", machine="crag", kind="flow", lot="spool", done_utc="2026-02-28T08:00:00Z",
                           values={"flow_mm3_s": 30.0, "at_c": 205.0})  # fmt: skip
        said = asked(situation("abs", bead=0.5, layer=0.25, **{"calibrations/flow": cold}))[2].findings()
        odd = next(each for each in said if each.code == "melt.flow.odd")
        self.assertLess(odd.values["most"] * 2.0, 30.0, "what is said beside the test is of the heat of the test")
        self.assertEqual(odd.values["at"], 205.0)
        fine = codes(situation("abs", bead=0.5, layer=0.25, speed=100.0, **tested(15.0)))
        self.assertNotIn("melt.flow.odd", fine)
        self.assertNotIn("melt.flow.beyond", fine)

    def test_a_reserve_of_a_seventh_is_not_told_as_a_core_too_cold_to_pass(self):
        limit, told = most("abs", COMMON, bead=0.5, layer=0.25), []
        for share in (0.5, 0.63, 0.75, 0.86):
            recipe = situation("abs", bead=0.5, layer=0.25, air=50.0, speed=share * limit / 0.1116, **COMMON)
            told += [each for each in asked(recipe)[2].findings() if each.code == "melt.flow.beyond"]
        for each in every(told, 1):
            self.assertEqual((each.severity, each.values["limit"]), ("watch", "it may not be enough"))
        self.assertLess(len(told), 4, "half of what it gives is not spoken of")

    def test_f5_fibre_opens_a_brass_bore_within_a_kilogram_and_steel_stands_ten_times_that(self):
        def kilograms(material):
            nozzle = Nozzle(id="n", material=material, bore_mm=0.4, land_mm=0.6)
            grams = np.geomspace(50.0, 60000.0, 80)
            bores = [wear_of(nozzle, (Fed("2026-02-01T08:00:00Z", float(g), CARBON),)).bore().value for g in grams]
            return float(grams[np.searchsorted(bores, 0.475)]) / 1e3

        brass, steel = kilograms("brass"), kilograms("hardened")
        self.assertTrue(0.3 / 1.5 <= brass <= 1.0 * 1.5, brass)
        self.assertTrue(10.0 / 1.5 <= steel / brass <= 30.0 * 1.5, steel / brass)
