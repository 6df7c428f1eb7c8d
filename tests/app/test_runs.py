"""Runs: begun from a revision, logged, compared; recipes and machines begun, copied, retired."""

import attrs

from kaustos.app.causes import after_run, booking_words, take_trial
from kaustos.app.comparing import compare_runs, moisture_words
from kaustos.app.evidence import changed_words
from kaustos.app.field_kinds import kind_of
from kaustos.app.giving import give_status
from kaustos.app.recipes import copy_recipe, new_machine, new_recipe, proposals, retire
from kaustos.app.revisions import leaves_of
from kaustos.app.runs import (
    RUN_SETTINGS,
    as_run,
    change_of_spool,
    configuration_of,
    deviations,
    end_run,
    experience,
    maturity_words,
    start_run,
)
from kaustos.app.settings import Settings
from kaustos.app.stock import add_stay, add_weighing, load_on
from kaustos.app.wording import Wording
from kaustos.core.errors import KaustosError
from kaustos.core.records import Observation, Place, RunSensor
from kaustos.core.records.fields import value_at
from kaustos.core.records.recipe import AnnealStep
from kaustos.core.review.proof import proof_case
from tests.app.test_workspace import WorkspaceTest
from tests.asserting import every
from tests.support import operation_of


class TestLogging(WorkspaceTest):
    def test_a_run_hangs_on_a_revision_that_is_kept_where_it_is_not_yet(self):
        workspace = self.demo(who="A. Tester")
        workspace.draft.set({"heat.chamber_c": 88.0})
        run = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        newest = workspace.revisions()[0]
        self.assertEqual((run.revision, newest.number, newest.who), (4.0, 4, "A. Tester"))
        self.assertEqual(run.foretold[0], "machine.chamber.below_window")
        self.assertEqual(
            run.configuration,
            configuration_of(workspace.draft.records.machines["tarn"], workspace.draft.records.nozzles["nozzle_s04"]),
        )
        again = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        self.assertEqual((again.revision, again.id), (4.0, "run_0014"), "nothing changed: the same revision")

    def test_a_run_survives_closing_and_undo_takes_it_away_again(self):
        workspace = self.demo()
        run = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        end_run(workspace, run.id, {"outcome": "failed", "observations": (Observation(what="warped", at_h=1.5),)})
        expected = workspace.draft.records.runs
        workspace.close()
        again = self.demo()
        self.assertEqual(again.draft.records.runs, expected)
        again.draft.add("runs", "run_0099", attrs.evolve(expected[run.id], id="run_0099"), "Run 99 started")
        again.draft.undo()
        self.assertNotIn("run_0099", again.draft.records.runs)
        self.assertIn("Undo: Run 99 started", self.titles(again))

    def titles(self, workspace):
        workspace.autosave()
        return [entry[2] for entry in workspace.history()]

    def test_a_verdict_stamps_the_end_once(self):
        workspace = self.demo()
        run = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        self.assertEqual(run.ended_utc, "")
        end_run(workspace, run.id, {"outcome": "usable"})
        ended = workspace.draft.records.runs[run.id].ended_utc
        self.assertTrue(ended.startswith("2026-03-02T08:00"))

    def test_settings_as_run_stand_over_those_of_the_revision(self):
        workspace = self.demo()
        run = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        end_run(workspace, run.id, {"settings": {"melt.nozzle_c": 372.0}})
        document = as_run(workspace, workspace.draft.records.runs[run.id])
        self.assertEqual(document["recipe"]["melt"]["nozzle_c"], 372.0)
        self.assertEqual(document["recipe"]["heat"]["chamber_c"], 125.0)


