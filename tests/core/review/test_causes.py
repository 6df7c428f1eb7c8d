"""What a run that went wrong points to: every sign has a cause, worse evidence never clears one, trials stay inside."""

import itertools
import unittest

import attrs
import numpy as np

from kaustos.core.planning.booking import booking_of
from kaustos.core.planning.ledger import taken_by_runs
from kaustos.core.records import SEEN, Observation, Run, RunStep
from kaustos.core.records.fields import with_value
from kaustos.core.review import CODES, Context
from kaustos.core.review.causes import DANGER, KNOWN, SIGNS, TOO_SMALL_K, Shown, next_trial, suspects_of
from kaustos.core.review.experience import judge_run, tallies
from kaustos.core.review.zones import window_of
from tests.asserting import every
from tests.support import judged, opened


def with_settings(recipe, settings):
    for path, value in settings.items():
        recipe = with_value(recipe, path, value)
    return recipe


def run_of(*seen, filament="dry", foretold=(), **more):
    observed = tuple(Observation(what=what) for what in seen)
    return Run(id="run_1", card="c", revision=1.0, outcome="failed", observations=observed, filament=filament,
               foretold=foretold, **more)  # fmt: skip


class CausesTest(unittest.TestCase):
    def setUp(self):
        self.recipe, self.context, _ = judged(opened("packer_ring"))

    def suspects(self, run, others=(), **settings):
        recipe = with_settings(self.recipe, settings)
        return suspects_of(run, recipe, self.context, others)

    def share(self, key, *arguments, **settings):
        return next((each.share for each in self.suspects(*arguments, **settings) if each.cause.key == key), 0.0)


class TestGoneWithout(CausesTest):
    def test_what_a_step_keeps_away_is_suspected_more_where_it_was_gone_without(self):
        for cause in every(each for each in KNOWN if each.without):
            sign = next(key.split(".")[0] for key in SIGNS if key.endswith(f".{cause.key}"))
            for step in every(cause.without):
                plain = run_of(sign)
                done = RunStep(key=step, done_utc="2026-03-01T08:00:00Z", by="A")
                before = self.share(cause.key, attrs.evolve(plain, steps=(done,)))
                waived = attrs.evolve(plain, steps=(attrs.evolve(done, waived="no time"),))
                with self.subTest(cause.key, step=step):
                    self.assertEqual(before, self.share(cause.key, plain))
                    self.assertTrue(self.share(cause.key, waived) > before or before == 1.0)

    def test_a_spool_that_nobody_dried_is_the_first_suspect_of_strings(self):
        step = RunStep(key="check.dry", done_utc="2026-03-01T08:00:00Z", by="A", waived="no time")
        first = self.suspects(run_of("strings", steps=(step,)))[0]
        self.assertEqual((first.cause.key, first.cause.operation), ("water", 20))


class TestTable(CausesTest):
    def test_everything_that_can_be_seen_has_a_cause_and_every_cause_a_sign(self):
        pairs = [key.split(".") for key in SIGNS]
        self.assertEqual({seen for seen, _ in pairs}, set(SEEN))
        self.assertEqual({cause for _, cause in pairs}, {cause.key for cause in KNOWN})
        for cause in KNOWN:
            self.assertNotEqual(bool(cause.zone), bool(cause.check), "a lever, or what is done")
            for beginning in cause.codes:
                with self.subTest(cause.key, code=beginning):
                    self.assertTrue(any(code.startswith(beginning) for code in CODES))

    def test_a_cause_is_foretold_by_findings_that_show_what_its_signs_are(self):
        signs = {cause.key: {key.split(".")[0] for key in SIGNS if key.endswith(f".{cause.key}")} for cause in KNOWN}
        for cause in every(each for each in KNOWN if each.codes):
            codes = [code for name, code in CODES.items() if name.startswith(cause.codes)]
            with self.subTest(cause.key):
                self.assertTrue(any(signs[cause.key] & set(code.shows) for code in codes))

    def test_shares_sum_to_one_and_fall(self):
        for pair in itertools.combinations(SEEN, 2):
            shares = [each.share for each in self.suspects(run_of(*pair))]
            self.assertAlmostEqual(sum(shares), 1.0)
            self.assertEqual(shares, sorted(shares, reverse=True))


