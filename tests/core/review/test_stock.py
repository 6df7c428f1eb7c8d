"""Operation 20 judged: what makes a spool wetter makes the review worse, what a person can do makes it better."""

import itertools
import math
import random
from datetime import UTC, datetime, timedelta

import attrs
import numpy as np

from kaustos.app.wording import Wording
from kaustos.core.planning.drying import DEEPEST, MEAN, OUTERMOST, hung
from kaustos.core.planning.scenarios import LIKELY
from kaustos.core.records import FLANGES, Stay, StrandCheck, Weighing
from kaustos.core.review import GRADES, Advice, Choose, Estimate, Set
from kaustos.core.review.stock import picture
from kaustos.core.review.stock.desiccant import box_leaks_g_day, desiccant_lasts, desiccant_month
from kaustos.core.review.stock.plan import plan_of
from kaustos.demo.scenario import RECORDS
from kaustos.library import load
from tests.asserting import every
from tests.core.review.cases import BRACKET, CAGE, DRIED, IN_KILN, SHELL
from tests.support import (
    NOW,
    TableTest,
    at_once,
    changed,
    codes_of,
    judged,
    opened,
    operation_of,
    recipe_and_context,
    said_by,
)

TAKES = attrs.evolve(load().supplies.desiccants["silica_gel"].takes, value=15.0)


def figure(records, key):
    """The value of one figure of operation 20."""
    found = operation_of(judged(records)[2], "stock")
    return next(each.value for each in found.figures if each.key == key)


def finding(records, code):
    """One finding of a review."""
    return next(each for each in judged(records)[2].findings() if each.code == code)


def bracket(**changes):
    """The bracket on its machine with changes, dots written as two underlines."""
    return changed(opened(BRACKET), {path.replace("__", "."): value for path, value in changes.items()})


class TestMoisture(TableTest):
    def test_hotter_dries_faster_in_every_dryer(self):
        for dryer in every(RECORDS.dryers):
            times = [figure(changed(opened(BRACKET), {"context.dryer": dryer, "stock.dryer_c": celsius}),
                            "stock.drying.time").value for celsius in (60.0, 70.0, 80.0)]  # fmt: skip
            with self.subTest(dryer):
                self.assertEqual(times, sorted(times, reverse=True))
                self.assertGreater(times[0] / times[2], 1.3)

    def test_longer_leaves_less_water_and_never_less_than_the_floor(self):
        left = [figure(bracket(stock__dryer_h=hours), "stock.moisture.start") for hours in (1.0, 6.0, 24.0, 72.0)]
        floor = figure(bracket(), "stock.drying.floor")
        for wetter, drier in itertools.pairwise(left):
            self.assertLess(drier.value, wetter.value)
        self.assertGreaterEqual(left[-1].low, floor.low)

    def test_hung_open_it_drinks_while_it_prints_and_in_a_dry_box_less(self):
        dry = dict(DRIED, **{"brief.print_h": 60.0})
        ends = {feed: figure(changed(opened(BRACKET), dry | {"lot.feed": feed}), "stock.moisture.end").value
                for feed in ("open", "dry_box", "heated")}  # fmt: skip
        self.assertGreater(ends["open"], 2.0 * ends["dry_box"])
        floor = figure(changed(opened(BRACKET), dry | {"stock.dryer_c": 60.0, "context.dryer": "shelf"}),
                       "stock.drying.floor")  # fmt: skip
        self.assertLess(ends["heated"], floor.value * 1.01, "a feeder at 60 °C brings it to the floor of 60 °C")

    def test_a_more_humid_shop_dries_worse_and_keeps_it_shorter(self):
        dry_room, wet_room = (attrs.evolve(RECORDS.rules, dew_point_c=dew) for dew in (0.0, 20.0))
        floors, lasts = [], []
        for rules in (dry_room, wet_room):
            records = attrs.evolve(changed(opened(BRACKET), {"stock.dryer_c": 70.0}), rules=rules)
            floors.append(figure(records, "stock.drying.floor").value)
            records = attrs.evolve(changed(opened(BRACKET), DRIED), rules=rules)
            lasts.append(figure(records, "stock.exposure.lasts").value)
        self.assertGreater(floors[1], 1.5 * floors[0])
        self.assertLess(lasts[1], lasts[0])

    def test_nothing_known_of_a_lot_is_a_band_up_to_what_the_polymer_holds(self):
        records = changed(opened(BRACKET), {"lot.stays": (), "stock.dryer_h": None, "stock.dryer_c": None})
        now = figure(records, "stock.moisture.now")
        plan = plan_of(*recipe_and_context(records))
        self.assertAlmostEqual(now.value, 2.2 * 0.15 / 0.5, msg="a sealed pack of 15 %")
        self.assertLess(now.low, 0.5 * now.value)
        self.assertGreater(now.high, 5.0 * plan.limit)
        self.assertIn("stock.moisture.unknown", codes_of(records))

    def test_a_thicker_strand_takes_longer(self):
        thin, thick = (figure(bracket(lot__diameter=each), "stock.drying.time").value for each in ("1.75", "2.85"))
        self.assertGreater(thick / thin, 1.2)
        self.assertLessEqual(thick / thin, (2.85 / 1.75) ** 2 * 1.02)  # no slower than diffusion in a strand alone


