"""The window: head, route strip, ladder, bench, findings and foot round one desk."""

import functools
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject, QSize, Qt
from PySide6.QtGui import QAction, QCloseEvent, QCursor, QDragEnterEvent, QDropEvent, QKeyEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QLineEdit,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWhatsThis,
    QWidget,
)

from kaustos import __version__
from kaustos.app.settings import save_settings
from kaustos.core.errors import KaustosError
from kaustos.core.review import BY_NUMBER
from kaustos.ui.bars import ClosingBar, MessageBar, SaveBar, StopBar
from kaustos.ui.benches import BENCHES, Bench
from kaustos.ui.commands import COMMANDS, Command
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.faults import guarded
from kaustos.ui.files import Example, Files, Opener
from kaustos.ui.findings import FindingsPanel
from kaustos.ui.foot import Foot
from kaustos.ui.head import Head
from kaustos.ui.ladder import LadderPanel
from kaustos.ui.leading import OF_KIND, ROOM_OF, asked_place
from kaustos.ui.look import apply_theme
from kaustos.ui.look.text import as_text
from kaustos.ui.rooms.making import Rooms
from kaustos.ui.route import RouteStrip

if TYPE_CHECKING:
    from kaustos.ui.rooms.revisions import RevisionsPage
    from kaustos.ui.run_card import RunCard


FIRST_BENCH = "machine"


class Benches(dict[str, Bench]):
    """Benches by their operation's key, each made on first use."""

    def __init__(self, desk: Desk, pages: QStackedWidget) -> None:
        super().__init__()
        self._desk, self._pages = desk, pages

    def __missing__(self, key: str) -> Bench:
        self[key] = BENCHES[key](self._desk)
        self._pages.addWidget(self[key])
        return self[key]


