"""The bond to the plate: worse input never gives a better verdict, and usual remedies do what practice knows."""

import itertools
import unittest

import attrs
import numpy as np

from kaustos.core.estimates import BOND
from kaustos.core.planning.bond import Making, contact_share, loads_of, solid_of
from kaustos.core.planning.pairing import statement_of, word_band
from kaustos.core.planning.standing import Anchor, box_shape, standing_of
from kaustos.core.records import Bonds
from kaustos.library import load
from tests.asserting import every
from tests.bond_practice import SHAPES, bonded, pairs, setting

LIBRARY = load()
BONDS = LIBRARY.supplies.bonds
WARPS = (("abs", "pei_film"), ("pc", "laminate"), ("pa6", "laminate"), ("peek", "glass"))
BAR = box_shape(150.0, 40.0, 20.0)


def load_of(*pair, **other):
    return float(np.median(bonded(*pair, **other).load))


class TestWorseIsNeverBetter(unittest.TestCase):
    def test_taller_parts_never_pull_less(self):
        for pair in WARPS:
            loads = [load_of(*pair, body=box_shape(80.0, 40.0, z)) for z in (2.0, 5.0, 10.0, 20.0, 40.0, 80.0)]
            with self.subTest(pair):
                for lower, taller in itertools.pairwise(loads):
                    self.assertGreaterEqual(taller, 0.999 * lower)

    def test_longer_parts_never_pull_less(self):
        for pair in WARPS:
            loads = [load_of(*pair, body=box_shape(x, 30.0, 20.0)) for x in (30.0, 60.0, 120.0, 240.0)]
            with self.subTest(pair):
                for shorter, longer in itertools.pairwise(loads):
                    self.assertGreaterEqual(longer, 0.999 * shorter)

    def test_air_that_is_colder_never_lifts_a_glassy_part_less(self):
        for polymer in ("abs", "asa", "pc", "pei", "psu"):
            lifts = [bonded(polymer, "glass", body=BAR, air_c=air).lifts for air in (90.0, 70.0, 50.0, 30.0)]
            with self.subTest(polymer):
                self.assertEqual(lifts, sorted(lifts))

    def test_a_fan_never_lifts_a_part_less_and_somewhere_more(self):
        more = 0
        for pair in WARPS:
            lifts = [bonded(*pair, body=BAR, fan=fan).lifts for fan in (0.0, 0.3, 0.6, 1.0)]
            with self.subTest(pair):
                for still, blown in itertools.pairwise(lifts):
                    self.assertGreaterEqual(blown, still - 0.005)
            more += lifts[-1] > lifts[0] + 0.02
        self.assertGreater(more, 0)

    def test_dirt_wear_and_a_gap_too_wide_never_hold_more(self):
        for pair in WARPS:
            for name, better_first in (
                ("cleaned", [{"cleaned": each} for each in ("washed", "wiped", "dusty", "touched")]),
                ("worn", [{"worn": each} for each in (0.0, 0.3, 0.8, 1.5)]),
                ("aspect", [{"aspect": each} for each in (3.0, 2.2, 1.6, 1.1)]),
            ):
                lifts = [bonded(*pair, body=BAR, **each).lifts for each in better_first]
                with self.subTest(pair, by=name):
                    self.assertEqual(lifts, sorted(lifts))

    def test_hotter_nozzles_and_plates_never_harm_a_surface_less(self):
        for pair in (("petg", "pei_film"), ("pc", "pei_coat"), ("pp", "pp_sheet"), ("abs", "pei_film")):
            at = setting(*pair)
            for name, values in (
                ("nozzle", [{"melt_c": at.nozzle_c + step} for step in (-20.0, 0.0, 20.0, 40.0)]),
                ("plate", [{"first_plate_c": at.plate_c + step} for step in (-20.0, 0.0, 10.0, 20.0)]),
                ("gap", [{"aspect": each} for each in (1.2, 2.0, 3.0, 4.0)]),
            ):
                harms = [bonded(*pair, **each).harms for each in values]
                with self.subTest(pair, by=name):
                    self.assertEqual(harms, sorted(harms))

    def test_what_is_not_known_is_never_better_than_the_best_of_what_it_could_be(self):
        for pair in WARPS:
            best = bonded(*pair, body=BAR, cleaned="washed", filled=0.1, aspect=3.0)
            for unknown in ({"cleaned": None}, {"filled": None}, {"aspect": None}):
                found = bonded(*pair, body=BAR, **({"cleaned": "washed", "filled": 0.1, "aspect": 3.0} | unknown))
                with self.subTest(pair, unknown=[*unknown]):
                    self.assertGreaterEqual(found.lifts, best.lifts)

    def test_more_filled_parts_never_pull_less(self):
        for pair in WARPS:
            loads = [load_of(*pair, body=BAR, filled=each) for each in (0.1, 0.25, 0.5, 1.0)]
            self.assertEqual(loads, sorted(loads))

    def test_a_raft_that_is_high_against_the_part_shows_the_rise_of_its_own_height(self):
        low = box_shape(60.0, 40.0, 3.0)
        thin = load_of("abs", "glass", body=low, anchor=Anchor(kind="raft", width_mm=0.01, raft_mm=0.3), air_c=25.0)
        thick = load_of("abs", "glass", body=low, anchor=Anchor(kind="raft", width_mm=0.01, raft_mm=3.0), air_c=25.0)
        self.assertGreater(thick, thin)

    def test_a_raft_lower_than_the_part_with_a_rim_of_its_disc_does_not_raise_the_load(self):
        for z in (5.0, 20.0, 60.0):
            body = box_shape(60.0, 40.0, z)
            bare = load_of("abs", "glass", body=body, air_c=30.0)
            raft = load_of("abs", "glass", body=body, anchor=Anchor(kind="raft", width_mm=6.0, raft_mm=1.0), air_c=30.0)
            with self.subTest(height=z):
                self.assertLessEqual(raft, bare)


