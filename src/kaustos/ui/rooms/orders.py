"""What is to be ordered: each grade and colour against the runs still to come, and what is on its way."""

from PySide6.QtWidgets import QVBoxLayout, QWidget

from kaustos.app.orders import HEADINGS, OrderLine, mark_ordered, not_ordered, order_cells, order_list, order_total
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label
from kaustos.ui.rooms.parts import push, row_of
from kaustos.ui.tables import Listing, Row


class Orders(QWidget):
    """The list, its sum, and the note that something is ordered."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self._lines: dict[str, OrderLine] = {}
        self.list = Listing(desk, "orders", HEADINGS, 8)
        self.list.chosen.connect(self._on_chosen)
        self.total = Label(wordWrap=True)
        self.total.setProperty("role", "heading")
        self.mark = push("Mark as ordered", self._on_mark)
        self.undone = push("Not ordered after all", self._on_not_ordered)
        self.mark.setToolTip("Note that what this line says is ordered; it counts as on its way until a lot arrives")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.total)
        column.addWidget(self.list, 1)
        column.addLayout(row_of("Chosen line", self.mark, self.undone))

    def refresh(self) -> None:
        """Follow the desk."""
        lines, wording = order_list(self._desk.workspace), self._desk.wording
        self._lines = {line.lot or line.grade: line for line in lines}
        self.total.setText(order_total(lines, wording))
        rows = [Row(key, order_cells(line, wording), _sorted_by(line)) for key, line in self._lines.items()]
        self.list.show_rows(rows)
        if self._lines:
            self.list.choose_first(next(iter(self._lines)))
        self._on_chosen()

    def _chosen(self) -> OrderLine | None:
        return self._lines.get(next(iter(self.list.chosen_keys()), ""))

    def _on_chosen(self) -> None:
        line = self._chosen()
        self.mark.setEnabled(bool(line and line.lot and line.order_g))
        self.undone.setEnabled(bool(line and line.coming_g))

    def _on_mark(self) -> None:
        line = self._chosen()
        if line is not None and line.lot is not None:
            lot, grams = line.lot, line.order_g
            self._desk.run(lambda: mark_ordered(self._desk.workspace, lot, grams))

    def _on_not_ordered(self) -> None:
        line = self._chosen()
        if line is not None and line.lot is not None:
            lot = line.lot
            self._desk.run(lambda: not_ordered(self._desk.workspace, lot))


def _sorted_by(line: OrderLine) -> tuple[float | str | None, ...]:
    return (None, None, line.free_g, line.wanted_g, line.coming_g, line.order_g, line.cost, line.lead_h, None, None)
