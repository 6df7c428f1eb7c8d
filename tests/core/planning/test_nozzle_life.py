"""Wear of nozzles: against the closed form, against what looks find, and never better for a worse input."""

import math
import unittest

import numpy as np
from scipy.integrate import quad
from scipy.optimize import brentq

from kaustos.core.physics.wear import loss_at_bore, tip_drop, tip_loss, worn_bore
from kaustos.core.planning.cold_pull import cold_pull
from kaustos.core.planning.nozzle_life import bores_for, colder_k, hardness_of, is_hard, wear_of
from kaustos.core.records import FILLER_WEARS, Feeding, Inspection, Nozzle
from kaustos.core.records.nozzle import Fed, band_of
from kaustos.library import load

CARBON, PLAIN = band_of(FILLER_WEARS["carbon"]), band_of(FILLER_WEARS["none"])
AT = "2026-01-01T08:00:00Z"


def brass(**more):
    return Nozzle(id="n", **({"material": "brass", "bore_mm": 0.4, "land_mm": 0.6, "cone_deg": 60.0} | more))


def fed(grams, filler="carbon"):
    return (Feeding(grams=grams, filler=filler, at_utc=AT),)


class TestWearOfATip(unittest.TestCase):
    def test_the_bore_opens_only_when_the_land_is_gone_then_along_the_cone(self):
        self.assertEqual(float(worn_bore(0.4e-3, 0.6e-3, math.pi / 6, 0.6e-3)), 0.4e-3)
        by_hand = 0.4 + 2.0 * 0.3 * math.tan(math.radians(30.0))
        self.assertAlmostEqual(float(worn_bore(0.4e-3, 0.6e-3, math.pi / 6, 0.9e-3)) * 1e3, by_hand, 12)

    def test_the_loss_at_a_bore_is_the_root_of_the_bore_at_a_loss(self):
        for wide in (0.41e-3, 0.5e-3, 0.9e-3):
            root = brentq(lambda loss, wide=wide: float(worn_bore(0.4e-3, 0.7e-3, 0.6, loss)) - wide, 0.6e-3, 9e-3)
            self.assertAlmostEqual(float(loss_at_bore(0.4e-3, 0.7e-3, 0.6, wide)), root, 10)

    def test_the_loss_adds_up_over_portions_of_filament(self):
        parts = sum(float(tip_loss(mass, 2e-5)) for mass in (0.1, 0.7, 1.2))
        self.assertAlmostEqual(float(tip_loss(2.0, 2e-5)), parts, 15)

    def test_the_drop_along_a_nozzle_is_the_gradient_summed_over_its_length(self):
        summed, _ = quad(lambda _: 5.0 / (25.0 * 35e-6), 0.0, 3e-3)
        self.assertAlmostEqual(float(tip_drop(5.0, 3e-3, 35e-6, 25.0)), summed, 9)


class TestLife(unittest.TestCase):
    def test_the_likely_life_is_land_and_opening_over_the_likely_rate(self):
        opening = 0.05 * 0.4 / 2.0 / math.tan(math.radians(30.0))
        by_hand_g = 1e3 * (0.6 + opening) * 1e3 / (20.0 * 100.0)
        self.assertAlmostEqual(wear_of(brass(), ()).until_end(CARBON).value / by_hand_g, 1.0, delta=0.05)

    def test_claims_of_practice_lie_within_the_band(self):
        for nozzle, filler, low_g, high_g in (
            ("brass", "carbon", 200.0, 1_000.0),
            ("brass", "none", 12_000.0, 40_000.0),
            ("hardened", "carbon", 2_000.0, 8_000.0),
        ):
            with self.subTest(nozzle, filler=filler):
                left = wear_of(brass(material=nozzle), ()).until_end(band_of(FILLER_WEARS[filler]))
                self.assertLess(left.low, low_g)
                self.assertGreater(left.high, high_g)
                self.assertTrue(low_g <= left.value <= high_g)

    def test_more_grams_worse_filler_and_softer_metal_never_leave_more(self):
        left = [wear_of(brass(fed=fed(grams)), ()).until_end(CARBON) for grams in (0.0, 20.0, 100.0, 300.0, 2000.0)]
        for key in ("low", "value", "high"):
            values = [getattr(each, key) for each in left]
            self.assertEqual(values, sorted(values, reverse=True))
        by_filler = [
            wear_of(brass(fed=fed(500.0, each)), ()).until_end(PLAIN).value for each in ("none", "white", "carbon")
        ]
        self.assertEqual(by_filler, sorted(by_filler, reverse=True))
        ordered = sorted(("brass", "coated", "hardened", "carbide"), key=lambda each: hardness_of(each)[1])
        by_metal = [wear_of(brass(material=each), ()).until_end(CARBON).value for each in ordered]
        self.assertEqual(by_metal, sorted(by_metal, reverse=True))

    def test_a_metal_that_is_not_known_is_no_better_than_brass_and_not_hard(self):
        unknown, known = (wear_of(brass(material=each), ()).until_end(CARBON) for each in (None, "brass"))
        self.assertLessEqual(unknown.value, known.value)
        self.assertFalse(is_hard(brass(material=None)) or is_hard(brass()) or is_hard(None))
        self.assertTrue(is_hard(brass(material="hardened")))

    def test_runs_count_like_what_was_fed_by_hand(self):
        by_run = wear_of(brass(), (Fed(AT, 150.0, CARBON),)).lost()
        by_hand = wear_of(brass(fed=fed(150.0)), ()).lost()
        self.assertEqual(by_run, by_hand)

    def test_a_land_that_is_not_recorded_widens_the_band(self):
        known, guessed = (wear_of(brass(land_mm=each), ()).until_end(PLAIN) for each in (0.7, None))
        self.assertGreater(guessed.high / guessed.low, known.high / known.low)


