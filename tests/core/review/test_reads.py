"""An operation reads what it says that it reads and nothing else; the judge judges again what changed, only that."""

import importlib
import pathlib
import unittest
from unittest import mock

import attrs

from kaustos.app.judge import Judge, context_of_records
from kaustos.core.records import Recipe
from kaustos.core.review import BY_KEY, CODES, OPERATIONS, Context, Operation, Shop
from tests.core.review.cases import CASES
from tests.support import NOW, TableTest, changed, every_card, opened, recipe_and_context

EVERY = ["brief", "stock", "machine", "plate", "first_layer", "melt", "heat", "supports", "run", "release", "anneal",
         "proof"]  # fmt: skip


class Forbidden:
    """Stands where nothing was declared: any use of it fails."""

    def __init__(self, name):
        object.__setattr__(self, "_spied_on", name)

    def _used(self, *_, **__):
        raise AssertionError(f"{object.__getattribute__(self, '_spied_on')} is read and not declared")

    __getattr__ = __bool__ = __iter__ = __len__ = __eq__ = __lt__ = __gt__ = __str__ = __hash__ = __getitem__ = _used
    __contains__ = __call__ = __float__ = __le__ = __ge__ = __add__ = __format__ = _used


class ForbiddenText(str):
    """The same for a text that a record checks when it is made."""

    def _used(self, *_, **__):
        raise AssertionError("a name is read and not declared")

    __str__ = __format__ = __eq__ = __hash__ = __add__ = __bool__ = lower = _used


def spied(record, allowed, prefix=""):
    """A record of which only the allowed fields can be read; dotted ones let in a part of a part."""
    heads = {each.partition(".")[0] for each in allowed}
    spy = attrs.evolve(record)
    for field in attrs.fields(type(record)):
        whole, value = field.name in allowed, getattr(record, field.name)
        parts = tuple(each.partition(".")[2] for each in allowed if each.startswith(f"{field.name}."))
        if whole:
            continue
        if parts and field.name in heads:
            value = spied(value, parts, f"{prefix}{field.name}.")
        elif isinstance(value, str) and field.name in ("name", "part"):
            value = ForbiddenText(value)
        elif field.name not in ("extra", "results"):
            value = Forbidden(prefix + field.name)
        object.__setattr__(spy, field.name, value)
    return spy


def opened_shop(parts):
    """Machines, dryers and lots of a shop are views of what is in use."""
    views = {"shop.machines", "shop.dryers", "shop.lots", "shop.nozzles"}
    return tuple("shop.in_use" if each in views else each for each in parts)


def spies(reads, recipe, context):
    """Recipe and context as an operation may see them."""
    seen = spied(context, opened_shop(reads.context))
    in_use = {each.partition(".")[2] for each in reads.context if each.startswith("shop.")}
    if "in_use" not in in_use and isinstance(seen.shop, Shop):
        table = {kind: each for kind, each in context.shop.in_use.items() if kind in in_use}
        object.__setattr__(seen.shop, "in_use", table)
    return spied(recipe, reads.recipe), seen


class TestDeclarations(TableTest):
    def contexts(self):
        yield from every_card()
        for code, (card, machine, raising, _) in CASES.items():
            yield code, changed(opened(card, machine), raising)

    def test_no_operation_reads_what_it_does_not_declare(self):
        seen_by = dict.fromkeys((each.key for each in OPERATIONS), 0)
        for place, (name, records) in enumerate(self.contexts()):
            recipe, context = records.card.recipe, context_of_records(records, NOW)
            for turn, operation in enumerate(OPERATIONS):
                is_drawn = name not in CASES or turn == place % len(OPERATIONS)
                if not (is_drawn or operation.key in name):  # walked by its own cases, by every card, by others in turn
                    continue
                with self.subTest(name, operation=operation.key):
                    filed = operation.sees(recipe, context)
                    mine, seen = spies(operation.reads, filed, context)
                    self.assertEqual(operation.said_of(mine, seen).number, operation.number)
                    seen_by[operation.key] += 1
                    if is_drawn:
                        operation.drawn.compute(mine, seen)
                for heavy in operation.heavy if is_drawn or place % 4 == 0 else ():  # of its own cases every fourth
                    with self.subTest(name, heavy=heavy.key):
                        heavy.compute(*spies(heavy.reads, operation.sees(recipe, context), context))
        self.assertGreater(min(seen_by.values()), 30, "each was looked at often enough")

    def test_everything_that_is_declared_exists(self):
        recipe, context = recipe_and_context(opened("probe_head_shell"))
        for operation in OPERATIONS:
            for reads in (operation.reads, *(heavy.reads for heavy in operation.heavy)):
                with self.subTest(operation.key):
                    self.assertEqual(len(reads.of(recipe, context)), len(reads.recipe) + len(reads.context))

    def test_the_spy_catches_a_reader(self):
        recipe, context = recipe_and_context(opened("probe_head_shell"))
        mine, seen = spies(BY_KEY["machine"].reads, recipe, context)
        for act in (
            lambda: mine.stock.dryer_c,
            lambda: seen.dryer.name,
            lambda: mine.name == "x",
            lambda: bool(seen.now),
        ):
            with self.assertRaises(AssertionError):
                act()


