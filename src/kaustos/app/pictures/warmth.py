"""A chamber that warms: the model with its band, what sensors showed, each curve named at its end."""

import math
from collections.abc import Callable, Sequence

import numpy as np

from kaustos.app.heat_log import WarmPicture
from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording, hours_words

NAMES = 110.0
Place = Callable[[float], float]
TICKS = 5


def draw_warm_up(pen: Pen, box: Box, record: WarmPicture | None, wording: Wording) -> None:
    """Model and sensors over time."""
    if record is None or record.is_empty:
        words = "Record the enclosure and its walls, or open a log, to see how the chamber warms."
        pen.words(box, words, "muted", "centre")
        return
    frame = Box(box.left + 44.0, box.top + 10.0, box.width - 44.0 - NAMES, box.height - 32.0)
    every = [values for _, _, values in record.sensors]
    every += [record.model[2], record.model[0]] if record.model else []
    ends = [end(each) for each in every for end in (np.nanmin, np.nanmax)]
    bottom, top = heat_ends([*map(float, ends), *([record.wanted_c] if record.wanted_c else [])])
    span = float(record.minutes[-1])

    def x(minutes: float) -> float:
        return frame.left + minutes / span * frame.width

    def y(at_c: float) -> float:
        return frame.bottom - (at_c - bottom) / (top - bottom) * frame.height

    heat_axes(pen, frame, x, y, (bottom, top), span, wording)
    names: list[tuple[float, str, str]] = []
    if record.model:
        low, likely, high = record.model
        there = [(x(float(m)), y(float(c))) for m, c in zip(record.minutes, high, strict=True)]
        back = [(x(float(m)), y(float(c))) for m, c in zip(record.minutes[::-1], low[::-1], strict=True)]
        pen.shape(there + back, "accent", 0.14)
        pen.path([(x(float(m)), y(float(c))) for m, c in zip(record.minutes, likely, strict=True)], "accent", 2.0)
        names.append((float(likely[-1]), "air, model", "accent"))
        if record.wall is not None:
            walls = [(x(float(m)), y(float(c))) for m, c in zip(record.minutes, record.wall, strict=True)]
            pen.path(walls, "accent", 1.2, "dash")
            names.append((float(record.wall[-1]), "walls, model", "accent"))
    for name, minutes, values in record.sensors:
        good = np.isfinite(values)
        pen.path([(x(float(m)), y(float(c))) for m, c in zip(minutes[good], values[good], strict=True)], "ink", 1.4)
        names.append((float(values[good][-1]), name, "ink"))
    if record.wanted_c is not None:
        pen.line(frame.left, y(record.wanted_c), frame.right, y(record.wanted_c), "stop", 1.2, "dash")
        names.append((record.wanted_c, f"set {wording.value(record.wanted_c, 'temperature')}", "stop"))
    free = frame.top - 12.0
    for at_c, name, colour in sorted(names, reverse=True):
        line = max(y(at_c) - 8.0, free)
        pen.line(frame.right, y(at_c), frame.right + 6.0, line + 8.0, colour)
        pen.words(Box(frame.right + 8.0, line, NAMES - 8.0, 16.0), name, colour)
        free = line + 15.0


def heat_ends(values: Sequence[float]) -> tuple[float, float]:
    """Ends of an axis that holds some temperatures [deg C]."""
    return 10.0 * math.floor(min(values) / 10.0), 10.0 * math.ceil((max(values) + 2.0) / 10.0)


def heat_axes(
    pen: Pen, frame: Box, x: Place, y: Place, ends: tuple[float, float], span: float, wording: Wording
) -> None:  # fmt: skip
    """Temperatures over minutes."""
    bottom, top = ends
    pen.line(frame.left, frame.top, frame.left, frame.bottom, "muted")
    pen.line(frame.left, frame.bottom, frame.right, frame.bottom, "muted")
    step = 10.0 * math.ceil((top - bottom) / 50.0)
    at = bottom
    while at <= top:
        pen.line(frame.left - 3.0, y(at), frame.right, y(at), "raised")
        pen.words(Box(frame.left - 44.0, y(at) - 8.0, 38.0, 16.0), wording.number(at, "temperature"), "muted", "right")
        at += step
    pen.words(Box(frame.left + 4.0, frame.top - 10.0, 60.0, 16.0), wording.unit("temperature"), "muted")
    for place in range(1, TICKS + 1):
        minutes = span * place / TICKS
        right = "right" if place == TICKS else "centre"
        left = x(minutes) - (60.0 if place == TICKS else 30.0)
        pen.words(Box(left, frame.bottom + 3.0, 60.0, 16.0), hours_words(minutes / 60.0), "muted", right)
