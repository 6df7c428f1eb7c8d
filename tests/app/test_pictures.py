"""What the pictures show, read back from their strokes: order, place and room, whatever the record.

Three recipes' pictures were looked at and are kept as SVG; a picture that changes is looked at again and kept anew:
python -m tests.app.test_pictures keep
"""

import itertools
import re
import sys
import unittest
from pathlib import Path

from kaustos.app.pictures import Box, drawing_of, views_of
from kaustos.app.pictures.ladder import LadderScale, draw_ladder, lane_left, lane_width
from kaustos.app.sheet import sheet_content
from kaustos.app.wording import Wording
from kaustos.core.planning.gap_series import GapStep, best_gap, values_of
from kaustos.core.records import Calibration
from kaustos.core.review import BY_KEY, OPERATIONS, ladder
from tests.asserting import every
from tests.core.review.cases import IN_TANK, ON_ASA, tank
from tests.support import changed, every_card, judged, opened, recipe_and_context

BOX, LADDER = Box(0.0, 0.0, 760.0, 300.0), Box(0.0, 0.0, 330.0, 560.0)
LETTER, LINE = 6.0, 12.0
SUPPORTS = BY_KEY["supports"]


class Recorder:
    """A pen that keeps its strokes."""

    def __init__(self):
        self.strokes, self.said = [], []

    def line(self, x1, y1, x2, y2, colour, width=1.0, style="solid"):
        self.strokes.append(("line", colour, style, [(x1, y1), (x2, y2)]))

    def area(self, box, colour, opacity=1.0):
        self.strokes.append(("area", colour, "", [(box.left, box.top), (box.right, box.bottom)]))

    def frame(self, box, colour, width=1.0):
        self.area(box, colour)

    def hatch(self, box, colour):
        self.area(box, colour)

    def shape(self, points, colour, opacity=1.0):
        self.strokes.append(("shape", colour, "", list(points)))

    def path(self, points, colour, width=1.0, style="solid"):
        self.strokes.append(("path", colour, style, list(points)))

    def words(self, box, text, colour, align="left", *, bold=False, size=0.0):
        lines = text.split("\n")
        wide, high = max(map(self.width_of, lines)), LINE * len(lines)
        left = box.left + {"left": 0.0, "centre": 0.5, "right": 1.0}[align] * (box.width - wide)
        self.said.append((text, Box(left, box.top + (box.height - high) / 2, wide, high)))

    def width_of(self, text, *, bold=False):
        return LETTER * len(text)

    def of(self, kind, *colours):
        """Strokes of a kind."""
        return [each for each in self.strokes if each[0] == kind and (not colours or each[1] in colours)]

    def place_of(self, text):
        """Where words stand."""
        return next(box for said, box in self.said if said == text)


def drawn(operation, records, view=""):
    """A picture of a card, and what it was drawn from."""
    recipe, context = recipe_and_context(records)
    record = operation.picture(recipe, context)
    return strokes(operation, record, view), record


def strokes(operation, record, view=""):
    """A view of a picture."""
    pen = Recorder()
    drawing_of(operation.key, view)(pen, BOX, record, Wording())
    return pen


def of(key, card="probe_head_shell", machine=None):
    return drawn(next(each for each in OPERATIONS if each.key == key), opened(card, machine))


def meet(one, other):
    return one.left < other.right and other.left < one.right and one.top < other.bottom and other.top < one.bottom


SERIES = Calibration(id="c", machine="tarn", kind="support_gap", lot="lot_c077", done_utc="2026-02-20T08:00:00Z",
                     values=values_of(best_gap([GapStep(layers=1, minutes=None, under="fused"),
                                                GapStep(layers=2, minutes=2.0, under="marked"),
                                                GapStep(layers=3, minutes=0.5, under="clean")]), 0.3))  # fmt: skip
WASHED = changed(opened("cable_clamp"), ON_ASA | IN_TANK | {"baths/bath_t2": tank(taken_g=20.0)})


