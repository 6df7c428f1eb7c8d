"""Works the nozzles as a person does: makes one, fits it, feeds and looks at it, and sees the finding go."""

import csv

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kaustos.app.machines import standing
from tests.ui.support import WindowTest, type_into

ALT, CONTROL = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ControlModifier


class NozzlesTest(WindowTest):
    def setUp(self):
        super().setUp()
        self.window = self.open()
        self.draft = self.window.desk.workspace.draft
        self.room = self.window.show_room("stock")
        self.room = self.window.rooms["stock"]
        self.room.switches[3].click()
        self.page = self.room.nozzles
        self.form = self.page.form

    def choose(self, key):
        self.page.list.choose(key)
        self.app.processEvents()

    def last_message(self):
        return self.window.desk.messages.shown[-1].text if self.window.desk.messages.shown else ""


class TestPage(NozzlesTest):
    def test_the_list_shows_what_is_left_and_writes_it_out(self):
        lines = list(csv.reader(self.page.list.csv().splitlines()))
        by_name = {line[0]: line for line in lines[1:]}
        self.assertEqual(by_name["B-11, brass 0.4"][2], "Old Beck")
        self.assertEqual(by_name["B-11, brass 0.4"][-1], "look due")
        self.assertEqual(len(lines), 1 + len(self.draft.records.nozzles))

    def test_a_nozzle_is_made_by_name_metal_and_bore_and_undone(self):
        self.page.material.setCurrentIndex(self.page.material.findData("hardened"))
        self.page.name.setText("S-09")
        type_into(self.page.bore, "0.8")
        made = self.draft.records.nozzles[self.page.list.chosen_keys()[0]]
        self.assertEqual((made.name, made.material, made.bore_mm), ("S-09", "hardened", 0.8))
        self.draft.undo()
        self.assertNotIn(made.id, self.draft.records.nozzles)

    def test_a_bore_that_cannot_be_is_refused_and_what_was_typed_stays(self):
        self.page.name.setText("S-09")
        type_into(self.page.bore, "60 mm")
        self.assertEqual(self.page.bore.text(), "60 mm")
        self.assertFalse([each for each in self.draft.records.nozzles.values() if each.name == "S-09"])

    def test_fitting_one_takes_the_other_off_in_one_step(self):
        self.choose("nozzle_w01")
        self.form.fitted.setCurrentIndex(self.form.fitted.findData("tarn"))
        self.form.fitted.activated.emit(self.form.fitted.currentIndex())
        nozzles = self.draft.records.nozzles
        self.assertEqual((nozzles["nozzle_w01"].fitted_on, nozzles["nozzle_s04"].fitted_on), ("tarn", None))
        self.assertEqual(self.window.desk.workspace.judged()[0].nozzle.id, "nozzle_w01")
        change = self.draft.records.machines["tarn"].changes[-1]
        self.assertEqual((change.part, change.was, change.now), ("nozzle", "S-04, hardened 0.6", "W-01, carbide 0.6"))
        stale = [each.kind for each in standing(self.window.desk.workspace, "tarn") if not each.is_valid]
        self.assertIn("nozzle_offset", stale, "what was measured through the other nozzle")
        self.draft.undo()
        self.assertEqual(self.draft.records.nozzles["nozzle_s04"].fitted_on, "tarn")

    def test_what_is_fed_by_hand_wears_it_and_can_be_taken_out(self):
        self.choose("nozzle_c07")
        self.form.filler.setCurrentIndex(self.form.filler.findData("carbon"))
        type_into(self.form.grams, "0.9 kg")
        self.assertEqual(self.draft.records.nozzles["nozzle_c07"].fed[0].grams, 900.0)
        self.assertGreater(self.form.section.record.lost_mm[1], 0.3)
        self.form.fed.table.selectRow(0)
        self.form.fed.drop.click()
        self.assertEqual(self.draft.records.nozzles["nozzle_c07"].fed, ())

    def test_a_look_corrects_the_wear_and_an_odd_one_is_questioned(self):
        self.choose("nozzle_b11")
        type_into(self.form.bore, "0.2 mm")
        self.assertEqual(self.draft.records.nozzles["nozzle_b11"].inspections, ())
        self.assertEqual(self.form.bore.text(), "0.2 mm", "what was typed is lost")
        self.form.bore.clear()
        self.form.state.setCurrentIndex(self.form.state.findData("stained"))
        type_into(self.form.lost, "20 um")
        look = self.draft.records.nozzles["nozzle_b11"].inspections[0]
        self.assertEqual((look.lost_mm, look.state), (0.02, "stained"))
        self.assertLess(self.form.section.record.lost_mm[2], 0.1)

    def test_the_cold_pull_is_that_of_the_open_recipes_polymer(self):
        self.choose("nozzle_s04")
        self.assertIn("1. Heat to 370 °C", self.form.pull.text())
        self.assertIn("dry", self.form.pull.text())


class TestFinding(NozzlesTest):
    def test_a_worn_nozzle_is_found_and_one_key_takes_another(self):
        self.choose("nozzle_b11")
        self.form.filler.setCurrentIndex(self.form.filler.findData("carbon"))
        type_into(self.form.grams, "5 kg")
        self.draft.open_card("cable_guide")
        self.window.show_bench("machine")
        self.app.processEvents()
        findings = self.window.findings
        at = next(at for at, card in enumerate(findings.shown) if card.finding.code == "machine.nozzle.worn")
        findings.choose(at)
        remedies = findings.shown[at].finding.remedies
        place = next(at for at, each in enumerate(remedies) if each.title.startswith("Take the nozzle"))
        QTest.keyClick(self.window.focusWidget() or self.window, Qt.Key(Qt.Key.Key_1.value + place), ALT)
        self.assertIsNotNone(self.draft.value("context.nozzle"))
        self.app.processEvents()
        self.assertNotIn("machine.nozzle.worn", [card.finding.code for card in self.window.findings.shown])

    def test_the_bench_draws_the_nozzle_and_leads_to_its_choice(self):
        self.window.show_bench("machine")
        bench = self.window.benches["machine"]
        self.assertTrue(bench.show_field("context.nozzle"))
        self.app.processEvents()
        self.assertTrue(bench.switches[1].isChecked())
        self.assertEqual(bench.picture.record.nozzle.title, "S-04, hardened 0.6")
        self.assertEqual(bench.nozzle.itemText(0), "the fitted one")

    def test_a_run_keeps_the_nozzle_and_its_grams_wear_it(self):
        from kaustos.app.nozzles import nozzle_state
        from kaustos.app.runs import end_run, start_run

        workspace = self.window.desk.workspace
        self.draft.open_card("turbine_vane")
        before = nozzle_state(workspace, self.draft.records.nozzles["nozzle_p02"])
        run = start_run(workspace, who="A", why="a test", took_place=True)
        end_run(workspace, run.id, {"outcome": "good"})
        after = nozzle_state(workspace, self.draft.records.nozzles["nozzle_p02"])
        self.assertEqual(run.nozzle, "nozzle_p02")
        self.assertAlmostEqual(after.fed_g - before.fed_g, self.draft.records.card.recipe.brief.mass_g)
        self.assertGreater(after.lost_um, before.lost_um)
