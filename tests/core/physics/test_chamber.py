"""Chamber and plate: against closed forms, an independent integrator, conservation of energy, and practice."""

import math
import unittest

import attrs
import numpy as np
from scipy.integrate import quad, solve_ivp
from scipy.optimize import fsolve

from kaustos.core.physics.chamber import STEFAN_BOLTZMANN, Chamber, heat_for, radiation, steady, surface, warm_up
from kaustos.core.planning.warmth import chamber_of, expected_air, power_wanted, top_of, warm_times
from kaustos.core.records import Calibration, Enclosure, Layer, Machine

BOX = Chamber(air=300.0, wall=9_000.0, air_to_wall=14.0, air_to_room=0.4, wall_to_room=6.0, radiating=0.9,
              plate_to_air=0.5, plate_to_wall=0.4)  # fmt: skip
ROOM = 21.0


def machine(wall="pane", size=(450.0, 450.0, 500.0), plate=235.0, **more):
    space = Enclosure(kind="box", inner_x_mm=size[0], inner_y_mm=size[1], inner_z_mm=size[2], wall=wall, frame_kg=8.0)
    return Machine(id="m", travel_x_mm=plate, travel_y_mm=plate, enclosure=attrs.evolve(space, **more))


class TestSteady(unittest.TestCase):
    def test_it_is_the_root_of_both_balances_with_true_radiation(self):
        def balances(at):
            air, wall = at
            radiated = STEFAN_BOLTZMANN * 0.9 * ((wall + 273.15) ** 4 - (ROOM + 273.15) ** 4)
            return (250.0 + 0.5 * (100.0 - air) - 14.0 * (air - wall) - 0.4 * (air - ROOM),
                    14.0 * (air - wall) + 0.4 * (100.0 - wall) - 6.0 * (wall - ROOM) - radiated)  # fmt: skip

        expected = fsolve(balances, (50.0, 40.0), xtol=1e-13)
        found = steady(BOX, 250.0, 100.0, ROOM)
        np.testing.assert_allclose([float(found[0]), float(found[1])], expected, rtol=1e-6)

    def test_heat_in_is_heat_out(self):
        air, wall = (float(each) for each in steady(BOX, 250.0, 100.0, ROOM))
        out = 0.4 * (air - ROOM) + 6.0 * (wall - ROOM) + float(radiation(0.9, wall, ROOM)) * (wall - ROOM)
        inside = 250.0 + 0.5 * (100.0 - air) + 0.4 * (100.0 - wall)
        self.assertAlmostEqual(inside / out, 1.0, delta=1e-9)

    def test_the_heat_for_a_temperature_brings_just_that(self):
        for wanted in (40.0, 80.0, 130.0):
            heat = heat_for(BOX, wanted, 110.0, ROOM)
            self.assertAlmostEqual(float(steady(BOX, heat, 110.0, ROOM)[0]), wanted, delta=1e-6)

    def test_radiation_is_the_law_of_the_fourth_power(self):
        by_hand = 5.670374419e-8 * 2.0 * ((353.15) ** 4 - (293.15) ** 4)
        self.assertAlmostEqual(float(radiation(2.0, 80.0, 20.0)) * 60.0, by_hand, delta=1e-9 * by_hand)


class TestWarmUp(unittest.TestCase):
    def test_a_single_node_follows_its_exponential(self):
        one = Chamber(air=8_000.0, wall=1e-3, air_to_wall=1e-9, air_to_room=5.0, wall_to_room=1.0)
        course = warm_up(one, 200.0, ROOM, ROOM)
        for seconds in (0.0, 300.0, 1_600.0, 9_000.0):
            expected = ROOM + 200.0 / 5.0 * (1.0 - math.exp(-seconds * 5.0 / 8_000.0))
            self.assertAlmostEqual(float(course.air(seconds)[0]) / expected, 1.0, delta=1e-6)

    def test_two_nodes_agree_with_an_integrator(self):
        plain = attrs.evolve(BOX, radiating=0.0)
        course = warm_up(plain, 250.0, 100.0, ROOM)

        def slopes(_, at):
            air, wall = at
            return ((250.0 + 0.5 * (100.0 - air) - 14.0 * (air - wall) - 0.4 * (air - ROOM)) / 300.0,
                    (14.0 * (air - wall) + 0.4 * (100.0 - wall) - 6.0 * (wall - ROOM)) / 9_000.0)  # fmt: skip

        times = [5.0, 60.0, 900.0, 7_200.0]
        done = solve_ivp(slopes, (0.0, 7_200.0), (ROOM, ROOM), t_eval=times, rtol=1e-10, atol=1e-10, method="Radau")
        for at, seconds in enumerate(times):
            self.assertAlmostEqual(float(course.air(seconds)[0]), done.y[0][at], delta=1e-5)
            self.assertAlmostEqual(float(course.wall(seconds)[0]), done.y[1][at], delta=1e-5)

    def test_what_went_in_is_stored_or_has_gone_out(self):
        plain = attrs.evolve(BOX, radiating=0.0)
        course, until = warm_up(plain, 250.0, 100.0, ROOM), 5_000.0

        def net(seconds):
            air, wall = float(course.air(seconds)[0]), float(course.wall(seconds)[0])
            return 250.0 + 0.5 * (100.0 - air) + 0.4 * (100.0 - wall) - 0.4 * (air - ROOM) - 6.0 * (wall - ROOM)

        given = sum(quad(net, a, b, epsabs=1e-6, epsrel=1e-12)[0] for a, b in ((0, 60), (60, 600), (600, until)))
        stored = 300.0 * (float(course.air(until)[0]) - ROOM) + 9_000.0 * (float(course.wall(until)[0]) - ROOM)
        self.assertAlmostEqual(given / stored, 1.0, delta=1e-9)