class TestComparing(WorkspaceTest):
    def runs(self, workspace, card):
        return [run for run in workspace.draft.records.runs.values() if run.card == card]

    def test_a_single_differing_field_is_named_as_the_cause(self):
        workspace = self.demo()
        found = compare_runs(workspace, *self.runs(workspace, "winch_bracket"))
        self.assertEqual(found.differing, (("plate", "75 °C", "95 °C"),))
        self.assertIn("One thing differs, plate: it is the one recorded cause", found.verdict)

    def test_of_several_the_run_that_would_tell_is_named(self):
        workspace = self.demo()
        found = compare_runs(workspace, *self.runs(workspace, "packer_ring"))
        self.assertEqual([each[0] for each in found.differing], ["nozzle", "chamber"])
        self.assertIn("the cause cannot be told apart", found.verdict)
        self.assertIn(
            "all as in run 6, but chamber 140 °C", found.verdict, "split layers are foretold by a cold chamber"
        )

    def test_a_repeat_and_an_unrecorded_cause(self):
        workspace = self.demo()
        first, second = self.runs(workspace, "wellhead_cover")[:2]
        self.assertIn("a repeat", compare_runs(workspace, first, second).verdict)
        bad = attrs.evolve(second, outcome="failed")
        self.assertIn("something that is not recorded decides", compare_runs(workspace, first, bad).verdict)

    def test_a_run_from_wet_filament_is_told_as_one_and_a_dry_one_is_not(self):
        workspace = self.demo()
        workspace.draft.set({"lot.box_humidity_pct": 10.0})
        dry = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        workspace.draft.open_card("winch_bracket")
        wet = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        self.assertEqual(moisture_words(dry), "")
        self.assertEqual(
            moisture_words(wet), "Mind that run 14 was printed from wet filament: water poses as wrong heat."
        )
        self.assertEqual((dry.filament, wet.filament), ("dry", "wet"))
        unknown = attrs.evolve(wet, filament="unknown")
        self.assertIn("wet filament and run 14 was printed from filament of unknown", moisture_words(wet, unknown))
        self.assertIn(moisture_words(wet), compare_runs(workspace, dry, wet).verdict)

    def test_how_many_are_wanted_is_no_cause_of_what_a_run_came_to(self):
        workspace = self.demo()
        workspace.draft.open_card("wellhead_cover")
        first = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        workspace.draft.set({"brief.runs": 30.0})
        second = attrs.evolve(start_run(workspace, who="A. Tester", why="trial", took_place=True), outcome="failed")
        self.assertEqual(compare_runs(workspace, first, second).differing, ())

    def test_a_run_on_no_machine_leaves_its_spool_where_it_hangs(self):
        workspace = self.demo()
        load_on(workspace, "lot_h117", "tarn")
        workspace.draft.set({"context.machine": None})
        start_run(workspace, who="A. Tester", why="trial", took_place=True)
        self.assertEqual(workspace.draft.records.lots["lot_h117"].loaded_on, "tarn")

    def test_a_difference_of_the_filament_alone_is_named_as_the_cause(self):
        workspace = self.demo()
        first, second = self.runs(workspace, "wellhead_cover")[:2]
        wet = attrs.evolve(second, outcome="failed", filament="wet")
        self.assertIn("One thing differs, filament: it is the one", compare_runs(workspace, first, wet).verdict)
        other = attrs.evolve(wet, settings={"melt.nozzle_c": 240.0})
        self.assertIn("2 things differ (nozzle, filament)", compare_runs(workspace, first, other).verdict)

    def test_a_change_of_the_machine_is_a_difference(self):
        workspace = self.demo()
        first = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        workspace.draft.propose("machine.plate.heater.max_c", "170")
        second = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        self.assertNotEqual(first.configuration, second.configuration)
        self.assertEqual(compare_runs(workspace, first, second).differing[0][0], "plate: heater, limit")


PER_LAYER = ("heights_mm", "seconds", "layers", "feeds_mm_s")


