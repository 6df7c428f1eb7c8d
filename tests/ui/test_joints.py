"""The joints of app and window: look-ups made once a change, one kind for each field, a queue that drops the stale."""

import random
import threading
import unittest

import attrs

from kaustos.app.field_kinds import FIELD_KINDS, kind_of
from kaustos.app.indexes import Indexes, changed_keys
from kaustos.app.records import path_of
from kaustos.app.results import Request
from kaustos.app.wording import Wording
from kaustos.core.errors import FieldError, KaustosError
from kaustos.core.memo import by_identity
from kaustos.core.planning.ledger import taken_by_runs
from kaustos.core.progress import Cancelled
from kaustos.core.records import Place, Run, declared, spelled
from kaustos.demo.scenario import RECORDS
from kaustos.ui.jobs import AT_ONCE, Job, Pace, Queue, run_now
from kaustos.ui.main import make_application
from tests.asserting import every
from tests.core.review.test_registry import fields
from tests.support import changed

WORDING = Wording()


KIND_OF = {
    "machine.nozzle.heater.max_c": 0, "lot.lot_values.glass_transition_c": 1, "lot.grade_values.melting_c": 1,
    "lot.box_humidity_pct": 2, "rules.dew_point_c": 3, "dryer.dew_point_c": 3,
    "melt.nozzle_c": 4, "lot.net_g": 4, "rules.wage_per_h": 4, "brief.purpose": 5, "lot.flange": 5,
    "machine.nozzle.heater.basis": 5, "brief.outdoor": 6, "machine.nozzle.heater.fitted": 6, "lot.retired": 6,
    "name": 7, "lot.grade": 7, "run.note": 7,
}  # fmt: skip


class TestFieldKinds(unittest.TestCase):
    def test_the_first_kind_that_fits_reads_and_words_a_field(self):
        for path, place in KIND_OF.items():
            with self.subTest(path):
                self.assertIs(kind_of(path), FIELD_KINDS[place])

    def test_every_declared_field_is_read_back_from_what_its_box_shows(self):
        records = changed(RECORDS, {"context.oven": "oven_o1"})
        known = ((path, records.place(path)) for path in fields() if declared(path) is not None)
        shown = ((path, place) for path, place in known if declared(path).metadata and not path.endswith("_utc")
                 and not isinstance(records.at(place), tuple))  # fmt: skip
        for path, place in every(shown):
            kind, value = kind_of(path), records.at(place)
            with self.subTest(path):
                shown = kind.shown(records, WORDING, place)
                self.assertEqual(kind.read(records, WORDING, place, shown)[place], value)
                if value is not None:
                    self.assertTrue(isinstance(kind.said(WORDING, path, value), str))

    def test_what_is_no_value_is_refused_by_its_kind(self):
        for path, text in (
            ("brief.purpose", "joke"),
            ("brief.outdoor", "perhaps"),
            ("melt.nozzle_c", "hot"),
            ("rules.wage_per_h", ""),
            ("name", "x" * 300),
            ("machine.nozzle.heater.max_c", "big"),
        ):
            place = RECORDS.place(path)
            with self.subTest(path), self.assertRaises(KaustosError):
                kind_of(path).read(RECORDS, WORDING, place, text)


class TestPlaces(unittest.TestCase):
    def test_a_spelling_gives_the_place_that_spells_it(self):
        for text, place in (
            ("lots/a/stays", Place("lots", "a", "stays")),
            ("cards/a/recipe.melt.nozzle_c", Place("cards", "a", "recipe.melt.nozzle_c")),
            ("runs/r7", Place("runs", "r7")),
            ("machines/a/b/name", Place("machines", "a/b", "name")),
            ("rules//wage_per_h", Place("rules", "", "wage_per_h")),
        ):
            with self.subTest(text):
                self.assertEqual(spelled(text), place)
                self.assertEqual(str(place), text)
        self.assertIsNone(spelled("melt.nozzle_c"))

    def test_a_field_is_known_by_one_path_wherever_its_record_stands(self):
        for address, path in (
            ("runs/r7/note", "run.note"), (Place("lots", "a", "net_g"), "lot.net_g"),
            ("melt.nozzle_c", "melt.nozzle_c"),
            ("cards/a/recipe.melt.nozzle_c", "melt.nozzle_c"), ("cards/a/machine", "context.machine"),
            ("rules//wage_per_h", "rules.wage_per_h"),
        ):  # fmt: skip
            self.assertEqual(path_of(address), path)

    def test_several_changes_copy_a_table_once_and_leave_the_others(self):
        changes = {Place("lots", key, "colour"): "blue" for key in RECORDS.lots}
        after = RECORDS.with_all(changes)
        self.assertEqual({lot.colour for lot in after.lots.values()}, {"blue"})
        self.assertIs(after.machines, RECORDS.machines)
        self.assertIsNot(after.lots, RECORDS.lots)
        gone = RECORDS.with_all({Place("cards", RECORDS.current): None})
        self.assertNotEqual(gone.current, RECORDS.current)
        self.assertIn(gone.current, gone.cards)

    def test_what_a_recipe_does_not_choose_has_no_place(self):
        bare = RECORDS.with_all({RECORDS.place("context.lot"): None})
        self.assertIsNone(bare.card.lot)
        with self.assertRaisesRegex(KaustosError, "No lot is chosen"):
            bare.place("lot.net_g")
        with self.assertRaises(FieldError):
            Run(id="r", card="c", revision=1.0, settings={"a": None})


