"""Operation 30: reach against brute force, stops, grades and what is not recorded."""

import collections
import itertools
import math
import random
import unittest

import attrs
from hypothesis import Phase, example, given, settings
from hypothesis import strategies as st

from kaustos.app.judge import context_of_records
from kaustos.app.wording import Wording
from kaustos.core.errors import FieldError
from kaustos.core.planning.reach import PLAUSIBLE_LOW_C, parts_of, reach_of
from kaustos.core.records import ZONES, Machine, Part, PassivePart, Rules
from kaustos.core.records.machine import SensorPart
from kaustos.core.review import CODES, GRADES, Advice, Choose, Set
from kaustos.core.review.machine import picture
from kaustos.demo.scenario import RECORDS
from kaustos.library import load
from tests.asserting import every
from tests.core.review.cases import CASES, grid
from tests.core.review.test_registry import assert_remedies_hold
from tests.support import (
    NOW,
    at_once,
    changed,
    codes_of,
    every_card,
    judged,
    opened,
    operation_of,
    recipe_and_context,
    said_by,
    with_offers,
)


def random_machine(rng):
    """A machine of random parts, some absent, some not recorded."""

    def part(blank):
        fitted = rng.choice([True, True, True, False, None])
        limit = rng.choice([None, round(rng.uniform(30.0, 480.0), 1)]) if fitted is not False else None
        return attrs.evolve(blank, fitted=fitted, max_c=limit, basis=rng.choice(["proven", "rated", "claimed", None]))

    empty = Machine(id="made up")
    zones = {
        zone: attrs.evolve(
            getattr(empty, zone), **{name: part(blank) for name, blank in parts_of(getattr(empty, zone))}
        )
        for zone in ZONES
    }
    return Machine(id="made up", **zones)


def brute_force(machine, zone):
    """All limits of a zone by walking the record as a plain dictionary, lowest first."""
    found = []
    for name, part in attrs.asdict(getattr(machine, zone)).items():
        if name == "extra" or part["fitted"] is not True:
            continue
        if zone == "chamber" and machine.chamber.heater.fitted is False and name in ("sensor", "firmware"):
            continue  # nothing is set where nothing heats
        if name == "liner":
            found.append((min(240.0, part["max_c"] if part["max_c"] is not None else 240.0), name))
        elif part["max_c"] is not None:
            found.append((part["max_c"], name))
    return sorted(found, key=lambda each: each[0])


class TestSaid(unittest.TestCase):
    def test_the_tile_says_what_is_to_spare_in_the_zone_of_the_headline(self):
        for machine in every(RECORDS.machines):
            found = operation_of(judged(opened("probe_head_shell", machine))[2], "machine")
            gap = next(each.value for each in found.figures if each.key == found.headline)
            for saying in every(found.tile):
                with self.subTest(machine, said=saying.text):
                    self.assertEqual(saying.values["zone"], found.headline.split(".")[1])
                    self.assertAlmostEqual(saying.values["gap"], abs(gap.value))

    def test_a_zone_that_would_do_but_is_set_over_its_reach_says_how_far(self):
        for setpoint, words in ((240.0, "K spare"), (242.0, "nozzle over 2 K"), (251.0, "nozzle over 11 K")):
            guide = {"melt.nozzle_c": setpoint, "first_layer.nozzle_c": 240.0}
            found = operation_of(judged(changed(opened("cable_guide", "beck"), guide))[2], "machine")
            with self.subTest(setpoint):
                self.assertEqual(found.standing == "stop", setpoint > 240.0)
                self.assertEqual(found.headline, "machine.nozzle.gap")
                self.assertIn(words, Wording().tiles(found)[0])

    def test_a_nozzle_near_decomposition_is_set_to_the_whole_degree_below_where_it_may_begin(self):
        records = changed(opened("probe_head_shell", "crag"), {"melt.nozzle_c": 390.0})
        found = next(each for each in judged(records)[2].findings() if each.code == "machine.nozzle.near_decomposition")
        begins = judged(records)[1].polymer.value("decomposition_c").low
        high = judged(records)[1].polymer.value("nozzle_high_c").value
        self.assertEqual(dict(found.remedies[0].changes)["melt.nozzle_c"], min(high, begins - 1.0))


