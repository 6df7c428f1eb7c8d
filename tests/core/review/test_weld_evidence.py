"""Specimens and breaks by hand beside the model of the weld: they move it, the more and the nearer the further."""

import math
import unittest

import attrs

from kaustos.core.records import Proof, ProofRow
from kaustos.core.review.heat import heat_case
from tests.support import opened, recipe_and_context

CARD = "wellhead_cover"


def pulled(across, along=40.0, count=3, **more):
    """A proof with specimens of which across is the mean; they differ by a twentieth."""
    told = {"id": "p", "sort": "pull", "card": CARD, "machine": "gill", "lot": "lot_a190", "polymer": "asa",
            "history": "as_printed", "moisture": "dry"} | more  # fmt: skip
    spread = [0.95 + 0.1 * n / max(count - 1, 1) for n in range(count)]
    rows = [ProofRow(name=f"{group}{n}", group=group, strength_mpa=mean * each)
            for group, mean in (("along", along), ("across", across)) for n, each in enumerate(spread)]  # fmt: skip
    return Proof(rows=tuple(rows), **told)


def broken(mode, **more):
    told = {"id": "h", "sort": "hand", "card": CARD, "machine": "gill", "lot": "lot_a190", "polymer": "asa"} | more
    return Proof(rows=(ProofRow(name="a", hand="break", mode=mode),), **told)


def case(*proofs, **changes):
    recipe, context = recipe_and_context(opened(CARD))
    return heat_case(recipe, attrs.evolve(context, proofs=proofs, **changes))


class TestSpecimens(unittest.TestCase):
    def test_three_specimens_of_this_machine_polymer_and_lot_decide(self):
        for across in (8.0, 20.0, 32.0):
            found = case(pulled(across, count=6)).band()
            with self.subTest(across=across):
                self.assertAlmostEqual(found.value, 100.0 * across / 40.0, delta=0.15 * 100.0 * across / 40.0)
                self.assertLess(
                    math.log(found.high / found.low), 0.5 * math.log(case().band().high / case().band().low)
                )

    def test_more_of_them_narrow_it_and_the_line_says_what_both_say(self):
        widths = [case(pulled(18.0, count=count)).band() for count in (2, 3, 8)]
        ratios = [each.high / each.low for each in widths]
        self.assertEqual(ratios, sorted(ratios, reverse=True))
        self.assertIn("model", widths[1].method)
        self.assertIn("3 specimens 45 %", widths[1].method)

    def test_stronger_specimens_never_make_a_weaker_weld(self):
        found = [case(pulled(across)).likely for across in (4.0, 10.0, 16.0, 24.0, 36.0)]
        self.assertEqual(found, sorted(found))

    def test_those_of_another_machine_or_lot_are_carried_over_less(self):
        plain = case().likely
        here, lot, machine = (
            case(pulled(20.0, **more)).likely for more in ({}, {"lot": "lot_other"}, {"machine": "crag", "lot": "x"})
        )
        self.assertTrue(plain < machine < lot < here)

    def test_what_was_annealed_wet_aged_retired_or_of_another_polymer_tells_nothing(self):
        for more in ({"history": "annealed"}, {"moisture": "conditioned"}, {"aged_h": 100.0}, {"retired": True},
                     {"polymer": "abs"}):  # fmt: skip
            with self.subTest(more):
                self.assertIsNone(case(pulled(20.0, **more)).evidence)

    def test_specimens_made_colder_promise_more_for_what_is_made_hotter(self):
        same, colder = (case(pulled(16.0, nozzle_c=each)).likely for each in (252.0, 240.0))
        self.assertGreater(colder, same)


class TestByHand(unittest.TestCase):
    def test_what_parts_through_the_layers_is_strong_and_between_them_weak(self):
        weak, plain, strong = (case(*each).likely for each in ((broken("between"),), (), (broken("through"),)))
        self.assertTrue(weak < plain < strong)
        self.assertEqual(case(broken("mixed")).likely, plain)

    def test_it_says_less_than_specimens(self):
        told, pulled_too = case(broken("through")), case(broken("through"), pulled(10.0, count=6))
        self.assertLess(abs(pulled_too.likely - 0.25), abs(told.likely - 0.25))
