"""A release on concession stands wherever the recipe is used, and takes the names that the shop asks for."""

import attrs

from kaustos.app.giving import concession_of, give_status, revision_words
from kaustos.app.part_labels import part_labels_content
from kaustos.app.run_card import card_content
from kaustos.app.runs import start_run
from kaustos.core.errors import KaustosError
from tests.app.test_workspace import WorkspaceTest


class TestConcession(WorkspaceTest):
    def setUp(self):
        super().setUp()
        self.workspace = self.demo(who="A. Rigg")
        self.workspace.draft.open_card("wellhead_cover")
        self.workspace.draft.set({"melt.infill_pct": 41.0})  # untried from now on
        self.number = self.workspace.save_revision("tried elsewhere").number

    def test_head_card_and_label_say_it_until_the_status_is_another(self):
        give_status(self.workspace, self.number, "released", "urgent, one part")
        self.assertEqual(revision_words(self.workspace), f"revision {self.number}, released on concession")
        context, review = self.workspace.judged_now()
        label = part_labels_content(self.workspace, context, review, 1)
        self.assertIn("on concession", label["labels"][0]["test"])
        self.assertIn("on concession", label["under"])
        run = start_run(self.workspace, who="A. Rigg", why="a test")
        self.assertIn("on concession", card_content(self.workspace, run)["under"])
        give_status(self.workspace, self.number, "draft", "")
        self.assertEqual(concession_of(self.workspace), "")
        self.assertNotIn("on concession", card_content(self.workspace, run)["under"])

    def test_one_that_lacks_nothing_says_nothing(self):
        self.workspace.draft.undo()
        self.workspace.draft.set({"rules.release_runs": 1.0, "rules.release_shapes": 1.0})
        number = self.workspace.save_revision("as it was").number
        give_status(self.workspace, number, "released", "by the rules")
        self.assertEqual(concession_of(self.workspace), "")

    def test_a_second_name_is_asked_for_where_the_shop_wants_one_and_is_not_the_first(self):
        self.workspace.draft.set({"rules.release_names": 2.0})
        for second in ("", "  ", "a. rigg"):
            with self.subTest(second), self.assertRaisesRegex(KaustosError, "a second name answers for it"):
                give_status(self.workspace, self.number, "released", "urgent", second)
        self.assertNotEqual(self.workspace.revisions()[0].status, "released")
        give_status(self.workspace, self.number, "released", "urgent", "B. Shore")
        self.assertIn("on concession, B. Shore too", self.workspace.statuses()[0].why)

    def test_nobody_named_releases_nothing(self):
        self.workspace.settings = attrs.evolve(self.workspace.settings, who="")
        with self.assertRaisesRegex(KaustosError, "a name"):
            give_status(self.workspace, self.number, "released", "urgent", "B. Shore")