class TestEvidence(CausesTest):
    def test_split_layers_point_to_water_too_the_more_the_wetter_the_spool_was(self):
        shares = [self.share("water", run_of("layers_split", filament=each)) for each in ("dry", "doubtful", "wet")]
        self.assertTrue(0.0 < shares[0] < shares[1] < shares[2], shares)
        self.assertGreaterEqual(self.share("water", run_of("layers_split", filament="unknown")), shares[1])

    def test_a_colder_setpoint_never_clears_what_is_too_cold(self):
        run = run_of("layers_split", "weak_layers")
        for key, field in (("cold_melt", "melt.nozzle_c"), ("cold_chamber", "heat.chamber_c")):
            shares = [self.share(key, run, **{field: float(at_c)}) for at_c in np.linspace(450.0, 20.0, 44)]
            with self.subTest(key):
                self.assertTrue(all(a <= b + 1e-12 for a, b in itertools.pairwise(shares)), shares)
                self.assertGreater(shares[-1], shares[0])

    def test_only_findings_of_water_foretell_water_and_one_that_knows_nothing_foretells_nothing(self):
        plain = self.share("water", run_of("weak_layers"))
        for code in ("stock.drying.too_long", "stock.lot.recycled", "stock.moisture.unknown"):
            self.assertIn("weak_layers", CODES[code].shows)
            self.assertEqual(self.share("water", run_of("weak_layers", foretold=(code,))), plain, code)
        self.assertGreater(self.share("water", run_of("weak_layers", foretold=("stock.moisture.wet",))), plain)

    def test_what_was_foretold_is_suspected_more_and_what_did_well_elsewhere_less(self):
        plain = self.share("cold_chamber", run_of("layers_split"))
        foretold = run_of("layers_split", foretold=("machine.chamber.below_window",))
        self.assertGreater(self.share("cold_chamber", foretold), plain)
        colder = with_settings(self.recipe, {"heat.chamber_c": 60.0})
        self.assertLess(self.share("cold_chamber", run_of("layers_split"), (Shown(colder, good=True),)), plain)
        self.assertEqual(self.share("cold_chamber", run_of("layers_split"), (Shown(colder, good=False),)), plain)
        hotter = with_settings(self.recipe, {"heat.chamber_c": 160.0})
        self.assertGreater(self.share("cold_chamber", run_of("layers_split"), (Shown(hotter, good=True),)), plain)


