"""What ignoring a finding costs."""

import unittest

import attrs

from kaustos.core.review import CODES, Estimate, Finding
from kaustos.core.review.money import COMES_TRUE, at_stake, comes_true, expected_loss, lost_together, run_cost
from tests.support import changed, judged, opened, operation_of, recipe_and_context

RUN = Estimate(100.0, 80.0, 150.0, "money", "test", "test")


class TestEnergy(unittest.TestCase):
    def test_its_price_has_the_band_of_the_energy(self):
        values = {"brief.print_h": 10.0, "machine.power_w": 1500.0, "rules.energy_per_kwh": 0.4}
        _, _, found = judged(changed(opened("probe_head_shell"), values))
        figures = {each.key: each.value for each in operation_of(found, "machine").figures}
        energy, cost = figures["machine.run.energy"], figures["machine.run.energy_cost"]
        self.assertEqual((energy.value, cost.value), (15.0, 6.0))
        for end in ("low", "high"):
            self.assertAlmostEqual(getattr(cost, end), 0.4 * getattr(energy, end))
        self.assertTrue(0.0 < energy.low < energy.value < energy.high < 2.0 * energy.value)


class TestTogether(unittest.TestCase):
    def risk(self, chance, stake=100.0, **more):
        """A finding that comes true so often [1, money]."""
        money = Estimate(stake, stake, stake, "money", "", "")
        cost = attrs.evolve(money, value=chance * stake)
        return Finding("x", "watch", {}, "", cost, (), chance=chance, stake=money, **more)

    def test_a_run_is_lost_once(self):
        self.assertAlmostEqual(lost_together([self.risk(0.5)] * 2), 75.0)
        self.assertAlmostEqual(lost_together([self.risk(0.5)] * 50), 100.0)
        self.assertAlmostEqual(lost_together([self.risk(0.3)]), 30.0)
        self.assertAlmostEqual(lost_together([self.risk(0.1), self.risk(0.1, 200.0)]), 0.19 * 200.0)

    def test_what_is_sure_is_paid_besides_and_what_comes_of_another_is_in_that(self):
        sure = self.risk(1.0, 8.0, basis="sure")
        self.assertAlmostEqual(lost_together([self.risk(0.5), sure]), 58.0)
        self.assertAlmostEqual(lost_together([self.risk(0.5), self.risk(0.9, due_to="y")]), 50.0)

    def test_where_nothing_has_a_price_none_is_told(self):
        self.assertIsNone(lost_together([]))
        self.assertIsNone(lost_together([Finding("x", "stop", {}, "", None, (), basis="people")]))


class TestAtStake(unittest.TestCase):
    def test_a_lost_run_takes_what_gives_way_with_it(self):
        found = at_stake(RUN, 0.0, 35.0)
        self.assertEqual((found.value, found.low, found.high), (135.0, 115.0, 185.0))

    def test_half_an_hour_of_clearing_goes_with_a_lost_run(self):
        self.assertEqual(at_stake(RUN, 45.0).value, 100.0 + 22.5)

    def test_the_cost_is_chance_times_stake_and_says_whence_the_chance(self):
        found = expected_loss(at_stake(RUN, 0.0), (0.05, 0.2, 0.5), "estimate")
        self.assertAlmostEqual(found.value, 20.0)
        self.assertAlmostEqual(found.low, 80.0 * 0.05)
        self.assertAlmostEqual(found.high, 150.0 * 0.5)
        self.assertIn("estimate", found.method)

    def test_what_cannot_work_comes_true_more_often_than_a_stop_and_that_more_often_than_a_watch(self):
        def rank(code):
            return next(name for name, band in COMES_TRUE.items() if band == comes_true(code, code.severity))

        found = {rank(code): comes_true(code, code.severity)[1] for code in CODES.values()}
        self.assertEqual(sorted(found, key=found.get), ["silent", "watch", "capped", "stop", "no_go"])

    def test_unknown_stays_unknown(self):
        self.assertIsNone(at_stake(None, 45.0, 35.0))
        self.assertIsNone(expected_loss(None, (0.1, 0.2, 0.3), "estimate"))

    def test_any_of_the_four_inputs_missing_makes_the_cost_unknown(self):
        for path in ("brief.mass_g", "brief.print_h", "polymer", "context.machine"):
            recipe, context = recipe_and_context(changed(opened("probe_head_shell"), {path: None}))
            with self.subTest(path):
                self.assertIsNone(run_cost(recipe, context))

    def test_a_machine_without_a_rate_costs_the_shop_s_machine_hour(self):
        records = changed(opened("probe_head_shell"), {"machine.rate_per_h": None, "rules.machine_per_h": 7.0})
        recipe, context = recipe_and_context(records)
        found = run_cost(recipe, context)
        self.assertAlmostEqual(found.value, 5.8 * 7.0 + 0.162 * 190.0)
        self.assertIn("the shop's machine hour", found.method)

    def test_cost_grows_in_proportion_with_mass_and_hours(self):
        def cost(mass, hours):
            values = {"brief.mass_g": mass, "brief.print_h": hours}
            recipe, context = recipe_and_context(changed(opened("probe_head_shell"), values))
            return run_cost(recipe, context).value

        self.assertAlmostEqual(cost(200.0, 10.0), 2 * cost(100.0, 5.0))
        self.assertAlmostEqual(cost(1000.0, 0.0), 190.0)
        self.assertAlmostEqual(cost(0.0, 1.0), 4.0)
