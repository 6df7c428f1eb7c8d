"""All parts' limits, lowest first, zone by zone; the polymer's window behind them, setpoints as lines."""

from collections.abc import Callable

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording
from kaustos.core.review.machine import Bar, MachinePicture, ZonePicture

NAMES, WORDS = 140.0, 118.0
LEAST_STEP = 13.0  # below this names lie over each other
ORDER = ("plate", "chamber", "nozzle")


def draw_chain(pen: Pen, box: Box, record: MachinePicture, wording: Wording) -> None:
    """What holds each zone back."""
    if record.is_empty:
        pen.words(box, "Choose a machine in the head to see what holds it back.", "muted", "centre")
        return
    room = int((box.height - 18.0 * len(record.zones)) / LEAST_STEP)
    most = max(len(_drawn(zone)) for zone in record.zones)
    while most > 1 and sum(min(len(_drawn(zone)), most) for zone in record.zones) > room:
        most -= 1
    rows = sum(min(len(_drawn(zone)), most) for zone in record.zones)
    step = min((box.height - 18.0 * len(record.zones)) / max(rows, 1), 20.0)
    top = box.top
    for zone in sorted(record.zones, key=lambda each: ORDER.index(each.zone)):
        height = 16.0 + step * min(len(_drawn(zone)), most)
        _zone(pen, Box(box.left, top, box.width, height), zone, step, most, wording)
        top += height + 2.0


def _drawn(zone: ZonePicture) -> list[Bar]:
    return [bar for bar in zone.bars if bar.max_c is not None or bar.fitted is not False]


def _zone(pen: Pen, box: Box, zone: ZonePicture, step: float, most: int, wording: Wording) -> None:
    values = [bar.max_c for bar in zone.bars if bar.max_c is not None]
    values += [each for each in (zone.setpoint_c, zone.first_c) if each is not None] + list(zone.window_c or ())
    low, high = 0.7 * min(values, default=0.0), max(values, default=100.0) * 1.02

    def x(at_c: float) -> float:
        return box.left + NAMES + (at_c - low) / (high - low) * (box.width - NAMES - WORDS)

    if zone.window_c:
        left, right = x(zone.window_c[0]), x(zone.window_c[1])
        pen.area(Box(left, box.top + 1, right - left, box.height - 2), "window_fill")
    left_out = len(_drawn(zone)) - most
    pen.words(Box(box.left, box.top - 1, NAMES, 16), zone.zone.capitalize(), "ink", bold=True)
    if left_out > 0:
        wide = pen.width_of(zone.zone.capitalize(), bold=True) + 8.0
        pen.words(Box(box.left + wide, box.top - 1, NAMES, 16), f"{left_out} more", "muted")
    if zone.window_c:
        low_words = wording.number(zone.window_c[0], "temperature")
        words = f"wants {low_words} to {wording.value(zone.window_c[1], 'temperature')}"
        wide = pen.width_of(words) + 4
        place = min(max(x(zone.window_c[0]), box.left + NAMES), box.right - wide)
        pen.words(Box(place + 2, box.top - 1, wide, 16), words, "ink")
    top = box.top + 15
    for index, bar in enumerate(_drawn(zone)[:most]):
        _bar(pen, box, bar, top + step * (index + 0.5), x, step, wording)
    for value, style in ((zone.first_c, "dash"), (zone.setpoint_c, "solid")):
        if value is not None:
            pen.line(x(value), top, x(value), box.bottom - 1, "accent", 2, style)


def _bar(
    pen: Pen, box: Box, bar: Bar, y: float, x: Callable[[float], float], step: float, wording: Wording
) -> None:  # fmt: skip
    holds = bar.rank == 0
    pen.words(Box(box.left + 8, y - 9, NAMES - 12, 18), bar.title, "ink" if bar.rank < 2 else "muted", bold=holds)
    thick, left, words = min(step * 0.5, 8.0), box.left + NAMES, "not recorded"
    if bar.max_c is None:
        pen.line(left, y, box.right - WORDS, y, "open", 1, "dash")
    else:
        bar_box = Box(left, y - thick / 2, x(bar.max_c) - left, thick)
        pen.area(bar_box, "ink" if holds else "muted", 1.0 if holds else 0.55)
        words = wording.value(bar.max_c, "temperature") + {0: ", holds back", 1: ", next"}.get(bar.rank, "")
    pen.words(Box(box.right - WORDS + 6, y - 9, WORDS - 6, 18), words, "ink" if holds else "muted")
