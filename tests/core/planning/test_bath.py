"""Baths: the course against an integrated rate, hours learned, what a balance can tell and what it cannot."""

import math
import unittest
from itertools import pairwise

import attrs
import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from kaustos.core.planning.bath import (
    contents_of,
    course_of,
    hours_in,
    looked_at,
    newest_in,
    residue_of,
    room_of,
    slow_by,
)
from kaustos.core.records import Bath, Look, Wash, Weighing
from kaustos.library import load

PVA = load().supplies.supports["pva"]
HAND = load().supplies.supports["sulfone"]
SURE = (1.0, 1.0 + 1e-12, 1.0 + 2e-12)
GRAMS = st.floats(0.1, 60.0)
SAYS = ("eaten", "left", "drying", "blind", "clean")  # the worst first


def exact(material, **values):
    """A material whose values are known without a band."""
    known = {
        key: attrs.evolve(getattr(material, key), value=each, low=each * (1 - 1e-12), high=each * (1 + 1e-12))
        for key, each in values.items()
    }
    return attrs.evolve(material, **known)


def at(hours):
    return f"2026-03-{1 + int(hours) // 24:02d}T{int(hours) % 24:02d}:{round(hours % 1 * 60):02d}:00Z"


class TestCourse(unittest.TestCase):
    def test_it_follows_the_rate_that_it_states(self):
        known = exact(PVA, bath_h=6.0, grams_per_l=15.0, bath_c=40.0)
        for supports, volume, dissolved in ((4.0, 1000.0, 0.0), (4.0, 1000.0, 8.0), (20.0, 3000.0, 10.0)):
            takes = 15.0 * volume / 1e3
            room, rate = takes - dissolved, supports / (takes * 6.0)
            course = course_of(supports, known, volume, dissolved, 40.0, SURE)
            times = np.linspace(0.0, course.hours.value, 7)
            solved = solve_ivp(
                lambda _, x, rate, room: rate * (room - x), (0.0, times[-1]), [0.0], t_eval=times, rtol=1e-10,
                args=(rate, room),
            )  # fmt: skip
            _, likely, _ = course.left_at(times)
            with self.subTest(supports=supports, dissolved=dissolved):
                np.testing.assert_allclose(likely, np.maximum(1.0 - solved.y[0] / supports, 0.0), atol=2e-6)
                self.assertAlmostEqual(float(likely[-1]), 0.0, places=6)

    def test_a_large_fresh_bath_takes_the_hours_that_are_advised_and_ten_kelvin_double_them(self):
        known = exact(PVA, bath_h=6.0, grams_per_l=15.0, bath_c=40.0)
        self.assertAlmostEqual(course_of(1.0, known, 1e6, 0.0, 40.0, SURE).hours.value, 6.0, places=2)
        self.assertAlmostEqual(course_of(1.0, known, 1e6, 0.0, 30.0, SURE).hours.value, 12.0, delta=0.05)

    @given(GRAMS, GRAMS, st.floats(500.0, 20_000.0), st.floats(20.0, 60.0), st.floats(1.01, 2.0))
    def test_more_to_take_out_a_fuller_a_smaller_or_a_colder_bath_is_never_quicker(
        self, grams, inside, ml, warm, worse
    ):
        def hours(**changes):
            values = {"grams": grams, "inside": inside, "ml": ml, "warm": warm} | changes
            found = course_of(values["grams"], PVA, values["ml"], values["inside"], values["warm"], slow_by(()))
            return math.inf if found.hours is None else found.hours.value

        now = hours()
        self.assertGreaterEqual(hours(inside=inside * worse), now)
        self.assertGreaterEqual(hours(ml=ml / worse), now)
        self.assertGreaterEqual(hours(warm=warm / worse), now)
        self.assertGreaterEqual(hours(grams=grams * worse) * (1.0 + 1e-9), now)

    def test_a_bath_that_is_full_before_never_ends_and_leaves_what_it_cannot_take(self):
        known = exact(PVA, bath_h=6.0, grams_per_l=15.0)
        course = course_of(20.0, known, 1000.0, 5.0, None, SURE)
        self.assertIsNone(course.hours)
        _, likely, _ = course.left_at(np.array([0.0, 1e4]))
        np.testing.assert_allclose(likely, [1.0, 0.5], atol=1e-6)

    def test_what_is_taken_off_by_hand_has_no_bath(self):
        self.assertIsNone(course_of(4.0, HAND, 1000.0, 0.0, None, SURE))
        self.assertIsNone(room_of(1000.0, HAND, 0.0))
        self.assertIsNone(course_of(0.0, PVA, 1000.0, 0.0, None, SURE))


