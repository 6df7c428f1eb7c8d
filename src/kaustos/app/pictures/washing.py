"""Two pictures beside the part: gaps as they were tried, and a bath over its hours."""

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording, hours_words
from kaustos.core.planning.gap_series import TAKEN
from kaustos.core.review.supports import BathPicture, SupportPicture

NO_BATH = (
    "A bath over time stands here for soluble supports: set the way and its polymer, choose the bath or its volume."
)
FULL = "This bath is full before it is clean: mix a new one."
MOST_LAYERS = 6.0


def draw_gaps(pen: Pen, box: Box, record: SupportPicture, wording: Wording) -> None:
    """Minutes to take a support off over its gap, by the series; above it who says which gap."""
    lines = 18.0 * len(record.gaps)
    frame = Box(box.left + 46.0, box.top + 20.0 + lines, box.width - 60.0, box.height - 56.0 - lines)
    most = max([MOST_LAYERS, *(float(each.layers) for each in record.series), *(each.high for each in record.gaps)])
    longest = max([each.minutes or 0.0 for each in record.series], default=0.0) * 1.15 or 1.0

    def x(layers: float) -> float:
        return frame.left + layers / most * frame.width

    pen.words(Box(box.left, box.top, box.width, 16.0), "layers between part and support, and who says so", "muted")
    for number, each in enumerate(record.gaps):
        y = box.top + 27.0 + 18.0 * number
        pen.line(x(each.low), y, x(each.high), y, "accent" if each.is_own else "muted", 5.0)
        pen.line(x(each.layers), y - 6.0, x(each.layers), y + 6.0, "ink", 2.0)
        pen.words(Box(min(x(each.high) + 8.0, frame.right - 150.0), y - 9.0, 260.0, 18.0), each.source, "ink")
    pen.line(frame.left, frame.bottom, frame.right, frame.bottom, "muted")
    for layers in range(int(most) + 1):
        pen.words(Box(x(layers) - 12.0, frame.bottom + 2.0, 24.0, 15.0), str(layers), "muted", "centre")
    pen.words(Box(frame.left, frame.bottom + 17.0, frame.width, 15.0), "layers", "muted", "right")
    if record.gap_layers is not None:
        end = frame.bottom if record.series else frame.top + 4.0
        pen.line(x(record.gap_layers), box.top + 18.0, x(record.gap_layers), end, "ink", 1.5, "dash")
        pen.words(Box(x(record.gap_layers) + 4.0, frame.top - 8.0, 60.0, 15.0), "set", "ink")
    if not record.series:
        pen.words(frame, "No series here yet: print one, type it on the page Measured.", "muted", "centre")
        return
    pen.words(Box(box.left, frame.top - 8.0, 44.0, 15.0), wording.value(longest, "minutes"), "muted", "right")
    for step in record.series:
        colour = "accent" if step.under in TAKEN else "stop"
        minutes = step.minutes if step.minutes is not None else longest
        y = frame.bottom - minutes / longest * frame.height
        pen.line(x(step.layers), frame.bottom, x(step.layers), y, colour, 3.0)
        pen.words(Box(x(step.layers) - 40.0, y - 17.0, 80.0, 15.0), step.under, "ink", "centre")


def draw_bath(pen: Pen, box: Box, record: SupportPicture, wording: Wording) -> None:
    """What is still on the part over the hours, with what was seen; below it how full the bath gets."""
    bath = record.bath
    if bath is None:
        pen.words(box, NO_BATH, "muted", "centre")
        return
    frame = Box(box.left + 46.0, box.top + 28.0, box.width - 60.0, box.height - 100.0)
    last = bath.at_h[-1] or 1.0

    def at(hours: float, share: float) -> tuple[float, float]:
        return frame.left + hours / last * frame.width, frame.bottom - share * frame.height

    least, likely, most = ([at(h, share) for h, share in zip(bath.at_h, curve, strict=True)] for curve in bath.left)
    pen.shape([*most, *reversed(least)], "window_fill")
    pen.path(likely, "accent", 2.0)
    pen.line(frame.left, frame.bottom, frame.right, frame.bottom, "muted")
    pen.words(Box(box.left, frame.top - 8.0, 44.0, 15.0), wording.value(100.0, "share"), "muted", "right")
    words = FULL
    if bath.hours is not None:
        low, high = hours_words(bath.hours.low), hours_words(bath.hours.high)
        words = f"clean after {hours_words(bath.hours.value)} ({low} to {high})"
    pen.words(Box(box.left, box.top, box.width, 16.0), f"supports still on {bath.of}: {words}", "ink")
    pen.words(Box(frame.right - 80.0, frame.bottom + 2.0, 80.0, 15.0), hours_words(last), "muted", "right")
    pen.words(Box(frame.left, frame.bottom + 2.0, 30.0, 15.0), "in", "muted")
    for hours, seen in bath.looks:
        x, y = at(hours, {"most": 0.8, "some": 0.3, "none": 0.0}.get(seen, 0.5))
        pen.line(x, frame.top, x, frame.bottom, "muted", 1.0, "dash")
        pen.words(Box(x + 3.0, y - 16.0, 90.0, 15.0), seen, "ink")
    _fill(pen, Box(frame.left, frame.bottom + 34.0, frame.width, 14.0), bath, wording)


def _fill(pen: Pen, bar: Box, bath: BathPicture, wording: Wording) -> None:
    before, mine, takes = bath.fill
    scale = bar.width / (max(takes, before + mine) or 1.0)
    pen.area(Box(bar.left, bar.top, before * scale, bar.height), "muted", 0.6)
    colour = "stop" if before + mine > takes else "accent"
    pen.area(Box(bar.left + before * scale, bar.top, mine * scale, bar.height), colour)
    pen.frame(Box(bar.left, bar.top, takes * scale, bar.height), "ink")
    said = [wording.value(round(each, 1), "mass") for each in (before, mine, takes)]
    words = "{} dissolved, {} on {}; it takes {}".format(*said[:2], bath.of, said[2])
    pen.words(Box(bar.left, bar.bottom + 3.0, bar.width, 15.0), words, "ink")
