"""The cheapest set of changes against brute force; what a change makes stale, cell by cell; heat proven in steps."""

import functools
import itertools
import random
import unittest

import attrs
import numpy as np

from kaustos.core.planning.commissioning import next_step
from kaustos.core.planning.configuration import calibrations_of, proven_of
from kaustos.core.planning.reach import reach_of
from kaustos.core.planning.sensors import ohm_at, truly_c
from kaustos.core.planning.upgrades import plan_of, risk_of, short_parts, upgraded, wanted_of
from kaustos.core.planning.work_order import before_power, ticks_of
from kaustos.core.records import CALIBRATIONS, Calibration, HeatStep, Machine, PartChange, Rules, Upgrade
from kaustos.core.records.machine import HeaterPart, NozzleZone, PlateZone, SensorPart
from kaustos.core.records.machine_logs import CHANGED
from kaustos.core.records.upgrade import GONE
from kaustos.demo.scenario import RECORDS
from tests.asserting import every

PARTS = ("nozzle.heater", "nozzle.sensor", "nozzle.firmware", "nozzle.liner", "plate.heater", "plate.magnet")
WANTED = {"nozzle": 300.0, "plate": 110.0}
RULES = Rules()


def low_machine():
    """A machine of which every part that matters stands too low."""
    beck = RECORDS.machines["beck"]
    return attrs.evolve(beck, heat_steps=(), chamber=attrs.evolve(beck.chamber))


def made_up(rng):
    """One to twelve changes that share limits and need one another."""
    ids = [f"u{n}" for n in range(rng.randint(1, 12))]
    changes = []
    for place, key in enumerate(ids):
        lifts = {part: rng.choice([GONE, 310.0, 320.0, 115.0, 290.0]) for part in rng.sample(PARTS, rng.randint(1, 4))}
        needs = tuple(rng.sample(ids[:place], min(place, rng.choice([0, 0, 1, 2]))))
        changes.append(Upgrade(id=key, name=key, lifts=lifts, needs=needs, price=float(rng.randint(0, 9) * 10),
                               hours=float(rng.randint(0, 6)), risk=rng.choice(["low", "some", "high"])))  # fmt: skip
    return changes


def brute_force(catalogue):
    """Price, hours and risk of the best of all subsets, one a row, by carrying each out; None where none will do."""
    ids = [each.id for each in catalogue]
    taken = (np.arange(2 ** len(ids))[:, None] >> np.arange(len(ids))) & 1 == 1
    will_do = np.ones(len(taken), bool)
    for place, change in enumerate(catalogue):
        for need in change.needs:
            will_do &= ~taken[:, place] | (taken[:, ids.index(need)] if need in ids else False)
    for part, max_c, wanted in limits_of():
        reached = np.full(len(taken), max_c)
        for place, change in enumerate(catalogue):
            if part in change.lifts:
                lifted = change.lifts[part]
                lifted = min(lifted, 240.0) if part == "nozzle.liner" and lifted < GONE else lifted
                reached = np.where(taken[:, place], np.maximum(reached, lifted), reached)
        will_do &= reached >= wanted
    costs = np.array([[each.price, each.hours, risk_of(each)] for each in catalogue])
    worth = taken[will_do] @ costs
    return tuple(min(map(tuple, worth.tolist()))) if len(worth) else None


@functools.cache
def limits_of():
    """Every part that limits a zone, how far it goes and how far it is to go."""
    return [(f"{zone}.{limit.part}", limit.max_c, wanted) for zone, wanted in WANTED.items()
            for limit in reach_of(low_machine(), zone, RULES).limits]  # fmt: skip