class TestWaiting(TableTest):
    def test_in_the_air_it_is_fed_from_waiting_is_as_hanging_there_while_it_prints(self):
        hung = figure(
            changed(opened(BRACKET), DRIED | {"lot.feed": "open", "brief.print_h": 9.0}), "stock.moisture.end"
        )
        waits = DRIED | {"lot.feed": "open", "stock.wait_h": 9.0, "stock.wait_in": None}
        start = figure(changed(opened(BRACKET), waits), "stock.moisture.start")
        self.assertAlmostEqual(start.value, hung.value, places=9)
        self.assertAlmostEqual(start.high, hung.high, places=9)

    def test_it_drinks_the_more_the_longer_and_in_the_wetter_place(self):
        def start(hours, place):
            changes = DRIED | {"stock.wait_h": hours, "stock.wait_in": place}
            return figure(changed(opened(BRACKET), changes), "stock.moisture.start").value

        dry = start(0.0, "open")
        by_place = [start(20.0, place) for place in ("open", "heated", "dry_box", "sealed")]
        self.assertEqual(by_place, sorted(by_place, reverse=True))
        self.assertAlmostEqual(by_place[-1], dry, places=12)
        self.assertGreater(start(40.0, "open"), start(20.0, "open"))
        # early uptake goes with the root of time where the strand rules, straight where air in the winding does
        self.assertTrue(2.0**0.5 * 0.95 <= (start(4.0, "open") - dry) / (start(2.0, "open") - dry) <= 2.0 * 1.05)

    def test_what_the_shelf_life_says_is_when_the_limit_is_passed(self):
        records = changed(opened(BRACKET), DRIED | {"stock.wait_h": 30.0, "stock.wait_in": "open"})
        lasts = figure(records, "stock.waiting.lasts")
        plan = plan_of(*recipe_and_context(changed(records, {"stock.wait_h": lasts.value})))
        self.assertAlmostEqual(float(plan.start.means[LIKELY, OUTERMOST]), plan.limit, delta=0.02 * plan.limit)

    def test_the_picture_has_dryer_waiting_and_print_end_to_end(self):
        records = changed(opened(BRACKET), DRIED | {"stock.wait_h": 30.0, "stock.wait_in": "open"})
        recipe, context = recipe_and_context(records)
        phases = [phase for phase in picture(recipe, context).phases if phase.hours[-1] > 0]
        self.assertEqual([phase.place for phase in phases], ["dryer", "wait", "print"])
        self.assertEqual([float(phase.hours[-1]) for phase in phases], [72.0, 102.0, 111.0])
        for before, after in itertools.pairwise(phases):
            self.assertEqual(before.hours[-1], after.hours[0])
            np.testing.assert_allclose(before.mean[-1], after.mean[0], rtol=0.02)


class TestSpool(TableTest):
    def test_each_body_softens_at_its_own_limit(self):
        for body in FLANGES:
            stands = load().supplies.bodies[body].stands
            least, likely = stands.low, stands.value
            for celsius, severity in ((least, None), (least + 1.0, "watch"), (likely + 1.0, "stop")):
                records = changed(opened(BRACKET), {"lot.flange": body, "stock.dryer_c": celsius})
                found = [each.severity for each in judged(records)[2].findings() if each.code == "stock.spool.softens"]
                with self.subTest(body, celsius=celsius):
                    self.assertEqual(found, [severity] if severity else [])

    def test_what_is_left_is_the_last_weighing_less_the_empty_spool(self):
        weighings = (Weighing(at_utc="2026-02-01T08:00:00Z", gross_g=700.0, scale_g=1.0),
                     Weighing(at_utc="2026-02-20T08:00:00Z", gross_g=555.0, scale_g=1.0))  # fmt: skip
        left = figure(bracket(lot__weighings=weighings), "stock.mass.left")
        self.assertEqual(left.value, 325.0)
        for mass, short in ((309.0, False), (310.0, True)):  # 309 × 1.05 = 324.45, 310 × 1.05 = 325.5
            codes = codes_of(bracket(lot__weighings=weighings, brief__mass_g=mass))
            self.assertEqual("stock.mass.short" in codes, short)
        runs = figure(bracket(lot__weighings=weighings, brief__mass_g=100.0), "stock.mass.runs")
        self.assertAlmostEqual(runs.value, 325.0 / 105.0)
        short = finding(bracket(lot__weighings=weighings, brief__mass_g=650.0), "stock.mass.short")
        self.assertAlmostEqual(short.values["done"], 100.0 * 325.0 / 682.5)

    def test_a_short_spool_and_a_wrong_polymer_are_no_go(self):
        for changes in ({"brief.mass_g": 500.0}, {"polymer": "petg"}):
            grade = at_once(changed(opened(BRACKET), changes)).grade
            with self.subTest(changes):
                self.assertEqual(grade.value, "no_go")
                self.assertTrue({"stock.mass.short", "stock.lot.other_polymer"} & set(grade.because))

    def test_a_lot_of_another_polymer_tells_nothing_about_water(self):
        records = changed(opened(CAGE), {"polymer": "petg"})
        self.assertNotIn("stock.moisture.wet", codes_of(records))
        self.assertIn("stock.lot.other_polymer", codes_of(records, "stop"))


