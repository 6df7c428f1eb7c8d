"""The shipped library: no faults, cross-field rules, and a loader that names every fault."""

import operator
import shutil
import tempfile
import unittest
from pathlib import Path

from kaustos.core.records import FLANGES, POLYMER_VALUES
from kaustos.library import check, load
from kaustos.library.loader import DATA
from tests.asserting import every

POLYMERS = """pla petg abs asa hips tpu pp pa6 pa12 pa_cf pa6_gf pc pc_cf pet_cf pom ppa_cf pps pps_cf pvdf psu ppsu pei
 pei_pc_blend pekk_a peek peek_cf tpc pva bvoh"""


class TestShippedLibrary(unittest.TestCase):
    def test_it_has_no_faults_and_holds_every_polymer(self):
        library, faults = check(DATA)
        self.assertEqual(faults, ())
        self.assertEqual(set(library.polymers), set(POLYMERS.split()))
        self.assertGreaterEqual(len(library.machines), 2)

    def test_cross_field_rules_of_temperatures_hold_for_every_polymer(self):
        for polymer in every(load().polymers.values()):
            value = {key: datum.value for key, datum in polymer.values.items()}
            transition = value["glass_transition_c"]
            with self.subTest(polymer.id):
                for zone in ("nozzle", "plate", "chamber", "dryer"):
                    self.assertLess(value[f"{zone}_low_c"], value[f"{zone}_high_c"])
                self.assertLess(value["nozzle_high_c"], value["decomposition_c"])
                self.assertGreater(value["decomposition_c"] - value["nozzle_low_c"], 15)
                if polymer.structure == "amorphous":
                    self.assertTrue(transition - 30 <= value["deflection_045_as_printed_dry_c"] <= transition)
                else:
                    melting, onset = value["melting_c"], value["crystallisation_c"]
                    self.assertTrue(transition < onset < melting)
                    self.assertTrue(15 <= melting - onset <= 110)
                    self.assertTrue(0.45 <= (transition + 273.15) / (melting + 273.15) <= 0.80)
                    self.assertGreaterEqual(value["nozzle_low_c"], melting + 15)
                    self.assertLess(value["plate_high_c"], melting - 15)
                if polymer.is_glassy:
                    self.assertLessEqual(value["plate_high_c"], transition + 10)
                    self.assertLessEqual(value["chamber_high_c"], transition - 5)
                    if polymer.id != "pet_cf":  # its filament has crystallised when it was drawn
                        self.assertLessEqual(value["dryer_high_c"], transition - 5)
                else:
                    self.assertLess(value["chamber_high_c"], value["crystallisation_c"] - 15)

    def test_deflection_falls_with_load_and_water_and_rises_with_annealing(self):
        pairs = {"_180_": ("_045_", operator.lt), "_annealed_": ("_as_printed_", operator.gt),
                 "_conditioned_": ("_dry_", operator.le)}  # fmt: skip
        values = [{key: datum.value for key, datum in each.values.items()} for each in load().polymers.values()]
        for word, (other, compared) in pairs.items():
            mine = ((value, key) for value in values for key in value if key.startswith("deflection") and word in key)
            beside = ((value, key, key.replace(word, other)) for value, key in mine)
            for value, key, against in every(each for each in beside if each[2] in each[0]):
                with self.subTest(key=key):
                    self.assertTrue(compared(value[key], value[against]), against)

    def test_fibre_makes_denser_stiffer_dearer_and_leaves_the_melting_point(self):
        shelf = load().polymers
        for plain, filled in (
            ("pa6", "pa_cf"),
            ("pa6", "pa6_gf"),
            ("pc", "pc_cf"),
            ("pps", "pps_cf"),
            ("peek", "peek_cf"),
        ):
            one, two = shelf[plain].values, shelf[filled].values
            with self.subTest(filled):
                for key in ("density_g_cm3", "price_per_kg", "abrasion", "deflection_180_as_printed_dry_c"):
                    self.assertGreater(two[key].value, one[key].value)
                if "melting_c" in one:
                    self.assertLessEqual(abs(two["melting_c"].value - one["melting_c"].value), 3)
                    self.assertTrue(0 <= two["crystallisation_c"].value - one["crystallisation_c"].value <= 15)
                polymer_g, fibre_g = 1 / one["density_g_cm3"].value, 1 / (2.57 if filled == "pa6_gf" else 1.78)
                share = (polymer_g - 1 / two["density_g_cm3"].value) / (polymer_g - fibre_g)
                self.assertTrue(0.05 <= share <= 0.40, f"rule of mixtures gives {share:.0%} fibre by mass")

    def test_contested_values_carry_both_and_say_why(self):
        rivals = {
            f"{polymer.id}.{key}": datum
            for polymer in load().polymers.values()
            for key, datum in polymer.values.items()
            if datum.rival is not None
        }
        self.assertLessEqual({"pei_pc_blend.density_g_cm3", "pvdf.melting_c", "pps.decomposition_c"}, set(rivals))
        for place, datum in rivals.items():
            with self.subTest(place):
                self.assertTrue(datum.doubt)
                self.assertNotEqual(datum.rival, datum.value)

    def test_every_polymer_that_can_poison_or_shed_fibres_says_so(self):
        for key, word in {"pvdf": "hydrogen fluoride", "pom": "formaldehyde", "tpu": "isocyanates"}.items():
            self.assertIn(word, " ".join(load().polymers[key].cautions))
        for polymer in load().polymers.values():
            if polymer.id.endswith(("_cf", "_gf")):
                self.assertIn("fibres", " ".join(polymer.cautions), polymer.id)

    def test_every_value_is_read_by_the_code(self):
        for polymer in every(load().polymers.values()):
            self.assertLessEqual(set(polymer.values), set(POLYMER_VALUES))

    def test_no_estimate_claims_a_reference_and_every_reference_is_named(self):
        for polymer in every(load().polymers.values()):
            for key, datum in every(polymer.values.items()):
                with self.subTest(polymer.id, key=key):
                    if datum.kind == "estimate":
                        self.assertLess(datum.low, datum.high)
                    else:
                        self.assertRegex(datum.source, r"[A-Z]\w+.*, ")

    def test_every_spool_body_a_lot_can_have_is_known_and_card_drinks_more_than_metal(self):
        supplies = load().supplies
        self.assertEqual(set(supplies.bodies), set(FLANGES))
        order = ("polystyrene", "styrenic", "polycarbonate", "metal")
        for key, least, most in (("stands", 55.0, 260.0), ("takes", 0.0, 10.0)):
            for body in supplies.bodies.values():
                datum = getattr(body, key)
                self.assertTrue(least <= datum.low <= datum.value <= datum.high <= most, body.id)
        limits = [supplies.stands_c(each) for each in order]
        self.assertEqual(limits, sorted(limits), "each stands more than the one before")
        self.assertEqual((supplies.stands_c(None), supplies.stands_c("wood")), (None, None))
        self.assertEqual(supplies.body_takes("metal"), (0.0, 0.0))
        self.assertEqual(supplies.body_takes("card"), (0.02, 0.08))
        self.assertEqual(supplies.body_takes(None), (0.0, 0.08), "one that is not known may be any")

    def test_silica_takes_a_tenth_to_a_quarter_of_its_mass(self):
        (gel,) = load().supplies.desiccants.values()
        self.assertTrue(10.0 <= gel.takes.low < gel.takes.value < gel.takes.high <= 25.0)


