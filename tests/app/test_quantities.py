"""Right and wrong spellings of quantities, values worked out by hand from the definitions of the units."""

import unittest

import pint
from hypothesis import given
from hypothesis import strategies as st

from kaustos.app.quantities import NotAQuantity, read
from kaustos.core.errors import FieldError, KaustosError
from kaustos.core.records.quantities import QUANTITIES

RIGHT = (
    ("temperature", "302 F", 150.0), ("temperature", "302 °F", 150.0), ("temperature", "302F", 150.0),
    ("temperature", "302 deg F", 150.0), ("temperature", "85 C", 85.0), ("temperature", "85 °C", 85.0),
    ("temperature", "85", 85.0), ("temperature", "85,5", 85.5), ("temperature", " 85.5 c ", 85.5),
    ("temperature", "358.15 K", 85.0), ("temperature", "-40 F", -40.0), ("temperature", "−40", -40.0),
    ("temperature", "1.2e2", 120.0), ("temperature", ".5", 0.5), ("temperature", "+20", 20.0),
    ("temperature", "300 kelvin", 26.85), ("temperature", "365\u00a0°C", 365.0),
    ("temperature_difference", "20 K", 20.0), ("temperature_difference", "36 F", 20.0),
    ("temperature_difference", "20 °C", 20.0), ("temperature_difference", "20", 20.0),
    ("temperature_difference", "-5", -5.0), ("temperature_difference", "9 °F", 5.0),
    ("length", "0,8", 0.8), ("length", "0,8 mm", 0.8), ("length", "1/16 in", 1.5875), ("length", "1 1/2 in", 38.1),
    ("length", '1/2"', 12.7), ("length", "0.8 in", 20.32), ("length", "3 thou", 0.0762), ("length", "250 um", 0.25),
    ("length", "250 µm", 0.25), ("length", "1 ft", 304.8), ("length", "2.5 cm", 25.0), ("length", "0.2 m", 200.0),
    ("mass", "1.5 oz", 42.52428469), ("mass", "0.21 kg", 210.0), ("mass", "210 g", 210.0), ("mass", "210", 210.0),
    ("mass", "1 lb", 453.59237), ("mass", "1/2 oz", 14.17476156), ("mass", "500 mg", 0.5),
    ("duration", "2 h 30", 2.5), ("duration", "2:30", 2.5), ("duration", "150 min", 2.5), ("duration", "2h30m", 2.5),
    ("duration", "2 h 30 min", 2.5), ("duration", "2.5", 2.5), ("duration", "2,5 h", 2.5),
    ("duration", "1 d 4 h", 28.0),
    ("duration", "90 s", 0.025), ("duration", "1:00:36", 1.01), ("duration", "10 min 30", 0.175),
    ("flow", "9.5 mm³/s", 9.5), ("flow", "9.5 mm3/s", 9.5), ("flow", "6 cm3/min", 100.0), ("flow", "6 ml/min", 100.0),
    ("stress", "1.8 MPa", 1.8), ("stress", "450 kPa", 0.45), ("stress", "2 N/mm²", 2.0), ("stress", "1 bar", 0.1),
    ("stress", "1000 psi", 6.894757293), ("power", "0.9 kW", 900.0), ("power", "900 W", 900.0),
    ("energy", "3.6 MJ", 1.0), ("energy", "500 Wh", 0.5), ("money", "€ 12", 12.0), ("money", "12.50 €", 12.5),
    ("money", "12", 12.0), ("price", "22 €/kg", 22.0), ("price", "22/kg", 22.0), ("money_rate", "4 €/h", 4.0),
    ("money_rate", "4 /h", 4.0),
)  # fmt: skip
FROM_NOTHING = ("length", "mass", "duration", "minutes", "seconds", "viscosity", "heat_of_fusion", "force", "section",
                "film", "current", "voltage", "density", "share", "flow", "stress", "power", "energy")  # fmt: skip
WRONG = (
    ("temperature", ""), ("temperature", "hot"), ("temperature", "20 g"), ("temperature", "20 30"),
    ("temperature", "20 mm"), ("temperature", "nan"), ("temperature", "inf"), ("temperature", "1e999"),
    ("temperature", "-300"), ("temperature", "-500 F"), ("temperature", "20 C 30"), ("temperature", "1.234,5"),
    ("temperature", "1/2 C"), ("temperature", "20 %"), ("temperature", "--20"), ("temperature", "85 C hot"),
    ("temperature", "0x20"), ("temperature", "٣"), ("temperature", "1_000"), ("temperature", "9" * 400),
    ("temperature_difference", "20 mm"), ("length", "-1"), ("length", "1/0 in"), ("length", "1 in 2"),
    ("length", "5 C"), ("length", "0,8,1 mm"), ("mass", "-3 g"), ("mass", "3 m"), ("mass", "two"),
    ("duration", "2 h 30 min 5 h"), ("duration", "2:75"), ("duration", "30 min 2 h"), ("duration", "2 30"),
    ("duration", "-1 h"), ("duration", "1 d 4"), ("duration", "90 s 5"), ("duration", "3 K"), ("duration", "h"),
    ("stress", "5 K"), ("stress", "-1 MPa"), ("flow", "5 mm"), ("power", "5 V"), ("energy", "5 W"),
    ("money", "-1"), ("money", "5 kg"), ("price", "5 €/h"),
)  # fmt: skip