class TestRemedies(unittest.TestCase):
    def test_usual_remedies_move_the_verdict_as_practice_knows(self):
        bare = bonded("abs", "glass", body=BAR, air_c=30.0)
        for name, other in (
            (
                "raft",
                bonded("abs", "glass", body=BAR, air_c=30.0, anchor=Anchor(kind="raft", width_mm=6.0, raft_mm=1.0)),
            ),
            ("warmer air", bonded("abs", "glass", body=BAR, air_c=60.0)),
            ("glue as adhesive", bonded("abs", "glass", "pvp_glue", body=BAR, air_c=30.0)),
            ("less infill", bonded("abs", "glass", body=BAR, air_c=30.0, filled=0.2)),
        ):
            with self.subTest(name):
                self.assertLess(other.lifts, bare.lifts - 0.05)

    def test_the_same_glue_parts_one_pair_and_holds_another(self):
        self.assertLess(bonded("petg", "pei_film", "pvp_glue").harms, 0.3 * bonded("petg", "pei_film").harms)
        bare, glued = bonded("pa6", "glass", body=BAR), bonded("pa6", "glass", "pvp_glue", body=BAR)
        self.assertLess(glued.lifts, 0.5 * bare.lifts)
        self.assertGreater(float(np.median(glued.grip)), 5.0 * float(np.median(bare.grip)))

    def test_a_cooler_first_layer_harms_less(self):
        at = setting("petg", "pei_film")
        cooler = bonded("petg", "pei_film", melt_c=at.nozzle_c - 15.0, first_plate_c=at.plate_c - 10.0)
        self.assertLess(cooler.harms, bonded("petg", "pei_film").harms - 0.2)

    def test_more_grip_cannot_help_where_the_weld_is_the_weakest(self):
        weak = bonded("pei", "pei_film_thick", body=box_shape(150.0, 60.0, 60.0), air_c=40.0)
        self.assertGreater(weak.splits, 0.1)
        self.assertLess(float(np.median(weak.weld)), float(np.median(weak.grip)))

    def test_a_polymer_on_itself_welds_unless_a_film_parts_them(self):
        for polymer, surface in (("pei_pc_blend", "pei_film"), ("pei", "pei_film")):
            at = setting(polymer, surface)
            hot = bonded(polymer, surface, first_plate_c=at.plate_c + 30.0, melt_c=at.nozzle_c + 20.0)
            self.assertGreater(hot.harms, 0.8)

    def test_without_a_modulus_over_temperature_no_load_is_given(self):
        made = attrs.evolve(LIBRARY.polymers["abs"], modulus=None)
        self.assertIsNone(solid_of(made, 0.0))
        self.assertIsNone(loads_of(made, 9.0, _making("abs", "glass"), standing_of(SHAPES["cube"], Anchor())))

    def test_what_changes_no_load_has_it_worked_out_once(self):
        made, standing = _making("abs", "glass"), standing_of(SHAPES["cube"], Anchor())
        polymer = LIBRARY.polymers["abs"]
        first = loads_of(polymer, 9.0, made, standing)
        self.assertIs(loads_of(polymer, 9.0, attrs.evolve(made, aspect=1.2, cleaned="touched"), standing), first)
        self.assertIsNot(loads_of(polymer, 9.0, attrs.evolve(made, air_c=made.air_c + 1.0), standing), first)

    def test_bands_are_bands(self):
        found = bonded("abs", "glass", body=BAR)
        for which in ("load", "grip", "damage", "weld", "cold"):
            band = found.band(which)
            self.assertLess(band.low, band.value)
            self.assertLess(band.value, band.high)
            self.assertLess(band.high / band.low, 200.0, "a band so wide says nothing")