class TestComparedWhole(WorkspaceTest):
    def test_every_leaf_of_every_recipe_of_the_demo_can_be_said(self):
        """What was measured on a part or read from a file is typed nowhere, and compared all the same."""
        workspace = self.demo()
        said = (
            (path, value, kind_of(path).said(wording, path, value))
            for wording in (Wording(), Wording(Settings(decimal="comma", temperature="°F")))
            for card in workspace.draft.records.cards
            for path, value in leaves_of(workspace.document(card)).items()
            if value is not None
        )
        for path, value, words in every(said, 1000):
            with self.subTest(path, value=value):
                self.assertTrue(isinstance(words, str))
        self.assertEqual(
            kind_of("part.shape.volume_mm3").said(Wording(), "part.shape.volume_mm3", 1234.5), "1234.5 mm³"
        )

    def test_runs_of_two_job_files_of_other_lengths_are_compared_as_one_thing(self):
        workspace = self.demo()
        records = workspace.draft.records
        workspace.draft.open_card("cable_clamp")
        job = records.tables["jobs"]["job_clamp"]
        longer = attrs.evolve(job, id="longer", moves_sha256="f" * 64,
                              **{name: (*getattr(job, name), 99.0) for name in PER_LAYER})  # fmt: skip
        first = start_run(workspace, who="A", why="a test")
        workspace.draft.set({Place("jobs", "longer"): longer, "context.job": "longer"})
        second = start_run(workspace, who="A", why="a test")
        found = compare_runs(workspace, first, second)
        told = next(row for row in found.differing if row[0] == "job file")
        self.assertEqual(told[1:], (f"{job.name} ({job.moves_sha256[:6]})", f"{longer.name} (ffffff)"))
        self.assertFalse([row for row in found.differing if row[0].startswith("job.")])

    def test_a_step_gone_without_or_what_a_sensor_said_is_no_less_a_cause_than_a_field(self):
        workspace = self.demo()
        workspace.draft.open_card("cable_clamp")
        one = start_run(workspace, who="A", why="a test")
        other = start_run(workspace, who="A", why="a test")
        alike = compare_runs(workspace, one, other)
        self.assertIn("Nothing recorded differs", alike.verdict)
        waived = tuple(
            attrs.evolve(each, done_utc="2026-03-02T08:00:00Z", waived="no time") for each in other.steps[:1]
        )
        without = attrs.evolve(other, steps=(*waived, *other.steps[1:]), outcome="failed")
        found = compare_runs(workspace, attrs.evolve(one, outcome="good"), without)
        self.assertIn("One thing differs, gone without", found.verdict)
        done = attrs.evolve(one.steps[0], done_utc="2026-03-02T08:00:00Z", by="A")
        had_it = attrs.evolve(one, outcome="good", steps=(done, *one.steps[1:]))
        found = compare_runs(workspace, had_it, without)
        self.assertIn(("gone without", "none more", done.title), found.differing)
        self.assertIn("One thing differs, gone without", found.verdict, "done in one, gone without in the other: once")
        short = RunSensor(name="air", zone="chamber", says=("short",), short_k=9.0, short_min=20.0)
        found = compare_runs(workspace, attrs.evolve(one, outcome="good"), attrs.evolve(without, sensors=(short,)))
        self.assertIn("2 things differ (gone without, sensors): the cause cannot be told apart", found.verdict)


