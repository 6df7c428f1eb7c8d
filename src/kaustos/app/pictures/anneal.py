"""An anneal over its hours: air, face, skin and core above; crystals and stress below; corners that can be dragged."""

import attrs

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording, hours_words
from kaustos.core.review.anneal import AnnealPicture

NOTHING = "Type a hold below, or plan it by its button: air, skin and core over the hours stand here."
NOT_WANTED = "The part serves as printed. Plan a hold below to see what an anneal would take."
UPPER = 0.66  # of the height that belongs to the temperatures
NEAR = 12.0  # pixels from a corner within which it is taken hold of


@attrs.frozen
class AnnealScale:
    """Where hours and temperatures of a picture lie."""

    record: AnnealPicture
    box: Box

    @property
    def frame(self) -> Box:
        """The frame of the temperatures."""
        box = self.box
        return Box(box.left + 52.0, box.top + 20.0, box.width - 60.0, (box.height - 46.0) * UPPER)

    @property
    def lower(self) -> Box:
        """The frame of crystals and stress."""
        box, frame = self.box, self.frame
        top = frame.bottom + 16.0
        return Box(frame.left, top, frame.width, box.bottom - top - 20.0)

    @property
    def hours(self) -> float:
        """At its right end."""
        ends = [self.record.hours[-1], *(each.hours[-1] for each in self.record.readings if each.hours)]
        return max(ends) if ends else 1.0

    @property
    def top_c(self) -> float:
        """At its top."""
        record = self.record
        tops = [*record.air, *(each for reading in record.readings for each in reading.shown_c)]
        if record.window is not None:
            tops += [each for each in record.window if each < 1.35 * max(record.air)]
        return max(tops) * 1.04

    def place_of(self, hours: float, celsius: float) -> tuple[float, float]:
        """Pixels of a moment and a temperature."""
        frame, low = self.frame, self.record.room_c - 5.0
        share = (min(max(celsius, low), self.top_c) - low) / (self.top_c - low)
        return frame.left + min(hours / self.hours, 1.0) * frame.width, frame.bottom - share * frame.height

    def at(self, x: float, y: float) -> tuple[float, float]:
        """The moment and temperature of pixels."""
        frame, low = self.frame, self.record.room_c - 5.0
        return (x - frame.left) / frame.width * self.hours, low + (frame.bottom - y) / frame.height * (self.top_c - low)


def draw_anneal(pen: Pen, box: Box, record: AnnealPicture, wording: Wording) -> None:
    """The programme, its three lags, and what becomes of the core."""
    if record.is_empty:
        pen.words(box, NOTHING if record.is_wanted else NOT_WANTED, "muted", "centre")
        return
    scale = AnnealScale(record, box)
    _window(pen, scale, wording)
    curves = [("air", record.air, "ink", 1.4, "dash"), ("skin", record.skin, "watch", 1.4, "solid"),
              ("core", record.core, "accent", 2.2, "solid")]  # fmt: skip
    if record.is_packed:
        curves.insert(1, ("face of sand or jig", record.face, "muted", 1.2, "solid"))
    for name, celsius, colour, width, style in curves:
        pen.path([scale.place_of(*each) for each in zip(record.hours, celsius, strict=True)], colour, width, style)
        del name
    for reading in record.readings:
        points = [scale.place_of(*each) for each in zip(reading.hours, reading.shown_c, strict=True)]
        if len(points) > 1:
            pen.path(points, "clear", 1.2, "dash")
    for number, node in enumerate(record.nodes, 1):
        x, y = scale.place_of(node.hours, node.celsius)
        pen.area(Box(x - 4.0, y - 4.0, 8.0, 8.0), "accent")
        pen.words(Box(x + 6.0, y - 20.0, 20.0, 15.0), str(number), "accent", bold=True)
    _legend(pen, scale, [(name, colour) for name, _, colour, _, _ in curves], record)
    _axes(pen, scale, wording)
    _below(pen, scale)


