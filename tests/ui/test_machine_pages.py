"""Works the pages of a machine as a person does: logs changes and steps, plans changes, signs a work order."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton

from kaustos.app.upgrades import open_order
from kaustos.ui.rooms.machines import PAGES
from tests.ui.support import WindowTest, type_into


class MachinePagesTest(WindowTest):
    def setUp(self):
        super().setUp()
        self.window = self.open()
        self.draft = self.window.desk.workspace.draft
        self.window.show_room("machines")
        self.room = self.window.rooms["machines"]

    def turn_to(self, title, machine="beck"):
        """The page of a machine by its title."""
        self.room.list.choose(machine)
        self.room.form.switches[[name for name, _ in PAGES].index(title)].click()
        self.app.processEvents()
        return self.room.form.page

    def machine(self, key="beck"):
        return self.draft.records.machines[key]

    def pick(self, box, key):
        box.setCurrentIndex(box.findData(key))


class TestChanges(MachinePagesTest):
    def test_a_changed_part_makes_what_rests_on_it_stale_and_undo_takes_it_back(self):
        page = self.turn_to("Changes", "crag")
        self.assertEqual(page.calibrations.item(0, 3).text(), "yes")
        self.pick(page.part, "chamber_sensor")
        type_into(page.now, "sensor, type K")
        self.assertEqual(self.machine("crag").changes[-1].now, "sensor, type K")
        self.assertIn("STALE: sensor of the chamber changed", page.calibrations.item(0, 3).text())
        self.draft.undo()
        self.app.processEvents()
        self.assertEqual(page.calibrations.item(0, 3).text(), "yes")

    def test_a_change_without_a_part_is_refused_and_nothing_is_lost(self):
        page = self.turn_to("Changes")
        before = self.machine().changes
        type_into(page.now, "something")
        self.assertEqual((self.machine().changes, page.now.text()), (before, "something"))

    def test_a_comparison_is_logged_with_its_sensor_and_recipes_are_judged_by_it(self):
        page = self.turn_to("Changes", "gill")
        page.shown.setText("250")
        page.true.setText("482 F")
        type_into(page.sensor, "")
        self.assertEqual(page.shown.text(), "250", "a comparison needs its sensor")
        type_into(page.sensor, "thermocouple 1")
        made = [each for each in self.draft.records.calibrations.values() if each.machine == "gill"]
        self.assertAlmostEqual(made[-1].values["offset_k"], 0.0)

    def test_other_calibrations_are_logged_in_words(self):
        page = self.turn_to("Changes", "gill")
        self.pick(page.kind, "flow")
        type_into(page.found, "0.97 at 10 mm/s")
        self.assertTrue(any(each.kind == "flow" for each in self.draft.records.calibrations.values()))


class TestSteps(MachinePagesTest):
    def test_a_step_needs_a_look_and_a_verdict_and_the_next_follows(self):
        page = self.turn_to("Heat steps")
        self.pick(page.zone, "plate")
        page.zone.activated.emit(page.zone.currentIndex())
        self.assertIn("Next: 70 °C", page.next.text())
        type_into(page.set_to, "70")
        self.assertEqual(self.machine().heat_steps, ())
        self.pick(page.seen, "nothing")
        self.pick(page.verdict, "go")
        page.minutes.setText("12")
        type_into(page.set_to, "70")
        self.assertEqual((self.machine().heat_steps[0].setpoint_c, self.machine().heat_steps[0].minutes), (70.0, 12.0))
        self.assertIn("Next: 80 °C", page.next.text())
        self.assertIn("the end is the magnet", page.next.text())
        page.steps.table.selectRow(0)
        page.steps.drop.click()
        self.assertEqual(self.machine().heat_steps, ())


class TestPassport(MachinePagesTest):
    def test_heater_power_and_a_part_near_heat_are_recorded_and_judged(self):
        page = self.turn_to("Passport", "crag")
        type_into(page.zones["nozzle"].boxes["nozzle.heater.power_w"].edit, "30")
        self.draft.open_card("packer_ring")
        self.assertIn("machine.nozzle.heater_weak", [each.code for each in self.window.desk.review.findings()])
        self.pick(page.place, "nozzle")
        page.part.setText("Duct")
        page.softens.setText("90")
        type_into(page.clearance, "4 mm")
        self.assertEqual(self.machine("crag").near[-1].softens_c, 90.0)
        self.assertIn("machine.near.softens", [each.code for each in self.window.desk.review.findings()])


class TestUpgrade(MachinePagesTest):
    def tick_polymers(self, page, *names):
        for at in range(page.wanted.count()):
            item = page.wanted.item(at)
            item.setCheckState(Qt.CheckState.Checked if item.text() in names else Qt.CheckState.Unchecked)
        self.app.processEvents()

    def test_the_cheapest_plan_its_bill_and_what_is_out_of_reach(self):
        page = self.turn_to("Upgrade")
        self.tick_polymers(page, "ABS")
        names = [page.plan.item(row, 0).text() for row in range(page.plan.rowCount())]
        self.assertEqual(names, ["Clips instead of the magnet", "Insulated box with its electronics outside"])
        self.assertIn("Bill: 149 €", page.words.text())
        self.assertIn("% of A machine with a hot chamber", page.words.text())
        self.assertRegex(page.words.text(), "Without any change Old Beck runs .*, the nearest in glass transition")
        self.tick_polymers(page, "PEEK")
        self.assertIn("Out of reach: chamber: heater 32 °C", page.words.text())
        self.assertIn("Crag", page.words.text())
        self.assertFalse(page.open.isEnabled())

    def test_a_change_is_typed_into_the_catalogue_and_a_wrong_limit_names_itself(self):
        page = self.turn_to("Upgrade")
        page.lifts.setText("nozzle wings 450")
        type_into(page.name, "Wings")
        self.assertEqual(page.lifts.text(), "nozzle wings 450")
        self.assertNotIn("wings", self.draft.records.upgrades)
        page.lifts.setText("nozzle heater 842 F; nozzle liner none")
        type_into(page.name, "Wings")
        made = self.draft.records.upgrades["wings"]
        self.assertEqual(dict(made.lifts), {"nozzle.heater": 450.0, "nozzle.liner": 9999.0})

    def test_an_order_is_ticked_signed_and_closed_and_the_machine_is_another_one(self):
        page = self.turn_to("Upgrade")
        self.tick_polymers(page, "ABS")
        page.open.click()
        self.app.processEvents()
        order = page.order
        self.assertFalse(next(box for key, box in order.boxes.items() if key.startswith("again.")).isEnabled())
        order.who.setText("M. Thwaite")
        order.sign.click()
        self.assertEqual(open_order(self.machine()).signed_by, "", "signed before anything was ticked")
        for key in [key for key in order.boxes if not key.startswith(("steps.", "again."))]:
            order.boxes[key].click()
            self.app.processEvents()
        order.sign.click()
        self.app.processEvents()
        self.assertEqual(open_order(self.machine()).signed_by, "M. Thwaite")
        order.close_it.click()
        self.app.processEvents()
        self.assertIsNone(open_order(self.machine()))
        self.assertFalse(self.machine().plate.magnet.fitted)
        self.assertEqual(self.machine().chamber.heater.max_c, 65.0)
        self.assertEqual([each.part for each in self.machine().changes][-2:], ["plate_stack", "enclosure"])


class TestChamberAndLogs(MachinePagesTest):
    def log(self, *lines, name="warm.csv"):
        file = self.folder / name
        file.write_text("\n".join(lines) + "\n", encoding="utf-8")
        return file

    def warm_up(self):
        """A warm-up of a single node under 480 W: 8 W/K and 16 kJ/K, the display 7 K over the part."""
        rows = ["time;shown;beside;power [W]"]
        for minute in range(180):
            air = 21.0 + 60.0 * (1.0 - 2.718281828 ** (-minute * 60.0 * 8.0 / 16_000.0))
            rows.append(f"{minute * 60};{air + 7.0:.2f};{air:.2f};480".replace(".", ","))
        return self.log(*rows)

    def test_a_log_is_read_drawn_fitted_and_kept(self):
        page = self.turn_to("Chamber and logs", "tarn")
        page.take(self.warm_up())
        self.app.processEvents()
        self.assertEqual(page.sensors.rowCount(), 2)
        self.assertEqual(page.beside.currentText(), "beside")
        self.assertIn("Losses 8 W/K", page.words.text())
        self.assertIn("Capacity 16 kJ/K", page.words.text())
        self.assertEqual([name for name, _, _ in page.picture.record.sensors], ["shown", "beside"])
        page.offset.click()
        page.keep.click()
        self.app.processEvents()
        made = {each.kind: each for each in self.draft.records.calibrations.values() if each.machine == "tarn"}
        self.assertAlmostEqual(made["chamber_offset"].values["offset_k"], -7.0, delta=0.05)
        self.assertAlmostEqual(made["chamber_fit"].values["losses_w_k"], 8.0, delta=0.2)
        self.assertNotIn("machine.chamber.never_measured",
                         [each.code for each in self.window.desk.review.findings()])  # fmt: skip

    def test_a_log_that_cannot_be_read_names_its_line_and_changes_nothing(self):
        page = self.turn_to("Chamber and logs", "tarn")
        before = self.draft.records
        page.take(self.log("time;a", "0;20", "60;hot", "120;22"))
        self.app.processEvents()
        said = self.window.message.text.text()
        self.assertIn("line 3", said)
        self.assertIs(self.draft.records, before)
        self.assertIsNone(page.log)

    def test_a_layer_laid_on_the_plate_moves_its_top(self):
        page = self.turn_to("Chamber and logs", "gill")
        self.draft.open_card("winch_bracket")
        before = self.figure("machine.plate.drop")
        self.pick(page.layer, "glass")
        type_into(page.thickness, "4 mm")
        self.assertGreater(self.figure("machine.plate.drop"), before + 1.0)

    def figure(self, key):
        machine = next(each for each in self.window.desk.review.operations if each.number == 30)
        return next(each.value.value for each in machine.figures if each.key == key)


class TestPlateAndPanel(MachinePagesTest):
    def test_points_are_pasted_and_the_plate_is_judged(self):
        page = self.turn_to("Plate", "crag")
        page.points.setPlainText("0; 0; 0.0\n200; 0; 0.5\n0; 200; 0.0\n200; 200; 0.5")
        page.plate.setText("158")
        page.plate.returnPressed.emit()
        button = next(each for each in page.findChildren(QPushButton) if each.text() == "Log points")
        button.click()
        self.app.processEvents()
        self.assertIn("tilt 500 µm", page.words.text())
        self.draft.open_card("packer_ring")
        self.assertIn("machine.plate.tilt", [each.code for each in self.window.desk.review.findings()])

    def test_a_line_that_is_no_point_names_itself_and_stays(self):
        page = self.turn_to("Plate", "crag")
        page.points.setPlainText("0; 0; 0.0\n200; zero; 0.5")
        next(each for each in page.findChildren(QPushButton) if each.text() == "Log points").click()
        said = self.window.message.text.text()
        self.assertIn("line 2", said)
        self.assertIn("zero", page.points.toPlainText())

    def test_a_kept_offset_that_jumps_stops_the_run(self):
        page = self.turn_to("Plate", "tarn")
        type_into(page.offset, "1.90 mm")
        self.draft.open_card("probe_head_shell")
        stops = [each.code for each in self.window.desk.review.findings() if each.severity == "stop"]
        self.assertIn("machine.gap.jumped", stops)

    def test_what_is_typed_back_is_checked_against_what_the_panel_takes(self):
        self.draft.open_card("winch_bracket")
        page = self.turn_to("Panel", "gill")
        titles = [page.rows.item(row, 0).text() for row in range(page.rows.rowCount())]
        self.assertEqual(titles[1], "BED HEAT")
        type_into(page.backs["plate.bed_c"], "95")
        type_into(page.backs["melt.nozzle_c"], "275")
        self.assertIn("HEAD HEAT: stands at 275, should be 285", page.verdict.text())
        for path, value in (("melt.nozzle_c", "285"), ("first_layer.nozzle_c", "285"), ("first_layer.bed_c", "95")):
            type_into(page.backs[path], value)
        self.assertEqual(page.verdict.text(), "The same as it should be.")

    def test_settings_are_carried_to_another_machine_by_both_calibrations(self):
        self.draft.open_card("probe_head_shell")
        page = self.turn_to("Panel", "tarn")
        self.pick(page.there, "crag")
        page.there.activated.emit(page.there.currentIndex())
        rows = {page.translated.item(row, 0).text(): page.translated.item(row, 2).text()
                for row in range(page.translated.rowCount())}  # fmt: skip
        self.assertEqual(rows["Nozzle"], "359 °C")
        self.assertEqual(rows["Plate"], "not known")

    def test_trials_that_came_out_alike_give_an_offset_where_the_other_machine_was_compared(self):
        page = self.turn_to("Panel", "gill")
        self.pick(page.there, "crag")
        page.same_here.setText("250")
        type_into(page.same_there, "258")
        made = [each for each in self.draft.records.calibrations.values() if each.note.startswith("the same came out")]
        self.assertAlmostEqual(made[0].values["offset_k"], 258.0 + 2.0 - 250.0)
        self.pick(page.there, "beck")
        page.same_here.setText("250")
        type_into(page.same_there, "258")
        self.assertIn("stale", self.window.message.text.text())
        self.assertEqual(page.same_here.text(), "250", "what was typed is lost")