class TestDesiccant(TableTest):
    def test_a_month_s_mass_lasts_a_month_and_twice_as_much_lasts_twice_as_long(self):
        for spool_g in (0.0, 4.0):
            month = desiccant_month(RECORDS.rules, TAKES, spool_g)
            rules = attrs.evolve(RECORDS.rules, desiccant_g=month.value)
            self.assertAlmostEqual(desiccant_lasts(rules, TAKES, spool_g).value, 30 * 24.0)
        twice = attrs.evolve(rules, desiccant_g=200.0)
        once = attrs.evolve(rules, desiccant_g=100.0)
        self.assertAlmostEqual(desiccant_lasts(twice, TAKES, 0.0).value, 2.0 * desiccant_lasts(once, TAKES, 0.0).value)
        self.assertEqual(desiccant_lasts(once, TAKES, 20.0).value, 0.0, "the spool alone fills it")

    def test_a_wet_spool_asks_for_desiccant_for_its_own_water_and_a_dry_one_for_none(self):
        wet = changed(opened(BRACKET), {"stock.dryer_h": None, "lot.feed": "dry_box"})
        leak = desiccant_month(RECORDS.rules, TAKES, 0.0).value
        limit, left_g = 0.2, 360.0  # [% water], [g]: polymer and last weighing of its lot
        own = (figure(wet, "stock.moisture.now").value - limit) / 100.0 * left_g / 0.15
        self.assertGreater(own, 30.0)
        self.assertAlmostEqual(figure(wet, "stock.desiccant.month").value, leak + own, delta=0.01 * own)
        dried = changed(opened(BRACKET), DRIED)
        self.assertAlmostEqual(figure(dried, "stock.desiccant.month").value, leak)

    def test_it_is_changed_on_the_day_that_its_span_ends(self):
        put_in = "2026-02-20T08:00:00Z"
        records = changed(opened("packer_ring"), {"lot.desiccant_utc": put_in})
        lasts, due = figure(records, "stock.desiccant.lasts"), figure(records, "stock.desiccant.due")
        for hours, seconds in ((lasts.value, due.value), (lasts.low, due.low), (lasts.high, due.high)):
            ends = datetime.fromisoformat(put_in) + timedelta(hours=hours)
            self.assertAlmostEqual(seconds, ends.timestamp(), places=3)
        fresh = figure(changed(records, {"lot.desiccant_utc": ""}), "stock.desiccant.due")
        self.assertAlmostEqual(fresh.value - due.value, 10 * 86400.0, delta=60.0)
        for days, spent in ((-1.0, False), (1.0, True)):  # a day before and after the likely one
            begun = judged(records)[1].now - timedelta(hours=lasts.value + 24.0 * days)
            codes = codes_of(changed(records, {"lot.desiccant_utc": begun.isoformat()}))
            self.assertEqual("stock.desiccant.spent" in codes, spent)

    def test_a_leak_is_the_box_s_air_with_its_water(self):
        # air of dew point 10 °C holds 9.4 g/m³ at saturation, 9.05 g/m³ once warmed to 21 °C (ideal gas)
        self.assertAlmostEqual(box_leaks_g_day(RECORDS.rules)[1], 0.015 * 1228.0 * 18.015 / (8.3145 * 294.15), places=3)


