"""Edits: propose, refuse, undo, redo, join."""

import unittest

from kaustos.app.edits import Draft
from kaustos.app.settings import Settings
from kaustos.app.wording import Wording
from kaustos.core.errors import KaustosError
from kaustos.demo.scenario import RECORDS
from tests.support import codes_of


class TestDraft(unittest.TestCase):
    def setUp(self):
        self.history = []
        self.draft = Draft(RECORDS, Wording(), self.history.append)

    def test_a_text_in_any_unit_becomes_a_value_that_can_be_undone_and_redone(self):
        self.draft.propose("melt.nozzle_c", "680 F")
        self.assertEqual(self.draft.value("melt.nozzle_c"), 360.0)
        self.assertEqual(self.draft.undo_title, "Nozzle: 360 °C")
        self.draft.undo()
        self.assertEqual(self.draft.records, RECORDS)
        self.draft.redo()
        self.assertEqual(self.draft.text("melt.nozzle_c"), "360")

    def test_impossible_values_never_enter(self):
        for path, text in (
            ("melt.nozzle_c", "-300"), ("melt.nozzle_c", "nan"), ("brief.mass_g", "-1"), ("melt.nozzle_c", "5 mm"),
            ("brief.purpose", "bragging"), ("name", "x" * 10_000_000), ("rules.liner_stop_c", "241"),
            ("rules.headroom_k", ""), ("machine.plate.magnet.max_c", "soft"),
        ):  # fmt: skip
            with self.subTest(path, text=text[:20]), self.assertRaises(KaustosError):
                self.draft.propose(path, text)
        self.assertEqual((self.draft.records, self.history), (RECORDS, []))

    def test_unwise_values_enter_and_are_judged(self):
        self.draft.propose("plate.bed_c", "400")
        self.assertIn("machine.nozzle.below_plate", codes_of(self.draft.records))

    def test_empty_means_not_recorded(self):
        self.draft.propose("brief.margin_k", "  ")
        self.assertIsNone(self.draft.value("brief.margin_k"))

    def test_one_gesture_is_one_edit(self):
        for value in range(124, 100, -1):
            self.draft.set({"heat.chamber_c": float(value)}, gesture="drag 1")
        self.draft.set({"heat.chamber_c": 95.0}, gesture="drag 2")
        self.draft.undo()
        self.assertEqual(self.draft.value("heat.chamber_c"), 101.0)
        self.draft.undo()
        self.assertEqual(self.draft.value("heat.chamber_c"), 125.0)
        self.assertEqual(self.draft.undo_title, "")

    def test_a_new_edit_forgets_what_was_undone(self):
        self.draft.propose("plate.bed_c", "150")
        self.draft.undo()
        self.draft.propose("plate.bed_c", "140")
        self.draft.redo()
        self.assertEqual(self.draft.value("plate.bed_c"), 140.0)

    def test_undoing_appends_to_the_history_and_takes_nothing_from_it(self):
        self.draft.propose("plate.bed_c", "150")
        self.draft.undo()
        self.draft.redo()
        titles = [edit.title for edit in self.history]
        self.assertEqual(titles, ["Plate: 150 °C", "Undo: Plate: 150 °C", "Redo: Plate: 150 °C"])

    def test_undo_goes_back_to_the_recipe_it_was_made_on(self):
        self.draft.propose("plate.bed_c", "150")
        self.draft.open_card("sensor_cage")
        self.draft.undo()
        self.assertEqual(self.draft.records.current, "probe_head_shell")

    def test_no_change_is_no_edit(self):
        self.draft.propose("plate.bed_c", "158 C")
        self.assertEqual(self.history, [])

    def test_reading_only_changes_nothing(self):
        draft = Draft(RECORDS, Wording(), self.history.append, read_only=True)
        with self.assertRaisesRegex(KaustosError, "reading only"):
            draft.propose("plate.bed_c", "150")

    def test_a_bare_number_is_in_the_unit_that_the_field_shows(self):
        draft = Draft(RECORDS, Wording(Settings(temperature="°F", decimal="comma")), self.history.append)
        self.assertEqual(draft.text("plate.bed_c"), "316,4")
        draft.propose("plate.bed_c", "302")
        draft.propose("brief.margin_k", "36")
        self.assertEqual((draft.value("plate.bed_c"), draft.value("brief.margin_k")), (150.0, 20.0))

    def test_a_negative_number_shown_can_be_typed_back(self):
        self.draft.propose("brief.service_c", "-12.5")
        self.draft.propose("brief.service_c", self.draft.text("brief.service_c"))
        self.assertEqual(self.draft.value("brief.service_c"), -12.5)


