"""The belief beside an independent sampler and closed forms; what an observation may do and what it may not."""

import math
import random
import unittest

import attrs
import numpy as np
from scipy.special import expit

from kaustos.core.belief import PREDICTIONS, Level, Prediction, Seen, believe
from kaustos.core.errors import FieldError
from tests.asserting import every

PLAIN = Prediction(
    key="plain", title="Plain", scale="factor", unit="1", spread=0.5,
    levels=(Level(name="machine", share=0.6), Level(name="lot", share=0.4)), scatter=0.1, drift=0.05, changed=0.2,
    shown_by=("anything",),
)  # fmt: skip
HERE, LOT_2, ELSEWHERE = (
    {"machine": "a", "lot": "1"}, {"machine": "a", "lot": "2"}, {"machine": "b", "lot": "3"},
)  # fmt: skip


def one(over, at=HERE, error=0.1, side="value", **more):
    return Seen(at=tuple(sorted(at.items())), over=over, error=error, side=side, **more)


def sampled(prediction, seen, at, chains=1200, steps=1000):
    """Mean, spread and quantiles by Metropolis on the effects themselves, written apart from the solver."""
    rng = np.random.default_rng(4711)
    shares = {each.name: each.share for each in prediction.levels}
    names = sorted({pair for each in seen for pair in each.at} | set(at.items()))
    sd = np.array([math.sqrt(shares[level]) * prediction.spread for level, _ in names])

    def log_density(u):
        total = -0.5 * ((u / sd) ** 2).sum(axis=1)
        for each in seen:
            x = sum(u[:, names.index(pair)] for pair in each.at)
            gone = sum(share for level, share in shares.items() if level not in dict(each.at)) * prediction.spread**2
            s = math.sqrt(each.error**2 + prediction.scatter**2 + prediction.drift**2 * each.years
                          + prediction.changed**2 * each.changed + gone)  # fmt: skip
            z = (x - each.over) / s
            if each.side == "value":
                total -= 2.0**2 * (np.sqrt(1.0 + (z / 2.0) ** 2) - 1.0)
            else:
                sign = 1.0 if each.side == "above" else -1.0
                total += np.log(expit(sign * z * math.pi / math.sqrt(3.0)))
        return total

    u = rng.normal(size=(chains, len(names))) * sd
    now, kept = log_density(u), []
    for step in range(steps):
        tried = u + rng.normal(size=u.shape) * sd * (0.6 if step % 2 else 0.2)
        then = log_density(tried)
        taken = np.log(rng.random(chains)) < then - now
        u[taken], now[taken] = tried[taken], then[taken]
        if step > steps // 4 and step % 10 == 0:
            kept.append(sum(u[:, names.index(pair)] for pair in at.items()))
    return np.concatenate(kept)


CASES = {
    "one value": [one(0.3)],
    "values of two lots": [one(0.3), one(0.5, LOT_2), one(0.1, LOT_2)],
    "one odd reading": [one(0.1), one(0.15), one(2.0)],
    "held near the limit": [one(0.1, side="above", error=0.3)],
    "lifted, then held": [one(0.2, side="below", error=0.3), one(-0.1, side="above"), one(-0.2, LOT_2, side="above")],
    "old, changed, elsewhere": [one(-0.4, ELSEWHERE, years=3.0), one(0.4, changed=True), one(0.2, {"machine": "a"})],
}


class TestBesideASampler(unittest.TestCase):
    def test_mean_and_ends_within_two_hundredths(self):
        for name, seen in CASES.items():
            draws = sampled(PLAIN, seen, HERE)
            found = believe(PLAIN, seen, HERE)
            with self.subTest(name):
                self.assertAlmostEqual(found.mean, draws.mean(), delta=0.02)
                self.assertAlmostEqual(found.spread, draws.std(), delta=0.02)
                for share, own in zip((0.025, 0.5, 0.975), found.band(), strict=True):
                    self.assertAlmostEqual(own, float(np.quantile(draws, share)), delta=0.035)


class TestClosedForms(unittest.TestCase):
    def test_nothing_seen_is_the_model_as_it_was(self):
        found = believe(PLAIN, [], HERE)
        self.assertEqual((found.mean, found.spread, found.count), (0.0, 0.5, 0))
        self.assertAlmostEqual(found.band()[2], 1.96 * 0.5, places=3)

    def test_a_small_residual_is_the_conjugate_normal_one(self):
        found = believe(PLAIN, [one(0.02)], HERE)
        noise = 0.1**2 + 0.1**2
        self.assertAlmostEqual(found.mean, 0.02 * 0.25 / (0.25 + noise), delta=1e-3)
        normal = math.sqrt(0.25 * noise / (0.25 + noise))
        self.assertTrue(normal <= found.spread <= 1.2 * normal, "tails that are heavier cost a little, never gain")

    def test_another_lot_of_the_machine_learns_the_share_that_it_shares(self):
        here, there, far = (believe(PLAIN, [one(0.02)], at).mean for at in (HERE, LOT_2, ELSEWHERE))
        self.assertAlmostEqual(there / here, 0.6, delta=0.02)
        self.assertEqual(far, 0.0)

    def test_an_inequality_teaches_near_its_limit_and_little_far_from_it(self):
        near = believe(PLAIN, [one(0.0, side="above", error=0.3)], HERE).mean
        far = believe(PLAIN, [one(-1.5, side="above", error=0.3)], HERE).mean
        self.assertGreater(near, 0.2)
        self.assertLess(far, 0.02)
        self.assertAlmostEqual(-near, believe(PLAIN, [one(0.0, side="below", error=0.3)], HERE).mean, places=6)

    def test_ten_that_held_far_below_leave_it_within_a_tenth(self):
        held = [one(-2.0, side="above", error=0.3, source=str(each)) for each in range(10)]
        self.assertLess(math.exp(believe(PLAIN, held, HERE).mean), 1.1)


