"""Renders the sheet's content through its template; the PDF is made of the same HTML."""

import functools
from pathlib import Path
from typing import Any

HERE = Path(__file__).parent


def sheet_html(content: dict[str, Any]) -> str:
    """The sheet as one self-contained HTML page; everything in ``content`` but ``ladder`` is escaped."""
    return str(_template().render(**content))


def sheet_pdf(content: dict[str, Any]) -> bytes:
    """The sheet as PDF."""
    from weasyprint import HTML

    return bytes(HTML(string=sheet_html(content), base_url=str(HERE)).write_pdf())


@functools.cache
def _template() -> Any:
    from jinja2 import Environment, FileSystemLoader, StrictUndefined

    loader = FileSystemLoader(HERE)
    environment = Environment(loader=loader, autoescape=True, undefined=StrictUndefined, trim_blocks=True)
    return environment.get_template("sheet.html.j2")
