"""Takes pictures of the demo: the same commit and the same time give the same picture."""

import tempfile
import tomllib
from datetime import datetime
from pathlib import Path

import attrs
from PySide6.QtCore import QCoreApplication, QEvent, QSize
from PySide6.QtWidgets import QApplication

from kaustos.app.settings import Settings
from kaustos.core.errors import KaustosError
from kaustos.demo.scenario import build
from kaustos.ui.jobs import run_now
from kaustos.ui.main import fixed_clock, make_application, open_window
from kaustos.ui.shell import Window

LIST = Path("docs/screenshots/shots.toml")


@attrs.frozen(kw_only=True)
class Shot:
    """What one picture shows."""

    room: str = "recipe"
    operation: int = 30
    recipe: str = "probe_head_shell"
    theme: str = "light"
    size: str = "1280x800"
    values: bool = False  # the polymer's values instead of the figures


def take_listed(folder: Path, now: datetime) -> None:
    """Take every picture of the list into a folder."""
    listed = tomllib.loads(LIST.read_text(encoding="utf-8"))
    take({folder / f"{name}.png": Shot(**table) for name, table in listed.items()}, now)


def take(shots: dict[Path, Shot], now: datetime) -> None:
    """Take pictures, each of a fresh demo."""
    app = make_application()
    for file, shot in shots.items():
        with tempfile.TemporaryDirectory() as scratch:
            _take(app, file, shot, now, Path(scratch) / "demo.kaustos")


def _take(app: QApplication, file: Path, shot: Shot, now: datetime, workspace: Path) -> None:
    build(workspace, now)
    settings = Settings(who="R. Askew", theme=shot.theme)
    window = open_window(workspace, settings, None, fixed_clock(now), run_now)
    try:
        window.resize(_size(shot.size))
        window.desk.workspace.draft.open_card(shot.recipe)
        window.desk.save_draft()
        window.show()
        _go_to(window, shot)
        for _ in range(3):
            app.processEvents()
        picture = window.grab()
        if not picture.save(str(file)):
            raise KaustosError(f"{file}: the picture could not be written")
    finally:
        window.close()
        window.deleteLater()
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


def _go_to(window: Window, shot: Shot) -> None:
    rooms = {"revisions": window.show_revisions, "settings": window.edit_settings, "rules": window.edit_rules}
    if shot.room == "recipe":
        window.show_operation(shot.operation)
    elif shot.room in rooms:
        rooms[shot.room]()
    else:
        raise KaustosError(f"There is no room {shot.room!r}; known: recipe, {', '.join(rooms)}")
    if shot.values:
        window.benches["brief"].show_field("polymer.glass_transition_c")


def _size(words: str) -> QSize:
    try:
        width, height = (int(each) for each in words.split("x"))
    except ValueError as error:
        raise KaustosError(f"--size {words}: must be width x height, such as 1280x800") from error
    return QSize(width, height)
