"""Words in a picture that leave each other room: the first have the best places, what has none is left out."""

from collections.abc import Sequence

from kaustos.app.pictures.pen import Box, Pen

APART = 2.0


class Labels:
    """Puts words where there is room within a frame."""

    def __init__(self, pen: Pen, frame: Box) -> None:
        self._pen, self._frame = pen, frame
        self._taken: list[Box] = []

    def put(
        self, text: str, places: Sequence[tuple[float, float]], colour: str, *, bold: bool = False, size: float = 0.0,
        on_panel: bool = False,
    ) -> bool:  # fmt: skip
        """Draw a text with its middle at the first of some places that is free; False where none is."""
        wide, high = self._pen.width_of(text, bold=bold) + 2.0, 15.0
        for x, y in places:
            box = Box(x - wide / 2.0, y - high / 2.0, wide, high)
            if self._is_free(box):
                self._taken.append(box)
                if on_panel:
                    self._pen.area(box, "panel", 0.85)
                self._pen.words(box, text, colour, "centre", bold=bold, size=size)
                return True
        return False

    def beside(self, x: float, y: float, text: str, *, bold: bool = False) -> list[tuple[float, float]]:
        """Places round a point: right below, left below, right above, left above."""
        half = self._pen.width_of(text, bold=bold) / 2.0 + 12.0
        return [(x + half, y + 13.0), (x - half, y + 13.0), (x + half, y - 13.0), (x - half, y - 13.0)]

    def _is_free(self, box: Box) -> bool:
        frame = self._frame
        inside = (
            box.left >= frame.left and box.right <= frame.right and box.top >= frame.top and box.bottom <= frame.bottom
        )
        return inside and not any(_meet(box, other) for other in self._taken)


def _meet(one: Box, other: Box) -> bool:
    return (
        one.left < other.right + APART and other.left < one.right + APART and one.top < other.bottom
        and other.top < one.bottom
    )  # fmt: skip
