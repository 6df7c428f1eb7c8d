"""Style: palette, fonts, style sheet, and the marks of standing."""

from kaustos.ui.look.marks import StandingMark, draw_standing
from kaustos.ui.look.theme import (
    ASSETS,
    DARK,
    LIGHT,
    THEMES,
    Palette,
    apply_colours,
    apply_sheet,
    apply_theme,
    load_fonts,
    palette,
)

__all__ = [
    "ASSETS",
    "DARK",
    "LIGHT",
    "THEMES",
    "Palette",
    "StandingMark",
    "apply_colours",
    "apply_sheet",
    "apply_theme",
    "draw_standing",
    "load_fonts",
    "palette",
]
