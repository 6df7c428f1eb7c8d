"""What a picture is drawn with: one set of strokes, carried out by the window's painter and by the sheet's SVG.

Colours are named by what they mean; sizes are in pixels of the window, points of the sheet.
"""

from collections.abc import Sequence
from typing import Protocol

import attrs

Point = tuple[float, float]


@attrs.frozen
class Box:
    """A rectangle: left, top, width, height."""

    left: float
    top: float
    width: float
    height: float

    @property
    def right(self) -> float:
        """Its right edge."""
        return self.left + self.width

    @property
    def bottom(self) -> float:
        """Its lower edge."""
        return self.top + self.height


class Pen(Protocol):
    """Draws strokes, areas and words."""

    def line(
        self, x1: float, y1: float, x2: float, y2: float, colour: str, width: float = 1.0, style: str = "solid"
    ) -> None:
        """A line; style is solid or dash."""

    def area(self, box: Box, colour: str, opacity: float = 1.0) -> None:
        """A filled rectangle."""

    def frame(self, box: Box, colour: str, width: float = 1.0) -> None:
        """The outline of a rectangle."""

    def hatch(self, box: Box, colour: str) -> None:
        """A rectangle of slanted lines."""

    def shape(self, points: Sequence[Point], colour: str, opacity: float = 1.0) -> None:
        """A filled polygon."""

    def path(self, points: Sequence[Point], colour: str, width: float = 1.0, style: str = "solid") -> None:
        """A line through points."""

    def words(
        self, box: Box, text: str, colour: str, align: str = "left", *, bold: bool = False, size: float = 0.0
    ) -> None:
        """Words in the middle of a box's height, one line for each line of the text; align is left, centre or right."""

    def width_of(self, text: str, *, bold: bool = False) -> float:
        """How wide words are."""
