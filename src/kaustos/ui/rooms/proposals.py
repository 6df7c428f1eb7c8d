"""Setpoints to start from: shown with their windows, entered one by one or all at once, never silently."""

from collections.abc import Callable

from PySide6.QtWidgets import QHeaderView

from kaustos.app.recipes import proposals
from kaustos.core.planning import Proposal
from kaustos.ui.benches.figures import PlainTable
from kaustos.ui.desk import Desk
from kaustos.ui.rooms.room import Room


class ProposalsPage(Room):
    """The proposals beside what is set now."""

    def __init__(self, desk: Desk, back: Callable[[], object]) -> None:
        super().__init__(
            desk,
            "Setpoints to start from",
            "Where this shop starts in each window (Settings say where), as far as the machine reaches.",
            "",
        )
        self.empty.hide()
        self._back = back
        self.enter = self.button("Enter all", self.enter_all, "As one edit, undone as one")
        self.enter_chosen = self.button("Enter chosen", self.enter_selected)
        self.button("Back to the bench", back)
        self.table = PlainTable(("Setting", "Now", "Proposed", "Window", "Reach", "From"))
        self.table.setAccessibleName("Setpoints to start from")
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        self.table.horizontalHeader().setSectionResizeMode(5, QHeaderView.ResizeMode.Stretch)
        self.column.addWidget(self.table, 1)
        self._found: tuple[Proposal, ...] = ()

    def refresh(self) -> None:
        """Follow the desk."""
        if not self.desk.has_recipe:
            return
        self.desk.run(self._read)
        wording, draft = self.desk.wording, self.desk.workspace.draft
        rows = []
        for each in self._found:
            low, high = each.window
            short = f", {wording.value(each.short, 'temperature_difference')} below the window" if each.short else ""
            title = wording.field(each.field)
            rows.append(
                (
                    title[:1].upper() + title[1:],
                    wording.field_value(each.field, draft.value(each.field)),
                    wording.field_value(each.field, each.value) + short,
                    f"{wording.field_value(each.field, low)} to {wording.field_value(each.field, high)}",
                    wording.field_value(each.field, each.reach) if each.reach is not None else _no_reach(each),
                    each.source + (f"; {each.other}" if each.other else ""),
                )
            )
        self.table.show_rows(rows)

    def _read(self) -> None:
        self._found = ()
        self._found = proposals(self.desk.workspace)

    def enter_all(self) -> None:
        """Enter every proposal as one edit."""
        self._enter(self._found)

    def enter_selected(self) -> None:
        """Enter the chosen proposals as one edit."""
        rows = sorted({index.row() for index in self.table.selectedIndexes()})
        self._enter(tuple(self._found[row] for row in rows))

    def _enter(self, chosen: tuple[Proposal, ...]) -> None:
        if chosen:
            changes = {each.field: each.value for each in chosen}
            self.desk.tell(self.desk.set(changes, title="Setpoints to start from"))
            self._back()


def _no_reach(each: Proposal) -> str:
    """A heater whose reach nobody recorded; what is no heat has none."""
    return "not recorded" if each.field.endswith("_c") else "-"
