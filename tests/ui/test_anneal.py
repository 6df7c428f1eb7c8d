"""Works an anneal as a person does: planned by a button, typed, dragged, moved by keys; an oven loaded and read."""

import numpy as np
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton

from kaustos.core.records import AnnealStep
from tests.ui.support import WindowTest, press_key, type_into

CONTROL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


class AnnealTest(WindowTest):
    card = "packer_ring"

    def setUp(self):
        super().setUp()
        self.window = self.open()
        self.desk = self.window.desk
        self.desk.workspace.draft.open_card(self.card)
        self.window.show_operation(110)
        self.app.processEvents()
        self.bench = self.window.benches["anneal"]

    @property
    def anneal(self):
        return self.desk.workspace.draft.records.card.recipe.anneal

    def codes(self):
        return {each.code for each in self.desk.review.findings()}

    def page(self, words):
        next(each for each in self.bench.switches if each.text() == words).click()
        self.app.processEvents()


class TestProgramme(AnnealTest):
    def box(self, place, name):
        return self.bench.programme.boxes[f"anneal.steps.{place}.{name}"].edit

    def test_a_step_is_typed_into_the_row_below_the_last_and_taken_out_by_one_undo(self):
        type_into(self.box(2, "temperature_c"), "392 F")
        self.assertAlmostEqual(self.anneal.steps[2].temperature_c, 200.0, places=3)
        self.assertIn("anneal.steps.3.hold_h", self.bench.programme.boxes, "a row for the next one")
        type_into(self.box(2, "ramp_k_h"), "1 K/min")
        self.assertAlmostEqual(self.anneal.steps[2].ramp_k_h, 60.0)
        press_key(Qt.Key.Key_Z, CONTROL)
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(len(self.anneal.steps), 2, "nothing is left of it")
        self.bench.programme.drop.click()
        self.assertEqual(len(self.anneal.steps), 1)
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.anneal.steps[1].temperature_c, 200.0)

    def test_nonsense_stays_in_its_field_and_out_of_the_recipe(self):
        type_into(self.box(0, "temperature_c"), "hot")
        self.assertEqual(self.anneal.steps[0].temperature_c, 150.0)
        type_into(self.box(0, "ramp_k_h"), "90000 K/h")
        self.assertEqual(self.anneal.steps[0].ramp_k_h, 60.0)

    def test_the_plan_of_the_button_is_judged_sound_and_is_one_undo(self):
        before = self.anneal
        self.desk.set({"anneal.steps": (AnnealStep(temperature_c=90.0, hold_h=0.2, ramp_k_h=600.0),)})
        self.assertIn("anneal.hold.cold", self.codes())
        self.bench.programme.plan.click()
        self.app.processEvents()
        heads = ("anneal.hold", "anneal.ramp", "anneal.cool", "anneal.out")
        self.assertEqual({each for each in self.codes() if each.startswith(heads)}, set())
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.anneal.steps[0].temperature_c, 90.0)
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.anneal, before)

    def test_the_plan_of_every_polymer_that_can_be_annealed_stands_its_own_judgement(self):
        for polymer in ("pla", "pet_cf", "pa6", "pps_cf", "pekk_a", "pc", "pei", "abs", "pom"):
            self.desk.set({"polymer": polymer, "context.lot": "", "anneal.steps": (), "anneal.packed": None,
                           "context.oven": "oven_o1", "brief.purpose": "tool"})  # fmt: skip
            self.bench.programme.plan.click()
            left = {each for each in self.codes() if each.startswith("anneal.")}
            with self.subTest(polymer):
                self.assertLessEqual(left, {"anneal.state.dry", "anneal.air.browns", "anneal.size.doubt"})

    def test_a_finding_leads_to_the_box_of_its_step(self):
        self.assertTrue(self.bench.show_field("anneal.steps.1.hold_h"))
        self.assertIs(QApplication.focusWidget(), self.box(1, "hold_h"))
        self.assertTrue(self.bench.show_field("anneal.joint_mpa"))
        self.assertTrue(self.bench.show_field("anneal.pack_mm"))