class TestReach(unittest.TestCase):
    def test_bottleneck_and_next_equal_brute_force_over_made_up_machines(self):
        rng = random.Random(30)
        for number in range(500):
            machine = random_machine(rng)
            for zone in ZONES:
                with self.subTest(number, zone=zone):
                    reach, expected = reach_of(machine, zone, Rules()), brute_force(machine, zone)
                    self.assertEqual([limit.max_c for limit in reach.limits], [each[0] for each in expected])
                    if expected:
                        lowest = {name for limit, name in expected if limit == expected[0][0]}
                        self.assertIn(reach.bottleneck.part, lowest)
                        self.assertLess(reach.low_c, reach.max_c)
                    if len(expected) > 1:
                        self.assertEqual(reach.next.max_c, expected[1][0])

    def test_a_chamber_without_heater_reaches_what_the_plate_warms_it_to(self):
        beck = RECORDS.machines["beck"]
        self.assertEqual(reach_of(beck, "chamber", Rules()).bottleneck.part, "heater")
        self.assertEqual(reach_of(beck, "chamber", Rules()).max_c, 32.0)

    def test_a_liner_stops_at_240_whatever_it_is_rated_and_nobody_can_raise_that(self):
        for rated, expected in ((None, 240.0), (260.0, 240.0), (230.0, 230.0)):
            machine = changed(opened("cable_guide", "beck"), {"machine.nozzle.liner.max_c": rated}).machines["beck"]
            self.assertEqual(reach_of(machine, "nozzle", Rules()).max_c, expected)
        with self.assertRaises(FieldError):
            Rules(liner_stop_c=241.0)
        self.assertEqual(reach_of(RECORDS.machines["beck"], "nozzle", Rules(liner_stop_c=235.0)).max_c, 235.0)


def blank(place):
    """A part of which nothing is recorded."""
    zone, part = place.split(".")
    return type(getattr(getattr(Machine(id=""), zone), part))()


