"""The first bead in section, to scale, and the three conditions beside it."""

import math

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording
from kaustos.core.review.first_layer import BeadPicture

SIDE = 300.0
NOTHING = "Set height, width and gap of the first layer to see its bead."


def draw_bead(pen: Pen, box: Box, record: BeadPicture, wording: Wording) -> None:
    """Nozzle above, plate below, the bead between."""
    if record.is_empty:
        pen.words(box, NOTHING, "muted", "centre")
        return
    side = min(SIDE, box.width * 0.5)
    _section(pen, Box(box.left, box.top, box.width - side - 12.0, box.height), record, wording)
    _gauges(pen, Box(box.right - side, box.top, side, box.height), record, wording)


def _section(pen: Pen, box: Box, record: BeadPicture, wording: Wording) -> None:
    if record.width_mm is None or record.gap_mm is None:
        pen.words(box, NOTHING, "muted", "centre")
        return
    bore = record.bore_mm or record.width_mm
    wide, gap = record.width_mm, record.gap_mm
    span = max(wide, 2.2 * bore) * 1.25
    scale = min(box.width / span, (box.height - 56.0) / (gap * 2.6))
    middle, plate = box.left + box.width / 2.0, box.bottom - 24.0
    top = plate - gap * scale
    pen.area(Box(box.left, plate, box.width, 7.0), "muted", 0.6)
    pen.words(Box(box.left + 4.0, plate + 7.0, 120.0, 16.0), "plate", "muted")
    pen.shape(_stadium(middle, plate, wide * scale, gap * scale), "accent", 0.55)
    if record.sliced_mm is not None and record.sliced_mm != (wide, gap):
        sliced = _stadium(middle, plate, record.sliced_mm[0] * scale, record.sliced_mm[1] * scale)
        pen.path([*sliced, sliced[0]], "ink", 1.0, "dash")
    half, rim = bore * scale / 2.0, 1.1 * bore * scale
    for way in (-1.0, 1.0):
        corners = [(middle + way * half, top), (middle + way * rim, top), (middle + way * (rim + 16.0), box.top + 18.0),
                   (middle + way * half, box.top + 18.0)]  # fmt: skip
        pen.shape(corners, "muted", 0.35)
    pen.words(Box(middle - 60.0, box.top, 120.0, 16.0), f"bore {wording.value(bore, 'length')}", "muted", "centre")
    pen.words(Box(box.right - 150.0, top - 2.0, 150.0, max(gap * scale, 16.0)), f"gap {wording.value(gap, 'length')}",
              "ink", "right")  # fmt: skip
    words = f"{wording.value(wide, 'length')} wide"
    pen.words(Box(middle - 80.0, plate + 7.0, 160.0, 16.0), words, "ink", "centre", bold=True)


def _stadium(middle: float, plate: float, wide: float, high: float) -> list[tuple[float, float]]:
    """A bead with round sides on the plate."""
    r, straight = high / 2.0, max(wide - high, 0.0) / 2.0
    right = [(middle + straight + r * math.cos(a), plate - r + r * math.sin(a)) for a in _turn(90.0)]
    left = [(middle - straight - r * math.cos(a), plate - r - r * math.sin(a)) for a in _turn(90.0)]
    return right + left


def _turn(half_deg: float) -> list[float]:
    return [math.radians(half_deg - 2.0 * half_deg * step / 16.0) for step in range(17)]


def _gauges(pen: Pen, box: Box, record: BeadPicture, wording: Wording) -> None:
    """Each condition as a bar with its middle band; two off the same way are told."""
    if not record.gauges:
        pen.words(box, "Choose polymer and plate to see what the book wants.", "muted", "centre")
        return
    words = {0: "none off the middle", 1: "one off: tolerable", 2: "two off the same way", 3: "all three off"}[
        record.off
    ]
    pen.words(Box(box.left, box.top, box.width, 18.0), words, "ink" if record.off < 2 else "stop", bold=True)
    step = (box.height - 22.0) / len(record.gauges)
    for number, each in enumerate(record.gauges):
        y = box.top + 22.0 + step * number
        span = 3.0 * (each.high - each.low)
        low = each.low - (span - (each.high - each.low)) / 2.0

        def x(value: float, low: float = low, span: float = span) -> float:
            return box.left + min(max((value - low) / span, 0.0), 1.0) * box.width

        value = "not recorded" if each.value is None else wording.value(each.value, each.unit)
        pen.words(Box(box.left, y, box.width, 16.0), f"{each.name}: {value}", "ink")
        bar = Box(box.left, y + 18.0, box.width, min(step - 24.0, 10.0))
        pen.area(bar, "muted", 0.25)
        pen.area(Box(x(each.low), bar.top, x(each.high) - x(each.low), bar.height), "window_fill")
        if each.value is not None:
            is_off = not each.low <= each.value <= each.high
            pen.line(x(each.value), bar.top - 3.0, x(each.value), bar.bottom + 3.0, "stop" if is_off else "accent", 3.0)