class TestWashing(unittest.TestCase):
    def test_less_is_left_later_the_likely_within_its_band_and_the_bar_is_as_full_as_the_bath(self):
        pen, record = drawn(SUPPORTS, WASHED, "Bath")
        (likely,) = [points for _, _, _, points in pen.of("path", "accent")]
        down = [y for _, y in likely]
        self.assertEqual(down, sorted(down))
        ((*_, band),) = pen.of("shape", "window_fill")
        half = len(band) // 2
        late, soon = band[:half], band[half:][::-1]
        self.assertTrue(all(a <= y <= b for (_, a), y, (_, b) in zip(late, down, soon, strict=True)))
        before, mine, takes = record.bath.fill
        (gone,), (here, *_), (frame,) = (pen.of("area", each) for each in ("muted", "accent", "ink"))
        wide = [points[1][0] - points[0][0] for *_, points in (gone, here, frame)]
        for share, grams in zip(wide, (before, mine, takes), strict=True):
            self.assertAlmostEqual(share / wide[2], grams / takes, places=6)

    def test_each_step_of_a_series_stands_at_its_layers_as_high_as_its_minutes(self):
        pen, record = drawn(SUPPORTS, changed(opened("cable_clamp"), {"calibrations/c": SERIES}), "Gap")
        self.assertEqual([each.under for each in record.series], ["fused", "marked", "clean"])
        bars = {
            points[0][0]: points[0][1] - points[1][1]
            for _, _, _, points in pen.of("line", "accent")
            if points[0][0] == points[1][0]
        }
        (two, three) = (high for _, high in sorted(bars.items()))
        self.assertAlmostEqual(two / three, 4.0)
        self.assertEqual([each.is_own for each in record.gaps], [True, False])


class TestEvery(unittest.TestCase):
    def test_strokes_and_words_lie_inside_and_words_leave_each_other_room(self):
        for operation, (name, records) in itertools.product(OPERATIONS, (*every_card(), ("washed", WASHED))):
            recipe, context = recipe_and_context(records)
            record = operation.picture(recipe, context)
            for view in every(views_of(operation.key)):
                self.look_at(strokes(operation, record, view), f"{operation.key} {view}", name)

    def look_at(self, pen, picture, name):
        with self.subTest(picture, card=name):
            self.assertTrue(pen.said)
            points = [point for *_, points in pen.strokes for point in points]
            points += [(box.left, box.top) for _, box in pen.said] + [(box.right, box.bottom) for _, box in pen.said]
            for x, y in points:
                self.assertTrue(-1.0 <= x <= BOX.right + 1.0 and -1.0 <= y <= BOX.bottom + 1.0, (x, y))
            for (one, at), (other, beside) in itertools.combinations(pen.said, 2):
                self.assertFalse(meet(at, beside), f"{one!r} over {other!r}")


class TestMachine(unittest.TestCase):
    def test_a_hotter_limit_is_a_longer_bar_and_the_bottleneck_the_shortest_of_its_zone(self):
        for machine in ("crag", "tarn", "gill", "beck"):
            pen, record = of("machine", machine=machine)
            bars = iter(pen.of("area", "ink", "muted"))
            for zone in every(
                sorted(record.zones, key=lambda each: ("plate", "chamber", "nozzle").index(each.zone)), 3
            ):
                known = [(bar.max_c, next(bars)[3][1][0], bar.rank) for bar in zone.bars if bar.max_c is not None]
                with self.subTest(machine, zone=zone.zone):
                    self.assertEqual([each[1] for each in known], [each[1] for each in sorted(known)])
                    self.assertTrue(all(length > 140.0 for _, length, _ in known), "each has a length")
                    if known:
                        self.assertEqual(min(known)[2], 0)

    def test_a_setpoint_beyond_the_bottleneck_stands_right_of_its_bar(self):
        for machine, beyond in (("tarn", False), ("beck", True)):
            pen, record = of("machine", machine=machine)
            zone = next(each for each in record.zones if each.zone == "nozzle")
            self.assertEqual(zone.setpoint_c > min(bar.max_c for bar in zone.bars if bar.max_c), beyond)
            setpoint, bar = pen.of("line", "accent")[-1][3][0][0], pen.of("area", "ink")[-1][3][1][0]
            self.assertEqual(setpoint > bar, beyond, machine)


class TestBrief(unittest.TestCase):
    def test_each_value_lies_in_its_band_and_hotter_lies_to_the_right(self):
        pen, record = of("brief")
        values = pen.of("line", "panel")
        bands = [each for each in pen.of("line", "ink", "muted") if each[3][0][1] == each[3][1][1]][: len(values)]
        self.assertEqual(len(values), len(record.bars))
        for (*_, band), (*_, value) in zip(bands, values, strict=True):
            self.assertTrue(band[0][0] <= value[0][0] <= band[1][0])
        places = [value[0][0] for *_, value in values]
        order = sorted(range(len(places)), key=lambda each: record.bars[each].value_c)
        self.assertEqual([places[each] for each in order], sorted(places))

    def test_numbers_of_the_scale_stand_under_what_they_name(self):
        pen, record = of("brief")
        numbers = {float(text): box for text, box in pen.said if text.replace(".", "").isdigit()}
        self.assertGreater(len(numbers), 2)
        service, needed = (line[3][0][0] for line in pen.of("line", "stop", "accent"))
        (low, at), *_, (high, end) = sorted(numbers.items())
        degree = (end.left + end.width / 2 - at.left - at.width / 2) / (high - low)
        self.assertAlmostEqual((needed - service) / degree, record.needed_c - record.service_c, delta=0.5)
        self.assertAlmostEqual((service - at.left - at.width / 2) / degree + low, record.service_c, delta=0.5)


