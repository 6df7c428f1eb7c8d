"""The plate from above with the load along the part's outline, and what stands against what on one axis."""

import math
from collections.abc import Callable

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording
from kaustos.core.review.plate import Band, PlatePicture

At = Callable[[float, float], tuple[float, float]]
AXIS_WORDS = 132.0
SIDE = 190.0  # of the words beside the plate
LOW, HIGH = 1.0, 20_000.0  # ends of the axis [J/m²]
NOTHING = "Give the part a size in the Brief, or drop its file on the window, to see it on the plate."


def draw_plate(pen: Pen, box: Box, record: PlatePicture, wording: Wording) -> None:
    """One plate seen from above, its front below."""
    if record.is_empty:
        pen.words(box, NOTHING, "muted", "centre")
        return
    wide = max(x for ring in record.rings for x, _ in ring)
    deep = max(y for ring in record.rings for _, y in ring)
    size = record.size or (wide * 1.15, deep * 1.15)
    scale = min((box.width - SIDE) / size[0], (box.height - 4.0) / size[1])
    left, bottom = box.left + 2.0, box.top + (box.height + size[1] * scale) / 2.0

    def at(x: float, y: float) -> tuple[float, float]:
        return left + x * scale, bottom - y * scale

    frame = Box(left, bottom - size[1] * scale, size[0] * scale, size[1] * scale)
    pen.area(frame, "window_fill", 0.35)
    pen.frame(frame, "muted")
    for x, y, w, h in record.dead:
        barred = Box(*at(x, y + h), w * scale, h * scale)
        pen.hatch(barred, "hatch")
    for number, (x, y) in enumerate(record.places):
        for ring in record.coated:
            points = [at(x + a, y + b) for a, b in ring]
            pen.path([*points, points[0]], "muted", 1.0, "dash")
        for ring in record.anchored:
            pen.shape([at(x + a, y + b) for a, b in ring], "accent", 0.16)
        for place, ring in enumerate(record.rings):
            points = [at(x + a, y + b) for a, b in ring]
            pen.path([*points, points[0]], "ink", 1.0)
            if place == 0 and len(record.rings) == 1:
                pen.shape(points, "muted", 0.25)
        if number == 0:
            _loads(pen, record, at, x, y)
    _words(pen, Box(frame.right + 12.0, box.top, box.right - frame.right - 12.0, box.height), record, wording)


def _loads(pen: Pen, record: PlatePicture, at: At, x: float, y: float) -> None:
    """A dot at every point of the outline: the heavier the load against the grip, the larger."""
    for (a, b), load in zip(record.outline, record.load, strict=False):
        radius = 0.8 + 3.2 * min(load, 1.5) / 1.5
        colour = "stop" if load >= 1.0 else "watch" if load >= 0.5 else "clear"
        middle_x, middle_y = at(x + a, y + b)
        pen.area(Box(middle_x - radius, middle_y - radius, 2.0 * radius, 2.0 * radius), colour)
    if record.worst is not None:
        middle_x, middle_y = at(x + record.outline[record.worst][0], y + record.outline[record.worst][1])
        pen.frame(Box(middle_x - 7.0, middle_y - 7.0, 14.0, 14.0), "ink", 1.6)


