"""A polymer of the shop's own: derived or made from nothing, its values typed with how they are known."""

from collections.abc import Callable

from PySide6.QtWidgets import QComboBox, QVBoxLayout, QWidget

from kaustos.app.own_polymers import new_polymer, set_value, swap_opinion
from kaustos.core.errors import KaustosError
from kaustos.core.records import STRUCTURES
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form
from kaustos.ui.rooms.parts import entry, push, row_of

FIELDS = (
    "based_on",
    "structure",
    "weld_class",
    "character",
    "filler",
    "absorbs",
    "hydrolyses",
    "wet_signs",
    "emissions",
)


class MakePolymer(QWidget):
    """Makes a polymer of ours from a name: derived from the chosen one, or from nothing with its structure."""

    def __init__(self, desk: Desk, chosen: Callable[[], str | None], made: Callable[[str], None]) -> None:
        super().__init__()
        self._desk, self._chosen, self._made = desk, chosen, made
        self.name = entry("Name of the polymer or grade", "Name of the new polymer", 240)
        self.name.returnPressed.connect(self._on_derive)
        self.structure = QComboBox()
        self.structure.setAccessibleName("Structure of a polymer from nothing")
        for key, words in STRUCTURES.items():
            self.structure.addItem(words, key)
        self.derive = push("Derive from the chosen one", self._on_derive)
        self.begin = push("Begin from nothing", self._on_begin)
        row = row_of("Polymer of ours", self.name, self.derive, self.begin, self.structure)
        row.setContentsMargins(0, 0, 0, 0)
        self.setLayout(row)

    def _on_derive(self) -> None:
        self._make(self._chosen(), None)

    def _on_begin(self) -> None:
        self._make(None, self.structure.currentData())

    def _make(self, based_on: str | None, structure: str | None) -> None:
        def make() -> None:
            key = new_polymer(self._desk.workspace, self.name.text(), based_on, structure)
            self.name.clear()
            self._made(key)

        self._desk.run(make)


class OwnPolymerForm(QWidget):
    """What the shop says of a polymer of its own, and entries for the value that is chosen in the table."""

    def __init__(self, desk: Desk, chosen_value: Callable[[], str | None]) -> None:
        super().__init__()
        self._desk, self._chosen_value = desk, chosen_value
        self.key: str | None = None
        self.form = Form(desk, FIELDS, "own_polymers", columns=4)
        self.value = entry("such as 141 ± 2", "Own value", 130)
        self.how = entry("how it is known: DSC 10 K/min, dry", "How the value is known", 300)
        for line in (self.value, self.how):
            line.returnPressed.connect(self._on_keep)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(4)
        column.addWidget(self.form)
        keep, other = push("Keep", self._on_keep), push("Take the other value", self._on_swap)
        column.addLayout(row_of("Chosen value", self.value, self.how, keep, other))

    def follow(self, key: str) -> None:
        """Show another polymer of ours."""
        self.key = key
        self.form.follow(key)

    def _on_keep(self) -> None:
        def keep() -> None:
            set_value(self._desk.workspace, self.key or "", self._value(), self.value.text(), self.how.text())
            self.value.clear()

        self._desk.run(keep)

    def _on_swap(self) -> None:
        self._desk.run(lambda: swap_opinion(self._desk.workspace, self.key or "", self._value()))

    def _value(self) -> str:
        found = self._chosen_value()
        if found is None:
            raise KaustosError("Choose the value in the table first.")
        return found
