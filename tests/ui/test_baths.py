"""Works a bath as a person does: mixed, a part in, looked at, out, dried, weighed twice, called clean or refused."""

from datetime import timedelta

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from kaustos.core.planning.bath import contents_of
from tests.ui.support import WindowTest, press_key, type_into

CONTROL = Qt.KeyboardModifier.ControlModifier


class TestBaths(WindowTest):
    def setUp(self):
        super().setUp()
        self.window = self.open()
        self.desk = self.window.desk
        self.window.show_room("stock")
        self.room = self.window.rooms["stock"]
        next(each for each in self.room.switches if each.text() == "Baths").click()
        self.page, self.form = self.room.baths, self.room.baths.form

    def bath(self, key="bath_t2"):
        return self.desk.workspace.draft.records.tables["baths"][key]

    def later(self, hours):
        now = self.desk.workspace.clock()
        self.desk.workspace.clock = lambda: now + timedelta(hours=hours)

    def press(self, words):
        next(each for each in self.form.findChildren(QPushButton) if each.text() == words).click()
        self.app.processEvents()
        return self.form.said.text() or self.window.message.text.text()

    def typed(self, line, words):
        line.setFocus()
        line.clear()
        QTest.keyClicks(line, words)

    def choose(self, box, key):
        box.setCurrentIndex(box.findData(key))

    def make(self, name, kind, volume):
        self.typed(self.page.name, name)
        self.choose(self.page.kind, kind)
        self.typed(self.page.volume, volume)
        press_key(Qt.Key.Key_Return)

    def test_a_part_goes_through_a_new_bath_and_is_clean_by_mass_alone(self):
        self.make("T-9", "bvoh", "4 l")
        self.assertEqual(self.bath("t_9").volume_ml, 4000.0)
        self.typed(self.form.part, "seal carrier")
        self.typed(self.form.supports, "8")
        self.typed(self.form.before, "60.10")
        self.assertRegex(self.press("Put in"), r"^In\. It takes about .+ look after ")
        self.later(6.0)
        self.choose(self.form.seen, "none")
        self.typed(self.form.warm, "38")
        self.assertIn("weigh it twice", self.press("Note"))
        self.press("Take out")
        self.typed(self.form.mass, "52.15")
        self.later(4.0)
        self.assertIn("not level yet", self.press("Weighed"))
        self.choose(self.form.ended, "clean")
        self.assertIn("Say who looked it over", self.press("End it"))
        self.assertIsNone(self.bath("t_9").washes[0].ended)
        self.later(4.0)
        self.typed(self.form.mass, "52.15")
        self.assertIn("the balance cannot tell", self.press("Weighed"), "a scale for spools is too coarse")
        self.typed(self.form.balance, "0.01")
        self.later(4.0)
        self.typed(self.form.mass, "52.15")
        self.press("Weighed")
        self.later(4.0)
        self.typed(self.form.mass, "52.15")
        self.assertIn("clean by mass", self.press("Weighed"))
        self.choose(self.form.ended, "clean")
        self.assertIn("clean", self.press("End it"))
        self.assertEqual(self.bath("t_9").washes[0].ended, "clean")
        press_key(Qt.Key.Key_Z, CONTROL)
        self.assertIsNone(self.bath("t_9").washes[0].ended, "one step back")

    def test_what_is_left_by_mass_is_not_called_clean_and_goes_back_with_what_is_left(self):
        self.assertIn("78.9 g more", self.form.card.text())
        self.press("Take out")
        for hours, mass in ((4.0, "86.5"), (8.0, "86.5")):
            self.later(hours)
            self.typed(self.form.mass, mass)
            words = self.press("Weighed")
        self.assertIn("supports are left", words)
        self.choose(self.form.ended, "clean")
        self.typed(self.form.who, "R. Askew")
        self.assertIn("Not clean", self.press("End it"))
        self.choose(self.form.ended, "again")
        self.press("End it")
        again = self.bath().washes[-1]
        self.assertAlmostEqual(again.supports_g, 6.2 - (88.42 - 86.5), places=6)
        self.assertEqual((again.before_g, again.is_in), (86.5, True))

    def test_bad_input_is_named_beside_it_and_nothing_is_lost(self):
        for name, kind, volume, words in (
            ("", "pva", "4 l", "Give the bath a name"),
            ("X", "", "4 l", "Say what it takes out"),
            ("X", "pva", "", "Say what it holds"),
            ("X", "pva", "four", "four"),
        ):
            before = self.desk.workspace.draft.records
            self.make(name, kind, volume)
            with self.subTest(words):
                self.assertIn(words, self.window.message.text.text())
                self.assertIs(self.desk.workspace.draft.records, before)
        edit = self.form.form.boxes["volume_ml"].edit
        type_into(edit, "0")
        self.assertEqual(self.bath().volume_ml, 8000.0)
        self.assertTrue(self.form.form.boxes["volume_ml"].fault.text())
        self.typed(self.form.part, "lid")
        self.typed(self.form.supports, "much")
        self.assertIn("much", self.press("Put in"))
        self.assertEqual((len(self.bath().washes), self.form.part.text()), (3, "lid"))
        self.form.washes.selectRow(1)
        self.assertIn("has ended", self.press("Take out"))
        self.form.washes.selectRow(0)
        self.assertIn("Take it out first", self.press("Weighed"))

    def test_a_wash_of_which_nobody_knows_what_was_on_it_is_said_and_counts_as_unknown(self):
        self.window.desk.workspace.draft.open_card("winch_bracket")
        self.app.processEvents()
        self.typed(self.form.part, "a lid")
        self.assertIn("not known", self.press("Put in"))
        self.assertIn("Of 1 washes nobody noted", self.form.card.text())
        self.assertEqual(contents_of(self.bath()).untold, 1)

    def test_a_bath_past_its_time_says_so_and_a_retired_one_is_out_of_the_list(self):
        self.page.list.choose("bath_w1")
        self.assertIn("Past its time", self.form.card.text())
        self.assertIn("nobody noted", self.form.card.text())
        self.room.retiring.click()
        self.app.processEvents()
        self.assertNotIn("W-1, warm water", [line[0] for line in self.page.list.lines()])
        self.assertTrue(self.bath("bath_w1").retired)
