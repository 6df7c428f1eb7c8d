"""The first hour as a person has it: from an empty workspace to a judged recipe, by keys alone and by presses alone."""

import re

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from kaustos.app.settings import Settings
from tests.ui.support import WindowTest

CONTROL = Qt.KeyboardModifier.ControlModifier
NAMES = {"machine": "Moor", "dryer": "Warm box", "lot": "M-001", "grade": "PA6-CF", "colour": "black",
         "recipe": "Sonde bracket"}  # fmt: skip


class FirstHourTest(WindowTest):
    is_seen = True

    def setUp(self):
        super().setUp()
        self.window = self.open(Settings(who="A. Tester"), file=self.folder / "new.kaustos")
        self.room = self.window.rooms["begin"]
        self.keys = self.presses = 0

    def key(self, key, modifier=Qt.KeyboardModifier.NoModifier):
        """One key to whatever has the focus."""
        self.keys += 1
        QTest.keyClick(QApplication.focusWidget(), key, modifier)
        self.app.processEvents()

    def name(self, words):
        """A name typed where the hand is; names do not count."""
        QTest.keyClicks(QApplication.focusWidget(), words)

    def typed(self, words):
        """A value typed where the hand is; every sign counts."""
        self.keys += len(words)
        QTest.keyClicks(QApplication.focusWidget(), words)

    def press(self, widget):
        self.presses += 1
        QTest.mouseClick(widget, Qt.MouseButton.LeftButton)
        self.app.processEvents()


class TestFirstHour(FirstHourTest):
    def test_by_keys_from_empty_to_a_judged_recipe_in_at_most_25(self):
        self.assertEqual(self.window.room, "begin")
        self.assertIs(QApplication.focusWidget(), self.room.machine, "the hand is where it begins")
        self.name(NAMES["machine"])
        self.key(Qt.Key.Key_Return)
        self.name(NAMES["dryer"])
        self.key(Qt.Key.Key_Return)
        self.typed("95")
        self.key(Qt.Key.Key_Return)
        for each in ("lot", "grade", "colour"):
            self.name(NAMES[each])
            self.key(Qt.Key.Key_Return)
        self.name(NAMES["recipe"])
        self.key(Qt.Key.Key_Return)
        self.judged_and_landed()
        self.assertLessEqual(self.keys, 25)

    def test_by_presses_in_at_most_15(self):
        for frame, lines in (("machine", (self.room.machine,)), ("dryer", (self.room.dryer, self.room.hottest)),
                             ("lot", (self.room.lot, self.room.grade, self.room.colour)),
                             ("recipe", (self.room.recipe,))):  # fmt: skip
            words = {"machine": ("Moor",), "dryer": ("Warm box", "95"), "lot": ("M-001", "PA6-CF", "black"),
                     "recipe": ("Sonde bracket",)}[frame]  # fmt: skip
            for line, text in zip(lines, words, strict=True):
                self.press(line)
                QTest.keyClicks(line, text)
            self.press(self.room.steps[frame].make)
        self.judged_and_landed()
        self.assertLessEqual(self.presses, 15)

    def judged_and_landed(self):
        records = self.window.desk.workspace.draft.records
        card = records.card
        self.assertEqual((self.window.room, self.window._last_bench), ("recipe", "brief"))
        self.assertEqual(card.recipe.polymer, "pa_cf")
        self.assertEqual((set(card.chosen), card.recipe.name), ({"machine", "lot", "dryer"}, "Sonde bracket"))
        self.assertIsNotNone(card.recipe.melt.nozzle_c)
        self.assertIsNotNone(card.recipe.stock.dryer_c)
        self.assertTrue(self.window.desk.review.grade.value)
        self.assertIn("Setpoints to start from are entered", self.window.message.text.text())
        self.window.undo()
        self.assertIsNone(self.window.desk.workspace.draft.records.card.recipe.melt.nozzle_c, "taken back")
        self.app.processEvents()
        self.assertFalse(self.window.message.isVisible(), "a message leaves when it is no longer true")

    def test_each_step_says_what_it_unlocks_and_gets_its_tick(self):
        for frame in self.room.steps.values():
            self.assertTrue(frame.unlocks.text())
            self.assertEqual(frame.mark.accessibleName(), "open")
        self.name("Moor")
        self.key(Qt.Key.Key_Return)
        self.assertEqual(self.room.steps["machine"].mark.accessibleName(), "clear")
        self.assertIn("Moor", self.room.steps["machine"].title.text())

    def test_what_cannot_act_is_off_and_says_why(self):
        for button in self.window.head.acts:
            self.assertFalse(button.isEnabled())
            self.assertIn("no recipe yet", button.toolTip())
        window = self.open()
        self.assertTrue(all(button.isEnabled() for button in window.head.acts))

    def test_a_new_thing_of_an_existing_name_is_asked_for(self):
        for key, line in (("machine", self.room.machine), ("dryer", self.room.dryer)):
            for expected in (False, True):
                line.setText("Twin")
                self.press(self.room.steps[key].make)
                self.assertEqual("already" in self.window.message.text.text(), expected)
                self.window.message.hide()
                self.window.message.text.clear()

    def test_the_example_firm_is_opened_from_there(self):
        self.assertFalse(self.room.example.isVisible(), "a window without one does not offer it")
        opened = []
        self.window.files._example = lambda: self.folder / "there.kaustos"
        self.window.files.open_workspace = opened.append
        self.window.files.open_example()
        self.assertEqual([each.name for each in opened], ["there.kaustos"])


