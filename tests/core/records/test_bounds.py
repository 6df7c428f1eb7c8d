"""What can be in a shop, what is stored beyond it, and times of logs."""

import itertools
import math
import random
import unittest

import attrs

from kaustos.app.judge import Judge, context_of_records
from kaustos.app.wording import Wording
from kaustos.core.errors import FieldError
from kaustos.core.records import Lot, Run, Stay, Weighing, log_faults, outside_of, within
from kaustos.core.records.bounds import _looks
from kaustos.core.records.fields import ends_of
from kaustos.core.records.quantities import QUANTITIES
from kaustos.demo.scenario import RECORDS
from tests.asserting import every
from tests.support import NOW, at_once, changed, judged, opened, operation_of, recipe_and_context

YEAR_1, YEAR_9999 = "0001-01-01T00:00:00+00:00", "9999-12-31T23:59:59+00:00"
DONE = ("2026-03-01T08:00:00Z", "2026-02-28T08:00:00Z")


def numbers(record, path=""):
    """Every number field of a record with the ends of what can be, and one that is stored though it cannot be."""
    for field in attrs.fields(type(record)):
        value, quantity = getattr(record, field.name), field.metadata.get("quantity")
        if quantity:
            ends = {QUANTITIES[quantity].high, *ends_of(field), field.default}
            yield path + field.name, sorted(ends, key=lambda each: (each is not None, each or 0.0))
        elif field.metadata.get("moment"):
            yield path + field.name, ["", YEAR_1, YEAR_9999, "2026-03-02T07:00:00Z"]
        elif attrs.has(type(value)):
            yield from numbers(value, f"{path}{field.name}.")


def places(records):
    """The number fields of everything the open recipe is judged with."""
    recipe, context = recipe_and_context(records)
    for head in ("", "lot.", "dryer.", "machine.", "plate.", "agent.", "part.", "rules."):
        record = getattr(context, head.rstrip(".")) if head else recipe
        if record is not None:
            yield from ((head + path, ends) for path, ends in numbers(record))


def logs():
    """Whole logs of a spool at their ends."""
    for celsius in (-273.15, -90.0, 350.0, 400.0, 5000.0):
        for moment in (YEAR_1, YEAR_9999, "", *DONE):
            yield (Stay(place="open", from_utc=moment, temperature_c=celsius, humidity_pct=100.0),)
            yield (Stay(place="dryer", from_utc=DONE[1], temperature_c=celsius, dryer="kiln"),
                   Stay(place="dry_box", from_utc=moment, temperature_c=celsius, humidity_pct=0.0))  # fmt: skip


def is_sound(value) -> bool:
    """Whether no part of a judgement is no number."""
    if isinstance(value, float):
        return not math.isnan(value)
    if attrs.has(type(value)):
        return all(is_sound(getattr(value, each.name)) for each in attrs.fields(type(value)))
    if isinstance(value, dict):
        return all(map(is_sound, value.values()))
    return all(map(is_sound, value)) if isinstance(value, (tuple, list)) else True


def pairs_covered(places, seed):
    """Rows of settings in which every end of every place stands beside every end of every other one (greedy)."""
    pick = random.Random(seed)
    left = [
        (a, x, b, y) for i, (a, xs) in enumerate(places) for b, ys in places[i + 1 :]
        for x in range(len(xs)) for y in range(len(ys))
    ]  # fmt: skip
    pick.shuffle(left)
    while left:
        row = {}
        for a, x, b, y in left:
            if row.get(a, x) == x and row.get(b, y) == y:
                row |= {a: x, b: y}
                if len(row) == len(places):
                    break
        for name, ends in places:
            row.setdefault(name, pick.randrange(len(ends)))
        left = [(a, x, b, y) for a, x, b, y in left if row[a] != x or row[b] != y]
        yield {name: ends[row[name]] for name, ends in places}


