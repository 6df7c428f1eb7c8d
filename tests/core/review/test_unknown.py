"""What is not known is never fine: the worst grade that a question names is the worst that any answer brings."""

import random
import unittest

import attrs

from kaustos.core.errors import KaustosError
from kaustos.core.records import declared
from kaustos.core.records.fields import ends_of, value_at
from kaustos.core.records.polymer import HANDLINGS
from kaustos.core.review import GRADES
from kaustos.core.review.stock.questions import HEAVIEST_G
from tests.support import at_once, changed, judged, opened, recipe_and_context

CARDS = (("centraliser_blade", "crag"), ("cable_clamp", "tarn"), ("winch_bracket", "gill"))
SECTIONS = ("brief", "stock", "first_layer", "melt", "plate", "heat")
NOT_FACTS = {  # asked, and not held against the grade where nothing is said
    "brief.character": "a wish", "brief.clear": "a wish", "brief.look": "a wish", "brief.margin_k": "a wish",
    **{f"brief.{name}": "a wish" for name in HANDLINGS},
    **{f"brief.size_{axis}_mm": "an amount: a run asks for it" for axis in "xyz"},
    "brief.mass_g": "an amount: a run asks for it", "brief.runs": "an amount",
    "plate.copies": "a plan: nothing said is one", "heat.least_layer_s": "a plan: nothing said is no waiting",
    "stock.wait_h": "a plan: nothing said is no waiting", "stock.wanted_utc": "a plan",
    "lot.recycled": "a label says so", "lot.filler": "a label says so", "lot.ingredients": "a label says so",
    "lot.depth_mm": "a winding of the usual size is sampled", "lot.width_mm": "a winding of the usual size is sampled",
    "lot.diameter": "the common one", "lot.net_g": "as weighed", "lot.reorder_g": "stock keeping",
    "lot.lead_h": "stock keeping", "lot.ordered_g": "stock keeping",
}  # fmt: skip
HEATS = (20.0, 60.0, 100.0, 150.0, 300.0, 400.0)


def answers(path):
    """Corners of what a field may hold, and some between."""
    if path == "lot.tare_g":
        return [0.0, HEAVIEST_G]
    field = declared(path)
    meta = field.metadata if field is not None else {}
    if "choices" in meta:
        return list(meta["choices"])
    if "flag" in meta:
        return [True, False]
    if "quantity" not in meta:
        return []
    low, high = ends_of(field)  # beyond them nothing is typed
    if meta["quantity"] == "temperature":
        return [each for each in HEATS if low <= each <= high]
    return [max(low, 0.0), 0.05 * high, 0.3 * high, high]


def asked_of(recipe, context):
    """Every field of recipe, lot and dryer that the program can be told."""
    for section in SECTIONS:
        yield from (f"{section}.{each.name}" for each in attrs.fields(type(getattr(recipe, section))))
    for one in ("lot", "dryer"):
        record = getattr(context, one)
        if record is not None:
            yield from (f"{one}.{each.name}" for each in attrs.fields(type(record)))


def grade_of(records):
    return at_once(records).grade


def answered(records, path, value):
    """With an answer; None where the field refuses it."""
    try:
        return changed(records, {path: value})
    except KaustosError:
        return None


class TestWorst(unittest.TestCase):
    def known_paths(self, records):
        recipe, context = recipe_and_context(records)
        for path in asked_of(recipe, context):
            root = context if path.split(".")[0] in ("lot", "dryer") else recipe
            if answers(path) and value_at(root, path) is not None:
                yield path

    def test_no_answer_is_worse_than_its_question_says(self):
        tried = 0
        for card, machine in CARDS:
            records = opened(card, machine)
            for path in self.known_paths(records):
                if path in NOT_FACTS:
                    continue
                blank = answered(records, path, None)
                found = at_once(blank)
                missing = {each.field: each for each in found.completeness.missing}
                base = GRADES.index(found.grade.value)
                held = missing[path].required if path in missing else False
                bound = min(base, GRADES.index(missing[path].worst)) if held else base
                for value in answers(path):
                    with_answer = answered(blank, path, value)
                    if with_answer is not None:
                        tried += 1
                        with self.subTest(card, field=path, value=value):
                            self.assertGreaterEqual(GRADES.index(grade_of(with_answer).value), bound)
        self.assertGreater(tried, 200)

    def test_a_question_that_holds_a_grade_back_has_an_answer_that_would(self):
        for card, machine in CARDS:
            records = opened(card, machine)
            for path in ("brief.purpose", "brief.history", "brief.moisture", "brief.outdoor", "brief.chemical",
                         "brief.load_across", "brief.stress_mpa"):  # fmt: skip
                blank = answered(records, path, None)
                found = judged(blank)[2]
                missing = next(each for each in found.completeness.missing if each.field == path)
                grades = [GRADES.index(grade_of(answered(blank, path, value)).value) for value in answers(path)]
                with self.subTest(card, field=path):
                    self.assertEqual(min(grades), min(GRADES.index(missing.worst), GRADES.index(found.grade.value)))

    def test_several_unknowns_together_are_never_taken_as_fine(self):
        rng = random.Random(20260302)
        for card, machine in CARDS:
            records = opened(card, machine)
            paths = [path for path in self.known_paths(records) if path not in NOT_FACTS]
            for _ in range(8):
                some = rng.sample(paths, 4)
                blank = changed(records, dict.fromkeys(some))
                unknown = grade_of(blank)
                for _ in range(3):
                    chosen = {path: rng.choice(answers(path)) for path in some}
                    told = blank
                    for path, value in chosen.items():
                        told = answered(told, path, value) or told
                    worse = GRADES.index(grade_of(told).value) < GRADES.index(unknown.value)
                    with self.subTest(card, chosen=chosen):
                        self.assertTrue(not worse or unknown.until_known, "better while unknown")


class TestSpool(unittest.TestCase):
    def test_an_empty_spool_that_was_not_weighed_is_asked_for_where_it_could_be_too_heavy(self):
        records = opened("winch_bracket", "gill")
        gross = judged(records)[1].lot.gross_g
        for mass, asks in ((gross - HEAVIEST_G - 50.0, False), (gross - HEAVIEST_G + 50.0, True)):
            if mass <= 0:
                continue
            grade = grade_of(changed(records, {"lot.tare_g": None, "brief.mass_g": mass}))
            with self.subTest(mass):
                self.assertEqual("lot.tare_g" in grade.until_known, asks)

    def test_how_long_it_hangs_is_asked_for_where_it_drinks_and_not_where_it_does_not(self):
        for feed, humidity, asks in (("open", None, True), ("dry_box", 3.0, False)):
            changes = {"lot.feed": feed, "lot.box_humidity_pct": humidity, "brief.print_h": None}
            missing = judged(changed(opened("winch_bracket", "gill"), changes))[2].completeness.missing
            with self.subTest(feed):
                self.assertEqual([each.required for each in missing if each.field == "brief.print_h"], [asks])

    def test_where_it_waits_is_asked_for_once_it_waits(self):
        for hours, asks in ((None, False), (0.0, False), (4.0, True)):
            changes = {"stock.wait_h": hours, "stock.wait_in": None}
            with self.subTest(hours):
                missing = judged(changed(opened("cable_clamp"), changes))[2].completeness.missing
                self.assertEqual("stock.wait_in" in {each.field for each in missing if each.required}, asks)