class TestPicture(AnnealTest):
    def place(self, number):
        scale = self.bench.picture.scale
        node = scale.record.nodes[number]
        return QPoint(*(round(each) for each in scale.place_of(node.hours, node.celsius)))

    def test_dragging_a_corner_moves_hold_and_hours_as_one_undo(self):
        pad, start = self.bench.picture, self.place(1)
        QTest.mousePress(pad, Qt.MouseButton.LeftButton, pos=start)
        for step in range(1, 7):
            QTest.mouseMove(pad, start + QPoint(-2 * step, 3 * step))
            self.app.processEvents()
        QTest.mouseRelease(pad, Qt.MouseButton.LeftButton, pos=start + QPoint(-12, 18))
        step = self.anneal.steps[1]
        self.assertLess(step.temperature_c, 195.0)
        self.assertEqual(step.temperature_c, round(step.temperature_c))
        self.assertLess(step.hold_h, 3.0)
        self.assertAlmostEqual(step.hold_h % 0.25, 0.0)
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertEqual(self.anneal.steps[1], AnnealStep(temperature_c=200.0, hold_h=3.0, ramp_k_h=60.0))

    def test_keys_move_the_chosen_corner_where_the_focus_is(self):
        pad = self.bench.picture
        pad.setFocus()
        press_key(Qt.Key.Key_Up)
        self.assertEqual(self.anneal.steps[0].temperature_c, 151.0)
        press_key(Qt.Key.Key_PageDown)
        press_key(Qt.Key.Key_Down, SHIFT)
        self.assertEqual(self.anneal.steps[1].temperature_c, 195.0)
        press_key(Qt.Key.Key_Right)
        self.assertEqual(self.anneal.steps[1].hold_h, 3.25)
        press_key(Qt.Key.Key_PageUp)
        press_key(Qt.Key.Key_Left, SHIFT)
        self.assertEqual(self.anneal.steps[0].hold_h, 0.0, "never below nothing")

    def test_pressing_beside_every_corner_moves_nothing(self):
        before = self.anneal
        QTest.mousePress(self.bench.picture, Qt.MouseButton.LeftButton, pos=QPoint(120, 150))
        QTest.mouseMove(self.bench.picture, QPoint(160, 100))
        QTest.mouseRelease(self.bench.picture, Qt.MouseButton.LeftButton, pos=QPoint(160, 100))
        self.assertEqual(self.anneal, before)


class TestPages(AnnealTest):
    card = "wellhead_cover"

    def test_the_work_afterwards_is_listed_in_its_order_with_minutes_and_care(self):
        self.page("Afterwards")
        rows = [self.bench.work.item(row, 0).text() for row in range(self.bench.work.rowCount())]
        self.assertLess(rows.index("Bath"), rows.index("Sand it: 180, 320, 600"))
        self.assertLess(rows.index("Glue it"), rows.index("Prime and paint it"))
        tools = " ".join(self.bench.work.item(row, 3).text() for row in range(self.bench.work.rowCount()))
        self.assertIn("bonds skin", tools)
        self.desk.set({"brief.glued": False})
        rows = [self.bench.work.item(row, 0).text() for row in range(self.bench.work.rowCount())]
        self.assertNotIn("Glue it", rows)

    def test_the_size_page_says_growth_and_the_scale_to_print_at(self):
        self.desk.workspace.draft.open_card("centraliser_blade")
        self.page("Size")
        table = self.bench.growth
        self.assertIn("2 coupons", table.item(0, 4).text())
        grown, scale = (float(table.item(0, at).text().replace("−", "-").split()[0]) for at in (1, 3))
        self.assertAlmostEqual(scale * (1.0 + grown / 100.0), 1.0, delta=1e-3)