class TestRemedies(TableTest):
    def test_drying_remedies_hold_for_any_spool_that_was_anywhere(self):
        rng = random.Random(20)
        offered = 0
        for case in range(60):
            stays = (Stay(place="open", from_utc="2026-02-01T08:00:00Z", temperature_c=rng.uniform(15, 30),
                          humidity_pct=rng.uniform(20, 90)),)  # fmt: skip
            changes = {
                "lot.stays": stays, "lot.flange": rng.choice([*FLANGES]), "lot.depth_mm": rng.uniform(10, 60),
                "context.dryer": rng.choice([*RECORDS.dryers]), "stock.dryer_c": float(rng.randint(40, 95)),
                "stock.dryer_h": float(rng.randint(1, 12)), "lot.diameter": rng.choice(["1.75", "2.85"]),
            }  # fmt: skip
            records = changed(opened(BRACKET), changes)
            found = [each for each in judged(records)[2].findings() if each.code == "stock.moisture.wet"]
            for remedy in found[0].remedies if found else ():
                if not isinstance(remedy, (Set, Choose)):
                    continue
                offered += 1
                after = dict(remedy.changes) | ({f"context.{remedy.what}": remedy.id} if isinstance(remedy, Choose)
                                                else {})  # fmt: skip
                cured = changed(records, after)
                with self.subTest(case, remedy=remedy.title):
                    self.assertNotIn("stock.moisture.wet", codes_of(cured))
                    self.assertNotIn("stock.spool.softens", codes_of(cured))
                    self.assertNotIn("stock.drying.too_long", codes_of(cured))
                    self.assertNotIn("stock.dryer.beyond_reach", codes_of(cured))
        self.assertGreater(offered, 40)

    def test_where_no_dryer_is_certain_the_scale_decides(self):
        records = changed(opened(BRACKET), {"lot.flange": "polystyrene", "lot.depth_mm": 60.0, "lot.diameter": "2.85",
                                            "dryers/pot/retired": True, "dryers/kiln/retired": True})  # fmt: skip
        records = records.with_tables(dryers={"shelf": records.dryers["shelf"]})
        titles = [each.title for each in finding(records, "stock.moisture.wet").remedies]
        self.assertTrue(any("scale" in title or "drier" in title for title in titles), titles)
        self.assertFalse(any(isinstance(each, Choose) for each in finding(records, "stock.moisture.wet").remedies))

    def test_a_short_spool_offers_only_lots_that_are_long_enough(self):
        records = changed(opened(SHELL), {"brief.mass_g": 900.0})
        lot = records.lots[records.card.chosen["lot"]]
        full = (Weighing(at_utc="2026-02-20T08:00:00Z", gross_g=(lot.tare_g or 0.0) + 2000.0, scale_g=1.0),)
        more = {f"full_{n}": attrs.evolve(lot, id=f"full_{n}", name=f"F-{n}", weighings=full) for n in range(2)}
        records = records.with_tables(lots={**records.lots, **more})
        offers = (each for each in finding(records, "stock.mass.short").remedies if isinstance(each, Choose))
        for remedy in every(offers, 2):
            cured = changed(records, dict(remedy.changes) | {"context.lot": remedy.id})
            self.assertNotIn("stock.mass.short", codes_of(cured))

    def test_at_most_three_other_lots_are_offered_and_none_that_is_too_short(self):
        records = changed(opened(SHELL), {"brief.mass_g": 900.0})
        lot = records.lots[records.card.chosen["lot"]]
        full = (Weighing(at_utc="2026-02-20T08:00:00Z", gross_g=(lot.tare_g or 0.0) + 2000.0, scale_g=1.0),)
        more = {f"full_{n}": attrs.evolve(lot, id=f"full_{n}", name=f"F-{n}", weighings=full) for n in range(5)}
        records = records.with_tables(lots={**records.lots, **more})
        offered = [each.id for each in finding(records, "stock.mass.short").remedies if isinstance(each, Choose)]
        self.assertEqual(len(offered), 3)
        self.assertLessEqual(set(offered), set(more))

    def test_desiccant_alone_takes_as_long_as_the_deepest_turn_likely_does(self):
        box = {"lot.feed": "dry_box", "lot.box_humidity_pct": 1.0, "stock.dryer_h": None}
        wet = (Stay(place="sealed", from_utc="2026-02-01T08:00:00Z"),)
        thin = {"lot.stays": wet, "lot.depth_mm": 2.0, "lot.width_mm": 2.0}
        records = changed(opened(BRACKET), box | thin)
        plan = plan_of(*recipe_and_context(records))
        passing, _ = hung(plan.now, plan.water, plan.winding, plan.feed, plan.limit)
        said = finding(records, "stock.desiccant.alone").values["time"]
        self.assertEqual(said, min(passing.likely_h(DEEPEST), 240.0))
        self.assertLess(passing.likely_h(OUTERMOST), said)

    def test_a_spool_that_is_likely_dry_is_not_told_that_desiccant_takes_no_time(self):
        box = {"lot.feed": "dry_box", "lot.box_humidity_pct": 1.0, "stock.dryer_h": None}
        told = []
        for hours in (8.0, 12.0, 16.0, 24.0):
            stay = Stay(place="sealed", from_utc=(NOW - timedelta(hours=1.0)).isoformat())
            dried = Stay(place="dryer", dryer="pot", from_utc=(NOW - timedelta(hours=1.0 + hours)).isoformat(),
                         temperature_c=95.0)  # fmt: skip
            records = changed(opened(BRACKET), box | {"lot.stays": (dried, stay), "lot.flange": "metal"})
            said = [each for each in said_by("stock", records).findings if each.code == "stock.desiccant.alone"]
            plan = plan_of(*recipe_and_context(records))
            told += [each for each in said if plan.now.wettest <= plan.limit]
        for each in every(told):
            self.assertGreater(each.values["time"], 0.0)
            self.assertIn("as wet as it may be", Wording().text(each))