class TestProperties(unittest.TestCase):
    def setUp(self):
        self.rng = random.Random(28)

    def some(self, count):
        at = (HERE, LOT_2, ELSEWHERE, {"machine": "a"})
        return [
            one(self.rng.gauss(0.0, 0.5), self.rng.choice(at), self.rng.uniform(0.02, 0.4),
                self.rng.choice(("value", "value", "above", "below")), years=self.rng.choice((0.0, 1.0, 4.0)),
                changed=self.rng.random() < 0.2, source=str(number))
            for number in range(count)
        ]  # fmt: skip

    def test_the_order_of_what_was_seen_changes_no_bit(self):
        for _ in range(20):
            seen = self.some(7)
            found = believe(PLAIN, seen, HERE)
            self.rng.shuffle(seen)
            again = believe(PLAIN, seen, HERE)
            self.assertEqual((found.mean, found.spread, found.band()), (again.mean, again.spread, again.band()))

    def test_a_worse_observation_never_gives_a_better_belief(self):
        for _ in range(40):
            seen = self.some(5)
            worse = list(seen)
            worse[2] = attrs.evolve(seen[2], over=seen[2].over - self.rng.uniform(0.0, 1.5))
            self.assertLessEqual(believe(PLAIN, worse, HERE).mean, believe(PLAIN, seen, HERE).mean + 1e-6)

    def test_no_reading_moves_the_belief_beyond_itself(self):
        for _ in range(40):
            seen = self.some(4)
            before = believe(PLAIN, seen, HERE).mean
            new = one(self.rng.gauss(0.0, 0.8), HERE, 0.05, source="new")
            after = believe(PLAIN, [*seen, new], HERE).mean
            self.assertLessEqual(after, max(before, new.over) + 1e-3)
            self.assertGreaterEqual(after, min(before, new.over) - 1e-3)

    def test_no_observation_adds_more_precision_than_its_own(self):
        for _ in range(40):
            seen = [each for each in self.some(5) if each.side == "value"]
            new = one(self.rng.gauss(0.0, 0.3), HERE, 0.2, source="new")
            before, after = (believe(PLAIN, each, HERE).spread for each in (seen, [*seen, new]))
            own = 1.0 / (0.2**2 + PLAIN.scatter**2)
            self.assertLessEqual(1.0 / after**2 - 1.0 / before**2, own * 1.15)

    def test_taking_one_out_gives_back_what_was(self):
        seen = self.some(6)
        before = believe(PLAIN, seen, HERE)
        believe(PLAIN, [*seen, one(1.0, source="gone")], HERE)
        again = believe(PLAIN, seen, HERE)
        self.assertEqual((before.mean, before.spread), (again.mean, again.spread))

    def test_the_pull_of_an_odd_reading_is_bounded_and_never_falls(self):
        pulls = [believe(PLAIN, [one(0.0), one(0.02), one(far)], HERE).mean for far in (0.1, 0.5, 1.0, 2.0, 5.0)]
        self.assertEqual(pulls, sorted(pulls))
        self.assertLess(pulls[-1] - pulls[-2], 0.01)
        self.assertLess(pulls[-1], 0.3)

    def test_what_is_old_or_was_changed_since_counts_less(self):
        now, old, other = (
            believe(PLAIN, [one(0.3, **each)], HERE).mean for each in ({}, {"years": 9.0}, {"changed": True})
        )
        self.assertGreater(now, old)
        self.assertGreater(now, other)
        self.assertGreater(min(old, other), 0.0)

    def test_draws_keep_the_order_of_what_they_are_drawn_by(self):
        found = believe(PLAIN, CASES["lifted, then held"], HERE)
        draws = found.draws(np.linspace(-3.0, 3.0, 101))
        self.assertTrue((np.diff(draws) > 0.0).all())
        self.assertAlmostEqual(found.above(found.band()[1]), 0.5, places=2)


class TestTable(unittest.TestCase):
    def test_every_prediction_says_how_it_errs_and_what_shows_it(self):
        for key, each in every(PREDICTIONS.items(), 2):
            with self.subTest(key):
                self.assertEqual(key, each.key)
                self.assertTrue(each.title and each.shown_by and len(each.levels) >= 2)
                self.assertLess(each.drift, each.spread)

    def test_what_cannot_be_is_refused(self):
        for bad in ({"side": "left"}, {"error": -1.0}, {"over": math.nan}, {"years": -1.0}):
            with self.subTest(bad), self.assertRaises(FieldError):
                attrs.evolve(one(0.1), **bad)
        with self.assertRaises(FieldError):
            attrs.evolve(PLAIN, levels=(Level(name="machine", share=0.5),))
