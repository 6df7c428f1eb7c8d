"""The heat ladder: one temperature scale, the polymer's lines, a lane for each heated zone."""

from collections.abc import Sequence

import attrs

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording
from kaustos.core.review import Ladder, Lane

AXIS, FIRST_LANE = 32.0, 40.0
WIDE, NARROW = (42.0, 53.0), (36.0, 43.5)  # a lane and its step: of four lanes, and of five
FOUR = 4
TOP, BOTTOM, OVERHANG = 26.0, 12.0, 5.0
MARK_HEIGHT, LABEL_HEIGHT, STEP_C = 14.0, 27.0, 50.0
SMALL, SMALLER = 11.0, 10.0


@attrs.frozen
class LadderScale:
    """Where a temperature lies on a ladder of a height."""

    ladder: Ladder
    height: float

    def place_of(self, at_c: float) -> float:
        """From the top."""
        share = (at_c - self.ladder.low_c) / (self.ladder.high_c - self.ladder.low_c)
        return self.height - BOTTOM - min(max(share, 0.0), 1.0) * (self.height - TOP - BOTTOM)

    def at_c(self, y: float) -> float:
        """The temperature at a place."""
        share = (self.height - BOTTOM - y) / (self.height - TOP - BOTTOM)
        return self.ladder.low_c + min(max(share, 0.0), 1.0) * (self.ladder.high_c - self.ladder.low_c)


def lane_width(record: Ladder) -> float:
    """How wide its lanes are."""
    return (WIDE if len(record.lanes) <= FOUR else NARROW)[0]


def lane_left(record: Ladder, index: int) -> float:
    """Where a lane begins."""
    return FIRST_LANE + index * (WIDE if len(record.lanes) <= FOUR else NARROW)[1]


def draw_ladder(pen: Pen, box: Box, record: Ladder, wording: Wording, *, marks: bool = True) -> None:
    """The whole ladder; the window lays its own marks over it, which can be dragged."""
    scale = LadderScale(record, box.height)
    _axis(pen, scale, wording)
    for index, lane in enumerate(record.lanes):
        _lane(pen, lane_left(record, index), lane, scale)
    _lines(pen, box, scale, wording)
    for index, lane in enumerate(record.lanes):
        _gap(pen, lane_left(record, index), lane, scale, wording)
        if marks:
            _marks(pen, lane_left(record, index), lane, scale)
        _values(pen, lane_left(record, index), lane, scale, wording)


def _axis(pen: Pen, scale: LadderScale, wording: Wording) -> None:
    at = STEP_C
    while at < scale.ladder.high_c:
        y = scale.place_of(at)
        pen.words(Box(0, y - 8, AXIS - 7, 16), wording.number(at, "temperature"), "muted", "right", size=SMALL)
        pen.line(AXIS - 4, y, AXIS + 2, y, "muted")
        at += STEP_C
    pen.words(Box(0, 2, AXIS - 7, 16), wording.unit("temperature"), "muted", "right", size=SMALL)


def _lane(pen: Pen, x: float, lane: Lane, scale: LadderScale) -> None:
    pen.words(Box(x - 8, 0, lane_width(scale.ladder) + 16, 20), lane.title, "ink", "centre", bold=True,
              size=0.0 if len(scale.ladder.lanes) <= FOUR else SMALLER)  # fmt: skip
    body = Box(x, TOP, lane_width(scale.ladder), scale.height - BOTTOM - TOP)
    pen.area(body, "ground")
    if lane.window_c:
        low, high = scale.place_of(lane.window_c[0]), scale.place_of(lane.window_c[1])
        pen.area(Box(x, high, lane_width(scale.ladder), low - high), "window_fill")
    if lane.reach_c is not None:
        wall = scale.place_of(lane.reach_c)
        above_reach = Box(x, TOP, lane_width(scale.ladder), wall - TOP)
        pen.hatch(above_reach, "hatch")
        pen.line(x, wall, x + lane_width(scale.ladder), wall, "ink", 2)
    pen.frame(body, "muted")


def _lines(pen: Pen, box: Box, scale: LadderScale, wording: Wording) -> None:
    left = lane_left(scale.ladder, max(len(scale.ladder.lanes), FOUR) - 1) + lane_width(scale.ladder) + 10
    placed = box.height + 10.0
    for line in sorted(scale.ladder.lines, key=lambda each: each.at_c):
        y = scale.place_of(line.at_c)
        pen.line(AXIS, y, left - 4, y, "ink", 1, "dash")
        top = min(y - LABEL_HEIGHT / 2, placed - LABEL_HEIGHT - 1)
        placed = top
        pen.line(left - 4, y, left, top + LABEL_HEIGHT / 2, "muted")
        words = f"{line.title}\n{line.load}{wording.value(line.at_c, 'temperature')}"
        pen.words(Box(left + 2, top, box.width - left - 2, LABEL_HEIGHT), words, "ink", size=SMALL)


def _gap(pen: Pen, x: float, lane: Lane, scale: LadderScale, wording: Wording) -> None:
    if not lane.gap:
        return
    top, bottom = scale.place_of(lane.gap.to_c), scale.place_of(lane.gap.from_c)
    for inset in (2.0, lane_width(scale.ladder) - 2.0):
        pen.line(x + inset, top, x + inset, bottom, "stop", 2)
    label = Box(x + 3, _clear_of_marks((top + bottom) / 2 - 14, lane, scale), lane_width(scale.ladder) - 6, 28)
    pen.area(label, "panel")
    pen.frame(label, "stop", 2)
    words = f"{wording.value(lane.gap.by_k, 'temperature_difference')}\nshort"
    pen.words(label, words, "stop", "centre", bold=True, size=SMALL)


def _clear_of_marks(wanted: float, lane: Lane, scale: LadderScale) -> float:
    """Where the words of a gap begin: in its middle, or below the lane's marks and their numbers."""
    shown = {value for value in (lane.setpoint_c, lane.first_c) if value is not None}
    number = 14.0 if len(shown) > 1 else 0.0
    below = max((scale.place_of(value) for value in shown), default=TOP) + MARK_HEIGHT / 2 + number
    return min(max(wanted, below), scale.height - BOTTOM - 28.0)


def _marks(pen: Pen, x: float, lane: Lane, scale: LadderScale) -> None:
    """Setpoints where nobody can drag them: running as a solid bar, the first layer's hollow."""
    found: Sequence[tuple[float | None, str]] = ((lane.first_c, "panel"), (lane.setpoint_c, "ink"))
    for value, fill in found:
        if value is not None:
            bar = Box(x - OVERHANG, scale.place_of(value) - 3, lane_width(scale.ladder) + 2 * OVERHANG, 6)
            pen.area(bar, fill)
            pen.frame(bar, "ink", 1.6)


def _values(pen: Pen, x: float, lane: Lane, scale: LadderScale, wording: Wording) -> None:
    """Numbers beside the marks: the higher one above, the lower one below."""
    shown = [value for value in (lane.setpoint_c, lane.first_c) if value is not None]
    for value in dict.fromkeys(shown):
        y = scale.place_of(value) + (-MARK_HEIGHT / 2 - 14 if value == max(shown) else MARK_HEIGHT / 2)
        place = Box(x + lane_width(scale.ladder) / 2 - 14, y, 28, 14)
        pen.area(place, "panel")
        pen.words(place, wording.number(value, "temperature"), "ink", "centre", size=SMALL)