class TestStock(unittest.TestCase):
    def test_the_course_goes_on_in_time_and_stands_above_the_limit_just_while_it_is_too_wet(self):
        for card in ("winch_bracket", "sensor_cage"):
            pen, record = of("stock", card)
            limit = pen.of("line", "stop")[0][3][0][1]
            likely = [each for each in pen.of("path") if each[2] == "solid"]
            self.assertEqual(len(likely), len(record.phases))
            for phase, (*_, points) in zip(record.phases, likely, strict=True):
                places = [x for x, _ in points]
                self.assertEqual(places, sorted(places))
                for moisture, (_, y) in zip(phase.mean, points, strict=True):
                    if abs(moisture / record.limit - 1.0) > 0.02:
                        self.assertEqual(y < limit, bool(moisture > record.limit), card)

    def test_what_was_lies_left_of_now(self):
        pen, record = of("stock", "winch_bracket")
        now = pen.place_of("now")
        likely = [each for each in pen.of("path") if each[2] == "solid"]
        for phase, (*_, points) in every(zip(record.phases, likely, strict=True), 3):
            middle = now.left + now.width / 2
            self.assertEqual(bool(phase.hours[-1] > 0), points[-1][0] > middle + 0.5)


class TestLadder(unittest.TestCase):
    def test_every_setpoint_has_its_number_beside_it_and_off_the_marks_and_a_gap_has_its_words(self):
        for name, records in every_card():
            recipe, context = recipe_and_context(records)
            record, pen = ladder(recipe, context), Recorder()
            draw_ladder(pen, LADDER, record, Wording())
            scale = LadderScale(record, LADDER.height)
            for index, lane in every(enumerate(record.lanes), 4):
                middle = lane_left(record, index) + lane_width(record) / 2
                for value in {each for each in (lane.setpoint_c, lane.first_c) if each is not None}:
                    with self.subTest(name, lane=lane.title, value=value):
                        near = [box for text, box in pen.said if text == f"{value:g}"
                                and abs(box.left + box.width / 2 - middle) < 1.0]  # fmt: skip
                        self.assertTrue(near, "it has its number")
                        away = abs(near[0].top + near[0].height / 2 - scale.place_of(value))
                        self.assertTrue(9.0 <= away <= 20.0, away)
                gaps = [box for text, box in pen.said if text.endswith("\nshort")
                        and abs(box.left + box.width / 2 - middle) < 1.0]  # fmt: skip
                self.assertEqual(len(gaps), int(lane.gap is not None), (name, lane.title))

    def test_hotter_is_higher_and_a_place_is_read_back_as_its_temperature(self):
        record = ladder(*recipe_and_context(opened("probe_head_shell")))
        scale = LadderScale(record, 560.0)
        for colder, hotter in itertools.pairwise((30.0, 120.0, 240.0, 390.0)):
            self.assertGreater(scale.place_of(colder), scale.place_of(hotter))
            self.assertAlmostEqual(scale.at_c(scale.place_of(hotter)), hotter)


KEPT = Path(__file__).parent / "pictures"
LOOKED_AT = (("probe_head_shell", None), ("winch_bracket", None), ("probe_head_shell", "gill"))


def as_svg():
    """The ladder and the benches' pictures of the recipes that were looked at, by file name."""
    for card, machine in LOOKED_AT:
        content = sheet_content(*judged(opened(card, machine)), Wording(), revision="", printed="", appendix=True)
        pictures = {"ladder": content["ladder"]} | {title.lower(): svg for title, svg in content["pictures"]}
        for title, svg in pictures.items():
            yield "-".join(filter(None, (card, machine, title.replace(" ", "-")))) + ".svg", svg


class TestKept(unittest.TestCase):
    def test_every_picture_is_the_one_that_was_looked_at(self):
        files = {file.name: file.read_text(encoding="utf-8") for file in KEPT.glob("*.svg")}
        made = {name: f"{svg}\n" for name, svg in as_svg()}
        self.assertEqual(set(made), set(files))
        for name, svg in made.items():
            with self.subTest(name):
                before, now = (re.sub("><", ">\n<", each).splitlines() for each in (files[name], svg))
                changed = [f"{old}  ->  {new}" for old, new in itertools.zip_longest(before, now) if old != new]
                self.assertEqual(changed[:5], [])


if __name__ == "__main__":
    if sys.argv[1:] == ["keep"]:
        KEPT.mkdir(exist_ok=True)
        for name, svg in as_svg():
            (KEPT / name).write_text(f"{svg}\n", encoding="utf-8")
    else:
        unittest.main()
