"""All commands as data; menu, keys and the command field are made from this list."""

from collections.abc import Callable
from typing import Protocol

import attrs
from PySide6.QtGui import QAction

from kaustos.core.review import OPERATIONS
from kaustos.ui.desk import Desk
from kaustos.ui.devices import LiveDevices
from kaustos.ui.files import Files
from kaustos.ui.rooms.names import ROOMS


class Shell(Protocol):
    """What commands act on, and rooms are made with."""

    desk: Desk
    devices: LiveDevices
    room: str
    files: Files
    actions_by_id: dict[str, QAction]

    def perform(self, command: "Command") -> None: ...
    def actions_in_order(self) -> list[QAction | None]: ...
    def revision_words(self) -> str: ...
    def save_revision(self) -> None: ...
    def show_revisions(self) -> None: ...
    def undo(self) -> None: ...
    def redo(self) -> None: ...
    def next_finding(self) -> None: ...
    def previous_finding(self) -> None: ...
    def apply_remedy(self, number: int) -> None: ...
    def focus_commands(self) -> None: ...
    def focus_ladder(self) -> None: ...
    def show_operation(self, number: int) -> None: ...
    def explain(self) -> None: ...
    def toggle_theme(self) -> None: ...
    def show_room(self, key: str) -> None: ...
    def show_bench(self, key: str) -> None: ...
    def change_setting(self, name: str, value: str) -> None: ...
    def show_thing(self, kind: str, key: str) -> None: ...
    def start_run(self) -> None: ...
    def show_run_card(self) -> None: ...
    def log_run(self) -> None: ...
    def begin(self, kind: str) -> None: ...
    def copy_recipe(self) -> None: ...
    def about(self) -> None: ...
    def close(self) -> bool: ...


@attrs.frozen
class Command:
    """One thing the user can do."""

    id: str
    title: str
    help: str
    keys: str
    run: Callable[[Shell], object]
    group: str
    short: str = ""


def _remedy(number: int) -> Callable[[Shell], object]:
    return lambda shell: shell.apply_remedy(number)


def _operation(number: int) -> Callable[[Shell], object]:
    return lambda shell: shell.show_operation(number)


def _room(key: str) -> Callable[[Shell], object]:
    return lambda shell: shell.show_room(key)