class Window(QMainWindow):
    """The one window."""

    def __init__(
        self, desk: Desk, settings_file: Path | None, opener: Opener | None = None,
        last_use_file: Path | None = None, example: Example | None = None,
    ) -> None:  # fmt: skip
        super().__init__()
        self.desk, self._settings_file = desk, settings_file
        self.files = Files(self, opener, last_use_file, example)
        self.room = "recipe"
        self._is_closed = False
        self.cards: dict[str, RunCard] = {}  # windows of runs at their machines
        self.setWindowTitle(f"{desk.workspace.file.stem}: Kaustos")
        self.resize(QSize(1280, 800))
        self.setMinimumSize(QSize(1180, 700))
        self.setAcceptDrops(True)
        self._make_actions()
        QApplication.instance().focusChanged.connect(self._on_focus)  # type: ignore[union-attr]
        self.head = Head(desk, self)
        self.route = RouteStrip(desk)
        self.route.chosen.connect(self.show_bench)
        self.message = MessageBar(desk)
        self.saving = SaveBar(self._keep_revision)
        self.stopping = StopBar(lambda who, why: self.desk.run(lambda: self._start_run(who, why)))
        self.closing = ClosingBar(
            self.close, self._anew_and_close, self._copy_and_close, lambda: self.let_go(discard=True)
        )
        self.ladder = LadderPanel(desk)
        self.pages = QStackedWidget()
        self.benches = Benches(desk, self.pages)
        self.findings = FindingsPanel(desk)
        self.findings.jump.connect(self.show_field)
        desk.asked.connect(self.go_to)
        self.foot = Foot(desk)
        self.stage = QStackedWidget()
        self.devices = LiveDevices(desk.pace)
        self.devices.failed.connect(desk.messages.error)
        self.rooms = Rooms(self, self.stage)
        self._lay_out()
        desk.messages.listen(self.message.show_message)
        if desk.workspace.notice:
            desk.messages.note(desk.workspace.notice)
        desk.shown_first = ()
        self.show_bench(FIRST_BENCH)
        if not desk.has_recipe:
            self.show_room("begin")
            self.rooms["begin"].begin()  # type: ignore[attr-defined]

    @property
    def frame(self) -> QWidget:
        """The window itself, over which dialogs stand."""
        return self

    def _lay_out(self) -> None:
        body = QWidget()
        body.setObjectName("body")
        recipe = QWidget()
        inside = QVBoxLayout(recipe)
        inside.setContentsMargins(0, 0, 0, 0)
        inside.setSpacing(0)
        middle = QHBoxLayout()
        middle.setContentsMargins(8, 6, 8, 6)
        middle.setSpacing(6)
        middle.addWidget(self.ladder)
        middle.addWidget(self.pages, 1)
        middle.addWidget(self.findings)
        bars = QVBoxLayout()
        bars.setContentsMargins(8, 4, 8, 0)
        bars.addWidget(self.message)
        bars.addWidget(self.saving)
        bars.addWidget(self.stopping)
        bars.addWidget(self.closing)
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        inside.addWidget(self.route)
        inside.addLayout(middle, 1)
        self.stage.addWidget(recipe)
        stage = QVBoxLayout()
        stage.setContentsMargins(0, 0, 0, 0)
        stage.addWidget(self.stage)
        column.addWidget(self.head)
        column.addLayout(bars)
        column.addLayout(stage, 1)
        column.addWidget(self.foot)
        self.setCentralWidget(body)

    # ---- commands

    def _make_actions(self) -> None:
        self.actions_by_id: dict[str, QAction] = {}
        for command in COMMANDS:
            action = QAction(command.title, self)
            action.setToolTip(command.help)
            if command.keys:
                action.setShortcut(QKeySequence(command.keys))
            action.triggered.connect(lambda _=False, command=command: self.perform(command))
            self.addAction(action)
            self.actions_by_id[command.id] = action

    def actions_in_order(self) -> list[QAction | None]:
        """All actions, None between groups."""
        found: list[QAction | None] = []
        group = ""
        for command in COMMANDS:
            if group and command.group != group:
                found.append(None)
            group = command.group
            found.append(self.actions_by_id[command.id])
        return found

    def _on_focus(self, before: QWidget | None, now: QWidget | None) -> None:
        """Keys that are meant for the line with the focus come by here first."""
        if before is not None:
            before.removeEventFilter(self)
        if isinstance(now, QLineEdit) and now.window() is self:
            now.installEventFilter(self)

    @guarded(False)
    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Undo and redo belong to the workspace wherever the hand is, but for a line in which typing is not done."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(watched, QLineEdit):
            key = event
            assert isinstance(key, QKeyEvent)
            undoes = key.matches(QKeySequence.StandardKey.Undo) or key.matches(QKeySequence.StandardKey.Redo)
            if undoes and watched.window() is self and not (watched.isModified() and watched.text()):
                event.ignore()
                return True
        return super().eventFilter(watched, event)

    def perform(self, command: Command) -> None:
        """Run a command; what the user can act on becomes a message."""
        self.desk.run(lambda: command.run(self))

    def undo(self) -> None:
        """Take the last edit back."""
        if not self.desk.workspace.draft.undo_title:
            self.desk.messages.note("There is nothing to undo.")
        self.desk.workspace.draft.undo()

    def redo(self) -> None:
        """Do again what was taken back."""
        self.desk.workspace.draft.redo()

    def next_finding(self) -> None:
        """Choose the next finding."""
        self.findings.step(1)

    def previous_finding(self) -> None:
        """Choose the finding before."""
        self.findings.step(-1)

    def apply_remedy(self, number: int) -> None:
        """Carry out a remedy of the chosen finding."""
        self.finish_typing()
        self.findings.apply(number)

    def finish_typing(self) -> None:
        """A field that is being typed in hands its text over before a command acts."""
        focused = QApplication.focusWidget()
        if focused is not None and hasattr(focused, "editingFinished"):
            focused.editingFinished.emit()

    # ---- places

    def show_room(self, key: str) -> None:
        """Show a room by its key."""
        self.room = key
        if key == "recipe":
            if not self.desk.has_recipe:
                self.show_room("begin")
                return
            self.stage.setCurrentIndex(0)
            self.route.choose(self._last_bench)
            self.pages.setCurrentWidget(self.benches[self._last_bench])
        else:
            self.stage.setCurrentWidget(self.rooms[key])
        self.head.refresh()

    def start_run(self) -> None:
        """Begin a run of the open recipe."""
        self.finish_typing()
        if not self.desk.has_recipe:
            self.desk.messages.note("There is no recipe to run yet.")
            return
        self._start_run(self.desk.settings.who, "")

    def _start_run(self, who: str, why: str) -> None:
        """Start a run; a stop asks who answers for it, one of safety refuses."""
        from kaustos.app.stops import StopStands

        self.stopping.hide()
        try:
            self.rooms["runs"].start(who, why)  # type: ignore[attr-defined]
        except StopStands as stop:
            if stop.is_safety:
                raise
            self.stopping.ask(str(stop), who)
            return
        self.show_room("runs")
        self.rooms["runs"].form.begin()  # type: ignore[attr-defined]

    def show_run_card(self) -> None:
        """Show the card of a run in a window of its own: the chosen one, else the newest that has steps to do."""
        from kaustos.app.run_card import run_at_hand
        from kaustos.ui.run_card import RunCard

        chosen = self.rooms["runs"].form.run if self.room == "runs" else None  # type: ignore[attr-defined]
        run = run_at_hand(self.desk.workspace, chosen)
        card = self.cards.get(run)
        if card is None:
            card = self.cards[run] = RunCard(self.desk, run)
        card.show()
        card.raise_()
        card.activateWindow()
        card.setFocus()

    def log_run(self) -> None:
        """Log what is entered in the form of the chosen run."""
        if self.room == "runs":
            self.rooms["runs"].form.log_run()  # type: ignore[attr-defined]
        else:
            self.desk.messages.note("Runs are logged in their room (Ctrl+4); Ctrl+G starts one.")

    def begin(self, kind: str) -> None:
        """Go to the place where a new recipe or machine is named."""
        self.show_room(kind)
        self.rooms[kind].begin()  # type: ignore[attr-defined]

    def copy_recipe(self) -> None:
        """A second recipe that starts from the open one."""
        from kaustos.app.recipes import copy_recipe

        copy_recipe(self.desk.workspace, self.desk.workspace.draft.records.current or "")

    def show_thing(self, kind: str, key: str) -> None:
        """Show a recipe, machine, polymer or run that was found."""
        if kind == "recipe":
            self.desk.run(lambda: self.desk.workspace.draft.open_card(key))
            self.show_room("recipe")
        else:
            self.show_room(kind)
            self.rooms[kind].choose(key)  # type: ignore[attr-defined]

    def show_bench(self, key: str) -> None:
        """Show an operation's bench."""
        self._last_bench = self.desk.bench = key
        if self.room != "recipe":
            self.show_room("recipe")
        self.pages.setCurrentWidget(self.benches[key])
        self.route.choose(key)

    def take_part(self, file: Path) -> None:
        """Measure a part file for the open recipe."""
        if not self.desk.has_recipe:
            self.desk.messages.error(f"{file.name}: open or begin a recipe first; its part is kept with it.")
            return
        self.show_bench("plate")
        bench = self.benches["plate"]
        assert hasattr(bench, "take_part")
        bench.take_part(file)

    def take_job(self, file: Path) -> None:
        """Read a job file for the open recipe."""
        if not self.desk.has_recipe:
            self.desk.messages.error(f"{file.name}: open or begin a recipe first; a job file is bound to one.")
            return
        self.show_bench("run")
        bench = self.benches["run"]
        assert hasattr(bench, "take")
        self.desk.run(lambda: bench.take(file))

    @property
    def takes_curves(self) -> bool:
        """Whether the page on which curves of specimens are kept is shown."""
        return self.room == "recipe" and getattr(self.pages.currentWidget(), "is_pulling", False)

    def take_evidence(self, file: Path) -> None:
        """Take a curve or a recording in as evidence for the open recipe."""
        if not self.desk.has_recipe:
            self.desk.messages.error(f"{file.name}: open a recipe first; it is evidence for one.")
            return
        self.show_bench("proof")
        bench = self.benches["proof"]
        assert hasattr(bench, "take")
        self.desk.run(lambda: bench.take(file))

    def take_log(self, file: Path) -> None:
        """Read a logger's file where it belongs: with the run or oven load that is shown, else with the machine."""
        room, records = self.rooms.get(self.room), self.desk.workspace.draft.records
        if room is not None and room.takes_log:
            take = room.take_log
            self.desk.run(lambda: take(file))
            return
        machine = records.card.machine if self.desk.has_recipe else None
        machine = machine or next(iter(records.machines), None)
        if machine is None:
            self.desk.messages.error(f"{file.name}: make the machine first that this log was taken on.")
            return
        self.show_room("machines")
        room = self.rooms["machines"]
        assert hasattr(room, "take_log_of")
        self.desk.run(lambda: room.take_log_of(machine, file))

    def show_operation(self, number: int) -> None:
        """Show an operation by its number."""
        self.show_bench(BY_NUMBER[number].key)

    @functools.cached_property
    def revisions(self) -> "RevisionsPage":
        """The page of saved states, made on first use."""
        from kaustos.ui.rooms.revisions import RevisionsPage

        page = RevisionsPage(self.desk, lambda: self.show_bench(self._last_bench))
        self.pages.addWidget(page)
        return page

    def show_revisions(self) -> None:
        """Show the saved states."""
        if self.room != "recipe":
            self.show_room("recipe")
        self.revisions.refresh()
        self.pages.setCurrentWidget(self.revisions)
        self.route.choose("")

    def show_field(self, path: str) -> bool:
        """Lead to a field: on the ladder where it has a mark, else on its bench; False where it stands on neither."""
        if self.room != "recipe":
            self.show_room("recipe")
        if path in self.ladder.boxes:
            if path not in self.ladder.view.marks:
                self.ladder.boxes[path].edit.setFocus()
            return True
        for key in BENCHES:
            if self.benches[key].show_field(path):
                self.show_bench(key)
                return True
        return False

    def go_to(self, path: str) -> None:
        """Set the focus into what takes the answer of a question, in the room of the record where no bench has it."""
        if path in self.ladder.boxes:
            self.show_field(path)
            self.ladder.boxes[path].edit.setFocus()
        elif not self.head.show_field(path) and (path in OF_KIND or not self.show_field(path)):
            self._go_into_room(path)
        self.desk.led.emit(path)

    def _go_into_room(self, path: str) -> None:
        try:
            place = asked_place(path, self.desk.workspace.draft.records)
        except KaustosError as error:  # nothing of the kind is chosen for the recipe
            self.desk.messages.error(str(error))
            return
        if place.kind not in ROOM_OF:
            self.desk.messages.error(f"{self.desk.wording.field(path)} has no field in this window.")
            return
        self.show_room(ROOM_OF[place.kind])
        self.rooms[ROOM_OF[place.kind]].lead_to(place)

    def focus_commands(self) -> None:
        """Go to the command field."""
        self.head.command.setFocus()
        self.head.command.selectAll()

    def focus_ladder(self) -> None:
        """Go to the first mark of the ladder."""
        marks = self.ladder.view.marks
        if marks:
            marks[next(iter(marks))].setFocus(Qt.FocusReason.TabFocusReason)

    def explain(self) -> None:
        """Say what the thing under the cursor, else the focused one, is."""
        for start in (QApplication.widgetAt(QCursor.pos()), QApplication.focusWidget()):
            widget = start
            while widget is not None:
                if widget.whatsThis():
                    place = widget.mapToGlobal(widget.rect().bottomLeft())
                    QWhatsThis.showText(place, as_text(widget.whatsThis()), widget)
                    return
                widget = widget.parentWidget()
        self.desk.messages.note("Point at a field, a finding or the ladder and press F1.")

    # ---- revisions

    def revision_words(self) -> str:
        """Which revision the draft stands on."""
        from kaustos.app.giving import revision_words

        return revision_words(self.desk.workspace)

    def save_revision(self) -> None:
        """Ask why, then keep the state."""
        self.finish_typing()
        self.saving.ask(self.desk.settings.who)

    def _keep_revision(self, why: str) -> None:
        def keep() -> None:
            revision = self.desk.workspace.save_revision(why)
            self.desk.messages.note(f"Revision {revision.number} is kept.")
            self.desk.announce()

        self.desk.run(keep)

    # ---- dropped files

    @guarded()
    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    @guarded()
    def dropEvent(self, event: QDropEvent) -> None:
        self.files.take_dropped(event.mimeData())

    # ---- settings and the end

    def change_setting(self, name: str, value: str) -> None:
        """Put another value of a setting in force and keep it."""

        def change() -> None:
            self.desk.use(**{name: value})
            if self._settings_file:
                save_settings(self._settings_file, self.desk.settings)

        self.desk.run(change)
        if name == "theme":
            self._repaint()

    def toggle_theme(self) -> None:
        """Switch between light and dark."""
        self.change_setting("theme", "dark" if self.desk.settings.theme == "light" else "light")

    def _repaint(self) -> None:
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        apply_theme(app, self.desk.settings.theme)
        for widget in self.findChildren(QWidget):
            QWidget.update(widget)  # views have an update of their own that wants an index

    def about(self) -> None:
        """Version and licences."""
        self.desk.messages.note(
            f"Kaustos {__version__}, MIT licence. Qt for Python is used under the LGPL 3; the Inter fonts under the "
            "SIL Open Font License 1.1 (text beside the fonts); NumPy, SciPy, attrs, SQLAlchemy, Alembic, "
            "Jinja2, WeasyPrint, pypdfium2, platformdirs and Typer under their own free licences."
        )

    @guarded(refuse=True)
    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._is_closed and not self.let_go():
            event.ignore()
            return
        super().closeEvent(event)

    def let_go(self, *, discard: bool = False) -> bool:
        """Save and let go of everything; where that fails the window stays and asks."""
        self.finish_typing()
        fault = self.desk.close(discard=discard)
        if fault:
            self.message.hide()  # it says the same
            self.closing.ask(fault, is_displaced=self.desk.workspace.is_displaced)
            return False
        self.files.remember()
        self.devices.stop()
        if "runs" in self.rooms:
            self.rooms["runs"].readings.stop()  # type: ignore[attr-defined]
        if "stock" in self.rooms:
            self.rooms["stock"].ovens.stop()  # type: ignore[attr-defined]
        for card in self.cards.values():
            card.close()
        self._is_closed = True
        if discard:
            self.close()
        return True

    def _anew_and_close(self) -> None:
        def anew() -> None:
            self.files.write_anew()
            self.close()

        self.desk.run(anew)

    def _copy_and_close(self) -> None:
        def copy() -> None:
            if self.files.save_copy():
                self.let_go(discard=True)

        self.desk.run(copy)
