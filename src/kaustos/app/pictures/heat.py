"""Maps of the weld over what can be set, and time and heat along the height of the part."""

import math
from collections.abc import Callable

import attrs

from kaustos.app.pictures.labels import Labels
from kaustos.app.pictures.pen import Box, Pen, Point
from kaustos.app.wording import Wording
from kaustos.core.review.heat import HeatPicture, HeightProfile, WeldMap

LEFT, BOTTOM, TOP, RIGHT = 46.0, 32.0, 6.0, 12.0
SMALL = 11.0
TITLES = {"chamber": "air beside the part", "layer": "time of a layer", "speed": "speed"}


@attrs.frozen
class MapScale:
    """Where a point of a map lies in a box, and back."""

    record: WeldMap
    box: Box

    @property
    def frame(self) -> Box:
        """What the axes span."""
        box = self.box
        return Box(box.left + LEFT, box.top + TOP, box.width - LEFT - RIGHT, box.height - TOP - BOTTOM)

    def place_of(self, x: float, y: float) -> Point:
        """Pixels of a point, at the edge where it lies beyond."""
        frame, ends, heats = self.frame, self._ends, self.record.y
        share = min(max((self._along(x) - ends[0]) / (ends[1] - ends[0]), 0.0), 1.0)
        up = min(max((y - float(heats[0])) / float(heats[-1] - heats[0]), 0.0), 1.0)
        return frame.left + share * frame.width, frame.bottom - up * frame.height

    def at(self, left: float, top: float) -> tuple[float, float]:
        """The point at pixels, kept on the map: along, nozzle [°C]."""
        frame, ends, heats = self.frame, self._ends, self.record.y
        share = min(max((left - frame.left) / frame.width, 0.0), 1.0)
        up = min(max((frame.bottom - top) / frame.height, 0.0), 1.0)
        along = ends[0] + share * (ends[1] - ends[0])
        return (math.exp(along) if self._is_log else along), float(heats[0]) + up * float(heats[-1] - heats[0])

    @property
    def _is_log(self) -> bool:
        return self.record.along != "chamber"

    def _along(self, x: float) -> float:
        return math.log(max(x, 1e-6)) if self._is_log else x

    @property
    def _ends(self) -> tuple[float, float]:
        return self._along(float(self.record.x[0])), self._along(float(self.record.x[-1]))


def draw_map(along: str) -> Callable[[Pen, Box, HeatPicture, Wording], None]:
    """What draws the map over one thing that can be set."""

    def draw(pen: Pen, box: Box, record: HeatPicture, wording: Wording) -> None:
        if along not in record.maps:
            pen.words(box, record.why_not or "Set nozzle and bead to see how layers weld.", "muted", "centre")
            return
        _map(pen, MapScale(record.maps[along], box), wording)

    return draw


def _map(pen: Pen, scale: MapScale, wording: Wording) -> None:
    record, frame = scale.record, scale.frame
    lines = {level: _line(scale, heats) for level, heats in record.contours}
    labels = Labels(pen, frame)
    _areas(pen, scale)
    for level, line in lines.items():
        for part in line:
            pen.path(part, "ink" if level in record.wanted else "muted", 2.0 if level in record.wanted else 1.0)
    for heats in record.band:
        for part in _line(scale, heats):
            pen.path(part, "ink", 1.0, "dash")
    if record.point is not None:
        _point(pen, labels, scale, record.point, wording)
    for level in sorted(lines, key=lambda each: each not in record.wanted):
        _level(labels, lines[level], level, grades=level in record.wanted)
    _limits(pen, labels, scale)
    _axes(pen, scale, wording)
    pen.frame(frame, "muted")


def _level(labels: Labels, line: list[list[Point]], level: float, *, grades: bool) -> None:
    """What share a contour stands for, somewhere along it."""
    points = line[-1] if line else []
    shares = (0.86, 0.7, 0.5, 0.3, 0.15, 0.95)
    places = [points[int(share * (len(points) - 1))] for share in shares] if points else []
    labels.put(f"{100.0 * level:.0f} %", [(x, y - 9.0) for x, y in places], "ink" if grades else "muted", bold=grades,
               size=SMALL)  # fmt: skip


