"""docs/predictions.md is made from the table of predictions: what learns, from what, and what does not, and why."""

import unittest
from pathlib import Path

from kaustos.core.belief import PREDICTIONS

FILE = Path(__file__).parents[3] / "docs" / "predictions.md"
UNTAUGHT = (  # what is learned in another way, or not
    ("Hours of a file", "conjugate normal over the runs of one machine; not yet shared between machines"),
    ("Hours in a bath", "conjugate normal over the washes of one bath; not yet shared between baths"),
    ("Growth in an anneal", "Student's interval of the coupons of a recipe"),
    ("Hole error, scale, multiplier, first layer, overhang angle, gap", "the newest measured value stands as it is"),
    ("Chamber air, plate surface, oven lag", "what a second sensor or a log showed, as an offset or a fit"),
    (
        "Moisture after drying",
        "weighings fit the time constant of one lot on one spool; no dryer's true heat is learned",
    ),
    ("Chance of a finding that nobody drew", "a beta distribution over ended runs of the polymer in which it stood"),
    ("Price, energy, nozzle wear", "what was typed, weighed or inspected last; their errors are small beside the rest"),
)


def predictions_document() -> str:
    """The page as it must be."""
    lines = [
        "# What learns", "",
        "Each prediction below errs by a factor. What was seen moves the error of the shop, machine, polymer and lot",
        "that it was seen on, each by its share; another lot of the same machine learns the machine's part of it. One",
        "odd reading pulls as far as two of its standard deviations and no further; what is old, or was seen before",
        "something was changed, counts less; the order changes nothing. Nothing that was learned loosens a stop that",
        "protects people.", "",
        "| Prediction | Spread, nothing seen | Shared by, from wide to narrow | One outcome differs by | Shown by |",
        "|---|---|---|---|---|",
    ]  # fmt: skip
    for each in PREDICTIONS.values():
        levels = ", ".join(f"{level.name} {100.0 * level.share:.0f} %" for level in each.levels)
        lines.append(f"| {each.title} | {100.0 * each.spread:.0f} % | {levels} | {100.0 * each.scatter:.0f} % | "
                     f"{'; '.join(each.shown_by)} |")  # fmt: skip
    lines += ["", "Spreads are standard deviations of the logarithm; all are estimates, in [the table",
              "of them](estimates.md). What is learned in another way, or not:", "",
              "| What | How it stands |", "|---|---|"]  # fmt: skip
    lines += [f"| {what} | {how} |" for what, how in UNTAUGHT] + [""]
    return "\n".join(lines)


class TestDocument(unittest.TestCase):
    def test_it_is_as_the_table_is(self):
        self.assertEqual(FILE.read_text(), predictions_document())
