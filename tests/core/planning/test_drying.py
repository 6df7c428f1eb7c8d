"""A spool's history and plan: against the closed form, conservation of order, and limits."""

import unittest
from datetime import UTC, datetime, timedelta

import attrs
import numpy as np

from kaustos.core.physics.cylinder import share_lost, uniform
from kaustos.core.physics.humidity import vapour_pressure
from kaustos.core.physics.warming import CONDUCTIVITY, SURFACE
from kaustos.core.planning.air import Air, dryer_air, room_air
from kaustos.core.planning.drying import (
    DEEPEST,
    HEAT_CAPACITY,
    MEAN,
    OUTERMOST,
    TURNS,
    Water,
    Winding,
    course,
    floor_of,
    hours_until,
    hung,
    kept,
    passed,
    resting,
    water_of,
)
from kaustos.core.planning.history import came_with, moisture_now, spans
from kaustos.core.planning.scenarios import COUNT, LIKELY, UNSURE, everywhere, sampled, unsure
from kaustos.core.records import Dryer, Lot, Rules, Stay
from kaustos.library import load
from tests.asserting import every
from tests.core.physics.winding_solver import hours_to_limit

RULES = Rules()
SIMPLE = Water(everywhere(1e-11), everywhere(45e3), everywhere(2.0), everywhere(8.0), 1100.0)
STRAND = Winding(0.875e-3, 0.001)
HOURS = np.concatenate(([0.0], np.geomspace(0.05, 240.0, 60)))
NOW = datetime(2026, 3, 2, 8, tzinfo=UTC)


def at(hours):
    return (NOW - timedelta(hours=hours)).isoformat()


def even(percent, at_c=21.0):
    """A spool that is evenly moist and has long been at a temperature."""
    return resting(uniform(np.full((COUNT, 3), percent)), at_c)


def until(state, water, winding, air, limit):
    """Likely hours of each turn until the limit is passed."""
    passing, _ = hung(state, water, winding, air, limit)
    return np.array([passing.likely_h(turn) for turn in TURNS])


class TestPlans(unittest.TestCase):
    def test_the_outermost_turn_dries_as_a_strand_in_moving_air(self):
        dry = Air(80.0, everywhere(0.0))
        after = kept(even(2.0, 80.0), SIMPLE, STRAND, dry, 5.0).means
        fo = 1e-11 * 5.0 * 3600.0 / STRAND.radius**2
        self.assertAlmostEqual(after[LIKELY, OUTERMOST], 2.0 * (1 - share_lost(fo)), places=4)

    def test_a_deeper_winding_dries_more_slowly_and_turns_stand_in_order(self):
        dry = Air(80.0, everywhere(0.0))
        for depth in (0.02, 0.05):
            moisture = course(even(2.0), SIMPLE, Winding(0.875e-3, depth), dry, np.arange(1.0, 30.0))
            self.assertTrue((np.diff(moisture[LIKELY], axis=0) > 0).all(), "outermost below mean below deepest")
        wet = even(2.0)
        deep, flat = (kept(wet, SIMPLE, Winding(0.875e-3, each), dry, 8.0).means[LIKELY, MEAN] for each in (0.05, 0.02))
        self.assertGreater(deep, flat)

    def test_time_to_the_limit_is_where_the_course_passes_it(self):
        water, winding = water_of(load().polymers["pa6"]), Winding(0.875e-3, 0.045)
        air = dryer_air(None, 90.0, RULES)
        hours = until(even(2.8), water, winding, air, 0.25)[MEAN]
        there = course(even(2.8), water, winding, air, np.array([hours]))[LIKELY, MEAN, 0]
        self.assertAlmostEqual(there, 0.25, delta=0.25 * 0.06)

    def test_below_the_floor_is_never(self):
        water = water_of(load().polymers["pa6"])
        air = dryer_air(None, 40.0, RULES)
        limit = float(floor_of(water, air)[LIKELY]) * 0.9
        self.assertTrue(np.isinf(until(even(5.0), water, STRAND, air, limit)).all())

    def test_a_spool_that_is_dry_enough_needs_no_time_and_one_that_is_too_wet_may_not_wait(self):
        for percent, dry in ((0.24, True), (0.26, False)):
            drying = until(even(percent), SIMPLE, STRAND, Air(80.0, everywhere(0.0)), 0.25)
            self.assertEqual((drying == 0.0).all(), dry)
            drinking = until(even(percent), SIMPLE, STRAND, room_air(RULES), 0.25)
            self.assertEqual((drinking == 0.0).all(), not dry)

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
        hours = until(even(0.0), water, winding, room_air(RULES), 0.25)
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