def _line(scale: MapScale, heats) -> list[list[Point]]:  # type: ignore[no-untyped-def]
    """A contour as lines of pixels, broken where no nozzle on the map reaches it."""
    low, high = float(scale.record.y[0]), float(scale.record.y[-1])
    parts: list[list[Point]] = [[]]
    for x, heat in zip(scale.record.x, heats, strict=True):
        if math.isnan(heat) or not low < heat < high:
            parts.append([])
        else:
            parts[-1].append(scale.place_of(float(x), float(heat)))
    return [part for part in parts if len(part) > 1]


def _areas(pen: Pen, scale: MapScale) -> None:
    """What each grade covers: above its contour, where the nozzle is hotter."""
    record, frame = scale.record, scale.frame
    pen.area(frame, "stop", 0.10)
    for level, colour in zip(record.wanted, ("watch", "clear"), strict=True):
        heats = next(each for share, each in record.contours if share == level)
        top: list[Point] = []
        for x, heat in zip(record.x, heats, strict=True):
            at = (
                float(record.y[-1])
                if math.isnan(heat)
                else min(max(float(heat), float(record.y[0])), float(record.y[-1]))
            )
            top.append(scale.place_of(float(x), at))
        if any(y > frame.top + 1.0 for _, y in top):
            pen.shape([*top, (frame.right, frame.top), (frame.left, frame.top)], "panel", 1.0)
            pen.shape([*top, (frame.right, frame.top), (frame.left, frame.top)], colour, 0.16)


def _limits(pen: Pen, labels: Labels, scale: MapScale) -> None:
    record, frame = scale.record, scale.frame
    low, high = float(record.y[0]), float(record.y[-1])
    first, last = float(record.x[0]), float(record.x[-1])
    if record.window_y is not None:
        left, right = record.window_x or (first, last)
        x1, y1 = scale.place_of(left, record.window_y[1])
        x2, y2 = scale.place_of(right, record.window_y[0])
        pen.frame(Box(x1, y1, x2 - x1, y2 - y1), "accent", 1.4)
        labels.put(
            "window", [(x2 - 26.0, y1 + 9.0), (x1 + 26.0, y1 + 9.0), (x1 + 26.0, y2 - 9.0)], "accent", size=SMALL
        )
    if record.reach_x is not None and record.reach_x < last:
        x, _ = scale.place_of(record.reach_x, low)
        beyond = Box(x, frame.top, frame.right - x, frame.height)
        pen.hatch(beyond, "hatch")
        middle = max(0.5 * (x + frame.right), x + 62.0)
        labels.put(
            "beyond this machine", [(middle, frame.bottom - 10.0), (middle, frame.top + 10.0)], "muted", size=SMALL
        )
    for at, words, colour in (
        (record.decomposes_c, "decomposes", "stop"),
        (record.reach_y, "reach of the nozzle", "muted"),
    ):
        if at is not None and low < at < high:
            _, y = scale.place_of(first, at)
            pen.line(frame.left, y, frame.right, y, colour, 1.6, "dash")
            _along(labels, frame, y, words, colour)
    if record.flow_x is not None:
        points = [scale.place_of(float(x), float(y)) for x, y in zip(record.flow_x, record.flow_y, strict=True)
                  if first < x < last]  # fmt: skip
        if len(points) > 1:
            pen.path(points, "watch", 2.0, "dash")
            places = [(x - 74.0, y) for x, y in points] + [(x + 74.0, y) for x, y in points]
            labels.put("the head gives no more", places, "watch", size=SMALL)
    if record.flow_above_c is not None and record.flow_above_c > low + 4.0:
        _, y = scale.place_of(first, record.flow_above_c)
        pen.line(frame.left, y, frame.right, y, "watch", 1.6, "dash")
        _along(labels, frame, y, "colder, the head does not give the flow", "watch")


