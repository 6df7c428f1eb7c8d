"""Works the stock as a person does: dries on the ladder and the bench, makes a lot, logs where it was, weighs it."""

import os
import threading
from pathlib import Path
from unittest import mock

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from kaustos.app.settings import Settings
from kaustos.app.wording import MOST_TOLD, when_words
from kaustos.ui.fields import FieldBox
from kaustos.ui.jobs import Pace, run_now
from kaustos.ui.rooms.names import ROOMS
from tests.ui.support import WindowTest, drag, drop, type_into

ALT, CONTROL = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ControlModifier


class StockTest(WindowTest):
    """The bracket in carbon-filled polyamide, whose spool hung open in the room."""

    def setUp(self):
        super().setUp()
        self.window = self.open()
        self.draft = self.window.desk.workspace.draft
        self.draft.open_card("winch_bracket")
        self.window.show_bench("stock")
        self.app.processEvents()
        self.bench = self.window.benches["stock"]

    def texts(self):
        """What the findings say, as they stand; the panel may be behind a room."""
        self.window.desk.bring_up(self.window.findings)
        return [card.text.text() for card in self.window.findings.shown]

    def figure(self, code):
        """The likely value of a figure."""
        self.app.processEvents()
        stock = next(each for each in self.window.desk.review.operations if each.number == 20)
        return next(each.value.value for each in stock.figures if each.key == code)

    def finding(self, words):
        """Where the finding with these words stands."""
        return next(at for at, text in enumerate(self.texts()) if words in text)


