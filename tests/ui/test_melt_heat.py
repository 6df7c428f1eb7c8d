"""Works melt and heat as a person does: the map by mouse and keys, levers by Enter, readings typed and kept."""

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel

from tests.ui.support import WindowTest, press_key, type_into

CONTROL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


class BenchTest(WindowTest):
    recipe, operation = "sensor_cage", "heat"

    def setUp(self):
        super().setUp()
        self.window = self.open()
        self.desk = self.window.desk
        self.draft = self.desk.workspace.draft
        self.draft.open_card(self.recipe)
        self.window.show_bench(self.operation)
        self.bench = self.window.benches[self.operation]
        self.app.processEvents()

    def value(self, path):
        return self.draft.value(path)

    def share(self):
        figures = self.desk.review.operations[6].figures
        return next(each.value.value for each in figures if each.key == "heat.weld.share")

    def turn(self, page):
        next(each for each in self.bench.switches if each.text() == page).click()
        self.app.processEvents()


class TestMap(BenchTest):
    def point(self):
        scale = self.bench.picture.scale
        return QPointF(*scale.place_of(*scale.record.point)).toPoint()

    def drag(self, by, steps=4):
        picture, start = self.bench.picture, self.point()
        QTest.mousePress(picture, Qt.MouseButton.LeftButton, pos=start)
        for step in range(1, steps + 1):
            QTest.mouseMove(picture, start + QPoint(by.x() * step // steps, by.y() * step // steps))
            self.app.processEvents()
        QTest.mouseRelease(picture, Qt.MouseButton.LeftButton, pos=start + by)
        self.app.processEvents()

    def test_the_point_is_dragged_and_one_undo_takes_it_back(self):
        nozzle, air, before = self.value("melt.nozzle_c"), self.value("heat.chamber_c"), self.share()
        self.drag(QPoint(20, -20))
        self.assertGreater(self.value("melt.nozzle_c"), nozzle)
        self.assertGreater(self.value("heat.chamber_c"), air)
        self.assertGreater(self.share(), before)
        self.window.setFocus()
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual((self.value("melt.nozzle_c"), self.value("heat.chamber_c")), (nozzle, air))

    def test_a_press_away_from_the_point_moves_nothing(self):
        before = self.draft.records
        picture = self.bench.picture
        QTest.mousePress(picture, Qt.MouseButton.LeftButton, pos=self.point() + QPoint(80, 30))
        QTest.mouseMove(picture, self.point() + QPoint(100, 0))
        QTest.mouseRelease(picture, Qt.MouseButton.LeftButton, pos=self.point() + QPoint(100, 0))
        self.assertIs(self.draft.records, before)

    def test_arrow_keys_move_it_where_the_focus_is(self):
        nozzle, air = self.value("melt.nozzle_c"), self.value("heat.chamber_c")
        self.bench.picture.setFocus()
        for key, modifier in ((Qt.Key.Key_Up, SHIFT), (Qt.Key.Key_Right, Qt.KeyboardModifier.NoModifier)):
            press_key(key, modifier)
            self.app.processEvents()
        self.assertEqual((self.value("melt.nozzle_c"), self.value("heat.chamber_c")), (nozzle + 5.0, air + 1.0))

    def test_the_map_over_speed_sets_the_speed_and_the_one_over_time_the_least_time(self):
        for number, path in ((2, "melt.speed_mm_s"), (1, "heat.least_layer_s")):
            self.bench.views[number].click()
            before = self.value(path)
            self.bench.picture.setFocus()
            press_key(Qt.Key.Key_Right, SHIFT)
            self.app.processEvents()
            self.assertGreater(self.value(path), before)

    def test_the_view_along_the_height_takes_no_keys(self):
        before = self.draft.records
        self.bench.views[3].click()
        self.bench.picture.setFocus()
        press_key(Qt.Key.Key_Up)
        self.assertIs(self.draft.records, before)

    def test_a_machine_that_heats_no_air_moves_up_and_down_only(self):
        self.draft.open_card("wellhead_cover")
        self.app.processEvents()
        nozzle = self.value("melt.nozzle_c")
        self.bench.picture.setFocus()
        press_key(Qt.Key.Key_Right)
        press_key(Qt.Key.Key_Up)
        self.app.processEvents()
        self.assertIsNone(self.value("heat.chamber_c"))
        self.assertEqual(self.value("melt.nozzle_c"), nozzle + 1.0)


class TestLevers(BenchTest):
    def test_enter_pulls_the_lever_under_the_hand_and_the_weld_follows(self):
        table, before = self.bench.levers, self.share()
        row = next(n for n in range(table.rowCount()) if table.item(n, 5).text() == "helps")
        said = float(table.item(row, 1).text().split()[0])
        table.setFocus()
        table.selectRow(row)
        press_key(Qt.Key.Key_Return)
        self.app.processEvents()
        self.assertGreater(self.share(), before)
        self.assertAlmostEqual(self.share(), said, delta=1.0)

    def test_a_school_is_taken_by_enter(self):
        self.turn("Schools")
        table = self.bench.schools
        table.setFocus()
        table.selectRow(2)
        press_key(Qt.Key.Key_Return)
        self.app.processEvents()
        self.assertAlmostEqual(self.value("melt.width_mm"), 1.9 * 0.6, places=2)

    def test_the_weak_weld_is_cured_by_its_key(self):
        finding = next(each for each in self.desk.review.findings() if each.code == "heat.weld.weak")
        changes = [each for each in finding.remedies if getattr(each, "changes", None)]
        self.assertTrue(changes)
        before = self.share()
        self.desk.apply(changes[0])
        self.app.processEvents()
        self.assertGreater(self.share(), before)


class TestMeasured(BenchTest):
    def kept(self, kind):
        return [
            each for each in self.draft.records.calibrations.values() if each.kind == kind and each.lot == "lot_c042"
        ]

    def test_a_ratio_is_kept_and_the_grade_rests_on_it(self):
        self.turn("Measured")
        page = self.bench.ratio
        type_into(page.across, "40 42 41")
        type_into(page.along, "60 61 59")
        QTest.mouseClick(page.keep, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        self.assertAlmostEqual(self.kept("across")[-1].values["ratio"], 41.0 / 60.0, places=3)
        self.assertAlmostEqual(self.share(), 100.0 * 41.0 / 60.0, delta=3.0)
        self.assertNotIn("heat.weld.weak", {each.code for each in self.desk.review.findings()})

    def test_a_bad_specimen_is_named_and_nothing_is_lost(self):
        self.turn("Measured")
        page = self.bench.ratio
        type_into(page.across, "40 x 41")
        type_into(page.along, "60 61 59")
        QTest.mouseClick(page.keep, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        said = [each.text() for each in self.window.findChildren(QLabel)]
        self.assertTrue(any("Specimen 2 across" in each for each in said))
        self.assertEqual(self.kept("across"), [])
        self.assertEqual(page.across.text(), "40 x 41")


class TestMelt(BenchTest):
    operation = "melt"

    def kept(self, kind):
        return [
            each for each in self.draft.records.calibrations.values() if each.kind == kind and each.lot == "lot_c042"
        ]

    def test_walls_give_a_multiplier_that_is_kept_with_machine_and_lot(self):
        page = self.bench.multiplier
        page.walls.setFocus()
        type_into(page.walls, "0.74 0.75 0.745 0.742")
        self.assertTrue(page.keep.isEnabled())
        QTest.mouseClick(page.keep, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        found = self.kept("multiplier")[-1]
        self.assertEqual((found.machine, found.lot), ("tarn", "lot_c042"))
        self.assertTrue(0.9 < found.values["multiplier"] < 1.0)
        self.assertIn("melt.multiplier.off", {each.code for each in self.desk.review.findings()})

    def test_an_odd_one_is_not_kept_until_its_causes_are_ruled_out_or_waived_by_name(self):
        page = self.bench.multiplier
        type_into(page.walls, "1.10 1.11 1.105")
        self.assertIn("Odd", page.words.text())
        QTest.mouseClick(page.keep, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        self.assertEqual(self.kept("multiplier"), [])
        self.assertIn("1.10", page.walls.text())
        for box in page.causes:
            box.setFocus()
            press_key(Qt.Key.Key_Space)
        QTest.mouseClick(page.keep, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        self.assertIn("Ruled out: 6 of 6", self.kept("multiplier")[-1].note)

    def test_a_waiver_takes_a_name(self):
        page = self.bench.multiplier
        type_into(page.walls, "1.10 1.11 1.105")
        type_into(page.waived, "R. Askew")
        QTest.mouseClick(page.keep, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        self.assertIn("Waived by R. Askew", self.kept("multiplier")[-1].note)

    def test_ladders_are_worked_out_while_they_are_typed_and_bad_steps_are_named(self):
        self.turn("Ladders")
        page = self.bench.ladder
        type_into(page.steps, "260 2; 270 3.2; 280 3.9; 290 3.4; 300 2.1")
        self.assertIn("Best at 280.5", page.words.text())
        QTest.mouseClick(page.keep, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        self.assertAlmostEqual(self.kept("ladder")[-1].values["best_c"], 280.4, delta=0.5)
        bad = ("260 2; 270; 280 3", "260 2; 270 good; 280 3", "260 2; 27O 3; 280 3")
        for typed, word in (("260 2", "at least 3"), *((each, "Step 2") for each in bad)):
            type_into(page.steps, typed)
            self.assertIn(word, page.words.text())
            self.assertFalse(page.keep.isEnabled())

    def test_a_flow_ladder_moves_the_limit(self):
        self.turn("Ladders")
        page = self.bench.ladder
        page.kind.setCurrentIndex(1)
        type_into(page.steps, "5 good; 6 good; 7 bad; 8 bad")
        QTest.mouseClick(page.keep, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        self.assertAlmostEqual(self.kept("flow")[-1].values["flow_mm3_s"], 6.5, places=3)
        self.assertIn("melt.flow.beyond", {each.code for each in self.desk.review.findings()})

    def test_the_change_over_follows_what_is_chosen(self):
        self.turn("Change over")
        page = self.bench.change
        at = page.before.findData("abs")
        page.before.setFocus()
        page.before.setCurrentIndex(at)
        page.before.activated.emit(at)
        words = [page.table.item(row, 1).text() for row in range(page.table.rowCount())]
        self.assertTrue(any("ABS" in each for each in words))
        self.assertTrue(any("°C" in each for each in words))

    def test_ways_to_the_part_stand_with_hours_and_money(self):
        self.turn("Route")
        table = self.bench.route
        self.assertGreaterEqual(table.rowCount(), 3)
        self.assertGreater(float(table.item(0, 1).text()), 0.0)

    def test_a_width_that_cannot_be_stays_in_its_field(self):
        box = self.bench.form.boxes["melt.width_mm"]
        before = self.value("melt.width_mm")
        type_into(box.edit, "zero")
        self.assertEqual(self.value("melt.width_mm"), before)
        type_into(box.edit, "0")
        self.assertEqual(self.value("melt.width_mm"), before)

    def test_without_a_lot_nothing_is_kept(self):
        self.draft.set({"context.lot": None})
        self.app.processEvents()
        page = self.bench.multiplier
        type_into(page.walls, "0.74 0.75 0.745")
        QTest.mouseClick(page.keep, Qt.MouseButton.LeftButton)
        self.app.processEvents()
        self.assertEqual(self.kept("multiplier"), [])
