"""What runs leave open: until a proof closes it, and for what is no danger until a good run there."""

import unittest

import attrs

from kaustos.core.planning.matters import KINDS, open_matters
from kaustos.core.records import SEEN, Observation, Run, RunRest, RunStep, Settled
from kaustos.core.records.run import HAPPENED
from tests.asserting import every

BASE = Run(id="r", card="c", revision=1.0, machine="m", plate="p", outcome="failed")


def run(day, *happened, outcome="failed", **more):
    seen = [each for each in happened if each in SEEN]
    if "no_soak" in happened:
        more |= {"steps": (RunStep(key="hot", waived="no time"),)}
    if "stood_still" in happened:
        more |= {"rests": (RunRest(minutes=20.0),)}
    return attrs.evolve(
        BASE, id=f"run_{day:04d}", started_utc=f"2026-02-{day:02d}T08:00:00Z", outcome=outcome,
        observations=tuple(Observation(what=each) for each in seen), **more,
    )  # fmt: skip


def found(*runs):
    return [(each.run, each.what) for each in open_matters(runs, runs)]


class TestOpen(unittest.TestCase):
    def test_every_kind_is_something_that_can_be_seen_and_says_what_closes_it(self):
        for what, kind in every(KINDS.items(), 6):
            with self.subTest(what):
                self.assertIn(what, SEEN | HAPPENED)
                self.assertIn(kind.on, ("machine", "plate"))
                self.assertTrue(kind.words and kind.proof)
                self.assertEqual(found(run(3, what)), [("run_0003", what)])
                closed = run(3, what, settled=(Settled(what=what, by="A", proof="seen to"),))
                self.assertEqual(found(closed), [])

    def test_a_good_run_closes_what_is_no_danger(self):
        for what, kind in every(KINDS.items(), 6):
            with self.subTest(what):
                after = found(run(3, what), run(5, outcome="good"))
                self.assertEqual(after, [("run_0003", what)] if kind.is_danger else [])
                self.assertEqual(found(run(3, outcome="good"), run(5, what)), [("run_0005", what)])

    def test_dangers_stand_first_then_the_newest(self):
        runs = (run(3, "stuck"), run(4, "heater_fault"), run(6, "jam"), run(7, "surface_torn", "corner_lift"))
        self.assertEqual([what for _, what in found(*runs)], ["heater_fault", "surface_torn", "jam", "stuck"])

    def test_what_still_runs_or_is_taken_out_of_the_log_leaves_nothing_open(self):
        self.assertEqual(found(run(3, "jam", outcome=None), run(4, "jam", retired=True)), [])

    def test_a_danger_stands_before_anybody_gives_a_verdict(self):
        self.assertEqual(found(run(3, "heater_fault", outcome=None)), [("run_0003", "heater_fault")])

    def test_of_another_machine_or_plate_is_not_ours(self):
        stuck, jam = run(3, "stuck"), run(4, "jam")
        self.assertEqual([each.what for each in open_matters((jam,), ())], ["jam"])
        self.assertEqual([each.what for each in open_matters((stuck,), ())], [], "of a plate")
        self.assertEqual([each.what for each in open_matters((), (stuck, jam))], ["stuck"])
