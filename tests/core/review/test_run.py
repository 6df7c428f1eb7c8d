"""Operation 90 judged like an engineer: what other benches know is used, unknown and worse are never better."""

import itertools
import unittest
from datetime import datetime, timedelta

from kaustos.core.planning.layer_times import layers_at
from kaustos.core.records import Stay
from kaustos.core.records.job import JobPause
from kaustos.core.review.heat.case import heat_case
from kaustos.core.review.machine.warmth_findings import warmth_of
from kaustos.core.review.release.case import release_case
from kaustos.core.review.run import run_case
from kaustos.core.review.run.along import along_of
from kaustos.core.review.stock.plan import plan_of
from kaustos.core.review.supports.case import rest_min, support_case
from tests.asserting import every
from tests.core.review.cases import BRACKET, CLAMP, SHELL
from tests.support import NOW, at_once, changed, codes_of, every_card, opened, recipe_and_context

BONE_DRY = (Stay(place="dryer", from_utc="2026-02-25T08:00:00Z", temperature_c=120.0),
            Stay(place="sealed", from_utc="2026-02-27T08:00:00Z"))  # fmt: skip
OF_FILE = ("nozzle_c", "plate_c", "chamber_c")


def case_of(records):
    recipe, context = recipe_and_context(records)
    return run_case(recipe, context)


def of_day(records):
    return {code for code in codes_of(records) if code.startswith("run.day.")}


class TestHoursAreOneFigure(unittest.TestCase):
    def test_typed_hours_far_from_those_of_the_layers_are_told_until_they_are_typed_right(self):
        layers = case_of(opened(SHELL)).layer_hours
        for typed, is_told in ((layers.value, False), (1.2 * layers.high, False), (1.3 * layers.high, True),
                               (layers.low / 1.3, True)):  # fmt: skip
            records = changed(opened(SHELL), {"brief.print_h": typed})
            self.assertEqual("run.hours.layers" in codes_of(records), is_told, typed)
        taken = changed(records, {"brief.print_h": round(layers.value, 1)})
        self.assertNotIn("run.hours.layers", codes_of(taken))

    def test_a_part_laid_twice_as_quickly_takes_half_the_hours_less_what_is_no_layer(self):
        slow = case_of(changed(opened(SHELL), {"melt.speed_mm_s": 20.0})).layer_hours
        quick = case_of(changed(opened(SHELL), {"melt.speed_mm_s": 40.0})).layer_hours
        self.assertAlmostEqual(slow.value, 2.0 * quick.value, delta=0.02 * slow.value)

    def test_layers_tell_the_hours_where_nobody_typed_any(self):
        untold = case_of(changed(opened(SHELL), {"brief.print_h": None}))
        self.assertEqual(untold.hours, untold.layer_hours)

    def test_a_box_without_a_file_lays_the_mass_of_the_brief(self):
        """Mass conserved: length of bead times its section times density is what the brief says."""
        for infill in (35.0, 60.0, 100.0):
            recipe, context = recipe_and_context(changed(opened(BRACKET), {"melt.infill_pct": infill}))
            heat = heat_case(recipe, context)
            layers = layers_at(heat.times, recipe.brief.size_z_mm, heat.pace.height_mm)
            grams = float(layers @ heat.times.filled_mm2) * heat.pace.height_mm / 1e3
            grams *= context.polymer.value("density_g_cm3").value
            self.assertAlmostEqual(grams, recipe.brief.mass_g, delta=0.05 * recipe.brief.mass_g)

    def test_the_demo_firm_types_what_its_layers_take_all_but_for_the_clamp(self):
        told = {records.current for _, records in every_card()
                if {"run.hours.layers", "run.job.hours"} & codes_of(records)}  # fmt: skip
        self.assertEqual(told, {CLAMP})


