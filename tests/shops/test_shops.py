"""Two hundred shops with hidden truths: bands hold as often as they say, and what was measured brings them near."""

import unittest

import numpy as np

from kaustos.core.belief import PREDICTIONS, Seen, believe
from tests.asserting import every
from tests.shops.made import Shop

SPREADS = {
    "weld": {"shop": 0.1, "machine": 0.18, "polymer": 0.25, "lot": 0.16},
    "grip": {"shop": 0.14, "polymer": 0.24, "plate": 0.33, "lot": 0.17},
}
SCATTERS = {"weld": 0.12, "grip": 0.35}
MANY = {"machine": 3, "polymer": 4, "lot": 6, "plate": 4}
SHOPS, RUNS = 200, 40


def seen(look, error, number):
    return Seen(at=tuple(sorted(look.at.items())), over=look.read, error=error, source=str(number))


def walked(key, *, shops=SHOPS, runs=RUNS, **truths):
    """For each shop the truth at a place, and what is believed of it after its log."""
    for seed in range(shops):
        shop = Shop(seed, SPREADS[key], SCATTERS[key], **truths)
        log = [seen(shop.look(shop.place(MANY), 0.1), 0.1, number) for number in range(runs)]
        at = shop.place(MANY)
        yield shop.truth(at), believe(PREDICTIONS[key], log, at)


def held(pairs):
    bands = [(truth, belief.band()) for truth, belief in pairs]
    return float(np.mean([low <= truth <= high for truth, (low, _, high) in bands]))


class TestBands(unittest.TestCase):
    def test_95_of_100_bands_hold_after_forty_runs(self):
        for key in every(PREDICTIONS):
            with self.subTest(key):
                self.assertTrue(0.92 <= held(walked(key)) <= 0.99)

    def test_they_hold_in_shops_that_are_wilder_or_shifted(self):
        for key in every(PREDICTIONS):
            for truths in ({"wider": 1.4}, {"shift": 0.3}):
                with self.subTest(key, **truths):
                    self.assertGreaterEqual(held(walked(key, shops=100, **truths)), 0.85)

    def test_before_anything_was_seen_they_hold_as_well(self):
        for key in every(PREDICTIONS):
            truths = [Shop(seed, SPREADS[key], 0.0).truth(dict.fromkeys(SPREADS[key], "a")) for seed in range(SHOPS)]
            low, _, high = believe(PREDICTIONS[key], [], dict.fromkeys(SPREADS[key], "a")).band()
            with self.subTest(key):
                self.assertTrue(0.9 <= float(np.mean([low <= each <= high for each in truths])) <= 0.99)


class TestErrors(unittest.TestCase):
    def test_five_values_at_a_place_halve_the_error_of_the_model(self):
        before, after = [], []
        for seed in range(SHOPS):
            shop = Shop(seed, SPREADS["weld"], SCATTERS["weld"])
            at = shop.place(MANY)
            log = [seen(shop.look(at, 0.1), 0.1, number) for number in range(5)]
            before.append(abs(shop.truth(at)))
            after.append(abs(believe(PREDICTIONS["weld"], log, at).mean - shop.truth(at)))
        self.assertLessEqual(float(np.mean(after)), 0.5 * float(np.mean(before)))

    def test_twenty_outcomes_near_the_limit_come_near_the_truth_and_those_far_from_it_do_no_harm(self):
        errors = {"near": [], "far": [], "model": []}
        for seed in range(100):
            shop = Shop(seed, SPREADS["grip"], SCATTERS["grip"])
            at = shop.place(MANY)
            told = tuple(sorted(at.items()))
            for kind, away in (("near", 0.0), ("far", -3.0)):
                log = []
                for number in range(20):
                    limit = shop.near(at) + away
                    side = "above" if shop.held(at, limit) else "below"
                    log.append(Seen(at=told, over=limit, error=0.05, side=side, source=str(number)))
                errors[kind].append(abs(believe(PREDICTIONS["grip"], log, at).mean - shop.truth(at)))
            errors["model"].append(abs(shop.truth(at)))
        model, near, far = (float(np.mean(errors[kind])) for kind in ("model", "near", "far"))
        self.assertLess(near, 0.65 * model)
        self.assertLess(near, far)
