"""Renders the sheet's content through its template; the PDF is made of the same HTML."""

import functools
from pathlib import Path
from typing import Any

HERE = Path(__file__).parent
FONTS = HERE.parents[1] / "assets" / "fonts"
FONT_FILES = (
    (400, (FONTS / "Inter-Regular.otf").as_uri()),
    (600, (FONTS / "Inter-SemiBold.otf").as_uri()),
    (700, (FONTS / "Inter-SemiBold.otf").as_uri()),
)


def sheet_html(content: dict[str, Any]) -> str:
    """The sheet as one self-contained HTML page; everything in ``content`` but its pictures is escaped."""
    return _rendered(content, ())


def sheet_pdf(content: dict[str, Any]) -> bytes:
    """The sheet as PDF."""
    from weasyprint import HTML

    return bytes(HTML(string=_rendered(content, FONT_FILES)).write_pdf())


def _rendered(content: dict[str, Any], fonts: tuple[tuple[int, str], ...]) -> str:
    return str(_template().render(**content, fonts=fonts))


@functools.cache
def _template() -> Any:
    from jinja2 import Environment, FileSystemLoader, StrictUndefined

    loader = FileSystemLoader(HERE)
    environment = Environment(loader=loader, autoescape=True, undefined=StrictUndefined, trim_blocks=True)
    return environment.get_template("sheet.html.j2")
