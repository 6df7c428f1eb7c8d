"""Draws a picture as SVG for paper."""

from collections.abc import Sequence
from html import escape
from typing import Protocol

COLOURS = {  # what a colour of the window is on paper
    "ground": "#f2f2f2", "panel": "#ffffff", "raised": "#f4f4f4", "ink": "#111111", "muted": "#555555",
    "rule": "#999999", "accent": "#1d5a66", "window_fill": "#c9d8d2", "hatch": "#888888", "stop": "#a1242c",
    "watch": "#855600", "open": "#46587c", "clear": "#2c6a3d", "chosen": "#e2ebe9",
}  # fmt: skip
WIDE, BOLD = 0.56, 1.07  # of the size: mean advance of the sheet's letters, and how much wider bold ones are
_ANCHORS = {"left": "start", "centre": "middle", "right": "end"}
_DASH = {"solid": "", "dash": ' stroke-dasharray="5 3"'}


class Rectangle(Protocol):
    """Where something is drawn."""

    @property
    def left(self) -> float: ...
    @property
    def top(self) -> float: ...
    @property
    def width(self) -> float: ...
    @property
    def height(self) -> float: ...


class SvgPen:
    """Collects strokes; ``svg`` gives them as one element."""

    def __init__(self, width: float, height: float, name: str, size: float = 12.0) -> None:
        self._width, self._height, self._name, self._size = width, height, name, size
        self._drawn: list[str] = []

    def svg(self, wide_mm: float) -> str:
        """The picture as one inline SVG element, so many millimetres wide."""
        hatch = (
            '<defs><pattern id="beyond" width="5" height="5" patternUnits="userSpaceOnUse" '
            'patternTransform="rotate(45)"><line x1="0" y1="0" x2="0" y2="5" stroke="#888888" stroke-width="1"/>'
            "</pattern></defs>"
        )
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {self._width:g} {self._height:g}" '
            f'width="{wide_mm:g}mm" height="{wide_mm * self._height / self._width:.1f}mm" role="img" '
            f'aria-label="{escape(self._name)}" font-family="Inter, sans-serif">{hatch}{"".join(self._drawn)}</svg>'
        )

    def line(self, x1: float, y1: float, x2: float, y2: float, colour: str, width: float = 1.0,
             style: str = "solid") -> None:  # fmt: skip
        """A line."""
        self._drawn.append(
            f'<line x1="{x1:.1f}" y1="{y1:.1f}" x2="{x2:.1f}" y2="{y2:.1f}" stroke="{COLOURS[colour]}" '
            f'stroke-width="{width:g}"{_DASH[style]}/>'
        )

    def area(self, box: Rectangle, colour: str, opacity: float = 1.0) -> None:
        """A filled rectangle."""
        self._rect(box, f'fill="{COLOURS[colour]}" fill-opacity="{opacity:g}"')

    def frame(self, box: Rectangle, colour: str, width: float = 1.0) -> None:
        """The outline of a rectangle."""
        self._rect(box, f'fill="none" stroke="{COLOURS[colour]}" stroke-width="{width:g}"')

    def hatch(self, box: Rectangle, colour: str) -> None:
        """A rectangle of slanted lines."""
        self._rect(box, 'fill="url(#beyond)"')

    def shape(self, points: Sequence[tuple[float, float]], colour: str, opacity: float = 1.0) -> None:
        """A filled polygon."""
        self._drawn.append(f'<polygon points="{_points(points)}" fill="{COLOURS[colour]}" fill-opacity="{opacity:g}"/>')

    def path(
        self, points: Sequence[tuple[float, float]], colour: str, width: float = 1.0, style: str = "solid"
    ) -> None:  # fmt: skip
        """A line through points."""
        self._drawn.append(
            f'<polyline points="{_points(points)}" fill="none" stroke="{COLOURS[colour]}" '
            f'stroke-width="{width:g}"{_DASH[style]}/>'
        )

    def words(self, box: Rectangle, text: str, colour: str, align: str = "left", *, bold: bool = False,
              size: float = 0.0) -> None:  # fmt: skip
        """Words in the middle of a box's height."""
        size, lines = size or self._size, text.split("\n")
        x = {"left": box.left, "centre": box.left + box.width / 2, "right": box.left + box.width}[align]
        top = box.top + box.height / 2 - size * 1.15 * (len(lines) - 1) / 2 + size * 0.35
        weight = ' font-weight="600"' if bold else ""
        for number, line in enumerate(lines):
            self._drawn.append(
                f'<text x="{x:.1f}" y="{top + number * size * 1.15:.1f}" fill="{COLOURS[colour]}" '
                f'text-anchor="{_ANCHORS[align]}" font-size="{size:g}"{weight}>{escape(line)}</text>'
            )

    def width_of(self, text: str, *, bold: bool = False) -> float:
        """About how wide words are: paper has no metrics at hand, and a little too much does no harm."""
        return len(text) * self._size * WIDE * (BOLD if bold else 1.0)

    def _rect(self, box: Rectangle, style: str) -> None:
        self._drawn.append(
            f'<rect x="{box.left:.1f}" y="{box.top:.1f}" width="{max(box.width, 0.0):.1f}" '
            f'height="{max(box.height, 0.0):.1f}" {style}/>'
        )


def _points(points: Sequence[tuple[float, float]]) -> str:
    return " ".join(f"{x:.1f},{y:.1f}" for x, y in points)