class TestMaturityOfRecipes(WorkspaceTest):
    def test_only_runs_with_the_settings_of_now_on_the_machine_of_now_count(self):
        workspace = self.demo()
        self.assertEqual(workspace.maturity_of("wellhead_cover").word, "proven")
        self.assertEqual(workspace.maturity_of("packer_ring").word, "worked once")
        workspace.draft.open_card("wellhead_cover")
        workspace.draft.set({"brief.margin_k": 21.0, "name": "Another name"})
        self.assertEqual(workspace.maturity_of("wellhead_cover").word, "proven", "the brief is no setting")
        workspace.draft.set({"melt.nozzle_c": 250.0})
        self.assertEqual(workspace.maturity_of("wellhead_cover").word, "untried")
        workspace.draft.undo()
        workspace.draft.propose("machine.plate.heater.max_c", "119")
        self.assertEqual(workspace.maturity_of("wellhead_cover").word, "proven", "a limit that was typed moves nothing")
        workspace.draft.set({"context.machine": "tarn"})
        self.assertEqual(workspace.maturity_of("wellhead_cover").word, "untried", "another machine")

    def test_what_is_logged_of_a_spool_takes_nothing_from_what_was_proven(self):
        workspace = self.demo()
        workspace.draft.open_card("wellhead_cover")
        workspace.save_revision("as it is")
        add_weighing(workspace, "lot_a190", 700.0, workspace.clock())
        add_stay(workspace, "lot_a190", "open", workspace.clock(), None, None)
        load_on(workspace, "lot_a190", "beck")
        self.assertEqual(workspace.maturity_of("wellhead_cover").word, "proven")
        self.assertFalse(workspace.differs_from_last_revision())
        workspace.draft.set({"lot.flange": "card"})
        self.assertTrue(workspace.differs_from_last_revision(), "the body of the spool is no log")
        self.assertEqual(workspace.maturity_of("wellhead_cover").word, "proven", "and no change of a part")
        workspace.draft.set({"lot.grade": "the same, spelled otherwise"})
        self.assertEqual(workspace.maturity_of("wellhead_cover").word, "proven", "a name that was corrected")
        workspace.draft.undo()
        workspace.draft.set({"context.lot": "lot_a204"})
        self.assertEqual(workspace.maturity_of("wellhead_cover").word, "proven", "another spool of the grade")
        workspace.draft.set({"lot.grade": "of another maker"})
        self.assertEqual(workspace.maturity_of("wellhead_cover").word, "untried", "another grade is another part")

    def test_a_run_hangs_its_lot_on_the_machine_and_takes_off_what_hung_there(self):
        workspace = self.demo()
        workspace.draft.open_card("sensor_cage")
        load_on(workspace, "lot_h117", "tarn")
        self.assertEqual(
            change_of_spool(workspace),
            "Tarn has C-042, black loaded from now on; H-117, amber came off. Read the label before you heat anything.",
        )
        run = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        lots = workspace.draft.records.lots
        self.assertEqual((lots["lot_c042"].loaded_on, lots["lot_h117"].loaded_on), ("tarn", None))
        self.assertEqual(change_of_spool(workspace), "")
        workspace.draft.undo()
        lots = workspace.draft.records.lots
        self.assertNotIn(run.id, workspace.draft.records.runs)
        self.assertEqual((lots["lot_c042"].loaded_on, lots["lot_h117"].loaded_on), (None, "tarn"))

    def test_a_run_from_wet_filament_is_left_out_until_it_is_said_to_have_been_dry(self):
        workspace = self.demo()
        found = workspace.maturity_of("cable_clamp")
        self.assertEqual((found.word, found.ended, found.wet), ("wet runs only", 0, 1))
        self.assertIn("1 more from wet filament, left out", maturity_words(found))
        workspace.draft.set({"runs/run_0012/filament": "unknown"})
        found = workspace.maturity_of("cable_clamp")
        self.assertEqual((found.word, found.wet, found.not_surely_dry), ("worked once", 0, 1))
        self.assertIn("1 of them from filament that was not surely dry", maturity_words(found))

    def test_the_state_of_the_filament_follows_lot_drying_and_polymer(self):
        workspace = self.demo()
        workspace.draft.open_card("winch_bracket")
        dried = {"context.dryer": "kiln", "lot.flange": "metal", "stock.dryer_c": 95.0, "stock.dryer_h": 72.0,
                 "lot.feed": "heated"}  # fmt: skip
        for changes, state in (({}, "wet"), (dried, "dry"), (dried | {"stock.dryer_h": 20.0}, "doubtful"),
                               ({"stock.dryer_h": None, "lot.stays": (), "lot.strands": ()}, "unknown"),
                               ({"polymer": "pp"}, "dry"), ({"polymer": None}, None)):  # fmt: skip
            with self.subTest(changes):
                workspace.draft.set(changes)
                self.assertEqual(start_run(workspace, who="A. Tester", why="trial", took_place=True).filament, state)
                workspace.draft.undo()
                workspace.draft.undo() if changes else None

    def test_the_log_of_the_demo_counts_as_by_hand(self):
        tally = experience(self.demo(), "pei_pc_blend")["machine.chamber.below_window"]
        self.assertEqual((tally.right, tally.of), (2, 2))