class TestBench(StockTest):
    def test_a_wet_spool_is_said_with_its_water_and_one_key_dries_it(self):
        window = self.window
        window.findings.choose(self.finding("When drying ends"))
        self.texts()
        codes = [card.finding.code for card in window.findings.shown]
        told = ["stock.moisture.wet", "heat.weld.weak", "heat.weld.unproven", "melt.change.due", "stock.spool.softens"]
        self.assertEqual(codes[:MOST_TOLD], told)
        before = self.texts()[0:MOST_TOLD]
        self.assertTrue(any("spool body (Card) stands 70 °C" in text for text in before))
        remedies = window.findings.shown[self.finding("When drying ends")].finding.remedies
        place = next(at for at, each in enumerate(remedies) if each.title.startswith("Wind it onto a metal spool"))
        QTest.keyClick(window.focusWidget() or window, Qt.Key(Qt.Key.Key_1.value + place), ALT)
        self.assertEqual((self.draft.value("lot.flange"), self.draft.value("context.dryer")), ("metal", "pot"))
        self.assertNotIn("spool body (Card)", "".join(self.texts()))
        self.assertNotEqual(self.texts()[0:MOST_TOLD], before)
        self.assertNotIn("prints well up to", "".join(self.texts()))
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.texts()[0:MOST_TOLD], before)

    def test_dragging_the_dryer_up_shortens_drying_and_lets_the_spool_soften(self):
        drag(self.window.ladder.view.marks["stock.dryer_c"], 25)
        cold = self.draft.value("stock.dryer_c")
        self.assertLess(cold, 70.0)
        self.assertNotIn("spool body (Card)", "".join(self.texts()))
        slow = self.bench.options.item(0, 2).text()
        start = self.figure("stock.drying.time")
        drag(self.window.ladder.view.marks["stock.dryer_c"], -25)
        self.assertGreater(self.draft.value("stock.dryer_c"), 70.0)
        self.assertIn("spool body (Card)", "".join(self.texts()))
        self.assertLess(self.figure("stock.drying.time"), start)
        self.assertEqual(self.bench.options.item(0, 2).text(), slow, "each dryer is shown at its own best heat")

    def test_enter_on_a_dryer_takes_it_with_its_heat_and_hours(self):
        options = self.bench.options
        self.assertEqual([options.item(row, 0).text() for row in range(3)], ["Vacuum pot", "Kiln", "Shelf dryer"])
        options.setFocus()
        options.setCurrentCell(0, 0)
        QTest.keyClick(options, Qt.Key.Key_Return)
        self.assertEqual((self.draft.value("context.dryer"), self.draft.value("stock.dryer_c")), ("pot", 70.0))
        self.assertEqual(self.draft.value("stock.dryer_h"), 36.0, "24 h at 95 °C: for longer 25 K cooler in vacuum")
        self.assertIn("Vacuum pot", self.bench.form.boxes["context.dryer"].currentText())
        options.take(1)
        self.assertIn("go by the scale", self.window.message.text.text())
        self.assertEqual(self.draft.value("context.dryer"), "kiln", "likely in the hours that do no harm, not surely")
        QTest.keyClick(self.window, Qt.Key.Key_Z, CONTROL)
        QTest.keyClick(self.window, Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.draft.value("context.dryer"), "shelf")

    def test_the_wanted_time_says_when_to_start_and_nonsense_is_told(self):
        self.draft.set({"stock.wanted_utc": ""})
        self.assertEqual(
            self.bench.answer.text(), "started now, it is ready Tue 03 Mar, 17:18", "33 h, not the planned 12"
        )
        type_into(self.bench.wanted, "tomorrow 07:00")
        self.assertIn("late already", self.bench.answer.text())
        self.assertEqual(when_words(self.draft.value("stock.wanted_utc")), "2026-03-03 07:00", "it is kept")
        self.draft.set({"stock.dryer_h": 48.0})
        type_into(self.bench.wanted, "Thursday 08:00")
        self.assertEqual(self.bench.answer.text(), "start by Tue 03 Mar, 08:00", "48 h, as planned")
        type_into(self.bench.wanted, "11:00")
        self.assertRegex(self.bench.answer.text(), "too late|late")
        type_into(self.bench.wanted, "soonish")
        self.assertIn("soonish", self.bench.answer.text())

    def test_a_spool_that_waits_in_the_open_is_told_and_one_key_shuts_it_away(self):
        self.draft.set({"stock.wanted_utc": ""})
        self.draft.set({"context.dryer": "kiln", "stock.dryer_c": 95.0, "stock.dryer_h": 72.0, "lot.flange": "metal"})
        type_into(self.bench.form.boxes["stock.wait_h"].edit, "8 h")
        self.bench.form.boxes["stock.wait_in"].setFocus()
        QTest.keyClicks(self.window.focusWidget(), "Open")
        self.assertIn("it waits 8 h in open air", "".join(self.texts()))
        self.assertIn(", printed from Thu 05 Mar, 16:00", self.bench.answer.text())
        names = [phase.place for phase in self.bench.picture.record.phases]
        self.assertEqual(names[-3:], ["dryer", "wait", "print"])
        window = self.window
        window.findings.choose(self.finding("it waits 8 h"))
        card = window.findings.shown[self.finding("it waits 8 h")]
        next(each for each in card.buttons if "sealed bag" in each.accessibleName()).click()
        self.assertEqual(self.draft.value("stock.wait_in"), "sealed")
        self.assertNotIn("it waits", "".join(self.texts()))

    def test_the_picture_and_the_figures_are_there_for_a_recipe_without_lot_too(self):
        self.draft.set({"context.lot": None})
        self.app.processEvents()
        self.bench.switches[1].click()
        texts = [self.bench.figures.table.item(row, 0).text() for row in range(self.bench.figures.table.rowCount())]
        self.assertIn("Moisture now", texts)
        self.assertFalse(self.bench.picture.grab().isNull())