WARM = Winding(0.875e-3, 0.045, 0.06)
WHILE_WARMING = (
    "abs", "asa", "pa12", "pa6", "pa6_gf", "pa_cf", "pc", "pc_cf", "peek", "peek_cf", "pekk_a", "pei", "pei_pc_blend",
    "ppsu", "psu", "petg", "ppa_cf", "pet_cf", "tpc", "tpu",
)  # fmt: skip


def middle_of_window(polymer):
    return (polymer.value("dryer_low_c").value + polymer.value("dryer_high_c").value) / 2.0


class TestACold(unittest.TestCase):
    """A cold spool does not dry: one clock for warming and drying."""

    def test_time_agrees_with_an_independent_solver_of_winding_and_strand(self):
        rules = Rules(room_c=23.0, dew_point_c=12.0)
        close, off = 0, []
        for key in WHILE_WARMING:
            polymer = load().polymers[key]
            water, limit, at_c = water_of(polymer), polymer.value("moisture_limit_pct").value, middle_of_window(polymer)
            half = water.half[LIKELY]
            ours = until(even(half, 23.0), water, WARM, dryer_air(None, at_c, rules), limit)
            reference = hours_to_limit(
                diffusivity_80=water.diffusivity[LIKELY], energy=water.energy[LIKELY], half=half,
                density=water.density, air_c=at_c, vapour_pa=float(vapour_pressure(12.0)), room_c=23.0, start=half,
                limit=limit, radius=WARM.radius, depth=WARM.depth, width=WARM.width, capacity=HEAT_CAPACITY,
                conductivity=CONDUCTIVITY, film=SURFACE, gaps=0.2, tortuosity=1.7, longest_h=240.0, depths=12,
                rings=12, steps=260,
            )  # fmt: skip
            ratios = [ours[turn] / each for turn, each in zip((MEAN, DEEPEST), reference, strict=True)]
            close += all(abs(each - 1.0) <= 0.05 for each in ratios)
            off += [(key, ratios)] if any(abs(each - 1.0) > 0.1 for each in ratios) else []
        self.assertEqual(off, [])
        self.assertGreaterEqual(close, 12)

    def test_what_was_dry_after_half_an_hour_at_full_heat_is_not_while_it_warms(self):
        polymer = load().polymers["pei"]
        water, air = water_of(polymer), dryer_air(None, 155.0, RULES)
        cold, warm = (until(even(0.5, at), water, WARM, air, 0.08)[DEEPEST] for at in (21.0, 155.0))
        self.assertGreater(cold, warm + 1.5, "it has to warm through first")
        after = kept(even(0.5), water, WARM, air, 2.5)
        self.assertGreater(after.means[LIKELY, DEEPEST], 0.08)
        self.assertLess(after.turns_c[LIKELY, DEEPEST], 135.0)
        self.assertLess(after.turns_c[LIKELY, DEEPEST], after.turns_c[LIKELY, MEAN])

    def test_a_spool_out_of_the_dryer_goes_on_while_it_is_hot_and_one_that_lies_cools_to_the_room(self):
        water = water_of(load().polymers["pa6"])
        hot = even(0.5, 80.0)
        moisture, after = passed(hot, water, WARM, room_air(RULES), np.linspace(0.0, 24.0, 60))
        cold_one = course(even(0.5), water, WARM, room_air(RULES), np.array([24.0]))[LIKELY, MEAN, 0]
        np.testing.assert_allclose(after.turns_c, 21.0, atol=0.5)
        self.assertGreater(moisture[LIKELY, MEAN, -1], 0.5)
        self.assertNotAlmostEqual(moisture[LIKELY, MEAN, -1], cold_one, places=3)

    def test_time_and_state_in_one_go_are_those_asked_for_apart(self):
        water, air = water_of(load().polymers["pa12"]), dryer_air(None, 80.0, RULES)
        passing, after = hung(even(0.7), water, WARM, air, 0.15, 6.0)
        np.testing.assert_allclose(after.means, kept(even(0.7), water, WARM, air, 6.0).means, rtol=0.01)
        alone, same = hung(even(0.7), water, WARM, air, 0.15)
        np.testing.assert_allclose(passing.hours(MEAN), alone.hours(MEAN), rtol=0.01)
        np.testing.assert_allclose(same.means, 0.7)
        self.assertEqual(passing.hours(DEEPEST)[0], passing.likely_h(DEEPEST))

    def test_when_it_is_dry_for_sure_no_turn_is_wet_for_sure(self):
        water, air = water_of(load().polymers["pa12"]), dryer_air(None, 80.0, RULES)
        surely = hung(even(0.7), water, WARM, air, 0.15)[0].hours(DEEPEST)[2]
        for hours, dry in ((surely * 0.97, False), (surely * 1.03, True)):
            after = kept(even(0.7), water, WARM, air, hours)
            self.assertEqual(after.worst <= 0.15, dry, "time and state are one answer")

    def test_the_time_is_found_within_half_a_per_cent_whatever_the_steps(self):
        for key in ("pei", "pa6", "petg"):
            polymer = load().polymers[key]
            water, air = water_of(polymer), dryer_air(None, middle_of_window(polymer), RULES)
            half = water.half[LIKELY]
            for hours in (1.0, 3.0, 8.0):
                fine = passed(even(half), water, WARM, air, np.linspace(0.0, hours, 600))[0][LIKELY, :, -1]
                np.testing.assert_allclose(kept(even(half), water, WARM, air, hours).means[LIKELY], fine, rtol=0.01)