class TestLooks(unittest.TestCase):
    def looked(self, grams, at=AT, **found):
        return wear_of(brass(fed=fed(grams), inspections=(Inspection(at_utc=at, **found),)), ())

    def test_a_measured_loss_is_what_is_believed_and_narrows_the_band(self):
        never = wear_of(brass(fed=fed(200.0)), ()).lost()
        for found in (0.15, 0.3, 0.6):
            lost = self.looked(200.0, lost_mm=found).lost()
            with self.subTest(found):
                self.assertTrue(lost.low <= 1e3 * found <= lost.high)
                self.assertLess(lost.high - lost.low, 0.5 * (never.high - never.low))

    def test_its_own_pace_is_used_from_then_on(self):
        slow, fast = (self.looked(200.0, lost_mm=each).until_end(CARBON).value for each in (0.15, 0.5))
        self.assertGreater(slow, 2.0 * fast)

    def test_looks_that_agree_with_no_rate_are_believed_and_it_is_said(self):
        wear = self.looked(1.0, lost_mm=0.8)
        self.assertFalse(wear.agrees)
        self.assertAlmostEqual(wear.lost().value, 800.0, delta=60.0)
        self.assertIn("do not agree", wear.lost().method)

    def test_a_bore_that_was_found_wide_is_past_its_end(self):
        self.assertEqual(self.looked(300.0, bore_mm=0.5).until_end(PLAIN).value, 0.0)
        self.assertEqual(self.looked(10.0, state="damaged").until_end(PLAIN).high, 0.0)

    def test_a_look_sets_back_what_the_first_layer_shows_and_not_the_end(self):
        before = wear_of(brass(fed=fed(90.0)), ())
        after = self.looked(90.0, at="2026-01-02T08:00:00Z", lost_mm=0.18)
        self.assertEqual(before.until_look(CARBON).value, 0.0)
        self.assertGreater(after.until_look(CARBON).value, 20.0)
        self.assertLess(after.until_end(CARBON).value, wear_of(brass(), ()).until_end(CARBON).value)

    def test_the_stated_band_covers_what_a_made_up_nozzle_really_lost(self):
        rng, inside = np.random.default_rng(5), 0
        for _ in range(200):
            rate = 20.0 * math.exp(math.log(3.0) / 1.96 * rng.standard_normal()) * 1e-3  # mm for each kilogram of plain
            worse = 100.0 * math.exp(math.log(3.0) / 1.96 * rng.standard_normal())
            true_mm = rate * worse * 0.15
            lost = self.looked(150.0, lost_mm=max(0.0, true_mm + 0.03 * rng.standard_normal())).lost()
            inside += lost.low <= 1e3 * true_mm <= lost.high
        self.assertTrue(180 <= inside <= 199, inside)


class TestHeatAndBore(unittest.TestCase):
    def test_hardened_steel_wants_what_practice_adds_to_brass(self):
        colder = colder_k("hardened")
        self.assertTrue(5.0 <= colder.value <= 20.0 and colder.low > 0.0)
        self.assertLess(colder_k("plated_copper").value, 0.0)
        self.assertEqual(colder_k("brass").value, 0.0)

    def test_the_worse_it_conducts_the_colder_the_melt(self):
        shifts = [colder_k(each).value for each in ("plated_copper", "carbide", "hardened", "stainless")]
        self.assertEqual(shifts, sorted(shifts))

    def test_fibres_want_a_bore_and_unfilled_filament_none(self):
        self.assertEqual(bores_for("carbon"), (0.4, 0.6))
        self.assertIsNone(bores_for("none"))

    def test_a_cold_pull_fills_hot_sets_below_and_pulls_just_above_the_glass_transition(self):
        pulled = 0
        for polymer in load().polymers.values():
            steps, why = cold_pull(polymer)
            with self.subTest(polymer.id):
                self.assertEqual(not steps, bool(why))
                if steps:
                    pulled += 1
                    transition = polymer.value("glass_transition_c").value
                    fill, set_c, pull = steps[0].at_c, steps[1].at_c, steps[3].at_c
                    self.assertTrue(set_c < transition < pull < fill)
                    melting = polymer.value("melting_c")
                    self.assertTrue(melting is None or polymer.is_glassy or pull < melting.value)
        self.assertGreater(pulled, 12)


if __name__ == "__main__":
    unittest.main()
