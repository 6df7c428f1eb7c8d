"""Fan, clips and coats to start from: by the habits of the shop, the other opinion beside them."""

import unittest

import attrs

from kaustos.core.planning import propose_habits
from kaustos.core.records import AgentBatch, PlateItem, Rules
from kaustos.core.review.heat.findings import findings_of
from kaustos.core.review.plate.findings import new_batch
from kaustos.library import load
from tests.asserting import every
from tests.support import opened, recipe_and_context

SHEET = PlateItem(id="p", held="magnet")


def proposed(polymer, proven=0, item=SHEET, agent="starch", **rules):
    known = load().supplies.bonds.agents
    found = propose_habits(
        load().polymers[polymer], Rules(**rules), proven, item, next(iter(known.values())) if agent else None
    )
    return {each.field: each for each in found}


class TestHabits(unittest.TestCase):
    def test_the_fan_waits_for_its_runs_where_the_shop_says_so(self):
        fan = [proposed("pla", proven, fan_after_runs=2.0)["heat.fan_pct"] for proven in (0, 1, 2)]
        low, high = (load().polymers["pla"].value(key).value for key in ("fan_low", "fan_high"))
        self.assertEqual([each.value for each in fan], [0.0, 0.0, round(low + 0.5 * (high - low))])
        self.assertIn("from the start", fan[0].other)
        self.assertIn("proven the bond", proposed("pla")["heat.fan_pct"].other)

    def test_no_habit_leaves_its_window_but_a_fan_that_waits(self):
        for polymer in every(load().polymers.values()):
            for each in every(
                proposed(polymer.id, start_in_window_pct=100.0, start_clips=4.0, start_coats=3.0).values()
            ):
                with self.subTest(polymer.id, field=each.field):
                    self.assertTrue(each.window[0] - 0.5 <= each.value <= each.window[1] + 0.5)

    def test_clips_and_coats_are_asked_for_only_where_there_is_a_sheet_and_an_agent(self):
        clips = proposed("abs", start_clips=4.0)["plate.clips"]
        self.assertEqual((clips.value, "magnet" in clips.other), (4.0, True))
        self.assertIn("clips", proposed("abs")["plate.clips"].other)
        self.assertNotIn("plate.clips", proposed("abs", item=PlateItem(id="p", held="screws")))
        self.assertNotIn("plate.coats", proposed("abs", agent=""))
        self.assertIn("one thin", proposed("abs", start_coats=3.0)["plate.coats"].other)


class TestFanThatWaits(unittest.TestCase):
    def test_a_shop_that_waits_is_not_told_to_blow(self):
        recipe, context = recipe_and_context(opened("cable_guide", "beck"))
        low = attrs.evolve(context.polymer.value("fan_low"), value=30.0, low=30.0, high=30.0)
        high = attrs.evolve(low, value=60.0, low=60.0, high=60.0)
        polymer = attrs.evolve(context.polymer, values={**context.polymer.values, "fan_low": low, "fan_high": high})
        still = attrs.evolve(recipe, heat=attrs.evolve(recipe.heat, fan_pct=0.0))

        def told(runs):
            there = attrs.evolve(
                context, polymer=polymer, past=None, rules=attrs.evolve(context.rules, fan_after_runs=runs)
            )
            return [each.code for each in findings_of(still, there)]

        self.assertIn("heat.fan.too_little", told(0.0))
        self.assertNotIn("heat.fan.too_little", told(2.0))


class TestMixOrBuy(unittest.TestCase):
    def test_both_ways_are_priced_and_the_shop_s_own_is_named_first(self):
        kinds = load().supplies.bonds.agents
        kind = next(each for each in kinds.values() if each.solvents)
        batch = AgentBatch(id="b", agent=kind.id, mixed_ml=200.0)
        mix, buy = (new_batch(batch, kind, Rules(mix_from_ml=each)) for each in (0.0, 500.0))
        self.assertEqual((mix.title, buy.title), ("Mix a new batch", "Buy another bottle"))
        self.assertAlmostEqual(mix.values["buy"], 200.0 * kind.price_ml.value)
        dearer = new_batch(batch, kind, Rules(wage_per_h=90.0))
        self.assertAlmostEqual(dearer.values["mix"] - mix.values["mix"], 45.0 * mix.values["work"])
        ready = next(each for each in kinds.values() if not each.solvents)
        self.assertEqual(new_batch(batch, ready, Rules()).title, "Take another")
