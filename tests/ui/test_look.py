"""Renders every main view in both themes and at several sizes; nothing is cut off, overlaps or has no name."""

import functools
import itertools
import os
import subprocess
import sys
import unittest

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtWidgets import (
    QAbstractButton,
    QComboBox,
    QLabel,
    QLayout,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QTableWidget,
    QWidget,
)

from kaustos.app.settings import Settings
from kaustos.demo.scenario import RECORDS
from kaustos.ui.commands import COMMANDS
from kaustos.ui.findings import Sentence
from kaustos.ui.look import THEMES
from kaustos.ui.main import make_application
from kaustos.ui.rooms.names import ROOMS
from tests.asserting import every
from tests.ui.support import WindowTest

VIEWS = {
    "10 brief": lambda window: window.show_operation(10),
    "20 stock": lambda window: window.show_operation(20),
    "dryers": lambda window: window.show_room("stock") or window.rooms["stock"].switches[1].click(),
    "to order": lambda window: window.show_room("stock") or window.rooms["stock"].switches[2].click(),
    "stock figures": lambda window: window.show_operation(20) or window.benches["stock"].switches[1].click(),
    "30 machine": lambda window: window.show_operation(30),
    "values": lambda window: window.benches["brief"].show_field("polymer.x") and window.show_operation(10),
    "ranking": lambda window: window.benches["brief"].switches[1].click() or window.show_operation(10),
    "surroundings": lambda window: window.benches["brief"].group_switches[1].click() or window.show_operation(10),
    "revisions": lambda window: window.show_revisions(),
    **{room.key: lambda window, key=room.key: window.show_room(key) for room in ROOMS},
    "proposals": lambda window: window.show_room("proposals"),
}


CARDS = [*RECORDS.cards][:4]
LOOKS = (("light", "°C", CARDS), ("dark", "°F", CARDS[3:]))
LOOKED_AT = (0, 1)  # which of so many states of the window is brought up and looked at: all of them


def _turn(listing, key, switch):
    """Choose one of a list, and a page of it."""
    listing.choose(key)
    switch.click()


def in_sight(window):
    """What can be seen of a window now."""
    return [each for each in window.findChildren(QWidget) if each.isVisible()]


def of(things, kind):
    return (each for each in things if isinstance(each, kind))


def too_wide(things):
    """Labels and buttons whose text does not fit their place."""
    for label in of(things, QLabel):
        if label.text() and label.pixmap().isNull():
            if label.wordWrap():
                needed = label.heightForWidth(label.width())
                if needed > label.height() + 1:
                    yield f"label {label.text()[:60]!r}: {needed} high in {label.height()}"
            elif label.sizeHint().width() > label.width() + 1:
                yield f"label {label.text()[:60]!r}: {label.sizeHint().width()} wide in {label.width()}"
    for button in of(things, QPushButton):
        needed = button.fontMetrics().horizontalAdvance(button.text()) + 8
        if needed > button.width():
            yield f"button {button.text()!r}: {needed} wide in {button.width()}"
    for box in of(things, QComboBox):
        needed = box.fontMetrics().horizontalAdvance(box.currentText()) + 26
        if needed > box.width():
            yield f"choice {box.currentText()!r}: {needed} wide in {box.width()}"
    for area in of(things, QScrollArea):
        over = area.widget().width() - area.viewport().width() if area.widget() else 0
        if over > 0 and area.horizontalScrollBarPolicy() == Qt.ScrollBarPolicy.ScrollBarAlwaysOff:
            yield f"{type(area.widget()).__name__}: {over} wider than its scroll area"
    for edit in of(things, QLineEdit):
        needed = edit.fontMetrics().horizontalAdvance(edit.text()) + 14
        if needed > edit.width() and not isinstance(edit.parent(), QComboBox):
            yield f"field {edit.text()!r}: {needed} wide in {edit.width()}"


def overlaps(things):
    """Visible siblings under one layout that lie over one another."""
    for parent in things:
        layout = parent.layout()
        if layout is not None:
            boxes = [(item.widget(), item.widget().geometry()) for item in _items(layout) if item.widget().isVisible()]
            for (one, first), (two, second) in itertools.combinations(boxes, 2):
                if first.intersects(second) and not QRect(first).intersected(second).isEmpty():
                    yield f"{type(one).__name__} over {type(two).__name__} in {type(parent).__name__}"


