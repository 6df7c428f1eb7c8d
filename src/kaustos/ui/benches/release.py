"""Bench 100: how the plate cools, when the part comes off, and the card for taking it off."""

from PySide6.QtWidgets import QHeaderView

from kaustos.app.releasing import CARD_HEADINGS, card_rows
from kaustos.ui.benches.bench import Bench
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.benches.picture import Picture
from kaustos.ui.desk import Desk
from kaustos.ui.following import Following
from kaustos.ui.forms import Form

FIELDS = ("plate.release", "plate.bed_c", "context.plate", "heat.chamber_c")


class ReleaseBench(Bench):
    """Way, plate and chamber; the course of cooling; the removal card, figures."""

    def __init__(self, desk: Desk) -> None:
        self.form = Form(desk, FIELDS)
        super().__init__(desk, "release", self.form, Picture(desk, "release"))
        self.card = CardTable(desk)
        self.switches = self.turn_pages({"Removal card": self.card, "Figures": self.figures})

    def show_field(self, path: str) -> bool:
        """Lead to an input."""
        return self.form.show_field(path)


class CardTable(Following, PlainTable):
    """What whoever takes the part off has to know, line by line."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(CARD_HEADINGS)
        self._desk = desk
        self.setAccessibleName("Removal card")
        header = self.horizontalHeader()
        header.resizeSection(0, 120)
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        self.follow_desk(desk)

    def refresh(self) -> None:
        """Follow recipe and plate."""
        if self._desk.has_recipe:
            self.show_rows(card_rows(self._desk.context, self._desk.workspace))
