"""Plate and air as they cool, the door open and shut, and the heat at which a part comes off."""

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording, hours_words
from kaustos.core.review.release import ReleasePicture

NOTHING = "Set the plate in the ladder: how it cools, and when the part comes off, stands here."
COLOURS = {"door open": "accent", "door shut": "ink"}


def draw_release(pen: Pen, box: Box, record: ReleasePicture, wording: Wording) -> None:
    """Heat over time; bands where it is sampled; the heat for release as a line, and from when."""
    if record.is_empty:
        pen.words(box, NOTHING, "muted", "centre")
        return
    frame = Box(box.left + 52.0, box.top + 20.0, box.width - 60.0, box.height - 44.0)
    last = max(course.at_min[-1] for course in record.courses)
    top = max(max(course.plate_c[2]) for course in record.courses) * 1.04
    low = min(record.room_c, top - 1.0) - 2.0

    def at(minute: float, heat: float) -> tuple[float, float]:
        share = (min(max(heat, low), top) - low) / (top - low)
        return frame.left + minute / last * frame.width, frame.bottom - share * frame.height

    pen.line(frame.left, frame.bottom, frame.right, frame.bottom, "muted")
    for course in record.courses:
        least, likely, most = (
            [at(m, heat) for m, heat in zip(course.at_min, curve, strict=True)] for curve in course.plate_c
        )
        colour = COLOURS[course.name]
        pen.shape([*most, *reversed(least)], colour, 0.12)
        pen.path(likely, colour, 2.0)
        air = [at(m, heat) for m, heat in zip(course.at_min, course.air_c, strict=True)]
        pen.path(air, colour, 1.0, "dash")
    said = "taken off hot, not waited for" if record.is_hot else "plate; dashed: the air"
    pen.words(Box(box.left, box.top, box.width, 16.0), said, "muted")
    for number, each in enumerate(() if record.is_hot else record.courses):
        line = Box(frame.right - 300.0, frame.top + 18.0 * number, 300.0, 16.0)
        pen.words(line, f"{each.name}: {_off(each.off_min)}", COLOURS[each.name], "right")
    if record.release_c is not None and low < record.release_c < top:
        _, y = at(0.0, record.release_c)
        pen.line(frame.left, y, frame.right, y, "stop", 1.2, "dash")
        told = f"off from {wording.value(record.release_c, 'temperature')}"
        pen.words(Box(frame.right - 120.0, y - 17.0, 120.0, 16.0), told, "stop", "right")
    pen.words(Box(box.left, frame.top, 48.0, 15.0), wording.value(round(top), "temperature"), "muted", "right")
    pen.words(
        Box(box.left, frame.bottom - 15.0, 48.0, 15.0), wording.value(round(low), "temperature"), "muted", "right"
    )
    pen.words(Box(frame.right - 60.0, frame.bottom + 4.0, 60.0, 15.0), hours_words(last / 60.0), "muted", "right")
    pen.words(Box(frame.left, frame.bottom + 4.0, 120.0, 15.0), "end of the print", "muted")


def _off(off: tuple[float, float, float] | None) -> str:
    if off is None:
        return "not in half a day"
    low, value, high = (hours_words(each / 60.0) for each in off)
    return f"off after {value} ({low} to {high})"
