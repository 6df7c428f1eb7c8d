"""Starts by the clock: the plan beside a search over every minute, shifts over midnight, weekends."""

import random
import unittest
from datetime import UTC, datetime, timedelta
from itertools import pairwise

import attrs

from kaustos.core.planning.run_day import STEP_MIN, Hand, Staffed, best_start, judged_start

MONDAY = datetime(2026, 3, 2, tzinfo=UTC)


def is_there(staffed, at):
    """By the clock on the wall, told another way."""
    hour = at.hour + at.minute / 60.0
    if staffed.from_h <= staffed.to_h:
        return at.weekday() < staffed.days and staffed.from_h <= hour < staffed.to_h
    before = at - timedelta(days=1)
    late = at.weekday() < staffed.days and hour >= staffed.from_h
    return late or (before.weekday() < staffed.days and hour < staffed.to_h)


class TestNext(unittest.TestCase):
    def test_it_is_the_first_minute_of_a_walk_at_which_somebody_is_there(self):
        told = random.Random(11)
        for _ in range(60):
            first, last = told.choice((0, 6, 7.5, 22)), told.choice((6, 16, 18.25, 24))
            staffed = Staffed(from_h=first, to_h=last, days=told.choice((1, 5, 7)))
            at = MONDAY + timedelta(minutes=told.randrange(7 * 1440))
            found = staffed.next_min(at)
            walked = next((n for n in range(7 * 1440) if is_there(staffed, at + timedelta(minutes=n))), None)
            self.assertEqual(found, walked, (staffed, at))
        self.assertIsNone(Staffed(from_h=8.0, to_h=16.0, days=0.0).next_min(MONDAY))


def lost(staffed, start, hands):
    """Minutes with nobody there, minute by minute."""
    return sum(
        not is_there(staffed, start + timedelta(minutes=round(each.at_min) + n))
        for each in hands
        for n in range(max(round(each.minutes), 1))
    )


class TestStarts(unittest.TestCase):
    def test_the_plan_is_that_of_a_search_over_all_starts_on_five_hundred_days(self):
        draws = random.Random(5)
        for number in range(500):
            staffed = Staffed(
                from_h=draws.choice((6.0, 8.0, 9.5, 22.0)), to_h=draws.choice((6.0, 12.0, 17.0, 21.5)),
                days=draws.choice((5.0, 6.0, 7.0)),
            )  # fmt: skip
            hands = [Hand(name="start", at_min=-float(draws.randrange(10, 90)), minutes=10.0)]
            length = 60.0 * draws.choice((0.5, 3.0, 9.0, 20.0, 40.0))
            hands.append(Hand(name="off", at_min=length, minutes=float(draws.randrange(5, 40))))
            if draws.random() < 0.5:
                hands.append(Hand(name="look", at_min=length * draws.random(), minutes=5.0))
            ready = MONDAY + timedelta(minutes=draws.randrange(7 * 1440))
            found = best_start(ready, hands, staffed)
            self.assertEqual(found.outside_min, lost(staffed, found.at, hands))
            if number % 25:
                continue
            first = ready + timedelta(minutes=-min(each.at_min for each in hands))
            first += timedelta(minutes=-(first.hour * 60 + first.minute) % STEP_MIN)
            every = [first + timedelta(minutes=STEP_MIN * n) for n in range(7 * 1440 // STEP_MIN)]
            best = min(every, key=lambda at: (lost(staffed, at, hands), at))
            with self.subTest(number):
                self.assertEqual((found.outside_min, found.at), (lost(staffed, best, hands), best))

    def test_a_night_job_begins_so_that_it_ends_in_the_morning_and_a_friday_waits_for_monday(self):
        staffed = Staffed(from_h=8.0, to_h=17.0)
        hands = [Hand(name="start", at_min=-10.0, minutes=10.0), Hand(name="off", at_min=15.5 * 60.0, minutes=20.0)]
        night = best_start(MONDAY + timedelta(hours=9), hands, staffed)
        self.assertEqual(night.outside, ())
        self.assertEqual((night.at.hour, night.at.minute), (16, 30))
        friday = best_start(MONDAY + timedelta(days=4, hours=16, minutes=55), hands, staffed)
        self.assertEqual(friday.at.weekday(), 0)

    def test_more_hours_with_somebody_there_never_leave_more_alone(self):
        hands = [Hand(name="start", at_min=-10.0, minutes=10.0), Hand(name="off", at_min=30 * 60.0, minutes=20.0)]
        ready = MONDAY + timedelta(days=3, hours=15)
        for chain in (
            [Staffed(from_h=8.0, to_h=to) for to in (9.0, 12.0, 17.0, 23.0)],
            [Staffed(from_h=8.0, to_h=17.0, days=days) for days in (0.0, 1.0, 3.0, 5.0, 7.0)],
        ):
            minutes = [best_start(ready, hands, each).outside_min for each in chain]
            self.assertTrue(all(later <= sooner for sooner, later in pairwise(minutes)))
        nobody = judged_start(ready, hands, Staffed(from_h=8.0, to_h=8.0))
        self.assertEqual((nobody.outside, nobody.outside_min), (("start", "off"), 30.0))


class TestPresence(unittest.TestCase):
    """Whoever heats stays beside it; what can wait waits; a spool goes in while somebody is there."""

    SHIFT = Staffed(from_h=8.0, to_h=17.0)
    MONDAY = datetime(2026, 3, 2, 6, 30)

    def test_the_heat_up_belongs_to_the_hours_with_somebody_there(self):
        heat = Hand(name="load and heat up", at_min=-70.0, minutes=10.0, beside_min=60.0)
        off = Hand(name="take it off", at_min=9.5 * 60.0, minutes=15.0, can_wait=True)
        found = best_start(self.MONDAY, (heat, off), self.SHIFT)
        self.assertEqual((found.at, found.outside), (datetime(2026, 3, 2, 9, 10), ()))
        urgent = attrs.evolve(off, can_wait=False)
        found = best_start(self.MONDAY, (heat, urgent), self.SHIFT)
        self.assertEqual(found.outside, ("take it off",), "a quarter of an hour in the evening, not an hour of heat")

    def test_no_start_lies_in_the_past_and_heat_is_part_of_it(self):
        heat = Hand(name="load and heat up", at_min=-70.0, minutes=10.0, beside_min=60.0)
        for hour in range(0, 168, 5):
            now = self.MONDAY + timedelta(hours=hour)
            with self.subTest(now=now):
                found = best_start(now, (heat,), self.SHIFT)
                self.assertGreaterEqual(found.at - timedelta(minutes=70), now)
                self.assertEqual(found.outside, ())

    def test_the_last_moment_with_somebody_there_beside_a_walk_minute_by_minute(self):
        there = self.SHIFT.minutes()
        for hours in (1, 3, 9, 20, 50, 80):
            before = datetime(2026, 3, 6, 18, 0) + timedelta(hours=hours)
            after = before - timedelta(hours=60)
            walked = before - timedelta(minutes=1)
            while walked >= after and not there[walked.weekday() * 1440 + walked.hour * 60 + walked.minute]:
                walked -= timedelta(minutes=1)
            with self.subTest(hours):
                self.assertEqual(self.SHIFT.last_before(before, after), walked if walked >= after else None)
