"""What is to be ordered: an inventory position told by hand, and orders that arrive."""

import unittest
from datetime import UTC, datetime

import attrs

from kaustos.core.planning.supply import grams_wanted, order_changes, supply_of
from kaustos.core.records import Lot, Stay, Weighing


def at(day):
    """A moment in February."""
    return f"2026-02-{day:02d}T08:00:00Z"


def lot(key, gross, **more):
    """An opened spool of a grade, weighed once."""
    weighings = () if gross is None else (Weighing(at_utc=at(2), gross_g=gross),)
    values = {"grade": "G", "colour": "grey", "polymer": "pc", "tare_g": 200.0, "net_g": 750.0, "received_utc": at(1),
              "reorder_g": 150.0, "lead_h": 240.0}  # fmt: skip
    return Lot(id=key, name=key, weighings=weighings, stays=(Stay(place="open", from_utc=at(1)),), **(values | more))


class TestSupply(unittest.TestCase):
    def test_lots_of_one_grade_and_colour_stand_for_one_another_and_others_do_not(self):
        one, two = lot("one", 300.0), lot("two", 500.0)
        shelf = (one, two, lot("red", 900.0, colour="red"), lot("h", 900.0, grade="H"), lot("p", 900.0, polymer="pa6"))
        found = supply_of(one, shelf, {"two": 50.0, "red": 10.0}, {"one": 80.0, "two": 20.0, "red": 500.0})
        self.assertEqual({each.id for each in found.lots}, {"one", "two"})
        self.assertEqual((found.free_g, found.wanted_g, found.short_g), (100.0 + 250.0, 100.0, 0.0))
        self.assertEqual(found, attrs.evolve(supply_of(two, shelf, {"two": 50.0}, {"one": 80.0, "two": 20.0}),
                                             lots=found.lots))  # fmt: skip

    def test_whole_spools_are_ordered_as_soon_as_the_position_is_below_the_mark(self):
        one = lot("one", 400.0)  # 200 g free, mark at 150 g, spools of 750 g
        for wanted, spools, short in ((0.0, 0, 0.0), (50.0, 0, 0.0), (51.0, 1, 0.0), (800.0, 1, 600.0),
                                      (801.0, 2, 601.0), (1550.0, 2, 1350.0)):  # fmt: skip
            with self.subTest(wanted):
                found = supply_of(one, (one,), {}, {"one": wanted})
                self.assertEqual((found.spools, found.short_g), (spools, short))
                self.assertEqual(found.order_g, 750.0 * spools)

    def test_an_order_counts_until_a_lot_arrives_after_it(self):
        ordered = lot("one", 210.0, ordered_g=750.0, ordered_utc=at(5))
        found = supply_of(ordered, (ordered,), {}, {})
        self.assertEqual((found.coming_g, found.spools), (750.0, 0))
        self.assertEqual(found.due, datetime(2026, 2, 15, 8, tzinfo=UTC), "ten days after the fifth")
        for received, coming in ((at(4), 750.0), (at(6), 0.0), ("", 750.0)):
            with self.subTest(received):
                other = lot("two", 200.0, received_utc=received)
                self.assertEqual(supply_of(ordered, (ordered, other), {}, {}).coming_g, coming)

    def test_a_retired_lot_holds_nothing_and_its_order_still_comes(self):
        gone = lot("gone", 700.0, retired=True, ordered_g=750.0, ordered_utc=at(5))
        found = supply_of(lot("one", 260.0), (gone,), {}, {})
        self.assertEqual((found.free_g, found.coming_g, found.not_weighed), (60.0, 750.0, ()))

    def test_a_spool_that_was_never_weighed_counts_as_empty_and_is_named(self):
        found = supply_of(lot("one", 260.0), (lot("two", None),), {}, {})
        self.assertEqual((found.free_g, [each.id for each in found.not_weighed]), (60.0, ["two"]))
        self.assertEqual(found.spools, 1)

    def test_the_longest_lead_and_the_highest_mark_rule(self):
        one = lot("one", 900.0, lead_h=None, reorder_g=None)
        self.assertIsNone(supply_of(one, (one,), {}, {}).lead_h)
        self.assertEqual(supply_of(one, (one,), {}, {}).lead_words, "an unknown time")
        three = lot("three", 900.0, ordered_g=1.0, ordered_utc=at(4))
        found = supply_of(one, (lot("two", 900.0, lead_h=336.0, reorder_g=300.0), three), {}, {})
        self.assertEqual((found.lead_h, found.lead_words, found.reorder_g), (336.0, "14 d", 300.0))

    def test_the_latest_of_several_orders_is_the_one_to_wait_for(self):
        early = lot("one", 300.0, ordered_g=100.0, ordered_utc=at(4), lead_h=24.0)
        late = lot("two", 300.0, ordered_g=100.0, ordered_utc=at(3), lead_h=240.0)
        found = supply_of(early, (late,), {}, {})
        self.assertEqual((found.coming_g, found.due), (200.0, datetime(2026, 2, 13, 8, tzinfo=UTC)))
        changes = order_changes(found, "one", 50.0, at(6))
        self.assertEqual(changes, {"lots/two/ordered_g": None, "lots/one/ordered_g": 250.0,
                                   "lots/one/ordered_utc": at(6)})  # fmt: skip

    def test_a_lot_received_at_the_moment_of_the_order_is_not_what_was_ordered(self):
        ordered = lot("one", 300.0, ordered_g=100.0, ordered_utc=at(1))
        self.assertEqual(supply_of(ordered, (), {}, {}).coming_g, 100.0, "received on the first as well")

    def test_runs_done_are_no_longer_wanted(self):
        self.assertAlmostEqual(grams_wanted(5.0, 2, 100.0), 3 * 105.0)
        for runs, done, mass in ((5.0, 6, 100.0), (None, 0, 100.0), (5.0, 0, None)):
            self.assertEqual(grams_wanted(runs, done, mass), 0.0)


if __name__ == "__main__":
    unittest.main()