def _window(pen: Pen, scale: AnnealScale, wording: Wording) -> None:
    """Where the hold acts, and what lies beyond."""
    frame, window = scale.frame, scale.record.window
    if window is not None:
        low, high, lost = window
        if low < scale.top_c:
            _, top = scale.place_of(0.0, high)
            _, bottom = scale.place_of(0.0, low)
            pen.area(Box(frame.left, top, frame.width, bottom - top), "clear", 0.16)
        if lost < scale.top_c:
            _, y = scale.place_of(0.0, lost)
            pen.line(frame.left, y, frame.right, y, "stop", 1.2, "dash")
        ends = [wording.value(round(each), "temperature") for each in window]
        words = f"acts {ends[0]} to {ends[1]}, shape lost from {ends[2]}"
        pen.words(Box(frame.left, frame.bottom - 19.0, frame.width, 16.0), words, "muted", "centre")
    reach = scale.record.reach_c
    if reach is not None and reach < scale.top_c:
        _, y = scale.place_of(0.0, reach)
        beyond = Box(frame.left, frame.top, frame.width, y - frame.top)
        pen.hatch(beyond, "muted")
        words = f"reaches {wording.value(round(reach), 'temperature')}"
        pen.words(Box(frame.left + 4.0, y - 16.0, 200.0, 15.0), words, "muted")


def _legend(pen: Pen, scale: AnnealScale, curves: list[tuple[str, str]], record: AnnealPicture) -> None:
    left = scale.frame.left
    if record.readings:
        curves = [*curves, ("last load", "clear")]
    for name, colour in curves:
        pen.words(Box(left, scale.box.top, 140.0, 16.0), name, colour, bold=True)
        left += 18.0 + 7.5 * len(name)


def _axes(pen: Pen, scale: AnnealScale, wording: Wording) -> None:
    frame, lower = scale.frame, scale.lower
    pen.line(frame.left, frame.bottom, frame.right, frame.bottom, "muted")
    top, low = (wording.value(round(each), "temperature") for each in (scale.top_c, scale.record.room_c))
    pen.words(Box(scale.box.left, frame.top, 48.0, 15.0), top, "muted", "right")
    pen.words(Box(scale.box.left, frame.bottom - 15.0, 48.0, 15.0), low, "muted", "right")
    pen.words(Box(frame.left, lower.bottom + 3.0, 120.0, 15.0), "cold oven", "muted")
    pen.words(Box(frame.right - 90.0, lower.bottom + 3.0, 90.0, 15.0), hours_words(scale.hours), "muted", "right")
    for node in scale.record.nodes:
        x, _ = scale.place_of(node.hours, 0.0)
        words = Box(x - 40.0, lower.bottom + 3.0, 80.0, 15.0)
        if frame.left + 60.0 < words.left and words.right < frame.right - 60.0:
            pen.words(words, hours_words(node.hours), "muted", "centre")


def _below(pen: Pen, scale: AnnealScale) -> None:
    """Crystals and stress of the core, with their bands."""
    lower, record = scale.lower, scale.record
    pen.line(lower.left, lower.bottom, lower.right, lower.bottom, "muted")
    pen.words(Box(scale.box.left, lower.top - 6.0, 48.0, 15.0), "100 %", "muted", "right")
    named = [("stress left", record.stress, "watch")]
    if record.crystals is not None:
        named.append(("crystals", record.crystals, "accent"))
    for name, band, colour in named:
        assert band is not None
        low, likely, high = (
            [(lower.left + hour / scale.hours * lower.width, lower.bottom - share * lower.height)
             for hour, share in zip(record.hours, row, strict=True)]
            for row in band
        )  # fmt: skip
        pen.shape([*high, *reversed(low)], colour, 0.14)
        pen.path(likely, colour, 2.0)
        x, y = likely[-1]
        words = f"{name} {100.0 * band[1][-1]:.0f} %"
        above = max(min(y - 16.0, lower.bottom - 16.0), lower.top)
        pen.words(Box(x - 170.0, above, 166.0, 15.0), words, colour, "right", bold=True)
