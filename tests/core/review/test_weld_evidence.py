"""Specimens and breaks by hand beside the model of the weld: they move it, the more and the nearer the further."""

import math
import unittest

import attrs

from kaustos.core.records import PartChange, Proof, ProofRow
from kaustos.core.records.proof import settings_then
from kaustos.core.review.heat import heat_case
from tests.support import changed, opened, recipe_and_context

CARD = "wellhead_cover"


def pulled(across, along=40.0, count=3, **more):
    """A proof with specimens of which across is the mean; they differ by a twentieth."""
    told = {"id": "p", "sort": "pull", "card": CARD, "machine": "gill", "lot": "lot_a190", "polymer": "asa",
            "history": "as_printed", "moisture": "dry", **settings_then(recipe_and_context(opened(CARD))[0]),
            "layer_s": 100.0} | more  # fmt: skip
    spread = [0.95 + 0.1 * n / max(count - 1, 1) for n in range(count)]
    rows = [ProofRow(name=f"{group}{n}", group=group, strength_mpa=mean * each)
            for group, mean in (("along", along), ("across", across)) for n, each in enumerate(spread)]  # fmt: skip
    return Proof(rows=tuple(rows), **told)


def broken(mode, **more):
    told = {"id": "h", "sort": "hand", "card": CARD, "machine": "gill", "lot": "lot_a190", "polymer": "asa",
            "nozzle_c": 252.0} | more  # fmt: skip
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
                     {"polymer": "abs"}, {"nozzle_c": None}):  # fmt: skip
            with self.subTest(more):
                self.assertIsNone(case(pulled(20.0, **more)).evidence)

    def test_what_was_pulled_before_a_sensor_of_the_nozzle_was_changed_says_less(self):
        def beside(part, at_utc, made_utc="2026-02-28T08:00:00Z"):
            change = PartChange(part=part, at_utc=at_utc)
            recipe, context = recipe_and_context(opened(CARD))
            machine = attrs.evolve(context.machine, changes=(change,))
            proofs = (pulled(20.0, at_utc=made_utc),)
            return heat_case(recipe, attrs.evolve(context, machine=machine, proofs=proofs)).band()

        plain = beside("probe", "2026-03-01T08:00:00Z")  # decides nothing of a weld
        self.assertEqual(beside("nozzle_sensor", "2026-01-01T08:00:00Z"), plain, "it was changed before they were made")
        since = beside("nozzle_sensor", "2026-03-01T08:00:00Z")
        undated = beside("nozzle_sensor", "2026-03-01T08:00:00Z", made_utc="")
        self.assertLess(undated.value, since.value, "on an unknown day it is no newer than the change, and old")
        self.assertLess(since.value, plain.value)
        self.assertGreater(since.high / since.low, plain.high / plain.low)

    def test_specimens_made_colder_promise_more_for_what_is_made_hotter(self):
        same, colder = (case(pulled(16.0, nozzle_c=each)).likely for each in (252.0, 240.0))
        self.assertGreater(colder, same)


class TestFaultsAreNotTheirs(unittest.TestCase):
    """What is worse now is worse than the specimens were: they hide nothing of it."""

    def weld(self, **changes):
        recipe, context = recipe_and_context(changed(opened(CARD), changes))
        return heat_case(recipe, context).likely

    def test_what_is_made_worse_since_is_worse_by_what_the_model_says_of_it(self):
        before = self.weld()
        for worse in ({"heat.fan_pct": 100.0}, {"melt.speed_mm_s": 120.0}, {"melt.nozzle_c": 235.0},
                      {"plate.copies": 6.0}, {"heat.least_layer_s": 600.0}):  # fmt: skip
            recipe, context = recipe_and_context(changed(opened(CARD), worse))
            told, plain = heat_case(recipe, context).likely, heat_case(recipe, attrs.evolve(context, proofs=())).likely
            base = heat_case(*recipe_and_context(opened(CARD).with_tables(proofs={}))).likely
            with self.subTest(worse):
                self.assertLess(told, before)
                self.assertLess(told / before, math.sqrt(plain / base), "nearly as far as without specimens")

    def test_a_wet_spool_is_as_wet_with_specimens_as_without(self):
        dry = pulled(20.0)
        recipe, context = recipe_and_context(opened("winch_bracket", "gill"))
        dry = attrs.evolve(dry, polymer=recipe.polymer, lot=context.lot.id, nozzle_c=recipe.melt.nozzle_c)
        shares = []
        for hours in (24.0, 4.0, 0.0):
            there, at = recipe_and_context(changed(opened("winch_bracket", "gill"), {"stock.dryer_h": hours}))
            shares.append(heat_case(there, attrs.evolve(at, proofs=(dry,))).likely)
        self.assertEqual(shares, sorted(shares, reverse=True))
        self.assertLess(shares[-1], 0.95 * shares[0])

    def test_bars_that_were_laid_quickly_promise_less_for_slow_layers(self):
        slow, quick = (case(pulled(20.0, layer_s=each)).likely for each in (100.0, None))
        self.assertLess(quick, slow)

    def test_a_filled_polymer_is_measured_by_its_moulded_matrix(self):
        rows = [ProofRow(name=f"m{n}", group="moulded", strength_mpa=60.0 + n) for n in range(3)]
        bars = pulled(20.0)
        both = attrs.evolve(bars, rows=(*bars.rows, *rows))
        self.assertLess(case(both).likely, case(bars).likely)


class TestByHand(unittest.TestCase):
    def test_what_parts_through_the_layers_is_strong_and_between_them_weak(self):
        weak, plain, strong = (case(*each).likely for each in ((broken("between"),), (), (broken("through"),)))
        self.assertTrue(weak < plain < strong)
        self.assertEqual(case(broken("mixed")).likely, plain)

    def test_it_says_less_than_specimens(self):
        told, pulled_too = case(broken("through")), case(broken("through"), pulled(10.0, count=6))
        self.assertLess(abs(pulled_too.likely - 0.25), abs(told.likely - 0.25))
