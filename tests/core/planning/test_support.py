"""Needs, gaps, pauses and what each way takes."""

import itertools
import math
import unittest

import attrs

from kaustos.core.estimates import SUPPORT
from kaustos.core.planning.support import (
    Shop,
    again,
    bears,
    cost_of,
    needs_of,
    pauses_of,
    skin_layers,
    skinned,
    slenderness_of,
    whole_layers,
    width_of,
)
from kaustos.core.records import SUPPORT_WAYS, Calibration, Overhang, Steep
from kaustos.library import load
from tests.core.review.cases import SADDLE, saddle

SHOP = Shop(wage_per_h=45.0, machine_per_h=4.0, price_per_kg=60.0, density_g_cm3=1.25, flow_mm3_s=10.0, layer_mm=0.2,
            run=80.0)  # fmt: skip


def ceiling(size, low, **more):
    """A square ceiling."""
    step = Steep(angle_deg=90.0, area_mm2=size**2, flat_mm2=size**2, column_mm3=size**2 * low, onto_mm2=0.0)
    return Overhang(x_mm=0.0, y_mm=0.0, low_mm=low, high_mm=low, steps=(step,), **more)


def needs(*found, fan=0.0):
    return needs_of(attrs.evolve(SADDLE, overhangs=found), bears(fan))


def cost(way, found, **more):
    asked = {"filled": None, "material": load().supplies.supports["hot_water"], "contact_only": True, "first_mm": 0.2}
    return cost_of(way, found, SHOP, **(asked | more))


class TestBears(unittest.TestCase):
    def test_usual_limits_lie_where_practice_has_them(self):
        self.assertTrue(40.0 <= bears(0.0).limit.value <= 45.0, "fibre grades without a fan")
        self.assertTrue(50.0 <= bears(100.0).limit.value <= 70.0, "well cooled")
        self.assertTrue(5.0 <= bears(0.0).bridge.value <= 15.0)

    def test_a_coupon_holds_at_its_fan_and_moves_with_it_and_a_stale_one_does_not(self):
        own = Calibration(id="c", machine="m", kind="overhang", values={"limit_deg": 52.0, "fan_pct": 40.0})
        self.assertEqual(bears(40.0, own).limit.value, 52.0)
        self.assertGreater(bears(80.0, own).limit.value, 52.0)
        self.assertLess(bears(0.0, own).limit.value, 52.0)
        stale = attrs.evolve(own, stale_because="nozzle changed")
        self.assertEqual(bears(40.0, stale), bears(40.0))
        unknown = attrs.evolve(own, values={"limit_deg": 52.0})
        self.assertEqual(bears(40.0, unknown).limit.value, 52.0)


class TestNeeds(unittest.TestCase):
    def test_less_lean_shorter_spans_and_more_fan_never_want_more_help(self):
        def loss(found):
            return sum(each.loss for each in found)

        for fans in itertools.pairwise((0.0, 30.0, 60.0, 100.0)):
            less, more = (loss(needs(*SADDLE.overhangs, fan=fan)) for fan in fans)
            self.assertGreaterEqual(less, more)
        spans = [loss(needs(ceiling(10.0, 5.0, span_mm=span))) for span in (2.0, 7.0, 9.0, 12.0, 16.0, 40.0)]
        self.assertEqual(spans, sorted(spans))
        self.assertEqual(spans[0], 0.0)
        outs = [loss(needs(ceiling(10.0, 5.0, out_mm=out))) for out in (0.5, 1.2, 2.0, 10.0)]
        self.assertEqual(outs, sorted(outs))
        self.assertGreater(outs[-1], 0.9)

    def test_what_begins_in_the_air_is_certain_however_small(self):
        (tip,) = needs(Overhang(x_mm=0.0, y_mm=0.0, low_mm=5.0, high_mm=5.0, begins=True))
        self.assertTrue(tip.is_certain)
        self.assertEqual(needs(ceiling(1.5, 5.0, out_mm=1.5)), (), "smaller than a bead or two")


def turned(outline, degrees):
    """An outline turned about the origin."""
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    return tuple((cos * x - sin * y, sin * x + cos * y) for x, y in outline)


