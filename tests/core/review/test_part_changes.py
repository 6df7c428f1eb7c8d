"""Which fields undo a proof: every field of every record has its place, and only those of the table undo one."""

import unittest

import attrs

from kaustos.app.maturity import changed_fields
from kaustos.app.revisions import leaves_of
from kaustos.core.records import CHOSEN, Recipe
from kaustos.core.review.part_changes import ANEW, CHANGES, NEVER, changed_by
from kaustos.demo.scenario import RECORDS
from kaustos.formats.recipe_file import RecipeDocument
from tests.asserting import every

FREE = {  # cost nothing, and undid a proof until now
    "machine.rate_per_h": 99.0, "plate.price": 99.0, "first_layer.look_by": "R. Askew", "stock.dryer_h": 99.0,
    "stock.wanted_utc": "2026-03-05T08:00:00Z", "lot.grade_values.density_g_cm3": 1.3, "nozzle.price": 99.0,
    "machine.power_w": 99.0, "machine.nozzle.heater.max_c": 99.0, "machine.tube_mm": 99.0, "dryer.max_c": 99.0,
    "plate.damages": ["a scuff"], "agent.price": 99.0, "brief.print_h": 99.0, "rules.wage_per_h": 99.0,
    "part.flat_mm": 0.3, "oven.place": "127.0.0.1:5020/1", "job.name": "b.gcode", "name": "B", "plate.id": "another",
}  # fmt: skip


def heads():
    """Every field of recipe and chosen records, as the tables name them."""
    for section in attrs.fields(Recipe):
        if attrs.has(section.type):
            yield from (f"{section.name}.{each.name}" for each in attrs.fields(section.type))
        else:
            yield section.name
    for kind in CHOSEN:
        yield from (f"{kind.one}.{each.name}" for each in attrs.fields(kind.record))


class TestTables(unittest.TestCase):
    def test_every_field_stands_in_one_of_them_and_nothing_else_does(self):
        told = {*CHANGES, *NEVER}
        fields = set(heads())
        for field in every(fields, 200):
            if not field.endswith("extra"):
                with self.subTest(field):
                    inside = any(each.startswith(f"{field}.") for each in CHANGES)
                    self.assertTrue(field in told or field.partition(".")[0] in NEVER or inside)
        for path in every(told, 100):
            with self.subTest(path):
                known = path in fields or path in {each.partition(".")[0] for each in fields} | {"rules"}
                self.assertTrue(known or ".".join(path.split(".")[:2]) in fields, "no such field")
        self.assertFalse(CHANGES.keys() & NEVER.keys())
        for what in every(CHANGES.values()):
            self.assertTrue(what and set(what) <= ANEW.keys())

    def test_a_field_that_nobody_has_placed_is_taken_to_change_the_part(self):
        self.assertEqual(changed_by("melt.new_field"), changed_by("polymer"))

    def test_what_is_chosen_counts_by_what_it_is(self):
        self.assertEqual(changed_by("context.machine"), changed_by("machine.id"))
        self.assertEqual(changed_by("context.dryer"), ())


class TestCompared(unittest.TestCase):
    def setUp(self):
        card = RECORDS.cards["cable_clamp"]
        chosen = {kind: RECORDS.tables[f"{kind}s"][key] for kind, key in card.chosen.items()
                  if kind not in ("job",)}  # fmt: skip
        self.state = leaves_of(RecipeDocument(recipe=card.recipe, chosen=chosen))

    def test_each_field_of_a_whole_document_alone(self):
        for path in every(self.state, 120):
            with self.subTest(path):
                other = {**self.state, path: "another"}
                if path == "lot.grade":  # alone it is a name that was corrected
                    self.assertEqual(changed_fields(self.state, other), [])
                    other["lot.id"] = "another"
                self.assertEqual(bool(changed_fields(self.state, other)), bool(changed_by(path)))

    def test_what_changes_no_part_undoes_nothing(self):
        for path, value in FREE.items():
            with self.subTest(path):
                self.assertEqual(changed_fields(self.state, {**self.state, path: value}), [])

    def test_a_fact_that_is_recorded_is_no_change_but_a_setting_that_is_set_is_one(self):
        state = {**self.state, "machine.enclosure.fan": None, "heat.soak_min": None}
        self.assertEqual(changed_fields(state, {**state, "machine.enclosure.fan": True}), [])
        still, stirred = ({**state, "machine.enclosure.fan": each} for each in (False, True))
        self.assertEqual(changed_fields(still, stirred), ["machine.enclosure.fan"])
        self.assertEqual(changed_fields(state, {**state, "heat.soak_min": 20.0}), ["heat.soak_min"])
        self.assertEqual(changed_fields(state, {**state, "job.moves_sha256": "ab"}), [], "bound after it was run")
        both = {**state, "job.moves_sha256": "ab"}
        self.assertEqual(changed_fields(both, {**both, "job.moves_sha256": "cd"}), ["job.moves_sha256"])
