"""Works the proof of a recipe as a person does: sizes, specimens, coupons, verdicts, the next trial, the report."""

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton
from scipy.io import wavfile

from kaustos.core.records import Place
from tests.ui.support import WindowTest, drop, press_key

CONTROL = Qt.KeyboardModifier.ControlModifier


class ProofTest(WindowTest):
    card, page = "cable_clamp", "Ladder"

    def setUp(self):
        super().setUp()
        self.window = self.open()
        self.desk = self.window.desk
        self.desk.workspace.draft.open_card(self.card)
        self.window.show_operation(120)
        self.app.processEvents()
        self.bench = self.window.benches["proof"]
        next(each for each in self.bench.switches if each.text() == self.page).click()
        self.app.processEvents()

    def codes(self):
        return {each.code for each in self.desk.review.findings()}

    def press(self, page, words):
        next(each for each in page.findChildren(QPushButton) if each.text() == words).click()
        self.app.processEvents()
        return self.window.message.text.text()

    def typed(self, line, words, *, enter=False):
        line.setFocus()
        line.clear()
        QTest.keyClicks(line, words)
        if enter:
            press_key(Qt.Key.Key_Return)

    def choose(self, box, key):
        box.setCurrentIndex(box.findData(key))

    def newest(self, sort):
        proofs = self.desk.workspace.draft.records.tables["proofs"].values()
        current = self.desk.workspace.draft.records.current
        mine = [each for each in proofs if each.sort == sort and each.card == current]
        return sorted(mine, key=lambda each: each.at_utc)[-1]

    def cells(self, table):
        return [[table.item(row, at).text() for at in range(table.columnCount())] for row in range(table.rowCount())]


class TestSizes(ProofTest):
    page = "Size"

    def test_a_reading_out_of_tolerance_is_found_accepted_by_name_and_gone(self):
        page = self.bench.sizes
        self.assertIn("proof.size.out", self.codes())
        self.choose(page.verdict, "pass")
        self.assertIn("bore is out of tolerance", self.press(page, "Give"))
        self.choose(page.verdict, "as_is")
        self.assertIn("by whom, and why", self.press(page, "Give"))
        self.typed(page.who, "R. Askew")
        self.typed(page.why, "reamed afterwards", enter=True)
        self.assertNotIn("proof.size.out", self.codes())
        self.assertEqual(self.newest("size").verdict_why, "reamed afterwards")
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertIn("proof.size.out", self.codes())

    def test_readings_are_typed_in_any_unit_and_nonsense_is_named(self):
        page, before = self.bench.sizes, len(self.newest("size").rows)
        self.choose(page.what, "diameter")
        self.typed(page.reading, "pin: 1/2in 12.61 0.1", enter=True)
        row = self.newest("size").rows[-1]
        self.assertEqual((row.name, row.nominal_mm, row.found_mm, row.tolerance_mm), ("pin", 12.7, 12.61, 0.1))
        self.typed(page.reading, "12 twelve", enter=True)
        self.assertIn("twelve", self.window.message.text.text())
        self.assertEqual(page.reading.text(), "12 twelve", "what was typed is not lost")
        self.assertEqual(len(self.newest("size").rows), before + 1)

    def test_holes_give_the_part_its_error_by_one_key(self):
        finding = next(each for each in self.desk.review.findings() if each.code == "proof.size.holes")
        self.desk.apply(finding.remedies[0])
        self.assertAlmostEqual(self.desk.context.part.hole_error_mm, 0.18)
        self.assertNotIn("proof.size.holes", self.codes())

    def test_radii_tell_lobes_that_diameters_hide(self):
        page = self.bench.sizes
        angles = np.arange(0.0, 360.0, 24.0)
        readings = "; ".join(f"{each:g} {10.0 + 0.08 * np.cos(np.radians(3.0 * each)):.4f}" for each in angles)
        self.choose(page.what, "radius")
        self.typed(page.reading, readings, enter=True)
        self.assertRegex(page.words.text(), r"3 lobes of 0\.080 mm")
        self.choose(page.what, "diameter")
        self.typed(page.reading, "0 20; 60 20; 120 20.02", enter=True)
        self.assertIn("Three or five lobes change no diameter", page.words.text())

    def test_a_lift_is_held_against_the_tolerance_of_its_face(self):
        self.desk.set({"part.flat_mm": 0.3})
        self.choose(self.bench.sizes.what, "lift")
        self.typed(self.bench.sizes.reading, "0.45", enter=True)
        self.assertIn("proof.warp.out", self.codes())