class TestDryerIsShared(TableTest):
    def in_dryer(self, since_h, **more):
        stay = Stay(place="dryer", dryer="kiln", from_utc=(NOW - timedelta(hours=since_h)).isoformat(),
                    temperature_c=80.0, humidity_pct=0.1)  # fmt: skip
        return {"context.dryer": "kiln", "lot.stays": (stay,), "lot.flange": "metal", "stock.dryer_h": 12.0, **more}

    def figure(self, records, key):
        return next(each.value for op in judged(records)[2].operations for each in op.figures if each.key == key)

    def test_what_is_planned_and_what_is_logged_are_one_drying(self):
        for since, left in ((0.0, 12.0), (5.0, 7.0), (12.0, 0.0), (30.0, 0.0)):
            with self.subTest(since):
                records = changed(opened(BRACKET), self.in_dryer(since))
                self.assertAlmostEqual(self.figure(records, "stock.drying.left").value, left)
        moisture = [self.figure(changed(opened(BRACKET), self.in_dryer(since)), "stock.moisture.start").value
                    for since in (0.0, 6.0, 11.5)]  # fmt: skip
        self.assertAlmostEqual(moisture[0], moisture[1], delta=0.08 * moisture[0], msg="12 h in all, not 18")
        self.assertAlmostEqual(moisture[0], moisture[2], delta=0.08 * moisture[0])

    def test_the_longer_it_takes_or_waits_the_earlier_it_goes_in(self):
        wanted = {"stock.wanted_utc": "2026-03-05T08:00:00Z"}
        for field, values in (("stock.wait_h", (0.0, 2.0, 12.0)), ("stock.dryer_h", (40.0, 48.0, 60.0))):
            starts = [self.figure(changed(opened(BRACKET), wanted | {field: each}), "stock.drying.start").value
                      for each in values]  # fmt: skip
            with self.subTest(field):
                self.assertEqual(starts, sorted(starts, reverse=True))
                self.assertAlmostEqual(starts[0] - starts[-1], 3600.0 * (values[-1] - values[0]), delta=60.0)
        planned = [self.figure(changed(opened(BRACKET), wanted | {"stock.dryer_h": each}), "stock.drying.start").value
                   for each in (1.0, 12.0)]  # fmt: skip
        self.assertAlmostEqual(*planned, delta=60.0, msg="a plan that is too short buys no time")
        self.assertLess(planned[1], datetime(2026, 3, 5, 8, tzinfo=UTC).timestamp() - 3600.0 * 12.0)

    def test_a_full_dryer_offers_one_that_has_a_place(self):
        records = changed(opened("probe_head_shell", "crag"), IN_KILN | {"dryer.places": 1.0})
        offers = finding(records, "stock.dryer.full").remedies
        self.assertNotIn("kiln", [each.id for each in offers if isinstance(each, Choose)])
        mine = changed(records, {"lot.stays": IN_KILN["lots/lot_c042/stays"]})
        self.assertNotIn("stock.dryer.full", codes_of(mine), "it has its place already")

    def test_a_wet_strand_stands_against_a_plan_that_is_too_short_for_a_wet_spool(self):
        steam = (StrandCheck(at_utc=NOW.isoformat(), signs=("vapour",)),)
        dry = (Stay(place="dry_box", from_utc="2026-01-01T08:00:00Z", humidity_pct=2.0),)
        there = {"lot.flange": "metal", "lot.stays": dry, "lot.strands": steam, "context.dryer": "kiln"}
        for hours, stands in ((0.2, True), (72.0, False)):
            records = changed(opened(BRACKET), there | {"stock.dryer_c": 95.0, "stock.dryer_h": hours})
            with self.subTest(hours):
                self.assertEqual("stock.strand.signs" in codes_of(records), stands)

    def test_cooler_or_thinner_air_harms_later_and_longer_is_never_milder(self):
        def harmed(dryer_c, hours, dryer="kiln"):
            there = {"context.dryer": dryer, "stock.dryer_c": dryer_c, "stock.dryer_h": hours, "lot.flange": "metal"}
            return "stock.drying.too_long" in codes_of(changed(opened(BRACKET), there))

        self.assertEqual([harmed(95.0, hours) for hours in (24.0, 25.0, 70.0)], [False, True, True])
        self.assertEqual([harmed(85.0, hours) for hours in (47.0, 49.0)], [False, True], "twice the hours 10 K cooler")
        self.assertEqual([harmed(95.0, hours, "pot") for hours in (25.0, 71.0, 73.0)], [False, False, True])


