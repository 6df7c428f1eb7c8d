"""The dryers of the shop: the list, and the chosen one whole."""

from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from kaustos.app.stock import new_dryer
from kaustos.core.records import AIRS, Place
from kaustos.ui.desk import Desk
from kaustos.ui.fields import ChoiceBox, FieldBox
from kaustos.ui.rooms.parts import entry, push, row_of
from kaustos.ui.tables import Listing, Row


class Dryers(QWidget):
    """The list of dryers, the chosen one, and the name of a new one."""

    FIELDS = (("name", "Name"), ("max_c", "Hottest"), ("air", "Air"), ("dew_point_c", "Dew point of its air"),
              ("pressure_mbar", "Pressure"))  # fmt: skip

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.boxes: dict[str, FieldBox | ChoiceBox] = {}
        self.list = Listing(desk, "dryers", ("Dryer", "Hottest", "Air", "Recipes"), 0)
        self.list.chosen.connect(self._on_chosen)
        self._form = QFrame()
        self._grid = QGridLayout()
        column = QVBoxLayout(self._form)
        column.addLayout(self._grid)
        column.addStretch()
        self._form.setFixedWidth(420)
        self.name = entry("Name of the new dryer", "Name of the new dryer", 240)
        self.name.returnPressed.connect(self._on_make)
        middle = QHBoxLayout()
        middle.addWidget(self.list, 1)
        middle.addWidget(self._form)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addLayout(middle, 1)
        outer.addLayout(row_of("New dryer", self.name, push("Make", self._on_make)))

    def refresh(self, *, retired: bool) -> None:
        """Follow the desk, retired ones shown or not."""
        records, wording = self._desk.workspace.draft.records, self._desk.wording
        dryers = {key: each for key, each in records.dryers.items() if retired or not each.retired}
        rows = []
        for key, each in dryers.items():
            hottest = wording.field_value("dryer.max_c", each.max_c)
            recipes = sum(card.dryer == key for card in records.cards.values())
            air = AIRS.get(each.air or "", "not recorded")
            rows.append(Row(key, (each.name, hottest, air, str(recipes)), (None, each.max_c, None, recipes)))
        self.list.show_rows(rows)
        if dryers and not self.list.chosen_keys():
            self.list.choose(next(iter(dryers)))
        self._on_chosen()

    def _on_chosen(self) -> None:
        key = next(iter(self.list.chosen_keys()), None)
        self._form.setVisible(key is not None)
        for row, (field, words) in enumerate(self.FIELDS if key else ()):
            path = Place("dryers", key or "", field)
            if field in self.boxes:
                self.boxes[field].follow(path)
                continue
            self.boxes[field] = ChoiceBox(self._desk, path) if field == "air" else FieldBox(self._desk, path, 130)
            self._grid.addWidget(QLabel(words), row, 0)
            self._grid.addWidget(self.boxes[field], row, 1)

    def _on_make(self) -> None:
        def make() -> None:
            self.list.choose(new_dryer(self._desk.workspace, self.name.text()))
            self.name.clear()

        self._desk.run(make)