class TestPulls(ProofTest):
    page = "Pull"

    def curve(self, name, strength, modulus=2400.0):
        stress = np.linspace(0.0, strength, 60)
        lines = ["force [N],strain [%]", *(f"{each * 41.0:.4f},{100.0 * each / modulus:.5f}" for each in stress)]
        file = self.folder / f"{name}.csv"
        file.write_text("\n".join(lines))
        return file

    def test_curves_become_specimens_whose_ratio_the_weld_is_graded_by(self):
        page = self.bench.pulls
        self.typed(page.section, "10 4.1")
        for group, strengths in (("along", (60.0, 62.0, 61.0)), ("across", (36.0, 34.0, 38.0))):
            self.choose(page.group, group)
            page.take(tuple(self.curve(f"{group}{n}", each) for n, each in enumerate(strengths)))
            self.app.processEvents()
        rows = self.newest("pull").rows
        self.assertEqual(len(rows), 6)
        self.assertAlmostEqual(rows[0].modulus_mpa, 2400.0, delta=1.0)
        self.assertIn("Across to along 0.59", page.sum.text())
        self.assertIn("proof.across.unkept", self.codes())
        self.press(page, "Keep ratio")
        self.assertNotIn("proof.across.unkept", self.codes())
        kept = [each for each in self.desk.context.calibrations if each.kind == "across"]
        self.assertAlmostEqual(kept[0].values["ratio"], 36.0 / 61.0, places=3)
        self.assertEqual(kept[0].values["nozzle_c"], 298.0, "with the heat of the specimens")

    def test_a_ratio_stays_with_the_machine_and_lot_of_its_specimens(self):
        page, before = self.bench.pulls, self.desk.context
        for group, words in (("across", "36 34 38"), ("along", "60 62 61")):
            self.choose(page.group, group)
            self.typed(page.strengths, words, enter=True)
        self.desk.set({"context.lot": "lot_c042"})
        self.assertNotEqual(self.desk.context.lot.id, before.lot.id)
        self.assertIn("a layer takes up to", self.press(page, "Keep ratio"))
        *_, kept = self.desk.workspace.draft.records.calibrations.values()
        self.assertEqual((kept.machine, kept.lot), (before.machine.id, before.lot.id))

    def test_travel_gives_a_modulus_only_with_what_machine_and_grips_give(self):
        """2000 MPa over 50 mm of 10 x 4 mm gives 0.625 mm for 1 kN; the machine 0.5 mm more."""
        page, file = self.bench.pulls, self.folder / "t.csv"
        force = np.linspace(0.0, 1600.0, 80)
        rows = [f"{each:.3f},{each * (50.0 / (2000.0 * 40.0) + 0.5e-3):.7f}" for each in force]
        file.write_text("\n".join(["force [N],travel [mm]", *rows]))
        self.choose(page.group, "along")
        for sizes, modulus in (("10 4 50", None), ("10 4 50 0.5", 2000.0)):
            self.typed(page.section, sizes)
            page.take((file,))
            self.app.processEvents()
            self.assertEqual(self.newest("pull").rows[-1].modulus_mpa, modulus)

    def test_a_moulded_matrix_goes_before_the_figure_along_fibres(self):
        page = self.bench.pulls
        for group, words in (("across", "36 34 38"), ("along", "110 112 108"), ("moulded", "60")):
            self.choose(page.group, group)
            self.typed(page.strengths, words, enter=True)
        self.press(page, "Keep ratio")
        kept = next(each for each in self.desk.context.calibrations if each.kind == "across")
        self.assertAlmostEqual(kept.values["ratio"], 0.6, places=2)

    def test_too_few_and_broken_files_keep_nothing(self):
        page = self.bench.pulls
        self.choose(page.group, "across")
        self.typed(page.strengths, "36 34", enter=True)
        self.assertIn("proof.across.few", self.codes())
        self.assertIn("three at least", self.press(page, "Keep ratio"))
        broken = self.folder / "broken.csv"
        broken.write_text("force,strain\n1,2\n")
        self.typed(page.section, "10 4")
        page.take((broken,))
        self.app.processEvents()
        self.assertIn("has no unit", page.errand.words.text() + self.window.message.text.text())
        self.assertEqual(len(self.newest("pull").rows), 2)


