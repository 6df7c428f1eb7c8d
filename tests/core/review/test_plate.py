"""Operations 40 and 50: unknowns, levers that do what they say, what outcomes teach, plates of the pair's own heat."""

import math
import unittest

import attrs
import numpy as np

from kaustos.app.wording import Wording
from kaustos.core.belief import PREDICTIONS
from kaustos.core.estimates import BOND
from kaustos.core.records import Observation, Run
from kaustos.core.records.plate import Damage
from kaustos.core.review import UNKNOWN, Advice, Choose, Set
from kaustos.core.review.plate import LEVERS, picture
from kaustos.core.review.plate.case import as_hot_as_air, case_of, expected_bond
from kaustos.core.review.plate.findings import findings_of
from tests.asserting import every
from tests.core.review.cases import BLOCK
from tests.support import at_once, changed, codes_of, judged, opened, operation_of, recipe_and_context

SCATTER = PREDICTIONS["grip"].scatter
COVER, GUIDE, SHELL, BRACKET = "wellhead_cover", "cable_guide", "probe_head_shell", "winch_bracket"
BARE = {"context.plate": "plate_f6"}  # smooth film, to which PETG welds


def figure(records, key):
    _, _, found = judged(records)
    return next(each.value for each in operation_of(found, key.split(".")[0]).figures if each.key == key)


def finding(records, code):
    return next((each for each in judged(records)[2].findings() if each.code == code), None)


def in_air(air_c, plate_c):
    """The bond of a ring whose plate is set to one heat in air of another."""
    heats = {"heat.chamber_c": air_c, "plate.bed_c": plate_c, "first_layer.bed_c": plate_c}
    return case_of(*recipe_and_context(changed(opened("packer_ring", "crag"), heats)))


class TestPlateInHotAir(unittest.TestCase):
    def test_each_verdict_takes_the_worse_end_between_setpoint_and_air(self):
        hot = in_air(140.0, 140.0).bond
        for plate_c in every((60.0, 90.0, 115.0)):
            found = in_air(140.0, plate_c)
            self.assertLess(found.making.plate_c, found.making.air_c)
            self.assertGreaterEqual(found.bond.lifts, hot.lifts - 0.02)
            self.assertGreaterEqual(found.bond.harms + found.bond.breaks, hot.harms + hot.breaks - 0.02)
            self.assertGreaterEqual(found.bond.splits, hot.splits - 0.02)

    def test_a_plate_as_hot_as_its_air_has_one_end(self):
        making = in_air(140.0, 140.0).making
        self.assertIs(as_hot_as_air(making), making)