def _making(polymer, surface):
    at = setting(polymer, surface)
    return Making(melt_c=at.nozzle_c, plate_c=at.plate_c, first_plate_c=at.plate_c, air_c=at.air_c, room_c=23.0,
                  off_c=25.0, aspect=2.0, filled=1.0, cleaned="wiped")  # fmt: skip


class TestPractice(unittest.TestCase):
    def test_no_pair_comes_out_otherwise_than_practice_says(self):
        self.assertGreater(len(pairs()), 120)
        self.assertEqual([(each.polymer, each.surface, each.differs) for each in pairs() if each.differs], [])

    def test_what_holds_well_never_lifts_more_than_what_holds_fairly(self):
        ranked = sorted(pairs(), key=lambda each: (each.polymer, word_band(each.said)[1]))
        next_to = ((one, two) for one, two in itertools.pairwise(ranked) if one.polymer == two.polymer)
        for weaker, stronger in every(each for each in next_to if word_band(each[0].said) < word_band(each[1].said)):
            for shape in SHAPES:
                self.assertGreaterEqual(weaker.lifts[shape] + 0.25, stronger.lifts[shape])

    def test_contact_grows_with_pressing_within_what_practice_gives_it(self):
        shares = [float(np.median(contact_share(aspect))) for aspect in (1.0, 1.5, 2.0, 3.0, 5.0)]
        self.assertEqual(shares, sorted(shares))
        self.assertAlmostEqual(shares[2], 1.0, places=6)
        self.assertGreater(shares[0], 0.4)
        self.assertLess(shares[-1], 2.0)


class TestStatements(unittest.TestCase):
    def test_a_pair_that_was_tried_speaks_for_itself(self):
        found = statement_of(BONDS, LIBRARY.polymers["petg"], "pei_film", "")
        self.assertEqual((found.basis, found.holds), ("tried", "weld"))
        self.assertEqual(found.leaves, "tears")

    def test_one_that_nobody_tried_is_drawn_from_neighbours_and_wider(self):
        tried = statement_of(BONDS, LIBRARY.polymers["pa6"], "laminate", "")
        strange = statement_of(BONDS, LIBRARY.polymers["pa6"], "aluminium", "styrenic_slurry")
        self.assertNotEqual(strange.basis, "tried")
        self.assertGreater(strange.band[2] / strange.band[0], 2.0 * tried.band[2] / tried.band[0])
        self.assertIn("nobody tried", strange.from_words)

    def test_of_nothing_it_still_says_how_little_is_known(self):
        nothing = statement_of(Bonds(), LIBRARY.polymers["pa6"], "moon", "")
        self.assertEqual((nothing.basis, nothing.holds), ("stranger", None))
        self.assertGreaterEqual(nothing.band[2] / nothing.band[0], 6.25 * BOND["stranger"].value ** 2)

    def test_two_who_disagree_make_a_band_that_holds_both(self):
        contested = [
            (polymer, key, pair)
            for key, each in BONDS.pairs.items()
            for pair in each.pairs
            if pair.rival is not None
            for polymer in LIBRARY.polymers.values()
            if pair.is_of(polymer.id, polymer.family)
        ]
        self.assertGreater(len(contested), 5)
        for polymer, surface, pair in contested:
            found = statement_of(BONDS, polymer, surface, pair.agent)
            if found.pair is pair:
                for word in (pair.holds, pair.rival):
                    self.assertLessEqual(found.band[0], word_band(word)[1])
                    self.assertGreaterEqual(found.band[2], word_band(word)[1])
