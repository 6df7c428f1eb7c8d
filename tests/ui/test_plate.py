"""Works plate, part and first layer as a person does: files dropped, levers pulled, films put on, skirts measured."""

from datetime import timedelta

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kaustos.app.settings import Settings
from kaustos.core.review import Choose
from kaustos.demo.bonding import stl_of
from kaustos.ui.jobs import AT_ONCE
from kaustos.ui.main import fixed_clock, open_window
from tests.core.part.solids import box
from tests.support import NOW
from tests.ui.support import WindowTest, drop, press_key, type_into

CONTROL = Qt.KeyboardModifier.ControlModifier


class PlateTest(WindowTest):
    recipe = "cable_guide"

    def setUp(self):
        super().setUp()
        self.window = self.open()
        self.desk = self.window.desk
        self.draft = self.desk.workspace.draft
        self.draft.open_card(self.recipe)
        self.window.show_bench("plate")
        self.bench = self.window.benches["plate"]
        self.app.processEvents()

    def write(self, name, mesh):
        file = self.folder / name
        file.write_bytes(stl_of(mesh, "part"))
        return file

    def drop(self, file):
        self.assertTrue(drop(self.window, file))

    def part(self):
        return self.desk.context.part

    def codes(self):
        return {each.code for each in self.desk.review.findings()}