class TestUnknown(unittest.TestCase):
    def test_without_a_size_the_load_is_unknown_but_a_weld_is_still_seen(self):
        records = changed(opened(GUIDE, "gill"), BARE)
        self.assertIs(figure(records, "plate.bond.load"), UNKNOWN)
        self.assertEqual(finding(records, "plate.surface.torn").severity, "stop")

    def test_without_a_size_a_pair_that_does_not_hold_is_still_a_stop(self):
        records = changed(opened(GUIDE, "gill"), BARE | {"polymer": "pp", "plate.bed_c": 70.0})
        self.assertEqual(finding(records, "plate.corner.lifts").severity, "stop")

    def test_without_a_size_the_tile_claims_nothing_and_the_chance_of_lifting_is_unknown(self):
        records = opened(GUIDE, "beck")
        self.assertIs(figure(records, "plate.bond.lifts"), UNKNOWN)
        tile = Wording().tile(judged(records)[2].operations[3])
        self.assertNotIn("lifts", tile)

    def test_without_a_modulus_a_weld_is_still_seen(self):
        records = changed(opened(GUIDE, "gill"), BARE)
        recipe, context = recipe_and_context(records)
        without = attrs.evolve(context, polymer=attrs.evolve(context.polymer, modulus=None))
        found = {each.code: each.severity for each in findings_of(recipe, without)}
        self.assertEqual(found.get("plate.surface.torn"), "stop")

    def test_the_chance_that_figure_and_finding_tell_is_one_where_the_underside_must_lie_flat(self):
        shown = []
        for flat, limit in ((None, None), (0.2, 0.2), (0.1, 0.1), (0.5, None)):
            records = changed(opened(SHELL), {"heat.chamber_c": 60.0, "part.flat_mm": flat})
            chance, told = figure(records, "plate.bond.lifts").value, finding(records, "plate.corner.lifts")
            shown.append(chance)
            with self.subTest(flat):
                self.assertEqual(told is not None, limit is not None, "told only where it must lie flatter than usual")
                if told is not None:
                    self.assertEqual((told.values["gap"], told.values["limit"]), (round(chance), limit))
        usual, flatter, flattest, looser = shown
        self.assertLess(usual + 3.0, flatter)
        self.assertLess(flatter + 2.0, flattest)
        self.assertEqual(usual, looser)

    def test_prints_that_nobody_counted_never_look_better_than_a_new_surface_nor_harm_less_than_a_worn_one(self):
        lifts, harms = [], []
        for prints in (0.0, None, 4000.0):
            records = changed(opened(COVER), {"plate.prints": prints, "plate.cleaned": "dusty"})
            bond = case_of(*recipe_and_context(records)).bond
            lifts.append(bond.lifts)
            harms.append(float(np.median(bond.grip)))
        self.assertEqual(lifts, sorted(lifts))
        self.assertEqual(harms, sorted(harms, reverse=True))
        self.assertGreater(lifts[2], lifts[0])

    def test_without_plate_polymer_or_heat_nothing_is_claimed(self):
        for left_out in ("context.plate", "polymer", "melt.nozzle_c"):
            changes = {left_out: None} | ({"first_layer.nozzle_c": None} if left_out == "melt.nozzle_c" else {})
            records = changed(opened(COVER), changes)
            with self.subTest(left_out):
                self.assertIs(figure(records, "plate.bond.grip"), UNKNOWN)
                self.assertNotIn("plate.corner.lifts", codes_of(records))

    def test_a_plate_that_was_not_cleaned_as_far_as_anybody_knows_never_looks_better_than_a_washed_one(self):
        chances = [figure(changed(opened(COVER), {"plate.cleaned": how}), "plate.bond.lifts").value
                   for how in ("washed", "wiped", None, "touched")]  # fmt: skip
        self.assertEqual(chances, sorted(chances))

    def test_damage_can_only_lower_what_is_said_of_a_plate(self):
        before = at_once(opened(SHELL)).grade.value
        chipped = changed(opened(SHELL), {"plate.damages": (Damage(kind="chip"),)})
        self.assertIn("plate.item.broken", codes_of(chipped, "stop"))
        self.assertIn(at_once(chipped).grade.value, ("no_go", "decorative"))
        self.assertTrue(before)


class TestPlateHeat(unittest.TestCase):
    def test_polyamide_on_cold_laminate_is_no_stop_for_the_machine(self):
        cold = {"polymer": "pa6", "plate.bed_c": 45.0, "first_layer.bed_c": 45.0, "context.agent": None}
        on_laminate = codes_of(changed(opened(BRACKET, "gill"), cold))
        without = codes_of(changed(opened(BRACKET, "gill"), cold | {"context.plate": None}))
        self.assertNotIn("machine.plate.below_window", on_laminate)
        self.assertIn("machine.plate.below_window", without)


class TestTwoOfThree(unittest.TestCase):
    def test_one_off_is_no_finding_and_two_off_the_same_way_are(self):
        code = "first_layer.conditions.two_off"
        usual = changed(opened(GUIDE, "gill"), BARE)
        offs = {"gap": {"first_layer.gap_mm": 0.12}, "plate": {"first_layer.bed_c": 90.0},
                "nozzle": {"first_layer.nozzle_c": 268.0, "melt.nozzle_c": 268.0}}  # fmt: skip
        for name, one in offs.items():
            with self.subTest(name):
                self.assertNotIn(code, codes_of(changed(usual, one)))
        for left_out in offs:
            two = {key: value for name, each in offs.items() if name != left_out for key, value in each.items()}
            with self.subTest(without=left_out):
                self.assertIn(code, codes_of(changed(usual, two), "stop"))

    def test_off_in_opposite_ways_make_up_for_each_other(self):
        mixed = changed(opened(GUIDE, "gill"), BARE | {"first_layer.gap_mm": 0.12, "first_layer.bed_c": 50.0})
        self.assertNotIn("first_layer.conditions.two_off", codes_of(mixed))


