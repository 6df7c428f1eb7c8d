"""Readings of a run: what was put into made-up courses is found, what was not is not, worse never says better."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from kaustos.core.planning.readings import Course, told_by


def course(hours=3.0, step_s=5.0, wanted=80.0, tau_s=400.0, seed=1, **faults):
    """A zone that warms as one node, with a tenth of a kelvin of noise."""
    seconds = np.arange(0.0, 3600.0 * hours, step_s)
    shown = wanted + (21.0 - wanted) * np.exp(-seconds / tau_s)
    shown = shown + np.random.default_rng(seed).normal(0.0, 0.1, seconds.size)
    if "drift" in faults:
        shown = shown + faults["drift"] * seconds / 3600.0
    if "lost" in faults:  # hours, kelvin, minutes
        at, by, minutes = faults["lost"]
        shown[(seconds >= 3600.0 * at) & (seconds < 3600.0 * at + 60.0 * minutes)] -= by
    if "stuck" in faults:
        at, minutes = faults["stuck"]
        shown[(seconds >= 3600.0 * at) & (seconds < 3600.0 * at + 60.0 * minutes)] = 77.3
    if "gap" in faults:
        at, minutes = faults["gap"]
        shown[(seconds > 3600.0 * at) & (seconds < 3600.0 * at + 60.0 * minutes)] = np.nan
    return Course(seconds=seconds, shown_c=shown, wanted_c=np.full(seconds.size, faults.get("asked", wanted)))


class TestTold(unittest.TestCase):
    def test_a_sound_zone_is_told_when_it_was_there_and_nothing_else(self):
        found = told_by(course())
        self.assertEqual(found.says, ())
        self.assertAlmostEqual(found.reached_min, 400.0 / 60.0 * np.log(59.0 / 3.0), delta=0.4)

    def test_each_fault_is_found_by_its_name_and_size(self):
        lost = told_by(course(lost=(1.5, 14.0, 12.0)))
        self.assertEqual(lost.says, ("short",))
        self.assertAlmostEqual(lost.short_k, 14.0, delta=0.6)
        self.assertAlmostEqual(lost.short_min, 12.0, delta=0.2)
        self.assertEqual(told_by(course(asked=95.0)).says, ("never",))
        drift = told_by(course(drift=-2.0))
        self.assertIn("drift", drift.says)
        self.assertAlmostEqual(drift.drift_k_h, -2.0, delta=0.05)
        stuck = told_by(course(stuck=(1.0, 25.0)))
        self.assertIn("stuck", stuck.says)
        self.assertAlmostEqual(stuck.stuck_min, 25.0, delta=0.2)
        gap = told_by(course(gap=(1.2, 18.0)))
        self.assertEqual((gap.says, gap.gaps), (("gaps",), 1))
        self.assertAlmostEqual(gap.gap_min, 18.0, delta=0.2)

    def test_a_heater_at_its_limit_once_it_is_there_has_nothing_left(self):
        plain = course()
        for minutes, says in ((25.0, ("full",)), (5.0, ())):
            duty = np.where((plain.seconds > 5_400.0) & (plain.seconds <= 5_400.0 + 60.0 * minutes), 100.0, 60.0)
            duty[plain.seconds < 1_200.0] = 100.0  # while it warms that is its work
            found = told_by(
                Course(seconds=plain.seconds, shown_c=plain.shown_c, wanted_c=plain.wanted_c, duty_pct=duty)
            )
            self.assertEqual(found.says, says)
        self.assertEqual(found.full_min, 0.0)

    def test_what_falls_silent_or_never_moves_is_never_told_as_sound(self):
        for gap in ((1.0, 120.0), (0.0, 100.0)):  # silent to the end, silent from the beginning
            found = told_by(course(gap=gap))
            self.assertIn("gaps", found.says)
            self.assertAlmostEqual(found.gap_min, gap[1], delta=0.3)
        dead = course()
        for value in (80.0, 21.0):
            still = Course(seconds=dead.seconds, shown_c=np.full(dead.seconds.size, value), wanted_c=dead.wanted_c)
            self.assertIn("stuck", told_by(still).says, "it shows one and the same from cold to hot")

    def test_an_open_door_is_no_failing_heater(self):
        self.assertEqual(told_by(course(lost=(1.5, 14.0, 1.5))).says, ())

    def test_a_setpoint_that_is_changed_is_reached_anew(self):
        first = course(hours=1.0)
        wanted = np.where(first.seconds < 1800.0, 80.0, 100.0)
        then = 100.0 - 20.0 * np.exp(-(first.seconds - 1800.0) / 200.0)
        shown = np.where(first.seconds < 1800.0, first.shown_c, then)
        found = told_by(Course(seconds=first.seconds, shown_c=shown, wanted_c=wanted))
        self.assertEqual(found.says, (), "while it warms to the next it is not short")

    def test_whole_degrees_are_no_standing_still(self):
        coarse = course(hours=2.0)
        rounded = Course(seconds=coarse.seconds, shown_c=np.round(coarse.shown_c), wanted_c=coarse.wanted_c)
        self.assertEqual(told_by(rounded).stuck_min, 0.0)

    def test_without_what_was_wanted_only_drift_and_gaps_are_told(self):
        plain = course(drift=3.0)
        found = told_by(Course(seconds=plain.seconds, shown_c=plain.shown_c, wanted_c=None))
        self.assertEqual((found.reached_min, found.says), (None, ("drift",)))

    def test_nothing_shown_is_a_gap_and_no_fault(self):
        for size in (0, 1, 5):
            seconds = 60.0 * np.arange(size)
            found = told_by(Course(seconds=seconds, shown_c=np.full(size, np.nan), wanted_c=np.full(size, 80.0)))
            self.assertEqual((found.says, found.reached_min), (("gaps",), None))

    @settings(max_examples=30, deadline=None)
    @given(st.floats(7.0, 30.0), st.floats(1.0, 2.0), st.floats(3.0, 40.0), st.floats(1.0, 2.0), st.integers(0, 99))
    def test_deeper_or_longer_is_never_told_as_less(self, by, deeper, minutes, longer, seed):
        one = told_by(course(lost=(1.0, by, minutes), seed=seed))
        worse = told_by(course(lost=(1.0, by * deeper, minutes * longer), seed=seed))
        self.assertIn("short", one.says)
        self.assertGreaterEqual(worse.short_k, one.short_k - 0.2)
        self.assertGreaterEqual(worse.short_min, one.short_min - 0.1)
