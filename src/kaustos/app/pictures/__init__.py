"""The pictures of the operations, each drawn once with a pen: for the window and for the sheet."""

from collections.abc import Callable, Mapping
from typing import Any

from kaustos.app.pictures.brief import draw_margins
from kaustos.app.pictures.ladder import LadderScale, draw_ladder
from kaustos.app.pictures.machine import draw_chain
from kaustos.app.pictures.pen import Box, Pen
from kaustos.app.pictures.stock import draw_moisture
from kaustos.app.wording import Wording

Draw = Callable[[Pen, Box, Any, Wording], None]  # the record is the operation's own frozen picture
DRAWN: Mapping[str, Draw] = {"brief": draw_margins, "stock": draw_moisture, "machine": draw_chain}

__all__ = ["DRAWN", "Box", "Draw", "LadderScale", "Pen", "draw_ladder"]