def _along(labels: Labels, frame: Box, y: float, words: str, colour: str) -> None:
    """Words above or below a level line, where there is room."""
    places = [
        (frame.left + share * frame.width, y + off) for off in (9.0, -9.0) for share in (0.16, 0.84, 0.34, 0.5, 0.66)
    ]
    labels.put(words, places, colour, size=SMALL)


def _axes(pen: Pen, scale: MapScale, wording: Wording) -> None:
    record, frame = scale.record, scale.frame
    for at in _ticks(float(record.y[0]), float(record.y[-1])):
        _, y = scale.place_of(float(record.x[0]), at)
        pen.line(frame.left - 3.0, y, frame.left, y, "muted")
        pen.words(
            Box(scale.box.left, y - 8.0, LEFT - 6.0, 16.0),
            wording.number(at, "temperature"),
            "muted",
            "right",
            size=SMALL,
        )
    for at in _along_ticks(record):
        x, _ = scale.place_of(at, float(record.y[0]))
        pen.line(x, frame.bottom, x, frame.bottom + 3.0, "muted")
        pen.words(
            Box(x - 24.0, frame.bottom + 3.0, 48.0, 14.0),
            wording.number(at, record.quantity),
            "muted",
            "centre",
            size=SMALL,
        )
    words = f"{TITLES[record.along]}, {wording.unit(record.quantity)} · lines: strength kept across layers"
    foot = frame.bottom + 16.0
    pen.words(Box(frame.left + 90.0, foot, frame.width - 90.0, 15.0), words, "muted", "right", size=SMALL)
    pen.words(Box(scale.box.left, foot, 130.0, 15.0), f"up: nozzle, {wording.unit('temperature')}", "muted", size=SMALL)


def _ticks(low: float, high: float) -> list[float]:
    step = next(each for each in (5.0, 10.0, 20.0, 50.0, 100.0, 200.0) if (high - low) / each <= 8.0 or each == 200.0)
    first = math.ceil(low / step)
    return [step * number for number in range(first, math.floor(high / step) + 1)]


def _along_ticks(record: WeldMap) -> list[float]:
    low, high = float(record.x[0]), float(record.x[-1])
    if record.along == "chamber":
        return _ticks(low, high)
    every = [base * 10.0**power for power in range(-1, 5) for base in (1.0, 2.0, 5.0)]
    return [each for each in every if low <= each <= high]


def _point(pen: Pen, labels: Labels, scale: MapScale, point: tuple[float, float], wording: Wording) -> None:
    x, y = scale.place_of(*point)
    cross(pen, x, y)
    words = f"{wording.value(point[1], 'temperature')}, {wording.value(point[0], scale.record.quantity)}"
    labels.put(words, labels.beside(x, y, words, bold=True), "ink", bold=True, on_panel=True)


def cross(pen: Pen, x: float, y: float) -> None:
    """Where a recipe stands."""
    for a, b in ((-9.0, -3.0), (3.0, 9.0)):
        pen.line(x + a, y, x + b, y, "ink", 3.0)
        pen.line(x, y + a, x, y + b, "ink", 3.0)


def draw_height(pen: Pen, box: Box, record: HeatPicture, wording: Wording) -> None:
    """Time of each layer and the heat at its end, over the height of the part."""
    profile = record.profile
    if profile is None:
        pen.words(box, "Give the part a size in the Brief, or drop its file on the window.", "muted", "centre")
        return
    half = (box.width - 30.0) / 2.0
    high = float(profile.height_mm[-1])
    _times(pen, Box(box.left, box.top, half, box.height), profile, high, wording)
    _ends(pen, Box(box.left + half + 30.0, box.top, half, box.height), profile, high, wording)


