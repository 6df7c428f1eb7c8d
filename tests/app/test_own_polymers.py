"""Polymers of the shop's own: derived, from nothing, their values and second opinions, where they are used."""

import attrs

from kaustos.app.own_polymers import new_polymer, set_value, swap_opinion
from kaustos.app.stock import new_lot
from kaustos.app.workspace import Workspace
from kaustos.core.errors import KaustosError
from kaustos.core.records import FILLERS, OwnPolymer, polymer_of_ours, with_filler
from kaustos.core.review.brief import RANKING
from kaustos.formats.json_text import write_json
from kaustos.formats.library_file import library_document
from kaustos.formats.recipe_file import read_recipe, recipe_document
from kaustos.library import load
from tests.app.test_workspace import WorkspaceTest
from tests.support import NOW


class TestMaking(WorkspaceTest):
    def test_a_derived_one_is_judged_by_its_own_values_and_those_of_its_base(self):
        workspace = self.demo(who="A. Tester")
        key = new_polymer(workspace, "PC, heat grade", "pc")
        set_value(workspace, key, "glass_transition_c", "155 ± 2", "DSC 10 K/min, dry")
        workspace.draft.open_card("sensor_cage")
        workspace.draft.set({"polymer": key, "context.lot": ""})
        polymer = workspace.context().polymer
        self.assertEqual((polymer.value("glass_transition_c").value, polymer.name), (155.0, "PC, heat grade"))
        self.assertEqual(polymer.value("melting_c"), load().polymers["pc"].value("melting_c"))
        source = polymer.value("glass_transition_c").source
        for part in ("DSC 10 K/min", "A. Tester", "2026-03-02"):
            self.assertIn(part, source)

    def test_it_survives_reopening_ranks_and_is_exported_like_the_shipped_ones(self):
        workspace = self.demo()
        key = new_polymer(workspace, "PETG, stiff", "petg")
        set_value(workspace, key, "price_per_kg", "5 €/kg", "offer of today")
        workspace.close()
        again = self.demo()
        self.assertEqual(again.draft.records.own_polymers[key].values["price_per_kg"].value, 5.0)
        again.draft.open_card("cable_guide")
        context, _ = again.judged()
        ranked = [each.polymer for each in context.results[RANKING]]
        self.assertLess(ranked.index(key), ranked.index("petg"), "the same for less")
        exported = library_document(again.draft.records.polymers)["polymers"]
        self.assertEqual(set(exported) - set(load().polymers), {key})

    def test_from_nothing_the_worst_is_taken_for_what_is_not_said(self):
        workspace = self.demo()
        key = new_polymer(workspace, "Mystery", None, "amorphous")
        workspace.draft.open_card("sensor_cage")
        workspace.draft.set({"polymer": key, "context.lot": ""})
        context, review = workspace.judged()
        self.assertIn("polymer.glass_transition_c", review.grade.until_known)
        self.assertEqual(context.polymer.traits.outdoor, "poor")
        workspace.draft.set({"brief.chemical": "oils"})
        self.assertIn("brief.chemical.attacked", {each.code for each in workspace.review().findings()})

    def test_what_cannot_be_made_is_refused(self):
        workspace = self.demo()
        for name, base, structure, words in ((" ", "pc", None, "needs a name"), ("PC", "pc", None, "already"),
                                             ("Odd", None, None, "structure")):  # fmt: skip
            with self.subTest(words), self.assertRaisesRegex(KaustosError, words):
                new_polymer(workspace, name, base, structure)
        key = new_polymer(workspace, "Odd", "pa6")
        for value, text, how, words in (
            ("glass_transition_c", "55", "", "how it is known"), ("glass_transition_c", "warm", "DSC", "warm"),
            ("moisture_saturated_pct", "2.6", "24 h in water", "24 h figure"),
            ("density_g_cm3", "-1", "pyc", "possible"),
        ):  # fmt: skip
            before = workspace.draft.records
            with self.subTest(text), self.assertRaisesRegex(KaustosError, words):
                set_value(workspace, key, value, text, how)
            self.assertIs(workspace.draft.records, before)

    def test_a_second_opinion_is_kept_and_either_may_be_in_force(self):
        workspace = self.demo()
        key = new_polymer(workspace, "PC, ours", "pc")
        set_value(workspace, key, "glass_transition_c", "141", "DSC")
        set_value(workspace, key, "glass_transition_c", "150", "torsion pendulum")
        own = workspace.draft.records.own_polymers
        self.assertEqual((own[key].values["glass_transition_c"].value, own[key].opinions["glass_transition_c"].value),
                         (150.0, 141.0))  # fmt: skip
        swap_opinion(workspace, key, "glass_transition_c")
        own = workspace.draft.records.own_polymers
        self.assertEqual((own[key].values["glass_transition_c"].value, own[key].opinions["glass_transition_c"].value),
                         (141.0, 150.0))  # fmt: skip
        workspace.draft.undo()
        self.assertEqual(workspace.draft.records.polymers[key].value("glass_transition_c").value, 150.0)

    def test_a_lot_of_it_is_found_by_its_name_and_a_file_takes_it_along(self):
        workspace = self.demo()
        key = new_polymer(workspace, "House amber", "pei_pc_blend")
        lot = new_lot(workspace, "Z-1", "House amber", "amber")
        self.assertEqual(workspace.draft.records.lots[lot].polymer, key)
        workspace.draft.set({"polymer": key, "context.lot": lot})
        text = write_json(recipe_document(workspace.document()))
        self.assertEqual(read_recipe(text, "x").own_polymer.id, key)
        file = self.folder / "amber.json"
        file.write_text(text, encoding="utf-8")
        other = Workspace(self.folder / "other.kaustos", clock=lambda: NOW)
        self.addCleanup(other.close)
        other.import_recipe(file)
        self.assertEqual(other.draft.records.own_polymers[key].name, "House amber")
        self.assertEqual(other.context().polymer.name, "House amber")


class TestFillers(WorkspaceTest):
    def test_a_filler_wears_and_brings_its_caution_and_never_makes_anything_milder(self):
        for key in ("pla", "pa_cf"):
            polymer = load().polymers[key]
            for filler in FILLERS:
                with self.subTest(key, filler=filler):
                    mixed = with_filler(polymer, filler)
                    self.assertGreaterEqual(mixed.value("abrasion").value, polymer.value("abrasion").value)
                    self.assertLessEqual(set(polymer.cautions), set(mixed.cautions))
        self.assertEqual(with_filler(load().polymers["pla"], "glow").value("abrasion").value, 100.0)

    def test_a_derived_polymer_carries_its_filler(self):
        own = OwnPolymer(id="a", name="PLA wood", based_on="pla", filler="wood")
        found = polymer_of_ours(own, load().polymers["pla"])
        self.assertIn("chars", " ".join(found.cautions))
        self.assertEqual(attrs.evolve(found, values={}).structure, load().polymers["pla"].structure)
