"""The list of findings: chance and cost on each, the smaller ones folded, stops and what can hurt never."""

import math

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kaustos.app.wording import MOST_TOLD
from kaustos.core.review import CODES
from tests.asserting import every
from tests.ui.support import WindowTest


class TestFolding(WindowTest):
    def opened(self, card):
        window = self.open()
        window.desk.workspace.draft.open_card(card)
        return window

    def seen(self, window):
        return [card.finding for card in window.findings.shown if card.isVisibleTo(window)]

    def test_five_are_told_and_the_rest_on_one_line_with_what_they_cost(self):
        window = self.opened("wellhead_cover")
        every_one = window.desk.review.findings()
        told = self.seen(window)
        self.assertEqual(len(told), MOST_TOLD)
        smaller = every_one[MOST_TOLD:]
        self.assertIn(f"And {len(smaller)} smaller", window.findings.smaller.text())
        risks = [each for each in smaller if each.basis not in ("people", "sure")]
        spared = math.prod(1.0 - each.chance for each in risks)
        sure = sum(each.cost.value for each in smaller if each.basis == "sure")
        together = sure + (1.0 - spared) * max(each.stake.value for each in risks)
        self.assertLess(together - sure, max(each.stake.value for each in risks), "a run is lost once")
        self.assertIn(f", {window.desk.wording.value(together, 'money')} a run", window.findings.smaller.text())
        QTest.mouseClick(window.findings.smaller, Qt.MouseButton.LeftButton)
        self.assertEqual(self.seen(window), list(every_one))
        QTest.mouseClick(window.findings.smaller, Qt.MouseButton.LeftButton)
        self.assertEqual(len(self.seen(window)), MOST_TOLD)

    def test_stepping_on_to_a_smaller_one_shows_it(self):
        window = self.opened("wellhead_cover")
        for _ in range(MOST_TOLD):
            window.findings.step(1)
        self.assertTrue(window.findings.cards[MOST_TOLD].isVisibleTo(window))
        self.assertTrue(window.findings.cards[MOST_TOLD].why.isVisibleTo(window))

    def test_stops_and_what_can_hurt_people_are_never_folded(self):
        window = self.open()
        for card in every(("probe_head_shell", "cable_guide", "packer_ring", "winch_bracket")):
            window.desk.workspace.draft.open_card(card)
            told = {(each.code, each.field) for each in self.seen(window)}
            held = {
                (each.code, each.field) for each in window.desk.review.findings()
                if each.severity == "stop" or CODES[each.code].is_safety
            }  # fmt: skip
            self.assertLessEqual(held, told)

    def test_each_says_its_chance_and_what_it_costs_on_average(self):
        window = self.opened("wellhead_cover")
        card = window.findings.shown[0]
        self.assertIn("such runs", card.cost.text())
        self.assertIn(window.desk.wording.value(card.finding.cost.value, "money"), card.place.text())
        self.assertAlmostEqual(card.finding.cost.value, card.finding.chance * card.finding.stake.value, places=6)


class TestWorthFindingOut(WindowTest):
    def test_what_pays_is_told_under_the_findings_and_goes_where_the_run_has_no_price(self):
        window = self.open()
        window.desk.workspace.draft.open_card("packer_ring")
        told = window.findings.worth
        self.assertTrue(told.isVisibleTo(window))
        self.assertIn("Pull or break five specimens across their layers", told.text())
        self.assertRegex(told.text(), r"saves [\d.,]+ € a run and pays after \d+")
        before = told.text()
        window.desk.set({"brief.print_h": 60.0})
        self.assertNotEqual(told.text(), before)
        window.desk.set({"brief.print_h": None})
        self.assertFalse(told.isVisibleTo(window))
        QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertIn("pays after", told.text())
        self.assertTrue(told.isVisibleTo(window))