class TestWorseIsNeverBetter(TableTest):
    def test_a_longer_wait_or_print_leaves_no_better_grade_and_no_milder_finding(self):
        metal = DRIED | {"lot.flange": "metal", "lot.feed": "open"}
        for field, more in (("stock.wait_h", {"stock.wait_in": "open", "brief.print_h": 1.0}), ("brief.print_h", {})):
            grades, stops = [], []
            for hours in (0.5, 2.0, 8.0, 14.0, 30.0, 48.0, 100.0, 200.0):
                _, _, found = judged(changed(opened(BRACKET), metal | more | {field: hours}))
                grades.append(GRADES.index(found.grade.value))
                stops.append(sum(each.severity == "stop" for each in operation_of(found, "stock").findings))
            with self.subTest(field):
                self.assertEqual(grades, sorted(grades, reverse=True))
                self.assertEqual(stops, sorted(stops))
                self.assertLess(grades[-1], grades[0], "the hours are such that it matters")

    def test_wet_from_waiting_is_as_bad_as_wet_from_the_dryer(self):
        waits = DRIED | {"lot.flange": "metal", "stock.wait_h": 200.0, "stock.wait_in": "open"}
        waited = judged(changed(opened(BRACKET), waits))[2]
        undried = judged(changed(opened(BRACKET), DRIED | {"lot.flange": "metal", "stock.dryer_h": 0.1}))[2]
        self.assertEqual(waited.grade.value, undried.grade.value)
        worst = {each.code: each.severity for each in (*waited.findings(), *undried.findings())}
        self.assertEqual(worst["stock.waiting.rewets"], worst["stock.moisture.wet"])

    def test_where_it_waits_or_hangs_unknown_the_grade_stands_only_until_that_is_known(self):
        waits = DRIED | {"lot.flange": "metal", "stock.wait_h": 48.0, "stock.wait_in": None, "lot.feed": None}
        found = judged(changed(opened(BRACKET), waits))[2]
        self.assertEqual(found.grade.until_known, ("stock.wait_in", "lot.feed"))
        self.assertEqual(
            at_once(changed(opened(BRACKET), waits | {"lot.feed": "heated"})).grade.until_known, ("stock.wait_in",)
        )

    def test_the_tile_says_what_the_finding_beside_it_says(self):
        for hours, words in ((0.0, "dry enough now"), (14.0, "dry now, wet when printed")):
            found = judged(changed(opened("cable_clamp"), {"stock.wait_h": hours, "stock.wait_in": "open"}))[2]
            codes = {each.code for each in operation_of(found, "stock").findings}
            self.assertEqual(operation_of(found, "stock").tile[0].text, words)
            self.assertEqual("stock.waiting.rewets" in codes, "wet" in words)

    def test_no_drying_is_not_told_of_a_spool_that_nobody_logged(self):
        for dry in (None, 80.0):
            unlogged = {
                "lot.stays": (),
                "lot.weighings": (),
                "lot.strands": (),
                "stock.dryer_h": None,
                "stock.dryer_c": dry,
            }
            found = at_once(changed(opened("cable_guide"), unlogged))
            texts = [each.text for each in operation_of(found, "stock").tile]
            self.assertFalse([each for each in texts if "dry now" in each or "dry enough" in each], texts)

    def test_longer_is_advised_only_where_longer_dries(self):
        wet = {"stock.dryer_h": 8.0, "lot.width_mm": 80.0, "lot.stays": (
            Stay(place="open", from_utc="2026-01-20T08:00:00Z", humidity_pct=55.0),)}  # fmt: skip
        for celsius, depth, is_helped in (
            (72.0, 2.0, True),
            (72.0, 30.0, True),
            (45.0, 2.0, False),
            (55.0, 60.0, False),
        ):
            found = at_once(changed(opened(BRACKET), wet | {"stock.dryer_c": celsius, "lot.depth_mm": depth}))
            below = next(each for each in found.findings() if each.code == "stock.dryer.below_window")
            said = {each.title for each in below.remedies if isinstance(each, Advice)}
            with self.subTest(celsius, depth=depth):
                self.assertNotIn("gets to", Wording().text(below), "what is set is no reach")
                self.assertEqual("Dry longer, and weigh" in said, is_helped)
                self.assertEqual("Hotter, drier air, or wind it flatter" in said, not is_helped)

    def test_wet_when_printed_stops_what_hydrolyses_by_what_is_likely_and_nothing_else(self):
        severities = set()
        for card, hydrolyses in (("cable_clamp", True), (BRACKET, False)):
            for hours in (4.0, 8.0, 14.0, 24.0, 48.0, 100.0, 200.0):
                records = changed(opened(card), {"stock.wait_h": hours, "stock.wait_in": "open"})
                recipe, context, found = judged(records)
                said = [each.severity for each in found.findings() if each.code == "stock.waiting.rewets"]
                if said:
                    plan = plan_of(recipe, context)
                    likely = plan.start.means[LIKELY, MEAN]
                    stops = hydrolyses and context.polymer.hydrolyses and likely > 3.0 * plan.limit
                    severities.add(said[0])
                    with self.subTest(card, hours=hours):
                        self.assertEqual(said, ["stop" if stops else "watch"])
        self.assertIn("watch", severities)

    def test_a_whole_spool_lighter_than_the_run_is_too_little_whatever_its_body_weighs(self):
        weighed = (
            Weighing(at_utc="2026-02-25T08:00:00Z", gross_g=900.0),
            Weighing(at_utc="2026-02-28T08:00:00Z", gross_g=120.0),
        )
        bare = {"lot.tare_g": None, "lot.net_g": None, "brief.mass_g": 150.0}
        for rows, is_short in ((weighed, True), (weighed[:1], False), ((), False)):
            with self.subTest(rows=len(rows)):
                found = codes_of(changed(opened("winch_bracket"), bare | {"lot.weighings": rows}))
                self.assertEqual("stock.mass.short" in found, is_short)
        records = changed(opened("winch_bracket"), bare | {"lot.weighings": weighed})
        short = next(each for each in at_once(records).findings() if each.code == "stock.mass.short")
        self.assertTrue(Wording().text(short).startswith("Less than 120 g of the spool"), Wording().text(short))

    def test_a_short_spool_says_how_much_of_the_run_it_is_enough_for(self):
        found = finding(changed(opened(BRACKET), {"brief.mass_g": 350.0}), "stock.mass.short")
        self.assertAlmostEqual(found.values["needed"], 350.0 * 1.05)
        self.assertAlmostEqual(found.values["done"], 100.0 * 360.0 / 367.5)
        self.assertEqual((found.values["left"], found.values["margin"]), (360.0, 5.0))