class TestIndexes(unittest.TestCase):
    def test_changed_keys_are_those_of_other_records(self):
        one, two, three = object(), object(), object()
        self.assertEqual(changed_keys({"a": one, "b": two}, {"a": one, "b": three}), ("b",))
        self.assertEqual(changed_keys({"a": one}, {"a": one}), ())
        for after in ({"a": one, "b": two}, {}, {"b": one}):
            self.assertIsNone(changed_keys({"a": one}, after))

    def test_what_is_wanted_is_the_sum_by_hand_and_follows_every_change(self):
        indexes, done = Indexes(), {"winch_bracket": 1}
        cards = RECORDS.cards

        def by_hand(cards, without):
            found = {}
            for key, card in cards.items():
                brief, mass = card.recipe.brief, card.recipe.brief.mass_g or 0.0
                if card.chosen.get("job"):  # 1.75 mm strand of 1.26 g/cm³, whatever the brief says
                    fed_mm = sum(RECORDS.tables["jobs"][card.chosen["job"]].filament_mm.values())
                    mass = 3.14159265 / 4 * 1.75**2 * fed_mm * 1.26 / 1000.0
                if key != without and brief.runs and card.lot and not card.retired:
                    left = max(0.0, brief.runs - done.get(key, 0)) * mass * 1.05
                    found[card.lot] = found.get(card.lot, 0.0) + left
            return {lot: round(grams, 4) for lot, grams in found.items() if grams}

        for change in ({}, {"brief.runs": 5.0}, {"brief.mass_g": 111.0}, {"context.lot": "lot_c042"}):
            records = RECORDS.with_all({RECORDS.place(path): value for path, value in change.items()})
            for without in (None, "winch_bracket", records.current):
                found = indexes.wanted_by_lot(records, done, without)
                with self.subTest(change, without=without):
                    self.assertEqual({key: round(each, 4) for key, each in found.items() if each},
                                     by_hand(records.cards, without))  # fmt: skip
        retired = {**cards, "winch_bracket": attrs.evolve(cards["winch_bracket"], retired=True)}
        found = indexes.wanted_by_lot(RECORDS.with_tables(cards=retired), done)
        self.assertEqual({key: round(each, 4) for key, each in found.items() if each}, by_hand(retired, None))

    def test_runs_are_found_by_their_recipe_and_anew_when_the_log_is_another(self):
        runs = {key: Run(id=key, card=card, revision=1.0) for key, card in (("a", "x"), ("b", "y"), ("c", "x"))}
        indexes = Indexes()
        self.assertEqual([run.id for run in indexes.runs_of(runs, "x")], ["a", "c"])
        self.assertEqual(indexes.runs_of(runs, "z"), [])
        without = {key: run for key, run in runs.items() if key != "c"}
        self.assertEqual([run.id for run in indexes.runs_of(without, "x")], ["a"])
        moved = {**without, "b": attrs.evolve(runs["b"], card="x"), "d": attrs.evolve(runs["c"], id="d")}
        self.assertEqual([run.id for run in indexes.runs_of(moved, "x")], ["a", "b", "d"])
        self.assertEqual(indexes.runs_of(moved, "y"), [])

    def test_what_the_log_tells_is_the_same_whether_worked_out_anew_or_for_what_changed(self):
        pick = random.Random(2026)
        lots = {f"l{n}": attrs.evolve(RECORDS.lots["lot_c042"], id=f"l{n}") for n in range(4)}
        runs, kept = {}, Indexes()
        for step in range(150):
            key = f"r{pick.randrange(25)}"
            runs = dict(runs)
            if key in runs and pick.random() < 0.3:
                del runs[key]
            else:
                runs[key] = Run(
                    id=key, card=pick.choice("xyz"), revision=1.0, lot=pick.choice([None, *lots]), mass_g=100.0,
                    started_utc=f"2026-03-{pick.randrange(1, 29):02}T08:00:00Z", machine=pick.choice("mn"),
                    outcome=pick.choice([None, "good", "usable", "failed"]), retired=pick.random() < 0.1,
                )  # fmt: skip
            if pick.random() < 0.2:
                lots = {**lots, "l1": attrs.evolve(lots["l1"], name=str(step))}
            now, anew = kept.of_runs(runs), Indexes().of_runs(runs)
            with self.subTest(step):
                for card in "xyz":
                    self.assertEqual({run.id for run in kept.runs_of(runs, card)},
                                     {run.id for run in runs.values() if run.card == card})  # fmt: skip
                self.assertEqual((now.done, now.good_lots, set(now.last)), (anew.done, anew.good_lots, set(anew.last)))
                self.assertEqual(kept.taken_by_lot(lots, runs), taken_by_runs(lots, runs.values()))


