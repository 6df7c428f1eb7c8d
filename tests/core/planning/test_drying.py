"""A spool's history and plan: against the closed form, conservation of order, and limits."""

import unittest
from datetime import UTC, datetime, timedelta

import attrs
import numpy as np

from kaustos.core.physics.cylinder import share_lost, uniform
from kaustos.core.planning.air import Air, dryer_air, room_air
from kaustos.core.planning.drying import (
    LIKELY,
    MEAN,
    OUTERMOST,
    Water,
    Winding,
    course,
    entered,
    floor_of,
    hours_until,
    kept,
    until_dry,
    until_wet,
    water_of,
)
from kaustos.core.planning.history import came_with, moisture_now, spans
from kaustos.core.records import Dryer, Lot, Rules, Stay
from kaustos.library import load

RULES = Rules()
SIMPLE = Water((1e-11,) * 3, 45e3, (2.0,) * 3, (8.0,) * 3, 1100.0)
STRAND = Winding(0.875e-3, 0.001)
NOW = datetime(2026, 3, 2, 8, tzinfo=UTC)


def at(hours):
    return (NOW - timedelta(hours=hours)).isoformat()


class TestPlans(unittest.TestCase):
    def test_the_outermost_turn_dries_as_a_strand_in_moving_air(self):
        dry = Air(80.0, (0.0, 0.0, 0.0))
        after = kept(uniform(np.full((3, 3), 2.0)), SIMPLE, STRAND, dry, 5.0).mean()
        fo = 1e-11 * 5.0 * 3600.0 / STRAND.radius**2
        self.assertAlmostEqual(after[LIKELY, OUTERMOST], 2.0 * (1 - share_lost(fo)), places=4)

    def test_a_deeper_winding_dries_more_slowly_and_turns_stand_in_order(self):
        dry = Air(80.0, (0.0, 0.0, 0.0))
        for depth in (0.02, 0.05):
            moisture = course(
                uniform(np.full((3, 3), 2.0)), SIMPLE, Winding(0.875e-3, depth), dry, np.arange(1.0, 30.0)
            )
            self.assertTrue((np.diff(moisture[LIKELY], axis=0) > 0).all(), "outermost below mean below deepest")
        wet = uniform(np.full((3, 3), 2.0))
        deep, flat = (
            kept(wet, SIMPLE, Winding(0.875e-3, each), dry, 8.0).mean()[LIKELY, MEAN] for each in (0.05, 0.02)
        )
        self.assertGreater(deep, flat)

    def test_time_to_the_limit_is_where_the_course_passes_it(self):
        water, winding = water_of(load().polymers["pa6"]), Winding(0.875e-3, 0.045)
        air = dryer_air(None, 90.0, RULES)
        hours = until_dry(*entered(came_with(water), water, winding, air), 0.25)[LIKELY, MEAN]
        there = course(came_with(water), water, winding, air, np.array([hours]))[LIKELY, MEAN, 0]
        self.assertAlmostEqual(there, 0.25, delta=0.25 * 0.06)

    def test_below_the_floor_is_never(self):
        water = water_of(load().polymers["pa6"])
        air = dryer_air(None, 40.0, RULES)
        limit = float(floor_of(water, air)[LIKELY]) * 0.9
        soaked = uniform(np.full((3, 3), 5.0))
        self.assertTrue(np.isinf(until_dry(*entered(soaked, water, STRAND, air), limit)[LIKELY]).all())

    def test_a_spool_that_is_dry_enough_needs_no_time_and_one_that_is_too_wet_may_not_wait(self):
        for percent, dry in ((0.24, True), (0.26, False)):
            there = entered(uniform(np.full((3, 3), percent)), SIMPLE, STRAND, Air(80.0, (0.0, 0.0, 0.0)))
            self.assertEqual((until_dry(*there, 0.25) == 0.0).all(), dry)
            hung = entered(uniform(np.full((3, 3), percent)), SIMPLE, STRAND, room_air(RULES))
            self.assertEqual((until_wet(*hung, 0.25) == 0.0).all(), not dry)

    def test_a_vacuum_that_is_not_recorded_is_taken_as_fifty_millibar_and_dried_air_as_minus_thirty(self):
        for unknown, known in (
            (Dryer(id="v", air="vacuum"), Dryer(id="v", air="vacuum", pressure_mbar=50.0)),
            (Dryer(id="d", air="dry"), Dryer(id="d", air="dry", dew_point_c=-30.0)),
        ):
            self.assertEqual(dryer_air(unknown, 80.0, RULES), dryer_air(known, 80.0, RULES))
        deep = dryer_air(Dryer(id="v", air="vacuum", pressure_mbar=0.01), 80.0, RULES)
        self.assertEqual(deep, dryer_air(Dryer(id="v", air="vacuum", pressure_mbar=1.0), 80.0, RULES))
        room, half = (dryer_air(each, 80.0, RULES) for each in
                      (None, Dryer(id="v", air="vacuum", pressure_mbar=1013.25 / 2)))  # fmt: skip
        self.assertAlmostEqual(half.humidity[LIKELY], room.humidity[LIKELY] / 2.0)

    def test_what_lowers_a_floor_does(self):
        water = water_of(load().polymers["pa6"])
        floors = [
            float(floor_of(water, dryer_air(dryer, celsius, RULES))[LIKELY])
            for dryer, celsius in (
                (None, 50.0),
                (None, 80.0),
                (Dryer(id="v", air="vacuum", pressure_mbar=40.0), 80.0),
                (Dryer(id="d", air="dry", dew_point_c=-40.0), 80.0),
            )
        ]
        self.assertEqual(floors, sorted(floors, reverse=True))
        self.assertGreater(floors[0], 0.1, "humid room air at 50 °C cannot dry PA to 0.1 %")

    def test_a_dryer_gets_no_hotter_than_it_can(self):
        self.assertEqual(dryer_air(Dryer(id="d", max_c=70.0), 90.0, RULES).temperature_c, 70.0)

    def test_a_dried_spool_drinks_until_it_is_over_the_limit(self):
        water, winding = water_of(load().polymers["pa6"]), Winding(0.875e-3, 0.045)
        dried = uniform(np.zeros((3, 3)))
        hours = until_wet(*entered(dried, water, winding, room_air(RULES)), 0.25)[LIKELY]
        self.assertTrue((np.diff(hours) > 0).all(), "the outermost turn is wet first")
        self.assertTrue(0.1 < hours[OUTERMOST] < 24.0, "hours to a day in room air")

    def test_a_course_that_touches_the_limit_passes_it_there(self):
        times = np.array([0.0, 1.0, 2.0, 3.0])
        for course_, hours in (([4.0, 3.0, 2.0, 2.0], 2.0), ([2.0, 1.0, 0.0, 0.0], 0.0), ([3.0, 2.0, 3.0, 3.0], 1.0),
                               ([5.0, 5.0, 3.0, 1.0], 2.5), ([3.0, 3.0, 3.0, 3.0], np.inf)):  # fmt: skip
            with self.subTest(course_):
                self.assertEqual(float(hours_until(np.array(course_), times, 2.0)), hours)

    def test_passing_a_limit_is_found_between_points(self):
        times = np.array([0.0, 1.0, 2.0, 3.0])
        falling = np.array([[4.0, 3.0, 1.0, 0.0], [4.0, 4.0, 4.0, 4.0]])
        np.testing.assert_allclose(hours_until(falling, times, 2.0), [1.5, np.inf])


