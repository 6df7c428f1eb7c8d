"""Windows, programmes, growth and loads of an anneal."""

import doctest
import itertools
import unittest

import attrs
import numpy as np

from kaustos.core.planning import growth
from kaustos.core.planning.anneal_programme import Load, Programme, Step, as_programme, window_of
from kaustos.core.planning.annealing import annealed, hold_wanted_h, is_enough, outcome_of, ramp_limit
from kaustos.core.planning.growth import by_water, density_change, growth_of, print_at
from kaustos.core.planning.oven_load import as_planned, seen_by
from kaustos.core.records import AnnealStep, Growth, OvenLoad, RunSensor
from kaustos.demo.ovens import OVENS
from kaustos.library import load as library
from tests.asserting import every

POLYMERS = library().polymers


def load_tests(loader, tests, pattern):
    tests.addTests(doctest.DocTestSuite(growth))
    return tests


def programme(hold_c, hold_h=2.0, ramp=60.0, cool=45.0, out=60.0):
    return Programme(from_c=21.0, steps=(Step(ramp_k_h=ramp, hold_c=hold_c, hold_h=hold_h),), cool_k_h=cool, out_c=out)


def enough(key, hold, hours, *, strict):
    """Whether so many hours leave a wall of 5 mm annealed."""
    load, plan = Load(wall_mm=5.0), programme(hold, hours)
    return is_enough(annealed(plan, load, POLYMERS[key]), plan, load, POLYMERS[key], strict=strict)


class TestWindow(unittest.TestCase):
    def test_every_polymer_of_the_library_has_a_window_in_its_order(self):
        for key, polymer in POLYMERS.items():
            with self.subTest(key):
                window = window_of(polymer)
                self.assertIsNotNone(window)
                self.assertTrue(window.low < window.aim < window.high < window.lost)

    def test_a_glass_is_held_close_below_its_transition_and_a_crystal_far_below_melting(self):
        pc, peek = window_of(POLYMERS["pc"]), window_of(POLYMERS["peek"])
        self.assertTrue(pc.low > 147.0 - 30.0 and pc.high < 147.0)
        self.assertTrue(peek.low > 143.0 and peek.high < 343.0 - 60.0)

    def test_nothing_is_said_of_a_polymer_whose_transitions_are_not_known(self):
        for key in ("pc", "peek"):
            bare = attrs.evolve(POLYMERS[key], values={})
            self.assertIsNone(window_of(bare))
            self.assertIsNone(annealed(programme(150.0), Load(wall_mm=5.0), bare))
            self.assertIsNone(ramp_limit(Load(wall_mm=5.0), bare))