class TestAfter(WorkspaceTest):
    def test_a_split_shell_points_to_the_chamber_and_the_trial_is_one_edit_of_one_zone(self):
        workspace = self.demo()
        run = workspace.draft.records.runs["run_0010"]
        found = after_run(workspace, run)
        self.assertEqual(found.rows[0][0], "Air around the part too cold (foretold, look at 70)")
        self.assertEqual(dict(found.changes), {"heat.chamber_c": 87.0})
        self.assertIn("Tarn gets no further", found.expected)
        before = workspace.draft.records
        take_trial(workspace, run, found)
        recipe = workspace.draft.records.cards["probe_head_shell"].recipe
        as_run = deviations(workspace, run)
        self.assertNotEqual(as_run["melt.nozzle_c"], before.cards["probe_head_shell"].recipe.melt.nozzle_c)
        for path in RUN_SETTINGS:
            self.assertEqual(value_at(recipe, path), 87.0 if path == "heat.chamber_c" else as_run[path], "one change")
        workspace.draft.undo()
        self.assertEqual(workspace.draft.records.cards, before.cards)

    def test_the_levers_are_those_of_the_machine_of_now(self):
        workspace = self.demo()
        run = workspace.draft.records.runs["run_0010"]
        workspace.draft.set({Place("machines", "tarn", "chamber.heater.max_c"): 70.0})
        self.assertIn("no lever left on Tarn", after_run(workspace, run).rows[0][2])
        self.assertIn("No lever is left against air around the part too cold", after_run(workspace, run).expected)

    def test_a_run_in_which_nothing_was_seen_asks_for_nothing(self):
        workspace = self.demo()
        self.assertIsNone(after_run(workspace, workspace.draft.records.runs["run_0001"]))

    def test_a_run_that_is_stopped_books_what_ran_until_the_last_thing_was_seen(self):
        workspace = self.demo()
        run = start_run(workspace, who="A. Tester", why="trial", took_place=True)
        self.assertEqual(run.planned_h, 5.8)
        end_run(workspace, run.id, {"outcome": "stopped", "observations": (Observation(what="warped", at_h=2.03),)})
        stopped = workspace.draft.records.runs[run.id]
        self.assertEqual(stopped.ran_h, 2.03)
        words = booking_words(workspace, stopped)
        self.assertIn("35% of the run", words)
        self.assertIn(f"{0.35 * 162 + 5:.1f} g", words)
        self.assertRegex(words, r"the rest would have cost \d+ €")
        lost = attrs.evolve(stopped, ran_h=None)
        self.assertEqual(booking_words(workspace, lost), "")


class TestProofStands(WorkspaceTest):
    """What changes no part undoes no proof; what does is told, with what is to be shown anew."""

    def proven(self):
        workspace = self.demo(who="R. Askew")
        workspace.draft.open_card("wellhead_cover")
        return workspace, workspace.maturity().word

    def test_prices_names_hours_and_a_planned_anneal_leave_a_recipe_as_proven_as_it_was(self):
        for changes in (
            {"machine.rate_per_h": 77.0}, {"plate.price": 77.0}, {"first_layer.look_by": "somebody else"},
            {"stock.wanted_utc": "2026-03-04T06:00:00Z"}, {"brief.print_h": 13.0}, {"machine.push_n": 60.0},
            {"anneal.where": "oven", "anneal.steps": (AnnealStep(temperature_c=80.0, hold_h=2.0),)},
        ):  # fmt: skip
            workspace, before = self.proven()
            self.assertNotEqual(before, "untried")
            with self.subTest(changes):
                workspace.draft.set(changes)
                self.assertEqual(workspace.maturity().word, before)
                proof = operation_of(workspace.judged_now()[1], "proof")
                self.assertNotIn("as it is", proof.tile[0].text)
                self.assertEqual("prints before it stand" in changed_words(workspace), "anneal.where" in changes)
                self.assertEqual(bool(changed_words(workspace)), "anneal.where" in changes)
                workspace.draft.undo()
            workspace.close()

    def test_a_hotter_nozzle_is_told_with_what_falls_and_every_count_agrees(self):
        workspace, _ = self.proven()
        was = workspace.draft.records.card.recipe.melt.nozzle_c
        workspace.draft.set({"melt.nozzle_c": was + 7.0})
        self.assertEqual(workspace.maturity().word, "untried")
        words = changed_words(workspace)
        self.assertRegex(words, rf"Changed since run \d+: .*{was:.0f} °C → {was + 7.0:.0f} °C\.")
        self.assertIn("specimens", words)
        self.assertNotIn("hold on the plate", words)
        context, review = workspace.judged_now()
        self.assertRegex(operation_of(review, "proof").tile[0].text, r"^0 good as it is, \d before$")
        self.assertFalse(proof_case(workspace.draft.records.card.recipe, context).ladder[-1].is_climbed)