class TestSpellings(unittest.TestCase):
    def test_what_can_be_nothing_is_taken_as_nothing_and_what_is_less_than_nothing_is_not(self):
        for quantity in FROM_NOTHING:
            with self.subTest(quantity):
                self.assertEqual(read("0", quantity), 0.0)

    def test_what_may_be_one_or_a_thousand_is_asked_for(self):
        for text in ("1,000 g", "250,125", "-1,500"):
            with self.subTest(text), self.assertRaisesRegex(NotAQuantity, "may be .* or .*; write it so"):
                read(text, "mass")
        self.assertEqual(read("1,000 g", "mass", "comma"), 1.0, "who writes numbers with a comma means one")
        for text, value in (("0,125", 0.125), ("1,25", 1.25), ("1,0005", 1.0005), ("12345,678", 12345.678)):
            self.assertEqual(read(text, "mass"), value)

    def test_right_spellings_give_the_value_in_the_shop_unit(self):
        for quantity, text, value in RIGHT:
            with self.subTest(f"{text} as {quantity}"):
                self.assertAlmostEqual(read(text, quantity), value, places=7)

    def test_wrong_spellings_are_refused_with_a_reason(self):
        for quantity, text in WRONG:
            with self.subTest(f"{text} as {quantity}"), self.assertRaises(KaustosError):
                read(text, quantity)

    def test_the_table_is_long_enough(self):
        self.assertGreaterEqual(len(set(RIGHT)) + len(set(WRONG)), 80)

    def test_the_reason_names_the_text_or_the_value(self):
        with self.assertRaisesRegex(NotAQuantity, "“20 g” is a mass; this field holds a temperature"):
            read("20 g", "temperature")
        with self.assertRaisesRegex(FieldError, "below absolute zero"):
            read("-300", "temperature")

    def test_megabytes_of_text_are_refused_in_a_short_sentence(self):
        with self.assertRaises(NotAQuantity) as caught:
            read("x" * 10_000_000, "temperature")
        self.assertLess(len(str(caught.exception)), 200)

    @given(st.floats(-200.0, 900.0))
    def test_fahrenheit_there_and_back(self, celsius):
        fahrenheit = QUANTITIES["temperature"].spelled("f")
        self.assertAlmostEqual(fahrenheit.from_shop(celsius), celsius * 9 / 5 + 32, places=6)
        self.assertAlmostEqual(fahrenheit.to_shop(celsius * 9 / 5 + 32), celsius, places=5)

    @given(st.text(max_size=30))
    def test_no_text_at_all_raises_anything_but_a_reason(self, text):
        for quantity in ("temperature", "duration", "length", "price"):
            try:
                found = read(text, quantity)
            except KaustosError as refused:
                found = str(refused)
            self.assertTrue(isinstance(found, float) or found, "a number, or why it is none")