class TestAxis(unittest.TestCase):
    def test_every_mark_of_the_axis_is_the_middle_of_its_own_draws(self):
        recipe, context = recipe_and_context(opened(COVER))
        case, bands = case_of(recipe, context), {each.key: each for each in picture(recipe, context).bands}
        self.assertEqual(set(bands), {"load", "grip", "damage", "weld"} | ({"cold"} & set(bands)))
        for key, band in bands.items():
            draws = getattr(case.loads if key in ("load", "cold") else case.bond, key)
            with self.subTest(key):
                self.assertAlmostEqual(band.middle, float(np.median(draws)), places=9)
                self.assertLess(band.low, band.high)


SOLID = BLOCK | {"brief.mass_g": 1380.0}  # without a file a block is as hollow as its mass


class TestLevers(unittest.TestCase):
    def test_every_lever_does_what_its_row_says(self):
        records = changed(opened(COVER), {"plate.cleaned": "touched", "plate.anchor": "none"})
        levers = judged(records)[1].results[LEVERS].levers
        self.assertGreater(len(levers), 8)
        for lever in levers:
            if isinstance(lever.remedy, Advice):
                self.assertIn("Draw" if "Draw" in lever.title else "Lay", lever.title)
                continue
            values = dict(lever.remedy.changes)
            if isinstance(lever.remedy, Choose):
                values = {f"context.{lever.remedy.what}": lever.remedy.id, **values}
            recipe, there, _ = judged(changed(records, values))
            bond = case_of(recipe, there).bond
            with self.subTest(lever.title, **lever.values):
                self.assertAlmostEqual(bond.lifts, lever.lifts, places=9)
                self.assertAlmostEqual(bond.harms, lever.harms, places=9)

    def test_air_is_only_tried_warmer_and_within_its_window(self):
        records = changed(opened("packer_ring", "crag"), {"heat.chamber_c": 100.0})
        tried = [each.remedy.changes["heat.chamber_c"] for each in judged(records)[1].results[LEVERS].levers
                 if isinstance(each.remedy, Set) and "heat.chamber_c" in each.remedy.changes]  # fmt: skip
        self.assertEqual(tried, [110.0, 120.0])

    def test_anchors_never_raise_the_load_and_a_brim_is_offered_where_corners_lift(self):
        records = changed(opened(COVER), {"plate.cleaned": "touched", "plate.anchor": "none"})
        before = figure(records, "plate.bond.load").value
        anchors = [each for each in judged(records)[1].results[LEVERS].levers
                   if isinstance(each.remedy, Set) and "plate.anchor" in each.remedy.changes]  # fmt: skip
        self.assertGreaterEqual(len(anchors), 4)
        for lever in anchors:
            self.assertLessEqual(lever.load, before + 1e-9)
        offered = finding(records, "plate.corner.lifts").remedies
        self.assertTrue(any("plate.anchor" in each.changes for each in offered if isinstance(each, Set)))

    def test_plates_that_are_tried_fit_the_machine_and_are_others(self):
        records = changed(opened(COVER), {"plate.cleaned": "touched", "plate.anchor": "none"})
        records = changed(records, {"plates/plate_g2/fits_on": None, "plates/plate_g1/fits_on": "tarn"})
        tried = {each.remedy.id for each in judged(records)[1].results[LEVERS].levers
                 if isinstance(each.remedy, Choose) and each.remedy.what == "plate"}  # fmt: skip
        self.assertEqual(tried, {"plate_l5", "plate_g2"}, "the one that is taken, and those of other machines, are not")

    def test_a_release_film_is_offered_where_a_pair_welds(self):
        offered = finding(changed(opened(GUIDE, "gill"), BARE), "plate.surface.torn").remedies
        films = [each for each in offered if isinstance(each, Choose) and each.what == "agent"]
        self.assertTrue(films)
        _, _, after = judged(changed(opened(GUIDE, "gill"), BARE | {"context.agent": films[0].id} | films[0].changes))
        torn = [each for each in after.findings() if each.code == "plate.surface.torn"]
        self.assertTrue(not torn or torn[0].severity == "watch")

    def test_a_stop_that_is_taken_off_hot_is_gone_and_raises_nothing(self):
        records = changed(opened("packer_ring", "crag"), SOLID | {"context.plate": "plate_g2", "plate.release": "cold"})
        hot = next(each for each in finding(records, "plate.surface.breaks").remedies if isinstance(each, Set))
        self.assertNotIn("plate.surface.breaks", codes_of(changed(records, hot.changes)))