class TestHands(ProofTest):
    page = "Hand"

    def test_pieces_are_compared_by_condition_and_few_are_said_to_be_few(self):
        page = self.bench.hands
        self.choose(page.hand, "hammer")
        for group, blows in (("along", (5, 6)), ("across", (1, 2, 1))):
            self.choose(page.group, group)
            self.choose(page.mode, "between" if group == "across" else "through")
            for each in blows:
                self.typed(page.value, str(each), enter=True)
        along, across = self.cells(page.table)
        self.assertEqual(along[2:4], ["2, too few", "5.5 blows"])
        self.assertEqual(across[2:4], ["3", "1.3 blows"])
        self.assertRegex(across[4], r"3 of 3 \(29 to 100 %\)")
        self.assertIn("nobody controls the force", page.words.text())

    def test_tubes_are_normalised_for_their_wall(self):
        page = self.bench.hands
        self.choose(page.hand, "squeeze")
        self.typed(page.value, "20 30 1.2", enter=True)
        self.assertIn("force, length, wall and mean radius", self.window.message.text.text())
        for each in ("20 30 1.2 15", "39.06 30 1.5 15"):
            self.typed(page.value, each, enter=True)
        rows = self.newest("hand").rows
        stiff = [row.force_n / row.length_mm * (row.width_mm / row.thick_mm) ** 3 for row in rows]
        self.assertAlmostEqual(stiff[0], stiff[1], delta=0.01 * stiff[0], msg="(1.5 / 1.2)³ = 1.95")

    def test_what_was_looked_over_is_graded_and_good_is_no_grade(self):
        page = self.bench.hands
        self.typed(page.what, "underside")
        self.press(page, "Grade")
        self.assertIn("Grade it from 0", self.window.message.text.text())
        self.choose(page.grade, "3")
        self.press(page, "Grade")
        self.assertEqual(self.cells(page.table)[-1][:4], ["underside", "looked over", "", "3 of 4"])


class TestTones(ProofTest):
    card, page = "wellhead_cover", "Tone"

    def recording(self, hz, rate=44_100):
        at = np.arange(rate) / rate
        file = self.folder / "tap.wav"
        wavfile.write(file, rate, (20_000 * np.exp(-at / 0.1) * np.sin(2.0 * np.pi * hz * at)).astype(np.int16))
        return file

    def test_a_recording_becomes_a_stiffness_and_a_trend(self):
        page = self.bench.tones
        self.typed(page.bar, "100 15 4 6.31")
        page.take(self.recording(557.0))
        self.assertRegex(page.words.text(), r"557\.\d Hz, rings for \d+ ms: 19\d\d MPa")
        self.assertNotIn("proof.coupon.drifted", self.codes())
        page.take(self.recording(480.0))
        self.assertIn("proof.coupon.drifted", self.codes())
        self.assertEqual(self.cells(page.table)[0][3], "480 Hz")

    def test_a_coupon_that_passes_brings_a_new_lot_back(self):
        self.desk.workspace.draft.set({"context.lot": "lot_g310"})
        self.assertIn("proof.lot.new", self.codes())
        page = self.bench.tones
        self.typed(page.bar, "100 15 4 6.31")
        self.typed(page.hz, "556 Hz", enter=True)
        self.assertIn("proof.lot.new", self.codes(), "tapped is not passed")
        self.choose(page.verdict, "pass")
        self.press(page, "Give")
        self.assertNotIn("proof.lot.new", self.codes())

    def test_silence_and_what_is_no_sound_are_named(self):
        page = self.bench.tones
        before = len(self.cells(page.table))
        self.typed(page.bar, "100 15 4 6.31")
        silent = self.folder / "silent.wav"
        wavfile.write(silent, 8_000, np.zeros(8_000, np.int16))
        page.take(silent)
        self.assertIn("silent", self.window.message.text.text())
        self.typed(page.bar, "100 15 4")
        self.typed(page.hz, "900", enter=True)
        self.assertIn("length, width, thickness and mass", self.window.message.text.text())
        self.assertEqual(len(self.cells(page.table)), before)


