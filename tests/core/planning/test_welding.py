"""Welds over maps: scaling against a direct solve, directions that hold, all polymers beside the trade."""

import unittest

import attrs
import numpy as np

from kaustos.core.estimates import WELD
from kaustos.core.physics.layers import Stack, responses
from kaustos.core.physics.weld import healed, weld_index
from kaustos.core.planning import welding
from kaustos.core.planning.bead import bead_section
from kaustos.core.planning.draws import normal
from kaustos.core.planning.welding import Section, films_over, matter_of, share_map, share_over_periods, welded
from kaustos.library import load
from tests.asserting import every
from tests.weld_practice import differing, rows

POLYMERS = load().polymers
WALL = Section(layer_mm=0.2, period_s=15.0, below=80, edge_mm=2.0 / 1.2)
NOTHING = np.zeros(1024)


def direct(matter, section, melt, air, plate, film):
    """One pixel by a solve of its own."""
    stack = Stack(layer=section.layer_mm * 1e-3, period=section.period_s, below=section.below,
                  conductivity=matter.conductivity, heat=matter.heat, edge=section.edge_mm * 1e3)  # fmt: skip
    unit = responses(stack, float(film))
    face = air + (melt - air) * unit.melt[0] + (plate - air) * unit.plate[0]
    if matter.is_glassy:
        return float(healed(unit.lasts, face, matter.glass_c)) / 1e9**0.25
    skin = air + (melt - air) * float(unit.skin_melt[0]) + (plate - air) * float(unit.skin_plate[0])
    return float(weld_index(matter.melting_c - 0.5 * (melt + skin), matter.half[1]))


class TestScaling(unittest.TestCase):
    def setUp(self):
        rng = np.random.default_rng(3)
        self.pixels = [tuple(map(int, each)) for each in rng.integers(0, 120, (20, 2))]
        self.melt, self.air = np.linspace(330.0, 420.0, 120), np.linspace(21.0, 160.0, 120)

    def test_a_map_says_what_direct_solves_say(self):
        """Film that changes with the air: within 1e-5 of the scale; measured on twenty pixels."""
        for name in ("pei_pc_blend", "peek"):
            matter = matter_of(POLYMERS[name])
            found = share_map(matter, WALL, self.melt, self.air, 160.0, 8.0)
            for y, x in every(self.pixels):
                film = films_over(8.0, self.air[x])
                wanted = direct(matter, WALL, self.melt[y], self.air[x], 160.0, film)
                self.assertAlmostEqual(float(found[y, x]), wanted, delta=2e-4 * max(wanted, 0.05))

    def test_temperatures_of_a_map_are_those_of_direct_solves(self):
        section = welding.unit_of(WALL, 0.2, 1.9e6)
        for air in (25.0, 80.0, 150.0):
            film = films_over(8.0, np.array([air]))
            scaled = section.at(film).melt[0]
            stack = Stack(layer=2e-4, period=15.0, below=80, conductivity=0.2, heat=1.9e6, edge=2.0 / 1.2e-3)
            np.testing.assert_allclose(scaled, responses(stack, film).melt[0], atol=1e-5)

    def test_at_one_film_scaling_is_exact(self):
        stack = Stack(layer=2e-4, period=15.0, below=20, conductivity=0.2, heat=1.9e6, edge=2.0 / 1.2e-3)
        one, other = responses(stack, 14.0), responses(stack, 14.0)
        for melt, air, plate in ((365.0, 60.0, 150.0), (410.0, 20.0, 20.0)):
            scaled = air + (melt - air) * one.melt[0] + (plate - air) * one.plate[0]
            wanted = air * (1.0 - other.melt[0] - other.plate[0]) + melt * other.melt[0] + plate * other.plate[0]
            np.testing.assert_allclose(scaled, wanted, rtol=1e-9)

    def test_a_map_over_time_says_what_direct_solves_say(self):
        matter = matter_of(POLYMERS["pei_pc_blend"])
        periods = np.geomspace(3.0, 90.0, 12)
        found = share_over_periods(matter, WALL, periods, self.melt, 90.0, 160.0, 8.0)
        for place in (0, 4, 8, 11):
            section = attrs.evolve(WALL, period_s=float(periods[place]))
            wanted = direct(matter, section, self.melt[60], 90.0, 160.0, films_over(8.0, 90.0))
            self.assertAlmostEqual(float(found[60, place]), wanted, delta=0.01 * wanted)