def _plot(
    pen: Pen,
    box: Box,
    low: float,
    high: float,
    top_mm: float,
    words: str,
    quantity: str,
    wording: Wording,
) -> Callable[[float, float], Point]:
    """Axes with the height upwards; what gives the pixels of a point."""
    frame = Box(box.left + 44.0, box.top + 6.0, box.width - 56.0, box.height - 40.0)

    def at(value: float, height: float) -> Point:
        return frame.left + (value - low) / (high - low) * frame.width, frame.bottom - height / top_mm * frame.height

    pen.frame(frame, "muted")
    for tick in _ticks(low, high) if quantity == "temperature" else _round_ticks(low, high):
        x, _ = at(tick, 0.0)
        pen.line(x, frame.bottom, x, frame.bottom + 3.0, "muted")
        pen.words(
            Box(x - 26.0, frame.bottom + 3.0, 52.0, 14.0), wording.number(tick, quantity), "muted", "centre", size=SMALL
        )
    for tick in _round_ticks(0.0, top_mm):
        _, y = at(low, tick)
        y = min(y - 8.0, frame.bottom - 14.0)  # above the numbers below the axis
        pen.words(Box(box.left, y, 40.0, 16.0), wording.number(tick, "length"), "muted", "right", size=SMALL)
    pen.words(
        Box(frame.left, frame.bottom + 17.0, frame.width, 15.0),
        f"{words}, {wording.unit(quantity)}",
        "muted",
        "centre",
        size=SMALL,
    )
    return at


def _round_ticks(low: float, high: float) -> list[float]:
    span = max(high - low, 1e-6)
    step = 10.0 ** math.floor(math.log10(span / 2.0))
    step = next(step * each for each in (1.0, 2.0, 5.0, 10.0) if span / (step * each) <= 5.0)
    return [step * number for number in range(math.ceil(low / step), math.floor(high / step) + 1)]


def _times(pen: Pen, box: Box, profile: HeightProfile, high: float, wording: Wording) -> None:
    most = max(float(profile.seconds.max()), profile.needed_s or 0.0) * 1.1
    at = _plot(pen, box, 0.0, most, high, "time of a layer", "seconds", wording)
    pen.path([at(float(s), float(h)) for s, h in zip(profile.seconds, profile.height_mm, strict=True)], "accent", 2.0)
    if profile.needed_s is not None:
        x, top = at(profile.needed_s, high)
        pen.line(x, top, x, at(0.0, 0.0)[1], "stop", 1.6, "dash")
        pen.words(Box(x - 124.0, top + 2.0, 120.0, 14.0), "needed at the hottest", "stop", "right", size=SMALL)
    if profile.weakest_mm is not None:
        x, y = at(0.0, profile.weakest_mm)
        pen.line(x, y, x + 14.0, y, "ink", 2.0)
        pen.words(Box(x + 16.0, y if y < box.top + 20.0 else y - 8.0, 140.0, 16.0), "weakest weld", "ink", size=SMALL)


def _ends(pen: Pen, box: Box, profile: HeightProfile, high: float, wording: Wording) -> None:
    if not profile.end_c.size:
        pen.words(box, "Set the nozzle to see how hot layers end.", "muted", "centre")
        return
    marks = [float(profile.end_c.min()), float(profile.end_c.max())]
    marks += [profile.sets_c] if profile.sets_c is not None else []
    low, most = min(marks) - 8.0, max(marks) + 8.0
    at = _plot(pen, box, low, most, high, "heat at the end of a layer", "temperature", wording)
    if profile.sets_c is not None:
        x, top = at(profile.sets_c, high)
        right, foot = at(most, 0.0)
        soft = Box(x, top, right - x, foot - top)
        pen.hatch(soft, "hatch")
        pen.line(x, top, x, foot, "stop", 1.6, "dash")
        pen.words(Box(x - 124.0, top + 2.0, 120.0, 14.0), "too soft beyond", "stop", "right", size=SMALL)
    pen.path([at(float(c), float(h)) for c, h in zip(profile.end_c, profile.end_at_mm, strict=True)], "accent", 2.0)