class TestJoined(unittest.TestCase):
    def test_a_spool_that_is_dry_for_certain_is_not_waited_for(self):
        base = changed(opened(CLAMP), {"stock.dryer_h": 5.0})
        wet = changed(base, {"lot.stays": (Stay(place="open", from_utc="2026-02-01T08:00:00Z", humidity_pct=60.0),)})
        dry = changed(base, {"lot.stays": BONE_DRY})
        recipe, context = recipe_and_context(dry)
        plan = plan_of(recipe, context)
        self.assertLessEqual(plan.now.worst, plan.limit, "as the bench of the spool shows it")
        self.assertEqual(case_of(dry).dry_h, 0.0)
        self.assertGreaterEqual(case_of(wet).dry_h, 5.0)
        self.assertGreater(case_of(wet).proposed.at, case_of(dry).proposed.at)

    def test_no_start_is_proposed_before_the_machine_is_wanted(self):
        for hours in (2.0, 30.0, 71.0):
            wanted = NOW + timedelta(hours=hours)
            case = case_of(changed(opened(CLAMP), {"stock.wanted_utc": wanted.strftime("%Y-%m-%dT%H:%M:%SZ")}))
            with self.subTest(hours):
                self.assertGreaterEqual(case.proposed.at.timestamp(), wanted.timestamp())
        gone = changed(opened(CLAMP), {"stock.wanted_utc": "2026-02-20T08:00:00Z"})
        self.assertEqual(case_of(gone).proposed, case_of(opened(CLAMP)).proposed, "what is past is no matter")

    def test_the_chamber_is_waited_for_as_its_model_says_and_then_soaked(self):
        recipe, context = recipe_and_context(opened(SHELL))
        warm_up = 60.0 * warmth_of(recipe, context).times.air.value
        self.assertGreater(warm_up, 15.0)
        case = case_of(changed(opened(SHELL), {"heat.soak_min": 40.0}))
        self.assertAlmostEqual(case.heat_min, warm_up, places=3)
        load = next(each for each in case.hands if each.name == "load and heat up")
        self.assertAlmostEqual(-(load.at_min + load.minutes), warm_up + 40.0, places=3)

    def test_coats_want_hands_with_a_file_and_without_and_other_pauses_too(self):
        coats = {"supports.way": "coat", "context.job": None}
        planned = [each for each in case_of(changed(opened(CLAMP), coats)).hands if each.name == "coat"]
        self.assertTrue(planned, "planned from the places, where no file is bound")
        pauses = (JobPause(line=10.0, at_mm=5.0, after_h=0.2, word="M600"),
                  JobPause(line=20.0, at_mm=9.0, after_h=0.4, word="M0"))  # fmt: skip
        for way, name in (("coat", "coat"), ("grid", "it waits")):
            hands = case_of(changed(opened(CLAMP), {"supports.way": way, "job.pauses": pauses})).hands
            with self.subTest(way):
                self.assertEqual([each.at_min for each in hands if each.name == name], [12.0, 24.0])


class TestBead(unittest.TestCase):
    def test_a_bead_that_is_taken_from_the_file_is_that_of_the_file_whatever_multiplier_is_recorded(self):
        for multiplier in (None, 0.9, 1.0, 1.12):
            records = changed(opened(CLAMP), {"melt.multiplier": multiplier, "melt.width_mm": 0.95})
            found = next(each for each in at_once(records).findings() if each.code == "run.job.bead")
            taken = changed(records, found.remedies[0].changes)
            with self.subTest(multiplier):
                self.assertNotIn("run.job.bead", codes_of(taken))
                case = case_of(taken)
                self.assertAlmostEqual(case.section_mm2, case.wanted_mm2, delta=0.01 * case.section_mm2)


