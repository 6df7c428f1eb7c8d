"""Specimens, tones, sizes and the next trial: against curves, bars, parts and truths made up outside the code."""

import doctest
import math
import unittest

import numpy as np

from kaustos.core.errors import KaustosError
from kaustos.core.estimates import PROOF
from kaustos.core.planning import evidence, sizes, specimens, tone, trial_plan
from kaustos.core.planning.sizes import line_of, round_by_diameters, round_of
from kaustos.core.planning.specimens import Curve, group_of, pulled, rate_of, ratio_of
from kaustos.core.planning.tone import Bar, stiffness_of, tone_of, tone_wanted
from kaustos.core.planning.trial_plan import Factor, Result, propose
from kaustos.core.records import Proof, ProofRow


def load_tests(loader, tests, pattern):
    for module in (evidence, specimens, tone, sizes, trial_plan):
        tests.addTests(doctest.DocTestSuite(module))
    return tests


def pull(modulus=2500.0, strength=48.0, toe=0.0, width=10.0, thick=4.0, **more):
    """A straight specimen that breaks: force and measured strain."""
    stress = np.concatenate([np.linspace(0.0, strength, 400), [0.1 * strength]])
    strain = toe + stress / modulus
    strain[-1] = strain[-2] + 1e-4
    return Curve(force_n=stress * width * thick, strain=strain, width_mm=width, thick_mm=thick, **more)


class TestPulled(unittest.TestCase):
    def test_modulus_strength_and_strain_at_break_of_a_made_up_curve(self):
        for modulus, strength in ((2500.0, 48.0), (9200.0, 110.0), (38.0, 6.0)):
            found = pulled(pull(modulus, strength))
            with self.subTest(modulus):
                self.assertAlmostEqual(found.modulus_mpa / modulus, 1.0, delta=1e-9)
                self.assertAlmostEqual(found.strength_mpa / strength, 1.0, delta=1e-9)
                self.assertAlmostEqual(found.break_pct, 100.0 * strength / modulus, places=9)

    def test_a_toe_of_settling_grips_is_taken_off(self):
        for toe in (0.0003, 0.001, 0.004):
            found = pulled(pull(toe=toe))
            with self.subTest(toe):
                self.assertAlmostEqual(found.modulus_mpa, 2500.0, delta=1e-6)
                self.assertAlmostEqual(found.toe_pct, 100.0 * toe, places=6)
                self.assertAlmostEqual(found.break_pct, 100.0 * 48.0 / 2500.0, places=6)

    def test_travel_alone_gives_no_modulus_and_a_stated_compliance_gives_the_true_one(self):
        true = pull()
        travel = np.asarray(true.strain) * 50.0 + true.force_n * 2e-5
        values = {"force_n": true.force_n, "travel_mm": travel, "width_mm": 10.0, "thick_mm": 4.0, "gauge_mm": 50.0}
        self.assertIsNone(pulled(Curve(**values)).modulus_mpa)
        self.assertIn("travel only: no modulus", pulled(Curve(**values)).says)
        self.assertAlmostEqual(pulled(Curve(**values, compliance_mm_n=2e-5)).modulus_mpa, 2500.0, delta=1e-6)
        self.assertAlmostEqual(pulled(Curve(**values)).strength_mpa, 48.0, places=9)

    def test_stress_is_on_the_true_section_and_the_nominal_one_is_told_apart(self):
        """1450 N on 10.3 by 4.2 mm are 33.5 MPa; the section as drawn would say 36.3."""
        force = np.linspace(0.0, 1450.0, 50)
        found = pulled(Curve(force_n=force, width_mm=10.3, thick_mm=4.2, drawn_mm2=40.0))
        self.assertAlmostEqual(found.strength_mpa, 33.5, places=1)
        self.assertAlmostEqual(found.nominal_mpa, 36.25, places=2)
        self.assertIsNone(found.break_pct)

    def test_what_is_no_curve_is_refused(self):
        for force, width in ((np.zeros(20), 10.0), (np.array([0.0, np.nan, 3.0]), 10.0), (np.arange(9.0), 0.0)):
            with self.assertRaises(KaustosError):
                pulled(Curve(force_n=force, width_mm=width, thick_mm=4.0))


