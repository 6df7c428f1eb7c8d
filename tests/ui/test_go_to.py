"""Go to: for each question of each operation the focus comes into a field that takes its answer."""

from unittest import mock

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kaustos.app.own_polymers import new_polymer
from kaustos.core.records import POLYMER_VALUES, Place
from kaustos.core.review import OPERATIONS
from kaustos.core.review.making import Question
from kaustos.demo.scenario import RECORDS
from kaustos.library import load
from kaustos.ui.benches.brief import ValueTable
from kaustos.ui.leading import taken_by
from tests.support import changed, opened, recipe_and_context
from tests.ui.support import WindowTest

BARE = {"plate": "context.plate", "nozzle": "context.nozzle"}  # a record that is not chosen
SITUATIONS = (  # recipe, machine, and what makes an operation ask what it asks of no recipe of the demo as it is
    *((card, each.machine, {}) for card, each in RECORDS.cards.items()),
    ("sensor_cage", "tarn", {"anneal.where": "oven", "anneal.packed": "sand", "context.oven": "oven_o1"}),
    ("cable_clamp", "tarn", {"plate.anchor": "raft", "supports.way": "soluble", "context.bath": None}),
)


class TestGoTo(WindowTest):
    def test_every_question_leads_to_a_field_that_takes_its_answer(self):
        questions = self.questions()
        del questions["polymer.modulus"]  # of one from nothing alone: below
        self.assertGreater(len(questions), 240)
        window = self.open()
        before = None
        for path, situation in questions.items():
            if situation is not before:
                before = situation
                self.stand(window, situation)
            window.focus_commands()
            window.desk.asked.emit(path)
            with self.subTest(path, situation=situation[:2]):
                self.assertTrue(self.takes(window, path), f"in {window.focusWidget()!r}")

    def test_the_modulus_of_a_polymer_from_nothing_is_told_by_what_it_is_based_on(self):
        self.assertTrue(all(polymer.modulus for polymer in load().polymers.values()))
        window = self.open()
        draft = window.desk.workspace.draft
        draft.open_card("cable_clamp")
        draft.set({"polymer": new_polymer(window.desk.workspace, "Ours", None, "amorphous")})
        self.assertIn("polymer.modulus", {each.field for each in window.desk.review.completeness.missing})
        window.desk.asked.emit("polymer.modulus")
        box = window.focusWidget()
        self.assertEqual((window.room, box.path), ("atlas", Place("own_polymers", "ours", "based_on")))
        box.setCurrentIndex(box.findData("pc"))
        box.activated.emit(box.currentIndex())
        self.assertNotIn("polymer.modulus", {each.field for each in window.desk.review.completeness.missing})

    def test_an_advice_leads_to_where_it_is_told_what_was_done(self):
        window = self.open()
        window.desk.workspace.draft.open_card("cable_clamp")
        window.desk.workspace.draft.set({"first_layer.look_by": ""})
        names = [each.code for each in window.desk.review.findings()]
        window.findings.choose(names.index("first_layer.look.nobody"))
        window.focus_commands()
        window.findings.apply(0)
        self.assertTrue(self.takes(window, "first_layer.look_by"))
        QTest.keyClicks(window.focusWidget(), "R. Askew")
        QTest.keyClick(window.focusWidget(), Qt.Key.Key_Return)
        self.assertEqual(window.desk.workspace.draft.records.card.recipe.first_layer.look_by, "R. Askew")

    def test_the_button_of_the_panel_leads_to_what_would_change_the_grade_most(self):
        window = self.open()
        window.desk.workspace.draft.open_card("cable_clamp")
        window.desk.workspace.draft.set({"lot.tare_g": None, "brief.mass_g": 900.0, "context.job": None})
        first = window.desk.review.completeness.missing[0].field
        QTest.mouseClick(window.findings.first_missing, Qt.MouseButton.LeftButton)
        self.assertTrue(self.takes(window, first), first)

    def test_what_is_not_chosen_is_said(self):
        window = self.open()
        window.desk.workspace.draft.open_card("cable_clamp")
        window.desk.workspace.draft.set({"context.agent": None})
        window.desk.asked.emit("agent.state")
        self.assertIn("No agent is chosen", window.message.text.text())

    def questions(self):
        """Fields that are asked for, each with the first situation in which it is."""
        found = {}
        heard = Question.__init__
        for situation in SITUATIONS:
            card, machine, changes = situation

            def hear(question, field, *rest, situation=situation):
                found.setdefault(field, situation)
                heard(question, field, *rest)

            with mock.patch.object(Question, "__init__", hear):
                recipe, context = recipe_and_context(changed(opened(card, machine), changes))
                for operation in OPERATIONS:
                    operation.review(recipe, context)
        return dict(sorted(found.items(), key=lambda each: SITUATIONS.index(each[1])))

    def stand(self, window, situation):
        card, machine, changes = situation
        draft = window.desk.workspace.draft
        while draft.undo_title:
            draft.undo()
        draft.open_card(card)
        draft.set({"context.machine": machine, **changes})

    def takes(self, window, path):
        widget, records = window.focusWidget(), window.desk.workspace.draft.records
        if isinstance(widget, ValueTable):
            key = path.removeprefix("polymer.")
            return list(POLYMER_VALUES)[widget.currentRow()].startswith(key) and widget.currentColumn() >= 3
        place, fields = taken_by(widget, records)
        if place is None:
            return path in fields or path.partition(".")[2].partition("[")[0] in fields
        wanted = records.place(BARE.get(path, path))
        return place == wanted or place.field == f"{wanted.field}.max_c"  # a part of a machine by its limit
