"""Leads to the widget that takes the answer of a question, wherever in the window it stands."""

from collections.abc import Iterator, Sequence

import attrs
from PySide6.QtWidgets import QPushButton, QWidget

from kaustos.app.records import Records
from kaustos.core.errors import KaustosError
from kaustos.core.records import Place
from kaustos.ui.fields import ChoiceBox, FieldBox

ANSWERS = "answers"  # property of a widget: the fields whose answers it takes
OF_KIND = ("polymer.modulus",)  # what no value of a lot tells, but the polymer that ours is based on
ROOM_OF = {"machines": "machines", **dict.fromkeys(
    ("lots", "dryers", "nozzles", "plates", "agents", "baths", "ovens"), "stock"), "own_polymers": "atlas"}  # fmt: skip


def asked_place(path: str, records: Records) -> Place:
    """The place of a field that is asked for; an error where no record of its kind is chosen."""
    if path.startswith("calibration."):  # of the machine that is chosen
        return attrs.evolve(records.place("machine.name"), field=path)
    if path == "polymer.modulus" and records.card.recipe.polymer in records.own_polymers:
        return Place("own_polymers", records.card.recipe.polymer or "", "based_on")  # a curve comes with its like
    return records.place(path)


def answering(widget: QWidget, *fields: str) -> None:
    """Say which fields of the record that is shown a widget takes the answer of, where it is no box of one field."""
    widget.setProperty(ANSWERS, list(fields))


def lead(page: QWidget, turns: Sequence[QPushButton], place: Place, records: Records) -> bool:
    """Set the focus into what takes a value at a place, on the page that is shown or on one that it turns to."""
    for turn in (None, *turns):
        if turn is not None:
            turn.click()
        widget = next(_taking(page, place, records), None)
        if widget is not None:
            widget.setFocus()
            return True
    return False


def taken_by(widget: QWidget | None, records: Records) -> tuple[Place | None, tuple[str, ...]]:
    """The place whose value a widget takes, and the fields that it says it answers."""
    while widget is not None:
        if isinstance(widget, (FieldBox, ChoiceBox)):
            try:
                return records.place(widget.path), ()
            except KaustosError:  # of a record that is not chosen
                return None, ()
        if widget.property(ANSWERS):
            return None, tuple(widget.property(ANSWERS))
        widget = widget.parentWidget()
    return None, ()


def _taking(page: QWidget, place: Place, records: Records) -> Iterator[QWidget]:
    field = place.field.partition("[")[0]  # one of several is answered where the list is
    for widget in page.findChildren(QWidget):
        if not widget.isVisibleTo(page):
            continue
        if isinstance(widget, (FieldBox, ChoiceBox)):
            if taken_by(widget, records)[0] == place:
                yield widget.edit if isinstance(widget, FieldBox) else widget
        elif field in (widget.property(ANSWERS) or ()):
            yield widget