class TestUnknownIsNeverFine(TableTest):
    def test_what_could_lower_the_grade_is_asked_before_it_is_given(self):
        dried = DRIED | {"lot.flange": "metal"}
        asked = {
            "context.dryer": {"context.dryer": None}, "dryer.max_c": {"dryers/kiln/max_c": None},
            "dryer.air": {"dryers/kiln/air": None}, "dryer.dew_point_c": {"dryers/kiln/dew_point_c": None},
            "lot.flange": {"lot.flange": None}, "lot.feed": {"lot.feed": None},
        }  # fmt: skip

        def required(changes):
            found = operation_of(judged(changed(opened(BRACKET), dried | changes))[2], "stock")
            return {each.field: each.worst for each in found.missing if each.required}

        self.assertEqual(required({}), {})
        for field, changes in asked.items():
            with self.subTest(field):
                self.assertEqual(required(changes).get(field), "no_go" if field == "lot.flange" else "decorative")
        shell = changed(opened(SHELL, "crag"), {"context.dryer": None})
        self.assertIn("context.dryer", at_once(shell).grade.until_known)

    def test_a_cool_dryer_does_not_ask_of_what_the_spool_is_made(self):
        for celsius, asks in ((60.0, False), (61.0, True)):
            cool = DRIED | {"lot.flange": None, "stock.dryer_c": celsius}
            with self.subTest(celsius):
                self.assertEqual("lot.flange" in at_once(changed(opened(BRACKET), cool)).grade.until_known, asks)

    def test_a_pack_that_was_never_opened_asks_for_drying(self):
        sealed = (Stay(place="sealed", from_utc="2026-02-01T08:00:00Z"),)
        undried = {"lot.stays": sealed, "lot.strands": (), "stock.dryer_c": None, "stock.dryer_h": None}
        _, _, found = judged(changed(opened(BRACKET), undried))
        self.assertLessEqual({"stock.dryer_c", "stock.dryer_h"}, set(found.grade.until_known))
        codes = {each.code for each in found.findings()}
        self.assertIn("stock.moisture.unknown", codes)
        self.assertFalse({"stock.moisture.wet", "stock.moisture.unsure"} & codes, "never wet and unknown at once")


class TestWhateverComes(TableTest):
    def test_no_value_that_a_file_can_hold_ends_the_judging(self):
        for changes in (
            {"stock.dryer_c": 374.0}, {"stock.dryer_c": 3000.0}, {"stock.dryer_c": -273.0},
            {"dryers/kiln/dew_point_c": -150.0, "context.dryer": "kiln"}, {"rules.dew_point_c": -200.0},
            {"dryers/kiln/max_c": 800.0, "context.dryer": "kiln", "stock.dryer_c": 700.0}, {"stock.dryer_h": 1e5},
            {"stock.wait_h": 1e5, "stock.wait_in": "open"}, {"lot.depth_mm": 0.0}, {"lot.depth_mm": 1e5},
            {"lot.width_mm": 0.0}, {"brief.print_h": 0.0}, {"brief.print_h": 1e5}, {"stock.dryer_h": 1e-6},
            *({"lot.stays": tuple(Stay(place=place, from_utc=at, temperature_c=celsius) for place, at in
                                  (("open", "2026-02-01T08:00:00Z"), ("dryer", "2026-02-10T08:00:00Z")))}
              for celsius in (-270.0, 360.0, 374.0, 800.0)),
        ):  # fmt: skip
            with self.subTest(changes):
                _, _, found = judged(changed(opened(BRACKET), changes))
                values = [
                    each.value for each in operation_of(found, "stock").figures if isinstance(each.value, Estimate)
                ]
                self.assertTrue(all(math.isfinite(each.low) and math.isfinite(each.high) for each in values))


