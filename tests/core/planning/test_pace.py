"""Hours learned of a machine: beside a grid of likelihoods, more runs narrow, what is no whole run is left out."""

import unittest

import attrs
import numpy as np

from kaustos.core.estimates import RUN
from kaustos.core.planning.pace import learned_pace, took_over_told
from kaustos.core.records import Run, RunStep
from kaustos.core.review.run import run_case
from tests.support import opened, recipe_and_context


def run(begun="2026-03-01T08:00:00Z", ended="2026-03-01T11:18:00Z", **changes):
    steps = (RunStep(key="start", done_utc=begun), RunStep(key="end", done_utc=ended))
    return attrs.evolve(Run(id="r", card="c", revision=1.0, outcome="good", told_h=3.0, steps=steps), **changes)


class TestPace(unittest.TestCase):
    def test_it_is_the_mean_of_what_prior_and_runs_say(self):
        ratios = [1.08, 1.14, 1.1]
        at = np.linspace(-0.6, 0.6, 24_001)
        weight = np.exp(-0.5 * (at / RUN["pace_machines"].value) ** 2)
        for each in ratios:
            weight *= np.exp(-0.5 * ((np.log(each) - at) / RUN["pace_runs"].value) ** 2)
        mean = float(np.sum(at * weight) / np.sum(weight))
        self.assertAlmostEqual(learned_pace(ratios).value, np.exp(mean), places=6)

    def test_runs_narrow_the_band_and_none_leave_what_is_usual(self):
        bands = [learned_pace([1.1] * count) for count in (0, 1, 3, 20)]
        widths = [each.high / each.low for each in bands]
        self.assertEqual(widths, sorted(widths, reverse=True))
        self.assertEqual(bands[0].value, 1.0)
        values = [each.value for each in bands]
        self.assertEqual(values, sorted(values))

    def test_of_machines_made_up_the_next_run_lies_in_the_band(self):
        told = np.random.default_rng(3)
        inside = 0
        for _ in range(400):
            pace = told.normal(0.0, RUN["pace_machines"].value)
            ratios = np.exp(pace + told.normal(0.0, RUN["pace_runs"].value, 5))
            found = learned_pace(list(ratios[:4]))
            inside += found.low <= ratios[4] <= found.high
        self.assertTrue(368 <= inside <= 392, inside)

    def test_hours_are_those_between_first_move_and_end_or_as_typed(self):
        self.assertAlmostEqual(took_over_told(run()), 1.1)
        self.assertAlmostEqual(took_over_told(run(ran_h=3.6)), 1.2)

    def test_what_was_no_whole_run_or_ticked_late_teaches_nothing(self):
        for changes in ({"outcome": "stopped"}, {"outcome": None}, {"told_h": None}, {"retired": True}, {"steps": ()},
                        {"ran_h": 11.0}):  # fmt: skip
            with self.subTest(changes):
                self.assertIsNone(took_over_told(run(**changes)))
        self.assertIsNone(took_over_told(run(ended="2026-03-01T21:00:00Z")), "nobody was there when it ended")
        stood = RunStep(key="pause.1", at_h=1.0, done_utc="2026-03-01T09:30:00Z")  # half an hour
        self.assertAlmostEqual(took_over_told(run(steps=(*run().steps, stood))), 2.8 / 3.0)
        waits = (*run().steps, RunStep(key="pause.1", at_h=1.0))
        self.assertIsNone(took_over_told(run(steps=waits)))

    def test_the_hours_of_the_next_run_follow(self):
        recipe, context = recipe_and_context(opened("cable_clamp"))
        plain = run_case(recipe, context).hours
        shop = attrs.evolve(context.shop, paces={"tarn": (1.12, 1.1, 1.11, 1.13)})
        learned = run_case(recipe, attrs.evolve(context, shop=shop)).hours
        self.assertAlmostEqual(learned.value / plain.value, 1.113, delta=0.01)
        self.assertLess(learned.high / learned.low, plain.high / plain.low)
        self.assertIn("4 runs of this machine", learned.source)
