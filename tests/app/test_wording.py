"""Words for numbers, fields, figures and findings."""

import math
import unittest

import attrs

from kaustos.app.field_kinds import quantity_of
from kaustos.app.settings import SETTINGS, Settings
from kaustos.app.wording import GRADE_WORDS, PEOPLE, Wording, hours_words, odds_words
from kaustos.core.errors import FieldError
from kaustos.core.records import POLYMER_VALUES, Machine, Recipe, declared
from kaustos.core.review import PENDING, UNKNOWN, Estimate, Figure
from tests.asserting import every
from tests.core.review.test_registry import fields
from tests.support import changed, judged, opened

POINT, COMMA = Wording(), Wording(Settings(temperature="°F", decimal="comma", currency="$"))


class TestNumbers(unittest.TestCase):
    def test_values_in_both_sets_of_units(self):
        for value, quantity, first, second in (
            (165.0, "temperature", "165 °C", "329 °F"),
            (-40.0, "temperature", "−40 °C", "−40 °F"),
            (0.04, "temperature", "0 °C", "32,1 °F"),
            (45.0, "temperature_difference", "45 K", "81 °F"),
            (-0.01, "temperature_difference", "0 K", "0 °F"),
            (0.45, "stress", "0.45 MPa", "0,45 MPa"),
            (2.5, "duration", "2.5 h", "2,5 h"),
            (133.4, "money", "133 €", "133 $"),
            (4.0, "money_rate", "4.00 €/h", "4,00 $/h"),
            (210.0, "mass", "210 g", "210 g"),
            (12.6, "energy", "12.6 kWh", "12,6 kWh"),
            (100.0, "temperature", "100 °C", "212 °F"),
            (1000.0, "mass", "1000 g", "1000 g"),
        ):
            with self.subTest(quantity, value=value):
                self.assertEqual((POINT.value(value, quantity), COMMA.value(value, quantity)), (first, second))

    def test_estimates_show_their_band_unless_they_are_exact(self):
        wide = Figure("a.b", "A", Estimate(45.0, 40.0, 50.0, "K", "m", "s"))
        exact = Figure("a.b", "A", Estimate(45.0, 45.0, 45.0, "K", "m", "s"))
        self.assertEqual(POINT.figure(wide), "45 K (40 to 50)")
        self.assertEqual(POINT.figure(exact), "45 K")
        self.assertEqual(POINT.figure(wide, band=False), "45 K")
        self.assertEqual(POINT.origin(wide), "m. Source: s.")

    def test_a_bare_number_is_meant_in_the_unit_that_the_user_chose(self):
        wording = Wording(Settings(temperature="°F"))
        for text, fahrenheit in (("20.5", 20.5), ("20,5", 20.5), ("20", 20.0), ("7", 7.0), ("20.5 F", 20.5)):
            with self.subTest(text):
                self.assertAlmostEqual(wording.read(text, "temperature"), (fahrenheit - 32.0) * 5.0 / 9.0)
        self.assertAlmostEqual(wording.read("20.5 C", "temperature"), 20.5)
        self.assertAlmostEqual(wording.read("9", "temperature_difference"), 5.0)
        self.assertAlmostEqual(wording.read("9", "length"), 9.0)

    def test_unknown_and_pending_are_said(self):
        self.assertEqual(POINT.figure(Figure("a.b", "A", UNKNOWN)), "not recorded")
        self.assertEqual(POINT.figure(Figure("a.b", "A", PENDING)), "computing")


class TestFields(unittest.TestCase):
    def test_every_field_has_a_name_without_raw_identifiers(self):
        for path in every(fields()):
            with self.subTest(path):
                self.assertNotRegex(POINT.field(path), r"_|\.\D|mpa")
                self.assertTrue(POINT.field(path))

    def test_names_people_use(self):
        for path, words in (
            ("melt.nozzle_c", "nozzle"),
            ("first_layer.bed_c", "plate, first layer"),
            ("machine.nozzle.sensor", "nozzle: sensor"),
            ("machine.plate.backing.max_c", "plate: adhesive backing, limit"),
            ("machine.rate_per_h", "machine hour"),
            ("polymer.glass_transition_c", "polymer: glass transition"),
            ("lot.lot_values.glass_transition_c", "lot: glass transition"),
            ("rules.headroom_k", "headroom a controller needs"),
            ("machine", "machine"),
        ):
            self.assertEqual(POINT.field(path), words)

    def test_every_number_among_them_has_a_quantity(self):
        for path in fields():
            found = declared(path)
            if found is not None and found.type in (float | None, float):
                with self.subTest(path):
                    self.assertIsNotNone(quantity_of(path))
        for key, kind in POLYMER_VALUES.items():
            self.assertEqual(quantity_of(f"lot.lot_values.{key}"), kind.quantity)

    def test_values_of_fields_are_said_in_words(self):
        for path, value, words in (
            ("brief.purpose", "safety", "Safety part"),
            ("brief.history", None, "not recorded"),
            ("melt.nozzle_c", 365.0, "365 °C"),
            ("machine.plate.magnet.fitted", False, "no"),
            ("machine.plate.magnet.basis", "claimed", "Claimed"),
            ("name", "Lid", "Lid"),
        ):
            self.assertEqual(POINT.field_value(path, value), words)


