"""The order list of a shop: what runs wait for, what is on its way, what a first trial needs."""

import unittest
from datetime import timedelta

import attrs

from kaustos.app.orders import HEADINGS, lots_to_order, mark_ordered, not_ordered, order_cells, order_list, order_total
from kaustos.app.recipes import copy_recipe, retire
from kaustos.app.runs import end_run, start_run
from kaustos.app.stock import new_lot
from kaustos.core.errors import KaustosError
from kaustos.library import load
from tests.app.test_workspace import WorkspaceTest


class TestOrders(WorkspaceTest):
    def setUp(self):
        super().setUp()
        self.workspace = self.demo()
        self.draft = self.workspace.draft
        self.draft.open_card("packer_ring")

    def line(self, lot="lot_k008"):
        """The line of a lot's grade and colour."""
        return next(each for each in order_list(self.workspace) if each.lot == lot)

    def codes(self):
        """What the open recipe is told."""
        return {each.code for each in self.workspace.review().findings()}

    def test_runs_that_wait_come_first_with_whole_spools_and_their_price(self):
        first = order_list(self.workspace)[0]
        self.assertEqual((first.lot, first.free_g, first.order_g, first.lead_h), ("lot_k008", 380.0, 500.0, 336.0))
        self.assertAlmostEqual(first.wanted_g, 4 * 140.0 * 1.05, msg="five wanted, one is done")
        self.assertEqual(first.state, "order 1 spool: runs of Packer back-up ring wait")
        price = self.workspace.context().polymer.value("price_per_kg").value
        self.assertAlmostEqual(first.cost, price / 2.0)
        cells = dict(zip(HEADINGS, order_cells(first, self.draft.wording), strict=True))
        self.assertEqual((cells["Wanted"], cells["To order"], cells["Lead time"]), ("588 g", "500 g", "14 d"))
        words = order_total(order_list(self.workspace), self.draft.wording)
        self.assertRegex(words, r"^To order: 1500 g in 2 lines, \d+ €\.$")
        second = order_list(self.workspace)[1]
        self.assertEqual((second.lot, second.order_g), ("lot_h117", 1000.0), "210 g + 2 × 96 g, 5 % each, off 512 g")
        self.assertIn("take it below its mark", second.state)

    def test_ordering_lifts_the_finding_and_a_lot_that_arrives_ends_it(self):
        self.assertIn("stock.lot.planned", self.codes())
        mark_ordered(self.workspace, "lot_k008", 500.0)
        self.assertNotIn("stock.lot.planned", self.codes())
        self.assertEqual((self.line().coming_g, self.line().order_g), (500.0, 0.0))
        self.assertIn("on its way, due ", self.line().state)
        now = self.workspace.clock()
        self.workspace.clock = lambda: now + timedelta(hours=336)
        self.assertIn("on its way, due ", self.line().state, "on the very day it is not late")
        self.workspace.clock = lambda: now + timedelta(days=15)
        self.assertIn("late: was due", self.line().state)
        key = new_lot(self.workspace, "K-009", "PEEK, medium flow", "natural")
        self.draft.set({f"lots/{key}/net_g": 500.0})
        arrived = self.line(key)
        self.assertEqual((arrived.free_g, arrived.coming_g, arrived.order_g), (880.0, 0.0, 0.0))

    def test_an_order_is_taken_back_and_undone(self):
        mark_ordered(self.workspace, "lot_k008", 500.0)
        mark_ordered(self.workspace, "lot_k008", 500.0)
        self.assertEqual(self.line().coming_g, 1000.0)
        not_ordered(self.workspace, "lot_k008")
        self.assertEqual((self.line().coming_g, self.line().order_g), (0.0, 500.0))
        self.draft.undo()
        self.assertEqual(self.line().coming_g, 1000.0)
        with self.assertRaisesRegex(KaustosError, "how much"):
            mark_ordered(self.workspace, "lot_k008", 0.0)

    def test_a_second_order_is_added_to_the_first_whichever_lot_carries_it(self):
        key = new_lot(self.workspace, "K-009", "PEEK, medium flow", "natural")
        self.draft.set({f"lots/{key}/net_g": 20.0, f"lots/{key}/received_utc": "2026-02-01T08:00:00Z"})
        mark_ordered(self.workspace, "lot_k008", 500.0)
        mark_ordered(self.workspace, key, 250.0)
        self.assertEqual(self.line(key).coming_g, 750.0)
        self.draft.set({"brief.runs": 12.0})
        for finding in self.workspace.review().findings():
            if finding.code == "stock.lot.planned":
                self.draft.set(finding.remedies[1].changes)
        self.assertNotIn("stock.lot.planned", self.codes())
        self.assertEqual(sum(bool(lot.ordered_g) for lot in self.draft.records.lots.values()), 1, "one note for both")

    def test_a_run_that_ends_well_is_no_longer_wanted_and_a_failed_one_still_is(self):
        before = self.line().wanted_g
        end_run(
            self.workspace,
            start_run(self.workspace, who="A. Tester", why="trial", took_place=True).id,
            {"outcome": "failed"},
        )
        self.assertAlmostEqual(self.line().wanted_g, before)
        end_run(
            self.workspace,
            start_run(self.workspace, who="A. Tester", why="trial", took_place=True).id,
            {"outcome": "usable"},
        )
        self.assertAlmostEqual(self.line().wanted_g, before - 147.0)

    def test_other_recipes_on_the_same_lot_count_and_retired_ones_do_not(self):
        self.draft.open_card("centraliser_blade")
        self.assertNotIn("stock.lot.planned", self.codes())
        self.draft.set({"cards/probe_head_shell/recipe.brief.runs": 4.0})  # three to come of 210 g, with 512 g free
        self.assertIn("stock.lot.planned", self.codes())
        retire(self.workspace, "cards", "probe_head_shell")
        self.draft.open_card("centraliser_blade")
        self.assertNotIn("stock.lot.planned", self.codes())

    def test_a_spool_that_is_used_up_keeps_its_order_and_what_waits_for_it(self):
        mark_ordered(self.workspace, "lot_k008", 500.0)
        retire(self.workspace, "lots", "lot_k008")
        line = self.line()
        self.assertEqual((line.free_g, line.coming_g, line.order_g), (0.0, 500.0, 500.0), "588 g and the mark of 150 g")
        not_ordered(self.workspace, "lot_k008")
        self.assertEqual(self.line().order_g, 1000.0)
        self.draft.set({"brief.runs": 1.0})
        self.assertNotIn("lot_k008", [each.lot for each in order_list(self.workspace)], "one is done, none is wanted")

    def test_a_recipe_without_a_lot_asks_for_a_spool_for_its_first_trial(self):
        self.draft.set({"context.lot": None, "polymer": "pekk_a", "brief.runs": None})
        line = next(each for each in order_list(self.workspace) if each.lot is None)
        self.assertEqual((line.order_g, line.colour), (1000.0, "any"))
        self.assertAlmostEqual(line.wanted_g, 147.0)
        self.assertIn("a trial waits", line.state)
        price = load().polymers["pekk_a"].value("price_per_kg").value
        self.assertAlmostEqual(line.cost, price, msg="a spool of a kilogram")
        self.draft.set({"brief.runs": 15.0})
        line = next(each for each in order_list(self.workspace) if each.lot is None)
        self.assertAlmostEqual(line.wanted_g, 14 * 147.0, msg="one of the fifteen is done")
        self.assertEqual(line.order_g, 3000.0)
        self.assertAlmostEqual(line.cost, 3.0 * price)
        copy_recipe(self.workspace, "packer_ring")
        line = next(each for each in order_list(self.workspace) if each.lot is None)
        self.assertAlmostEqual(line.wanted_g, (14 + 15) * 147.0, msg="of the copy none is done")

    def test_what_lies_on_the_shelf_instead_is_named_with_whether_it_passed(self):
        self.draft.set({"cards/wellhead_cover/recipe.brief.runs": 7.0})  # four to come, 530 g free
        self.assertEqual(self.line("lot_a190").instead, "A-204, red (no trial passed)")
        self.draft.set({"lots/lot_a190/reorder_g": 0.0, "cards/wellhead_cover/recipe.brief.runs": 8.0})
        self.assertEqual(self.line("lot_a190").instead, "A-204, red (no trial passed)", "835 g are short, 1000 g held")
        self.draft.set({"cards/wellhead_cover/recipe.brief.runs": 9.0})
        self.assertEqual(self.line("lot_a190").instead, "", "1108 g are short")

    def test_a_line_says_why_it_is_there(self):
        self.draft.set({"lots/lot_g310/reorder_g": 460.0})
        self.assertIn("the runs wanted take it below its mark", self.line("lot_g310").state)
        self.draft.set({"lots/lot_g310/reorder_g": 461.0, "lots/lot_g310/colour": ""})
        line = self.line("lot_g310")
        self.assertRegex(line.state, "order 1 spool: below its mark")
        self.assertIn("not recorded", order_cells(line, self.draft.wording))
        self.draft.set({"lots/lot_c042/weighings": ()})
        self.assertIn("C-042, black not weighed: counted as empty", self.line("lot_c042").state)
        self.assertEqual(self.line("lot_a190").state, "enough")

    def test_the_list_of_lots_says_order_for_what_this_list_says_and_no_longer_once_it_is_ordered(self):
        self.assertEqual(lots_to_order(self.workspace), {"lot_k008", "lot_h117"})
        self.draft.set({"lots/lot_a190/reorder_g": 600.0})
        self.assertIn("lot_a190", lots_to_order(self.workspace), "530 g are free")
        mark_ordered(self.workspace, "lot_a190", 1000.0)
        self.assertNotIn("lot_a190", lots_to_order(self.workspace))

    def test_what_has_no_price_is_said_beside_the_sum(self):
        lines = order_list(self.workspace)
        bare = tuple(attrs.evolve(each, cost=None) if each.lot == "lot_h117" else each for each in lines)
        words = order_total(bare, self.draft.wording)
        self.assertRegex(words, r"2 lines, \d+ € and 1 without a price\.$")
        paid = next(each.cost for each in lines if each.lot == "lot_k008")
        self.assertIn(self.draft.wording.value(paid, "money"), words)
        cells = order_cells(next(each for each in bare if each.lot == "lot_h117"), self.draft.wording)
        self.assertEqual(cells[HEADINGS.index("Cost")], "")

    def test_recipes_whose_runs_are_all_done_do_not_wait(self):
        self.draft.set({"lots/lot_k008/reorder_g": 0.0, "brief.runs": 6.0})
        twin = copy_recipe(self.workspace, "packer_ring")
        self.draft.set({f"cards/{twin}/recipe.name": "Spare ring", f"cards/{twin}/recipe.brief.runs": None})
        self.assertEqual(self.line().state, "order 1 spool: runs of Packer back-up ring wait")


if __name__ == "__main__":
    unittest.main()