class TestGroups(unittest.TestCase):
    def test_one_specimen_has_no_interval_and_none_says_nothing(self):
        self.assertIsNone(group_of([31.0]).low)
        with self.assertRaises(KaustosError):
            group_of([])

    def test_the_interval_of_a_ratio_holds_the_truth_in_nineteen_of_twenty(self):
        rng, held = np.random.default_rng(5), 0
        for _ in range(200):
            across, along = rng.normal(18.0, 2.0, 5), rng.normal(48.0, 2.5, 5)
            found = ratio_of(across, along)
            held += found.low <= 18.0 / 48.0 <= found.high
        self.assertTrue(180 <= held <= 199, held)

    def test_worse_specimens_never_give_a_better_ratio(self):
        before = ratio_of([20.0, 21.0, 19.0], [48.0, 50.0])
        after = ratio_of([20.0, 21.0, 15.0], [48.0, 50.0])
        self.assertLess(after.value, before.value)
        self.assertLess(after.low, before.low)
        self.assertIsNone(ratio_of([], [48.0]))
        self.assertIsNone(ratio_of([20.0], [48.0]))

    def test_rates_agree_with_what_is_tabled(self):
        """Clopper and Pearson: 0 of 10 leaves up to 0.3085, 8 of 10 lies between 0.4439 and 0.9748."""
        self.assertAlmostEqual(rate_of(0, 10).high, 0.3085, places=4)
        self.assertAlmostEqual(rate_of(8, 10).low, 0.4439, places=4)
        self.assertAlmostEqual(rate_of(8, 10).high, 0.9748, places=4)
        with self.assertRaises(KaustosError):
            rate_of(3, 2)


def tap(hz, rate, seconds=1.0, decay=0.15, noise=0.0, gain=0.6, seed=3):
    """A recording of a tap: silence, then a dying tone with its second one above it."""
    at = np.arange(int(seconds * rate)) / rate
    quiet = np.zeros(int(0.1 * rate))
    ring = np.exp(-at / decay) * np.sin(2.0 * np.pi * hz * at)
    if 2.76 * hz < 0.45 * rate:
        ring = ring + 0.3 * np.exp(-at / (0.3 * decay)) * np.sin(2.0 * np.pi * 2.76 * hz * at)
    found = np.concatenate([quiet, gain * ring]) + noise * np.random.default_rng(seed).normal(size=quiet.size + at.size)
    return np.clip(found, -1.0, 1.0)


class TestLadder(unittest.TestCase):
    def climbed(self, *shapes, has_part=False, dropped=0):
        """Rungs that count, by key."""
        found = evidence.ladder_of(shapes, has_part, 64.0, 5.0, dropped)
        return [each.key for each in found if each.is_climbed]

    def test_a_new_lot_takes_the_highest_rungs_away_and_no_more_than_there_are(self):
        self.assertEqual(self.climbed("block", "tall"), ["solid", "tall"])
        self.assertEqual(self.climbed("block", "tall", dropped=1), ["solid"])
        self.assertEqual(self.climbed("block", "tall", has_part=True, dropped=1), ["solid", "tall"])
        self.assertEqual(self.climbed("block", "tall", dropped=5), [])
        self.assertEqual(self.climbed(dropped=1), [])


class TestDeadEnds(unittest.TestCase):
    def test_settings_are_near_a_dead_end_where_all_that_is_known_of_it_is(self):
        dead = Proof(id="dead", card="c", nozzle_c=250.0, chamber_c=60.0)
        unknown = Proof(id="unknown", card="c")
        for proof, nozzle, chamber, is_so in (
            (dead, 252.0, 65.0, True), (dead, 252.0, 120.0, False), (dead, 290.0, 60.0, False),
            (dead, 252.0, None, True), (dead, None, None, False), (unknown, 252.0, 65.0, False),
        ):  # fmt: skip
            with self.subTest(proof.id, nozzle=nozzle, chamber=chamber):
                self.assertEqual(evidence.is_near(proof, nozzle, chamber), is_so)


