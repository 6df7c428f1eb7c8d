"""Predictions as rows of words, for the room and the command line."""

import unittest

from typer.testing import CliRunner

from kaustos.app.predictions import PAIR_HEADINGS, SCORE_HEADINGS, WARNING_HEADINGS, predictions_of
from kaustos.app.wording import Wording
from kaustos.cli import app
from tests.app.test_jobs import DemoTest
from tests.asserting import every


class TestPredictions(DemoTest):
    def test_rows_are_as_wide_as_their_headings_and_name_machines_as_people_do(self):
        workspace = self.workspace
        found = predictions_of(workspace, Wording())
        for rows, headings in ((found.scores, SCORE_HEADINGS), (found.pairs, PAIR_HEADINGS),
                               (found.warnings, WARNING_HEADINGS)):  # fmt: skip
            for row in every(rows):
                self.assertEqual(len(row), len(headings))
        names = {each.name for each in workspace.draft.records.machines.values()}
        self.assertLessEqual({row[1] for row in found.scores}, names)

    def test_specimens_stand_beside_what_the_model_said_of_their_recipe(self):
        (row,) = [
            each for each in predictions_of(self.workspace, Wording()).pairs if each[1] == "Strength across layers"
        ]
        self.assertEqual(row[4:], ("45.6 %", "yes"))
        (score,) = [each for each in predictions_of(self.workspace, Wording()).scores if each[0] == row[1]]
        self.assertLess(float(score[5].split()[0]), 100.0, "specimens narrow it")

    def test_the_command_prints_the_same(self):
        found, file = predictions_of(self.workspace, Wording()), self.file
        self.workspace.close()
        said = CliRunner().invoke(app, ["predictions", "--workspace", str(file), "--all"])
        self.assertEqual(said.exit_code, 0, said.output)
        lines = {tuple(line.split("\t")[:4]) for line in said.output.splitlines()}  # what follows ages by the day
        for row in every((*found.scores, *found.warnings, *found.pairs)):
            self.assertIn(row[:4], lines)


if __name__ == "__main__":
    unittest.main()
