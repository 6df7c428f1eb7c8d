"""The route strip holds twelve operations in one row, each with words that fit; keys and benches come from the list."""

from unittest import mock

import attrs
from PySide6.QtGui import QFont, QFontMetrics

from kaustos.app.settings import Settings
from kaustos.core.review import OPERATIONS
from kaustos.ui.commands import COMMANDS
from kaustos.ui.desk import Desk
from kaustos.ui.route import FIGURE_PX, MARGIN, NAME_PX, RouteStrip
from tests.asserting import every
from tests.core.review.cases import CASES, by_recipe
from tests.support import at_once, changed, every_card, opened, said_by
from tests.ui.support import WindowTest

SHORTS = ("Brief", "Drying", "Machine", "Plate, bond", "First layer", "Melt, walls", "Heat, weld", "Supports",
          "Job file", "Watch", "Finish", "Evidence")  # fmt: skip


def twelve():
    """Twelve operations: those there are, over and over, under names as long as a name may be."""
    return tuple(
        attrs.evolve(OPERATIONS[place % len(OPERATIONS)], number=10 * (place + 1), key=f"{place}", short=short)
        for place, short in enumerate(SHORTS)
    )


class TestTwelve(WindowTest):
    is_seen = True

    def strip(self, window):
        said = window.desk.review
        many = attrs.evolve(said, operations=said.operations * 4)
        patched = mock.patch.object(Desk, "review", property(lambda _: many))
        patched.start()
        self.addCleanup(patched.stop)
        strip = RouteStrip(window.desk, twelve())
        self.addCleanup(strip.deleteLater)
        strip.resize(1280, strip.sizeHint().height())
        strip.show()
        self.app.processEvents()
        self.addCleanup(strip.close)
        return strip

    def test_twelve_stand_in_one_row_of_1280_equally_wide(self):
        strip = self.strip(self.open())
        self.assertLessEqual(strip.minimumSizeHint().width(), 1280)
        tiles = [*strip.tiles.values()]
        self.assertEqual(len({tile.y() for tile in tiles}), 1)
        self.assertLessEqual(max(tile.width() for tile in tiles) - min(tile.width() for tile in tiles), 1)
        self.assertLessEqual(tiles[-1].geometry().right(), 1280)

    def test_whatever_an_operation_says_fits_its_tile_in_both_units(self):
        said = [(name, each) for name, records in every_card() for each in at_once(records).operations]
        said += [
            (code, said_by(code.split(".")[0], changed(opened(card, machine), raising)))
            for code, (card, machine, raising, _) in sorted(CASES.items(), key=by_recipe)
        ]
        for settings in (Settings(), Settings(temperature="°F", decimal="comma")):
            window = self.open(settings)
            strip = self.strip(window)
            tile = strip.tiles["3"]
            figure, name = (self._metrics(tile, *each) for each in ((FIGURE_PX, 600), (NAME_PX, 400)))
            room = tile.width() - 2 * MARGIN
            for code, operation in every(said, 400):
                tile.show_review(operation)
                with self.subTest(code, operation=operation.number, unit=settings.temperature):
                    self.assertLessEqual(figure.horizontalAdvance(tile.lines()[1]), room, tile.lines()[1])
            for short in every(strip.tiles.values(), 12):
                self.assertLessEqual(name.horizontalAdvance(short.text()), short.width() - MARGIN, short.text())
            strip.close()
            self.close(window)

    def _metrics(self, tile, size, weight):
        font = QFont(tile.font())
        font.setPixelSize(size)
        font.setWeight(QFont.Weight(weight))
        return QFontMetrics(font)

    def test_the_fewer_tiles_the_longer_their_words(self):
        window = self.open()
        stock = window.desk.review.operations[1]
        self.assertGreater(len(stock.tile), 1, "it is said long and short")
        tile = window.route.tiles["stock"]
        narrow = tile.lines()[1]
        tile.resize(tile.width() + 200, tile.height())
        tile.show_review(stock)
        self.assertGreater(len(tile.lines()[1]), len(narrow))


class TestFromTheList(WindowTest):
    is_seen = True

    def test_every_operation_has_a_key_and_a_bench_in_its_order(self):
        window = self.open()
        going = [command for command in COMMANDS if command.id in {f"go.{each.key}" for each in OPERATIONS}]
        self.assertEqual([command.keys for command in going], [f"Ctrl+F{n}" for n in range(1, len(OPERATIONS) + 1)])
        for command, operation in zip(going, OPERATIONS, strict=True):
            window.perform(command)
            self.assertEqual(window.pages.currentWidget().key, operation.key)
            self.assertTrue(window.route.tiles[operation.key].isChecked())


class TestBeforeTheRestIsJudged(WindowTest):
    is_seen = True

    def test_the_grade_is_open_and_says_that_it_is_being_computed(self):
        with mock.patch.object(Desk, "begin", lambda desk: None):
            window = self.open()
        panel = window.findings.grade
        self.assertEqual((panel.mark.accessibleName(), panel.grade.text()), ("open", "Grade: computing"))
        window.desk.begin()
        self.app.processEvents()
        self.assertEqual((panel.mark.accessibleName(), panel.grade.text()), ("stop", "Grade: no-go"))
