"""The account of a spool: nothing is counted twice, nothing is forgotten."""

import itertools
import random
import unittest

import attrs

from kaustos.core.planning.ledger import ledger_of, runs_that_fit, taken_by_runs
from kaustos.core.records import Lot, Reserve, Run, Stay, Weighing


def at(day, zone="Z"):
    """A moment in February."""
    return f"2026-02-{day:02d}T08:00:00{zone}"


def run(key, day, grams=100.0, **more):
    """A run from the lot."""
    return Run(id=key, card="c", revision=1.0, lot="a", started_utc=at(day), mass_g=grams, **more)


LOT = Lot(id="a", tare_g=200.0, net_g=1000.0, stays=(Stay(place="open", from_utc=at(1)),))


class TestTaken(unittest.TestCase):
    def test_a_run_counts_from_its_start_until_the_spool_is_weighed_again(self):
        weighed = attrs.evolve(LOT, weighings=(Weighing(at_utc=at(10), gross_g=900.0),))
        runs = [run("1", 9), run("2", 11), run("3", 12, outcome="stopped"), run("4", 13)]
        self.assertEqual(taken_by_runs({"a": weighed}, runs), {"a": 300.0})
        later = attrs.evolve(weighed, weighings=(*weighed.weighings, Weighing(at_utc=at(13, "+01:00"), gross_g=610.0)))
        self.assertEqual(taken_by_runs({"a": later}, runs), {"a": 100.0}, "08:00+01:00 is before 08:00Z")

    def test_a_retired_spool_holds_nothing(self):
        gone = attrs.evolve(LOT, weighings=(Weighing(at_utc=at(10), gross_g=900.0),), retired=True)
        self.assertEqual(ledger_of(gone, 0.0).free_g, 0.0)

    def test_what_says_nothing_of_this_spool_is_left_out(self):
        runs = [
            run("1", 5, retired=True),
            run("2", 5, grams=None),
            attrs.evolve(run("3", 5), lot="b"),
            attrs.evolve(run("4", 5), started_utc=""),
        ]
        self.assertEqual(taken_by_runs({"a": LOT}, runs), {})

    def test_weighing_after_any_runs_settles_the_account(self):
        rng = random.Random(3)
        for _ in range(50):
            days = sorted(rng.sample(range(1, 28), 6))
            runs = [run(str(n), day, rng.uniform(1.0, 90.0)) for n, day in enumerate(days)]
            before = attrs.evolve(LOT, weighings=(Weighing(at_utc=at(days[2]), gross_g=900.0),))
            taken = taken_by_runs({"a": before}, runs).get("a", 0.0)
            self.assertAlmostEqual(taken, sum(each.mass_g for each in runs[3:]))
            settled = attrs.evolve(before, weighings=(Weighing(at_utc=at(28), gross_g=900.0 - taken),))
            left, also = ledger_of(before, taken), ledger_of(settled, taken_by_runs({"a": settled}, runs).get("a", 0.0))
            self.assertAlmostEqual(left.free_g, also.free_g)


class TestLedger(unittest.TestCase):
    def test_free_is_weighed_less_taken_less_put_aside_and_never_below_nothing(self):
        reserves = (Reserve(grams=60.0, purpose="bars"), Reserve(grams=40.0, purpose="slurry"))
        lot = attrs.evolve(LOT, weighings=(Weighing(at_utc=at(10), gross_g=700.0),), reserves=reserves)
        self.assertEqual(ledger_of(lot, 150.0).free_g, 700.0 - 200.0 - 150.0 - 60.0 - 40.0)
        self.assertEqual(ledger_of(lot, 900.0).free_g, 0.0)
        self.assertIsNone(ledger_of(attrs.evolve(lot, tare_g=None), 0.0))

    def test_a_sealed_pack_holds_what_was_sold_and_an_opened_one_is_not_known(self):
        sealed = attrs.evolve(LOT, stays=(Stay(place="sealed", from_utc=at(1)),))
        self.assertEqual(ledger_of(sealed, 0.0).free_g, 1000.0)
        self.assertIsNone(ledger_of(LOT, 0.0))

    def test_runs_that_fit_keep_five_per_cent(self):
        for free, mass in itertools.product((0.0, 104.9, 105.0, 2100.0), (100.0,)):
            fits = runs_that_fit(free, mass)
            self.assertAlmostEqual(fits * mass + 0.05 * fits * mass, free)
        self.assertGreaterEqual(runs_that_fit(105.0, 100.0), 1.0)
        self.assertLess(runs_that_fit(104.9, 100.0), 1.0)
