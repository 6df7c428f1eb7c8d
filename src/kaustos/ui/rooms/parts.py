"""Small parts that forms of rooms are laid out with."""

from collections.abc import Callable, Mapping
from typing import Any

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QHeaderView, QLineEdit, QPushButton, QWidget

from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.look.text import Label, Line


def small_table(headings: tuple[str, ...], name: str) -> PlainTable:
    """A table of two lines that scrolls."""
    table = PlainTable(headings)
    table.setAccessibleName(name)
    table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
    table.setFixedHeight(28 + 2 * 23 + 4)
    return table


def entry(words: str, name: str, width: int) -> QLineEdit:
    """A line to type into, with what it wants shown while it is empty."""
    line = Line()
    line.setPlaceholderText(words)
    line.setAccessibleName(name)
    line.setFixedWidth(width)
    line.setMaxLength(200)
    return line


def push(words: str, act: Callable[[], object]) -> QPushButton:
    """A button."""
    button = QPushButton(words)
    button.clicked.connect(lambda: act())
    return button


def heading(words: str) -> Label:
    """A heading within a form."""
    label = Label(words)
    label.setProperty("role", "heading")
    return label


def row_of(words: str | QWidget, *widgets: QWidget) -> QHBoxLayout:
    """Widgets in a row behind their name."""
    row = QHBoxLayout()
    row.addWidget(Label(words) if isinstance(words, str) else words)
    for widget in widgets:
        row.addWidget(widget)
    row.addStretch()
    return row


def choice_of(words: Mapping[str, str], nothing: str, name: str) -> QComboBox:
    """A box of words of which none need be chosen."""
    box = QComboBox()
    box.setAccessibleName(name)
    box.addItem(nothing, "")
    for key, each in words.items():
        box.addItem(each, key)
    return box


def show_records(box: QComboBox, nothing: str, records: Mapping[str, Any], chosen: str | None) -> None:
    """Let a box know the records of now by their names, and show the one that is chosen."""
    box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)  # records come and go
    items = [(nothing, ""), *[(each.name, key) for key, each in records.items()]]
    if [(box.itemText(at), box.itemData(at)) for at in range(box.count())] != items:
        box.clear()
        for words, key in items:
            box.addItem(words, key)
    box.setCurrentIndex(max(box.findData(chosen or ""), 0))