class TestOvens(AnnealTest):
    def setUp(self):
        super().setUp()
        self.window.show_room("stock")
        self.room = self.window.rooms["stock"]
        next(each for each in self.room.switches if each.text() == "Ovens").click()
        self.form = self.room.ovens.form
        self.room.ovens.list.choose("oven_o1")

    def press(self, words):
        next(each for each in self.form.findChildren(QPushButton) if each.text() == words).click()
        self.app.processEvents()
        return self.form.said.text() + self.window.message.text.text()

    def typed(self, line, words):
        line.setFocus()
        line.clear()
        QTest.keyClicks(line, words)

    def load(self):
        loads = self.desk.workspace.draft.records.tables["loads"]
        return max(loads.values(), key=lambda each: each.started_utc)

    def log(self, held_h):
        """A log of air and of a thermocouple in a dummy, a reading every three minutes."""
        at = np.arange(0.0, 14.0, 0.05)
        air = np.interp(at, [0.0, 2.5, 3.5, 4.4, 4.4 + held_h, 7.5 + held_h], [21.0, 150.0, 150.0, 200.0, 200.0, 45.0])
        lines = ["time [h];oven [°C];dummy [°C]"]
        inside = np.interp(at - 0.3, at, air)
        lines += [f"{hour:.3f};{one:.1f};{core:.1f}" for hour, one, core in zip(at, air, inside, strict=True)]
        file = self.folder / f"load_{held_h:g}.csv"
        file.write_text("\n".join(lines))
        return file

    def test_a_load_goes_from_programme_to_log_coupon_and_verdict(self):
        self.press("Begin load of the open recipe")
        load = self.load()
        self.assertEqual((load.card, load.oven, load.steps), ("packer_ring", "oven_o1", self.anneal.steps))
        self.form.take(self.log(3.6), load.id)
        self.app.processEvents()
        self.assertEqual(self.load().witness, "dummy")
        self.assertRegex(self.form.said.text(), r"By its witness: 3 h \d+ of 3 h at 200 °C")
        self.assertNotIn("less than planned", self.form.said.text())
        self.choose("good")
        self.assertIn("Nothing of it was measured", self.press("End it"))
        self.typed(self.form.body, "coupon 1")
        self.typed(self.form.before, "80.02 20.01 4.00")
        self.typed(self.form.after, "79.62 19.93 4.03")
        self.typed(self.form.masses, "13.184 2.961 13.170 3.002")
        self.assertIn("along the beads −0.50 %", self.press("Measured"))
        self.choose("good")
        self.assertIn("As it should be", self.press("End it"))
        self.assertEqual(self.load().outcome, "good")
        self.assertNotIn("anneal.load.short", self.codes(), "the next room knows")
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertIsNone(self.load().outcome)

    def choose(self, outcome):
        self.form.ended.setCurrentIndex(self.form.ended.findData(outcome))

    def test_a_load_that_was_cut_short_is_found_on_the_bench(self):
        self.desk.workspace.draft.set({"loads/load_03/retired": True})
        self.assertNotIn("anneal.load.short", self.codes())
        self.press("Begin load of the open recipe")
        self.form.take(self.log(1.0), self.load().id)
        self.app.processEvents()
        self.assertIn("less than planned", self.form.said.text())
        self.typed(self.form.who, "M. Thwaite")
        self.choose("good")
        self.press("End it")
        self.assertIn("anneal.load.short", self.codes())

    def test_a_simulated_oven_runs_the_programme_over_modbus_and_is_let_go(self):
        self.press("Begin load of the open recipe")
        self.press("Simulated oven")
        log = self.form.watch.log
        for _ in range(3):
            log.look()
        self.assertEqual([each.fault for each in log.entries], [""] * len(log.entries))
        names = {each.channel.name for each in log.entries[-1].shown}
        self.assertEqual(names, {"setpoint", "temperature", "dummy"})
        self.assertIn("cannot", str(self.refusal()))
        self.form.stop()
        self.assertIsNone(self.form.watch)

    def refusal(self):
        device = self.form.watch.log._devices[0]
        try:
            device.set("setpoint", 300.0)
        except Exception as fault:  # noqa: BLE001
            return f"cannot: {fault}"
        return ""

    def test_bad_input_is_named_and_loses_nothing(self):
        self.press("Begin load of the open recipe")
        before = self.load()
        self.typed(self.form.body, "coupon 1")
        self.typed(self.form.before, "80.02 wide")
        self.assertIn("wide", self.press("Measured"))
        self.typed(self.form.before, "1 2 3 4")
        self.assertIn("at most", self.press("Measured"))
        self.assertEqual(self.load(), before)
        self.typed(self.form.runs, "run_9999")
        self.assertIn("There is no run", self.press("Begin load of the open recipe"))
        self.assertIn("Say where the oven's controller listens", self.press("Watch controller"))
        self.assertIsNone(self.form.watch)


class TestDrag(AnnealTest):
    def test_what_is_drawn_in_the_end_is_the_last_place(self):
        pad = self.bench.picture
        pad.setFocus()
        for _ in range(12):
            press_key(Qt.Key.Key_Up)
        self.app.processEvents()
        self.assertTrue(pad.is_current)
        self.assertEqual(pad.record.nodes[0].celsius, 162.0)
