"""What a label says, typed as it stands there; and what a lot may be used for."""

import unittest

import attrs

from kaustos.app.label import label_lines, not_on_label, read_label
from kaustos.app.lot_state import state_of
from kaustos.app.planned import planned_on
from kaustos.app.settings import Settings
from kaustos.app.stock import new_lot
from kaustos.core.errors import KaustosError
from kaustos.core.records import Datum
from tests.app.test_workspace import WorkspaceTest


class TestLabel(WorkspaceTest):
    def setUp(self):
        super().setUp()
        self.workspace = self.demo()
        self.draft = self.workspace.draft

    def lot(self, key="lot_n061"):
        """A lot as it stands."""
        return self.draft.records.lots[key]

    def line(self, name, key="lot_n061"):
        """One line of a label."""
        return next(
            each for each in label_lines(self.draft.records, self.lot(key), self.draft.wording) if each.key == name
        )

    def test_ranges_are_read_as_labels_write_them(self):
        for text, low, high in (
            ("280-300", 280.0, 300.0), ("280 – 300 °C", 280.0, 300.0), ("280 to 300", 280.0, 300.0),
            ("280°-300°C", 280.0, 300.0), ("280 ... 300 C", 280.0, 300.0), ("290", 290.0, 290.0),
            ("536 - 572 F", 280.0, 300.0), ("536 F - 300 C", 280.0, 300.0), ("280,5-300,5", 280.5, 300.5),
        ):  # fmt: skip
            with self.subTest(text):
                read_label(self.workspace, "lot_n061", "nozzle", text)
                values = self.lot().grade_values
                self.assertAlmostEqual(values["nozzle_low_c"].value, low, places=6)
                self.assertAlmostEqual(values["nozzle_high_c"].value, high, places=6)
                self.assertEqual(values["nozzle_low_c"].kind, "label")
                self.assertIn("label of PA6-CF, 20 %, read 2026-03-02", values["nozzle_low_c"].source)

    def test_heats_and_hours_in_one_line_are_both_kept_and_judged(self):
        for text, heats, hours in (
            ("80 °C, 4 to 6 h", (80.0, 80.0), (4.0, 6.0)), ("70-80 °C / 8 h", (70.0, 80.0), (8.0, 8.0)),
            ("90 to 100 °C for 12 hours", (90.0, 100.0), (12.0, 12.0)), ("75 °C (5-7 hrs)", (75.0, 75.0), (5.0, 7.0)),
        ):  # fmt: skip
            with self.subTest(text):
                read_label(self.workspace, "lot_n061", "dryer", text)
                values = self.lot().grade_values
                self.assertEqual(tuple(values[f"dryer_{end}_c"].value for end in ("low", "high")), heats)
                self.assertEqual(tuple(values[f"label_dries_{end}_h"].value for end in ("low", "high")), hours)
        with self.assertRaises(KaustosError):
            read_label(self.workspace, "lot_n061", "dryer", "warm for 3 h")
        self.assertEqual(self.lot().grade_values["label_dries_high_h"].value, 7.0, "refused whole")
        self.draft.open_card("winch_bracket")
        _, found = self.workspace.judged()
        figure = next(each for each in found.operations[1].figures if each.key == "stock.drying.label")
        self.assertRegex(figure.value, r"5 to 7 h at 75 °C: (surely|likely) dry|wet by the model until|never dry")

    def test_a_bare_number_is_in_the_unit_that_is_shown(self):
        self.workspace.use_settings(Settings(temperature="°F"))
        read_label(self.workspace, "lot_n061", "plate", "194-212")
        self.assertAlmostEqual(self.lot().grade_values["plate_high_c"].value, 100.0, places=6)
        self.assertEqual((self.line("plate").text, self.line("plate").unit), ("194 to 212", "°F"))

    def test_what_is_no_range_is_refused_and_changes_nothing(self):
        before = self.lot()
        for text, words in (("300-280", "falls"), ("–", "no number"), ("warm", "not a temp"),
                            ("280-300-320", "more than one range"),
                            ("280-300 h", "duration"), ("-400 to 300", "absolute zero"),
                            ("280 300", "more than")):  # fmt: skip
            with self.subTest(text), self.assertRaisesRegex(KaustosError, words):
                read_label(self.workspace, "lot_n061", "nozzle", text)
        self.assertIs(self.lot(), before)

    def test_the_label_rules_over_the_library_for_every_lot_of_the_grade_and_is_taken_back(self):
        self.draft.open_card("wellhead_cover")
        read_label(self.workspace, "lot_a204", "nozzle", "260-270")
        codes = {each.code for each in self.workspace.review().findings()}
        self.assertIn("machine.nozzle.below_window", codes, "the cover is printed at 252 °C from the grey lot")
        self.assertEqual(self.line("nozzle", "lot_a190").in_force, "in force: 260 to 270 °C, label")
        key = new_lot(self.workspace, "A-300", "ASA, weather grade", "blue")
        self.assertEqual(self.line("nozzle", key).text, "260 to 270")
        read_label(self.workspace, "lot_a190", "nozzle", "")
        self.assertEqual(self.line("nozzle", "lot_a204").text, "")
        self.assertIn("estimate", self.line("nozzle", "lot_a204").in_force)

    def test_what_the_label_leaves_open_is_listed(self):
        self.assertEqual(not_on_label(self.lot("lot_g310")), ("chamber",))
        self.assertEqual(not_on_label(self.lot()), ("nozzle", "plate", "chamber", "dryer"))

    def test_an_own_value_is_not_written_over(self):
        own = Datum(value=281.0, low=280.0, high=282.0, unit="°C", kind="own", source="own tower, 2026-02")
        self.draft.set({"lots/lot_n061/grade_values.nozzle_low_c": own})
        with self.assertRaisesRegex(KaustosError, "own tower"):
            read_label(self.workspace, "lot_n061", "nozzle", "270-290")
        label = attrs.evolve(own, kind="label", source="label", value=270.0, low=270.0, high=270.0)
        values = {"nozzle_low_c": label, "nozzle_high_c": own}
        self.draft.set({f"lots/lot_n061/grade_values.{key}": each for key, each in values.items()})
        with self.assertRaisesRegex(KaustosError, "own tower"):
            read_label(self.workspace, "lot_n061", "nozzle", "")

    def test_the_price_on_the_label_is_what_the_rest_is_worth(self):
        read_label(self.workspace, "lot_n061", "price", "100 €/kg")
        state = state_of(self.workspace, self.lot())
        self.assertAlmostEqual(state.worth, 36.0, msg="360 g are left")


class TestPlanned(WorkspaceTest):
    def test_every_recipe_on_a_lot_is_judged_with_its_own_plan(self):
        workspace = self.demo()
        found = {each.card: each for each in planned_on(workspace, "lot_h117")}
        self.assertEqual(set(found), {"probe_head_shell", "centraliser_blade"})
        self.assertEqual(found["probe_head_shell"].standing, "clear")
        workspace.draft.open_card("winch_bracket")
        self.assertIn("prints well up to 0.2 % water", planned_on(workspace, "lot_n061")[0].why)
        dried = {"context.dryer": "kiln", "stock.dryer_c": 95.0, "stock.dryer_h": 72.0}
        workspace.draft.set(dried)
        self.assertIn("the spool body (Card) stands", planned_on(workspace, "lot_n061")[0].why)
        workspace.draft.set({"brief.mass_g": 350.0, "lot.flange": "metal"})
        changed = planned_on(workspace, "lot_n061")[0]
        self.assertEqual(changed.standing, "stop")
        self.assertIn("360 g of the spool are free", changed.why)
        self.assertEqual(planned_on(workspace, "lot_a204"), ())


if __name__ == "__main__":
    unittest.main()
