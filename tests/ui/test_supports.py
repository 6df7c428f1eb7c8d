"""Works supports as a person does: reads what hangs, takes a way by Enter, types gap and coupons."""

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from tests.ui.support import press_key, type_into
from tests.ui.test_melt_heat import CONTROL, BenchTest


class TestSupports(BenchTest):
    recipe, operation = "cable_clamp", "supports"

    def finding(self, code):
        return next((each for each in self.desk.review.findings() if each.code == code), None)

    def rows(self):
        table = self.bench.ways
        return {table.item(row, 0).text(): row for row in range(table.rowCount())}

    def choose(self, path, key):
        self.bench.show_field(path)
        box = self.bench.form.boxes[path]
        box.setFocus()
        box.setCurrentIndex(box.findData(key))
        box.activated.emit(box.currentIndex())
        self.app.processEvents()

    def test_nothing_held_is_a_stop_that_one_key_cures(self):
        self.choose("supports.way", "none")
        self.assertEqual(self.finding("supports.place.unheld").severity, "stop")
        shown = [each.text.text() for each in self.window.findings.shown]
        self.assertTrue(any("3 of its places want help" in each for each in shown), shown)
        table = self.bench.ways
        self.assertEqual(table.item(0, 0).text(), "Branches")
        table.setFocus()
        table.selectRow(0)
        press_key(Qt.Key.Key_Return)
        self.app.processEvents()
        self.assertEqual(self.value("supports.way"), "branches")
        self.assertIsNone(self.finding("supports.place.unheld"))
        self.window.setFocus()
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.value("supports.way"), "none")

    def test_a_way_that_is_not_to_be_had_says_why_and_changes_nothing(self):
        before = self.draft.records
        row = next(row for title, row in self.rows().items() if title.startswith("Soluble"))
        table = self.bench.ways
        table.setFocus()
        table.selectRow(row)
        press_key(Qt.Key.Key_Return)
        self.app.processEvents()
        self.assertIs(self.draft.records, before)
        self.assertIn("one polymer fed", self.window.message.text.text())

    def test_a_gap_that_is_no_whole_layer_is_moved_and_a_negative_one_refused(self):
        edit = self.bench.form.boxes["supports.gap_mm"].edit
        type_into(edit, "0.5")
        self.assertIsNotNone(self.finding("supports.gap.not_whole"))
        type_into(edit, "-0.2")
        self.assertEqual(self.value("supports.gap_mm"), 0.5, "what cannot be is not taken")
        self.assertTrue(self.bench.form.boxes["supports.gap_mm"].fault.text())
        edit = self.bench.form.boxes["supports.bath_ml"].edit
        type_into(edit, "0")
        self.assertIsNone(self.value("supports.bath_ml"))

    def test_a_place_is_left_free_with_a_reason_and_undone_and_the_reason_is_asked_for(self):
        self.turn("Places")
        page = self.bench.places
        page.table.selectRow(0)
        page.what.setCurrentIndex(page.what.findData("leave"))
        page.why.setFocus()
        press_key(Qt.Key.Key_Return)
        self.assertIn("Say why", self.window.message.text.text())
        QTest.keyClicks(page.why, "it seals")
        press_key(Qt.Key.Key_Return)
        self.app.processEvents()
        self.assertEqual(self.finding("supports.place.left").values["because"], "it seals")
        rows = [[page.table.item(row, column).text() for column in range(8)] for row in range(3)]
        self.assertIn(["1", "left free", "90°", "9.6 cm²", "16 mm", "by tools", "Leave it free", "it seals"], rows)
        self.window.setFocus()
        press_key(Qt.Key.Key_Z, CONTROL)
        self.app.processEvents()
        self.assertIsNone(self.finding("supports.place.left"))
        page.table.clearSelection()
        page.table.setCurrentCell(-1, -1)
        page.why.setFocus()
        press_key(Qt.Key.Key_Return)
        self.assertIn("Choose the place", self.window.message.text.text())

    def test_a_coupon_is_kept_by_either_convention_and_moves_the_limit(self):
        self.turn("Measured")
        page = self.bench.coupons
        for convention, typed in (("upright", "58"), ("level", "32")):
            page.convention.setCurrentIndex(page.convention.findData(convention))
            page.angle.setFocus()
            QTest.keyClicks(page.angle, typed)
            press_key(Qt.Key.Key_Return)
            self.app.processEvents()
            figure = next(each for each in self.desk.review.operations[7].figures if each.key.endswith("limit"))
            with self.subTest(convention):
                self.assertEqual(figure.value.value, 58.0)
                self.assertIn("58° from upright", self.window.message.text.text())
        page.angle.setFocus()
        QTest.keyClicks(page.angle, "120")
        press_key(Qt.Key.Key_Return)
        self.assertIn("is none", self.window.message.text.text())

    def test_a_series_of_gaps_says_its_best_and_what_to_print_next_and_recipes_are_judged_by_it(self):
        self.turn("Measured")
        page = self.bench.coupons
        page.steps.setFocus()
        for typed, said in (
            ("2 0.5 torn", "None came off well. Print 3 next"),
            ("; 3 0.5 marked", "Best: 3 layers, marked, off in 0.5 min. Print 4 next"),
            ("; 4 0.4 sagged", "Elsewhere: 2 by practice"),
            ("; 5", "Step 4, '5'"),
        ):
            QTest.keyClicks(page.steps, typed)
            with self.subTest(typed):
                self.assertIn(said, page.words.text())
        press_key(Qt.Key.Key_Return)
        self.assertIn("Step 4", self.window.message.text.text(), "nothing of it is kept")
        QTest.keyClick(page.steps, Qt.Key.Key_Backspace)
        press_key(Qt.Key.Key_Return)
        self.app.processEvents()
        self.assertIn("3 layers", self.window.message.text.text())
        record = self.bench.picture.record
        self.assertEqual(
            [(each.layers, each.under) for each in record.series], [(2, "torn"), (3, "marked"), (4, "sagged")]
        )
        self.assertEqual([each.source for each in record.gaps if each.is_own], ["series here"])
        self.bench.views[1].click()
        type_into(self.bench.form.boxes["supports.gap_mm"].edit, "0.1")
        self.assertEqual(self.finding("supports.gap.fuses").values["usual"], 3.0, "by the own series")

    def test_pauses_for_a_coat_name_layer_clock_and_weld(self):
        self.turn("Pauses")
        table = self.bench.pauses
        rows = [[table.item(row, column).text() for column in range(6)] for row in range(table.rowCount())]
        self.assertEqual([row[1] for row in rows], ["15.9 mm", "21.9 mm"], "whole layers under 16 and 22 mm")
        self.assertRegex(rows[0][2], r"^\d+ min to \d h \d\d$")
        share = [float(row[4].split()[0]) for row in rows]
        self.assertTrue(all(0.0 < each < float(row[5].split()[0]) for each, row in zip(share, rows, strict=True)))
        self.draft.open_card("cable_guide")
        self.app.processEvents()
        self.assertIn("no place", table.item(0, 2).text())

    def test_fields_follow_the_way_and_a_finding_still_leads_to_each(self):
        boxes = self.bench.form.boxes
        self.window.show_bench("supports")
        self.assertFalse(boxes["supports.material"].isVisible())
        self.choose("supports.way", "soluble")
        self.assertTrue(boxes["supports.material"].isVisible() and boxes["supports.bath_ml"].isVisible())
        self.choose("context.bath", "bath_t2")
        self.assertFalse(boxes["supports.bath_ml"].isVisible(), "the bath of the shop says what it holds")
        self.choose("supports.way", "breakaway")
        self.assertFalse(boxes["context.bath"].isVisible())
        self.assertTrue(self.bench.show_field("supports.bath_c") and boxes["supports.bath_c"].isVisible())

    def test_a_skin_is_drawn_in_whole_layers_and_stands_among_the_steps_until_the_layer_changes(self):
        self.turn("Places")
        page = self.bench.places
        page.table.selectRow(1)
        page.what.setCurrentIndex(page.what.findData("skin"))
        page.why.setFocus()
        QTest.keyClicks(page.why, "drilled for the pin")
        press_key(Qt.Key.Key_Return)
        self.app.processEvents()
        self.assertIn("1 layer thick (0.30 mm)", self.window.message.text.text())
        self.turn("Afterwards")
        table = self.bench.afterwards
        steps = [table.item(row, 0).text() for row in range(table.rowCount())]
        self.assertEqual(steps, ["Drill 1 skin open", "Take supports off"])
        self.window.show_bench("melt")
        type_into(self.window.benches["melt"].form.boxes["melt.height_mm"].edit, "0.2")
        self.assertEqual(self.finding("supports.skin.moved").values["layers"], 2.0)

    def test_a_second_polymer_on_one_feed_is_a_stop_until_the_passport_says_two(self):
        self.choose("supports.way", "soluble")
        self.choose("supports.material", "hot_water")
        self.assertEqual(self.finding("supports.pair.one_feed").severity, "stop")
        self.window.show_room("machines")
        room = self.window.rooms["machines"]
        room.list.choose("tarn")
        next(each for each in room.form.switches if each.text() == "Passport").click()
        self.app.processEvents()
        box = room.form.pages.currentWidget().house.boxes["two_feeds"]
        for key, severity in (("", "watch"), ("yes", None)):
            box.setFocus()
            box.setCurrentIndex(box.findData(key))
            box.activated.emit(box.currentIndex())
            self.app.processEvents()
            found = self.finding("supports.pair.one_feed")
            with self.subTest(key=key):
                self.assertEqual(found and found.severity, severity)

    def test_the_sides_of_a_kept_part_say_what_would_hang_without_reading_it_again(self):
        self.window.show_bench("plate")
        bench = self.window.benches["plate"]
        next(each for each in bench.switches if each.text() == "Part").click()
        self.app.processEvents()
        sides = [bench.part.sides.itemText(place) for place in range(bench.part.sides.count())]
        self.assertEqual(sides[0], "as it came")
        self.assertIn("10.6 cm² down, none hangs", sides)

    def test_a_part_without_a_file_says_where_to_bring_it(self):
        self.draft.open_card("winch_bracket")
        self.app.processEvents()
        self.assertTrue(self.bench.picture.record.is_empty)
        self.assertIn("nobody has looked", self.bench.ways.item(0, 0).text())