class TestUndoWhereTheHandIs(WindowTest):
    """Keys go to the widget that has the focus, never to the window."""

    is_seen = True

    def hand(self, key, modifier=CONTROL):
        QTest.keyClick(QApplication.focusWidget(), key, modifier)
        self.app.processEvents()

    def test_in_a_field_just_typed_into_after_enter_and_in_the_command_field(self):
        window = self.open()
        draft = window.desk.workspace.draft
        for leave in (Qt.Key.Key_Return, Qt.Key.Key_Tab):
            edit = window.ladder.boxes["plate.bed_c"].edit
            edit.setFocus()
            edit.selectAll()
            QTest.keyClicks(QApplication.focusWidget(), "150")
            self.hand(leave, Qt.KeyboardModifier.NoModifier)
            self.assertEqual(draft.value("plate.bed_c"), 150.0)
            self.hand(Qt.Key.Key_Z)
            self.assertEqual(draft.value("plate.bed_c"), 158.0, "undone where the hand is")
            self.hand(Qt.Key.Key_Z, CONTROL | Qt.KeyboardModifier.ShiftModifier)
            self.assertEqual(draft.value("plate.bed_c"), 150.0)
            self.hand(Qt.Key.Key_Z)
        draft.set({"plate.bed_c": 151.0})
        window.focus_commands()
        self.hand(Qt.Key.Key_Z)
        self.assertEqual(draft.value("plate.bed_c"), 158.0)

    def test_what_is_being_typed_is_undone_in_its_line_first(self):
        window = self.open()
        edit = window.ladder.boxes["plate.bed_c"].edit
        edit.setFocus()
        edit.selectAll()
        QTest.keyClicks(edit, "99")
        self.hand(Qt.Key.Key_Z)
        self.assertEqual(window.desk.workspace.draft.value("plate.bed_c"), 158.0, "nothing was entered yet")
        self.assertNotEqual(edit.text(), "99")

    def test_on_a_mark_of_the_ladder_and_in_a_table(self):
        window = self.open()
        mark = window.ladder.view.marks["heat.chamber_c"]
        mark.setFocus()
        self.hand(Qt.Key.Key_Down, Qt.KeyboardModifier.NoModifier)
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), 124.0)
        self.hand(Qt.Key.Key_Z)
        self.assertEqual(window.desk.workspace.draft.value("heat.chamber_c"), 125.0)