class TestBeginning(WorkspaceTest):
    def test_a_new_recipe_knows_polymer_and_machine_and_nothing_else(self):
        workspace = self.demo()
        key = new_recipe(workspace, " Spacer ", "pc", "crag")
        recipe = workspace.draft.records.cards[key].recipe
        self.assertEqual((workspace.draft.records.current, recipe.name, recipe.polymer), ("spacer", "Spacer", "pc"))
        self.assertIsNone(recipe.melt.nozzle_c)
        found = {each.field: each.value for each in proposals(workspace)}
        workspace.draft.set(found, title="Setpoints to start from")
        found = [each.code for each in operation_of(workspace.review(), "machine").findings]
        self.assertEqual(found, ["machine.plate.cold_probed"], "the plate was probed for a hotter polymer")
        workspace.draft.undo()
        workspace.draft.undo()
        self.assertNotIn("spacer", workspace.draft.records.cards)
        with self.assertRaisesRegex(KaustosError, "needs a name"):
            new_recipe(workspace, "  ", "pc", None)

    def test_a_copy_starts_from_the_same_and_goes_its_own_way(self):
        workspace = self.demo()
        key = copy_recipe(workspace, "probe_head_shell")
        workspace.draft.set({"melt.nozzle_c": 360.0})
        cards = workspace.draft.records.cards
        self.assertEqual(cards[key].recipe.name, "Probe head shell, copy")
        self.assertEqual(cards["probe_head_shell"].recipe.melt.nozzle_c, 365.0)

    def test_a_new_machine_starts_unknown_or_like_another(self):
        workspace = self.demo()
        bare = new_machine(workspace, "Scar")
        self.assertIsNone(workspace.draft.records.machines[bare].nozzle.heater.max_c)
        with self.assertRaisesRegex(KaustosError, "There is a machine “scar” already"):
            new_machine(workspace, " scar ")
        pattern = new_machine(workspace, "Scar two", "generic_heated_chamber")
        like = workspace.draft.records.machines[pattern]
        self.assertEqual((like.id, like.name, like.nozzle.heater.fitted), ("scar_two", "Scar two", True))

    def test_to_retire_is_to_hide_and_can_be_brought_back_after_reopening(self):
        workspace = self.demo()
        retire(workspace, "cards", "probe_head_shell")
        self.assertNotEqual(workspace.draft.records.current, "probe_head_shell")
        workspace.close()
        again = self.demo()
        self.assertTrue(again.draft.records.cards["probe_head_shell"].retired)
        retire(again, "cards", "probe_head_shell", retired=False)
        self.assertFalse(again.draft.records.cards["probe_head_shell"].retired)


LACKS = "on concession, it lacks 3 good runs more under these settings, 2 shape classes more"


class TestStatuses(WorkspaceTest):
    def test_a_status_needs_who_and_withdrawing_needs_why(self):
        workspace = self.demo(who="A. Tester")
        workspace.draft.set({"context.machine": "crag"})
        workspace.save_revision("on a machine that stands it")
        give_status(workspace, 4, "released", "three good runs")
        self.assertEqual(workspace.revisions()[0].status, "released")
        newest = workspace.statuses()[0]
        self.assertEqual((newest.who, newest.why, newest.number), ("A. Tester", f"{LACKS}: three good runs", 4))
        with self.assertRaisesRegex(KaustosError, "needs a reason"):
            give_status(workspace, 4, "withdrawn", " ")
        with self.assertRaisesRegex(KaustosError, "is no status"):
            give_status(workspace, 4, "splendid", "x")


class TestSecondWindow(WorkspaceTest):
    def test_a_reader_follows_the_writer(self):
        writer = self.demo()
        reader = self.demo()
        self.assertFalse(reader.follow())
        writer.draft.set({"melt.nozzle_c": 361.0})
        writer.autosave()
        self.assertTrue(reader.follow())
        self.assertEqual(reader.draft.records.card.recipe.melt.nozzle_c, 361.0)
        self.assertFalse(reader.unsaved)