class TestTrial(ProofTest):
    card, page = "packer_ring", "Trial"

    def test_the_next_trial_is_proposed_within_limits_and_set_as_one_undo(self):
        page, before = self.bench.trial, self.desk.workspace.draft.records.card.recipe.melt.nozzle_c
        self.typed(page.limits, "400 430")
        self.typed(page.tried, "400 2; 415 3; 430 2.5", enter=True)
        self.assertRegex(page.words.text(), r"^Nozzle 4[012]\d °C, all else as it stands: ")
        QTest.mouseClick(page.take, Qt.MouseButton.LeftButton)
        self.assertNotEqual(self.desk.workspace.draft.records.card.recipe.melt.nozzle_c, before)
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.desk.workspace.draft.records.card.recipe.melt.nozzle_c, before)

    def test_no_trial_goes_beyond_what_the_machine_bears(self):
        page = self.bench.trial
        self.typed(page.limits, "400 500", enter=True)
        self.assertIn("this machine ends at", self.window.message.text.text())
        self.typed(page.limits, "420 400", enter=True)
        self.assertIn("between what it may lie", self.window.message.text.text())
        self.assertFalse(page.take.isEnabled())


class TestLog(ProofTest):
    card, page = "packer_ring", "Log"

    def test_a_dead_end_is_shown_to_the_next_who_comes_near_and_to_nobody_far(self):
        self.typed(self.bench.log.note, "fan on: splits at 9 mm", enter=True)
        self.assertIn("proof.dead_end.near", self.codes())
        self.desk.set({"melt.nozzle_c": 385.0})
        self.assertNotIn("proof.dead_end.near", self.codes())

    def test_a_part_serves_until_it_ends_and_its_life_is_held_against_the_brief(self):
        page = self.bench.log
        self.typed(page.part, "ring 4")
        self.typed(page.place, "well 3", enter=True)
        self.assertIn(["ring 4", "well 3: serves"], [row[1:3] for row in self.cells(page.table)])
        self.typed(page.part, "ring 4")
        self.choose(page.ended, "broke")
        self.press(page, "Out")
        self.assertIn("proof.service.short", self.codes())


