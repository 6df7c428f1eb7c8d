"""Anneal and proof judged as an engineer does: worse is never better, unknown is never fine, what is known is used."""

import unittest

import attrs

from kaustos.core.records import Growth, OvenLoad, Proof, ProofRow
from kaustos.core.review import BY_KEY, Past, proof
from kaustos.core.review.anneal.case import anneal_case
from kaustos.core.review.contract import GRADES
from kaustos.core.review.heat.case import heat_case
from kaustos.core.review.proof import proof_case
from tests.core.review.cases import CASES, EVERY_GROUP, at_holds, good_runs, measured, rows_of
from tests.support import at_once, changed, codes_of, judged, opened, operation_of, recipe_and_context, said_by

BLADE, RING, COVER = "centraliser_blade", "packer_ring", "wellhead_cover"
SOUND = {"anneal.steps": at_holds(150.0, 173.0, hours=12.0), "loads/load_02/retired": True, "brief.purpose": "tool"}
WORDS = {"stop": 0, "watch": 1, "open": 2, "clear": 3}


def said(records, key="anneal"):
    """Standing of an operation, and the best grade that it leaves: more is better."""
    found = operation_of(at_once(records), key)
    cap = min((GRADES.index(each.grade) for each in found.caps), default=len(GRADES))
    return cap, WORDS[found.standing]


class TestGrowthReachesSizes(unittest.TestCase):
    """What the oven does to a coupon is counted on the sizes of a part that goes there yet."""

    def sized(self, history, grown):
        rows = tuple(ProofRow(what="length", axis=axis, nominal_mm=100.0, found_mm=100.0) for axis in "xyz")
        proof = Proof(id="p", card=BLADE, sort="size", rows=rows, history=history, at_utc="2026-02-20T08:00:00Z")
        load = OvenLoad(id="l", card=BLADE, started_utc="2026-02-10T08:00:00Z", grown=(grown,) if grown else ())
        recipe, context = recipe_and_context(changed(opened(BLADE), SOUND))
        context = attrs.evolve(context, proofs=(proof,), loads=(load,))
        return recipe, context

    def test_sizes_before_the_oven_are_read_as_it_leaves_them_and_those_after_it_as_they_are(self):
        shrinks = Growth(x_mm=50.0, after_x_mm=49.5)  # one per cent along the beads
        for history, grown, off in (
            ("as_printed", shrinks, -1.0),
            ("annealed", shrinks, 0.0),
            ("as_printed", None, 0.0),
        ):
            with self.subTest(history, grown=grown):
                recipe, context = self.sized(history, grown)
                case = proof_case(recipe, context)
                self.assertAlmostEqual(100.0 * (case.sized.lines["x"].scale.value - 1.0), off, places=6)
                self.assertAlmostEqual(case.sized.lines["z"].scale.value, 1.0, places=9)
                figures = {each.key: each.value for each in said_of_proof(recipe, context).figures}
                self.assertAlmostEqual(figures["proof.print_at.x"].value, 1.0 / (1.0 + off / 100.0), places=6)
                is_out = any(each.code == "proof.size.out" for each in said_of_proof(recipe, context).findings)
                self.assertEqual(is_out, off < 0.0)


class TestPast(unittest.TestCase):
    def test_where_nothing_was_run_nothing_is_proven(self):
        found = Past()
        self.assertEqual((found.good, found.ended, found.wet, found.shapes, found.same), (0, 0, 0, (), None))


class TestRatios(unittest.TestCase):
    def test_ratios_are_told_in_hundredths(self):
        """Means by hand: across 18 MPa, along 38, moulded 44, aged 12."""
        records = changed(opened("wellhead_cover"), {"proofs/pull_cover/rows": EVERY_GROUP})
        figures = {each.key: each.value for each in operation_of(judged(records)[2], "proof").figures}
        for key, by_hand in (("along", 18.0 / 38.0), ("moulded", 18.0 / 44.0), ("aged", 12.0 / 18.0)):
            found = figures[f"proof.ratio.{key}"]
            with self.subTest(key):
                self.assertAlmostEqual(found.value, 100.0 * by_hand, delta=0.2)
                self.assertTrue(found.low < 100.0 * by_hand < found.high)


def said_of_proof(recipe, context):
    return proof.review(recipe, context)


