"""Moisture over time: the band of what is not known, the likely mean turn, limit and floor, each place named."""

from collections.abc import Callable

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording, hours_words
from kaustos.core.review.stock import Phase, StockPicture

NAMES = {
    "sealed": "sealed", "open": "open", "dry_box": "dry box", "dryer": "dryer", "wait": "waiting", "print": "printing",
}  # fmt: skip
PAST_SHARE = 0.33  # of the width, however long the past is
Scale = Callable[[float], float]


def draw_moisture(pen: Pen, box: Box, record: StockPicture, wording: Wording) -> None:
    """The spool's moisture from its past to the last move."""
    if record.is_empty:
        words = "Record where the spool was (Stock room), or a drying plan, to see its moisture."
        pen.words(box, words, "muted", "centre")
        return
    frame = Box(box.left + 54, box.top + 18, box.width - 62, box.height - 38)
    first, last = float(record.phases[0].hours[0]), float(record.phases[-1].hours[-1])
    top = max((record.limit or 0.0) * 2.0, *(float(phase.mean.max()) for phase in record.phases)) * 1.1

    def x(hours: float) -> float:
        if first < 0 < last:
            past = PAST_SHARE * (hours - first) / -first
            share = past if hours < 0 else PAST_SHARE + (1.0 - PAST_SHARE) * hours / last
        else:
            share = (hours - first) / (last - first)
        return float(frame.left + share * frame.width)

    def y(moisture: float) -> float:
        return float(frame.bottom - min(moisture / top, 1.0) ** 0.5 * frame.height)

    for phase in record.phases:
        _phase(pen, phase, frame, x, y)
    _lines(pen, record, frame, y, top, wording)
    if first < 0 < last or first == 0:
        pen.line(x(0.0), frame.top, x(0.0), frame.bottom, "ink")
        pen.words(Box(x(0.0) - 30, frame.bottom + 1, 60, 16), "now", "ink", "centre")
    _times(pen, record, frame, x)


def _times(pen: Pen, record: StockPicture, frame: Box, x: Scale) -> None:
    """When each phase to come ends, as far as the words have room."""
    free = frame.right + 1.0
    for hours in sorted({float(each.hours[-1]) for each in record.phases if each.hours[-1] > 0}, reverse=True):
        words = f"+{hours_words(hours)}"
        wide = pen.width_of(words) + 6
        left = x(hours) - wide
        if left + wide <= free and left > x(0.0) + 14.0:
            pen.words(Box(left, frame.bottom + 1, wide, 16), words, "muted", "right")
            free = left


def _phase(pen: Pen, phase: Phase, frame: Box, x: Scale, y: Scale) -> None:
    left, right = x(float(phase.hours[0])), x(float(phase.hours[-1]))
    if phase.place in ("dryer", "wait", "print"):
        pen.area(Box(left, frame.top, right - left, frame.height), "raised")
    there = [(x(float(h)), y(float(m))) for h, m in zip(phase.hours, phase.high, strict=True)]
    back = [(x(float(h)), y(float(m))) for h, m in zip(phase.hours[::-1], phase.low[::-1], strict=True)]
    pen.shape(there + back, "accent", 0.16)
    for course, style, width in ((phase.mean, "solid", 2.0), (phase.deepest, "dash", 1.2)):
        points = [(x(float(h)), y(float(m))) for h, m in zip(phase.hours, course, strict=True)]
        pen.path(points, "accent", width, style)
    name = NAMES[phase.place]
    if pen.width_of(name) < right - left:
        pen.words(Box(left, frame.top - 17, right - left, 16), name, "muted", "centre")
    pen.line(right, frame.top, right, frame.bottom, "muted")


def _lines(pen: Pen, record: StockPicture, frame: Box, y: Scale, top: float, wording: Wording) -> None:
    pen.line(frame.left, frame.top, frame.left, frame.bottom, "muted")
    pen.line(frame.left, frame.bottom, frame.right, frame.bottom, "muted")
    for share in (0.25, 1.0):
        words = f"{wording.number(float(f'{top * share:.2g}'), 'moisture')} %"
        pen.words(Box(frame.left - 58, y(top * share) - 8, 54, 16), words, "muted", "right")
    marks = [(record.limit or 0.0, "limit", "stop")]
    marks += [(record.floor, "floor", "clear")] if record.floor is not None else []
    free = frame.right
    for value, name, colour in marks:
        pen.line(frame.left, y(value), frame.right, y(value), colour, 1.6)
        words = f"{name} {wording.value(value, 'moisture')}"
        wide = pen.width_of(words) + 8
        place = Box(free - wide, y(value) - 17, wide, 16)
        pen.area(place, "panel")
        pen.words(place, words, colour, "centre")
        close = any(abs(y(value) - y(other)) < 18 for other, *_ in marks if other != value)
        free -= wide + 6 if close else 0.0