class TestHistory(unittest.TestCase):
    def lot(self, *stays):
        return Lot(id="l", polymer="pa6", stays=stays)

    def means(self, *stays):
        return moisture_now(self.lot(*stays), water_of(load().polymers["pa6"]), RULES, NOW).mean()

    def test_a_sealed_pack_is_unknown_not_dry(self):
        sealed = self.means(Stay(place="sealed", from_utc=at(1000)))
        np.testing.assert_allclose(sealed, came_with(water_of(load().polymers["pa6"])).mean())
        self.assertGreater(sealed[2].min(), 0.25)
        self.assertLess(sealed[0].max(), 0.25)

    def test_a_long_stay_forgets_what_came_before(self):
        wet = self.means(Stay(place="sealed", from_utc=at(9000)),
                         Stay(place="open", from_utc=at(8700), temperature_c=60.0, humidity_pct=50.0))  # fmt: skip
        np.testing.assert_allclose(wet[LIKELY], 2.8, rtol=0.02)

    def test_hours_run_to_the_next_stay_and_to_now_in_any_order_of_entry(self):
        stays = (Stay(place="open", from_utc=at(10)), Stay(place="dryer", from_utc=at(30), temperature_c=80.0))
        found = [(stay.place, hours) for stay, hours in spans(stays, NOW)]
        self.assertEqual(found, [("dryer", 20.0), ("open", 10.0)])
        self.assertEqual(spans((Stay(place="open", from_utc=at(-5)),), NOW), ())
        self.assertEqual(spans((Stay(place="open"),), NOW), ())

    def test_drying_closes_the_band_of_what_was_not_known(self):
        before = self.means(Stay(place="sealed", from_utc=at(100)))
        after = self.means(Stay(place="sealed", from_utc=at(100)),
                           Stay(place="dryer", from_utc=at(60), temperature_c=95.0, humidity_pct=0.1))  # fmt: skip
        self.assertLess(np.ptp(after[:, MEAN]), 0.2 * np.ptp(before[:, MEAN]))

    def test_a_logged_humidity_counts_and_an_unlogged_dry_box_is_a_band(self):
        known = self.means(Stay(place="dry_box", from_utc=at(4000), humidity_pct=20.0, temperature_c=60.0))
        vague = self.means(Stay(place="dry_box", from_utc=at(4000), temperature_c=60.0))
        self.assertGreater(np.ptp(vague[:, MEAN]), np.ptp(known[:, MEAN]))

    def test_more_water_in_the_air_never_leaves_a_drier_spool(self):
        levels = [
            self.means(Stay(place="open", from_utc=at(300), humidity_pct=humidity))[LIKELY, MEAN]
            for humidity in (10.0, 30.0, 50.0, 80.0)
        ]
        self.assertEqual(levels, sorted(levels))