class TestPicture(unittest.TestCase):
    def test_the_outline_with_its_loads_lies_on_the_anchored_foot(self):
        for card, anchor in ((COVER, "brim"), (SHELL, "ears"), (BRACKET, "none")):
            found = picture(*recipe_and_context(changed(opened(card), {"plate.anchor": anchor, "plate.brim_mm": 8.0})))
            rings = np.concatenate([np.array(each) for each in found.anchored or found.rings])
            with self.subTest(card):
                self.assertEqual(len(found.load), len(found.outline))
                low, high = np.array(found.outline).min(axis=0), np.array(found.outline).max(axis=0)
                self.assertTrue((rings.min(axis=0) - 0.5 <= low).all() and (high <= rings.max(axis=0) + 0.5).all())
                self.assertTrue((rings.min(axis=0) > -0.5).all(), "from the corner of its place on")
                feet = np.concatenate([np.array(each) for each in found.rings])
                np.testing.assert_allclose(low, feet.min(axis=0), atol=0.6)
                np.testing.assert_allclose(high, feet.max(axis=0), atol=0.6)


class TestLearning(unittest.TestCase):
    """ASA on a smooth film: practice says 300 J/m², this plate has 45."""

    TRUE = 45.0

    def logged(self, count):
        """Runs at loads between a few and a few hundred, each held or lifted as the true grip decides."""
        rng, records = np.random.default_rng(21), opened(COVER)
        recipe, context = recipe_and_context(records)
        expected = expected_bond(recipe, context)
        book = math.log(float(np.median(case_of(recipe, context).bond.grip)))
        runs = {}
        for number in range(count):
            load = math.exp(rng.uniform(math.log(10.0), math.log(300.0)))
            lifted = math.log(self.TRUE / load) + rng.normal(0.0, SCATTER) < 0.0
            seen = (Observation(what="corner_lift", where="corner", lift_mm=1.2),) if lifted else ()
            runs[f"runs/r{number}"] = Run(
                id=f"r{number}", card=COVER, revision=1.0, machine="gill", plate="plate_f6", polymer="asa",
                started_utc=f"2026-02-{1 + number % 27:02d}T08:00:00Z", observations=seen,
                outcome="failed" if lifted else "good", bond=expected | {"load": book - math.log(load)},
            )  # fmt: skip
        return changed(records, runs)

    def test_thirty_outcomes_close_in_on_the_true_grip_and_change_finding_and_offer(self):
        bands = {count: figure(self.logged(count), "plate.bond.grip") for count in (0, 5, 30)}
        ratios = {count: band.high / band.low for count, band in bands.items()}
        self.assertLess(abs(math.log(bands[30].value / self.TRUE)), abs(math.log(bands[0].value / self.TRUE)))
        self.assertLess(bands[30].low, 1.6 * self.TRUE)
        self.assertGreater(bands[30].high, self.TRUE)
        self.assertLess(ratios[30], ratios[0])
        self.assertIsNone(finding(self.logged(0), "plate.corner.lifts"))
        told = finding(self.logged(30), "plate.corner.lifts")
        self.assertIsNotNone(told)
        self.assertTrue(
            any(isinstance(each, (Choose, Set)) for each in told.remedies), "an agent, a plate or an anchor"
        )
        self.assertEqual(figure(self.logged(30), "plate.pair.outcomes").value, 30.0)

    def test_ten_holds_far_below_the_grip_hardly_move_it(self):
        records = opened(COVER)
        recipe, context = recipe_and_context(records)
        easy = expected_bond(recipe, context) | {"load": math.log(8.0), "damage": -math.log(8.0)}
        runs = {f"runs/h{n}": Run(id=f"h{n}", card=COVER, revision=1.0, machine="gill", plate="plate_f6", polymer="asa",
                                  started_utc=f"2026-02-{1 + n:02d}T08:00:00Z", outcome="good", bond=easy)
                for n in range(10)}  # fmt: skip
        before, after = (
            figure(records, "plate.bond.grip").value,
            figure(changed(records, runs), "plate.bond.grip").value,
        )
        self.assertLess(abs(after / before - 1.0), 0.1)

    def test_outcomes_of_another_agent_or_polymer_do_not_count(self):
        records = self.logged(12)
        for other in ({"context.agent": "agent_k9"}, {"polymer": "abs"}):
            with self.subTest(other):
                self.assertEqual(figure(changed(records, other), "plate.pair.outcomes").value, 0.0)

    def test_a_small_lift_counts_as_held(self):
        for lift, wanted in ((0.2, 1), (1.0, -1)):
            expected = {"load": 0.3, "cold": 2.0, "damage": -2.0}
            run = Run(id="r", card=COVER, revision=1.0, machine="gill", plate="plate_f6", polymer="asa",
                      started_utc="2026-02-01T08:00:00Z", outcome="usable", bond=expected,
                      observations=(Observation(what="corner_lift", lift_mm=lift),))  # fmt: skip
            plain = figure(opened(COVER), "plate.bond.grip").value
            moved = figure(changed(opened(COVER), {"runs/r": run}), "plate.bond.grip").value
            self.assertGreater(wanted * (moved - plain), 0.0)