class TestLoader(unittest.TestCase):
    def setUp(self):
        scratch = tempfile.TemporaryDirectory()
        self.addCleanup(scratch.cleanup)
        self.folder = Path(scratch.name) / "data"
        shutil.copytree(DATA, self.folder)

    def edit(self, name, before, after):
        file = self.folder / name
        text = file.read_text()
        self.assertIn(before, text)
        file.write_text(text.replace(before, after, 1))

    def test_a_saturation_that_is_none_is_a_fault_of_the_library(self):
        text = (self.folder / "polymers/pc.toml").read_text()
        self.edit("polymers/pc.toml", "value = 0.35, low = 0.28, high = 0.438", "value = 0.17, low = 0.15, high = 0.2")
        self.assertNotEqual(text, (self.folder / "polymers/pc.toml").read_text())
        self.assertIn("polymers/pc.toml: values: ", check(self.folder)[1][0])

    def test_faults_of_spool_bodies_and_desiccants_name_file_and_field(self):
        self.edit("spool_bodies/card.toml", 'unit = "°C"', 'unit = "K"')
        self.edit("spool_bodies/metal.toml", "high = 250.0", "high = 9000.0")
        self.edit("desiccants/silica_gel.toml", "value = 15.0", "value = 150.0")
        library, faults = check(self.folder)
        words = " ".join(faults)
        for place in ("spool_bodies/card.toml", "must be in °C, got 'K'", "spool_bodies/metal.toml", "9000",
                      "desiccants/silica_gel.toml"):  # fmt: skip
            self.assertIn(place, words)
        self.assertEqual(set(library.supplies.bodies), set(FLANGES) - {"card", "metal"})

    def test_all_faults_are_reported_at_once_with_file_key_and_reason(self):
        self.edit("polymers/pc.toml", "value = 147.0", 'value = "warm"')
        self.edit("polymers/pc.toml", "decomposition_c = ", "shine_c = ")
        self.edit("polymers/petg.toml", "value = 78.0", "value = -300.0")
        self.edit("polymers/pei_pc_blend.toml", '"°C", kind = "estimate"', '"°C", kind = "hearsay"')
        self.edit("polymers/pla.toml", 'outdoor = "poor"', 'outdoor = "splendid"')
        self.edit("polymers/abs.toml", 'weld_class = "amorphous"', 'weld_class = "sticky"')
        self.edit("machines/generic_enclosed.toml", "max_c = 320.0", "max_c = -400.0")
        _, faults = check(self.folder)
        found = "\n".join(faults)
        for words in (
            "polymers/pc.toml: values.glass_transition_c.value: must be a number, got text",
            "polymers/pc.toml: values.shine_c: no such polymer value",
            "polymers/petg.toml: values.glass_transition_c.low, value, high",
            "polymers/pei_pc_blend.toml: values.glass_transition_c.kind: 'hearsay' is none of",
            "machines/generic_enclosed.toml: machine.nozzle.heater.max_c: -400 °C is not possible",
            "polymers/pla.toml: traits.outdoor: 'splendid' is none of good, fair, poor",
            "polymers/abs.toml: weld_class: must be one of amorphous, slow, crystallising",
        ):
            self.assertIn(words, found)
        self.assertEqual(len(faults), 7)

    def test_broken_toml_wrong_units_and_wrong_ids_are_faults(self):
        (self.folder / "polymers" / "bad.toml").write_text("id = [")
        self.edit("polymers/pc.toml", 'unit = "°C"', 'unit = "K"')
        self.edit("polymers/petg.toml", 'id = "petg"', 'id = "pet_g"')
        found = "\n".join(check(self.folder)[1])
        self.assertRegex(found, r"bad.toml: Invalid value")
        self.assertIn("unit: must be '°C', got 'K'", found)
        self.assertIn("id: must be 'petg' like the file", found)


class TestPairsOfNumbers(unittest.TestCase):
    def test_a_window_of_one_number_or_of_three_is_named_with_its_file(self):
        for count, numbers in ((0, "[]"), (1, "[20.0]"), (3, "[20.0, 80.0, 90.0]")):
            with tempfile.TemporaryDirectory() as scratch, self.subTest(count):
                folder = Path(scratch) / "pairs"
                folder.mkdir()
                text = (DATA / "pairs" / "board.toml").read_text(encoding="utf-8")
                (folder / "board.toml").write_text(text.replace("[20.0, 80.0]", numbers, 1), encoding="utf-8")
                faults = [each for each in check(Path(scratch))[1] if "bed_c" in each]
                self.assertEqual(len(faults), 1)
                self.assertIn("board.toml", faults[0])
                self.assertIn(f"must be a list of 2, got {count}", faults[0])