class TestEnds(unittest.TestCase):
    def setUp(self):
        self.judge, self.count = Judge(kept=4), 0

    def sound(self, base, values):
        """Judge, and look that nothing raises and all is a number; rules that contradict each other cannot be."""
        try:
            records = changed(base, values)
        except FieldError:
            return
        recipe, context = records.card.recipe, context_of_records(records, NOW)
        self.count += 1
        whole = self.count % 12 == 0  # offers take long: of every twelfth
        found = self.judge.to_the_end(recipe, context)[1] if whole else self.judge.at_hand(recipe, context).review
        self.assertTrue(is_sound(found))

    def test_every_number_at_its_ends_is_judged(self):
        base = opened("winch_bracket")  # its polymer changes with all pairs below
        for path, ends in every(places(base), 150):
            for end in every(ends):
                with self.subTest(path, end=end):
                    self.sound(base, {path: end})

    def test_every_pair_of_ends_of_all_places_and_polymers(self):
        base = opened("winch_bracket")
        free = [(path, ends) for path, ends in places(base) if not path.startswith("rules.")]  # those refuse each other
        rows = list(pairs_covered([("polymer", list(RECORDS.polymers)), *free], 2026))
        self.assertLess(len(rows), 400)
        for number, values in enumerate(rows):
            with self.subTest(number, values=values):
                self.sound(base, values)

    def test_the_rows_cover_every_pair(self):
        factors = [("a", [1, 2, 3]), ("b", [4, 5]), ("c", [6, 7]), ("d", [8, 9, 10, 11])]
        rows = list(pairs_covered(factors, 1))
        for (one, xs), (other, ys) in itertools.combinations(factors, 2):
            self.assertEqual({(row[one], row[other]) for row in rows}, set(itertools.product(xs, ys)))
        self.assertLess(len(rows), 20, "fewer than the 48 of all together")

    def test_logs_at_their_ends_are_judged(self):
        base = opened("winch_bracket")
        for stays in every(logs()):
            for weighings in ((), (Weighing(at_utc=YEAR_9999, gross_g=1e7), Weighing(at_utc=YEAR_1, gross_g=0.0))):
                with self.subTest(stays=stays, weighings=weighings):
                    self.sound(base, {"lot.stays": stays, "lot.weighings": weighings})

    def test_what_cannot_be_is_found_kept_and_judged_as_not_recorded(self):
        records = changed(opened("winch_bracket"), {"stock.dryer_c": 374.0, "lot.stays": (
            Stay(place="open", from_utc=DONE[1], temperature_c=400.0),)})  # fmt: skip
        recipe, _, found = judged(records)
        odd = [each for each in found.findings() if each.code == "stock.value.outside"]
        self.assertEqual([(each.field, each.values["value"]) for each in odd],
                         [("stock.dryer_c", "374 °C"), ("lot.stays", "400 °C")])  # fmt: skip
        self.assertEqual([Wording().text(each).split(",")[0] for each in odd],
                         ["Dryer set to stands at 374 °C", "Where it was"])  # fmt: skip
        self.assertIn("Where it was, entry 1: temperature there stands at 400 °C", Wording().text(odd[1]))
        self.assertEqual((recipe.stock.dryer_c, found.grade.value), (374.0, "no_go"))
        _, _, blank = judged(changed(records, {"stock.dryer_c": None, "lot.stays": (
            Stay(place="open", from_utc=DONE[1]),)}))  # fmt: skip
        self.assertEqual(operation_of(found, "stock").figures, operation_of(blank, "stock").figures)

    def test_a_worse_value_that_cannot_be_is_never_judged_better_than_the_last_that_can(self):
        order = ("functional", "reduced", "decorative", "no_go")
        for path, last, beyond in (("stock.dryer_c", 350.0, 374.0), ("melt.nozzle_c", 1000.0, 1001.0),
                                   ("brief.service_c", 1000.0, 4000.0), ("rules.room_c", 350.0, 400.0)):  # fmt: skip
            grades = [at_once(changed(opened("winch_bracket"), {path: each})).grade.value for each in (last, beyond)]
            with self.subTest(path):
                self.assertLessEqual(*map(order.index, grades))


class TestBounds(unittest.TestCase):
    def test_a_record_in_which_all_can_be_is_itself(self):
        for table in RECORDS.tables.values():
            for record in table.values():
                self.assertIs(within(record), record)
                self.assertEqual(outside_of(record), ())
        self.assertIs(within(None), None)

    def test_entries_without_a_moment_that_can_be_have_no_place_in_a_log(self):
        lot = Lot(id="a", stays=(Stay(place="open", from_utc=YEAR_1), Stay(place="sealed", from_utc=DONE[0])))
        self.assertEqual([each.path for each in outside_of(lot)], ["stays[0].from_utc"])
        self.assertEqual([each.place for each in within(lot).stays], ["sealed"])

    def test_every_number_and_moment_of_a_record_is_looked_at(self):
        for record in every((*RECORDS.lots.values(), *RECORDS.machines.values())):
            declared = {path for path, _ in numbers(record)}
            seen = set()

            def walk(each, path, seen=seen):
                for look in _looks(type(each)):
                    if look.kind in ("number", "moment"):
                        seen.add(path + look.name)
                    elif look.kind == "record" and getattr(each, look.name) is not None:
                        walk(getattr(each, look.name), f"{path}{look.name}.")

            walk(record, "")
            self.assertEqual(seen, declared)

    def test_times_of_logs(self):
        stay = Stay(place="open")
        self.assertIn("stays[0].from_utc: is missing", log_faults(Lot(id="a", stays=(stay,)))[0])
        run = Run(id="r", card="c", revision=1.0, started_utc="2026-03-02T10:00:00+02:00")
        self.assertEqual(log_faults(attrs.evolve(run, ended_utc="2026-03-02T08:00:00Z")), ())
        self.assertIn("before started", log_faults(attrs.evolve(run, ended_utc="2026-03-02T09:59:00+02:00"))[0])
        self.assertIn("started_utc: is missing", log_faults(attrs.evolve(run, started_utc=""))[0])