class TestNotRecorded(WindowTest):
    is_seen = True

    def test_three_names_stand_first_the_rest_is_counted_by_bench_and_told_on_demand(self):
        window = self.open()
        window.desk.workspace.draft.open_card("cable_guide")
        window.show_room("recipe")
        missing = window.desk.review.completeness.missing
        words = window.findings.missing.text()
        self.assertEqual(words.split(". More: ")[0].count(";"), 2)
        counts = [int(each) for each in re.findall(r"(\d+) on \d\d", words)]
        self.assertEqual(sum(counts), len({each.field for each in missing}) - 3)
        QTest.mouseClick(window.findings.all_missing, Qt.MouseButton.LeftButton)
        for each in missing:
            self.assertIn(window.desk.wording.field(each.field), window.findings.missing.text())


class TestGrades(FirstHourTest):
    """Grades that are no shipped polymer are made where they are typed, from what they are made of."""

    def lot(self, grade):
        """Typed as a hand does: number, grade, colour, each with Enter."""
        self.room.lot.setFocus()
        for words in (f"L {grade}", grade, ""):
            self.name(words)
            self.key(Qt.Key.Key_Return)

    def offered(self):
        return [self.room.which.itemText(at) for at in range(self.room.which.count())]

    def choose(self, words):
        """By the arrow keys from where the hand is; nothing is taken on the way."""
        self.assertIs(QApplication.focusWidget(), self.room.which)
        before = len(self.records().lots)
        while words not in self.room.which.currentText():
            at = self.room.which.currentIndex()
            self.key(Qt.Key.Key_Down)
            self.assertGreater(self.room.which.currentIndex(), at, "it is not offered")
        self.assertEqual(len(self.records().lots), before)
        self.key(Qt.Key.Key_Return)

    def records(self):
        return self.window.desk.workspace.draft.records

    def test_a_fibre_grade_is_derived_from_its_matrix_and_the_message_is_gone(self):
        self.lot("PA12-CF")
        self.assertTrue(self.room.which.isVisible())
        self.assertIn("not understood", self.window.message.text.text())
        self.assertIn("PA12", self.offered()[1], "what its name may mean stands first")
        self.choose("a grade of ours, from PA12")
        (lot,) = self.records().lots.values()
        own = self.records().own_polymers[lot.polymer]
        self.assertEqual((own.name, own.based_on, own.filler), ("PA12-CF", "pa12", "carbon"))
        self.assertEqual(self.records().polymers[lot.polymer].name, "PA12-CF")
        self.assertNotIn("not understood", self.window.message.text.text())
        self.assertFalse(self.room.which.isVisible())
        self.lot("PA12 CF")
        self.assertEqual({each.polymer for each in self.records().lots.values()}, {lot.polymer}, "known from now on")

    def test_one_name_of_two_polymers_is_asked_for_in_place(self):
        self.lot("PEI")
        self.assertEqual([each for each in self.offered() if each.startswith("it is")], self.offered()[1:3])
        self.choose("it is PEI")
        (lot,) = self.records().lots.values()
        self.assertEqual((self.records().own_polymers, lot.polymer.startswith("pei")), ({}, True))

    def test_a_blend_may_be_derived_and_a_hardness_is_no_polymer(self):
        self.lot("PC-ABS")
        self.choose("from PC")
        self.lot("TPU 95A")
        polymers = [each.polymer for each in self.records().lots.values()]
        self.assertEqual(polymers, ["pc_abs", "tpu"])
        self.assertFalse(self.room.which.isVisible())

    def test_a_lot_without_its_number_makes_no_polymer_either(self):
        self.lot("PA12-CF")
        self.room.lot.clear()
        self.choose("from PA12")
        self.assertEqual((self.records().own_polymers, self.records().lots), ({}, {}))
        self.assertIn("its number", self.window.message.text.text())
