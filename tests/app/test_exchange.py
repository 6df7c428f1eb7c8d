"""Recipe files taken into a workspace, and documents judged outside one."""

import unittest

import attrs

from kaustos.app.exchange import with_document
from kaustos.app.judge import judge_document
from kaustos.core.errors import FaultList, KaustosError
from kaustos.core.records import Lot, Rules
from kaustos.formats.recipe_file import RecipeDocument
from kaustos.library import load
from tests.support import opened

RECORDS = opened("probe_head_shell")
DOCUMENT = RecipeDocument(recipe=RECORDS.card.recipe)


class TestTakingIn(unittest.TestCase):
    def test_the_new_card_is_opened_under_a_free_name(self):
        found = with_document(
            RECORDS, attrs.evolve(DOCUMENT, recipe=attrs.evolve(DOCUMENT.recipe, name="Lid 3/4")), "f"
        )
        self.assertEqual(found.current, "lid_3_4")
        again = with_document(found, attrs.evolve(DOCUMENT, recipe=attrs.evolve(DOCUMENT.recipe, name="Lid 3/4")), "f")
        self.assertEqual(again.current, "lid_3_4_2")
        nameless = with_document(RECORDS, attrs.evolve(DOCUMENT, recipe=attrs.evolve(DOCUMENT.recipe, name="???")), "f")
        self.assertEqual(nameless.current, "recipe")

    def test_a_machine_by_id_is_the_shop_s_own_else_the_library_s(self):
        own = with_document(RECORDS, attrs.evolve(DOCUMENT, chosen={"machine": "crag"}), "f")
        self.assertEqual((own.card.machine, own.machines), ("crag", RECORDS.machines))
        shipped = with_document(RECORDS, attrs.evolve(DOCUMENT, chosen={"machine": "generic_enclosed"}), "f")
        self.assertEqual(shipped.machines["generic_enclosed"], load().machines["generic_enclosed"])

    def test_unknown_ids_polymers_and_other_rules_are_refused_by_name(self):
        for document, words in (
            (attrs.evolve(DOCUMENT, chosen={"machine": "grag"}), "context.machine: nothing is known under 'grag'"),
            (attrs.evolve(DOCUMENT, chosen={"lot": "lot_9"}), "context.lot: nothing is known under 'lot_9'"),
            (attrs.evolve(DOCUMENT, rules=Rules(headroom_k=9.0)), "context.rules: differ"),
            (attrs.evolve(DOCUMENT, recipe=attrs.evolve(DOCUMENT.recipe, polymer="goo")), "no polymer 'goo'"),
            (attrs.evolve(DOCUMENT, newer=True), "newer version"),
        ):
            with self.subTest(words), self.assertRaisesRegex(KaustosError, words):
                with_document(RECORDS, document, "file.json")

    def test_equal_lots_are_one_and_differing_lots_are_two(self):
        lot = RECORDS.lots["lot_h117"]
        same = with_document(RECORDS, attrs.evolve(DOCUMENT, chosen={"lot": lot}), "f")
        self.assertEqual((same.card.lot, len(same.lots)), ("lot_h117", len(RECORDS.lots)))
        other = with_document(RECORDS, attrs.evolve(DOCUMENT, chosen={"lot": attrs.evolve(lot, name="other")}), "f")
        self.assertEqual((other.card.lot, len(other.lots)), ("lot_h117_2", len(RECORDS.lots) + 1))
        self.assertEqual(other.lots["lot_h117"], lot)


class TestJudgingDocuments(unittest.TestCase):
    def test_all_unknown_names_are_reported_at_once_with_a_hint(self):
        recipe = attrs.evolve(DOCUMENT.recipe, polymer="petk")
        with self.assertRaises(FaultList) as caught:
            judge_document(
                attrs.evolve(DOCUMENT, recipe=recipe, chosen={"machine": "generic_enclose", "lot": "x"}), "f.json"
            )
        text = str(caught.exception)
        for words in ("Did you mean 'petg'?", "Did you mean 'generic_enclosed'?", "context.lot: nothing is known"):
            self.assertIn(words, text)

    def test_a_recipe_without_machine_or_polymer_is_judged_as_unknown(self):
        recipe = attrs.evolve(DOCUMENT.recipe, polymer=None)
        _, found = judge_document(attrs.evolve(DOCUMENT, recipe=recipe), "f.json")
        self.assertIn("machine", found.grade.until_known)
        self.assertIn("polymer", found.grade.until_known)
        self.assertEqual(found.findings(), ())

    def test_a_lot_of_the_polymer_brings_its_values(self):
        lot = Lot(id="l", polymer="pei_pc_blend", lot_values=RECORDS.lots["lot_c042"].grade_values)
        context, _ = judge_document(
            attrs.evolve(DOCUMENT, chosen={"machine": "generic_enclosed", "lot": lot}), "f.json"
        )
        self.assertEqual(context.polymer.value("glass_transition_c").value, 141.0)