def _words(pen: Pen, box: Box, record: PlatePicture, wording: Wording) -> None:
    """Beside the plate: what the dots say."""
    rows: list[tuple[str, str, bool]] = []
    if record.pair:
        rows.append((record.pair, "ink", True))
    if record.lifts is not None and record.harms is not None:
        most = f", up to {wording.value(record.lift_mm, 'length')}" if record.lift_mm else ""
        rows.append((f"{wording.value(round(100.0 * record.lifts), 'share')} of such corners lift{most}", "ink", False))
        rows.append((f"{wording.value(round(100.0 * record.harms), 'share')} harm the surface", "ink", False))
        rows.append((f"framed: {record.worst_words.lower()}", "muted", False))
        rows.append(("dot: load over grip,", "muted", False))
        rows.append(("green under half, red over it", "muted", False))
    elif record.load:
        rows.append(("no plate is chosen:", "muted", False))
        rows.append(("dots show load alone", "muted", False))
    if record.wanted > 1:
        rows.append((f"{len(record.places)} of {record.wanted} copies", "ink", False))
    if record.dead:
        rows.append(("hatched: clips and damage", "muted", False))
    if record.coated:
        rows.append(("dashed: to be coated", "muted", False))
    if "no file" in record.shape_from:
        rows.append(("a box stands for the part", "muted", False))
    step = 17.0
    for number, (words, colour, bold) in enumerate(rows[: max(int(box.height // step), 1)]):
        lines = _fitted(pen, words, box.width, bold)
        pen.words(Box(box.left, box.top + number * step, box.width, step), lines, colour, bold=bold)


def _fitted(pen: Pen, words: str, width: float, bold: bool) -> str:
    """Words cut to a width."""
    if pen.width_of(words, bold=bold) <= width:
        return words
    while words and pen.width_of(words + "…", bold=bold) > width:
        words = words[:-1]
    return words + "…"


_COLOURS = {"load": "stop", "cold": "watch", "grip": "accent", "damage": "ink", "weld": "muted"}


def draw_axis(pen: Pen, box: Box, record: PlatePicture, wording: Wording) -> None:
    """Load, grip, damage and weld as bands on one axis of energy: load < grip < damage is the window."""
    if not record.bands:
        pen.words(box, "The load is known once polymer, part, nozzle and plate are set.", "muted", "centre")
        return
    left, right = box.left + AXIS_WORDS, box.right - 92.0
    low = min(LOW * 5.0, *(each.low for each in record.bands))
    high = max(each.high for each in record.bands) * 1.1

    def x(value: float) -> float:
        share = math.log(max(value, low) / low) / math.log(high / low)
        return left + min(max(share, 0.0), 1.0) * (right - left)

    bottom = box.bottom - 22.0
    ticks = [each for power in range(6) for each in (10.0**power, 3.0 * 10.0**power) if low <= each <= high]
    for tick in ticks:
        pen.line(x(tick), box.top + 2.0, x(tick), bottom, "rule")
        pen.words(Box(x(tick) - 30.0, bottom + 2.0, 60.0, 16.0), wording.number(tick, "bond_energy"), "muted", "centre")
    pen.words(Box(right + 34.0, bottom + 2.0, 58.0, 16.0), "J/m²", "muted")
    step = (bottom - box.top) / len(record.bands)
    grip = next((each for each in record.bands if each.key == "grip"), None)
    damage = next((each for each in record.bands if each.key == "damage"), None)
    load = next((each for each in record.bands if each.key == "load"), None)
    if grip is not None and damage is not None and load is not None and load.middle < damage.middle:
        wide = x(damage.middle) - x(load.middle)
        pen.area(Box(x(load.middle), box.top, wide, bottom - box.top), "window_fill", 0.6)
    for number, each in enumerate(record.bands):
        _band(pen, box, each, box.top + step * (number + 0.5), min(step * 0.42, 16.0), x, wording)


def _band(
    pen: Pen, box: Box, band: Band, y: float, thick: float, x: Callable[[float], float], wording: Wording
) -> None:
    colour = _COLOURS[band.key]
    pen.words(
        Box(box.left + 4.0, y - 9.0, AXIS_WORDS - 8.0, 18.0), band.title, "ink", bold=band.key in ("load", "grip")
    )
    pen.area(Box(x(band.low), y - thick / 2.0, max(x(band.high) - x(band.low), 2.0), thick), colour, 0.35)
    pen.line(x(band.middle), y - thick / 2.0 - 3.0, x(band.middle), y + thick / 2.0 + 3.0, colour, 3.0)
    pen.words(Box(box.right - 86.0, y - 9.0, 86.0, 18.0), wording.value(band.middle, "bond_energy"), "ink")
