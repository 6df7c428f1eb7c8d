"""Whole beads, whole layers, times of layers, ways to the part: arithmetic beside worked examples and limits."""

import math
import unittest

import attrs
import numpy as np

from kaustos.core.planning.bead import bead_section, bonded_share, layer_plan, pitch_of, wall_of, wall_plan
from kaustos.core.planning.layer_times import MOVES, Pace, layer_times, more_time
from kaustos.core.planning.multiplier import CAUSES, ReadingFault, multiplier_of
from kaustos.core.planning.route import near_net_scale, routes_for
from kaustos.core.planning.standing import box_shape

PACE = Pace(width_mm=0.5, height_mm=0.2, speed_mm_s=40.0, walls=3.0, filled=1.0, copies=1.0, least_s=0.0)


class TestBeads(unittest.TestCase):
    def test_a_wall_of_lines_is_less_than_their_widths(self):
        self.assertAlmostEqual(wall_of(3, 0.7, 0.3), 1.97, delta=0.005)  # 0.7 + 2 (0.7 - 0.3 (1 - pi/4))

    def test_beads_laid_at_their_pitch_fill_what_they_cover(self):
        for width, height in ((0.48, 0.2), (0.9, 0.3), (0.6, 0.6)):
            self.assertAlmostEqual(pitch_of(width, height) * height, bead_section(width, height), places=12)

    def test_the_width_that_fills_leaves_nothing_open(self):
        for wall in np.linspace(0.6, 6.0, 40):
            plan = wall_plan(float(wall), 0.5, 0.2)
            self.assertGreaterEqual(plan.beads, 1)
            self.assertAlmostEqual(wall_of(plan.beads, plan.width_mm, 0.2), float(wall), places=9)
            self.assertLessEqual(abs(plan.residual_mm), 0.5 * pitch_of(0.5, 0.2) + 1e-9)

    def test_a_wall_thinner_than_a_bead_vanishes(self):
        self.assertEqual(wall_plan(0.3, 0.5, 0.2).beads, 0)

    def test_layers_divide_the_height_with_the_first_one_apart(self):
        plan = layer_plan(12.5, 0.3, 0.2)
        self.assertEqual(plan.layers, 62)  # 1 + 12.2 / 0.2
        self.assertAlmostEqual(plan.error_mm, 0.0, places=9)
        odd = layer_plan(12.4, 0.3, 0.25)
        self.assertAlmostEqual(0.3 + (odd.layers - 1) * odd.height_mm, 12.4, places=9)

    def test_wider_fuller_flatter_beads_never_bond_less(self):
        by_width = [bonded_share(w, 0.2, 1.0, 0.35, 0.04) for w in (0.2, 0.3, 0.5, 0.9)]
        by_fill = [bonded_share(0.5, 0.2, f, 0.35, 0.04) for f in (0.6, 0.8, 1.0, 1.2)]
        self.assertEqual(by_width, sorted(by_width))
        self.assertEqual(by_fill, sorted(by_fill))
        self.assertTrue(all(0.0 < each <= 1.0 for each in by_width + by_fill))


class TestTimes(unittest.TestCase):
    def test_a_solid_block_takes_its_volume_over_its_flow(self):
        shape = box_shape(40.0, 30.0, 20.0, 1.0)
        found = layer_times(shape, PACE)
        flow = bead_section(0.5, 0.2) * 40.0
        self.assertAlmostEqual(
            float(found.own_s[0]), 40.0 * 30.0 * 0.2 / flow * MOVES, delta=0.01 * float(found.own_s[0])
        )

    def test_copies_and_least_times_stand_beside_each_other(self):
        shape = box_shape(8.0, 8.0, 30.0, 1.0)
        one = float(layer_times(shape, PACE).seconds[0])
        four = float(layer_times(shape, attrs.evolve(PACE, copies=4.0)).seconds[0])
        waits = float(layer_times(shape, attrs.evolve(PACE, least_s=25.0)).seconds[0])
        self.assertAlmostEqual(four, 4.0 * one, places=6)
        self.assertEqual(waits, max(one, 25.0))

    def test_infill_and_walls_never_take_less_when_there_are_more(self):
        shape = box_shape(60.0, 60.0, 20.0, 1.0)
        for name, values in (("filled", (0.1, 0.3, 0.6, 1.0)), ("walls", (1.0, 2.0, 4.0, 8.0))):
            paces = [attrs.evolve(PACE, **({"filled": 0.2} | {name: value})) for value in values]
            times = [float(layer_times(shape, pace).seconds[0]) for pace in paces]
            self.assertEqual(times, sorted(times), name)

    def test_more_time_costs_the_same_by_slowing_and_by_waiting_and_copies_cost_grams(self):
        shape = box_shape(6.0, 6.0, 40.0, 1.0)
        found = {each.key: each for each in more_time(shape, PACE, 20.0, 1.2)}
        self.assertEqual(set(found), {"slow", "wait", "copies", "tower"})
        short = 20.0 - float(layer_times(shape, PACE).seconds[0])
        self.assertAlmostEqual(found["wait"].minutes, short * 200.0 / 60.0, delta=0.05 * found["wait"].minutes)
        self.assertEqual(found["wait"].minutes, found["slow"].minutes)
        part = 6.0 * 6.0 * 40.0 / 1e3 * 1.2
        self.assertAlmostEqual(
            found["copies"].grams, (found["copies"].value - 1.0) * part, delta=0.06 * found["copies"].grams
        )
        self.assertGreater(found["tower"].grams, 0.0)

    def test_a_pin_whose_layers_last_a_third_of_a_second_wants_copies_by_its_own_time(self):
        shape = box_shape(2.0, 2.0, 30.0, 1.0)
        own = float(layer_times(shape, PACE).seconds.min())
        self.assertLess(own, 0.5)
        copies = next(each.value for each in more_time(shape, PACE, 12.0, 1.2) if each.key == "copies")
        self.assertEqual(copies, math.ceil(12.0 / own))