class TestFeetAndSkins(unittest.TestCase):
    RECTANGLE = ((0.0, 0.0), (30.0, 0.0), (30.0, 4.0), (0.0, 4.0))

    def test_the_width_is_the_short_side_however_it_is_turned(self):
        for degrees in (0.0, 17.0, 45.0, 90.0, 133.0):
            with self.subTest(degrees=degrees):
                self.assertAlmostEqual(width_of(ceiling(4.0, 20.0, outline=turned(self.RECTANGLE, degrees))), 4.0)
        hexagon = tuple((5.0 * math.cos(k * math.pi / 3), 5.0 * math.sin(k * math.pi / 3)) for k in range(6))
        self.assertAlmostEqual(width_of(ceiling(4.0, 20.0, outline=hexagon)), 5.0 * math.sqrt(3.0))
        self.assertEqual(width_of(ceiling(4.0, 20.0)), 0.0)

    def test_higher_or_narrower_is_more_slender_branches_more_than_a_grid_and_on_the_part_none(self):
        def slender(low, way="grid", **more):
            return slenderness_of(needs(ceiling(10.0, low, out_mm=10.0, outline=self.RECTANGLE, **more))[0], way)

        self.assertEqual(slender(20.0), 5.0)
        self.assertGreater(slender(40.0), slender(20.0))
        self.assertEqual(slender(20.0, "branches"), 10.0)
        part = Steep(angle_deg=90.0, area_mm2=100.0, flat_mm2=100.0, column_mm3=500.0, onto_mm2=90.0)
        place = attrs.evolve(ceiling(10.0, 20.0, out_mm=10.0, outline=self.RECTANGLE), steps=(part,))
        self.assertIsNone(slenderness_of(needs(place)[0], "grid"))

    def test_a_skin_makes_a_ledge_round_a_hole_a_ceiling_and_is_whole_layers(self):
        ledge = ceiling(5.0, 10.0, out_mm=4.0, outline=((0.0, 0.0), (7.0, 0.0), (7.0, 7.0), (0.0, 7.0)))
        self.assertEqual(len(needs(ledge)), 1)
        self.assertEqual(needs(skinned(ledge)), (), "7 mm are spanned")
        wide = attrs.evolve(ledge, outline=tuple((4.0 * x, 4.0 * y) for x, y in ledge.outline))
        self.assertEqual([each.sort for each in needs(skinned(wide))], ["bridge"], "28 mm are not")
        for layer, layers in ((0.1, 4), (0.2, 2), (0.25, 2), (0.3, 1), (0.8, 1)):
            self.assertEqual(skin_layers(layer), layers)


class TestGaps(unittest.TestCase):
    def test_gaps_are_whole_layers(self):
        for gap, layers, laid in ((0.4, 2, 0.4), (0.5, 2, 0.4), (0.51, 3, 0.6), (0.0, 0, 0.0), (0.09, 0, 0.0)):
            with self.subTest(gap=gap):
                self.assertEqual(whole_layers(gap, 0.2), (layers, laid))

    def test_pauses_are_those_that_a_walk_over_all_layers_finds(self):
        for layer, first, heights in ((0.2, 0.3, (4.1, 4.1, 9.7)), (0.25, 0.25, (1.0, 5.75, 22.0))):
            found = needs(*(ceiling(12.0, each, out_mm=12.0) for each in heights))
            tops = [first + layer * n for n in range(400)]
            wanted = sorted({round(min(tops, key=lambda top: abs(top - each)), 6) for each in heights})
            with self.subTest(layer=layer):
                self.assertEqual(list(pauses_of(found, layer, first)), wanted)


