"""The part from below with the places that want help, and how much of it leans by how much."""

from collections.abc import Sequence

from kaustos.app.pictures.pen import Box, Pen, Point
from kaustos.app.wording import Wording
from kaustos.core.review.supports import PlacePicture, SupportPicture

SIDE = 300.0
NOTHING = "Give the part its file (bench 40, page Part): what of it grows over air is then measured."
REACH = {"reached": "", "unreached": ", no tool reaches it", "closed": ", closed"}
MOST_LINES = 6


def draw_supports(pen: Pen, box: Box, record: SupportPicture, wording: Wording) -> None:
    """Left the part from below, right the lean of its faces and a list of places."""
    if not record.is_looked_at:
        pen.words(box, NOTHING, "muted", "centre")
        return
    side = min(SIDE, box.width * 0.45)
    _below(pen, Box(box.left, box.top, box.width - side - 14.0, box.height), record)
    right = Box(box.right - side, box.top, side, box.height)
    high = min(right.height * 0.55, 130.0)
    _lean(pen, Box(right.left, right.top, right.width, high), record, wording)
    _list(pen, Box(right.left, right.top + high + 4.0, right.width, right.height - high - 4.0), record, wording)


def _below(pen: Pen, box: Box, record: SupportPicture) -> None:
    points = [point for each in record.places for point in each.outline]
    points += [point for rings in record.footprint for point in rings[0]]
    xs, ys = [x for x, _ in points] or [0.0], [y for _, y in points] or [0.0]
    low_x, low_y = min(xs), min(ys)
    wide, deep = max(max(xs) - low_x, 1e-3), max(max(ys) - low_y, 1e-3)
    scale = min((box.width - 20.0) / wide, (box.height - 34.0) / deep)
    left = box.left + (box.width - scale * wide) / 2.0
    top = box.top + 16.0 + (box.height - 34.0 - scale * deep) / 2.0

    def at(ring: Sequence[Point]) -> list[Point]:
        return [(left + (x - low_x) * scale, top + (y - low_y) * scale) for x, y in ring]

    for each in record.places:
        _area(pen, at(each.outline), each)
    for rings in record.footprint:
        for ring in rings:
            line = at(ring)
            pen.path([*line, line[0]], "ink", 1.5)
    for each in record.places:
        ((x, y),) = at([(each.place.x_mm, each.place.y_mm)])
        pen.words(Box(x - 14.0, y - 9.0, 28.0, 18.0), str(each.number), "ink", "centre", bold=True)
    pen.words(Box(box.left, box.top, box.width, 15.0), "from below; outlined: its foot", "muted")


def _area(pen: Pen, line: list[Point], place: PlacePicture) -> None:
    if len(line) > 2:
        colour = {"clear": "accent", "watch": "watch", "stop": "stop", "open": "muted"}[place.standing]
        pen.shape(line, colour, 0.28)
        pen.path([*line, line[0]], colour, 1.0, "solid" if place.reach == "reached" else "dash")


def _lean(pen: Pen, box: Box, record: SupportPicture, wording: Wording) -> None:
    """Area beyond each lean, the limit as a band over it, what is generated as a dashed line."""
    frame = Box(box.left, box.top + 18.0, box.width, box.height - 36.0)
    most = max((area for _, area in record.lean), default=0.0) or 1.0
    first, last = record.lean[0][0], record.lean[-1][0]
    words = f"lean from upright, of {wording.value(most, 'area')}"
    pen.words(Box(box.left, box.top, box.width, 15.0), words, "muted")

    def x(angle: float) -> float:
        return frame.left + (min(max(angle, first), last) - first) / (last - first) * frame.width

    low, likely, high = record.limit
    pen.area(Box(x(low), frame.top, max(x(high) - x(low), 1.0), frame.height), "window_fill")
    pen.path([(x(angle), frame.bottom - area / most * frame.height) for angle, area in record.lean], "ink", 2.0)
    pen.line(frame.left, frame.bottom, frame.right, frame.bottom, "muted")
    pen.line(x(likely), frame.top, x(likely), frame.bottom, "accent", 2.0)
    if record.set_deg is not None:
        pen.line(x(record.set_deg), frame.top, x(record.set_deg), frame.bottom, "ink", 1.5, "dash")
    pen.words(Box(frame.left, frame.bottom + 2.0, 60.0, 15.0), f"{first:.0f}°", "muted")
    pen.words(Box(frame.right - 60.0, frame.bottom + 2.0, 60.0, 15.0), f"{last:.0f}°", "muted", "right")
    pen.words(Box(x(likely) + 4.0, frame.bottom - 18.0, 120.0, 15.0), f"bears {likely:.0f}°", "accent")


def _list(pen: Pen, box: Box, record: SupportPicture, wording: Wording) -> None:
    """Each place in a line."""
    if not record.places:
        pen.words(box, "Nothing wants help.", "ink")
        return
    lines = max(min(int(box.height // 17.0), MOST_LINES), 1)
    shown = record.places if len(record.places) <= lines else record.places[: lines - 1]
    for number, each in enumerate(shown):
        words = (
            f"{each.number}  {each.words}, {wording.value(round(each.place.low_mm, 1), 'length')} up{REACH[each.reach]}"
        )
        colour = "stop" if each.standing == "stop" else "ink"
        pen.words(Box(box.left, box.top + 17.0 * number, box.width, 17.0), words, colour)
    if len(shown) < len(record.places):
        left = len(record.places) - len(shown)
        pen.words(Box(box.left, box.top + 17.0 * len(shown), box.width, 17.0), f"and {left} more", "muted")