class TestRoom(StockTest):
    def setUp(self):
        super().setUp()
        QTest.keyClick(self.window, Qt.Key.Key_2, CONTROL)
        self.room = self.window.rooms["stock"]

    def lots(self):
        """Lots on record."""
        return self.draft.records.lots

    def press(self, form, text):
        """Press the button with a text; where there are two, the first."""

        button = next(each for each in form.findChildren(QPushButton) if each.text() == text and each.isVisible())
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)

    def test_a_lot_is_made_as_its_label_says_and_an_unknown_grade_asks(self):
        new = self.room.lots.beginning
        QTest.keyClicks(new.name, "N-088")
        QTest.keyClicks(new.grade, "Nylon")
        QTest.keyClick(new.grade, Qt.Key.Key_Return)
        self.assertIn("PA6 or PA12", self.window.message.text.text())
        self.assertEqual((new.name.text(), new.grade.text()), ("N-088", "Nylon"), "nothing typed is lost")
        new.grade.clear()
        QTest.keyClicks(new.grade, "PA6-CF 20")
        QTest.keyClick(new.grade, Qt.Key.Key_Return)
        made = next(lot for lot in self.lots().values() if lot.name == "N-088")
        self.assertEqual(made.polymer, "pa_cf")
        self.room.lots.form.switches[1].click()
        self.assertEqual(self.room.lots.form.spool.form.boxes["name"].edit.text(), "N-088")
        QTest.keyClick(self.window, Qt.Key.Key_Z, CONTROL)
        self.assertNotIn("N-088", [lot.name for lot in self.lots().values()])

    def test_where_it_was_is_logged_and_moves_the_moisture(self):
        self.room.choose("lot_n061")
        form = self.room.lots.form
        before = next(line for line in self.room.list.lines() if "N-061, black" in line)
        form.water.place.setCurrentIndex(form.water.place.findData("dryer"))
        QTest.keyClicks(form.water.since, "3 days ago")
        QTest.keyClicks(form.water.celsius, "90 °C")
        QTest.keyClicks(form.water.humidity, "0.2")
        self.press(form, "Log")
        stay = self.lots()["lot_n061"].stays[-1]
        self.assertEqual((stay.place, stay.temperature_c, stay.humidity_pct), ("dryer", 90.0, 0.2))
        after = next(line for line in self.room.list.lines() if "N-061, black" in line)
        self.assertEqual((before[-1].split(",")[0], after[-1].split(",")[0]), ("wet", "dry"))
        self.assertEqual(form.water.since.text(), "", "ready for the next")
        self.assertEqual(form.water.dates.text(), "received 2026-02-02 20:00, opened 2026-02-02 20:00")

    def test_fresh_desiccant_is_logged_with_the_day_of_the_next(self):
        form = self.room.lots.form
        self.room.lots.list.choose("lot_k008")
        self.assertIn("put in 2025-10-23", form.water.desiccant.text())
        form.water.since.setText("2026-03-01 07:00")
        self.press(form, "Put in fresh")
        self.assertEqual(self.lots()["lot_k008"].desiccant_utc[:16], "2026-03-01T07:00")
        self.assertIn("put in 2026-03-01, change it on 2026-06-", form.water.desiccant.text())
        form.water.since.setText("tomorrow 07:00")
        self.press(form, "Put in fresh")
        self.assertIn("lies ahead", self.window.message.text.text())
        self.assertEqual(self.lots()["lot_k008"].desiccant_utc[:10], "2026-03-01")

    def test_what_is_put_aside_is_no_longer_free_and_comes_back(self):
        form = self.room.lots.form
        self.room.lots.list.choose("lot_h117")
        form.switches[1].click()
        # 782 g at the last weighing, a shell of 162 g printed since, 60 g put aside
        words = form.spool.ledger.words.text()
        self.assertTrue(
            words.startswith("560 g free: 782 g weighed, 162 g taken by runs since, 60 g put aside."), words
        )
        self.assertIn("3 × Probe head shell, 2 × Centraliser blade", words)  # 560/(162 · 1.05) and 560/(231 · 1.05)
        type_into(form.spool.ledger.grams, "0.6 kg")
        type_into(form.spool.ledger.purpose, "blocks")
        self.press(form, "Put aside")
        self.assertIn("560 g are free", self.window.message.text.text())
        type_into(form.spool.ledger.grams, "12 g")
        self.press(form, "Put aside")
        self.assertTrue(form.spool.ledger.words.text().startswith("548 g free"))
        self.draft.open_card("probe_head_shell")
        self.assertEqual(self.figure("stock.mass.left"), 548.0)
        form.spool.ledger.reserves.setCurrentCell(1, 0)
        self.press(form, "Take out")
        self.assertTrue(form.spool.ledger.words.text().startswith("560 g free"))

    def test_a_strand_with_steam_stops_the_print_until_drying_is_planned(self):
        self.draft.set({"stock.dryer_h": None})
        form = self.room.lots.form
        self.room.lots.list.choose("lot_n061")
        self.assertIn("bubbles or pops, drools by itself, wet", form.water.strand.words.text())
        self.press(form, "Log strand")
        self.assertIn("The strand says: dry", self.window.message.text.text())
        self.assertNotIn("The strand purged", "".join(self.texts()))
        form.water.strand.signs["vapour"].click()
        self.press(form, "Log strand")
        self.assertIn("The strand purged on 2026-03-02 showed vapour: wet", "".join(self.texts()))
        self.assertFalse(form.water.strand.signs["vapour"].isChecked())
        self.draft.set({"stock.dryer_h": 12.0})
        self.assertNotIn("The strand purged", "".join(self.texts()), "the water itself is said")

    def test_a_temperature_is_logged_in_the_unit_that_is_shown(self):
        self.close(self.window)
        window = self.open(Settings(who="A. Tester", temperature="°F"))
        QTest.keyClick(window, Qt.Key.Key_2, CONTROL)
        form = window.rooms["stock"].lots.form
        window.rooms["stock"].lots.list.choose("lot_c042")
        form.water.celsius.setText("230")
        self.press(form, "Log")
        stay = window.desk.workspace.draft.records.lots["lot_c042"].stays[-1]
        self.assertEqual((stay.place, stay.temperature_c), ("sealed", 110.0))
        self.assertEqual((form.water.stays.item(0, 2).text(), form.water.celsius.placeholderText()), ("230", "°F"))

    def test_a_polymer_that_shows_nothing_has_no_strand_to_log(self):
        self.room.lots.list.choose("lot_h117")
        strand = self.room.lots.form.water.strand
        self.assertIn("shows nothing until layers part", strand.words.text())
        self.assertFalse(strand.log.isVisible())

    def test_a_stay_is_corrected_and_taken_out_and_so_is_a_weighing(self):
        self.room.choose("lot_n061")
        water = self.room.lots.form.water
        logged = self.lots()["lot_n061"].stays
        water.stays.setCurrentCell(0, 0)  # the newest: open, since 27 days
        self.press(self.room.lots.form, "Change")
        self.assertEqual(water.place.currentText(), "Open air")
        type_into(water.humidity, "dp 9.3 °C")
        self.press(self.room.lots.form, "Log")
        corrected = self.lots()["lot_n061"].stays
        self.assertEqual(len(corrected), len(logged))
        self.assertAlmostEqual(corrected[-1].humidity_pct, 47.0, delta=0.5)  # a dew point of 9.3 °C in air of 21 °C
        water.stays.setCurrentCell(0, 0)
        self.press(self.room.lots.form, "Take out")
        self.assertEqual(self.lots()["lot_n061"].stays, corrected[:-1])
        water.weighings.setCurrentCell(0, 0)
        change, take_out = [each for each in water.findChildren(QPushButton) if "weighing" in each.toolTip()]
        QTest.mouseClick(change, Qt.MouseButton.LeftButton)
        self.assertEqual(water.gross.text(), "590 g")
        water.gross.clear()
        type_into(water.gross, "592 g")
        QTest.keyClick(water.gross, Qt.Key.Key_Return)
        self.assertEqual([each.gross_g for each in self.lots()["lot_n061"].weighings], [592.0])
        water.weighings.setCurrentCell(0, 0)
        QTest.mouseClick(take_out, Qt.MouseButton.LeftButton)
        self.assertEqual(self.lots()["lot_n061"].weighings, ())

    def test_a_dryer_is_named_where_the_spool_is_and_gives_its_own_air(self):
        self.room.choose("lot_n061")
        water = self.room.lots.form.water
        self.assertIn("Kiln", water.ways.text())
        water.place.setCurrentIndex(water.place.findText("Kiln"))
        self.press(self.room.lots.form, "Log")
        self.assertIn("how hot the dryer is", self.window.message.text.text())
        type_into(water.celsius, "80")
        self.press(self.room.lots.form, "Log")
        stay = self.lots()["lot_n061"].stays[-1]
        self.assertEqual((stay.place, stay.dryer), ("dryer", "kiln"))
        self.assertLess(stay.humidity_pct, 0.2)  # air of a dew point of -30 °C at 80 °C
        self.assertEqual(water.stays.item(0, 1).text(), "Kiln")

    def test_a_future_stay_is_refused_and_stays_typed(self):
        self.room.choose("lot_n061")
        form = self.room.lots.form
        before = self.lots()["lot_n061"]
        QTest.keyClicks(form.water.since, "2026-03-09 08:00")
        self.press(form, "Log")
        self.assertIn("lies ahead", self.window.message.text.text())
        self.assertEqual(form.water.since.text(), "2026-03-09 08:00")
        self.assertEqual(self.lots()["lot_n061"], before)

    def test_weighing_says_what_is_left_and_refuses_less_than_the_empty_spool(self):
        self.room.choose("lot_n061")
        form = self.room.lots.form
        for words, fault in (("-5 g", "less than the empty|not possible"), ("100", "less than the empty"),
                             ("a lot", "a lot")):  # fmt: skip
            form.water.gross.clear()
            QTest.keyClicks(form.water.gross, words)
            QTest.keyClick(form.water.gross, Qt.Key.Key_Return)
            self.assertRegex(self.window.message.text.text(), fault)
            self.assertEqual(form.water.gross.text(), words)
            self.assertEqual(len(self.lots()["lot_n061"].weighings), 1)
        form.water.gross.clear()
        QTest.keyClicks(form.water.gross, "0.560 kg")
        QTest.keyClick(form.water.gross, Qt.Key.Key_Return)
        self.assertEqual(form.water.weighings.item(0, 2).text(), "330 g")
        self.assertIn("330 g", next(line for line in self.room.list.lines() if "N-061, black" in line))

    def test_a_photo_of_the_label_dropped_on_the_room_is_kept_with_the_lot(self):
        file = self.folder / "label.png"
        image = QImage(60, 20, QImage.Format.Format_RGB32)
        image.fill(QColor("white"))
        image.save(str(file))
        self.room.choose("lot_n061")
        self.assertTrue(drop(self.window, file))
        photo = self.lots()["lot_n061"].photos[0]
        self.assertEqual(photo.name, "label.png")
        self.assertEqual(self.window.desk.workspace.attachment(photo.sha256), file.read_bytes())
        self.room.lots.form.switches[2].click()
        self.assertFalse(self.room.lots.form.label.photo.pixmap().isNull())
        self.assertTrue(self.room.lots.form.label.photo.isVisible())
        self.room.choose("lot_k008")
        self.assertFalse(self.room.lots.form.label.photo.isVisible())

    def test_a_retired_lot_leaves_the_list_and_comes_back(self):
        self.room.choose("lot_n061")
        self.press(self.room, "Retire")
        self.assertNotIn("N-061, black", [line[0] for line in self.room.list.lines()])
        self.assertTrue(any("0 g of the spool are free" in text for text in self.texts()), "the bracket waits for it")
        self.room.retired.click()
        self.assertIn("N-061, black", [line[0] for line in self.room.list.lines()])
        self.draft.open_card("wellhead_cover")
        self.draft.set({"lots/lot_a204/retired": True})
        lots = [self.window.head.lot.itemText(at) for at in range(self.window.head.lot.count())]
        self.assertEqual(lots, ["no lot", "A-190, grey"], "what is used up is not offered")

    def test_a_label_is_typed_and_what_is_no_range_stays_marked(self):
        self.room.choose("lot_n061")
        form = self.room.lots.form
        form.switches[2].click()
        entry = form.label.entries["nozzle"]
        type_into(entry, "300-280")
        note = form.label.notes["nozzle"]
        self.assertEqual((note.text(), note.property("role")), ("“300-280” falls: the lower end comes first", "fault"))
        self.assertEqual(form.label.notes["plate"].property("role"), "muted", "the fault stands beside its own field")
        self.assertEqual((entry.text(), self.lots()["lot_n061"].grade_values), ("300-280", {}))
        type_into(entry, "285-300 C")
        self.assertEqual(note.property("role"), "muted")
        self.assertEqual((entry.text(), form.label.notes["nozzle"].text()),
                         ("285 to 300", "in force: 285 to 300 °C, label"))  # fmt: skip
        self.assertTrue(form.label.missing.text().startswith("Not given: plate, chamber, dryer."))
        self.assertTrue(any("285 °C" in text for text in self.texts()), "the bracket is printed at 280 °C")
        QTest.keyClick(self.window, Qt.Key.Key_Z, CONTROL)
        self.assertEqual(entry.text(), "")

    def test_a_recipe_that_is_planned_on_a_lot_is_opened_at_its_drying(self):
        self.room.choose("lot_h117")
        form = self.room.lots.form
        form.switches[1].click()
        table = form.spool.planned.table
        names = [table.item(row, 0).text() for row in range(table.rowCount())]
        self.assertEqual(set(names), {"Probe head shell", "Centraliser blade"})
        table.setFocus()
        table.setCurrentCell(names.index("Centraliser blade"), 0)
        QTest.keyClick(table, Qt.Key.Key_Return)
        self.assertEqual(self.draft.records.current, "centraliser_blade")
        self.assertTrue(self.bench.isVisible())
        QTest.keyClick(self.window, Qt.Key.Key_2, CONTROL)
        self.room.choose("lot_a204")
        self.assertTrue(form.spool.planned.none.isVisible())

    def test_what_is_ordered_is_noted_and_the_recipe_no_longer_warned(self):
        self.draft.open_card("packer_ring")
        self.app.processEvents()
        self.assertTrue(any("The runs still wanted take 588 g" in text for text in self.texts()))
        self.room.switches[2].click()
        orders = self.room.orders
        self.assertEqual((orders.list.chosen_keys(), orders.undone.isEnabled()), (["lot_k008"], False))
        self.assertFalse(self.room.photo.isVisible() or self.room.retiring.isVisible())
        orders.mark.click()
        self.app.processEvents()
        self.assertIn("due 2026-03-16", orders.list.csv())
        self.assertIn("To order: 1000 g in 1 line", orders.total.text())
        self.assertFalse(any("The runs still wanted" in text for text in self.texts()))
        orders.list.choose("lot_k008")
        orders.undone.click()
        self.app.processEvents()
        self.assertIn("To order: 1500 g", orders.total.text())
        orders.list.choose("lot_k008")
        orders.mark.click()
        QTest.keyClick(self.window, Qt.Key.Key_Z, CONTROL)
        self.assertIn("To order: 1500 g", orders.total.text())
        orders.list.choose("lot_h117")
        QTest.keyClick(orders.list.view, Qt.Key.Key_Return)
        self.assertEqual((self.room.pages.currentIndex(), self.room.lots.form.lot), (0, "lot_h117"))

    def test_a_dryer_is_made_and_a_hotter_one_dries_the_recipe_further(self):
        self.room.switches[1].click()
        dryers = self.room.dryers
        QTest.keyClicks(dryers.name, "Old kiln")
        QTest.keyClick(dryers.name, Qt.Key.Key_Return)
        self.assertIn("Old kiln", [each.name for each in self.draft.records.dryers.values()])
        type_into(dryers.form.boxes["max_c"].edit, "110")
        made = next(each for each in self.draft.records.dryers.values() if each.name == "Old kiln")
        self.assertEqual(made.max_c, 110.0)
        self.window.show_bench("stock")
        self.assertIn("Old kiln", [self.bench.form.boxes["context.dryer"].itemText(at) for at in range(1, 5)])


