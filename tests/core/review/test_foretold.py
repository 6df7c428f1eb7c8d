"""Foretold beside found: bands that hold as often as they say, what is off is said to be, odds are counted."""

import math
import random
import unittest

import attrs

from kaustos.core.estimates import RUN
from kaustos.core.records import Observation, Run
from kaustos.core.review.contract import Bonded
from kaustos.core.review.foretold import (
    hours_pairs,
    lift_odds,
    not_foretold,
    scores_of,
    warnings_of,
)

COLD = "machine.chamber.below_window"


def took(number, ratio, machine="a", told=10.0, **more):
    return Run(id=f"run_{number:04d}", card="c", revision=1.0, machine=machine, outcome="good", told_h=told,
               ran_h=told * ratio, started_utc=f"2026-01-{1 + number:02d}T08:00:00Z", **more)  # fmt: skip


def bonded(number, over, *seen):
    return Bonded(run=f"r{number}", at_utc="", polymer="asa", agent="", lot="", over_load=over, over_cold=0.0,
                  over_damage=0.0, seen=seen, lift_mm=None, outcome="good", plate="p")  # fmt: skip


class TestHours(unittest.TestCase):
    def test_95_of_100_bands_hold_on_machines_drawn_from_what_is_usual(self):
        rng, held, count = random.Random(8), 0, 0
        for machine in range(300):
            own = rng.gauss(0.0, RUN["pace_machines"].value)
            own_runs = (math.exp(own + rng.gauss(0.0, RUN["pace_runs"].value)) for _ in range(6))
            runs = [took(n, each, f"m{machine}") for n, each in enumerate(own_runs)]
            (score,) = scores_of(hours_pairs(runs))
            held, count = held + score.held, count + score.count
        self.assertTrue(0.93 <= held / count <= 0.97, held / count)

    def test_each_is_foretold_from_what_came_before_it_alone(self):
        runs = [took(n, 1.3) for n in range(5)]
        pairs = hours_pairs(reversed(runs))
        self.assertEqual([each.source for each in pairs], [each.id for each in runs])
        self.assertEqual(pairs[0].told, pairs[0].before)
        widths = [each.told[2] / each.told[0] for each in pairs]
        self.assertEqual(widths, sorted(widths, reverse=True))
        self.assertEqual(hours_pairs(runs[:3]), pairs[:3], "later runs change nothing of earlier ones")

    def test_a_machine_that_is_off_is_said_to_be_once_there_are_three(self):
        early, late = (scores_of(hours_pairs([took(n, 1.35) for n in range(count)]))[0] for count in (2, 3))
        self.assertFalse(early.is_off)
        self.assertEqual(late.count, 3)
        self.assertLess(late.narrower, 1.0)
        right = scores_of(hours_pairs([took(n, 1.05) for n in range(6)]))[0]
        self.assertFalse(right.is_off)

    def test_runs_that_do_not_tell_are_left_out(self):
        gone = [attrs.evolve(took(1, 1.1), outcome="failed"), attrs.evolve(took(2, 1.1), told_h=None),
                attrs.evolve(took(3, 1.1), retired=True)]  # fmt: skip
        self.assertEqual(hours_pairs(gone), ())


class TestOdds(unittest.TestCase):
    def test_as_many_as_their_chances_come_to(self):
        even = [bonded(n, 0.0, *(("corner_lift",) if n % 2 else ())) for n in range(40)]
        (found,) = lift_odds({"p": even}, {f"r{n}": "a" for n in range(40)})
        self.assertAlmostEqual(found.expected, 20.0)
        self.assertEqual((found.count, found.seen), (40, 20))
        half = 1.96 * math.sqrt(40 * 0.25)
        self.assertEqual((found.low, found.high), (math.floor(20 - half), math.ceil(20 + half)))

    def test_far_above_the_load_none_are_expected(self):
        (found,) = lift_odds({"p": [bonded(n, 3.0) for n in range(9)]}, {})
        self.assertLess(found.expected, 0.01)
        self.assertEqual((found.low, found.seen), (0, 0))


class TestWarnings(unittest.TestCase):
    def test_they_are_counted_by_hand_and_what_nobody_foretold_too(self):
        def run(number, *seen, foretold=(COLD,)):
            return Run(id=f"r{number}", card="c", revision=1.0, outcome="failed", foretold=foretold,
                       observations=tuple(Observation(what=what) for what in seen))  # fmt: skip

        log = [run(1, "layers_split"), run(2, "charred"), run(3, foretold=()), run(4, "charred", foretold=())]
        self.assertEqual([(each.code, each.of, each.right) for each in warnings_of(log)], [(COLD, 2, 1)])
        self.assertEqual(not_foretold(log), {"charred": 2})
