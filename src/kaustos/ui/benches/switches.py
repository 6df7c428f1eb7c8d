"""Buttons of which one is pressed: they choose what stands below them."""

from collections.abc import Callable

from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton


def switches(names: tuple[str, ...], choose: Callable[[int], None]) -> tuple[list[QPushButton], QHBoxLayout]:
    """The buttons, and the row they stand in."""
    row, group = QHBoxLayout(), []
    row.setSpacing(0)
    together = QButtonGroup(row)
    for place, name in enumerate(names):
        button = QPushButton(name)
        button.setCheckable(True)
        button.setChecked(place == 0)
        button.clicked.connect(lambda _=False, place=place: choose(place))
        together.addButton(button)
        group.append(button)
        row.addWidget(button)
    row.addStretch()
    return group, row
