"""The dryers of the shop: the list, and the chosen one whole."""

from PySide6.QtWidgets import QFrame, QHBoxLayout, QVBoxLayout, QWidget

from kaustos.app.stock import new_dryer
from kaustos.core.records import AIRS
from kaustos.ui.desk import Desk
from kaustos.ui.forms import Form
from kaustos.ui.rooms.parts import entry, push, row_of
from kaustos.ui.tables import Listing, Row


class Dryers(QWidget):
    """The list of dryers, the chosen one, and the name of a new one."""

    FIELDS = ("name", "max_c", "air", "dew_point_c", "pressure_mbar", "places")

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.list = Listing(desk, "dryers", ("Dryer", "Hottest", "Air", "Recipes"), 0)
        self.list.chosen.connect(self._on_chosen)
        self._form = QFrame()
        self.form = Form(desk, self.FIELDS, "dryers", columns=1)
        column = QVBoxLayout(self._form)
        column.addWidget(self.form)
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
        if dryers:
            self.list.choose_first(next(iter(dryers)))
        self._on_chosen()

    def _on_chosen(self) -> None:
        key = next(iter(self.list.chosen_keys()), None)
        self._form.setVisible(key is not None)
        if key is not None:
            self.form.follow(key)

    def _on_make(self) -> None:
        def make() -> None:
            self.list.choose(new_dryer(self._desk.workspace, self.name.text()))
            self.name.clear()

        self._desk.run(make)
