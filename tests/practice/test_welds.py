"""Strength across layers over that along, of the matrix: every row asked of the whole product."""

import unittest

import numpy as np

from kaustos.core.review.contract import GRADES
from kaustos.core.review.heat.case import heat_case
from tests.asserting import every
from tests.practice.situation import asked, middle, situation, window
from tests.support import load_polymers

LARGE = (200.0, 150.0, 50.0)


def share(polymer, **how):
    """Likely share across over along."""
    recipe, context, _ = asked(situation(polymer, **how))
    return float(np.median(heat_case(recipe, context).share))


class TestRows(unittest.TestCase):
    ROWS = (  # polymers, air beside the part, least, most
        (("pla", "petg"), (18.0, 25.0, 32.0), 0.6, 0.9),
        (("abs", "asa"), (45.0, 52.0, 60.0), 0.4, 0.75), (("abs", "asa"), (20.0, 25.0), 0.2, 0.5),
        (("pc",), (60.0, 65.0, 70.0), 0.35, 0.7), (("pc",), (95.0, 110.0), 0.6, 0.9), (("pc",), (20.0, 25.0), 0.1, 0.4),
        (("pei",), (60.0,), 0.0, 0.25), (("pei",), (120.0,), 0.3, 0.6), (("pei",), (160.0,), 0.6, 0.9),
        (("peek",), (60.0,), 0.1, 0.3), (("peek",), (120.0,), 0.25, 0.55), (("peek",), (160.0, 175.0), 0.5, 0.85),
        (("pps", "pps_cf"), (60.0, 80.0, 100.0), 0.2, 0.55),
        (("ppa_cf", "pet_cf"), (60.0, 100.0), 0.25, 0.65),
        (("pa6", "pa12", "pa_cf", "pa6_gf"), (25.0, 45.0, 60.0), 0.5, 0.85),
        (("pp", "tpu"), (20.0, 30.0), 0.6, 0.9),
    )  # fmt: skip

    def test_every_row_lies_where_the_trade_says_or_within_a_fifth_of_it(self):
        off, asked_of = [], 0
        for polymers, airs, least, most in self.ROWS:
            for polymer in polymers:
                for air in airs:
                    found, asked_of = share(polymer, air=air), asked_of + 1
                    if not least / 1.2 <= found <= most * 1.2:
                        off.append(f"{polymer} in {air:g} °C: {found:.2f}, the trade {least:g} to {most:g}")
        self.assertGreater(asked_of, 35)
        self.assertEqual(off, [])

    def test_a_large_part_in_the_right_air_welds_at_least_half_as_well_as_practice_says_of_small_ones(self):
        for polymer, air, least in (("pei", 160.0, 0.3), ("psu", 150.0, 0.3), ("ppsu", 160.0, 0.3), ("asa", 70.0, 0.2),
                                    ("pc", 100.0, 0.3), ("peek", 170.0, 0.25)):  # fmt: skip
            with self.subTest(polymer):
                self.assertGreater(share(polymer, air=air, size=LARGE), least)


class TestOrders(unittest.TestCase):
    def falls(self, polymer, name, values, **how):
        found = [share(polymer, **{name: each}, **how) for each in values]
        with self.subTest(polymer, name=name):
            self.assertTrue((np.diff(found) <= 0.02).all(), f"{polymer} {name} {values}: {np.round(found, 3)}")
        return found

    def test_colder_air_never_welds_better_at_any_point_between(self):
        for polymer in ("abs", "asa", "pc", "pei", "pei_pc_blend", "psu", "ppsu", "pps", "peek", "pa6", "pa12", "hips"):
            high = window(load_polymers()[polymer], "chamber")[1]
            self.falls(polymer, "air", tuple(np.linspace(high, 20.0, 6)), plate=max(middle(polymer, "plate"), high))

    def test_wider_beads_and_no_fan_and_a_hotter_nozzle_weld_better(self):
        for polymer in ("abs", "pc", "pei", "petg"):
            self.falls(polymer, "bead", (0.8, 0.7, 0.6, 0.5, 0.45), bore=0.6)
            self.falls(polymer, "fan", (0.0, 25.0, 50.0, 75.0, 100.0))
            low, high = window(load_polymers()[polymer], "nozzle")
            self.falls(polymer, "nozzle", tuple(np.linspace(high, low, 5)))

    def test_a_full_fan_takes_nearly_half_or_more_of_abs_and_pc(self):
        for polymer in ("abs", "pc"):
            still, blown = (share(polymer, air=60.0, fan=fan) for fan in (0.0, 100.0))
            self.assertLess(blown, 0.6 * still)

    def test_petg_at_235_is_enough_and_hotter_gains_nearly_nothing(self):
        found = [share("petg", air=25.0, nozzle=each) for each in (235.0, 250.0, 275.0)]
        self.assertGreater(found[0], 0.6)
        self.assertLess(found[2] - found[0], 0.1)

    def test_wet_filament_welds_worse_and_drying_brings_most_back(self):
        for polymer in ("pa6", "pc", "petg"):
            wet, dry = (share(polymer, dry=each) for each in (False, True))
            with self.subTest(polymer):
                self.assertLess(wet, 0.9 * dry)

    def test_a_chamber_60_below_its_window_leaves_something_to_look_at_whatever_the_nozzle(self):
        for polymer in ("pei", "psu", "ppsu", "pei_pc_blend"):
            low = window(load_polymers()[polymer], "chamber")[0]
            for nozzle in every(window(load_polymers()[polymer], "nozzle"), 2):
                _, _, found = asked(situation(polymer, air=low - 60.0, nozzle=nozzle))
                with self.subTest(polymer, nozzle=nozzle):
                    self.assertIn(found.grade.value, ("decorative", "no_go"), GRADES)
