"""The log judges the review: counted by hand on small logs; intervals against the binomial sum."""

import math
import unittest

import attrs
import numpy as np

from kaustos.app.judge import context_of_records
from kaustos.core.estimates import PROOF
from kaustos.core.planning.shape_classes import shape_classes
from kaustos.core.planning.specimens import lower_bound
from kaustos.core.records import SEEN, Observation, Run
from kaustos.core.review import CODES, Estimate, Finding, OperationReview
from kaustos.core.review.experience import (
    Tally,
    judge_run,
    maturity_of,
    tallies,
)
from kaustos.core.review.tempering import counted, is_refuted, tempered
from tests.support import LIGHT, NOW, at_once, opened

COLD, STICKY = "machine.chamber.below_window", "machine.plate.above_window"


def run(number, outcome, *seen, foretold=(), shape=None, **more):
    observed = tuple(Observation(what=what) for what in seen)
    return Run(id=f"run_{number:04d}", card="c", revision=1.0, outcome=outcome, observations=observed,
               foretold=foretold, shape=shape, started_utc=f"2026-01-{number:02d}T08:00:00Z", **more)  # fmt: skip


class TestOnePartIsOneClass(unittest.TestCase):
    def test_what_is_typed_later_of_the_same_part_makes_no_second_class(self):
        same = [run(1, "good", part="Cover", shape="shell"), run(2, "good", part="cover ", shape="detail"),
                run(3, "good", part="Cover", shape="flat")]  # fmt: skip
        self.assertEqual(shape_classes(same), ("shell",))
        self.assertEqual(maturity_of(same).word, "repeated")
        two = [*same, run(4, "good", part="Clip", shape="detail")]
        self.assertEqual((shape_classes(two), maturity_of(two).word), (("detail", "shell"), "proven"))
        unnamed = [run(1, "good", shape="ring"), run(2, "good", shape="tall")]
        self.assertEqual(shape_classes(unnamed), ("ring", "tall"))


class TestWhatRunsRefute(unittest.TestCase):
    """A stop that good runs of the recipe as it stands have refuted is a watch; nothing else moves it."""

    CODE = "heat.weld.weak"

    def weight(self, *runs, code=CODE):
        records = opened("wellhead_cover")
        runs = [attrs.evolve(each, card=records.current) if each.card == "c" else each for each in runs]
        records = records.with_tables(runs={each.id: each for each in runs})
        found = LIGHT.at_hand(records.card.recipe, context_of_records(records, NOW)).review
        return {each.severity for each in found.findings() if each.code == code}

    def told(self, number, *seen, polymer="asa", outcome="good", code=CODE):
        return run(number, outcome, *seen, foretold=(code,), polymer=polymer)

    def test_three_good_runs_despite_it_make_it_a_watch_and_two_do_not(self):
        self.assertEqual(self.weight(), {"stop"}, "as the model says")
        good = [self.told(number) for number in (1, 2, 3)]
        self.assertEqual(self.weight(*good[:2]), {"stop"})
        self.assertEqual(self.weight(*good), {"watch"})
        self.assertEqual(self.weight(*good[::-1]), {"watch"}, "in any order")

    def test_runs_that_showed_it_bring_it_back(self):
        good = [self.told(number) for number in (1, 2, 3)]
        bad = [self.told(number, "layers_split", outcome="failed") for number in (4, 5)]
        self.assertEqual(self.weight(*good, bad[0]), {"stop"}, "2 of 6 by the rule of succession")
        self.assertEqual(self.weight(*good, *bad), {"stop"})

    def test_runs_of_another_recipe_of_the_polymer_are_enough_for_none(self):
        others = [attrs.evolve(self.told(number), card="another") for number in (1, 2, 3)]
        self.assertEqual(self.weight(*others), {"stop"})
        self.assertEqual(self.weight(*others, self.told(4), self.told(5)), {"stop"}, "two of its own are too few")
        self.assertEqual(self.weight(*others, *(self.told(number) for number in (4, 5, 6))), {"watch"})

    def test_runs_of_another_polymer_or_that_are_retired_or_still_go_on_move_nothing(self):
        others = [attrs.evolve(self.told(number, polymer="abs"), card="another") for number in (1, 2, 3)]
        gone = [attrs.evolve(self.told(number), retired=True) for number in (4, 5, 6)]
        open_ones = [self.told(number, outcome=None) for number in (7, 8, 9)]
        self.assertEqual(self.weight(*others, *gone, *open_ones), {"stop"})

    def test_no_run_moves_a_stop_that_protects_people(self):
        safe = [code for code in CODES.values() if code.is_safety and code.shows]
        self.assertGreater(len(safe), 3)
        for code in safe:
            finding = Finding(code.code, "stop", {}, "x", None, ())
            operation = OperationReview(10, "stop", "", (), (finding,), (), ())
            heard = tempered((operation,), lambda code=code: {code.code: Tally(0, 50)}, 50)
            with self.subTest(code.code):
                self.assertEqual(heard[0].findings[0].severity, "stop")


