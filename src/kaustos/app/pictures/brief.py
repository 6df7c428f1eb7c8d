"""Deflection temperatures as bars with their range, the service temperature and the value needed as lines."""

from collections.abc import Callable

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording
from kaustos.core.records import HISTORIES, MOISTURES
from kaustos.core.review.brief import BriefPicture

NAMES = 208.0


def draw_margins(pen: Pen, box: Box, record: BriefPicture, wording: Wording) -> None:
    """Every deflection temperature of the polymer against service and margin."""
    if record.is_empty:
        pen.words(box, "Choose a polymer to see what it stands.", "muted", "centre")
        return
    marks = [each for each in (record.service_c, record.needed_c, record.glass_transition_c) if each is not None]
    low = min([bar.low_c for bar in record.bars] + marks) - 8
    high = max([bar.high_c for bar in record.bars] + marks) + 8

    def x(at_c: float) -> float:
        return box.left + NAMES + (at_c - low) / (high - low) * (box.width - NAMES - 12)

    top, axis = box.top + 34, box.bottom - 20
    if record.service_c is not None and record.needed_c is not None and record.needed_c > record.service_c:
        left = x(record.service_c)
        pen.area(Box(left, top, x(record.needed_c) - left, axis - top), "window_fill")
    step = min((axis - top) / len(record.bars), 26.0)
    for index, bar in enumerate(record.bars):
        y = top + step * (index + 0.5)
        words = f"{bar.title_load_mpa:g} MPa, {HISTORIES[bar.history].lower()}, {MOISTURES[bar.moisture].lower()}"
        colour = "ink" if bar.chosen else "muted"
        pen.words(Box(box.left, y - 9, NAMES - 8, 18), words, colour, bold=bar.chosen)
        pen.line(x(bar.low_c), y, x(bar.high_c), y, colour, 5 if bar.chosen else 3)
        pen.line(x(bar.value_c), y - 5, x(bar.value_c), y + 5, "panel", 2)
    _scale(pen, box, low, high, x, axis, wording)
    _mark(pen, x, record.service_c, "service", top, axis, wording, "stop", left=True)
    _mark(pen, x, record.needed_c, "needed", top, axis, wording, "accent", left=False, right=box.right)


def _scale(
    pen: Pen, box: Box, low: float, high: float, x: Callable[[float], float], axis: float, wording: Wording
) -> None:  # fmt: skip
    pen.line(x(low), axis, x(high), axis, "muted")
    at = 20.0 * (low // 20 + 1)
    while at < high:
        pen.line(x(at), axis, x(at), axis + 3, "muted")
        pen.words(Box(x(at) - 20, axis + 3, 40, 16), wording.number(at, "temperature"), "muted", "centre")
        at += 20.0
    unit = f"deflection temperature, {wording.unit('temperature')}"
    pen.words(Box(box.left, axis + 1, 190, 18), unit, "muted")


def _mark(
    pen: Pen, x: Callable[[float], float], at_c: float | None, name: str, top: float, axis: float, wording: Wording,
    colour: str, *, left: bool, right: float = 0.0,
) -> None:  # fmt: skip
    if at_c is None:
        return
    pen.line(x(at_c), top - 3, x(at_c), axis, colour, 2)
    pen.shape([(x(at_c), top - 3), (x(at_c) - 4, top - 9), (x(at_c) + 4, top - 9)], colour)
    words = f"{name} {wording.value(at_c, 'temperature')}"
    wide = pen.width_of(words) + 6
    begin = x(at_c) - wide - 2 if left else min(x(at_c) + 2, right - wide)
    pen.words(Box(begin, top - 26, wide, 16), words, colour, "centre")