class TestAnnealed(unittest.TestCase):
    def test_a_hold_counts_from_when_the_core_is_there(self):
        """The air holds as long as the likely core takes, then for the hours that were typed."""
        for wall in (3.0, 14.0, 40.0):
            found = annealed(programme(200.0, 3.0), Load(wall_mm=wall, fan=True), POLYMERS["peek"])
            hours, core = found.course.seconds / 3600.0, found.course.core[0]
            there = hours[np.argmax(core >= 197.0)]
            held = found.nodes_h[2] - there
            with self.subTest(wall):
                self.assertAlmostEqual(held, 3.0, delta=0.1)

    def test_the_skin_is_pulled_as_skin_and_core_are_apart_while_it_cools(self):
        peek = POLYMERS["peek"]
        slow, quick = (annealed(programme(200.0, 3.0, cool=each), Load(wall_mm=20.0), peek) for each in (15.0, 30.0))
        self.assertAlmostEqual(quick.pull_mpa / slow.pull_mpa, 2.0, delta=0.25)  # a steady ramp splits them in step
        split = float((quick.course.core[0] - quick.course.skin[0]).max())
        expansion = peek.value("expansion_glassy_um_mk").value * 1e-6
        stiffest = peek.modulus.points[0][1] / (1.0 - 0.45)  # no solid is held more than on both sides
        self.assertLess(quick.pull_mpa, stiffest * expansion * split)
        self.assertGreater(quick.pull_mpa, 0.1 * stiffest * expansion * split)

    def test_thicker_walls_and_sand_wait_longer_and_bear_less_of_a_ramp(self):
        waits, limits = [], []
        for wall in (2.0, 5.0, 12.0, 30.0):
            for pack in ("free", "sand"):
                waits.append(annealed(programme(200.0), Load(wall_mm=wall, pack=pack), POLYMERS["peek"]).waits_h[0])
            limits.append(ramp_limit(Load(wall_mm=wall), POLYMERS["peek"]).ramp_k_h)
        self.assertEqual(sorted(waits[::2]), waits[::2])
        self.assertTrue(all(sand > free for free, sand in zip(waits[::2], waits[1::2], strict=True)))
        self.assertEqual(sorted(limits, reverse=True), limits)

    def test_longer_and_warmer_never_leave_less_crystals_or_more_stress(self):
        tried = (("pla", (70.0, 80.0, 95.0)), ("pekk_a", (165.0, 185.0, 215.0)), ("pc", (125.0, 132.0, 138.0)))
        for key, holds in tried:
            found = {each: annealed(programme(*each), Load(wall_mm=4.0), POLYMERS[key])
                     for each in itertools.product(holds, (0.25, 1.0, 4.0))}  # fmt: skip
            longer = [((hold, less), (hold, more)) for hold in holds for less, more in ((0.25, 1.0), (1.0, 4.0))]
            warmer = [((low, 4.0), (high, 4.0)) for low, high in itertools.pairwise(holds)]
            for less, more in every((*longer, *warmer), 8):
                before, after = found[less], found[more]
                with self.subTest(key, less=less, more=more):
                    self.assertLessEqual(after.stress_at_end.value, before.stress_at_end.value + 1e-9)
                    self.assertLessEqual(after.stress_at_end.high, before.stress_at_end.high + 1e-9)
                    self.assertEqual(after.crystals_at_end is None, key == "pc", "only PC has no crystals")
                    if key != "pc" and less[0] == more[0]:
                        self.assertGreaterEqual(after.crystals_at_end.low, before.crystals_at_end.low - 1e-9)

    def test_below_its_glass_transition_nothing_crystallises(self):
        found = annealed(programme(45.0, 48.0), Load(wall_mm=3.0), POLYMERS["pla"])
        self.assertLess(found.crystals_at_end.value, 0.1)
        self.assertFalse(is_enough(found, programme(45.0, 48.0), Load(wall_mm=3.0), POLYMERS["pla"], strict=False))

    def test_the_hold_that_is_proposed_is_enough_and_a_shorter_one_is_not(self):
        for key, hold in (("pc", 133.0), ("abs", 92.0), ("pei_pc_blend", 172.0)):
            for strict in (False, True):
                wanted = hold_wanted_h(programme(hold), Load(wall_mm=5.0), POLYMERS[key], strict=strict)
                if wanted is None:
                    continue
                with self.subTest(key, strict=strict):
                    self.assertTrue(enough(key, hold, wanted, strict=strict))
                    if wanted > 1.0:
                        self.assertFalse(enough(key, hold, 0.4 * wanted, strict=strict))

    def test_a_strict_judge_never_asks_for_less(self):
        for key, hold in (("pc", 133.0), ("abs", 95.0), ("pei", 203.0)):
            lax, strict = (
                hold_wanted_h(programme(hold), Load(wall_mm=5.0), POLYMERS[key], strict=each) for each in (False, True)
            )
            self.assertTrue(strict is None or strict >= lax)

    def test_unknown_ramps_are_as_steep_as_the_oven_and_an_unknown_hold_is_none(self):
        found = as_programme((AnnealStep(temperature_c=150.0), AnnealStep(hold_h=3.0)), None, None, 300.0, 21.0)
        self.assertEqual(found.steps, (Step(ramp_k_h=300.0, hold_c=150.0, hold_h=0.0),))
        self.assertEqual((found.cool_k_h, found.out_c), (300.0, 150.0))
        self.assertIsNone(as_programme((AnnealStep(hold_h=2.0),), None, None, 300.0, 21.0))


