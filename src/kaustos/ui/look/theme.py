"""The two palettes and the style sheet made from them."""

from pathlib import Path

import attrs
from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

ASSETS = Path(__file__).parents[2] / "assets"
FONTS, ICONS = ASSETS / "fonts", ASSETS / "icons"


@attrs.frozen(kw_only=True)
class Palette:
    """Colours by what they mean."""

    ground: str
    panel: str
    raised: str
    ink: str
    muted: str
    rule: str
    accent: str
    on_accent: str
    window_fill: str
    hatch: str
    stop: str
    watch: str
    open: str
    clear: str
    chosen: str


LIGHT = Palette(
    ground="#eceae4", panel="#fbfaf7", raised="#f2f0ea", ink="#1b2226", muted="#586067", rule="#cfcbc1",
    accent="#1d5a66", on_accent="#ffffff", window_fill="#b9d3cb", hatch="#9b9a92", stop="#a1242c", watch="#855600",
    open="#46587c", clear="#2c6a3d", chosen="#e2ebe9",
)  # fmt: skip
DARK = Palette(
    ground="#16191b", panel="#1f2427", raised="#282e32", ink="#e7e9e8", muted="#a4adb2", rule="#3d454a",
    accent="#79bcc6", on_accent="#0f1a1c", window_fill="#33594f", hatch="#6d757a", stop="#f2868a", watch="#e3b65c",
    open="#a8b9dd", clear="#86c795", chosen="#2a3a3d",
)  # fmt: skip
THEMES = {"light": LIGHT, "dark": DARK}
_present = [LIGHT]


def palette() -> Palette:
    """The palette in force."""
    return _present[0]


def load_fonts() -> None:
    """Register the fonts that ship with the program."""
    for file in sorted(FONTS.glob("*.otf")):
        QFontDatabase.addApplicationFont(str(file))


def apply_theme(app: QApplication, name: str) -> None:
    """Put a theme in force for the whole program."""
    apply_colours(app, name)
    apply_sheet(app, name)


def apply_sheet(app: QApplication, name: str) -> None:
    """Dress all widgets by the style sheet of a theme."""
    arrow, tick = ((ICONS / f"{icon}-{name}.png").as_posix() for icon in ("down", "tick"))
    sheet = _SHEET.format(**attrs.asdict(THEMES[name]), arrow=arrow, tick=tick)
    if app.styleSheet() != sheet:  # to set it again would dress every widget again
        app.setStyleSheet(sheet)


def apply_colours(app: QApplication, name: str) -> None:
    """Put font and palette of a theme in force."""
    found = THEMES[name]
    _present[0] = found
    font = QFont("Inter")
    font.setPixelSize(13)
    app.setFont(font)
    colours = QPalette()
    for role, colour in (
        (QPalette.ColorRole.Window, found.ground),
        (QPalette.ColorRole.WindowText, found.ink),
        (QPalette.ColorRole.Base, found.panel),
        (QPalette.ColorRole.AlternateBase, found.raised),
        (QPalette.ColorRole.Text, found.ink),
        (QPalette.ColorRole.Button, found.raised),
        (QPalette.ColorRole.ButtonText, found.ink),
        (QPalette.ColorRole.Highlight, found.accent),
        (QPalette.ColorRole.HighlightedText, found.on_accent),
        (QPalette.ColorRole.ToolTipBase, found.raised),
        (QPalette.ColorRole.ToolTipText, found.ink),
        (QPalette.ColorRole.PlaceholderText, found.muted),
    ):
        colours.setColor(role, QColor(colour))
    app.setPalette(colours)


