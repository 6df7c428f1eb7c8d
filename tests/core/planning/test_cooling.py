"""Cooling of a plate: beside an integrated balance, in the limits, and never sooner for more heat."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from kaustos.core.planning.cooling import Body, body_of, cooled, cooling_rate, hold_kwh
from kaustos.core.planning.draws import DRAWS, drawn
from kaustos.core.records import Estimate, Layer
from kaustos.core.review.plate.cooling import cooling_case
from tests.asserting import every
from tests.run_practice import releases
from tests.support import changed, judged, opened, recipe_and_context

STACK = (Layer(material="aluminium", thickness_mm=4.0), Layer(material="glass", thickness_mm=4.0))


def sure(plate, loses, air_min):
    """What cools, without a band."""
    rate = np.full(DRAWS, np.inf if air_min is None else 1.0 / air_min)
    return Body(plate_j_m2_k=np.full(DRAWS, plate), plate_w_m2_k=np.full(DRAWS, loses), air_per_min=rate)


class TestCourse(unittest.TestCase):
    def test_it_is_the_balance_of_both_nodes(self):
        for plate_c, air_c, air_min in ((120.0, 80.0, 45.0), (90.0, 25.0, 10.0), (160.0, 130.0, 300.0)):
            course = cooled(sure(18_000.0, 17.0, air_min), plate_c, air_c, 22.0, 40.0, is_open=False)

            def rate(_, state, air_min=air_min):
                plate, air = state
                return [60.0 * 17.0 / 18_000.0 * (air - plate), (22.0 - air) / air_min]

            at = np.linspace(0.0, 600.0, 121)
            solved = solve_ivp(rate, (0.0, 600.0), [plate_c, air_c], t_eval=at, rtol=1e-9, atol=1e-9)
            with self.subTest(plate_c=plate_c):
                np.testing.assert_allclose(course.plate_at(at)[1], solved.y[0], atol=1e-4)
                np.testing.assert_allclose(course.air_at(at), solved.y[1], atol=1e-4)

    def test_an_open_door_is_one_exponential_and_its_time_the_logarithm(self):
        course = cooled(sure(17_000.0, 17.0, None), 102.0, 60.0, 22.0, 42.0, is_open=True)
        self.assertAlmostEqual(course.until.value, 1_000.0 / 60.0 * np.log(80.0 / 20.0), delta=1e-3)
        shut = cooled(sure(17_000.0, 17.0, 1e9), 102.0, 60.0, 22.0, 42.0, is_open=False)
        self.assertIsNone(shut.until, "not until the door is open")

    def test_a_plate_that_warms_again_behind_its_door_is_not_free_at_once(self):
        course = cooled(sure(17_000.0, 17.0, 90.0), 35.0, 90.0, 22.0, 42.0, is_open=False)
        at = np.arange(0.0, 700.0, 0.05)
        warm = at[course.plate_at(at)[1] > 42.0]
        self.assertGreater(warm.size, 0)
        self.assertAlmostEqual(course.until.value, warm[-1], delta=0.1)
        cold = cooled(sure(17_000.0, 17.0, 90.0), 35.0, 90.0, 22.0, 85.0, is_open=False)
        self.assertEqual(cold.until.value, 0.0, "it warms, yet never to where it holds")

    def test_a_log_of_one_exponential_gives_its_rate_back_and_another_course_none(self):
        minutes = np.arange(0.0, 60.0, 0.5)
        told = np.random.default_rng(2)
        for rate in (0.02, 0.05, 0.12):
            shown = 21.0 + 90.0 * np.exp(-rate * minutes) + told.normal(0.0, 0.1, minutes.size)
            found = cooling_rate(minutes, shown, 21.0)
            self.assertAlmostEqual(found.value / rate, 1.0, delta=0.01)
            self.assertTrue(found.low < rate < found.high)
        shut = cooled(sure(17_000.0, 17.0, 45.0), 110.0, 100.0, 21.0, 40.0, is_open=False).plate_at(minutes)[1]
        self.assertIsNone(cooling_rate(minutes, shut, 21.0), "behind a shut door")
        for shown in (np.full(120, 80.0), np.full(120, np.nan), 21.0 + minutes):
            self.assertIsNone(cooling_rate(minutes, shown, 21.0))
        self.assertIsNone(cooling_rate(minutes[:10], 21.0 + 90.0 * np.exp(-0.05 * minutes[:10]), 21.0), "too short")

    def test_what_was_measured_rules_and_a_part_still_holds_heat(self):
        rate = Estimate(0.05, 0.045, 0.055, "1/min", "m", "s")
        until = [
            cooled(body_of(STACK, 0.0, part, None, rate), 102.0, 22.0, 22.0, 42.0, is_open=True).until.value
            for part in (0.0, 4_000.0)
        ]
        self.assertAlmostEqual(until[0], np.log(80.0 / 20.0) / 0.05, delta=0.6)
        self.assertGreater(until[1], until[0])

    def test_a_surface_of_a_stack_that_was_written_down_holds_its_heat_once(self):
        held = np.median(body_of(STACK, 8_000.0, 0.0, None).plate_j_m2_k)
        self.assertAlmostEqual(held, 4e-3 * 2.43e6 + 4e-3 * 2.1e6, delta=2_000.0)
        thick, thin = (np.median(body_of((), each, 0.0, None).plate_j_m2_k) for each in (8_000.0, 500.0))
        self.assertAlmostEqual(thick - thin, 7_500.0)

    @settings(max_examples=30)
    @given(st.floats(60.0, 200.0), st.floats(25.0, 150.0), st.floats(25.0, 55.0), st.floats(1.0, 1.5), st.booleans())
    def test_more_heat_is_never_freed_sooner_and_an_open_door_never_later(self, plate, air, release, more, is_open):
        body = body_of(STACK, 3_000.0, 1_000.0, drawn("air", (20.0, 40.0, 80.0)))

        def until(plate, air, release, *, is_open):
            found = cooled(body, plate, air, 22.0, release, is_open=is_open).until
            return 720.0 if found is None else found.value

        now = until(plate, air, release, is_open=is_open)
        self.assertGreaterEqual(until(plate * more, air, release, is_open=is_open), now)
        self.assertGreaterEqual(until(plate, air * more, release, is_open=is_open), now)
        self.assertLessEqual(until(plate, air, release * more, is_open=is_open), now)
        if plate >= air:
            self.assertLessEqual(until(plate, air, release, is_open=True), until(plate, air, release, is_open=False))

    def test_holding_takes_what_is_lost(self):
        found = hold_kwh(sure(18_000.0, 20.0, None), 0.1, 120.0, 20.0)
        self.assertAlmostEqual(found.value, 0.2)


class TestRecipes(unittest.TestCase):
    def test_parts_come_off_in_the_minutes_that_practice_knows(self):
        for card, low, high in (
            ("winch_bracket", 10.0, 60.0),
            ("cable_guide", 5.0, 30.0),
            ("wellhead_cover", 10.0, 60.0),
        ):
            recipe, context = recipe_and_context(opened(card))
            with self.subTest(card):
                self.assertTrue(low <= cooling_case(recipe, context).opened.until.value <= high)

    def test_minutes_until_a_part_comes_off_lie_beside_practice(self):
        for name, low, high, found in every(releases()):
            with self.subTest(name):
                self.assertTrue(low / 1.5 <= found <= high * 1.5, found)

    def test_hot_is_not_waited_for_and_the_day_knows_the_minutes(self):
        base = opened("probe_head_shell")
        recipe, context, review = judged(changed(base, {"plate.release": "hot"}))
        self.assertEqual(cooling_case(recipe, context).minutes, 0.0)
        figures = {each.key: each.value for operation in review.operations for each in operation.figures}
        self.assertEqual(figures["release.time.open"], "not waited for")
        recipe, context, review = judged(base)
        self.assertGreater(cooling_case(recipe, context).minutes, 30.0)

    def test_an_unknown_plate_is_said_and_not_taken_as_cold(self):
        _, _, review = judged(changed(opened("winch_bracket"), {"plate.bed_c": None}))
        figures = {each.key: each.value for operation in review.operations for each in operation.figures}
        self.assertNotIsInstance(figures["release.time.open"], float)
        self.assertEqual(str(figures["release.time.open"]), "Absent.UNKNOWN")