class TestSorptionData(unittest.TestCase):
    def test_saturation_stands_in_its_usual_ratio_to_half_and_limits_below_it(self):
        for polymer in load().polymers.values():
            value = {key: datum.value for key, datum in polymer.values.items()}
            with self.subTest(polymer.id):
                ratio = value["moisture_saturated_pct"] / value["moisture_50_pct"]
                self.assertTrue(1.7 <= ratio <= 5.0)
                if polymer.absorbs:
                    self.assertLess(
                        value["moisture_limit_pct"], value["moisture_50_pct"], "an open spool is out of limits"
                    )
                self.assertTrue(25 <= value["diffusion_energy_kj_mol"] <= 65)

    def test_own_values_move_the_plan(self):
        polymer = load().polymers["pa6"]
        slow = attrs.evolve(polymer.value("diffusivity_80c_um2_s"), value=3.0, low=2.0, high=4.0)
        other = attrs.evolve(polymer, values={**polymer.values, "diffusivity_80c_um2_s": slow})
        waters, air = (water_of(polymer), water_of(other)), dryer_air(None, 90.0, RULES)
        times = [until_dry(*entered(came_with(w), w, STRAND, air), 0.25)[LIKELY, MEAN] for w in waters]
        self.assertGreater(times[1], 2.0 * times[0])