class TestChances(unittest.TestCase):
    def finding(self, severity="watch", chance=0.2, basis="prior", code=STICKY):
        stake = Estimate(100.0, 80.0, 120.0, "money", "m", "s")
        cost = attrs.evolve(stake, value=100.0 * chance, low=0.0, high=120.0)
        return Finding(code, severity, {}, "x", cost, (), chance=chance, basis=basis, stake=stake)

    def test_a_chance_that_nobody_drew_moves_to_what_its_own_record_shows(self):
        found = [counted(self.finding(), Tally(0, wrong)) for wrong in (0, 1, 5, 40)]
        self.assertEqual([each.chance for each in found], sorted((each.chance for each in found), reverse=True))
        self.assertAlmostEqual(found[0].chance, 0.2)
        self.assertLess(found[-1].chance, 0.03)
        worth = PROOF["record_worth"].value
        self.assertAlmostEqual(counted(self.finding(), Tally(3, 4)).chance, (0.2 * worth + 3.0) / (worth + 4.0))
        self.assertAlmostEqual(found[2].cost.value, found[2].chance * 100.0)
        self.assertTrue(found[2].cost.low < found[2].cost.value < found[2].cost.high)

    def test_its_band_is_that_of_a_beta_distribution_by_sampling(self):
        found = counted(self.finding(chance=0.5), Tally(2, 3))
        worth = PROOF["record_worth"].value
        draws = np.random.default_rng(5).beta(0.5 * worth + 2.0, 0.5 * worth + 1.0, 200_000)
        self.assertAlmostEqual(found.cost.low / 80.0, float(np.quantile(draws, 0.025)), delta=0.01)
        self.assertAlmostEqual(found.cost.high / 120.0, float(np.quantile(draws, 0.975)), delta=0.01)

    def test_what_is_sure_and_what_protects_people_is_counted_by_nobody(self):
        safe = next(code.code for code in CODES.values() if code.is_safety and code.shows)
        for each in (self.finding(basis="sure"), self.finding("stop", 0.9, code=safe)):
            operation = OperationReview(10, each.severity, "", (), (each,), (), ())
            (heard,) = tempered((operation,), lambda each=each: {each.code: Tally(0, 30)}, 30)
            with self.subTest(each.code):
                self.assertEqual(heard.findings[0].chance, each.chance)

    def test_good_runs_of_the_recipe_as_it_stands_lower_what_was_drawn_and_others_do_not(self):
        drawn = self.finding("stop", 0.8, "draws", code=COLD)
        operation = OperationReview(10, "stop", "", (), (drawn,), (), ())
        for proven, tally, severity, moves in (
            (0, Tally(0, 30), "stop", False), (2, Tally(0, 2), "stop", True), (3, Tally(0, 3), "watch", True),
            (3, None, "stop", False), (3, Tally(4, 9), "stop", True),
        ):  # fmt: skip
            (heard,) = tempered((operation,), lambda tally=tally: {COLD: tally} if tally else {}, proven)
            with self.subTest(proven=proven, tally=tally):
                self.assertEqual(heard.findings[0].severity, severity)
                self.assertEqual(heard.findings[0].chance < 0.8, moves, "a run in which it did not stand tells nothing")

    def test_harm_to_a_plate_stops_from_a_tenth(self):
        harms = next(code.code for code in CODES.values() if code.harms and not code.is_safety)
        record = {harms: Tally(0, 3)}
        for chance, severity in ((0.8, "stop"), (0.4, "stop"), (0.1, "watch")):
            drawn = self.finding("stop", chance, "draws", code=harms)
            (heard,) = tempered((OperationReview(10, "stop", "", (), (drawn,), (), ()),), lambda: record, 3)
            with self.subTest(chance=chance):
                refuted = is_refuted(record[harms])
                self.assertEqual(heard.findings[0].severity, "watch" if refuted else severity)

    def test_what_can_hurt_people_is_never_priced_and_stands_before_all_of_its_severity(self):
        found = at_once(opened("probe_head_shell")).findings()
        safe = [each for each in found if CODES[each.code].is_safety]
        self.assertTrue(safe)
        self.assertEqual({(each.cost, each.basis) for each in safe}, {(None, "people")})
        self.assertEqual(safe[0], found[0])

    def test_the_dearest_comes_first_once_the_record_is_heard(self):
        cheap, dear = self.finding(code=COLD), self.finding(code=STICKY)
        operation = OperationReview(10, "watch", "", (), (cheap, dear), (), ())
        (heard,) = tempered((operation,), lambda: {COLD: Tally(0, 9)}, 0)
        self.assertEqual([each.code for each in heard.findings], [STICKY, COLD])
        self.assertEqual({each.severity for each in heard.findings}, {"watch"})


