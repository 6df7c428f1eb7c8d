"""What is said of the demo recipes, kept as text that a person has read; what changes is read again in the diff.

No reference for a number, those stand in docs/validation.md: it shows which answers a change moves.
python -m tests.test_kept keep
"""

import sys
import unittest
from collections.abc import Iterator
from pathlib import Path

from kaustos.app.wording import Wording
from kaustos.core.review import Estimate
from kaustos.demo.scenario import RECORDS
from tests.support import judged, opened

KEPT = Path(__file__).parent / "kept"
WORDING = Wording()


def _number(value: float) -> str:
    return f"{value:.5g}"


def _values(values) -> str:
    return ", ".join(f"{key} {_number(each) if isinstance(each, float) else each}" for key, each in values.items())


def said(card: str) -> Iterator[str]:
    """Line by line what is said of a recipe on its own machine."""
    _, _, review = judged(opened(card))
    grade = review.grade
    yield f"{card}: {grade.value}, standing {grade.standing}, until known {', '.join(grade.until_known) or 'nothing'}"
    yield from (f"  cap {cap.code}: {cap.grade}" for cap in grade.caps)
    for operation in review.operations:
        yield f"{operation.number} {operation.standing}: {WORDING.tile(operation)}"
        for figure in operation.figures:
            value = figure.value
            words = WORDING.figure(figure)
            if isinstance(value, Estimate) and value.unit == "date":
                words = "a day"
            if isinstance(value, Estimate):
                words += f" = {_number(value.value)} ({_number(value.low)} to {_number(value.high)}) {value.unit}"
            yield f"  {figure.key}: {words}"
        for finding in operation.findings:
            yield f"  {finding.severity} {finding.code} at {finding.field}: {WORDING.text(finding)}"
            yield f"    {WORDING.cost(finding)} [{_values(finding.values)}]"
            yield from (f"    - {WORDING.remedy(remedy)}" for remedy in finding.remedies)
        yield from (f"  caution {each.text}" for each in operation.cautions)
    yield from (f"  not recorded {each.field}: {each.worst}" for each in review.completeness.missing)


class TestKept(unittest.TestCase):
    maxDiff = None

    def test_what_is_said_of_every_demo_recipe_is_what_was_read(self):
        self.assertEqual({file.stem for file in KEPT.glob("*.txt")}, set(RECORDS.cards))
        for card in RECORDS.cards:
            with self.subTest(card):
                kept = (KEPT / f"{card}.txt").read_text(encoding="utf-8").splitlines()
                self.assertEqual(list(said(card)), kept)


if __name__ == "__main__":
    if sys.argv[1:] == ["keep"]:
        KEPT.mkdir(exist_ok=True)
        for key in RECORDS.cards:
            (KEPT / f"{key}.txt").write_text("\n".join(said(key)) + "\n", encoding="utf-8")
    else:
        unittest.main()