class TestDevice(WindowTest):
    def test_a_device_that_is_slow_to_answer_is_not_asked_again_before_it_has(self):
        held = []

        def begin(job):
            held.append(job) if job.request.key == "look" else run_now(job)

        with mock.patch.dict(os.environ, {"XDG_STATE_HOME": str(self.folder)}):
            window = self.open(pace=Pace(begin, *[lambda owner, act: act()] * 2))
            window.show_room("machines")
            room = window.rooms["machines"]
            QTest.mouseClick(room.device, Qt.MouseButton.LeftButton)
            for _ in range(5):
                room.live.look()
            self.assertEqual((len(held), room.shown.text()), (1, ""))
            run_now(held.pop())
            self.assertIn("logged 1 time.", room.shown.text())
            room.live.look()
            late = held.pop()
            QTest.mouseClick(room.device, Qt.MouseButton.LeftButton)
            run_now(late)
            self.assertFalse(room.shown.isVisible(), "what answers after the stop is not shown")

    def test_no_place_for_the_log_is_told_and_leaves_nothing_running(self):
        (self.folder / "state").touch()
        before = set(threading.enumerate())
        with mock.patch.dict(os.environ, {"XDG_STATE_HOME": str(self.folder / "state")}):
            window = self.open()
            window.show_room("machines")
            room = window.rooms["machines"]
            QTest.mouseClick(room.device, Qt.MouseButton.LeftButton)
            self.assertIn("Not a directory", window.message.text.text())
            self.assertEqual(room.device.text(), "Start simulated devices")
        self.assertEqual(set(threading.enumerate()) - before, set())

    def weigh(self, window, shown, message):
        """Read the scale into the weighing of the first lot."""
        window.show_room("stock")
        form = window.rooms["stock"].lots.form
        QTest.mouseClick(form.water.read_scale, Qt.MouseButton.LeftButton)
        self.assertRegex(form.water.gross.text(), f"^{shown}$")
        self.assertIn(message, window.message.text.text())
        QTest.mouseClick(form.water.read_dryer, Qt.MouseButton.LeftButton)
        self.assertEqual(form.water.place.currentData() == "dryer", bool(shown))
        self.assertIn("" if shown else "No dryer answers", window.message.text.text())
        window.show_room("machines")

    def test_a_simulated_dryer_is_started_read_logged_and_stops_with_the_window(self):
        with mock.patch.dict(os.environ, {"XDG_STATE_HOME": str(self.folder)}):
            window = self.open()
            window.show_room("machines")
            room = window.rooms["machines"]
            self.weigh(window, "", "No scale answers")
            QTest.mouseClick(room.device, Qt.MouseButton.LeftButton)
            self.assertRegex(room.shown.text(), r"logged 1 time\..*setpoint \d+ °C, temperature 2[01]\.?\d* °C")
            room.live.look()
            self.assertIn("logged 2 times", room.shown.text())
            self.assertRegex(room.shown.text(), r"Simulated scale: gross 101\d")
            self.weigh(window, r"10(09|1[0-9])(\.\d)? g", "")
            stock = window.rooms["stock"]
            window.show_room("stock")
            QTest.mouseClick(stock.lots.form.water.log_stay, Qt.MouseButton.LeftButton)
            stay = window.desk.workspace.draft.records.lots[stock.lots.form.lot].stays[-1]
            latest = room.live.latest
            self.assertEqual(stay.place, "dryer")
            self.assertAlmostEqual(stay.temperature_c, latest.value("temperature"), delta=0.051)
            self.assertAlmostEqual(stay.humidity_pct, latest.value("humidity"), delta=0.051)
            room.live._running._server.stop()
            room.live.look()
            self.assertIn("Simulated dryer: ", room.shown.text())
            self.assertRegex(room.shown.text(), "answer")
            self.assertIn("Stop", room.device.text())
            self.close(window)
            (log,) = Path(self.folder).rglob("devices-*.csv")
            self.assertEqual(len(log.read_text(encoding="utf-8").splitlines()), 1 + 3)