class TestCosts(unittest.TestCase):
    def test_a_good_run_costs_the_lost_ones_before_it(self):
        for risk in (0.0, 0.1, 0.5, 0.9):
            lost = sum(n * risk**n * (1.0 - risk) for n in range(2000))  # geometric: failures before a success
            self.assertAlmostEqual(again(risk), lost, places=9)

    def test_filament_of_a_grid_is_its_filled_room_and_its_contact(self):
        found = needs(ceiling(20.0, 30.0, out_mm=20.0))
        wanted = (20.0**2 * 30.0 * 0.2 + 20.0**2 * 0.6) * 1.25e-3
        self.assertAlmostEqual(cost("grid", found, filled=0.2).grams, wanted, places=9)
        self.assertAlmostEqual(cost("grid", found, filled=0.2).machine_h, wanted / 1.25e-3 / 10.0 / 3600.0, places=9)

    def test_more_to_hold_never_costs_less_whatever_the_way(self):
        for way in SUPPORT_WAYS:
            for small, large in itertools.pairwise(
                [needs(ceiling(size, low, out_mm=size)) for size, low in ((10.0, 10.0), (20.0, 10.0), (20.0, 40.0))]
            ):
                one, two = cost(way, small), cost(way, large)
                with self.subTest(way):
                    for what in ("attended_min", "machine_h", "grams", "scar_mm2", "risk", "money"):
                        self.assertLessEqual(getattr(one, what), getattr(two, what) + 1e-12, what)

    def test_a_whole_second_polymer_changes_as_often_as_there_are_layers_and_a_contact_seldom(self):
        found = needs(ceiling(20.0, 30.0, out_mm=20.0))
        whole, contact = (cost("soluble", found, contact_only=each) for each in (False, True))
        self.assertEqual(whole.changes, 2 * round((30.0 - 0.2) / 0.2))
        self.assertEqual(contact.changes, 2 * 3)
        self.assertGreater(whole.grams, contact.grams)
        self.assertEqual(contact.scar_mm2, 0.0)

    def test_each_change_purges_and_takes_its_time(self):
        """Against the grid of the same room: 0.3 g and 30 s for each of the changes."""
        found = needs(ceiling(20.0, 30.0, out_mm=20.0))
        plain, paired = cost("grid", found), cost("breakaway", found)
        self.assertAlmostEqual(paired.grams - plain.grams, 0.3 * paired.changes, places=9)
        self.assertAlmostEqual(paired.machine_h - plain.machine_h, 30.0 * paired.changes / 3600.0, places=9)

    def test_money_is_filament_hours_hands_and_lost_runs(self):
        """By hand, from what it says it takes: 60 a kilogram, 4 an hour of machine, 45 an hour of hands, 80 a run."""
        found = needs(ceiling(20.0, 30.0, out_mm=20.0))
        for way in ("grid", "branches", "coat", "built_in"):
            told = cost(way, found)
            runs = told.risk / (1.0 - told.risk)
            by_hand = told.grams * 0.06 + told.machine_h * 4.0 + told.attended_min / 60.0 * 45.0 + runs * 80.0
            with self.subTest(way):
                self.assertAlmostEqual(told.money, by_hand, places=9)

    def test_what_dissolves_pays_for_its_own_polymer_and_for_the_bath_that_takes_it(self):
        material = load().supplies.supports["hot_water"]
        for size in (20.0, 150.0):
            told = cost("soluble", needs(ceiling(size, 60.0, out_mm=size)), contact_only=False)
            litres = (told.grams - 0.3 * told.changes) / material.grams_per_l.value
            runs = told.risk / (1.0 - told.risk)
            by_hand = told.grams * material.price_per_kg.value / 1e3 + told.machine_h * 4.0
            by_hand += told.attended_min / 60.0 * 45.0 + runs * 80.0 + SUPPORT["agent_l"].value * max(litres, 1.0)
            with self.subTest(size, litres=litres):
                self.assertAlmostEqual(told.money, by_hand, places=6)

    def test_places_at_one_height_share_their_changes(self):
        one, two = (needs(*[ceiling(20.0, 30.0, out_mm=20.0)] * count) for count in (1, 2))
        self.assertEqual(cost("breakaway", one).changes, cost("breakaway", two).changes)

    def test_holding_nothing_costs_the_part(self):
        self.assertGreater(cost("none", needs(*saddle().overhangs)).money, 5.0 * SHOP.run)
        self.assertEqual(cost("none", ()).money, 0.0)
        self.assertTrue(math.isfinite(cost("none", needs(*saddle(begins=True).overhangs)).money))