class TestGrades(unittest.TestCase):
    def grade(self, **changes):
        records = changed(opened("probe_head_shell", "crag"), {key.replace("__", "."): v for key, v in changes.items()})
        return at_once(records).grade

    def test_a_recipe_inside_every_window_is_functional(self):
        self.assertEqual(self.grade().value, "functional")
        self.assertEqual(self.grade().until_known, ())

    def test_hard_limits_and_soft_feet_cap_whatever_the_weld(self):
        for changes, expected in (
            ({"melt__nozzle_c": 441.0}, "no_go"),  # beyond the firmware limit
            ({"plate__bed_c": 150.0}, "functional"),  # the plate does not cap by itself
            ({"first_layer__nozzle_c": 345.0}, "functional"),  # the weld between layers does not see it
            ({"plate__bed_c": 196.0}, "decorative"),
            ({"first_layer__bed_c": 196.0}, "functional"),  # one hot layer does not sag
            ({"melt__nozzle_c": 270.0}, "no_go"),  # cannot be extruded
        ):
            with self.subTest(changes):
                self.assertEqual(self.grade(**changes).value, expected)

    def test_a_window_that_is_missed_caps_by_the_weld_it_leaves(self):
        """What one kelvin too little was worth before is now what the weld keeps: half and three tenths of the bulk."""
        grades = []
        for air in (125.0, 110.0, 80.0, 60.0, 40.0, 25.0):
            records = changed(opened("probe_head_shell", "crag"), {"heat.chamber_c": air})
            found = at_once(records)
            figures = {each.key: each.value for each in operation_of(found, "heat").figures}
            share = figures["heat.weld.share"].value
            wanted = "functional" if share >= 50.0 else "reduced" if share >= 30.0 else "decorative"
            wanted = "decorative" if 125.0 - air >= 55.0 else wanted  # past mending
            grades.append(GRADES.index(found.grade.value))
            with self.subTest(air, share=share):
                self.assertEqual(found.grade.value, wanted)
        self.assertEqual(grades, sorted(grades, reverse=True))
        self.assertEqual((grades[0], grades[-1]), (3, 1))

    def test_all_caps_are_listed_and_the_lowest_rules(self):
        grade = self.grade(heat__chamber_c=25.0, first_layer__nozzle_c=451.0)
        self.assertEqual(grade.value, "no_go")
        self.assertIn("machine.nozzle.beyond_reach", grade.because)
        self.assertIn("heat.weld.weak", [cap.code for cap in grade.caps])

    def test_the_rule_of_the_shop_moves_the_cap(self):
        self.assertEqual(self.grade().value, "functional")
        self.assertEqual(self.grade(rules__functional_pct=95.0).value, "reduced")
        self.assertEqual(self.grade(rules__functional_pct=95.0, rules__reduced_pct=92.0).value, "decorative")

    def test_not_recorded_is_never_fine(self):
        grade = self.grade(machine__nozzle__sensor=SensorPart())
        self.assertEqual(grade.value, "functional")
        self.assertEqual(grade.until_known, ("machine.nozzle.sensor",))

    def on_every_machine(self):
        """Two recipes on each machine."""
        seen = collections.Counter()
        for name, records in every_card():
            seen[records.card.machine] += 1
            if seen[records.card.machine] <= 2:
                yield name, records

    def test_a_missing_part_is_said_to_bring_what_its_worst_value_brings(self):
        for name, records in every(self.on_every_machine(), 8):
            for place, low in PLAUSIBLE_LOW_C.items():
                found = at_once(changed(records, {f"machine.{place}": blank(place), "machine.heat_steps": ()}))
                asked = [each.worst for each in found.completeness.missing if each.field == f"machine.{place}"]
                if not asked:
                    self.assertIn("firmware" if "firmware" in place else "sensor", place)  # of air that nothing heats
                    continue
                said = asked[0]
                worst = at_once(
                    changed(
                        records,
                        {
                            f"machine.{place}": attrs.evolve(blank(place), fitted=True, max_c=low, basis="rated"),
                            "machine.heat_steps": (),
                        },
                    )
                )
                with self.subTest(name, part=place):
                    if said == "no_go":
                        self.assertEqual(worst.grade.value, "no_go")
                    else:
                        self.assertEqual(worst.grade.value, found.grade.value)

    def test_missing_fields_stand_in_the_order_in_which_they_would_change_the_grade(self):
        changes = {"machine.nozzle.firmware": Part(), "machine.rate_per_h": None, "brief.purpose": None,
                   "brief.service_c": None}  # fmt: skip
        _, _, found = judged(changed(opened("probe_head_shell", "crag"), changes))
        fields = [each.field for each in found.completeness.missing]
        self.assertEqual(
            fields, ["machine.nozzle.firmware", "brief.service_c", "brief.purpose", "machine.nozzle.firmware.basis",
                     "machine.rate_per_h", "calibration.plate_offset", "context.job"],
        )  # fmt: skip