class TestPart(unittest.TestCase):
    def test_a_wall_of_less_than_a_bead_stops_and_thicker_walls_never_sound_worse(self):
        shape = opened(SHELL).tables["parts"]["part_head"].shape
        order = {"stop": 2, "watch": 1}
        told = []
        for wall in (0.2, 0.5, 0.9, 2.0):
            each = finding(changed(opened(SHELL), {"parts/part_head/shape": attrs.evolve(shape, thinnest_mm=wall)}),
                           "brief.part.thin_wall")  # fmt: skip
            told.append(0 if each is None else order[each.severity])
        self.assertEqual(told, sorted(told, reverse=True))
        self.assertEqual((told[0], told[-1]), (2, 0))

    def test_a_hole_is_drawn_wider_by_its_room_and_by_what_the_shop_measured(self):
        drawn = {error: figure(changed(opened("centraliser_blade"), {"part.hole_error_mm": error}), "brief.part.hole")
                 for error in (None, 0.1, 0.3)}  # fmt: skip
        self.assertAlmostEqual(drawn[0.3].value - drawn[0.1].value, 0.2)
        self.assertLess(drawn[0.1].high - drawn[0.1].low, drawn[None].high - drawn[None].low)

    def test_two_mates_in_one_run_cure_what_one_alone_raises(self):
        alone = changed(opened("centraliser_blade"), {"plate.copies": 1.0})
        both = next(each for each in finding(alone, "brief.part.twin_apart").remedies if isinstance(each, Set))
        self.assertNotIn("brief.part.twin_apart", codes_of(changed(alone, both.changes)))

    def test_what_is_not_known_of_its_holes_is_asked_where_it_fits_something(self):
        records = opened("centraliser_blade")
        for error, is_missed in ((0.2, False), (None, True)):
            _, _, found = judged(changed(records, {"part.hole_error_mm": error}))
            missed = {each.field for each in operation_of(found, "brief").missing}
            self.assertEqual("part.hole_error_mm" in missed, is_missed)

    def test_an_anchor_lowers_the_load_by_the_support_it_adds(self):
        gains = {}
        for kind in ("none", "ears", "brim"):
            records = changed(opened(SHELL), {"plate.anchor": kind, "plate.brim_mm": 10.0})
            case, gain = case_of(*recipe_and_context(records)), figure(records, "plate.anchor.gain")
            self.assertGreaterEqual(gain.value, 1.0 - 1e-9)
            without = case.loads.along[case.loads.worst] * gain.value ** BOND["sharp_power"].value
            bare = case_of(*recipe_and_context(changed(records, {"plate.anchor": "none"})))
            self.assertAlmostEqual(without / bare.loads.along[case.loads.worst], 1.0, delta=0.01)
            gains[kind] = gain.value
        self.assertAlmostEqual(gains["none"], 1.0, places=9)
        self.assertGreater(gains["brim"], 1.0)


class TestFirstLayer(unittest.TestCase):
    def test_the_section_of_a_bead_is_kept_when_it_is_pressed(self):
        for gap in (0.12, 0.2, 0.3):
            width = figure(changed(opened(GUIDE), {"first_layer.gap_mm": gap}), "first_layer.bead.width").value
            area = (0.45 - 0.2) * 0.2 + math.pi * 0.2**2 / 4.0
            self.assertAlmostEqual((width - gap) * gap + math.pi * gap**2 / 4.0, area, places=9)

    def test_the_look_falls_due_when_the_area_is_laid(self):
        minutes = figure(opened(COVER), "first_layer.look.due").value
        area = case_of(*recipe_and_context(opened(COVER))).standing.anchored.area
        self.assertAlmostEqual(minutes, area / (0.5 * 40.0 * 60.0), places=6)
        slower = figure(changed(opened(COVER), {"first_layer.speed_mm_s": 20.0}), "first_layer.look.due").value
        self.assertAlmostEqual(slower, 2.0 * minutes, places=6)