def _items(layout):
    for index in range(layout.count()):
        item = layout.itemAt(index)
        if item.widget() is not None:
            yield item
        elif isinstance(item, QLayout):
            yield from _items(item)


def nameless(things):
    """Things to be focused that a screen reader could not name."""
    for widget in of(things, (QAbstractButton, QComboBox, QLineEdit, QTableWidget)):
        if not isinstance(widget.parent(), (QComboBox, QTableWidget)):
            name = widget.accessibleName() or getattr(widget, "text", lambda: "")()
            if not name:
                yield f"{type(widget).__name__} in {type(widget.parent()).__name__}"


class TestEveryView(WindowTest):
    seen = 0
    is_seen = True
    paints = True  # at other scales the layout alone is looked at

    def check(self, window, name, bring_up=lambda: None):
        """Bring a state up, and look once the layouts have come to rest, as they have before a person looks."""
        self.seen += 1
        which, of = LOOKED_AT
        if self.seen % of != which:
            return
        bring_up()
        for _ in range(8):
            self.app.processEvents()
        things = in_sight(window)
        for problem in (*too_wide(things), *overlaps(things), *nameless(things)):
            with self.subTest(name):
                self.fail(problem)

    def test_nothing_is_cut_off_overlaps_or_is_nameless(self):
        for theme, unit, cards in LOOKS:
            window = self.open(Settings(who="A. Tester", theme=theme, temperature=unit))
            window.setUpdatesEnabled(self.paints)
            for card in cards:
                window.desk.workspace.draft.open_card(card)
                for view, show in VIEWS.items():
                    self.check(window, f"{view}, {card}, {theme}, {unit}", functools.partial(show, window))
            for zone in ("plate", "chamber", "nozzle"):
                window.show_operation(30)
                self.check(window, f"{zone}, {theme}", functools.partial(window.benches["machine"].form.choose, zone))
            window.show_room("stock")
            window.rooms["stock"].switches[0].click()
            lots = window.rooms["stock"].lots
            for lot, page in itertools.product(RECORDS.lots, range(3)):
                self.check(
                    window,
                    f"{lot}, page {page}, {theme}",
                    functools.partial(_turn, lots.list, lot, lots.form.switches[page]),
                )
            window.rooms["stock"].switches[3].click()
            for nozzle in ("nozzle_s01", "nozzle_c07"):
                window.rooms["stock"].nozzles.list.choose(nozzle)
                self.check(window, f"{nozzle}, {theme}")
            window.show_room("machines")
            room = window.rooms["machines"]
            for machine, page in itertools.product(("tarn", "beck"), range(len(room.form.switches))):
                self.check(
                    window,
                    f"{machine}, page {page}, {theme}",
                    functools.partial(_turn, room.list, machine, room.form.switches[page]),
                )
            self.look_at_plate_and_part(window, theme)
            self.close(window)

    def look_at_plate_and_part(self, window, theme):
        """Groups of the brief, pages of plate and first layer, plates, agents, a run with a lift and layer one due."""
        keys = {10: "brief", 40: "plate", 50: "first_layer", 60: "melt", 70: "heat", 80: "supports", 110: "anneal",
                120: "proof"}  # fmt: skip
        for card, shown in (
            ("centraliser_blade", (10, 40, 50, 60, 70)), ("cable_guide", (10, 40, 50)), ("cable_clamp", (80,)),
            ("sensor_cage", (110, 120)),
        ):  # fmt: skip
            window.desk.workspace.draft.open_card(card)
            for operation in shown:
                key = keys[operation]
                window.show_operation(operation)
                bench = window.benches[key]
                turned = [*bench.switches, *(bench.group_switches if key == "brief" else ())]
                for switch in (*turned, *(bench.views if key in ("plate", "heat", "proof") else ())):
                    self.check(window, f"{card}, {key}, {switch.text()}, {theme}", switch.click)
        window.show_room("stock")
        stock = window.rooms["stock"]
        for page, kept, keys in (
            (4, stock.plates, ("plate_f3", "plate_g1")),
            (5, stock.agents, ("agent_v14",)),
            (6, stock.ovens, ("oven_o1",)),
        ):
            stock.switches[page].click()
            for key in keys:
                self.check(window, f"{key}, {theme}", functools.partial(kept.list.choose, key))
        window.desk.workspace.draft.open_card("sensor_cage")
        window.start_run()
        form = window.rooms["runs"].form
        form.what.setCurrentIndex(form.what.findData("corner_lift"))
        self.assertTrue(form.lift.isVisible() and form.good.isVisible())
        self.check(window, f"a run with a lift, {theme}")
        window.desk.workspace.draft.undo()

    def test_a_larger_window_is_used_and_still_whole(self):
        window = self.open()
        bench = window.benches["machine"].width()
        window.resize(QSize(1900, 1100))
        self.app.processEvents()
        self.assertGreater(window.benches["machine"].width(), bench + 500)
        self.check(window, "large")

    def test_state_is_never_shown_by_colour_alone(self):
        window = self.open()
        for tile in every(window.route.tiles.values(), 12):
            self.assertIn(tile.lines()[2], ("stop", "watch", "open", "clear"))
        for card in every(window.findings.shown):
            self.assertIn(card.severity.text(), ("stop", "watch"))

    def test_text_stands_out_from_its_ground_in_both_themes(self):
        def luminance(colour):
            parts = [int(colour[place : place + 2], 16) / 255 for place in (1, 3, 5)]
            linear = [part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts]
            return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

        for name, colours in THEMES.items():
            for ink in ("ink", "muted", "stop", "watch", "open", "clear", "accent"):
                for ground in ("panel", "raised"):
                    high, low = sorted((luminance(getattr(colours, each)) for each in (ink, ground)), reverse=True)
                    with self.subTest(name, ink=ink, ground=ground):
                        self.assertGreaterEqual((high + 0.05) / (low + 0.05), 4.5, "contrast of WCAG 2 level AA")


