"""A stop stops: runs and releases are signed for by name and reason, and above a safety stop refused."""

import attrs

from kaustos.app.giving import give_status
from kaustos.app.runs import start_run
from kaustos.app.sheet import sheet_content
from kaustos.app.stops import StopStands, signed, stops_of
from kaustos.app.tables import runs_csv
from kaustos.app.wording import Wording
from kaustos.core.errors import KaustosError
from kaustos.core.review import CODES
from kaustos.formats.csv_tables import read_runs, read_table
from kaustos.formats.sheet import sheet_html
from tests.app.test_workspace import WorkspaceTest
from tests.support import changed, judged, opened

COLD = {"context.machine": "crag", "heat.chamber_c": 60.0}  # 65 K short: a stop, and no harm to anybody


class TestStops(WorkspaceTest):
    def test_a_run_despite_a_stop_asks_for_name_and_reason_and_carries_them(self):
        workspace = self.demo()
        workspace.draft.set(COLD)
        runs = dict(workspace.draft.records.runs)
        for who, why in (("", ""), ("A. Tester", " "), (" ", "trial")):
            with self.subTest(who=who, why=why), self.assertRaises(StopStands) as caught:
                start_run(workspace, who=who, why=why)
            self.assertFalse(caught.exception.is_safety)
            self.assertIn("65 K short", str(caught.exception))
        self.assertEqual(workspace.draft.records.runs, runs, "nothing was started")
        run = start_run(workspace, who="A. Tester", why="to see the split")
        self.assertEqual(run.despite, "A. Tester: to see the split")
        table = read_table(runs_csv(workspace), "runs.csv")
        self.assertEqual(next(each for each in read_runs(table) if each.id == run.id).despite, run.despite)

    def test_above_a_safety_stop_nobody_signs_but_what_took_place_is_recorded(self):
        workspace = self.demo()  # chamber 125 °C, plastic machine parts stand 90 °C
        with self.assertRaisesRegex(StopStands, "is refused: .*plastic parts.*nobody signs") as caught:
            start_run(workspace, who="A. Tester", why="just this once")
        self.assertTrue(caught.exception.is_safety)
        with self.assertRaisesRegex(KaustosError, "with who ran it, and why"):
            start_run(workspace, took_place=True)
        run = start_run(workspace, who="A. Tester", why="found running", took_place=True)
        self.assertEqual(run.despite, "A. Tester: found running")

    def test_every_part_that_lets_go_and_the_liner_are_matters_of_safety(self):
        safety = {code for code, each in CODES.items() if each.is_safety}
        self.assertEqual(safety, {"machine.nozzle.liner_limit", "machine.nozzle.liner_at_stop",
                                  "machine.plate.magnet_limit",
                                  "machine.plate.backing_limit", "machine.chamber.parts_soften",
                                  "machine.chamber.electronics_limit", "machine.near.softens",
                                  "machine.gap.jumped", "machine.nozzle.wrong_table", "machine.plate.wrong_table",
                                  "machine.chamber.wrong_table", "plate.surface.breaks", "run.matter.danger",
                                  "plate.item.broken"})  # fmt: skip
        for code in safety - {"machine.nozzle.liner_at_stop"}:  # a stop only once it is passed
            self.assertEqual((CODES[code].severity, CODES[code].cap), ("stop", "no_go"))

    def test_without_a_stop_nothing_is_asked(self):
        workspace = self.demo()
        workspace.draft.set({"context.machine": "crag"})
        self.assertEqual(start_run(workspace).despite, "")
        _, _, review = judged(opened("probe_head_shell", "crag"))
        self.assertEqual((stops_of(review), signed("x", review, Wording(), "", "")), ((), ""))

    def test_releasing_despite_a_stop_is_signed_for_and_above_a_safety_stop_refused(self):
        workspace = self.demo(who="A. Tester")
        with self.assertRaisesRegex(StopStands, "Releasing revision 3 is refused"):
            give_status(workspace, 3, "released", "urgent")
        workspace.draft.set(COLD)
        number = workspace.save_revision("cold").number
        with self.assertRaisesRegex(KaustosError, "lacks 3 good runs more"):
            give_status(workspace, number, "released", "  ")
        give_status(workspace, number, "released", "for the fair")
        lacks = "on concession, it lacks 3 good runs more under these settings, 2 shape classes more"
        self.assertEqual(workspace.statuses()[0].why, f"A. Tester: {lacks}: for the fair")
        workspace.draft.set({"heat.chamber_c": 125.0})
        clean = workspace.save_revision("warm").number
        with self.assertRaisesRegex(KaustosError, "lacks 3 good runs more.*needs a reason"):
            give_status(workspace, clean, "released", "")
        give_status(workspace, clean, "released", "bench trial only")
        self.assertEqual(workspace.statuses()[0].why, f"{lacks}: bench trial only")
        workspace.draft.set({"rules.release_runs": 1.0, "rules.release_shapes": 1.0})
        with self.assertRaisesRegex(KaustosError, "lacks 1 good run more"):
            give_status(workspace, clean, "released", "")

    def test_the_sheet_says_what_a_stop_means_at_the_machine(self):
        for machine, changes, words in (
            ("tarn", {}, "NOT TO BE RUN."), ("crag", {"heat.chamber_c": 60.0}, "A stop stands."), ("crag", {}, ""),
        ):  # fmt: skip
            records = changed(opened("probe_head_shell", machine), changes)
            content = sheet_content(*judged(records), Wording(), revision="", printed="")
            with self.subTest(machine, changes=changes):
                self.assertEqual(content["stop_words"], words)
                self.assertEqual(bool(words) and words in sheet_html(content), bool(words))

    def test_a_safety_stop_among_others_comes_first_and_is_the_one_that_is_said(self):
        _, _, review = judged(opened("probe_head_shell"))
        stops = stops_of(review)
        self.assertTrue(CODES[stops[0].code].is_safety)
        self.assertGreater(len(stops), 1)
        mild = attrs.evolve(review, operations=tuple(
            attrs.evolve(each, findings=tuple(f for f in each.findings if not CODES[f.code].is_safety))
            for each in review.operations))  # fmt: skip
        self.assertEqual(signed("x", mild, Wording(), "A", "b"), "A: b")