class TestGrowth(unittest.TestCase):
    def loads(self, *shrunk):
        grown = tuple(Growth(name=str(n), x_mm=100.0, after_x_mm=100.0 + each) for n, each in enumerate(shrunk))
        return (OvenLoad(id="a", polymer="peek", grown=grown),)

    def test_without_coupons_the_band_is_wide_and_with_each_it_narrows(self):
        bands = [growth_of(self.loads(*([-0.5] * count)) if count else (), POLYMERS["peek"], "x") for count in range(5)]
        widths = [each.high - each.low for each in bands]
        self.assertGreater(widths[0], 1.0)
        self.assertEqual(sorted(widths, reverse=True), widths)
        self.assertAlmostEqual(bands[3].value, -0.5)

    def test_the_interval_holds_the_next_part_in_nineteen_of_twenty(self):
        rng, held = np.random.default_rng(11), 0
        for _ in range(200):
            parts = rng.normal(-0.6, 0.1, 5)
            found = growth_of(self.loads(*parts[:4]), POLYMERS["peek"], "x")
            held += found.low <= parts[4] <= found.high
        self.assertTrue(180 <= held <= 200, held)

    def test_coupons_of_another_polymer_tell_nothing(self):
        other = growth_of(self.loads(-5.0), POLYMERS["pc"], "x")
        self.assertEqual(other.method, "practice, estimate")

    def test_what_is_printed_at_the_scale_comes_out_as_drawn(self):
        found = growth_of(self.loads(-1.3, -1.1), POLYMERS["peek"], "x")
        scale = print_at(found)
        self.assertAlmostEqual(scale.value * (1.0 + found.value / 100.0), 1.0)
        self.assertTrue(scale.low <= scale.value <= scale.high)

    def test_density_by_water_is_archimedes_and_small_changes_are_no_change(self):
        volume, density = 10.0, 1.30
        body = Growth(mass_g=volume * density, water_g=volume * (density - 0.998),
                      after_g=volume * density, after_water_g=volume * density - 0.998 * volume * 0.985)  # fmt: skip
        self.assertAlmostEqual(by_water(body.mass_g, body.water_g, 0.001).density, density, places=6)
        change, _, says = density_change(body, 0.001)
        self.assertAlmostEqual(change, 100.0 * (1.0 / 0.985 - 1.0), places=3)
        self.assertEqual(says, "denser")
        self.assertEqual(density_change(body, 0.5)[2], "same")
        self.assertIsNone(by_water(3.0, 4.0, 0.01))
        self.assertIsNone(density_change(Growth(mass_g=1.0), 0.01))
        for lost in ("mass_g", "water_g", "after_g", "after_water_g"):
            self.assertIsNone(density_change(attrs.evolve(body, **{lost: None}), 0.001), lost)