class TestTables(unittest.TestCase):
    def test_every_finding_shows_somehow_or_says_why_no_run_tells(self):
        for name, code in CODES.items():
            with self.subTest(name):
                self.assertTrue(code.shows or code.silent)
                self.assertEqual(bool(code.shows and code.silent), name.endswith("unknown"))

    def test_everything_that_can_be_seen_is_foretold_by_something(self):
        foretold = {what for code in CODES.values() for what in code.shows}
        self.assertEqual(foretold, set(SEEN))


class TestJudging(unittest.TestCase):
    def test_seen_is_parted_into_foretold_and_not_and_the_rest_was_absent(self):
        found = judge_run(run(1, "failed", "layers_split", "charred", foretold=(COLD, STICKY)))
        self.assertEqual(found.foretold, (("layers_split", (COLD,)),))
        self.assertEqual(found.not_foretold, ("charred",))
        self.assertEqual(found.absent, (STICKY,))

    def test_counts_over_all_ended_runs(self):
        log = (
            run(1, "failed", "layers_split", foretold=(COLD,)),
            run(2, "failed", "warped", foretold=(COLD, STICKY)),
            run(3, "good", foretold=(COLD, COLD)),
            run(4, None, "warped", foretold=(COLD,)),
            run(5, "failed", "warped", foretold=(COLD,), retired=True),
            run(6, "failed", "warped"),
        )
        found = tallies(log)
        self.assertEqual((found[COLD].right, found[COLD].of), (2, 3))
        self.assertEqual((found[STICKY].right, found[STICKY].of), (0, 1))

    def test_what_water_shows_as_too_does_not_count_for_or_against_heat(self):
        nozzle, wet = "machine.nozzle.below_window", "stock.moisture.wet"
        for seen, state, is_counted in ((("starved",), "wet", False), (("starved",), "dry", True), ((), "wet", True),
                                     (("starved",), None, True), (("starved", "no_flow"), "wet", True)):  # fmt: skip
            with self.subTest(seen, filament=state):
                found = tallies([run(1, "failed", *seen, foretold=(nozzle, wet), filament=state)])
                self.assertEqual(nozzle in found, is_counted)
                self.assertEqual((found[wet].right, found[wet].of), (1 if seen else 0, 1))


class TestMaturity(unittest.TestCase):
    def word(self, *runs):
        return maturity_of(runs).word

    def test_worked_once_is_not_validated_and_repeats_and_shapes_count(self):
        good = [run(number, "good", shape="flat") for number in (1, 2, 3)]
        self.assertEqual(self.word(), "untried")
        self.assertEqual(self.word(run(1, "failed")), "no success yet")
        self.assertEqual(self.word(good[0]), "worked once")
        self.assertEqual(self.word(*good[:2]), "worked twice")
        self.assertEqual(self.word(*good), "repeated")
        other = run(4, "good", shape="tall")
        self.assertEqual(self.word(*good, other), "proven")
        self.assertEqual(self.word(*good, other, run(5, "failed", shape="tall")), "repeated")
        self.assertEqual(maturity_of((*good, other)).shapes, ("flat", "tall"))

    def test_runs_from_wet_filament_are_left_out_and_doubtful_ones_named(self):
        wet = run(9, "failed", filament="wet")
        self.assertEqual(self.word(wet), "wet runs only")
        good = [run(number, "good", filament=state) for number, state in ((1, "dry"), (2, "doubtful"), (3, "unknown"))]
        found = maturity_of((*good, wet))
        self.assertEqual(
            (found.word, found.good, found.ended, found.wet, found.not_surely_dry), ("repeated", 3, 3, 1, 2)
        )

    def test_the_lower_bound_leaves_five_per_cent_of_binomial_tail(self):
        for good, of in ((1, 1), (5, 5), (3, 4), (1, 6), (17, 20)):
            share = lower_bound(good, of)
            tail = sum(math.comb(of, k) * share**k * (1 - share) ** (of - k) for k in range(good, of + 1))
            with self.subTest(good=good, of=of):
                self.assertAlmostEqual(tail, 0.05, places=9)
        self.assertEqual(lower_bound(0, 9), 0.0)
