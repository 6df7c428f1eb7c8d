"""The day of a run as one band for spool, machine and people; and a job file along the height of its part."""

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording, hours_words
from kaustos.core.review.run import RunPicture

NO_DAY = "Bind a job file (drop it on the window), or type the hours in the Brief: the day is planned by them."
NO_FILE = "Drop the job file on the window: what it lays, and how long, stands here by height."
ROWS = ("spool", "machine", "people")
NAMES = 62.0


def draw_day(pen: Pen, box: Box, record: RunPicture, wording: Wording) -> None:
    """Stretches over hours from the first move, hours with somebody there behind them."""
    if not record.stretches:
        pen.words(box, NO_DAY, "muted", "centre")
        return
    first = min(each.from_h for each in record.stretches)
    last = max(each.to_h for each in record.stretches)
    first, last = first - 0.03 * (last - first), last + 0.03 * (last - first)
    frame = Box(box.left + NAMES, box.top + 20.0, box.width - NAMES - 8.0, box.height - 44.0)
    high = frame.height / len(ROWS)

    def x(hours: float) -> float:
        return frame.left + (min(max(hours, first), last) - first) / (last - first) * frame.width

    pen.words(Box(box.left, box.top, box.width, 16.0), f"first move {record.start}; tinted: somebody is there", "muted")
    for begin, end in record.staffed:
        if end > first and begin < last:
            pen.area(Box(x(begin), frame.top, max(x(end) - x(begin), 1.0), frame.height), "window_fill", 0.6)
    for number, row in enumerate(ROWS):
        top = frame.top + number * high
        pen.words(Box(box.left, top, NAMES - 6.0, high), row, "ink")
        pen.line(frame.left, top + high, frame.right, top + high, "muted", 0.5)
        taken = -1e9
        for each in sorted((one for one in record.stretches if one.row == row), key=lambda one: one.from_h):
            colour = "stop" if each.is_outside else "accent"
            bar = Box(x(each.from_h), top + high * 0.52, max(x(each.to_h) - x(each.from_h), 3.0), high * 0.34)
            pen.area(bar, colour, 0.85)
            words = each.name if row == "people" else f"{each.name}, {hours_words(each.to_h - each.from_h)}"
            wide = pen.width_of(words)
            left = min(max(bar.left, taken + 6.0), frame.right - wide)
            if left >= taken + 5.0:
                pen.words(Box(left, top + high * 0.1, wide, 16.0), words, colour if each.is_outside else "ink")
                taken = left + wide
    words = ("−" if first < 0.0 else "") + hours_words(abs(first))
    edge = frame.left
    if record.now_h is not None and first <= record.now_h <= last:
        at = x(record.now_h)
        pen.line(at, frame.top, at, frame.bottom, "ink", 2.0)
        pen.words(Box(min(at - 12.0, frame.right - 100.0), frame.bottom + 4.0, 26.0, 15.0), "now", "ink", "centre")
        edge = at + 20.0
    if edge - frame.left < 1.0 or edge - frame.left > 110.0:
        pen.words(Box(frame.left, frame.bottom + 4.0, 80.0, 15.0), words, "muted")
    pen.words(Box(frame.right - 60.0, frame.bottom + 4.0, 60.0, 15.0), hours_words(last), "muted", "right")


def draw_file(pen: Pen, box: Box, record: RunPicture, wording: Wording) -> None:
    """Seconds of a layer and mean flow over the height."""
    if not record.heights_mm:
        pen.words(box, NO_FILE, "muted", "centre")
        return
    half = (box.width - 24.0) / 2.0
    tops = record.heights_mm
    for number, (values, words, unit) in enumerate(
        ((record.seconds, "time of a layer", "seconds"), (record.flows_mm3_s, "mean flow", "flow"))
    ):
        left = box.left + number * (half + 24.0)
        frame = Box(left + 48.0, box.top + 20.0, half - 56.0, box.height - 44.0)
        most, high = max(values) * 1.05 or 1.0, tops[-1]
        points = []
        below = 0.0
        for top, value in zip(tops, values, strict=True):
            at = frame.left + value / most * frame.width
            points += [(at, frame.bottom - below / high * frame.height), (at, frame.bottom - top / high * frame.height)]
            below = top
        pen.frame(frame, "muted")
        pen.path(points, "accent", 1.5)
        for at in record.pauses_mm:
            y = frame.bottom - at / high * frame.height
            pen.line(frame.left, y, frame.right, y, "stop", 1.0, "dash")
        pen.words(Box(left, box.top, half, 16.0), f"{words}, over the height", "ink")
        pen.words(Box(left, frame.top, 44.0, 15.0), wording.value(round(high, 1), "length"), "muted", "right")
        pen.words(Box(frame.left, frame.bottom + 4.0, 20.0, 15.0), "0", "muted")
        told = wording.value(round(most, 1), unit)
        pen.words(Box(frame.right - 90.0, frame.bottom + 4.0, 90.0, 15.0), told, "muted", "right")
