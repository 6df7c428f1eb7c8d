"""Takes pictures of the demo: the same commit and the same time give the same picture."""

import shutil
import tempfile
import tomllib
from datetime import datetime
from pathlib import Path
from typing import Any

import attrs
from PySide6.QtCore import QCoreApplication, QEvent, QSize
from PySide6.QtWidgets import QApplication, QWidget

from kaustos.app.run_card import tick
from kaustos.app.runs import start_run
from kaustos.app.settings import Settings
from kaustos.core.errors import KaustosError
from kaustos.demo.scenario import RECORDS, build
from kaustos.ui.benches.anneal import AnnealBench
from kaustos.ui.benches.brief import BriefBench
from kaustos.ui.benches.first_layer import FirstLayerBench
from kaustos.ui.benches.heat import HeatBench
from kaustos.ui.benches.machine import MachineBench
from kaustos.ui.benches.melt import MeltBench
from kaustos.ui.benches.plate import PlateBench
from kaustos.ui.benches.proof import ProofBench
from kaustos.ui.benches.release import ReleaseBench
from kaustos.ui.benches.run import RunBench
from kaustos.ui.benches.stock import StockBench
from kaustos.ui.benches.supports import SupportsBench
from kaustos.ui.jobs import AT_ONCE
from kaustos.ui.main import fixed_clock, make_application, open_window
from kaustos.ui.rooms.lot.form import LotForm
from kaustos.ui.rooms.machines import MachineForm, MachinesRoom
from kaustos.ui.rooms.making import MAKERS
from kaustos.ui.rooms.stock import StockRoom
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
    view: int = 0  # which of its views a room shows
    page: int = 0  # what a bench shows below its picture, or a room beside its list
    empty: bool = False  # a new workspace instead of the firm's
    choose: tuple[str, ...] = ()  # rows of the room's list
    done: int = 0  # steps of a run that is begun, whose card is then shown by itself


def take_listed(folder: Path, now: datetime) -> None:
    """Take every picture of the list into a folder."""
    listed = tomllib.loads(LIST.read_text(encoding="utf-8"))
    take({folder / f"{name}.png": _shot(table) for name, table in listed.items()}, now)


def _shot(table: dict[str, Any]) -> Shot:
    values: dict[str, Any] = {key: tuple(each) if isinstance(each, list) else each for key, each in table.items()}
    return Shot(**values)


def take(shots: dict[Path, Shot], now: datetime) -> None:
    """Take pictures, each of a fresh copy of one demo."""
    for shot in shots.values():
        _check(shot)
    app = make_application()
    with tempfile.TemporaryDirectory() as scratch:
        demo = Path(scratch) / "demo.kaustos"
        if not all(shot.empty for shot in shots.values()):
            build(demo, now)
        for number, (file, shot) in enumerate(shots.items()):
            workspace = Path(scratch) / f"shot{number}.kaustos"
            if not shot.empty:
                shutil.copyfile(demo, workspace)
            _take(app, file, shot, now, workspace)


def _check(shot: Shot) -> None:
    """What cannot be shown is told before anything is built."""
    _size(shot.size)
    if shot.recipe not in RECORDS.cards:
        raise KaustosError(f"There is no recipe {shot.recipe!r}; known: {', '.join(RECORDS.cards)}")
    known = ("recipe", "revisions", *MAKERS)
    if shot.room not in known:
        raise KaustosError(f"There is no room {shot.room!r}; known: {', '.join(known)}")


def _take(app: QApplication, file: Path, shot: Shot, now: datetime, workspace: Path) -> None:
    settings = Settings(who="R. Askew", theme=shot.theme)
    window = open_window(workspace, settings, None, fixed_clock(now), AT_ONCE)
    window.desk.begin()
    try:
        window.resize(_size(shot.size))
        if not shot.empty:
            window.desk.workspace.draft.open_card(shot.recipe)
            window.desk.save_draft()
        window.show()
        window.desk.look_round()
        _go_to(window, shot)
        shown = _card(window, shot) if shot.done else window
        for _ in range(3):
            app.processEvents()
        picture = shown.grab()
        if not picture.save(str(file)):
            raise KaustosError(f"{file}: the picture could not be written")
    finally:
        window.close()
        window.deleteLater()
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


def _go_to(window: Window, shot: Shot) -> None:
    if shot.room == "recipe":
        window.show_operation(shot.operation)
    elif shot.room == "revisions":
        window.show_revisions()
    else:
        window.show_room(shot.room)
    room = window.rooms.get(shot.room)
    if shot.view:
        turned: object = window.pages.currentWidget() if shot.room == "recipe" else room
        assert isinstance(turned, (StockRoom, PlateBench, HeatBench, SupportsBench, RunBench, ProofBench))
        (turned.switches if isinstance(turned, StockRoom) else turned.views)[shot.view].click()
    if shot.page:
        QCoreApplication.processEvents()
        paged: object = window.pages.currentWidget()
        if isinstance(room, StockRoom):
            paged = room.lots.form
        elif isinstance(room, MachinesRoom):
            paged = room.form
        assert isinstance(
            paged,
            (
                BriefBench,
                StockBench,
                LotForm,
                MachineBench,
                PlateBench,
                FirstLayerBench,
                MeltBench,
                HeatBench,
                SupportsBench,
                RunBench,
                ReleaseBench,
                AnnealBench,
                ProofBench,
                MachineForm,
            ),
        )
        paged.switches[shot.page].click()
    if shot.choose:
        window.rooms[shot.room].list.choose(*shot.choose)  # type: ignore[attr-defined]


def _card(window: Window, shot: Shot) -> QWidget:
    """The card of a run of the shot's recipe, some steps done."""
    workspace = window.desk.workspace
    run = start_run(workspace, who=workspace.settings.who, why="a trial").id
    for step in workspace.draft.records.runs[run].steps[: shot.done]:
        tick(workspace, run, step.key)
    window.show_thing("runs", run)
    window.show_run_card()
    card = window.cards[run]
    card.resize(_size(shot.size))
    return card


def _size(words: str) -> QSize:
    try:
        width, height = (int(each) for each in words.split("x"))
    except ValueError as error:
        raise KaustosError(f"--size {words}: must be width x height, such as 1280x800") from error
    return QSize(width, height)
