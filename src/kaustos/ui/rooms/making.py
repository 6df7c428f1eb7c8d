"""Makes each room on first use; what it needs is imported then."""

from collections.abc import Callable

from PySide6.QtWidgets import QStackedWidget

from kaustos.core.errors import KaustosError
from kaustos.ui.commands import Shell
from kaustos.ui.rooms.room import Room


class Rooms(dict[str, Room]):
    """Rooms by key, each made on first use."""

    def __init__(self, shell: Shell, stage: QStackedWidget) -> None:
        super().__init__()
        self._shell, self._stage = shell, stage

    def __missing__(self, key: str) -> Room:
        if key not in MAKERS:
            raise KaustosError(f"There is no room {key!r}; known: {', '.join(MAKERS)}")
        self[key] = MAKERS[key](self._shell)
        self._stage.addWidget(self[key])
        return self[key]


def _stock(shell: Shell) -> Room:
    from kaustos.ui.rooms.stock import StockRoom

    return StockRoom(shell.desk, shell.devices, lambda: shell.show_bench("stock"))


def _machines(shell: Shell) -> Room:
    from kaustos.ui.rooms.machines import MachinesRoom

    return MachinesRoom(shell.desk, shell.devices)


def _runs(shell: Shell) -> Room:
    from kaustos.ui.rooms.runs import RunsRoom

    return RunsRoom(shell.desk, lambda: shell.show_room("recipe"), shell.show_run_card)


def _atlas(shell: Shell) -> Room:
    from kaustos.ui.rooms.atlas import AtlasRoom

    return AtlasRoom(shell.desk)


def _begin(shell: Shell) -> Room:
    from kaustos.ui.rooms.begin import BeginRoom

    return BeginRoom(shell)


def _recipes(shell: Shell) -> Room:
    from kaustos.ui.rooms.begin import begin_recipe_and_land
    from kaustos.ui.rooms.recipes import RecipesRoom

    return RecipesRoom(shell.desk, lambda: shell.show_room("recipe"), lambda *made: begin_recipe_and_land(shell, *made))


def _settings(shell: Shell) -> Room:
    from kaustos.ui.rooms.settings import SettingsRoom

    return SettingsRoom(shell.desk, shell.change_setting)


def _workspaces(shell: Shell) -> Room:
    from kaustos.ui.rooms.workspaces import WorkspacesRoom

    return WorkspacesRoom(shell.desk, shell.files)


def _predictions(shell: Shell) -> Room:
    from kaustos.ui.rooms.predictions import PredictionsRoom

    return PredictionsRoom(shell.desk)


def _proposals(shell: Shell) -> Room:
    from kaustos.ui.rooms.proposals import ProposalsPage

    return ProposalsPage(shell.desk, lambda: shell.show_room("recipe"))


MAKERS: dict[str, Callable[[Shell], Room]] = {
    "stock": _stock, "machines": _machines, "runs": _runs, "atlas": _atlas, "begin": _begin, "recipes": _recipes,
    "settings": _settings, "workspaces": _workspaces, "proposals": _proposals, "predictions": _predictions,
}  # fmt: skip