class TestPlan(unittest.TestCase):
    def test_cost_then_hours_then_risk_equal_brute_force_on_made_up_catalogues(self):
        machine, possible = low_machine(), 0
        for seed in range(2_000):
            catalogue = made_up(random.Random(seed))
            expected, plan = brute_force(catalogue), plan_of(machine, WANTED, catalogue, RULES)
            with self.subTest(seed):
                if expected is None:
                    self.assertFalse(plan.is_possible)
                    self.assertTrue(plan.blocked)
                else:
                    possible += 1
                    self.assertEqual((plan.cost, plan.hours, plan.risk), expected)
        self.assertGreater(possible, 300)

    def test_a_plan_that_is_carried_out_reaches_what_was_wanted_and_comes_in_an_order_that_can_be_done(self):
        plans = (plan_of(low_machine(), WANTED, made_up(random.Random(seed)), RULES) for seed in range(300))
        for plan in every(each for each in plans if each.steps):
            done = []
            for step in every(plan.steps):
                planned = {each.change.id for each in plan.steps}
                self.assertTrue(all(need in done for need in step.change.needs if need in planned))
                done.append(step.change.id)

    def test_a_liner_is_lifted_by_no_rating_only_by_being_gone(self):
        for limit, can in ((400.0, False), (GONE, True)):
            change = Upgrade(id="u", lifts={"nozzle.liner": limit, "nozzle.heater": 400.0, "nozzle.sensor": 400.0,
                                            "nozzle.firmware": 400.0}, price=1.0)  # fmt: skip
            self.assertEqual(plan_of(low_machine(), {"nozzle": 300.0}, [change], RULES).is_possible, can)

    def test_what_no_change_lifts_is_named_with_the_best_there_is(self):
        plan = plan_of(low_machine(), {"plate": 150.0}, [Upgrade(id="u", lifts={"plate.heater": 130.0})], RULES)
        heater = next(each for each in plan.blocked if each.part == "plate.heater")
        self.assertEqual((heater.limit_c, heater.best_c, heater.wanted_c), (100.0, 130.0, 150.0))

    def test_nothing_is_planned_for_a_machine_that_can(self):
        plan = plan_of(RECORDS.machines["crag"], wanted_of([RECORDS.polymers["pc"]]), [], RULES)
        self.assertTrue(plan.is_possible)
        self.assertEqual(plan.steps, ())

    def test_a_price_that_is_not_recorded_is_said(self):
        change = Upgrade(
            id="u", name="Clips", lifts={"plate.magnet": GONE, "plate.heater": 130.0, "plate.firmware": 130.0}
        )
        self.assertEqual(plan_of(low_machine(), {"plate": 110.0}, [change], RULES).unknown, ("Clips",))

    def test_an_upgraded_heater_is_rated_and_no_longer_proven(self):
        tarn = RECORDS.machines["tarn"]
        after = upgraded(tarn, Upgrade(id="u", lifts={"nozzle.heater": 500.0}))
        self.assertIsNotNone(proven_of(tarn, "nozzle"))
        self.assertIsNone(proven_of(after, "nozzle"))
        self.assertEqual((after.nozzle.heater.max_c, after.nozzle.heater.basis), (500.0, "rated"))
        self.assertNotIn("nozzle.heater", short_parts(after, {"nozzle": 480.0}, RULES))


class TestWorkOrder(unittest.TestCase):
    def test_power_comes_after_photo_cold_fit_wires_table_limits_and_dry_run(self):
        change = RECORDS.upgrades["hot_heater"]
        first, every = before_power([change]), [each.key for each in ticks_of([change])]
        for key in (
            "photo",
            "old",
            "cold",
            f"fit.{change.id}",
            f"skilled.{change.id}",
            "clear",
            "table",
            "limits",
            "travel",
        ):
            self.assertIn(key, first)
        self.assertEqual(every[: len(first)], list(first))
        self.assertIn("steps.nozzle", every[len(first) :])
        self.assertIn("again.nozzle_offset", every[len(first) :])


