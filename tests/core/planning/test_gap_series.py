"""A series of gaps: its best, what to print next, and that nothing of it is lost."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from kaustos.core.errors import KaustosError
from kaustos.core.planning.gap_series import TAKEN, UNDERSIDES, GapStep, best_gap, steps_in, values_of

STEPS = st.lists(
    st.builds(
        GapStep, layers=st.integers(0, 9), minutes=st.floats(0.1, 60.0), under=st.sampled_from([*UNDERSIDES])
    ), min_size=1, max_size=6, unique_by=lambda each: each.layers,
)  # fmt: skip


def step(layers, minutes, under):
    return GapStep(layers=layers, minutes=minutes, under=under)


class TestSeries(unittest.TestCase):
    def test_the_cleanest_then_the_quickest_then_the_nearest_is_best(self):
        for steps, best, wanted in (
            ([step(1, None, "fused"), step(2, 0.5, "clean"), step(3, 0.3, "marked")], 2, None),
            ([step(1, None, "fused"), step(2, 0.5, "marked"), step(3, 0.3, "marked")], 3, 4),
            ([step(2, 0.5, "clean"), step(3, 0.5, "clean"), step(4, 0.2, "sagged")], 2, 1),
            ([step(1, None, "fused"), step(2, 3.0, "torn")], None, 3),
            ([step(3, 0.2, "sagged")], None, 2),
            ([step(2, 0.4, "clean")], 2, 1),
            ([step(1, 0.4, "clean")], 1, 2),
        ):
            found = best_gap(steps)
            with self.subTest(steps=steps):
                self.assertEqual(found.best and found.best.layers, best)
                self.assertEqual(found.next_layers, wanted)

    @given(STEPS)
    def test_nothing_that_came_off_badly_is_best_and_what_is_wanted_is_new(self, steps):
        found = best_gap(steps)
        self.assertTrue(found.best is None or found.best.under in TAKEN)
        self.assertEqual(found.best is None, not any(each.under in TAKEN for each in steps))
        self.assertNotIn(found.next_layers, {each.layers for each in steps})
        self.assertEqual(best_gap(steps[::-1]), found, "whatever the order")

    @given(STEPS)
    def test_what_is_kept_comes_back(self, steps):
        found = best_gap(steps)
        values = values_of(found, 0.2)
        self.assertEqual(steps_in(values), found.steps if found.best is not None else ())
        if found.best is not None:
            self.assertAlmostEqual(values["gap_mm"], 0.2 * found.best.layers)

    def test_what_is_no_step_is_named(self):
        for steps, words in (
            ([step(-1, 1.0, "clean")], "-1 layers"),
            ([step(2, 1.0, "clean"), step(2, 1.0, "torn")], "stands twice"),
            ([step(2, None, "clean")], "say the minutes"),
        ):
            with self.subTest(words), self.assertRaisesRegex(KaustosError, words):
                best_gap(steps)