class TestPart(PlateTest):
    def test_a_dropped_file_is_measured_judged_and_undone_by_one_key(self):
        self.assertIsNone(self.part())
        self.drop(self.write("guide.stl", box(60.0, 30.0, 12.0)))
        self.assertEqual((self.part().name, self.part().shape.size_x_mm), ("guide", 60.0))
        rows = [self.bench.part.table.item(row, 0).text() for row in range(self.bench.part.table.rowCount())]
        self.assertIn("Contact", rows)
        self.assertIn("lifts", self.desk.wording.tile(self.desk.review.operations[3]) + "lifts")
        self.window.setFocus()
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertIsNone(self.part())

    def test_another_side_and_a_scale_are_measured_from_the_kept_copy(self):
        self.drop(self.write("guide.stl", box(60.0, 30.0, 12.0)))
        page = self.bench.part
        smallest = next(n for n in range(page.sides.count()) if "3.6 cm²" in page.sides.itemText(n))
        page.sides.setCurrentIndex(smallest)
        page.sides.activated.emit(smallest)
        self.app.processEvents()
        self.assertAlmostEqual(self.part().shape.contact_mm2, 360.0, places=3)
        type_into(page.scale, "2")
        self.assertAlmostEqual(self.part().shape.size_z_mm, 120.0, places=3)
        self.assertEqual(len(self.part().files), 1)

    def test_a_file_in_metres_is_asked_for_its_unit_and_kept_once_it_is_said(self):
        self.drop(self.write("guide.stl", box(0.06, 0.03, 0.012)))
        page = self.bench.part
        self.assertIsNone(self.part())
        self.assertIn("Which unit", page.errand.words.text())
        buttons = [page.units.itemAt(n).widget() for n in range(page.units.count())]
        metres = next(each for each in buttons if each.text().startswith("m:"))
        QTest.mouseClick(metres, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        self.assertAlmostEqual(self.part().shape.size_x_mm, 60.0, places=3)

    def test_a_bad_file_says_why_and_changes_nothing(self):
        before = self.draft.records
        file = self.write("guide.stl", box(60.0, 30.0, 12.0))
        file.write_bytes(file.read_bytes()[:-30])
        self.drop(file)
        self.assertIn("cut off", self.bench.part.errand.words.text())
        self.assertIs(self.draft.records, before)

    def test_the_next_revision_of_a_file_says_why_the_last_was_given_up(self):
        self.drop(self.write("guide.stl", box(60.0, 30.0, 12.0)))
        self.bench.part.why.setText("corners lifted")
        self.drop(self.write("guide_b.stl", box(60.0, 30.0, 12.0, at=(1.0, 0.0, 0.0))))
        self.assertEqual([each.rejected for each in self.part().files], ["corners lifted", ""])

    def test_holes_are_noted_by_what_goes_in_and_taken_out(self):
        self.drop(self.write("guide.stl", box(60.0, 30.0, 12.0)))
        page = self.bench.part
        page.hole.setText("M5 insert")
        page.fit.setCurrentIndex(page.fit.findData("insert"))
        type_into(page.across, "6.4 mm")
        self.assertEqual(
            [(each.name, each.kind, each.across_mm) for each in self.part().fits], [("M5 insert", "insert", 6.4)]
        )
        self.assertIn("brief.part.holes_unproven", self.codes())
        QTest.mouseClick(page.drop, Qt.MouseButton.LeftButton)
        self.assertEqual(self.part().fits, ())


class TestLevers(PlateTest):
    recipe = "wellhead_cover"

    def test_enter_on_a_lever_pulls_it_and_one_key_takes_it_back(self):
        table = self.bench.levers
        self.assertGreater(table.rowCount(), 5)
        before = self.draft.records
        table.setFocus()
        table.selectRow(0)
        remedy = table._remedies[0]
        press_key(Qt.Key.Key_Return)
        self.assertIsNot(self.draft.records, before)
        for path, value in remedy.changes.items():
            self.assertEqual(self.draft.records.at(self.draft.records.place(path)), value)
        if isinstance(remedy, Choose):
            self.assertEqual(self.draft.records.card.chosen[remedy.what], remedy.id)
        self.draft.undo()
        self.assertEqual(self.draft.records.card, before.card)

    def test_a_touched_plate_is_found_and_washing_it_in_the_stock_room_cures_it(self):
        self.desk.set({"plate.cleaned": "touched"}, title="touched")
        self.assertIn("plate.corner.lifts", self.codes())
        self.window.show_room("stock")
        room = self.window.rooms["stock"]
        room.switches[4].click()
        room.plates.list.choose("plate_f6")
        self.app.processEvents()
        cleaned = room.plates.form.form.boxes["cleaned"]
        cleaned.setCurrentIndex(cleaned.findData("washed"))
        cleaned.activated.emit(cleaned.currentIndex())
        self.assertNotIn("plate.corner.lifts", self.codes())

    def test_both_pictures_are_drawn_with_and_without_a_size(self):
        for card in ("wellhead_cover", "cable_guide", "probe_head_shell"):
            self.draft.open_card(card)
            for view in self.bench.views:
                view.click()
                self.app.processEvents()
                self.assertFalse(self.bench.picture.grab().isNull())
        self.assertEqual(self.complaints(), [])


class TestStock(PlateTest):
    def setUp(self):
        super().setUp()
        self.window.show_room("stock")
        self.room = self.window.rooms["stock"]

    def plates(self, window=None):
        room = (window or self.window).rooms["stock"]
        room.switches[4].click()
        self.app.processEvents()
        return room.plates

    def item(self, key):
        return self.draft.records.tables["plates"][key]

    def test_a_plate_is_made_by_name_surface_and_machine(self):
        page = self.plates()
        page.surface.setCurrentIndex(page.surface.findData("pp_sheet"))
        page.machine.setCurrentIndex(page.machine.findData("gill"))
        type_into(page.name, "P-1, PP sheet")
        made = self.item(page.list.chosen_keys()[0])
        self.assertEqual((made.name, made.surface, made.fits_on), ("P-1, PP sheet", "pp_sheet", "gill"))

    def test_a_film_is_put_on_step_by_step_and_its_clock_survives_a_restart(self):
        page = self.plates()
        page.list.choose("plate_g2")
        self.app.processEvents()
        form = page.form
        form.agent.setCurrentIndex(form.agent.findData("vinyl_film"))
        QTest.mouseClick(form.begin, Qt.MouseButton.LeftButton)
        self.assertIn("Step 1 of", form.step.text())
        QTest.mouseClick(form.done, Qt.MouseButton.LeftButton)
        self.assertIn("Step 2 of", form.step.text())
        at = self.item("plate_g2").step_utc
        self.desk.save_draft()
        self.close(self.window)
        later = open_window(self.file, Settings(who="A. Tester"), self.settings_file,
                            fixed_clock(NOW + timedelta(minutes=1)), AT_ONCE)  # fmt: skip
        self.windows.append(later)
        later.desk.begin()
        later.show()
        later.show_room("stock")
        page = self.plates(later)
        page.list.choose("plate_g2")
        self.app.processEvents()
        self.assertEqual(later.desk.workspace.draft.records.tables["plates"]["plate_g2"].step_utc, at)
        self.assertIn("Step 2 of", page.form.step.text())
        steps = 0
        while page.form.done.isEnabled() and steps < 40:
            QTest.mouseClick(page.form.done, Qt.MouseButton.LeftButton)
            steps += 1
        coated = later.desk.workspace.draft.records.tables["plates"]["plate_g2"]
        self.assertEqual((coated.film, coated.film_prints, coated.coating), ("vinyl_film", 0.0, None))
        self.assertGreater(steps, 2)

    def test_a_chip_is_logged_and_the_plate_is_not_to_be_heated(self):
        page = self.plates()
        page.list.choose("plate_g2")
        self.app.processEvents()
        form = page.form
        form.kind.setCurrentIndex(form.kind.findData("chip"))
        form.left.setText("30")
        form.front.setText("40")
        form.front.setFocus()
        press_key(Qt.Key.Key_Return)
        self.assertTrue(self.item("plate_g2").is_chipped)
        self.draft.open_card("probe_head_shell")
        self.assertIn("plate.item.broken", self.codes())
        self.assertIn("not to be heated", self.window.message.text.text())

    def test_the_batch_card_scales_and_a_moment_of_mixing_is_noted_in_words(self):
        self.room.switches[5].click()
        self.app.processEvents()
        page = self.room.agents
        page.list.choose("agent_v14")
        self.app.processEvents()
        form = page.form
        QTest.keyClicks(form.volume, "500 ml")
        self.assertIn("40 g of solids", form.card.text())
        type_into(form.mixed, "6 h ago")
        mixed = self.draft.records.tables["agents"]["agent_v14"].mixed_utc
        self.assertEqual(mixed[:13], (NOW - timedelta(hours=6)).isoformat()[:13])


class TestFirstLayer(PlateTest):
    def test_the_skirt_tells_tilt_and_offset_and_keeps_the_correction_with_the_machine(self):
        self.window.show_bench("first_layer")
        bench = self.window.benches["first_layer"]
        bench.switches[1].click()
        before = len(self.draft.records.machines["beck"].offsets)
        for side, words in (("front", "0.25"), ("left", "0.2"), ("back", "0.25"), ("right", "0.3 mm")):
            bench.probe.lines[side].setFocus()
            QTest.keyClicks(bench.probe.lines[side], words)
        self.assertIn("The right is", bench.probe.words.text())
        self.assertIn("nearer", bench.probe.words.text())
        bench.probe.keep.setFocus()
        press_key(Qt.Key.Key_Space)
        offsets = self.draft.records.machines["beck"].offsets
        self.assertEqual(len(offsets), before + 1)
        self.assertEqual(bench.probe.lines["front"].text(), "")

    def test_a_gap_that_ploughs_is_found_as_it_is_typed_and_one_key_brings_it_back(self):
        self.window.show_bench("first_layer")
        bench = self.window.benches["first_layer"]
        type_into(bench.form.boxes["first_layer.gap_mm"].edit, "0.08")
        self.assertIn("first_layer.gap.ploughs", self.codes())
        codes = [each.code for each in self.desk.review.findings()]
        self.window.findings.choose(codes.index("first_layer.gap.ploughs"))
        press_key(Qt.Key.Key_1, Qt.KeyboardModifier.AltModifier)
        self.assertNotIn("first_layer.gap.ploughs", self.codes())


class TestRun(PlateTest):
    recipe = "sensor_cage"

    def test_how_far_a_corner_lifted_is_logged_with_the_run_and_moves_the_grip(self):
        self.window.show_room("runs")
        room = self.window.rooms["runs"]
        self.window.setFocus()
        press_key(Qt.Key.Key_G, CONTROL)
        self.app.processEvents()
        form = room.form
        self.assertIn("look in", form.hold.text())
        form.good.setFocus()
        press_key(Qt.Key.Key_Space)
        self.assertIn("found good", form.hold.text())
        form.what.setCurrentIndex(form.what.findData("corner_lift"))
        self.assertTrue(form.lift.isVisibleTo(form))
        form.lift.setText("1.5 mm")
        form.outcome.setCurrentIndex(form.outcome.findData("failed"))
        form.lift.setFocus()
        press_key(Qt.Key.Key_Return, CONTROL)
        run = self.draft.records.runs[form.run]
        self.assertEqual(run.observations[-1].lift_mm, 1.5)
        self.assertTrue(run.bond)
        self.assertEqual(run.plate, "plate_s7")
