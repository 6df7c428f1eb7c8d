"""Stop or go on: beside the sum of what may happen, and never bolder where more is at stake or fewer held on."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from kaustos.core.planning.stop_rule import DANGER, Marked, stop_advice
from kaustos.core.records import SEEN

ORDER = ("stop", "open", "go on")


class TestAdvice(unittest.TestCase):
    def test_it_is_what_the_expected_cost_says_where_the_log_is_long(self):
        for good, bad, left, again in ((180, 20, 10.0, 40.0), (20, 180, 30.0, 40.0), (100, 100, 5.0, 40.0)):
            share = good / (good + bad)
            going_on = left + (1.0 - share) * again
            wanted = "go on" if going_on < again else "stop"
            with self.subTest(good=good):
                self.assertEqual(stop_advice("corner_lift", Marked(good=good, bad=bad), left, again).says, wanted)

    def test_a_short_log_cannot_tell_and_one_of_six_has_a_wide_band(self):
        self.assertEqual(stop_advice("strings", Marked(good=0, bad=0), 20.0, 40.0).says, "open")
        chance = stop_advice("strings", Marked(good=1, bad=5), 20.0, 40.0).chance
        self.assertTrue(0.0 < chance.low < 100.0 / 6.0 < chance.high < 60.0)

    @given(st.integers(0, 30), st.integers(0, 30), st.floats(0.0, 100.0), st.floats(0.0, 1.0), st.floats(1.0, 3.0))
    def test_more_left_or_fewer_that_held_on_is_never_bolder(self, good, bad, again, share, more):
        def rank(good, bad, left):
            return ORDER.index(stop_advice("corner_lift", Marked(good=good, bad=bad), left, again).says)

        now = rank(good, bad, share * again)
        self.assertLessEqual(rank(good, bad, more * share * again), now)
        self.assertLessEqual(rank(good, bad + 5, share * again), now)

    def test_what_endangers_people_is_stopped_whatever_it_costs(self):
        self.assertLessEqual(DANGER, set(SEEN))
        for what in DANGER:
            self.assertEqual(stop_advice(what, Marked(good=50, bad=0), 0.0, 1e6).says, "stop")