class TestMemory(unittest.TestCase):
    def test_answers_are_those_of_the_very_thing_that_was_asked(self):
        asked = []

        @by_identity(3)
        def twice(thing):
            asked.append(thing)
            return thing * 2

        lists = [[n] for n in range(5)]
        self.assertEqual([twice(each) for each in (*lists, *lists)], [each * 2 for each in (*lists, *lists)])
        self.assertEqual(twice([0]), [0, 0])
        count = len(asked)
        self.assertIs(twice(lists[4]), twice(lists[4]))
        self.assertLessEqual(len(asked), count + 1)


class TestQueue(unittest.TestCase):
    def setUp(self):
        self.app = make_application()
        self.held = []
        self.queue = Queue(Pace(self.held.append, *[lambda owner, act: act()] * 2))
        self.landed, self.began = [], []
        self.queue.landed.connect(lambda request, result: self.landed.append((request.key, result)))

    def request(self, key, value):
        def compute(_):
            self.began.append(value)
            return value

        return Request(key, (value,), compute)

    def test_of_each_kind_the_newest_runs_next_and_the_stale_never_begins(self):
        for value in (1, 2, 3):
            self.queue.ask(self.request("a", value))
        self.queue.ask(self.request("b", 9))
        self.assertEqual(len(self.held), 2, "one of each kind is on its way")
        while self.held:
            run_now(self.held.pop(0))
        self.assertEqual(self.began, [1, 9, 3])
        self.assertEqual(self.landed, [("a", 1), ("b", 9), ("a", 3)])
        self.assertTrue(self.queue.is_idle)

    def test_what_is_on_its_way_is_not_begun_a_second_time(self):
        for value in (1, 2, 1, 1):
            self.queue.ask(self.request("a", value))
        run_now(self.held.pop())
        self.assertEqual((self.began, self.held), ([1], []))

    def test_a_fault_of_ours_is_told_and_its_kind_goes_on(self):
        faults = []
        self.queue.failed.connect(faults.append)
        self.queue.ask(Request("a", (0,), lambda _: 1 / 0))
        self.queue.ask(self.request("a", 2))
        with self.assertLogs("kaustos", "ERROR"):
            run_now(self.held.pop(0))
        self.assertIn("ZeroDivisionError", faults[0])
        run_now(self.held.pop())
        self.assertEqual(self.landed, [("a", 2)])

    def test_a_job_that_is_called_off_ends_at_its_next_check_and_says_so(self):
        faults = []
        self.queue.failed.connect(faults.append)
        self.queue.ask(self.request("a", 1))
        self.held[0].cancel()
        run_now(self.held.pop())
        self.assertEqual((self.began, self.landed, faults), ([], [], ["Called off."]))

    def test_checks_and_reports_reach_those_who_listen(self):
        seen = []
        job = Job(Request("a", (), lambda _: None), self.queue)
        job.moved.connect(lambda done, of: seen.append((done, of)))
        job.check()
        job.report(3, 10)
        job.cancel()
        with self.assertRaises(Cancelled):
            job.check()
        self.assertEqual(seen, [(3, 10)])

    def test_nothing_begins_after_the_end(self):
        self.queue.ask(self.request("a", 1))
        self.queue.ask(self.request("a", 2))
        self.queue.stop()
        run_now(self.held.pop())
        self.assertEqual((self.began, self.held), ([], []))
        self.assertIs(AT_ONCE.run, run_now)
        self.assertIsNot(threading.current_thread(), None)