STALE = """
part           | Nof Pof Cof | Ntu Ptu Ctu | Npr Ppr Cpr | gap lev flo fee fit dro sha | mul lad acr ovh sga
head           |  x   .   .  |  x   .   .  |  x   .   .  |  x   .   x   .   .   .   . |  x   x   x   x   x  .
nozzle         |  x   .   .  |  .   .   .  |  .   .   .  |  x   .   x   .   .   .   . |  x   x   .   x   x  .
nozzle_heater  |  x   .   .  |  x   .   .  |  x   .   .  |  .   .   x   .   .   .   . |  .   x   .   .   .  .
nozzle_sensor  |  x   .   .  |  x   .   .  |  x   .   .  |  .   .   x   .   .   .   . |  .   x   x   .   .  .
drive          |  .   .   .  |  .   .   .  |  .   .   .  |  .   .   x   x   .   .   . |  x   .   .   .   .  .
probe          |  .   .   .  |  .   .   .  |  .   .   .  |  x   x   .   .   .   .   . |  .   .   .   .   .  .
plate_stack    |  .   x   .  |  .   x   .  |  .   .   .  |  x   x   .   .   .   x   . |  .   .   .   .   .  x
plate_heater   |  .   x   .  |  .   x   .  |  .   x   .  |  .   x   .   .   x   x   . |  .   .   .   .   .  x
plate_sensor   |  .   x   .  |  .   x   .  |  .   x   .  |  .   .   .   .   .   x   . |  .   .   .   .   .  .
chamber_heater |  .   .   x  |  .   .   x  |  .   .   x  |  .   .   .   .   x   .   . |  .   .   .   .   .  .
chamber_sensor |  .   .   x  |  .   .   x  |  .   .   x  |  .   .   .   .   .   .   . |  .   .   .   .   .  .
enclosure      |  .   .   x  |  .   .   x  |  .   .   x  |  .   .   .   .   x   .   . |  .   .   x   .   .  x
fan            |  .   .   .  |  x   .   .  |  .   .   .  |  .   .   .   .   .   .   . |  .   .   .   x   x  .
firmware       |  x   x   x  |  x   x   x  |  x   x   x  |  x   .   .   x   .   .   . |  .   .   .   .   .  .
frame          |  .   .   .  |  .   .   .  |  .   .   .  |  x   x   .   .   .   .   x |  .   .   .   .   .  .
"""
KINDS = ("nozzle_offset", "plate_offset", "chamber_offset", "nozzle_tuning", "plate_tuning", "chamber_tuning",
         "nozzle_proven", "plate_proven", "chamber_proven", "gap", "level", "flow", "feed", "chamber_fit", "plate_drop",
         "shape", "multiplier", "ladder", "across", "overhang", "support_gap", "plate_cooling")  # fmt: skip


class TestStale(unittest.TestCase):
    def test_every_cell_of_part_changed_against_calibration(self):
        self.assertEqual(set(KINDS), set(CALIBRATIONS))
        rows = [line.replace("|", " ").split() for line in STALE.strip().splitlines()[1:]]
        self.assertEqual({row[0] for row in rows}, set(CHANGED))
        for part, *cells in rows:
            changes = (PartChange(part=part, at_utc="2026-02-01T08:00:00Z"),)
            machine = Machine(id="m", changes=changes)
            for kind, cell in zip(KINDS, cells, strict=True):
                before, after = (
                    calibrations_of(machine, [Calibration(id="c", machine="m", kind=kind, done_utc=at)])[0]
                    for at in ("2026-01-01T08:00:00Z", "2026-03-01T08:00:00Z")
                )
                with self.subTest(part, kind=kind):
                    self.assertEqual(not before.is_valid, cell == "x")
                    self.assertTrue(after.is_valid, "what was measured after the change stands")

    def test_the_newest_of_a_kind_counts_and_that_of_another_machine_does_not(self):
        found = [Calibration(id=f"c{n}", machine=machine, kind="gap", done_utc=f"2026-01-0{n}T08:00:00Z")
                 for n, machine in ((1, "m"), (3, "m"), (2, "m"), (4, "other"))]  # fmt: skip
        self.assertEqual([each.id for each in calibrations_of(Machine(id="m"), found)], ["c3"])