class TestWorseIsNeverBetter(unittest.TestCase):
    def falls(self, base, path, values, key="anneal"):
        """What is said along values that grow worse."""
        found = [said(changed(base, {path: value}), key) for value in values]
        with self.subTest(path):
            self.assertEqual(sorted(found, reverse=True), found, f"{path}: {list(zip(values, found, strict=True))}")

    def test_along_every_lever_of_an_anneal(self):
        blade = changed(opened(BLADE), SOUND)
        self.falls(blade, "anneal.steps.1.hold_h", (24.0, 6.0, 2.0, 0.5, 0.1, 0.0))
        self.falls(blade, "anneal.steps.1.temperature_c", (173.0, 168.0, 160.0, 120.0, 60.0))
        self.falls(blade, "anneal.steps.1.temperature_c", (173.0, 179.0, 186.0, 220.0))
        self.falls(blade, "anneal.steps.1.ramp_k_h", (10.0, 60.0, 270.0))
        self.falls(blade, "anneal.cool_k_h", (10.0, 60.0, 400.0, 900.0))
        self.falls(blade, "anneal.out_c", (40.0, 90.0, 140.0, 170.0))
        self.falls(blade, "oven.even_k", (2.0, 8.0, 20.0, 40.0))
        self.falls(blade, "oven.max_c", (250.0, 174.0, 150.0, 60.0))
        self.falls(changed(blade, {"anneal.cool_k_h": 120.0}), "anneal.wall_mm", (3.0, 8.0, 20.0, 60.0))

    def test_a_stricter_purpose_never_reads_better(self):
        for hours in (1.0, 4.0, 12.0):
            held = SOUND | {"anneal.steps": at_holds(150.0, 170.0, hours=hours)}
            ranks = [said(changed(opened(BLADE), held | {"brief.purpose": each})) for each in ("tool", "safety")]
            self.assertGreaterEqual(ranks[0], ranks[1])

    def test_nothing_that_is_not_recorded_is_taken_as_fine(self):
        blade = changed(opened(BLADE), SOUND)
        for path in ("anneal.where", "anneal.cool_k_h", "anneal.out_c", "anneal.packed", "oven.even_k", "oven.max_c"):
            with self.subTest(path):
                unknown = changed(blade, {path: None})
                self.assertLessEqual(said(unknown), said(blade))
                missing = {each.field for each in at_once(unknown).completeness.missing}
                self.assertIn(path, missing)

    def test_fewer_runs_larger_errors_and_a_shorter_life_never_read_better(self):
        ranks = [said(changed(opened(BLADE), good_runs(BLADE, "crag", *["tall", "flat", "tall"][:count])), "proof")
                 for count in (3, 2, 1)]  # fmt: skip
        self.assertEqual(sorted(ranks, reverse=True), ranks)
        clamp = opened("cable_clamp")
        for off in (0.0, 0.2, 0.5):
            rows = tuple(attrs.evolve(each, found_mm=each.nominal_mm - off) for each in rows_of("size_clamp"))
            found = codes_of(changed(clamp, {"proofs/size_clamp/rows": rows}))
            with self.subTest(off):
                self.assertEqual("proof.size.out" in found, off > 0.15)


