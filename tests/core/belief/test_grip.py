"""Outcomes on a plate: inequalities about its grip, beside an integral, many of them near the truth."""

import itertools
import math
import unittest

import numpy as np

from kaustos.core.belief import PREDICTIONS, Seen, believe
from kaustos.core.planning.pairing import Statement
from kaustos.core.records import PlateItem
from kaustos.core.review.contract import Bonded
from kaustos.core.review.plate.case import book_draws
from kaustos.library import load

GRIP = PREDICTIONS["grip"]
SCATTER = GRIP.scatter
ABS, PLATE = load().polymers["abs"], PlateItem(id="p", name="P", surface="film")
AT = {each.name: "here" for each in GRIP.levels}


def seen(over, *, above, number=0):
    """A part that held, or did not, at a load over which the grip was expected by so much."""
    return Seen(
        at=tuple(sorted(AT.items())), over=-over, error=0.0, side="above" if above else "below", source=str(number)
    )


def belief(spread, *found):
    return believe(GRIP, found, AT, spread)


def integrated(spread, over):
    """Mean and spread of N(0, spread²) after one part held, its scatter a logistic, by a plain sum."""
    x = np.linspace(-8.0 * spread, 8.0 * spread, 40_001)
    density = np.exp(-0.5 * (x / spread) ** 2) / (1.0 + np.exp(-(x + over) / SCATTER * math.pi / math.sqrt(3.0)))
    mean = float((x * density).sum() / density.sum())
    return mean, math.sqrt(float(((x - mean) ** 2 * density).sum() / density.sum()))


class TestOneOutcome(unittest.TestCase):
    def test_it_moves_the_belief_as_the_integral_does(self):
        for spread, over in itertools.product((0.2, 0.47, 0.9), (-1.5, -0.3, 0.0, 0.8, 2.0)):
            found = belief(spread, seen(over, above=True))
            mean, width = integrated(spread, over)
            with self.subTest(spread=spread, over=over):
                self.assertAlmostEqual(found.mean, mean, delta=3e-3)
                self.assertAlmostEqual(found.spread, width, delta=3e-3)

    def test_letting_go_is_the_mirror_of_holding(self):
        held, let_go = belief(0.5, seen(0.4, above=True)), belief(0.5, seen(-0.4, above=False))
        self.assertAlmostEqual(held.mean, -let_go.mean, places=6)
        self.assertAlmostEqual(held.spread, let_go.spread, places=6)

    def test_the_more_surprising_it_is_the_further_it_moves(self):
        moved = [belief(0.5, seen(over, above=True)).mean for over in (2.0, 1.0, 0.0, -1.0)]
        self.assertEqual(moved, sorted(moved))


class TestAge(unittest.TestCase):
    def moved(self, at_utc, month):
        """How far ten lifts at half of the load at which they were expected move the grip."""
        lifted = tuple(
            Bonded(run=f"r{n}", at_utc=at_utc, polymer=ABS.id, agent="", lot="", over_load=0.7, over_cold=0.0,
                   over_damage=0.0, seen=("corner_lift",), lift_mm=3.0, outcome="failed", plate="p", surface="film")
            for n in range(10)
        )  # fmt: skip
        statement = Statement(holds="well", band=(50.0, 100.0, 200.0), basis="tried", from_words="")
        book, counted = book_draws(statement, lifted, ABS, None, PLATE, "", month)
        self.assertEqual(len(counted), 10)
        return math.log(float(np.median(book)) / 100.0)

    def test_what_a_plate_showed_years_ago_moves_it_less_and_never_the_other_way(self):
        fresh, old = (self.moved("2022-03-01T08:00:00Z", month) for month in ("2022-03", "2060-03"))
        self.assertLess(fresh, -0.7, "ten lifts at half of the load")
        self.assertLess(fresh, old - 0.02)
        self.assertLess(old, 0.0)

    def test_an_unknown_day_is_no_better_than_three_years_ago(self):
        self.assertEqual(self.moved("", "2030-03"), self.moved("2027-03-01T08:00:00Z", "2030-03"))
        self.assertEqual(self.moved("2022-03-01T08:00:00Z", ""), self.moved("2030-03-01T08:00:00Z", "2030-03"))


class TestMany(unittest.TestCase):
    def test_ten_holds_far_below_the_grip_leave_it_within_a_tenth(self):
        found = belief(0.47, *(seen(math.log(6.0), above=True, number=each) for each in range(10)))
        self.assertLess(abs(math.exp(found.mean) - 1.0), 0.1)

    def test_shares_of_the_belief_come_back_in_order_and_spread_as_it_is(self):
        found = belief(0.5, seen(0.0, above=True))
        drawn = found.at((np.arange(4000) + 0.5) / 4000)
        self.assertTrue((np.diff(drawn) > 0).all())
        self.assertAlmostEqual(float(drawn.mean()), found.mean, places=3)
        self.assertAlmostEqual(float(drawn.std()), found.spread, places=3)

    def test_thirty_outcomes_of_a_plate_close_in_on_its_true_grip(self):
        """Loads between a third and three times the book; the truth half of it; most bands cover it."""
        rng, covered, narrower, errors = np.random.default_rng(11), 0, 0, []
        for _ in range(60):
            truth = rng.normal(0.0, 0.47)
            log = [seen(over, above=bool(truth + over + rng.normal(0.0, SCATTER) > 0.0), number=number)
                   for number, over in enumerate(rng.uniform(-1.1, 1.1, 30))]  # fmt: skip
            found = belief(0.47, *log)
            covered += abs(found.mean - truth) <= 1.96 * found.spread
            narrower += found.spread < 0.5 * 0.47
            errors.append(found.mean - truth)
        self.assertGreaterEqual(covered, 52)
        self.assertGreaterEqual(narrower, 55)
        self.assertLess(abs(float(np.mean(errors))), 0.08)