class TestDraws(unittest.TestCase):
    def test_the_half_of_the_index_is_drawn_from_its_own_band(self):
        """The index inverted: 95 of 100 draws of its half lie in the band that the matter states."""
        for name in ("peek", "pa6", "pps_cf"):
            matter = matter_of(POLYMERS[name])
            found = welded(matter, WALL, matter.melting_c + 60.0 + NOTHING, 90.0 + NOTHING, 110.0, 8.0)
            logit = np.log(found.index / (1.0 - found.index))
            half = matter.melting_c - found.contact_c + WELD["width"].value * logit
            low, likely, high = matter.half
            reach = np.quantile(half, (0.025, 0.975)) - likely
            with self.subTest(name):
                np.testing.assert_allclose(reach, [-(high - low) / 2.0, (high - low) / 2.0], rtol=0.12)


class TestDirections(unittest.TestCase):
    def share(self, name="pc", melt=290.0, air=90.0, section=WALL, film=8.0):
        found = welded(matter_of(POLYMERS[name]), section, melt + NOTHING, air + NOTHING, 110.0, film)
        return float(np.mean(found.share))

    def test_more_heat_of_nozzle_and_air_never_weakens_a_weld(self):
        for name in ("pc", "abs", "peek", "pa6", "petg"):
            polymer = POLYMERS[name]
            melts = np.linspace(polymer.value("nozzle_low_c").value - 20.0, polymer.value("nozzle_high_c").value, 8)
            by_melt = [self.share(name, melt) for melt in melts]
            by_air = [self.share(name, float(melts[4]), air) for air in np.linspace(20.0, 150.0, 8)]
            for found in (by_melt, by_air):
                self.assertTrue((np.diff(found) >= -1e-9).all(), (name, found))

    def test_a_wider_bead_at_one_time_of_a_layer_never_weakens_it(self):
        found = [self.share(section=attrs.evolve(WALL, edge_mm=2.0 / wide)) for wide in (0.4, 0.6, 0.9, 1.4, 2.5)]
        self.assertTrue((np.diff(found) >= -1e-9).all(), found)

    def test_a_wider_bead_at_one_flow_takes_longer_and_welds_worse(self):
        """One bead wide: its section over the flow is the time of a layer; wide and slow cools further."""
        found = []
        for wide in (0.4, 0.6, 0.9, 1.4):
            period = 8.0 * bead_section(wide, 0.2) / bead_section(0.4, 0.2)
            found.append(self.share(section=attrs.evolve(WALL, edge_mm=2.0 / wide, period_s=period)))
        self.assertTrue((np.diff(found) <= 1e-9).all(), found)

    def test_more_time_air_that_is_blown_and_a_colder_film_never_strengthen_it(self):
        by_time = [self.share(section=attrs.evolve(WALL, period_s=t)) for t in (4.0, 8.0, 16.0, 32.0, 64.0)]
        by_fan = [self.share(film=film) for film in (8.0, 15.0, 30.0, 45.0)]
        for found in (by_time, by_fan):
            self.assertTrue((np.diff(found) <= 1e-9).all(), found)

    def test_bands_hold_the_likely_and_are_sampled(self):
        found = welded(matter_of(POLYMERS["pc"]), WALL, 290.0 + 2.0 * normal("a"), 90.0 + NOTHING, 110.0, 8.0)
        low, likely, high = np.quantile(found.share, (0.025, 0.5, 0.975))
        self.assertTrue(0.0 < low < likely < high <= 1.0)
        self.assertLess(high / low, 8.0)  # worst ends are not stacked


class TestPractice(unittest.TestCase):
    def test_the_trade_agrees_for_all_polymers_in_their_window_in_cold_air_and_colder_still(self):
        self.assertEqual(differing(rows()), [])
