"""Makes each room on first use; what it needs is imported then."""

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QStackedWidget

from kaustos.core.errors import KaustosError
from kaustos.ui.rooms.names import ROOMS

if TYPE_CHECKING:
    from kaustos.ui.rooms.room import Room
    from kaustos.ui.shell import Window


class Rooms(dict[str, "Room"]):
    """Rooms by key, each made on first use."""

    def __init__(self, window: "Window", stage: QStackedWidget) -> None:
        super().__init__()
        self._window, self._stage = window, stage

    def __missing__(self, key: str) -> "Room":
        self[key] = _make(key, self._window)
        self._stage.addWidget(self[key])
        return self[key]


def _make(key: str, window: "Window") -> "Room":
    desk = window.desk
    if key == "stock":
        from kaustos.ui.rooms.stock import StockRoom

        return StockRoom(desk, window.devices, lambda: window.show_bench("stock"))
    if key == "machines":
        from kaustos.ui.rooms.machines import MachinesRoom

        return MachinesRoom(desk, window.devices)
    if key == "runs":
        from kaustos.ui.rooms.runs import RunsRoom

        return RunsRoom(desk)
    if key == "atlas":
        from kaustos.ui.rooms.atlas import AtlasRoom

        return AtlasRoom(desk)
    if key == "recipes":
        from kaustos.ui.rooms.recipes import RecipesRoom

        return RecipesRoom(desk, lambda: window.show_room("recipe"))
    if key == "settings":
        from kaustos.ui.rooms.settings import SettingsRoom

        return SettingsRoom(desk, window.change_setting)
    if key == "workspaces":
        from kaustos.ui.rooms.workspaces import WorkspacesRoom

        return WorkspacesRoom(desk, window.files)
    if key == "proposals":
        from kaustos.ui.rooms.proposals import ProposalsPage

        return ProposalsPage(desk, lambda: window.show_room("recipe"))
    raise KaustosError(f"There is no room {key!r}; known: {', '.join(each.key for each in ROOMS)}")
