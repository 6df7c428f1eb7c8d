"""What the pages of one machine share: which machine is shown, and reading what is typed."""

from datetime import datetime

from PySide6.QtWidgets import QLineEdit, QWidget

from kaustos.app.clock import read_past
from kaustos.core.records import Machine
from kaustos.ui.desk import Desk


class MachinePage(QWidget):
    """One page; it shows one machine after another."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk = desk
        self.key: str | None = None

    @property
    def machine(self) -> Machine:
        """The machine that is shown."""
        return self.desk.workspace.draft.records.machines[self.key or ""]

    def follow(self, key: str) -> None:
        """Show another machine."""
        self.key = key
        self.show_machine(self.machine)

    def show_machine(self, machine: Machine) -> None:
        """Show what this page shows of it."""

    def moment(self, line: QLineEdit) -> datetime | None:
        """The moment that is typed; None for now."""
        text = line.text().strip()
        return read_past(text, self.desk.workspace.clock()) if text else None

    def number(self, line: QLineEdit, quantity: str) -> float | None:
        """The number that is typed in the user's unit; None for nothing."""
        text = line.text().strip()
        return self.desk.wording.read(text, quantity) if text else None

    def tell(self, words: str) -> None:
        """Say something that the user need not answer."""
        if words:
            self.desk.messages.note(words)


def cleared(*lines: QLineEdit) -> None:
    """Empty what was typed, once it is logged."""
    for line in lines:
        line.clear()