DRYER = 1 + 2 * UNSURE.index("dryer")


class TestBands(unittest.TestCase):
    """Bands from effects alone against bands from draws that are computed whole."""

    def whole(self, polymer, count=400):
        """Drying times of draws of everything at once, each computed as if it were likely."""
        rng, times = np.random.default_rng(99), []
        data = {key: polymer.value(key) for key in ("diffusivity_80c_um2_s", "diffusion_energy_kj_mol",
                                                    "moisture_50_pct", "moisture_saturated_pct")}  # fmt: skip

        def drawn(value, low, high, z):
            return value + (high - value if z > 0 else value - low) * z / 1.96

        for _ in range(count // COUNT + 1):
            z = np.clip(rng.normal(size=(COUNT, 8)), -2.5, 2.5)
            take = [tuple(max(drawn(d.value, d.low, d.high, each), 1e-3 * d.value) for each in z[:, place])
                    for place, d in enumerate(data.values())]  # fmt: skip
            uptake = [tuple(drawn(d.value, d.low, d.high, each) for each in z[:, 2])
                      for d in (data["moisture_50_pct"], data["moisture_saturated_pct"])]  # fmt: skip
            film = [max(drawn(0.2, 0.1, 0.3, a), 0.02) / max(drawn(1.7, 1.4, 2.2, b), 1.0) for a, b in z[:, 5:7]]
            film = [each / (0.2 / 1.7) * 0.8 / (1 - each * 1.7) for each in film]
            water = Water(tuple(each * 1e-12 for each in take[0]), tuple(each * 1e3 for each in take[1]), *uptake,
                          polymer.value("density_g_cm3").value * 1e3, tuple(film))  # fmt: skip
            off = tuple(drawn(0.0, -5.0, 2.0, each) for each in z[:, 7])
            plain = dryer_air(None, middle_of_window(polymer), RULES)
            known = (plain.humidity[DRYER], plain.humidity[LIKELY], plain.humidity[DRYER + 1])
            humidity = tuple(float(np.interp(each, (-5.0, 0.0, 2.0), known)) for each in off)
            air = attrs.evolve(plain, off_k=off, humidity=humidity)
            moisture, _ = passed(even(data["moisture_50_pct"].value), water, WARM, air, HOURS)
            limit = polymer.value("moisture_limit_pct").value
            times += [float(hours_until(each[None], HOURS, limit)[0]) for each in moisture[:, DEEPEST]]
        return np.array(times[:count])

    def test_a_band_from_single_effects_is_that_of_draws_computed_whole(self):
        for key in ("peek", "petg", "abs", "pa12"):
            polymer = load().polymers[key]
            limit, half = (polymer.value(each).value for each in ("moisture_limit_pct", "moisture_50_pct"))
            air = dryer_air(None, middle_of_window(polymer), RULES)
            likely, soon, late = hung(even(half), water_of(polymer), WARM, air, limit)[0].hours(DEEPEST)
            low, middle, high = np.quantile(self.whole(polymer), (0.025, 0.5, 0.975))
            with self.subTest(key):
                self.assertLess(abs(np.log(likely / middle)), np.log(1.15))
                self.assertLess(abs(np.log(soon / low)), np.log(1.3))
                self.assertLess(abs(np.log(late / high)), np.log(1.4))

    def test_a_sampled_band_lies_inside_what_worst_ends_stacked_would_say(self):
        for key in ("pa6", "petg", "pc", "pei"):
            polymer = load().polymers[key]
            limit, half = (polymer.value(each).value for each in ("moisture_limit_pct", "moisture_50_pct"))
            air = dryer_air(None, middle_of_window(polymer), RULES)
            passing, _ = hung(even(half), water_of(polymer), WARM, air, limit)
            likely, soon, late = passing.hours(DEEPEST)
            each = hours_until(passing.moisture[1:, DEEPEST], passing.times_h, limit).reshape(-1, 2)
            stacked = likely * np.max(each / likely, axis=1).prod()
            self.assertTrue(soon <= likely <= late)
            self.assertTrue(late < stacked or np.isinf(stacked))

    def test_what_is_known_has_no_band_and_one_thing_alone_has_its_own(self):
        np.testing.assert_allclose(sampled(np.array(everywhere(3.0))), 3.0)
        likely, low, high = sampled(np.array(unsure("uptake", 2.0, 1.0, 4.0)))
        self.assertAlmostEqual(likely, 2.0)
        self.assertAlmostEqual(low, 1.0, delta=0.05)
        self.assertAlmostEqual(high, 4.0, delta=0.1)
        np.testing.assert_allclose(sampled(np.zeros((COUNT, 4))), 0.0)
        np.testing.assert_allclose(sampled(np.array(unsure("start", 0.0, 0.0, 0.3))), (0.0, 0.0, 0.3))

    def test_two_things_of_the_same_weight_widen_by_the_root_of_two_not_by_twice(self):
        one = np.array(unsure("uptake", 1.0, 0.9, 1.1))
        both = one.copy()
        both[1:3] = 0.9, 1.1  # diffusivity too
        widths = [float(high - low) for _, low, high in (sampled(one), sampled(both))]
        self.assertAlmostEqual(widths[1] / widths[0], 2**0.5, delta=0.08)

    def test_a_wider_range_of_one_thing_never_gives_a_narrower_band(self):
        widths = []
        for spread in (1.1, 1.5, 2.0, 3.0):
            _, low, high = sampled(np.array(unsure("diffusivity", 10.0, 10.0 / spread, 10.0 * spread)))
            widths.append(float(high - low))
        self.assertEqual(widths, sorted(widths))


class TestHistory(unittest.TestCase):
    def lot(self, *stays):
        return Lot(id="l", polymer="pa6", stays=stays)

    def means(self, *stays):
        return moisture_now(self.lot(*stays), water_of(load().polymers["pa6"]), RULES, NOW).means

    def test_a_sealed_pack_is_unknown_not_dry(self):
        sealed = self.means(Stay(place="sealed", from_utc=at(1000)))
        np.testing.assert_allclose(sealed, came_with(water_of(load().polymers["pa6"]), 21.0).means)
        likely, low, high = sampled(sealed[:, MEAN])
        self.assertTrue(low < likely < high)
        self.assertAlmostEqual(
            likely, 2.8 * 0.15 / 0.5, msg="in balance with air of 15 %, the straight part of sorption"
        )
        self.assertGreater(high, 2.0 * likely)

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
        for polymer in every(load().polymers.values()):
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
        times = [until(even(2.8), w, STRAND, air, 0.25)[MEAN] for w in waters]
        self.assertGreater(times[1], 2.0 * times[0])