class TestFindings(unittest.TestCase):
    def test_an_unknown_cost_is_said_as_a_person_says_it(self):
        for card in ("probe_head_shell", "cable_guide", "winch_bracket", "turbine_vane"):
            _, _, found = judged(changed(opened(card), {"brief.mass_g": None}))
            for finding in every(each for each in found.findings() if each.cost is None):
                with self.subTest(finding.code):
                    words = POINT.cost(finding)
                    if finding.basis == "people":
                        self.assertEqual(words, PEOPLE)
                    else:
                        self.assertRegex(
                            words, r"^Ignored, [^{}]+; what that costs is not known\.( It comes of [^{}]+)?$"
                        )
                    self.assertNotIn("€", words)

    def test_what_holds_the_grade_is_said_with_what_it_comes_of(self):
        _, _, wet = judged(opened("winch_bracket"))
        self.assertEqual(POINT.held_by(wet), "spool: wet, hence weld: too weak")
        _, _, cage = judged(opened("sensor_cage"))
        self.assertEqual(POINT.held_by(cage), "brief: margin in service too thin; weld: too weak")

    def test_a_cost_is_what_is_lost_on_average_and_says_how_often(self):
        for card in ("winch_bracket", "cable_clamp", "probe_head_shell"):
            said = ((each, POINT.cost(each)) for each in judged(opened(card))[2].findings())
            for finding, words in every(each for each in said if "such runs" in each[1]):
                with self.subTest(finding.code):
                    self.assertIn(odds_words(finding.chance), words)
                    self.assertIn(POINT.value(finding.cost.value, "money"), words)

    def test_odds_are_counted_as_people_do(self):
        told = {0.97: "nearly all", 0.8: "about 8 in 10", 0.5: "about 5 in 10", 0.25: "about 1 in 4",
                0.04: "about 1 in 25", 0.002: "fewer than 1 in 100"}  # fmt: skip
        self.assertEqual([odds_words(each) for each in told], [f"{each} such runs" for each in told.values()])

    def test_only_what_never_ends_is_never_and_what_is_not_looked_at_is_ten_days_or_more(self):
        long = Estimate(240.0, 240.0, 240.0, "h", "", "")
        for key, words in (("stock.drying.time", "10 d or more"), ("stock.exposure.lasts", "10 d or more"),
                           ("stock.waiting.lasts", "10 d or more"), ("stock.desiccant.lasts", "10 d")):  # fmt: skip
            with self.subTest(key):
                self.assertEqual(Wording().figure(Figure(key, "", long)), words)
        some = Estimate(100.0, 20.0, 240.0, "h", "", "")
        self.assertEqual(Wording().figure(Figure("stock.drying.time", "", some)), "4.2 d (20 h to 10 d or more)")
        self.assertEqual((hours_words(2520.0), hours_words(math.inf)), ("105 d", "never"))

    def test_a_duration_is_said_as_a_person_says_it(self):
        for hours, words in (
            (0.0, "0 min"), (0.75, "45 min"), (59.4 / 60, "59 min"), (1.0, "1 h"), (1.5, "1 h 30"), (6.05, "6 h 03"),
            (23.9, "23 h 54"), (47.9, "48 h"), (72.0, "72 h"), (100.0, "4.2 d"), (120.0, "5 d"), (240.0, "10 d"),
            (3000.0, "125 d"), (100000.0, "11.4 years"), (math.inf, "never"),
        ):  # fmt: skip
            with self.subTest(hours=hours):
                self.assertEqual(hours_words(hours), words)

    def test_a_bare_number_has_no_unit(self):
        self.assertEqual((Wording().value(5.0, "ratio"), Wording().unit("ratio")), ("5", ""))
        self.assertEqual(Wording().estimate(Estimate(1.5, 1.0, 2.0, "1", "", "")), "1.5 (1 to 2)")

    def test_the_grade_is_never_said_better_than_what_is_known(self):
        _, _, whole = judged(opened("probe_head_shell", "crag"))
        _, _, partly = judged(changed(opened("probe_head_shell", "crag"), {"brief.service_c": None}))
        self.assertEqual(POINT.grade(whole.grade), "functional")
        self.assertEqual(POINT.grade(partly.grade), "not better than functional")
        self.assertEqual(set(GRADE_WORDS), {"no_go", "decorative", "reduced", "functional"})

    def test_an_advice_names_bottleneck_and_the_next_behind_it(self):
        finding = next(f for f in judged(opened("probe_head_shell"))[2].findings() if f.code.endswith("below_window"))
        words = POINT.remedy(finding.remedies[0]) + ". " + POINT.remedy_text(finding.remedies[0])
        self.assertEqual(
            words,
            "Have the plastic machine parts uprated. It holds Tarn at 90 °C. Behind it comes the firmware limit at "
            "105 °C. Changes to heaters, wiring or firmware are work for the maker or a licensed trade.",
        )


class TestSettings(unittest.TestCase):
    def test_every_setting_is_a_field_with_its_default_and_choices_are_kept(self):
        self.assertEqual([each.name for each in SETTINGS], [each.name for each in attrs.fields(Settings)])
        for setting in SETTINGS:
            self.assertEqual(getattr(Settings(), setting.name), setting.default)
            if setting.choices:
                with self.assertRaises(FieldError):
                    Settings(**{setting.name: "odd"})

    def test_declarations_are_those_of_recipe_and_machine(self):
        self.assertIs(declared("machine.power_w"), attrs.fields_dict(Machine)["power_w"])
        self.assertIs(declared("name"), attrs.fields_dict(Recipe)["name"])
        self.assertIsNone(declared("machine.nozzle.colour"))