class TestDropped(ProofTest):
    page = "Pull"

    def drop(self, *files):
        self.assertTrue(drop(self.window, *files))

    def test_a_curve_goes_to_the_specimens_where_they_are_shown_and_to_the_tables_elsewhere(self):
        file = self.folder / "q1.csv"
        file.write_text("force [N],strain [%]\n" + "".join(f"{10 * n},{n / 50}\n" for n in range(40)))
        self.typed(self.bench.pulls.section, "10 4")
        self.drop(file)
        self.assertEqual(self.newest("pull").rows[-1].name, "q1")
        self.window.show_room("stock")
        self.drop(file)
        self.assertIn("neither of recipes, runs nor lots", self.window.message.text.text())

    def test_a_recording_goes_to_the_tapped_bars(self):
        self.typed(self.bench.tones.bar, "100 15 4 6.31")
        self.window.show_room("stock")
        at = np.arange(16_000) / 16_000
        file = self.folder / "tap.wav"
        wavfile.write(file, 16_000, np.float32(0.5 * np.exp(-at / 0.1) * np.sin(2.0 * np.pi * 700.0 * at)))
        self.drop(file)
        self.assertEqual(self.newest("tone").rows[0].hz, 700.0)
        self.assertTrue(self.bench.tones.isVisible())

    def test_labels_of_the_specimens_are_written_each_with_its_code(self):
        import pypdfium2

        file = self.folder / "labels.pdf"
        self.bench.pulls.write_labels(file)
        document = pypdfium2.PdfDocument(str(file))
        words = " ".join(" ".join(page.get_textpage().get_text_range().split()) for page in document)
        document.close()
        for each in ("C-077-0302-Q5", "C-077-0302-L1", "C-077-0302-C1", "pulled across the layers"):
            self.assertIn(each, words)
        self.assertIn("5 standing, 5 lying, 1 coupon", self.window.message.text.text())

    def test_a_part_carries_what_it_may_be_used_for(self):
        import pypdfium2

        file = self.folder / "parts.pdf"
        self.window.desk.workspace.draft.set({"plate.copies": 2.0})
        self.bench.ladder.write_labels(file)
        document = pypdfium2.PdfDocument(str(file))
        words = " ".join(document[0].get_textpage().get_text_range().split())
        document.close()
        lot, machine = self.window.desk.context.lot.name, self.window.desk.context.machine.name
        for each in ("1 of 2", "2 of 2", lot, machine):
            self.assertIn(each, words)
        use = self.bench.ladder.lacks.text().split(". ")[0]
        self.assertEqual(words.count(use), 3, "over the labels and on each")


class TestReport(ProofTest):
    card = "wellhead_cover"

    def test_runs_under_other_settings_release_nothing_and_the_bench_says_so_as_the_head_does(self):
        self.assertNotIn("proof.runs.few", self.codes())
        self.assertIn("Proven", self.bench.ladder.lacks.text())
        self.desk.set({"melt.nozzle_c": 246.0})
        self.app.processEvents()
        found = next(each for each in self.desk.review.findings() if each.code == "proof.runs.few")
        self.assertEqual((found.values["good"], found.values["same"]), (3.0, 0.0))
        self.assertIn("Untried; lacks 3 good runs", self.bench.ladder.lacks.text())
        self.assertIn("untried", self.window.head.revision.text())

    def test_a_worse_setting_brings_back_the_stop_that_its_runs_had_refuted(self):
        weak = lambda: {each.severity for each in self.desk.review.findings() if each.code == "heat.weld.weak"}  # noqa: E731
        self.assertEqual(weak(), {"watch"}, "good runs as it stands")
        self.desk.set({"heat.fan_pct": 60.0})
        self.app.processEvents()
        self.assertEqual(weak(), {"stop"}, "nobody has tried it so")
        self.desk.workspace.draft.undo()
        self.app.processEvents()
        self.assertEqual(weak(), {"watch"})

    def test_the_report_holds_evidence_figures_and_room_for_names(self):
        import pypdfium2

        file = self.folder / "evidence.pdf"
        self.bench.ladder.write_to(file)
        pages = pypdfium2.PdfDocument(str(file))
        words = " ".join(page.get_textpage().get_text_range() for page in pages)
        pages.close()
        for each in ("Evidence: Wellhead cover", "Use: fit and light use", "Strength across the layers", "17.43 MPa",
                     "Released by, date", "nothing is lacking", "556 Hz"):  # fmt: skip
            self.assertIn(each, words.replace("\r\n", " "))

    def test_ladder_and_sentence_say_what_is_lacking(self):
        rows = self.cells(self.bench.ladder.table)
        self.assertEqual(rows[-1][1], "passed")
        self.assertIn(
            "nothing is lacking", self.bench.ladder.lacks.text(), "three good runs have refuted the weld stop"
        )
        self.desk.workspace.draft.set({Place("machines", "gill", "nozzle.heater.max_c"): 200.0})
        self.assertIn("lacks a stop to be cured", self.bench.ladder.lacks.text())
        self.desk.workspace.draft.undo()
        self.desk.workspace.draft.set({"rules.release_runs": 5.0})
        self.assertIn("2 good runs more", self.bench.ladder.lacks.text())