class TestMultiplier(unittest.TestCase):
    def test_the_half_width_is_students_for_any_number_of_readings(self):
        from scipy.stats import t

        wall = wall_of(2, 0.48, 0.2)
        for count in range(3, 16):
            walls = [wall * (1.0 + 0.01 * (-1) ** n) for n in range(count)]
            fit = multiplier_of(walls, 2, 0.48, 0.2, 1.0, 1.75)
            apart = np.std(walls, ddof=1) / math.sqrt(count)  # of the mean
            sections = [multiplier_of([each] * 3, 2, 0.48, 0.2, 1.0, 1.75).multiplier for each in walls]
            wanted = t.ppf(0.975, count - 1) * np.std(sections, ddof=1) / math.sqrt(count)
            with self.subTest(count):
                self.assertGreater(apart, 0.0)
                self.assertAlmostEqual(fit.half, wanted, delta=0.02 * wanted)

    def test_a_wall_as_sliced_keeps_the_multiplier(self):
        for beads in (1, 2, 4):
            wall = wall_of(beads, 0.48, 0.2)
            fit = multiplier_of([wall] * 4, beads, 0.48, 0.2, 0.97, 1.75)
            self.assertAlmostEqual(fit.multiplier, 0.97, places=9)
            self.assertFalse(fit.is_odd)

    def test_a_thicker_strand_comes_out_as_the_root(self):
        """A quarter more melt: multiplier 0.8, a strand of 1.75 / sqrt 0.8 = 1.96 mm: no filament is that."""
        section = 1.25 * bead_section(0.48, 0.2)
        wall = section / 0.2 + 0.2 * (1.0 - math.pi / 4.0)
        fit = multiplier_of([wall] * 3, 1, 0.48, 0.2, 1.0, 1.75)
        self.assertAlmostEqual(fit.multiplier, 0.8, places=9)
        self.assertAlmostEqual(fit.strand_mm, 1.957, places=3)
        self.assertTrue(fit.is_odd)

    def test_the_interval_is_that_of_student_and_covers(self):
        rng = np.random.default_rng(7)
        hits = 0
        for _ in range(400):
            walls = 0.48 + rng.normal(0.0, 0.01, 5)
            fit = multiplier_of(list(walls), 1, 0.48, 0.2, 1.0, 1.75)
            hits += abs(fit.multiplier - 1.0) <= fit.half
        self.assertTrue(0.92 <= hits / 400 <= 0.98, hits)

    def test_readings_that_scatter_are_not_believed(self):
        fit = multiplier_of([0.40, 0.56, 0.47], 1, 0.48, 0.2, 1.0, 1.75)
        self.assertIn("scatter", fit.why)

    def test_too_few_and_impossible_readings_are_refused(self):
        for walls in ([], [0.5], [0.5, 0.5], [0.5, 0.5, 0.0], [0.5, 0.5, math.nan], [0.01, 0.01, 0.01]):
            with self.subTest(walls), self.assertRaises(ReadingFault):
                multiplier_of(walls, 1, 0.48, 0.2, 1.0, 1.75)
        with self.assertRaises(ReadingFault):
            multiplier_of([0.5] * 3, 1, 0.1, 0.2, 1.0, 1.75)
        self.assertGreaterEqual(len(CAUSES), 5)


class TestRoute(unittest.TestCase):
    def routes(self, **changes):
        values = {
            "volume_mm3": 40e3, "surface_mm2": 12e3, "laid_mm3": 20e3, "wall_mm": 2.0, "tolerance_mm": None,
            "density_g_cm3": 1.2, "price_kg": 60.0, "rate_per_h": 4.0, "width_mm": 0.5, "height_mm": 0.2,
            "flow_mm3_s": 6.0,
        } | changes  # fmt: skip
        return {each.key: each for each in routes_for(**values)}

    def test_a_small_part_is_printed_to_size_and_a_huge_solid_one_of_pellets(self):
        small = list(self.routes())
        self.assertEqual(small[0], "filament")
        huge = self.routes(volume_mm3=20e6, surface_mm2=500e3, laid_mm3=20e6, wall_mm=60.0, price_kg=100.0)
        self.assertEqual(next(iter(huge)), "pellets")
        self.assertGreater(huge["filament"].hours, 100.0)

    def test_thin_walls_keep_pellets_out_and_fine_tolerances_ask_for_machining(self):
        self.assertFalse(self.routes(wall_mm=1.0)["pellets"].is_possible)
        fine = self.routes(tolerance_mm=0.03)
        self.assertFalse(fine["filament"].is_possible)
        self.assertEqual(next(key for key, each in fine.items() if each.is_possible), "machined")

    def test_hours_and_money_add_up(self):
        route = self.routes()["filament"]
        hours = 40e3 * 0.5 / (0.7 * 6.0) / 3600.0
        self.assertAlmostEqual(route.hours, hours, places=6)
        self.assertAlmostEqual(route.money, hours * 4.0 + 40e3 * 0.5 / 1e6 * 1.2 * 60.0, places=6)

    def test_stock_on_both_faces_is_drawn_larger(self):
        self.assertAlmostEqual(50.0 * near_net_scale(50.0, 0.5), 51.0, places=9)
