"""The pictures of the operations, each drawn once with a pen: for the window and for the sheet.

Each is imported when it is first drawn.
"""

from collections.abc import Callable, Mapping
from typing import Any

from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.wording import Wording

Draw = Callable[[Pen, Box, Any, Wording], None]  # the record is the operation's own frozen picture


def _brief() -> Draw:
    from kaustos.app.pictures.brief import draw_margins

    return draw_margins


def _stock() -> Draw:
    from kaustos.app.pictures.stock import draw_moisture

    return draw_moisture


def _machine() -> Draw:
    from kaustos.app.pictures.machine import draw_chain

    return draw_chain


_DRAWN: Mapping[str, Callable[[], Draw]] = {"brief": _brief, "stock": _stock, "machine": _machine}


def drawing_of(key: str) -> Draw:
    """What draws the picture of an operation."""
    return _DRAWN[key]()


__all__ = ["Box", "Draw", "Pen", "drawing_of"]