class TestTone(unittest.TestCase):
    def test_the_tone_of_a_made_up_recording_within_half_a_per_cent(self):
        for rate in (8_000.0, 16_000.0, 44_100.0, 96_000.0):
            for hz in (310.0, 1_180.0, 2_650.0):
                for name, more in (("clean", {}), ("noisy", {"noise": 0.05}), ("clipped", {"gain": 2.5})):
                    with self.subTest(rate=rate, hz=hz, kind=name):
                        found = tone_of(tap(hz, rate, **more), rate)
                        self.assertAlmostEqual(found.hz, hz, delta=0.005 * hz)
                        self.assertEqual(found.clipped, name == "clipped")

    def test_how_long_it_rings_is_found(self):
        for decay in (0.05, 0.15, 0.4):
            found = tone_of(tap(900.0, 44_100.0, decay=decay), 44_100.0)
            self.assertAlmostEqual(found.decay_s, decay, delta=0.15 * decay)

    def test_silence_short_recordings_and_tones_too_high_are_refused_by_name(self):
        for samples, words in ((np.zeros(4_000), "silent"), (np.ones(10), "256"), (tap(3_500.0, 8_000.0), "0.4"),
                               (np.zeros(0), "256"), (np.full(4_000, np.nan), "no number")):  # fmt: skip
            with self.assertRaisesRegex(KaustosError, words):
                tone_of(samples, 8_000.0)

    def test_bars_of_known_materials_ring_as_beam_theory_says(self):
        """First free bending tone: 22.373 / (2 pi L²) sqrt(E I / (rho A)), thin bars."""
        for name, modulus, density in (("steel", 207e9, 7850.0), ("aluminium", 70e9, 2700.0), ("glass", 70e9, 2500.0),
                                       ("acrylic", 3.2e9, 1190.0)):  # fmt: skip
            length, width, thick = 0.2, 0.02, 0.003
            hz = 22.373 / (2.0 * math.pi * length**2) * math.sqrt(modulus * thick**2 / 12.0 / density)
            bar = Bar(length_mm=200.0, width_mm=20.0, thick_mm=3.0, mass_g=density * length * width * thick * 1e3)
            with self.subTest(name):
                self.assertAlmostEqual(stiffness_of(bar, hz).value * 1e6, modulus, delta=0.003 * modulus)
                self.assertAlmostEqual(tone_wanted(bar, modulus / 1e6), hz, delta=0.002 * hz)

    def test_doubt_of_the_thickness_widens_the_band_threefold(self):
        bar = {"length_mm": 100.0, "width_mm": 15.0, "thick_mm": 4.0, "mass_g": 7.5}
        narrow, wide = (stiffness_of(Bar(**bar, thick_doubt_mm=each), 900.0) for each in (0.01, 0.1))
        self.assertAlmostEqual(wide.high / wide.value, math.exp(3.0 * 0.1 / 4.0), delta=0.002)
        self.assertLess(narrow.high, wide.high)
        with self.assertRaisesRegex(KaustosError, "five times"):
            stiffness_of(Bar(length_mm=15.0, width_mm=10.0, thick_mm=4.0, mass_g=1.0), 900.0)


class TestByHand(unittest.TestCase):
    def test_blows_are_averaged_over_the_pieces_that_were_counted(self):
        rows = [ProofRow(hand="hammer", group="across", blows=blows, mode=mode)
                for blows, mode in ((2.0, "between"), (None, "through"), (5.0, None))]  # fmt: skip
        (found,) = evidence.by_hand(rows)
        self.assertEqual((found.count, found.mean), (3, 3.5))
        self.assertEqual(evidence.by_hand(rows[1:2])[0].mean, None)
        self.assertEqual(evidence.by_hand([ProofRow(what="length")]), ())


class TestOutOfTolerance(unittest.TestCase):
    def test_a_tolerance_of_its_own_goes_before_the_usual_one(self):
        usual = PROOF["loose"].value
        for own, off, is_out in ((None, 0.9, False), (None, 1.1, True), (2.0, 1.1, False), (0.5, 0.9, True)):
            within = None if own is None else own * usual
            row = ProofRow(what="length", axis="x", nominal_mm=20.0, found_mm=20.0 + off * usual, tolerance_mm=within)
            found = evidence.sized_by(Proof(id="p", sort="size", rows=(row,)))
            with self.subTest(own=own, off=off):
                self.assertEqual(bool(found.out), is_out)


class TestSizes(unittest.TestCase):
    ANGLES = tuple(np.arange(0.0, 360.0, 24.0))

    def test_scale_taper_and_lobes_of_a_made_up_part_lie_in_their_bands(self):
        """200 parts of 2 to 5 lobes: each band holds the truth in 180 to 199."""
        held = dict.fromkeys(("radius", "taper", "lobe"), 0)
        named = 0
        for seed in range(200):
            rng = np.random.default_rng(seed)
            lobes, size, taper = 2 + seed % 4, 20.0 * (1.0 + 0.003 * rng.normal()), 0.06 * rng.normal()
            angle = np.tile(self.ANGLES, 3)
            height = np.repeat((2.0, 22.0, 42.0), len(self.ANGLES))
            turn, lobe = np.radians(angle), 0.05
            radius = (size + taper / 2.0 * (height - 22.0) / 40.0 + lobe * np.cos(lobes * turn + rng.uniform(0.0, 6.0))
                      + 0.08 * np.cos(turn - 1.0) + rng.normal(0.0, 0.012, turn.size))  # fmt: skip
            found = round_of(angle, height, radius)
            named += found.lobes == lobes
            held["radius"] += found.radius.low <= size <= found.radius.high
            held["taper"] += found.taper_mm.low <= taper <= found.taper_mm.high
            held["lobe"] += found.lobe_mm.low <= lobe <= found.lobe_mm.high
        self.assertGreaterEqual(named, 195)
        for name, count in held.items():
            with self.subTest(name):
                self.assertTrue(180 <= count <= 199, count)

    def test_a_caliper_does_not_see_three_lobes_and_says_so(self):
        angle = np.arange(0.0, 180.0, 15.0)
        radius = lambda degrees: 10.0 + 0.1 * np.cos(3.0 * np.radians(degrees))  # noqa: E731
        found = round_by_diameters(angle, radius(angle) + radius(angle + 180.0))
        self.assertAlmostEqual(found.value, 0.0)
        self.assertGreater(found.high, 0.1)
        self.assertIn("unseen", found.method)
        whole = np.arange(0.0, 360.0, 30.0)
        self.assertAlmostEqual(round_of(whole, np.zeros(12), radius(whole)).roundness_mm, 0.2, places=3)

    def test_scale_and_offset_are_told_apart(self):
        rng, held = np.random.default_rng(2), 0
        for _ in range(200):
            nominal = np.array([10.0, 30.0, 60.0, 90.0, 120.0])
            found = line_of(nominal, 0.9962 * nominal + 0.11 + rng.normal(0.0, 0.012, 5))
            held += found.scale.low <= 0.9962 <= found.scale.high and found.offset.low <= 0.11 <= found.offset.high
        self.assertTrue(180 <= held <= 200, held)
        self.assertIsNone(line_of([50.0, 50.0, 50.0], [49.8, 49.9, 49.8]).offset)

    def test_what_cannot_be_is_refused(self):
        for call in (lambda: line_of([], []), lambda: line_of([10.0], [10.0, 11.0]), lambda: line_of([-1.0], [1.0]),
                     lambda: round_of([0.0] * 12, [0.0] * 12, [5.0] * 12),
                     lambda: round_by_diameters([0.0], [5.0])):  # fmt: skip
            with self.assertRaises(KaustosError):
                call()


