"""The printed sheet: HTML and PDF from one template, with the heat ladder as inline SVG."""

from kaustos.formats.sheet.ladder_svg import ladder_svg
from kaustos.formats.sheet.render import sheet_html, sheet_pdf

__all__ = ["ladder_svg", "sheet_html", "sheet_pdf"]
