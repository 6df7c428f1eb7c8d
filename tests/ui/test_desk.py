"""In a drag what takes long is judged in the first moment of rest, and before anything is done that rests on it."""

import time
from unittest import mock

import attrs

from kaustos.core.review import OPERATIONS, Operation
from kaustos.ui.jobs import POOLED
from tests.ui.support import WindowTest

SLOW = {each.key for each in OPERATIONS if each.is_slow}


class TestDrag(WindowTest):
    def setUp(self):
        super().setUp()
        self.window = self.open(pace=attrs.evolve(POOLED, rest_ms=60_000))  # a slow step is no rest
        self.desk = self.window.desk
        self.settle()
        self.window.show_bench("machine")
        self.settle()
        self.judged = []
        review = Operation.said_of

        def noted(operation, recipe, context):
            self.judged.append(operation.key)
            return review(operation, recipe, context)

        patch = mock.patch.object(Operation, "said_of", noted)
        patch.start()
        self.addCleanup(patch.stop)

    def settle(self):
        """The hand rests; then until nothing has been under way for a while."""
        if self.desk._rest.isActive():
            self.desk._rest.start(0)
        until, idle = time.monotonic() + 60.0, 0
        while time.monotonic() < until and idle < 12:
            self.app.processEvents()
            idle = idle + 1 if self.desk.queue.is_idle and not self.desk._rest.isActive() else 0
            time.sleep(0.002)

    def drag(self, *values):
        for value in values:
            self.desk.set({"heat.chamber_c": value}, gesture="drag")
            self.app.processEvents()

    def test_what_takes_long_waits_until_the_hand_rests_and_is_then_as_judged_anew(self):
        self.drag(61.0, 62.0)
        self.assertIn("machine", self.judged)
        self.assertEqual(set(self.judged) & SLOW, set(), "not at every step")
        self.settle()
        self.assertLessEqual(SLOW, set(self.judged))
        shown = self.desk.review
        self.assertEqual(shown.grade, self.desk.workspace.judged()[1].grade)

    def test_the_bench_that_is_looked_at_follows_every_step(self):
        self.window.show_bench("heat")
        self.settle()
        self.judged.clear()
        self.drag(63.0)
        self.assertIn("heat", self.judged)
        self.assertNotIn("plate", self.judged)
        self.settle()

    def test_a_command_in_the_middle_of_a_drag_rests_on_the_whole_judgement(self):
        self.drag(64.0)
        seen = []
        self.desk.run(lambda: seen.append(self.desk.review))
        self.assertLessEqual(SLOW, set(self.judged))
        self.assertEqual(seen[0].grade, self.desk.workspace.judged()[1].grade)
        self.settle()

    def test_a_typed_value_is_judged_whole_at_once(self):
        self.drag(65.0)
        self.assertEqual(self.desk.propose("heat.chamber_c", "66"), "")
        self.app.processEvents()
        self.assertLessEqual(SLOW, set(self.judged))
        self.settle()