class TestSurface(unittest.TestCase):
    def test_the_flow_through_the_stack_is_what_the_top_gives_off(self):
        top = float(surface(100.0, 0.006, 12.0, 30.0))
        self.assertAlmostEqual((100.0 - top) / 0.006, 12.0 * (top - 30.0), delta=1e-9)

    def test_nothing_on_it_is_nothing_lost(self):
        self.assertEqual(float(surface(90.0, 0.0, 12.0, 30.0)), 90.0)


class TestPractice(unittest.TestCase):
    def test_unheated_boxes_come_to_what_is_usual(self):
        for plate, low, high in ((60.0, 26.0, 36.0), (100.0, 33.0, 50.0), (120.0, 36.0, 55.0)):
            found = expected_air(chamber_of(machine(), None), plate, ROOM)
            with self.subTest(plate):
                self.assertTrue(low <= found.value <= high, found)

    def test_heaters_for_sixty_to_a_hundred_degrees_are_of_the_usual_size(self):
        box = chamber_of(machine(), None)
        for air, low, high in ((60.0, 60.0, 250.0), (80.0, 120.0, 400.0), (100.0, 200.0, 600.0)):
            self.assertTrue(low <= power_wanted(box, air, 100.0, ROOM).value <= high)

    def test_small_boxes_soak_within_the_hour_and_large_ones_take_longer(self):
        small = warm_times(chamber_of(machine(), None), 60.0, 300.0, 100.0, ROOM)
        wide = machine("insulated", (900.0, 800.0, 900.0), 350.0, frame_kg=60.0)
        large = warm_times(chamber_of(wide, None), 80.0, 1_500.0, 140.0, ROOM)
        self.assertTrue(0.2 <= small.soaked.value <= 1.0)
        self.assertTrue(0.7 <= large.soaked.value <= 3.0)

    def test_glass_laminate_and_sheet_lie_some_kelvins_below_the_sensor(self):
        for layers, low, high in ((("glass", 4.0),), 2.0, 10.0), ((("laminate", 2.0),), 3.0, 10.0), (
            (("magnet", 1.5), ("steel", 0.5)), 1.0, 8.0,
        ):  # fmt: skip
            stack = tuple(Layer(material=each, thickness_mm=deep, loose=True) for each, deep in layers)
            self.assertTrue(low <= top_of(stack, 100.0, 30.0, None).drop.value <= high)


class TestWorseIsNeverBetter(unittest.TestCase):
    def test_more_heat_wanted_thinner_walls_and_more_glass_never_ask_for_less(self):
        box = chamber_of(machine(), None)
        power = [power_wanted(box, air, 80.0, ROOM).high for air in (40.0, 60.0, 90.0, 140.0)]
        self.assertEqual(power, sorted(power))
        by_wall = [power_wanted(chamber_of(machine(wall), None), 80.0, 80.0, ROOM).value
                   for wall in ("insulated", "wood", "pane", "sheet")]  # fmt: skip
        self.assertEqual(by_wall, sorted(by_wall))
        insulated = [power_wanted(chamber_of(machine(insulation_mm=each), None), 80.0, 80.0, ROOM).value
                     for each in (60.0, 20.0, 0.0)]  # fmt: skip
        self.assertEqual(insulated, sorted(insulated))
        drops = [top_of((Layer(material="glass", thickness_mm=each, loose=True),), 100.0, 30.0, None).drop.value
                 for each in (2.0, 4.0, 10.0)]  # fmt: skip
        self.assertEqual(drops, sorted(drops))

    def test_what_is_not_recorded_is_not_computed(self):
        self.assertIsNone(chamber_of(machine(wall=None), None))
        self.assertIsNone(chamber_of(machine(kind="open"), None))
        self.assertIsNone(top_of((Layer(material="glass"),), 100.0, 30.0, None))

    def test_a_fit_narrows_the_band_and_a_stale_one_is_wider(self):
        values = {"losses_w_k": 5.0, "losses_w_k_half": 0.3, "capacity_j_k": 9e3, "capacity_j_k_half": 500.0}
        fresh = Calibration(id="c", kind="chamber_fit", values=values)
        stale = attrs.evolve(fresh, stale_because="walls changed")
        guess, fitted, old = (power_wanted(chamber_of(machine(), each), 80.0, ROOM, ROOM)
                              for each in (None, fresh, stale))  # fmt: skip
        self.assertLess(fitted.high - fitted.low, guess.high - guess.low)
        self.assertLess(fitted.high - fitted.low, old.high - old.low)


if __name__ == "__main__":
    unittest.main()