LIBRARY = {  # quantity: every spelling that may be typed, the shop unit first -> the unit of the units library
    "temperature": {"c degc celsius": "degC", "f degf fahrenheit": "degF", "k kelvin": "kelvin"},
    "temperature_difference": {"k kelvin c degc": "kelvin", "f degf": "delta_degF"},
    "length": {"mm": "mm", "cm": "cm", "m": "m", "um µm": "um", "in inch \" ''": "inch", "thou mil": "thou",
               "ft '": "foot"},
    "mass": {"g gram grams": "g", "kg": "kg", "mg": "mg", "oz": "oz", "lb lbs": "lb"},
    "duration": {"h hr hrs hour hours": "hour", "d day days": "day", "min mins minute minutes m": "minute",
                 "s sec second": "second"},
    "ramp": {"k/h °c/h c/h": "kelvin/hour", "k/min °c/min c/min": "kelvin/minute", "f/h °f/h": "delta_degF/hour"},
    "flow": {"mm³/s mm3/s mm^3/s": "mm**3/s", "cm³/min cm3/min ml/min": "cm**3/min"},
    "stress": {"mpa n/mm² n/mm2 n/mm^2": "MPa", "kpa": "kPa", "pa": "Pa", "gpa": "GPa", "psi": "psi", "ksi": "ksi",
               "bar": "bar"},
    "pressure": {"mbar hpa": "mbar", "pa": "Pa", "kpa": "kPa", "bar": "bar", "torr": "torr", "mmhg": "mmHg"},
    "power": {"w": "W", "kw": "kW"},
    "fine_length": {"µm um": "um", "mm": "mm", "thou mil": "thou", "in inch": "inch"},
    "height": {"mm": "mm", "um µm": "um", "in inch": "inch", "thou mil": "thou"},
    "mass_kg": {"kg": "kg", "g": "g", "lb lbs": "lb"},
    "angle": {"° deg degrees": "degree"},
    "voltage": {"v volt volts": "V"},
    "current": {"a amp amps": "A", "ma": "mA"},
    "minutes": {"min mins minute minutes m": "minute", "h hr hour hours": "hour", "s sec": "second"},
    "energy": {"kwh": "kW*hour", "wh": "W*hour", "j": "J", "kj": "kJ", "mj": "MJ"},
    "density": {"g/cm³ g/cm3 g/cm^3 kg/l": "g/cm**3", "kg/m³ kg/m3": "kg/m**3"},
    "diffusivity": {"µm²/s um2/s": "um**2/s", "m²/s m2/s": "m**2/s"},
    "bond_energy": {"j/m² j/m2": "J/m**2", "kj/m² kj/m2": "kJ/m**2"},
    "fracture": {"kj/m² kj/m2": "kJ/m**2", "j/m² j/m2": "J/m**2"},
    "expansion": {"µm/m/k um/m/k 1e-6/k ppm/k": "um/m/kelvin"},
    "conductivity": {"w/m/k w/mk": "W/m/kelvin"},
    "heat_capacity": {"kj/kg/k j/g/k": "kJ/kg/kelvin", "j/kg/k": "J/kg/kelvin"},
    "volume": {"ml cm³ cm3": "ml", "l": "l", "floz": "floz"},
    "acceleration": {"mm/s²": "mm/s**2", "mm/s2": "mm/s**2", "m/s²": "m/s**2", "m/s2": "m/s**2"},
    "speed": {"mm/s": "mm/s", "mm/min": "mm/min", "in/s": "inch/s"},
    "seconds": {"s sec second seconds": "second", "min mins minutes": "minute"},
    "viscosity": {"pa·s pas pa*s": "Pa*s"}, "heat_of_fusion": {"kj/kg j/g": "kJ/kg"},
    "force": {"n newton": "N", "kgf": "kgf", "lbf": "lbf"}, "section": {"mm² mm2": "mm**2", "cm² cm2": "cm**2"},
    "film": {"w/m²/k w/m2/k": "W/m**2/kelvin"},
    "area": {"cm² cm2": "cm**2", "mm² mm2": "mm**2"},
}  # fmt: skip
OF_ONE_UNIT = {"share", "molar_energy", "ratio", "money", "money_rate", "energy_price", "price", "price_volume"}


class TestUnits(unittest.TestCase):
    def test_every_unit_that_can_be_typed_converts_as_a_units_library_does(self):
        registry = pint.UnitRegistry()
        self.assertEqual(set(LIBRARY) | OF_ONE_UNIT | {"moisture", "multiplier"}, set(QUANTITIES))
        for quantity, table in LIBRARY.items():
            spelled = {word for words in table for word in words.split()}
            self.assertEqual(spelled, {word for unit in QUANTITIES[quantity].units for word in unit.spellings})
            shop = next(iter(table.values()))
            for words, unit in table.items():
                for word in words.split():
                    found = QUANTITIES[quantity].spelled(word)
                    for value in (0.0, 1.0, -40.0, 302.0):
                        expected = registry.Quantity(value, unit).to(shop).magnitude
                        with self.subTest(quantity, word=word, value=value):
                            self.assertAlmostEqual(found.to_shop(value), expected, delta=1e-9 * max(1, abs(expected)))
                            self.assertAlmostEqual(found.from_shop(expected), value, places=6)

    def test_a_quantity_of_one_unit_takes_numbers_as_they_are_and_ppm_are_ten_thousandths_of_a_per_cent(self):
        for quantity in OF_ONE_UNIT:
            (unit,) = QUANTITIES[quantity].units
            self.assertEqual((unit.factor, unit.offset), (1.0, 0.0))
        self.assertAlmostEqual(read("200 ppm", "moisture"), 0.02)
        self.assertEqual(read("0.02", "moisture"), read("0.02 %", "moisture"))

    def test_no_spelling_means_two_units_and_bare_numbers_are_of_the_shop_unit(self):
        for quantity in QUANTITIES.values():
            spellings = [word for unit in quantity.units for word in unit.spellings]
            with self.subTest(quantity.name):
                self.assertEqual(len(spellings), len(set(spellings)))
                self.assertEqual(read("7", quantity.name), 7.0)

    def test_every_example_can_be_typed_and_stands_in_the_refusal(self):
        for quantity in QUANTITIES.values():
            for example in quantity.example.replace(" or ", ", ").split(", "):
                with self.subTest(quantity.name, example=example):
                    self.assertGreater(read(example, quantity.name), 0.0)
            with self.assertRaises(NotAQuantity) as caught:
                read("lots", quantity.name)
            self.assertIn(quantity.example, str(caught.exception))
