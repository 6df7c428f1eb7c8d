"""The section of a nozzle to scale: metal, bore, land and cone as new, what of the tip is gone, where its end is."""

import math

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording
from kaustos.core.planning.nozzle_life import Section

WORDS = 176.0


def draw_section(pen: Pen, box: Box, record: Section | None, wording: Wording) -> None:
    """One nozzle, its outlet below."""
    if record is None:
        pen.words(box, "No nozzle is recorded on this machine. Log one in the stock room (Ctrl+2).", "muted", "centre")
        return
    deep = max(record.land_mm * 2.6, record.end_mm * 1.4, record.lost_mm[2] * 1.15)  # of the metal that is drawn [mm]
    wide = record.bore_mm + 2.0 * math.tan(record.half_angle) * (deep - record.land_mm)
    half_mm = 0.5 * wide + 0.45 * deep
    scale = min((box.width - WORDS - 20.0) / (2.0 * half_mm), (box.height - 34.0) / deep)
    middle, bottom = box.left + 10.0 + half_mm * scale, box.bottom - 10.0

    def at(x_mm: float, up_mm: float) -> tuple[float, float]:
        return middle + x_mm * scale, bottom - up_mm * scale

    tip = 0.5 * record.bore_mm + 0.3 * record.land_mm
    for side in (-1.0, 1.0):
        outer = [at(side * half_mm, deep), at(side * tip, 0.0)]
        inner = [at(side * record.bore_mm / 2, 0.0), at(side * record.bore_mm / 2, record.land_mm),
                 at(side * wide / 2, deep)]  # fmt: skip
        pen.shape([*outer, *inner], "muted", 0.35)
        pen.path([*outer, *inner, outer[0]], "muted", 1.0)
    lost = record.lost_mm[1]
    gone = Box(middle - half_mm * scale, bottom - lost * scale, 2.0 * half_mm * scale, max(lost * scale, 1.0))
    pen.hatch(gone, "hatch")
    right = middle + half_mm * scale + 8.0
    low, high = (wording.number(each * 1e3, "fine_length") for each in (record.lost_mm[0], record.lost_mm[2]))
    rows = [
        (deep * 0.97, record.title, "ink"),
        (record.land_mm, f"land {wording.value(record.land_mm, 'length')}", "muted"),
        (record.end_mm, "its end: bore too wide", "stop"),
        (lost, f"gone {wording.value(lost * 1e3, 'fine_length')} ({low} to {high})", "accent"),
    ]
    free = box.top - 4.0
    for up, words, colour in sorted(rows, key=lambda each: -each[0]):
        y = bottom - up * scale
        top = max(y - 8.0, free)
        pen.words(Box(right + 14.0, top, box.right - right - 14.0, 16.0), words, colour, bold=colour == "ink")
        if colour != "ink":
            pen.line(middle - half_mm * scale, y, right, y, colour, 1.4, "solid" if colour == "stop" else "dash")
            pen.line(right, y, right + 12.0, top + 8.0, colour)
        free = top + 17.0
    if record.is_guessed:
        pen.words(Box(right + 14.0, free, box.right - right - 14.0, 16.0), "sizes not all recorded", "muted")
    pen.words(Box(middle - 60.0, bottom - deep * scale - 18.0, 120.0, 16.0),
              f"bore {wording.value(record.bore_mm, 'length')}", "ink", "centre")  # fmt: skip