class TestFindings(unittest.TestCase):
    def test_a_plate_that_was_probed_cold_or_at_a_heat_nobody_noted_is_to_be_probed_again(self):
        for probed, says in ((None, "a heat that is not recorded"), (25.0, "25 °C"), (150.0, None)):
            records = changed(opened("probe_head_shell", "crag"), {"machine.grids": (grid(0.0, 0.0, probed),)})
            found = {each.code: each for each in said_by("machine", records).findings}.get("machine.plate.cold_probed")
            with self.subTest(probed):
                self.assertEqual(found and found.values["probed"], says)

    def test_worst_comes_first_then_the_dearest(self):
        for name, records in every_card():
            with self.subTest(name):
                findings = judged(records)[2].findings()
                cost = lambda each: each.cost.value if each.cost else 0.0  # noqa: E731
                led = lambda each, by: each.due_to == by.code and each.severity == by.severity  # noqa: E731
                heads = [each for each in findings if not any(led(each, other) for other in findings)]
                ranks = [
                    (head.severity == "watch", head.basis != "people",
                     -max(cost(head), *(cost(each) for each in findings if led(each, head)), 0.0))
                    for head in heads
                ]  # fmt: skip
                self.assertEqual(ranks, sorted(ranks))
                after = itertools.chain.from_iterable(
                    (head, *(each for each in findings if led(each, head))) for head in heads
                )
                self.assertEqual([id(each) for each in findings], [id(each) for each in after])

    def test_a_part_that_gives_way_adds_its_price(self):
        dear = changed(opened("probe_head_shell"), {"machine.chamber.plastics.price": 500.0})
        costs = [judged(each)[2].findings()[0].stake.value for each in (opened("probe_head_shell"), dear)]
        self.assertAlmostEqual(costs[1] - costs[0], 500.0 - 80.0)

    def test_the_cost_of_a_run_is_filament_and_hours(self):
        figures = judged(opened("probe_head_shell", "crag"))[2].operations[0].figures
        cost = next(each.value for each in figures if each.key == "brief.run.cost")
        self.assertAlmostEqual(cost.value, 0.162 * 190.0 + 5.8 * 11.0)
        self.assertAlmostEqual(cost.high - cost.low, 0.162 * (300.0 - 130.0))

    def test_a_stop_offers_the_machine_that_cures_it_and_no_other(self):
        findings = judged(opened("probe_head_shell"))[2].findings()
        offered = {each.id for finding in findings for each in finding.remedies
                   if isinstance(each, Choose) and each.what == "machine"}  # fmt: skip
        self.assertEqual(offered, {"crag"})

    def test_moving_lifts_setpoints_into_their_windows_in_the_same_step(self):
        records = changed(opened("probe_head_shell"), {"heat.chamber_c": 90.0})
        stops = [each for each in judged(records)[2].findings() if each.severity == "stop"]
        move = next(each for finding in stops for each in finding.remedies if isinstance(each, Choose))
        carried = {"melt.nozzle_c": 365.0 - 4.0 - 2.0, "first_layer.nozzle_c": 370.0 - 4.0 - 2.0}  # true less shown
        self.assertEqual(dict(move.changes), {"heat.chamber_c": 125.0} | carried)

    def test_a_plate_hotter_than_the_nozzle_is_accepted_and_is_a_stop(self):
        records = changed(opened("cable_guide", "crag"), {"plate.bed_c": 260.0, "melt.nozzle_c": 240.0})
        self.assertIn("machine.nozzle.below_plate", codes_of(records, "stop"))

    def test_crystals_rule_where_a_polymer_crystallises_while_it_prints(self):
        hot = {"polymer": "pa6", "plate.bed_c": 207.0, "first_layer.bed_c": 100.0, "heat.chamber_c": 174.0}
        found = codes_of(changed(opened("probe_head_shell", "crag"), hot), "stop")
        self.assertLessEqual({"machine.plate.near_melting", "machine.chamber.near_crystallisation"}, found)
        near = hot | {"plate.bed_c": 206.0, "heat.chamber_c": 173.0}
        found = codes_of(changed(opened("probe_head_shell", "crag"), near))
        self.assertFalse({code for code in found if "near_" in code or "glass_transition" in code or "sags" in code})

    def test_a_crystal_must_melt_before_it_passes_the_nozzle(self):
        for setpoint, stopped in ((220.0, True), (221.0, False)):
            cold = {"polymer": "pa6", "melt.nozzle_c": setpoint}
            found = codes_of(changed(opened("probe_head_shell", "crag"), cold))
            self.assertEqual("machine.nozzle.cannot_extrude" in found, stopped, "PA6 melts at 221 °C")

    def test_a_nozzle_that_just_reaches_what_melts_is_set_and_one_a_kelvin_short_is_changed(self):
        for reach, kind in ((275.0, Set), (274.0, Advice)):  # PEI-PC: 185 °C and 90 K above its glass transition
            cold = {"melt.nozzle_c": 200.0, "machine.nozzle.firmware.max_c": reach}
            found = judged(changed(opened("probe_head_shell", "crag"), cold))[2].findings()
            finding = next(each for each in found if each.code == "machine.nozzle.cannot_extrude")
            self.assertIsInstance(finding.remedies[0], kind)

    def test_a_claimed_reach_is_lowered_to_what_it_holds_at_least(self):
        claimed = {"machine.nozzle.heater.max_c": 385.0, "machine.nozzle.heater.basis": "claimed",
                   "melt.nozzle_c": 372.0, "machine.heat_steps": ()}  # fmt: skip
        _, context, found = judged(changed(opened("probe_head_shell", "crag"), claimed))
        finding = next(each for each in found.findings() if each.code == "machine.nozzle.reach_claimed")
        least = reach_of(context.machine, "nozzle", context.rules).low_c
        self.assertEqual(finding.values["safe"], math.floor(least))
        self.assertLess(finding.values["safe"], 372.0)
        self.assertEqual(dict(finding.remedies[0].changes)["melt.nozzle_c"], finding.values["safe"])

    def test_a_zone_that_is_not_set_is_judged_all_the_same(self):
        for machine in every(RECORDS.machines):
            for fields in (("heat.chamber_c",), ("plate.bed_c", "first_layer.bed_c"), ("melt.nozzle_c",),
                           ("heat.chamber_c", "plate.bed_c", "first_layer.bed_c", "melt.nozzle_c",
                            "first_layer.nozzle_c")):  # fmt: skip
                _, _, found = judged(changed(opened("probe_head_shell", machine), dict.fromkeys(fields)))
                with self.subTest(machine, fields=fields):
                    unasked = {"heat.chamber_c"} if machine in ("beck", "gill") else set()
                    self.assertLessEqual(set(fields) - {"first_layer.bed_c", "first_layer.nozzle_c"} - unasked,
                                         {each.field for each in found.completeness.missing})  # fmt: skip

    def test_headroom_is_said_of_heaters_and_not_of_what_only_holds(self):
        near = {"plate.bed_c": 158.0, "first_layer.bed_c": 150.0}
        for part, said in (("heater", True), ("firmware", False), ("sensor", False), ("backing", False)):
            limits = {f"machine.plate.{each}.max_c": 160.0 if each == part else 250.0
                      for each in ("heater", "firmware", "sensor", "backing")}  # fmt: skip
            rated = {f"machine.plate.{each}.basis": "proven" for each in ("heater", "firmware", "sensor", "backing")}
            codes = codes_of(changed(opened("probe_head_shell", "tarn"), near | limits | rated))
            with self.subTest(part):
                self.assertEqual("machine.plate.no_headroom" in codes, said)
        gill = changed(opened("winch_bracket"), {"heat.chamber_c": 47.0})
        self.assertNotIn("machine.chamber.no_headroom", codes_of(gill), "a chamber without a heater has none to spare")

    def test_a_slip_in_one_number_is_one_finding_and_its_remedy_sets_both(self):
        for machine, both, code in (
            ("tarn", {"melt.nozzle_c": 405.0, "first_layer.nozzle_c": 402.0}, "machine.nozzle.beyond_reach"),
            ("tarn", {"melt.nozzle_c": 402.0, "first_layer.nozzle_c": 405.0}, "machine.nozzle.beyond_reach"),
            ("crag", {"melt.nozzle_c": 345.0, "first_layer.nozzle_c": 330.0}, "machine.nozzle.below_window"),
            ("crag", {"plate.bed_c": 190.0, "first_layer.bed_c": 190.0}, "machine.plate.above_window"),
        ):
            records = changed(opened("probe_head_shell", machine), both)
            found = judged(records)[2]
            with self.subTest(code, both=both):
                alike = [each for each in found.findings() if each.code == code]
                self.assertEqual(len(alike), 1)
                words = Wording().text(alike[0])
                self.assertIn("first layer", words)
                extreme = min(both.values()) if code.endswith("below_window") else max(both.values())
                self.assertEqual(alike[0].values["setpoint"], extreme)
                self.assertEqual(set(alike[0].remedies[0].changes) & set(both), set(both))
                self.assertNotIn(code, codes_of(changed(records, dict(alike[0].remedies[0].changes))))

    def test_half_a_record_still_speaks(self):
        hot = {"polymer": None, "context.lot": None, "melt.nozzle_c": 260.0}
        self.assertIn("machine.nozzle.liner_limit", codes_of(changed(opened("cable_guide", "beck"), hot)))
        boiled = {"context.machine": None, "melt.nozzle_c": 300.0}
        found = judged(changed(opened("cable_guide", "beck"), boiled))[2]
        self.assertIn("machine.nozzle.decomposition", {each.code for each in found.findings()})
        self.assertEqual((found.grade.value, found.operations[2].standing), ("no_go", "stop"))
        cold = {"context.machine": None, "melt.nozzle_c": 150.0}
        self.assertIn("machine.nozzle.cannot_extrude", codes_of(changed(opened("cable_guide"), cold)))

    def test_a_lined_hot_end_is_signed_for_below_its_rating_and_never_above(self):
        hot = {"first_layer.nozzle_c": None, "machine.nozzle.liner.max_c": 260.0}
        for basis, setpoint, code in (
            ("rated", 237.0, None), ("rated", 240.0, "at_stop"), ("rated", 241.0, "rated"),
            ("proven", 255.0, "rated"), ("rated", 256.0, "limit"),
            ("claimed", 241.0, "limit"), (None, 241.0, "limit"),
        ):  # fmt: skip
            there = hot | {"machine.nozzle.liner.basis": basis, "melt.nozzle_c": setpoint}
            found = codes_of(changed(opened("cable_guide", "beck"), there))
            with self.subTest(basis, setpoint=setpoint):
                said = {each.removeprefix("machine.nozzle.liner_") for each in found if "liner_" in each}
                self.assertEqual(said, {code} if code else set())
        self.assertFalse(CODES["machine.nozzle.liner_rated"].is_safety)
        self.assertTrue(CODES["machine.nozzle.liner_limit"].is_safety)
        unrated = {**hot, "machine.nozzle.liner.max_c": None, "melt.nozzle_c": 241.0}
        self.assertIn("machine.nozzle.liner_limit", codes_of(changed(opened("cable_guide", "beck"), unrated)))

    def test_a_chamber_that_nothing_heats_has_words_of_its_own_and_no_setpoint(self):
        records = opened("winch_bracket", "beck")
        found = judged(records)[2]
        said = next(each for each in found.findings() if each.code == "machine.chamber.not_heated")
        self.assertEqual((said.values["reach"], said.values["gap"]), (32.0, 45.0 - 32.0))
        self.assertNotIn("heat.chamber_c", {each.field for each in found.completeness.missing})
        self.assertIn("decorative" if said.severity == "stop" else "reduced", {cap.grade for cap in found.grade.caps})
        for setpoint in (20.0, 45.0, 90.0, 300.0):
            codes = codes_of(changed(records, {"heat.chamber_c": setpoint}))
            with self.subTest(setpoint):
                spoken = {each for each in codes if each.startswith("machine.chamber")}
                self.assertEqual(spoken, {"machine.chamber.not_heated", "machine.chamber.no_setpoint"})

    def test_what_an_unheated_chamber_leaves_of_the_grade_is_named_by_the_finding_that_stands(self):
        for polymer in ("pei", "psu"):
            records = changed(opened("winch_bracket", "beck"), {"polymer": polymer})
            caps = {cap.code for cap in judged(records)[2].grade.caps}
            with self.subTest(polymer):
                self.assertIn("machine.chamber.not_heated", caps)
                self.assertNotIn("machine.chamber.below_window", caps)
                self.assertLessEqual(caps, codes_of(records))

    def test_a_recipe_that_moves_to_a_heated_chamber_gets_a_setpoint_and_one_that_leaves_it_loses_its(self):
        records = changed(opened("winch_bracket", "beck"), {"machine.chamber.heater.max_c": 21.0})
        moves = {each.id: each for finding in operation_of(judged(records)[2], "machine").findings
                 for each in finding.remedies if isinstance(each, Choose) and each.what == "machine"}  # fmt: skip
        self.assertEqual(moves["crag"].changes["heat.chamber_c"], 45.0)
        beyond = judged(changed(opened("cable_guide", "crag"), {"heat.chamber_c": 176.0}))[2].findings()
        away = {each.id: each for finding in beyond for each in finding.remedies
                if isinstance(each, Choose) and each.what == "machine"}  # fmt: skip
        self.assertIsNone(away["gill"].changes["heat.chamber_c"])

    def test_daily_use_is_a_watch_and_only_above_its_range_a_melt_decomposes(self):
        for key, daily in (("pla", 240.0), ("tpu", 245.0), ("pa_cf", 305.0), ("pet_cf", 305.0)):
            top = load().polymers[key].value("decomposition_c").high
            for setpoint, severity in ((daily, "watch"), (top, "watch"), (top + 1.0, "stop")):
                hot = {"polymer": key, "melt.nozzle_c": setpoint, "first_layer.nozzle_c": None}
                found = judged(changed(opened("probe_head_shell", "crag"), hot))[2].findings()
                said = {each.severity for each in found if each.code.endswith("decomposition")}
                with self.subTest(key, setpoint=setpoint):
                    self.assertEqual(said, {severity})

    @settings(max_examples=40, phases=(Phase.explicit, Phase.generate))  # shrinking takes minutes
    @given(
        st.sampled_from(["probe_head_shell", "sensor_cage", "cable_guide"]),
        st.sampled_from(["tarn", "crag", "beck"]),
        st.tuples(*(st.integers(20, 460) for _ in range(5))),
    )
    @example("probe_head_shell", "beck", (220, 279, 44, 314, 171))  # a ladder's best that this machine does not reach
    def test_remedies_hold_for_any_setpoints_on_any_machine(self, card, machine, setpoints):
        fields = ("plate.bed_c", "first_layer.bed_c", "heat.chamber_c", "melt.nozzle_c", "first_layer.nozzle_c")
        values = dict(zip(fields, map(float, setpoints), strict=True)) | {"context.plate": None}
        records = changed(opened(card, machine), values)
        assert_remedies_hold(self, records, of="machine", found=with_offers(records, "machine"))


