"""Level weighings: what proves a spool dry, and what a scale cannot prove."""

import math
import unittest
from datetime import datetime, timedelta

import attrs

from kaustos.core.planning.drying import floor_of, water_of
from kaustos.core.planning.history import drying_for_h, moisture_now, place_now
from kaustos.core.planning.level import drying_weighings, level_of, time_constant_h
from kaustos.core.planning.scenarios import LIKELY
from kaustos.core.records import Lot, Rules, Stay, Weighing
from kaustos.library import load

BEGUN = datetime.fromisoformat("2026-03-01T08:00:00Z")
RULES = Rules(scale_g=0.05)
PA6 = load().polymers["pa6"]
LIMIT = 0.2


def at(hours):
    return (BEGUN + timedelta(hours=hours)).isoformat()


def spool(*weighed, **more):
    stays = (Stay(place="open", from_utc=at(-200.0)),
             Stay(place="dryer", from_utc=at(0.0), temperature_c=90.0, humidity_pct=0.5))  # fmt: skip
    weighings = tuple(Weighing(at_utc=at(hours), gross_g=gross) for hours, gross in weighed)
    return attrs.evolve(
        Lot(id="a", polymer="pa6", tare_g=230.0, net_g=1000.0, stays=stays, weighings=weighings), **more
    )


def level(lot, rules=RULES):
    return level_of(lot, water_of(PA6), rules, LIMIT, BEGUN + timedelta(hours=100.0))


class TestBase(unittest.TestCase):
    def test_the_weighing_before_the_dryer_is_the_base_of_what_follows_it(self):
        stay, weighings = drying_weighings(spool((-100.0, 1260.0), (-1.0, 1252.0), (20.0, 1236.0), (30.0, 1236.0)))
        self.assertEqual(stay.temperature_c, 90.0)
        self.assertEqual([each.gross_g for each in weighings], [1252.0, 1236.0, 1236.0])
        self.assertEqual(
            len(drying_weighings(spool((-30.0, 1252.0), (20.0, 1236.0)))[1]), 1, "a base of yesterday is none"
        )

    def test_what_is_weighed_after_the_dryer_is_none_of_it(self):
        lot = spool((10.0, 1240.0), (40.0, 1241.0))
        out = attrs.evolve(lot, stays=(*lot.stays, Stay(place="open", from_utc=at(24.0))))
        self.assertEqual([each.gross_g for each in drying_weighings(out)[1]], [1240.0])


class TestLevel(unittest.TestCase):
    def test_two_readings_alike_after_a_time_constant_prove_it_and_the_state_follows(self):
        found = level(spool((40.0, 1230.02), (60.0, 1230.0)))
        self.assertTrue(found.proves)
        self.assertEqual(found.at, BEGUN + timedelta(hours=60.0))
        lot, now = spool((40.0, 1230.02), (60.0, 1230.0)), BEGUN + timedelta(hours=60.0)
        state = moisture_now(lot, water_of(PA6), RULES, now, LIMIT)
        floor = float(floor_of(water_of(PA6), found.air)[LIKELY])
        self.assertAlmostEqual(state.band[0], floor, places=6)
        unweighed = moisture_now(attrs.evolve(lot, weighings=()), water_of(PA6), RULES, now, LIMIT)
        self.assertLess(state.worst, unweighed.worst, "what is proven is known better")

    def test_it_drinks_again_after_it_was_level(self):
        lot = spool((40.0, 1230.02), (60.0, 1230.0))
        lot = attrs.evolve(lot, stays=(*lot.stays, Stay(place="open", from_utc=at(60.0))))
        water, later = water_of(PA6), BEGUN + timedelta(hours=90.0)
        wetter = moisture_now(lot, water, RULES, later, LIMIT).band[0]
        self.assertGreater(wetter, 2.0 * float(floor_of(water, level(lot).air)[LIKELY]))

    def test_too_early_still_losing_or_without_a_tare_is_not_level(self):
        tau = time_constant_h(water_of(PA6), _winding(), level(spool((40.0, 1230.0), (60.0, 1230.0))).air, 21.0)
        self.assertTrue(2.0 < tau < 40.0)
        self.assertIsNone(level(spool((0.5 * tau, 1240.0), (0.9 * tau, 1240.0))), "before one time constant")
        self.assertIsNone(level(spool((40.0, 1232.0), (60.0, 1230.0))), "it still loses")
        self.assertIsNone(level(spool((40.0, 1230.0), (60.0, 1230.0), tare_g=None)))

    def test_a_scale_that_cannot_tell_the_limit_proves_nothing(self):
        coarse = level(spool((40.0, 1230.0), (60.0, 1230.0)), Rules(scale_g=5.0))
        self.assertFalse(coarse.proves)
        self.assertAlmostEqual(coarse.least_g, 1.96 * math.sqrt(2.0) * 5.0)
        self.assertLess(coarse.would_lose_g, 1000.0 * LIMIT / 100.0 + 1e-9)
        soon = level(spool((59.9, 1230.0), (60.0, 1230.0)))
        self.assertFalse(soon.proves, "six minutes apart tells nothing")


class TestUnderWay(unittest.TestCase):
    def test_hours_in_the_dryer_count_from_when_it_went_in(self):
        lot = spool()
        self.assertAlmostEqual(drying_for_h(lot, BEGUN + timedelta(hours=3.5)), 3.5)
        self.assertEqual(drying_for_h(lot, BEGUN - timedelta(hours=1.0)), 0.0)
        out = attrs.evolve(lot, stays=(*lot.stays, Stay(place="open", from_utc=at(2.0))))
        self.assertEqual(drying_for_h(out, BEGUN + timedelta(hours=3.5)), 0.0)
        self.assertEqual(place_now(out, BEGUN + timedelta(hours=3.5)).place, "open")
        self.assertIsNone(place_now(out, BEGUN - timedelta(hours=300.0)))


def _winding():
    from kaustos.core.planning.drying import winding_of

    return winding_of(spool())


if __name__ == "__main__":
    unittest.main()