class TestLog(unittest.TestCase):
    LOOKS = (Look(at_utc=at(8.0), seen="some"), Look(at_utc=at(12.0), seen="none"))

    def test_what_is_dissolved_is_weighed_else_taken_as_all_and_unknown_is_counted(self):
        weighed = Wash(before_g=60.0, supports_g=9.0, dried=(Weighing(gross_g=52.0),), ended="clean")
        bath = Bath(id="b", taken_g=3.0, washes=(weighed, Wash(supports_g=5.0), Wash()))
        found = contents_of(bath)
        self.assertEqual((found.grams, found.untold), (16.0, 1))

    def test_a_part_that_is_wet_yet_never_makes_room(self):
        for wet in (51.0, 55.0, 60.0, 66.0):
            drying = Wash(before_g=60.0, supports_g=9.0, out_utc=at(9.0), dried=(Weighing(gross_g=wet),))
            with self.subTest(wet):
                self.assertEqual(contents_of(Bath(id="b", washes=(drying,))).grams, 9.0)

    def test_looks_tell_the_hours_over_those_that_are_advised(self):
        wash = Wash(at_utc=at(0.0), supports_g=1.0, looks=self.LOOKS, out_utc=at(12.0), ended="clean")
        bath = Bath(id="b", volume_ml=1e6, taken_g=0.0, washes=(wash,))
        ((shortest, longest),) = looked_at(bath, exact(PVA, bath_h=8.0, grams_per_l=15.0))
        self.assertAlmostEqual(shortest, 1.0, places=3)
        self.assertAlmostEqual(longest, 1.5, places=3)
        unknown = attrs.evolve(bath, washes=(attrs.evolve(wash, supports_g=None),))
        self.assertEqual(looked_at(unknown, PVA), ())
        self.assertIs(newest_in(bath), None)
        self.assertEqual(hours_in(wash, at(30.5)), 30.5)

    def test_many_alike_washes_outweigh_what_is_usual_and_narrow_the_band(self):
        bands = [slow_by([(2.9, 3.1)] * count) for count in (0, 1, 4, 400)]
        middles = [value for _, value, _ in bands]
        self.assertEqual(middles, sorted(middles))
        self.assertAlmostEqual(middles[-1], math.sqrt(2.9 * 3.1), delta=0.05)
        widths = [math.log(high / low) for low, _, high in bands]
        self.assertEqual(widths, sorted(widths, reverse=True))
        self.assertGreater(widths[-1], 2.0 * math.log(1.5) * 0.99, "washes differ however many there were")

    def test_one_wash_is_the_mean_of_both_by_their_weights(self):
        """The same posterior from a grid: prior times likelihood, in the logarithm."""
        first, last = 1.0, 1.4
        x = np.linspace(-3.0, 3.0, 20_001)
        sd = math.log(2.2 / 1.0) / (2 * 1.96)
        scatter, apart = math.log(1.5) / 1.96, math.log(last / first) / (2 * 1.96)
        weight = np.exp(-0.5 * ((x - math.log(1.5)) / sd) ** 2)
        weight *= np.exp(-0.5 * (x - 0.5 * math.log(first * last)) ** 2 / (scatter**2 + apart**2))
        mean = float((x * weight).sum() / weight.sum())
        self.assertAlmostEqual(math.log(slow_by([(first, last)])[1]), mean, places=4)


class TestClean(unittest.TestCase):
    def test_each_verdict(self):
        level = lambda grams: [(5.0, grams), (10.0, grams)]  # noqa: E731
        for says, supports, before, dried, scale in (
            ("clean", 8.0, 60.0, level(52.05), 0.01),
            ("left", 8.0, 60.0, level(53.0), 0.01),
            ("eaten", 8.0, 60.0, level(51.0), 0.01),
            ("blind", 8.0, 60.0, level(52.0), 0.5),
            ("blind", None, 60.0, level(52.0), 0.01),
            ("blind", 8.0, None, level(52.0), 0.01),
            ("drying", 8.0, 60.0, [(5.0, 52.05)], 0.01),
            ("drying", 8.0, 60.0, [(5.0, 52.6), (10.0, 52.05)], 0.01),
            ("drying", 8.0, 60.0, [(5.0, 52.05), (5.5, 52.05)], 0.01),
        ):
            with self.subTest(says, dried=dried, scale=scale):
                self.assertEqual(residue_of(supports, before, dried, scale).says, says)

    def test_the_least_that_can_be_told_is_that_of_both_scatters(self):
        found = residue_of(10.0, 60.0, [(5.0, 50.0), (10.0, 50.0)], 0.02)
        draws = np.random.default_rng(1)
        noise = draws.normal(0.0, 0.02, (2, 200_000))
        left = 10.0 * draws.normal(1.0, 0.015, 200_000) - 10.0 + noise[0] - noise[1]
        self.assertAlmostEqual(found.least_g, 1.96 * float(left.std()), delta=0.01)

    @given(st.floats(1.0, 40.0), st.floats(0.001, 1.0), st.floats(0.0, 1.0), st.floats(0.0, 1.0), st.floats(1.0, 30.0))
    def test_more_left_or_a_coarser_balance_is_never_called_cleaner(self, supports, scale, share, more, coarser):
        def rank(left, balance):
            dried = [(5.0, 60.0 - supports + left), (10.0, 60.0 - supports + left)]
            return SAYS.index(residue_of(supports, 60.0, dried, balance).says)

        shares = sorted((share, more))
        ranks = [rank(supports * each, scale) for each in shares]
        self.assertTrue(all(later <= sooner for sooner, later in pairwise(ranks)))
        if rank(supports * share, scale) != SAYS.index("clean"):
            self.assertNotEqual(rank(supports * share, scale * coarser), SAYS.index("clean"))