class TestProven(unittest.TestCase):
    def machine(self, *steps, changes=(), heater=None):
        logged = tuple(HeatStep(zone="nozzle", setpoint_c=at, reached_c=came, verdict=verdict, seen=seen,
                                at_utc=f"2026-01-0{n}T08:00:00Z")
                       for n, (at, came, seen, verdict) in enumerate(steps, start=1))  # fmt: skip
        zone = NozzleZone(heater=heater or HeaterPart(fitted=True, rated_c=300.0), sensor=SensorPart(kind="pt1000"))
        return Machine(id="m", nozzle=zone, plate=PlateZone(), heat_steps=logged, changes=changes)

    def test_the_hottest_step_that_was_held_is_proven_and_a_stop_caps_it(self):
        good = ((200.0, 199.0, "nothing", "go"), (250.0, 248.0, "nothing", "go"))
        self.assertEqual(proven_of(self.machine(*good), "nozzle").max_c, 248.0)
        smoked = (*good, (230.0, 230.0, "smoke", "stop"))
        self.assertEqual(proven_of(self.machine(*smoked), "nozzle").max_c, 199.0)
        stopped = next_step(self.machine(*smoked), "nozzle", RULES)
        self.assertEqual((stopped.setpoint_c, stopped.soak_min), (None, 0.0))

    def test_a_change_of_heater_sensor_or_firmware_voids_it(self):
        step = (250.0, 250.0, "nothing", "go")
        for part, left in (("nozzle_heater", None), ("firmware", None), ("fan", 250.0), ("probe", 250.0)):
            changes = (PartChange(part=part, at_utc="2026-02-01T08:00:00Z"),)
            proven = proven_of(self.machine(step, changes=changes), "nozzle")
            self.assertEqual(proven and proven.max_c, left, part)

    def test_steps_are_25_to_50_kelvin_and_never_pass_the_lowest_limit(self):
        machine, steps = self.machine(), []
        for _ in range(20):
            found = next_step(machine, "nozzle", RULES)
            if found.setpoint_c is None:
                break
            steps.append(found.setpoint_c)
            machine = self.machine(*((each, each, "nothing", "go") for each in steps[-9:]))
        rises = [b - a for a, b in itertools.pairwise([RULES.room_c, *steps])]
        self.assertEqual(steps[-1], 300.0)
        self.assertTrue(all(0.0 < each <= 52.0 for each in rises), rises)
        self.assertTrue(all(each <= 27.5 for each in rises[-2:]), rises)

    def test_within_a_kelvin_of_the_end_there_is_no_next_step_and_before_it_there_is(self):
        for reached, wanted in ((298.5, 300.0), (299.5, None)):
            step = (reached, reached, "nothing", "go")
            self.assertEqual(next_step(self.machine(step), "nozzle", RULES).setpoint_c, wanted, reached)

    def test_a_heater_that_fell_short_is_held_to_what_it_reached_and_one_not_asked_further_is_not(self):
        heater = HeaterPart(fitted=True, max_c=280.0, basis="rated")
        for seen, expected in (("short", 262.0), ("nothing", 280.0)):
            reach = reach_of(self.machine((280.0, 262.0, seen, "go"), heater=heater), "nozzle", RULES)
            self.assertEqual(reach.max_c, expected)
        self.assertGreaterEqual(reach.low_c, 262.0, "what was held is sure")

    def test_a_kind_of_sensor_limits_its_zone(self):
        machine = self.machine()
        for kind, low, high in (("ntc", 250.0, 300.0), ("pt1000", 450.0, 500.0)):
            zone = attrs.evolve(
                machine.nozzle, sensor=SensorPart(kind=kind), heater=HeaterPart(fitted=True, rated_c=600.0)
            )
            self.assertTrue(low <= reach_of(attrs.evolve(machine, nozzle=zone), "nozzle", RULES).max_c <= high)


class TestSensors(unittest.TestCase):
    def test_platinum_is_as_in_its_standard(self):
        for at, ohm in ((0.0, 100.0), (100.0, 138.51), (200.0, 175.86), (400.0, 247.09)):
            self.assertAlmostEqual(ohm_at("pt100", at), ohm, delta=0.02)

    def test_a_thermistor_near_300_has_some_hundred_ohms(self):
        self.assertTrue(80.0 <= ohm_at("ntc", 300.0) <= 250.0)

    def test_the_wrong_table_is_off_by_tens_of_kelvins_and_the_right_one_by_nothing(self):
        self.assertGreater(abs(truly_c("ntc_glass", "ntc", 280.0) - 280.0), 10.0)
        self.assertAlmostEqual(truly_c("pt1000", "pt1000", 250.0), 250.0, delta=0.1)
        self.assertIsNone(truly_c("type_k", "ntc", 250.0))
        back = truly_c("ntc", "ntc_glass", truly_c("ntc_glass", "ntc", 260.0))
        self.assertAlmostEqual(back, 260.0, delta=0.5)


if __name__ == "__main__":
    unittest.main()