class TestLimits(unittest.TestCase):
    def setUp(self):
        self.draft = Draft(RECORDS, Wording(), lambda edit: None)

    def part(self, zone, name):
        machine = self.draft.records.machines["tarn"]
        return getattr(getattr(machine, zone), name)

    def test_a_limit_is_a_temperature_or_none_or_not_recorded(self):
        for text, fitted, limit in (("110 C", True, 110.0), ("none", False, None), ("", None, None)):
            self.draft.propose("machine.plate.magnet.max_c", text)
            found = self.part("plate", "magnet")
            self.assertEqual((found.fitted, found.max_c), (fitted, limit))
        self.draft.undo()
        self.assertEqual(self.draft.text("machine.plate.magnet.max_c"), "none")

    def test_the_warmth_of_a_chamber_without_heater_keeps_it_without_one(self):
        self.draft.set({"machine.chamber.heater.fitted": False})
        self.draft.propose("machine.chamber.heater.max_c", "45")
        self.assertEqual((self.part("chamber", "heater").fitted, self.part("chamber", "heater").max_c), (False, 45.0))


class TestOwnValues(unittest.TestCase):
    def setUp(self):
        self.draft = Draft(RECORDS, Wording(), lambda edit: None)

    def test_air_ends_where_rooms_and_dryers_end(self):
        for path, text in (("stock.dryer_c", "374"), ("stock.dryer_c", "700 F"), ("dryers/kiln/max_c", "351"),
                           ("dryers/kiln/dew_point_c", "-91")):  # fmt: skip
            with (
                self.subTest(path, text=text),
                self.assertRaisesRegex(KaustosError, "is not possible here: -90 to 350 °C"),
            ):
                self.draft.propose(path, text)
        self.draft.propose("stock.dryer_c", "350")
        self.assertEqual(self.draft.value("stock.dryer_c"), 350.0)

    def test_a_saturation_that_is_none_is_refused_at_its_field_and_loses_nothing(self):
        path = "lots/lot_n061/lot_values.moisture_saturated_pct"
        for text, taken in (("2.2", False), ("2.64", False), ("2.7", True), ("7", True)):  # PA6-CF holds 2.2 % at half
            before = self.draft.records
            with self.subTest(text):
                if taken:
                    self.draft.propose(path, text)
                else:
                    with self.assertRaisesRegex(KaustosError, "a 24 h figure is no saturation"):
                        self.draft.propose(path, text)
                    self.assertIs(self.draft.records, before)
        with self.assertRaisesRegex(KaustosError, "no saturation"):
            self.draft.propose("lots/lot_n061/lot_values.moisture_50_pct", "6.5")

    def test_an_own_value_says_whether_it_is_of_the_lot_or_of_its_grade(self):
        lot = next(iter(RECORDS.lots.values()))
        for scope, whose in (("lot_values", f"lot {lot.name}"), ("grade_values", f"grade {lot.grade}")):
            self.draft.propose(f"lots/{lot.id}/{scope}.glass_transition_c", "141")
            datum = getattr(self.draft.records.lots[lot.id], scope)["glass_transition_c"]
            self.assertEqual(datum.source, f"own value for {whose}")

    def test_an_own_value_with_its_spread_overrides_and_can_be_taken_back(self):
        path = "lot.lot_values.glass_transition_c"
        self.draft.propose(path, "181 ± 2")
        datum = self.draft.value(path)
        self.assertEqual((datum.low, datum.value, datum.high, datum.kind), (179.0, 181.0, 183.0, "own"))
        self.assertIn("H-117", datum.source)
        self.assertEqual(self.draft.text(path), "181 ± 2")
        self.draft.propose(path, "")
        self.assertIsNone(self.draft.value(path))

    def test_a_value_for_the_grade_reaches_every_lot_of_it(self):
        lots = self.draft.records.lots
        twin = type(lots["lot_h117"])(id="lot_h118", grade=lots["lot_h117"].grade, polymer="pei_pc_blend")
        self.draft.records = self.draft.records.with_tables(lots={**lots, "lot_h118": twin})
        self.draft.propose("lot.grade_values.glass_transition_c", "183")
        values = [
            self.draft.records.lots[key].grade_values["glass_transition_c"].value for key in ("lot_h117", "lot_h118")
        ]
        self.assertEqual(values, [183.0, 183.0])

    def test_nonsense_is_refused(self):
        for text in ("warm", "180 ± x", "180 ± -2", "-400"):
            with self.subTest(text), self.assertRaises(KaustosError):
                self.draft.propose("lot.lot_values.glass_transition_c", text)