class TestLoad(unittest.TestCase):
    STEPS = (AnnealStep(temperature_c=200.0, hold_h=3.0, ramp_k_h=60.0),)

    def load(self, sensors, witness="", **changes):
        made = OvenLoad(id="a", oven="oven_o1", polymer="peek", steps=self.STEPS, wall_mm=14.0, packed="free",
                        sensors=sensors, witness=witness, out_c=60.0, ended_utc="2026-03-01T20:00:00Z")  # fmt: skip
        return attrs.evolve(made, **changes)

    def sensor(self, held_h, hold_c=200.0, name="oven"):
        hours = np.array([0.0, 3.0, 3.0 + held_h, 7.0 + held_h])
        at = np.linspace(0.0, hours[-1], 120)
        air = np.interp(at, hours, [21.0, hold_c, hold_c, 45.0])
        return RunSensor(name=name, hours=tuple(at.tolist()), shown_c=tuple(air.tolist()))

    def test_the_air_alone_is_not_what_the_core_saw(self):
        oven, peek = OVENS["oven_o1"], POLYMERS["peek"]
        by_air = seen_by(self.load((self.sensor(3.0),)), oven, peek)
        by_witness = seen_by(self.load((self.sensor(3.0),), "oven"), oven, peek)
        self.assertEqual((by_air.by, by_witness.by), ("air", "witness"))
        self.assertLess(by_air.held_h, by_witness.held_h - 0.3)

    def test_of_several_sensors_the_witness_is_followed_wherever_it_stands(self):
        oven, peek = OVENS["oven_o1"], POLYMERS["peek"]
        air, core = self.sensor(3.0), self.sensor(2.0, name="dummy")
        for sensors in ((air, core), (core, air)):
            found = seen_by(self.load(sensors, "dummy"), oven, peek)
            alone = seen_by(self.load((core,), "dummy"), oven, peek)
            self.assertEqual((found.by, found.held_h), ("witness", alone.held_h))
        unnamed = seen_by(self.load((air, core), "lost"), oven, peek)
        self.assertEqual((unnamed.by, unnamed.held_h), ("air", seen_by(self.load((air,)), oven, peek).held_h))

    def test_short_cold_and_hot_loads_are_said(self):
        oven, peek = attrs.evolve(OVENS["oven_o1"], offset_k=0.0), POLYMERS["peek"]
        for name, sensor, says in (
            ("as planned", self.sensor(4.2), ()), ("short", self.sensor(1.0), ("short",)),
            ("never", self.sensor(6.0, 180.0), ("never",)), ("hot", self.sensor(5.0, 212.0), ("hot",)),
        ):  # fmt: skip
            with self.subTest(name):
                self.assertEqual(seen_by(self.load((sensor,)), oven, peek).says, says)

    def test_an_oven_that_shows_too_much_is_corrected_by_its_offset(self):
        low = attrs.evolve(OVENS["oven_o1"], offset_k=-12.0)
        self.assertIn("never", seen_by(self.load((self.sensor(4.2),)), low, POLYMERS["peek"]).says)

    def test_nothing_is_said_without_sensors_holds_or_a_section(self):
        oven, peek = OVENS["oven_o1"], POLYMERS["peek"]
        self.assertIsNone(seen_by(self.load(()), oven, peek))
        self.assertIsNone(seen_by(self.load((self.sensor(3.0),), steps=()), oven, peek))
        self.assertIsNone(seen_by(self.load((self.sensor(3.0),), wall_mm=None), oven, peek))
        self.assertIsNotNone(seen_by(self.load((self.sensor(3.0),), "oven", wall_mm=None), oven, peek))

    def test_the_plan_of_a_load_holds_its_core_as_long_as_it_says(self):
        plan = as_planned(self.load(()), OVENS["oven_o1"], POLYMERS["peek"], 21.0)
        hours = np.linspace(0.0, plan.nodes[-1][0] / 3600.0, 200)
        air = np.interp(hours * 3600.0, *zip(*plan.nodes, strict=True))
        sensor = RunSensor(name="oven", hours=tuple(hours.tolist()), shown_c=tuple(air.tolist()))
        seen = seen_by(self.load((sensor,)), attrs.evolve(OVENS["oven_o1"], offset_k=0.0), POLYMERS["peek"])
        self.assertAlmostEqual(seen.held_h, 3.0, delta=0.3)
        self.assertEqual(seen.says, ())

    def test_crystals_and_stress_of_a_measured_core_are_those_of_a_followed_one(self):
        peek = POLYMERS["peek"]
        found = annealed(programme(200.0, 2.0), Load(wall_mm=1.0, fan=True), peek)
        crystals, stress = outcome_of(peek, found.course.seconds, found.course.core[0])
        self.assertAlmostEqual(crystals.value, found.crystals_at_end.value, delta=0.02)
        self.assertAlmostEqual(stress.value, found.stress_at_end.value, delta=0.03)
