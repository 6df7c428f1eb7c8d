"""Readings of a run over its hours beside what was wanted: each curve named at its end."""

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.pictures.warmth import NAMES, heat_axes, heat_ends
from kaustos.app.wording import Wording
from kaustos.core.records import RunSensor


def draw_readings(pen: Pen, box: Box, record: tuple[RunSensor, ...] | None, wording: Wording) -> None:
    """Every sensor over the hours; what was wanted is dashed, what went wrong is red."""
    shown = [each for each in record or () if each.hours]
    if not shown:
        pen.words(box, "No readings yet: watch the machine's line, or open a logger's file.", "muted", "centre")
        return
    frame = Box(box.left + 44.0, box.top + 10.0, box.width - 44.0 - NAMES, box.height - 32.0)
    every = [value for each in shown for value in (*each.shown_c, *each.set_c)]
    bottom, top = heat_ends(every)
    span = max(each.hours[-1] for each in shown) or 1.0

    def x(minutes: float) -> float:
        return frame.left + minutes / (60.0 * span) * frame.width

    def y(at_c: float) -> float:
        return frame.bottom - (at_c - bottom) / (top - bottom) * frame.height

    heat_axes(pen, frame, x, y, (bottom, top), 60.0 * span, wording)
    free = frame.top - 12.0
    for each in sorted(shown, key=lambda sensor: -sensor.shown_c[-1]):
        if each.set_c:
            for (begin, wanted), (end, _) in zip(_corners(each), _corners(each)[1:], strict=False):
                pen.line(x(60.0 * begin), y(wanted), x(60.0 * end), y(wanted), "muted", 1.0, "dash")
        colour = "stop" if each.says else "ink"
        pen.path([(x(60.0 * h), y(c)) for h, c in zip(each.hours, each.shown_c, strict=True)], colour, 1.4)
        at = y(each.shown_c[-1])
        line = max(at - 8.0, free)
        pen.line(x(60.0 * each.hours[-1]), at, frame.right + 6.0, line + 8.0, colour)
        pen.words(Box(frame.right + 8.0, line, NAMES - 8.0, 16.0), each.name, colour)
        free = line + 15.0


def _corners(sensor: RunSensor) -> list[tuple[float, float]]:
    """Where what was wanted changes, with its last hour."""
    found = [(sensor.hours[0], sensor.set_c[0])]
    for hour, wanted in zip(sensor.hours, sensor.set_c, strict=True):
        if abs(wanted - found[-1][1]) > 0.5:
            found.append((hour, wanted))
    return [*found, (sensor.hours[-1], found[-1][1])]
