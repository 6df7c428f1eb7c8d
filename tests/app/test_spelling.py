"""Messy spellings of grades: the right polymer is found, asked for where several fit, never merged silently."""

import unittest

from kaustos.app.spelling import polymer_of

FOUND = {
    "PLA": "pla", "pla+": "pla", "PLA tough, black": "pla", "Polylactide": "pla", "PLA 1.75mm 1kg": "pla",
    "PETG": "petg", "PET-G": "petg", "pet g clear": "petg", "PETG natural": "petg", "Co-polyester": "petg",
    "ABS": "abs", "a.b.s.": "abs", "ABS white new": "abs", "ASA": "asa", "asa grey": "asa", "HIPS": "hips",
    "polystyrene": "hips", "TPU": "tpu", "TPU 95": "tpu", "Polyurethane": "tpu", "TPC": "tpc", "PP": "pp",
    "Polypropylene": "pp", "PA6": "pa6", "PA 6": "pa6", "PA-6 natural": "pa6", "Nylon 6": "pa6", "Polyamide 6": "pa6",
    "PA12": "pa12", "pa 12": "pa12", "Nylon-12": "pa12", "PA6-CF": "pa_cf", "PA6 CF20": "pa_cf", "pa6cf": "pa_cf",
    "Nylon carbon fibre": "pa_cf", "PA-CF": "pa_cf", "PA6 carbon fiber 15 %": "pa_cf", "PA6-GF": "pa6_gf",
    "PA6 GF30": "pa6_gf", "Nylon 6 glass fibre": "pa6_gf", "PC": "pc", "Polycarbonate": "pc", "polycarb clear": "pc",
    "PC-CF": "pc_cf", "pc/cf 10": "pc_cf", "PET-CF": "pet_cf", "PET carbon": "pet_cf", "PPS": "pps", "PPS-CF": "pps_cf",
    "pps cf 15%": "pps_cf", "PVDF": "pvdf", "PSU": "psu", "Polysulfone": "psu", "PPSU": "ppsu",
    "PEI/PC blend": "pei_pc_blend",
    "PEKK-A": "pekk_a", "PEEK": "peek", "peek (natural)": "peek", "PEEK CF30": "peek_cf", "Acetal": "pom", "POM": "pom",
    "PVA": "pva", "BVOH": "bvoh", "PPA-CF": "ppa_cf",
}  # fmt: skip
ASKED = {"Nylon": {"pa6", "pa12"}, "PA": {"pa6", "pa12"}, "Polyamide natural": {"pa6", "pa12"}, "TPE": {"tpu", "tpc"},
         "PEI": {"pei", "pei_pc_blend"}, "PET": {"petg", "pet_cf"},
         "Polyetherimide amber": {"pei", "pei_pc_blend"}}  # fmt: skip
UNSURE = {"PC-ABS": "abs", "PETG-CF": "cf", "PLA wood": "wood", "PLA glow": "glow", "PLA steel filled": "steel",
          "ABS/PC": "pc", "PA6 mineral": "mineral", "PEEK ESD": "esd", "TPU foaming": "foaming"}  # fmt: skip
UNKNOWN = ("", "mystery", "PPA", "grey", "1.75", "XP-77", "??")


class TestSpellings(unittest.TestCase):
    def test_sixty_messy_ones_find_the_right_polymer(self):
        self.assertGreaterEqual(len(FOUND), 60)
        for text, key in FOUND.items():
            with self.subTest(text):
                self.assertEqual(polymer_of(text).found, key)

    def test_where_several_fit_it_is_asked(self):
        for text, keys in ASKED.items():
            with self.subTest(text):
                self.assertIsNone(polymer_of(text).found)
                self.assertEqual(set(polymer_of(text).polymers), keys)

    def test_a_word_that_is_not_understood_is_asked_for_and_never_dropped(self):
        for text, word in UNSURE.items():
            with self.subTest(text):
                self.assertIsNone(polymer_of(text).found)
                self.assertIn(word, polymer_of(text).unsure)
                self.assertTrue(polymer_of(text).polymers, "what it may be is said")

    def test_what_is_not_known_is_not_guessed(self):
        for text in UNKNOWN:
            with self.subTest(text):
                self.assertEqual(polymer_of(text).polymers, ())

    def test_what_the_shop_has_settled_counts_first(self):
        self.assertEqual(polymer_of("Nylon, ours", {"nylon ours": "pa12"}).found, "pa12")
