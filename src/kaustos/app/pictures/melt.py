"""Beads across a wall to scale, and the flow against what the head gives over the heat of its nozzle."""

import math

from kaustos.app.pictures.heat import cross
from kaustos.app.pictures.labels import Labels
from kaustos.app.pictures.pen import Box, Pen, Point
from kaustos.app.wording import Wording
from kaustos.core.review.melt import MeltPicture

LAYERS = 3
MOST_BEADS = 7
SMALL = 11.0


def draw_melt(pen: Pen, box: Box, record: MeltPicture, wording: Wording) -> None:
    """Beads to the left, flow to the right."""
    if record.is_empty:
        pen.words(box, "Choose a polymer, and set layer, bead and speed.", "muted", "centre")
        return
    half = box.width * 0.44
    _beads(pen, Box(box.left, box.top, half, box.height), record, wording)
    _flow(pen, Box(box.left + half + 16.0, box.top, box.width - half - 16.0, box.height), record, wording)


def _beads(pen: Pen, box: Box, record: MeltPicture, wording: Wording) -> None:
    """A few layers of the thinnest wall, or of three beads where no wall is known."""
    if record.width_mm is None or record.height_mm is None or record.pitch_mm is None:
        pen.words(box, "Set layer and bead to see them.", "muted", "centre")
        return
    count = min(max(record.beads, 1), MOST_BEADS)
    wide = record.width_mm + (count - 1) * record.pitch_mm
    wall = record.wall_mm if record.wall_mm is not None and record.beads <= MOST_BEADS else None
    span = max(wide, wall or 0.0, record.bore_mm)
    scale = min((box.width - 24.0) / span, (box.height - 58.0) / (LAYERS * record.height_mm))
    left, foot = box.left + (box.width - wide * scale) / 2.0, box.bottom - 38.0
    w, h = record.width_mm * scale, record.height_mm * scale
    for layer in range(LAYERS):
        for bead in range(count):
            x, y = left + bead * record.pitch_mm * scale, foot - (layer + 1) * h
            pen.shape(_stadium(x, y, w, h), "accent", 0.35 + 0.12 * (layer % 2))
    if wall is not None:
        edge = box.left + (box.width - wall * scale) / 2.0
        for x in (edge, edge + wall * scale):
            pen.line(x, foot - LAYERS * h - 8.0, x, foot + 4.0, "ink", 1.4, "dash")
        words = f"wall {wording.value(round(wall, 2), 'length')}: {count} bead" + ("s" if count > 1 else "")
        if record.open_mm is not None and abs(record.open_mm) >= 0.005:
            off = wording.value(round(abs(record.open_mm), 2), "length")
            words += f", {off} " + ("open" if record.open_mm > 0 else "over")
    else:
        words = f"{count} beads of {wording.value(record.width_mm, 'length')}"
    tip = box.left + box.width / 2.0
    bore = record.bore_mm * scale
    pen.line(tip - bore / 2.0, foot - LAYERS * h - 12.0, tip + bore / 2.0, foot - LAYERS * h - 12.0, "muted", 3.0)
    pen.words(
        Box(box.left, box.top, box.width, 15.0),
        f"bore {wording.value(record.bore_mm, 'length')}",
        "muted",
        "centre",
        size=SMALL,
    )
    pen.words(Box(box.left, foot + 6.0, box.width, 16.0), words, "ink", "centre", bold=True)
    size = f"layer {wording.value(record.height_mm, 'length')}, bead {wording.value(record.width_mm, 'length')}"
    pen.words(Box(box.left, foot + 21.0, box.width, 16.0), size, "muted", "centre", size=SMALL)


def _stadium(left: float, top: float, wide: float, high: float) -> list[Point]:
    """A bead with round sides."""
    r = high / 2.0
    turns = [math.pi * step / 12.0 for step in range(13)]
    right = [(left + wide - r + r * math.sin(a), top + r - r * math.cos(a)) for a in turns]
    back = [(left + r - r * math.sin(a), top + r + r * math.cos(a)) for a in turns]
    return right + back


def _flow(pen: Pen, box: Box, record: MeltPicture, wording: Wording) -> None:
    """What the head gives over the heat of the nozzle, and where the recipe stands."""
    if not record.limits:
        pen.words(box, "Set the nozzle to see what the head gives.", "muted", "centre")
        return
    frame = Box(box.left + 40.0, box.top + 6.0, box.width - 52.0, box.height - 40.0)
    low, high = record.limits[0].nozzle_c, record.limits[-1].nozzle_c
    asked = record.point[1] if record.point is not None else 0.0
    most = 1.12 * max(max(each.most for each in record.limits), asked)

    def at(nozzle: float, flow: float) -> Point:
        share = (nozzle - low) / (high - low)
        return frame.left + min(max(share, 0.0), 1.0) * frame.width, frame.bottom - min(flow / most, 1.0) * frame.height

    least = [at(each.nozzle_c, each.least) for each in record.limits]
    top = [at(each.nozzle_c, each.most) for each in record.limits]
    pen.shape([*least, *reversed(top)], "stop", 0.13)
    pen.path([at(each.nozzle_c, each.hard) for each in record.limits], "stop", 2.0)
    pen.path([at(each.nozzle_c, each.soft) for each in record.limits], "watch", 1.6, "dash")
    if record.window_c is not None:
        left, right = at(record.window_c[0], 0.0)[0], at(record.window_c[1], 0.0)[0]
        pen.area(Box(left, frame.top, right - left, frame.height), "window_fill", 0.25)
    labels = Labels(pen, frame)
    if record.point is not None:
        x, y = at(*record.point)
        cross(pen, x, y)
        words = wording.value(record.point[1], "flow")
        labels.put(words, labels.beside(x, y, words, bold=True), "ink", bold=True)
    for text, colour, which in (("the head gives", "stop", "hard"), ("the weld pays beyond", "watch", "soft")):
        along = [at(each.nozzle_c, getattr(each, which)) for each in record.limits]
        places = [(x, y + off) for off in (-9.0, 9.0) for x, y in reversed(along)]
        labels.put(text, places, colour, size=SMALL)
    labels.put(f"flow, {wording.unit('flow')}", [(frame.left + 34.0, frame.top + 9.0)], "muted", size=SMALL)
    for nozzle in _steps(low + 8.0, high, 20.0):
        x = at(nozzle, 0.0)[0]
        pen.words(
            Box(x - 22.0, frame.bottom + 3.0, 44.0, 14.0),
            wording.number(nozzle, "temperature"),
            "muted",
            "centre",
            size=SMALL,
        )
    for flow in _steps(0.0, most, 5.0 if most < 30.0 else 10.0 if most < 60.0 else 20.0 * math.ceil(most / 120.0)):
        y = at(low, flow)[1]
        pen.words(Box(box.left, y - 8.0, 36.0, 16.0), wording.number(flow, "flow"), "muted", "right", size=SMALL)
    pen.words(
        Box(frame.left, frame.bottom + 17.0, frame.width, 15.0),
        f"nozzle, {wording.unit('temperature')}",
        "muted",
        "centre",
        size=SMALL,
    )
    pen.frame(frame, "muted")


def _steps(low: float, high: float, step: float) -> list[float]:
    return [step * number for number in range(math.ceil(low / step), math.floor(high / step) + 1)]