class TestNextTrial(unittest.TestCase):
    FACTORS = (Factor(field="melt.nozzle_c", low=340.0, high=420.0, step=5.0),
               Factor(field="heat.chamber_c", low=60.0, high=180.0, step=5.0))  # fmt: skip

    def truth(self, seed):
        """A smooth hill somewhere, and a ripple."""
        rng = np.random.default_rng(seed)
        place, wide = rng.uniform(0.1, 0.9, 2), rng.uniform(0.25, 0.6, 2)
        tilt = rng.normal(0.0, 0.3, 2)

        def value(at):
            share = np.array([(at[0] - 340.0) / 80.0, (at[1] - 60.0) / 120.0])
            return float(np.exp(-np.sum(((share - place) / wide) ** 2)) + 0.1 * tilt @ share)

        return value

    def test_it_beats_a_grid_of_as_many_trials_on_fifty_truths(self):
        grid = [(nozzle, chamber) for nozzle in (350.0, 380.0, 410.0) for chamber in (80.0, 120.0, 160.0)]
        every = [(float(a), float(b)) for a in range(340, 421, 5) for b in range(60, 181, 5)]
        won, mine, other = 0, [], []
        for seed in range(50):
            value, rng = self.truth(seed), np.random.default_rng(1000 + seed)
            top = max(value(each) for each in every)
            results: list[Result] = []
            for _ in grid:
                at = propose(self.FACTORS, results).at
                results.append(Result(at=at, value=value(at) + 0.02 * rng.normal()))
            best = max(results, key=lambda each: each.value).at
            best_of_grid = max(grid, key=lambda each: value(each) + 0.02 * rng.normal())
            mine.append(top - value(best))
            other.append(top - value(best_of_grid))
            won += mine[-1] <= other[-1]
        self.assertLess(np.mean(mine), 0.6 * np.mean(other))
        self.assertGreater(won, 33)

    def test_it_never_leaves_its_limits_and_steps_as_the_machine_can(self):
        for seed in range(10):
            value, results = self.truth(seed), []
            for _ in range(6):
                at = propose(self.FACTORS, results).at
                results.append(Result(at=at, value=value(at)))
                for level, factor in zip(at, self.FACTORS, strict=True):
                    self.assertTrue(factor.low <= level <= factor.high)
                    self.assertAlmostEqual(level % 5.0, 0.0)

    def test_the_first_is_the_middle_the_second_an_end_and_a_flat_top_is_done(self):
        one = self.FACTORS[:1]
        self.assertEqual((propose(one, ()).at, propose(one, ()).reason), ((380.0,), "middle"))
        self.assertEqual(propose(one, [Result(at=(380.0,), value=1.0)]).reason, "ends")
        flat = [Result(at=(float(each),), value=-(((each - 382.0) / 40.0) ** 2)) for each in range(340, 421, 5)]
        self.assertEqual(propose(one, flat).reason, "done")

    def test_three_factors_at_once_and_limits_that_are_none_are_refused(self):
        with self.assertRaisesRegex(KaustosError, "two at most"):
            propose((*self.FACTORS, self.FACTORS[0]), ())
        with self.assertRaises(KaustosError):
            Factor(field="x", low=5.0, high=5.0, step=1.0)
