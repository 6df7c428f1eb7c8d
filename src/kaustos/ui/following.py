"""Mixed into every widget that follows the desk: once a turn while it is shown, and when it is shown again."""

from typing import TYPE_CHECKING

from PySide6.QtGui import QShowEvent

from kaustos.ui.faults import guarded

if TYPE_CHECKING:
    from kaustos.ui.desk import Desk


class Following:
    """A widget with a ``refresh`` that shows the state of now."""

    _followed: "Desk | None" = None

    def follow_desk(self, desk: "Desk", *, at_once: bool = False) -> None:
        """Begin to follow; the first refresh comes when it is shown, or at once."""
        self._followed = desk
        desk.follow(self)  # type: ignore[arg-type]  # what this is mixed into is a widget with a refresh
        if at_once:
            desk.bring_up(self)  # type: ignore[arg-type]

    @guarded()
    def showEvent(self, event: QShowEvent) -> None:
        """Catch up with what was missed while it was hidden."""
        super().showEvent(event)  # type: ignore[misc]
        if self._followed is not None:
            self._followed.bring_up(self)  # type: ignore[arg-type]