class TestTrial(CausesTest):
    def trial(self, run, **settings):
        recipe = with_settings(self.recipe, settings)
        suspects = suspects_of(run, recipe, self.context)
        return next_trial(run, recipe, suspects), recipe

    def test_one_zone_is_moved_toward_the_middle_and_never_past_window_or_reach(self):
        rng = np.random.default_rng(26)
        zones = {"melt.nozzle_c": "nozzle", "plate.bed_c": "plate", "first_layer.bed_c": "plate",
                 "heat.chamber_c": "chamber"}  # fmt: skip
        tried = 0
        for _ in range(200):
            settings = {"melt.nozzle_c": rng.uniform(330, 450), "plate.bed_c": rng.uniform(80, 200),
                        "first_layer.bed_c": rng.uniform(80, 200), "heat.chamber_c": rng.uniform(30, 200)}  # fmt: skip
            seen = rng.choice([each for each in SEEN if each not in DANGER], 2, replace=False)
            trial, _ = self.trial(run_of(*seen), **settings)
            for field, to_c in trial.changes.items():
                tried += 1
                low, high = window_of(self.context.polymer, zones[field])
                self.assertEqual({zones[each] for each in trial.changes}, {zones[field]}, "one change")
                if to_c > settings[field]:
                    self.assertLessEqual(to_c, high.value)
                else:
                    self.assertGreaterEqual(to_c, low.value)
                self.assertGreaterEqual(abs(to_c - settings[field]), TOO_SMALL_K)
        self.assertGreater(tried, 50)

    def test_water_comes_before_heat_unless_the_spool_was_dry(self):
        self.assertEqual(self.trial(run_of("weak_layers", filament="doubtful"))[0].suspect.cause.key, "water")
        self.assertEqual(self.trial(run_of("weak_layers", filament="unknown"))[0].suspect.cause.key, "water")
        self.assertNotEqual(self.trial(run_of("weak_layers", filament="dry"))[0].suspect.cause.key, "water")

    def test_after_smoke_a_heater_fault_or_a_softened_part_nothing_is_tried(self):
        for danger in DANGER:
            trial, _ = self.trial(run_of("layers_split", danger))
            self.assertEqual((trial.suspect, dict(trial.changes)), (None, {}))

    def test_a_lever_at_its_end_is_passed_over_and_named(self):
        cold = with_value(self.context.machine, "chamber.heater.fitted", False)
        run = run_of("warped")
        suspects = suspects_of(run, self.recipe, attrs.evolve(self.context, machine=cold))
        trial = next_trial(run, self.recipe, suspects)
        self.assertEqual([each.cause.key for each in trial.exhausted], ["cold_chamber"])
        self.assertEqual(trial.suspect.cause.key, "cold_plate")

    def test_nothing_is_known_without_polymer_or_machine_yet_causes_are_named(self):
        found = suspects_of(run_of("layers_split"), self.recipe, Context())
        self.assertEqual({each.left_k for each in found}, {None})
        self.assertEqual(len(found), 3)


class TestScore(CausesTest):
    def test_what_is_said_to_be_unknown_is_never_right_or_wrong(self):
        unknown = [name for name in CODES if name.endswith("unknown")]
        self.assertGreaterEqual(len(unknown), 2)
        for code in unknown:
            for seen in ((), CODES[code].shows[:1]):
                run = run_of(*seen, foretold=(code,))
                self.assertEqual(tallies((run,)), {})
                self.assertEqual(judge_run(run).absent, ())


class TestBooking(unittest.TestCase):
    def test_a_run_stopped_at_35_percent_books_35_percent_with_purge_and_heating_beside(self):
        run = Run(id="a", card="b", revision=1.0, mass_g=400.0, planned_h=20.0, ran_h=7.0, outcome="stopped")
        found = booking_of(run)
        self.assertEqual((found.share, found.mass_g, found.hours), (0.35, 145.0, 7.5))

    def test_the_longer_it_ran_the_more_is_booked_and_never_more_than_the_whole(self):
        hours = np.linspace(0.0, 30.0, 61)
        masses = [
            booking_of(
                Run(id="a", card="b", revision=1.0, mass_g=50.0, planned_h=10.0, ran_h=float(each), outcome="failed")
            ).mass_g
            for each in hours
        ]
        self.assertTrue(all(a <= b for a, b in itertools.pairwise(masses)))
        self.assertEqual((masses[0], masses[-1]), (5.0, 50.0))

    def test_unknown_time_books_the_whole(self):
        run = Run(id="a", card="b", revision=1.0, mass_g=50.0, lot="l", started_utc="2026-01-01T00:00:00Z")
        for each in (run, attrs.evolve(run, ran_h=1.0), attrs.evolve(run, planned_h=4.0)):
            self.assertEqual(booking_of(each).mass_g, 50.0)
        for outcome in ("good", "usable", None):
            whole = attrs.evolve(run, ran_h=1.0, planned_h=4.0, outcome=outcome)
            self.assertEqual(booking_of(whole).mass_g, 50.0, "what came to a part took the whole")
        lots = {"l": judged(opened("packer_ring"))[1].lot}
        stopped = attrs.evolve(run, ran_h=1.0, planned_h=4.0, outcome="stopped", started_utc="2030-01-01T00:00:00Z")
        self.assertEqual(taken_by_runs(lots, (stopped,)), {"l": 17.5})