class TestTheJudge(TableTest):
    def judged_again(self, change, judge=None):
        """Operations that are judged again after a change."""
        judge = judge or Judge()
        records = opened("winch_bracket", "gill")
        judge.to_the_end(records.card.recipe, context_of_records(records, NOW))
        again = []
        review = Operation.said_of

        def counted(operation, recipe, context):
            again.append(operation.key)
            return review(operation, recipe, context)

        records = changed(records, change)
        with mock.patch.object(Operation, "said_of", counted):
            judge.at_hand(records.card.recipe, context_of_records(records, NOW))
        return again

    def test_a_change_judges_again_only_those_that_read_it(self):
        for change, keys in (
            ({}, []),
            (
                {"melt.nozzle_c": 261.0},
                ["machine", "plate", "first_layer", "melt", "heat", "supports", "run", "release", "anneal", "proof"],
            ),
            (
                {"heat.chamber_c": 61.0},
                ["machine", "plate", "first_layer", "heat", "supports", "run", "release", "anneal", "proof"],
            ),
            ({"lot.box_humidity_pct": 21.0}, EVERY),  # another lot
            ({"stock.dryer_h": 13.0}, ["brief", "stock", "plate", "heat", "supports", "run", "release", "anneal"]),
            ({"anneal.steps": ()}, []),
            ({"brief.print_h": 9.5}, EVERY),
            ({"rules.wage_per_h": 46.0}, EVERY),
            ({"name": "Another name"}, []),
        ):
            with self.subTest(change):
                self.assertEqual(self.judged_again(change), keys)

    def test_what_is_remembered_gives_the_same_as_judging_anew(self):
        judge = Judge()
        for name, records in every_card():
            for change in ({}, {"melt.nozzle_c": 300.0}, {"stock.dryer_h": None}, {"context.machine": "crag"}):
                now = changed(records, change)
                context = context_of_records(now, NOW)
                with self.subTest(name, change=change):
                    remembered, anew = (each.to_the_end(now.card.recipe, context)[1] for each in (judge, Judge()))
                    self.assertEqual(remembered, anew)

    def test_a_result_that_is_not_there_keeps_its_place_and_the_rest_stands(self):
        records = opened("probe_head_shell")
        context = context_of_records(records, NOW)
        judge = Judge()
        first = judge.at_hand(records.card.recipe, context)
        self.assertEqual(
            {each.key for each in first.wanted},
            {"brief.ranking", "stock.offers", "machine.offers", "plate.levers", "heat.levers"},
        )
        _, whole = judge.to_the_end(records.card.recipe, context)
        self.assertEqual(judge.at_hand(records.card.recipe, context).wanted, ())
        before, after = first.review.findings(), whole.findings()
        for one in before:
            same = next(each for each in after if (each.code, each.field) == (one.code, one.field))
            own = [each for each in one.remedies if each is not one.remedies[-1] or hasattr(each, "title")]
            with self.subTest(one.code):
                self.assertEqual(list(same.remedies[: len(own)]), own, "what comes later comes behind")
        self.assertEqual(first.review.grade, whole.grade)


SHAPE = ("codes", "questions", "figures", "findings", "remedies", "drawing", "judgement")


class TestShape(unittest.TestCase):
    def test_every_package_has_the_same_rooms_and_a_short_judgement(self):
        for operation in OPERATIONS:
            package = importlib.import_module(f"kaustos.core.review.{operation.key}")
            folder = pathlib.Path(package.__file__).parent
            for name in SHAPE:
                with self.subTest(operation.key, room=name):
                    self.assertTrue((folder / f"{name}.py").exists())
            judgement = importlib.import_module(f"kaustos.core.review.{operation.key}.judgement")
            lines = judgement.review.__code__.co_firstlineno
            last = max(line for _, _, line in judgement.review.__code__.co_lines() if line)
            self.assertLessEqual(last - lines, 18, "a judgement puts together, it does not judge")
            for name in ("CODES", "HEAVY", "review", "picture"):
                self.assertTrue(hasattr(package, name))

    def test_a_code_that_is_not_known_is_not_there(self):
        self.assertNotIn("machine.nozzle.melts_away", CODES)
        self.assertNotIn("oven.door.open", CODES)
        self.assertEqual(len(CODES), len(list(CODES)))

    def test_every_code_is_spoken_of_in_its_own_way_and_caps_by_a_known_grade(self):
        titles = [code.title for code in CODES.values()]
        self.assertEqual(len(titles), len(set(titles)))
        for name, code in CODES.items():
            with self.subTest(name):
                self.assertLess(len(code.title), 60)
                for severity in ("stop", "watch"):
                    self.assertIn(code.cap_of(severity), (None, "no_go", "decorative", "reduced"))


class TestContext(unittest.TestCase):
    def test_recipe_sections_and_context_parts_are_all_read_by_something_or_are_for_later(self):
        read = {name for operation in OPERATIONS for name in operation.reads.recipe}
        sections = {each.name for each in attrs.fields(Recipe)} - {"extra"}
        self.assertEqual(sections - read, {"name", "part"})
        parts = {path.partition(".")[0] for operation in OPERATIONS for path in operation.reads.context}
        later = {"room", "results"}
        self.assertEqual({each.name for each in attrs.fields(Context)} - parts, later)