_SHEET = """
QMainWindow, #body {{ background: {ground}; }}
#panel {{ background: {panel}; border: 1px solid {rule}; border-radius: 3px; }}
#head, #foot {{ background: {panel}; border: none; border-bottom: 1px solid {rule}; }}
#foot {{ border-bottom: none; border-top: 1px solid {rule}; }}
Label[role="title"] {{ font-size: 16px; font-weight: 600; }}
Label[role="heading"] {{ font-size: 13px; font-weight: 600; }}
Label[role="question"] {{ font-size: 14px; }}
Label[role="muted"] {{ color: {muted}; font-size: 12px; }}
Label[role="fault"] {{ color: {stop}; font-size: 12px; }}
Label[role="grade"] {{ font-size: 18px; font-weight: 600; }}
Label[role="saying"] {{ font-weight: 600; }}
QLineEdit, QComboBox {{
  background: {panel}; border: 1px solid {rule}; border-radius: 3px; padding: 3px 6px; min-height: 20px;
  selection-background-color: {accent}; selection-color: {on_accent};
}}
QLineEdit:focus, QComboBox:focus {{ border: 2px solid {accent}; padding: 2px 5px; }}
QLineEdit[fault="true"] {{ border: 2px solid {stop}; padding: 2px 5px; }}
QLineEdit:read-only {{ background: {raised}; }}
QCheckBox::indicator {{
  width: 12px; height: 12px; border: 1px solid {muted}; border-radius: 2px; background: {panel};
}}
QCheckBox::indicator:checked {{ background: {accent}; border-color: {accent}; image: url({tick}); }}
QCheckBox::indicator:focus, QCheckBox::indicator:hover {{ border-color: {accent}; }}
QComboBox::drop-down {{ border: none; width: 18px; }}
QComboBox QAbstractItemView {{ background: {panel}; color: {ink}; border: 1px solid {rule};
  selection-background-color: {accent}; selection-color: {on_accent}; }}
QPushButton, QToolButton {{
  background: {raised}; border: 1px solid {rule}; border-radius: 3px; padding: 4px 10px; min-height: 20px;
}}
QPushButton:hover, QToolButton:hover {{ border-color: {accent}; }}
QPushButton:focus, QToolButton:focus {{ border: 2px solid {accent}; padding: 3px 9px; }}
QPushButton:checked {{ background: {accent}; color: {on_accent}; border-color: {accent}; }}
QPushButton:disabled {{ color: {muted}; }}
QPushButton[role="remedy"] {{ text-align: left; background: {panel}; border: 1px solid {accent}; }}
QPushButton[role="remedy"]:hover {{ background: {chosen}; }}
QPushButton[role="link"] {{
  background: transparent; border: 1px solid transparent; color: {accent}; text-align: left; padding: 2px 4px;
}}
QPushButton[role="link"]:hover {{ border-color: {rule}; }}
QPushButton[role="link"]:focus {{ border: 1px solid {accent}; }}
QToolButton::menu-indicator {{ image: none; width: 0; }}
QComboBox::down-arrow {{ image: url({arrow}); width: 9px; height: 6px; }}
QMenu {{ background: {panel}; border: 1px solid {rule}; padding: 4px; }}
QMenu::item {{ padding: 4px 20px; }} QMenu::item:selected {{ background: {accent}; color: {on_accent}; }}
QMenu::item:disabled {{ color: {muted}; }}
QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: none; }}
QScrollBar:vertical {{ background: transparent; width: 9px; margin: 0; }}
QScrollBar::handle:vertical {{ background: {rule}; min-height: 24px; border-radius: 4px; }}
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{
  background: none; height: 0;
}}
QScrollBar:horizontal {{ background: transparent; height: 9px; }}
QScrollBar::handle:horizontal {{ background: {rule}; min-width: 24px; border-radius: 4px; }}
QTableWidget {{ background: {panel}; border: none; gridline-color: {rule}; alternate-background-color: {raised}; }}
QTableWidget::item:selected {{ background: {chosen}; color: {ink}; }}
QTableWidget:focus {{ border: 1px solid {accent}; }}
QHeaderView::section {{
  background: {panel}; color: {muted}; border: none; border-bottom: 1px solid {rule}; padding: 3px 4px; font-size: 12px;
}}
QToolTip {{ background: {raised}; color: {ink}; border: 1px solid {rule}; padding: 4px; }}
QDialog {{ background: {panel}; }}
QListWidget {{ background: {panel}; border: 1px solid {rule}; border-radius: 3px; }}
QListWidget::item {{ padding: 4px 6px; }}
QListWidget::item:selected {{ background: {chosen}; color: {ink}; }}
"""