class TestBeforeTheFirstRecipe(WindowTest):
    def test_the_store_room_works_in_a_workspace_that_holds_nothing(self):
        window = self.open(file=self.folder / "new.kaustos")
        window.show_room("stock")
        room = window.rooms["stock"]
        self.assertTrue(room.empty.isVisible())
        for switch in (*room.switches, *room.lots.form.switches, room.switches[0]):
            switch.click()
        beginning = room.lots.beginning
        for line, words in ((beginning.name, "L-1"), (beginning.grade, "PETG"), (beginning.colour, "blue")):
            QTest.keyClicks(line, words)
        QTest.keyClick(beginning.colour, Qt.Key.Key_Return)
        self.app.processEvents()
        lots = window.desk.workspace.draft.records.lots
        self.assertEqual((room.lots.form.lot, lots["lot_l_1"].polymer), ("lot_l_1", "petg"))
        self.assertFalse(room.empty.isVisible())
        room.lots.form.switches[1].click()
        type_into(room.lots.form.spool.form.boxes["net_g"].edit, "750 g")
        self.assertEqual(room.lots.form.spool.form.boxes["net_g"].edit.text(), "750")
        self.assertIn("750 g free", room.lots.form.spool.ledger.words.text())
        room.switches[2].click()
        self.assertIn("PETG,blue,750 g", room.orders.list.csv())

    def test_every_room_shows_without_a_recipe(self):
        window = self.open(file=self.folder / "new.kaustos")
        for room in ROOMS:
            window.show_room(room.key)
            self.app.processEvents()
        window.show_room("settings")
        fields = window.rooms["settings"].findChildren(FieldBox)
        self.assertTrue(any(box.edit.text() for box in fields), "the shop's rules stand without a recipe too")