class TestPicture(unittest.TestCase):
    def test_bars_stand_in_the_order_of_reach_and_match_it(self):
        for name, records in every_card():
            recipe, context = recipe_and_context(records)
            for zone in every(picture(recipe, context).zones, 3):
                with self.subTest(name, zone=zone.zone):
                    known = [bar.max_c for bar in zone.bars if bar.max_c is not None]
                    self.assertEqual(known, sorted(known))
                    self.assertEqual(zone.reach_c, min(known))

    def test_all_parts_of_a_zone_are_drawn(self):
        recipe, context = recipe_and_context(opened("probe_head_shell"))
        drawn = [bar.part for zone in picture(recipe, context).zones for bar in zone.bars]
        expected = itertools.chain(*(dict(parts_of(getattr(context.machine, zone))) for zone in ZONES))
        self.assertEqual(sorted(drawn), sorted([*expected, "tip"]))


class TestCautions(unittest.TestCase):
    def cautions(self, records):
        return {each.code: each.text for operation in judged(records)[2].operations for each in operation.cautions}

    def test_fumes_are_named_by_polymer_and_hot_chambers_by_their_heat(self):
        hot = self.cautions(opened("probe_head_shell", "crag"))
        self.assertIn("phenols", hot["machine.fumes"])
        self.assertIn("machine.hot_chamber", hot)
        mild = self.cautions(opened("cable_guide", "crag"))
        self.assertIn("acetaldehyde", mild["machine.fumes"])
        self.assertNotIn("machine.hot_chamber", mild)

    def test_a_liner_or_one_not_recorded_brings_its_caution(self):
        self.assertIn("machine.fluoropolymer", self.cautions(opened("cable_guide", "beck")))
        unknown = changed(opened("probe_head_shell", "crag"), {"machine.nozzle.liner": PassivePart()})
        self.assertIn("machine.fluoropolymer", self.cautions(unknown))
        self.assertNotIn("machine.fluoropolymer", self.cautions(opened("probe_head_shell", "crag")))

    def test_no_remedy_raises_a_setpoint_above_a_recorded_limit(self):
        for name, context, finding, remedy in every(self.raised(), 8):
            zone = finding.code.split(".")[1]
            reach = reach_of(context.machine, zone, context.rules).max_c
            with self.subTest(name, remedy=remedy.title):
                self.assertLessEqual(remedy.changes[finding.field], reach)

    def raised(self):
        """Remedies that set a heat which a finding of the machine leads to, over all recipes and cases."""
        raising = ((code, changed(opened(card, machine), what)) for code, (card, machine, what, _) in CASES.items()
                   if code.startswith("machine."))  # fmt: skip
        for name, records in (*every_card(), *raising):
            context, found = context_of_records(records, NOW), at_once(records)
            for finding in found.findings():
                zone = finding.code.split(".")[1] if finding.code.startswith("machine.") else ""
                for remedy in finding.remedies if zone in ZONES else ():
                    if isinstance(remedy, Set) and isinstance(remedy.changes.get(finding.field), float):
                        yield name, context, finding, remedy