class TestTimer(unittest.TestCase):
    def found(self, hours, **changes):
        codes = codes_of(changed(opened(CLAMP), {"machine.timer_h": hours} | changes))
        return next((code for code in ("run.day.timer", "run.day.timer_tight") if code in codes), None)

    def test_a_shorter_timer_or_a_longer_run_never_says_better(self):
        order = (None, "run.day.timer_tight", "run.day.timer")
        for chain in (
            [self.found(hours) for hours in (9.0, 4.0, 2.2, 2.0, 1.9, 1.0, 0.2)],
            [self.found(3.0, **{"heat.soak_min": soak}) for soak in (0.0, 30.0, 70.0, 90.0, 300.0)],
        ):
            self.assertEqual([order.index(each) for each in chain], sorted(order.index(each) for each in chain))
            self.assertEqual((chain[0], chain[-1]), (None, "run.day.timer"))

    def test_what_is_advised_is_long_enough_and_none_is_none(self):
        records = changed(opened(CLAMP), {"machine.timer_h": 1.0})
        finding = next(each for each in at_once(records).findings() if each.code == "run.day.timer")
        self.assertIsNone(self.found(finding.remedies[0].values["hours"]))
        self.assertIsNone(self.found(0.0))
        self.assertIsNone(self.found(None))

    def test_a_place_inside_a_piece_has_the_layer_time_of_that_piece(self):
        for card in (CLAMP, SHELL):
            along = along_of(*recipe_and_context(opened(card)))
            middles = (along.tops_mm[1:] + along.tops_mm[:-1]) / 2.0
            for at_mm, seconds in every(zip(middles.tolist(), along.seconds.tolist(), strict=True), 2):
                with self.subTest(card, at_mm=at_mm):
                    self.assertEqual(along.at_height(at_mm).layer_s, seconds)

    def test_a_coat_by_hand_is_wanted_when_the_run_is_at_its_height(self):
        recipe, context = recipe_and_context(changed(opened(CLAMP), {"supports.way": "coat", "context.job": None}))
        along, heights = along_of(recipe, context), support_case(recipe, context).chosen.cost.pauses
        rest = rest_min(recipe)
        wanted = [60.0 * along.at_height(each).at_h + number * rest for number, each in enumerate(sorted(heights))]
        found = sorted(
            each.at_min for each in run_case(recipe, context).hands if each.name == "coat" and each.at_min > 0.0
        )
        self.assertGreater(len(found), 0)
        for one, other in zip(found, wanted, strict=True):
            self.assertAlmostEqual(one / other, 1.0, delta=0.01)

    def test_what_a_timer_leaves_is_what_heat_up_soak_and_print_do_not_take(self):
        recipe, context = recipe_and_context(changed(opened(CLAMP), {"machine.timer_h": 30.0}))
        run, left = run_case(recipe, context), release_case(recipe, context).timer_h
        self.assertGreater(run.heat_min, 1.0)
        self.assertAlmostEqual(left + run.heat_min / 60.0 + run.soak_min / 60.0 + run.hours.value, 30.0, places=6)

    def test_heat_that_is_held_over_night_says_for_how_long_and_that_the_timer_ends_it(self):
        night = {"plate.release": "hot", "rules.staffed_days": 1.0, "brief.print_h": 60.0, "context.job": None}
        texts = {}
        for timer in (None, 63.0):
            finding = next(
                each for each in at_once(changed(opened(BRACKET), night | {"machine.timer_h": timer})).findings()
                if each.code == "release.hot.alone"
            )  # fmt: skip
            hold = next(each for each in finding.remedies if "Hold it hot" in each.title)
            self.assertGreater(hold.values["hours"], 1.0)
            texts[timer] = hold.text
        self.assertIn("ends it after", texts[63.0])
        self.assertIn("End it when the part is off", texts[None])


class TestWorseIsNeverBetter(unittest.TestCase):
    def test_fewer_hours_with_somebody_there_never_find_less(self):
        for card in (CLAMP, BRACKET):
            for chain in (
                [{"rules.staffed_days": days} for days in (7.0, 5.0, 1.0, 0.0)],
                [{"rules.staffed_to_h": until} for until in (18.0, 12.0, 8.1, 8.0)],
            ):
                for better, worse in itertools.pairwise(changed(opened(card), each) for each in chain):
                    with self.subTest(card, chain=chain[0]):
                        self.assertLessEqual(bool(of_day(better)), bool(of_day(worse)))
        self.assertEqual(of_day(changed(opened(CLAMP), {"rules.staffed_days": 0.0})), {"run.day.nobody"})

    def test_another_start_is_proposed_only_where_it_is_better_and_it_is(self):
        records = changed(opened(CLAMP), {"rules.staffed_from_h": 10.0})
        case = case_of(records)
        found = next(each for each in at_once(records).findings() if each.code == "run.day.alone")
        self.assertEqual(found.values["when"], case.proposed.at.strftime("%a %H:%M"))
        self.assertGreaterEqual(datetime.fromisoformat(case.proposed.at.isoformat()).hour, 10)
        self.assertEqual(case.proposed.outside_min, 0.0)

    def test_a_file_that_leaves_something_cold_is_found_whatever_it_is(self):
        for field in OF_FILE:
            silent = codes_of(changed(opened(CLAMP), {f"job.{field}": None}))
            with self.subTest(field):
                self.assertIn("run.job.unheated", silent)

    def test_hours_of_a_file_are_found_where_the_machine_moves_otherwise(self):
        for name, value, wanted in (
            ("accel_mm_s2", None, False), ("accel_mm_s2", 1_600.0, False), ("accel_mm_s2", 300.0, True),
            ("corner_mm_s", 8.5, False), ("corner_mm_s", 1.0, True),
        ):  # fmt: skip
            records = changed(opened(CLAMP), {"job.accel_told": False, f"machine.{name}": value})
            with self.subTest(name, value=value):
                self.assertEqual("run.job.moved" in codes_of(records), wanted)
        told = changed(opened(CLAMP), {"job.accel_told": True, "machine.accel_mm_s2": 300.0})
        self.assertNotIn("run.job.moved", codes_of(told), "the file sets its own")
