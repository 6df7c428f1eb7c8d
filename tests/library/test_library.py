"""The shipped library: no faults, cross-field rules, and a loader that names every fault."""

import shutil
import tempfile
import unittest
from pathlib import Path

from kaustos.core.records import POLYMER_VALUES
from kaustos.library import check, load
from kaustos.library.loader import DATA


class TestShippedLibrary(unittest.TestCase):
    def test_it_has_no_faults_and_holds_what_the_first_issue_asks(self):
        library, faults = check(DATA)
        self.assertEqual(faults, ())
        self.assertLessEqual({"pei_pc_blend", "pc", "petg"}, set(library.polymers))
        self.assertGreaterEqual(len(library.machines), 2)

    def test_cross_field_rules_hold_for_every_amorphous_polymer(self):
        for polymer in load().polymers.values():
            value = {key: datum.value for key, datum in polymer.values.items()}
            transition = value["glass_transition_c"]
            with self.subTest(polymer.id):
                self.assertEqual(polymer.structure, "amorphous")
                self.assertTrue(transition - 30 <= value["deflection_045_as_printed_dry_c"] <= transition)
                self.assertLessEqual(value["plate_high_c"], transition + 10)
                self.assertLessEqual(value["chamber_high_c"], transition - 5)
                self.assertLess(value["nozzle_high_c"], polymer.values["decomposition_c"].low)
                for zone in ("nozzle", "plate", "chamber"):
                    self.assertLess(value[f"{zone}_low_c"], value[f"{zone}_high_c"])
                for key in value:
                    if key.startswith("deflection_180"):
                        self.assertLess(value[key], value.get(key.replace("_180_", "_045_"), 1e9))
                    if "_annealed_" in key:
                        self.assertGreater(value[key], value[key.replace("_annealed_", "_as_printed_")])

    def test_every_value_is_read_by_the_code(self):
        for polymer in load().polymers.values():
            self.assertLessEqual(set(polymer.values), set(POLYMER_VALUES))

    def test_no_estimate_claims_a_reference_and_every_reference_is_named(self):
        for polymer in load().polymers.values():
            for key, datum in polymer.values.items():
                with self.subTest(polymer.id, key=key):
                    if datum.kind == "estimate":
                        self.assertLess(datum.low, datum.high)
                    else:
                        self.assertRegex(datum.source, r"[A-Z]\w+.*, ")


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

    def test_all_faults_are_reported_at_once_with_file_key_and_reason(self):
        self.edit("polymers/pc.toml", "value = 147.0", 'value = "warm"')
        self.edit("polymers/pc.toml", "[values.decomposition_c]", "[values.shine_c]")
        self.edit("polymers/petg.toml", "value = 78.0", "value = -300.0")
        self.edit("polymers/pei_pc_blend.toml", 'kind = "estimate"', 'kind = "hearsay"')
        self.edit("machines/generic_enclosed.toml", "max_c = 320.0", "max_c = -400.0")
        _, faults = check(self.folder)
        found = "\n".join(faults)
        for words in (
            "polymers/pc.toml: values.glass_transition_c.value: must be a number, got text",
            "polymers/pc.toml: values.shine_c: no such polymer value",
            "polymers/petg.toml: values.glass_transition_c.low, value, high",
            "polymers/pei_pc_blend.toml: values.glass_transition_c.kind: 'hearsay' is none of",
            "machines/generic_enclosed.toml: machine.nozzle.heater.max_c: -400 °C is not possible",
        ):
            self.assertIn(words, found)
        self.assertEqual(len(faults), 5)

    def test_broken_toml_wrong_units_and_wrong_ids_are_faults(self):
        (self.folder / "polymers" / "bad.toml").write_text("id = [")
        self.edit("polymers/pc.toml", 'unit = "°C"', 'unit = "K"')
        self.edit("polymers/petg.toml", 'id = "petg"', 'id = "pet_g"')
        found = "\n".join(check(self.folder)[1])
        self.assertRegex(found, r"bad.toml: Invalid value")
        self.assertIn("unit: must be '°C', got 'K'", found)
        self.assertIn("id: must be 'petg' like the file", found)