class TestWhatIsKnownIsUsed(unittest.TestCase):
    def test_an_anneal_that_does_nothing_takes_the_annealed_value_of_the_brief_with_it(self):
        cold = changed(opened(RING), {"anneal.steps": at_holds(60.0, 100.0), "loads/load_03/retired": True})
        found = at_once(cold)
        self.assertIn("anneal.hold.cold", found.grade.because)
        self.assertLess(GRADES.index(found.grade.value), GRADES.index("functional"))

    def test_measured_coupons_take_the_doubt_of_the_size_and_set_the_scale(self):
        ring = changed(opened(RING), {"brief.purpose": "fit_check", "loads/load_03/retired": True})
        self.assertIn("anneal.size.doubt", codes_of(ring))
        grown = tuple(Growth(name=f"c{n}", x_mm=80.0, after_x_mm=79.5 + 0.01 * n, y_mm=20.0, after_y_mm=19.9, z_mm=4.0,
                             after_z_mm=4.01) for n in range(4))  # fmt: skip
        load = OvenLoad(id="new", card=RING, polymer="peek", outcome="good", grown=grown, by="R. Askew",
                        started_utc="2026-03-01T08:00:00Z")  # fmt: skip
        known = changed(ring, {"loads/new": load})
        self.assertNotIn("anneal.size.doubt", codes_of(known))
        figures = {each.key: each.value for each in operation_of(judged(known)[2], "anneal").figures}
        self.assertAlmostEqual(figures["anneal.scale.x"].value, 80.0 / 79.515, places=3)

    def test_a_load_of_another_polymer_or_an_open_one_says_nothing(self):
        ring = opened(RING)
        self.assertIn("anneal.load.short", codes_of(ring))
        for path, value in (("loads/load_03/polymer", "pps"), ("loads/load_03/outcome", None)):
            with self.subTest(path):
                self.assertNotIn("anneal.load.short", codes_of(changed(ring, {path: value})))

    def test_a_load_was_read_by_the_oven_it_lay_in_and_one_that_nobody_read_is_not_taken_as_good(self):
        ring = changed(opened(RING), {"loads/load_03/witness": ""})
        there = anneal_case(*recipe_and_context(ring)).seen
        elsewhere = anneal_case(*recipe_and_context(changed(ring, {"context.oven": "oven_o1"}))).seen
        self.assertEqual((there.by, there.peak_c), ("air", elsewhere.peak_c), "whichever is chosen for the next")
        unread = changed(ring, {"loads/load_03/sensors": (), "loads/load_03/grown": ()})
        self.assertLessEqual(said(unread), said(ring), "unknown is no better than short")
        for outcome in ("good", "stopped"):
            with self.subTest(outcome):
                self.assertIn("anneal.load.unread", codes_of(changed(unread, {"loads/load_03/outcome": outcome})))

    def test_a_dead_end_is_told_in_the_words_of_who_met_it(self):
        card, machine, raising, _ = CASES["proof.dead_end.near"]
        records = changed(opened(card, machine), raising)
        notes = {each.note for each in records.tables["proofs"].values() if each.sort == "dead_end"}
        found = next(each for each in said_by("proof", records).findings if each.code == "proof.dead_end.near")
        self.assertIn(found.values["note"], notes - {""})

    def test_a_core_that_got_too_hot_is_found(self):
        sensors = opened(RING).tables["loads"]["load_03"].sensors
        hotter = tuple(attrs.evolve(each, shown_c=tuple(t + (25.0 if t > 190.0 else 0.0) for t in each.shown_c))
                       for each in sensors)  # fmt: skip
        short = {"loads/load_03/steps": at_holds(150.0, 200.0, hours=0.0), "loads/load_03/sensors": hotter}
        found = {each.code: each for each in judged(changed(opened(RING), short))[2].findings()}
        self.assertIn("hotter than its hold", str(found["anneal.load.short"].values["seen"]))

    def test_what_failed_near_here_is_told_with_the_heats_at_which_it_did(self):
        records = changed(opened("packer_ring", "crag"), {"melt.nozzle_c": 402.0, "heat.chamber_c": 95.0})
        recipe, context = recipe_and_context(records)
        for then, told in ((96.0, 96.0), (None, 95.0)):
            tried = Proof(id="d", sort="dead_end", nozzle_c=402.0, chamber_c=then, note="layers parted")
            found = BY_KEY["proof"].review(recipe, attrs.evolve(context, proofs=(tried,))).findings
            near = next(each for each in found if each.code == "proof.dead_end.near")
            self.assertEqual((near.values["chamber"], near.values["note"]), (told, "layers parted"))

    def test_a_ratio_counts_only_where_layers_are_laid_as_quickly_as_those_of_its_specimens(self):
        shares = []
        for took in (400.0, 60.0, 6.0):  # three rings lay their longest in 330 s
            known = measured("across", "crag", "lot_k008", ratio=0.7, ratio_half=0.05, layer_s=took)
            case = heat_case(*recipe_and_context(changed(opened(RING), known)))
            shares.append((case.ratio is not None, case.likely))
        self.assertEqual([covers for covers, _ in shares], [True, False, False])
        self.assertLess(shares[1][1], shares[0][1], "else it is the most there is")

    def test_a_new_lot_stands_one_rung_lower_until_its_coupon_passes(self):
        ran = good_runs(COVER, "gill", "detail", "shell", lot="lot_g310")
        recipe, context = recipe_and_context(changed(opened(COVER), ran))
        self.assertIsNone(proof_case(recipe, context).next, "its coupon passed: all is climbed")
        without = ran | {f"proofs/tone_{number}/retired": True for number in (1, 2, 3)}
        recipe, context = recipe_and_context(changed(opened(COVER), without))
        self.assertEqual(proof_case(recipe, context).next.key, "tall")

    def test_a_wet_run_proves_nothing(self):
        runs = {key: attrs.evolve(run, filament="wet") for key, run in good_runs(BLADE, "crag", "tall", "flat").items()}
        _, context = recipe_and_context(changed(opened(BLADE), runs))
        self.assertEqual((context.past.good, context.past.ended, context.past.wet), (0, 0, 2))
        self.assertIn("wet runs only", str(operation_of(judged(changed(opened(BLADE), runs))[2], "proof").tile))