class TestScaling(unittest.TestCase):
    def test_every_view_is_whole_at_125_and_200_per_cent(self):
        program = (
            "import sys, unittest\nfrom tests.ui import test_look\nfrom tests.ui.test_look import TestEveryView\n"
            "test_look.LOOKS = (('light', '°F', test_look.CARDS[:1]),)\n"
            "test_look.LOOKED_AT = (int(sys.argv[1]), 2)\n"
            "TestEveryView.paints = False\n"
            "result = unittest.TestResult()\n"
            "TestEveryView('test_nothing_is_cut_off_overlaps_or_is_nameless').run(result)\n"
            "print(*[text for _, text in result.failures + result.errors][:3])\n"
            "sys.exit(not result.wasSuccessful())\n"
        )
        for scale, which in (("1.25", "0"), ("2", "1")):  # every state at one of the two
            with self.subTest(scale):
                environment = {**os.environ, "QT_SCALE_FACTOR": scale, "QT_QPA_PLATFORM": "offscreen"}
                done = subprocess.run(
                    [sys.executable, "-c", program, which], env=environment, capture_output=True, text=True, check=False
                )
                self.assertEqual(done.returncode, 0, done.stdout + done.stderr)


class TestSentence(unittest.TestCase):
    def test_a_number_is_never_parted_from_its_unit(self):
        make_application()
        sentence = Sentence()
        for words, kept in (
            ("Dry 10 h 30 at 80 °C", ("10 h 30", "80 °C")), ("costs 198 €, 2 h 05", ("198 €", "2 h 05")),
            ("35 K short of 4 of 10 grams", ("35 K",)), ("0.4 % water in 3 kilns", ("0.4 %",)),
        ):  # fmt: skip
            sentence.setText(words)
            with self.subTest(words):
                parts = QLabel.text(sentence).split(" ")
                for each in kept:
                    self.assertIn(each.replace(" ", "\u00a0"), [part.rstrip(",") for part in parts])
                self.assertEqual(len(parts) - 1, words.count(" ") - sum(each.count(" ") for each in kept))
                self.assertEqual(sentence.text(), words)


class TestCommands(WindowTest):
    def test_every_command_has_title_help_an_action_and_a_key_of_its_own(self):
        window = self.open()
        window.head.fill_menu()
        keys = [command.keys for command in COMMANDS if command.keys]
        self.assertEqual(len(keys), len(set(keys)))
        for command in COMMANDS:
            with self.subTest(command.id):
                self.assertTrue(command.title and command.help.endswith("."))
                self.assertIn(window.actions_by_id[command.id], window.head.menu.actions())
