"""The printed sheet: HTML and PDF from one template, with pictures as inline SVG."""

from kaustos.formats.sheet.render import card_pdf, evidence_pdf, labels_pdf, sheet_html, sheet_pdf
from kaustos.formats.sheet.svg_pen import SvgPen

__all__ = ["SvgPen", "card_pdf", "evidence_pdf", "labels_pdf", "sheet_html", "sheet_pdf"]