_KEYS = {room.key: f"Ctrl+{room.number}" if room.number else "" for room in ROOMS} | {
    "recipes": "Ctrl+Shift+R", "workspaces": "Ctrl+Shift+O", "settings": "Ctrl+,",
}  # fmt: skip
COMMANDS = (
    Command("revision.save", "Save revision", "Keep this state with who and why.", "Ctrl+S",
            lambda shell: shell.save_revision(), "recipe"),
    Command("revision.list", "Revisions", "All saved states and what differs between them.", "Ctrl+R",
            lambda shell: shell.show_revisions(), "recipe"),
    Command("sheet.make", "Make sheet", "Write the recipe's sheet as PDF or HTML.", "Ctrl+P",
            lambda shell: shell.files.make_sheet(), "recipe", "Sheet"),
    Command("sheet.appendix", "Make sheet with appendix", "The sheet with pictures, every figure and its source.", "",
            lambda shell: shell.files.make_sheet(appendix=True), "recipe"),
    Command("sheet.print", "Print sheet", "Print the sheet by the usual dialog.", "Ctrl+Shift+P",
            lambda shell: shell.files.print_sheet(), "recipe"),
    Command("run.start", "Start a run", "Keep the state as a revision and log a run of it.", "Ctrl+G",
            lambda shell: shell.start_run(), "recipe", "Start run"),
    Command("run.card", "Run card", "The run at its machine: one step at a time, by number keys.", "Ctrl+Shift+G",
            lambda shell: shell.show_run_card(), "recipe"),
    Command("run.log", "Log the run", "What is entered in the form of the chosen run goes into the log.", "Ctrl+Return",
            lambda shell: shell.log_run(), "recipe"),
    Command("recipe.new", "New recipe", "Name it, choose polymer and machine.", "Ctrl+N",
            lambda shell: shell.begin("recipes"), "recipe"),
    Command("recipe.copy", "Copy recipe", "A second recipe that starts from this one.", "Ctrl+D",
            lambda shell: shell.copy_recipe(), "recipe"),
    Command("recipe.propose", "Setpoints to start from", "See what the windows propose, and enter it.", "Ctrl+B",
            lambda shell: shell.show_room("proposals"), "recipe"),
    Command("machine.new", "New machine", "A short form: heaters and limits, the rest unknown.", "Ctrl+M",
            lambda shell: shell.begin("machines"), "recipe"),
    Command("recipe.take_in", "Take in a file", "Add a recipe from a JSON file, or recipes or runs from a table.",
            "Ctrl+O", lambda shell: shell.files.open_recipe_file(), "recipe"),
    Command("recipe.stop_taking_in", "Stop taking in", "Call off the table that is being read; nothing of it is kept.",
            "Ctrl+.", lambda shell: shell.files.stop_taking_in(), "recipe"),
    Command("recipe.export", "Write recipe file", "Write the open recipe as JSON.", "Ctrl+E",
            lambda shell: shell.files.export_recipe(), "recipe"),
    Command("tables.write", "Write tables", "All recipes, runs and lots as CSV files.", "Ctrl+Shift+E",
            lambda shell: shell.files.export_tables(), "recipe"),
    Command("workspace.anew", "Write the workspace anew",
            "Put what is open under its name again, after the file was deleted, moved or replaced.", "",
            lambda shell: shell.files.write_anew(), "recipe"),
    Command("edit.undo", "Undo", "Take the last edit back.", "Ctrl+Z", lambda shell: shell.undo(), "edit"),
    Command("edit.redo", "Redo", "Do again what was taken back.", "Ctrl+Shift+Z", lambda shell: shell.redo(), "edit"),
    Command("finding.next", "Next finding", "Choose the next finding.", "Alt+Down",
            lambda shell: shell.next_finding(), "findings"),
    Command("finding.previous", "Previous finding", "Choose the finding before.", "Alt+Up",
            lambda shell: shell.previous_finding(), "findings"),
    *(
        Command(f"finding.remedy_{number}", f"Apply remedy {number}", "Apply this remedy of the chosen finding.",
                f"Alt+{number}", _remedy(number - 1), "findings")
        for number in range(1, 6)
    ),
    *(
        Command(f"go.{each.key}", f"Go to {each.number} {each.short}", f"Show the bench of {each.title.lower()}.",
                f"Ctrl+F{place}", _operation(each.number), "go")
        for place, each in enumerate(OPERATIONS, start=1)
    ),
    *(
        Command(f"room.{room.key}", f"Room: {room.title}", f"Show {room.title.lower()}.", _KEYS[room.key],
                _room(room.key), "rooms")
        for room in ROOMS
    ),
    Command("go.ladder", "Go to the heat ladder", "Focus the first mark; Tab goes on.", "Ctrl+L",
            lambda shell: shell.focus_ladder(), "go"),
    Command("go.commands", "Find anything", "Type a part of the name of a command, recipe, machine, run, polymer.",
            "Ctrl+K",
            lambda shell: shell.focus_commands(), "go"),
    Command("help.explain", "Explain", "Say what the thing under the cursor is.", "F1",
            lambda shell: shell.explain(), "help"),
    Command("view.theme", "Light or dark", "Switch the theme.", "Ctrl+T", lambda shell: shell.toggle_theme(), "help"),
    Command("app.report", "Save error report", "Version, system and log as a text to pass on.", "",
            lambda shell: shell.files.report_error(), "help"),
    Command("app.about", "About", "Version and licences.", "", lambda shell: shell.about(), "help"),
    Command("app.close", "Close", "Save and close the window.", "Ctrl+Q", lambda shell: shell.close(), "app"),
)  # fmt: skip
assert len({command.id for command in COMMANDS}) == len(COMMANDS), "a command id stands twice"
