"""Part files from disk to recipe: the worker and its limits, measuring, turning, scaling, keeping."""

import os
import tempfile
import time
import unittest
from pathlib import Path

from kaustos.app.parts import ReadPart, again, asked_now, keep_part, part_rows, scaled_words
from kaustos.app.wording import Wording
from kaustos.app.worker import Worker, WorkerGone
from kaustos.core.errors import KaustosError
from kaustos.core.progress import Cancelled, Unwatched
from kaustos.demo.bonding import stl_of
from kaustos.formats.mesh import BadPart
from tests.app import worker_tasks
from tests.app.test_workspace import WorkspaceTest
from tests.core.part.solids import box

NOBODY = Unwatched()


class CalledOff(Unwatched):
    """Called off after the first look."""

    def __init__(self):
        self.looks = 0

    def check(self):
        self.looks += 1
        if self.looks > 2:
            raise Cancelled("Called off.")


class TestWorker(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.worker = Worker()
        cls.addClassCleanup(cls.worker.stop)

    def ask(self, work, *given, **how):
        return self.worker.call(work, *given, progress=how.pop("progress", NOBODY), **how)

    def test_it_answers_in_another_process_and_stays_for_the_next(self):
        self.assertEqual(self.ask(worker_tasks.answers, 41), 42)
        there = self.ask(worker_tasks.process)
        self.assertNotEqual(there, os.getpid())
        self.assertEqual(self.ask(worker_tasks.process), there)

    def test_what_it_refuses_or_breaks_on_is_told_and_it_lives_on(self):
        there = self.ask(worker_tasks.process)
        with self.assertRaisesRegex(KaustosError, "Not this one"):
            self.ask(worker_tasks.is_refused)
        with self.assertRaisesRegex(KaustosError, "cannot be read .ZeroDivisionError"):
            self.ask(worker_tasks.breaks)
        self.assertEqual(self.ask(worker_tasks.process), there)

    def test_memory_beyond_its_limit_is_refused(self):
        with self.assertRaisesRegex(KaustosError, "larger than"):
            self.ask(worker_tasks.takes, 7.0)
        self.assertEqual(self.ask(worker_tasks.answers, 1), 2)

    def test_time_beyond_its_limit_ends_it_and_the_next_question_is_answered(self):
        begun = time.monotonic()
        with self.assertRaisesRegex(WorkerGone, "longer than"):
            self.ask(worker_tasks.sleeps, 60.0, most_s=0.3)
        self.assertLess(time.monotonic() - begun, 30.0)
        self.assertEqual(self.ask(worker_tasks.answers, 1), 2)

    def test_cancel_kills_it(self):
        with self.assertRaises(Cancelled):
            self.ask(worker_tasks.sleeps, 60.0, progress=CalledOff())
        self.assertEqual(self.ask(worker_tasks.answers, 1), 2)

    def test_one_that_dies_is_told_and_replaced(self):
        with self.assertRaisesRegex(WorkerGone, "memory|broke"):
            self.ask(worker_tasks.dies)
        self.assertEqual(self.ask(worker_tasks.answers, 1), 2)


class TestKeeping(WorkspaceTest):
    def setUp(self):
        super().setUp()
        self.workspace = self.demo()
        self.workspace.draft.open_card("cable_guide")

    def dropped(self, mesh, name="bracket.stl", **how):
        file = self.folder / name
        file.write_bytes(stl_of(mesh, "part"))
        return ReadPart(file, **how)(NOBODY)

    def part(self):
        records = self.workspace.draft.records
        return records.tables["parts"][records.card.chosen["part"]]

    def test_a_dropped_file_is_measured_kept_with_its_copy_and_undone_at_one_step(self):
        before = self.workspace.draft.records
        found = self.dropped(box(40.0, 30.0, 12.0))
        keep_part(self.workspace, found, asked_now(self.workspace))
        part = self.part()
        self.assertEqual((part.name, part.shape.size_z_mm), ("bracket", 12.0))
        self.assertEqual(self.workspace.attachment(part.files[-1].sha256), (self.folder / "bracket.stl").read_bytes())
        self.assertEqual(self.workspace.draft.records.card.recipe.brief.size_x_mm, 40.0)
        self.workspace.draft.undo()
        self.assertEqual(self.workspace.draft.records.card.chosen, before.card.chosen)
        self.assertEqual(self.workspace.draft.records.card.recipe, before.card.recipe)

    def test_the_next_file_of_a_part_keeps_the_earlier_one_and_why_it_was_given_up(self):
        keep_part(self.workspace, self.dropped(box(40.0, 30.0, 12.0)), asked_now(self.workspace))
        keep_part(
            self.workspace,
            self.dropped(box(40.0, 30.0, 14.0), "bracket_b.stl"),
            asked_now(self.workspace),
            "corners lifted",
        )
        part = self.part()
        self.assertEqual([(each.name, each.rejected) for each in part.files],
                         [("bracket.stl", "corners lifted"), ("bracket_b.stl", "")])  # fmt: skip
        rows = dict(part_rows(part, Wording()))
        self.assertIn("corners lifted", rows["Earlier file"])

    def test_the_side_that_lies_down_and_the_scale_are_measured_from_the_kept_copy(self):
        found = self.dropped(box(40.0, 30.0, 12.0))
        keep_part(self.workspace, found, asked_now(self.workspace))
        self.assertEqual([round(each.area_mm2) for each in found.shape.sides], [1200, 1200, 480, 480, 360, 360])
        small = next(each for each in found.shape.sides if round(each.area_mm2) == 360)
        turned = again(self.workspace, self.part(), 2.0, int(small.number))(NOBODY)
        self.assertAlmostEqual(turned.shape.contact_mm2, 4 * 360.0, places=3)
        self.assertAlmostEqual(turned.shape.size_z_mm, 80.0, places=4)
        keep_part(self.workspace, turned, asked_now(self.workspace))
        self.assertEqual(len(self.part().files), 1, "the same file, lying otherwise")
        self.assertEqual(self.part().scale, 2.0)

    def test_scaling_says_what_becomes_of_mass_and_walls(self):
        keep_part(self.workspace, self.dropped(box(40.0, 30.0, 1.0)), asked_now(self.workspace))
        self.assertIn("under one bead", scaled_words(self.part(), 0.01, 0.4, Wording()))
        self.assertIn("mass × 8", scaled_words(self.part(), 2.0, 0.4, Wording()))

    def test_copies_that_are_measured_leave_nothing_behind(self):
        keep_part(self.workspace, self.dropped(box(40.0, 30.0, 12.0)), asked_now(self.workspace))
        before = {each.name for each in Path(tempfile.gettempdir()).glob("kaustos-part-*")}
        again(self.workspace, self.part(), 2.0, None)(NOBODY)
        self.assertEqual({each.name for each in Path(tempfile.gettempdir()).glob("kaustos-part-*")} - before, set())

    def test_an_unlikely_size_is_asked_for_and_a_bad_file_changes_nothing(self):
        self.assertIn("m", self.dropped(box(0.04, 0.03, 0.012)).unlikely)
        file = self.folder / "cut.stl"
        file.write_bytes(stl_of(box(1.0, 1.0, 1.0), "part")[:-9])
        before = self.workspace.draft.records
        with self.assertRaisesRegex(BadPart, "cut.stl.*cut off"):
            ReadPart(file)(NOBODY)
        self.assertIs(self.workspace.draft.records, before)
