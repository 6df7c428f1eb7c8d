"""Renders the sheet's content through its template; the PDF is made of the same HTML."""

import functools
from pathlib import Path
from typing import Any

HERE = Path(__file__).parent
FONTS = HERE.parents[1] / "assets" / "fonts"
SHEET, CARD, EVIDENCE = "sheet.html.j2", "run_card.html.j2", "evidence.html.j2"
LABELS = "labels.html.j2"
CARD_TYPES = (9.0, 8.4, 7.8, 7.2, 6.6, 6.0)  # tried from the largest
FONT_FILES = (
    (400, (FONTS / "Inter-Regular.otf").as_uri()),
    (600, (FONTS / "Inter-SemiBold.otf").as_uri()),
    (700, (FONTS / "Inter-SemiBold.otf").as_uri()),
)


def sheet_html(content: dict[str, Any]) -> str:
    """The sheet as one self-contained HTML page; everything in ``content`` but its pictures is escaped."""
    return _rendered(SHEET, content, ())


def sheet_pdf(content: dict[str, Any]) -> bytes:
    """The sheet as PDF."""
    return _pdf(_rendered(SHEET, content, FONT_FILES)).write_pdf()  # type: ignore[no-any-return]


def card_pdf(content: dict[str, Any]) -> bytes:
    """The run card as PDF of one page: its type is as large as that lets it be."""
    for type_pt in CARD_TYPES:
        laid = _pdf(_rendered(CARD, content | {"type_pt": type_pt}, FONT_FILES))
        if len(laid.pages) == 1:
            break
    return laid.write_pdf()  # type: ignore[no-any-return]


def evidence_pdf(content: dict[str, Any]) -> bytes:
    """The report of a recipe's evidence as PDF."""
    return _pdf(_rendered(EVIDENCE, content, FONT_FILES)).write_pdf()  # type: ignore[no-any-return]


def labels_pdf(content: dict[str, Any]) -> bytes:
    """Labels of specimens as PDF."""
    return _pdf(_rendered(LABELS, content, FONT_FILES)).write_pdf()  # type: ignore[no-any-return]


def _pdf(html: str) -> Any:
    from weasyprint import HTML

    return HTML(string=html).render()


def _rendered(template: str, content: dict[str, Any], fonts: tuple[tuple[int, str], ...]) -> str:
    return str(_template(template).render(**content, fonts=fonts))


@functools.cache
def _template(name: str) -> Any:
    from jinja2 import Environment, FileSystemLoader, StrictUndefined

    loader = FileSystemLoader(HERE)
    environment = Environment(loader=loader, autoescape=True, undefined=StrictUndefined, trim_blocks=True)
    return environment.get_template(name)
