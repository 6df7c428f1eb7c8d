"""Presses, types and chooses at random, from fixed seeds: nothing that a hand can do in the window is a fault."""

import random

from PySide6.QtWidgets import QComboBox, QLineEdit, QPushButton, QWidget

from kaustos.app.settings import Settings
from tests.ui.support import WindowTest

STEPS = 110
ASKS = {  # they open dialogs, or threads
    "Write CSV", "Log with photo", "With photo", "Add label photo", "Add photo", "Start simulated devices", "Sheet",
    "Menu", "Save revision", "Save a copy", "Open", "Open log", "Write",
    "Print card", "Watch line", "Simulated machine", "Watch controller", "Simulated oven", "Open curves", "Open WAV",
    "Write report", "Labels",
}  # fmt: skip
WORDS = ("0", "12", "-5", "abc", "1 kg", "80", "300 F", "5;5", "", "230-250", "2 h 30", "1e9", "999999")


class TestRandomWalk(WindowTest):
    is_seen = True

    def walk(self, seed, unit):
        chance = random.Random(seed)
        window = self.open(Settings(who="A. Tester", temperature=unit))
        done = []
        for _ in range(STEPS):
            if chance.random() < 0.15:
                chance.choice((lambda: window.show_room("stock"), lambda: window.show_bench("stock"),
                               lambda: window.show_room("runs"), lambda: window.show_room("machines")))()  # fmt: skip
            thing = chance.choice(self.in_reach(window))
            done.append(self.use(thing, chance))
            if chance.random() < 0.08:
                window.desk.workspace.draft.undo()
            self.app.processEvents()
            self.assertEqual(self.complaints(), [], f"seed {seed}, after {done[-5:]}")
        window.desk.save_draft()
        self.assertEqual(window.desk.fault, "")
        self.close(window)
        again = self.open(Settings(temperature=unit))
        self.assertFalse(again.desk.workspace.unsaved, "what was done can be read again")
        self.close(again)

    def in_reach(self, window):
        """What a hand can use now, dialogs left out."""
        kinds = (QPushButton, QLineEdit, QComboBox)
        things = [each for each in window.findChildren(QWidget) if isinstance(each, kinds)]
        things = [each for each in things if each.isVisible() and each.isEnabled()]
        return [each for each in things if not (isinstance(each, QPushButton) and _asks(each))]

    def use(self, thing, chance):
        """Press, type or choose; what was done, in words."""
        if isinstance(thing, QPushButton):
            words = thing.text()
            thing.click()
            return f"pressed {words}"
        if isinstance(thing, QLineEdit):
            words, name = chance.choice(WORDS), thing.accessibleName()
            thing.setFocus()
            thing.setText(words)
            thing.setModified(True)
            thing.returnPressed.emit()
            thing.editingFinished.emit()
            return f"typed {words!r} into {name}"
        place = chance.randrange(max(thing.count(), 1))
        name, words = thing.accessibleName(), thing.itemText(place)
        thing.setCurrentIndex(place)
        thing.activated.emit(place)
        return f"chose {words} of {name}"

    def test_nothing_that_is_pressed_typed_or_chosen_is_a_fault(self):
        for seed, unit in ((1, "°C"), (2, "°F")):
            with self.subTest(seed):
                self.walk(seed, unit)


def _asks(button):
    return button.text() in ASKS or "▾" in button.text()
