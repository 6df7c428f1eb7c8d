"""A plate from above: what of each probed point is left besides the tilt, high ones filled, low ones hatched."""

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording
from kaustos.core.planning.flatness import SAG_MM, Flatness


def draw_plate(pen: Pen, box: Box, record: Flatness | None, wording: Wording) -> None:
    """The map of the plate."""
    if record is None:
        pen.words(box, "Probe the plate hot, and paste x, y and height of each point.", "muted", "centre")
        return
    wide, deep = float(record.x_mm.max() - record.x_mm.min()), float(record.y_mm.max() - record.y_mm.min())
    cell = 44.0
    scale = min((box.width - 2.0 * cell - 150.0) / max(wide, 1.0), (box.height - cell - 16.0) / max(deep, 1.0))
    left, bottom = box.left + cell, box.bottom - cell / 2.0 - 12.0
    most = max(float(abs(record.residual_mm).max()), SAG_MM / 2.0)
    frame = Box(left - cell / 2.0, bottom - deep * scale - cell / 2.0, wide * scale + cell, deep * scale + cell)
    pen.frame(frame, "muted")
    for x, y, z in zip(record.x_mm, record.y_mm, record.residual_mm, strict=True):
        middle_x = left + (float(x) - float(record.x_mm.min())) * scale
        middle_y = bottom - (float(y) - float(record.y_mm.min())) * scale
        size = 8.0 + 22.0 * abs(float(z)) / most
        spot = Box(middle_x - size / 2.0, middle_y - size / 2.0, size, size)
        if z >= 0.0:
            pen.area(spot, "accent", 0.55)
        else:
            pen.hatch(spot, "ink")
            pen.frame(spot, "ink")
        words = f"{1e3 * float(z):+.0f}".replace("-", "\u2212")
        pen.words(Box(middle_x - 24.0, middle_y + size / 2.0 - 1.0, 48.0, 14.0), words, "ink", "centre")
    right = frame.right + 10.0
    lines = ("µm from the plane", "filled: high", "hatched: low", f"tilt {1e3 * record.tilt_mm:.0f} µm",
             f"sag {1e3 * record.sag_mm:.0f} µm of {1e3 * SAG_MM:.0f}")  # fmt: skip
    for at, words in enumerate(lines):
        colour = "stop" if at == 4 and record.sag_mm > SAG_MM else "muted"
        pen.words(Box(right, frame.top + 17.0 * at, 140.0, 16.0), words, colour)
    pen.words(Box(frame.left, frame.bottom + 1.0, frame.width, 14.0), "front", "muted", "centre")