class TestNever(TableTest):
    def test_never_is_kept_for_a_floor_and_a_floor_near_the_limit_is_a_watch(self):
        room = {"context.dryer": "shelf", "lot.flange": "metal"}
        for celsius, severity, tile in ((35.0, "stop", "never"), (62.0, "watch", "never")):
            records = changed(opened(BRACKET), room | {"stock.dryer_c": celsius})
            plan = plan_of(*recipe_and_context(records))
            found = finding(records, "stock.dryer.floor")
            with self.subTest(celsius):
                self.assertEqual(found.severity, severity)
                self.assertEqual(found.severity == "stop", plan.floor[LIKELY] > 2.0 * plan.limit)
                self.assertEqual(operation_of(judged(records)[2], "stock").tile[-1].text, tile)

    def test_usual_drying_of_petg_is_likely_dry_and_no_stop(self):
        lain = (Stay(place="open", from_utc="2026-01-01T08:00:00Z", temperature_c=23.0, humidity_pct=50.0),)
        usual = {
            "polymer": "petg", "lot.polymer": "petg", "lot.lot_values": {}, "lot.grade_values": {}, "lot.stays": lain,
            "lot.flange": "metal", "lot.strands": (), "context.dryer": "kiln", "stock.dryer_c": 65.0,
        }  # fmt: skip
        for hours, found in ((6.0, {"stock.moisture.unsure"}), (1.0, {"stock.moisture.wet"}), (24.0, set())):
            codes = codes_of(changed(opened(BRACKET), usual | {"stock.dryer_h": hours}))
            with self.subTest(hours=hours):
                self.assertEqual(codes & {"stock.moisture.unsure", "stock.moisture.wet"}, found)


class TestWhatIsKnown(TableTest):
    def test_wet_is_said_where_its_stays_or_a_drying_tell_it_and_asked_where_neither_does(self):
        hung = (Stay(place="open", from_utc="2026-02-01T08:00:00Z", temperature_c=23.0, humidity_pct=80.0),)
        for stays, hours, said in (
            (hung, None, "stock.moisture.wet"),
            ((), 1.0, "stock.moisture.wet"),
            (hung, 1.0, "stock.moisture.wet"),
            ((), None, "stock.moisture.unknown"),
        ):
            with self.subTest(stays=len(stays), hours=hours):
                codes = codes_of(bracket(lot__stays=stays, stock__dryer_h=hours))
                self.assertEqual(codes & {"stock.moisture.wet", "stock.moisture.unknown"}, {said})


class TestWords(TableTest):
    def test_a_polymer_that_shows_nothing_says_so_and_others_say_what(self):
        self.assertIn("weigh", figure(opened(SHELL), "stock.moisture.signs"))
        self.assertIn("steam", figure(opened(BRACKET), "stock.moisture.signs"))
        remedies = finding(opened(BRACKET), "stock.moisture.wet").remedies
        advice = next(each for each in remedies if each.title.startswith("Weigh it"))
        self.assertEqual(advice.values["signs"], figure(opened(BRACKET), "stock.moisture.signs"))

    def test_cautions_follow_heat_and_spool(self):
        def cautions(**changes):
            found = operation_of(judged(bracket(**changes))[2], "stock")
            return {each.code for each in found.cautions}

        self.assertEqual(cautions(stock__dryer_c=None), set())
        cool = cautions(stock__dryer_c=50.0, lot__flange="metal")
        self.assertEqual(cool, {"stock.no_food_oven"})
        self.assertEqual(cautions(stock__dryer_c=60.0, lot__flange="metal") - cool, {"stock.hot_spool"})
        self.assertEqual(cautions(stock__dryer_c=50.0, lot__flange="card") - cool, {"stock.soft_spool"})


class TestPicture(TableTest):
    def test_phases_meet_in_time_and_in_water(self):
        for card in every(RECORDS.cards):
            recipe, context = recipe_and_context(opened(card))
            found = picture(recipe, context)
            hours = [hour for phase in found.phases for hour in (phase.hours[0], phase.hours[-1])]
            with self.subTest(card):
                self.assertEqual(hours, sorted(hours))
                for before, after in itertools.pairwise(found.phases):
                    self.assertTrue(math.isclose(before.hours[-1], after.hours[0], abs_tol=1e-9))
                    for curve in ("mean", "deepest", "low", "high"):
                        ends, begins = getattr(before, curve)[-1], getattr(after, curve)[0]
                        np.testing.assert_allclose(begins, ends, rtol=0.02)
                        self.assertTrue((before.low <= before.mean * 1.001).all())
                        self.assertTrue((before.mean <= before.high * 1.001).all())

    def test_dryers_are_offered_with_the_quickest_first(self):
        recipe, context = recipe_and_context(opened(BRACKET))
        times = [each.worst_h for each in picture(recipe, context).options]
        self.assertEqual(len(times), len(RECORDS.dryers))
        self.assertEqual(times, sorted(times))
