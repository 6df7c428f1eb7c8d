"""What is worth finding out first, asked of the demo's recipes and of what changes the answer."""

import unittest

import attrs

from kaustos.app.wording import Wording
from kaustos.app.worth import worth_lines
from kaustos.core.review import Past
from kaustos.core.review.experience import Tally
from kaustos.core.review.worth import RUNS, WORTH_KNOWING, worth_knowing
from tests.asserting import every
from tests.core.review.cases import measured
from tests.core.review.test_reads import spies
from tests.support import RECORDS, at_once, changed, opened, recipe_and_context

RING, SHELL, CAGE = "packer_ring", "probe_head_shell", "sensor_cage"


def asked(records):
    """What is worth finding out, by its key."""
    return {each.key: each for each in worth_knowing(*recipe_and_context(records))}


class TestWorthKnowing(unittest.TestCase):
    def test_only_what_pays_within_the_runs_of_a_recipe_is_told_the_best_first(self):
        told = 0
        for card in RECORDS.cards:
            found = worth_knowing(*recipe_and_context(opened(card)))
            nets = [RUNS * each.worth.value - each.cost for each in found]
            self.assertEqual(nets, sorted(nets, reverse=True), card)
            self.assertTrue(all(each > 0.0 for each in nets), card)
            told += len(found)
        self.assertGreater(told, 2)

    def test_a_weld_that_nothing_measured_is_worth_specimens_until_it_is_measured(self):
        ring = opened(RING)
        self.assertIn("specimens", asked(ring))
        known = measured("across", "crag", "lot_k008", ratio=0.7, ratio_half=0.08, nozzle_c=400.0)
        self.assertNotIn("specimens", asked(changed(ring, known)))

    def test_a_dearer_run_makes_knowing_worth_more_and_pay_sooner(self):
        cheap, dear = (asked(changed(opened(RING), {"brief.print_h": hours}))["specimens"] for hours in (7.0, 28.0))
        self.assertGreater(dear.worth.value, cheap.worth.value)
        self.assertLess(dear.pays_after, cheap.pays_after)

    def test_what_is_best_now_is_what_the_stop_says(self):
        for card in every((RING, SHELL, CAGE)):
            records = opened(card)
            found = {each.code: each.severity for each in at_once(records).findings()}
            worth = asked(records)["specimens"].worth
            with self.subTest(card):
                self.assertEqual(worth.runs_now, found.get("heat.weld.weak") != "stop")
                self.assertAlmostEqual(worth.at, 30.0 if card == CAGE else 50.0, delta=2.0)  # marks of the grades

    def test_good_runs_of_the_recipe_as_it_stands_are_heard(self):
        recipe, context = recipe_and_context(opened(RING))
        found = []
        for good in (0, 3, 30):
            record = {"heat.weld.weak": Tally(0, good)}
            shop = attrs.evolve(context.shop, record=lambda _, record=record: record)
            past = Past(good=good, ended=good, same=good)
            told = worth_knowing(recipe, attrs.evolve(context, shop=shop, past=past))
            found.append({each.key: each.worth for each in told}.get("specimens"))
        untried, some, many = found
        self.assertFalse(untried.runs_now)
        self.assertNotEqual(some, untried)
        self.assertTrue(many is None or many.runs_now, "nobody is told not to run what ran well thirty times")

    def test_nobody_pulls_specimens_for_an_ornament(self):
        self.assertNotIn("specimens", asked(changed(opened(RING), {"brief.purpose": "ornament"})))
        self.assertIn("specimens", asked(changed(opened(RING), {"brief.purpose": None})))

    def test_a_safety_part_has_no_price_on_its_weld(self):
        self.assertNotIn("specimens", asked(changed(opened(RING), {"brief.purpose": "safety"})))

    def test_where_the_cost_of_a_run_is_not_known_nothing_is_claimed(self):
        for path in ("brief.print_h", "brief.mass_g", "context.machine"):
            self.assertEqual(asked(changed(opened("wellhead_cover"), {path: None})), {}, path)

    def test_it_reads_what_it_declares_and_nothing_else(self):
        for card in every(RECORDS.cards):
            recipe, context = recipe_and_context(opened(card))
            told = worth_knowing(*spies(WORTH_KNOWING.reads, recipe, context))
            self.assertEqual(told, worth_knowing(recipe, context), card)

    def test_each_is_said_with_what_it_takes_saves_and_would_mean(self):
        wording = Wording()
        for card in (RING, SHELL, CAGE):
            found = worth_knowing(*recipe_and_context(opened(card)))
            for line, each in zip(every(worth_lines(found, wording)), found, strict=False):
                self.assertIn(f"pays after {each.pays_after}", line)
                self.assertRegex(line, r"As it stands it is best (run|not run); (under|from) [\d.,]+ ")


if __name__ == "__main__":
    unittest.main()
